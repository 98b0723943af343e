//! Stages and their tiles.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, png};

/// A stage of tiles alone: numbers in rows, 16 px cells.
fn yard(map: &str, kinds: &str) -> Project {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/yard.toml\"]");
    let head = "[stage]\nname = \"yard\"\nsize = [640, 320]\n";
    let tiles = "[tiles]\nmap = \"yard.csv\"\ncell = [16, 16]\nlayer = \"ground\"\none_way_layer = \"ledge\"\n";
    project.write("stages/yard.toml", format!("{head}{tiles}[tiles.kinds]\n{kinds}"));
    project.write("stages/yard.csv", map);
    project.ok(&["fit"]);
    project
}

fn things(project: &Project) -> Vec<Value> {
    project.ok(&["stage", "--format", "json"]).json()["stages"][0]["things"].as_array().unwrap().clone()
}

fn sum(things: &[Value]) -> f64 {
    things.iter().filter(|thing| thing["kind"] == "solid").map(|thing| thing["area_px2"].as_f64().unwrap()).sum()
}

#[test]
fn a_map_of_cells_is_merged_to_the_px2() {
    // A wall with a window, a lone cell that touches it at a corner, and a platform of three.
    let map = "0,0,0,,,,\n0,,0,,9,9,9\n0,0,0,,,,\n-1,,,0,,,\n";
    let project = yard(map, "\"0\" = \"cell\"\n\"9\" = \"one_way\"\n");
    let found = things(&project);
    let names: Vec<&str> = found.iter().map(|thing| thing["name"].as_str().unwrap()).collect();
    assert_eq!(names, ["tiles_0_0", "tiles_3_3", "tiles_4_1"]);
    assert_eq!(sum(&found), 9.0 * 256.0);
    assert_eq!((&found[0]["holes"], &found[0]["corners"]), (&1.into(), &8.into()));
    assert_eq!(found[2]["box"], serde_json::json!([64.0, 16.0, 48.0, 16.0]));
    assert_eq!((&found[2]["kind"], &found[2]["layer"]), (&"one-way, passes up".into(), &2.into()));
    // Sinking into the window's sill from inside is found with its depth: the hole is free, its border is not.
    let row = |y: f64| format!("tick,actor,x,y,facing,animation,frame\n0,barrel,24,{y},right,stand,0\n");
    let deep = |y: f64| {
        project.write("takes/one.csv", row(y));
        project.run(&["check", "takes/one.csv", "--format", "json"]).take()["findings"].clone()
    };
    assert_eq!(deep(32.0)[0]["with"], "yard/tiles_0_0", "the barrel is wider than the window");
    project.edit("stages/yard.csv", "0,0,0,,,,\n0,,0,,", "0,0,0,0,,,\n0,,,0,");
    assert_eq!(sum(&things(&project)), 10.0 * 256.0, "the map is read anew");
}

