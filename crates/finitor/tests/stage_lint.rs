//! What lint tells of stages, and the room of bodies on them.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::Project;

/// Findings of a rule for stages.
fn told(project: &Project, rule: &str) -> Vec<Value> {
    let found = project.run(&["lint", "--format", "json"]).json()["findings"].clone();
    found.as_array().unwrap().iter().filter(|finding| finding["rule"] == rule).cloned().collect()
}

#[test]
fn gaps_in_the_bottom_are_told_for_the_bodies_that_fit_and_close_as_told() {
    let project = Project::fitted();
    assert_eq!(told(&project, "leaky_bottom"), Vec::<Value>::new(), "the tide takes all");
    project.edit("stages/pier.toml", "effect = \"hazard\"", "effect = \"event\"");
    let found = told(&project, "leaky_bottom");
    // Between terrace and rock and between rock and reef there are 22 px, as wide as the barrel; the rest is open.
    let places: Vec<&str> = found.iter().map(|finding| finding["place"].as_str().unwrap()).collect();
    assert_eq!(places, ["x 370.00 to 392.00", "x 466.00 to 488.00", "x 568.00 to 640.00"]);
    assert!(found.iter().all(|f| f["message"].as_str().unwrap().contains("barrel.body")), "{found:#?}");
    // A third of a px narrower, the barrel no longer fits and the others do.
    project.edit("stages/pier.toml", "[466, 280], [392, 280]]", "[466, 280], [391.7, 280]]");
    let first = told(&project, "leaky_bottom")[0]["message"].as_str().unwrap().to_string();
    assert!(!first.contains("barrel.body") && first.contains("keeper.body"), "{first}");
    // The zones told close it, and one that leaves room for the narrowest body does not.
    let zones: String = found
        .iter()
        .map(|finding| {
            finding["fix"].as_str().unwrap().split_once("box = ").unwrap().1.split_once('`').unwrap().0.to_string()
        })
        .map(|rect| format!("[[zone]]\nbox = {rect}\nmask = [\"hero\", \"foe\", \"crate\"]\neffect = \"hazard\"\n"))
        .collect();
    let open = project.read("stages/pier.toml");
    project.write("stages/pier.toml", format!("{zones}{open}"));
    assert_eq!(told(&project, "leaky_bottom"), Vec::<Value>::new());
    let narrower = zones.replace("box = [568.00, 280.00, 72.00, 100.00]", "box = [568.00, 280.00, 57.00, 100.00]");
    // With a wall on the right, so that nothing hangs over that border.
    let walled =
        open.replace("size = [640, 280]", "size = [640, 280]\nborders = [\"right\"]\nborder_layer = \"ground\"");
    project.write("stages/pier.toml", format!("{narrower}{walled}"));
    let left = told(&project, "leaky_bottom");
    assert_eq!((left.len(), &left[0]["figure"]), (1, &15.0.into()), "keeper.body_low is 15 px wide: {left:#?}");
    assert!(left[0]["message"].as_str().unwrap().starts_with("keeper.body_low can fall"), "{left:#?}");
}

#[test]
fn sealed_sides_are_watched_and_a_body_that_drifts_under_a_hazard_is_found() {
    let project = Project::fitted();
    without_culverts(&project);
    assert_eq!(told(&project, "leaky_bottom"), Vec::<Value>::new());
    // The sea wall is 70 px below the top and the keeper jumps 58.95: over the left it cannot, over the right everybody can.
    project.edit("stages/pier.toml", "size = [640, 280]", "size = [640, 280]\nsealed = [\"left\", \"right\"]");
    let found = told(&project, "leaky_bottom");
    let place = |finding: &Value| finding["place"].as_str().unwrap().to_string();
    assert!(found.iter().any(|f| place(f).starts_with("right, y")), "{found:#?}");
    assert!(found.iter().any(|f| f["message"].as_str().unwrap().contains("keeper.body can get out of the right")));
    let left: Vec<&Value> = found.iter().filter(|f| place(f).starts_with("left")).collect();
    assert!(left.iter().all(|f| !f["message"].as_str().unwrap().contains("keeper")), "{left:#?}");
    project.edit("stages/pier.toml", "sealed = [\"left\", \"right\"]", "sealed = [\"bottom\"]");
    // A hazard that hangs over all of the water behind the rock: who falls beside it drifts under it.
    project.edit("stages/pier.toml", "box = [370, 260, 270, 60]", "box = [466, 180, 174, 4]");
    let found = told(&project, "leaky_bottom");
    assert_eq!(
        found.iter().map(place).collect::<Vec<_>>(),
        ["x 370.00 to 392.00", "x 466.00 to 488.00", "x 568.00 to 640.00"]
    );
    // Closed off at its left end as well, nobody comes there from where it starts.
    project.edit("stages/pier.toml", "box = [466, 180, 174, 4]", "box = [370, 180, 270, 4]");
    assert_eq!(told(&project, "leaky_bottom"), Vec::<Value>::new());
    project.edit("stages/pier.toml", "sealed = [\"bottom\"]", "sealed = [\"botom\"]");
    project.refused(&["lint"], &["\"botom\" is no side of a stage", "did you mean \"bottom\"?"]);
}

