/// A number of the pack's space.
#[allow(dead_code)]
pub type Number = NUMBER;

/// A place or a vector.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Point {
    pub x: Number,
    pub y: Number,
}

/// Points; the last is joined to the first.
#[allow(dead_code)]
pub type Ring = &'static [Point];

/// A facing.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Facing {
    Right,
    Left,
}

/// What a shape is for.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    Body,
    Hurt,
    Hit,
    Sensor,
}

/// The exact numbers of a shape, where it has such.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Exact {
    /// The corner with the least coordinates, width, height.
    Box([Number; 4]),
    /// Middle and radius.
    Circle([Number; 3]),
    /// The ends of the spine and the radius.
    Capsule([Number; 5]),
    /// It is its outline.
    Polygon,
}

/// An anchor that stands for a part.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PartAnchor {
    pub anchor: &'static str,
    pub part: Option<&'static str>,
    pub group: Option<&'static str>,
    pub factor: f64,
    pub is_vital: bool,
}

/// What a shape is and means on all frames.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Meaning {
    pub name: &'static str,
    pub role: Role,
    pub layer: u32,
    pub mask: u32,
    pub part: Option<&'static str>,
    pub group: Option<&'static str>,
    pub factor: f64,
    pub is_vital: bool,
    pub damage: f64,
    /// 0: never.
    pub again_after: u32,
    pub blocked_by: u32,
    pub blocked_from: Option<&'static str>,
    /// How it is settled which part a hit strikes.
    pub settle: Option<&'static str>,
    pub part_anchors: &'static [PartAnchor],
}

/// A shape on a frame.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shape {
    /// Which of the actor's meanings.
    pub meaning: usize,
    pub exact: Exact,
    pub outline: &'static [Ring],
    pub holes: &'static [Ring],
    pub pieces: &'static [Ring],
}

/// A named point.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Anchor {
    pub name: &'static str,
    pub at: Point,
}

/// A frame in a facing. `rect` and `pivot` are px of the picture, y down.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Side {
    pub facing: Facing,
    pub flipped: bool,
    pub image: &'static str,
    pub image_number: usize,
    pub rect: [u32; 4],
    pub pivot: [f64; 2],
    pub anchors: &'static [Anchor],
    pub shapes: &'static [Shape],
}

/// A frame.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Frame {
    pub ticks: u32,
    pub sides: &'static [Side],
}

/// An animation.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Animation {
    pub name: &'static str,
    pub faces: Facing,
    /// The animation that it is shown for when that faces this way.
    pub stands_for: Option<usize>,
    pub frames: &'static [Frame],
}

/// A hit shape in an animation; ticks.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Attack {
    pub animation: usize,
    pub meaning: usize,
    pub startup: u32,
    pub active: u32,
    pub pauses: u32,
    pub recovery: u32,
}

/// An actor.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Actor {
    pub name: &'static str,
    pub meanings: &'static [Meaning],
    pub attacks: &'static [Attack],
    pub animations: &'static [Animation],
}

/// Something on a stage.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Thing {
    pub name: &'static str,
    pub layer: u32,
    pub mask: u32,
    pub outline: Ring,
    pub holes: &'static [Ring],
    pub pieces: &'static [Ring],
}

/// A one-way platform; `passes` is a unit vector.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct OneWay {
    pub thing: Thing,
    pub passes: Point,
}

/// What a zone does.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Effect {
    Hazard,
    Goal,
    Event,
    Warp,
}

/// Where a warp leads.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Warp {
    /// Which of the stage's zones.
    pub to: usize,
    pub landing: Point,
    pub facing: Option<Facing>,
    pub turns_velocity: bool,
}

/// A zone.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Zone {
    pub thing: Thing,
    pub effect: Effect,
    pub cooldown: u32,
    pub once: bool,
    pub warp: Option<Warp>,
}

/// Where an actor starts.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Spawn {
    pub actor: &'static str,
    pub at: Point,
    pub facing: Facing,
}

/// A stage.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stage {
    pub name: &'static str,
    pub size: Point,
    pub solids: &'static [Thing],
    pub one_ways: &'static [OneWay],
    pub zones: &'static [Zone],
    pub spawns: &'static [Spawn],
    pub spots: &'static [Anchor],
}

/// A layer.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Layer {
    pub name: &'static str,
    pub bit: u32,
    pub mask: u32,
}

/// A name for several layers.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Alias {
    pub name: &'static str,
    pub layers: u32,
}

/// What a state does to shapes on a layer (its bit): masks gain `add`, then lose `drop`; layers gain `join`, then lose `leave`.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Change {
    pub layer: u32,
    pub add: u32,
    pub drop: u32,
    pub join: u32,
    pub leave: u32,
}

/// What changes while a state lasts.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct State {
    pub name: &'static str,
    pub changes: &'static [Change],
}

/// Everything.
#[allow(dead_code)]
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pack {
    pub project: &'static str,
    pub tick_rate: f64,
    /// `either` or `both`: whose mask decides whether two bodies stop each other.
    pub contact: &'static str,
    pub layers: &'static [Layer],
    pub aliases: &'static [Alias],
    pub states: &'static [State],
    pub actors: &'static [Actor],
    pub stages: &'static [Stage],
}