#[test]
fn walking_over_tiles_meets_no_seam_and_a_tile_changes_everywhere() {
    let floor: String = format!("{}\n{}\n", ["3"; 30].join(","), ["0"; 30].join(","));
    let map = format!("{}{floor}", ",\n".repeat(10));
    let project = yard(&map, "\"0\" = \"cell\"\n\"3\" = [[0, 4], [16, 4], [16, 16], [0, 16]]\n");
    let found = things(&project);
    assert_eq!((found.len(), &found[0]["corners"], sum(&found)), (1, &4.into(), 30.0 * 16.0 * 28.0));
    let walk = |y: f64| {
        let rows: String = (0..150)
            .map(|tick| format!("{tick},keeper,{},{y},right,walk,{}\n", 20.0 + 2.7 * f64::from(tick), tick / 6 % 6))
            .collect();
        project.write("takes/walk.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
        project.run(&["check", "takes/walk.csv", "--format", "json"]).take()["findings"].clone()
    };
    assert_eq!(walk(164.0), serde_json::json!([]));
    let sunk = walk(166.0);
    assert_eq!((&sunk[0]["rule"], &sunk[0]["ticks"]), (&"embedded".into(), &serde_json::json!([0, 149])));
    assert!((sunk[0]["figure"].as_f64().unwrap() - 2.0).abs() < 1e-9, "{sunk:#}");
    // Two px less floor on the tile, and all of the floor is lower.
    project.edit("stages/yard.toml", "[[0, 4], [16, 4]", "[[0, 6], [16, 6]");
    assert_eq!(walk(166.0), serde_json::json!([]));
}

#[test]
fn the_sample_s_reef_is_listed_and_drawn() {
    let project = Project::fitted();
    let found = things(&project);
    let reef = found.iter().find(|thing| thing["name"] == "tiles_1_0").unwrap();
    assert_eq!(reef["holes"], 1);
    let said = project.ok(&["stage", "--tiles"]).out;
    assert!(said.starts_with("pier: 640 x 280 px, 9 solids, 2 one-way platforms, 4 zones, 3 spawns."), "{said}");
    assert!(said.contains("pictures/pier-tiles.png"), "{said}");
    assert_eq!(support::pixels(&project.path("pictures/pier-tiles.png")).0, 1280);
    let csv = project.ok(&["stage", "--format", "csv"]).out;
    assert_eq!(csv.lines().count(), found.len() + 1);
    project.refused(&["stage", "per"], &["did you mean \"pier\"?"]);
}

#[test]
fn things_are_repeated_thickened_bordered_and_take_defaults() {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/yard.toml\"]");
    let stage = "[stage]\nname = \"yard\"\nsize = [640, 320]\nborders = [\"left\", \"right\", \"top\"]\nborder_layer = \"ground\"\n\
        [defaults.solid]\nlayer = \"ground\"\n[defaults.one_way]\nlayer = \"ledge\"\npasses = \"down\"\n[defaults.zone]\nmask = [\"hero\"]\neffect = \"event\"\n\
        [[solid]]\nbox = [0, 300, 640, 20]\n\
        [[solid]]\nname = \"post\"\nbox = [100, 250, 8, 50]\nrepeat = { count = 4, step = [64.5, -2] }\n\
        [[solid]]\nname = \"rope\"\nchain = [[0, 100], [40, 100], [40, 140], [90, 140]]\nthickness = 4\nlayer = \"crate\"\n\
        [[one_way]]\nbox = [300, 200, 50, 4]\n[[one_way]]\nname = \"up\"\nbox = [300, 100, 50, 4]\npasses = \"up\"\n\
        [[zone]]\nbox = [500, 200, 20, 20]\n[[zone]]\nname = \"pit\"\nbox = [600, 200, 20, 20]\neffect = \"hazard\"\n";
    project.write("stages/yard.toml", stage);
    let found = things(&project);
    let named =
        |name: &str| found.iter().find(|thing| thing["name"] == name).unwrap_or_else(|| panic!("{name}: {found:#?}"));
    let boxed = |name: &str| named(name)["box"].clone();
    assert_eq!(boxed("solid_1"), serde_json::json!([0.0, 300.0, 640.0, 20.0]));
    for copy in 0..4 {
        let at = serde_json::json!([100.0 + 64.5 * f64::from(copy), 250.0 - 2.0 * f64::from(copy), 8.0, 50.0]);
        assert_eq!(boxed(&format!("post_{}", copy + 1)), at);
    }
    // Three legs of 40, 40 and 50 px, 4 thick: mitred, their corners are neither missing nor counted twice.
    let rope = named("rope");
    assert_eq!((&rope["area_px2"], &rope["corners"], &rope["layer"]), (&(4.0 * 130.0).into(), &8.into(), &16.into()));
    let kinds = ["one_way_1", "up", "zone_1", "pit"].map(|name| named(name)["kind"].as_str().unwrap().to_string());
    assert_eq!(kinds, ["one-way, passes down", "one-way, passes up", "zone, event", "zone, hazard"]);
    assert_eq!((&named("solid_1")["layer"], &named("one_way_1")["layer"]), (&1.into(), &2.into()));
    assert_eq!(boxed("border_right"), serde_json::json!([640.0, -1000.0, 1000.0, 2320.0]));
    assert!(!found.iter().any(|thing| thing["name"] == "border_bottom"));
    // A border stops what would leave.
    project.ok(&["fit"]);
    project.write("takes/out.csv", "tick,actor,x,y,facing,animation,frame\n0,barrel,631,300,right,stand,0\n");
    let found = project.run(&["check", "takes/out.csv", "--format", "json"]).take()["findings"].clone();
    assert_eq!((&found[0]["with"], &found[0]["figure"]), (&"yard/border_right".into(), &2.0.into()), "{found:#}");
    // Names in all of it are renamed.
    project.ok(&["layers", "rename", "ground", "floor"]);
    assert_eq!(project.read("stages/yard.toml"), stage.replace("\"ground\"", "\"floor\""));
    for (from, to, words) in [
        ("count = 4", "count = 0", &["`count` must be a whole number from 1 to 10000"][..]),
        (", step = [64.5, -2]", "", &["has no `step`"]),
        ("\"top\"]", "\"topp\"]", &["\"topp\" is no side of a stage", "did you mean \"top\"?"]),
        ("border_layer = \"floor\"\n", "", &["has no `border_layer`"]),
        ("[90, 140]]", "[90, 140], [40, 141]]", &["the chain turns back too sharply at its point 3"]),
        ("[90, 140]]", "[90, 140], [90, 140]]", &["points 3 and 4 of the chain are one"]),
        ("thickness = 4\n", "", &["has no `thickness`"]),
        ("[[zone]]\nbox = [500", "[[zone]]\nname = \"up\"\nbox = [500", &["\"up\" is the name of another thing"]),
        (
            "[defaults.zone]\nmask",
            "[defaults.zone]\nmsk",
            &["unknown key `msk` in [defaults.zone]", "did you mean `mask`?"],
        ),
        (
            "[defaults.zone]\nmask = [\"hero\"]",
            "[defaults.zone]\nmask = [\"her\"]",
            &["unknown layer \"her\"", "did you mean \"hero\"?"],
        ),
    ] {
        let before = project.read("stages/yard.toml");
        project.edit("stages/yard.toml", from, to);
        project.refused(&["stage"], words);
        project.write("stages/yard.toml", before);
    }
}

