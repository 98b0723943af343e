//! Actor files: the frames they name, looked at once, and the shapes on them.

use crate::anchors::{AnchorSpec, anchors};
use crate::animation_toml::{AnimationSpec, FramePlan, animations};
use crate::gallery::{FrameSource, Gallery};
use crate::moves_toml::moves;
use crate::names::{can_name, check_name};
use crate::parts_toml::{PartColour, check_colours, parts};
use crate::pivot::pivots;
use crate::pivot_toml::{PivotSpec, pivot_spec};
use crate::problem::{Problem, Problems};
use crate::shape_toml::{ShapeSpec, assign_anchors, assign_frames, check_paint, settle, shapes};
use crate::sheet_toml::{Folder, sheets};
use crate::survey::{FrameFacts, Progress, Wanted, survey};
use crate::toml_table::{At, Document, Table, nearest};
use crate::words::first_few;
use finitor_core::actor::{Moves, Swap};
use finitor_core::art::{Colour, Imprint, PixelRect};
use finitor_core::hits::Settle;
use finitor_core::layers::Layers;
use finitor_core::{Facing, Point};
use std::collections::BTreeMap;
use std::fmt;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// What reading an actor takes beside its file.
#[derive(Clone, Copy)]
pub struct ActorReading<'a> {
    /// The project's folder.
    pub root: &'a Path,
    /// The project's layers.
    pub layers: &'a Layers,
    /// Ticks a second, for the delays of animated files.
    pub tick_rate: f64,
    /// Million pixels decoded from one picture file at most.
    pub max_mpx: u32,
    /// Told of every frame looked at.
    pub progress: &'a dyn Progress,
}

/// The axis about which a game flips art.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum FlipAbout {
    /// The pivot's.
    #[default]
    Pivot,
    /// The middle of the cell.
    Cell,
}

/// An actor file, read and resolved; pixels are fetched by a [`Gallery`].
#[derive(Clone, Debug)]
pub struct ActorFile {
    /// The file.
    pub path: PathBuf,
    /// The actor's name.
    pub name: String,
    /// The way its art is drawn, unless an animation says otherwise.
    pub faces: Facing,
    /// About what the game flips the art.
    pub flip_about: FlipAbout,
    /// Names of shapes and anchors that change over when it is mirrored.
    pub swaps: Vec<Swap>,
    /// How it moves, as far as the file tells.
    pub moves: Moves,
    /// How it is settled which of its parts is struck.
    pub settle: Option<Settle>,
    /// Animations in the file's order.
    pub animations: Vec<AnimationSpec>,
    /// All frames, animation by animation.
    pub frames: Vec<LoadedFrame>,
    /// Shapes in the file's order, with the frames they are on.
    pub shapes: Vec<ShapeSpec>,
    /// What the colours of the part maps stand for.
    pub parts: Vec<PartColour>,
    /// Anchors that the art does not show where it ought to.
    pub missing_anchors: Vec<MissingAnchor>,
    /// Animations without an opaque pixel.
    pub empty_animations: Vec<String>,
    max_mpx: u32,
}

/// A frame and what its pixels said.
#[derive(Clone, Debug)]
pub struct LoadedFrame {
    /// Index of its animation.
    pub animation: usize,
    /// Its number in the animation.
    pub number: usize,
    /// Where its pixels are.
    pub source: FrameSource,
    /// Where in the picture.
    pub rect: PixelRect,
    /// How long it lasts.
    pub ticks: u32,
    /// The pivot, cell px.
    pub pivot: Point,
    /// Hash of its pixels.
    pub art_hash: String,
    /// Its opaque pixels and their colours.
    pub imprint: Arc<Imprint>,
    /// Anchors by name, cell px.
    pub anchors: Vec<(String, Point)>,
}

/// An anchor that the art does not show on frames that ought to have it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct MissingAnchor {
    /// Its name.
    pub anchor: String,
    /// The animation.
    pub animation: String,
    /// Numbers of the frames without it.
    pub frames: Vec<usize>,
    sought: String,
}

impl fmt::Display for MissingAnchor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let numbers: Vec<String> = self.frames.iter().map(ToString::to_string).collect();
        let frames = first_few(&numbers, 8, ", ");
        write!(f, "anchor {} is missing on {} {frames}: {}", self.anchor, self.animation, self.sought)
    }
}

impl ActorFile {
    /// `walk 3`.
    pub fn frame_name(&self, frame: usize) -> String {
        let frame = &self.frames[frame];
        format!("{} {}", self.animations[frame.animation].name, frame.number)
    }

    /// The way a frame's art is drawn.
    pub fn faces(&self, frame: usize) -> Facing {
        self.animations[self.frames[frame].animation].faces
    }

    /// How far right of its mirror image about the pivot a frame's art lies when the game flips it, px.
    pub fn flip_drift(&self, frame: usize) -> f64 {
        let frame = &self.frames[frame];
        match self.flip_about {
            FlipAbout::Pivot => 0.0,
            FlipAbout::Cell => f64::from(frame.rect.width) - 2.0 * frame.pivot.x,
        }
    }

