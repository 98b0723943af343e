//! Play of a game that was not made by the rules: another solver, bodies of all kinds, slopes, tiles and ledges, three tick rates and
//! three ways of writing places. Played rightly it draws hardly any error or warning.
//!
//! By hand, with the table of docs/checking.md: `FINITOR_PLAY=2000000 cargo test --release -p finitor-core --test other_game --
//! --nocapture`.
#![allow(
    unreachable_pub,
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::type_complexity,
    missing_docs,
    reason = "a test fails by panicking, and this one prints its tally"
)]

mod bug;
mod bugs;
#[path = "../dice/mod.rs"]
mod dice;
mod figures;
mod fixes;
mod flat;
mod game;
mod land;
mod large;

use dice::Dice;
use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Foot, Moves, PixelRuns, Pose, Role, Shape};
use finitor_core::art::Mask;
use finitor_core::check::{CheckInput, Checker, Report, Settings};
use finitor_core::finding::Finding;
use finitor_core::fit::Side;
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::rule::Severity;
use finitor_core::stage::Stage;
use finitor_core::take::{Sample, YAxis};
use finitor_core::{Facing, Point, Polygon, Rect};
use flat::{Flat, Spot};
use game::{Figure, Game, Habits, STEP, Tick, figures};
use land::{Land, SORTS};
use std::collections::BTreeMap;

/// The dice of a take of a sort. Others with another `FINITOR_SEED`.
fn dice(sort: u64, seed: usize) -> Dice {
    let series = std::env::var("FINITOR_SEED").ok().and_then(|text| text.parse::<u64>().ok()).unwrap_or(0);
    Dice::new((series << 48) + (sort << 32) + seed as u64)
}

const RATES: [f64; 3] = [30.0, 60.0, 120.0];

/// How the game writes places.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum Written {
    Full,
    Hundredths,
    Whole,
}

const WRITTEN: [Written; 3] = [Written::Full, Written::Hundredths, Written::Whole];

impl Written {
    fn of(self, (x, y): (f64, f64)) -> Point {
        let rounded = |value: f64| match self {
            Written::Full => value,
            Written::Hundredths => (value * 100.0).round() / 100.0,
            Written::Whole => value.round(),
        };
        Point::new(rounded(x), rounded(y))
    }
}

/// The strip below the body: none, as wide as the body, or inset by 1 px.
const STRIPS: [Option<f64>; 3] = [None, Some(0.0), Some(1.0)];

fn shape(name: &str, role: Role, parts: &[Flat]) -> Shape {
    let polygons: Vec<Polygon> =
        parts.iter().map(|part| Polygon::new(part.0.iter().map(|at| Point::from(*at)).collect()).unwrap()).collect();
    let is_body = role == Role::Body;
    Shape {
        name: name.into(),
        role,
        holes: Vec::new(),
        pieces: polygons.iter().flat_map(Polygon::pieces).collect::<Vec<_>>().into(),
        polygons,
        layer: LayerSet::of(2),
        mask: LayerSet::of(0).or(LayerSet::of(1)),
        side: (!is_body).then_some(Side::Below),
        carries: Carried::default(),
    }
}

/// How an actor is drawn.
#[derive(Clone, Copy)]
struct Drawn {
    /// How far below the pivot's line the art ends, px.
    art: f64,
    /// How deep the strip is, px.
    strip: f64,
    /// How many times as large as it was made all of it is.
    times: f64,
}

impl Default for Drawn {
    fn default() -> Drawn {
        Drawn { art: 0.0, strip: 2.0, times: 1.0 }
    }
}

fn pose(parts: &[Flat], strip: Option<f64>, drawn: Drawn) -> Pose {
    let ends = parts.iter().map(|part| part.reach((1.0, 0.0)));
    let (left, right) = ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), (a, b)| (low.min(a), high.max(b)));
    let (left, right) = if parts.len() > 1 { parts[0].reach((1.0, 0.0)) } else { (left, right) };
    let high = parts.iter().map(|part| 0.0 - part.top()).fold(0.0, f64::max);
    // Its art: the middle of the body, down to the pivot's line.
    let times = drawn.times;
    let opaque = Mask::from_fn(40 * times as u32, 44 * times as u32, |x, y| {
        let (x, y) = (f64::from(x) - 20.0 * times, f64::from(y) - 40.0 * times);
        x >= left + 2.0 && x + 1.0 <= right - 2.0 && y >= 1.0 - high && y < drawn.art
    });
    let mut shapes = vec![shape("body", Role::Body, parts)];
    shapes.extend(strip.map(|inset| {
        let (x, wide) = (left + inset, right - left - 2.0 * inset);
        shape("feet", Role::Sensor, &[Flat::block(x, 0.0, wide, drawn.strip)])
    }));
    let pivot = Point::new(20.0 * times, 40.0 * times);
    Pose {
        shapes,
        anchors: vec![],
        foot: Foot::new(&opaque.runs(), pivot),
        pixels: PixelRuns::new(&opaque.runs(), pivot),
        flip_drift: 0.0,
        picture: Rect::new(-20.0, -40.0, 20.0, 0.0).scale_from_origin(times),
        ticks: 6,
    }
}

