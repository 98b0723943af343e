//! The faults: short scenes with ticks left out between them, a fault planted in each.

use super::recorder::{Recorder, Who};

/// A frame and where it looks.
#[derive(Clone, Copy)]
struct Pose {
    right: bool,
    animation: &'static str,
    frame: usize,
}

fn right(animation: &'static str, frame: usize) -> Pose {
    Pose { right: true, animation, frame }
}

fn left(animation: &'static str, frame: usize) -> Pose {
    Pose { right: false, animation, frame }
}

/// One actor's row: place and pose.
type Row = ((f64, f64), Pose);

/// Records a scene of one actor from a tick on; its first tick is marked as a warp.
fn scene(recorder: &mut Recorder, start: u64, label: &'static str, rows: &[Row]) {
    recorder.skip_to(start);
    for (index, &(at, Pose { right, animation, frame })) in rows.iter().enumerate() {
        let states = if index == 0 { "warped" } else { "" };
        recorder.add(Who { label, at, right }, animation, frame, states);
        recorder.next();
    }
}

/// `count` rows from a place on, `step` px apart.
fn run(from: (f64, f64), step: (f64, f64), count: usize, pose: Pose) -> Vec<Row> {
    let at = |i: usize| (from.0 + step.0 * i as f64, from.1 + step.1 * i as f64);
    (0..count).map(|i| (at(i), pose)).collect()
}

/// The keeper crouching on the quay, facing left.
fn split(recorder: &mut Recorder, tick: u64) {
    recorder.skip_to(tick);
    recorder.add(Who { label: "keeper", at: (60.0, 200.0), right: false }, "crouch", 0, "");
    recorder.next();
}

