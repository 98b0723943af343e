//! Other readings of a take: what it would have to mean so that a body stands on ground.

use crate::check::step::{Step, Way};
use crate::check::take_rule::Scene;
use crate::geometry::{Point, Vec2};
use crate::stage::Stage;
use crate::take::YAxis;
use crate::world::{NearThings, Strip, World};

/// What the take would have to mean.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Reading {
    /// Another of the project's stages.
    stage: Option<usize>,
    y_axis: YAxis,
    columns: Columns,
    origin: Origin,
    /// Px in a unit of the recording.
    unit: f64,
}

/// Which of a recording's numbers is which.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Columns {
    AsNamed,
    Exchanged,
}

/// Which point of the picture a recording names.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Origin {
    Pivot,
    TopLeft,
    Middle,
}

/// Units that recordings are in: tiles, meters, screen px of an enlarged picture, fractions of a px.
const UNITS: [f64; 20] = [
    1.0,
    2.0,
    4.0,
    8.0,
    10.0,
    12.0,
    16.0,
    18.0,
    20.0,
    24.0,
    32.0,
    48.0,
    50.0,
    64.0,
    100.0,
    0.5,
    1.0 / 3.0,
    0.25,
    0.0625,
    0.003_906_25,
];

/// More than that at once is not what somebody did.
const MOST_CHANGES: u32 = 2;

/// A reading by which a body stands on ground.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Fit {
    pub(super) reading: Reading,
    /// The share of the poses that stand.
    pub(super) standing: f64,
}

/// Instances of an actor for which readings are tried: what one recorder writes is right or wrong for all of them.
const MOST_TRIED: u32 = 4;

/// Readings under trial.
pub(super) struct Trials<'t, 'a> {
    scene: &'t Scene<'t, 'a>,
    /// The take's stage, and the others with their index in the project.
    worlds: Vec<(Option<usize>, World<'a>)>,
    /// By actor, how many of its instances were tried.
    tried: Vec<u32>,
}

impl<'t, 'a> Trials<'t, 'a> {
    pub(super) fn new(scene: &'t Scene<'t, 'a>) -> Trials<'t, 'a> {
        Trials { scene, worlds: Vec::new(), tried: vec![0; scene.input.actors.len()] }
    }

    /// The reading by which most poses stand, and of those the one that changes least.
    ///
    /// # Complexity
    /// O(r p log s): r readings, p poses, s things of the stages; a sixth of that as a rule.
    pub(super) fn best(&mut self, poses: &[Way]) -> Option<Fit> {
        let tried = &mut self.tried[poses.first()?.actor.0];
        *tried += 1;
        if *tried > MOST_TRIED {
            return None;
        }
        if self.worlds.is_empty() {
            let input = self.scene.input;
            let others = input.stages.iter().enumerate().filter(|(_, stage)| stage.name != input.stage.name);
            let own = std::iter::once((None, input.stage));
            let all = own.chain(others.map(|(index, stage)| (Some(index), stage)));
            self.worlds = all.map(|(index, stage)| (index, World::new(stage))).collect();
        }
        let steps: Vec<Step<'_>> = poses.iter().map(|way| self.scene.step(*way)).collect();
        let mut best: Option<(u32, Fit)> = None;
        for (stage, world) in &self.worlds {
            for reading in readings(*stage) {
                let changes = changes(&reading, self.scene.input.y_axis);
                if changes == 0 || changes > MOST_CHANGES {
                    continue;
                }
                let Some(stand) = stand(&reading, world, self.scene, &steps) else { continue };
                // Some combination brings any level line onto some floor.
                if stand.is_level && changes > 1 {
                    continue;
                }
                let standing = stand.share;
                let is_better = best.is_none_or(|(known, fit)| {
                    standing > fit.standing + 0.05 || (standing >= fit.standing - 0.05 && changes < known)
                });
                if is_better {
                    best = Some((changes, Fit { reading, standing }));
                }
            }
        }
        best.map(|(_, fit)| fit)
    }
}

/// All readings for a stage.
fn readings(stage: Option<usize>) -> impl Iterator<Item = Reading> {
    let axes = [YAxis::Down, YAxis::Up].into_iter();
    axes.flat_map(move |y_axis| {
        let origins = [Origin::Pivot, Origin::TopLeft, Origin::Middle].into_iter();
        let as_named = origins.flat_map(move |origin| {
            UNITS.map(|unit| Reading { stage, y_axis, columns: Columns::AsNamed, origin, unit })
        });
        let exchanged = Reading { stage, y_axis, columns: Columns::Exchanged, origin: Origin::Pivot, unit: 1.0 };
        as_named.chain([exchanged])
    })
}

/// How many things a reading takes otherwise than the project.
fn changes(reading: &Reading, y_axis: YAxis) -> u32 {
    u32::from(reading.stage.is_some())
        + u32::from(reading.y_axis != y_axis)
        + u32::from(reading.columns != Columns::AsNamed)
        + u32::from(reading.origin != Origin::Pivot)
        + u32::from(reading.unit != 1.0)
}

/// How a body stands by a reading.
#[derive(Clone, Copy, Debug)]
struct Stand {
    /// The share of the poses.
    share: f64,
    /// Whether all poses are at about one height.
    is_level: bool,
}

/// How the body stands by a reading; `None` where too few do, some lie in solids, or nothing shows
/// that it is ground and not a line that something happens to fly along.
fn stand(reading: &Reading, world: &World<'_>, scene: &Scene<'_, '_>, steps: &[Step<'_>]) -> Option<Stand> {
    /// Poses of a first look, spread over the take.
    const FEW: usize = 16;
    let spread = steps.len().div_ceil(FEW).max(1);
    let first_look = steps.iter().step_by(spread).map(|step| pose(reading, world, scene, step));
    if !first_look.into_iter().any(|seen| seen == Seen::Standing) {
        return None;
    }
    let (mut stands, mut inside) = (0_usize, 0_usize);
    for step in steps {
        match pose(reading, world, scene, step) {
            Seen::Standing => stands += 1,
            Seen::Inside => inside += 1,
            Seen::Neither => {}
        }
        if inside * 20 > steps.len() {
            return None;
        }
    }
    let places: Vec<Point> = steps.iter().map(|step| place(reading, world.stage(), scene, step)).collect();
    let first = steps.first()?;
    let share = stands as f64 / steps.len() as f64;
    let is_level = match course(&places, first.bounds().height() / 4.0) {
        Course::Level if first.may_walk() && share >= 0.9 => true,
        Course::Level | Course::Straight => return None,
        Course::Varied => false,
    };
    (stands * 3 >= steps.len() && inside * 20 <= steps.len()).then_some(Stand { share, is_level })
}

