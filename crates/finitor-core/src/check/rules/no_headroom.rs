//! no_headroom: a taller body came back under a ceiling.

use crate::check::Settings;
use crate::check::contacts::Entry;
use crate::check::inside::{self, EdgeMove, Inside, beyond, edge_move, how_it_began, left_when_kept};
use crate::check::ledger::{Case, Ledger, Sighting};
use crate::check::look::Look;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::geometry::Point;
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct NoHeadroom;

impl TakeRule for NoHeadroom {
    const SPEC: Spec = Spec {
        code: "no_headroom",
        severity: Severity::Error,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body became taller under a ceiling that leaves no room for it.",
            matters: "The actor stands up into the ceiling, sticks, or is thrown out to the side.",
            measured: "As embedded, where the frame changed to one whose body reaches higher and the way out is down. \
                       The figure is the depth.",
            fix: "Keep the low frame until there is room: `finitor stage clearance` lists where there is none.",
            drawing: "   ##########\n     |##|     figure\n     |  |  <- was low\n",
        },
    };
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "tunnelled"];
    type Seen = Inside;

    fn new(_: &Settings) -> NoHeadroom {
        NoHeadroom
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Inside>) {
        inside::see(look, Entry::StoodUp, out, |inside| inside);
    }

    fn spot<'a>(scene: &Scene<'_, 'a>, seen: &Sighting<'a, Inside>) -> Point {
        inside::middle(scene, seen, &seen.seen)
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Inside>) -> Words {
        let (step, inside) = (scene.step(case.first.way), &case.first.seen);
        let EdgeMove { edge, by, remains, .. } = edge_move(scene, &step, inside);
        let kept = left_when_kept(scene, &step, inside, case.first.figure);
        let (label, with) = (scene.label(case.key.instance), scene.name(case.key.with));
        let (shape, frame) = (&step.body.name, step.now().frame_name(step.actor));
        Words {
            message: format!(
                "{label} stood up under {with} with {} too little room{}",
                px(case.worst.figure),
                how_it_began(case)
            ),
            fix: format!("Stay low until there is room, or move the {edge} edge of {shape} {by} on {frame}, as drawn."),
            remains: beyond(remains.min(kept), step.slack),
            end_at: None,
        }
    }
}
