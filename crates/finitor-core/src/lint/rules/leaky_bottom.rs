//! leaky_bottom: a body can leave the stage and meets no hazard.

use crate::clearance::{Seen, Stance, Ways};
use crate::finding::Place;
use crate::geometry::{Convex, Point, Polygon, Rect, TOUCH};
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::{Effect, Outline, Side, Stage};

/// A part of a side: from x to x, or from y to y, px.
type Span = (f64, f64);

#[derive(Debug)]
pub(crate) struct LeakyBottom;

/// A gap in a side, and the bodies that get out by it.
struct Leak {
    side: Side,
    span: Span,
    of: Vec<String>,
}

impl StillRule for LeakyBottom {
    const SPEC: Spec = Spec {
        code: "leaky_bottom",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body gets out of a side that the stage holds sealed (the bottom by default; `sealed` names others), \
                    and meets no hazard zone on the way.",
            matters: "The actor falls or flies for ever and the player waits.",
            measured: "For the body of each actor that starts on the stage, at its least width over all frames and both \
                       facings: every place that its pivot can come to, walking, falling, drifting in the air at will and \
                       rising no higher than it jumps ([moves] jump), without meeting a hazard that detects it, also one \
                       outside the border. The figure is the width of the gap in the side.",
            fix: "Put a hazard zone over the range given, or close it: `borders` in [stage].",
            drawing: "   ####        ####\n   ####   [ ]  ####\n   ####    v   ####\n   ---- gap  ------\n",
        },
    };

    /// # Complexity
    /// That of [`crate::world::Space::new`] a body.
    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        for leak in leaks(facts) {
            out.report(fault(facts.stage, &leak));
        }
    }
}

fn leaks(facts: &StageFacts<'_>) -> Vec<Leak> {
    let stage = facts.stage;
    let mut leaks: Vec<Leak> = Vec::new();
    for actor in facts.with_spawns() {
        let starts: Vec<Point> = stage.starts(&actor.name).map(|spawn| spawn.at).collect();
        let jump = actor.moves.jump.unwrap_or(f64::INFINITY);
        // From the lowest body on: what it comes to the others come to, where they have room.
        let stances: Vec<Stance> = Stance::of(actor).iter().rev().map(Stance::slimmest).collect();
        let mut before: Option<(Ways, Seen)> = None;
        for stance in stances {
            let area = area(stage, &stance);
            let walls = shafts(stage, &stance, area);
            let ways = Ways::new(stage, &stance, &walls, area, |effect| effect == Effect::Hazard);
            let mut from: Vec<_> = starts.iter().filter_map(|start| Some((ways.node_at(*start)?, start.y))).collect();
            from.extend(before.iter().flat_map(|(other, seen)| ways.taken_over(other, seen)));
            let (seen, _) = ways.visit(&from, jump, |_| false);
            for (side, span) in gaps(stage, &stance, &ways, &seen, area) {
                match leaks.iter_mut().find(|known| (known.side, known.span) == (side, span)) {
                    Some(known) => known.of.push(stance.name()),
                    None => leaks.push(Leak { side, span, of: vec![stance.name()] }),
                }
            }
            before = Some((ways, seen));
        }
    }
    leaks.sort_by(|a, b| a.side.cmp(&b.side).then(a.span.0.total_cmp(&b.span.0)).then(a.span.1.total_cmp(&b.span.1)));
    leaks
}

fn fault(stage: &Stage, leak: &Leak) -> Fault {
    const THICK: f64 = 100.0;
    let Leak { side, span: (from, to), of } = leak;
    let (axis, zone) = match side {
        Side::Bottom => ("x", [*from, stage.size.y, to - from, THICK]),
        Side::Top => ("x", [*from, -THICK, to - from, THICK]),
        Side::Left => ("y", [-THICK, *from, THICK, to - from]),
        Side::Right => ("y", [stage.size.x, *from, THICK, to - from]),
    };
    let leave = if *side == Side::Bottom { "fall out of" } else { "get out of" };
    let [x, y, width, height] = zone;
    Fault {
        subject: stage.name.clone(),
        place: Place::Stage(match side {
            Side::Bottom => format!("x {from:.2} to {to:.2}"),
            _ => format!("{}, {axis} {from:.2} to {to:.2}", side.name()),
        }),
        figure: to - from,
        message: format!(
            "{} can {leave} the {} between {axis} {from:.2} and {to:.2} without a hazard",
            of.join(", "),
            side.name()
        ),
        fix: format!("Put a hazard zone there: `box = [{x:.2}, {y:.2}, {width:.2}, {height:.2}]`."),
    }
}

