//! Fits of the sample against counting pixels; what is kept, what is fitted again.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use std::collections::BTreeMap;
use support::{Project, area, pixels, points, rings};

/// The frames' selections as the actor file asks for them: opaque pixels of the paint, holes filled.
fn selection(project: &Project, frame: &Value, shape: &str) -> Vec<Vec<bool>> {
    let image = project.path("actors").join(frame["image"].as_str().unwrap());
    let (width, _, art) = pixels(&image);
    let paint: &[[u8; 3]] = match shape {
        "head" => &[[0xd9, 0xa0, 0x66]],
        "torso" => &[[0x4f, 0x6d, 0x7a]],
        "legs" => &[[0x6b, 0x4f, 0x3a]],
        "pole" => &[[0xe8, 0xc5, 0x47]],
        "body" | "body_low" => &[[0xd9, 0xa0, 0x66], [0x4f, 0x6d, 0x7a], [0x6b, 0x4f, 0x3a]],
        _ => &[],
    };
    let parts = image.with_extension("parts.png");
    let parts = parts.is_file().then(|| pixels(&parts).2);
    let rect: Vec<usize> = frame["rect"].as_array().unwrap().iter().map(|n| n.as_u64().unwrap() as usize).collect();
    let chosen = |x: usize, y: usize| {
        let at = (rect[1] + y) * width as usize + rect[0] + x;
        let painted = parts.as_ref().is_none_or(|parts| paint.contains(&[parts[at][0], parts[at][1], parts[at][2]]));
        art[at][3] >= 128 && painted
    };
    let mut set: Vec<Vec<bool>> = (0..rect[3]).map(|y| (0..rect[2]).map(|x| chosen(x, y)).collect()).collect();
    fill(&mut set);
    set
}

/// Fills what the outside does not reach by steps to the side.
fn fill(set: &mut [Vec<bool>]) {
    let (height, width) = (set.len() as i64, set[0].len() as i64);
    let mut reached = vec![vec![false; set[0].len()]; set.len()];
    let mut grown = true;
    while grown {
        grown = false;
        for y in 0..height {
            for x in 0..width {
                let open =
                    |x: i64, y: i64| x < 0 || y < 0 || x >= width || y >= height || reached[y as usize][x as usize];
                let from_outside = open(x - 1, y) || open(x + 1, y) || open(x, y - 1) || open(x, y + 1);
                if !set[y as usize][x as usize] && !reached[y as usize][x as usize] && from_outside {
                    reached[y as usize][x as usize] = true;
                    grown = true;
                }
            }
        }
    }
    for (row, reached) in set.iter_mut().zip(&reached) {
        row.iter_mut().zip(reached).for_each(|(pixel, reached)| *pixel = !reached);
    }
}

/// The area of a ring inside the pixel with its top left at (x, y), by clipping side by side.
fn inside_pixel(ring: &[[f64; 2]], x: f64, y: f64) -> f64 {
    let mut ring = ring.to_vec();
    for (axis, limit, sign) in [(0, x, 1.0), (0, x + 1.0, -1.0), (1, y, 1.0), (1, y + 1.0, -1.0)] {
        let depth = |p: [f64; 2]| (p[axis] - limit) * sign;
        let mut kept = Vec::new();
        for i in 0..ring.len() {
            let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
            let (da, db) = (depth(a), depth(b));
            if da >= 0.0 {
                kept.push(a);
            }
            if (da > 0.0 && db < 0.0) || (da < 0.0 && db > 0.0) {
                let share = da / (da - db);
                kept.push([a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share]);
            }
        }
        ring = kept;
    }
    if ring.is_empty() { 0.0 } else { area(&ring) }
}

fn each_shape(fits: &Value) -> impl Iterator<Item = (&Value, &Value)> {
    let frames = fits["frames"].as_array().unwrap();
    frames.iter().flat_map(|frame| frame["shapes"].as_array().unwrap().iter().map(move |shape| (frame, shape)))
}

fn fits(project: &Project, actor: &str) -> Value {
    serde_json::from_str(&project.read(&format!("actors/{actor}.fits.json"))).unwrap()
}

