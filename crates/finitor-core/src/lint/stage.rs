//! What can be told of a stage before anybody plays on it.

use super::{LintFinding, rounded, shared_area};
use crate::check::{Rule, Severity};
use crate::geometry::{Vec2, deepest_overlap, rects_overlap};
use crate::layers::LayerSet;
use crate::stage::{Effect, Outline, Stage};

/// A body that may fall.
#[derive(Clone, Debug, PartialEq)]
pub struct Faller {
    /// `actor.shape`.
    pub name: String,
    /// Its least width over all frames and both facings, px.
    pub width: f64,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for.
    pub mask: LayerSet,
}

/// A part of the stage's bottom: from x to x, px.
type Span = (f64, f64);

/// Solids that overlap more than the slack, and gaps in the stage's bottom through which a body falls and meets no hazard.
///
/// # Complexity
/// O(solids2) box tests, and O(corners log corners) a body.
pub fn stage_findings(
    stage: &Stage,
    fallers: &[Faller],
    slack: f64,
    severity: impl Fn(Rule) -> Severity,
) -> Vec<LintFinding> {
    let mut found = overlapping(stage, slack, severity(Rule::OverlappingSolids));
    found.extend(leaks(stage, fallers, severity(Rule::LeakyBottom)));
    found
}

fn overlapping(stage: &Stage, slack: f64, severity: Severity) -> Vec<LintFinding> {
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

fn leaks(stage: &Stage, fallers: &[Faller], severity: Severity) -> Vec<LintFinding> {
    let mut told: Vec<(Span, Vec<&Faller>)> = Vec::new();
    for faller in fallers {
        for gap in gaps(stage, faller) {
            match told.iter_mut().find(|(known, _)| *known == gap) {
                Some((_, of)) => of.push(faller),
                None => told.push((gap, vec![faller])),
            }
        }
    }
    told.sort_by(|(a, _), (b, _)| a.0.total_cmp(&b.0).then(a.1.total_cmp(&b.1)));
    let finding = |((from, to), of): (Span, Vec<&Faller>)| {
        let names: Vec<&str> = of.iter().map(|faller| faller.name.as_str()).collect();
        LintFinding {
            rule: Rule::LeakyBottom,
            severity,
            actor: stage.name.clone(),
            place: format!("x {from:.2} to {to:.2}"),
            figure: rounded(to - from),
            message: format!(
                "{} can fall out of the bottom between x {from:.2} and {to:.2}, and no hazard that looks for it lies there",
                names.join(", ")
            ),
            remedy: format!("put a hazard zone over it: box = [{from:.2}, {:.2}, {:.2}, 100]", stage.size.y, to - from),
        }
    };
    told.into_iter().map(finding).collect()
}

/// The parts of the bottom that are as wide as the body at least, and hold neither something that stops it nor a hazard that
/// looks for it, at any height.
fn gaps(stage: &Stage, faller: &Faller) -> Vec<Span> {
    /// How far above the border the solids are cut, px.
    const JUST: f64 = 1e-6;
    let solids = stage.solids.iter().filter(|solid| faller.mask.sees(solid.layer));
    let mut closed: Vec<Span> = solids.flat_map(|solid| spans(&solid.outline, stage.size.y - JUST)).collect();
    let hazards = stage.zones.iter().filter(|zone| zone.effect == Effect::Hazard && zone.mask.sees(faller.layer));
    closed.extend(hazards.map(|zone| (zone.outline.bounds.x0, zone.outline.bounds.x1)));
    closed.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut gaps = Vec::new();
    let mut at: f64 = 0.0;
    for (from, to) in closed.into_iter().chain([(stage.size.x, stage.size.x)]) {
        if from - at >= faller.width {
            gaps.push((at, from.min(stage.size.x)));
        }
        at = at.max(to);
    }
    gaps
}

/// Where a level line lies inside an outline.
fn spans(outline: &Outline, y: f64) -> Vec<Span> {
    let crossing = outline.edges().filter(|(a, b)| (a.y <= y) != (b.y <= y));
    let mut at: Vec<f64> = crossing.map(|(a, b)| a.x + (b.x - a.x) * ((y - a.y) / (b.y - a.y))).collect();
    at.sort_by(f64::total_cmp);
    at.chunks_exact(2).map(|pair| (pair[0], pair[1])).collect()
}
