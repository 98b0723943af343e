//! uncovered_art: solid art that no hurt shape covers.

use crate::actor::{Pose, Role};
use crate::art::{Mask, Run};
use crate::finding::Place;
use crate::geometry::{Point, Polygon, Stretch, add_stretches};
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};

#[derive(Debug)]
pub(crate) struct UncoveredArt;

/// Uncovered art narrower than this is a weapon, a tail or hair, or what a shape rounds off, px.
const THIN: u32 = 6;

const UNCOVERED_ART: Threshold = Threshold {
    key: "uncovered_art",
    about: "A patch of solid art may be outside all hurt shapes up to this area.",
    unit: Unit::Px2,
    default: 100.0,
    least: 0.0,
    most: 1e7,
};

/// Uncovered art of a frame.
struct Patch {
    frame: usize,
    area: f64,
    middle: Point,
}

impl StillRule for UncoveredArt {
    const SPEC: Spec = Spec {
        code: "uncovered_art",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Px2,
        thresholds: &[UNCOVERED_ART],
        text: RuleText {
            means: "A frame has hurt shapes, and a patch of its art is outside all of these.",
            matters: "Blows go through that part of the figure without effect.",
            measured: "Opaque pixels whose middles no hurt shape of the frame covers; what is narrower than 6 px does not \
                       count, so that weapons, hair and corners may stay outside. The figure is the area of a frame's \
                       largest patch, in px2, on the frame where that is the most.",
            fix: "Extend a hurt shape over the patch, or add one; raise `uncovered_art` where the patch is meant to be safe.",
            drawing: "    _o_    hurt\n   |/|\\|\n   |/_\\|##\n       ##  <- uncovered\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        let allowed = out.threshold(&UNCOVERED_ART);
        for (index, animation) in actor.animations.iter().enumerate() {
            let frames = 0..animation.frames.len();
            let patches = frames.filter_map(|frame| uncovered(frame, actor.drawn_pose(index, frame)));
            let patches: Vec<Patch> = patches.filter(|patch| patch.area > allowed).collect();
            let worst = patches.iter().reduce(|worst, next| if next.area > worst.area { next } else { worst });
            let Some(Patch { frame, area, middle }) = worst else { continue };
            let of = match patches.len() {
                1 => String::new(),
                count => format!(", the most of {count} frames"),
            };
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(format!("{} {frame}", animation.name)),
                figure: *area,
                message: format!(
                    "{area} px2 of solid art are outside all hurt shapes on {} {frame}{of}, round ({:.0}, {:.0}) from the \
                     pivot",
                    animation.name, middle.x, middle.y
                ),
                fix: "Extend a hurt shape over the patch, or add one for it.".to_string(),
            });
        }
    }
}

/// The largest patch of solid art that no hurt shape covers; `None` where there is none, or nothing can be struck.
///
/// # Complexity
/// O(opaque pixels + rows x corners of the hurt shapes).
fn uncovered(frame: usize, pose: &Pose) -> Option<Patch> {
    let hurts: Vec<_> = pose.shapes.iter().filter(|shape| shape.role == Role::Hurt).collect();
    let bounds = pose.pixels.bounds();
    // Whole pictures of one shape or none are most of all frames.
    if hurts.is_empty() || pose.pixels.runs().is_empty() {
        return None;
    }
    let (mut row, mut stretches) = (f64::NAN, Vec::new());
    let covers = |at: Point| {
        if at.y != row {
            row = at.y;
            stretches.clear();
            for hurt in &hurts {
                add_stretches(hurt.polygons.iter().chain(&hurt.holes).map(Polygon::points), row, &mut stretches);
            }
        }
        stretches.iter().any(|stretch: &Stretch| stretch.contains(at.x))
    };
    let [_, open] = pose.pixels.parted(covers);
    let run = |rect: &crate::geometry::Rect| Run {
        row: (rect.y0 - bounds.y0).round() as u32,
        start: (rect.x0 - bounds.x0).round() as u32,
        end: (rect.x1 - bounds.x0).round() as u32,
    };
    let (width, height) = (bounds.width().round() as u32, bounds.height().round() as u32);
    let patch = Mask::from_runs(width, height, open.runs().iter().map(run)).opened(THIN).largest_island();
    let area = patch.count() as f64;
    let sums = patch.runs().iter().fold((0.0, 0.0), |(x, y), run| {
        let length = f64::from(run.len());
        (x + f64::from(run.start + run.end) / 2.0 * length, y + (f64::from(run.row) + 0.5) * length)
    });
    (area > 0.0).then(|| Patch {
        frame,
        area,
        middle: Point::new(bounds.x0 + sums.0 / area, bounds.y0 + sums.1 / area),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Rect;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::fight::drawn;

    #[test]
    fn a_patch_outside_all_hurt_shapes_is_measured_and_a_thin_one_is_not() {
        let told = |gull: Rect| {
            let actors = drawn(Rect::ZERO, gull);
            of_actor::<UncoveredArt>(&facts(&actors[1]))
        };
        // The torso covers x -8 to 8 and y -28 to 0, the head above x -6 to 6.
        assert_eq!(told(Rect::new(-8.0, -28.0, 8.0, 0.0)), [""; 0]);
        assert_eq!(told(Rect::new(-13.0, -28.0, 13.0, 0.0)), [""; 0], "5 px beside it on both sides");
        let wide = told(Rect::new(-8.0, -28.0, 18.0, 0.0));
        assert_eq!(
            wide,
            [
                "glide 0: 280: 280 px2 of solid art are outside all hurt shapes on glide 0, round (13, -14) from the pivot. Extend a hurt shape over the patch, or add one for it."
            ]
        );
        assert_eq!(told(Rect::new(-8.0, -12.0, 16.0, 0.0)), [""; 0], "100 px2 are allowed");
    }

    #[test]
    fn frames_on_which_nothing_can_be_struck_are_not_looked_at() {
        let mut actors = drawn(Rect::ZERO, Rect::new(-20.0, -40.0, 20.0, 0.0));
        actors[1].animations[0].frames[0].iter_mut().for_each(|pose| pose.shapes.clear());
        assert_eq!(of_actor::<UncoveredArt>(&facts(&actors[1])), [""; 0]);
    }
}
