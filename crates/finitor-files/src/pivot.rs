//! Pivots: written down, or found in the art.

use crate::animation_toml::{AnimationSpec, FramePlan};
use crate::survey::FrameFacts;
use crate::toml_table::{At, Table};
use finitor_core::Point;
use finitor_core::art::feet;

/// How a pivot is given.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum PivotSpec {
    /// One place on every frame, cell px.
    At(Point),
    /// A place a frame.
    Each(Vec<Point>),
    /// Bottom centre of the opaque pixels.
    Feet,
    /// The middle of the cell.
    Centre,
}

/// Reads `pivot`.
pub(crate) fn pivot_spec(table: &Table<'_>) -> Option<At<PivotSpec>> {
    let words = [("feet", ()), ("centre", ())];
    if table.is_string("pivot") {
        let text = table.string("pivot", "\"feet\"")?;
        let spec = if text.value == "centre" { PivotSpec::Centre } else { PivotSpec::Feet };
        return table.word("pivot", &words).map(|_| At { value: spec, span: text.span });
    }
    let point = |[x, y]: [f64; 2]| Point::new(x, y);
    if table.is_list_of_lists("pivot") {
        let points = table.points("pivot")?;
        let each = points.value.into_iter().map(point).collect();
        return Some(At { value: PivotSpec::Each(each), span: points.span });
    }
    let at = table.numbers::<2>("pivot", "[24, 46], \"feet\" or \"centre\"")?;
    Some(At { value: PivotSpec::At(point(at.value)), span: at.span })
}

/// The pivot of every frame: as its animation says, or else the actor.
///
/// "feet" on a canvas that frames share (cells of a grid, files of one size, images of an animated file) is that of the
/// first frame of this size and holds for the others, so that a bob or a crouch in the art stays one. Where frames share
/// no canvas each has its own, x on a whole pixel so that the art stays on the pixel grid from frame to frame.
pub(crate) fn pivots(
    actor: Option<&PivotSpec>,
    animations: &[AnimationSpec],
    plans: &[FramePlan],
    facts: &[FrameFacts],
) -> Vec<Point> {
    let mut pivots = Vec::with_capacity(plans.len());
    for (index, plan) in plans.iter().enumerate() {
        let animation = &animations[plan.animation];
        let size = facts[index].size();
        let shared = |frames: std::ops::Range<usize>| {
            let first = frames
                .clone()
                .find(|&other| shares_canvas(other, animations, plans, facts) && facts[other].size() == size);
            first.unwrap_or(index)
        };
        let own = !shares_canvas(index, animations, plans, facts);
        let (spec, scope) = match (&animation.pivot, actor) {
            (Some(spec), _) => (spec, animation.frames.clone()),
            (None, Some(spec)) => (spec, 0..plans.len()),
            (None, None) => (&PivotSpec::Feet, 0..plans.len()),
        };
        pivots.push(match spec {
            PivotSpec::At(at) => *at,
            PivotSpec::Each(points) => points.get(index - animation.frames.start).copied().unwrap_or(Point::ZERO),
            PivotSpec::Centre => Point::new(f64::from(size.0) / 2.0, f64::from(size.1) / 2.0),
            PivotSpec::Feet if own => {
                let at = feet(&facts[index].silhouette.runs()).unwrap_or(Point::ZERO);
                Point::new(at.x.floor(), at.y)
            }
            PivotSpec::Feet => feet(&facts[shared(scope)].silhouette.runs()).unwrap_or(Point::ZERO),
        });
    }
    pivots
}

/// Whether a frame lies on a canvas that others share: one by its source, and all frames of its animation of one size.
fn shares_canvas(index: usize, animations: &[AnimationSpec], plans: &[FramePlan], facts: &[FrameFacts]) -> bool {
    let frames = animations[plans[index].animation].frames.clone();
    plans[index].canvas && frames.clone().all(|other| facts[other].size() == facts[frames.start].size())
}
