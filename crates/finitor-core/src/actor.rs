//! Actors as the checks see them: the shapes of each frame, in both facings.

use crate::art::Run;
use crate::facing::{Facing, mirrored_point};
use crate::fit::Side;
use crate::geometry::{Convex, Point, Polygon, Rect};
use crate::layers::{LayerSet, PartyRole};

/// What a shape is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    /// What walls stop.
    Body,
    /// What can be struck.
    Hurt,
    /// What strikes.
    Hit,
    /// What only looks.
    Sensor,
}

impl Role {
    /// All roles, as the files name them.
    pub const ALL: [Role; 4] = [Role::Body, Role::Hurt, Role::Hit, Role::Sensor];

    /// The role's word in the files.
    pub fn name(self) -> &'static str {
        self.party().name()
    }

    /// The role as a side of a pair.
    pub fn party(self) -> PartyRole {
        match self {
            Role::Body => PartyRole::Body,
            Role::Hurt => PartyRole::Hurt,
            Role::Hit => PartyRole::Hit,
            Role::Sensor => PartyRole::Sensor,
        }
    }

    /// Reads a role's word.
    pub fn parse(word: &str) -> Option<Role> {
        Role::ALL.into_iter().find(|role| role.name() == word)
    }
}

/// A named shape on a frame, local space.
#[derive(Clone, Debug, PartialEq)]
pub struct Shape {
    /// Its name in the actor file.
    pub name: String,
    /// What it is for.
    pub role: Role,
    /// Its outline: polygons whose interiors do not meet.
    pub polygons: Vec<Polygon>,
    /// Holes in them.
    pub holes: Vec<Polygon>,
    /// Convex pieces that tile the outline without its holes.
    pub pieces: Vec<Convex>,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for.
    pub mask: LayerSet,
    /// For strips along another shape: the side they lie on.
    pub side: Option<Side>,
}

impl Shape {
    /// The smallest rectangle around it.
    pub fn bounds(&self) -> Rect {
        // The pieces tile the outline and know their bounds.
        self.pieces.iter().map(Convex::bounds).reduce(|a, b| a.union(b)).unwrap_or(Rect::ZERO)
    }

    /// The mirror image about the pivot. Ahead stays ahead: the strip moves with the facing.
    #[must_use]
    pub fn mirrored(&self) -> Shape {
        let polygons = self.polygons.iter().map(Polygon::mirrored).collect();
        let pieces = self.pieces.iter().map(Convex::mirrored).collect();
        let holes = self.holes.iter().map(Polygon::mirrored).collect();
        Shape { polygons, holes, pieces, ..self.clone() }
    }
}

/// The lowest row of a frame's opaque pixels, local space.
#[derive(Clone, Debug, PartialEq)]
pub struct Foot {
    /// The row's lower edge.
    pub y: f64,
    /// The runs of opaque pixels in it, as left and right edges.
    pub runs: Vec<(f64, f64)>,
}

impl Foot {
    /// The foot of a frame from the runs of its opaque pixels, row by row; `None` when there are none.
    pub fn new(runs: &[Run], pivot: Point) -> Option<Foot> {
        let row = runs.last()?.row;
        let local = |x: u32| f64::from(x) - pivot.x;
        Some(Foot {
            y: f64::from(row) + 1.0 - pivot.y,
            runs: runs.iter().filter(|run| run.row == row).map(|run| (local(run.start), local(run.end))).collect(),
        })
    }

    fn mirrored(&self) -> Foot {
        let runs = self.runs.iter().rev().map(|(left, right)| (0.0 - right, 0.0 - left)).collect();
        Foot { y: self.y, runs }
    }
}

/// Everything on one frame in one facing, local space.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Pose {
    /// Shapes in the actor file's order.
    pub shapes: Vec<Shape>,
    /// Anchors by name.
    pub anchors: Vec<(String, Point)>,
    /// The lowest opaque row.
    pub foot: Option<Foot>,
}

impl Pose {
    /// The body, when the frame has one; files allow one at most.
    pub fn body(&self) -> Option<&Shape> {
        self.shapes.iter().find(|shape| shape.role == Role::Body)
    }

    /// The mirror image about the pivot.
    #[must_use]
    pub fn mirrored(&self) -> Pose {
        Pose {
            shapes: self.shapes.iter().map(Shape::mirrored).collect(),
            anchors: self.anchors.iter().map(|(name, at)| (name.clone(), mirrored_point(*at))).collect(),
            foot: self.foot.as_ref().map(Foot::mirrored),
        }
    }
}

/// An animation, each frame in both facings.
#[derive(Clone, Debug, PartialEq)]
pub struct Animation {
    /// Its name.
    pub name: String,
    /// Frames in order; each pose by [`Facing::index`].
    pub frames: Vec<[Pose; 2]>,
}

/// An actor ready to be checked.
#[derive(Clone, Debug, PartialEq)]
pub struct Actor {
    /// Its name.
    pub name: String,
    /// The way its art is drawn.
    pub drawn: Facing,
    /// Its animations, in the actor file's order.
    pub animations: Vec<Animation>,
}

impl Actor {
    /// An actor from its poses as drawn; those of the other facing are mirrored about the pivot.
    pub fn new(name: String, drawn: Facing, animations: Vec<(String, Vec<Pose>)>) -> Actor {
        let both = |pose: Pose| {
            let turned = pose.mirrored();
            match drawn {
                Facing::Right => [pose, turned],
                Facing::Left => [turned, pose],
            }
        };
        let animations = animations
            .into_iter()
            .map(|(name, frames)| Animation { name, frames: frames.into_iter().map(both).collect() })
            .collect();
        Actor { name, drawn, animations }
    }

    /// The index of an animation.
    pub fn find(&self, animation: &str) -> Option<usize> {
        self.animations.iter().position(|known| known.name == animation)
    }

    /// A frame in a facing.
    ///
    /// # Panics
    /// When the animation or frame does not exist; [`crate::take::Sample`]s are checked when they are read.
    pub fn pose(&self, animation: usize, frame: usize, facing: Facing) -> &Pose {
        &self.animations[animation].frames[frame][facing.index()]
    }
}
