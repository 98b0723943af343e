//! The sample's two takes: nothing in the clean one, and in the other each planted fault once, at its ticks and with
//! the depth worked out by hand.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::Project;

/// The keeper's body, from its recipe: a capsule from 9 px behind the pivot to 8 px ahead, standing on the pivot's
/// line, 38.3125 px high.
const AHEAD: f64 = 8.0;
const BEHIND: f64 = 9.0;
const HEIGHT: f64 = 38.3125;

struct Planted {
    rule: &'static str,
    actor: &'static str,
    with: &'static str,
    ticks: (u64, u64),
    worst: u64,
    depth: f64,
    push: (f64, f64),
    cause: &'static str,
    /// What the remedy must say, number included.
    remedy: &'static str,
}

fn planted() -> Vec<Planted> {
    let plant = |rule, with, ticks, worst, depth, push, cause, remedy| Planted {
        rule,
        actor: "keeper",
        with,
        ticks,
        worst,
        depth,
        push,
        cause,
        remedy,
    };
    let (left, right, up, down) = ((-1.0, 0.0), (1.0, 0.0), (0.0, -1.0), (0.0, 1.0));
    vec![
        // Facing the wall at x 24 the pole, which the body leaves out, is in it up to the staff's end; counted from the
        // picture below.
        plant("art_in_wall", "pier/sea_wall", (10, 15), 12, 156.0, right, "moved", "Keep 8.00 px further right"),
        // The wall ends at x 16. Facing left at x 24 the 8 px ahead just touch; facing right the 9 px behind do not fit.
        plant(
            "embedded",
            "pier/sea_wall",
            (16, 20),
            16,
            16.0 - (24.0 - BEHIND),
            right,
            "turned",
            "Shift keeper 1.00 px right",
        ),
        // The barrel is 22 px wide and stands at x 130.
        plant(
            "embedded",
            "barrel.body",
            (68, 71),
            68,
            113.5 + AHEAD - (130.0 - 11.0),
            left,
            "moved",
            "Stop keeper 2.50 px further left",
        ),
        // The crawl runs from the terrace at y 170 up to y 144.
        plant(
            "no_headroom",
            "pier/boathouse",
            (126, 131),
            126,
            HEIGHT - (170.0 - 144.0),
            down,
            "reshaped",
            "top edge of body 12.31 px down",
        ),
        // The gangplank is 4 px thick; the way out is shortest with body and plank middle on middle.
        plant(
            "tunnelled",
            "pier/gangplank",
            (184, 184),
            184,
            (HEIGHT + 4.0) / 2.0,
            up,
            "moved",
            "Stop the step at (590.00, 170.00)",
        ),
        plant(
            "zone_skipped",
            "pier/bell",
            (242, 242),
            242,
            (AHEAD + BEHIND + 4.0) / 2.0,
            left,
            "moved",
            "at least 10 px thick",
        ),
        // From y 224 a jump takes 6.6 px; the second step ends with the head at the underside, y 176.
        plant(
            "caught_rising",
            "pier/jetty",
            (302, 302),
            302,
            6.6 - (217.4 - (176.0 + HEIGHT)),
            up,
            "moved",
            "47.40 px were missing",
        ),
        plant("caught_rising", "pier/jetty", (364, 364), 364, 176.0 - 170.0, up, "moved", "6.00 px were missing"),
        plant(
            "embedded",
            "pier/jetty",
            (424, 427),
            424,
            172.0 - 170.0,
            up,
            "moved",
            "End the step at (460.00, 170.00)",
        ),
        plant("hover", "pier", (480, 489), 480, 200.0 - 198.5, down, "warped", "End the fall at y 200.00"),
        plant(
            "warp_blocked",
            "pier/terrace",
            (540, 542),
            540,
            174.0 - 170.0,
            up,
            "warped",
            "Move the landing 4.00 px up",
        ),
        // The gull's body begins 12 px behind its pivot; the stage ends at x 640.
        Planted {
            actor: "gull",
            ..plant(
                "off_stage",
                "pier",
                (606, 610),
                610,
                672.0 - 12.0 - 640.0,
                left,
                "moved",
                "right border from y 46.00 to 57.00",
            )
        },
        // Of the crouch the legs reach 4 px ahead and 10 px behind, the farthest apart of all shapes.
        plant(
            "facing_split",
            "its picture",
            (664, 666),
            664,
            10.0 - 4.0,
            (0.0, 0.0),
            "turned",
            "on tick 664: the shapes turned left, the art stayed right",
        ),
        // The gull's body begins 12 px behind its pivot, at x 77.
        plant(
            "ghost_pair",
            "gull.body",
            (720, 723),
            720,
            60.0 + AHEAD - (77.0 - 12.0),
            left,
            "warped",
            "Add foe (bit 3) to the mask of keeper.body",
        ),
        // The pole met the gull at tick 781 and again at 784.
        plant(
            "repeat_hit",
            "gull.feathers",
            (784, 784),
            784,
            3.0,
            (0.0, 0.0),
            "moved",
            "Let a swing hit each target once",
        ),
        // Its front, 8 px ahead at x 248, stands at the ramp's crest, x 240.
        plant("snagged", "pier/ramp", (846, 846), 846, 1.5, right, "moved", "Merge the two solids"),
        // The high culvert begins at x 604; put there at tick 907, and there yet when its cooldown of 12 ticks ends.
        plant(
            "warp_bounce",
            "pier/culvert_high",
            (919, 919),
            919,
            612.0 + AHEAD - 604.0,
            left,
            "warped",
            "Move the landing 16.00 px left",
        ),
    ]
}

