//! The two takes: the keeper crosses the pier without a fault, and a row of scenes with a fault planted in each.
//!
//! The keeper moves like a simple platform hero: constant walking speed, gravity on jumps, feet on the surface. Its
//! numbers are those of the sample's stage and of the body that `finitor fit` gives the keeper: a capsule from 9 px
//! behind the pivot to 8 px ahead of it.

mod recorder;
mod scenes;

use recorder::{Recorder, Who};

pub use scenes::faults_take;

/// Radius of the keeper's body.
const RADIUS: f64 = 8.5;
/// Where its axis lies, ahead of the pivot.
const AXIS: f64 = -0.5;
/// Gravity, px a tick per tick; and the speed of a jump.
const GRAVITY: f64 = 0.35;
const JUMP: f64 = -6.6;
const WALK: f64 = 1.5;
const CRAWL: f64 = 0.75;

/// Where the keeper's pivot is when it stands on the pier with its body's axis at x: the capsule touches the highest
/// of quay, ramp, the ramp's crest and terrace.
fn ground(x: f64) -> f64 {
    const QUAY: f64 = 200.0;
    const TERRACE: f64 = 170.0;
    const CREST: f64 = 240.0;
    // The ramp rises 1 px in 2.
    let cosine = 2.0 / 5.0_f64.sqrt();
    let sine = 1.0 / 5.0_f64.sqrt();
    if x >= CREST {
        TERRACE
    } else if x > CREST - RADIUS * sine {
        let across = CREST - x;
        TERRACE + RADIUS - (RADIUS * RADIUS - across * across).sqrt()
    } else {
        let ramp = QUAY - (x - 180.0) / 2.0 - RADIUS * (1.0 / cosine - 1.0);
        ramp.min(QUAY)
    }
}

/// The keeper under a script.
struct Keeper {
    x: f64,
    y: f64,
    right: bool,
    clock: usize,
}

impl Keeper {
    fn way(&self) -> f64 {
        if self.right { 1.0 } else { -1.0 }
    }

    fn record(&mut self, recorder: &mut Recorder, (animation, frames, length): (&str, usize, usize), states: &str) {
        let frame = self.clock / length % frames;
        recorder.add(Who { label: "keeper", at: (self.x, self.y), right: self.right }, animation, frame, states);
        self.clock += 1;
    }

    fn stand(&mut self, recorder: &mut Recorder, ticks: usize) {
        self.clock = 0;
        for _ in 0..ticks {
            self.record(recorder, ("idle", 4, 12), "");
            recorder.next();
        }
    }

    fn turn(&mut self) {
        self.right = !self.right;
    }

    /// Walks to x on the surface given.
    fn walk(&mut self, recorder: &mut Recorder, to: f64, surface: impl Fn(f64) -> f64) {
        self.go(recorder, to, WALK, ("walk", 6, 6), surface);
    }

    fn crawl(&mut self, recorder: &mut Recorder, to: f64) {
        self.go(recorder, to, CRAWL, ("crouch", 2, 10), |_| 170.0);
    }

    fn go(
        &mut self,
        recorder: &mut Recorder,
        to: f64,
        speed: f64,
        animation: (&str, usize, usize),
        surface: impl Fn(f64) -> f64,
    ) {
        self.clock = 0;
        while (to - self.x) * self.way() > 0.0 {
            let step = speed.min((to - self.x).abs());
            self.x += step * self.way();
            self.y = surface(self.x + AXIS * self.way());
            self.record(recorder, animation, "");
            recorder.next();
        }
    }

    /// Flies from a vertical speed until it comes down on a height, moving on at `across` px a tick.
    fn fly(&mut self, recorder: &mut Recorder, mut speed: f64, across: f64, land: f64, drop_for: usize) {
        let mut flown = 0;
        loop {
            speed += GRAVITY;
            self.x += across * self.way();
            self.y += speed;
            let down = speed > 0.0 && self.y >= land;
            if down {
                self.y = land;
            }
            let animation = if speed < 0.0 { "rise" } else { "fall" };
            self.record(recorder, (animation, 1, 1), if flown < drop_for { "drop" } else { "" });
            recorder.next();
            flown += 1;
            if down {
                return;
            }
        }
    }

    fn swing(&mut self, recorder: &mut Recorder) {
        for (frame, length) in [6, 4, 3, 5, 6].into_iter().enumerate() {
            for _ in 0..length {
                let who = Who { label: "keeper", at: (self.x, self.y), right: self.right };
                recorder.add(who, "swing", frame, "");
                recorder.next();
            }
        }
    }
}

/// The gull's round over the water, by tick.
fn gull(tick: u64, recorder: &mut Recorder) {
    let round = tick % 360;
    // Out to the left for half of it, back for the other half.
    let (away, right) = if round < 180 { (round as f64, false) } else { ((360 - round) as f64, true) };
    let x = 590.0 - away * 0.75;
    let dip = (tick as f64 / 40.0).sin() * 12.0;
    let who = Who { label: "gull", at: (x, 50.0 + dip), right };
    let (animation, frame) =
        if (150..170).contains(&round) { ("dive", round / 5 % 2) } else { ("glide", round / 8 % 4) };
    recorder.add(who, animation, frame as usize, "");
}

/// A take without a fault: over the barrel, up the ramp, under the boathouse, onto the jetty, down through it onto the
/// rock, up through it again, and back.
pub fn clean_take() -> String {
    let mut recorder = Recorder::new(|tick, recorder| {
        recorder.add(Who { label: "barrel", at: (130.0, 200.0), right: true }, "stand", 0, "");
        gull(tick, recorder);
    });
    let mut keeper = Keeper { x: 60.0, y: 200.0, right: true, clock: 0 };
    keeper.stand(&mut recorder, 24);
    keeper.walk(&mut recorder, 90.0, ground);
    keeper.fly(&mut recorder, JUMP, 1.9, 200.0, 0);
    keeper.walk(&mut recorder, 270.0, ground);
    keeper.crawl(&mut recorder, 352.5);
    keeper.walk(&mut recorder, 430.0, |_| 170.0);
    keeper.stand(&mut recorder, 30);
    keeper.fly(&mut recorder, 0.0, 0.0, 224.0, 6);
    keeper.stand(&mut recorder, 20);
    keeper.fly(&mut recorder, JUMP, 0.0, 170.0, 0);
    keeper.swing(&mut recorder);
    keeper.turn();
    keeper.stand(&mut recorder, 12);
    keeper.walk(&mut recorder, 360.0, |_| 170.0);
    keeper.crawl(&mut recorder, 270.0);
    keeper.walk(&mut recorder, 170.0, ground);
    keeper.swing(&mut recorder);
    keeper.turn();
    keeper.stand(&mut recorder, 24);
    recorder.finish()
}
