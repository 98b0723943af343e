//! cramped_platform: over a one-way platform a body has too little room.

use crate::actor::Actor;
use crate::clearance::{Border, Stance, least_room};
use crate::finding::Place;
use crate::geometry::TOUCH;
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit};
use crate::stage::{OneWay, Outline, Stage};

#[derive(Debug)]
pub(crate) struct CrampedPlatform;

impl StillRule for CrampedPlatform {
    const SPEC: Spec = Spec {
        code: "cramped_platform",
        severity: Severity::Warn,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Over a one-way platform lies a solid, or another platform, so near that a body which rises through \
                    has no room to stand.",
            matters: "It is caught between both: it can neither go on nor rest, and falls or shakes.",
            measured: "At every x at which the tallest body of an actor stands on the platform, how far it is short of \
                       fitting under what lies above. The figure is the worst.",
            fix: "Put the platform lower, or what lies above higher, by the figure.",
            drawing: "   ####################\n     |_|  <- no room\n   ==|=|=============\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        for platform in facts.stage.one_ways.iter().filter(|one_way| one_way.passes.is_upward()) {
            for actor in facts.with_spawns() {
                if let Some(fault) = over(facts.stage, platform, actor) {
                    out.report(fault);
                }
            }
        }
    }
}

/// The room of an actor's bodies over a platform, where the tallest has too little.
fn over(stage: &Stage, platform: &OneWay, actor: &Actor) -> Option<Fault> {
    let stances = Stance::of(actor);
    let tallest = stances.first().filter(|tallest| tallest.mask.sees(platform.layer))?;
    let (room, above) = room_over(stage, platform, tallest).filter(|(room, _)| *room < 0.0 - TOUCH)?;
    let others = stances[1..].iter().map(|stance| match room_over(stage, platform, stance) {
        Some((room, _)) if room < 0.0 => format!("{} is {:.2} px short", stance.shape, -room),
        _ => format!("{} fits", stance.shape),
    });
    let others: Vec<String> = others.collect();
    let others = if others.is_empty() { String::new() } else { format!("; {}", others.join(", ")) };
    Some(Fault {
        subject: stage.name.clone(),
        place: Place::Stage(platform.name.clone()),
        figure: room,
        message: format!(
            "{} needs {:.2} px more room between {} and {above}{others}",
            tallest.name(),
            -room,
            platform.name
        ),
        fix: format!("Lower {} by {:.2} px, or raise {above}.", platform.name, -room),
    })
}

/// The least room of a stance over a platform, px, below 0 what it is short of; and what lies above there.
fn room_over<'a>(stage: &'a Stage, platform: &OneWay, stance: &Stance) -> Option<(f64, &'a str)> {
    let floors = borders(&platform.outline, Facing::Up);
    let bounds = platform.outline.bounds;
    // Where the pivot is over it. What rests on it is a wall there and no ceiling.
    let on = (bounds.x0, bounds.x1);
    let solids = stage.solids.iter().map(|solid| (&solid.name, &solid.outline, solid.layer));
    let others = stage.one_ways.iter().filter(|other| other.passes.is_upward() && other.name != platform.name);
    let others = others.map(|other| (&other.name, &other.outline, other.layer));
    let things = solids.chain(others).filter(|(.., layer)| stance.mask.sees(*layer));
    let rooms = things.flat_map(|(name, outline, _)| {
        let above: Vec<Border> = borders(outline, Facing::Down)
            .into_iter()
            .filter(|border| border.from.y.max(border.to.y) < bounds.y0 - TOUCH)
            .collect();
        let floors = &floors;
        stance.shapes.iter().map(move |shape| (least_room(&shape.pieces, &above, floors, on), name.as_str()))
    });
    rooms.min_by(|a, b| a.0.total_cmp(&b.0))
}

/// Which edges of an outline.
#[derive(Clone, Copy, PartialEq)]
enum Facing {
    /// Those that something can stand on.
    Up,
    /// Those that something can meet from below.
    Down,
}

/// The upper, or the lower, edges of an outline.
fn borders(outline: &Outline, facing: Facing) -> Vec<Border> {
    // The inside lies to the right of the way: edges that lead right are floors.
    let is_wanted = |from: f64, to: f64| if facing == Facing::Up { to > from } else { to < from };
    let edges = outline.edges().filter(|(a, b)| is_wanted(a.x, b.x));
    edges.map(|(from, to)| Border { from, to, solid: 0 }).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::stage::Passes;
    use crate::testing::{floored, hero, one_way, solid};

    #[test]
    fn who_stands_on_a_platform_fits_under_what_is_above() {
        let with = |ceiling: f64| {
            let mut stage = floored();
            stage.one_ways.push(one_way("plank", Rect::new(100.0, 150.0, 200.0, 154.0), Passes::Up));
            stage.solids.push(solid("beam", Rect::new(100.0, ceiling - 10.0, 200.0, ceiling)));
            of_stage::<CrampedPlatform>(&stage, &[hero(0)])
        };
        assert_eq!(with(130.0), [""; 0], "the hero is 20 px high");
        assert_eq!(
            with(133.0),
            [
                "plank: -3: hero.body needs 3.00 px more room between plank and beam. Lower plank by 3.00 px, or raise beam."
            ]
        );
    }
}
