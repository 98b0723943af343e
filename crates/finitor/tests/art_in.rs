//! Art as it comes: what `sheet` says, starter files, new projects, changed and renamed art, anchors and ground.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use support::{Project, png};

fn fits(project: &Project, actor: &str) -> Value {
    serde_json::from_str(&project.read(&format!("actors/{actor}.fits.json"))).unwrap()
}

#[test]
fn a_starter_of_every_demo_image_is_fitted_unchanged_with_the_pivot_where_a_hand_put_it() {
    let project = Project::sample();
    let by_hand = [("keeper", [24.0, 46.0]), ("gull", [16.0, 20.0]), ("barrel", [12.0, 27.0])];
    for (name, pivot) in by_hand {
        let (image, target) = (format!("actors/{name}.png"), format!("actors/{name}_new.toml"));
        project.ok(&["sheet", &image, "--write", &target]);
        let before = project.read(&target);
        project.ok(&["fit", &format!("{name}_new")]);
        assert_eq!(project.read(&target), before, "fitted unchanged");
        let fits = fits(&project, &format!("{name}_new"));
        for frame in fits["frames"].as_array().unwrap() {
            for axis in 0..2 {
                let found = frame["pivot"][axis].as_f64().unwrap();
                assert!((found - pivot[axis]).abs() <= 1.0, "{name}: {found} is not near {pivot:?}");
            }
            let names: Vec<&str> =
                frame["shapes"].as_array().unwrap().iter().map(|shape| shape["name"].as_str().unwrap()).collect();
            assert_eq!(names, ["body", "figure", "feet"], "{name}");
        }
        let refused = project.refused(&["sheet", &image, "--write", &target], &["already exists", "--merge"]);
        assert!(refused.out.is_empty());
        assert_eq!(project.read(&target), before, "never overwritten");
    }
    for image in ["stages/tiles.png", "actors/keeper.parts.png"] {
        project.ok(&["sheet", image, "--write", "actors/other.toml"]);
        project.ok(&["fit", "other"]);
        std::fs::remove_file(project.path("actors/other.toml")).unwrap();
    }
    let seen = project.ok(&["sheet", "actors/keeper.png", "--format", "json"]).json();
    let image = &seen["groups"][0]["images"][0];
    assert_eq!(image["grid"]["cell_px"], json!([48, 48]));
    assert_eq!(image["cells"].as_array().unwrap().iter().filter(|cell| cell["opaque_px"] == 0).count(), 1);
}

