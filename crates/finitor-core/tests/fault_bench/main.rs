//! Faults of one rule each, planted at the end of clean play on dice stages: found with the right rule, thing, span, cause and
//! figure, and nothing else is; and gone when the remedy is followed. Clean play has no finding at all. Recall and false alarms
//! by rule are printed.
#![allow(
    unreachable_pub,
    clippy::unwrap_used,
    clippy::print_stdout,
    reason = "a test fails by panicking, and this one prints its tally"
)]

mod alone;
mod in_the_air;
#[path = "../play/mod.rs"]
mod play;
mod scene;
mod together;
mod wired;
#[path = "../world/mod.rs"]
mod world;

use play::play;
use scene::{Planted, Scene, keys_of, stage_of};
use world::dice::Dice;
use world::{at, span};

const SEEDS: u64 = 300;

type Plant = fn(&mut Scene, &mut Dice) -> Option<Planted>;

/// What is planted, by the rule that must tell it. Of those that only the game can mend, no mend is tried.
const PLANTS: [(&str, &str, Plant); 38] = [
    ("embedded", "moved", alone::embedded),
    ("embedded", "turned", alone::turned),
    ("embedded", "by a state", alone::state),
    ("embedded", "in a body", together::in_each_other),
    ("embedded", "pushed", together::pushed),
    ("embedded", "spawned", together::spawned),
    ("embedded", "dropped", alone::dropped_into),
    ("tunnelled", "a plank", alone::tunnelled),
    ("tunnelled", "a body", together::through_each_other),
    ("no_headroom", "", alone::no_headroom),
    ("warp_blocked", "", alone::warp_blocked),
    ("warp_bounce", "", alone::warp_bounce),
    ("flicker", "no mend", alone::flicker),
    ("popped", "", alone::popped),
    ("snagged", "an edge", alone::snagged),
    ("snagged", "a joint", alone::joint),
    ("drop_overrun", "", alone::drop_overrun),
    ("caught_rising", "stopped", alone::stopped_rising),
    ("caught_rising", "lifted", alone::lifted),
    ("zone_skipped", "", alone::zone_skipped),
    ("off_stage", "", alone::off_stage),
    ("hover", "put there", alone::hover),
    ("hover", "by a frame", alone::hover_by_frame),
    ("sunk_feet", "", alone::sunk_feet),
    ("art_in_wall", "", alone::art_in_wall),
    ("facing_split", "", alone::facing_split),
    ("ghost_pair", "", together::ghost_pair),
    ("midair_stop", "", in_the_air::stopped_at_a_side),
    ("hanging", "", in_the_air::hanging),
    ("repeat_hit", "no mend", together::repeat_hit),
    ("nothing_met", "y up", wired::y_up),
    ("nothing_met", "top left", wired::top_left),
    ("nothing_met", "tiles", wired::in_tiles),
    ("nothing_met", "tiles, y up", wired::in_tiles_y_up),
    ("nothing_met", "exchanged", wired::exchanged),
    ("skipped_ticks", "every second", wired::every_second_tick),
    ("skipped_ticks", "milliseconds", wired::in_milliseconds),
    ("stuck_frame", "", wired::one_frame),
];
/// Those of hits with what is seen.
const SEEN: [(&str, &str, Plant); 2] =
    [("phantom_hit", "", together::phantom_hit), ("missed_hit", "", together::missed_hit)];

#[derive(Default)]
struct Tally {
    planted: u32,
    found: u32,
    others: u32,
    mended: u32,
}

#[test]
fn every_planted_fault_is_found_as_it_is_and_clean_play_has_none() {
    let plants = [&PLANTS[..], &SEEN].concat();
    let mut tally: Vec<Tally> = plants.iter().map(|_| Tally::default()).collect();
    let mut wrong = Vec::new();
    let mut said: Vec<Option<String>> = vec![None; plants.len()];
    let mut clean = 0;
    for seed in 0..SEEDS {
        let mut dice = Dice::new(seed);
        let stage = stage_of(&mut dice);
        let scene = Scene::new(stage.clone(), play(&stage, &keys_of(&mut dice)));
        clean += scene.rows.len();
        for found in scene.check().findings {
            wrong.push(format!("seed {seed}: in clean play {found:?}"));
        }
        for (((rule, how, plant), of), said) in plants.iter().zip(&mut tally).zip(&mut said) {
            let mut scene = scene.clone();
            let Some(planted) = plant(&mut scene, &mut dice) else { continue };
            of.planted += 1;
            let found = scene.check().findings;
            let is_it = |f: &finitor_core::finding::Finding| {
                f.rule.code() == *rule
                    && (f.subject.as_str(), &at(f).with, span(f)) == (planted.actor, &planted.with, planted.ticks)
                    && (f.figure - planted.figure).abs() <= 0.01
                    && at(f).cause.name() == planted.cause
                    && f.remains == Some(0.0)
            };
            of.others += found.iter().filter(|found| !is_it(found)).count() as u32;
            let [finding] = &found[..] else {
                wrong.push(format!("seed {seed}: {rule} {how} {planted:?}; found {found:#?}"));
                continue;
            };
            if !is_it(finding) {
                wrong.push(format!("seed {seed}: {rule} {how} {planted:?}; found {finding:#?}"));
                continue;
            }
            of.found += 1;
            said.get_or_insert_with(|| format!("{rule} {how}\n  {}\n  {}\n", finding.message, finding.fix));
            if *how == "no mend" {
                continue;
            }
            (planted.mend)(&mut scene, finding);
            // Two bodies that are made to stop each other are in each other all the same.
            let left = scene.check().findings;
            if left.iter().any(|left| *rule != "ghost_pair" || left.rule.code() == *rule) {
                wrong.push(format!("seed {seed}: {rule} {how}, {}: left {left:#?}", finding.fix));
            } else {
                of.mended += 1;
            }
        }
    }
    println!("{SEEDS} seeds, {clean} ticks of clean play");
    println!("rule                          planted  found  other findings  gone when mended");
    for ((rule, how, _), Tally { planted, found, others, mended }) in plants.iter().zip(&tally) {
        println!("{:<28}  {planted:>7}  {found:>5}  {others:>14}  {mended:>16}", format!("{rule} {how}"));
        assert!(*planted > 50, "{rule} {how} was planted only {planted} times");
    }
    wrong.sort_by_key(|text| text.split(": ").nth(1).map(str::len));
    assert!(wrong.is_empty(), "{} wrong, the first: {}", wrong.len(), wrong[..wrong.len().min(4)].join("\n"));
    golden("fault_bench.txt", &said.into_iter().flatten().collect::<Vec<String>>().join("\n"));
}

/// Compares with a file in `golden/`, or writes it anew: `SNAPSHOTS=overwrite cargo test -p finitor-core --test fault_bench`.
fn golden(file: &str, said: &str) {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/golden").join(file);
    let data = snapbox::Data::read_from(&path, Some(snapbox::data::DataFormat::Text));
    snapbox::Assert::new().action_env(snapbox::assert::DEFAULT_ACTION_ENV).eq(said.to_string(), data.raw());
}
