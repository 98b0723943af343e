//! Lint: the facts of a project gathered, and the rules asked.

use crate::failure::Failure;
use crate::layer_lines::LayerLines;
use crate::layer_parties::parties;
use crate::project::OpenProject;
use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Foot, Pose, Shape};
use finitor_core::finding::Finding;
use finitor_core::fit::Source;
use finitor_core::lint::{
    ActorFacts, AnimationArt, AnimationFacts, CastFacts, FitState, FrameFacts, LayerFacts, MissingAnchorFacts,
    ShapeFacts, SheetPlace, StageFacts, StaleAnimation, StillFinding, lint_actor, lint_animation, lint_cast,
    lint_layers, lint_stage,
};
use finitor_core::stage::Stage;
use finitor_core::take::LongestSteps;
use finitor_core::{Facing, Vec2};
use finitor_files::{
    ActorFile, ArtChange, FitsFile, FrameChange, FrameFits, FrameSource, Gallery, Matching, Problem, Problems,
    ShapeSpec, TakeRead, TakeReader, UseKind, actor_from_fits, fits_path, frames_held, layer_uses, match_frames,
    read_fits,
};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicUsize, Ordering};

/// What to lint.
#[derive(Clone, Debug, Default)]
pub struct LintRequest {
    /// The actors; all of them, with layers and stages, when empty.
    pub actors: Vec<String>,
    /// Animations whose frames should stand, in place of those that the actor files name.
    pub standing: Vec<String>,
    /// Takes that say how fast actors move.
    pub takes: Vec<PathBuf>,
}

/// What lint found.
#[derive(Clone, Debug, Default)]
pub struct LintResult {
    /// Findings, the most severe first.
    pub findings: Vec<Finding>,
    /// The actors that were looked at.
    pub actors: Vec<String>,
    /// Their frames.
    pub frames: usize,
    /// Whether any animation is said to stand.
    pub has_standing: bool,
}

/// An actor file, its fits where they go with it, and how they do.
struct Subject<'a> {
    file: &'a ActorFile,
    state: FitState,
    fitted: Option<Actor>,
    /// What hands changed or locked.
    hand_made: Vec<HandMade>,
}

/// A shape on a frame that a hand changed or locked.
struct HandMade {
    shape: String,
    /// Among all frames of the file.
    frame: usize,
}

/// Reports what is wrong before any take.
///
/// # Errors
/// Mistakes in the files, and names that nothing has.
pub fn lint(project: &OpenProject<'_>, request: &LintRequest) -> Result<LintResult, Failure> {
    let files = project.select(&request.actors)?;
    let is_known = |name: &String| files.iter().any(|file| file.animations.iter().any(|a| a.name == *name));
    if let Some(name) = request.standing.iter().find(|name| !is_known(name)) {
        let known: Vec<&str> =
            files.iter().flat_map(|file| &file.animations).map(|animation| animation.name.as_str()).collect();
        return Err(crate::failure::unknown("animation", name, &known));
    }
    let _progress = project.sink().task("looking for mistakes");
    let settings = &project.project.settings;
    let mut problems = Problems::default();
    let subjects: Vec<Subject<'_>> = files.iter().filter_map(|file| problems.take(subject(file))).collect();
    problems.or(())?;
    let mut problems = Problems::default();
    let mut found: Vec<StillFinding> = Vec::new();
    let mut has_standing = false;
    for subject in &subjects {
        let facts = facts(subject, &request.standing);
        has_standing |= facts.animations.iter().any(|animation| animation.must_stand);
        found.extend(lint_actor(&facts, settings));
        let of_art = project.pool.install(|| of_art(project, subject.file, &facts));
        found.extend(problems.take(of_art.map_err(Problems::from)).unwrap_or_default());
    }
    problems.or(())?;
    // Who detects whom is a matter of all actors.
    if request.actors.is_empty() {
        let stages = project.stages()?;
        found.extend(of_layers(project, &files, &stages)?);
        let mut fitted: Vec<Actor> = subjects.into_iter().filter_map(|subject| subject.fitted).collect();
        if !request.takes.is_empty() {
            add_steps(project, &stages, &mut fitted, &request.takes)?;
        }
        found.extend(lint_cast(&CastFacts { actors: &fitted, layers: &project.project.layers }, settings));
        let names: Vec<&str> = files.iter().map(|file| file.name.as_str()).collect();
        for stage in &stages {
            let facts = StageFacts { stage, names: &names, actors: &fitted, slack: settings.slack() };
            found.extend(lint_stage(&facts, settings));
        }
    }
    let mut findings: Vec<Finding> = found.into_iter().map(|found| found.finding).collect();
    findings.sort_by_key(|finding| std::cmp::Reverse(finding.severity));
    Ok(LintResult {
        findings,
        actors: files.iter().map(|file| file.name.clone()).collect(),
        frames: files.iter().map(|file| file.frames.len()).sum(),
        has_standing,
    })
}

