//! Zones against speed.

use super::{LintFinding, rounded};
use crate::actor::Actor;
use crate::check::{Rule, Severity};
use crate::clearance::Stance;
use crate::geometry::{Convex, Vec2, convex_hull};
use crate::stage::{Stage, Zone};

/// Zones that a body can be on one side of at one tick and on the other side of at the next, for the actors whose longest
/// steps are known. Of zones that are not convex their hull counts.
///
/// A step leads over a zone when along some edge's normal it is as long as zone and body together; along others the ends
/// of the step cannot be apart.
///
/// # Complexity
/// O(z b c (n + m)), z zones, b bodies, c corners of both, n and m of each.
pub fn thin_zones(stage: &Stage, actors: &[Actor], severity: Severity) -> Vec<LintFinding> {
    let mut found = Vec::new();
    for zone in &stage.zones {
        for actor in actors {
            let Some(fastest) = actor.moves.fastest else { continue };
            let stances = Stance::of(actor).into_iter().filter(|stance| zone.mask.sees(stance.layer));
            let skipped = stances.filter_map(|stance| Some((skip(zone, &stance, fastest)?, stance)));
            let worst = skipped.max_by(|(a, _), (b, _)| a.lacks().total_cmp(&b.lacks()));
            if let Some((skip, stance)) = worst {
                found.push(finding(stage, zone, &stance, fastest, &skip, severity));
            }
        }
    }
    found
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

fn finding(stage: &Stage, zone: &Zone, stance: &Stance, fastest: Vec2, skip: &Skip, severity: Severity) -> LintFinding {
    // The least hundredth of a px that is more than what is lacking.
    let least = ((skip.step - skip.body) * 100.0 + 1e-6).floor() / 100.0 + 0.01;
    let along = match (skip.way.x.abs(), skip.way.y.abs()) {
        (x, y) if y < 1e-9 * x => "wide".to_string(),
        (x, y) if x < 1e-9 * y => "high".to_string(),
        _ => format!("thick along ({:.2}, {:.2})", skip.way.x, skip.way.y),
    };
    LintFinding {
        rule: Rule::ThinZone,
        severity,
        actor: stage.name.clone(),
        place: zone.name.clone(),
        figure: rounded(skip.thick),
        message: format!(
            "{} is {:.2} px {along}, and {} can pass it between two ticks: its longest step is {} px sideways and {} px upright",
            zone.name,
            skip.thick,
            stance.name(),
            fastest.x,
            fastest.y
        ),
        remedy: format!(
            "make {} {least:.2} px {along} at least, or move less than {:.2} px a tick across it",
            zone.name,
            skip.body + skip.thick
        ),
    }
}
