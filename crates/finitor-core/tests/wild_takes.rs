//! Takes as no game plays them: places, frames, facings and states at random. Nothing panics, what is streamed while it runs is what is
//! told at the end, and the place that a fix names is clear.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;
mod world;

use finitor_core::actor::{Actor, ActorIndex};
use finitor_core::check::{CheckInput, Checker, Settings};
use finitor_core::finding::Finding;
use finitor_core::stage::{Passes, Stage};
use finitor_core::take::Sample;
use finitor_core::{Facing, Rect};
use proptest::prelude::*;
use world::*;

const POSES: [&str; 3] = ["stand", "duck", "none"];
const STATES: [&str; 4] = ["", "drop", "warped", "ghost"];

fn stages() -> impl Strategy<Value = Stage> {
    let rect = (0..380_u32, 20..280_u32, 4..90_u32, 4..60_u32);
    proptest::collection::vec((rect, 0..5_u8), 1..12).prop_map(|things| {
        let mut stage = stage();
        for (index, ((x, y, wide, high), sort)) in things.into_iter().enumerate() {
            let (x, y) = (f64::from(x), f64::from(y));
            let rect = Rect::new(x, y, x + f64::from(wide), y + f64::from(high));
            if sort == 0 {
                stage.one_ways.push(one_way(&format!("ledge_{index}"), rect, Passes::Up));
            } else {
                stage.solids.push(solid(&format!("block_{index}"), rect));
            }
        }
        stage
    })
}

/// A tick of two instances: how many ticks after the last, and for each whether it is there, how it moved, pose, state, facing.
type Tick = (u64, [(u8, (i16, i16), usize, usize, bool); 2]);

fn takes() -> impl Strategy<Value = Vec<Tick>> {
    let row = || (0..10_u8, (-90..90_i16, -90..90_i16), 0..POSES.len(), 0..STATES.len(), any::<bool>());
    let tick = (prop_oneof![4 => Just(1_u64), 1 => 2..6_u64], [row(), row()]);
    proptest::collection::vec(tick, 1..60)
}

fn samples_of(actors: &[Actor], take: &[Tick]) -> Vec<(u64, Vec<Sample>)> {
    let (mut tick, mut places) = (0, [(200.0, 100.0), (100.0, 200.0)]);
    let mut all = Vec::new();
    for (after, rows) in take {
        tick += after;
        let mut samples = Vec::new();
        for (index, (there, by, pose, state, right)) in rows.iter().enumerate() {
            // Small steps as a rule, leaps now and then.
            let scale = if *there == 1 { 1.0 } else { 0.1 };
            places[index].0 += f64::from(by.0) * scale;
            places[index].1 += f64::from(by.1) * scale;
            if *there > 0 {
                samples.push(Sample {
                    label: format!("hero:{index}"),
                    actor: ActorIndex(0),
                    at: places[index].into(),
                    facing: if *right { Facing::Right } else { Facing::Left },
                    animation: actors[0].find(POSES[*pose]).unwrap(),
                    frame: 0,
                    states: vec![STATES[*state].into()],
                    flipped_art: None,
                    grounded: None,
                    velocity: None,
                    via: Vec::new(),
                });
            }
        }
        if !samples.is_empty() {
            all.push((tick, samples));
        }
    }
    all
}

/// By what findings are ordered.
fn key(finding: &Finding) -> (u64, usize, String, String) {
    let place = world::at(finding);
    (place.ticks.first, finitor_core::book::position(finding.rule), finding.subject.clone(), place.with.clone())
}

/// The place named in a fix.
fn place_in(fix: &str) -> Option<(f64, f64)> {
    let (_, place) = fix.split_once('(')?;
    let (x, y) = place.split_once(')')?.0.split_once(", ")?;
    Some((x.parse().ok()?, y.parse().ok()?))
}

/// The depth of boxes in each other: the least of the four ways out.
fn depth(a: Rect, b: Rect) -> f64 {
    let ways = [a.x1 - b.x0, b.x1 - a.x0, a.y1 - b.y0, b.y1 - a.y0];
    ways.into_iter().fold(f64::INFINITY, f64::min).max(0.0)
}

/// The second hero as a crate that is about where the first one is.
fn with_crate(mut ticks: Vec<(u64, Vec<Sample>)>) -> Vec<(u64, Vec<Sample>)> {
    for (_, samples) in &mut ticks {
        let hero = samples.iter().find(|sample| sample.label == "hero:0").map(|sample| sample.at);
        for own in samples.iter_mut().filter(|sample| sample.label == "hero:1") {
            let at =
                hero.map_or(own.at, |hero| hero + (own.at.to_vec2() - finitor_core::Vec2::new(100.0, 200.0)) * 0.1);
            *own = Sample { states: own.states.clone(), ..Sample::new("crate".into(), ActorIndex(1), at) };
        }
    }
    ticks
}