#[test]
fn merging_adds_what_is_missing_and_keeps_every_line() {
    let project = Project::sample();
    // A hand-made start: a comment on every sort of line, one animation, no shapes but a sensor.
    let hand = "# my keeper\n[actor]   # odd   spacing\nname='mine'\n\n[[sheet]]\nimage = \"keeper.png\" # the sheet\ncell = [ 48,48 ]\n\n# fine as it is\n[animation.stand]\ncells = \"0-3\"\n[shape.eyes]\nrole = \"sensor\" # looks\nbox = [20, 10, 4, 4]\n";
    project.write("actors/mine.toml", hand);
    let run = project.ok(&["sheet", "actors/keeper.png", "--write", "actors/mine.toml", "--merge"]);
    for added in ["pivot in [actor]", "[animation.row_2]", "[shape.body]", "[shape.figure]"] {
        assert!(run.out.contains(added), "{added}: {}", run.out);
    }
    assert!(!run.out.contains("[shape.feet]"), "there is a sensor already: {}", run.out);
    let merged = project.read("actors/mine.toml");
    let mut rest = merged.as_str();
    for line in hand.lines() {
        let at = rest.find(line).unwrap_or_else(|| panic!("lost or moved: {line:?}\n{merged}"));
        rest = &rest[at + line.len()..];
    }
    project.ok(&["fit", "mine"]);
    let again = project.ok(&["sheet", "actors/keeper.png", "--write", "actors/mine.toml", "--merge"]);
    assert!(again.out.contains("has all of this already"), "{}", again.out);
    assert_eq!(project.read("actors/mine.toml"), merged);
    // A second sheet, frames as files, and names for rows.
    project.ok(&["sheet", "actors/gull.png", "--row", "flap", "--write", "actors/mine.toml", "--merge"]);
    for number in [1, 2, 10] {
        project.write(&format!("actors/wave_{number}.png"), png(9, 9, |x, _| [9, 9, 9, if x > 2 { 255 } else { 0 }]));
    }
    let waves = ["actors/wave_10.png", "actors/wave_2.png", "actors/wave_1.png"];
    let args = [&["sheet"], &waves[..], &["--write", "actors/mine.toml", "--merge"]].concat();
    project.ok(&args);
    assert!(project.ok(&args).out.contains("has all of this already"));
    project.ok(&["fit", "mine"]);
    let fits = fits(&project, "mine");
    let frames = fits["frames"].as_array().unwrap();
    let of = |name: &str| frames.iter().filter(|frame| frame["animation"] == name).collect::<Vec<_>>();
    // Four cells of the first row were used already; the rest of it was added.
    assert_eq!((of("stand").len(), of("row_1").len(), of("row_2").len()), (4, 6, 9));
    assert_eq!((of("flap").len(), of("wave").len()), (9, 3));
    let names: Vec<&str> = of("wave").iter().map(|frame| frame["image"].as_str().unwrap()).collect();
    assert_eq!(names, ["wave_1.png", "wave_2.png", "wave_10.png"]);
    assert_eq!((&of("stand")[0]["pivot"], &of("flap")[0]["pivot"]), (&json!([24.0, 46.0]), &json!([16.0, 21.0])));
    project.write("actors/broken.toml", "[actor\n");
    project.refused(
        &["sheet", "actors/gull.png", "--write", "actors/broken.toml", "--merge"],
        &["broken.toml", "fix it first"],
    );
    assert_eq!(project.read("actors/broken.toml"), "[actor\n");
}

#[test]
fn a_new_project_works_as_it_stands() {
    let own = Project::empty();
    let run = own.ok(&["new", "yard"]);
    assert!(run.out.contains("yard is a project now"), "{}", run.out);
    let sample = Project::sample();
    let images = ["keeper", "gull", "barrel"].map(|name| sample.path(&format!("actors/{name}.png")));
    let mut projects = vec!["yard".to_string()];
    for (index, image) in images.iter().enumerate() {
        let dir = format!("from_{index}");
        own.ok(&["new", &dir, "--from", image.to_str().unwrap()]);
        projects.push(dir);
    }
    for dir in &projects {
        let within = |args: &[&str]| own.ok(&[args, &["--project", dir]].concat());
        within(&["fit"]);
        within(&["draw"]);
        within(&["lint", "--fail-on", "warn"]);
        let report = within(&["check", "takes/first.csv", "--format", "json", "--fail-on", "note"]).take();
        assert_eq!(report["findings"], json!([]), "{dir}");
        assert_eq!(report["events"].as_array().unwrap().len() % 2, 0, "{dir}: enters and leaves the gate");
    }
    // Its take finds a fault as soon as there is one.
    own.edit("yard/stages/yard.toml", "name = \"gate\"\n", "name = \"door\"\n");
    let stage = own
        .read("yard/stages/yard.toml")
        .replace("[[zone]]", "[[solid]]")
        .replace("mask = [\"hero\"]\n", "layer = \"ground\"\n");
    let stage: String =
        stage.lines().filter(|line| !line.starts_with("effect")).map(|line| format!("{line}\n")).collect();
    own.write("yard/stages/yard.toml", stage);
    let faults = own.run(&["check", "takes/first.csv", "--project", "yard"]);
    assert_eq!(faults.code, 1);
    assert!(faults.out.contains("yard/door"), "{}", faults.out);
    own.refused(&["new", "yard"], &["not empty"]);
    let before = own.files().len();
    own.refused(&["new", "other", "--from", "nothing.png"], &["nothing.png", "no such file"]);
    assert_eq!(own.files().len(), before, "nothing written");
}