#[test]
fn the_clean_take_is_clean() {
    let project = Project::fitted();
    let run = project.ok(&["check", "takes/clean.csv", "--format", "json", "--fail-on", "note"]);
    let (whole, result) = (run.json(), run.take());
    assert_eq!(result["findings"], Value::Array(vec![]));
    assert_eq!(whole["schema"], "finitor.check/2");
    assert_eq!((&result["take"], &whole["stage"]), (&"clean.csv".into(), &"pier".into()));
    let rows = project.read("takes/clean.csv");
    let ticks: std::collections::BTreeSet<&str> =
        rows.lines().skip(1).map(|row| row.split(',').next().unwrap()).collect();
    assert_eq!(result["ticks"].as_u64().unwrap() as usize, ticks.len());
}

#[test]
fn every_planted_fault_is_found_once_and_nothing_else() {
    let project = Project::fitted();
    let run = project.run(&["check", "takes/faults.csv", "--format", "json"]);
    assert_eq!(run.code, 1, "{}", run.err);
    let result = run.take();
    let findings = result["findings"].as_array().unwrap();
    let planted = planted();
    assert_eq!(findings.len(), planted.len(), "{findings:#?}");
    for (found, plant) in findings.iter().zip(&planted) {
        let tick = |value: &Value| value.as_u64().unwrap();
        assert_eq!(found["rule"], plant.rule, "{found:#}");
        assert_eq!((&found["subject"], &found["with"]), (&plant.actor.into(), &plant.with.into()), "{found:#}");
        assert_eq!((tick(&found["ticks"][0]), tick(&found["ticks"][1])), plant.ticks, "{found:#}");
        assert_eq!(found["cause"], plant.cause, "{found:#}");
        let worst = &found["worst"];
        assert_eq!(tick(&worst["tick"]), plant.worst, "{found:#}");
        let depth = found["figure"].as_f64().unwrap();
        assert!((depth - plant.depth).abs() <= 0.01, "{} px by hand: {found:#}", plant.depth);
        let push = (worst["push"][0].as_f64().unwrap(), worst["push"][1].as_f64().unwrap());
        assert!((push.0 - plant.push.0).abs() < 1e-9 && (push.1 - plant.push.1).abs() < 1e-9, "{found:#}");
        assert!(found["fix"].as_str().unwrap().contains(plant.remedy), "{found:#}");
        assert_eq!(found["remains"], 0.0, "the remedy was applied and nothing is left: {found:#}");
        assert!(!found["message"].as_str().unwrap().is_empty());
    }
}

