//! How a pack counts coordinates, and the way from one space to another.

use super::{Art, Number, Pack, PackPoint, PackShape, PackStage, PackThing, Ring};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The way in which y grows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "lowercase")]
pub enum UpAxis {
    /// Towards the bottom of the screen.
    Down,
    /// Towards its top; stages then count from their bottom.
    Up,
}

/// Where actors' coordinates are counted from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "lowercase")]
pub enum Origin {
    /// The pivot.
    Pivot,
    /// The corner of the frame as it is shown: its top left, or with y up its bottom left.
    Cell,
}

/// The order of corners, as they are seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "lowercase")]
pub enum Winding {
    /// As the hands of a clock.
    Clockwise,
    /// Against them.
    Counterclockwise,
}

/// How coordinates are counted.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Space {
    /// The way in which y grows.
    pub y: UpAxis,
    /// Px a length unit.
    pub unit: Number,
    /// Binary digits behind the point of fixed-point numbers: a written 256 is 1 where these are 8.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fixed: Option<u32>,
    /// Where actors' coordinates are counted from.
    pub origin: Origin,
    /// The order of corners.
    pub winding: Winding,
}

impl Space {
    /// That of the program itself: px, y down, from the pivot, clockwise.
    pub const OWN: Space =
        Space { y: UpAxis::Down, unit: Number(1.0), fixed: None, origin: Origin::Pivot, winding: Winding::Clockwise };

    /// In words, for comments.
    pub(super) fn words(&self) -> String {
        let up = match self.y {
            UpAxis::Down => "y down",
            UpAxis::Up => "y up",
        };
        let origin = match self.origin {
            Origin::Pivot => "from the pivot",
            Origin::Cell => "from the cell's corner",
        };
        let order = match self.winding {
            Winding::Clockwise => "clockwise",
            Winding::Counterclockwise => "counterclockwise",
        };
        let fixed = self.fixed.map_or_else(String::new, |bits| format!(", fixed point with {bits} binary digits"));
        format!("{up}, {} px a unit{fixed}, {origin}, {order}", self.unit)
    }

    /// A length in px as it is written.
    fn written(&self, px: f64) -> f64 {
        self.stored(px / self.unit.0)
    }

    /// A number as it is written: rounded where it is fixed point, and never a negative zero.
    fn stored(&self, number: f64) -> f64 {
        let stored = self.fixed.map_or(number, |bits| (number * f64::from(1_u32 << bits)).round());
        stored + 0.0
    }

    /// A written number.
    fn read(&self, written: f64) -> f64 {
        self.fixed.map_or(written, |bits| written / f64::from(1_u32 << bits))
    }

    /// A written length in px.
    fn px(&self, written: f64) -> f64 {
        self.read(written) * self.unit.0
    }

    /// From the pivot, y down, px, to this space's counting in px.
    fn placed(&self, art: &Art, PackPoint { x, y }: PackPoint) -> PackPoint {
        let pivot = art.pivot;
        match (self.origin, self.y) {
            (Origin::Pivot, UpAxis::Down) => PackPoint { x, y },
            (Origin::Pivot, UpAxis::Up) => PackPoint { x, y: 0.0 - y },
            (Origin::Cell, UpAxis::Down) => PackPoint { x: x + pivot.x, y: y + pivot.y },
            (Origin::Cell, UpAxis::Up) => PackPoint { x: x + pivot.x, y: f64::from(art.rect[3]) - (y + pivot.y) },
        }
    }

    /// The way back.
    fn local(&self, art: &Art, PackPoint { x, y }: PackPoint) -> PackPoint {
        let pivot = art.pivot;
        match (self.origin, self.y) {
            (Origin::Pivot, UpAxis::Down) => PackPoint { x, y },
            (Origin::Pivot, UpAxis::Up) => PackPoint { x, y: 0.0 - y },
            (Origin::Cell, UpAxis::Down) => PackPoint { x: x - pivot.x, y: y - pivot.y },
            (Origin::Cell, UpAxis::Up) => PackPoint { x: x - pivot.x, y: f64::from(art.rect[3]) - y - pivot.y },
        }
    }
}

/// From one space to another.
struct Change {
    from: Space,
    to: Space,
}

impl Change {
    fn length(&self, written: f64) -> f64 {
        self.to.written(self.from.px(written))
    }

    fn on_frame(&self, art: &Art, at: PackPoint) -> PackPoint {
        let at = PackPoint { x: self.from.px(at.x), y: self.from.px(at.y) };
        let at = self.to.placed(art, self.from.local(art, at));
        PackPoint { x: self.to.written(at.x), y: self.to.written(at.y) }
    }

