//! Fixes that are one value: written, tried, kept where the finding is gone and taken back where not.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use std::collections::BTreeMap;
use support::Project;

/// The findings of lint or of a take, by rule and place.
fn findings(project: &Project, args: &[&str]) -> Vec<String> {
    let found = project.run(&[args, &["--format", "json", "--fail-on", "never"]].concat()).json();
    let all = if args[0] == "lint" { found["findings"].clone() } else { found["takes"][0]["findings"].clone() };
    let words = |of: &Value| format!("{} {} {} {}", of["rule"], of["subject"], of["place"], of["with"]);
    all.as_array().unwrap().iter().map(words).collect()
}

/// Lines of each file that differ, old and new.
fn changed(before: &BTreeMap<String, Vec<u8>>, after: &BTreeMap<String, Vec<u8>>) -> Vec<String> {
    let mut all = Vec::new();
    for (name, old) in before.iter().filter(|(name, _)| !name.ends_with(".fits.json")) {
        let (old, new) = (String::from_utf8_lossy(old), String::from_utf8_lossy(&after[name]));
        let (old, new): (Vec<&str>, Vec<&str>) = (old.split('\n').collect(), new.split('\n').collect());
        all.extend(old.iter().filter(|line| !new.contains(line)).map(|line| format!("{name}: - {line}")));
        all.extend(new.iter().filter(|line| !old.contains(line)).map(|line| format!("{name}: + {line}")));
        assert!(new.len() - old.len() <= 1, "{name}: no line beside those");
    }
    all
}

#[test]
fn fixes_of_the_sample_end_their_findings_and_touch_nothing_else() {
    let project = Project::fitted();
    let before = project.files();
    let shown = project.ok(&["lint", "--apply", "--dry-run"]).out;
    assert!(shown.starts_with("2 fixes to try; nothing written (--dry-run).\n"), "{shown}");
    assert!(shown.contains("+ symmetric = true"), "{shown}");
    assert_eq!(project.files(), before);
    let told = findings(&project, &["lint"]);
    let said = project.ok(&["lint", "--apply"]).out;
    assert!(said.starts_with("2 of 2 fixes applied, 0 taken back.\n"), "{said}");
    assert!(said.contains("symmetric = true (not set before); the finding is gone"), "{said}");
    let after = project.files();
    assert_eq!(
        changed(&before, &after),
        ["actors/gull.toml: + symmetric = true", "actors/keeper.toml: + symmetric = true"]
    );
    let left = findings(&project, &["lint"]);
    assert!(left.iter().all(|of| told.contains(of) && !of.contains("lopsided")), "{left:?}");
    // The fits are those of the new files.
    project.ok(&["fit", "--check"]);
    assert!(project.ok(&["lint", "--apply"]).out.starts_with("no fix is one value"), "nothing is left to do");

    let take = ["check", "takes/faults.csv"];
    let (before, told) = (after, findings(&project, &take));
    let said = project.ok(&[&take[..], &["--apply"]].concat()).out;
    assert!(said.contains("box = [557, 110, 10, 60] (was [560, 110, 4, 60]); the finding is gone"), "{said}");
    assert!(said.contains("symmetric = true taken back (not set before): the finding stays"), "{said}");
    let after = project.files();
    assert_eq!(
        changed(&before, &after),
        ["stages/pier.toml: - box = [560, 110, 4, 60]", "stages/pier.toml: + box = [557, 110, 10, 60]"]
    );
    for (name, bytes) in before.iter().filter(|(name, _)| name.ends_with(".fits.json")) {
        assert_eq!(after[name], *bytes, "what was taken back leaves no trace in {name}");
    }
    let left = findings(&project, &take);
    let gone: Vec<&String> = told.iter().filter(|of| !left.contains(of)).collect();
    assert!(gone.len() == 1 && gone[0].contains("zone_skipped"), "{gone:?}");
    assert_eq!(left.len(), told.len() - 1);
}

#[test]
fn a_fix_that_leads_to_another_finding_is_taken_back_and_comments_stay() {
    let project = Project::fitted();
    // A sensor that detects its own actor: its mask is a list with a comment.
    project.edit(
        "actors/keeper.toml",
        "[shape.feet]\n",
        "[shape.feet]\nmask = [\"ground\", \"hero\"]   # who is there\n",
    );
    project.ok(&["fit"]);
    let said = project.ok(&["lint", "--apply"]).out;
    assert!(said.contains("mask = [\"ground\"] (was [\"ground\", \"hero\"]); the finding is gone"), "{said}");
    assert!(project.read("actors/keeper.toml").contains("\nmask = [\"ground\"]   # who is there\n"));
    // A spawn inside a wall, in a file with the line ends of Windows.
    let stage = project.read("stages/pier.toml").replace('\n', "\r\n");
    let spawn = stage.lines().position(|line| line.starts_with("at = ")).unwrap();
    let lines: Vec<&str> = stage.split("\r\n").collect();
    let moved = [&lines[..spawn], &["at = [100, 240]   # here"], &lines[spawn + 1..]].concat().join("\r\n");
    project.write("stages/pier.toml", &moved);
    let lost = findings(&project, &["lint"]).iter().filter(|of| of.contains("lost_spawn")).count();
    assert_eq!(lost, 1);
    project.ok(&["lint", "--apply"]);
    assert!(!findings(&project, &["lint"]).iter().any(|of| of.contains("lost_spawn")));
    let after = project.read("stages/pier.toml");
    assert!(after.contains("   # here\r\n") && after.matches('\n').count() == after.matches("\r\n").count());
    project.refused(&["lint", "--dry-run"], &["--apply"]);
}
