//! Actors on the page: their art on sheets, and the shapes of the poses that are shown.

use super::poses::{PoseKey, PoseTable};
use crate::failure::Failure;
use crate::take_cast::{CastMember, TakeCast};
use base64::Engine;
use finitor_core::Polygon;
use finitor_core::actor::{Actor, Pose, Shape};
use finitor_core::art::Picture;
use finitor_draw::{AtlasPlace, atlas};
use finitor_files::{ActorFile, Problems, QualityFits};
use serde::Serialize;
use std::collections::BTreeSet;

/// Frames of an actor that are shown with their fits at most; of a larger one those that fit worst.
const MOST_FRAMES: usize = 240;

/// An actor that the takes show.
#[derive(Debug, Serialize)]
pub(super) struct ActorData {
    name: String,
    animations: Vec<String>,
    /// Shape names with their roles.
    shapes: Vec<ShapeName>,
    /// PNG sheets as data URLs.
    sheets: Vec<String>,
    /// Frames on them: sheet, left, top, width, height, and the left and top from the pivot.
    art: Vec<[f64; 7]>,
    poses: Vec<PoseData>,
    /// Frames with how well their shapes fit, the worst first.
    fits: Vec<FrameFit>,
    /// Frames that were left out of these.
    fits_left_out: usize,
}

#[derive(Debug, Serialize)]
struct ShapeName {
    name: String,
    role: &'static str,
}

/// A frame in a facing.
#[derive(Debug, Serialize)]
struct PoseData {
    animation: usize,
    frame: usize,
    facing: &'static str,
    /// Its art, by index.
    art: usize,
    flipped: bool,
    /// How far right of its mirror image about the pivot the flipped art lies, px.
    #[serde(skip_serializing_if = "is_zero")]
    drift: f64,
    shapes: Vec<ShapeData>,
}

fn is_zero(px: &f64) -> bool {
    *px == 0.0
}

/// A shape of a pose, local px.
#[derive(Debug, Serialize)]
struct ShapeData {
    /// By index.
    shape: usize,
    /// x and y by turns.
    rings: Vec<Vec<f64>>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    holes: Vec<Vec<f64>>,
}

/// How well the shapes of a frame fit.
#[derive(Debug, Serialize)]
struct FrameFit {
    /// Its pose as drawn, by index.
    pose: usize,
    shapes: Vec<ShapeFit>,
}

#[derive(Debug, Serialize)]
struct ShapeFit {
    shape: String,
    kind: String,
    #[serde(flatten)]
    quality: QualityFits,
}

/// Makes the frames whose fits are shown known to the table of poses; those that fit worst first.
pub(super) fn add_fits(cast: &TakeCast, poses: &mut PoseTable<'_>) -> Vec<Vec<FitFrame>> {
    let of = |(actor, member): (usize, &Option<CastMember>)| {
        let Some(member) = member else { return Vec::new() };
        let mut frames: Vec<FitFrame> = worst_first(&cast.actors[actor], member);
        frames.iter_mut().take(MOST_FRAMES).for_each(|of| of.pose = poses.drawn(actor, of.animation, of.frame));
        frames
    };
    cast.members.iter().enumerate().map(of).collect()
}

/// A frame that has fits.
#[derive(Clone, Copy, Debug)]
pub(super) struct FitFrame {
    /// In the fits file.
    index: usize,
    animation: usize,
    frame: usize,
    pose: usize,
    worst: f64,
}

fn worst_first(actor: &Actor, member: &CastMember) -> Vec<FitFrame> {
    let frames = member.fits.frames.iter().enumerate().filter_map(|(index, frame)| {
        let animation = actor.find(&frame.animation)?;
        actor.animations[animation].frames.get(frame.frame)?;
        let worst = frame.shapes.iter().filter_map(|shape| Some(shape.quality?.iou)).reduce(f64::min)?;
        Some(FitFrame { index, animation, frame: frame.frame, pose: 0, worst })
    });
    let mut frames: Vec<FitFrame> = frames.collect();
    frames.sort_by(|a, b| a.worst.total_cmp(&b.worst));
    frames
}

/// An actor of the cast.
pub(super) struct Of<'a> {
    pub(super) actor: &'a Actor,
    pub(super) member: &'a CastMember,
    pub(super) poses: &'a [PoseKey],
    pub(super) fits: &'a [FitFrame],
}