/// A stage of one long floor, with more beside it; the keeper starts at the left, and has `moves`.
fn hall(more: &str, moves: &str) -> Project {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/hall.toml\"]");
    let head = "[stage]\nname = \"hall\"\nsize = [640, 320]\nborders = [\"left\", \"right\", \"top\"]\nborder_layer = \"ground\"\n\
        [[solid]]\nname = \"floor\"\nbox = [0, 300, 640, 20]\nlayer = \"ground\"\n\
        [[spawn]]\nactor = \"keeper\"\nat = [60, 300]\n";
    project.write("stages/hall.toml", format!("{head}{more}"));
    let own = project.read("actors/keeper.toml");
    let (before, rest) = own.split_once("[moves]").unwrap();
    let after = &rest[rest.find("[[sheet]]").unwrap()..];
    project.write("actors/keeper.toml", format!("{before}[moves]\n{moves}\n{after}"));
    project.ok(&["fit"]);
    project
}

#[test]
fn zones_thinner_than_a_step_are_told_and_as_thick_as_told_are_not() {
    let zone = |height: f64| {
        format!(
            "[[zone]]\nname = \"trap\"\nbox = [200, 200, 60, {height:.2}]\nmask = [\"hero\"]\neffect = \"hazard\"\n"
        )
    };
    let project = hall(&zone(4.0), "fastest = [3, 50]");
    let found = told(&project, "thin_zone");
    assert_eq!((found.len(), &found[0]["place"], &found[0]["figure"]), (1, &"trap".into(), &4.0.into()), "{found:#?}");
    // Crouched it is 24 px high: a step of 50 px leads over 26 px.
    let remedy = found[0]["fix"].as_str().unwrap();
    assert!(
        remedy.starts_with("Make trap at least 26.01 px high, or keep steps across it under 28.00 px."),
        "{remedy}"
    );
    for (height, count) in [(26.01, 0), (26.0, 1), (25.01, 1)] {
        let stage = project.read("stages/hall.toml");
        project.write("stages/hall.toml", stage.replace(&zone(4.0), &zone(height)));
        assert_eq!(told(&project, "thin_zone").len(), count, "{height}");
        // And so a take at that speed shows it: the body crosses without a tick inside, or not.
        project.write(
            "takes/fall.csv",
            "tick,actor,x,y,facing,animation,frame\n0,keeper,230,200,right,crouch,0\n1,keeper,230,250,right,crouch,0\n",
        );
        let found = project.run(&["check", "takes/fall.csv", "--format", "json"]).take()["findings"].clone();
        let skipped = found.as_array().unwrap().iter().filter(|f| f["rule"] == "zone_skipped").count();
        assert_eq!(skipped, count, "{height}: {found:#}");
        project.write("stages/hall.toml", stage);
    }
    // Without a known speed nothing is reported, but takes give it.
    let project = hall(&zone(4.0), "");
    assert_eq!(told(&project, "thin_zone"), Vec::<Value>::new());
    let rows = "tick,actor,x,y,facing,animation,frame\n0,keeper,100,150,right,fall,0\n1,keeper,100,200,right,fall,0\n2,keeper,400,200,right,fall,0\n";
    project.write("takes/fast.csv", rows);
    let found = project.ok(&["lint", "--takes", "takes/fast.csv", "--format", "json"]).json()["findings"].clone();
    let found: Vec<&Value> = found.as_array().unwrap().iter().filter(|f| f["rule"] == "thin_zone").collect();
    assert_eq!(found.len(), 1, "a step of 300 px is a warp: {found:#?}");
    assert!(found[0]["message"].as_str().unwrap().contains("50.00 px a tick can cross trap"), "{found:#?}");
}

