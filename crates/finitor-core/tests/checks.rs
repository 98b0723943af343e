//! Each rule on takes of a few ticks, with depths and ticks worked out by hand; and what must stay silent.
#![allow(clippy::unwrap_used, clippy::type_complexity, reason = "a test fails by panicking")]

mod world;

use finitor_core::check::EventKind;
use finitor_core::stage::{Effect, Passes};
use finitor_core::{Facing, Rect, Vec2};
use world::*;

fn found(
    rule: &str,
    with: &str,
    ticks: (u64, u64),
    depth: f64,
    cause: &'static str,
) -> (String, String, (u64, u64), f64, &'static str) {
    (rule.into(), with.into(), ticks, depth, cause)
}

fn with_wall() -> finitor_core::stage::Stage {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 400.0, 300.0)));
    stage.solids.push(solid("wall", Rect::new(100.0, 100.0, 120.0, 200.0)));
    stage
}

#[test]
fn resting_and_touching_are_no_faults() {
    let stage = with_wall();
    // On the floor, against the wall, and half a pixel in it: touch, touch, slack.
    let report = check(&stage, hero(0), &path(&[(50.0, 200.0), (96.0, 200.0), (96.5, 200.0), (96.5, 200.5)]));
    assert_eq!(short(&report), []);
}

#[test]
fn moved_turned_reshaped_state_spawned_and_warped_are_told_apart() {
    let stage = with_wall();
    let (r, l) = (Facing::Right, Facing::Left);
    let run = |rows: &[Row]| short(&check(&stage, hero(0), rows));
    let wall = |ticks, depth, cause| vec![found("embedded", "yard/wall", ticks, depth, cause)];

    // 4 px ahead: at 98.25 it is 2.25 px in.
    let moved = [
        Row(0, (94.0, 200.0), r, "stand", ""),
        Row(1, (98.25, 200.0), r, "stand", ""),
        Row(2, (96.0, 200.0), r, "stand", ""),
    ];
    assert_eq!(run(&moved), wall((1, 1), 2.25, "moved"));

    // Touching ahead; turned, the 6 px behind are 2 px too many.
    let turned = [
        Row(4, (96.0, 200.0), r, "stand", ""),
        Row(5, (96.0, 200.0), l, "stand", ""),
        Row(6, (96.0, 200.0), l, "stand", ""),
    ];
    assert_eq!(run(&turned), wall((5, 6), 2.0, "turned"));

    // A move that ends 0.25 px in, within the slack, and a turn that adds 2 px: the turn made it.
    let both = [Row(0, (92.0, 200.0), r, "stand", ""), Row(1, (96.25, 200.0), l, "stand", "")];
    assert_eq!(run(&both), wall((1, 1), 2.25, "turned"));

    // Ghosts pass the wall; solid again inside of it.
    let state = [Row(0, (110.0, 150.0), r, "stand", "ghost"), Row(1, (110.0, 150.0), r, "stand", "")];
    assert_eq!(run(&state), wall((1, 1), 14.0, "state"));
    assert_eq!(run(&[Row(0, (97.0, 200.0), r, "stand", "")]), wall((0, 0), 1.0, "spawned"));
    let warped = [Row(0, (40.0, 200.0), r, "stand", ""), Row(1, (97.0, 200.0), r, "stand", "warped")];
    assert_eq!(run(&warped), [found("warp_blocked", "yard/wall", (1, 1), 1.0, "warped")]);

    // Under a ceiling 12 px up the ducked hero fits and the standing one is 8 px too high.
    let mut low = with_wall();
    low.solids.push(solid("roof", Rect::new(20.0, 100.0, 80.0, 188.0)));
    let rows = [
        Row(0, (50.0, 200.0), r, "duck", ""),
        Row(1, (50.0, 200.0), r, "stand", ""),
        Row(2, (50.0, 200.0), r, "duck", ""),
    ];
    let report = check(&low, hero(0), &rows);
    assert_eq!(short(&report), vec![found("no_headroom", "yard/roof", (1, 1), 8.0, "reshaped")]);
    let finding = &report.findings[0];
    assert_eq!(at(finding).worst.push, Vec2::new(0.0, 1.0));
    assert!(finding.fix.contains("the top edge of body 8.00 px down on stand 0"), "{}", finding.fix);
}

#[test]
fn the_place_named_by_the_fix_is_clear() {
    let stage = with_wall();
    // Into the corner of floor and wall at once: one push does not clear both.
    let report = check(&stage, hero(0), &path(&[(90.0, 195.0), (98.0, 203.0)]));
    assert_eq!(report.findings.len(), 2);
    for finding in &report.findings {
        assert!(finding.fix.contains("at (96.00, 200.00)"), "{}", finding.fix);
    }
    assert_eq!(short(&check(&stage, hero(0), &path(&[(90.0, 195.0), (96.0, 200.0)]))), []);
}

