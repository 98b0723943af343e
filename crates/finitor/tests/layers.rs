//! Layers and masks: what `layers` says against what `check` does, and what `lint` finds before anything moves.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use support::Project;

const TAKES: [&str; 2] = ["takes/clean.csv", "takes/faults.csv"];

fn list(value: &Value) -> Vec<Value> {
    value.as_array().unwrap().clone()
}

/// The checks of both takes, pairs counted.
fn checks(project: &Project) -> Vec<Value> {
    list(&project.run(&["check", TAKES[0], TAKES[1], "--pairs", "--format", "json"]).json()["takes"])
}

fn explain(project: &Project, one: &str, other: &str) -> Value {
    project.ok(&["layers", "explain", one, other, "--format", "json"]).json()
}

/// For every pair of the takes: `explain` says that something follows where and only where `check` acts on it.
fn agrees(project: &Project) -> (u64, u64) {
    let (mut met, mut silent) = (0, 0);
    for result in checks(project) {
        let pairs = list(&result["pairs"]);
        for pair in &pairs {
            let (one, other) = (pair["first"].as_str().unwrap(), pair["second"].as_str().unwrap());
            let told = explain(project, one, other);
            assert_eq!(told["has_effect"], pair["has_effect"], "{pair:#} {told:#}");
            // No take of the sample holds a state that changes masks.
            let expected = if told["has_effect"] == true { &pair["met_ticks"] } else { &json!(0) };
            assert_eq!(&pair["effect_ticks"], expected, "{pair:#} {told:#}");
            met += u64::from(pair["met_ticks"] != 0);
            silent += u64::from(pair["met_ticks"] != 0 && pair["effect_ticks"] == 0);
        }
        // What the rules found agrees with the masks too.
        for finding in list(&result["findings"]) {
            let (actor, with) = (finding["subject"].as_str().unwrap(), finding["with"].as_str().unwrap());
            let shape = format!("{actor}.{}", finding["shape"].as_str().unwrap());
            match finding["rule"].as_str().unwrap() {
                "embedded" | "tunnelled" | "caught_rising" | "zone_skipped" => {
                    assert_eq!(explain(project, &shape, with)["has_effect"], true, "{finding:#}");
                }
                "ghost_pair" => assert_eq!(explain(project, &shape, with)["has_effect"], false, "{finding:#}"),
                _ => {}
            }
        }
        for event in list(&result["events"]) {
            let zone = format!("pier/{}", event["zone"].as_str().unwrap());
            assert_eq!(explain(project, "keeper.body", &zone)["has_effect"], true, "{event:#}");
        }
    }
    (met, silent)
}

#[test]
fn explain_agrees_with_what_check_does_for_every_pair() {
    let project = Project::fitted();
    let (met, silent) = agrees(&project);
    assert!(met > 30 && silent >= 1, "{met} met, {silent} of them in vain");
    // Bits taken away: the ledge from the keeper, the keeper from the tide.
    project.ok(&["layers", "set", "hero", "-footing", "+ground"]);
    project.ok(&["layers", "set", "pier/tide", "-hero"]);
    let (met_then, silent_then) = agrees(&project);
    assert_eq!(met_then, met, "the same things meet");
    assert!(silent_then > silent, "and fewer act");
    let found = checks(&project);
    assert!(list(&found[1]["findings"]).iter().all(|finding| finding["with"] != "pier/jetty"));
    let says = project.ok(&["layers", "explain", "keeper.body", "pier/jetty"]).out;
    assert!(says.starts_with("No effect: keeper.body and pier/jetty pass through each other."), "{says}");
    assert!(says.contains("add ledge (bit 1) to the mask of keeper.body (mask 17 becomes 19)"), "{says}");
}

#[test]
fn states_change_layers_and_masks_while_they_last() {
    let project = Project::fitted();
    let ghost = ["layers", "explain", "keeper.body", "barrel.body", "--format", "json", "--state", "ghost"];
    assert_eq!(project.ok(&ghost).json()["has_effect"], false);
    assert_eq!(
        project.ok(&ghost[..4]).out.lines().next().unwrap(),
        "keeper.body and barrel.body stop each other: contact is \"either\" and one mask detects the other."
    );
    let row = |args: &[&str]| project.ok(args).json()["layers"][2].clone();
    let hero = json!({"name": "hero", "bit": 2, "on": 4, "mask": 19, "detects": ["ground", "ledge", "crate"]});
    assert_eq!(row(&["layers", "--format", "json"]), hero);
    assert_eq!(row(&["layers", "--format", "json", "--state", "ghost"])["mask"], 3);
    // A dash moves the keeper to another layer: the tide, which looks for heroes, no longer takes it.
    let states = "[layers.state.dash]\nhero = { join = [\"strike\"], leave = [\"hero\"] }\n\n[check]";
    project.edit("finitor.toml", "[check]", states);
    let on = |args: &[&str]| row(args)["on"].clone();
    assert_eq!(on(&["layers", "--format", "json", "--state", "dash", "--state", "ghost"]), 32);
    let rows = "tick,actor,x,y,facing,animation,frame,states\n0,keeper,500,275,right,fall,0,dash\n1,keeper,500,276,right,fall,0,dash ghost\n2,keeper,500,277,right,fall,0,\n";
    project.write("takes/dash.csv", rows);
    let result = project.run(&["check", "takes/dash.csv", "--format", "json", "--pairs"]).take();
    assert_eq!(result["events"], json!([{"tick": 2, "zone": "tide", "actor": "keeper", "kind": "enter"}]));
    let pairs = list(&result["pairs"]);
    let tide = pairs.iter().find(|p| p["first"] == "keeper.body" && p["second"] == "pier/tide").unwrap();
    assert_eq!((&tide["met_ticks"], &tide["effect_ticks"], &tide["has_effect"]), (&json!(3), &json!(1), &json!(true)));
    project.refused(&["layers", "--state", "gost"], &["gost\"; did you mean \"ghost\"?"]);
}

