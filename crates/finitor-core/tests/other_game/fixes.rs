//! Every place that a fix names, tried: the fault is gone there, and no other one comes of it.

use crate::bug::BUGS;
use crate::game::{Figure, Game, Tick, figures};
use crate::land::{Land, SORTS};
use crate::{Log, RATES, STRIPS, TICKS, WRITTEN, Written, actor_of, check, dice};
use finitor_core::check::Report;
use finitor_core::finding::Finding;
use finitor_core::rule::Severity;

/// A take, and how it is written.
struct Made<'m> {
    land: &'m Land,
    figure: &'m Figure,
    strip: Option<f64>,
    rate: f64,
    written: Written,
}

impl Made<'_> {
    fn check(&self, ticks: &[Tick]) -> Report {
        check(self.land, actor_of(self.figure, self.strip), ticks, Log::new(self.rate, self.written))
    }

    /// Whether the body at a place lies on something, by the game's own reckoning; the side of a wall that it touches is none.
    fn is_carried(&self, tick: &Tick) -> bool {
        let parts = if tick.animation == "low" { &self.figure.low } else { &self.figure.tall };
        let under = parts.iter().map(|part| if tick.right { part.clone() } else { part.mirrored() });
        let parts: Vec<_> = under.collect();
        let deepest = |down: f64| {
            let moved = parts.iter().map(|part| part.moved((tick.at.0, tick.at.1 + down)));
            let depths = moved.map(|part| {
                let things = self.land.solids.iter().chain(&self.land.ledges);
                things.map(|thing| part.depth(thing)).fold(0.0, f64::max)
            });
            depths.fold(0.0, f64::max)
        };
        deepest(0.1) > deepest(0.0) + 0.02
    }
}

/// Ticks before a fix that are checked with it.
const BEFORE: usize = 200;

/// The last ticks up to one which ends elsewhere, and some ticks of rest there.
fn ending(ticks: &[Tick], tick: usize, at: (f64, f64), rest: usize) -> Vec<Tick> {
    let mut fixed = ticks[tick.saturating_sub(BEFORE)..=tick].to_vec();
    let last = fixed.last_mut().unwrap();
    last.at = at;
    let still = Tick { is_warped: false, ..*last };
    fixed.extend(std::iter::repeat_n(still, rest));
    fixed
}

type Told = (&'static str, String);

/// The findings from a tick on.
fn told(report: &Report, from: usize) -> Vec<Told> {
    let of = |finding: &Finding| {
        let place = finding.in_take().unwrap();
        let counts = finding.severity >= Severity::Warn && place.ticks.last >= from as u64;
        counts.then(|| (finding.rule.code(), place.with.clone()))
    };
    report.findings.iter().filter_map(of).collect()
}

#[test]
fn the_places_of_fixes_end_the_fault_and_make_no_other() {
    let takes = std::env::var("FINITOR_FIXES").ok().and_then(|text| text.parse().ok()).unwrap_or(4_usize);
    let mut by_rule = std::collections::BTreeMap::<&str, [u32; 4]>::new();
    for (bug, seed) in BUGS[..10].iter().copied().flat_map(|bug| (1..=takes).map(move |seed| (bug, seed))) {
        let mut dice = dice(2, seed);
        let figures = figures();
        let (figure, sort) = (&figures[seed % 3], SORTS[seed / 3 % 4]);
        let (rate, written) = (RATES[seed / 12 % 3], WRITTEN[dice.below(3) as usize]);
        let strip = STRIPS[dice.below(3) as usize];
        let land = Land::new(sort, &mut dice);
        let mut game = Game::new(&land, figure.clone(), rate, &mut dice);
        game.bug = Some(bug);
        let ticks = game.play(TICKS, &mut dice);
        let made = Made { land: &land, figure, strip, rate, written };
        for finding in made.check(&ticks).findings {
            let place = finding.in_take().unwrap();
            let count = by_rule.entry(finding.rule.code()).or_default();
            count[0] += 1;
            let Some(end) = place.end_at else { continue };
            count[1] += 1;
            let tick = end.tick as usize;
            let at = Tick { at: (end.at.x, end.at.y), ..ticks[tick] };
            let rest = if made.is_carried(&at) { 16 } else { 0 };
            let from = tick.min(BEFORE);
            let fixed = told(&made.check(&ending(&ticks, tick, at.at, rest)), from);
            // As it was, it rests there as well.
            let was = told(&made.check(&ending(&ticks, tick, ticks[tick].at, rest)), from);
            let own = (finding.rule.code(), place.with.clone());
            let is_left = fixed.contains(&own);
            // Who walks is stopped there by this test alone.
            let is_stopped = (at.at.0 - ticks[tick - 1].at.0).abs() > 1.0;
            let counts = |told: &&Told| !was.contains(told) && **told != own && !(is_stopped && told.0 == "snagged");
            let new: Vec<&Told> = fixed.iter().filter(counts).collect();
            count[2] += u32::from(is_left);
            count[3] += u32::from(!new.is_empty());
            if is_left || !new.is_empty() {
                println!(
                    "{bug:?} seed {seed} {} {sort:?} {rate} {written:?} {strip:?} {} {:?}: {} left {is_left} new {new:?}",
                    figure.name,
                    finding.rule.code(),
                    place.ticks,
                    finding.fix
                );
            }
        }
    }
    println!("rule              findings  places  left  new");
    for (rule, [all, places, left, new]) in &by_rule {
        println!("{rule:<16} {all:>9} {places:>7} {left:>5} {new:>4}");
    }
    let failed: u32 = by_rule.values().map(|[_, _, left, new]| left + new).sum();
    let places: u32 = by_rule.values().map(|[_, places, ..]| places).sum();
    assert_eq!(failed, 0, "{failed} of {places} places of fixes are none");
}