#[test]
fn changed_art_is_told_with_its_pixels_and_frames_that_came_and_went() {
    let project = Project::sample();
    let column = |n: u32| move |x: u32, y: u32| [9, 9, 9, if x % 8 < n && y > 1 { 255 } else { 0 }];
    let actor = |cells: &str, name: &str| {
        format!(
            "[actor]\nname = \"post\"\npivot = [4, 8]\n[[sheet]]\nimage = \"post.png\"\ncell = [8, 8]\n[animation.{name}]\ncells = \"{cells}\"\n[shape.all]\nrole = \"hurt\"\nkind = \"box\"\nfit = \"cover\"\nlayer = \"hero\"\n"
        )
    };
    project.write("actors/post.png", png(32, 8, column(4)));
    project.write("actors/post.toml", actor("0-2", "sway"));
    project.ok(&["fit", "post"]);
    assert!(project.ok(&["lint", "post"]).out.contains("clean"));
    // Frame 1 gains a 1 x 6 column and loses a 4 x 1 row: 6 - 1 + 4 pixels. Frame 2 only changes colour.
    let art = |x: u32, y: u32| match x / 8 {
        1 => [9, 9, 9, if x % 8 < 5 && y > 2 { 255 } else { 0 }],
        2 => column(4)(x, y).map(|v| if v == 9 { 10 } else { v }),
        _ => column(4)(x, y),
    };
    project.write("actors/post.png", png(32, 8, art));
    let words = ["sway 1 changed by 9 px (5 came, 4 went)", "sway 2 changed by 24 px (24 recoloured)"];
    let lint = project.ok(&["lint", "post", "--format", "json"]).json();
    assert_eq!(
        (lint["findings"][0]["rule"].clone(), lint["findings"][0]["figure"].clone()),
        (json!("stale_fit"), json!(33.0))
    );
    let fit = project.ok(&["fit", "post"]);
    for word in words {
        assert!(lint["findings"][0]["message"].as_str().unwrap().contains(word), "{lint}");
        assert!(fit.err.contains(word), "{}", fit.err);
    }
    assert!(fit.out.contains("2 shapes fitted, 1 unchanged"), "{}", fit.out);
    assert!(project.ok(&["fit", "post"]).err.is_empty(), "told once");
    project.write("actors/post.toml", actor("0-3", "sway"));
    assert!(project.ok(&["fit", "post"]).err.contains("sway gained 1 frame: 3 before, 4 now"));
    // A hand edit on the frame that is now second: it follows the art when that moves, and the animation when renamed.
    let text = project.read("actors/post.fits.json");
    let frame = fits(&project, "post")["frames"][1]["shapes"][0]["points"].to_string();
    let edited = text.replacen(&frame, "[[-4.0,-5.0],[1.5,-5.0],[1.0,0.0],[-4.0,0.0]]", 1);
    assert_ne!(edited, text);
    project.write("actors/post.fits.json", edited);
    project.write("actors/post.toml", actor("1,0,2", "sway"));
    let moved = project.ok(&["fit", "post"]);
    assert!(moved.err.contains("sway 0 is what was frame 1"), "{}", moved.err);
    assert!(moved.err.contains("sway lost 1 frame: 4 before, 3 now"), "{}", moved.err);
    assert_eq!(fits(&project, "post")["frames"][0]["shapes"][0]["points"][1], json!([1.5, -5.0]));
    project.write("actors/post.toml", actor("1,0,2", "lean"));
    let kept = project.read("actors/post.fits.json");
    project.refused(&["fit", "post"], &["all on sway 0 was hand-edited", "--rename sway=NEW", "--discard-edits sway"]);
    assert_eq!(project.read("actors/post.fits.json"), kept, "nothing lost");
    let stale = project.ok(&["lint", "post"]);
    assert!(stale.out.contains("sway=lean"), "{}", stale.out);
    project.ok(&["fit", "post", "--rename", "sway=lean"]);
    assert_eq!(fits(&project, "post")["frames"][0]["shapes"][0]["points"][1], json!([1.5, -5.0]));
    project.refused(&["fit", "post", "--rename", "sway=lean"], &["no fits of these actors have an animation \"sway\""]);
    project.refused(&["fit", "--rename", "lean"], &["walk=stroll"]);
    project.write("actors/post.toml", actor("0", "lean"));
    project.refused(&["fit", "post"], &["all on lean 0 was hand-edited"]);
    project.ok(&["fit", "post", "--discard-edits", "lean"]);
}