/// Where the pivot may be: past the sealed sides as far as hazards lie, and farther, so that a body there is gone.
fn area(stage: &Stage, stance: &Stance) -> Rect {
    let body = stance.reach();
    let hazards = stage.zones.iter().filter(|zone| zone.effect == Effect::Hazard).map(|zone| zone.outline.bounds);
    let around = hazards.fold(stage.area(), |all, zone| all.union(zone));
    let beyond = body.width().max(body.height()) * 2.0 + 1.0;
    let mut area = stage.area();
    for side in &stage.sealed {
        match side {
            Side::Left => area.x0 = around.x0 - beyond,
            Side::Right => area.x1 = around.x1 + beyond,
            Side::Top => area.y0 = around.y0 - beyond,
            Side::Bottom => area.y1 = around.y1 + beyond,
        }
    }
    area
}

/// The parts of the closed sides that a body gets out by, as wide as what it takes up.
fn gaps(stage: &Stage, stance: &Stance, ways: &Ways, seen: &Seen, area: Rect) -> Vec<(Side, Span)> {
    let (body, size) = (stance.reach(), stage.size);
    let mut found: Vec<(Side, Span)> = Vec::new();
    for side in &stage.sealed {
        let mut spans: Vec<Span> = Vec::new();
        for node in (0..ways.gaps()).filter(|node| seen.contains_key(node)) {
            let at = ways.extent(node);
            let (is_out, span) = match side {
                Side::Left => (at.x0 <= area.x0, (at.y0, at.y1)),
                Side::Right => (at.x1 >= area.x1, (at.y0, at.y1)),
                Side::Top => (at.y0 <= area.y0, (at.x0, at.x1)),
                Side::Bottom => (at.y1 >= area.y1, (at.x0, at.x1)),
            };
            if is_out {
                spans.push(span);
            }
        }
        spans.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.total_cmp(&b.1)));
        let mut joined: Vec<Span> = Vec::new();
        for span in spans {
            match joined.last_mut() {
                Some(last) if span.0 <= last.1 + TOUCH => last.1 = last.1.max(span.1),
                _ => joined.push(span),
            }
        }
        let taken = |(from, to): Span| match side {
            Side::Left | Side::Right => ((from + body.y0).max(0.0), (to + body.y1).min(size.y)),
            Side::Top | Side::Bottom => ((from + body.x0).max(0.0), (to + body.x1).min(size.x)),
        };
        found.extend(joined.into_iter().map(|span| (*side, taken(span))));
    }
    found
}

