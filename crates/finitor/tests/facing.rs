//! Both facings of everything.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, area, png, points};

/// Mirrors a ring about x = 0 and keeps it clockwise with its first point first.
fn mirrored(ring: &[[f64; 2]]) -> Vec<[f64; 2]> {
    let mut ring: Vec<[f64; 2]> = ring.iter().map(|[x, y]| [0.0 - x, *y]).collect();
    ring[1..].reverse();
    ring
}

#[test]
fn left_is_the_mirror_of_right_and_twice_left_is_right_to_the_bit() {
    let project = Project::fitted();
    let result = project.ok(&["facing", "--format", "json"]).json();
    let mut rings = 0;
    for actor in result["actors"].as_array().unwrap() {
        for frame in actor["frames"].as_array().unwrap() {
            let (right, left) = (&frame["right"], &frame["left"]);
            for (name, at) in right["anchors"].as_object().unwrap() {
                let (x, y) = (at[0].as_f64().unwrap(), at[1].as_f64().unwrap());
                assert_eq!(left["anchors"][name], serde_json::json!([0.0 - x, y]));
            }
            let shapes = |pose: &Value| pose["shapes"].as_array().unwrap().clone();
            assert_eq!(shapes(right).len(), shapes(left).len());
            for (one, other) in shapes(right).iter().zip(&shapes(left)) {
                assert_eq!((&one["name"], &one["role"]), (&other["name"], &other["role"]));
                for (a, b) in one["rings"].as_array().unwrap().iter().zip(other["rings"].as_array().unwrap()) {
                    let (a, b) = (points(a), points(b));
                    assert_eq!(mirrored(&a), b);
                    let bits = |ring: &[[f64; 2]]| ring.iter().flatten().map(|v| v.to_bits()).collect::<Vec<_>>();
                    assert_eq!(bits(&mirrored(&b)), bits(&a), "twice is the identity");
                    assert!(area(&a) > 0.0 && area(&b) > 0.0, "both run clockwise");
                    rings += 1;
                }
            }
        }
    }
    assert!(rings > 110, "{rings} rings");
}

/// The gull's sheet with every cell of 32 x 24 px flipped.
fn flipped_gull(project: &Project) -> Vec<u8> {
    let (width, height, pixels) = support::pixels(&project.path("actors/gull.png"));
    png(width, height, |x, y| pixels[(y * width + x / 32 * 32 + 31 - x % 32) as usize])
}

fn actor(project: &Project, name: &str) -> Value {
    project.ok(&["facing", name, "--format", "json"]).json()["actors"][0].clone()
}

fn list(value: &Value) -> &Vec<Value> {
    value.as_array().unwrap()
}

#[test]
fn mirrored_art_that_faces_left_has_the_same_shapes_to_the_bit() {
    let right = Project::fitted();
    let left = Project::sample();
    left.write("actors/gull.png", flipped_gull(&right));
    left.edit("actors/gull.toml", "faces = \"right\"", "faces = \"left\"");
    left.edit("actors/gull.toml", "circle = [24, 18, 4]", "circle = [8, 18, 4]");
    left.ok(&["fit"]);
    let (drawn_right, drawn_left) = (actor(&right, "gull"), actor(&left, "gull"));
    assert_eq!(drawn_left["drawn"], "left");
    for (one, other) in list(&drawn_right["frames"]).iter().zip(list(&drawn_left["frames"])) {
        let name = format!("{} {}", one["animation"], one["frame"]);
        for facing in ["right", "left"] {
            for (a, b) in list(&one[facing]["shapes"]).iter().zip(list(&other[facing]["shapes"])) {
                // A circle given by hand is a polygon whose corners are counted from another place on.
                let given = a["name"] == "beak";
                assert!(given || a["rings"] == b["rings"], "{name}: {a} {b}");
            }
        }
        let quality = |project: &Project| -> Vec<f64> {
            let fits: Value = serde_json::from_str(&project.read("actors/gull.fits.json")).unwrap();
            let shapes = list(&fits["frames"]).iter().flat_map(|frame| list(&frame["shapes"]).clone());
            shapes.filter_map(|shape| shape["quality"]["iou"].as_f64()).collect()
        };
        assert_eq!(quality(&right), quality(&left));
    }
}

