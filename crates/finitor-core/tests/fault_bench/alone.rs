//! Faults of the hero alone, planted at the end of a take.

use crate::scene::*;
use crate::world::dice::Dice;
use crate::world::*;
use finitor_core::finding::Finding;
use finitor_core::stage::{Effect, Passes, Warp};
use finitor_core::{Facing, Rect, Vec2};

/// The fix is the game's to follow, and no take or stage shows it.
fn no_mend(_: &mut Scene, _: &Finding) {}

fn shift_landing(scene: &mut Scene, finding: &Finding) {
    scene.rows.last_mut().unwrap().1.0 += numbers(finding)[0] * at(finding).worst.push.x;
}

fn over_the_edge(scene: &mut Scene, finding: &Finding) {
    // Step up to (X, Y) and go on L px.
    let found = numbers(finding);
    last_places(scene).for_each(|at| *at = (found[0] + found[2], found[1]));
}

fn end_the_drop(scene: &mut Scene, finding: &Finding) {
    let lower = scene.stage.one_ways.iter().find(|platform| platform.name == "lower").unwrap().outline.bounds.y0;
    let by = numbers(finding)[0] as usize;
    for row in &mut scene.rows[by..] {
        (row.4, row.1.1) = ("", row.1.1.min(lower));
    }
}

fn thicken(scene: &mut Scene, finding: &Finding) {
    let old = scene.stage.zones.pop().unwrap();
    let Rect { x0, y0, y1, .. } = old.outline.bounds;
    scene.stage.zones.push(zone(&old.name, Rect::new(x0, y0, x0 + numbers(finding)[0], y1), old.effect));
}

pub fn embedded(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (x, deep) = (scene.plot(dice, 40.0, 30.0)? + 20.0, dice.hundredths(0.6, 5.0));
    scene.row((x, FLOOR), "stand", "warped");
    scene.row((x, FLOOR + deep), "stand", "");
    Some(Planted::new(scene, "yard/floor", deep, "moved", put_at_place))
}

pub fn tunnelled(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 40.0, 100.0)?;
    let (thick, x) = (dice.hundredths(2.0, 12.0), left + 20.0);
    let plank = Rect::new(left, FLOOR - 60.0, left + 40.0, FLOOR - 60.0 + thick);
    scene.stage.solids.push(solid("plank", plank));
    scene.row((x, plank.y0), "stand", "warped");
    let end = plank.y1 + 20.0 + dice.hundredths(0.0, 10.0);
    scene.row((x, end), "none", "");
    scene.rows.pop();
    scene.row((x, end), "stand", "");
    // The deepest on the way, by fine steps: out upwards, downwards or to a side.
    let deepest = (0..=100_000).map(|step| {
        let foot = plank.y0 + (end - plank.y0) * f64::from(step) / 100_000.0;
        let (down, up) = (plank.y1 - (foot - 20.0), foot - plank.y0);
        down.min(up).min(x + 4.0 - plank.x0).min(plank.x1 - (x - 6.0)).max(0.0)
    });
    let deepest = deepest.fold(0.0, f64::max);
    Some(Planted::new(scene, "yard/plank", deepest, "moved", put_at_place))
}

pub fn no_headroom(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 60.0, 40.0)?;
    let room = dice.hundredths(10.0, 19.0);
    scene.stage.solids.push(solid("roof", Rect::new(left, FLOOR - 40.0, left + 60.0, FLOOR - room)));
    scene.row((left + 30.0, FLOOR), "duck", "warped");
    scene.row((left + 30.0, FLOOR), "stand", "");
    Some(Planted::new(scene, "yard/roof", 20.0 - room, "reshaped", |scene, _| {
        scene.rows.last_mut().unwrap().3 = "duck"
    }))
}

pub fn warp_blocked(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (x, deep) = (scene.plot(dice, 40.0, 30.0)? + 20.0, dice.hundredths(0.6, 8.0));
    scene.row((x, FLOOR + deep), "stand", "warped");
    Some(Planted::new(scene, "yard/floor", deep, "warped", put_at_place))
}

pub fn warp_bounce(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 90.0, 40.0)?;
    let mut gate = |name: &str, x: f64, to: usize| {
        let mut gate = zone(name, Rect::new(x, FLOOR - 30.0, x + 16.0, FLOOR), Effect::Warp);
        gate.warp = Some(Warp { to, landing: Vec2::ZERO, facing: None, turns_velocity: false });
        scene.stage.zones.push(gate);
    };
    gate("here", left, 1);
    gate("there", left + 60.0, 0);
    let x = left + 60.0 + dice.hundredths(-2.0, 18.0);
    scene.row((x, FLOOR), "stand", "warped");
    // The body reaches 6 px behind and 4 ahead.
    let out = (x + 4.0 - (left + 60.0)).min(left + 76.0 - (x - 6.0));
    Some(Planted::new(scene, "yard/there", out, "warped", shift_landing))
}

