//! How high a passage is.

use super::Stage;
use crate::geometry::{Polygon, rects_overlap};
use crate::{Point, Rect};

/// The height of a passage by the name of a thing of the stage: of a zone its own; of a solid the least free height under
/// it, down to the next solid or one-way platform, px. `None` when nothing has that name, or nothing lies under it.
///
/// # Complexity
/// O(edges of the things below) for each of their corners.
pub fn passage_height(stage: &Stage, thing: &str) -> Option<f64> {
    if let Some(zone) = stage.zones.iter().find(|zone| zone.name == thing) {
        return Some(zone.outline.bounds.height());
    }
    let roof = &stage.solids.iter().find(|solid| solid.name == thing)?.outline;
    let below = Rect::new(roof.bounds.x0, roof.bounds.y0, roof.bounds.x1, f64::INFINITY);
    let others = stage.solids.iter().filter(|solid| solid.name != thing).map(|solid| &solid.outline);
    let floors = others.chain(stage.one_ways.iter().map(|platform| &platform.outline));
    let gaps = floors.filter(|floor| rects_overlap(floor.bounds, below)).filter_map(|floor| {
        // Between corners both boundaries are straight, so the least gap is over one of them, or just beside it.
        let corners = roof.polygon.points().iter().chain(floor.polygon.points()).map(|p: &Point| p.x);
        let ends = [roof.bounds.x0, roof.bounds.x1, floor.bounds.x0, floor.bounds.x1];
        let beside = corners.chain(ends).flat_map(|x| [x - BESIDE, x + BESIDE]);
        let gap = beside.filter_map(|x| {
            let (_, roof_bottom) = span_at(&roof.polygon, x)?;
            let (floor_top, _) = span_at(&floor.polygon, x)?;
            (floor_top >= roof_bottom).then_some(floor_top - roof_bottom)
        });
        gap.reduce(f64::min)
    });
    gaps.reduce(f64::min).map(|gap| (gap / BESIDE).round() * BESIDE)
}

/// How far beside a corner heights are taken, px; and to what they are rounded.
const BESIDE: f64 = 1e-6;

/// Highest and lowest y of a polygon at an x.
fn span_at(polygon: &Polygon, x: f64) -> Option<(f64, f64)> {
    let crossing = polygon.edges().filter(|(a, b)| (a.x <= x) != (b.x <= x));
    let heights = crossing.map(|(a, b)| a.y + (b.y - a.y) * ((x - a.x) / (b.x - a.x)));
    heights.map(|y| (y, y)).reduce(|span, (y, _)| (span.0.min(y), span.1.max(y)))
}
