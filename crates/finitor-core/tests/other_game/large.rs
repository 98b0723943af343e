//! The same game drawn four times as large: what is a fault of small figures is one of large ones, four times as deep.

use crate::bug::{BUGS, Bug};
use crate::flat::Flat;
use crate::game::{Figure, Game, Tick, figures};
use crate::land::{Land, SORTS, Sort};
use crate::{Drawn, Log, RATES, TICKS, Written, check, dice, drawn_actor};
use finitor_core::check::Report;
use finitor_core::finding::Finding;
use finitor_core::rule::Severity;

const TIMES: f64 = 4.0;

impl Figure {
    /// The same, some times as large.
    pub fn enlarged(&self, times: f64) -> Figure {
        let all = |flats: &[Flat]| flats.iter().map(|flat| flat.enlarged(times)).collect();
        Figure { name: self.name, tall: all(&self.tall), low: all(&self.low) }
    }
}

/// Errors and warnings of a report that follow from no other, and are well beyond what is no fault of a small figure.
fn told(report: &Report, of_size: f64) -> Vec<&Finding> {
    const PLAIN: f64 = 1.1;
    let is_plain =
        |finding: &Finding| finding.rule.unit() != finitor_core::rule::Unit::Px || finding.figure > PLAIN * of_size;
    let follows = |finding: &Finding| finding.in_take().is_none_or(|at| at.after.is_some());
    let all = report.findings.iter().filter(|finding| finding.severity >= Severity::Warn);
    all.filter(|finding| is_plain(finding) && !follows(finding)).collect()
}

/// Whether one finding is of the same fault as another, and its figure is as much larger as the figures are.
fn is_same(one: &Finding, other: &Finding) -> bool {
    let (a, b) = (one.in_take().unwrap(), other.in_take().unwrap());
    let times = if one.rule.unit() == finitor_core::rule::Unit::Px { TIMES } else { 1.0 };
    let meets = a.ticks.first <= b.ticks.last && b.ticks.first <= a.ticks.last;
    one.rule == other.rule && a.with == b.with && meets && (one.figure * times - other.figure).abs() <= 0.05 * TIMES
}

#[test]
fn a_game_four_times_as_large_is_judged_alike() {
    let takes = std::env::var("FINITOR_LARGE").ok().and_then(|text| text.parse().ok()).unwrap_or(2_usize);
    let (mut faults, mut missed, mut besides, mut played) = (0, 0, 0, 0);
    for (number, bug) in BUGS.into_iter().enumerate().flat_map(|bug| vec![bug; takes]) {
        let seed = played / TICKS + 1;
        let mut dice = dice(9, seed);
        let figure = &figures()[if bug == Bug::HangsByPole { 3 } else { seed % 3 }];
        let sort = match bug {
            Bug::TurnsBlindly => Sort::Walls,
            Bug::StandsUpBlindly => Sort::Beams,
            Bug::LeapsWhenDashing => Sort::Posts,
            _ => SORTS[seed % 4],
        };
        let land = Land::new(sort, &mut dice);
        let rate = RATES[(number + seed) % 3];
        let mut game = Game::new(&land, figure.clone(), rate, &mut dice);
        game.bug = Some(bug);
        let ticks = game.play(TICKS, &mut dice);
        played += ticks.len();
        let strip = Some(0.0);
        let small = Drawn { art: if bug == Bug::ArtEndsHigh { -2.0 } else { 0.0 }, ..Drawn::default() };
        let large = Drawn { art: small.art * TIMES, strip: small.strip * TIMES, times: TIMES };
        let log = Log::new(rate, Written::Full);
        let of_small = check(&land, drawn_actor(figure, strip, small), &ticks, log);
        let enlarged: Vec<Tick> =
            ticks.iter().map(|tick| Tick { at: (tick.at.0 * TIMES, tick.at.1 * TIMES), ..*tick }).collect();
        let actor = drawn_actor(&figure.enlarged(TIMES), strip, large);
        let of_large = check(&land.enlarged(TIMES), actor, &enlarged, log);
        let (small, large) = (told(&of_small, 1.0), told(&of_large, TIMES));
        faults += small.len();
        let alone = small.iter().filter(|one| !of_large.findings.iter().any(|other| is_same(one, other)));
        let new = large.iter().filter(|one| !of_small.findings.iter().any(|other| is_same(other, one)));
        for (what, finding) in alone.map(|one| ("missed", one)).chain(new.map(|one| ("besides", one))) {
            *(if what == "missed" { &mut missed } else { &mut besides }) += 1;
            println!("  {what} {bug:?} seed {seed} {sort:?} {rate} {}: {}", finding.rule.code(), finding.message);
        }
    }
    println!(
        "{faults} faults of small figures in {played} ticks: {missed} not told of large ones, {besides} told besides"
    );
    assert!(faults > 20 * takes && (missed + besides) * 20 <= faults, "{missed} missed, {besides} besides of {faults}");
}