#[test]
fn a_shape_as_high_as_a_passage_of_tiles_follows_the_map() {
    // A roof over the first row and a floor from the fourth on: 32 px between them.
    let project = yard("0,0,0\n\n\n0,0,0\n0,0,0\n", "\"0\" = \"cell\"\n");
    project.edit(
        "actors/keeper.toml",
        "[shape.body_low]\n",
        "[shape.body_low]\nlike = \"body\"\nheight_from = \"yard/tiles_0_0\"\nclearance = 2\n",
    );
    let height = || {
        project.ok(&["fit"]);
        let keeper = project.ok(&["facing", "keeper", "--format", "json"]).json()["actors"][0].clone();
        let crouch = keeper["frames"].as_array().unwrap().iter().find(|f| f["animation"] == "crouch").unwrap().clone();
        let low =
            crouch["right"]["shapes"].as_array().unwrap().iter().find(|s| s["name"] == "body_low").unwrap().clone();
        let ys: Vec<f64> = support::points(&low["rings"][0]).iter().map(|p| p[1]).collect();
        ys.iter().copied().fold(f64::MIN, f64::max) - ys.iter().copied().fold(f64::MAX, f64::min)
    };
    assert_eq!(height(), 30.0);
    assert!(project.ok(&["fit"]).out.contains("nothing to do"));
    // A row less between them, and the fit follows although no shape and no stage file changed.
    project.write("stages/yard.csv", "0,0,0\n\n0,0,0\n0,0,0\n");
    assert_eq!(height(), 14.0);
}

