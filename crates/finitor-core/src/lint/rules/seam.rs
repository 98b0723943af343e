//! seam: two solids nearly touch, or meet in a floor.

use crate::finding::Place;
use crate::geometry::{TOUCH, Vec2, separation};
use crate::lint::facts::StageFacts;
use crate::lint::floors::{Joint, LEAST_SEAM, Surfaces};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Stage;
use crate::world::{SolidIndex, World};

#[derive(Debug)]
pub(crate) struct Seam;

impl StillRule for Seam {
    const SPEC: Spec = Spec {
        code: "seam",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Two solids are less than 1 px apart, stand less than 1 px over one another in the floor, or are \
                    flush there.",
            matters: "A body's corner catches in the slit or on the lip. Flush solids have an edge between them that \
                      stops a body in games which take solids one by one.",
            measured: "The distance along the edge normal that parts them most, and the height of each lip in the \
                       floor. Flush ones are a note with figure 0. Tiles are merged, and have no seams between them.",
            fix: "Move the one named as the finding says; or merge both into one outline.",
            drawing: "  ______ ______\n  ######|######\n  ######|######   slit, lip or edge\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        slits(facts.stage).into_iter().for_each(|fault| out.report(fault));
        let joints = Surfaces::new(facts.stage).joints();
        for joint in joints.iter().filter(|joint| joint.is_seam() && joint.rise > TOUCH) {
            out.report(lip(facts.stage, joint));
        }
        if let Some(fault) = flush(facts.stage, &joints) {
            out.note(fault);
        }
    }
}

/// Solids that nearly touch.
///
/// # Complexity
/// O(n log n + k), n solids, k pairs that are near.
fn slits(stage: &Stage) -> Vec<Fault> {
    let world = World::new(stage);
    let mut found = Vec::new();
    for (index, one) in stage.solids.iter().enumerate() {
        let around = one.outline.bounds.inflate(LEAST_SEAM, LEAST_SEAM);
        let later = world.solids_in(around).into_iter().filter(|SolidIndex(at)| *at as usize > index);
        for other in later.map(|at| world.solid(at)).filter(|other| around.overlaps(other.outline.bounds)) {
            let pairs = one.outline.pieces.iter().flat_map(|a| other.outline.pieces.iter().map(move |b| (a, b)));
            let apart = pairs.map(|(a, b)| separation(a, b)).min_by(|a, b| a.0.total_cmp(&b.0));
            let is_slit = |apart: f64| apart > TOUCH && apart < LEAST_SEAM;
            let Some((apart, way)) = apart.filter(|(apart, _)| is_slit(*apart)) else { continue };
            let by: Vec2 = way * apart;
            found.push(Fault {
                subject: stage.name.clone(),
                place: Place::Stage(format!("{}, {}", one.name, other.name)),
                figure: apart,
                message: format!("{} and {} are {apart:.2} px apart: corners catch in the slit", one.name, other.name),
                fix: format!("Move {} by ({:.2}, {:.2}) px, so that they are flush.", one.name, by.x + 0.0, by.y + 0.0),
            });
        }
    }
    found
}

/// A lip between two solids.
fn lip(stage: &Stage, joint: &Joint) -> Fault {
    let Joint { at, rise, .. } = joint;
    let (low, high) = (&stage.solids[joint.low].name, &stage.solids[joint.high].name);
    Fault {
        subject: stage.name.clone(),
        place: Place::Stage(format!("{low}, {high} at {:.2}, {:.2}", at.x, at.y)),
        figure: *rise,
        message: format!("{high} stands {rise:.2} px over {low}: a lip that bodies catch on"),
        fix: format!("Move {high} down by {rise:.2} px, or {low} up, so that they are flush."),
    }
}

/// Joints in the floor that are flush, all in one.
fn flush(stage: &Stage, joints: &[Joint]) -> Option<Fault> {
    const MOST_NAMED: usize = 6;
    let flush: Vec<String> = joints
        .iter()
        .filter(|joint| joint.is_seam() && joint.rise <= TOUCH)
        .map(|Joint { at, low, high, .. }| {
            let (one, other) = (&stage.solids[*low].name, &stage.solids[*high].name);
            format!("{one} and {other} at {:.2}, {:.2}", at.x, at.y)
        })
        .collect();
    if flush.is_empty() {
        return None;
    }
    let more = match flush.len().saturating_sub(MOST_NAMED) {
        0 => String::new(),
        more => format!("; and {more} more"),
    };
    let named = flush[..flush.len().min(MOST_NAMED)].join("; ");
    Some(Fault {
        subject: stage.name.clone(),
        place: Place::Stage("floor".to_string()),
        figure: 0.0,
        message: format!("Solids meet flush in the floor: {named}{more}"),
        fix: "Merge them into one outline where the game takes solids one by one.".to_string(),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::testing::{LEVEL, hero, planks, solid, stage};

    #[test]
    fn slits_and_lips_are_warned_of_and_flush_joints_are_one_note() {
        assert_eq!(
            of_stage::<Seam>(&planks(0.0), &[hero(0)]),
            [
                "floor: 0: Solids meet flush in the floor: near and far at 100.00, 200.00. Merge them into one outline where the game takes solids one by one."
            ]
        );
        assert_eq!(
            of_stage::<Seam>(&planks(0.25), &[hero(0)]),
            [
                "far, near at 100.00, 200.00: 0.25: near stands 0.25 px over far: a lip that bodies catch on. Move near down by 0.25 px, or far up, so that they are flush."
            ]
        );
        let mut apart = stage();
        apart.solids.push(solid("near", Rect::new(0.0, LEVEL, 99.75, 300.0)));
        apart.solids.push(solid("far", Rect::new(100.0, LEVEL, 400.0, 300.0)));
        assert_eq!(
            of_stage::<Seam>(&apart, &[hero(0)]),
            [
                "near, far: 0.25: near and far are 0.25 px apart: corners catch in the slit. Move near by (0.25, 0.00) px, so that they are flush."
            ]
        );
        apart.solids[0] = solid("near", Rect::new(0.0, LEVEL, 80.0, 300.0));
        assert_eq!(of_stage::<Seam>(&apart, &[hero(0)]), [""; 0], "a gap of 20 px is no slit");
    }
}