#[test]
fn surfaces_are_told_with_the_number_that_mends_them() {
    let solid = |name: &str, rect: &str| format!("[[solid]]\nname = \"{name}\"\nbox = {rect}\nlayer = \"ground\"\n");
    let more = [
        solid("kerb", "[100, 298, 40, 2]"),
        solid("lip", "[200, 299.5, 40, 1]"),
        solid("wall", "[300, 200, 20, 100]"),
        solid("post", "[320.4, 200, 20, 100]"),
        solid("wire", "[400, 250, 100, 0.5]"),
        "[[solid]]\nname = \"hill\"\npoints = [[520, 300], [540, 270], [560, 300]]\nlayer = \"ground\"\n".to_string(),
        "[[one_way]]\nname = \"shelf\"\nbox = [150, 230, 40, 4]\nlayer = \"ledge\"\n".to_string(),
        solid("beam", "[150, 190, 40, 10]"),
    ];
    let project = hall(&more.concat(), "step = 3\nslope = 45");
    let short = |rule: &str| -> Vec<(String, f64, String)> {
        let text = |value: &Value| value.as_str().unwrap().to_string();
        let found = told(&project, rule);
        found.iter().map(|f| (text(&f["place"]), f["figure"].as_f64().unwrap(), text(&f["fix"]))).collect()
    };
    let mended = |rule: &str, from: &str, to: &str, place: &str| {
        assert!(short(rule).iter().any(|(at, ..)| at.starts_with(place)), "{rule}: {:#?}", short(rule));
        project.edit("stages/hall.toml", from, to);
        assert!(!short(rule).iter().any(|(at, ..)| at.starts_with(place)), "{rule}: {:#?}", short(rule));
    };
    let steps = short("low_step");
    assert_eq!(steps.iter().map(|(_, figure, _)| *figure).collect::<Vec<_>>(), [2.0, 2.0], "{steps:#?}");
    let slopes = short("steep_slope");
    assert_eq!(slopes.len(), 2, "{slopes:#?}");
    assert_eq!(
        (slopes[0].1, slopes[0].2.as_str()),
        (56.31, "Make it 30.00 px long instead of 20.00, or upright, so that it is a wall.")
    );
    let seams = short("seam");
    let wall = seams.iter().find(|(place, ..)| place == "wall, post").unwrap();
    assert_eq!((wall.1, wall.2.as_str()), (0.4, "Move wall by (0.40, 0.00) px, so that they are flush."));
    let lips: Vec<f64> =
        seams.iter().filter(|(place, ..)| place.starts_with("floor, lip at")).map(|seam| seam.1).collect();
    assert_eq!(lips, [0.5, 0.5], "{seams:#?}");
    let cramped = short("cramped_platform");
    // Standing it is 38.31 px high, and there are 30.
    assert_eq!((cramped.len(), cramped[0].1), (1, -8.31), "{cramped:#?}");
    assert_eq!(cramped[0].2, "Lower shelf by 8.32 px, or raise beam.");
    let shown = project.run(&["lint", "--apply", "--dry-run"]).out;
    assert!(shown.contains("238.32"), "the platform is a box, so that the fix is one value: {shown}");
    mended("sliver", "box = [400, 250, 100, 0.5]", "box = [400, 250, 100, 1.0]", "wire");
    mended("seam", "box = [300, 200, 20, 100]", "box = [300.4, 200, 20, 100]", "wall, post");
    mended("seam", "box = [200, 299.5, 40, 1]", "box = [200, 300, 40, 1]", "floor, lip at");
    mended("steep_slope", "[[520, 300], [540, 270], [560, 300]]", "[[510, 300], [540, 270], [570, 300]]", "hill");
    mended("cramped_platform", "box = [150, 230, 40, 4]", "box = [150, 238.32, 40, 4]", "shelf");
    mended("low_step", "box = [100, 298, 40, 2]", "box = [100, 300, 40, 2]", "kerb");
}