pub fn flicker(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 120.0, 60.0)?;
    let (top, gap) = (FLOOR - 30.0, dice.hundredths(9.0, 14.0));
    scene.stage.solids.push(solid("near", Rect::new(left, top, left + 50.0, top + 6.0)));
    scene.stage.solids.push(solid("far", Rect::new(left + 50.0 + gap, top, left + 120.0, top + 6.0)));
    let (mut x, mut lost) = (left + 30.0, 0);
    scene.row((x, top), "stand", "warped");
    loop {
        x += WALK;
        scene.row((x, top), "stand", "");
        // The strip under the feet reaches 5 px behind and 3 ahead. Where places are written in tenths, nearer is no telling.
        if (x - 5.0 - (left + 50.0)).abs() < 0.2 || (x + 3.0 - (left + 50.0 + gap)).abs() < 0.2 {
            return None;
        }
        let stands = x - 5.0 < left + 50.0 - 1e-9 || x + 3.0 > left + 50.0 + gap + 1e-9;
        if !stands {
            lost += 1;
        } else if lost > 0 {
            break;
        }
        if x > left + 100.0 {
            return None;
        }
    }
    Some(Planted::new(scene, "yard", f64::from(lost), "moved", no_mend))
}

pub fn popped(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 80.0, 60.0)?;
    let high = dice.hundredths(5.0, 20.0);
    scene.stage.solids.push(solid("crate", Rect::new(left + 40.0, FLOOR - high, left + 80.0, FLOOR)));
    scene.row((left + 34.0, FLOOR), "stand", "warped");
    scene.row((left + 36.0, FLOOR), "stand", "");
    scene.row((left + 38.0, FLOOR - high), "stand", "");
    let step_up = |scene: &mut Scene, finding: &Finding| {
        scene.actors[0].moves.step = numbers(finding).last().copied();
    };
    Planted::new(scene, "yard", high, "moved", step_up).and_stays(scene, 1)
}

pub fn snagged(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 80.0, 40.0)?;
    let high = dice.hundredths(0.6, 4.0);
    scene.stage.solids.push(solid("kerb", Rect::new(left + 50.0, FLOOR - high, left + 80.0, FLOOR)));
    let mut x = left + 20.0;
    scene.row((x, FLOOR), "stand", "warped");
    while x < left + 46.0 {
        x = (x + WALK).min(left + 46.0);
        scene.row((x, FLOOR), "stand", "");
    }
    // The step that meets the edge may be a short one, and then it is the one that is stopped.
    let moved = |scene: &Scene, back: usize| {
        let last = scene.rows.len() - 1 - back;
        scene.rows[last].1.0 - scene.rows[last - 1].1.0
    };
    if moved(scene, 0) > WALK * 0.25 {
        scene.row((x, FLOOR), "stand", "");
    }
    Planted::new(scene, "yard/kerb", high, "moved", over_the_edge).and_stays(scene, 2)
}

pub fn drop_overrun(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 60.0, 140.0)?;
    let (top, apart) = (FLOOR - 110.0, dice.hundredths(28.0, 60.0));
    for (name, y) in [("upper", top), ("lower", top + apart)] {
        scene.stage.one_ways.push(one_way(name, Rect::new(left, y, left + 60.0, y + 4.0), Passes::Up));
    }
    let (x, mut y, mut fall) = (left + 30.0, top, 0.0);
    scene.row((x, y), "stand", "warped");
    while y <= top + apart {
        fall += 0.35;
        y += fall;
        scene.row((x, y), "stand", "drop");
    }
    Some(Planted::new(scene, "yard/lower", apart, "moved", end_the_drop))
}

pub fn zone_skipped(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 120.0, 60.0)?;
    let wide = dice.hundredths(1.0, 6.0);
    scene.stage.zones.push(zone(
        "wire",
        Rect::new(left + 60.0, FLOOR - 60.0, left + 60.0 + wide, FLOOR),
        Effect::Event,
    ));
    let (x, step) = (left + 60.0 - 4.0 - dice.hundredths(0.0, 2.0), 10.0 + wide + 4.5);
    scene.row((x, FLOOR), "stand", "warped");
    scene.row((x + step, FLOOR), "stand", "");
    // As deep as body and wire allow, whichever way out is nearer at the middle of the way.
    Some(Planted::new(scene, "yard/wire", (10.0 + wide) / 2.0, "moved", thicken))
}