#[test]
fn mistakes_in_tiles_are_told_with_their_place() {
    let good = "\"0\" = \"cell\"\n";
    let cases: [(&str, &str, &[&str]); 8] = [
        ("0,1\n", good, &["tile 1 in column 1 of row 0 of the map has no kind", "add \"1\" = \"cell\""]),
        ("0,x\n", good, &["yard.csv", "line 1: field 2 is \"x\""]),
        ("", good, &["has 0 x 0 cells"]),
        ("0\n", "\"0\" = \"sell\"\n", &["\"sell\" is no kind of tile", "did you mean \"cell\"?"]),
        ("0\n", "\"0-2,1\" = \"cell\"\n\"2\" = \"none\"\n", &["tile 2 is given twice"]),
        ("0\n", "\"zero\" = \"cell\"\n", &["write numbers of tiles"]),
        ("0\n", "\"0\" = [[0, 0], [17, 0], [0, 16]]\n", &["tile 0: [17, 0] lies outside its cell of 16 x 16 px"]),
        ("0\n", "\"0\" = \"art\"\n", &["tile 0: \"art\" is fitted to a picture", "add image"]),
    ];
    for (map, kinds, words) in cases {
        let project = yard("0\n", good);
        project.write("stages/yard.csv", map);
        let toml = project.read("stages/yard.toml");
        project.write("stages/yard.toml", toml.replace(good, kinds));
        project.refused(&["stage"], words);
    }
    // Art is cut from the picture by number; a clear tile fills nothing, an opaque one its cell.
    let project = yard("0,1,2,\n", "\"0-2\" = \"art\"\n\"3\" = \"none\"\n".replace("art", "cell").as_str());
    let tile = |x: u32, y: u32| x < 16 || (x >= 32 && y >= 8);
    project.write("stages/tiles.png", png(48, 16, |x, y| if tile(x, y) { [90, 80, 70, 255] } else { [0; 4] }));
    let toml = project.read("stages/yard.toml").replace("\"0-2\" = \"cell\"", "\"0-2\" = \"art\"");
    project.write("stages/yard.toml", toml.replace("[tiles]\n", "[tiles]\nimage = \"tiles.png\"\n"));
    assert_eq!(sum(&things(&project)), 256.0 + 128.0);
    project.edit("stages/yard.csv", "0,1,2,", "0,1,2,3");
    project.edit("stages/yard.toml", "\"3\" = \"none\"", "\"3\" = \"art\"");
    project.refused(&["stage"], &["tile 3: the picture has no such tile", "the picture has 3 x 1 of them, 0 to 2"]);
}

#[test]
fn zones_are_entered_and_left_each_by_itself_and_once_or_after_a_while_where_they_say_so() {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/yard.toml\"]");
    let zone = |name: &str, rect: &str, more: &str| {
        format!("[[zone]]\nname = \"{name}\"\nbox = {rect}\nmask = [\"hero\"]\neffect = \"event\"\n{more}\n")
    };
    let stage = [
        "[stage]\nname = \"yard\"\nsize = [640, 320]\n[[solid]]\nname = \"floor\"\nbox = [0, 300, 640, 20]\nlayer = \"ground\"\n".to_string(),
        zone("outer", "[100, 200, 200, 100]", ""),
        zone("nested", "[150, 220, 50, 80]", ""),
        zone("beside", "[180, 220, 80, 80]", "once = true"),
        zone("slow", "[400, 220, 40, 80]", "cooldown = 100"),
    ];
    project.write("stages/yard.toml", stage.concat());
    project.ok(&["fit"]);
    // There and back, twice: 4 px a tick from 60 to 500, by two instances.
    let place = |tick: i32| {
        let at = tick % 220;
        60 + 4 * if at < 110 { at } else { 220 - at }
    };
    let rows: String = (0..440)
        .flat_map(|tick| {
            ["keeper:1", "keeper:2"]
                .map(|who| format!("{tick},{who},{},300,right,crouch,{}\n", place(tick), tick / 20 % 2))
        })
        .collect();
    project.write("takes/paces.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
    let report = project.run(&["check", "takes/paces.csv", "--format", "json"]).take();
    let kinds = |zone: &str, who: &str| -> Vec<(i64, String)> {
        let events = report["events"].as_array().unwrap().iter();
        let own = events.filter(|event| event["zone"] == zone && event["actor"] == who);
        own.map(|event| (event["tick"].as_i64().unwrap(), event["kind"].as_str().unwrap().to_string())).collect()
    };
    // The crouched body reaches 9 px ahead and 6 behind, and a touch is no overlap.
    let inside = |tick: i32, from: i32, to: i32| place(tick) + 9 > from && place(tick) - 6 < to;
    let crossings = |from: i32, to: i32| -> Vec<(i64, String)> {
        let changes = (1..440).filter(|tick| inside(*tick, from, to) != inside(tick - 1, from, to));
        changes
            .map(|tick| (i64::from(tick), if inside(tick, from, to) { "enter" } else { "exit" }.to_string()))
            .collect()
    };
    for who in ["keeper:1", "keeper:2"] {
        assert_eq!(kinds("outer", who), crossings(100, 300));
        assert_eq!(kinds("nested", who), crossings(150, 200));
        assert_eq!(kinds("beside", who), crossings(180, 260)[..2]);
        let all = crossings(400, 440);
        // Back after some 40 ticks it does nothing; the next time is more than 100 ticks after the first.
        assert_eq!(all.len(), 8);
        assert_eq!(kinds("slow", who), [&all[..2], &all[4..6]].concat(), "{all:?}");
    }
    // The two walk through each other, which is reported, and no zone was skipped.
    let rules = report["findings"].as_array().unwrap().iter().map(|found| found["rule"].as_str().unwrap());
    assert_eq!(rules.collect::<Vec<_>>(), ["ghost_pair"]);
}

