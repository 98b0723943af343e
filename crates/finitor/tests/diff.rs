//! What changed between two versions: nothing of a version and itself, every planted change once.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::process::Command;
use support::Project;

fn git(project: &Project, args: &[&str]) -> bool {
    let own = ["-c", "user.name=a", "-c", "user.email=a@b.c", "-c", "init.defaultBranch=main"];
    let status = Command::new("git").args(own).args(args).current_dir(project.root()).output();
    status.is_ok_and(|output| output.status.success())
}

#[test]
fn a_version_is_no_other_than_itself() {
    let project = Project::fitted();
    for both in [["actors/keeper.fits.json"; 2], ["actors"; 2], ["."; 2]] {
        let said = project.ok(&[&["diff"], &both[..]].concat()).out;
        assert!(said.ends_with(": no difference.\n"), "{said}");
    }
    assert!(project.ok(&["diff", "."]).out.contains("the project: no difference."));
    for (name, args) in
        [("a.json", ["takes/faults.csv", "takes/clean.csv"]), ("b.json", ["takes/faults.csv", "takes/clean.csv"])]
    {
        let found = project.run(&["check", args[0], args[1], "--format", "json"]).out;
        project.write(name, found);
    }
    let same = project.ok(&["diff", "a.json", "b.json", "--format", "json"]).json();
    assert_eq!((same["findings"].as_array().unwrap().len(), &same["schema"]), (0, &"finitor.diff/1".into()));
    project.refused(&["diff", "a.json", "actors"], &["one of a.json and actors is fits"]);
    project.refused(&["diff", "none.json"], &["none.json", "cannot be read"]);
    project.refused(&["diff", "stages"], &["holds no *.fits.json"]);
    project.refused(&["diff", "takes/clean.csv"], &["is no JSON"]);
    project.write("other.json", "{\"schema\": \"finitor.lint/2\"}");
    project.refused(&["diff", "other.json"], &["expected finitor.fits/2", "finitor.check/2"]);
    project.refused(&["diff", "git:"], &["names no revision"]);
}

#[test]
fn the_repository_is_asked_for_older_fits() {
    let project = Project::fitted();
    if !git(&project, &["init", "-q"]) {
        return;
    }
    project.refused(&["diff", "git:HEAD"], &["git ls-tree"]);
    assert!(git(&project, &["add", "."]) && git(&project, &["commit", "-q", "-m", "one"]));
    assert!(project.ok(&["diff", "git:HEAD"]).out.contains("no difference"));
    project.edit("actors/gull.toml", "circle = [24, 18, 4]", "circle = [25, 18, 5]");
    project.ok(&["fit"]);
    let run = project.run(&["diff", "git:HEAD"]);
    assert_eq!(run.code, 1);
    assert!(run.out.starts_with("git:HEAD -> the project: 2 shapes differ.\n"), "{}", run.out);
    assert!(run.out.contains("left +0, top -1") || run.out.contains("top -1, right +2, bottom +1"), "{}", run.out);
    assert!(run.out.contains("dive 0-1"), "{}", run.out);
    let drawn = project.run(&["diff", "git:HEAD", "--draw"]);
    assert!(drawn.out.contains("pictures/diff.png"), "{}", drawn.out);
    assert!(git(&project, &["commit", "-q", "-a", "-m", "two"]));
    assert_eq!(project.run(&["diff", "git:HEAD~1", "git:HEAD"]).code, 1);
    project.refused(&["diff", "git:nothing"], &["nothing"]);
}

