//! The takes of a new project: one that is clean, and one with a fault to find.

use super::setting::{Played, Setting};

/// The head of a take.
const COLUMNS: &str = "tick,actor,x,y,facing,animation,frame\n";
/// Ticks that a frame lasts, as the starter's files say.
const FRAME_TICKS: usize = 6;
/// Ticks from the ground to the top of a jump.
const RISE_TICKS: i32 = 20;

/// Rows of a take of one actor.
struct Rows<'s> {
    setting: &'s Setting,
    text: String,
    tick: usize,
    x: f64,
    y: f64,
    facing: &'static str,
}

impl Rows<'_> {
    fn new(setting: &Setting, x: u32) -> Rows<'_> {
        let y = match setting.walk.standing {
            true => setting.floor(),
            false => setting.floor() - 2 * setting.unit,
        };
        Rows { setting, text: COLUMNS.to_string(), tick: 0, x: x.into(), y: y.into(), facing: "right" }
    }

    fn add(&mut self, played: &Played) {
        let frame = self.tick / FRAME_TICKS % played.frames;
        let round = |at: f64| (at * 100.0).round() / 100.0;
        let (x, y, facing) = (round(self.x), round(self.y), self.facing);
        self.text += &format!("{},{},{x},{y},{facing},{},{frame}\n", self.tick, self.setting.actor, played.name);
        self.tick += 1;
    }

    /// Walks to a place, a twelfth of a cell a tick; where it is already it stays for a tick.
    fn walk(&mut self, to: u32) {
        let setting = self.setting;
        let (to, step) = (f64::from(to), f64::from(setting.unit / 12).max(1.0));
        self.facing = if to < self.x { "left" } else { "right" };
        loop {
            self.x = if to < self.x { (self.x - step).max(to) } else { (self.x + step).min(to) };
            self.add(&setting.walk);
            if self.x == to {
                return;
            }
        }
    }

    /// Jumps where it stands, a cell and a quarter high.
    fn jump(&mut self) {
        let setting = self.setting;
        let (ground, high) = (self.y, 1.25 * f64::from(setting.unit));
        for tick in 1..=2 * RISE_TICKS {
            let from_top = f64::from(tick - RISE_TICKS) / f64::from(RISE_TICKS);
            self.y = ground - high * (1.0 - from_top * from_top);
            self.add(&setting.jump);
        }
    }
}

/// `takes/first.csv`: the actor walks through the gate to the wall, turns before it, jumps, and comes back.
pub(super) fn first(setting: &Setting) -> String {
    let start = setting.across(2);
    let mut rows = Rows::new(setting, start);
    rows.add(&setting.walk);
    rows.walk((setting.wall() - 2).saturating_sub(setting.reach).max(start));
    rows.walk(setting.across(8));
    if setting.walk.standing {
        rows.jump();
    }
    rows.walk(start);
    rows.text
}

/// `takes/wall.csv`: the actor walks on into the wall and stays there, as in a game that asks for walls one tick too late.
pub(super) fn into_wall(setting: &Setting) -> String {
    let mut rows = Rows::new(setting, setting.across(11));
    rows.add(&setting.walk);
    rows.walk(setting.wall() + 2);
    (0..10).for_each(|_| rows.add(&setting.walk.clone()));
    rows.text
}