pub fn hover(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    // The strip under the feet reaches 2 px down.
    let (x, high) = (scene.plot(dice, 40.0, 30.0)? + 20.0, dice.hundredths(1.05, 1.9));
    let first = scene.next();
    (0..11).for_each(|k| scene.row((x, FLOOR - high), "stand", if k == 0 { "warped" } else { "" }));
    let lower = |scene: &mut Scene, finding: &Finding| {
        let last = scene.rows.len() - 11;
        scene.rows[last..].iter_mut().for_each(|row| row.1.1 += numbers(finding)[1]);
    };
    let planted = Planted::new(scene, "yard", high, "warped", lower);
    Some(Planted { ticks: (first, first + 10), ..planted })
}

pub fn hover_by_frame(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (x, high) = (scene.plot(dice, 40.0, 30.0)? + 20.0, f64::from(dice.whole(2, 5)));
    scene.animation("tiptoe", vec![hero_drawn(&[Rect::new(-6.0, -20.0, 4.0, -high)], &[])]);
    scene.row((x, FLOOR), "stand", "warped");
    let first = scene.next();
    (0..11).for_each(|_| scene.row((x, FLOOR), "tiptoe", ""));
    let draw_lower = |scene: &mut Scene, finding: &Finding| {
        assert!(finding.fix.contains("up on tiptoe, to where the art ends"), "{}", finding.fix);
        let low = Rect::new(-6.0, -20.0, 4.0, 0.0);
        let at = scene.actors[0].find("tiptoe").unwrap();
        let redrawn = actor("hero", vec![("tiptoe", vec![hero_drawn(&[low], &[])])]);
        scene.actors[0].animations[at] = redrawn.animations[0].clone();
    };
    let planted = Planted::new(scene, "yard", high, "reshaped", draw_lower);
    Some(Planted { ticks: (first, first + 10), ..planted })
}

pub fn sunk_feet(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (x, deep) = (scene.plot(dice, 40.0, 30.0)? + 20.0, f64::from(dice.whole(2, 6)));
    scene.animation("sunk", vec![hero_drawn(&[Rect::new(-6.0, -20.0, 4.0, deep)], &[])]);
    let first = scene.next();
    (0..11).for_each(|k| scene.row((x, FLOOR), "sunk", if k == 0 { "warped" } else { "" }));
    let raise = |scene: &mut Scene, finding: &Finding| {
        let last = scene.rows.len() - 11;
        scene.rows[last..].iter_mut().for_each(|row| row.1.1 -= numbers(finding)[0]);
    };
    let planted = Planted::new(scene, "yard", deep, "warped", raise);
    Some(Planted { ticks: (first, first + 10), ..planted })
}

pub fn off_stage(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    scene.stage.solids.retain(|solid| solid.name != "right");
    let (mut x, step) = (395.0, dice.hundredths(3.0, 40.0));
    scene.row((x, 40.0), "stand", "warped");
    while x - 6.0 <= 400.0 {
        x += step;
        scene.row((x, 40.0), "stand", "");
    }
    let catch = |scene: &mut Scene, finding: &Finding| {
        let [from, to, thick] = numbers(finding)[..] else { panic!("{}", finding.fix) };
        scene.stage.zones.push(zone("pit", Rect::new(400.0, from, 400.0 + thick, to), Effect::Hazard));
    };
    Some(Planted::new(scene, "yard", x - 406.0, "moved", catch))
}

/// A board 60 px over the floor.
fn board(scene: &mut Scene, dice: &mut Dice) -> Option<Rect> {
    let left = scene.plot(dice, 60.0, 100.0)?;
    let board = Rect::new(left, FLOOR - 60.0, left + 60.0, FLOOR - 54.0);
    scene.stage.one_ways.push(one_way("board", board, Passes::Up));
    Some(board)
}

pub fn stopped_rising(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let board = board(scene, dice)?;
    let (x, speed) = (board.center().x, dice.hundredths(3.0, 7.0));
    let gap = dice.hundredths(0.6, speed - 1.1);
    let from = board.y1 + 20.0 + gap;
    scene.row((x, from + speed), "stand", "warped");
    scene.row((x, from), "stand", "");
    scene.row((x, from - gap), "stand", "");
    let pass = |scene: &mut Scene, finding: &Finding| {
        scene.rows.iter_mut().rev().take(2).for_each(|row| row.1.1 -= finding.figure);
    };
    let planted = Planted::new(scene, "yard/board", speed - gap, "moved", pass);
    // From there it falls.
    scene.row((x, from - gap + 0.4), "stand", "");
    Some(planted)
}

pub fn lifted(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let board = board(scene, dice)?;
    let (x, below) = (board.center().x, dice.hundredths(1.5, 5.0));
    let speed = dice.hundredths(0.0, below - 1.1);
    scene.row((x, board.y0 + below + speed), "stand", "warped");
    scene.row((x, board.y0 + below), "stand", "");
    scene.row((x, board.y0), "stand", "");
    Planted::new(scene, "yard/board", below, "moved", put_at_place).and_stays(scene, 1)
}