#[test]
fn the_matrix_says_the_same_as_table_json_csv_and_picture() {
    let project = Project::fitted();
    let json = project.ok(&["layers", "--format", "json"]).json();
    let csv = project.ok(&["layers", "--format", "csv"]).out;
    let table = project.ok(&["layers", "--draw"]).out;
    let mut lines = csv.lines();
    let header: Vec<&str> = lines.next().unwrap().split(',').collect();
    for (row, layer) in lines.zip(list(&json["layers"])) {
        let fields: Vec<&str> = row.split(',').collect();
        let mask = layer["mask"].as_u64().unwrap();
        assert_eq!(
            fields[..4],
            [layer["bit"].to_string(), layer["name"].as_str().unwrap().into(), mask.to_string(), format!("{mask:#x}")]
        );
        let looked: Vec<Value> = header
            .iter()
            .zip(&fields)
            .skip(5)
            .filter(|(_, f)| **f == "1")
            .map(|(h, _)| json!(h.strip_prefix("detects_").unwrap()))
            .collect();
        assert_eq!(Value::Array(looked), layer["detects"]);
        let line = table.lines().find(|line| line.split_whitespace().nth(1) == layer["name"].as_str()).unwrap();
        let marks = line.split_whitespace().filter(|word| ["x", ">"].contains(word)).count();
        assert_eq!(marks, layer["detects"].as_array().unwrap().len(), "{line}");
    }
    for (name, pixels) in [("pictures/layers.png", true), ("pictures/layers.svg", false)] {
        assert!(project.path(name).is_file(), "{name}");
        assert!(!pixels || support::pixels(&project.path(name)).0 == 1280);
    }
    let shapes = project.ok(&["layers", "--by", "shape", "--format", "json"]).json();
    for thing in list(&shapes["things"]) {
        let name = thing["name"].as_str().unwrap();
        for other in list(&shapes["things"]).iter().filter(|other| other["name"] != name) {
            let other = other["name"].as_str().unwrap();
            if name.split(['.', '/']).next() != other.split(['.', '/']).next() && name < other {
                let acting = list(&thing["affects"]).contains(&json!(other));
                assert_eq!(explain(&project, name, other)["has_effect"], acting, "{name} {other}");
            }
        }
    }
    assert!(
        project
            .ok(&["layers", "--by", "shape", "--format", "csv"])
            .out
            .contains("keeper.pole,hit,32,strike,24,0x18,foe crate,")
    );
    project.refused(&["fit", "--format", "csv"], &["has no csv output; it has table, json"]);
}

/// A change to the sample, the rule that lint then names, its place, and what its remedy says.
type Fault = (&'static str, &'static str, &'static str, &'static str, &'static str, &'static str);

#[test]
fn lint_names_the_rule_the_bit_and_the_line() {
    let feet = "along = \"body\"\n";
    // What each rule finds is in its own file; here is that each sort of line to change is named.
    let faults: [Fault; 4] = [
        (
            "actors/keeper.toml",
            feet,
            "mask = [\"ground\", \"hero\"]\nalong = \"body\"\n",
            "self_sense",
            "feet",
            "Remove hero (bit 2) from its mask, which leaves ground (bit 0). Change actors/keeper.toml:",
        ),
        (
            "finitor.toml",
            "footing = [\"ground\", \"ledge\"]",
            "footing = [\"ground\"]",
            "unseen_layer",
            "ledge",
            "Add ledge (bit 1) to the mask of what should detect it. Change finitor.toml:",
        ),
        (
            "stages/pier.toml",
            "mask = [\"hero\"]\neffect = \"event\"",
            "mask = [\"ledge\"]\neffect = \"event\"",
            "empty_zone",
            "bell",
            "Add hero (bit 2) or foe (bit 3) or crate (bit 4) to its mask. Change stages/pier.toml:",
        ),
        (
            "finitor.toml",
            "foe = [\"ground\"]",
            "foe = []",
            "unstopped_body",
            "body",
            "Add ground (bit 0) or ledge (bit 1)",
        ),
    ];
    let clean = Project::fitted();
    let layered = |project: &Project| -> Vec<Value> {
        let found = list(&project.run(&["lint", "--format", "json"]).json()["findings"]);
        found.into_iter().filter(|finding| finding["rule"] != "lopsided" && finding["rule"] != "seam").collect()
    };
    assert_eq!(layered(&clean), Vec::<Value>::new(), "the sample itself is sound");
    for (file, from, to, rule, place, remedy) in faults {
        let project = Project::fitted();
        project.edit(file, from, to);
        project.run(&["fit"]);
        let found = layered(&project);
        let hit = found.iter().find(|finding| finding["rule"] == rule && finding["place"] == place);
        let hit = hit.unwrap_or_else(|| panic!("{rule} at {place}: {found:#?}"));
        assert!(hit["fix"].as_str().unwrap().contains(remedy), "{hit:#}");
        let said = hit["fix"].as_str().unwrap();
        let at = said.split([' ', ',']).find(|word| word.contains(".toml:")).unwrap_or_else(|| panic!("{said}"));
        let (path, line) = at.trim_end_matches('.').split_once(':').unwrap();
        let text = project.read(path);
        let named = text.lines().nth(line.parse::<usize>().unwrap() - 1).unwrap();
        assert!(
            ["mask", "[shape.feet]", "names", "hero", "foe", "crate", "strike"].iter().any(|word| named.contains(word)),
            "{named}"
        );
        // Nothing else is reported.
        assert!(found.len() <= 2, "{rule}: {found:#?}");
    }
}
