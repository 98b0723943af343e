//! Places that a body can come into and not out of again.

use super::Stance;
use super::ways::{Node, Seen, Ways};
use crate::geometry::{Point, Rect};
use crate::stage::{Effect, Stage};

/// A pocket: floors from which a body comes back neither to where it starts nor to anything that takes it on.
#[derive(Clone, Debug, PartialEq)]
pub struct Pocket {
    /// Where the pivot may be in it, up to the highest it can jump, world space.
    pub bounds: Rect,
    /// Its lowest floor, y of the pivot.
    pub floor: f64,
    /// The jump that would lead out, px; none where no jump does.
    pub needs: Option<f64>,
}

/// The pockets that a body can come into from a place where it starts, when it jumps no higher than `jump` px (infinite where that is not
/// known); from left to right.
///
/// Sideways it may move at will in the air, and drop through platforms that pass upwards: what is reported as a pocket is one
/// for any motion that rises no higher. Goals, hazards and the stage's borders take a body on.
///
/// # Complexity
/// That of [`crate::world::Space::new`], and O(w f), w ways between gaps and f floors.
pub fn pockets(stage: &Stage, stance: &Stance, start: Point, jump: f64) -> Vec<Pocket> {
    let area = stage.area();
    let ways = Ways::new(stage, stance, &[], area, |_| false);
    let Some(first) = ways.node_at(start) else { return Vec::new() };
    let (reached, _) = ways.visit(&[(first, start.y)], jump, |_| false);
    let mut good = vec![false; ways.ways.len()];
    good[first] = true;
    for (zone, nodes) in stage.zones.iter().zip(&ways.in_zone) {
        if matches!(zone.effect, Effect::Goal | Effect::Hazard) {
            nodes.iter().for_each(|node| good[*node] = true);
        }
    }
    for (node, good) in good.iter_mut().enumerate().take(ways.gaps()) {
        let extent = ways.extent(node);
        *good |= extent.x0 <= area.x0 || extent.x1 >= area.x1 || extent.y1 >= area.y1;
    }
    // Each node's pocket, by its place among those found; a pocket within a larger one is taken up by it.
    let mut of: Vec<Option<usize>> = vec![None; ways.ways.len()];
    let mut found: Vec<Option<Pocket>> = Vec::new();
    for from in 0..ways.gaps() {
        let Some(at) = ways.floor[from].filter(|_| reached.contains_key(&from) && !good[from] && of[from].is_none())
        else {
            continue;
        };
        let (seen, out) = ways.visit(&[(from, at)], jump, |node| good[node]);
        if out {
            // What lay on its way need not lead out itself: it may have been jumped over.
            good[from] = true;
            continue;
        }
        let inside: Vec<Node> = (0..ways.gaps()).filter(|node| seen.contains_key(node)).collect();
        for node in &inside {
            if let Some(within) = of[*node].replace(found.len()) {
                found[within] = None;
            }
        }
        found.push(Some(pocket(&ways, &inside, &seen, &good)));
    }
    let mut found: Vec<Pocket> = found.into_iter().flatten().collect();
    found.sort_by(|a, b| a.bounds.x0.total_cmp(&b.bounds.x0).then(a.floor.total_cmp(&b.floor)));
    found
}

fn pocket(ways: &Ways, inside: &[Node], seen: &Seen, good: &[bool]) -> Pocket {
    let extents = inside.iter().map(|node| {
        let extent = ways.extent(*node);
        let highest = seen.get(node).copied().unwrap_or(extent.y1);
        Rect::new(extent.x0, extent.y0.max(highest).min(extent.y1), extent.x1, extent.y1)
    });
    let bounds = extents.reduce(|a, b| a.union(b)).unwrap_or(Rect::ZERO);
    let floors = || inside.iter().filter_map(|node| Some((*node, ways.floor[*node]?)));
    let floor = floors().map(|(_, y)| y).fold(f64::NEG_INFINITY, f64::max);
    let needs = floors().filter_map(|(node, y)| least_jump(ways, node, y, good)).min_by(f64::total_cmp);
    Pocket { bounds, floor, needs }
}

/// The least jump by which a floor's body comes out, of those that lead over one edge of the ways.
fn least_jump(ways: &Ways, from: Node, y: f64, good: &[bool]) -> Option<f64> {
    let mut heights: Vec<f64> = ways.ways.iter().flatten().map(|way| y - way.low).filter(|jump| *jump > 0.0).collect();
    heights.sort_by(f64::total_cmp);
    heights.dedup();
    let leads_out = |jump: f64| ways.visit(&[(from, y)], jump, |node| good[node]).1;
    let place = heights.partition_point(|jump| !leads_out(*jump));
    heights.get(place).copied()
}