/// How a body is by a reading.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Seen {
    Standing,
    Inside,
    Neither,
}

fn pose(reading: &Reading, world: &World<'_>, scene: &Scene<'_, '_>, step: &Step<'_>) -> Seen {
    let at = place(reading, world.stage(), scene, step);
    let body = step.meeting();
    let mut found = NearThings::default();
    world.find((body.bounds() + at.to_vec2()).inflate(0.0, step.slack + 1.0), &mut found);
    let strip = Strip::new(&step.body.pieces, step.slack.max(0.5));
    if !world.supports(found.all(), body.mask, &[]).any(|outline| strip.meets(at, outline)) {
        return Seen::Neither;
    }
    if world.depth(body, at) > step.slack { Seen::Inside } else { Seen::Standing }
}

/// Where the pivot is by a reading.
fn place(reading: &Reading, stage: &Stage, scene: &Scene<'_, '_>, step: &Step<'_>) -> Point {
    let at = step.now().at;
    let recorded = match scene.input.y_axis {
        YAxis::Down => at.y,
        YAxis::Up => scene.input.stage.size.y - at.y,
    };
    let (x, recorded) = match reading.columns {
        Columns::AsNamed => (at.x, recorded),
        Columns::Exchanged => (recorded, at.x),
    };
    let (x, recorded) = (x * reading.unit, recorded * reading.unit);
    let y = match reading.y_axis {
        YAxis::Down => recorded,
        YAxis::Up => stage.size.y - recorded,
    };
    let picture = step.pose().picture;
    let origin = match reading.origin {
        Origin::Pivot => Point::ZERO,
        Origin::TopLeft => picture.origin(),
        Origin::Middle => picture.center(),
    };
    Point::new(x, y) - origin.to_vec2()
}

/// What to change so that a reading holds.
pub(super) fn change(scene: &Scene<'_, '_>, reading: &Reading) -> String {
    let mut all = Vec::new();
    if let Some(stage) = reading.stage.and_then(|index| scene.input.stages.get(index)) {
        all.push(format!("check it with `--stage {}`", stage.name));
    }
    if reading.y_axis != scene.input.y_axis {
        let word = if reading.y_axis == YAxis::Up { "up" } else { "down" };
        all.push(format!("set `y_axis = \"{word}\"` in [project]"));
    }
    if reading.columns == Columns::Exchanged {
        all.push("exchange x and y".to_string());
    }
    if reading.unit > 1.0 {
        all.push(format!("multiply x and y by {}", reading.unit));
    } else if reading.unit < 1.0 {
        all.push(format!("divide x and y by {}", (1.0 / reading.unit).round()));
    }
    match reading.origin {
        Origin::Pivot => {}
        Origin::TopLeft => all.push("record the pivot, not the art's top left corner".to_string()),
        Origin::Middle => all.push("record the pivot, not the middle of the art".to_string()),
    }
    let words = all.join(" and ");
    words[..1].to_uppercase() + &words[1..]
}

/// How a way runs.
enum Course {
    /// At one height.
    Level,
    /// Along another straight line.
    Straight,
    Varied,
}

/// How places lie, within some px.
fn course(places: &[Point], within: f64) -> Course {
    let (Some(first), Some(last)) = (places.first(), places.last()) else { return Course::Level };
    let way = *last - *first;
    let off = |way: Vec2| {
        let normal = Vec2::new(-way.y, way.x) / way.hypot();
        places.iter().map(|at| (*at - *first).dot(normal).abs()).fold(0.0, f64::max)
    };
    if off(Vec2::new(1.0, 0.0)) <= within {
        Course::Level
    } else if way.hypot() > within && off(way) <= within {
        Course::Straight
    } else {
        Course::Varied
    }
}
