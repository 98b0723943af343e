//! Which one-way platforms a drop led a body through.

use super::step::Step;
use crate::geometry::{TOUCH, Vec2, extent_along};
use crate::stage::OneWay;
use crate::world::{Near, OneWayIndex, World, shared_across};

/// A platform that a drop led through, and the tick on which the body got into it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Dropped {
    pub(crate) platform: OneWayIndex,
    pub(crate) since: u64,
}

/// A drop that led through a second platform further down.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Overrun {
    pub(crate) first: Dropped,
    pub(crate) second: OneWayIndex,
}

/// What is known of a drop on a tick.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct DropSeen {
    /// The platform that it led through first, as known before this tick.
    pub(crate) through: Option<Dropped>,
    /// The platform that it ought not to have passed, and does on this tick.
    pub(crate) overrun: Option<Overrun>,
}

/// The platforms that the drop under way led through.
#[derive(Clone, Debug, Default)]
pub(crate) struct DropMemory(Vec<Dropped>);

impl DropMemory {
    /// Forgets the drop.
    pub(crate) fn clear(&mut self) {
        self.0.clear();
    }

    /// Takes in a step; `passing` are the platforms that the body is passing now.
    pub(crate) fn observe(
        &mut self,
        world: &World<'_>,
        step: &Step<'_>,
        near: Near<'_>,
        passing: &[OneWayIndex],
    ) -> DropSeen {
        let through = self.0.first().copied();
        if !step.now().is_dropping {
            self.clear();
            return DropSeen { through, overrun: None };
        }
        let Some((before, old)) = step.before().zip(step.old_body) else { return DropSeen { through, overrun: None } };
        let mut overrun = None;
        for &index in near.one_ways {
            let platform = world.one_way(index);
            let way = platform.passes.direction();
            let far = extent_along(std::slice::from_ref(&platform.outline.polygon), Vec2::ZERO, way).1;
            let lay_beyond = extent_along(&old.polygons, before.at.to_vec2(), way).0 >= far - step.rough();
            let is_known = self.0.iter().any(|known| known.platform == index);
            if is_known || !lay_beyond || !(passing.contains(&index) || is_under(step, platform, far)) {
                continue;
            }
            self.0.push(Dropped { platform: index, since: step.now().tick });
            let [first, _, ..] = self.0[..] else { continue };
            let top = std::slice::from_ref(&world.one_way(first.platform).outline.polygon);
            // Side by side they are one floor.
            if far <= extent_along(top, Vec2::ZERO, way).0 + TOUCH {
                overrun = Some(Overrun { first, second: index });
            }
        }
        DropSeen { through, overrun }
    }
}

/// Whether a body over a platform has its trailing side past the platform's far side: at its edge, or deeper.
fn is_under(step: &Step<'_>, platform: &OneWay, far: f64) -> bool {
    let way = platform.passes.direction();
    let (at, shared) = (step.now().at, shared_across(platform, step.body, step.now().at));
    let is_over = shared.left < shared.right - step.rough();
    is_over && extent_along(&step.body.polygons, at.to_vec2(), way).0 < far - step.rough()
}
