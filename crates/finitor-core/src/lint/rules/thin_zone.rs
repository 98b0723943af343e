//! thin_zone: a body can pass a zone between two ticks.

use crate::change::{Change, Owned};
use crate::clearance::Stance;
use crate::finding::Place;
use crate::geometry::{Convex, Vec2, convex_hull};
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::{Stage, Zone};

#[derive(Debug)]
pub(crate) struct ThinZone;

impl StillRule for ThinZone {
    const SPEC: Spec = Spec {
        code: "thin_zone",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A zone is so thin that a body it detects can pass it between two ticks.",
            matters: "The hazard, the goal or the event is missed, at full speed alone.",
            measured: "The longest step of each actor ([moves] fastest, or that of `lint --takes`) along each edge \
                       normal of zone and body, against both their extents together. Of zones that are not convex \
                       their hull counts. The figure is the zone's thickness along the worst.",
            fix: "Make the zone as thick as the finding says, or cap the speed.",
            drawing: "   [ ]  tick 1\n   ..zone......\n   [ ]  tick 2\n",
        },
    };

    /// A step leads over a zone when along some edge's normal it is as long as zone and body together; along others the ends
    /// of the step cannot be apart.
    ///
    /// # Complexity
    /// O(z b c (n + m)), z zones, b bodies, c corners of both, n and m of each.
    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        for zone in &facts.stage.zones {
            for actor in facts.actors {
                let Some(fastest) = actor.moves.fastest else { continue };
                let stances = Stance::of(actor).into_iter().filter(|stance| zone.mask.sees(stance.layer));
                let skipped = stances.filter_map(|stance| Some((skip(zone, &stance, fastest)?, stance)));
                let worst = skipped.max_by(|(a, _), (b, _)| a.lacks().total_cmp(&b.lacks()));
                if let Some((skip, stance)) = worst {
                    let owned = Owned::new(&facts.stage.name, &zone.name);
                    let change = Change::thicker(&owned, &zone.outline, skip.way, skip.least() - skip.thick);
                    out.report_with(change, fault(facts.stage, zone, &stance, &skip));
                }
            }
        }
    }
}

/// A step that leads over a zone.
struct Skip {
    /// The direction in which it does.
    way: Vec2,
    /// How thick the zone is in it, px.
    thick: f64,
    /// How thick the body is, px.
    body: f64,
    /// How far the step leads, px.
    step: f64,
}

impl Skip {
    /// By how much the zone is too thin, px.
    fn lacks(&self) -> f64 {
        self.step - self.body - self.thick
    }

    /// The least hundredth of a px that is thick enough.
    fn least(&self) -> f64 {
        ((self.step - self.body) * 100.0 + 1e-6).floor() / 100.0 + 0.01
    }
}

fn skip(zone: &Zone, stance: &Stance, fastest: Vec2) -> Option<Skip> {
    let hull = Convex::from_clockwise(convex_hull(zone.outline.polygon.points()));
    let skips = stance.shapes.iter().flat_map(|shape| {
        let corners: Vec<_> = shape.pieces.iter().flat_map(|piece| piece.points().iter().copied()).collect();
        let body = Convex::from_clockwise(convex_hull(&corners));
        let ways: Vec<Vec2> = hull.normals().iter().chain(body.normals()).copied().collect();
        let hull = &hull;
        ways.into_iter().map(move |way| Skip {
            way,
            thick: hull.breadth(way),
            body: body.breadth(way),
            step: fastest.x * way.x.abs() + fastest.y * way.y.abs(),
        })
    });
    skips.filter(|skip| skip.lacks() >= 0.0).max_by(|a, b| a.lacks().total_cmp(&b.lacks()))
}

fn fault(stage: &Stage, zone: &Zone, stance: &Stance, skip: &Skip) -> Fault {
    let least = skip.least();
    let along = match (skip.way.x.abs(), skip.way.y.abs()) {
        (x, y) if y < 1e-9 * x => "wide".to_string(),
        (x, y) if x < 1e-9 * y => "high".to_string(),
        _ => format!("thick along ({:.2}, {:.2})", skip.way.x, skip.way.y),
    };
    let (name, thick) = (&zone.name, skip.thick);
    Fault {
        subject: stage.name.clone(),
        place: Place::Stage(name.clone()),
        figure: thick,
        message: format!(
            "{} at {:.2} px a tick can cross {name} ({thick:.2} px {along}) between two ticks",
            stance.name(),
            skip.step
        ),
        fix: format!(
            "Make {name} at least {least:.2} px {along}, or keep steps across it under {:.2} px.",
            skip.body + thick
        ),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::stage::Effect;
    use crate::testing::{floored, hero, zone};

    #[test]
    fn a_step_does_not_lead_over_a_zone() {
        let with = |wide: f64, fastest: Option<f64>| {
            let mut stage = floored();
            stage.zones.push(zone("gate", Rect::new(200.0, 100.0, 200.0 + wide, 200.0), Effect::Event));
            let mut of = hero(0);
            of.moves.fastest = fastest.map(|x| Vec2::new(x, 1.0));
            of_stage::<ThinZone>(&stage, &[of])
        };
        // The body is 10 px wide: zone and body together must be longer than the step.
        assert_eq!(
            with(4.0, Some(16.0)),
            [
                "gate: 4: hero.body at 16.00 px a tick can cross gate (4.00 px wide) between two ticks. Make gate at least 6.01 px wide, or keep steps across it under 14.00 px."
            ]
        );
        assert_eq!(with(6.01, Some(16.0)), [""; 0]);
        assert_eq!(with(4.0, None), [""; 0]);
    }
}