/// What was planted on a frame: the shape's place in the list, and what is said of it.
#[test]
fn every_planted_change_is_told_once() {
    let project = Project::fitted();
    let mut dice = fastrand::Rng::with_seed(3);
    let before: Value = serde_json::from_str(&project.read("actors/keeper.fits.json")).unwrap();
    let mut after = before.clone();
    let mut planted: BTreeSet<String> = BTreeSet::new();
    let frames = after["frames"].as_array_mut().unwrap();
    for frame in frames.iter_mut() {
        let place = format!("{} {}", frame["animation"].as_str().unwrap(), frame["frame"]);
        if dice.u8(0..4) == 0 {
            frame["art"] = json!("0123456789abcdef");
            planted.insert(format!("{place}: art"));
        }
        let shapes = frame["shapes"].as_array_mut().unwrap();
        let count = shapes.len();
        for shape in shapes.iter_mut() {
            let name = shape["name"].as_str().unwrap().to_string();
            match dice.u8(0..8) {
                0 => {
                    let (dx, dy) = (f64::from(dice.i32(-3..4)), f64::from(dice.i32(1..4)));
                    moved(shape, dx, dy);
                    planted.insert(format!("{place} {name}: moved {dx} {dy}"));
                }
                1 => {
                    shape["mask"] = json!(1023);
                    planted.insert(format!("{place} {name}: mask"));
                }
                2 => {
                    shape["part"] = json!("elbow");
                    planted.insert(format!("{place} {name}: part"));
                }
                _ => {}
            }
        }
        match dice.u8(0..5) {
            0 => {
                let gone = shapes.remove(count - 1);
                let name = gone["name"].as_str().unwrap();
                planted.retain(|text| !text.starts_with(&format!("{place} {name}: ")));
                planted.insert(format!("{place} {name}: gone"));
            }
            1 => {
                let mut twin = shapes[0].clone();
                twin["name"] = json!("twin");
                shapes.push(twin);
                planted.insert(format!("{place} twin: added"));
            }
            _ => {}
        }
    }
    let gone = frames.pop().unwrap();
    let place = format!("{} {}", gone["animation"].as_str().unwrap(), gone["frame"]);
    planted.retain(|text| !text.starts_with(&place));
    planted.insert(format!("{place}: gone"));
    project.write("old.json", before.to_string());
    project.write("new.json", after.to_string());
    let found = project.run(&["diff", "old.json", "new.json", "--format", "json"]).json();
    let mut told: Vec<String> = Vec::new();
    let place = |of: &Value| format!("{} {}", of["animation"].as_str().unwrap(), of["frame"]);
    for of in found["frames"].as_array().unwrap() {
        let what =
            if of["change"] == "changed" { of["what"][0].as_str().unwrap() } else { of["change"].as_str().unwrap() };
        told.push(format!("{}: {what}", place(of)));
    }
    for of in found["shapes"].as_array().unwrap() {
        let what = match of["change"].as_str().unwrap() {
            "moved" => {
                let edges: Vec<f64> =
                    of["edges_px"].as_array().unwrap().iter().map(|edge| edge.as_f64().unwrap()).collect();
                assert_eq!((edges[0], edges[1]), (edges[2], edges[3]), "{of}");
                let iou = of["iou"].as_f64().unwrap();
                assert!((0.0..1.0).contains(&iou), "{of}");
                format!("moved {} {}", edges[0], edges[1])
            }
            "changed" => of["values"][0]["key"].as_str().unwrap().to_string(),
            change => change.to_string(),
        };
        told.push(format!("{} {}: {what}", place(of), of["shape"].as_str().unwrap()));
    }
    told.sort();
    assert!(planted.len() > 25, "{}", planted.len());
    assert_eq!(told, planted.into_iter().collect::<Vec<_>>());
    // A box against itself moved: the shared area is reckoned.
    let body =
        &before["frames"][0]["shapes"].as_array().unwrap().iter().find(|of| of["box"].is_array()).unwrap()["box"];
    let [w, h] = [2, 3].map(|index| body[index].as_f64().unwrap());
    let mut one = before.clone();
    let shapes = one["frames"][0]["shapes"].as_array_mut().unwrap();
    moved(shapes.iter_mut().find(|of| of["box"].is_array()).unwrap(), 2.0, 1.0);
    project.write("new.json", one.to_string());
    let found = project.run(&["diff", "old.json", "new.json", "--format", "json"]).json();
    let shared = (w - 2.0) * (h - 1.0);
    assert!((found["shapes"][0]["iou"].as_f64().unwrap() - shared / (2.0 * w * h - shared)).abs() < 1e-6, "{found}");
    // Turned round: what was added is gone.
    let back = project.run(&["diff", "new.json", "old.json", "--format", "json"]).json();
    assert_eq!(back["shapes"][0]["edges_px"], json!([-2.0, -1.0, -2.0, -1.0]));
}

/// Moves all that a shape is made of.
fn moved(shape: &mut Value, dx: f64, dy: f64) {
    fn points(value: &mut Value, by: [f64; 2]) {
        let Some(items) = value.as_array_mut() else { return };
        if items.len() == 2 && items[0].is_number() {
            for (item, by) in items.iter_mut().zip(by) {
                *item = json!(item.as_f64().unwrap() + by);
            }
        } else {
            items.iter_mut().for_each(|item| points(item, by));
        }
    }
    for key in ["points", "holes"] {
        points(&mut shape[key], [dx, dy]);
    }
    for (key, places) in [("box", &[0][..]), ("circle", &[0]), ("capsule", &[0, 2])] {
        for place in places.iter().filter(|_| shape[key].is_array()).copied().collect::<Vec<_>>() {
            shape[key][place] = json!(shape[key][place].as_f64().unwrap() + dx);
            shape[key][place + 1] = json!(shape[key][place + 1].as_f64().unwrap() + dy);
        }
    }
    for key in ["holes", "box", "circle", "capsule"] {
        if shape[key].is_null() {
            shape.as_object_mut().unwrap().remove(key);
        }
    }
}

#[test]
fn findings_are_new_gone_worse_or_better() {
    let project = Project::fitted();
    let found = project.run(&["check", "takes/faults.csv", "--format", "json"]).json();
    let mut other = found.clone();
    let findings = other["takes"][0]["findings"].as_array_mut().unwrap();
    let rule = |of: &Value| of["rule"].as_str().unwrap().to_string();
    let gone = findings.remove(2);
    findings[0]["figure"] = json!(findings[0]["figure"].as_f64().unwrap() + 5.0);
    findings[4]["figure"] = json!(findings[4]["figure"].as_f64().unwrap() / 2.0);
    let (worse, better) = (rule(&findings[0]), rule(&findings[4]));
    let mut fresh = findings[5].clone();
    fresh["subject"] = json!("keeper:2");
    let new = rule(&fresh);
    findings.push(fresh);
    project.write("old.json", found.to_string());
    project.write("new.json", other.to_string());
    let said = project.run(&["diff", "old.json", "new.json", "--format", "json"]);
    assert_eq!(said.code, 1);
    let told: BTreeSet<(String, String)> = said.json()["findings"]
        .as_array()
        .unwrap()
        .iter()
        .map(|of| (of["change"].as_str().unwrap().to_string(), rule(of)))
        .collect();
    let expected = [("worse", worse), ("better", better), ("new", new), ("gone", rule(&gone))];
    assert_eq!(told, expected.map(|(change, rule)| (change.to_string(), rule)).into_iter().collect());
    let table = project.run(&["diff", "old.json", "new.json"]).out;
    assert!(table.starts_with("old.json -> new.json: 4 findings differ.\n"), "{table}");
    let rows = project.run(&["diff", "old.json", "new.json", "--format", "csv"]).out;
    assert_eq!(rows.lines().count(), 5, "{rows}");
}
