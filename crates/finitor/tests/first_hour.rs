//! What names, folders and options say of pictures before anything is typed.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::{Project, png};

/// A block of 10 x 14 px that stands `low` px over the lower edge of a cell of 24 x 24, moved aside a little.
fn block(aside: u32, low: u32) -> Vec<u8> {
    png(24, 24, |x, y| {
        let inside = (7 + aside..17 + aside).contains(&x) && (10 - low..24 - low).contains(&y);
        [80, (x * 9) as u8, 60, if inside { 255 } else { 0 }]
    })
}

/// The lines of a file that hold a key, without comments.
fn lines(text: &str, key: &str) -> Vec<String> {
    let own = text.lines().filter(|line| line.split('=').next().unwrap().trim() == key);
    own.map(|line| line.split('#').next().unwrap().trim().to_string()).collect()
}

#[test]
fn names_say_whose_the_art_is_which_way_it_looks_and_what_is_a_frame() {
    let project = Project::empty();
    for (motion, low) in [("walk_left", 0), ("walk_right", 0), ("jump_right", 4)] {
        for frame in 1..=3 {
            project.write(&format!("heap/mop_{motion}_{frame}.png"), block(frame - 1, low * (frame - 1)));
        }
    }
    // What the first pattern must not take along.
    project.write("heap/mop_walk_left_2b.png", block(0, 0));
    for letter in ["a", "b"] {
        project.write(&format!("heap/mop_wave_{letter}.png"), block(0, 0));
    }
    let made = project.ok(&["new", "game", "--from", "heap"]);
    assert!(made.out.contains("mop, with 12 frames"), "{}", made.out);
    let actor = project.read("game/actors/mop.toml");
    let of = |name: &str| {
        let (_, rest) = actor.split_once(&format!("[animation.{name}]")).unwrap_or_else(|| panic!("{name}: {actor}"));
        rest.split("\n[").next().unwrap().to_string()
    };
    assert_eq!(lines(&of("walk_left"), "faces"), ["faces = \"left\""]);
    assert_eq!(lines(&of("walk_left"), "stands_for"), ["stands_for = \"walk_right\""]);
    assert_eq!(lines(&of("walk_right"), "faces"), [""; 0]);
    let listed = "files = [\"mop_walk_left_1.png\", \"mop_walk_left_2.png\", \"mop_walk_left_3.png\"]";
    assert_eq!(lines(&of("walk_left"), "files"), [listed], "a pattern would take 2b along");
    assert_eq!(lines(&of("walk_right"), "files"), ["files = \"mop_walk_right_[0-9]*.png\""]);
    assert_eq!(lines(&of("wave"), "files"), ["files = [\"mop_wave_a.png\", \"mop_wave_b.png\"]"]);
    assert_eq!(lines(&of("walk_right"), "standing"), ["standing = true"]);
    assert_eq!(lines(&of("jump_right"), "standing"), [""; 0]);
    project.ok(&["fit", "--project", "game"]);
    project.ok(&["lint", "--project", "game", "--fail-on", "warn"]);
    // Where names have nothing in common the folder says whose they are.
    project.write("rook/walk.png", block(0, 0));
    project.write("rook/idle.png", block(1, 0));
    let made = project.ok(&["new", "other", "--from", "rook/walk.png", "rook/idle.png"]);
    assert!(made.out.contains("rook, with 2 frames"), "{}", made.out);
}