/// What the fits were not made from, and the actor with its fits, where they go with its frames.
fn subject(file: &ActorFile) -> Result<Subject<'_>, Problems> {
    let path = fits_path(&file.path);
    let Some(fits) = read_fits(&path)? else {
        return Ok(Subject { file, state: FitState::Missing, fitted: None, hand_made: Vec::new() });
    };
    let Matching { frames, changes, .. } = match_frames(file, &fits);
    let hand_made = frames.iter().enumerate().flat_map(|(frame, fits)| {
        let shapes = fits.map_or(&[][..], |fits| &fits.shapes).iter().filter(|shape| shape.is_hand_made());
        shapes.map(move |shape| HandMade { shape: shape.name.clone(), frame })
    });
    let hand_made = hand_made.collect();
    let (fitted, stale) = actor_from_fits(file, &fits, &path)?;
    if !changes.is_empty() {
        let changes = changes.iter().map(stale_animation).collect();
        return Ok(Subject { file, state: FitState::Frames(changes), fitted: None, hand_made });
    }
    let state = match stale.shapes.first() {
        Some(first) => FitState::Recipes(stale.shapes.len(), first.clone()),
        None => FitState::Current,
    };
    Ok(Subject { file, state, fitted: Some(fitted), hand_made })
}

fn stale_animation(change: &ArtChange) -> StaleAnimation {
    let pixels = |(_, change): &(usize, FrameChange)| match change {
        FrameChange::Redrawn(change) => change.pixels(),
        _ => 0,
    };
    StaleAnimation {
        name: change.animation.clone(),
        pixels: change.frames.iter().map(pixels).sum(),
        message: change.sentences().join("; "),
        was: change.like.clone(),
    }
}

fn facts<'a>(subject: &'a Subject<'a>, standing: &[String]) -> ActorFacts<'a> {
    let file = subject.file;
    let animations = file.animations.iter().map(|animation| AnimationFacts {
        name: &animation.name,
        frames: animation.frames.clone(),
        must_stand: standing.contains(&animation.name) || (standing.is_empty() && animation.standing),
        active: animation.active.as_deref(),
    });
    let mut pictures: Vec<&Path> = Vec::new();
    let frames = file.frames.iter().enumerate().map(|(index, frame)| {
        let opaque = frame.imprint.opaque_runs();
        FrameFacts {
            name: file.frame_name(index),
            pivot: frame.pivot,
            foot: Foot::new(&opaque, frame.pivot),
            width: f64::from(frame.rect.width),
            height: f64::from(frame.rect.height),
            drift: file.flip_drift(index),
            opaque,
            sheet: sheet_place(&frame.source, &mut pictures),
        }
    });
    let shapes = file.shapes.iter().map(|shape| ShapeFacts {
        name: &shape.name,
        table: shape.siblings.as_deref().unwrap_or(&shape.name),
        fitting: match &shape.source {
            Source::Fitted(fitting) => Some(fitting),
            _ => None,
        },
        siblings: shape.siblings.as_deref().filter(|_| !shape.may_overlap),
        held: frames_held(file, shape).into_iter().filter(|frames| frames.len() > 1).collect(),
        hand_made: subject.hand_made.iter().filter(|of| of.shape == shape.name).map(|of| of.frame).collect(),
    });
    let missing = file.missing_anchors.iter().map(|missing| MissingAnchorFacts {
        anchor: missing.anchor.clone(),
        animation: missing.animation.clone(),
        frames: missing.frames.len(),
        message: missing.to_string(),
    });
    ActorFacts {
        name: &file.name,
        animations: animations.collect(),
        frames: frames.collect(),
        shapes: shapes.collect(),
        parts: file.parts.iter().map(|row| row.colour).collect(),
        missing_anchors: missing.collect(),
        fits: subject.state.clone(),
        fitted: subject.fitted.as_ref(),
    }
}

