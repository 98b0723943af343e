//! Pivots, found in the art where they are not written down.

use crate::animation_toml::{AnimationSpec, FramePlan};
use crate::pivot_toml::PivotSpec;
use crate::survey::FrameFacts;
use finitor_core::Point;
use finitor_core::art::feet;
use std::collections::BTreeMap;

/// The pivot of every frame: as its animation says, or else the actor.
///
/// "feet" on a canvas that frames share (cells of a grid, files of one size, images of an animated file) is that of the
/// first frame of this size and holds for the others, so that a bob or a crouch in the art stays one. Where frames share
/// no canvas each has its own, x on a whole pixel so that the art stays on the pixel grid from frame to frame.
///
/// # Complexity
/// O(n log n), n frames.
pub(crate) fn pivots(
    actor: Option<&PivotSpec>,
    animations: &[AnimationSpec],
    plans: &[FramePlan],
    facts: &[FrameFacts],
) -> Vec<Point> {
    let own_feet = |index: usize| feet(&facts[index].imprint.opaque_runs()).unwrap_or(Point::ZERO);
    // The feet of the first frame of each size, of the actor and of each animation that has its own.
    let mut first_feet: BTreeMap<(Option<usize>, (u32, u32)), Point> = BTreeMap::new();
    let mut pivots = Vec::with_capacity(plans.len());
    for (number, animation) in animations.iter().enumerate() {
        let (spec, scope) = match (&animation.pivot, actor) {
            (Some(spec), _) => (spec, Some(number)),
            (None, Some(spec)) => (spec, None),
            (None, None) => (&PivotSpec::Feet, None),
        };
        let range = animation.frames.clone();
        // A canvas is shared by its source, and when all frames of the animation have its size.
        let shared = range.clone().all(|index| plans[index].canvas && facts[index].size() == facts[range.start].size());
        for index in range.clone() {
            let size = facts[index].size();
            pivots.push(match spec {
                PivotSpec::At(at) => *at,
                PivotSpec::Each(points) => points.get(index - range.start).copied().unwrap_or(Point::ZERO),
                PivotSpec::Centre => Point::new(f64::from(size.0) / 2.0, f64::from(size.1) / 2.0),
                PivotSpec::Feet if shared => *first_feet.entry((scope, size)).or_insert_with(|| own_feet(index)),
                PivotSpec::Feet => {
                    let at = own_feet(index);
                    Point::new(at.x.floor(), at.y)
                }
            });
        }
    }
    pivots
}
