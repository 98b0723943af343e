//! The same game with one thing wrong: what it then sees itself, step by step, the checker finds.

use crate::game::{BUGS, Bug, Game, Seen, Tick, figures};
use crate::land::{Land, SORTS, Sort};
use crate::{Dice, RATES, STRIPS, TICKS, WRITTEN, Written, actor_of, check};
use finitor_core::check::Report;
use finitor_core::rule::Severity;

/// The rules that tell a bug.
fn rules_of(bug: Bug) -> &'static [&'static str] {
    match bug {
        Bug::TurnsBlindly | Bug::LandsDeep => &["embedded"],
        Bug::StandsUpBlindly => &["no_headroom", "embedded"],
        Bug::LeapsWhenDashing => &["tunnelled"],
        Bug::LedgesAreSolid | Bug::LedgesLift => &["caught_rising"],
        Bug::LandsHigh => &["hover"],
        Bug::StepsUpAnything => &["popped"],
        Bug::NeverStepsUp => &["snagged"],
        Bug::UndoesBoth => &["midair_stop"],
    }
}

/// How a take was made.
struct Made {
    rate: f64,
    written: Written,
    has_strip: bool,
    sort: Sort,
}

/// Whether a fault shows in what is written: what is smaller than the rules say is no fault, nor what does not last.
fn shows(seen: &Seen, ticks: &[Tick], made: &Made) -> bool {
    let pace = 60.0 / made.rate;
    let at = seen.tick;
    if at < 3 || at + 16 >= ticks.len() || ticks[at - 3..at + 2].iter().any(|tick| tick.is_warped) {
        return false;
    }
    let moved = |tick: usize| (ticks[tick].at.0 - ticks[tick - 1].at.0, ticks[tick].at.1 - ticks[tick - 1].at.1);
    let stays = |from: usize, count: usize, most: f64| {
        (from + 1..=from + count).all(|tick| moved(tick).0.hypot(moved(tick).1) <= most && !ticks[tick].is_warped)
    };
    let same = |from: usize, to: usize| {
        (from..=to).all(|tick| (ticks[tick].animation, ticks[tick].right) == (ticks[at].animation, ticks[at].right))
    };
    let least = if made.written == Written::Whole { 1.6 } else { 0.51 };
    let jolt = pace.max(1.0).powi(2) + if made.written == Written::Whole { 1.0 } else { 0.02 };
    let figure = seen.figure.unwrap_or(f64::INFINITY);
    match seen.bug {
        Bug::TurnsBlindly | Bug::StandsUpBlindly | Bug::LandsDeep => {
            let is_in = moved(at).0.hypot(moved(at).1) < 30.0;
            figure > if made.written == Written::Whole { 2.3 } else { least } && is_in
        }
        Bug::LeapsWhenDashing => figure > 4.0 + least && moved(at).0.abs() < 160.0,
        Bug::LedgesAreSolid => {
            let (before, now, after) = (moved(at - 1).1, moved(at).1, moved(at + 1).1);
            before < 0.0 - jolt && now - before > jolt && after > -0.01
        }
        Bug::LedgesLift => {
            let (before, now) = (moved(at - 1).1, moved(at).1);
            let below = 0.0 - now;
            below > before.min(0.0).abs() + jolt
                && figure > least
                && stays(at, 1, 8.0 * pace)
                && moved(at + 1).1.abs() < 0.01
        }
        Bug::LandsHigh => {
            let held = (12.0 / pace).ceil() as usize;
            // On slopes the highest ground under the body counts.
            made.has_strip
                && made.sort != Sort::Hills
                && made.written != Written::Whole
                && at + held + 1 < ticks.len()
                && (at + 1..=at + held).all(|tick| moved(tick).1.abs() < 0.01 && moved(tick).0.abs() < 5.0 * pace)
        }
        Bug::StepsUpAnything => {
            let (across, up) = (moved(at).0.abs(), 0.0 - moved(at).1);
            up > (2.0 * across).max(4.0 + moved(at - 1).1.min(0.0).abs()) + least && moved(at + 1).1.abs() < 0.01
        }
        Bug::NeverStepsUp => {
            made.written != Written::Whole
                && moved(at - 1).0.abs() >= 1.05 * pace
                && stays(at, 3, 0.001)
                && same(at, at + 3)
        }
        Bug::UndoesBoth => {
            let least = (1.55 * pace).max(if made.written == Written::Whole { 4.5 } else { 0.0 });
            let (before, earlier) = (moved(at - 1), moved(at - 2));
            before.1.abs() > least
                && before.0.abs() > least * 0.6
                && earlier.0.abs() > least * 0.6
                && same(at - 1, at + 2)
                && stays(at + 1, 1, 0.25 * before.0.hypot(before.1))
        }
    }
}