    /// A gallery for the frames' pixels.
    pub fn gallery(&self) -> Gallery {
        Gallery::new(self.max_mpx)
    }
}

/// The name that an actor file gives, without a look at the rest of it; `None` where that cannot be read or names nothing.
pub fn declared_name(path: &Path) -> Option<String> {
    let text = std::fs::read_to_string(path).ok()?;
    let file: toml::Table = text.parse().ok()?;
    let name = file.get("actor")?.get("name")?.as_str()?;
    can_name(name).then(|| name.to_string())
}

/// Reads an actor file and looks at all pictures it names, on all threads of the pool; no more pixels are held at once
/// than the sheets and animated files it names and a frame a thread.
///
/// # Errors
/// All mistakes in the file and its pictures.
pub fn load_actor(path: &Path, reading: &ActorReading<'_>) -> Result<ActorFile, Problems> {
    let doc = Document::open(path)?;
    let text = doc.text();
    let parsed = doc.parse(&text)?;
    let top = Table::top(&doc, &parsed);
    let head = top.table("actor");
    if head.is_none() && !top.has("actor") {
        top.missing_table("[actor]");
    }
    let Head { name, faces, pivot, flip_about, swaps, settle } = Head::new(&top, head.as_ref());
    let moves = top.table("moves").map(|table| moves(&table)).unwrap_or_default();
    let gallery = Gallery::new(reading.max_mpx);
    let base = path.parent().unwrap_or(reading.root);
    let folder = Folder { doc: &doc, root: reading.root, base, gallery: &gallery, has_sheets: top.has("sheet") };
    let sheets = sheets(&top, &folder);
    let (animations, plans) = animations(&top, &sheets, &folder, reading.tick_rate, faces);
    let part_colours = parts(&top);
    let mut shapes = shapes(&top, reading.layers, &part_colours);
    assign_frames(&top, &mut shapes, &animations);
    let has_parts = plans.iter().any(|plan| plan.source.parts.is_some());
    if !plans.is_empty() && !has_parts {
        check_paint(&top, &shapes);
    }
    let anchors = anchors(&top, &animations, has_parts || plans.is_empty());
    check_swaps(&top, &swaps, &shapes, &anchors);
    assign_anchors(&top, &mut shapes, &anchors);
    top.finish();
    note_no_animation(&doc, path, &plans);
    // Frames are only worth looking at when the file itself is right.
    if !doc.is_sound() {
        return Err(doc.finish());
    }
    let wanted = Wanted { anchors: &anchors, paints: !part_colours.is_empty(), drawn: faces };
    let Ok(facts) =
        survey(&plans, &gallery, &wanted, reading.progress).map_err(|problems| note_pictures(&doc, &plans, &problems))
    else {
        return Err(doc.finish());
    };
    check_seen_colours(&top, &part_colours, &facts);
    let at = pivots(pivot.as_ref(), &animations, &plans, &facts);
    let missing_anchors = missing_anchors(&animations, &anchors, &facts);
    let is_empty = |animation: &&AnimationSpec| animation.frames.clone().all(|frame| facts[frame].imprint.count() == 0);
    let empty_animations = animations.iter().filter(is_empty).map(|animation| animation.name.clone()).collect();
    let frames = loaded_frames(plans, facts, at, &Named { animations: &animations, anchors: &anchors });
    let actor = ActorFile {
        path: path.to_path_buf(),
        name: name.map_or_else(String::new, |name| name.value),
        faces,
        flip_about,
        swaps: swaps.into_iter().map(|swap| swap.value).collect(),
        moves,
        settle,
        animations,
        frames,
        shapes,
        parts: part_colours,
        missing_anchors,
        empty_animations,
        max_mpx: reading.max_mpx,
    };
    doc.finish().or(actor)
}

/// What `[actor]` says.
struct Head {
    name: Option<At<String>>,
    faces: Facing,
    pivot: Option<PivotSpec>,
    flip_about: FlipAbout,
    swaps: Vec<At<Swap>>,
    settle: Option<Settle>,
}

impl Head {
    fn new(top: &Table<'_>, head: Option<&Table<'_>>) -> Head {
        let name = head.and_then(|t| t.required_string("name", "\"keeper\""));
        if let Some(name) = &name {
            check_name(top, name, "an actor");
        }
        let faces_words = Facing::BOTH.map(|facing| (facing.name(), facing));
        let faces = head.and_then(|t| t.word("faces", &faces_words)).map_or(Facing::Right, |f| f.value);
        let pivot = head.and_then(pivot_spec).map(|pivot| pivot.value);
        let axes = [("pivot", FlipAbout::Pivot), ("cell", FlipAbout::Cell)];
        let flip_about = head.and_then(|t| t.word("flip_about", &axes)).map_or(FlipAbout::Pivot, |f| f.value);
        let swaps = head.map(swaps).unwrap_or_default();
        let settle = head.and_then(settle);
        if let Some(head) = head {
            head.finish();
        }
        Head { name, faces, pivot, flip_about, swaps, settle }
    }
}