#[test]
fn clearance_tells_passages_low_stretches_and_pockets_and_draws_them() {
    let project = Project::fitted();
    let said = project.ok(&["stage", "clearance", "--draw"]).out;
    assert!(said.contains("under boathouse, over terrace"), "{said}");
    let found = project.ok(&["stage", "clearance", "--format", "json"]).json()["stages"][0].clone();
    let crawl = &found["passages"][0];
    assert_eq!(
        (&crawl["clear_px"], &crawl["span_px"], &crawl["through"]),
        (&26.0.into(), &serde_json::json!([290.0, 336.0]), &true.into())
    );
    let room = |body: &str| -> f64 {
        crawl["rooms"].as_array().unwrap().iter().find(|room| room["body"] == body).unwrap()["spare_px"]
            .as_f64()
            .unwrap()
    };
    // The boathouse raised by what is short, the keeper fits to the last hundredth, and no sooner: checked in a take.
    assert_eq!(room("keeper.body_low"), 2.0);
    let short = -room("keeper.body");
    assert!((short - 12.31).abs() < 0.01, "{short}");
    let rows: String =
        (0..90).map(|tick| format!("{tick},keeper,{},170,right,walk,0\n", 270.123_456 + f64::from(tick))).collect();
    project.write("takes/through.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
    let stage = project.read("stages/pier.toml");
    let floor = "points = [[290, 96], [313, 78], [336, 96], [336, 144], [290, 144]]";
    project.write("finitor.toml", project.read("finitor.toml").replace("slack = 0.5", "slack = 0.0"));
    for (raised, clean) in [(short, true), (short - 0.01, false)] {
        let y = 144.0 - raised;
        let roof = format!("points = [[290, 96], [313, 78], [336, 96], [336, {y}], [290, {y}]]");
        project.write("stages/pier.toml", stage.replace(floor, &roof));
        let found = project.run(&["check", "takes/through.csv", "--format", "json"]).take()["findings"].clone();
        let deep = found.as_array().unwrap().iter().any(|f| f["with"] == "pier/boathouse");
        assert_eq!(!deep, clean, "raised by {raised}: {found:#}");
    }
    let low = &found["low"][0];
    assert_eq!(
        (&low["body"], &low["floor"], &low["in"]),
        (&"keeper.body_low".into(), &"terrace".into(), &"boathouse".into())
    );
    assert_eq!(found["pockets"], serde_json::json!([]));
    assert_eq!(support::pixels(&project.path("pictures/pier-clearance-keeper.png")).0, 1280);
    let csv = project.ok(&["stage", "clearance", "pier", "--actor", "keeper", "--format", "csv"]).out;
    assert!(csv.lines().count() > 2 && !csv.contains("barrel"), "{csv}");
    // A pit deeper than it jumps.
    let pit = "[[solid]]\nbox = [200, 200, 100, 100]\nlayer = \"ground\"\n[[solid]]\nbox = [360, 220, 100, 80]\nlayer = \"ground\"\n\
        [[solid]]\nbox = [130, 250, 70, 50]\nlayer = \"ground\"\n";
    let project = hall(pit, "jump = 60");
    let pocket = |project: &Project| {
        project.ok(&["stage", "clearance", "--format", "json"]).json()["stages"][0]["pockets"].clone()
    };
    let found = pocket(&project);
    assert_eq!((&found[0]["floor"], &found[0]["needs_px"]), (&300.0.into(), &80.0.into()), "{found:#}");
    project.edit("actors/keeper.toml", "jump = 60", "jump = 80");
    assert_eq!(pocket(&project), serde_json::json!([]));
    project.refused(&["stage", "clearance", "pire"], &["there is no stage \"pire\""]);
    project.refused(&["stage", "clearance", "--within=-1"], &["a length in px is a number from 0 on"]);
}

/// Takes the culverts off the sample's stage.
fn without_culverts(project: &Project) {
    let text = project.read("stages/pier.toml");
    let begins = text.find("[[zone]]                         # a pair of culverts").unwrap();
    let ends = begins + text[begins..].find("[[spawn]]").unwrap();
    project.write("stages/pier.toml", format!("{}{}", &text[..begins], &text[ends..]));
}

/// The sample with another pair of culverts: the low one in the quay's face leads to the high one on the terrace.
fn culverts(low: &str, high: &str) -> Project {
    let project = Project::fitted();
    without_culverts(&project);
    let zone = |name: &str, rect: &str, to: &str, rest: &str| {
        format!(
            "[[zone]]\nname = \"{name}\"\nbox = {rect}\nmask = [\"hero\"]\neffect = \"warp\"\nto = \"{to}\"\n{rest}\n"
        )
    };
    let zones = zone("culvert_low", "[30, 160, 16, 40]", "culvert_high", low)
        + &zone("culvert_high", "[250, 130, 16, 40]", "culvert_low", high);
    project.write("stages/pier.toml", format!("{zones}{}", project.read("stages/pier.toml")));
    project
}

#[test]
fn landings_in_solids_and_in_warps_are_told_and_mended_by_their_numbers() {
    // The keeper lands 24 px beyond the middle of the other culvert, its feet on the ground.
    let good = ("landing = [24, 20]\nlanding_facing = \"right\"", "landing = [24, 20]");
    let sound = culverts(good.0, good.1);
    for rule in ["landing_inside", "landing_bounces"] {
        assert_eq!(told(&sound, rule), Vec::<Value>::new(), "{rule}");
    }
    // 3 px lower than the terrace: every frame is as deep in it, and the number told frees it.
    let sunk = culverts("landing = [24, 23]\nlanding_facing = \"right\"", good.1);
    let found = told(&sunk, "landing_inside");
    assert_eq!((found.len(), &found[0]["place"], &found[0]["figure"]), (1, &"culvert_low".into(), &3.0.into()));
    assert_eq!(found[0]["fix"], "Set `landing = [24.00, 20.00]`.");
    sunk.edit("stages/pier.toml", "landing = [24, 23]", "landing = [24.00, 20.00]");
    assert_eq!(told(&sunk, "landing_inside"), Vec::<Value>::new());
    sunk.edit("stages/pier.toml", "landing = [24.00, 20.00]", "landing = [24.00, 21.00]");
    assert_eq!(told(&sunk, "landing_inside").len(), 1, "a px less is not enough");
    // 10 px beyond the middle of a culvert 16 px wide, 9 px of the body reach back into it on the widest frame.
    let near = culverts("landing = [10, 20]\nlanding_facing = \"right\"", good.1);
    let found = told(&near, "landing_bounces");
    // The culvert's right side is 8 px from its middle; the body begins 9 px behind the pivot.
    let further = 8.0 - (10.0 - 9.0);
    assert_eq!((found.len(), &found[0]["figure"]), (1, &further.into()), "{found:#?}");
    let remedy = found[0]["fix"].as_str().unwrap();
    assert_eq!(remedy, "Move the landing 7.00 px right, to `landing = [17.00, 20.00]`, or set `cooldown = 7`.");
    for (with, count) in [
        ("landing = [17, 20]", 0),
        ("landing = [16, 20]", 1),
        ("landing = [10, 20]\ncooldown = 7", 0),
        ("landing = [10, 20]\ncooldown = 6", 1),
    ] {
        let project = culverts(&format!("{with}\nlanding_facing = \"right\""), good.1);
        assert_eq!(told(&project, "landing_bounces").len(), count, "{with}");
    }
    for (from, to, words) in [
        (
            "to = \"culvert_high\"",
            "to = \"culvert_hi\"",
            &["there is no zone \"culvert_hi\"", "did you mean \"culvert_high\"?"][..],
        ),
        ("to = \"culvert_high\"\n", "", &["has no `to`"]),
        (
            "effect = \"event\"",
            "effect = \"event\"\nturns_velocity = true",
            &["`turns_velocity` goes with effect = \"warp\""],
        ),
        ("effect = \"event\"", "effect = \"event\"\ncooldown = -3", &["`cooldown` must be a whole number from 0"]),
        ("effect = \"event\"", "effect = \"event\"\nonce = 1", &["`once` must be true or false"]),
        ("[[spawn]]\nactor = \"barrel\"", "[[spot]]\nname = \"lamp\"\n[[spawn]]\nactor = \"barrel\"", &["has no `at`"]),
        (
            "[[spawn]]\nactor = \"barrel\"",
            "[[spot]]\nname = \"quay\"\nat = [4, 4]\n[[spawn]]\nactor = \"barrel\"",
            &["\"quay\" is the name of another thing"],
        ),
        ("passes = \"up\"", "passes = 360", &["or an angle from 0 (up) to below 360 degrees"]),
        ("passes = \"up\"", "passes = \"upp\"", &["did you mean \"up\"?"]),
        ("landing_facing = \"right\"", "landing_facing = \"rihgt\"", &["did you mean \"right\"?"]),
    ] {
        let before = sound.read("stages/pier.toml");
        sound.edit("stages/pier.toml", from, to);
        sound.refused(&["stage"], words);
        sound.write("stages/pier.toml", before);
    }
}
