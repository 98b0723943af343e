//! Shapes edited in a vector editor: written as paths, read back point by point.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, points, rings};

/// What a hand does to a ring.
type Edit = dyn Fn(Vec<[f64; 2]>) -> Vec<[f64; 2]>;

const TORSO: &str = "id=\"keeper.walk.3.torso\" d=\"";

fn torso(project: &Project) -> Value {
    let fits: Value = serde_json::from_str(&project.read("actors/keeper.fits.json")).unwrap();
    let frame = fits["frames"]
        .as_array()
        .unwrap()
        .iter()
        .find(|f| f["animation"] == "walk" && f["frame"] == 3)
        .unwrap()
        .clone();
    frame["shapes"].as_array().unwrap().iter().find(|shape| shape["name"] == "torso").unwrap().clone()
}

/// The drawing of a fitted sample.
fn drawn() -> (Project, String) {
    let project = Project::fitted();
    project.ok(&["fit", "keeper", "--to-svg", "edit.svg"]);
    let text = project.read("edit.svg");
    (project, text)
}

/// The first ring of the torso's path, and the drawing with another in its place.
fn with_ring(text: &str, change: impl Fn(Vec<[f64; 2]>) -> Vec<[f64; 2]>) -> String {
    let start = text.find(TORSO).unwrap() + TORSO.len();
    let end = start + text[start..].find('Z').unwrap();
    let numbers: Vec<f64> = text[start..end]
        .split(|c: char| "ML ".contains(c))
        .filter(|n| !n.is_empty())
        .map(|n| n.parse().unwrap())
        .collect();
    let ring = change(numbers.chunks(2).map(|p| [p[0], p[1]]).collect());
    let data: Vec<String> = ring.iter().map(|[x, y]| format!("{x} {y}")).collect();
    format!("{}M{} {}", &text[..start], data.join(" L"), &text[end..])
}

#[test]
fn a_round_trip_without_edits_changes_no_byte() {
    let (project, text) = drawn();
    let before = project.files();
    let run = project.ok(&["fit", "keeper", "--from-svg", "edit.svg"]);
    assert!(run.out.contains("no point differs"), "{}", run.out);
    assert_eq!(project.files(), before);
    // An editor may wrap a frame in a group of its own, and move and turn that.
    let start = text.find("<g id=\"keeper.walk.3\"").unwrap();
    let end = start + text[start..].find("</g>").unwrap() + 4;
    let group = format!("<g transform=\"translate(30.5 -4) rotate(20) scale(1.5)\">{}</g>", &text[start..end]);
    project.write("wrapped.svg", format!("{}{group}{}", &text[..start], &text[end..]));
    let run = project.ok(&["fit", "keeper", "--from-svg", "wrapped.svg"]);
    assert!(run.out.contains("no point differs"), "{}", run.out);
    assert_eq!(project.files()["actors/keeper.fits.json"], before["actors/keeper.fits.json"]);
}

#[test]
fn moved_added_and_deleted_points_come_back_and_lock_the_shape() {
    let (project, text) = drawn();
    let whole = rings(&torso(&project)["points"])[0].len();
    let edits: [(&str, Box<Edit>, usize); 3] = [
        (
            "1 point moved",
            Box::new(|mut ring| {
                ring[0][0] -= 0.25;
                ring
            }),
            whole,
        ),
        (
            "1 point added",
            Box::new(|mut ring| {
                let (a, b) = (ring[0], ring[1]);
                ring.insert(1, [(a[0] + b[0]) / 2.0 - 0.2, (a[1] + b[1]) / 2.0 - 0.2]);
                ring
            }),
            whole + 1,
        ),
        (
            "1 point deleted",
            Box::new(|mut ring| {
                ring.remove(2);
                ring
            }),
            whole - 1,
        ),
    ];
    for (words, edit, count) in edits {
        let before = project.read("actors/keeper.fits.json");
        project.write("edited.svg", with_ring(&text, edit));
        let run = project.ok(&["fit", "keeper", "--from-svg", "edited.svg", "--dry-run"]);
        assert!(run.out.contains(&format!("keeper.walk.3.torso: {words}; locked")), "{}", run.out);
        assert_eq!(project.read("actors/keeper.fits.json"), before, "a dry run writes nothing");
        project.ok(&["fit", "keeper", "--from-svg", "edited.svg"]);
        let shape = torso(&project);
        assert_eq!(rings(&shape["points"])[0].len(), count, "{words}");
        assert_eq!(shape["locked"], true);
        let differ =
            before.lines().zip(project.read("actors/keeper.fits.json").lines()).filter(|(a, b)| a != b).count();
        assert_eq!(differ, 1, "one shape, one line");
        // It stays through fits, also of everything, until it is given up.
        project.ok(&["fit", "keeper", "--all"]);
        assert_eq!(torso(&project)["points"], shape["points"]);
        assert!(torso(&project)["quality"]["iou"].as_f64().unwrap() > 0.3, "it is measured as it is");
        project.ok(&["fit", "keeper", "--unlock", "--only", "torso"]);
        assert_eq!(
            project.read("actors/keeper.fits.json").lines().skip(1).collect::<Vec<_>>(),
            before.lines().skip(1).collect::<Vec<_>>()
        );
    }
}

