//! ghost_pair: two bodies overlap, and nothing stops them.

use crate::actor::Role;
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::{Pair, PairState, cause_between};
use crate::check::step::{Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::finding::Span;
use crate::geometry::{Deepest, overlap_region};
use crate::hits::struck;
use crate::layers::Detection;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct GhostPair;

impl TakeRule for GhostPair {
    const SPEC: Spec = Spec {
        code: "ghost_pair",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Two bodies overlapped and nothing stops them: neither mask detects the other's layer, or, with \
                    contact = \"both\", only one does.",
            matters: "They pass through each other, which is meant for some pairs and one forgotten bit for others.",
            measured: "Each tick, the depth of the overlap where it is more than check.slack, by the masks in the files. \
                       Where only a state lets them through it is meant, and not reported; nor where one has a hit out that \
                       detects a hurt shape of the other: they meet by that.",
            fix: "Add the bit named to the mask named, or set ghost_pair = \"off\" under [check.rules]. `finitor layers \
                  explain ONE OTHER` shows the bits, `finitor check --pairs` counts all pairs.",
            drawing: "   ____\n  |  __|_\n  |_|__| |   no bit, no stop\n    |____|\n",
        },
    };
    /// The other of the two.
    type Seen = Way;

    fn new(_: &Settings) -> GhostPair {
        GhostPair
    }

    fn pair<'a>(&mut self, pair: &Pair<'_, 'a>, out: &mut Ledger<'a, Way>) {
        let PairState::Inside(Deepest { overlap, own: i, other: j }) = pair.state else { return };
        let (one, other) = (pair.one, pair.other);
        // What a state lets through is meant to pass, and so is what strikes.
        if pair.stops
            || pair.tick.input.layers.contact.stops(Detection { there: detects(one, other), back: detects(other, one) })
            || strikes(one, other)
            || strikes(other, one)
        {
            return;
        }
        let key = Key { instance: one.instance(), with: With::Shape(other.instance(), &other.body.name) };
        out.see(key, Span::at(one.now().tick), overlap.depth, || {
            let region = overlap_region(&one.body.pieces[i], one.now().at - other.now().at, &other.body.pieces[j]);
            Sighting {
                tick: one.now().tick,
                figure: overlap.depth,
                at: region.map_or(one.now().at, |(_, middle)| middle + other.now().at.to_vec2()),
                push: overlap.push,
                cause: cause_between(one, other),
                shape: &one.body.name,
                way: one.way,
                seen: other.way,
            }
        });
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Way>) -> Words {
        let (one, other) = (scene.step(case.worst.way), scene.step(case.worst.seen));
        let (asks, asked) = (detects(&one, &other), detects(&other, &one));
        let why = match (asks, asked) {
            (false, false) => "neither mask detects the other".to_string(),
            (true, _) => format!("only the mask of {} detects the other", scene.subject(case)),
            (_, true) => format!("only the mask of {} detects the other", scene.name(case.key.with)),
        };
        // The bits that one of them lacks, or both where both must detect.
        let (looker, target) = if asks { (&other, &one) } else { (&one, &other) };
        let layers = scene.input.layers;
        let add = |looker: &Step<'_>, target: &Step<'_>| {
            let bits = layers.describe(target.body.layer);
            format!("{bits} to the mask of {}.{}", looker.actor.name, looker.body.name)
        };
        let one_suffices = layers.contact.stops(Detection { there: true, back: asks || asked });
        let both = if one_suffices { String::new() } else { format!(", and {}", add(target, looker)) };
        Words {
            message: format!(
                "{} and {} overlap by {}; {why}",
                scene.subject(case),
                scene.name(case.key.with),
                px(case.worst.figure)
            ),
            fix: format!("Add {}{both} if they should stop each other.", add(looker, target)),
            remains: 0.0,
            end_at: None,
            change: None,
        }
    }
}

/// Whether one has a hit out that detects the other.
fn strikes(one: &Step<'_>, other: &Step<'_>) -> bool {
    let mut hits = one.pose().shapes.iter().filter(|shape| shape.role == Role::Hit);
    hits.any(|hit| struck(hit, other.pose()).next().is_some())
}

/// Whether one body detects another by the masks in the files.
fn detects(one: &Step<'_>, other: &Step<'_>) -> bool {
    one.body.mask.sees(other.body.layer)
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::actor::{Actor, Role};
    use crate::layers::LayerSet;
    use crate::testing::*;

    #[test]
    fn bodies_that_pass_through_each_other_are_reported_with_the_bit_that_is_missing() {
        let twin = || Actor { name: "twin".into(), ..hero(0) };
        // The hero's front is 4 px ahead of its pivot, the twin's back 6 behind: 3 px in each other.
        let places = [((20.0, 200.0), (40.0, 200.0)), ((33.0, 200.0), (40.0, 200.0))];
        let report = check_pair(&floored(), &[hero(0), twin()], &places);
        assert_eq!(short(&report), [found("ghost_pair", "twin.body", (1, 1), 3.0, "moved")]);
        let fix = &report.findings[0].fix;
        assert!(fix.starts_with("Add hero (bit 2) to the mask of hero.body"), "{fix}");
        // With the bit they stop each other, and then it is another fault; a touch is none.
        let mut seeing = hero(0);
        let shapes =
            seeing.animations.iter_mut().flat_map(|a| &mut a.frames).flatten().flat_map(|pose| &mut pose.shapes);
        shapes.for_each(|shape| shape.mask = shape.mask.or(LayerSet::of(HERO)));
        assert_eq!(brief(&check_pair(&floored(), &[seeing, twin()], &places)), [("embedded", (1, 1), 3.0)]);
        // What strikes the other need not stop it.
        let mut striking = hero(0);
        striking.animations[0].frames.iter_mut().flatten().for_each(|pose| {
            pose.shapes.push(shape("horn", Role::Hit, Rect::new(0.0, -10.0, 4.0, -6.0), CRATE, None));
        });
        let mut struck = twin();
        struck.animations[0].frames.iter_mut().flatten().for_each(|pose| {
            pose.shapes.push(shape("hide", Role::Hurt, Rect::new(-6.0, -20.0, 4.0, 0.0), GROUND, None));
        });
        assert_eq!(brief(&check_pair(&floored(), &[striking, struck], &places)), []);
        let touch = [((20.0, 200.0), (40.0, 200.0)), ((30.0, 200.0), (40.0, 200.0))];
        assert_eq!(brief(&check_pair(&floored(), &[hero(0), twin()], &touch)), []);
    }
}