fn is_found(seen: &Seen, report: &Report) -> bool {
    report.findings.iter().any(|finding| {
        let ticks = finding.in_take().unwrap().ticks;
        let near = ticks.first <= seen.tick as u64 + 2 && seen.tick as u64 <= ticks.last + 1;
        rules_of(seen.bug).contains(&finding.rule.code()) && near
    })
}

#[test]
fn what_a_game_with_a_bug_sees_is_found() {
    let takes = std::env::var("FINITOR_BUGS").ok().and_then(|text| text.parse().ok()).unwrap_or(12_usize);
    println!("bug                 seen  found  other errors and warnings");
    let (mut missed, mut seen_at_all, mut told_besides, mut played) = (0, 0, 0, 0);
    for bug in BUGS {
        let (mut seen, mut found, mut others, mut shown) = (0, 0, 0, 0);
        for seed in 1..=takes {
            let mut dice = Dice(0x2545_f491_4f6c_dd1d ^ (seed as u64 * 0x0bad_5eed));
            (0..8).for_each(|_| _ = dice.below(2));
            let figures = figures();
            // No body with a pole: what that does is its own fault.
            let (figure, sort) = (&figures[seed % 3], SORTS[seed / 3 % 4]);
            let (rate, written) = (RATES[seed / 12 % 3], WRITTEN[dice.below(3) as usize]);
            let strip = STRIPS[dice.below(3) as usize];
            let land = Land::new(sort, &mut dice);
            let mut game = Game::new(&land, figure.clone(), rate, &mut dice);
            game.bug = Some(bug);
            let ticks = game.play(TICKS, &mut dice);
            played += ticks.len();
            let report = check(&land, actor_of(figure, strip), &ticks, (rate, written));
            let made = Made { rate, written, has_strip: strip.is_some(), sort };
            for fault in game.seen.iter().filter(|fault| shows(fault, &ticks, &made)) {
                seen += 1;
                if is_found(fault, &report) {
                    found += 1;
                } else if shown < 3 {
                    shown += 1;
                    println!("  missed {fault:?} seed {seed} {} {sort:?} {rate} {written:?} {strip:?}", figure.name);
                    let around = &ticks[fault.tick - 3..fault.tick + 4];
                    around.iter().for_each(|tick| println!("    {:?} {} {}", tick.at, tick.animation, tick.right));
                    for finding in &report.findings {
                        let of = finding.in_take().unwrap().ticks;
                        if of.first <= fault.tick as u64 + 12 && of.last + 12 >= fault.tick as u64 {
                            println!("    told {} {of:?} {}", finding.rule.code(), finding.message);
                        }
                    }
                }
            }
            let symptoms: &[&str] = if bug == Bug::LandsHigh { &["flicker"] } else { &[] };
            let is_other = |finding: &&finitor_core::finding::Finding| {
                let follows = finding.in_take().is_some_and(|at| at.after.is_some());
                finding.severity >= Severity::Warn
                    && !rules_of(bug).contains(&finding.rule.code())
                    && !symptoms.contains(&finding.rule.code())
                    && !follows
            };
            for finding in report.findings.iter().filter(is_other) {
                others += 1;
                if others < 4 {
                    let of = finding.in_take().unwrap().ticks;
                    println!(
                        "  other: seed {seed} {} {sort:?} {rate} {written:?} {} {of:?} {}",
                        figure.name,
                        finding.rule.code(),
                        finding.message
                    );
                }
            }
        }
        println!("{:<18} {seen:>5}  {found:>5}  {others:>5}", format!("{bug:?}"));
        missed += seen - found;
        seen_at_all += seen;
        told_besides += others;
    }
    assert!(told_besides * 100_000 <= 5 * played + 100_000, "{told_besides} told besides in {played} ticks");
    assert!(missed <= seen_at_all / 100, "{missed} of {seen_at_all} missed");
}