#[test]
fn spans_join_consecutive_ticks_and_break_at_gaps() {
    let stage = with_wall();
    let r = Facing::Right;
    let deep = |tick, x| Row(tick, (x, 200.0), r, "stand", "");
    let rows = [deep(0, 97.0), deep(1, 98.0), deep(2, 97.5), deep(3, 90.0), deep(4, 97.0), deep(9, 97.0)];
    let spans = |gap: f64| -> Vec<((u64, u64), u64)> {
        let report = check_by(&stage, hero(0), &rows, &settings("merge_gap", gap));
        report.findings.iter().map(|f| (span(f), at(f).worst.tick)).collect()
    };
    assert_eq!(spans(0.0), [((0, 2), 1), ((4, 4), 4), ((9, 9), 9)]);
    // One tick between, or four, as many as are joined over.
    assert_eq!(spans(2.0), [((0, 4), 1), ((9, 9), 9)]);
    assert_eq!(spans(3.0), [((0, 4), 1), ((9, 9), 9)]);
    assert_eq!(spans(4.0), [((0, 9), 1)]);
}

#[test]
fn tunnelling_needs_a_crossing_that_no_tick_and_no_way_round_explains() {
    let mut stage = stage();
    stage.solids.push(solid("plank", Rect::new(0.0, 100.0, 200.0, 104.0)));
    // From 6 px above to 10 px below in one step of 40 px; deepest with half of 20 + 4 px.
    let fall = path(&[(50.0, 94.0), (50.0, 134.0)]);
    let report = check(&stage, hero(0), &fall);
    assert_eq!(short(&report), vec![found("tunnelled", "yard/plank", (1, 1), 12.0, "moved")]);
    // First touch after 6 of 40 px; 24 px of way lie inside, 23 of them deeper than the slack.
    assert!(report.findings[0].fix.contains("at (50.00, 100.00), 15 % of the way"), "{}", report.findings[0].fix);
    assert!(report.findings[0].fix.contains("under 23.00 px"), "{}", report.findings[0].fix);

    // Past the plank's end, up and over: the straight line cuts the corner, going up first does not.
    let over = path(&[(207.0, 120.0), (200.0, 98.0)]);
    assert_eq!(short(&check(&stage, hero(0), &over)), []);
    // A warp, a gap in the ticks, or a step longer than `teleport` is no straight way.
    let (r, s) = (Facing::Right, "stand");
    let warp = [Row(0, (50.0, 94.0), r, s, ""), Row(1, (50.0, 134.0), r, s, "warped")];
    let gap = [Row(0, (50.0, 94.0), r, s, ""), Row(2, (50.0, 134.0), r, s, "")];
    let far = [Row(0, (50.0, 30.0), r, s, ""), Row(1, (50.0, 230.0), r, s, "")];
    for rows in [warp, gap, far] {
        assert_eq!(short(&check(&stage, hero(0), &rows)), [], "{rows:?}");
    }
}

#[test]
fn a_one_way_platform_stops_only_what_comes_down_from_wholly_above() {
    let mut stage = stage();
    stage.one_ways.push(one_way("ledge", Rect::new(0.0, 100.0, 200.0, 106.0), Passes::Up));
    let (r, s) = (Facing::Right, "stand");
    // Before and after a step, whether it drops, and whether ending 3 px deep is a fault.
    for from_above in [true, false] {
        for rising in [true, false] {
            for drop in ["", "drop"] {
                let end = (50.0, 103.0);
                let start = match (from_above, rising) {
                    (true, false) => (50.0, 99.0),
                    // Wholly above and moving up cannot end inside; sideways and level is the nearest.
                    (true, true) => continue,
                    (false, true) => (50.0, 108.0),
                    (false, false) => (50.0, 102.0),
                };
                let rows = [Row(0, start, r, s, ""), Row(1, end, r, s, drop)];
                let stops = from_above && !rising && drop.is_empty();
                let embedded = check(&stage, hero(0), &rows).findings.iter().any(|f| f.rule.code() == "embedded");
                assert_eq!(embedded, stops, "{rows:?}");
            }
        }
    }
}

