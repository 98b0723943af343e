//! flicker: ground contact is lost and regained within a few ticks.

use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{px, ticks};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Vec2};
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};

/// For how long ground contact may not be lost.
pub(crate) const FLICKER: Threshold = Threshold {
    key: "flicker",
    about: "Ground contact that is lost without a jump and regained within this is reported.",
    unit: Unit::Ticks,
    default: 4.0,
    least: 0.0,
    most: 999.0,
};

/// What comes back no lower than this has not fallen, px.
const LEVEL: f64 = 0.05;
/// What goes up by more in a tick has jumped, px.
const RISE: f64 = 0.1;
/// Losses of contact on a slope count together over this many times `check.flicker`.
const TOGETHER: u64 = 4;

/// Where and when an instance lost contact.
#[derive(Clone, Copy, Debug)]
struct Lost {
    tick: u64,
    at: Point,
    /// Whether the body itself rested on something on each tick since.
    rested: bool,
    /// Whether there was no ground near below it: a real edge, down which it fell.
    off_an_edge: bool,
    /// Whether it kept its height since: what fell and was lifted again has flown.
    kept_height: bool,
}

#[derive(Clone, Copy, Debug, Default)]
struct Known {
    /// When it lost contact last, falling or level; none after a jump.
    lost: Option<Lost>,
    /// When it regained it lower down after a few ticks, the last two times.
    slipped: [Option<u64>; 2],
}

#[derive(Debug)]
pub(crate) struct Flicker {
    /// Ticks of a game with 60 a second.
    most: f64,
    known: PerInstance<Known>,
}

/// How contact was regained.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seen {
    lost: u64,
    /// How much lower, px.
    down: f64,
    rested: bool,
}

impl TakeRule for Flicker {
    const SPEC: Spec = Spec {
        code: "flicker",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Ticks,
        thresholds: &[FLICKER],
        text: RuleText {
            means: "A body lost ground contact without a jump and regained it within check.flicker ticks.",
            matters: "Jumps are refused now and then, and poses twitch between standing and falling.",
            measured: "Grounded by the strip below the body, or by touching within check.slack; a one-way platform that is \
                       being passed carries nobody. At once where contact comes back at the same height; where it goes \
                       down, as on a slope, the third time. Jumps, drops and rises do not count, nor the first time it \
                       comes down an edge. The figure is how many ticks were lost.",
            fix: "Stay grounded for as many ticks after contact is lost, or snap down on slopes; where the body still \
                  rested, widen the strip.",
            drawing: "  stands . . stands\n  #################\n",
        },
    };
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "warp_blocked", "tunnelled", "hover", "popped"];
    type Seen = Seen;

    fn new(settings: &Settings) -> Flicker {
        Flicker { most: settings.get(&FLICKER), known: PerInstance::default() }
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.known.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let step = look.step;
        let known = self.known.of(step.instance());
        let Some((motion, before)) = step.motion().zip(step.before()) else {
            *known = Known::default();
            return;
        };
        match (look.seat.ground.was_carried, look.seat.ground.now.carries) {
            (true, false) => {
                // However low: a ceiling may end it at once.
                // Nor is what another shape of the body does: it stands elsewhere after a turn.
                let reshaped = !step.is_same_body();
                let jumped = motion.y < 0.0 - RISE.max(step.grain) || step.now().is_dropping || reshaped;
                let jumped = jumped || !step.is_on_foot() || look.floors().is_on_an_edge(step);
                let near = step.actor.moves.step_height() + motion.y.abs() + step.rough();
                let off_an_edge = || look.floors().ground_below(step, near).is_none();
                let rested = || look.floors().rests(step);
                let jumped = jumped || on_a_body(look);
                let lost = || Lost {
                    tick: before.tick,
                    at: before.at,
                    rested: rested(),
                    off_an_edge: off_an_edge(),
                    kept_height: motion.y.abs() <= level(step),
                };
                known.lost = (!jumped).then(lost);
            }
            (false, true) => {
                // Nor is it when a turn, a new frame or a dash brings it back.
                let same_body = step.is_same_body();
                if let Some(lost) = known.lost.take().filter(|_| same_body && step.is_on_foot()) {
                    let most = (self.most / step.pace).round() as u64;
                    regained(most, known, step, lost, out);
                }
            }
            // A rise in the air is no flicker of the ground.
            (false, false) if motion.y < 0.0 - step.slack || !step.is_on_foot() => known.lost = None,
            (false, false) if known.lost.is_some() && on_a_body(look) => known.lost = None,
            (false, false) => {
                if let Some(lost) = &mut known.lost {
                    lost.rested = lost.rested && look.floors().rests(step);
                    lost.kept_height &= (step.now().at.y - lost.at.y).abs() <= level(step);
                }
            }
            (true, true) => {}
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let Seen { lost, down, rested } = case.worst.seen;
        let step = scene.step(case.worst.way);
        let again = format!("regained it {} {}", px(down.abs()), if down < 0.0 { "higher" } else { "lower" });
        let fix = match narrow_by(&step).filter(|_| rested) {
            Some(by) => format!("Widen the strip below by {}: the body itself still rested on the edge.", px(by)),
            None if down > step.slack => {
                format!("Stay grounded for {} after contact is lost, or snap down by up to {}.", ticks(lost), px(down))
            }
            None => format!("Stay grounded for {} after contact is lost.", ticks(lost)),
        };
        Words {
            message: format!(
                "{} lost ground contact for {} without a jump and {again}",
                scene.label(case.key.instance),
                ticks(lost)
            ),
            fix,
            // Grounded on all of those ticks it has lost nothing.
            remains: 0.0,
            end_at: None,
            change: None,
        }
    }
}