fn actor_of(figure: &Figure, strip: Option<f64>) -> Actor {
    drawn_actor(figure, strip, Drawn::default())
}

fn drawn_actor(figure: &Figure, strip: Option<f64>, drawn: Drawn) -> Actor {
    let animation = |name: &str, parts: &[Flat]| DrawnAnimation {
        name: name.into(),
        faces: Facing::Right,
        frames: vec![pose(parts, strip, drawn)],
        stands_for: None,
    };
    let tall = ["stand", "walk", "air", "dash"].map(|name| animation(name, &figure.tall));
    let animations = tall.into_iter().chain([animation("low", &figure.low)]).collect();
    let mut actor = Actor::new("hero".into(), animations, vec![]);
    actor.moves =
        Moves { step: Some(STEP * drawn.times), slope: Some(45.0), jump: Some(72.0 * drawn.times), ..Moves::default() };
    actor
}

/// How a game logs.
#[derive(Clone, Copy, Debug)]
struct Log {
    rate: f64,
    written: Written,
    /// Whether y counts up from the stage's bottom.
    is_up: bool,
    /// Whether it tells that pictures are never flipped.
    never_flips: bool,
}

impl Log {
    fn new(rate: f64, written: Written) -> Log {
        Log { rate, written, is_up: false, never_flips: false }
    }

    /// A place as it comes out of the log: y down.
    fn place(&self, (x, y): Spot, stage: &Stage) -> Point {
        match self.is_up {
            false => self.written.of((x, y)),
            true => {
                let up = self.written.of((x, stage.size.y - y));
                Point::new(up.x, stage.size.y - up.y)
            }
        }
    }
}

fn check(land: &Land, actor: Actor, ticks: &[Tick], log: Log) -> Report {
    let rate = log.rate;
    let (stage, actors, settings) = (land.stage(), [actor], Settings::default());
    let layers = Layers {
        names: ["ground", "ledge", "hero"].map(String::from).to_vec(),
        masks: vec![LayerSet::NONE, LayerSet::NONE, LayerSet::of(0).or(LayerSet::of(1))],
        ..Layers::default()
    };
    let y_axis = if log.is_up { YAxis::Up } else { YAxis::Down };
    let input = CheckInput { tick_rate: rate, y_axis, ..CheckInput::new(&stage, &actors, &layers, &settings) };
    let mut checker = Checker::new(input);
    for (number, tick) in ticks.iter().enumerate() {
        let states = [tick.drops.then_some("drop"), tick.is_warped.then_some("warped")];
        let sample = Sample {
            label: "hero".into(),
            actor: ActorIndex(0),
            at: log.place(tick.at, &stage),
            facing: if tick.right { Facing::Right } else { Facing::Left },
            animation: actors[0].find(tick.animation).unwrap(),
            frame: 0,
            states: states.into_iter().flatten().map(String::from).collect(),
            flipped_art: log.never_flips.then_some(false),
            grounded: None,
            velocity: None,
            via: Vec::new(),
        };
        checker.tick(number as u64, &[sample]);
    }
    checker.finish()
}

/// Whether the game itself shows that a body hangs by its pole, or was stopped by it, and by nothing else: such a body is
/// fitted badly, and right play with it shows that.
fn is_by_the_pole(land: &Land, figure: &Figure, ticks: &[Tick], finding: &Finding) -> bool {
    let (Some(pole), Some(at)) = (figure.tall.get(1), finding.in_take()) else { return false };
    let tick = &ticks[at.worst.tick as usize];
    let way = if tick.right { 1.0 } else { -1.0 };
    let meets = |part: &Flat, by: (f64, f64)| {
        let part = if tick.right { part.clone() } else { part.mirrored() };
        let part = part.moved((tick.at.0 + by.0, tick.at.1 + by.1));
        land.solids.iter().chain(&land.ledges).any(|solid| part.meets(solid))
    };
    // By less than a px a body may have stepped up by its pole.
    let rests =
        |part: &Flat| meets(part, (0.0, 0.5)) && (!meets(part, (0.0, 0.0)) || meets(part, (0.0 - way * 0.01, 0.5)));
    if meets(pole, (0.0, 1.0)) && !rests(&figure.tall[0]) {
        return true;
    }
    match finding.rule.code() {
        "snagged" => meets(pole, (way, 0.0)) && (1..=6).all(|by| !meets(&figure.tall[0], (way * f64::from(by), 0.0))),
        _ => false,
    }
}

