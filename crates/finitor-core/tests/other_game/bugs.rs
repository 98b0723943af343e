//! The same game with one thing wrong: what it then sees itself, step by step, the checker finds.

use crate::bug::{BUGS, Bug, Seen};
use crate::figures::{Play, by_hand};
use crate::flat::Flat;
use crate::game::{Game, Tick, figures};
use crate::land::{Land, SORTS, Sort, WIDTH};
use crate::{Drawn, Log, RATES, STRIPS, TICKS, WRITTEN, Written, actor_of, check, dice, drawn_actor};
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
        Bug::LedgesFail => &["embedded", "tunnelled"],
        Bug::WarpsIntoWalls => &["warp_blocked"],
        Bug::LeavesTheStage => &["off_stage"],
        Bug::SnagsOnJoints => &["snagged"],
        Bug::LosesGround => &["flicker"],
        Bug::HangsByPole => &["hanging"],
        Bug::SkipsZones => &["zone_skipped"],
        Bug::DropsTooLong => &["drop_overrun"],
        Bug::ForgetsTheArt => &["facing_split"],
        Bug::ArtEndsHigh => &["hover"],
        Bug::ArtEndsLow => &["sunk_feet"],
    }
}

/// What else is wrong where this is, and is no finding besides.
fn symptoms_of(bug: Bug) -> &'static [&'static str] {
    match bug {
        Bug::LandsHigh => &["flicker"],
        // It cannot move, and what is put into a wall may leave it as it likes.
        Bug::WarpsIntoWalls => &["embedded", "tunnelled"],
        // By its pole it stops, too, and rests over the ground.
        Bug::HangsByPole => &["snagged", "hover", "flicker", "midair_stop"],
        _ => &[],
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
    let is_put =
        seen.bug != Bug::WarpsIntoWalls && ticks[at.saturating_sub(3)..].iter().take(5).any(|tick| tick.is_warped);
    if at < 3 || at + 16 >= ticks.len() || is_put {
        return false;
    }
    let moved = |tick: usize| (ticks[tick].at.0 - ticks[tick - 1].at.0, ticks[tick].at.1 - ticks[tick - 1].at.1);
    let held = (12.0 / pace).ceil() as usize;
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
            // On slopes the highest ground under the body counts.
            made.has_strip
                && made.sort != Sort::Hills
                && made.written != Written::Whole
                && at + held + 1 < ticks.len()
                && (at + 1..=at + held).all(|tick| moved(tick).1.abs() < 0.01 && moved(tick).0.abs() < 5.0 * pace)
        }
        Bug::StepsUpAnything => {
            let (across, up) = (moved(at).0.abs(), 0.0 - moved(at).1);
            // What dashes on the next tick may have jumped.
            let stands = moved(at + 1).1.abs() < 0.01 && same(at, at + 1);
            up > (2.0 * across).max(4.0 + moved(at - 1).1.min(0.0).abs()) + least && stands
        }
        Bug::NeverStepsUp => {
            made.written != Written::Whole
                && moved(at - 1).0.abs() >= 1.05 * pace
                && stays(at, 3, 0.001)
                && same(at, at + 3)
        }
        Bug::WarpsIntoWalls => figure > if made.written == Written::Whole { 2.3 } else { least },
        Bug::SnagsOnJoints => {
            made.written != Written::Whole
                && moved(at - 1).0.abs() >= 1.05 * pace
                && moved(at).0.abs() < moved(at - 1).0.abs() - 0.05
                && stays(at, 3, 0.001)
                && same(at - 1, at + 3)
        }
        Bug::ArtEndsHigh | Bug::ArtEndsLow => {
            made.written != Written::Whole
                && at + held + 1 < ticks.len()
                && (at - 1..=at + held).all(|tick| moved(tick).1.abs() < 0.01 && moved(tick).0.abs() < 5.0 * pace)
                && same(at, at + held)
        }
        // What the take itself shows.
        Bug::LedgesFail
        | Bug::LeavesTheStage
        | Bug::LosesGround
        | Bug::HangsByPole
        | Bug::SkipsZones
        | Bug::DropsTooLong
        | Bug::ForgetsTheArt => true,
        Bug::UndoesBoth => {
            let least = (1.55 * pace).max(if made.written == Written::Whole { 4.5 } else { 0.0 });
            let (before, earlier) = (moved(at - 1), moved(at - 2));
            // Of slow rises gravity takes as much.
            let jolt = pace.max(1.0).powi(2) + if made.written == Written::Whole { 2.1 } else { 0.05 };
            // A part of a rise may be a key let go.
            let is_whole = 4.0 * moved(at).0.hypot(moved(at).1) <= before.0.hypot(before.1);
            (before.1 > 0.0 || is_whole && moved(at).1 - before.1 > jolt && 0.0 - before.1 > jolt)
                && before.1.abs() > least
                && before.0.abs() > least * 0.6
                && earlier.0.abs() > least * 0.6
                && same(at - 1, at + 2)
                && stays(at + 1, 1, 0.25 * before.0.hypot(before.1))
        }
    }
}