#[test]
fn standing_frames_off_the_ground_are_told_with_the_pivot_that_mends_them() {
    let project = Project::fitted();
    assert!(!project.ok(&["lint"]).out.contains("off_ground"));
    project.edit("actors/keeper.toml", "pivot = [24, 46]", "pivot = [24, 44]");
    project.ok(&["fit"]);
    let lint = project.run(&["lint", "--format", "json", "--fail-on", "warn"]);
    assert_eq!(lint.code, 1);
    let found: Vec<Value> =
        lint.json()["findings"].as_array().unwrap().iter().filter(|f| f["rule"] == "off_ground").cloned().collect();
    let standing: Vec<&str> = found.iter().map(|f| f["place"].as_str().unwrap()).collect();
    assert_eq!(standing, ["idle", "walk", "crouch"]);
    for finding in &found {
        assert_eq!((&finding["rule"], &finding["figure"]), (&json!("off_ground"), &json!(2.0)));
        assert!(finding["fix"].as_str().unwrap().contains("pivot = [24, 46]"), "{finding}");
    }
    // rise and fall end a row higher: with the pivot right they are the ones that float, when asked for.
    project.edit("actors/keeper.toml", "pivot = [24, 44]", "pivot = [24, 46]");
    project.ok(&["fit"]);
    let asked = project.ok(&["lint", "--standing", "rise,idle", "--format", "json"]);
    assert!(asked.out.contains("rise 0 ends 1.0 px above"), "{}", asked.out);
    assert!(!asked.out.contains("idle 0"), "{}", asked.out);
    project.refused(&["lint", "--standing", "idel"], &["there is no animation \"idel\""]);
    project.edit("finitor.toml", "[check]", "[check.rules]\noff_ground = \"off\"\n[check]");
    assert!(!project.ok(&["lint", "--standing", "rise"]).out.contains("off_ground"));
}

#[test]
fn anchors_are_found_in_the_art_and_missing_ones_told_by_frame() {
    let project = Project::sample();
    // Two cells of 12 x 10: a block of 6 x 6 at (3, 2) and one at (4, 3); a 2 x 2 mark on the first one's part map only.
    let block = |x: u32, y: u32| {
        let (cell, x) = (x / 12, x % 12);
        (3 + cell..9 + cell).contains(&x) && (2 + cell..8 + cell).contains(&y)
    };
    project.write("actors/crab.png", png(24, 10, |x, y| [80, 90, 99, if block(x, y) { 255 } else { 0 }]));
    let mark =
        |x: u32, y: u32| if (5..7).contains(&x) && (4..6).contains(&y) { [255, 0, 0, 255] } else { [0, 0, 255, 255] };
    project.write("actors/crab.parts.png", png(24, 10, mark));
    project.write(
        "actors/crab.toml",
        "[actor]\nname = \"crab\"\npivot = [6, 8]\n[[sheet]]\nimage = \"crab.png\"\nparts = \"crab.parts.png\"\ncell = [12, 10]\n[animation.sit]\ncells = \"0-1\"\n[anchor.eye]\nfind = \"paint #ff0000\"\n[anchor.top]\nfind = \"top\"\n[anchor.nose]\nfind = \"front\"\n[anchor.rear]\nfind = \"back\"\n[anchor.base]\nfind = \"bottom\"\n",
    );
    let run = project.ok(&["fit", "crab"]);
    assert!(run.err.contains("anchor eye is missing on sit 1: no opaque pixel is painted #ff0000"), "{}", run.err);
    let anchors = |frame: usize| fits(&project, "crab")["frames"][frame]["anchors"].clone();
    assert_eq!(
        anchors(0),
        json!({"base": [0.0, 0.0], "eye": [0.0, -3.0], "nose": [3.0, -3.0], "rear": [-3.0, -3.0], "top": [0.0, -6.0]})
    );
    assert_eq!(anchors(1), json!({"base": [1.0, 1.0], "nose": [4.0, -2.0], "rear": [-2.0, -2.0], "top": [1.0, -5.0]}));
    let lint = project.ok(&["lint", "crab"]);
    assert!(lint.out.contains("missing_anchor"), "{}", lint.out);
    // A place to fall back on, or a narrower claim, ends it.
    project.edit("actors/crab.toml", "find = \"paint #ff0000\"\n", "find = \"paint #ff0000\"\nat = [6, 5]\n");
    assert!(!project.ok(&["fit", "crab"]).err.contains("missing"));
    assert_eq!(anchors(1)["eye"], json!([0.0, -3.0]));
    // Facing left the front is on the other side.
    project.edit("actors/crab.toml", "name = \"crab\"\n", "name = \"crab\"\nfaces = \"left\"\n");
    project.ok(&["fit", "crab"]);
    assert_eq!(anchors(0)["nose"], json!([-3.0, -3.0]));
    project.edit("actors/crab.toml", "find = \"top\"", "find = \"tpo\"");
    project.refused(&["fit", "crab"], &["crab.toml:15:8", "`find` cannot be \"tpo\"", "paint #rrggbb"]);
}

