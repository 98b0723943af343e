//! Fitting options by way of actor files: parts, likes, heights of passages, holds, kinds that are chosen, the usual body.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, area, pixels, png, points, rings};

const PARTS: &str = r##"
[parts]
"#d9a066" = { part = "head", group = "upper" }
"#4f6d7a" = { part = "torso", group = "upper" }
"#6b4f3a" = { part = "legs", factor = 0.7 }
"#c0d6a5" = { part = "torso", group = "upper" }
"#e8c547" = { part = "pole" }

[factors]
head = 3.0
upper = 1.5

[shape.skin]
role = "hurt"
kind = "KIND"
by_part = ["head", "torso", "legs"]
layer = "hero"
"##;

/// The sample's keeper with its hurt shapes replaced by one rule.
fn by_part(kind: &str, extra: &str) -> Project {
    let project = Project::sample();
    let text = project.read("actors/keeper.toml");
    let (before, rest) = text.split_once("[shape.head]").unwrap();
    let (_, after) = rest.split_once("[shape.pole]").unwrap();
    let rule = format!("{}{extra}", PARTS.replace("KIND", kind));
    project.write("actors/keeper.toml", format!("{before}{rule}\n[shape.lamp_pole]{after}"));
    project
}

fn fits(project: &Project, actor: &str) -> Value {
    serde_json::from_str(&project.read(&format!("actors/{actor}.fits.json"))).unwrap()
}

fn shape<'a>(frame: &'a Value, name: &str) -> Option<&'a Value> {
    frame["shapes"].as_array().unwrap().iter().find(|shape| shape["name"] == name)
}

/// The area two shapes share, on a fine grid.
fn shared(one: &Value, other: &Value) -> f64 {
    const STEP: f64 = 0.125;
    // Within what a ray to the right crosses an odd number of times.
    let inside = |rings: &[Vec<[f64; 2]>], x: f64, y: f64| {
        let edges = rings.iter().flat_map(|ring| (0..ring.len()).map(|i| (ring[i], ring[(i + 1) % ring.len()])));
        let crossed =
            edges.filter(|(a, b)| (a[1] > y) != (b[1] > y) && a[0] + (y - a[1]) / (b[1] - a[1]) * (b[0] - a[0]) > x);
        crossed.count() % 2 == 1
    };
    let (one, other) = (rings(&one["points"]), rings(&other["points"]));
    let grid =
        (-400..400).flat_map(|x| (-400..80).map(move |y| (f64::from(x) * STEP + 0.06, f64::from(y) * STEP + 0.037)));
    grid.filter(|&(x, y)| inside(&one, x, y) && inside(&other, x, y)).count() as f64 * STEP * STEP
}

#[test]
fn one_rule_makes_a_shape_a_part_that_do_not_overlap_and_are_made_the_same_again() {
    for kind in ["hull", "box", "outline", "pieces"] {
        let project = by_part(kind, "");
        project.ok(&["fit", "keeper"]);
        let found = fits(&project, "keeper");
        for frame in found["frames"].as_array().unwrap() {
            let names = ["head", "torso", "legs"];
            let shapes: Vec<&Value> = names.iter().filter_map(|name| shape(frame, name)).collect();
            assert_eq!(shapes.len(), 3, "{kind}: {}", frame["animation"]);
            for (i, one) in shapes.iter().enumerate() {
                assert_eq!(one["part"], names[i]);
                for other in &shapes[i + 1..] {
                    let over = shared(one, other);
                    assert!(
                        over < 0.02,
                        "{kind}: {} and {} share {over} on {}",
                        one["name"],
                        other["name"],
                        frame["animation"]
                    );
                }
            }
            assert_eq!([&shapes[0]["factor"], &shapes[1]["factor"], &shapes[2]["factor"]], [3.0, 1.5, 0.7]);
            assert_eq!(shapes[1]["group"], "upper");
            let all: Vec<&Value> = frame["shapes"].as_array().unwrap().iter().map(|shape| &shape["name"]).collect();
            let mut once = all.clone();
            once.dedup();
            assert_eq!(all, once, "never a duplicate");
        }
        let before = project.read("actors/keeper.fits.json");
        project.ok(&["fit", "keeper"]);
        project.ok(&["fit", "keeper", "--all"]);
        assert_eq!(project.read("actors/keeper.fits.json"), before, "{kind}: made the same again");
    }
    let overlapping = by_part("hull", "siblings_overlap = true");
    overlapping.ok(&["fit", "keeper"]);
    let found = fits(&overlapping, "keeper");
    let frames = found["frames"].as_array().unwrap();
    let over: f64 = frames.iter().map(|f| shared(shape(f, "head").unwrap(), shape(f, "torso").unwrap())).sum();
    assert!(over > 1.0, "hulls that may overlap do");
}