#[test]
fn motions_and_sides_in_names_of_files_are_not_the_actors() {
    let project = Project::empty();
    let starter = |folder: &str, files: &[&str], actor: &str| {
        files.iter().for_each(|file| project.write(&format!("{folder}/{file}.png"), block(0, 0)));
        project.ok(&["new", &format!("of_{folder}"), "--from", folder]);
        project.read(&format!("of_{folder}/actors/{actor}.toml"))
    };
    let sides = |starter: &str| [lines(starter, "faces"), lines(starter, "stands_for")];
    let files = ["Crab-Walk-East-01", "Crab-Walk-East-02", "Crab-Walk-West-01", "Crab-Walk-West-02"];
    let found = sides(&starter("compass", &files, "Crab"));
    assert_eq!(found, [vec!["faces = \"right\"", "faces = \"left\""], vec!["stands_for = \"Walk-East\""]]);
    let found = sides(&starter("letters", &["gull_fly_l0", "gull_fly_l1", "gull_fly_r0", "gull_fly_r1"], "gull"));
    assert_eq!(found, [vec!["faces = \"right\"", "faces = \"left\""], vec!["stands_for = \"fly_r\""]]);
    let files = ["n", "ne", "e", "se", "s", "sw", "w", "nw"].map(|way| format!("rook_walk_{way}_0"));
    let again = files.iter().map(|file| file.replace("_0", "_1"));
    let all: Vec<String> = files.iter().cloned().chain(again).collect();
    let found = sides(&starter("ways", &all.iter().map(String::as_str).collect::<Vec<_>>(), "rook"));
    let others = ["walk_ne", "walk_se", "walk_e"].map(|other| format!("stands_for = \"{other}\""));
    assert_eq!(found[1], others, "of the north-west, the south-west and the west");
    let files = ["Old Barrel roll 1", "Old Barrel roll 2", "Old Barrel open 1", "Old Barrel open 2"];
    assert!(starter("spaces", &files, "Old_Barrel").contains("[animation.roll]"));
    assert!(starter("alone", &["moleJump1", "moleJump2"], "mole").contains("[animation.Jump]"));
    // Numbers alone are called after their folder.
    assert!(starter("mop", &["0001", "0002"], "mop").contains("[animation.mop]"));
}

#[test]
fn art_may_stay_where_it_is_and_what_is_mixed_up_is_named() {
    let project = Project::empty();
    project.write("here/mop.png", block(0, 0));
    project.refused(&["new", "here/mop.png"], &["is a picture", "`finitor new mop --from here/mop.png`"]);
    project.refused(&["new", "here"], &["not empty", "`finitor new here --from here`"]);
    project.write("bare/notes.txt", "");
    project.refused(&["new", "game", "--from", "bare"], &["neither the folder nor one in it holds a picture"]);
    project.write("deep/crab/walk/1.png", block(0, 0));
    project.refused(&["new", "game", "--from", "deep"], &["pictures lie deeper: name crab"]);
    assert!(!project.path("game").exists());
    project.ok(&["new", "here", "--from", "here"]);
    assert!(!project.path("here/actors/mop.png").exists(), "not copied");
    assert!(project.read("here/actors/mop.toml").contains("image = \"../mop.png\""));
    project.ok(&["fit", "--project", "here"]);
    project.ok(&["check", "takes/first.csv", "--project", "here", "--fail-on", "note"]);
    project.refused(&["new", "here", "--from", "here"], &["not empty"]);
    project.write("art/mop.png", block(0, 0));
    project.refused(&["new", "small", "--from", "art", "--stage", "64x64"], &["64 x 64 px is too small", "288x144"]);
    project.ok(&["new", "wide", "--from", "art", "--stage", "640x200"]);
    assert!(project.read("wide/stages/yard.toml").contains("size = [640, 200]"));
}

#[test]
fn both_commands_take_the_same_options() {
    let project = Project::empty();
    // Two rows of three frames.
    let sheet = png(72, 48, |x, y| {
        let inside = (7..17).contains(&(x % 24)) && (10..24).contains(&(y % 24));
        [9, (x + y) as u8, 9, if inside { 255 } else { 0 }]
    });
    project.write("mop.png", sheet);
    let options = ["--cell", "24x24", "--row", "walk,ladder", "--name", "bo", "--faces", "left", "--alpha", "64"];
    project.ok(&[&["new", "game", "--from", "mop.png"][..], &options].concat());
    project.write("game/actors/mop.png", std::fs::read(project.path("mop.png")).unwrap());
    let (image, target) = ("game/actors/mop.png", "game/actors/again.toml");
    project.ok(&[&["sheet", image, "--write", target][..], &options].concat());
    let (new, sheet) = (project.read("game/actors/bo.toml"), project.read(target));
    assert_eq!(new, sheet);
    for line in
        ["name = \"bo\"", "faces = \"left\"", "[animation.walk]", "[animation.ladder]", "cell = [24, 24]", "alpha = 64"]
    {
        assert!(new.contains(line), "{line}: {new}");
    }
    project.refused(
        &["sheet", image, "--write", "game/actors/x.toml", "--row", "up hill"],
        &["--row", "\"up hill\"", "cannot be a name"],
    );
    project.refused(&["sheet", image, "--by-gaps"], &["`--by-gaps` is now called `--gaps`"]);
    // Margins and gaps may differ across and down, as other readings may.
    let apart = ["sheet", image, "--cell", "30x20", "--margin", "6,4", "--format", "json"];
    let grid = project.ok(&apart).json()["groups"][0]["images"][0]["grid"].clone();
    assert_eq!(grid, serde_json::json!({ "cell_px": [30, 20], "margin_px": [6, 4], "gap_px": [0, 0] }));
    project.refused(&["sheet", image, "--cell", "30x20", "--margin", "6,x"], &["3,5 across and down"]);
    project.ok(&["new", "whole", "--from", "mop.png", "--whole"]);
    assert!(project.read("whole/actors/mop.toml").contains("cells = \"0\""));
}

