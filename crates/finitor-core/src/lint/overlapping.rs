//! Solids in one another.

use super::{LintFinding, rounded, shared_area};
use crate::check::{Rule, Severity};
use crate::geometry::{Vec2, deepest_overlap, rects_overlap};
use crate::stage::Stage;

/// Solids that overlap more than the slack.
///
/// # Complexity
/// O(solids2) box tests.
pub fn overlapping_solids(stage: &Stage, slack: f64, severity: Severity) -> Vec<LintFinding> {
    let mut found = Vec::new();
    for (i, one) in stage.solids.iter().enumerate() {
        let later = stage.solids[i + 1..].iter();
        for other in later.filter(|other| rects_overlap(one.outline.bounds, other.outline.bounds)) {
            let deepest = deepest_overlap(&one.outline.pieces, Vec2::ZERO, &other.outline.pieces);
            let Some((overlap, ..)) = deepest.filter(|(overlap, ..)| overlap.depth > slack) else { continue };
            let area = shared_area(&one.outline.pieces, &other.outline.pieces);
            let (x, y) = (overlap.push.x * overlap.depth + 0.0, overlap.push.y * overlap.depth + 0.0);
            found.push(LintFinding {
                rule: Rule::OverlappingSolids,
                severity,
                actor: stage.name.clone(),
                place: one.name.clone(),
                figure: rounded(area),
                message: format!("{} and {} share {area:.1} px2, {:.2} px deep", one.name, other.name, overlap.depth),
                remedy: format!(
                    "move {} by ({x:.2}, {y:.2}) so that they are flush, or make one outline of both",
                    one.name
                ),
            });
        }
    }
    found
}
