//! Where warps put what they take: the bodies that land, what they are in, and where they are free.

use crate::actor::{Actor, Shape};
use crate::facing::Facing;
use crate::geometry::{Point, Rect, Vec2, deepest_overlap};
use crate::stage::{Stage, Warp, Zone};
use crate::world::{Body, World};

/// A body as it may land: the frame it is on, and its shape in a facing.
pub(super) struct Landing<'a> {
    pub(super) frame: String,
    pub(super) body: &'a Shape,
}

/// All that an actor may be when a warp puts it down.
pub(super) struct Landings<'a> {
    world: World<'a>,
    warp: &'a Warp,
    all: Vec<Landing<'a>>,
}

/// A landing deep in a solid.
pub(super) struct Blocked<'l, 'a> {
    pub(super) depth: f64,
    pub(super) landing: &'l Landing<'a>,
    pub(super) solid: &'a str,
}

/// A landing inside a warp that takes the actor again.
pub(super) struct SentBack<'a> {
    /// How far it must move to the left to leave every warp that would take it, px.
    pub(super) left: f64,
    /// How far to the right.
    pub(super) right: f64,
    /// The first such warp.
    pub(super) warp: &'a str,
}

impl<'a> Landings<'a> {
    /// Of an actor that a zone's warp takes: in every frame with a body and in the facings it may land in.
    pub(super) fn of(stage: &'a Stage, actor: &'a Actor, zone: &'a Zone) -> Option<Landings<'a>> {
        let warp = zone.warp.as_ref()?;
        let mut all = Vec::new();
        for animation in &actor.animations {
            for (number, poses) in animation.frames.iter().enumerate() {
                let facings = Facing::BOTH.into_iter().filter(|facing| warp.facing.is_none_or(|only| only == *facing));
                let bodies = facings.filter_map(|facing| poses[facing.index()].body());
                let detected = bodies.filter(|body| zone.mask.sees(body.layer));
                all.extend(detected.map(|body| Landing { frame: format!("{} {number}", animation.name), body }));
            }
        }
        Some(Landings { world: World::new(stage), warp, all })
    }

    /// Where the pivot is put.
    fn at(&self) -> Point {
        self.world.stage().landing(self.warp)
    }

    /// The deepest that any landing lies in a solid that stops it, by more than `than`, when it is moved by so much.
    pub(super) fn deepest(&self, moved: Vec2, than: f64) -> Option<Blocked<'_, 'a>> {
        let inside = self.all.iter().filter_map(|landing| {
            let found = self.world.deepest_solid(Body::new(landing.body, landing.body.mask), self.at() + moved)?;
            let (depth, solid) = (found.overlap.depth, self.world.solid(found.solid).name.as_str());
            (depth > than).then_some(Blocked { depth, landing, solid })
        });
        inside.reduce(|known, other| if other.depth > known.depth { other } else { known })
    }

    /// The shortest move that frees every landing wholly, to a hundredth of a px.
    pub(super) fn nearest_free(&self) -> Option<Vec2> {
        let bodies = self.all.iter().map(|landing| Body::new(landing.body, landing.body.mask));
        let by = self.world.free_places(bodies).nearest(self.at())? - self.at();
        // Numbers as one would write them: the nearest on a grid of hundredths that is free as well.
        let cent = |n: f64| n / 100.0;
        let (x, y) = ((by.x * 100.0).round(), (by.y * 100.0).round());
        let steps = [0.0, -1.0, 1.0, -2.0, 2.0];
        let near = steps.iter().flat_map(|dx| steps.map(|dy| Vec2::new(cent(x + dx), cent(y + dy))));
        let clear = near.filter(|by| self.deepest(*by, 0.0).is_none());
        clear.min_by(|a, b| a.hypot2().total_cmp(&b.hypot2()))
    }

    /// How far the landings must move to leave every warp that would take them at once; `None` where none would, or the
    /// cooldown lasts for as many px.
    pub(super) fn sent_back(&self, cooldown: u32) -> Option<SentBack<'a>> {
        let at = self.at().to_vec2();
        let (mut left, mut right, mut name): (f64, f64, Option<&'a str>) = (0.0, 0.0, None);
        for zone in self.world.stage().zones.iter().filter(|zone| zone.warp.is_some()) {
            for landing in self.all.iter().filter(|landing| zone.mask.sees(landing.body.layer)) {
                if deepest_overlap(&landing.body.pieces, at, &zone.outline.pieces).is_none() {
                    continue;
                }
                let (body, zone_box): (Rect, Rect) = (landing.body.bounds() + at, zone.outline.bounds);
                left = left.max(body.x1 - zone_box.x0);
                right = right.max(zone_box.x1 - body.x0);
                name = name.or(Some(&zone.name));
            }
        }
        let warp = name?;
        (f64::from(cooldown) < left.min(right)).then_some(SentBack { left, right, warp })
    }
}