#[test]
fn parts_that_do_not_exist_are_told_with_the_nearest_and_art_of_no_part_by_frame() {
    let wrong = |from: &str, to: &str, words: &[&str]| {
        let project = by_part("hull", "");
        project.edit("actors/keeper.toml", from, to);
        project.refused(&["fit"], words);
    };
    wrong("head = 3.0", "haed = 3.0", &["no part or group \"haed\"", "did you mean \"head\"?"]);
    wrong("\"legs\"]", "\"leg\"]", &["no part \"leg\"", "did you mean \"legs\"?"]);
    wrong(
        "\"#e8c547\" = ",
        "\"#e8c548\" = ",
        &["no opaque pixel has the colour #e8c548", "nearest colour there is #e8c547"],
    );
    wrong("\"#e8c547\" = ", "\"yellow\" = ", &["\"yellow\" is not a colour"]);
    wrong(
        "kind = \"hull\"\nby_part",
        "kind = \"circle\"\nby_part",
        &["cannot be cut where they meet", "siblings_overlap"],
    );
    wrong("by_part = [", "part = \"head\"\nby_part = [", &["`part` and `by_part` cannot be given together"]);
    wrong(
        "[shape.skin]",
        "[shape.head]\nrole = \"hurt\"\nbox = [0, 0, 1, 1]\nlayer = \"hero\"\n[shape.skin]",
        &["two shapes are named \"head\""],
    );

    let project = by_part("hull", "");
    project.edit("actors/keeper.toml", "\"#e8c547\" = { part = \"pole\" }\n", "");
    project.ok(&["fit"]);
    let run = project.run(&["lint", "--format", "json"]);
    let findings = run.json();
    let told =
        findings["findings"].as_array().unwrap().iter().find(|f| f["rule"] == "uncovered_part" && f["place"] == "idle");
    // The pole's pixels of idle, counted here.
    let (width, _, art) = pixels(&project.path("actors/keeper.png"));
    let (_, _, parts) = pixels(&project.path("actors/keeper.parts.png"));
    let count = |frame: u32| {
        let cell = (0..48).flat_map(|y| (0..48).map(move |x| (y * width + frame * 48 + x) as usize));
        cell.filter(|&at| art[at][3] >= 128 && parts[at][..3] == [0xe8, 0xc5, 0x47]).count()
    };
    let most = (0..4).map(count).max().unwrap();
    let told = told.unwrap();
    assert_eq!(told["figure"].as_f64().unwrap(), most as f64);
    assert!(told["message"].as_str().unwrap().contains(&format!("0: {} px", count(0))), "{told}");
    assert!(told["fix"].as_str().unwrap().contains("#e8c547"), "{told}");
}

