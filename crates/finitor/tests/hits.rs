//! `finitor hits`: attacks of the sample against what its fits say, and blows of takes.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::Project;

type Ring = Vec<[f64; 2]>;

/// The rings of a shape in an actor's fits, local.
fn rings(project: &Project, actor: &str, place: (&str, u64), shape: &str) -> Vec<Ring> {
    let fits: Value = serde_json::from_str(&project.read(&format!("actors/{actor}.fits.json"))).unwrap();
    let is_it = |frame: &&Value| frame["animation"] == place.0 && frame["frame"] == place.1;
    let frame = fits["frames"].as_array().unwrap().iter().find(is_it).unwrap();
    let shapes = frame["shapes"].as_array().unwrap();
    let found = shapes.iter().find(|known| known["name"] == shape).unwrap();
    let points = found["points"].clone();
    serde_json::from_value(points.clone()).unwrap_or_else(|_| vec![serde_json::from_value(points).unwrap()])
}

/// The points of all its rings.
fn points(project: &Project, actor: &str, place: (&str, u64), shape: &str) -> Ring {
    rings(project, actor, place, shape).concat()
}

fn most(points: &[[f64; 2]], axis: usize) -> f64 {
    points.iter().map(|point| point[axis]).fold(f64::NEG_INFINITY, f64::max)
}

fn least(points: &[[f64; 2]], axis: usize) -> f64 {
    points.iter().map(|point| point[axis]).fold(f64::INFINITY, f64::min)
}

fn area(points: &[[f64; 2]]) -> f64 {
    let pairs = points.iter().zip(points.iter().cycle().skip(1));
    pairs.map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum::<f64>().abs() / 2.0
}

fn near(found: &Value, expected: f64) {
    let found = found.as_f64().unwrap();
    assert!((found - expected).abs() < 1e-6, "{found}, by hand {expected}");
}

#[test]
fn the_keepers_swing_is_as_worked_out_by_hand() {
    let project = Project::fitted();
    let moves = project.ok(&["hits", "--moves", "keeper", "--format", "json"]).json();
    let swing = &moves["moves"][0];
    assert_eq!(moves["moves"].as_array().unwrap().len(), 1);
    assert_eq!(
        (&swing["animation"], &swing["shape"], &swing["facing"]),
        (&"swing".into(), &"pole".into(), &"both".into())
    );
    // ticks = [6, 4, 3, 5, 6], of which frames 2 and 3 have the pole.
    let ticks =
        ["startup_ticks", "active_ticks", "pause_ticks", "recovery_ticks"].map(|key| swing[key].as_u64().unwrap());
    assert_eq!(ticks, [10, 8, 0, 6]);
    assert_eq!(swing["damage"], 10.0);
    for (index, (frame, first, ticks)) in [(2, 11, 3), (3, 14, 5)].into_iter().enumerate() {
        let found = &swing["frames"][index];
        assert_eq!(
            (&found["frame"], &found["first_tick"], &found["ticks"]),
            (&frame.into(), &first.into(), &ticks.into())
        );
        let (pole, body) = (
            points(&project, "keeper", ("swing", frame), "pole"),
            points(&project, "keeper", ("swing", frame), "body"),
        );
        near(&found["ahead_px"], most(&pole, 0) - most(&body, 0));
        near(&found["behind_px"], least(&body, 0) - least(&pole, 0));
        near(&found["height_px"][0], -most(&pole, 1));
        near(&found["height_px"][1], -least(&pole, 1));
        near(
            &found["area_px2"],
            rings(&project, "keeper", ("swing", frame), "pole").iter().map(|ring| area(ring)).sum(),
        );
    }
    // The barrel has one shape that can be struck, so the swing is safe beyond what both reach together.
    let barrel = swing["targets"].as_array().unwrap().iter().find(|target| target["actor"] == "barrel").unwrap();
    let reach = project.ok(&["hits", "--reach", "keeper", "barrel", "--format", "json"]).json();
    let ends = reach["attacks"].as_array().unwrap().iter().flat_map(|attack| attack["parts"].as_array().unwrap());
    let ends = ends.flat_map(|part| part["reach_px"].as_array().unwrap()).map(|at| at[1].as_f64().unwrap());
    near(&barrel["safe_from_px"], ends.fold(f64::NEG_INFINITY, f64::max));
    let table = project.ok(&["hits", "--moves", "keeper"]).out;
    assert!(table.contains("10 (166.7 ms)") && table.contains("8 (133.3 ms)"), "{table}");
}