#[test]
fn starters_of_keyed_irregular_and_animated_art_are_fitted_to_the_art_alone() {
    let project = Project::sample();
    // Two blocks of 6 x 9 in cells of 16 x 16 on magenta; the same blocks, and a third, in no grid at all.
    let block = |x: u32, y: u32| (5..11).contains(&(x % 16)) && (5..14).contains(&y);
    let keyed = |x: u32, y: u32| if block(x, y) { [(x % 16) as u8, y as u8, 40, 255] } else { [255, 0, 255, 255] };
    project.write("actors/keyed.png", png(32, 16, keyed));
    let pieces = [(1, 1, 6, 9), (9, 1, 12, 8), (23, 2, 5, 10)];
    let loose = |x: u32, y: u32| {
        let inside = pieces.iter().any(|&(l, t, w, h)| (l..l + w).contains(&x) && (t..t + h).contains(&y));
        [9, 9, 9, if inside { 255 } else { 0 }]
    };
    project.write("actors/loose.png", png(31, 14, loose));
    let mut turning = Vec::new();
    let mut encoder = gif::Encoder::new(&mut turning, 16, 16, &[0, 0, 0, 200, 90, 30]).unwrap();
    for shift in [0, 2] {
        let set = |x: u16, y: u16| u8::from(block(u32::from(x) + shift, y.into()));
        let buffer: Vec<u8> = (0..16).flat_map(|y| (0..16).map(move |x| set(x, y))).collect();
        let frame = gif::Frame {
            width: 16,
            height: 16,
            delay: 10,
            transparent: Some(0),
            buffer: buffer.into(),
            ..gif::Frame::default()
        };
        encoder.write_frame(&frame).unwrap();
    }
    drop(encoder);
    project.write("actors/turning.gif", turning);
    let said = [
        ("keyed.png", "key = \"#ff00ff\""),
        ("loose.png", "cut = \"gaps\""),
        ("turning.gif", "file = \"turning.gif\""),
    ];
    for (image, line) in said {
        let name = image.split('.').next().unwrap();
        let (image, target) = (format!("actors/{image}"), format!("actors/{name}.toml"));
        project.ok(&["sheet", &image, "--write", &target]);
        assert!(project.read(&target).contains(line), "{}", project.read(&target));
        project.ok(&["fit", name]);
        let fits = fits(&project, name);
        for frame in fits["frames"].as_array().unwrap() {
            let shape =
                |name: &str| frame["shapes"].as_array().unwrap().iter().find(|s| s["name"] == name).unwrap().clone();
            assert_eq!(shape("figure")["quality"]["iou"], 1.0, "{name}: blocks are outlined exactly");
            let bottom = support::points(&shape("figure")["points"]).iter().map(|p| p[1]).fold(f64::MIN, f64::max);
            assert_eq!(bottom, 0.0, "{name}: on its feet");
        }
        project.ok(&["lint", name, "--fail-on", "warn"]);
    }
    assert_eq!(fits(&project, "turning")["frames"][1]["ticks"], 6);
    assert_eq!(fits(&project, "turning")["frames"][1]["image_number"], 1);
    assert_eq!(fits(&project, "loose")["frames"].as_array().unwrap().len(), 3);
}
