//! The things of a stage, found by place.

use crate::geometry::{BoxTree, Convex, Rect, rects_meet};
use crate::layers::LayerSet;
use crate::stage::{OneWay, Outline, Solid, Stage, Zone};

/// Which of a stage's solids.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct SolidIndex(pub u32);

/// Which of a stage's one-way platforms.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct OneWayIndex(pub u32);

/// Which of a stage's zones.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct ZoneIndex(pub u32);

/// Something of a stage that can stop a body.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Thing {
    /// A solid.
    Solid(SolidIndex),
    /// A one-way platform.
    OneWay(OneWayIndex),
}

/// A stage with its things in trees, by sort.
#[derive(Debug)]
pub struct World<'a> {
    stage: &'a Stage,
    solids: BoxTree<SolidIndex>,
    one_ways: BoxTree<OneWayIndex>,
    zones: BoxTree<ZoneIndex>,
}

/// The things of a stage that meet a box, in the stage's order.
#[derive(Clone, Debug, Default)]
pub(crate) struct NearThings {
    pub(crate) solids: Vec<SolidIndex>,
    pub(crate) one_ways: Vec<OneWayIndex>,
    pub(crate) zones: Vec<ZoneIndex>,
}

impl NearThings {
    pub(crate) fn clear(&mut self) {
        self.solids.clear();
        self.one_ways.clear();
        self.zones.clear();
    }

    /// All of them.
    pub(crate) fn all(&self) -> Near<'_> {
        Near { solids: &self.solids, one_ways: &self.one_ways, zones: &self.zones }
    }
}

/// The same, borrowed.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Near<'t> {
    pub(crate) solids: &'t [SolidIndex],
    pub(crate) one_ways: &'t [OneWayIndex],
    pub(crate) zones: &'t [ZoneIndex],
}

impl Near<'_> {
    /// Whether there are none.
    pub(crate) fn is_empty(&self) -> bool {
        self.solids.is_empty() && self.one_ways.is_empty() && self.zones.is_empty()
    }
}

/// The things about a place, kept from tick to tick while what is asked for lies within the area in which they were found.
#[derive(Clone, Debug, Default)]
pub(crate) struct Vicinity {
    area: Option<Rect>,
    things: NearThings,
}

impl Vicinity {
    /// Adds all things that meet a box to lists, each in the stage's order, as [`World::find`] does.
    ///
    /// # Complexity
    /// O(k), k things within half the box's size of it; that of [`World::find`] where the box moved that far.
    pub(crate) fn find(&mut self, world: &World<'_>, wanted: Rect, found: &mut NearThings) {
        let holds =
            |area: Rect| area.x0 <= wanted.x0 && area.y0 <= wanted.y0 && wanted.x1 <= area.x1 && wanted.y1 <= area.y1;
        if !self.area.is_some_and(holds) {
            let around = 0.5 * wanted.width().max(wanted.height());
            let area = wanted.inflate(around, around);
            self.things.clear();
            world.find(area, &mut self.things);
            self.area = Some(area);
        }
        let meets = |bounds: Rect| rects_meet(bounds, wanted);
        let NearThings { solids, one_ways, zones } = &self.things;
        found.solids.extend(solids.iter().filter(|solid| meets(world.solid(**solid).outline.bounds)));
        found.one_ways.extend(one_ways.iter().filter(|one_way| meets(world.one_way(**one_way).outline.bounds)));
        found.zones.extend(zones.iter().filter(|zone| meets(world.zone(**zone).outline.bounds)));
    }
}

impl<'a> World<'a> {
    /// The stage, indexed.
    ///
    /// # Complexity
    /// O(n log2 n), n things.
    pub fn new(stage: &'a Stage) -> World<'a> {
        let solids = stage.solids.iter().zip(0..).map(|(solid, at)| (solid.outline.bounds, SolidIndex(at)));
        let one_ways = stage.one_ways.iter().zip(0..).map(|(one_way, at)| (one_way.outline.bounds, OneWayIndex(at)));
        let zones = stage.zones.iter().zip(0..).map(|(zone, at)| (zone.outline.bounds, ZoneIndex(at)));
        World { stage, solids: BoxTree::new(solids), one_ways: BoxTree::new(one_ways), zones: BoxTree::new(zones) }
    }

    /// The stage itself.
    pub fn stage(&self) -> &'a Stage {
        self.stage
    }

    /// A solid.
    pub fn solid(&self, index: SolidIndex) -> &'a Solid {
        &self.stage.solids[index.0 as usize]
    }

    /// A one-way platform.
    pub fn one_way(&self, index: OneWayIndex) -> &'a OneWay {
        &self.stage.one_ways[index.0 as usize]
    }

    /// A zone.
    pub fn zone(&self, index: ZoneIndex) -> &'a Zone {
        &self.stage.zones[index.0 as usize]
    }

    /// The outline of a thing that can stop a body.
    pub fn outline(&self, thing: Thing) -> &'a Outline {
        match thing {
            Thing::Solid(index) => &self.solid(index).outline,
            Thing::OneWay(index) => &self.one_way(index).outline,
        }
    }

    /// The convex pieces of a thing.
    pub(crate) fn pieces(&self, thing: Thing) -> &'a [Convex] {
        &self.outline(thing).pieces
    }

    /// What a thing is on.
    pub fn layer(&self, thing: Thing) -> LayerSet {
        match thing {
            Thing::Solid(index) => self.solid(index).layer,
            Thing::OneWay(index) => self.one_way(index).layer,
        }
    }

    /// Its name on the stage.
    pub fn name(&self, thing: Thing) -> &'a str {
        match thing {
            Thing::Solid(index) => &self.solid(index).name,
            Thing::OneWay(index) => &self.one_way(index).name,
        }
    }

    /// Its name with the stage's: `pier/quay`.
    pub fn full_name(&self, thing: Thing) -> String {
        format!("{}/{}", self.stage.name, self.name(thing))
    }

    /// Adds all things that meet a box to lists, each in the stage's order.
    ///
    /// # Complexity
    /// O(log s + k) as a rule, s things, k of them found.
    pub(crate) fn find(&self, area: Rect, found: &mut NearThings) {
        self.solids.find(area, &mut found.solids);
        self.one_ways.find(area, &mut found.one_ways);
        self.zones.find(area, &mut found.zones);
    }

    /// All things that meet a box.
    pub(crate) fn things_in(&self, area: Rect) -> NearThings {
        let mut found = NearThings::default();
        self.find(area, &mut found);
        found
    }

    /// The solids that meet a box.
    pub(crate) fn solids_in(&self, area: Rect) -> Vec<SolidIndex> {
        let mut found = Vec::new();
        self.solids.find(area, &mut found);
        found
    }
}