#[test]
fn quality_is_what_counting_pixels_says_and_covers_cover() {
    let project = Project::fitted();
    let covering = ["head", "torso", "legs", "feathers"];
    let mut measured = 0;
    for actor in ["keeper", "gull", "barrel"] {
        let fits = fits(&project, actor);
        for (frame, shape) in each_shape(&fits).filter(|(_, shape)| !shape["quality"].is_null()) {
            let name = shape["name"].as_str().unwrap();
            let place = format!("{actor} {} {} {name}", frame["animation"], frame["frame"]);
            let set = selection(&project, frame, name);
            let pivot = points(&Value::Array(vec![frame["pivot"].clone()]))[0];
            let rings = rings(&shape["points"]);
            let (mut shared, mut selected) = (0.0, 0.0);
            for (y, row) in set.iter().enumerate() {
                for x in row.iter().enumerate().filter_map(|(x, set)| set.then_some(x)) {
                    let (px, py) = (x as f64 - pivot[0], y as f64 - pivot[1]);
                    let inside: f64 = rings.iter().map(|ring| inside_pixel(ring, px, py)).sum();
                    let must = covering.contains(&name) || (actor == "barrel" && name == "body");
                    assert!(!must || (inside - 1.0).abs() < 1e-9, "{place}: pixel {x} {y} is {inside} inside");
                    shared += inside;
                    selected += 1.0;
                }
            }
            let outline: f64 = rings.iter().map(|ring| area(ring)).sum();
            let quality = |key: &str| shape["quality"][key].as_f64().unwrap();
            let iou = shared / (selected + outline - shared);
            assert!((quality("iou") - iou).abs() < 1e-9, "{place}: {iou} by counting, {}", quality("iou"));
            assert!((quality("covered") - shared / selected).abs() < 1e-9, "{place}");
            assert!((quality("excess") - (outline - shared)).abs() < 1e-6, "{place}");
            assert_eq!(quality("points") as usize, rings.iter().map(Vec::len).sum::<usize>(), "{place}");
            measured += 1;
        }
    }
    assert!(measured > 90, "only {measured} shapes have a quality");
}

#[test]
fn every_ring_is_simple_and_clockwise_and_its_pieces_tile_it() {
    let project = Project::fitted();
    for actor in ["keeper", "gull", "barrel"] {
        let (fits, cut) = (fits(&project, actor), project.pieces(actor));
        for (frame, shape) in each_shape(&fits) {
            let place = format!("{actor} {} {} {}", frame["animation"], frame["frame"], shape["name"]);
            let rings = rings(&shape["points"]);
            for ring in &rings {
                assert!(area(ring) > 0.0, "{place} runs clockwise");
                assert!(is_simple(ring), "{place} crosses itself");
            }
            let word = |value: &Value| value.as_str().unwrap().to_string();
            let pieces = &cut[&format!("{} {} {}", word(&frame["animation"]), frame["frame"], word(&shape["name"]))];
            let tiled: f64 = pieces.iter().map(|piece| area(piece)).sum();
            let whole: f64 = rings.iter().map(|ring| area(ring)).sum();
            assert!((tiled - whole).abs() < 1e-9 * whole, "{place}: {tiled} of {whole}");
            for piece in pieces {
                let n = piece.len();
                let turns = (0..n).map(|i| {
                    let (a, b, c) = (piece[i], piece[(i + 1) % n], piece[(i + 2) % n]);
                    (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])
                });
                assert!(turns.into_iter().all(|turn| turn > 0.0), "{place}: a piece is not convex");
            }
        }
    }
}