#[test]
fn a_jump_through_and_a_drop_through_are_silent() {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 400.0, 300.0)));
    stage.one_ways.push(one_way("ledge", Rect::new(0.0, 160.0, 200.0, 166.0), Passes::Up));
    let mut rows = Vec::new();
    let (mut y, mut speed) = (200.0, -6.0);
    while speed < 0.0 || y < 160.0 {
        speed += 0.35;
        y += speed;
        let landed = speed > 0.0 && y >= 160.0;
        rows.push(Row(rows.len() as u64, (50.0, if landed { 160.0 } else { y }), Facing::Right, "stand", ""));
    }
    for _ in 0..5 {
        rows.push(Row(rows.len() as u64, (50.0, 160.0), Facing::Right, "stand", ""));
    }
    (y, speed) = (160.0, 0.0);
    while y < 200.0 {
        speed += 0.35;
        y = f64::min(y + speed, 200.0);
        let state = if y < 164.0 { "drop" } else { "" };
        rows.push(Row(rows.len() as u64, (50.0, y), Facing::Right, "stand", state));
    }
    assert_eq!(short(&check(&stage, hero(0), &rows)), []);
    // The same drop without the state is a fall through the platform from the first deep tick on.
    let dropped: Vec<Row> = rows.iter().map(|row| Row(row.0, row.1, row.2, row.3, "")).collect();
    let report = check(&stage, hero(0), &dropped);
    assert_eq!(report.findings.len(), 1, "{:?}", short(&report));
    assert_eq!(report.findings[0].rule.code(), "embedded");
}

#[test]
fn platforms_that_pass_other_ways_stop_the_opposite_motion() {
    // Wholly on the far side, 1 px off; then 3 px in against the pass direction.
    let cases = [
        (Passes::Down, (50.0, 127.0), (50.0, 123.0)),
        (Passes::Left, (35.0, 110.0), (39.0, 110.0)),
        (Passes::Right, (67.0, 110.0), (63.0, 110.0)),
    ];
    for (passes, start, end) in cases {
        let mut stage = stage();
        stage.one_ways.push(one_way("gate", Rect::new(40.0, 100.0, 60.0, 106.0), passes));
        let report = check(&stage, hero(0), &path(&[start, end]));
        assert_eq!(short(&report), vec![found("embedded", "yard/gate", (1, 1), 3.0, "moved")], "{passes:?}");
        assert_eq!(short(&check(&stage, hero(0), &path(&[end, start]))), [], "{passes:?} the other way");
    }
}

#[test]
fn caught_rising_tells_stopped_from_lifted_and_from_the_top_of_a_jump() {
    let mut stage = stage();
    stage.one_ways.push(one_way("ledge", Rect::new(0.0, 100.0, 200.0, 106.0), Passes::Up));
    // Rising 5 px a tick; stopped with the head at the underside, 106, after 2 px: 3 px lost.
    let stopped = path(&[(50.0, 138.0), (50.0, 133.0), (50.0, 128.0), (50.0, 126.0), (50.0, 126.4), (50.0, 127.2)]);
    assert_eq!(
        short(&check(&stage, hero(0), &stopped)),
        vec![found("caught_rising", "yard/ledge", (3, 3), 3.0, "moved")]
    );
    // Ending a jump right under it takes less than a pixel of speed each tick.
    let top = path(&[(50.0, 127.6), (50.0, 126.7), (50.0, 126.15), (50.0, 126.0), (50.0, 126.2)]);
    assert_eq!(short(&check(&stage, hero(0), &top)), []);
    // In from the side, 4 px below the top, then put on it.
    let lifted =
        path(&[(212.0, 104.0), (209.0, 104.0), (206.0, 104.0), (203.0, 104.0), (202.0, 100.0), (200.0, 100.0)]);
    assert_eq!(
        short(&check(&stage, hero(0), &lifted)),
        vec![found("caught_rising", "yard/ledge", (4, 4), 4.0, "moved")]
    );
}

#[test]
fn hover_is_told_for_standing_actors_only() {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 200.0, 300.0)));
    stage.solids.push(slope("ramp", &[(200.0, 200.0), (260.0, 170.0), (260.0, 300.0), (200.0, 300.0)]));
    let still = |y: f64, n: usize| path(&vec![(50.0, y); n]);
    assert_eq!(
        short(&check(&stage, hero(0), &still(198.75, 11))),
        vec![found("hover", "yard", (0, 10), 1.25, "spawned")]
    );
    // The art may end 2 px above the body's bottom: the body stands, the art floats.
    let drawn_high = check(&stage, hero(2), &still(200.0, 11));
    assert_eq!(short(&drawn_high), vec![found("hover", "yard", (0, 10), 2.0, "spawned")]);
    assert!(
        drawn_high.findings[0].fix.contains("the bottom of body 2.00 px up on stand"),
        "{}",
        drawn_high.findings[0].fix
    );
    // Within the allowance, landing, and walking up a slope with the corner of the body on it.
    assert_eq!(short(&check(&stage, hero(0), &still(199.0, 11))), []);
    assert_eq!(
        short(&check(&stage, hero(0), &path(&[(50.0, 190.0), (50.0, 194.5), (50.0, 198.5), (50.0, 200.0)]))),
        []
    );
    let climb: Vec<(f64, f64)> =
        (0..30).map(f64::from).map(|i| (205.0 + i, 200.0 - (205.0 + i + 4.0 - 200.0) / 2.0)).collect();
    assert_eq!(short(&check(&stage, hero(0), &path(&climb))), []);
}