#[test]
fn what_is_no_drawing_or_no_polygon_is_told_and_nothing_changes() {
    let (project, text) = drawn();
    let before = project.files();
    let refused = |svg: String, words: &[&str]| {
        project.write("bad.svg", svg);
        project.refused(&["fit", "keeper", "--from-svg", "bad.svg"], words);
        std::fs::remove_file(project.path("bad.svg")).unwrap();
        assert_eq!(project.files(), before);
    };
    refused(with_ring(&text, |ring| vec![ring[0], ring[1]]), &["bad.svg", "keeper.walk.3.torso", "at least 3"]);
    refused(
        with_ring(&text, |_| vec![[0.0, 0.0], [4.0, 4.0], [4.0, 0.0], [0.0, 4.0]]),
        &["keeper.walk.3.torso", "meets"],
    );
    refused(
        with_ring(&text, |mut ring| {
            ring[0] = [1e300 * 1e10, 0.0];
            ring
        }),
        &["keeper.walk.3.torso"],
    );
    refused(
        text.replacen(TORSO, "id=\"keeper.walk.2.torso\" d=\"", 1),
        &["two paths have the id \"keeper.walk.2.torso\""],
    );
    refused("<svg><g></svg>".into(), &["bad.svg", "line 1", "is no SVG"]);
    refused("<!DOCTYPE svg [<!ENTITY a \"aaaa\">]><svg>&a;</svg>".into(), &["bad.svg", "without a document type"]);
    refused(String::new(), &["bad.svg", "is no SVG"]);
    project.refused(&["fit", "keeper", "--from-svg", "none.svg"], &["none.svg", "cannot be read"]);
    // Paths that are gone are left as they are, strange ones passed over.
    project.write("odd.svg", text.replacen(TORSO, "id=\"my.sketch\" d=\"", 1));
    let run = project.ok(&["fit", "keeper", "--from-svg", "odd.svg"]);
    assert!(run.err.contains("1 shape not in") && run.err.contains("my.sketch"), "{}", run.err);
    assert_eq!(project.files()["actors/keeper.fits.json"], before["actors/keeper.fits.json"]);
}

#[test]
fn a_hole_drawn_into_a_shape_is_a_hole() {
    let (project, text) = drawn();
    let id = "id=\"keeper.walk.3.legs\" d=\"";
    let start = text.find(id).unwrap() + id.len();
    let end = start + text[start..].find('"').unwrap();
    let square = "M-8 -12 L8 -12 L8 0 L-8 0 Z M-4 -8 L4 -8 L4 -4 L-4 -4 Z";
    project.write("hole.svg", format!("{}{square}{}", &text[..start], &text[end..]));
    project.ok(&["fit", "keeper", "--from-svg", "hole.svg"]);
    let fits: Value = serde_json::from_str(&project.read("actors/keeper.fits.json")).unwrap();
    let frame =
        fits["frames"].as_array().unwrap().iter().find(|f| f["animation"] == "walk" && f["frame"] == 3).unwrap();
    let legs = frame["shapes"].as_array().unwrap().iter().find(|shape| shape["name"] == "legs").unwrap();
    assert_eq!(legs["holes"].as_array().unwrap().len(), 1);
    let tiled: f64 = project.pieces("keeper")["walk 3 legs"].iter().map(|piece| support::area(piece)).sum();
    assert!((tiled - (16.0 * 12.0 - 8.0 * 4.0)).abs() < 1e-9, "{tiled}");
    project.ok(&["fit", "keeper"]);
}