/// Half of the games slide down walls, two in three hold all still where blows land.
fn habits(seed: usize) -> Habits {
    let slide = [None, Some(70.0), None, Some(110.0), None, Some(45.0)][seed / 7 % 6];
    Habits { slide, pause: [0.0, 0.1, 0.2][seed / 11 % 3] }
}

/// Ticks of one take.
const TICKS: usize = 1000;

#[test]
fn right_play_of_another_game_draws_hardly_anything() {
    let wanted = std::env::var("FINITOR_PLAY").ok().and_then(|text| text.parse().ok()).unwrap_or(72_000_usize);
    let mut told: BTreeMap<(String, String), u32> = BTreeMap::new();
    let mut by: BTreeMap<String, (usize, u32)> = BTreeMap::new();
    let (mut played, mut alarms, mut seed, mut shown) = (0, 0, 1, 0);
    while played < wanted {
        seed += 1;
        let mut dice = dice(0, seed);
        let figures = figures();
        let (figure, sort) = (&figures[seed % 4], SORTS[seed / 4 % 4]);
        let (rate, written) = (RATES[seed / 16 % 3], WRITTEN[seed / 48 % 3]);
        let is_up = seed / 144 % 2 == 1;
        let strip = STRIPS[dice.below(3) as usize];
        let land = Land::new(sort, &mut dice);
        let mut game = Game::new(&land, figure.clone(), rate, &mut dice);
        game.habits = habits(seed);
        let ticks = game.play(TICKS, &mut dice);
        let report = check(&land, actor_of(figure, strip), &ticks, Log { is_up, ..Log::new(rate, written) });
        played += ticks.len();
        let found = report.findings.iter().filter(|finding| finding.severity >= Severity::Warn);
        let mut count = 0;
        for finding in found {
            // Strips that are narrower than the body do lose edges on which it rests.
            let is_by_the_strip = strip == Some(1.0) && finding.fix.starts_with("Widen the strip");
            // What follows from another one is counted with it.
            let follows = finding.in_take().is_some_and(|at| at.after.is_some());
            if follows || is_by_the_pole(&land, figure, &ticks, finding) || is_by_the_strip {
                continue;
            }
            count += 1;
            *told.entry((finding.rule.code().to_string(), format!("{sort:?} {rate} {written:?}"))).or_default() += 1;
            if shown < 40 {
                shown += 1;
                println!(
                    "seed {seed} {} {sort:?} {rate} {written:?} strip {strip:?}: {} {:?}: {}",
                    figure.name,
                    finding.rule.code(),
                    finding.in_take().map(|at| (at.ticks, at.worst.at)),
                    finding.message
                );
            }
        }
        alarms += count;
        let keys = [
            format!("rate {rate}"),
            format!("written {written:?}"),
            format!("body {}", figure.name),
            format!("stage {sort:?}"),
            format!("strip {strip:?}"),
            format!("y {}", if is_up { "up" } else { "down" }),
        ];
        for key in keys {
            let known = by.entry(key).or_default();
            (known.0, known.1) = (known.0 + ticks.len(), known.1 + count);
        }
    }
    println!(
        "{played} ticks, {alarms} errors and warnings: {:.2} per 100,000",
        f64::from(alarms) * 1e5 / played as f64
    );
    for (key, (ticks, count)) in &by {
        println!("{key:<22} {ticks:>9} ticks {count:>5}  {:>7.2} per 100,000", f64::from(*count) * 1e5 / *ticks as f64);
    }
    told.iter().for_each(|((rule, how), count)| println!("{rule:<16} {how:<28} {count}"));
    // The share that every run plays is small: a rare alarm may be in it.
    assert!(f64::from(alarms) * 1e5 <= 2.0 * played as f64 + 1e5, "{alarms} alarms in {played} ticks");
}
