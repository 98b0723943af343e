//! Shapes, poses and stages as items.

use crate::palette::{FAULT, Look, PIVOT};
use crate::scene::{Item, View};
use finitor_core::actor::{Pose, Role};
use finitor_core::finding::{Finding, Worst};
use finitor_core::rule::Unit;
use finitor_core::stage::{OneWay, Passes, Stage};
use finitor_core::{Point, Vec2};

/// Sensors first and hits last, so that what matters most lies on top.
const ORDER: [Role; 4] = [Role::Sensor, Role::Body, Role::Hurt, Role::Hit];

/// A pose's shapes with the pivot at `at`.
pub(crate) fn pose_items(pose: &Pose, at: Point, view: View) -> Vec<Item> {
    let mut items = Vec::new();
    for role in ORDER {
        for polygon in pose.shapes.iter().filter(|shape| shape.role == role).flat_map(|shape| &shape.polygons) {
            let points = view.points(polygon.translated(at.to_vec2()).points());
            items.push(Item::Ring { points, look: role.into() });
        }
    }
    items
}

/// The pivot's mark and those of the anchors.
pub(crate) fn mark_items(pose: &Pose, at: Point, view: View) -> Vec<Item> {
    let mut items = pivot_mark(view.point(at));
    items.extend(pose.anchors.iter().flat_map(|(_, anchor)| anchor_mark(view.point(*anchor + at.to_vec2()))));
    items
}

/// A small cross, page px.
pub(crate) fn pivot_mark(middle: Point) -> Vec<Item> {
    const ARM: f64 = 5.0;
    let arm = |by: Vec2| Item::Line { from: middle - by, to: middle + by, colour: PIVOT, width: 1.5, dash: None };
    vec![arm(Vec2::new(ARM, 0.0)), arm(Vec2::new(0.0, ARM))]
}

/// A small diamond, page px.
pub(crate) fn anchor_mark(middle: Point) -> Vec<Item> {
    const HALF: f64 = 3.5;
    let corners = [(0.0, -HALF), (HALF, 0.0), (0.0, HALF), (-HALF, 0.0)].map(|by| middle + Vec2::from(by));
    let side =
        |i: usize| Item::Line { from: corners[i], to: corners[(i + 1) % 4], colour: PIVOT, width: 1.2, dash: None };
    (0..4).map(side).collect()
}

/// The stage's things.
pub(crate) fn stage_items(stage: &Stage, view: View) -> Vec<Item> {
    let ring = |points: &[Point], look| Item::Ring { points: view.points(points), look };
    let mut items: Vec<Item> = Vec::new();
    items.extend(stage.zones.iter().map(|zone| ring(zone.outline.polygon.points(), Look::Zone)));
    for outline in stage.solids.iter().map(|solid| &solid.outline) {
        // With holes its pieces are drawn: a ring alone would fill them.
        if outline.holes.is_empty() {
            items.push(ring(outline.polygon.points(), Look::Solid));
        } else {
            items.extend(outline.pieces.iter().map(|piece| ring(piece.points(), Look::Solid)));
        }
    }
    for one_way in &stage.one_ways {
        items.push(ring(one_way.outline.polygon.points(), Look::OneWay));
        items.extend(chevrons(one_way, view));
    }
    items
}

/// Chevrons along the side that stops, pointing the way that lets pass.
fn chevrons(one_way: &OneWay, view: View) -> Vec<Item> {
    const APART: f64 = 14.0;
    const HALF: f64 = 4.0;
    const OFF: f64 = 3.0;
    let bounds = one_way.outline.bounds;
    let middle = bounds.center();
    let (from, to) = match one_way.passes {
        Passes::Angle(_) => {
            // Over the outline's extent across the way, on the side that it leads to.
            let way = one_way.passes.direction();
            let across = Vec2::new(0.0 - way.y, way.x);
            let reach = |along: Vec2| {
                let points = one_way.outline.polygon.points().iter();
                points
                    .map(|point| (*point - middle).dot(along))
                    .fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), at| (low.min(at), high.max(at)))
            };
            let (far, (low, high)) = (reach(way).1, reach(across));
            (middle + way * far + across * low, middle + way * far + across * high)
        }
        Passes::Up => (Point::new(bounds.x0, bounds.y0), Point::new(bounds.x1, bounds.y0)),
        Passes::Down => (Point::new(bounds.x0, bounds.y1), Point::new(bounds.x1, bounds.y1)),
        Passes::Left => (Point::new(bounds.x0, bounds.y0), Point::new(bounds.x0, bounds.y1)),
        Passes::Right => (Point::new(bounds.x1, bounds.y0), Point::new(bounds.x1, bounds.y1)),
    };
    let (from, to) = (view.point(from), view.point(to));
    let way = one_way.passes.direction();
    let across = Vec2::new(0.0 - way.y, way.x);
    let colour = Look::OneWay.style().colour;
    let count = ((to - from).hypot() / APART).floor().clamp(1.0, 400.0);
    let mut items = Vec::new();
    for index in 0..count as u32 {
        let tip = from.lerp(to, (f64::from(index) + 0.5) / count) + way * (OFF + HALF);
        for side in [-1.0, 1.0] {
            let end = tip - way * HALF + across * (side * HALF);
            items.push(Item::Line { from: end, to: tip, colour, width: 1.6, dash: None });
        }
    }
    items
}

/// A finding's place, and the way out where it has one, as long as the figure where that is a length and enlarged to be
/// seen; of a finding that is of no take nothing.
pub(crate) fn fault_items(finding: &Finding, view: View) -> Vec<Item> {
    const RADIUS: f64 = 11.0;
    const SHORTEST: f64 = 22.0;
    let Some(Worst { at, push, .. }) = finding.in_take().map(|place| place.worst) else { return Vec::new() };
    let depth = if finding.rule.unit() == Unit::Px { finding.figure } else { 0.0 };
    let middle = view.point(at);
    let mut items = vec![Item::Circle { at: middle, radius: RADIUS, colour: FAULT }];
    if push != Vec2::ZERO {
        let length = (depth * f64::from(view.scale)).clamp(SHORTEST, 120.0);
        let from = middle + push * RADIUS;
        items.push(Item::Arrow { from, to: from + push * length, colour: FAULT });
    }
    items
}