#[test]
fn heights_stances_and_names_are_asked_for_and_mistakes_told() {
    let project = Project::fitted();
    let reach = |args: &[&str]| project.ok(&[&["hits", "--reach", "keeper", "gull"], args].concat());
    assert!(reach(&["--dy", "-100"]).out.starts_with("No attack of keeper strikes gull"), "it is far above");
    let level = reach(&["--format", "json"]).json();
    let dive = reach(&["--stance", "dive:1", "--format", "json"]).json();
    assert_eq!((&dive["animation"], &dive["frame"]), (&"dive".into(), &1.into()));
    assert_ne!(level["attacks"], dive["attacks"]);
    let rows = reach(&["--format", "csv"]).out;
    assert!(rows.starts_with(
        "attacker,target,animation,shape,facing,target_looks,frame,part,from_px,to_px\nkeeper,gull,swing,pole,"
    ));
    assert!(reach(&["--draw"]).out.contains("keeper-reach-gull.png"));
    assert!(project.path("pictures/keeper-reach-gull.svg").is_file());
    project.refused(&["hits", "--reach", "keeper", "gul"], &["there is no actor \"gul\"", "gull"]);
    project.refused(&["hits", "--reach", "keeper", "gull", "--stance", "dove"], &["no animation \"dove\"", "dive"]);
    project.refused(&["hits", "--reach", "keeper", "gull", "--stance", "dive:9"], &["frames 0 to 1, not 9"]);
    project.refused(&["hits"], &["name takes", "--moves ACTOR", "--reach ATTACKER TARGET"]);
    project.refused(&["hits", "--moves", "keper"], &["keeper"]);
    project.refused(&["hits", "--moves", "keeper", "--draw"], &["--draw", "--moves"]);
    project.refused(&["hits", "--reach", "keeper", "gull", "--dy", "1e300"], &["from -1000000"]);
    assert!(project.ok(&["hits", "--moves", "barrel"]).out.starts_with("barrel has no attack"));
}

#[test]
fn a_gap_in_the_gulls_sweep_is_found_and_ended_by_the_number_told() {
    let project = Project::sample();
    let peck = |beak: &str| {
        let gull = project.read("actors/gull.toml");
        let without = gull.split("\n[shape.peck]").next().unwrap().to_string();
        project.write("actors/gull.toml", format!("{without}{beak}"));
        project.ok(&["fit", "gull"]);
        let lint = project.ok(&["lint", "--format", "json"]).json();
        let all = lint["findings"].as_array().unwrap().clone();
        all.into_iter().filter(|finding| finding["rule"] == "sweep_gap").collect::<Vec<_>>()
    };
    // A beak that strikes high on frame 1 and low on frame 2.
    let shape = |name: &str, frames: &str, height: u32| {
        format!(
            "\n[shape.{name}]\nrole = \"hit\"\nanimations = [\"peck\"]\nframes = \"{frames}\"\nbox = [24, 8, 6, {height}]\nlayer = \"strike\"\nmask = [\"hero\"]\n"
        )
    };
    assert_eq!(peck(&shape("peck", "1-2", 3)), Vec::<Value>::new(), "it stays where it is");
    // On frame 2 a hand moves it 9 px down.
    let edit = |frame: u64, change: &dyn Fn(&mut Ring)| {
        let own = points(&project, "gull", ("peck", frame), "peck");
        let mut new = own.clone();
        change(&mut new);
        let text = project.read("actors/gull.fits.json");
        let (own, new) = (serde_json::to_string(&own).unwrap(), serde_json::to_string(&new).unwrap());
        let mut seen = 0;
        let line = |line: &str| {
            seen += usize::from(line.contains("\"name\":\"peck\""));
            let is_it = line.contains("\"name\":\"peck\"") && seen as u64 == frame;
            if is_it { line.replacen(&own, &new, 1) } else { line.to_string() }
        };
        let lines: Vec<String> = text.lines().map(line).collect();
        project.write("actors/gull.fits.json", lines.join("\n") + "\n");
        let lint = project.run(&["lint", "--format", "json"]).json();
        let all = lint["findings"].as_array().unwrap().clone();
        all.into_iter().filter(|of| of["rule"] == "sweep_gap").collect::<Vec<_>>()
    };
    let found = edit(2, &|points| points.iter_mut().for_each(|point| point[1] += 9.0));
    // 3 px high and 9 px lower: 6 px between.
    assert_eq!((found.len(), &found[0]["figure"], &found[0]["place"]), (1, &6.0.into(), &"peck 1".into()));
    assert!(found[0]["fix"].as_str().unwrap().starts_with("Extend peck on peck 1 by 6.00 px down"), "{}", found[0]);
    // The fix: on frame 1 its lower edge goes down by that.
    let longer = |points: &mut Ring| {
        let low = most(points, 1);
        points.iter_mut().filter(|point| point[1] == low).for_each(|point| point[1] += 6.0);
    };
    assert_eq!(edit(1, &longer), Vec::<Value>::new());
}

