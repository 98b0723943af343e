//! One page to play takes with what their check found: the values that it shows, and the page itself.

mod cast;
mod columns;
mod poses;
mod scenery;
mod tracks;

use crate::checked_take::CheckedTake;
use crate::checking::{TickOf, check_shown};
use crate::failure::Failure;
use crate::filter::Filter;
use crate::layer_parties::parties;
use crate::results::{ClearanceList, MovesResult, ReachResult, StageClearanceResult, SummaryResult};
use crate::take_cast::{CastMember, TakeCast};
use crate::take_checks::TakeChecks;
use cast::ActorData;
use finitor_core::actor::{Actor, Role};
use finitor_core::clearance::{StageClearance, Stance as BodyStance};
use finitor_core::hits::{Meeting, Stance, moves};
use finitor_draw::{MadePage, Renewal, ReplayPage, replay_page};
use finitor_files::{ActorFile, counted};
use poses::PoseTable;
use rayon::prelude::*;
use scenery::{LayersData, StageData};
use serde::Serialize;
use std::path::PathBuf;
use tracks::{StateSets, Tables, TakeTracks};

/// Passages in which a body has at most this much to spare are shown, px.
const TIGHT: f64 = 16.0;

/// What is to be played.
#[derive(Clone, Copy)]
pub struct ReplayRequest<'r> {
    /// What the takes are checked against.
    pub checks: TakeChecks<'r>,
    /// The actors with their files.
    pub cast: &'r TakeCast,
    /// The takes.
    pub takes: &'r [PathBuf],
    /// Which findings are shown.
    pub filter: Option<&'r Filter>,
    /// Whether the page renews itself.
    pub renewal: Renewal,
}

/// A page and what its takes hold.
#[derive(Debug)]
pub struct Replay {
    /// The page.
    pub page: MadePage,
    /// The takes.
    pub takes: Vec<CheckedTake>,
}

/// All that the page shows but for the takes.
#[derive(Serialize)]
struct PageData<'a> {
    project: &'a str,
    tick_rate: f64,
    /// The stage's height where takes count y up: the page tells places so too.
    #[serde(skip_serializing_if = "Option::is_none")]
    up_from: Option<f64>,
    stage: StageData,
    layers: LayersData,
    /// By index; those that no take names are `null`.
    actors: Vec<Option<ActorData>>,
    summary: SummaryResult,
    moves: Vec<MovesResult>,
    reach: Vec<ReachResult>,
    clearance: Option<StageClearanceResult>,
}

/// Checks takes and makes the page that plays them.
///
/// # Errors
/// Mistakes in the takes; pictures that cannot be read any more.
///
/// # Complexity
/// That of the check, O(samples) besides, and of decoding the frames that are shown; memory holds two numbers a sample.
pub fn replay(request: &ReplayRequest<'_>) -> Result<Replay, Failure> {
    let ReplayRequest { checks, cast, takes: paths, filter, renewal } = *request;
    let checks = TakeChecks { has_swings: true, has_footing: true, ..checks };
    let TakeChecks { project, stage, .. } = checks;
    let mut tables = Tables { poses: PoseTable::new(&cast.actors), sets: StateSets::default() };
    let progress = project.sink().task("checking takes");
    let (mut takes, mut data) = (Vec::new(), Vec::new());
    for path in paths {
        let mut tracks: Vec<TakeTracks> = Vec::new();
        let show = |of: TickOf<'_>| {
            tracks.resize_with(tracks.len().max(of.number + 1), TakeTracks::default);
            tracks[of.number].see(of.tick, of.samples, &mut tables);
        };
        let mut checked = check_shown(checks, path, show)?;
        if let Some(filter) = filter {
            checked.iter_mut().for_each(|take| filter.retain(&mut take.report));
        }
        tracks.resize_with(checked.len(), TakeTracks::default);
        data.extend(tracks.into_iter().zip(&checked).map(|(tracks, take)| tracks.finish(take)));
        takes.extend(checked);
    }
    drop(progress);
    let _progress = project.sink().task("making the page");
    let Tables { mut poses, sets } = tables;
    let files: Vec<&ActorFile> = cast.members.iter().flatten().map(|member| &member.file).collect();
    let stages = std::slice::from_ref(stage);
    let stage_file = project.stage_files()?.iter().find(|file| file.stage.name == stage.name);
    let tiles = stage_file.and_then(|file| file.tiles.as_ref());
    let data_of_page = PageData {
        project: &project.project.name,
        tick_rate: project.project.tick_rate,
        up_from: project.flip(stage),
        stage: StageData::new(stage, tiles),
        layers: LayersData::new(&project.project.layers, &parties(&project.project.layers, &files, stages, &[]), &sets),
        actors: actors(request, &mut poses)?,
        summary: SummaryResult::new(&takes),
        moves: attacks(request),
        reach: reach(request),
        clearance: clearance(request),
    };
    let texts = data.iter().map(serde_json::to_string).collect::<Result<Vec<String>, _>>()?;
    let title = format!("{} on {}", names(&takes), stage.name);
    let page = replay_page(&ReplayPage {
        title: &title,
        data: &serde_json::to_string(&data_of_page)?,
        takes: &texts,
        renewal,
    });
    Ok(Replay { page: page.map_err(|error| Failure::Bug(error.to_string()))?, takes })
}

