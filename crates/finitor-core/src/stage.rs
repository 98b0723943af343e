//! The still world, in world space.

mod passage;
mod tiles;

pub use passage::passage_height;
pub use tiles::{MergedTiles, TileFill, TileGrid, merged_tiles};

use crate::facing::Facing;
use crate::geometry::{Convex, Point, Polygon, Rect, Vec2};
use crate::layers::{LayerSet, PartyRole, Stand};
use std::fmt;

/// What the names of things made of tiles begin with; column and row of the first cell follow.
pub const TILES_NAME: &str = "tiles_";

/// A still outline with what checks need of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Outline {
    /// The outline itself.
    pub polygon: Polygon,
    /// Holes in it.
    pub holes: Vec<Polygon>,
    /// Convex pieces that tile it.
    pub pieces: Vec<Convex>,
    /// The smallest rectangle around it.
    pub bounds: Rect,
    /// Its edges that lead right, as they come: what something can stand on.
    pub tops: Vec<Edge>,
}

/// An edge of an outline, with the inside to its right.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Edge {
    /// Where it begins.
    pub from: Point,
    /// Where it ends.
    pub to: Point,
}

impl From<Polygon> for Outline {
    fn from(polygon: Polygon) -> Outline {
        let pieces = polygon.pieces();
        Outline::new(polygon, Vec::new(), pieces)
    }
}

impl Outline {
    /// An outline with holes, and the convex pieces that tile it.
    pub fn new(polygon: Polygon, holes: Vec<Polygon>, pieces: Vec<Convex>) -> Outline {
        let bounds = polygon.bounds();
        let mut outline = Outline { polygon, holes, pieces, bounds, tops: Vec::new() };
        let tops = outline.edges().filter(|(a, b)| a.x < b.x);
        outline.tops = tops.map(|(from, to)| Edge { from, to }).collect();
        outline
    }

    /// Its edges and those of its holes, each with the inside to its right.
    pub fn edges(&self) -> impl Iterator<Item = (Point, Point)> + '_ {
        let holes = self.holes.iter().flat_map(Polygon::edges).map(|(a, b)| (b, a));
        self.polygon.edges().chain(holes)
    }
}

/// Something that stops bodies from all sides.
#[derive(Clone, Debug, PartialEq)]
pub struct Solid {
    /// Its name, unique in the stage.
    pub name: String,
    /// Where it is.
    pub outline: Outline,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for: nothing follows from that, since only what moves is stopped, yet sensors and tables tell it.
    pub mask: LayerSet,
}

/// The way in which a one-way platform lets bodies pass.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Passes {
    /// From below to above: it stops what comes down.
    Up,
    /// From above to below.
    Down,
    /// From right to left.
    Left,
    /// From left to right.
    Right,
    /// Degrees from up, clockwise as seen: 45 is up and to the right.
    Angle(f64),
}

impl Passes {
    /// The ways with a word in the files.
    pub const WORDS: [(&'static str, Passes); 4] =
        [("up", Passes::Up), ("down", Passes::Down), ("left", Passes::Left), ("right", Passes::Right)];

    /// The axis at right angles to the way, world space.
    pub(crate) fn across(self) -> Vec2 {
        let way = self.direction();
        match self {
            Passes::Angle(_) => Vec2::new(0.0 - way.y, way.x),
            _ => Vec2::new(way.y.abs(), way.x.abs()),
        }
    }

    /// The way as a unit vector, world space.
    pub fn direction(self) -> Vec2 {
        match self {
            Passes::Up => Vec2::new(0.0, -1.0),
            Passes::Down => Vec2::new(0.0, 1.0),
            Passes::Left => Vec2::new(-1.0, 0.0),
            Passes::Right => Vec2::new(1.0, 0.0),
            Passes::Angle(degrees) => {
                let (sine, cosine) = degrees.to_radians().sin_cos();
                Vec2::new(sine, 0.0 - cosine)
            }
        }
    }

    /// Whether it lets pass upwards, so that bodies stand on it and may be let down.
    pub fn is_upward(self) -> bool {
        self.direction().y < -1e-9
    }
}

impl fmt::Display for Passes {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (Passes::WORDS.iter().find(|(_, way)| way == self), self) {
            (Some((word, _)), _) => f.write_str(word),
            (None, Passes::Angle(degrees)) => write!(f, "{degrees} degrees from up"),
            (None, _) => Ok(()),
        }
    }
}

/// A platform that stops bodies from one side only.
#[derive(Clone, Debug, PartialEq)]
pub struct OneWay {
    /// Its name, unique in the stage.
    pub name: String,
    /// Where it is.
    pub outline: Outline,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for; nothing follows from that.
    pub mask: LayerSet,
    /// The way it lets bodies pass.
    pub passes: Passes,
}

/// What a zone does to those that enter.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Effect {
    /// It ends their run.
    Hazard,
    /// They have reached what they wanted.
    Goal,
    /// Something of the game's own.
    Event,
    /// It puts them elsewhere; see [`Warp`].
    Warp,
}

impl Effect {
    /// All effects, as the files name them.
    pub const ALL: [Effect; 4] = [Effect::Hazard, Effect::Goal, Effect::Event, Effect::Warp];

