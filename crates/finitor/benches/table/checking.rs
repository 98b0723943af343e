//! Checks beside reading the same rows, and beside plain box tests.

use crate::clock::{Beside, Sized, growth, least};
use crate::support::Project;
use finitor_app::{OpenOptions, OpenProject, Silent};
use finitor_core::actor::Actor;
use finitor_core::check::{CheckInput, Checker};
use finitor_core::layers::LayerSet;
use finitor_core::stage::{Solid, Stage};
use finitor_core::take::{Sample, WARPED};
use finitor_core::{Point, Polygon, Rect, Vec2};
use finitor_files::{Problems, TakeRead, TakeReader};
use std::fs::File;
use std::hint::black_box;
use std::io::{BufWriter, Write};

const PER_ROW: usize = 25;
const WIDE: f64 = 64.0;
const HIGH: f64 = 120.0;
/// Floors that somebody walks on.
const WALKED: usize = 19;
const STRIDE: f64 = 1.5;
/// Between two on one floor, px.
const APART: f64 = 54.0;
/// Rows of a take from memory.
const SAMPLES: usize = 65_536;

pub(crate) fn table() {
    let project = Project::fitted();
    let options = OpenOptions { root: Some(project.root().to_path_buf()), threads: Some(1), max_mpx: 100 };
    let open = OpenProject::open(&options, &Silent).unwrap();
    let actors = open.fitted(&open.select(&[]).unwrap()).unwrap();
    lengths(&project, &actors);
    let keeper = actors.iter().position(|actor| actor.name == "keeper").unwrap();
    let walks = Walks { open: &open, actors: &actors, keeper };
    walks.solids();
    walks.instances();
}

/// The sample's clean play over and over: 10^4 to 10^7 rows, read, checked on one thread, and on two.
fn lengths(project: &Project, actors: &[Actor]) {
    let clean = project.read("takes/clean.csv");
    let take = project.path("long.csv");
    let read = || {
        let reader = TakeReader::open(&take, actors, None).unwrap();
        let mut rows = 0;
        let count = |read: TakeRead<'_>| {
            if let TakeRead::Tick { samples, .. } = read {
                rows += samples.len();
            }
            Ok::<(), Problems>(())
        };
        reader.each(count).unwrap();
        black_box(rows);
    };
    let check =
        |threads: &str| drop(project.ok(&["check", "long.csv", "--stage", "pier", "--summary", "--threads", threads]));
    let mut sizes = Vec::new();
    for (power, rounds) in [(4, 5), (5, 5), (6, 3), (7, 3)] {
        let rows = 10_usize.pow(power);
        write_play(&clean, rows, BufWriter::new(File::create(&take).unwrap()));
        let one = Beside::plain(rounds, read, || check("1"));
        one.line(&format!("`check` of 10^{power} rows, one thread"), "reading", 1.0);
        Beside::plain(rounds, read, || check("2")).line("the same, two threads", "reading", 1.0);
        sizes.push(Sized { size: rows as f64, seconds: one.least });
    }
    growth("`check`, one thread, 10^5 to 10^7 rows", &sizes[1..]);
    std::fs::remove_file(&take).unwrap();
}

/// Each time it begins anew all are put where they were.
fn write_play(clean: &str, rows: usize, mut to: impl Write) {
    let mut lines = clean.lines();
    writeln!(to, "{}", lines.next().unwrap()).unwrap();
    let play: Vec<(u64, [&str; 3])> = lines
        .map(|line| {
            let (tick, rest) = line.split_once(',').unwrap();
            let (rest, flipped) = rest.rsplit_once(',').unwrap();
            let (rest, states) = rest.rsplit_once(',').unwrap();
            (tick.parse().unwrap(), [rest, states, flipped])
        })
        .collect();
    let ticks = play.last().unwrap().0 + 1;
    for row in 0..rows {
        let (tick, [rest, states, flipped]) = play[row % play.len()];
        let again = (row / play.len()) as u64;
        let put = if again > 0 && tick == 0 { WARPED } else { "" };
        let between = if put.is_empty() || states.is_empty() { "" } else { " " };
        writeln!(to, "{},{rest},{states}{between}{put},{flipped}", tick + again * ticks).unwrap();
    }
}

/// Keepers that walk along floors of flush boxes.
struct Walks<'a> {
    open: &'a OpenProject<'a>,
    actors: &'a [Actor],
    keeper: usize,
}