#[test]
fn the_table_says_how_far_a_turn_moves_the_body() {
    let project = Project::fitted();
    let run = project.ok(&["facing", "keeper"]);
    assert!(run.out.starts_with("A turn moves the sides of keeper.body_low on crouch by 3.00 px"), "{}", run.out);
    let idle = run.out.lines().find(|line| line.contains("idle")).unwrap();
    let words: Vec<&str> = idle.split_whitespace().collect();
    assert_eq!(
        words,
        ["keeper.body", "idle", "0-3", "right", "8.00", "9.00", "+1.00", "+1.00", "1.00", "ahead", "+0.0"]
    );
    let csv = project.ok(&["facing", "--format", "csv"]).out;
    assert!(csv.contains("keeper,body_low,crouch,0-1,right,9,6,-3,-3,0,3,0\n"), "{csv}");
    // The room is what it takes: a turn away from a wall as far off as told is clean, and one a hundredth nearer is not.
    let turn = |x: f64| {
        let rows = format!(
            "tick,actor,x,y,facing,animation,frame\n0,keeper,{x},200,left,idle,0\n1,keeper,{x},200,right,idle,0\n"
        );
        project.write("takes/turn.csv", rows);
        project.run(&["check", "takes/turn.csv", "--format", "json"]).take()["findings"].clone()
    };
    project.edit("finitor.toml", "slack = 0.5", "slack = 0.0");
    assert_eq!(turn(16.0 + 8.0 + 1.0), serde_json::json!([]));
    let found = turn(16.0 + 8.0 + 0.99);
    assert_eq!((&found[0]["rule"], &found[0]["cause"]), (&"embedded".into(), &"turned".into()), "{found:#}");
    // Made equal on both sides as the finding says, nothing is lopsided.
    for animation in ["body_low]", "body]"] {
        let head = format!("[shape.{animation}\n");
        project.edit("actors/keeper.toml", &head, &format!("{head}symmetric = true\n"));
    }
    project.ok(&["fit"]);
    let found = project.ok(&["lint", "keeper", "--format", "json"]).json();
    assert!(list(&found["findings"]).iter().all(|finding| finding["rule"] != "lopsided"), "{found:#}");
    project.ok(&["facing", "keeper", "--draw"]);
    assert_eq!(support::pixels(&project.path("pictures/keeper-facing.png")).0, 1280);
}

const LEFT: &str = "\n[[sheet]]\nname = \"left\"\nimage = \"gull_left.png\"\ncell = [32, 24]\n\n[animation.glide_left]\nsheet = \"left\"\ncells = \"0-3\"\nfaces = \"left\"\nstands_for = \"glide\"\n";