/// Whether another body carries it.
fn on_a_body(look: &Look<'_, '_>) -> bool {
    look.is_held_by_body(Vec2::new(0.0, 1.0))
}

/// How far two heights may be apart that are one.
fn level(step: &Step<'_>) -> f64 {
    LEVEL + step.grain.min(LEVEL)
}

/// Contact lost and regained within a few ticks: at once where it is level, the second time where it goes down.
fn regained<'a>(most: u64, known: &mut Known, step: &Step<'a>, lost: Lost, out: &mut Ledger<'a, Seen>) {
    let tick = step.now().tick;
    let ticks = tick - lost.tick - 1;
    if ticks == 0 || ticks > most {
        return;
    }
    let down = step.now().at.y - lost.at.y;
    // What fell for a tick is lower by more than this.
    let is_level = down.abs() <= level(step);
    let again = known.slipped[0].is_some_and(|first| tick - first <= 2 * TOGETHER * most);
    if (is_level && !lost.kept_height) || (!is_level && lost.off_an_edge) {
        return;
    }
    if !is_level {
        known.slipped = [known.slipped[1], Some(tick)];
    }
    if !(is_level || again) {
        return;
    }
    let key = Key { instance: step.instance(), with: With::Stage };
    out.see(key, Span::at(tick), ticks as f64, || Sighting {
        tick,
        figure: ticks as f64,
        at: step.now().at,
        push: Vec2::ZERO,
        cause: Cause::Moved,
        shape: &step.body.name,
        way: step.way,
        seen: Seen { lost: ticks, down, rested: lost.rested },
    });
}

/// By how much the strip below leaves out the body's sides, the side of the two where it is more.
fn narrow_by(step: &Step<'_>) -> Option<f64> {
    let (strip, body) = (step.pose().strip_below()?.bounds(), step.body.bounds());
    Some((body.x1 - strip.x1).max(strip.x0 - body.x0)).filter(|by| *by > 0.0)
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::testing::*;

    #[test]
    fn ground_that_comes_and_goes_is_told_with_the_ticks_that_bridge_it() {
        // Two planks with 11 px between them; the strip under the feet is 8 px long.
        let gap = |wide: f64| {
            let mut stage = stage();
            stage.solids.push(solid("near", Rect::new(0.0, LEVEL, 100.0, 206.0)));
            stage.solids.push(solid("far", Rect::new(100.0 + wide, LEVEL, 300.0, 206.0)));
            stage
        };
        let across = path(&walk(80.13, 140.0, 1.0, LEVEL));
        let report = check(&gap(11.0), hero(0), &across);
        // In the air while the strip, from 5 px behind to 3 ahead, lies over the gap: x from 105.13 to 107.13.
        assert_eq!(brief(&report), [("flicker", (28, 28), 3.0)]);
        assert!(report.findings[0].fix.contains("grounded for 3 ticks"), "{}", report.findings[0].fix);
        // A longer gap is a gap, a shorter one is bridged by the strip.
        assert_eq!(brief(&check(&gap(13.0), hero(0), &across)), []);
        assert_eq!(brief(&check(&gap(7.9), hero(0), &across)), []);
        // A hop is a jump, and the first two times down an edge are edges; the third within a few ticks is a slope that loses it.
        let hop = [(50.0, LEVEL), (51.0, LEVEL - 3.0), (52.0, LEVEL - 3.0), (53.0, LEVEL)];
        assert_eq!(brief(&check(&floored(), hero(0), &path(&hop))), []);
        let mut stairs = stage();
        for step in 0..4 {
            let (x, y) = (100.0 + 12.0 * f64::from(step), LEVEL + 3.0 * f64::from(step));
            stairs.solids.push(solid(
                &format!("stair_{step}"),
                Rect::new(x - 100.0 * f64::from(u8::from(step == 0)), y, x + 12.0, 300.0),
            ));
        }
        // Off the first stair at x 112 + 6, down 3 px in two ticks, and again 12 px on.
        let down = |from: f64, y: f64| [(from, y), (from + 1.0, y + 0.4), (from + 2.0, y + 3.0)];
        let once = [&[(115.0, LEVEL), (117.0, LEVEL)][..], &down(118.0, LEVEL), &[(121.0, 203.0)]].concat();
        assert_eq!(brief(&check(&stairs, hero(0), &path(&once))), []);
        let twice = [&once[..], &[(128.0, 203.0), (129.0, 203.0)], &down(130.0, 203.0), &[(133.0, 206.0)]].concat();
        assert_eq!(brief(&check(&stairs, hero(0), &path(&twice))), []);
        let thrice = [&twice[..], &[(140.0, 206.0), (141.0, 206.0)], &down(142.0, 206.0), &[(145.0, 209.0)]].concat();
        let report = check(&stairs, hero(0), &path(&thrice));
        assert_eq!(
            report.findings.iter().map(|f| f.rule.code()).collect::<Vec<_>>(),
            ["flicker"],
            "{:?}",
            brief(&report)
        );
    }
}