/// Every tick three times, with the places in no round steps; where it trembles it does so by far less than a touch.
fn stayed(ticks: &[(u64, Vec<Sample>)], trembles: bool) -> Vec<(u64, Vec<Sample>)> {
    const ODD: f64 = 0.998_765_432_1;
    let stay = |(tick, samples): &(u64, Vec<Sample>)| {
        let (tick, samples) = (*tick, samples.clone());
        (0..3_u64).map(move |again| {
            let mut samples = samples.clone();
            for sample in &mut samples {
                let by = if trembles { 1e-11 * again as f64 } else { 0.0 };
                sample.at = (sample.at.to_vec2() * ODD).to_point() + finitor_core::Vec2::new(by, by);
            }
            (3 * tick + again, samples)
        })
    };
    ticks.iter().flat_map(stay).collect()
}

/// The findings of a take, their figures to a millionth.
fn told(input: CheckInput<'_>, ticks: &[(u64, Vec<Sample>)]) -> Vec<String> {
    let mut checker = Checker::new(input);
    ticks.iter().for_each(|(tick, samples)| checker.tick(*tick, samples));
    let findings = checker.finish().findings;
    let words = findings.iter().map(|found| {
        let place = world::at(found);
        let remains = found.remains.map(|px| format!("{px:.6}"));
        // Of two that stay either may be to blame.
        let mut who = [found.subject.as_str(), place.with.trim_end_matches(".body")];
        who.sort_unstable();
        format!("{} {who:?} {:?} {:.6} {remains:?}", found.rule.code(), place.ticks, found.figure)
    });
    let mut words: Vec<String> = words.collect();
    words.sort();
    words
}

proptest! {
    #![proptest_config(support::cases(400))]

    #[test]
    fn nothing_panics_and_fixes_hold(stage in stages(), take in takes()) {
        let actors = [hero(0)];
        let (layers, settings) = (layers(), Settings::default());
        let input = CheckInput::new(&stage, &actors, &layers, &settings);
        let ticks = samples_of(&actors, &take);
        let (mut whole, mut parts) = (Checker::new(input), Checker::new(input));
        let mut told: Vec<Finding> = Vec::new();
        for (tick, samples) in &ticks {
            whole.tick(*tick, samples);
            parts.tick(*tick, samples);
            told.extend(parts.drain(*tick).into_iter().flat_map(|report| report.findings));
        }
        told.extend(parts.finish().findings);
        told.sort_by_key(key);
        let findings = whole.finish().findings;
        prop_assert_eq!(&findings, &told);
        for finding in findings {
            let figure = finding.figure;
            prop_assert!(figure.is_finite() && figure >= 0.0, "{finding:?}");
            let place = world::at(&finding).clone();
            prop_assert!(place.ticks.first <= place.worst.tick && place.worst.tick <= place.ticks.last, "{finding:?}");
            let still = stage.solids.iter().any(|solid| place.with == format!("yard/{}", solid.name));
            if !still || !["embedded", "warp_blocked"].contains(&finding.rule.code()) {
                continue;
            }
            let at = ticks.iter().find(|(tick, _)| *tick == place.worst.tick).unwrap();
            let sample = at.1.iter().find(|sample| sample.label == finding.subject).unwrap();
            let body = actors[0].pose(sample.animation, 0, sample.facing).body().unwrap().bounds();
            // The depth told is that of the boxes.
            let solid = stage.solids.iter().find(|solid| place.with == format!("yard/{}", solid.name)).unwrap();
            let reckoned = depth(body + sample.at.to_vec2(), solid.outline.bounds);
            prop_assert!((figure - reckoned).abs() < 1e-6, "{reckoned}: {finding:?}");
            // The place told is clear, where the fix is of the worst tick, and every fault of this sort has one.
            prop_assert_eq!(finding.remains, Some(0.0), "{:?}", finding);
            if let Some(clear) = place_in(&finding.fix).filter(|_| place.ticks.ticks() == 1) {
                let there = body + finitor_core::Point::from(clear).to_vec2();
                let deepest = stage.solids.iter().map(|solid| depth(there, solid.outline.bounds)).fold(0.0, f64::max);
                prop_assert!(deepest <= 0.01, "{deepest} at {clear:?}: {finding:?}");
            }
        }
    }
}

proptest! {
    #![proptest_config(support::cases(2000))]

    // What stays as it was has a short way: it tells the same as the long one, which what trembles takes.
    #[test]
    fn what_stays_is_told_of_as_what_trembles(stage in stages(), take in takes()) {
        let actors = [hero(0), crate_actor()];
        let (layers, settings) = (layers(), Settings::default());
        let input = CheckInput::new(&stage, &actors, &layers, &settings);
        let ticks = with_crate(samples_of(&actors, &take));
        prop_assert_eq!(told(input, &stayed(&ticks, false)), told(input, &stayed(&ticks, true)));
    }
}