/// A take with a fault in every scene.
pub fn faults_take() -> String {
    let mut recorder = Recorder::new(|_, recorder| {
        recorder.add(Who { label: "barrel", at: (130.0, 200.0), right: true }, "stand", 0, "");
    });
    let still = (0.0, 0.0);

    // Turned at the sea wall: 8 px ahead just fit, 9 px behind do not. Ticks 16 to 20, 1 px.
    let mut rows = run((42.0, 200.0), (-1.5, 0.0), 13, left("walk", 1));
    rows.extend(run((24.0, 200.0), still, 3, left("idle", 0)));
    rows.extend(run((24.0, 200.0), still, 5, right("idle", 0)));
    rows.extend(run((25.5, 200.0), (1.5, 0.0), 4, right("walk", 2)));
    scene(&mut recorder, 0, "keeper", &rows);

    // Walked into the barrel. Ticks 68 to 71, 2.5 px.
    let mut rows = run((103.0, 200.0), (1.0, 0.0), 8, right("walk", 1));
    rows.extend(run((113.5, 200.0), still, 4, right("idle", 0)));
    rows.extend(run((110.0, 200.0), still, 3, right("idle", 1)));
    scene(&mut recorder, 60, "keeper", &rows);

    // Stood up in the crawl, 26 px high. Ticks 126 to 131, 38.3125 - 26 px.
    let mut rows = run((308.5, 170.0), (0.75, 0.0), 6, right("crouch", 0));
    rows.extend(run((312.25, 170.0), still, 6, right("idle", 0)));
    rows.extend(run((312.25, 170.0), still, 4, right("crouch", 1)));
    scene(&mut recorder, 120, "keeper", &rows);

    // Fell through the gangplank, 4 px thick, at 48 px a tick, into the tide. Tick 184, half of 38.3125 + 4 px.
    scene(&mut recorder, 180, "keeper", &run((590.0, 21.0), (0.0, 48.0), 6, right("fall", 0)));

    // Dashed past the bell, 4 px wide, at 26 px a tick. Tick 242, half of 17 + 4 px.
    let mut rows = run((530.0, 170.0), (9.0, 0.0), 2, right("walk", 1));
    rows.extend(run((565.0 + 9.0, 170.0), (9.0, 0.0), 3, right("walk", 2)));
    rows[1].0.0 = 548.0;
    scene(&mut recorder, 240, "keeper", &rows);

    // Rose from the rock and was stopped by the jetty's underside. Tick 302, 6.6 - 3.0875 px.
    let mut rows = vec![((430.0, 224.0), right("idle", 0))];
    rows.extend([217.4, 214.3125, 214.6625, 215.3625, 216.4125, 217.8125].map(|y| ((430.0, y), right("rise", 0))));
    rows.extend([219.5625, 221.6625, 224.0].map(|y| ((430.0, y), right("fall", 0))));
    scene(&mut recorder, 300, "keeper", &rows);

    // Slowed down half way through the jetty and was put on top of it. Tick 364, 6 px.
    let mut rows: Vec<Row> = [186.0, 182.0, 178.5, 176.0].map(|y| ((440.0, y), right("rise", 0))).to_vec();
    rows.extend(run((440.0, 170.0), still, 4, right("idle", 0)));
    scene(&mut recorder, 360, "keeper", &rows);

    // Came down on the jetty and sank into it. Ticks 424 to 427, 2 px.
    let mut rows: Vec<Row> = [158.0, 162.0, 166.0, 169.0].map(|y| ((460.0, y), right("fall", 0))).to_vec();
    rows.extend(run((460.0, 172.0), still, 4, right("idle", 0)));
    rows.extend(run((460.0, 170.0), still, 4, right("idle", 1)));
    scene(&mut recorder, 420, "keeper", &rows);

    // Stood on the quay, too high. Ticks 480 to 489, 1.5 px.
    let mut rows = run((80.0, 198.5), still, 10, right("idle", 0));
    rows.extend(run((80.0, 200.0), still, 4, right("idle", 1)));
    scene(&mut recorder, 480, "keeper", &rows);

    // Was put into the terrace. Ticks 540 to 542, 4 px.
    let mut rows = run((262.0, 174.0), still, 3, right("idle", 0));
    rows.extend(run((262.0, 170.0), still, 3, right("idle", 1)));
    scene(&mut recorder, 540, "keeper", &rows);

    // The gull glided out to the right. Ticks 606 to 610, 20 px at the end.
    scene(&mut recorder, 600, "gull", &run((632.0, 60.0), (4.0, 0.0), 11, right("glide", 1)));

    // Turned on the quay, and its picture followed three ticks late. Ticks 664 to 666; the box of the crouch reaches 9 px
    // ahead and 6 px behind, so do the sides lie apart.
    scene(&mut recorder, 660, "keeper", &run((60.0, 200.0), still, 4, right("crouch", 0)));
    recorder.picture = Some(true);
    for tick in 664..667 {
        split(&mut recorder, tick);
    }
    recorder.picture = None;
    for tick in 667..670 {
        split(&mut recorder, tick);
    }

    // The gull flew into the keeper, and neither mask asks for that. Ticks 720 to 723, 3 px.
    for tick in 720..724 {
        recorder.skip_to(tick);
        let states = if tick == 720 { "warped" } else { "" };
        recorder.add(Who { label: "keeper", at: (60.0, 200.0), right: true }, "idle", 0, states);
        recorder.add(Who { label: "gull", at: (77.0, 180.0), right: true }, "glide", 0, states);
        recorder.next();
    }

    // Struck the gull, which was knocked back, flew on and was struck again by the same swing. Tick 784, 3 ticks apart.
    let swing =
        [(1, 84.0, 188.0), (2, 84.0, 188.0), (2, 104.0, 176.0), (2, 104.0, 176.0), (3, 84.0, 188.0), (4, 84.0, 188.0)];
    recorder.skip_to(780);
    for (frame, x, y) in swing {
        let states = if frame == 1 { "warped" } else { "" };
        recorder.add(Who { label: "keeper", at: (60.0, 200.0), right: true }, "swing", frame, states);
        recorder.add(Who { label: "gull", at: (x, y), right: true }, "glide", 1, states);
        recorder.next();
    }

    // Walked left over the terrace and was stopped where the ramp begins, level with it. Tick 846, 1.5 px lost.
    let mut rows = run((254.7, 170.0), (-1.5, 0.0), 5, left("walk", 1));
    rows.extend(run((248.0, 170.0), still, 3, left("walk", 2)));
    rows.extend(run((246.5, 170.0), (-1.5, 0.0), 3, left("walk", 3)));
    scene(&mut recorder, 840, "keeper", &rows);

    // Went into the low culvert and was put into the high one, not beside it, and stayed until that takes it again: its
    // cooldown of 12 ticks ends at tick 919. 16 px to the left, where the zone begins, it would be out.
    scene(&mut recorder, 900, "keeper", &run((424.0, 224.0), (1.5, 0.0), 7, right("walk", 1)));
    recorder.add(Who { label: "keeper", at: (612.0, 170.0), right: true }, "idle", 0, "warped");
    recorder.next();
    for _ in 0..13 {
        recorder.add(Who { label: "keeper", at: (612.0, 170.0), right: true }, "idle", 0, "");
        recorder.next();
    }

    recorder.finish()
}