/// What the take itself shows of a bug that the game does not see.
fn shown(bug: Bug, play: &Play<'_>, made: &Made, strip: Option<f64>) -> Vec<Seen> {
    let (ticks, pace) = (play.ticks, 60.0 / made.rate);
    let held = (12.0 / pace).ceil() as usize;
    let in_whole = made.written == Written::Whole;
    let begins = |is: &dyn Fn(usize) -> bool, least: usize| -> Vec<usize> {
        let starts = (3..ticks.len().saturating_sub(least + 2)).filter(|tick| is(*tick) && !is(tick - 1));
        starts.filter(|tick| (*tick..*tick + least).all(is)).collect()
    };
    let is_put = |tick: usize| ticks[tick].is_warped || ticks[tick - 1].is_warped;
    let over = |tick: usize, flat: &Flat| {
        let ((left, right), (from, to)) = (play.sides(tick), flat.reach((1.0, 0.0)));
        right.min(to) - left.max(from)
    };
    let crosses = |tick: usize, ledge: &Flat| {
        let room = if in_whole { 1.1 } else { 0.02 };
        let (was, is) = (play.bottom(tick - 1), play.bottom(tick));
        let is_over = over(tick - 1, ledge) > 8.0 && over(tick, ledge) > 8.0;
        is_over && was < ledge.top() - room && is > ledge.top() + 1.6
    };
    let found: Vec<usize> = match bug {
        Bug::LedgesFail => (3..ticks.len() - 3)
            .filter(|tick| !is_put(*tick) && !ticks[*tick].drops && !ticks[tick - 1].drops)
            .filter(|tick| play.land.ledges.iter().any(|ledge| crosses(*tick, ledge)))
            .collect(),
        Bug::LeavesTheStage => {
            let is_off = |tick: usize| {
                let (left, right) = play.sides(tick);
                left > WIDTH + 0.01 || right < -0.01
            };
            begins(&is_off, 1).into_iter().filter(|tick| !is_put(*tick)).collect()
        }
        Bug::HangsByPole => {
            let hangs = |tick: usize| {
                let meets = |part: &Flat, down: f64| {
                    let part = if ticks[tick].right { part.clone() } else { part.mirrored() };
                    let part = part.moved((play.places[tick].0, play.places[tick].1 + down));
                    play.land.solids.iter().chain(&play.land.ledges).any(|solid| part.meets(solid))
                };
                let parts = &play.figure.tall;
                let is_tall = ticks[tick].animation != "low" && ticks[tick].animation != "dash";
                let is_still = play.moved(tick).0.hypot(play.moved(tick).1) < 0.01;
                is_tall && is_still && !is_put(tick) && meets(&parts[1], 0.4) && !meets(&parts[0], 2.1)
            };
            if in_whole { Vec::new() } else { begins(&hangs, held) }
        }
        Bug::LosesGround => little_falls(play, made, strip),
        Bug::SkipsZones => (3..ticks.len() - 3)
            .filter(|tick| {
                let (dx, dy) = play.moved(*tick);
                let passes = |zone: &&Flat| {
                    let ((x, _), (old, new)) = (zone.reach((1.0, 0.0)), (play.sides(tick - 1), play.sides(*tick)));
                    let room = if in_whole { 1.1 } else { 0.02 };
                    let (behind, ahead) = if dx > 0.0 { (old.1, new.0) } else { (0.0 - old.0, 0.0 - new.1) };
                    let (near, far) = if dx > 0.0 { (x, x + 1.0) } else { (0.0 - x - 1.0, 0.0 - x) };
                    let (low, high) = (play.bottom(*tick), zone.top());
                    behind < near - room && ahead > far + room && low > high + 4.0 && low - 10.0 < zone.bottom()
                };
                let is_same =
                    ticks[*tick].animation == ticks[tick - 1].animation && ticks[*tick].right == ticks[tick - 1].right;
                dy.abs() < 0.01
                    && dx.abs() < 150.0
                    && is_same
                    && !is_put(*tick)
                    && play.land.zones.iter().any(|zone| passes(&zone))
            })
            .collect(),
        Bug::DropsTooLong => {
            let mut passed: Vec<usize> = Vec::new();
            let mut all = Vec::new();
            for tick in 3..ticks.len() - 3 {
                let is_dropping = ticks[tick].drops && ticks[tick - 1].drops && !is_put(tick);
                for (index, ledge) in play.land.ledges.iter().enumerate() {
                    // It rests on the first, at most a hair over it.
                    let leaves = ticks[tick].drops
                        && !is_put(tick)
                        && over(tick, ledge) > 4.0
                        && (play.bottom(tick - 1) - ledge.top()).abs() < 0.6
                        && play.bottom(tick) > ledge.top() + 0.6;
                    if leaves && !passed.contains(&index) {
                        passed.push(index);
                    } else if is_dropping && !passed.is_empty() && !passed.contains(&index) && crosses(tick, ledge) {
                        passed.push(index);
                        all.push(tick);
                    }
                }
                if !ticks[tick].drops || is_put(tick) {
                    passed.clear();
                }
            }
            all
        }
        Bug::ForgetsTheArt => begins(&|tick| !ticks[tick].right, 2),
        Bug::ArtEndsHigh | Bug::ArtEndsLow => {
            let rests = |tick: usize| {
                let bottom = play.bottom(tick);
                let is_on = |solid: &Flat| {
                    let top = solid.0.iter().filter(|at| (at.1 - bottom).abs() < 0.01).count();
                    top >= 2 && over(tick, solid) > 12.0
                };
                ticks[tick].animation != "dash" && !is_put(tick) && play.land.solids.iter().any(is_on)
            };
            begins(&rests, held)
        }
        _ => Vec::new(),
    };
    found.into_iter().map(|tick| Seen { tick, bug, figure: None }).collect()
}