/// Where a frame lies in a picture, which is added to those known where it is none of them.
fn sheet_place<'f>(source: &'f FrameSource, pictures: &mut Vec<&'f Path>) -> Option<SheetPlace> {
    let (rect, path) = (source.rect?, source.file.path.as_path());
    let picture = pictures.iter().rposition(|known| *known == path).unwrap_or_else(|| {
        pictures.push(path);
        pictures.len() - 1
    });
    Some(SheetPlace { picture, x: rect.x, y: rect.y })
}

/// Findings that need pictures, animation by animation; those of an actor whose fits do not go with its frames are left out.
fn of_art(project: &OpenProject<'_>, file: &ActorFile, facts: &ActorFacts<'_>) -> Result<Vec<StillFinding>, Problem> {
    if facts.fitted.is_none() {
        return Ok(Vec::new());
    }
    let animations: Vec<usize> = (0..file.animations.len()).collect();
    // A sheet is decoded once for all animations that are cut from it, and kept until the last of them.
    let gallery = file.gallery();
    let sheets = SheetsLeft::new(file);
    let looked: Vec<Result<Vec<StillFinding>, Problem>> = animations
        .par_iter()
        .map(|&animation| {
            let frames = file.animations[animation].frames.clone();
            let art = frames.map(|frame| gallery.frame(&file.frames[frame].source)).collect::<Result<Vec<_>, _>>()?;
            sheets.done_with(animation, &gallery);
            let art = AnimationArt { actor: facts, animation, art: &art };
            Ok(lint_animation(&art, &project.project.settings))
        })
        .collect();
    let mut found = Vec::new();
    for of_animation in looked {
        found.extend(of_animation?);
    }
    Ok(found)
}

/// The pictures that animations are still to be cut from.
struct SheetsLeft<'f> {
    file: &'f ActorFile,
    /// By picture: in how many animations it is wanted yet.
    left: BTreeMap<&'f Path, AtomicUsize>,
}