/// The takes by name, or how many there are.
fn names(takes: &[CheckedTake]) -> String {
    match takes {
        [_] | [_, _] => takes.iter().map(|take| take.name.as_str()).collect::<Vec<&str>>().join(", "),
        _ => counted(takes.len(), "take"),
    }
}

/// The actors that are there, each on a thread.
fn actors(request: &ReplayRequest<'_>, poses: &mut PoseTable<'_>) -> Result<Vec<Option<ActorData>>, Failure> {
    let TakeCast { actors, members } = request.cast;
    let fits = cast::add_fits(request.cast, poses);
    let data = |(index, member): (usize, &Option<CastMember>)| {
        let Some(member) = member else { return Ok(None) };
        let of = cast::Of { actor: &actors[index], member, poses: poses.of(index), fits: &fits[index] };
        of.data().map(Some)
    };
    request.checks.project.pool.install(|| members.par_iter().enumerate().map(data).collect())
}

/// Those who strike.
fn attackers<'a>(request: &ReplayRequest<'a>) -> impl Iterator<Item = &'a Actor> + use<'a> {
    let strikes = |actor: &&Actor| {
        let mut shapes = actor.animations.iter().flat_map(|of| &of.frames).flatten().flat_map(|pose| &pose.shapes);
        shapes.any(|shape| shape.role == Role::Hit)
    };
    request.cast.actors.iter().filter(strikes)
}

fn attacks(request: &ReplayRequest<'_>) -> Vec<MovesResult> {
    let (project, cast) = (&request.checks.project.project, request.cast);
    let of = |actor| MovesResult::new(actor, project.tick_rate, &moves(actor, &cast.actors, &project.layers));
    attackers(request).map(of).collect()
}

/// What each attacker reaches of each other actor that can be struck.
fn reach(request: &ReplayRequest<'_>) -> Vec<ReachResult> {
    let project = &request.checks.project.project;
    let mut found = Vec::new();
    for attacker in attackers(request) {
        for target in request.cast.actors.iter().filter(|target| target.name != attacker.name) {
            let Some(stance) = Stance::usual(target) else { continue };
            let settle = project.settings.settle();
            let meeting = Meeting { attacker, target, stance, lower: 0.0, layers: &project.layers, settle };
            let result = ReachResult::new(&meeting, &meeting.encounters());
            found.extend((!result.attacks.iter().all(|of| of.parts.is_empty())).then_some(result));
        }
    }
    found
}

/// What room the bodies have on the stage.
fn clearance(request: &ReplayRequest<'_>) -> Option<StageClearanceResult> {
    let (checks, actors) = (request.checks, &request.cast.actors);
    let stances: Vec<BodyStance> = actors.iter().flat_map(BodyStance::of).collect();
    if stances.is_empty() {
        return None;
    }
    let survey = checks.project.pool.install(|| StageClearance::new(checks.stage, actors, &stances, TIGHT));
    ClearanceList::new(&[survey], &stances).stages.pop()
}