#[test]
fn a_second_size_keeps_width_and_foot_and_takes_its_height_from_a_passage() {
    let project = Project::sample();
    let like = "[shape.body_low]\nrole = \"body\"\nanimations = [\"crouch\"]\nlike = \"body\"\nlayer = \"hero\"\nEXTRA";
    let text = project.read("actors/keeper.toml");
    let (before, rest) = text.split_once("[shape.body_low]").unwrap();
    let (_, after) = rest.split_once("\n\n").unwrap();
    let with = |extra: &str| {
        project.write("actors/keeper.toml", format!("{before}{}\n\n{after}", like.replace("EXTRA", extra)));
        project.ok(&["fit", "keeper"]);
        let found = fits(&project, "keeper");
        let bounds = |animation: &str, name: &str| {
            let frames = found["frames"].as_array().unwrap();
            let frame = frames.iter().find(|frame| frame["animation"] == animation).unwrap();
            let ring = rings(&shape(frame, name).unwrap()["points"]).concat();
            let side = |of: fn(f64, f64) -> f64, axis: usize| ring.iter().map(|p| p[axis]).reduce(of).unwrap();
            [side(f64::min, 0), side(f64::min, 1), side(f64::max, 0), side(f64::max, 1)]
        };
        (bounds("walk", "body"), bounds("crouch", "body_low"))
    };
    let (body, low) = with("");
    assert_eq!([low[0], low[2], low[3]], [body[0], body[2], body[3]], "width and foot are kept");
    assert!(low[1] > body[1] + 4.0, "crouched it is lower: {low:?} {body:?}");
    // The boathouse ends at y 144 over the terrace at 170.
    let (body, low) = with("kind = \"box\"\nheight_from = \"pier/boathouse\"\nclearance = 1.5");
    assert_eq!([low[0], low[2], low[3]], [body[0], body[2], body[3]]);
    assert!((low[3] - low[1] - 24.5).abs() < 1e-9, "{low:?}");
    project.edit("actors/keeper.toml", "pier/boathouse", "pier/boathose");
    project.refused(&["fit"], &["keeper.toml", "no zone or solid \"boathose\"", "did you mean \"pier/boathouse\"?"]);
    project.edit("actors/keeper.toml", "pier/boathose", "peer/boathouse");
    project.refused(&["fit"], &["no stage \"peer\"", "did you mean \"pier/boathouse\"?"]);
}

/// A project with one actor of square frames drawn by a function of frame, x and y.
fn drawn(frames: u32, side: u32, shapes: &str, opaque: impl Fn(u32, u32, u32) -> bool) -> Project {
    let project = Project::empty();
    let pixel = |x: u32, y: u32| if opaque(x / side, x % side, y) { [200, 120, 40, 255] } else { [0; 4] };
    project.write("actors/it.png", png(frames * side, side, pixel));
    let half = f64::from(side) / 2.0;
    project.write(
        "actors/it.toml",
        format!(
            "[actor]\nname = \"it\"\npivot = [{half}, {side}]\n[[sheet]]\nimage = \"it.png\"\ncell = [{side}, {side}]\n\
             [animation.walk]\ncells = \"0-{}\"\n{shapes}",
            frames - 1
        ),
    );
    project.write(
        "finitor.toml",
        "[project]\nname = \"one\"\nactors = [\"actors/*.toml\"]\n[layers]\nnames = [\"hero\"]\n",
    );
    project
}

#[test]
fn a_body_without_options_is_the_usual_one_and_says_so() {
    // A trunk of 12 px with a whisker of 1 px to the right; on one of four frames an arm as well.
    let opaque = |frame: u32, x: u32, y: u32| {
        (10..22).contains(&x) && y >= 6
            || (22..30).contains(&x) && y == 15
            || frame == 0 && x < 10 && (10..16).contains(&y)
    };
    let project = drawn(4, 32, "[shape.body]\nrole = \"body\"\nlayer = \"hero\"\n", opaque);
    let run = project.ok(&["fit", "--why", "body"]);
    for words in [
        "usual body",
        "on at least 50 % of the frames",
        "thinner than 12 % of the height dropped",
        "on the pivot's line",
    ] {
        assert!(run.out.contains(words), "{words}: {}", run.out);
    }
    let found = fits(&project, "it");
    for frame in found["frames"].as_array().unwrap() {
        // 12 px wide less 4, 26 high less 2; symmetric about the pivot and down to its line.
        assert_eq!(frame["shapes"][0]["box"], serde_json::json!([-4.0, -24.0, 8.0, 24.0]));
    }
}