/// The ticks on which ground is felt again for the third time within a quarter of a second, lost in between for a few ticks on a
/// walk down.
fn little_falls(play: &Play<'_>, made: &Made, strip: Option<f64>) -> Vec<usize> {
    let (ticks, pace) = (play.ticks, 60.0 / made.rate);
    if made.written == Written::Whole || strip.is_none() {
        return Vec::new();
    }
    let feels = |tick: usize| {
        let (left, right) = play.sides(tick);
        let bottom = play.bottom(tick);
        match strip {
            Some(inset) => {
                let strip = Flat::block(left + inset, bottom, right - left - 2.0 * inset, 1.0);
                play.land.solids.iter().any(|solid| strip.meets(solid))
            }
            None => {
                let (x, y) = play.places[tick];
                let lower = play.body(tick, (x, y + 0.5));
                lower.iter().any(|part| play.land.solids.iter().any(|solid| part.meets(solid)))
            }
        }
    };
    let most = (4.0 / pace).round() as usize;
    let (mut lost, mut again, mut found): (Option<usize>, Vec<usize>, Vec<usize>) = (None, Vec::new(), Vec::new());
    for tick in 3..ticks.len() - 3 {
        let is_low = |tick: usize| ticks[tick].animation == "low";
        let is_same = is_low(tick) == is_low(tick - 1) && ticks[tick].right == ticks[tick - 1].right;
        let walks = play.moved(tick).1 > -0.05 && play.moved(tick).0.abs() < 4.9 * pace;
        if !is_same || !walks || ticks[tick].is_warped || ticks[tick].drops {
            (lost, again) = (None, Vec::new());
            continue;
        }
        match (feels(tick - 1), feels(tick)) {
            (true, false) => lost = Some(tick),
            (false, true) if lost.is_some_and(|lost| tick - lost <= most) => again.push(tick),
            _ => {}
        }
        again.retain(|known| known + (15.0 / pace) as usize > tick);
        if again.len() >= 3 && again.last() == Some(&tick) {
            found.push(tick);
        }
    }
    found
}

fn is_found(seen: &Seen, report: &Report) -> bool {
    report.findings.iter().any(|finding| {
        let ticks = finding.in_take().unwrap().ticks;
        let near = ticks.first <= seen.tick as u64 + 1 && seen.tick as u64 <= ticks.last + 1;
        rules_of(seen.bug).contains(&finding.rule.code()) && near
    })
}