impl Walks<'_> {
    fn stage(&self, solids: usize) -> Stage {
        let solid = |index: usize| {
            let (x, y) = ((index % PER_ROW) as f64 * WIDE, (index / PER_ROW + 1) as f64 * HIGH);
            Solid {
                name: format!("box_{index}"),
                outline: Polygon::from_rect(Rect::new(x, y, x + WIDE, y + 24.0)).unwrap().into(),
                layer: LayerSet::of(0),
                mask: LayerSet::NONE,
            }
        };
        let size = Vec2::new(PER_ROW as f64 * WIDE, (solids / PER_ROW + 2) as f64 * HIGH);
        let solids = (0..solids).map(solid).collect();
        Stage {
            name: "floors".into(),
            size,
            solids,
            one_ways: vec![],
            zones: vec![],
            spawns: vec![],
            spots: vec![],
            sealed: vec![],
        }
    }

    /// By tick; each instance on a floor of its own or far from the others on it.
    fn take(&self, instances: usize) -> Vec<Vec<Sample>> {
        let (walk, frames) = {
            let actor = &self.actors[self.keeper];
            let walk = actor.find("walk").unwrap();
            (walk, actor.animations[walk].frames.len())
        };
        let way = (PER_ROW as f64 - 2.0) * WIDE;
        let sample = |tick: usize, instance: usize| {
            let walked = tick as f64 * STRIDE + (instance / WALKED) as f64 * APART;
            let along = walked % way;
            let at = Point::new(along + WIDE, (instance % WALKED + 1) as f64 * HIGH);
            let is_put = tick > 0 && along < STRIDE;
            Sample {
                animation: walk,
                frame: tick / 6 % frames,
                states: if is_put { vec![WARPED.to_string()] } else { vec![] },
                ..Sample::new(format!("keeper:{instance}"), finitor_core::actor::ActorIndex(self.keeper), at)
            }
        };
        let ticks = SAMPLES / instances;
        (0..ticks).map(|tick| (0..instances).map(|instance| sample(tick, instance)).collect()).collect()
    }

    fn check(&self, stage: &Stage, take: &[Vec<Sample>]) {
        let (layers, settings) = (&self.open.project.layers, &self.open.project.settings);
        let mut checker = Checker::new(CheckInput::new(stage, self.actors, layers, settings));
        for (tick, samples) in take.iter().enumerate() {
            checker.tick(tick as u64, samples);
        }
        let report = checker.finish();
        assert_eq!(report.findings.len(), 0, "{:?}", report.findings.first());
    }

    /// 50 to 50,000 solids.
    fn solids(&self) {
        let take = self.take(1);
        let mut sizes = Vec::new();
        for solids in [50, 500, 5_000, 50_000] {
            let stage = self.stage(solids);
            let plain = || {
                let meets = |at: Point, of: Rect| {
                    at.x + 10.0 > of.x0 && at.x - 10.0 < of.x1 && at.y > of.y0 && at.y - 40.0 < of.y1
                };
                let near = |sample: &Sample| {
                    stage.solids.iter().filter(|solid| meets(sample.at, solid.outline.bounds)).count()
                };
                black_box(take.iter().flatten().map(near).sum::<usize>());
            };
            let found = Beside::plain(3, plain, || self.check(&stage, &take));
            found.line(&format!("a walk over {solids} solids, a row"), "box tests", SAMPLES as f64);
            sizes.push(Sized { size: solids as f64, seconds: found.least });
        }
        growth("a walk, 50 to 50,000 solids", &sizes);
    }

    /// More and more instances on a tick.
    fn instances(&self) {
        let stage = self.stage(500);
        let alone = self.take(1);
        let mut sizes = Vec::new();
        for instances in [8, 64, 512] {
            let take = self.take(instances);
            let found = Beside::plain(5, || self.check(&stage, &alone), || self.check(&stage, &take));
            found.line(&format!("{instances} instances on a tick, a row"), "one alone", SAMPLES as f64);
            sizes.push(Sized { size: instances as f64, seconds: found.least });
        }
        growth("a row, 8 to 512 instances", &sizes);
        let (large, take) = (self.stage(5_000), self.take(64));
        let least = least(5, || self.check(&large, &take));
        println!("| 64 instances on 5,000 solids | | {:.2} million rows a second | |", SAMPLES as f64 / least / 1e6);
    }
}