#[test]
fn points_lines_and_vital_parts_count_and_active_frames_are_compared() {
    let project = Project::fitted();
    let at = |x: u32| {
        format!("tick,actor,x,y,facing,animation,frame\n0,keeper,100,200,right,idle,0\n0,gull,{x},200,left,dive,0\n")
    };
    let struck = |x: u32| {
        project.write("takes/poke.csv", at(x));
        project.ok(&["hits", "takes/poke.csv", "--format", "json"]).json()["takes"][0]["hits"]
            .as_array()
            .unwrap()
            .clone()
    };
    // The tip of the beak, 8 px ahead of the pivot; the keeper's legs end 6 px or so before theirs.
    project.edit("actors/gull.toml", "circle = [24, 18, 4]", "point = [24, 18]");
    project.ok(&["fit", "gull"]);
    let end = most(&points(&project, "keeper", ("idle", 0), "legs"), 0);
    let (inside, outside) = (108 + end.ceil() as u32 - 1, 108 + end.ceil() as u32 + 1);
    assert_eq!((struck(inside).len(), struck(outside).len()), (1, 0), "legs end at {end}");
    // A line reaches as far as its end.
    project.edit("actors/gull.toml", "point = [24, 18]", "line = [20, 18, 28, 18, 0]");
    project.ok(&["fit", "gull"]);
    assert_eq!((struck(outside + 2).len(), struck(outside + 4).len()), (1, 0));
    // A wall between stops it; one beside does not.
    let wall = |x: u32| {
        let stage = project.read("stages/pier.toml");
        let own = stage.split("\n[[solid]]\nname = \"shutter\"").next().unwrap();
        let shutter = format!("{own}\n[[solid]]\nname = \"shutter\"\nbox = [{x}, 100, 1, 100]\nlayer = \"ground\"\n");
        project.write("stages/pier.toml", shutter);
        struck(outside + 2).len()
    };
    assert_eq!(wall(outside - 1), 1, "it asks for no wall");
    project.edit("actors/gull.toml", "damage = 5\n", "damage = 5\nblocked_by = [\"ground\"]\n");
    assert_eq!((wall(outside - 1), wall(20)), (0, 1));
    wall(outside - 1);
    let said = project.ok(&["hits", "takes/poke.csv"]).out;
    assert!(said.contains("gull dive   0-0           0        1          0   keeper is behind shutter"), "{said}");
    project.edit("actors/gull.toml", "damage = 5\n", "damage = 5\nblocked_from = \"tip\"\n");
    project.refused(&["hits", "takes/poke.csv"], &["there is no anchor \"tip\""]);
    project.edit("actors/gull.toml", "blocked_from = \"tip\"\n", "");
    wall(20);
    project.edit("actors/keeper.toml", "factor = 0.7", "factor = \"all\"");
    project.ok(&["fit", "keeper"]);
    assert_eq!(struck(inside)[0]["is_vital"], true);
    assert!(project.read("actors/keeper.fits.json").contains("\"is_vital\":true"));
    project.edit("actors/keeper.toml", "[animation.swing]\n", "[animation.swing]\nactive = \"1-2\"\n");
    let lint = project.run(&["lint", "--format", "json"]).out;
    assert!(lint.contains("Frames of swing: active, without a hit shape: 1; a hit shape, not active: 3"), "{lint}");
    project.edit("actors/keeper.toml", "active = \"1-2\"", "active = \"1-9\"");
    project.refused(&["lint"], &["swing has 5 frames, there is no frame 5"]);
    project.edit("actors/keeper.toml", "active = \"1-9\"", "active = \"2-3\"");
    project.edit("actors/gull.toml", "line = [20, 18, 28, 18, 0]", "line = [20, 18, 20, 18, 0]");
    project.refused(&["fit"], &["gull.toml", "not a valid line"]);
    project.edit("actors/keeper.toml", "factor = \"all\"", "factor = \"al\"");
    project.refused(&["fit"], &["keeper.toml", "\"al\""]);
}

