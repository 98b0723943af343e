//! What a game loads, read back by others than the program: the same in every format and the same as the fits, in each space.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;
use support::{Project, area, points, rings};

/// The spaces that are tried, and the binary digits behind the point.
const SPACES: [(&[&str], f64); 4] = [
    (&[], 1.0),
    (&["--y", "up", "--origin", "cell", "--winding", "counterclockwise"], 1.0),
    (&["--y", "up", "--unit", "16", "--fixed", "8"], 256.0),
    (&["--facing", "drawn", "--only", "body,pole", "--piece-points", "3"], 1.0),
];

fn export(project: &Project, file: &str, space: &[&str]) {
    project.ok(&[&["export", "-o", file], space].concat());
}

fn list(value: &Value) -> &[Value] {
    value.as_array().map_or(&[], Vec::as_slice)
}

fn numbers(value: &Value) -> Vec<f64> {
    match value {
        Value::Array(items) => items.iter().flat_map(numbers).collect(),
        _ => value.as_f64().into_iter().collect(),
    }
}

/// What the programs of tests/readers print, from the JSON.
fn lines(pack: &Value) -> Vec<(String, Vec<f64>)> {
    let word = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_string);
    let mut all = Vec::new();
    for actor in list(&pack["actors"]) {
        for frame in list(&actor["frames"]) {
            for side in list(&frame["sides"]) {
                for shape in list(&side["shapes"]) {
                    let of = list(&actor["shapes"]).iter().find(|of| of["name"] == shape["shape"]).unwrap();
                    let head = [
                        &actor["name"],
                        &frame["animation"],
                        &frame["frame"],
                        &frame["ticks"],
                        &side["facing"],
                        &of["name"],
                        &of["layer"],
                        &of["mask"],
                    ];
                    let exact = ["box", "circle", "capsule"].iter().flat_map(|kind| numbers(&shape[*kind]));
                    let rings = ["outline", "holes", "pieces"].iter().flat_map(|part| numbers(&shape[*part]));
                    all.push((head.map(word).join(" "), exact.chain(rings).collect()));
                }
            }
        }
    }
    for stage in list(&pack["stages"]) {
        for thing in ["solids", "one_ways", "zones"].iter().flat_map(|sort| list(&stage[*sort])) {
            let head = [&stage["name"], &thing["name"], &thing["layer"], &thing["mask"]].map(word).join(" ");
            all.push((head, ["outline", "holes", "pieces"].iter().flat_map(|part| numbers(&thing[*part])).collect()));
        }
    }
    all
}

/// What shapes, layers and states mean, in the words of the readers.
fn meanings(pack: &Value) -> Vec<(String, Vec<f64>)> {
    let word = |value: &Value| value.as_str().unwrap_or("-").to_string();
    let number = |of: &Value, key: &str| of[key].as_f64().unwrap_or(0.0);
    let mut all = Vec::new();
    for actor in list(&pack["actors"]) {
        for of in list(&actor["shapes"]) {
            let mut head = vec![&actor["name"], &of["name"], &of["settle"], &of["blocked_from"]];
            head.extend(of["part_anchors"].as_array().into_iter().flatten().map(|of| &of["anchor"]));
            let head: Vec<String> = head.into_iter().map(word).collect();
            all.push((head.join(" "), vec![number(of, "again_after"), number(of, "blocked_by")]));
        }
    }
    let layers = &pack["layers"];
    for alias in list(&layers["aliases"]) {
        all.push((format!("{} {}", word(&layers["contact"]), word(&alias["name"])), vec![number(alias, "layers")]));
    }
    for state in list(&layers["states"]) {
        for of in list(&state["changes"]) {
            let bits = ["layer", "add", "drop", "join", "leave"].map(|key| number(of, key));
            all.push((word(&state["name"]), bits.to_vec()));
        }
    }
    all
}

/// What a reader printed.
fn printed(text: &str) -> Vec<(String, Vec<f64>)> {
    let line = |line: &str| {
        let (head, rest) = line.split_once(':').unwrap();
        (head.to_string(), rest.split_whitespace().filter_map(|word| word.parse().ok()).collect())
    };
    text.lines().map(line).collect()
}

/// Runs a program in a folder; `None` where the machine does not have it.
fn run(folder: &Path, command: &[&str]) -> Option<String> {
    let done = match Command::new(command[0]).args(&command[1..]).current_dir(folder).output() {
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => return None,
        done => done.unwrap(),
    };
    assert!(done.status.success(), "{command:?}: {}", String::from_utf8_lossy(&done.stderr));
    Some(String::from_utf8(done.stdout).unwrap())
}

