//! Shapes tuned elsewhere: brought in, kept, measured, and told where they go with nothing.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use std::fmt::Write;
use support::{Project, points, rings};

const SPACES: [&[&str]; 4] =
    [&[], &["--origin", "cell"], &["--y", "up", "--origin", "cell", "--unit", "4"], &["--y", "up", "--fixed", "8"]];

#[test]
fn what_was_exported_comes_back_without_a_change() {
    let project = Project::fitted();
    let before = project.files();
    for space in SPACES {
        for file in ["pack.json", "pack.cbor", "pack.csv"] {
            project.ok(&[&["export", "-o", file], space].concat());
            // A table does not say how it counts.
            let options = if file == "pack.csv" { space } else { &[] };
            let said = project.ok(&[&["import", file], options].concat()).out;
            assert!(said.contains(": 121 as they were, 121 of the mirrored facing\n"), "{file} {space:?}: {said}");
            std::fs::remove_file(project.path(file)).unwrap();
            assert_eq!(project.files(), before, "{file} {space:?}");
        }
    }
    // The mirrored facing alone is as good.
    let all = project.ok(&["export", "--to", "csv"]).out;
    let left: Vec<&str> = all.lines().filter(|line| !line.contains(",right,")).collect();
    project.write("left.csv", left.join("\n"));
    assert!(project.ok(&["import", "left.csv"]).out.contains(": 121 as they were\n"));
}