#[test]
fn what_a_game_with_a_bug_sees_is_found() {
    let takes = std::env::var("FINITOR_BUGS").ok().and_then(|text| text.parse().ok()).unwrap_or(6_usize);
    println!("bug                 seen  found  other errors and warnings");
    let (mut missed, mut seen_at_all, mut told_besides, mut played) = (0, 0, 0, 0);
    let (mut wrong, mut reckoned_at_all) = (0, 0);
    for bug in BUGS {
        let (mut seen, mut found, mut others, mut printed) = (0, 0, 0, 0);
        for seed in 1..=takes {
            let mut dice = dice(1, seed);
            let figures = figures();
            // No body with a pole: what that does is its own fault.
            // A body with a pole is a fault of its own; one with a side ahead shows the picture's.
            let (figure, sort) = match bug {
                Bug::HangsByPole => (&figures[3], SORTS[seed / 3 % 4]),
                Bug::ForgetsTheArt => (&figures[2], SORTS[seed / 3 % 4]),
                Bug::TurnsBlindly => (&figures[2], Sort::Walls),
                Bug::StandsUpBlindly => (&figures[seed % 3], Sort::Beams),
                Bug::LeapsWhenDashing => (&figures[seed % 3], Sort::Posts),
                Bug::NeverStepsUp => (&figures[seed % 3], Sort::Edges),
                Bug::LedgesFail | Bug::DropsTooLong => (&figures[seed % 3], Sort::Ledges),
                Bug::SnagsOnJoints => (&figures[seed % 3], Sort::Tiles),
                Bug::LosesGround => (&figures[seed % 3], Sort::Hills),
                _ => (&figures[seed % 3], SORTS[seed / 3 % 4]),
            };
            let (rate, written) = (RATES[seed / 12 % 3], WRITTEN[dice.below(3) as usize]);
            let strip = STRIPS[dice.below(3) as usize];
            let land = Land::new(sort, &mut dice);
            let land = match bug {
                Bug::LeavesTheStage => land.open(),
                Bug::SkipsZones => land.with_zones(),
                Bug::DropsTooLong => land.stacked(),
                _ => land,
            };
            let mut game = Game::new(&land, figure.clone(), rate, &mut dice);
            game.bug = Some(bug);
            let ticks = game.play(TICKS, &mut dice);
            played += ticks.len();
            let actor = match bug {
                Bug::ArtEndsHigh => drawn_actor(figure, strip, Drawn { art: -2.0, ..Drawn::default() }),
                Bug::ArtEndsLow => drawn_actor(figure, strip, Drawn { art: 2.0, ..Drawn::default() }),
                Bug::LosesGround => drawn_actor(figure, strip, Drawn { strip: 1.0, ..Drawn::default() }),
                _ => actor_of(figure, strip),
            };
            let log = Log { is_up: seed % 5 == 0, never_flips: bug == Bug::ForgetsTheArt, ..Log::new(rate, written) };
            let report = check(&land, actor, &ticks, log);
            let stage = land.stage();
            let places = ticks.iter().map(|tick| log.place(tick.at, &stage)).map(|at| (at.x, at.y)).collect();
            let play = Play { land: &land, figure, ticks: &ticks, places };
            for finding in &report.findings {
                let Some(reckoned) = by_hand(&play, finding) else { continue };
                reckoned_at_all += 1;
                if (reckoned - finding.figure).abs() > 0.01 {
                    wrong += 1;
                    println!(
                        "  figure {reckoned} of {bug:?} seed {seed} {} {sort:?} {log:?}: {:?}",
                        figure.name, finding.message
                    );
                }
            }
            let made = Made { rate, written, has_strip: strip.is_some(), sort };
            let by_take = shown(bug, &play, &made, strip);
            for fault in game.seen.iter().chain(&by_take).filter(|fault| shows(fault, &ticks, &made)) {
                seen += 1;
                if is_found(fault, &report) {
                    found += 1;
                } else if printed < 3 {
                    printed += 1;
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
            let symptoms = symptoms_of(bug);
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
    println!("{reckoned_at_all} figures reckoned again, {wrong} of them otherwise");
    assert!(wrong * 1000 <= reckoned_at_all, "{wrong} of {reckoned_at_all} figures are otherwise");
    assert!(told_besides * 100_000 <= 5 * played + 100_000, "{told_besides} told besides in {played} ticks");
    assert_eq!(missed, 0, "of {seen_at_all}");
}