/// What the outputs of C, Rust and Lua are, those that the machine has.
fn read_by_languages(project: &Project) -> Vec<(&'static str, String)> {
    for (file, text) in [
        ("all.c", include_str!("readers/all.c")),
        ("all.rs", include_str!("readers/all.rs")),
        ("all.lua", include_str!("readers/all.lua")),
    ] {
        project.write(&format!("out/{file}"), text);
    }
    let folder = project.path("out");
    let rustc = option_env!("RUSTC").unwrap_or("rustc");
    let strict = ["-std=c99", "-Wall", "-Wextra", "-Wpedantic", "-Werror"];
    let here = |name: &str| folder.join(name).to_string_lossy().into_owned();
    let built = |command: &[&str], name: &str| run(&folder, command).and_then(|_| run(&folder, &[&here(name)]));
    let found = [
        ("C", built(&[&["cc"], &strict[..], &["all.c", "-o", "all_c"]].concat(), "all_c")),
        ("C++", built(&["c++", "-x", "c++", "-std=c++11", "-Wall", "-Werror", "all.c", "-o", "all_cpp"], "all_cpp")),
        ("Rust", built(&[rustc, "--edition", "2021", "all.rs", "-o", "all_rs"], "all_rs")),
        ("Lua", ["lua5.4", "lua"].iter().find_map(|lua| run(&folder, &[lua, "all.lua"]))),
    ];
    found.into_iter().filter_map(|(name, said)| Some((name, said?))).collect()
}

#[test]
fn every_format_reads_back_as_the_same_values() {
    let project = Project::fitted();
    let struck =
        "damage = 10\nsettle = \"nearest\"\nagain_after = 12\nblocked_by = [\"ground\"]\nblocked_from = \"lamp\"";
    project.edit("actors/keeper.toml", "damage = 10", struck);
    project.ok(&["fit"]);
    for (space, _) in SPACES {
        for ending in ["json", "cbor", "csv", "svg", "h", "rs", "lua"] {
            export(&project, &format!("out/pier.{ending}"), space);
        }
        let text = project.read("out/pier.json");
        let pack: Value = serde_json::from_str(&text).unwrap();
        let small = project.ok(&[&["export", "--to", "json", "--small"], space].concat()).out;
        assert_eq!(serde_json::from_str::<Value>(&small).unwrap(), pack);
        assert!(small.len() < text.len() && small.lines().count() == 1);
        let bytes = std::fs::read(project.path("out/pier.cbor")).unwrap();
        assert_eq!(ciborium::from_reader::<Value, _>(&bytes[..]).unwrap(), pack, "{space:?}");
        assert!(bytes.len() < small.len());
        let (mut expected, stage_lines) = (lines(&pack), |line: &(String, Vec<f64>)| line.0.starts_with("pier "));
        assert!(expected.len() > 25, "{space:?}");
        let stages = expected.iter().position(stage_lines).unwrap_or(expected.len());
        let meant = meanings(&pack);
        for known in ["ghost", "either footing", "keeper pole nearest lamp"] {
            assert!(space.contains(&"--only") || meant.iter().any(|(head, _)| head == known), "{known}: {meant:?}");
        }
        expected.splice(stages..stages, meant);
        for (language, said) in read_by_languages(&project) {
            assert_eq!(printed(&said), expected, "{language} {space:?}");
        }
        check_csv(&project.read("out/pier.csv"), &pack);
        check_svg(&project.read("out/pier.svg"), &pack);
    }
}

/// Rows have the exact numbers where there are any, else those of the rings.
fn check_csv(text: &str, pack: &Value) {
    let mut rows = csv::Reader::from_reader(text.as_bytes());
    let header = rows.headers().unwrap().clone();
    let mut count = 0;
    for (row, (head, of_pack)) in rows.records().map(Result::unwrap).zip(lines(pack)) {
        let cell = |name: &str| &row[header.iter().position(|known| known == name).unwrap()];
        let words: Vec<&str> = head.split(' ').collect();
        let exact: Vec<f64> =
            ["x", "y", "x2", "y2", "w", "h", "r"].iter().filter_map(|name| cell(name).parse().ok()).collect();
        let points = cell("points").split(['/', '|', ';', ' ']).filter_map(|word| word.parse().ok());
        let all: Vec<f64> = if exact.is_empty() { points.collect() } else { exact };
        assert_eq!(all, of_pack[..all.len()], "{head}");
        let named = [cell("actor"), cell("animation"), cell("frame"), cell("facing"), cell("shape")];
        let of = match cell("stage") {
            "" => [words[0], words[1], words[2], words[4], words[5]],
            stage => {
                assert_eq!(stage, words[0]);
                ["", "", "", "", words[1]]
            }
        };
        assert_eq!(named, of);
        count += 1;
    }
    assert_eq!(count, lines(pack).len());
}