#[test]
fn blows_of_a_take_are_counted_and_what_is_settled_follows_the_files() {
    let project = Project::fitted();
    let faults = project.ok(&["hits", "takes/faults.csv", "--format", "json"]).json();
    let checked = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let hits = faults["takes"][0]["hits"].as_array().unwrap();
    assert_eq!(hits.len(), checked["hits"].as_array().unwrap().len(), "the same as check's");
    for (own, of_check) in hits.iter().zip(checked["hits"].as_array().unwrap()) {
        assert!(of_check.as_object().unwrap().iter().all(|(key, value)| own[key] == *value), "{own} {of_check}");
    }
    assert_eq!((&faults["by_attacker"][0]["hits"], &faults["by_attacker"][0]["damage"]), (&2.into(), &20.0.into()));
    assert_eq!(faults["no_factor"], serde_json::json!(["gull.feathers"]));
    // Two that strike each other on one tick; the gull touches the legs.
    let rows = "tick,actor,x,y,facing,animation,frame\n0,keeper,100,200,right,swing,3\n0,gull,114,200,left,dive,0\n";
    project.write("takes/trade.csv", rows);
    let part = || {
        let found = project.ok(&["hits", "takes/trade.csv", "--format", "json"]).json();
        let hits = found["takes"][0]["hits"].as_array().unwrap().clone();
        hits.into_iter().find(|hit| hit["by"] == "gull").unwrap()
    };
    let trade = part();
    assert_eq!((&trade["is_trade"], &trade["on"]), (&true.into(), &"keeper".into()));
    let table = project.ok(&["hits", "takes/trade.csv"]).out;
    assert!(
        table.starts_with("trade.csv: 2 hits, ") && table.lines().next().unwrap().ends_with("; 1 trade."),
        "{table}"
    );
    // A higher beak touches two parts: which one is struck is settled by what the files say.
    project.edit("actors/gull.toml", "circle = [24, 18, 4]", "box = [20, 2, 8, 12]");
    project.ok(&["fit", "gull"]);
    let by_area = part()["hurt"].as_str().unwrap().to_string();
    assert_eq!(by_area, "legs");
    project.edit("finitor.toml", "[check]\n", "[check]\nsettle = \"order\"\n");
    let first = part()["hurt"].as_str().unwrap().to_string();
    assert_eq!(first, "torso", "it stands before the legs in the file");
    project.edit(
        "actors/keeper.toml",
        "faces = \"right\"                  # the way",
        "settle = \"area\"\nfaces = \"right\"                  # the way",
    );
    assert_eq!(part()["hurt"], by_area.as_str(), "the target's word counts before the project's");
    project.edit("actors/gull.toml", "damage = 5\n", "damage = 5\nsettle = \"order\"\n");
    assert_eq!(part()["hurt"], first.as_str(), "the attack's word counts first");
    project.edit("actors/gull.toml", "settle = \"order\"", "settle = \"ordre\"");
    project.refused(&["hits", "takes/trade.csv"], &["gull.toml", "settle", "area, nearest, order"]);
}

/// The pole's contact with the gull on tick 781 of the sample is nearer to the beak than to the tail.
#[test]
fn anchors_say_which_part_of_one_shape_is_struck_and_one_without_a_part_is_reported() {
    let project = Project::fitted();
    project.edit("actors/gull.toml", "part = \"all\"\n", "anchors = [\"beak\", \"tail\"]\n");
    let anchors = |beak: &str| {
        let own = project.read("actors/gull.toml");
        let own = own.split("\n[anchor.").next().unwrap();
        project.write(
            "actors/gull.toml",
            format!("{own}\n[anchor.beak]\nat = [28, 12]\n{beak}\n[anchor.tail]\nat = [4, 12]\npart = \"tail\"\n"),
        );
    };
    project.refused(&["fit"], &["gull.toml", "there is no anchor \"beak\""]);
    let struck = || project.ok(&["hits", "takes/faults.csv", "--format", "json"]).json()["takes"][0]["hits"][0].clone();
    anchors("part = \"head\"\ngroup = \"upper\"\nfactor = 2.5");
    let hit = struck();
    let rows = project.read("takes/faults.csv");
    let gull = rows.lines().find(|row| row.starts_with("781,gull")).unwrap();
    let cells: Vec<&str> = gull.split(',').collect();
    // Ahead of the pivot, x 16, by the facing.
    let ahead = (hit["at"][0].as_f64().unwrap() - cells[2].parse::<f64>().unwrap())
        * if cells[4] == "right" { 1.0 } else { -1.0 };
    let nearest = if ahead > 0.0 { ("head", 25.0) } else { ("tail", 10.0) };
    assert_eq!((hit["part"].as_str().unwrap(), hit["damage"].as_f64().unwrap()), nearest, "{hit}");
    anchors("");
    let lint = project.ok(&["lint", "--format", "json"]).out;
    assert!(lint.contains("Anchor beak of feathers has no part"), "{lint}");
    anchors("part = \"head\"\nfactor = \"most\"");
    project.refused(&["lint"], &["gull.toml", "\"most\""]);
}