#[test]
fn presence_counts_over_the_frames_of_the_hold() {
    // Columns 4 to 7 are there on all of four frames, 8 to 11 on two, 12 to 15 on one.
    let opaque = |frame: u32, x: u32, _: u32| x >= 4 && (x < 8 || (x < 12 && frame < 2) || frame < 1);
    let right = |presence: &str| {
        let shape = format!(
            "[shape.body]\nrole = \"body\"\nlayer = \"hero\"\nkind = \"box\"\nfit = \"cover\"\nshare = \"animation\"\n{presence}"
        );
        let project = drawn(4, 16, &shape, opaque);
        project.ok(&["fit"]);
        let numbers = points(&fits(&project, "it")["frames"][0]["shapes"][0]["points"]);
        numbers.iter().map(|p| p[0]).fold(f64::NEG_INFINITY, f64::max) + 8.0
    };
    assert_eq!(
        [right(""), right("presence = 0.25"), right("presence = 0.5"), right("presence = 0.51")],
        [16.0, 16.0, 12.0, 8.0]
    );
}

#[test]
fn holes_are_kept_where_asked_and_left_free_by_the_pieces() {
    let opaque = |_: u32, x: u32, y: u32| {
        let at = (f64::from(x) - 15.5).hypot(f64::from(y) - 15.5);
        at < 14.0 && at > 6.0
    };
    let shape =
        "[shape.ring]\nrole = \"hurt\"\nlayer = \"hero\"\nkind = \"pieces\"\nmin_hole = 4\nmax_piece_points = 5\n";
    let project = drawn(1, 32, shape, opaque);
    project.ok(&["fit"]);
    let found = fits(&project, "it");
    let ring = &found["frames"][0]["shapes"][0];
    let hole: f64 = ring["holes"].as_array().unwrap().iter().map(|hole| area(&points(hole))).sum();
    assert!(hole > 80.0, "{ring}");
    let pieces = &project.pieces("it")["walk 0 ring"];
    assert!(pieces.iter().all(|piece| piece.len() <= 5));
    let outer: f64 = rings(&ring["points"]).iter().map(|ring| area(ring)).sum();
    let tiled: f64 = pieces.iter().map(|piece| area(piece)).sum();
    assert!((tiled - (outer - hole)).abs() < 1e-6, "{tiled} {outer} {hole}");
    let opaque_pixels = 32 * 32 - (0..32 * 32).filter(|i| !opaque(0, i % 32, i / 32)).count();
    assert!((tiled - opaque_pixels as f64).abs() < 0.02 * opaque_pixels as f64 + 1.0, "{tiled} {opaque_pixels}");
}

#[test]
fn shapes_asked_for_alone_are_fitted_and_hand_edits_given_up_when_told() {
    let project = Project::fitted();
    let before = project.read("actors/keeper.fits.json");
    project.edit("actors/keeper.toml", "kind = \"hull\"\npaint = \"#d9a066\"", "kind = \"box\"\npaint = \"#d9a066\"");
    project.edit(
        "actors/keeper.toml",
        "fit = \"cover\"\npaint = \"#4f6d7a\"",
        "fit = \"balance\"\npaint = \"#4f6d7a\"",
    );
    project.ok(&["fit", "keeper", "--only", "head"]);
    let after = project.read("actors/keeper.fits.json");
    let lines = |text: &str, name: &str| -> Vec<String> {
        text.lines().filter(|line| line.contains(&format!("\"name\":\"{name}\""))).map(str::to_string).collect()
    };
    assert_ne!(lines(&before, "head"), lines(&after, "head"));
    for name in ["torso", "legs", "body", "pole"] {
        assert_eq!(lines(&before, name), lines(&after, name), "{name} was not asked for");
    }
    project.refused(&["fit", "--only", "nose"], &["there is no shape \"nose\"", "torso"]);
    // The torso's change was left for later and is not forgotten.
    let run = project.ok(&["fit", "keeper"]);
    assert!(run.out.contains("19 shapes fitted"), "{}", run.out);
    let edited = project.read("actors/keeper.fits.json").replacen("\"locked\":false", "\"locked\":true", 1);
    project.write("actors/keeper.fits.json", &edited);
    assert!(project.ok(&["fit", "keeper"]).out.contains("1 kept as a hand left them"));
    project.ok(&["fit", "keeper", "--unlock"]);
    assert!(project.ok(&["fit", "keeper", "--all"]).out.contains("97 shapes fitted"));
}