pub fn dropped_into(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let board = board(scene, dice)?;
    let (deep, mut y, mut fall) = (dice.hundredths(0.6, 5.0), board.y0, 0.0);
    let x = board.center().x;
    scene.row((x, y), "stand", "warped");
    while y < FLOOR + deep {
        fall += 0.35;
        y = (y + fall).min(FLOOR + deep);
        scene.row((x, y), "stand", "drop");
    }
    // The step before must end clear of the floor.
    if scene.rows[scene.rows.len() - 2].1.1 > FLOOR {
        return None;
    }
    let stop = |scene: &mut Scene, finding: &Finding| {
        assert!(finding.message.contains("its drop through board still on"), "{}", finding.message);
        let by = numbers(finding)[0] as usize;
        scene.rows[by..].iter_mut().for_each(|row| row.4 = "");
        put_at_place(scene, finding);
    };
    Some(Planted::new(scene, "yard/floor", deep, "moved", stop))
}

/// A wall on a plot of its own.
fn wall(scene: &mut Scene, dice: &mut Dice) -> Option<Rect> {
    let left = scene.plot(dice, 70.0, 50.0)? + 40.0;
    Some(scene.wall(left))
}

pub fn art_in_wall(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let wall = wall(scene, dice)?;
    let (wide, apart) = (f64::from(dice.whole(6, 14)), dice.hundredths(0.0, 2.0));
    let pose = hero_drawn(&[Rect::new(-6.0, -20.0, 4.0 + wide, 0.0)], &[]);
    let place = (wall.x0 - 4.0 - apart, FLOOR);
    let inside: f64 = pixels(&pose, place).iter().map(|pixel| pixel.intersect(wall).area()).sum();
    scene.animation("wide", vec![pose]);
    scene.row(place, "wide", "warped");
    let keep_off = |scene: &mut Scene, finding: &Finding| {
        scene.rows.last_mut().unwrap().1.0 += numbers(finding)[0] * at(finding).worst.push.x;
    };
    Some(Planted::new(scene, "yard/wall", inside, "warped", keep_off))
}

pub fn turned(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let wall = wall(scene, dice)?;
    let apart = dice.hundredths(0.0, 1.4);
    let at = (wall.x0 - 4.0 - apart, FLOOR);
    scene.row(at, "stand", "warped");
    scene.rows.push(Row(scene.next(), at, Facing::Left, "stand", ""));
    // 4 px ahead, 6 behind.
    Some(Planted::new(scene, "yard/wall", 2.0 - apart, "turned", put_at_place))
}

pub fn state(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let wall = wall(scene, dice)?;
    let deep = dice.hundredths(0.6, 5.0);
    let at = (wall.x0 - 4.0 + deep, FLOOR);
    scene.row(at, "stand", "warped ghost");
    scene.row(at, "stand", "");
    Some(Planted::new(scene, "yard/wall", deep, "state", put_at_place))
}

pub fn facing_split(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let x = scene.plot(dice, 40.0, 30.0)? + 20.0;
    scene.row((x, FLOOR), "stand", "warped");
    scene.row((x, FLOOR), "stand", "");
    scene.flipped.push(scene.next() - 1);
    Some(Planted::new(scene, "its picture", 2.0, "turned", |scene, _| scene.flipped.clear()))
}

pub fn joint(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 120.0, 60.0)?;
    let (top, middle) = (FLOOR - 30.0, left + dice.hundredths(40.0, 60.0));
    scene.stage.solids.push(solid("near", Rect::new(left, top, middle, top + 6.0)));
    scene.stage.solids.push(solid("far", Rect::new(middle, top, left + 120.0, top + 6.0)));
    let (mut x, mut moved) = (left + 20.0, 0.0);
    scene.row((x, top), "stand", "warped");
    while x + 4.0 < middle {
        moved = WALK.min(middle - 4.0 - x);
        x += moved;
        scene.row((x, top), "stand", "");
    }
    let arrived = moved;
    // The step that gets there may be a short one, and then it is the one that is stopped.
    if moved > WALK * 0.25 {
        moved = 0.0;
        scene.row((x, top), "stand", "");
    }
    let stopped = scene.next() - 1;
    scene.row((x + WALK, top), "stand", "");
    // A whole step that happens to end there is as good as a key let go.
    if (arrived - WALK).abs() < 0.02 || arrived <= 1e-9 {
        return None;
    }
    let merge = |scene: &mut Scene, _: &Finding| {
        let far = scene.stage.solids.pop().unwrap().outline.bounds;
        let near = scene.stage.solids.pop().unwrap().outline.bounds;
        scene.stage.solids.push(solid("floor_over", near.union(far)));
    };
    let planted = Planted::new(scene, "yard/far", WALK - moved, "moved", merge);
    Some(Planted { ticks: (stopped, stopped), ..planted })
}