/// What closes the outside of the sides but for the openings in them: what meets the border goes on outwards, and the corners
/// are shut, so that a body that is out stays in its opening.
fn shafts(stage: &Stage, stance: &Stance, area: Rect) -> Vec<Convex> {
    /// How far inside the border the solids are cut, px.
    const JUST: f64 = 1e-6;
    let size = stage.size;
    let mut all: Vec<Rect> = Vec::new();
    let solids = || stage.solids.iter().filter(|solid| stance.mask.sees(solid.layer)).map(|solid| &solid.outline);
    for side in &stage.sealed {
        let spans = |at: f64, upright: bool| solids().flat_map(move |outline| cut(outline, at, upright));
        match side {
            Side::Bottom => {
                all.extend(spans(size.y - JUST, false).map(|(a, b)| Rect::new(a, size.y - JUST, b, area.y1)))
            }
            Side::Top => all.extend(spans(JUST, false).map(|(a, b)| Rect::new(a, area.y0, b, JUST))),
            Side::Left => all.extend(spans(JUST, true).map(|(a, b)| Rect::new(area.x0, a, JUST, b))),
            Side::Right => all.extend(spans(size.x - JUST, true).map(|(a, b)| Rect::new(size.x - JUST, a, area.x1, b))),
        }
    }
    // Nor does it come in under a hazard outside.
    let hazards = stage.zones.iter().filter(|zone| zone.effect == Effect::Hazard && zone.mask.sees(stance.layer));
    for zone in hazards.map(|zone| zone.outline.bounds) {
        let outside = [
            (zone.y1 > size.y, Rect { y0: zone.y0.max(size.y), y1: area.y1, ..zone }),
            (zone.y0 < 0.0, Rect { y0: area.y0, y1: zone.y1.min(0.0), ..zone }),
            (zone.x1 > size.x, Rect { x0: zone.x0.max(size.x), x1: area.x1, ..zone }),
            (zone.x0 < 0.0, Rect { x0: area.x0, x1: zone.x1.min(0.0), ..zone }),
        ];
        all.extend(outside.into_iter().filter(|(is_past, _)| *is_past).map(|(_, rect)| rect));
    }
    all.retain(|rect| rect.x0 < rect.x1 && rect.y0 < rect.y1);
    let is_shut = |side: Side| stage.sealed.contains(&side);
    for (one, other, corner) in [
        (Side::Left, Side::Top, Rect::new(area.x0, area.y0, 0.0, 0.0)),
        (Side::Right, Side::Top, Rect::new(size.x, area.y0, area.x1, 0.0)),
        (Side::Left, Side::Bottom, Rect::new(area.x0, size.y, 0.0, area.y1)),
        (Side::Right, Side::Bottom, Rect::new(size.x, size.y, area.x1, area.y1)),
    ] {
        if is_shut(one) && is_shut(other) {
            all.push(corner);
        }
    }
    all.into_iter().filter_map(|rect| Polygon::from_rect(rect).ok()).flat_map(|polygon| polygon.pieces()).collect()
}

/// Where a level, or an upright, line lies inside an outline.
fn cut(outline: &Outline, at: f64, upright: bool) -> Vec<Span> {
    let own = |p: Point| if upright { Point::new(p.y, p.x) } else { p };
    let edges = outline.edges().map(|(a, b)| (own(a), own(b)));
    let crossing = edges.filter(|(a, b)| (a.y <= at) != (b.y <= at));
    let mut along: Vec<f64> = crossing.map(|(a, b)| a.x + (b.x - a.x) * ((at - a.y) / (b.y - a.y))).collect();
    along.sort_by(f64::total_cmp);
    along.chunks_exact(2).map(|pair| (pair[0], pair[1])).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::testing::{hero, solid, stage, zone};

    #[test]
    fn a_gap_in_a_closed_side_needs_a_hazard() {
        let mut stage = stage();
        stage.solids.push(solid("near", Rect::new(0.0, 200.0, 150.0, 300.0)));
        stage.solids.push(solid("far", Rect::new(190.0, 200.0, 400.0, 300.0)));
        for (name, x) in [("left", -10.0), ("right", 400.0)] {
            stage.solids.push(solid(name, Rect::new(x, 0.0, x + 10.0, 300.0)));
        }
        assert_eq!(
            of_stage::<LeakyBottom>(&stage, &[hero(0)]),
            [
                "x 150.00 to 190.00: 40: hero.body can fall out of the bottom between x 150.00 and 190.00 without a hazard. Put a hazard zone there: `box = [150.00, 300.00, 40.00, 100.00]`."
            ]
        );
        stage.zones.push(zone("sea", Rect::new(150.0, 300.0, 190.0, 400.0), Effect::Hazard));
        assert_eq!(of_stage::<LeakyBottom>(&stage, &[hero(0)]), [""; 0]);
        stage.zones.clear();
        stage.solids[1] = solid("far", Rect::new(158.0, 200.0, 400.0, 300.0));
        assert_eq!(of_stage::<LeakyBottom>(&stage, &[hero(0)]), [""; 0], "a gap of 8 px is too narrow for 10");
    }
}
