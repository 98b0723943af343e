//! Actors as the checks see them: the shapes of each frame, in both facings.

use crate::art::Run;
use crate::facing::Facing;
use crate::fit::Side;
use crate::geometry::{Point, Polygon, Rect, mirrored_point};
use crate::hits::Settle;
use crate::layers::{LayerSet, PartyRole};

mod carried;
mod moves;
mod pieces;
mod pixels;

pub use carried::{Carried, Part, PartAnchor};
pub use moves::Moves;
pub use pieces::Pieces;
pub(crate) use pixels::Band;
pub use pixels::PixelRuns;

/// Which of a project's actors.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct ActorIndex(pub usize);

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
    pub pieces: Pieces,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for.
    pub mask: LayerSet,
    /// For strips along another shape: the side they lie on.
    pub side: Option<Side>,
    /// What it means when it strikes or is struck.
    pub carries: Carried,
}

impl Shape {
    /// The smallest rectangle around it.
    pub fn bounds(&self) -> Rect {
        self.pieces.bounds()
    }

    /// How high it is, px; nothing is cut for that.
    fn height(&self) -> f64 {
        let points = self.polygons.iter().flat_map(Polygon::points);
        let (top, bottom) =
            points.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), at| (low.min(at.y), high.max(at.y)));
        (bottom - top).max(0.0)
    }

    /// The mirror image about the pivot. Ahead stays ahead: the strip moves with the facing.
    #[must_use]
    pub fn mirrored(&self) -> Shape {
        let polygons = self.polygons.iter().map(Polygon::mirrored).collect();
        let holes = self.holes.iter().map(Polygon::mirrored).collect();
        Shape { polygons, holes, pieces: self.pieces.mirrored(), ..self.clone() }
    }

    /// This shape at the place of another; a strip's side goes with the place.
    fn with_geometry_of(&self, other: &Shape) -> Shape {
        let Shape { polygons, holes, pieces, side, .. } = other.clone();
        Shape { polygons, holes, pieces, side, ..self.clone() }
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

    /// The foot of art that is flipped and so moved by `drift` px against the pivot.
    fn flipped(&self, drift: f64) -> Foot {
        let runs = self.runs.iter().rev().map(|(left, right)| (drift - right, drift - left)).collect();
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
    /// All opaque pixels.
    pub pixels: PixelRuns,
    /// How far right of its mirror image about the pivot the art lies when it is flipped, px: not 0 where a game flips it
    /// about another axis than the pivot's.
    pub flip_drift: f64,
    /// The frame's whole picture.
    pub picture: Rect,
    /// For how many ticks the frame is shown.
    pub ticks: u32,
}

/// Two names that hold a side, such as `wall_left` and `wall_right`: what has the one has the other when it is mirrored.
pub type Swap = (String, String);

impl Pose {
    /// The body, when the frame has one; files allow one at most.
    pub fn body(&self) -> Option<&Shape> {
        self.shapes.iter().find(|shape| shape.role == Role::Body)
    }

    /// An anchor's place, where the frame has it.
    pub fn anchor(&self, name: &str) -> Option<Point> {
        self.anchors.iter().find(|(own, _)| own == name).map(|(_, at)| *at)
    }

    /// The strip below the body, where the frame has one.
    pub fn strip_below(&self) -> Option<&Shape> {
        /// A strip begins this near to the body's bottom, px.
        const NEAR: f64 = 2.0;
        let sensors = || self.shapes.iter().filter(|shape| shape.role == Role::Sensor);
        sensors().find(|shape| shape.side == Some(Side::Below)).or_else(|| {
            // One that is given by its place says no side.
            let body = self.body()?.bounds();
            let lies_below = |strip: Rect| {
                (strip.y0 - body.y1).abs() <= NEAR && strip.y1 > body.y1 && strip.x0 < body.x1 && body.x0 < strip.x1
            };
            sensors().find(|shape| shape.side.is_none() && lies_below(shape.bounds()))
        })
    }

    /// The other facing: shapes and anchors mirrored about the pivot, art flipped as the game flips it, and names that hold a
    /// side changed over. Turning twice gives the same bits.
    #[must_use]
    pub fn turned(&self, swaps: &[Swap]) -> Pose {
        let mut shapes: Vec<Shape> = self.shapes.iter().map(Shape::mirrored).collect();
        let mut anchors: Vec<(String, Point)> =
            self.anchors.iter().map(|(name, at)| (name.clone(), mirrored_point(*at))).collect();
        for (one, other) in swaps {
            let place = |name: &String| shapes.iter().position(|shape| shape.name == *name);
            match (place(one), place(other)) {
                (Some(i), Some(j)) => {
                    let (first, second) = (shapes[i].clone(), shapes[j].clone());
                    shapes[i] = first.with_geometry_of(&second);
                    shapes[j] = second.with_geometry_of(&first);
                }
                (Some(i), None) => shapes[i].name.clone_from(other),
                (None, Some(j)) => shapes[j].name.clone_from(one),
                (None, None) => {}
            }
            let place = |name: &String| anchors.iter().position(|(known, _)| known == name);
            match (place(one), place(other)) {
                (Some(i), Some(j)) => (anchors[i].1, anchors[j].1) = (anchors[j].1, anchors[i].1),
                (Some(i), None) => anchors[i].0.clone_from(other),
                (None, Some(j)) => anchors[j].0.clone_from(one),
                (None, None) => {}
            }
        }
        let foot = self.foot.as_ref().map(|foot| foot.flipped(self.flip_drift));
        let pixels = self.pixels.flipped(self.flip_drift);
        let Rect { x0, y0, x1, y1 } = self.picture;
        let picture = Rect::new(self.flip_drift - x1, y0, self.flip_drift - x0, y1);
        Pose { shapes, anchors, foot, pixels, flip_drift: self.flip_drift, picture, ticks: self.ticks }
    }
}

/// An animation as it is drawn.
#[derive(Clone, Debug, PartialEq)]
pub struct DrawnAnimation {
    /// Its name.
    pub name: String,
    /// The way its art is drawn.
    pub faces: Facing,
    /// Its frames in order, as drawn.
    pub frames: Vec<Pose>,
    /// The animation whose frames it is shown for when that faces this way, by index.
    pub stands_for: Option<usize>,
}

/// An animation, each frame in both facings.
#[derive(Clone, Debug, PartialEq)]
pub struct Animation {
    /// Its name.
    pub name: String,
    /// The way its art is drawn.
    pub faces: Facing,
    /// Frames in order; each pose by [`Facing::index`].
    pub frames: Vec<[Pose; 2]>,
    /// The animation that was drawn for the other facing, by index, where there is one.
    pub turned_by: Option<usize>,
}

/// An actor ready to be checked.
#[derive(Clone, Debug, PartialEq)]
pub struct Actor {
    /// Its name.
    pub name: String,
    /// Its animations, in the actor file's order.
    pub animations: Vec<Animation>,
    /// Names that change over when it is mirrored.
    pub swaps: Vec<Swap>,
    /// How it moves.
    pub moves: Moves,
    /// How it is settled which of its parts is struck, where its file says so.
    pub settle: Option<Settle>,
    /// The height of its tallest body as drawn, px; 0 without one.
    pub height: f64,
}

/// The art that is seen of a frame in a facing.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Shown {
    /// The animation whose art it is.
    pub animation: usize,
    /// The frame in it.
    pub frame: usize,
    /// Whether it is flipped.
    pub flipped: bool,
}