fn is_simple(ring: &[[f64; 2]]) -> bool {
    let n = ring.len();
    let side = |a: [f64; 2], b: [f64; 2], c: [f64; 2]| (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    (0..n).all(|i| {
        (i + 2..n).filter(|j| (j + 1) % n != i).all(|j| {
            let (a, b, c, d) = (ring[i], ring[(i + 1) % n], ring[j], ring[(j + 1) % n]);
            !(side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0)
        })
    })
}

#[test]
fn holds_share_one_geometry_and_the_narrower_body_wins() {
    let project = Project::fitted();
    let fits = fits(&project, "keeper");
    let mut bodies: BTreeMap<String, Vec<(String, Value)>> = BTreeMap::new();
    for (frame, shape) in each_shape(&fits).filter(|(_, shape)| shape["role"] == "body") {
        let of = bodies.entry(shape["name"].as_str().unwrap().to_string()).or_default();
        of.push((frame["animation"].as_str().unwrap().to_string(), shape["points"].clone()));
    }
    assert_eq!((bodies["body"].len(), bodies["body_low"].len()), (17, 2));
    assert!(bodies["body_low"].iter().all(|(animation, _)| animation == "crouch"));
    for frames in bodies.values() {
        assert!(frames.iter().all(|(_, points)| *points == frames[0].1), "one shape over all its frames");
    }
    // The strip below ends with the body's foot: its top is the body's bottom, 0.25 px in at each side, 2 px deep.
    let strip = each_shape(&fits).find(|(_, shape)| shape["name"] == "feet").unwrap().1;
    let foot = foot(&points(&bodies["body"][0].1), 2.0);
    let expected = [foot[0] + 0.25, 0.0, foot[1] - foot[0] - 0.5, 2.0];
    let found: Vec<f64> = strip["box"].as_array().unwrap().iter().map(|n| n.as_f64().unwrap()).collect();
    assert!(found.iter().zip(expected).all(|(a, b)| (a - b).abs() < 1e-3), "{found:?} {expected:?}");
}

/// The left and right end of what an outline has in its lowest px, found row by thin row.
fn foot(outline: &[[f64; 2]], deep: f64) -> [f64; 2] {
    let lowest = outline.iter().map(|at| at[1]).fold(f64::NEG_INFINITY, f64::max);
    let mut ends = [f64::INFINITY, f64::NEG_INFINITY];
    for row in 0..=20_000 {
        let y = lowest - deep * f64::from(row) / 20_000.0;
        for (a, b) in outline.iter().zip(outline.iter().cycle().skip(1)) {
            if a[1] != b[1] && (a[1] - y) * (b[1] - y) <= 0.0 {
                let x = a[0] + (b[0] - a[0]) * (y - a[1]) / (b[1] - a[1]);
                ends = [ends[0].min(x), ends[1].max(x)];
            }
        }
    }
    ends
}

#[test]
fn strips_are_linted_with_the_number_that_mends_them() {
    let project = Project::fitted();
    let linted = |project: &Project| -> Vec<Value> {
        let all = project.run(&["lint", "--format", "json"]).json()["findings"].clone();
        all.as_array().unwrap().iter().filter(|f| f["rule"].as_str().unwrap().ends_with("_strip")).cloned().collect()
    };
    assert_eq!(linted(&project), Vec::<Value>::new());
    let ends = "depth = 2\nends = \"shape\"                   # with the body's foot\n";
    project.edit("actors/keeper.toml", ends, "depth = 2\n");
    project.ok(&["fit"]);
    let wide = linted(&project);
    let body = fits(&project, "keeper");
    let body = each_shape(&body).find(|(_, shape)| shape["name"] == "body").unwrap().1["points"].clone();
    let (body, foot) = (points(&body), foot(&points(&body), 2.0));
    let right = body.iter().map(|at| at[0]).fold(f64::NEG_INFINITY, f64::max);
    assert_eq!((wide.len(), &wide[0]["rule"]), (1, &serde_json::json!("wide_strip")));
    let past = right - 0.25 - foot[1];
    assert!((wide[0]["figure"].as_f64().unwrap() - past).abs() < 0.01, "{past} {wide:?}");
    let fix = wide[0]["fix"].as_str().unwrap();
    assert!(fix.starts_with("Set `ends = \"shape\"` and `inset = 0.25` on feet"), "{fix}");
    // Along the box of a crouching body, which has square feet, without an inset; and deeper than it falls.
    project.edit("actors/keeper.toml", "depth = 2\nends = \"shape\"\ninset = 0.25", "depth = 9\ninset = 0");
    project.edit("actors/keeper.toml", "depth = 2\n", ends);
    project.ok(&["fit"]);
    let rules: Vec<String> = linted(&project).iter().map(|f| format!("{} {}", f["rule"], f["fix"])).collect();
    let expected =
        ["\"flush_strip\" \"Set `inset = 0.25` on feet_low.\"", "\"deep_strip\" \"Set `depth = 8` on feet_low.\""];
    assert_eq!(rules, expected);
}

#[test]
fn a_second_run_fits_nothing_and_changes_no_byte() {
    let project = Project::fitted();
    let before = project.files();
    let run = project.ok(&["fit"]);
    assert!(run.out.contains("keeper: 19 frames, 97 shapes, nothing to do"), "{}", run.out);
    assert_eq!(project.files(), before);
    project.ok(&["fit", "--all"]);
    assert_eq!(project.files(), before);
}

#[test]
fn only_what_changed_is_fitted_again() {
    let project = Project::fitted();
    project.edit("actors/keeper.toml", "tolerance = 1.5", "tolerance = 1.0");
    let stale = project.run(&["check", "takes/clean.csv"]);
    assert!(stale.err.contains("2 shapes of keeper are older"), "{}", stale.err);
    let run = project.ok(&["fit", "keeper"]);
    assert!(run.out.contains("2 shapes fitted, 95 unchanged"), "{}", run.out);
    let dry = Project::sample();
    let files = dry.files();
    dry.ok(&["fit", "--dry-run"]);
    assert_eq!(dry.files(), files, "--dry-run writes nothing");
}

#[test]
fn hand_edits_survive_every_run() {
    let project = Project::fitted();
    let mut fits = fits(&project, "gull");
    let edited = serde_json::json!([[-10.0, -12.0], [10.0, -12.0], [10.0, -2.0], [-10.0, -2.0]]);
    // One shape's points are changed, another is locked, a third is put there by hand.
    fits["frames"][0]["shapes"][0]["points"] = edited.clone();
    fits["frames"][1]["shapes"][0]["locked"] = true.into();
    let mut own = fits["frames"][2]["shapes"][0].clone();
    own["name"] = "perch".into();
    own["made"] = "".into();
    fits["frames"][2]["shapes"].as_array_mut().unwrap().push(own);
    project.write("actors/gull.fits.json", fits.to_string());
    project.edit("actors/gull.toml", "tolerance = 1.5", "tolerance = 2.0");
    for all in [&["fit"][..], &["fit", "--all"][..]] {
        let run = project.ok(all);
        assert!(run.out.contains("3 kept as a hand left them"), "{}", run.out);
        let after: Value = serde_json::from_str(&project.read("actors/gull.fits.json")).unwrap();
        assert_eq!(after["frames"][0]["shapes"][0]["points"], edited);
        let name = |key: &str| after["frames"][0][key].as_str().unwrap().to_string();
        let own = after["frames"][0]["shapes"][0]["name"].as_str().unwrap().to_string();
        let pieces = &project.pieces("gull")[&format!("{} 0 {own}", name("animation"))];
        assert_eq!(pieces[..], [points(&edited)], "pieces follow the points");
        assert_eq!(after["frames"][1]["shapes"][0]["points"], fits["frames"][1]["shapes"][0]["points"]);
        assert_eq!(after["frames"][2]["shapes"].as_array().unwrap().last().unwrap()["name"], "perch");
    }
    // A hand edit that is not a polygon is reported, and nothing is written over it.
    fits["frames"][0]["shapes"][0]["points"] = serde_json::json!([[0.0, 0.0], [9.0, 9.0], [9.0, 0.0], [0.0, 9.0]]);
    project.write("actors/gull.fits.json", fits.to_string());
    let before = project.files();
    project.refused(&["fit"], &["gull.fits.json", "body on glide 0", "is not a polygon", "fix its points"]);
    assert_eq!(project.files(), before);
}

#[test]
fn fits_of_the_version_before_are_read_and_a_hand_s_work_in_them_is_kept() {
    let project = Project::fitted();
    let now = project.read("actors/gull.fits.json");
    let mut old: Value = serde_json::from_str(&now).unwrap();
    old["schema"] = "finitor.fits/1".into();
    for frame in old["frames"].as_array_mut().unwrap() {
        frame["seen"] = "ueAACMljCAADMlBH4B5-DMl".into();
        for shape in frame["shapes"].as_array_mut().unwrap() {
            shape["pieces"] = serde_json::json!([[[0.0, 0.0], [1.0, 0.0], [0.0, 1.0]]]);
            if shape["quality"].is_object() {
                shape["quality"]["pieces"] = 1.into();
            }
        }
    }
    let edited = serde_json::json!([[-10.0, -12.0], [10.0, -12.0], [10.0, -2.0], [-10.0, -2.0]]);
    old["frames"][1]["shapes"][0]["points"] = edited.clone();
    // What is wrong with them is said, and not that they are old.
    let mut wrong = old.clone();
    wrong["frames"][1]["shapes"][0]["layer"] = "ground".into();
    project.write("actors/gull.fits.json", wrong.to_string());
    let told = project.refused(&["fit", "gull"], &["gull.fits.json", "ground"]);
    assert!(!told.err.contains("pieces"), "{}", told.err);
    project.write("actors/gull.fits.json", old.to_string());
    let diff = project.run(&["diff", "actors/gull.fits.json", "actors/gull.fits.json"]);
    assert_eq!(diff.code, 0, "{diff:?}");
    let run = project.ok(&["fit", "gull"]);
    assert!(run.out.contains("1 kept as a hand left") && run.out.contains(" 0 shapes fitted"), "{}", run.out);
    let after = fits(&project, "gull");
    assert_eq!((&after["schema"], &after["frames"][1]["shapes"][0]["points"]), (&"finitor.fits/2".into(), &edited));
    let own: Value = serde_json::from_str(&now).unwrap();
    assert_eq!(after["frames"][0], own["frames"][0], "what no hand changed is as it was");
}

#[test]
fn what_is_kept_of_a_frame_to_tell_what_changed_is_short() {
    let project = Project::fitted();
    for actor in ["keeper", "gull", "barrel"] {
        let fits = fits(&project, actor);
        let frames = fits["frames"].as_array().unwrap();
        let letters = frames.iter().map(|frame| frame["seen"].as_str().unwrap().len());
        assert!(letters.clone().all(|letters| (1..=600).contains(&letters)), "{actor}: {:?}", letters.max());
    }
}