fn note_no_animation(doc: &Document, path: &Path, plans: &[FramePlan]) {
    if plans.is_empty() && doc.is_sound() {
        let hint = "add for example [animation.idle] with cells = \"0-3\"";
        doc.note(Problem::of_file(path, "the actor has no animation").with_hint(hint));
    }
}

/// Colours of part maps that no part has, and parts whose colour is on none.
fn check_seen_colours(top: &Table<'_>, parts: &[PartColour], facts: &[FrameFacts]) {
    if parts.is_empty() {
        return;
    }
    let mut seen: Vec<Colour> = facts.iter().flat_map(|facts| facts.paints.iter().copied()).collect();
    seen.sort_unstable();
    seen.dedup();
    check_colours(top, parts, &seen);
}

/// Animations and anchors, which frames refer to.
struct Named<'n> {
    animations: &'n [AnimationSpec],
    anchors: &'n [AnchorSpec],
}

/// The frames with what was seen on their pictures, each of the lists in their order.
fn loaded_frames(
    plans: Vec<FramePlan>,
    facts: Vec<FrameFacts>,
    pivots: Vec<Point>,
    named: &Named<'_>,
) -> Vec<LoadedFrame> {
    let Named { animations, anchors } = *named;
    let frames = plans.into_iter().zip(facts).zip(pivots).enumerate();
    let frames = frames.map(|(index, ((plan, facts), pivot))| {
        let number = index - animations[plan.animation].frames.start;
        let on = |(anchor, found): (&AnchorSpec, &Option<Point>)| {
            Some((anchor.name.clone(), anchor.on(plan.animation, number, *found)?))
        };
        let (width, height) = facts.size();
        LoadedFrame {
            animation: plan.animation,
            number,
            rect: plan.source.rect.unwrap_or(PixelRect { x: 0, y: 0, width, height }),
            source: plan.source,
            ticks: plan.ticks,
            pivot,
            art_hash: facts.art_hash,
            imprint: facts.imprint,
            anchors: anchors.iter().zip(&facts.found).filter_map(on).collect(),
        }
    });
    frames.collect()
}

/// Reads `swap`: pairs of names.
fn swaps(head: &Table<'_>) -> Vec<At<Swap>> {
    let found = head.string_pairs("swap", "[[\"wall_left\", \"wall_right\"]]");
    let mut seen: Vec<&String> = Vec::new();
    for pair in &found {
        for name in [&pair.value.0, &pair.value.1] {
            if seen.contains(&name) {
                let hint = "each name can change over with one other".to_string();
                head.wrong(pair.span.clone(), format!("`swap` names \"{name}\" twice"), Some(hint));
            }
            seen.push(name);
        }
    }
    found
}

/// Names that change over must be names of shapes or anchors.
fn check_swaps(top: &Table<'_>, swaps: &[At<Swap>], shapes: &[ShapeSpec], anchors: &[AnchorSpec]) {
    let names = shapes.iter().map(|shape| shape.name.as_str()).chain(anchors.iter().map(|anchor| anchor.name.as_str()));
    let known: Vec<&str> = names.collect();
    for swap in swaps {
        for name in [&swap.value.0, &swap.value.1].into_iter().filter(|name| !known.contains(&name.as_str())) {
            let hint = match nearest(name, &known) {
                Some(near) => format!("did you mean \"{near}\"?"),
                None => format!("shapes and anchors are {}", known.join(", ")),
            };
            top.wrong(swap.span.clone(), format!("`swap`: there is no shape or anchor \"{name}\""), Some(hint));
        }
    }
}

/// Pictures told one by one for each place that names them, up to this many.
const MOST_TOLD: usize = 5;

fn note_pictures(doc: &Document, plans: &[FramePlan], problems: &[(usize, String)]) {
    let mut by_row: BTreeMap<usize, Vec<&(usize, String)>> = BTreeMap::new();
    for problem in problems {
        by_row.entry(plans[problem.0].span.start).or_default().push(problem);
    }
    for here in by_row.values() {
        for (frame, reason) in here.iter().take(MOST_TOLD) {
            let more = here.len().saturating_sub(MOST_TOLD);
            let hint = (more > 0).then(|| format!("and {more} more pictures here"));
            let plan = &plans[*frame];
            doc.wrong(plan.span.clone(), format!("picture \"{}\": {reason}", plan.source.file.name), hint);
        }
    }
}

fn missing_anchors(animations: &[AnimationSpec], anchors: &[AnchorSpec], facts: &[FrameFacts]) -> Vec<MissingAnchor> {
    let mut missing = Vec::new();
    for (index, animation) in animations.iter().enumerate() {
        for (a, anchor) in anchors.iter().enumerate().filter(|(_, anchor)| anchor.is_needed(index)) {
            let lacks =
                |number: &usize| anchor.on(index, *number, facts[animation.frames.start + number].found[a]).is_none();
            let frames: Vec<usize> = (0..animation.frames.len()).filter(lacks).collect();
            if !frames.is_empty() {
                missing.push(MissingAnchor {
                    anchor: anchor.name.clone(),
                    animation: animation.name.clone(),
                    frames,
                    sought: anchor.sought(),
                });
            }
        }
    }
    missing
}