/// What a game drew of a frame.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct DrawnArt {
    /// The animation.
    pub animation: usize,
    /// The frame in it.
    pub frame: usize,
    /// The facing of the shapes.
    pub facing: Facing,
    /// Whether the picture was flipped, where the take says so.
    pub flipped: Option<bool>,
}

impl Actor {
    /// Whether any of its frames has a shape.
    pub fn has_shapes(&self) -> bool {
        self.animations.iter().flat_map(|animation| &animation.frames).flatten().any(|pose| !pose.shapes.is_empty())
    }

    /// An actor from its poses as drawn; those of the other facing are drawn too, or mirrored.
    pub fn new(name: String, animations: Vec<DrawnAnimation>, swaps: Vec<Swap>) -> Actor {
        let by_facing = |faces: Facing, drawn: Pose, turned: Pose| match faces {
            Facing::Right => [drawn, turned],
            Facing::Left => [turned, drawn],
        };
        let bodies = animations.iter().flat_map(|animation| &animation.frames).filter_map(Pose::body);
        let height = bodies.map(Shape::height).fold(0.0, f64::max);
        let mut turned_by = vec![None; animations.len()];
        for (index, animation) in animations.iter().enumerate() {
            if let Some(of) = animation.stands_for.filter(|of| *of < turned_by.len()) {
                turned_by[of] = Some(index);
            }
        }
        let poses = |index: usize| -> Vec<[Pose; 2]> {
            let animation: &DrawnAnimation = &animations[index];
            let drawn = animation.frames.iter().enumerate();
            drawn
                .map(|(frame, pose)| {
                    let other = turned_by[index].and_then(|other: usize| animations[other].frames.get(frame));
                    let turned = other.cloned().unwrap_or_else(|| pose.turned(&swaps));
                    by_facing(animation.faces, pose.clone(), turned)
                })
                .collect()
        };
        let all = (0..animations.len()).map(|index| Animation {
            name: animations[index].name.clone(),
            faces: animations[index].faces,
            frames: poses(index),
            turned_by: turned_by[index],
        });
        let all = all.collect();
        Actor { name, animations: all, swaps, moves: Moves::default(), settle: None, height }
    }

