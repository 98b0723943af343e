//! What the program says, word for word. After a wanted change: `SNAPSHOTS=overwrite cargo test -p finitor --test words`.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod mistakes;
mod support;

use mistakes::{MISTAKES, Mistake};
use std::fmt::Write;
use std::path::Path;
use support::Project;

/// Compares with a file in `golden/`, or writes it anew.
fn golden(file: &str, said: &str) {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/golden").join(file);
    let data = snapbox::Data::read_from(&path, Some(snapbox::data::DataFormat::Text));
    snapbox::Assert::new().action_env(snapbox::assert::DEFAULT_ACTION_ENV).eq(said.to_string(), data.raw());
}

/// What commands say, each under its own line.
fn session(project: &Project, commands: &[&[&str]]) -> String {
    let mut said = String::new();
    for args in commands {
        let run = project.run(args);
        writeln!(said, "$ finitor {}\n{}{}[exit code {}]\n", args.join(" "), run.out, run.err, run.code).unwrap();
    }
    said
}

#[test]
fn the_help_of_every_command() {
    let project = Project::empty();
    let commands = [
        "demo",
        "new",
        "sheet",
        "fit",
        "facing",
        "layers",
        "stage",
        "stage clearance",
        "lint",
        "check",
        "hits",
        "report",
        "watch",
        "export",
        "import",
        "diff",
        "draw",
        "explain",
        "schema",
        "completions",
        "man",
    ];
    let lines: Vec<Vec<&str>> = commands.iter().map(|name| name.split(' ').chain(["--help"]).collect()).collect();
    let all: Vec<&[&str]> = std::iter::once(&["--help"][..]).chain(lines.iter().map(Vec::as_slice)).collect();
    golden("help.txt", &session(&project, &all));
}

#[test]
fn every_rule_explained() {
    let project = Project::empty();
    let list = project.ok(&["explain"]).out;
    // What does not fit in a line goes on indented.
    let rules: Vec<&str> =
        list.lines().filter(|line| !line.starts_with(' ')).filter_map(|line| line.split(' ').next()).collect();
    let each: Vec<[&str; 2]> = rules.iter().map(|rule| ["explain", *rule]).collect();
    let all: Vec<&[&str]> = std::iter::once(&["explain"][..]).chain(each.iter().map(|args| &args[..])).collect();
    // What people see, too; one slip in a rule's name is no symptom.
    let seen: [&[&str]; 5] = [
        &["explain", "stuck"],
        &["explain", "stuck", "after", "turning"],
        &["explain", "hit by air"],
        &["explain", "hoover"],
        &["explain", "qwertz"],
    ];
    let all: Vec<&[&str]> = all.into_iter().chain(seen).collect();
    golden("explain.txt", &session(&project, &all));
}

#[test]
fn the_demo_and_what_it_leads_to() {
    let project = Project::empty();
    let commands: &[&[&str]] = &[
        &["demo", "pier"],
        &["fit", "--project", "pier"],
        &["lint", "--project", "pier"],
        &["facing", "--project", "pier"],
        &["layers", "--project", "pier"],
        &["layers", "explain", "keeper.body", "pier/gangplank", "--project", "pier"],
        &["stage", "--project", "pier"],
        &["stage", "clearance", "--project", "pier"],
        &["check", "takes/clean.csv", "--project", "pier"],
        &["check", "takes/faults.csv", "--project", "pier"],
        &["check", "takes/faults.csv", "--pairs", "--project", "pier"],
        &["check", "takes/clean.csv", "takes/faults.csv", "--summary", "--project", "pier"],
    ];
    golden("demo.txt", &session(&project, commands));
}

#[test]
fn every_mistake_in_a_file() {
    let fitted = Project::fitted();
    let mut said = String::new();
    for Mistake(path, from, to) in MISTAKES {
        let text = fitted.read(path);
        let at = text.find(from).unwrap_or_else(|| panic!("{path} does not hold {from:?}"));
        fitted.write(path, format!("{}{to}{}", &text[..at], &text[at + from.len()..]));
        let before = fitted.files();
        let run = fitted.run(&["check", "takes/clean.csv"]);
        assert_eq!(run.code, 2, "{path}: {to:?} should be refused:\n{}{}", run.out, run.err);
        assert!(run.out.is_empty(), "{to:?}: {}", run.out);
        assert_eq!(fitted.files(), before, "nothing is written");
        let name = path.rsplit('/').next().unwrap();
        assert!(run.err.contains(name), "{to:?} should name {name}:\n{}", run.err);
        fitted.write(path, text);
        writeln!(said, "--- {path}: {from:?} -> {to:?}\n{}", run.err).unwrap();
    }
    golden("mistakes.txt", &said);
}

#[test]
fn wrong_arguments() {
    let project = Project::fitted();
    let take = "takes/faults.csv";
    project.write("takes/empty.csv", "");
    project.write("takes/headless.csv", "keeper,0,1,2\n");
    let commands: &[&[&str]] = &[
        &["chek", take],
        &["check"],
        &["check", "takes/fault.csv"],
        &["check", "takes/empty.csv"],
        &["check", "takes/headless.csv"],
        &["check", "stages/pier.toml"],
        &["check", take, "--rule", "embeded"],
        &["check", take, "--actor", "keper"],
        &["check", take, "--ticks", "2000-3000"],
        &["check", take, "--ticks", "9-3"],
        &["check", take, "--stage", "peer"],
        &["check", take, "--baseline", "known.json"],
        &["check", take, "--accept", "known.json"],
        &["check", take, "--fail-on", "bad"],
        &["check", take, "--format", "xml"],
        &["check", "-", "-"],
        &["fit", "keper"],
        &["fit", "--only", "keeper.bodi"],
        &["fit", "--discard-edits", "walc"],
        &["fit", "--rename", "lean"],
        &["fit", "--format", "csv"],
        &["draw", "keper"],
        &["draw", "--take", take, "--tick", "5000"],
        &["draw", "--format", "json"],
        &["facing", "gul"],
        &["layers", "explain", "keeper.body"],
        &["layers", "explain", "keeper.bodi", "pier/quay"],
        &["layers", "explain", "keeper.body", "pier/kay"],
        &["lint", "keper"],
        &["lint", "--standing", "idel"],
        &["stage", "peer"],
        &["stage", "clearance", "keper"],
        &["sheet", "actors/none.png"],
        &["sheet", "finitor.toml"],
        &["sheet", "actors/keeper.png", "--write", "actors/keeper.toml"],
        &["sheet", "actors/keeper.png", "--cell", "7x"],
        &["explain", "hoover"],
        &["new", "."],
        &["demo", "."],
        &["lint", "--project", "nowhere"],
    ];
    golden("arguments.txt", &session(&project, commands));
}

#[test]
fn the_page_of_symptoms_has_all_of_them() {
    let page = include_str!("../../../docs/symptoms.md");
    for symptom in finitor_core::symptoms::SYMPTOMS {
        let rules: Vec<String> = symptom.rules.iter().map(|code| format!("`{code}`")).collect();
        let row = format!("| {} | {} | {} | {} |", symptom.seen, rules.join(", "), symptom.reason, symptom.setting);
        assert!(page.contains(&row), "docs/symptoms.md lacks this row:\n{row}");
    }
}