fn check_svg(text: &str, pack: &Value) {
    let document = roxmltree::Document::parse(text).unwrap();
    let paths = document.descendants().filter(|node| node.has_tag_name("path"));
    let mut count = 0;
    for (path, (head, of_pack)) in paths.zip(lines(pack)) {
        let name = path.attribute("data-shape").unwrap();
        assert!(head.contains(&format!(" {name} ")), "{head}");
        let numbers: Vec<f64> =
            path.attribute("d").unwrap().split(['M', 'L', 'Z', ' ']).filter_map(|word| word.parse().ok()).collect();
        assert!(of_pack.windows(numbers.len()).any(|part| part == numbers), "{head}");
        count += 1;
    }
    assert_eq!(count, lines(pack).len());
}

/// The shapes of a frame by name, in local px with y down, out of whatever space the pack has.
fn local(pack: &Value, side: &Value, scale: f64) -> BTreeMap<String, Vec<Vec<[f64; 2]>>> {
    let (unit, is_up) = (pack["space"]["unit"].as_f64().unwrap() / scale, pack["space"]["y"] == "up");
    let (pivot, height) = (points(&json!([side["art"]["pivot"]]))[0], side["art"]["rect"][3].as_f64().unwrap());
    let is_cell = pack["space"]["origin"] == "cell";
    let at = |[x, y]: [f64; 2]| match (is_cell, is_up) {
        (false, false) => [x * unit, y * unit],
        (false, true) => [x * unit, -y * unit],
        (true, false) => [x * unit - pivot[0], y * unit - pivot[1]],
        (true, true) => [x * unit - pivot[0], height - y * unit - pivot[1]],
    };
    let shape = |shape: &Value| {
        let all = list(&shape["outline"]).iter().chain(list(&shape["holes"])).map(points);
        (shape["shape"].as_str().unwrap().to_string(), all.map(|ring| ring.into_iter().map(at).collect()).collect())
    };
    list(&side["shapes"]).iter().map(shape).collect()
}

/// Whether two lists of rings have the same corners, wherever they begin and whichever way they go.
fn is_same(one: &[Vec<[f64; 2]>], other: &[Vec<[f64; 2]>], within: f64) -> bool {
    let near = |a: &[f64; 2], b: &[f64; 2]| (a[0] - b[0]).abs() <= within && (a[1] - b[1]).abs() <= within;
    let holds = |a: &Vec<[f64; 2]>, b: &Vec<[f64; 2]>| a.iter().all(|p| b.iter().any(|q| near(p, q)));
    one.len() == other.len() && one.iter().zip(other).all(|(a, b)| a.len() == b.len() && holds(a, b) && holds(b, a))
}

#[test]
fn shapes_are_those_of_the_fits_in_both_facings_and_every_space() {
    let project = Project::fitted();
    // An actor with sides in its names, art for the left of its own, and a flip about the cell.
    project.edit(
        "actors/keeper.toml",
        "faces = \"right\"  ",
        "swap = [[\"head\", \"torso\"]]\nflip_about = \"cell\"\nfaces = \"right\"  ",
    );
    project.ok(&["fit"]);
    for (space, scale) in &SPACES[..3] {
        let pack: Value = project.ok(&[&["export", "--to", "json"], *space].concat()).json();
        let within = if *scale > 1.0 { 16.0 / scale } else { 1e-12 };
        for actor in list(&pack["actors"]) {
            let name = actor["name"].as_str().unwrap();
            let fits: Value = serde_json::from_str(&project.read(&format!("actors/{name}.fits.json"))).unwrap();
            for (frame, fitted) in list(&actor["frames"]).iter().zip(list(&fits["frames"])) {
                assert_eq!((&frame["animation"], &frame["frame"]), (&fitted["animation"], &fitted["frame"]));
                let sides = [&frame["sides"][0], &frame["sides"][1]];
                assert_eq!(sides[0]["facing"], fitted["faces"]);
                let [drawn, turned] = sides.map(|side| local(&pack, side, *scale));
                assert_eq!(drawn.len(), list(&fitted["shapes"]).len());
                for shape in list(&fitted["shapes"]) {
                    let of_fits: Vec<Vec<[f64; 2]>> =
                        rings(&shape["points"]).into_iter().chain(list(&shape["holes"]).iter().map(points)).collect();
                    let name = shape["name"].as_str().unwrap();
                    assert!(is_same(&drawn[name], &of_fits, within), "{name} {space:?}");
                    // Mirrored about the pivot, under the name of the other side where it has one.
                    let name = match (actor["name"] == "keeper", name) {
                        (true, "head") => "torso",
                        (true, "torso") => "head",
                        _ => name,
                    };
                    let mirror = |ring: &Vec<[f64; 2]>| ring.iter().map(|[x, y]| [-x, *y]).collect();
                    let mirrored: Vec<Vec<[f64; 2]>> = of_fits.iter().map(mirror).collect();
                    assert!(is_same(&turned[name], &mirrored, within), "{name} {space:?}");
                }
                let art = sides.map(|side| &side["art"]);
                let flip = if name == "keeper" {
                    art[0]["pivot"][0].as_f64().unwrap()
                } else {
                    art[0]["rect"][2].as_f64().unwrap() - art[0]["pivot"][0].as_f64().unwrap()
                };
                assert_eq!((art[1]["pivot"][0].as_f64().unwrap(), &art[1]["flipped"]), (flip, &true.into()), "{name}");
            }
        }
    }
}