impl Of<'_> {
    /// All that the page shows of it.
    ///
    /// # Errors
    /// Pictures that cannot be read any more.
    pub(super) fn data(&self) -> Result<ActorData, Failure> {
        let Of { actor, member: CastMember { file, fits }, poses, .. } = *self;
        let shown: BTreeSet<usize> = poses.iter().map(|key| self.art_of(*key)).collect();
        let gallery = file.gallery();
        let picture = |frame: &usize| Ok::<Picture, Problems>(gallery.frame(&file.frames[*frame].source)?.picture);
        let pictures = shown.iter().map(picture).collect::<Result<Vec<Picture>, Problems>>()?;
        let placed = atlas(&pictures);
        let art = shown.iter().zip(&placed.places).map(|(frame, place)| art(file, *frame, *place));
        let names: Vec<&str> = shape_names(actor);
        let pose = |key: &PoseKey| {
            let of = actor.pose(key.animation, key.frame, key.facing);
            let frame = self.art_of(*key);
            PoseData {
                animation: key.animation,
                frame: key.frame,
                facing: key.facing.name(),
                art: shown.iter().position(|known| *known == frame).unwrap_or(0),
                flipped: key.flipped,
                drift: if key.flipped { file.flip_drift(frame) } else { 0.0 },
                shapes: shapes(of, &names),
            }
        };
        let role = |name: &&str| ShapeName {
            name: name.to_string(),
            role: file.shapes.iter().find(|shape| shape.name == **name).map_or("sensor", |shape| shape.role.name()),
        };
        let shown_fits = self.fits.iter().take(MOST_FRAMES).map(|of| {
            let shapes = fits.frames[of.index].shapes.iter().filter_map(|shape| {
                let quality = shape.quality?;
                Some(ShapeFit { shape: shape.name.clone(), kind: shape.kind.clone(), quality })
            });
            FrameFit { pose: of.pose, shapes: shapes.collect() }
        });
        Ok(ActorData {
            name: actor.name.clone(),
            animations: actor.animations.iter().map(|animation| animation.name.clone()).collect(),
            shapes: names.iter().map(role).collect(),
            sheets: placed.sheets.iter().map(|png| png_url(png)).collect(),
            art: art.collect(),
            poses: poses.iter().map(pose).collect(),
            fits: shown_fits.collect(),
            fits_left_out: self.fits.len().saturating_sub(MOST_FRAMES),
        })
    }

    /// The frame of the file whose art a pose shows.
    fn art_of(&self, key: PoseKey) -> usize {
        let shown = self.actor.shown(key.animation, key.frame, key.facing);
        self.member.file.animations[shown.animation].frames.start + shown.frame
    }
}

/// A PNG as the page holds it.
pub(super) fn png_url(png: &[u8]) -> String {
    format!("data:image/png;base64,{}", base64::engine::general_purpose::STANDARD.encode(png))
}

/// All names that shapes of an actor have, in either facing.
fn shape_names(actor: &Actor) -> Vec<&str> {
    let mut names: Vec<&str> = Vec::new();
    for shape in actor.animations.iter().flat_map(|of| &of.frames).flatten().flat_map(|pose| &pose.shapes) {
        if !names.contains(&shape.name.as_str()) {
            names.push(&shape.name);
        }
    }
    names
}

/// What lies where of a frame's art, the pivot as origin.
fn art(file: &ActorFile, frame: usize, place: AtlasPlace) -> [f64; 7] {
    let pivot = file.frames[frame].pivot;
    let AtlasPlace { sheet, at, size, cut } = place;
    let [x, y, width, height] = [at[0], at[1], size[0], size[1]].map(f64::from);
    [sheet as f64, x, y, width, height, f64::from(cut[0]) - pivot.x, f64::from(cut[1]) - pivot.y]
}

/// Rounded to a thousandth of a px: nobody sees more.
pub(super) fn ring(polygon: &Polygon) -> Vec<f64> {
    let round = |px: f64| (px * 1000.0).round() / 1000.0 + 0.0;
    polygon.points().iter().flat_map(|point| [round(point.x), round(point.y)]).collect()
}

fn shapes(pose: &Pose, names: &[&str]) -> Vec<ShapeData> {
    let data = |shape: &Shape| ShapeData {
        shape: names.iter().position(|name| *name == shape.name).unwrap_or(0),
        rings: shape.polygons.iter().map(ring).collect(),
        holes: shape.holes.iter().map(ring).collect(),
    };
    pose.shapes.iter().map(data).collect()
}