#[test]
fn set_pieces_are_fitted_to_their_art_whole_or_by_their_feet() {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/yard.toml\"]");
    // A crate of 20 x 30 px, 2 px from the picture's left and top, with a gap above its feet; a speck beside it.
    let opaque = |x: u32, y: u32| ((2..22).contains(&x) && (2..32).contains(&y)) || ((30..34).contains(&x) && y < 4);
    project.write("stages/crate.png", png(36, 40, |x, y| [90, 70, 50, if opaque(x, y) { 255 } else { 0 }]));
    let head = "[stage]\nname = \"yard\"\nsize = [640, 320]\n";
    let piece = |more: &str| {
        format!("{head}[[solid]]\nname = \"box\"\nart = \"crate.png\"\nat = [100, 200]\nlayer = \"ground\"\n{more}\n")
    };
    let boxes = |more: &str| -> Vec<(String, Value)> {
        project.write("stages/yard.toml", piece(more));
        things(&project)
            .iter()
            .map(|thing| (thing["name"].as_str().unwrap().to_string(), thing["box"].clone()))
            .collect()
    };
    let named = |name: &str, rect: [f64; 4]| (name.to_string(), serde_json::json!(rect));
    let all = boxes("");
    assert_eq!(all, [named("box_1", [130.0, 200.0, 4.0, 4.0]), named("box_2", [102.0, 202.0, 20.0, 30.0])]);
    assert_eq!(boxes("cut = [0, 0, 24, 40]"), [named("box", [102.0, 202.0, 20.0, 30.0])]);
    // The lowest 30 % of what is opaque in the cut.
    assert_eq!(
        boxes("cut = [0, 0, 24, 40]\nshape = { region = \"bottom 30%\" }"),
        [named("box", [102.0, 223.0, 20.0, 9.0])]
    );
    let twice = boxes("cut = [0, 0, 24, 40]\nrepeat = { count = 2, step = [50, 0] }");
    assert_eq!(twice[1], named("box_2", [152.0, 202.0, 20.0, 30.0]));
    for (more, words) in [
        ("cut = [0, 0, 50, 40]", &["`cut` is left, top, width and height inside the picture of 36 x 40 px"][..]),
        ("box = [0, 0, 4, 4]", &["give one of art and box, not both"]),
        ("shape = { tolerence = 1 }", &["unknown key `tolerence`", "did you mean `tolerance`?"]),
        ("cut = [24, 10, 8, 8]", &["no opaque pixel is left"]),
    ] {
        project.write("stages/yard.toml", piece(more));
        project.refused(&["stage"], words);
    }
    project.write("stages/yard.toml", piece("").replace("crate.png", "crat.png"));
    project.refused(&["stage"], &["picture \"crat.png\""]);
    project.write("stages/yard.toml", piece("").replace("art = \"crate.png\"\n", ""));
    project.refused(&["stage"], &["`at` goes with `art`"]);
}