/// A shape by hand, in px from the pivot, y down.
enum Edit {
    Exact(&'static str, Vec<f64>),
    Points(Vec<[f64; 2]>),
}

fn random_edit(dice: &mut fastrand::Rng) -> Edit {
    let mut number = |low: i32, high: i32| f64::from(dice.i32(low * 8..high * 8)) / 8.0;
    let (x, y) = (number(-20, 20), number(-40, 0));
    match number(0, 4) as u32 {
        0 => Edit::Exact("box", vec![x, y, number(1, 20), number(1, 20)]),
        1 => Edit::Exact("circle", vec![x, y, number(1, 12)]),
        2 => Edit::Exact("capsule", vec![x, y, x + number(1, 9), y + number(1, 9), number(1, 6)]),
        _ => {
            // Round a middle, farther and nearer, so that it is simple and seldom convex.
            let count = number(3, 9) as u32;
            let corner = |i: u32| {
                let (sine, cosine) = (f64::from(i) * std::f64::consts::TAU / f64::from(count)).sin_cos();
                let far = number(3, 15);
                [(8.0 * (x + far * cosine)).round() / 8.0, (8.0 * (y + far * sine)).round() / 8.0]
            };
            Edit::Points((0..count).map(corner).collect())
        }
    }
}

/// A row of a table in a space, of a frame whose cell and pivot are known.
fn row(head: &str, edit: &Edit, space: usize, art: &Value) -> String {
    let pivot = points(&Value::from(vec![art["pivot"].clone()]))[0];
    let height = art["rect"][3].as_f64().unwrap();
    let at = |[x, y]: [f64; 2]| match space {
        0 => [x, y],
        1 => [x + pivot[0], y + pivot[1]],
        2 => [(x + pivot[0]) / 4.0, (height - y - pivot[1]) / 4.0],
        _ => [x * 256.0, -y * 256.0],
    };
    let length = |px: f64| [px, px, px / 4.0, px * 256.0][space];
    let low = |y: f64, h: f64| if space > 1 { y + h } else { y };
    let cells = match edit {
        Edit::Exact("box", n) => {
            let [x, y] = at([n[0], low(n[1], n[3])]);
            format!("{x},{y},{},{},,,,", length(n[2]), length(n[3]))
        }
        Edit::Exact("circle", n) => {
            let [x, y] = at([n[0], n[1]]);
            format!("{x},{y},,,,,{},", length(n[2]))
        }
        Edit::Exact(_, n) => {
            let ([x, y], [x2, y2]) = (at([n[0], n[1]]), at([n[2], n[3]]));
            format!("{x},{y},,,{x2},{y2},{},", length(n[4]))
        }
        Edit::Points(ring) => {
            let all = ring.iter().map(|p| at(*p)).map(|[x, y]| format!("{x} {y}"));
            format!(",,,,,,,{}", all.collect::<Vec<_>>().join(";"))
        }
    };
    format!("{head},{cells}\n")
}

#[test]
fn a_thousand_random_edits_survive_export_import_and_fit() {
    let project = Project::fitted();
    let pack = project.ok(&["export", "--to", "json", "--facing", "drawn"]).json();
    let mut dice = fastrand::Rng::with_seed(19);
    let mut all: Vec<(Value, Value, Value, Value)> = Vec::new();
    for actor in pack["actors"].as_array().unwrap() {
        for frame in actor["frames"].as_array().unwrap() {
            let side = &frame["sides"][0];
            for shape in side["shapes"].as_array().unwrap() {
                let address = serde_json::json!([actor["name"], frame["animation"], frame["frame"], shape["shape"]]);
                all.push((address, side["art"].clone(), frame.clone(), shape.clone()));
            }
        }
    }
    let mut edited = 0;
    for round in 0.. {
        if edited >= 1000 {
            break;
        }
        let space = round % SPACES.len();
        let mut table = "actor,animation,frame,shape,x,y,w,h,x2,y2,r,points\n".to_string();
        let mut edits: Vec<(&Value, Edit)> = Vec::new();
        for (address, art, ..) in all.iter().filter(|_| dice.bool()).collect::<Vec<_>>() {
            let edit = random_edit(&mut dice);
            let word = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_string);
            let head = address.as_array().unwrap().iter().map(word).collect::<Vec<_>>().join(",");
            write!(table, "{}", row(&head, &edit, space, art)).unwrap();
            edits.push((address, edit));
        }
        project.write("edits.csv", &table);
        let said = project.ok(&[&["import", "edits.csv"], SPACES[space]].concat()).out;
        assert!(!said.contains("Not matched"), "{said}");
        edited += edits.len();
        // Into a project that knows nothing of it, by way of a pack, and fitted again.
        project.ok(&["export", "--to", "json", "-o", "pack.json"]);
        let other = Project::fitted();
        other.write("pack.json", project.read("pack.json"));
        other.ok(&["import", "pack.json"]);
        other.ok(&["fit", "--all"]);
        for name in ["keeper", "gull", "barrel"] {
            let fits: Value = serde_json::from_str(&other.read(&format!("actors/{name}.fits.json"))).unwrap();
            for (address, edit) in edits.iter().filter(|(address, _)| address[0] == name) {
                let frames = fits["frames"].as_array().unwrap().iter();
                let frame = frames.clone().find(|f| f["animation"] == address[1] && f["frame"] == address[2]).unwrap();
                let shape = frame["shapes"].as_array().unwrap().iter().find(|s| s["name"] == address[3]).unwrap();
                assert_eq!(shape["locked"], true, "{address}");
                // Strips, and shapes given by their numbers, are fitted to no art, so nothing measures them.
                let is_free = shape["role"] == "sensor" || shape["name"] == "beak";
                assert_eq!(shape["quality"].is_object(), !is_free, "{address}");
                let near = |a: f64, b: f64| assert!((a - b).abs() < 1e-9, "{address} {shape}");
                match edit {
                    Edit::Exact(kind, numbers) => {
                        let found = shape[*kind].as_array().unwrap();
                        numbers.iter().zip(found).for_each(|(a, b)| near(*a, b.as_f64().unwrap()));
                    }
                    Edit::Points(ring) => {
                        let found = rings(&shape["points"]).concat();
                        assert_eq!(found.len(), ring.len(), "{address}");
                        for p in ring {
                            let far = |q: &[f64; 2]| (p[0] - q[0]).abs().max((p[1] - q[1]).abs());
                            near(found.iter().map(far).fold(f64::INFINITY, f64::min), 0.0);
                        }
                    }
                }
            }
        }
    }
}