    fn on_stage(&self, height: f64, at: PackPoint) -> PackPoint {
        let y = self.from.px(at.y);
        let y = if self.from.y == self.to.y { y } else { height - y };
        PackPoint { x: self.length(at.x), y: self.to.written(y) }
    }

    /// A unit vector: not measured in length units.
    fn direction(&self, way: PackPoint) -> PackPoint {
        let (x, y) = (self.from.read(way.x), self.from.read(way.y));
        let y = if self.from.y == self.to.y { y } else { 0.0 - y };
        PackPoint { x: self.to.stored(x), y: self.to.stored(y) }
    }

    fn ring(&self, ring: &mut Ring, at: impl Fn(PackPoint) -> PackPoint) {
        for point in &mut *ring {
            *point = at(*point);
        }
        if self.from.winding != self.to.winding && !ring.is_empty() {
            ring[1..].reverse();
        }
    }

    fn shape(&self, art: &Art, shape: &mut PackShape) {
        let at = |x: Number, y: Number| self.on_frame(art, PackPoint { x: x.0, y: y.0 });
        if let Some([x, y, width, height]) = &mut shape.rect {
            // The corner with the least y is another one when y is turned.
            let low = if self.from.y == self.to.y { *y } else { Number(y.0 + height.0) };
            let corner = at(*x, low);
            (*x, *y) = (Number(corner.x), Number(corner.y));
            (*width, *height) = (Number(self.length(width.0)), Number(self.length(height.0)));
        }
        if let Some([x, y, r]) = &mut shape.circle {
            let middle = at(*x, *y);
            (*x, *y, *r) = (Number(middle.x), Number(middle.y), Number(self.length(r.0)));
        }
        if let Some([x1, y1, x2, y2, r]) = &mut shape.capsule {
            let (one, other) = (at(*x1, *y1), at(*x2, *y2));
            (*x1, *y1, *x2, *y2) = (Number(one.x), Number(one.y), Number(other.x), Number(other.y));
            *r = Number(self.length(r.0));
        }
        for ring in shape.outline.iter_mut().chain(&mut shape.holes).chain(&mut shape.pieces) {
            self.ring(ring, |point| self.on_frame(art, point));
        }
    }

    fn thing(&self, height: f64, thing: &mut PackThing) {
        let rings = std::iter::once(&mut thing.outline).chain(&mut thing.holes).chain(&mut thing.pieces);
        for ring in rings {
            self.ring(ring, |point| self.on_stage(height, point));
        }
    }

    fn stage(&self, stage: &mut PackStage) {
        let height = self.from.px(stage.size.y);
        stage.size = PackPoint { x: self.length(stage.size.x), y: self.length(stage.size.y) };
        stage.solids.iter_mut().for_each(|solid| self.thing(height, solid));
        for one_way in &mut stage.one_ways {
            self.thing(height, &mut one_way.thing);
            one_way.passes = self.direction(one_way.passes);
        }
        for zone in &mut stage.zones {
            self.thing(height, &mut zone.thing);
            if let Some(warp) = &mut zone.warp {
                warp.landing = self.on_stage(height, warp.landing);
            }
        }
        stage.spawns.iter_mut().for_each(|spawn| spawn.at = self.on_stage(height, spawn.at));
        stage.spots.iter_mut().for_each(|spot| spot.at = self.on_stage(height, spot.at));
    }
}

impl Space {
    /// A shape of this space in another.
    pub(super) fn shape_to(&self, space: &Space, art: &Art, mut shape: PackShape) -> PackShape {
        Change { from: *self, to: *space }.shape(art, &mut shape);
        shape
    }
}

impl Pack {
    /// The same in another space. Exact but for rounding, and for that to fixed point.
    ///
    /// # Complexity
    /// O(points).
    #[must_use]
    pub fn in_space(mut self, space: Space) -> Pack {
        let change = Change { from: self.space, to: space };
        for side in self.actors.iter_mut().flat_map(|actor| &mut actor.frames).flat_map(|frame| &mut frame.sides) {
            for at in side.anchors.values_mut() {
                *at = change.on_frame(&side.art, *at);
            }
            for shape in &mut side.shapes {
                change.shape(&side.art, shape);
            }
        }
        self.stages.iter_mut().for_each(|stage| change.stage(stage));
        self.space = space;
        self
    }
}