#[test]
fn frames_drawn_for_the_left_are_used_compared_and_missed() {
    let project = Project::sample();
    project.write("actors/gull_left.png", flipped_gull(&project));
    project.edit("actors/gull.toml", "[[sheet]]\n", "[[sheet]]\nname = \"right\"\n");
    let toml = project.read("actors/gull.toml").replace("cells = ", "sheet = \"right\"\ncells = ");
    project.write("actors/gull.toml", format!("{toml}{LEFT}"));
    project.ok(&["fit"]);
    let gull = actor(&project, "gull");
    let frame = |gull: &Value, animation: &str, number: u64| {
        let found = list(&gull["frames"]).iter().find(|f| f["animation"] == animation && f["frame"] == number);
        found.unwrap().clone()
    };
    // Drawn as the exact mirror image nothing differs.
    assert_eq!(list(&gull["turned"]).len(), 8, "two shapes on four frames");
    assert!(list(&gull["turned"]).iter().all(|t| (t["iou"].as_f64().unwrap() - 1.0).abs() < 1e-9), "{gull:#}");
    // Redrawn without the two columns of pixels farthest ahead, the left frame is what is used, and told apart.
    let (width, height, pixels) = support::pixels(&project.path("actors/gull_left.png"));
    let opaque = |x: u32| (0..24).any(|y| pixels[(y * width + x) as usize][3] >= 128);
    let first = (0..32).find(|x| opaque(*x)).unwrap();
    let shaved = png(width, height, |x, y| if x < first + 2 { [0; 4] } else { pixels[(y * width + x) as usize] });
    project.write("actors/gull_left.png", shaved);
    project.ok(&["fit"]);
    let gull = actor(&project, "gull");
    assert_eq!(frame(&gull, "glide", 0)["left"], frame(&gull, "glide_left", 0)["left"]);
    let feathers = list(&gull["turned"]).iter().find(|t| t["shape"] == "feathers" && t["frame"] == 0).unwrap();
    assert!(feathers["iou"].as_f64().unwrap() < 0.99 && feathers["edges"][0].as_f64().unwrap() > 0.5, "{feathers:#}");
    let table = project.ok(&["facing", "gull"]).out;
    assert!(table.contains("agrees least, IoU 0."), "{table}");
    // A missing frame is reported, and mirrored instead.
    project.edit("actors/gull.toml", "cells = \"0-3\"\nfaces", "cells = \"0-2\"\nfaces");
    project.ok(&["fit"]);
    let found = project.ok(&["lint", "gull", "--format", "json"]).json();
    let missing = list(&found["findings"]).iter().find(|f| f["rule"] == "missing_turned").unwrap();
    assert_eq!((&missing["place"], &missing["figure"]), (&"glide_left".into(), &1.0.into()));
    assert!(
        missing["message"].as_str().unwrap().contains("has 3 of its 4 frames: 3 is mirrored instead"),
        "{missing:#}"
    );
    let gull = actor(&project, "gull");
    let ring = |facing: &str| points(&frame(&gull, "glide", 3)[facing]["shapes"][0]["rings"][0]);
    assert_eq!(mirrored(&ring("right")), ring("left"));
    // The picture of the left frame is shown as it is: a take that flips it is reported.
    let rows = "tick,actor,x,y,facing,animation,frame,flipped_art\n0,gull,300,40,left,glide,0,false\n1,gull,300,40,left,glide,0,true\n2,gull,300,40,left,glide,3,true\n";
    project.write("takes/left.csv", rows);
    let found = project.run(&["check", "takes/left.csv", "--format", "json"]).take();
    let spans: Vec<(&Value, &Value)> = list(&found["findings"]).iter().map(|f| (&f["rule"], &f["ticks"])).collect();
    assert_eq!(spans, [(&Value::from("facing_split"), &serde_json::json!([1, 1]))]);
    for (from, to, words) in [
        ("stands_for = \"glide\"", "stands_for = \"glyde\"", "did you mean \"glide\"?"),
        ("stands_for = \"glide\"", "stands_for = \"glide_left\"", "cannot stand for itself"),
        ("faces = \"left\"\nstands", "faces = \"right\"\nstands", "are both drawn facing right"),
    ] {
        let before = project.read("actors/gull.toml");
        project.edit("actors/gull.toml", from, to);
        project.refused(&["facing"], &[words, "actors/gull.toml"]);
        project.write("actors/gull.toml", before);
    }
}