#[test]
fn corners_go_the_way_asked_for_pieces_have_few_and_a_stage_stands_on_its_bottom() {
    let project = Project::fitted();
    let of = |space: &[&str]| project.ok(&[&["export", "--to", "json"], space].concat()).json();
    let own = of(&[]);
    for (pack, sign) in [(&own, 1.0), (&of(&["--winding", "counterclockwise"]), -1.0), (&of(&["--y", "up"]), -1.0)] {
        for shape in list(&pack["actors"])
            .iter()
            .flat_map(|a| list(&a["frames"]))
            .flat_map(|f| list(&f["sides"]))
            .flat_map(|s| list(&s["shapes"]))
        {
            for ring in list(&shape["outline"]).iter().chain(list(&shape["pieces"])) {
                assert!(area(&points(ring)) * sign > 0.0, "clockwise as seen, unless asked otherwise");
            }
        }
    }
    let up = of(&["--y", "up", "--stage", "pier"]);
    assert_eq!((list(&up["actors"]).len(), list(&own["actors"]).len()), (0, 3));
    let height = own["stages"][0]["size"][1].as_f64().unwrap();
    for (a, b) in list(&own["stages"][0]["spawns"]).iter().zip(list(&up["stages"][0]["spawns"])) {
        assert_eq!(
            (a["at"][0].as_f64(), a["at"][1].as_f64()),
            (b["at"][0].as_f64(), b["at"][1].as_f64().map(|y| height - y))
        );
    }
    assert_eq!(up["stages"][0]["one_ways"][0]["passes"], json!([0, 1]), "up is up");
    let few = of(&["keeper", "--piece-points", "3", "--only", "hurt"]);
    assert_eq!(list(&few["stages"]).len(), 0);
    let sides = list(&few["actors"][0]["frames"]).iter().flat_map(|frame| list(&frame["sides"]));
    for shape in sides.flat_map(|side| list(&side["shapes"])) {
        let sum = |part: &str| list(&shape[part]).iter().map(|ring| area(&points(ring))).sum::<f64>();
        assert!(list(&shape["pieces"]).iter().all(|piece| list(piece).len() == 3));
        assert!((sum("pieces") + sum("holes").abs() - sum("outline")).abs() < 1e-9, "{shape}");
    }
    let again = |file: &str| project.ok(&["export", "--threads", "1", "-o", file]);
    export(&project, "out/a.json", &["--threads", "2"]);
    again("out/b.json");
    assert_eq!(project.read("out/a.json"), project.read("out/b.json"));
}

#[test]
fn what_cannot_be_exported_is_refused_with_what_could_be() {
    let project = Project::sample();
    project.refused(&["export", "--to", "json"], &["no fits yet", "finitor fit"]);
    project.ok(&["fit"]);
    project.refused(&["export"], &["name a format with --to: json, cbor"]);
    project.refused(&["export", "-o", "pier.xls"], &["no format has the ending .xls"]);
    project.refused(&["export", "keper", "--to", "json"], &["there is no actor \"keper\"", "keeper"]);
    project.refused(&["export", "--stage", "peer", "--to", "json"], &["there is no stage \"peer\"", "pier"]);
    project.refused(&["export", "--only", "bdy", "--to", "json"], &["there is no shape or role \"bdy\"", "body"]);
    project.refused(&["export", "--unit", "0", "--to", "json"], &["above 0"]);
    project.refused(&["export", "--fixed", "40", "--to", "json"], &["40"]);
    project.refused(&["export", "--format", "json"], &["has no json output"]);
}
