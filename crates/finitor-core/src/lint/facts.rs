//! What lint knows of a project: plain values, so that whoever reads files can fill them.

use crate::actor::{Actor, Foot, Shape};
use crate::art::{Colour, Run};
use crate::fit::{Fitting, FrameArt};
use crate::geometry::Point;
use crate::layers::{Layers, Party};
use crate::stage::Stage;
use std::ops::Range;

/// An actor before any take.
#[derive(Clone, Debug)]
pub struct ActorFacts<'a> {
    /// Its name.
    pub name: &'a str,
    /// Its animations, as the file names them.
    pub animations: Vec<AnimationFacts<'a>>,
    /// Its frames, animation by animation.
    pub frames: Vec<FrameFacts>,
    /// Its shapes, as the file asks for them.
    pub shapes: Vec<ShapeFacts<'a>>,
    /// Colours of the part map that stand for a part.
    pub parts: Vec<Colour>,
    /// Anchors that are not found where they should be.
    pub missing_anchors: Vec<MissingAnchorFacts>,
    /// How its fits go with its files.
    pub fits: FitState,
    /// The actor with its fits, where they go with its frames.
    pub fitted: Option<&'a Actor>,
}

impl<'a> ActorFacts<'a> {
    /// A shape as it is drawn on a frame of an animation.
    pub(crate) fn drawn_shape(&self, animation: &AnimationFacts<'_>, frame: usize, name: &str) -> Option<&'a Shape> {
        let fitted = self.fitted?;
        let pose = fitted.drawn_pose(fitted.find(animation.name)?, frame - animation.frames.start);
        pose.shapes.iter().find(|shape| shape.name == name)
    }
}

/// An animation of an actor file.
#[derive(Clone, Debug)]
pub struct AnimationFacts<'a> {
    /// Its name.
    pub name: &'a str,
    /// Its frames among all.
    pub frames: Range<usize>,
    /// Whether its frames should stand on the pivot's line.
    pub must_stand: bool,
    /// The frames that it says are active, counted from its first, where it does.
    pub active: Option<&'a [u32]>,
}

/// A frame of an actor file.
#[derive(Clone, Debug, PartialEq)]
pub struct FrameFacts {
    /// Its name: `walk 2`.
    pub name: String,
    /// Its pivot, cell px.
    pub pivot: Point,
    /// The lowest row of its art; `None` when it has none.
    pub foot: Option<Foot>,
    /// The cell's width, px.
    pub width: f64,
    /// The cell's height, px.
    pub height: f64,
    /// How far right of its mirror image about the pivot the flipped art lies, px.
    pub drift: f64,
    /// Its opaque pixels, row by row.
    pub opaque: Vec<Run>,
    /// Where it lies in a picture that frames share.
    pub sheet: Option<SheetPlace>,
}

/// A cell's place in a picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct SheetPlace {
    /// Which of the actor's pictures.
    pub picture: usize,
    /// Its left column.
    pub x: u32,
    /// Its top row.
    pub y: u32,
}

/// A shape of an actor file.
#[derive(Clone, Debug)]
pub struct ShapeFacts<'a> {
    /// Its name.
    pub name: &'a str,
    /// The table of the file that it comes from: `[shape.TABLE]`.
    pub table: &'a str,
    /// How it is fitted, where it is.
    pub fitting: Option<&'a Fitting>,
    /// The table that it is one of several shapes of, a part each, and must not overlap.
    pub siblings: Option<&'a str>,
    /// Frames over which it is one and the same, where that is several.
    pub held: Vec<Vec<usize>>,
    /// Frames on which a hand changed or locked it.
    pub hand_made: Vec<usize>,
}

/// An anchor that is looked for in the art and not found.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct MissingAnchorFacts {
    /// Its name.
    pub anchor: String,
    /// The animation.
    pub animation: String,
    /// On how many frames it is missing.
    pub frames: usize,
    /// What is missing, as a sentence.
    pub message: String,
}

/// How an actor's fits go with its files.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum FitState {
    /// There are none yet.
    Missing,
    /// Frames changed, by animation.
    Frames(Vec<StaleAnimation>),
    /// Recipes changed: of how many shapes, and the first.
    Recipes(usize, String),
    /// They are what the files ask for.
    Current,
}

/// An animation whose frames are not those that shapes were fitted to.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct StaleAnimation {
    /// Its name.
    pub name: String,
    /// Opaque pixels that came, went or changed.
    pub pixels: u64,
    /// What changed, as a sentence.
    pub message: String,
    /// The animation of the fits that has the same art, where one does.
    pub was: Option<String>,
}

/// An animation of an actor with its pictures.
#[derive(Clone, Copy, Debug)]
pub struct AnimationArt<'a> {
    /// The actor.
    pub actor: &'a ActorFacts<'a>,
    /// The animation, by index.
    pub animation: usize,
    /// Its frames' pictures.
    pub art: &'a [FrameArt],
}

/// A shape of an actor, or a thing on a stage, with its layers.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LayerParty {
    /// Its name, role, layer and mask by the files.
    pub party: Party,
    /// The actor or stage it belongs to.
    pub owner: String,
    /// Its name there.
    pub name: String,
    /// Which of the two the owner is.
    pub of: OwnerKind,
    /// Whether its mask is its own, and not that of its layer.
    pub has_own_mask: bool,
}

/// What a party of layers belongs to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum OwnerKind {
    /// An actor.
    Actor,
    /// A stage.
    Stage,
}

/// All layers of a project and what is on them.
#[derive(Clone, Copy, Debug)]
pub struct LayerFacts<'a> {
    /// The layers.
    pub layers: &'a Layers,
    /// Everything that has a mask or is on a layer.
    pub parties: &'a [LayerParty],
    /// Whether any list names an alias, alias by alias.
    pub aliases_used: &'a [bool],
}

/// What a finding about layers speaks of, so that the line to change can be named.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LayerSpot {
    /// The mask of one of the parties, by index.
    Mask(usize),
    /// A layer's name, by bit.
    Layer(usize),
    /// An alias, by index.
    Alias(usize),
}

/// The actors of a project.
#[derive(Clone, Copy, Debug)]
pub struct CastFacts<'a> {
    /// Those that have fits which go with their frames.
    pub actors: &'a [Actor],
    /// The layers.
    pub layers: &'a Layers,
}

/// A stage and the actors of the project.
#[derive(Clone, Copy, Debug)]
pub struct StageFacts<'a> {
    /// The stage.
    pub stage: &'a Stage,
    /// The names of all actors.
    pub names: &'a [&'a str],
    /// The actors with their fits.
    pub actors: &'a [Actor],
    /// Overlap that is no fault, px.
    pub slack: f64,
}

impl<'a> StageFacts<'a> {
    /// The actors that start on the stage.
    pub(crate) fn with_spawns(&self) -> Vec<&'a Actor> {
        let stage = self.stage;
        self.actors.iter().filter(|actor| stage.starts(&actor.name).next().is_some()).collect()
    }
}