#[test]
fn art_flipped_about_its_cell_drifts_by_what_the_pivot_is_off_the_middle() {
    // Cells 31 to 34 px wide, and pivots on whole and half pixels.
    for (cell, pivot) in [(31_u32, 15.5), (31, 14.0), (32, 16.0), (32, 14.5), (33, 18.0), (34, 17.0)] {
        let project = Project::empty();
        let layers = "[layers]\nnames = [\"hero\"]\n";
        project.write("finitor.toml", format!("[project]\nname = \"odd\"\nactors = [\"it.toml\"]\n{layers}"));
        let block = |x: u32, y: u32| (8..20).contains(&x) && (4..24).contains(&y);
        project.write("it.png", png(cell, 24, |x, y| if block(x, y) { [200, 90, 40, 255] } else { [0; 4] }));
        let body = "[animation.stand]\ncells = \"0\"\n[shape.body]\nrole = \"body\"\nkind = \"box\"\nfit = \"cover\"\nlayer = \"hero\"\n";
        project.write("it.toml", format!("[actor]\nname = \"it\"\npivot = [{pivot}, 24]\nflip_about = \"cell\"\n[[sheet]]\nimage = \"it.png\"\n{body}"));
        project.ok(&["fit"]);
        // Where the flipped pixels lie from the pivot, against where the mirrored shape does.
        let flipped: Vec<f64> = (0..cell).filter(|x| block(cell - 1 - x, 10)).map(|x| f64::from(x) - pivot).collect();
        let it = actor(&project, "it");
        let shape = points(&it["frames"][0]["left"]["shapes"][0]["rings"][0]);
        let left = shape.iter().map(|p| p[0]).fold(f64::INFINITY, f64::min);
        let drift = flipped[0] - left;
        assert_eq!(it["frames"][0]["flip_drift"], drift, "cell {cell}, pivot {pivot}");
        let found = project.ok(&["lint", "--format", "json"]).json();
        let told = list(&found["findings"]).iter().find(|f| f["rule"] == "flip_drift");
        assert_eq!(told.is_some(), drift != 0.0, "{found:#}");
        if let Some(told) = told {
            assert_eq!(told["figure"], drift.abs());
            let middle = f64::from(cell) / 2.0;
            let (message, remedy) = (told["message"].as_str().unwrap(), told["fix"].as_str().unwrap());
            assert!(
                message.contains(if drift > 0.0 { "px right of its shapes" } else { "px left of its shapes" }),
                "{message}"
            );
            assert!(
                remedy.contains(&format!(
                    "Set `pivot = [{middle}, 24]`; or draw flipped art at an x offset of {} px",
                    -drift
                )),
                "{remedy}"
            );
            project.edit("it.toml", &format!("pivot = [{pivot}, 24]"), &format!("pivot = [{middle}, 24]"));
            project.ok(&["fit"]);
            let found = project.ok(&["lint", "--format", "json"]).json();
            assert!(list(&found["findings"]).iter().all(|f| f["rule"] != "flip_drift"), "{found:#}");
        }
        assert!(project.ok(&["draw"]).out.contains("it.png"));
    }
}

#[test]
fn names_that_hold_a_side_change_over() {
    let project = Project::sample();
    let strips = "[shape.wall_left]\nrole = \"sensor\"\nalong = \"body\"\nside = \"behind\"\ndepth = 2\n[shape.wall_right]\nrole = \"sensor\"\nalong = \"body\"\nside = \"ahead\"\ndepth = 2\n[shape.feet]";
    project.edit("actors/keeper.toml", "[shape.feet]", strips);
    project.edit(
        "actors/keeper.toml",
        "pivot = [24, 46] ",
        "swap = [[\"wall_left\", \"wall_right\"]]\npivot = [24, 46] ",
    );
    project.ok(&["fit"]);
    let keeper = actor(&project, "keeper");
    let mut seen = 0;
    for frame in list(&keeper["frames"]) {
        for facing in ["right", "left"] {
            for shape in list(&frame[facing]["shapes"]) {
                let middle = points(&shape["rings"][0]).iter().map(|p| p[0]).sum::<f64>();
                match shape["name"].as_str().unwrap() {
                    "wall_left" => assert!(middle < 0.0, "{frame:#}"),
                    "wall_right" => assert!(middle > 0.0, "{frame:#}"),
                    _ => continue,
                }
                seen += 1;
            }
        }
    }
    assert_eq!(seen, 17 * 4, "both strips in both facings, but on the crouch");
    for (swap, words) in [
        ("[[\"wall_lift\", \"wall_right\"]]", "did you mean \"wall_left\"?"),
        ("[[\"wall_left\", \"wall_left\"]]", "names \"wall_left\" twice"),
        ("[\"wall_left\", \"wall_right\"]", "a list of pairs of names"),
    ] {
        let before = project.read("actors/keeper.toml");
        project.edit("actors/keeper.toml", "[[\"wall_left\", \"wall_right\"]]", swap);
        project.refused(&["facing"], &[words, "actors/keeper.toml"]);
        project.write("actors/keeper.toml", before);
    }
}
