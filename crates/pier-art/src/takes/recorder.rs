//! Rows of a take.

use std::fmt::Write;

/// An actor instance and where it is.
#[derive(Clone, Copy)]
pub(super) struct Who {
    pub(super) label: &'static str,
    pub(super) at: (f64, f64),
    pub(super) right: bool,
}

/// Writes rows tick by tick.
pub(super) struct Recorder {
    text: String,
    tick: u64,
    /// What else moves on every tick.
    others: fn(u64, &mut Recorder),
    /// Where the picture is kept looking, whatever the facing; it follows the facing when `None`.
    pub(super) picture: Option<bool>,
}

impl Recorder {
    pub(super) fn new(others: fn(u64, &mut Recorder)) -> Recorder {
        let text = "tick,actor,x,y,facing,animation,frame,states,flipped_art\n".to_string();
        Recorder { text, tick: 0, others, picture: None }
    }

    /// Adds a row to the current tick.
    pub(super) fn add(&mut self, who: Who, animation: &str, frame: usize, states: &str) {
        let Who { label, at: (x, y), right } = who;
        let facing = if right { "right" } else { "left" };
        let tick = self.tick;
        // All art is drawn facing right.
        let flipped = !self.picture.unwrap_or(right);
        writeln!(self.text, "{tick},{label},{},{},{facing},{animation},{frame},{states},{flipped}", place(x), place(y))
            .expect("a string takes all that is written to it");
    }

    /// Ends the tick.
    pub(super) fn next(&mut self) {
        let others = self.others;
        others(self.tick, self);
        self.tick += 1;
    }

    /// Goes on at a later tick; those between are not recorded.
    pub(super) fn skip_to(&mut self, tick: u64) {
        assert!(tick >= self.tick, "takes run forward");
        self.tick = tick;
    }

    pub(super) fn finish(self) -> String {
        self.text
    }
}

/// Four decimals, as games log them, without trailing zeros.
fn place(value: f64) -> String {
    let text = format!("{value:.4}");
    text.trim_end_matches('0').trim_end_matches('.').to_string()
}