#[test]
fn art_in_the_wall_is_counted_pixel_by_pixel() {
    const CELL: u32 = 48;
    const PIVOT: (f64, f64) = (24.0, 46.0);
    let project = Project::fitted();
    let (width, _, pixels) = support::pixels(&project.path("actors/keeper.png"));
    // Facing left the picture is flipped about the pivot; the wall lies left of x 16 from y 70 on.
    let area = |cell: u32, at: (f64, f64)| -> f64 {
        let (left, top) = (cell % (width / CELL) * CELL, cell / (width / CELL) * CELL);
        let places = (0..CELL * CELL).map(|i| (i % CELL, i / CELL));
        let opaque = places.filter(|(x, y)| pixels[((top + y) * width + left + x) as usize][3] >= 128);
        opaque
            .map(|(x, y)| {
                let right = at.0 - (f64::from(x) - PIVOT.0);
                let row = at.1 + f64::from(y) - PIVOT.1;
                if row < 70.0 { 0.0 } else { right.min(16.0) - (right - 1.0).min(16.0) }
            })
            .sum()
    };
    let found = project.run(&["check", "takes/faults.csv", "--rule", "art_in_wall", "--format", "json"]).take();
    let (worst, figure) = (&found["findings"][0]["worst"], &found["findings"][0]["figure"]);
    // Walk 1 is cell 5, idle 0 is cell 0.
    let ticks = [(10, 5, 27.0), (11, 5, 25.5), (12, 5, 24.0), (13, 0, 24.0)];
    let (tick, most) = ticks
        .map(|(tick, cell, x)| (tick, area(cell, (x, 200.0))))
        .into_iter()
        .reduce(|a, b| if b.1 > a.1 { b } else { a })
        .unwrap();
    assert_eq!((worst["tick"].as_u64().unwrap(), figure.as_f64().unwrap()), (tick, most));
    // The number told ends it: as much further from the wall all the time.
    let rows: String = (0..6)
        .map(|tick| format!("{tick},keeper,32,200,left,{},0\n", if tick < 3 { "walk" } else { "idle" }))
        .collect();
    project.write("takes/off.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
    let clear = project.ok(&["check", "takes/off.csv", "--rule", "art_in_wall", "--format", "json"]).take();
    assert_eq!(clear["findings"], serde_json::json!([]));
}

#[test]
fn the_body_is_the_one_the_depths_were_worked_out_for() {
    let project = Project::fitted();
    let result = project.ok(&["facing", "keeper", "--format", "json"]).json();
    let body = &result["actors"][0]["frames"][0]["right"]["shapes"][0];
    let ring = support::points(&body["rings"][0]);
    let extent = |axis: usize| {
        let values = ring.iter().map(|point| point[axis]);
        (values.clone().fold(f64::INFINITY, f64::min), values.fold(f64::NEG_INFINITY, f64::max))
    };
    assert_eq!(body["name"], "body");
    assert_eq!((extent(0), extent(1)), ((-BEHIND, AHEAD), (-HEIGHT, 0.0)));
}

#[test]
fn the_fall_through_the_plank_ends_in_the_tide_and_the_pole_strikes_twice() {
    let project = Project::fitted();
    let result = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let entered = &result["events"][0];
    // At y 261 the feet are past the tide's top, y 260, for the first time.
    assert_eq!((&entered["kind"], &entered["zone"], &entered["tick"]), (&"enter".into(), &"tide".into(), &185.into()));
    // The scene ends on that tick: one tick of the hazard.
    let tide = serde_json::json!([{
        "zone": "tide", "effect": "hazard", "actor": "keeper", "entered": 1, "ticks": 1, "first_tick": 185, "last_tick": 185,
    }]);
    let zones = result["zones"].as_array().unwrap();
    assert_eq!(zones[..1], tide.as_array().unwrap()[..]);
    let culverts = zones[1..].iter().map(|zone| (zone["zone"].as_str().unwrap(), zone["ticks"].as_u64().unwrap()));
    assert_eq!(culverts.collect::<Vec<_>>(), [("culvert_low", 1), ("culvert_high", 14)]);
    let hits: Vec<(u64, &str, &str)> = result["hits"]
        .as_array()
        .unwrap()
        .iter()
        .map(|hit| (hit["tick"].as_u64().unwrap(), hit["shape"].as_str().unwrap(), hit["hurt"].as_str().unwrap()))
        .collect();
    assert_eq!(hits, [(781, "pole", "feathers"), (784, "pole", "feathers")]);
}

#[test]
fn tables_begin_with_the_verdict_and_exit_codes_follow_fail_on() {
    let project = Project::fitted();
    let clean = project.ok(&["check", "takes/clean.csv"]);
    assert!(clean.out.starts_with("clean.csv on pier: clean."), "{}", clean.out);
    let faults = project.run(&["check", "takes/faults.csv"]);
    let lines: Vec<&str> = faults.out.lines().collect();
    assert!(lines[0].starts_with("faults.csv on pier: 12 errors, 3 warnings, 2 notes in 180 ticks"), "{}", lines[0]);
    assert!(lines[4].starts_with("error      tunnelled       184 "), "the worst comes first: {}", lines[4]);
    for (fail_on, code) in [("note", 1), ("warn", 1), ("error", 1), ("never", 0)] {
        assert_eq!(project.run(&["check", "takes/faults.csv", "--fail-on", fail_on]).code, code, "{fail_on}");
    }
    // With every rule switched to a warning an error is asked for in vain; switched off nothing is reported.
    let rules = [
        "embedded",
        "tunnelled",
        "caught_rising",
        "off_stage",
        "zone_skipped",
        "hover",
        "facing_split",
        "ghost_pair",
        "no_headroom",
        "warp_blocked",
        "art_in_wall",
        "repeat_hit",
        "snagged",
        "warp_bounce",
    ];
    for (severity, code, count) in [("warn", 0, 17), ("off", 0, 0)] {
        let project = Project::fitted();
        let list: String = rules.iter().map(|rule| format!("{rule} = \"{severity}\"\n")).collect();
        project.write("finitor.toml", format!("{}\n[check.rules]\n{list}", project.read("finitor.toml")));
        let run = project.run(&["check", "takes/faults.csv", "--format", "json"]);
        assert_eq!(run.code, code);
        assert_eq!(run.take()["findings"].as_array().unwrap().len(), count);
    }
}

#[test]
fn several_takes_give_a_result_each() {
    let project = Project::fitted();
    let run = project.run(&["check", "takes/clean.csv", "takes/faults.csv", "--format", "json"]);
    assert_eq!(run.code, 1);
    let takes: Vec<Value> =
        run.json()["takes"].as_array().unwrap().iter().map(|result| result["take"].clone()).collect();
    assert_eq!(takes, ["clean.csv", "faults.csv"]);
}

/// The remedy of a fault at the sea wall, applied: moving the body's left edge makes the turn clean.
#[test]
fn applying_the_number_in_the_remedy_ends_the_fault() {
    let project = Project::fitted();
    project.edit(
        "actors/keeper.toml",
        "bottom = 46\nlayer = \"hero\"\n\n# Crouched",
        "bottom = 46\nleft = 16\nlayer = \"hero\"\n\n# Crouched",
    );
    project.ok(&["fit"]);
    let result = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let findings = result["findings"].as_array().unwrap();
    let turned = |finding: &Value| finding["rule"] == "embedded" && finding["cause"] == "turned";
    assert!(!findings.iter().any(turned), "{findings:#?}");
    // And the bell: at 10 px it is seen, at 9 it is not.
    for (thick, skipped) in [("9", true), ("10", false)] {
        let project = Project::fitted();
        project.edit("stages/pier.toml", "box = [560, 110, 4, 60]", &format!("box = [560, 110, {thick}, 60]"));
        let dash =
            "tick,actor,x,y,facing,animation,frame\n0,keeper,552,170,right,walk,1\n1,keeper,578,170,right,walk,1\n";
        project.write("takes/dash.csv", dash);
        let result = project.run(&["check", "takes/dash.csv", "--format", "json"]).take();
        assert_eq!(!result["findings"].as_array().unwrap().is_empty(), skipped, "{thick} px: {result:#}");
    }
}