#[test]
fn leaving_the_stage_is_a_fault_unless_a_hazard_took_it() {
    let mut bare = stage();
    let out = path(&[(380.0, 100.0), (400.0, 100.0), (410.0, 100.0), (420.0, 100.0)]);
    // The body's left side is 6 px behind the pivot: 4 and 14 px past 400.
    assert_eq!(short(&check(&bare, hero(0), &out)), vec![found("off_stage", "yard", (2, 3), 14.0, "moved")]);
    bare.zones.push(zone("water", Rect::new(390.0, 0.0, 410.0, 300.0), Effect::Hazard));
    assert_eq!(short(&check(&bare, hero(0), &out)), []);
    // A goal is no hazard, a jump over the top is no exit, and what was never on the stage cannot leave it.
    bare.zones[0].effect = Effect::Goal;
    assert_eq!(check(&bare, hero(0), &out).findings.len(), 1);
    assert_eq!(short(&check(&stage(), hero(0), &path(&[(50.0, 10.0), (50.0, -15.0), (50.0, 10.0)]))), []);
    assert_eq!(short(&check(&stage(), hero(0), &path(&[(-50.0, 100.0), (-30.0, 100.0)]))), []);
}

#[test]
fn zones_tell_enter_exit_and_what_was_skipped() {
    let mut stage = stage();
    stage.zones.push(zone("rope", Rect::new(100.0, 0.0, 103.0, 300.0), Effect::Event));
    let walk = path(&[(90.0, 100.0), (96.0, 100.0), (97.0, 100.0), (109.0, 100.0)]);
    let report = check(&stage, hero(0), &walk);
    let events: Vec<(u64, EventKind)> = report.events.iter().map(|event| (event.tick, event.kind)).collect();
    assert_eq!(events, [(2, EventKind::Enter), (3, EventKind::Exit)], "a touch at tick 1 is no entry");
    assert_eq!(short(&report), []);
    // 20 px in a step: from 2 px before it to 5 past; deepest with half of 10 + 3 px.
    let dash = check(&stage, hero(0), &path(&[(94.0, 100.0), (114.0, 100.0)]));
    assert_eq!(short(&dash), vec![found("zone_skipped", "yard/rope", (1, 1), 6.5, "moved")]);
    assert_eq!(dash.events, []);
    // 13 px of way lie inside, 20 are needed: 7 px more, and a whole one so that it overlaps.
    assert!(dash.findings[0].fix.contains("at least 11 px thick"), "{}", dash.findings[0].fix);
    for (thick, skipped) in [(10.0, true), (11.0, false)] {
        // Where the dash starts must not matter: the worst start is just short of the zone.
        stage.zones[0] = zone("rope", Rect::new(100.0, 0.0, 100.0 + thick, 300.0), Effect::Event);
        let report = check(&stage, hero(0), &path(&[(96.0, 100.0), (116.0, 100.0)]));
        assert_eq!(!report.findings.is_empty(), skipped, "{thick} px: {:?}", short(&report));
    }
}

#[test]
fn two_bodies_stop_each_other_and_the_mover_is_named() {
    let stage = with_wall();
    // The crate's left side is 8 px before its pivot; the hero ends 3 px in it.
    let walked = check_both(&stage, &[((20.0, 200.0), (40.0, 200.0)), ((31.0, 200.0), (40.0, 200.0))]);
    assert_eq!(short(&walked), vec![found("embedded", "crate.body", (1, 1), 3.0, "moved")]);
    assert_eq!(walked.findings[0].subject, "hero");
    let pushed = check_both(&stage, &[((20.0, 200.0), (40.0, 200.0)), ((20.0, 200.0), (29.0, 200.0))]);
    assert_eq!(short(&pushed), vec![found("embedded", "hero.body", (1, 1), 3.0, "moved")]);
    assert_eq!(pushed.findings[0].subject, "crate");
}

#[test]
fn frames_without_a_body_break_nothing() {
    let stage = with_wall();
    let r = Facing::Right;
    let rows = [
        Row(0, (90.0, 200.0), r, "stand", ""),
        Row(1, (110.0, 150.0), r, "none", ""),
        Row(2, (98.0, 200.0), r, "stand", ""),
    ];
    assert_eq!(short(&check(&stage, hero(0), &rows)), vec![found("embedded", "yard/wall", (2, 2), 2.0, "reshaped")]);
}