#[test]
fn glow_and_shadow_are_no_feet() {
    let project = Project::empty();
    // A block that ends at y 20, a shadow of 3 px under it, and a faint edge around it.
    let soft = png(24, 24, |x, y| {
        let alpha = match (x, y) {
            (7..17, 6..20) => 255,
            (5..19, 20..23) => 90,
            (6..18, 5..20) => 100,
            _ => 0,
        };
        [90, 40, 40, alpha]
    });
    project.write("mop.png", soft);
    project.ok(&["new", "game", "--from", "mop.png"]);
    assert!(
        project.read("game/actors/mop.toml").contains("pivot = [12, 20]"),
        "{}",
        project.read("game/actors/mop.toml")
    );
    project.ok(&["fit", "--project", "game"]);
    project.ok(&["lint", "--project", "game", "--fail-on", "warn"]);
    let found = project.ok(&["check", "takes/first.csv", "--project", "game", "--format", "json", "--fail-on", "note"]);
    assert_eq!(found.take()["findings"], serde_json::json!([]));
    project.ok(&["new", "faint", "--from", "mop.png", "--alpha", "80"]);
    assert!(project.read("faint/actors/mop.toml").contains("pivot = [12, 23]"));
}

#[test]
fn a_picture_like_its_siblings_is_one_frame_and_another_reading_is_told_with_its_options() {
    let project = Project::empty();
    // Two equal blocks side by side look like two frames, unless others of their size in the folder are one.
    let pair = png(48, 24, |x, y| [9, 9, 9, if (7..17).contains(&(x % 24)) && y > 9 { 255 } else { 0 }]);
    let one =
        |shift: u32| png(48, 24, move |x, y| [9, 9, 9, if (10 + shift..38).contains(&x) && y > 9 { 255 } else { 0 }]);
    project.write("alone/gate.png", &pair);
    project.write("heap/gate.png", &pair);
    for (name, shift) in [("wall", 0), ("arch", 3), ("door", 5)] {
        project.write(&format!("heap/{name}.png"), one(shift));
    }
    let seen = |path: &str| project.ok(&["sheet", path, "--format", "json"]).json();
    let frames = |list: &serde_json::Value, name: &str| {
        let groups = list["groups"].as_array().unwrap();
        let group = groups.iter().find(|group| group["name"] == name).unwrap();
        group["images"][0]["cells"].as_array().unwrap().len()
    };
    assert_eq!(frames(&seen("alone"), "gate"), 2);
    let heap = seen("heap");
    assert_eq!(frames(&heap, "gate"), 1);
    let gate = heap["groups"].as_array().unwrap().iter().find(|group| group["name"] == "gate").unwrap();
    let other = &gate["images"][0]["others"][0];
    assert!(other["options"].as_str().unwrap().starts_with("--cell 24x24"), "{other}");
    let options: Vec<&str> = other["options"].as_str().unwrap().split(' ').collect();
    let cut = project.ok(&[&["sheet", "heap/gate.png", "--format", "json"][..], &options].concat()).json();
    assert_eq!(frames(&cut, "gate"), 2, "the options give what they say");
}