    /// The index of an animation.
    pub fn find(&self, animation: &str) -> Option<usize> {
        self.animations.iter().position(|known| known.name == animation)
    }

    /// Whether an animation's shapes in one facing are the mirror image of those in the other, name by name.
    pub(crate) fn is_mirrored(&self, animation: usize) -> bool {
        self.swaps.is_empty() && self.animations[animation].turned_by.is_none()
    }

    /// A frame in a facing.
    ///
    /// # Panics
    /// When the animation or frame does not exist; [`crate::take::Sample`]s are checked when they are read.
    pub fn pose(&self, animation: usize, frame: usize, facing: Facing) -> &Pose {
        &self.animations[animation].frames[frame][facing.index()]
    }

    /// The pose of a frame as its own art is drawn.
    ///
    /// # Panics
    /// As [`Actor::pose`].
    pub fn drawn_pose(&self, animation: usize, frame: usize) -> &Pose {
        self.pose(animation, frame, self.animations[animation].faces)
    }

    /// The art of a frame in a facing: its own, flipped where it is drawn for the other side and nothing stands for it.
    ///
    /// # Panics
    /// As [`Actor::pose`].
    pub fn shown(&self, animation: usize, frame: usize, facing: Facing) -> Shown {
        let of = &self.animations[animation];
        let other = of.turned_by.filter(|other| frame < self.animations[*other].frames.len());
        match other {
            Some(other) if facing != of.faces => Shown { animation: other, frame, flipped: false },
            _ => Shown { animation, frame, flipped: facing != of.faces },
        }
    }

    /// The way in which the picture faces: the facing of the shapes, or the other one where the game flipped it wrongly.
    ///
    /// # Panics
    /// As [`Actor::pose`].
    pub fn shown_facing(&self, drawn: DrawnArt) -> Facing {
        let shown = self.shown(drawn.animation, drawn.frame, drawn.facing);
        let is_split = drawn.flipped.is_some_and(|flipped| flipped != shown.flipped);
        if is_split { drawn.facing.turned() } else { drawn.facing }
    }
}