#[test]
fn shapes_that_a_file_lacks_are_added_and_what_goes_with_nothing_is_told() {
    let project = Project::fitted();
    let before = project.files();
    let rows = "actor,animation,frame,shape,role,x,y,w,h,r,damage\n\
        gull,dive,0,claw,hit,20,14,6,4,,7\n\
        gull,dive,1,claw,hit,22,15,6,4,,7\n\
        gull,peck,1,claw,hit,22,15,,,3,7\n\
        gull,glide,9,body,body,8,10,16,8,,\n\
        gul,glide,0,body,body,8,10,16,8,,\n\
        gull,glid,0,body,body,8,10,16,8,,\n\
        gull,glide,1,bdy,,8,10,16,8,,\n\
        keeper,walk,0,head,hit,8,10,16,8,,\n\
        keeper,walk,0,pole,hit,8,10,16,8,,\n";
    project.write("tuned.csv", rows);
    let dry = project.ok(&["import", "tuned.csv", "--dry-run", "--origin", "cell"]).out;
    let reasons = [
        "line 5: glide has 4 frames, there is no frame 9",
        "line 6: there is no actor \"gul\"; did you mean \"gull\"?",
        "line 7: gull has no animation \"glid\"; did you mean \"glide\"?",
        "line 8: gull has no shape \"bdy\"; did you mean \"body\"?",
        "line 9: head of keeper is a hurt shape, the row says hit",
        "line 10: pole is not on walk 0; add the frame to `frames` or `animations` of [shape.pole]",
    ];
    assert!(reasons.iter().all(|reason| dry.contains(reason)), "{dry}");
    std::fs::remove_file(project.path("tuned.csv")).unwrap();
    assert_eq!(project.files(), before, "nothing is written");
    project.write("tuned.csv", rows);
    project.ok(&["import", "tuned.csv", "--origin", "cell"]);
    let text = project.read("actors/gull.toml");
    let own = std::str::from_utf8(&before["actors/gull.toml"]).unwrap();
    // On the layer of the gull's other hit, and with its mask.
    let added = "\n[shape.claw]\nrole = \"hit\"\nkind = \"box\"\nframes = { dive = \"0-1\", peck = \"1\" }\nlayer = \"strike\"\nmask = [\"hero\"]\ndamage = 7\n";
    assert_eq!(text, format!("{own}{added}"));
    assert!(project.ok(&["hits", "--moves", "gull"]).out.contains("peck claw"));
    project.ok(&["fit", "--all"]);
    let again = project.ok(&["import", "tuned.csv", "--origin", "cell"]).out;
    assert!(again.starts_with("tuned.csv: 3 as they were, 6 not matched\n"), "{again}");
    // Counted from the wrong place: that is seen.
    let wrong = project.ok(&["import", "tuned.csv", "--dry-run"]);
    assert!(wrong.err.contains("3 of 3 shapes lie outside their frame's picture; "), "{}", wrong.err);
    assert!(wrong.err.contains("add --origin cell"), "{}", wrong.err);
}

#[test]
fn broken_files_are_refused_by_line_and_nothing_is_written() {
    let project = Project::fitted();
    let before = project.files();
    let refused = |name: &str, text: &str, words: &[&str]| {
        project.write(name, text);
        project.refused(&["import", name], &[&[name], words].concat());
        std::fs::remove_file(project.path(name)).unwrap();
        assert_eq!(project.files(), before, "{text}");
    };
    refused("a.csv", "", &["is empty", "columns are actor,animation"]);
    refused("a.csv", "actor,animaton,frame,shape\n", &["no column \"animation\"", "is it \"animaton\"?"]);
    let head = "actor,animation,frame,shape,x,y,w,h,r,points\n";
    for (row, words) in [
        ("gull,glide,0,body,1,2,3,,,", "line 2: no shape: give x, y, w, h"),
        ("gull,glide,0,body,1,2,-3,4,,", "line 2: `w` and `h` must be above 0"),
        ("gull,glide,0,body,1,two,3,4,,", "line 2: `y` must be a number; found \"two\""),
        ("gull,glide,0,body,1,nan,3,4,,", "`y` must be a number"),
        ("gull,glide,one,body,1,2,3,4,,", "`frame` must be a whole number"),
        ("gull,glide,0,,1,2,3,4,,", "`shape` is empty"),
        ("gull,glide,0,body,1,2,,,0,", "`r` must be above 0"),
        ("gull,glide,0,body,,,,,,1 2;3", "`points` must be"),
    ] {
        refused("a.csv", &format!("{head}{row}\n"), &[words]);
    }
    refused("a.json", "{\"schema\": \"finitor.fits/1\"}", &["its schema is \"finitor.fits/1\"", "finitor.pack/1"]);
    refused("a.json", "{\"schema\": \"finitor.pack/1\"", &["line 1"]);
    refused("a.cbor", "x", &["is no CBOR"]);
    refused("a.txt", "x", &["none of .json, .cbor and .csv"]);
    project.refused(&["import", "none.csv"], &["none.csv", "cannot be read"]);
    // A crossed outline goes with nothing; the rest of the file does.
    project.write("b.csv", format!("{head}gull,glide,0,body,,,,,,0 0;9 9;9 0;0 9\ngull,glide,1,body,1,2,3,4,,\n"));
    let said = project.ok(&["import", "b.csv"]).out;
    assert!(
        said.starts_with("b.csv: 1 changed, 1 not matched") && said.contains("line 2: its points are no polygon"),
        "{said}"
    );
    project.ok(&["export", "-o", "p.json"]);
    project.refused(&["import", "p.json", "--y", "up"], &["a pack says itself how it counts"]);
}