#[test]
fn a_frame_moved_alone_is_told_and_everywhere_moves_all_that_it_is_held_over() {
    let project = Project::empty();
    project.ok(&["new", "."]);
    project.ok(&["fit"]);
    let fits = "actors/hand.fits.json";
    let body_edges = || -> Vec<(f64, f64)> {
        let value: Value = serde_json::from_str(&project.read(fits)).unwrap();
        let right = |shapes: &Value, name: &str| {
            let shape = shapes.as_array().unwrap().iter().find(|shape| shape["name"] == name).unwrap();
            points(&shape["points"]).iter().map(|point| point[0]).fold(f64::MIN, f64::max)
        };
        let frames = value["frames"].as_array().unwrap();
        frames.iter().map(|frame| (right(&frame["shapes"], "body"), right(&frame["shapes"], "feet"))).collect()
    };
    let widen = |frame: usize, to: f64| {
        let mut value: Value = serde_json::from_str(&project.read(fits)).unwrap();
        let shapes = value["frames"][frame]["shapes"].as_array_mut().unwrap();
        let body = shapes.iter_mut().find(|shape| shape["name"] == "body").unwrap();
        (body["points"][1][0], body["points"][2][0]) = (to.into(), to.into());
        project.write(fits, serde_json::to_string(&value).unwrap());
    };
    let before = body_edges();
    let odd = |frame: usize| {
        let found = project.run(&["lint", "--format", "json"]).json();
        let found = found["findings"].as_array().unwrap().iter().find(|found| found["rule"] == "lone_edit").cloned();
        found.is_some_and(|found| found["figure"] == 2.0 && found["place"] == format!("walk {frame}"))
    };
    let (edge, strip) = before[0];
    for (frame, to) in [(3, edge + 2.0), (2, edge + 4.0)] {
        widen(frame, to);
        project.ok(&["fit"]);
        assert!(odd(frame - 2));
        project.ok(&["fit", "--everywhere"]);
        assert!(!odd(frame - 2));
        // The strip under it goes along.
        assert_eq!(body_edges(), vec![(to, strip + to - edge); 6]);
    }
    widen(0, 9.0);
    widen(4, 5.5);
    let unlike = ["body was edited in different ways on idle 0 and", "--unlock --only body"];
    project.refused(&["fit", "--everywhere"], &unlike);
    project.ok(&["fit", "--unlock", "--only", "body"]);
    project.ok(&["fit", "--all"]);
    assert_eq!(body_edges(), before);
}

/// What lint asks for can be followed: a box that is given is widened in its file, one that a hand changed by hand.
#[test]
fn a_lopsided_body_is_mended_where_it_comes_from() {
    let project = Project::fitted();
    let lopsided = |project: &Project| -> Vec<String> {
        let found = project.run(&["lint", "--format", "json"]).json();
        let findings = found["findings"].as_array().unwrap().clone();
        let own = findings.into_iter().filter(|of| of["rule"] == "lopsided" && of["subject"] == "keeper");
        own.map(|of| of["fix"].as_str().unwrap().to_string()).collect()
    };
    assert!(
        lopsided(&project).iter().all(|fix| fix.starts_with("Set `symmetric = true` on body_low")),
        "{:?}",
        lopsided(&project)
    );
    let fits = project.read("actors/keeper.fits.json");
    // One line a shape.
    let lock = |line: &str| match line.contains("\"body_low\"") {
        true => line.replace("\"locked\":false", "\"locked\":true"),
        false => line.to_string(),
    };
    let locked: String = fits.lines().map(|line| lock(line) + "\n").collect();
    assert_ne!(locked.trim(), fits.trim());
    project.write("actors/keeper.fits.json", &locked);
    let fixes = lopsided(&project);
    assert!(
        !fixes.is_empty()
            && fixes.iter().all(|fix| fix.starts_with("Widen body_low") && fix.contains("--unlock --only body_low")),
        "{fixes:?}"
    );
    // Nothing is written for it by itself.
    let before = project.read("actors/keeper.toml");
    project.run(&["lint", "--apply"]);
    assert_eq!(project.read("actors/keeper.toml"), before);
    assert!(lopsided(&project).iter().all(|fix| fix.starts_with("Widen body_low")));
}
