//! What the files of a new project depend on.

use super::{Plan, frames_of};
use finitor_app::{Failure, PictureGroup, SeenPicture, canvases};
use finitor_files::{Starter, StarterAnimation, StarterPivot};

/// What the files depend on.
pub(super) struct Setting {
    pub(super) project: String,
    pub(super) actor: String,
    /// What the take plays on the ground, or in the air where nothing stands.
    pub(super) walk: Played,
    /// What it plays in a jump.
    pub(super) jump: Played,
    /// The larger side of a cell, px: the measure of the stage.
    pub(super) unit: u32,
    /// Width and height of the stage.
    pub(super) stage: (u32, u32),
    /// The farthest that its art reaches from the pivot to a side, px.
    pub(super) reach: u32,
}

/// An animation that a take plays.
#[derive(Clone)]
pub(super) struct Played {
    pub(super) name: String,
    pub(super) frames: usize,
    /// Whether it stands on the ground; what does not is recorded in the air.
    pub(super) standing: bool,
}

impl Setting {
    /// # Errors
    /// A stage that is too small for what is put on it.
    pub(super) fn new(
        plan: &Plan,
        stage: Option<(u32, u32)>,
        starter: &Starter,
        groups: &[PictureGroup],
    ) -> Result<Setting, Failure> {
        let unit = unit(groups);
        let stage = stage.unwrap_or((14 * unit, 7 * unit));
        if stage.0 < 12 * unit || stage.1 < 6 * unit {
            let (wide, high) = (12 * unit, 6 * unit);
            return Err(Failure::Usage(format!(
                "--stage: {} x {} px is too small for a figure in cells of {unit} px; at least {wide}x{high}",
                stage.0, stage.1
            )));
        }
        let played = |animation: &StarterAnimation| Played {
            name: animation.name.clone(),
            frames: frames_of(&animation.frames, groups).max(1),
            standing: animation.standing,
        };
        // The longest of those that stand, or of all; the first of two as long.
        let all: Vec<Played> = starter.animations.iter().filter(|of| of.stands_for.is_none()).map(played).collect();
        let rank = |of: &Played| (of.standing, of.name.contains("walk"), of.frames);
        let walk = all.iter().rev().max_by_key(|of| rank(of)).cloned();
        let walk = walk.unwrap_or(Played { name: "idle".to_string(), frames: 1, standing: true });
        let jump = all.iter().find(|of| of.name.contains("jump")).unwrap_or(&walk).clone();
        let (project, actor) = (plan.project.clone(), plan.actor.clone());
        Ok(Setting { project, actor, walk, jump, unit, stage, reach: reach(starter, groups, unit) })
    }

    /// The floor's y.
    pub(super) fn floor(&self) -> u32 {
        self.stage.1 - self.unit
    }

    /// A share of the stage's width, in fourteenths.
    pub(super) fn across(&self, fourteenths: u32) -> u32 {
        self.stage.0 * fourteenths / 14
    }

    /// The wall's left side.
    pub(super) fn wall(&self) -> u32 {
        self.stage.0 - self.unit
    }
}

/// The larger side of a cell, as the measure of the stage; at least 16 px.
fn unit(groups: &[PictureGroup]) -> u32 {
    let sides = groups.iter().flat_map(|group| group.seen.iter().map(SeenPicture::longest_side));
    sides.max().unwrap_or(16).max(16)
}

/// The farthest that art reaches to a side of the pivot, where that is known; else a cell.
fn reach(starter: &Starter, groups: &[PictureGroup], unit: u32) -> u32 {
    let StarterPivot::At([x, _], _) = starter.pivot else { return unit };
    let (canvases, _) = canvases(groups);
    let runs = canvases.iter().flat_map(|canvas| canvas.frames.iter().flatten());
    let far = runs.map(|run| (x - f64::from(run.start)).abs().max((f64::from(run.end) - x).abs()));
    far.fold(0.0, f64::max).ceil() as u32
}
