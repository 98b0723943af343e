//! Whether things fall, as they do in games that are seen from the side: from the way that instances rise and sink where nothing carries them.

use super::step::Step;
use crate::geometry::{TOUCH, Vec2};

/// For how long a motion is looked at, ticks of a game with 60 a second.
const STRETCH: f64 = 12.0;
/// In whole px a slow motion rests on every other tick, ticks.
const RESTS: u32 = 2;
/// For each stretch that gets faster this many at one speed say that nothing falls.
const SURELY: u32 = 8;

/// What the ways of an instance tell of its weight.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Weight {
    stretch: Option<Stretch>,
    /// Stretches on which it fell faster than before, or rose more slowly.
    falling: u32,
    /// Those on which it rose or sank at one speed.
    steady: u32,
}

/// A part of a way on which nothing carries it.
#[derive(Clone, Copy, Debug)]
struct Stretch {
    ticks: u32,
    rests: u32,
    from: f64,
    middle: f64,
}

impl Weight {
    /// Takes in a tick, with the motion of what nothing carries.
    pub(crate) fn see(&mut self, step: &Step<'_>, motion: Option<Vec2>) {
        let Some(Vec2 { y: by, .. }) = motion else {
            self.stretch = None;
            return;
        };
        let y = step.now().at.y;
        if by.abs() <= TOUCH {
            let is_slow = |known: &mut Stretch| step.grain > 0.0 && known.rests < RESTS;
            self.stretch = self.stretch.take_if(is_slow).map(|known| Stretch { rests: known.rests + 1, ..known });
        } else {
            let known = self.stretch.unwrap_or(Stretch { ticks: 0, rests: 0, from: y - by, middle: y });
            self.stretch = Some(Stretch { rests: 0, ..known });
        }
        let Some(stretch) = &mut self.stretch else { return };
        stretch.ticks += 1;
        let half = (STRETCH / 2.0 / step.pace).round().max(2.0) as u32;
        if stretch.ticks == half {
            stretch.middle = y;
        }
        if stretch.ticks < 2 * half {
            return;
        }
        let (first, second) = (stretch.middle - stretch.from, y - stretch.middle);
        let rough = 2.0 * step.grain + first.abs() / 8.0;
        if second - first > rough.max(step.far(1.0)) {
            self.falling += 1;
        } else if (second - first).abs() <= rough && first.abs() <= step.run() * f64::from(half) {
            self.steady += 1;
        }
        self.stretch = None;
    }

    /// Whether it flies, or is seen from above.
    pub(crate) fn is_weightless(self) -> bool {
        self.steady > self.falling.max(1)
    }
}

/// Whether nothing falls in a take, although something rises and sinks.
pub(crate) fn nothing_falls(all: impl Iterator<Item = Weight>) -> bool {
    let (mut steady, mut falling) = (0, 0);
    for weight in all {
        steady += weight.steady;
        falling += weight.falling;
    }
    steady >= SURELY && steady >= SURELY * falling
}

#[cfg(test)]
mod tests {
    use crate::check::{Settings, View};
    use crate::rule::Severity;
    use crate::testing::*;
    use crate::{Facing, book};

    /// A way about the floor and down to it, by steps that a figure takes on each tick.
    fn way(moves: &[(u32, (f64, f64), &'static str)]) -> Vec<Row> {
        let mut at = (20.0, 100.0);
        let steps = moves.iter().flat_map(|&(count, by, animation)| (0..count).map(move |_| (by, animation)));
        let rows = steps.enumerate().map(|(tick, (by, animation))| {
            at = (at.0 + by.0, at.1 + by.1);
            Row(tick as u64, at, Facing::Right, animation, "")
        });
        rows.collect()
    }

    #[test]
    fn what_goes_up_and_down_at_one_speed_has_no_weight() {
        let hero = hero_with("back");
        let round = [(40, (1.2, 1.2), "back"), (40, (1.2, -1.2), "back"), (40, (-1.2, 0.0), "stand")];
        // Down to the floor, along it for long, up by 6 px, and along there: it does not hang.
        let last = [(83, (0.0, 1.2), "back"), (1, (0.0, 0.4), "back"), (90, (1.0, 0.0), "stand")];
        let above = [(5, (0.0, -1.2), "back"), (1, (0.0, 1.2), "back"), (60, (1.0, 0.0), "stand")];
        let about = [&round[..], &round, &last, &above].concat();
        let report = check(&floored(), hero.clone(), &way(&about));
        assert_eq!(short(&report), []);
        assert!(report.written.nothing_falls);
        // One that falls hangs there.
        let fall: Vec<(u32, (f64, f64), &str)> =
            (0..18).map(|tick| (1, (0.5, 0.5 * f64::from(tick)), "back")).collect();
        let rest = 100.0 - fall.iter().map(|step| step.1.1).sum::<f64>();
        let floor = [(1, (0.5, rest), "stand"), (90, (1.0, 0.0), "stand")];
        let falls = [&fall[..], &floor, &above].concat();
        let report = check(&floored(), hero, &way(&falls));
        let rules: Vec<String> = short(&report).into_iter().map(|found| found.0).collect();
        assert_eq!(rules, ["hover"]);
        assert!(!report.written.nothing_falls);
    }

    #[test]
    fn seen_from_above_rules_of_falling_are_off_until_they_are_set() {
        let mut settings = Settings::default();
        let [hover, embedded] = ["hover", "embedded"].map(|code| book::find(code).unwrap());
        settings.set_view(View::TopDown);
        assert_eq!((settings.severity(hover), settings.severity(embedded)), (Severity::Off, Severity::Error));
        settings.set_severity(hover, Severity::Note);
        assert_eq!(settings.severity(hover), Severity::Note);
    }
}