#[test]
fn boxes_drawn_round_frames_are_no_art_and_what_spoils_a_sheet_is_named() {
    let project = Project::empty();
    let figure = |x: u32, y: u32| {
        let (column, x) = (x / 32, x % 32);
        x.abs_diff(15) < 5 + column % 2 && (8 + column % 3..30).contains(&y)
    };
    // Boxes of 30 x 30 px, 2 px apart.
    let boxed = png(128, 32, |x, y| match (x % 32, y) {
        (30.., _) | (_, 30..) => [0; 4],
        (0 | 29, _) | (_, 0 | 29) => [0, 160, 255, 255],
        (_, y) => [90, 50, 30, if figure(x, y) { 255 } else { 0 }],
    });
    project.write("imp_boxed.png", boxed);
    let seen = project.ok(&["sheet", "imp_boxed.png"]);
    assert!(seen.out.contains("28 x 28 px: 4 columns, 1 row, 4 of 4 cells used"), "{}", seen.out);
    project.ok(&["new", "boxed", "--from", "imp_boxed.png"]);
    project.ok(&["fit", "--project", "boxed"]);
    project.ok(&["lint", "--project", "boxed", "--fail-on", "warn"]);
    // The figure is 9 or 11 px wide, a box 30.
    let fits: serde_json::Value = serde_json::from_str(&project.read("boxed/actors/imp_boxed.fits.json")).unwrap();
    let frames = fits["frames"].as_array().unwrap();
    assert_eq!(frames.len(), 4);
    for shape in frames.iter().flat_map(|frame| frame["shapes"].as_array().unwrap()) {
        let points = support::points(&shape["points"]);
        assert!(points.iter().all(|point| point[0].abs() <= 8.0 && point[1] >= -24.0), "{shape}");
    }
    let board = png(128, 32, |x, y| match figure(x, y) {
        true => [90, 50, 30, 255],
        false if (x / 8 + y / 8).is_multiple_of(2) => [255; 4],
        false => [204, 204, 204, 255],
    });
    project.write("imp_board.png", board);
    let told = "NOT transparent: squares of #ffffff and #cccccc";
    let made = project.ok(&["new", "painted", "--from", "imp_board.png"]);
    assert!(made.out.contains(told), "{}", made.out);
    assert_eq!(lines(&project.read("painted/actors/imp_board.toml"), "cell"), ["cell = [32, 32]"]);
    assert_eq!(lines(&project.read("painted/actors/imp_board.toml"), "key"), [""; 0]);
    let seen = project.ok(&["sheet", "imp_board.png"]);
    assert!(seen.out.lines().next().unwrap().contains(told), "{}", seen.out);
    let words = |x: u32, y: u32| x < 90 && x % 6 < 4 && (2..8).contains(&y) && !(x + y).is_multiple_of(3);
    let headed = png(128, 74, |x, y| {
        let is_art = if y < 10 { words(x, y) } else { figure(x, (y - 10) % 32) };
        [90, 50, 30, if is_art { 255 } else { 0 }]
    });
    project.write("imp_headed.png", headed);
    let told = "y 2 to 7 look like words above the frames: no cell holds them, the first begins at y 10";
    assert!(project.ok(&["sheet", "imp_headed.png"]).out.contains(told));
    assert!(project.ok(&["new", "headed", "--from", "imp_headed.png"]).out.contains(told));
    let cut = project.read("headed/actors/imp_headed.toml");
    assert_eq!(["cell", "margin"].map(|key| lines(&cut, key).concat()), ["cell = [32, 32]", "margin = [0, 10]"]);
    project.ok(&["fit", "--project", "headed"]);
    project.ok(&["lint", "--project", "headed", "--fail-on", "warn"]);
    // Of cells that reach into them it is said that they are wrong; those that begin below may be given.
    let given = project.ok(&["sheet", "imp_headed.png", "--cell", "32x37"]);
    assert!(given.out.contains("cut them off the picture, or its cells are wrong"), "{}", given.out);
    let given =
        project.ok(&["sheet", "imp_headed.png", "--cell", "32x32", "--margin", "0,10", "--format", "json"]).json();
    let image = &given["groups"][0]["images"][0];
    assert_eq!(image["words"], serde_json::json!([{ "rows_px": [2, 8], "in_cells": false }]));
    assert_eq!(image["cells"].as_array().unwrap().len(), 8);
    assert!(!project.ok(&["sheet", "imp_boxed.png"]).out.contains("look like words"));
    let seen = project.ok(&["sheet", "imp_board.png", "--format", "json"]).json();
    assert_eq!(seen["groups"][0]["images"][0]["painted"], serde_json::json!(["#ffffff", "#cccccc"]));
}