#[test]
fn nothing_to_do_is_told_until_a_file_a_name_or_a_shape_changes() {
    let project = Project::fitted();
    let nothing = || project.ok(&["fit", "gull"]).out.contains("nothing to do");
    assert!(nothing());
    let picture = std::fs::read(project.path("actors/gull.png")).unwrap();
    let changes: [(&str, &dyn Fn()); 4] = [
        ("a picture", &|| project.write("actors/gull.png", [&picture[..], b"x"].concat())),
        ("a recipe", &|| project.edit("actors/gull.toml", "tolerance = 1.5", "tolerance = 1.25")),
        ("the layers", &|| project.edit("finitor.toml", "hero = [", "foe = [\"hero\"]\nhero = [")),
        ("a shape", &|| {
            let text = project.read("actors/gull.fits.json");
            project.write("actors/gull.fits.json", text.replacen("\"locked\":false", "\"locked\":true", 1));
        }),
    ];
    for (what, change) in changes {
        change();
        let run = project.run(&["fit", "gull"]);
        assert!(!run.out.contains("nothing to do"), "{what} changed");
        if run.code == 0 {
            assert!(nothing(), "{what} is settled again");
        }
        if what == "a picture" {
            project.write("actors/gull.png", &picture);
            project.ok(&["fit"]);
        }
    }
}

#[test]
fn leaps_that_the_art_does_not_make_are_found() {
    // A block that stands still; on frame 2 a whisker of 1 px juts out, which a box follows and the art hardly shows.
    let opaque = |frame: u32, x: u32, y: u32| (8..20).contains(&x) && y >= 10 || frame == 2 && x >= 20 && y == 12;
    let shape = "[shape.skin]\nrole = \"hurt\"\nlayer = \"hero\"\nkind = \"box\"\nfit = \"cover\"\n";
    let project = drawn(4, 32, shape, opaque);
    project.ok(&["fit"]);
    let clean = project.run(&["lint"]);
    assert!(!clean.out.contains("shape_jump"), "the art moves as far: {}", clean.out);
    // A hand puts one frame's box somewhere else.
    let text = project.read("actors/it.fits.json");
    let line = text.lines().filter(|line| line.contains("\"name\":\"skin\"")).nth(1).unwrap().to_string();
    let points = line.find("\"points\":").unwrap();
    let end = line.find("\"layer\":").unwrap();
    let moved =
        format!("{}\"points\":[[-20.0,-30.0],[-8.0,-30.0],[-8.0,-8.0],[-20.0,-8.0]],{}", &line[..points], &line[end..]);
    project.write("actors/it.fits.json", text.replacen(&line, &moved, 1));
    project.ok(&["fit"]);
    let found = project.run(&["lint", "--format", "json"]).json();
    let leap = found["findings"].as_array().unwrap().iter().find(|f| f["rule"] == "shape_jump").unwrap().clone();
    // From [-8, -22] to [-20, -30] at the far corner: the Hausdorff distance is hypot(12, 8).
    assert!((leap["figure"].as_f64().unwrap() - 12.0_f64.hypot(8.0)).abs() < 0.02, "{leap}");
}

#[test]
fn the_worst_frames_come_first() {
    let project = Project::fitted();
    let rows = project.ok(&["fit", "--worst", "5", "--format", "json"]).json();
    let rows = rows["worst"].as_array().unwrap();
    assert_eq!(rows.len(), 5);
    let mut all: Vec<f64> = Vec::new();
    for actor in ["barrel", "gull", "keeper"] {
        let found = fits(&project, actor);
        let shapes = found["frames"].as_array().unwrap().iter().flat_map(|f| f["shapes"].as_array().unwrap().clone());
        all.extend(shapes.filter_map(|shape| shape["quality"]["iou"].as_f64()));
    }
    all.sort_by(f64::total_cmp);
    let told: Vec<f64> = rows.iter().map(|row| row["iou"].as_f64().unwrap()).collect();
    assert_eq!(told, all[..5]);
}
