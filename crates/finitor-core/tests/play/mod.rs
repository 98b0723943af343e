//! A simple platform hero under keys: moved axis by axis and stopped exactly at what it meets.
#![allow(
    dead_code,
    unreachable_pub,
    clippy::unwrap_used,
    reason = "each test file uses a part; a test fails by panicking"
)]

use super::world::Row;
use finitor_core::stage::{OneWay, Solid, Stage};
use finitor_core::{Facing, Rect};

/// The hero of the test: the same body as [`hero`], facing right all the time.
pub struct Mover<'s> {
    stage: &'s Stage,
    at: (f64, f64),
    fall: f64,
    dropping: u32,
}

impl Mover<'_> {
    fn body(&self) -> Rect {
        Rect::new(self.at.0 - 6.0, self.at.1 - 20.0, self.at.0 + 4.0, self.at.1)
    }

    fn solids(&self) -> impl Iterator<Item = Rect> + '_ {
        self.stage.solids.iter().map(|solid: &Solid| solid.outline.bounds)
    }

    fn step(&mut self, across: f64) {
        let body = self.body();
        let beside = |r: &Rect| r.y0 < body.y1 && body.y0 < r.y1;
        let across = self.solids().filter(beside).fold(across, |across, r| {
            if across > 0.0 && r.x0 + 1e-9 >= body.x1 {
                across.min(r.x0 - body.x1)
            } else if across < 0.0 && r.x1 <= body.x0 + 1e-9 {
                across.max(r.x1 - body.x0)
            } else {
                across
            }
        });
        self.at.0 += across;
    }

    fn drop(&mut self) {
        self.fall = (self.fall + 0.35).min(7.0);
        let body = self.body();
        // What is under it by no more than rounding does not carry it.
        let under = |r: &Rect| r.x0 + 1e-9 < body.x1 && body.x0 + 1e-9 < r.x1;
        let ledges = self.stage.one_ways.iter().map(|ledge: &OneWay| ledge.outline.bounds);
        let ledges: Vec<Rect> = if self.dropping > 0 { vec![] } else { ledges.collect() };
        let mut down = self.fall;
        for r in self.solids().filter(under) {
            if down > 0.0 && r.y0 >= body.y1 {
                down = down.min(r.y0 - body.y1);
            } else if down < 0.0 && r.y1 <= body.y0 {
                down = down.max(r.y1 - body.y0);
            }
        }
        for r in ledges.iter().filter(|r| under(r)) {
            if down > 0.0 && r.y0 >= body.y1 {
                down = down.min(r.y0 - body.y1);
            }
        }
        if down != self.fall {
            self.fall = 0.0;
        }
        self.at.1 += down;
    }

    fn stands(&self) -> bool {
        let body = self.body();
        let ledges = self.stage.one_ways.iter().map(|ledge| ledge.outline.bounds);
        self.solids().chain(ledges).any(|r| r.y0 == body.y1 && r.x0 + 1e-9 < body.x1 && body.x0 + 1e-9 < r.x1)
    }
}

/// Plays keys: for each stretch a way to walk, whether to jump at its start, whether to drop.
pub fn play(stage: &Stage, keys: &[(i8, bool, bool, u8)]) -> Vec<Row> {
    let mut mover = Mover { stage, at: (15.0 + 10.0, 280.0), fall: 0.0, dropping: 0 };
    let mut rows = Vec::new();
    for &(way, jump, drop, length) in keys {
        if mover.stands() && jump {
            mover.fall = -6.4;
        } else if mover.stands() && drop {
            mover.dropping = 8;
        }
        for _ in 0..length {
            mover.step(f64::from(way) * 1.9);
            mover.drop();
            let states = if mover.dropping > 0 { "drop" } else { "" };
            rows.push(Row(rows.len() as u64, mover.at, Facing::Right, "stand", states));
            mover.dropping = mover.dropping.saturating_sub(1);
        }
    }
    rows
}