    /// The effect's word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Effect::Hazard => "hazard",
            Effect::Goal => "goal",
            Effect::Event => "event",
            Effect::Warp => "warp",
        }
    }

    /// Reads an effect's word.
    pub fn parse(word: &str) -> Option<Effect> {
        Effect::ALL.into_iter().find(|effect| effect.name() == word)
    }
}

/// Where a warp puts what enters it.
#[derive(Clone, Debug, PartialEq)]
pub struct Warp {
    /// The zone that it leads to, by index.
    pub to: usize,
    /// From that zone's middle to the pivot, px.
    pub landing: Vec2,
    /// Where it looks then; as before where not given.
    pub facing: Option<Facing>,
    /// Whether its speed is mirrored when it looks the other way then.
    pub turns_velocity: bool,
}

impl Stage {
    /// All that a body can meet, solids, then one-way platforms, then zones: name, outline, and what decides about pairs
    /// with it.
    pub fn things(&self) -> impl Iterator<Item = (&str, &Outline, Stand)> {
        let stand = |role, layer, mask| Stand { role, layer, mask };
        let solids =
            self.solids.iter().map(move |s| (s.name.as_str(), &s.outline, stand(PartyRole::Solid, s.layer, s.mask)));
        let one_ways =
            self.one_ways.iter().map(move |o| (o.name.as_str(), &o.outline, stand(PartyRole::OneWay, o.layer, o.mask)));
        let zones = self
            .zones
            .iter()
            .map(move |z| (z.name.as_str(), &z.outline, stand(PartyRole::Zone, LayerSet::NONE, z.mask)));
        solids.chain(one_ways).chain(zones)
    }

    /// From the origin to its size.
    pub fn area(&self) -> Rect {
        Rect::new(0.0, 0.0, self.size.x, self.size.y)
    }

    /// Where an actor starts.
    pub fn starts<'s>(&'s self, actor: &'s str) -> impl Iterator<Item = &'s Spawn> {
        self.spawns.iter().filter(move |spawn| spawn.actor == actor)
    }

    /// The convex pieces of those solids that `wanted` says, and of each piece its solid, by index.
    pub(crate) fn pieces(&self, wanted: impl Fn(&Solid) -> bool) -> (Vec<Convex>, Vec<usize>) {
        let mut pieces: Vec<Convex> = Vec::new();
        let mut of = Vec::new();
        for (index, solid) in self.solids.iter().enumerate().filter(|(_, solid)| wanted(solid)) {
            pieces.extend(solid.outline.pieces.iter().cloned());
            of.resize(pieces.len(), index);
        }
        (pieces, of)
    }

    /// Where the pivot of what a warp takes is put.
    pub fn landing(&self, warp: &Warp) -> Point {
        self.zones[warp.to].outline.bounds.center() + warp.landing
    }
}

/// A trigger zone: it stops nothing, and emits enter and exit for the bodies it sees.
#[derive(Clone, Debug, PartialEq)]
pub struct Zone {
    /// Its name, unique in the stage.
    pub name: String,
    /// Where it is.
    pub outline: Outline,
    /// What it looks for.
    pub mask: LayerSet,
    /// What it does.
    pub effect: Effect,
    /// Where it leads, for a warp.
    pub warp: Option<Warp>,
    /// Ticks after an entry in which it has no effect on that actor; after a landing no warp takes the actor for as long
    /// as the warp that it came by says.
    pub cooldown: u32,
    /// Whether it does something to each actor only once.
    pub once: bool,
}

/// Where an actor starts.
#[derive(Clone, Debug, PartialEq)]
pub struct Spawn {
    /// The actor's name.
    pub actor: String,
    /// The pivot.
    pub at: Point,
    /// Where it looks.
    pub facing: Facing,
}

/// A side of a stage.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Side {
    /// y = the stage's height.
    Bottom,
    /// x = 0.
    Left,
    /// x = the stage's width.
    Right,
    /// y = 0.
    Top,
}

impl Side {
    /// All sides.
    pub const ALL: [Side; 4] = [Side::Bottom, Side::Left, Side::Right, Side::Top];

    /// The side's word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Side::Bottom => "bottom",
            Side::Left => "left",
            Side::Right => "right",
            Side::Top => "top",
        }
    }
}

/// A place with a name, for the game's own use.
#[derive(Clone, Debug, PartialEq)]
pub struct Spot {
    /// Its name, unique in the stage.
    pub name: String,
    /// Where it is.
    pub at: Point,
}

/// A stage.
#[derive(Clone, Debug, PartialEq)]
pub struct Stage {
    /// Its name.
    pub name: String,
    /// Width and height in px, from the origin.
    pub size: Vec2,
    /// Solids in the file's order.
    pub solids: Vec<Solid>,
    /// One-way platforms in the file's order.
    pub one_ways: Vec<OneWay>,
    /// Zones in the file's order.
    pub zones: Vec<Zone>,
    /// Spawn points in the file's order.
    pub spawns: Vec<Spawn>,
    /// Spots in the file's order.
    pub spots: Vec<Spot>,
    /// Sides by which nobody may leave without meeting a hazard.
    pub sealed: Vec<Side>,
}