impl<'f> SheetsLeft<'f> {
    fn new(file: &'f ActorFile) -> SheetsLeft<'f> {
        let mut left: BTreeMap<&Path, AtomicUsize> = BTreeMap::new();
        for animation in 0..file.animations.len() {
            for source in sources(file, animation).values() {
                *left.entry(&source.file.path).or_default().get_mut() += 1;
            }
        }
        SheetsLeft { file, left }
    }

    /// An animation needs its pictures no more.
    fn done_with(&self, animation: usize, gallery: &Gallery) {
        for (path, source) in sources(self.file, animation) {
            if self.left.get(path).is_some_and(|left| left.fetch_sub(1, Ordering::Relaxed) == 1) {
                gallery.release(source);
            }
        }
    }
}

/// The pictures of an animation that several frames share.
fn sources(file: &ActorFile, animation: usize) -> BTreeMap<&Path, &FrameSource> {
    let frames = file.frames[file.animations[animation].frames.clone()].iter();
    let shared = frames.filter(|frame| frame.source.file.shared);
    shared.map(|frame| (frame.source.file.path.as_path(), &frame.source)).collect()
}

/// Findings about layers, each with the line to change.
fn of_layers(project: &OpenProject<'_>, files: &[&ActorFile], stages: &[Stage]) -> Result<Vec<StillFinding>, Failure> {
    let layers = &project.project.layers;
    let all = parties(layers, files, stages, &[]);
    let uses = layer_uses(&project.project)?;
    let is_used = |name: &String| uses.iter().any(|found| found.name == *name && found.kind != UseKind::Named);
    let aliases_used: Vec<bool> = layers.aliases.iter().map(|alias| is_used(&alias.name)).collect();
    let facts = LayerFacts { layers, parties: &all, aliases_used: &aliases_used };
    let lines = LayerLines { project, actors: files, parties: &all, uses: &uses };
    let with_line = |mut found: StillFinding| {
        if let Some(spot) = found.spot {
            let fix = &mut found.finding.fix;
            *fix = format!("{} Change {}.", fix, lines.line_of(spot));
        }
        found
    };
    Ok(lint_layers(&facts, &project.project.settings).into_iter().map(with_line).collect())
}

/// Lets the actors move as fast as in the takes, where that is faster than their files say.
fn add_steps(
    project: &OpenProject<'_>,
    stages: &[Stage],
    actors: &mut [Actor],
    takes: &[PathBuf],
) -> Result<(), Failure> {
    let mut steps = LongestSteps::new(actors.len(), project.project.settings.teleport());
    for take in takes {
        // Which stage it was played on matters only for its height, and so for no step.
        let flip = stages.first().and_then(|stage| project.flip(stage));
        let mut reader = TakeReader::open(&project.take_path(take), actors, flip)?;
        steps.begin();
        while let Some(read) = reader.next()? {
            match read {
                TakeRead::Tick { tick, samples, .. } => steps.tick(tick, samples),
                TakeRead::End { .. } => steps.begin(),
            }
        }
    }
    for (index, actor) in actors.iter_mut().enumerate() {
        let known = actor.moves.fastest;
        actor.moves.fastest = match (known, steps.of(ActorIndex(index))) {
            (Some(a), Some(b)) => Some(Vec2::new(a.x.max(b.x), a.y.max(b.y))),
            (known, seen) => known.or(seen),
        };
    }
    Ok(())
}

/// What a turn does to actors, by the rules about that alone.
pub fn turning_findings(project: &OpenProject<'_>, actors: &[Actor]) -> Vec<Finding> {
    findings_of(project, actors, &["lopsided", "flip_drift", "missing_turned"])
}

/// Where an actor has no shape by its fits.
pub fn shape_findings(project: &OpenProject<'_>, file: &ActorFile, fits: &FitsFile) -> Vec<Finding> {
    findings_of(project, &[by_roles(file, fits)], &["no_shape"])
}

/// The actor with the roles of its shapes alone: to cut their outlines into pieces takes as long as to fit them.
fn by_roles(file: &ActorFile, fits: &FitsFile) -> Actor {
    let written: BTreeMap<(&str, usize), &FrameFits> =
        fits.frames.iter().map(|frame| ((frame.animation.as_str(), frame.frame), frame)).collect();
    let shape = |spec: &ShapeSpec| Shape {
        name: spec.name.clone(),
        role: spec.role,
        polygons: Vec::new(),
        holes: Vec::new(),
        pieces: Vec::new().into(),
        layer: spec.layer,
        mask: spec.mask,
        side: None,
        carries: Carried::default(),
    };
    let animations = file.animations.iter().map(|animation| {
        let pose = |index: usize| {
            let known = written.get(&(animation.name.as_str(), file.frames[index].number));
            let has = |spec: &&ShapeSpec| known.is_some_and(|frame| frame.shapes.iter().any(|of| of.name == spec.name));
            Pose { shapes: file.shapes.iter().filter(has).map(shape).collect(), ..Pose::default() }
        };
        let (name, frames) = (animation.name.clone(), animation.frames.clone().map(pose).collect());
        DrawnAnimation { name, faces: Facing::Right, frames, stands_for: None }
    });
    Actor::new(file.name.clone(), animations.collect(), Vec::new())
}

/// What some rules say that need the shapes alone.
fn findings_of(project: &OpenProject<'_>, actors: &[Actor], rules: &[&str]) -> Vec<Finding> {
    let of_actor = |actor: &Actor| {
        let facts = ActorFacts {
            name: &actor.name,
            animations: Vec::new(),
            frames: Vec::new(),
            shapes: Vec::new(),
            parts: Vec::new(),
            missing_anchors: Vec::new(),
            fits: FitState::Current,
            fitted: Some(actor),
        };
        lint_actor(&facts, &project.project.settings)
    };
    let all = actors.iter().flat_map(of_actor).map(|found| found.finding);
    all.filter(|finding| rules.contains(&finding.rule.code())).collect()
}
