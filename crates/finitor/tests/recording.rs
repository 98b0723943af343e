//! The recorders of `examples/recording`, each built and run where its language is installed, and what they write checked.
#![allow(clippy::unwrap_used, clippy::print_stderr, reason = "a test fails by panicking, and says what it leaves out")]

mod support;

use std::path::{Path, PathBuf};
use std::process::Command;
use support::Project;

/// A recorder and how it is built and run; `OUT` stands for the program that is built.
struct Language {
    file: &'static str,
    build: &'static [&'static str],
    run: &'static [&'static str],
}

const LANGUAGES: [Language; 7] = [
    Language { file: "recorder.c", build: &["cc", "-O1", "-Wall", "-Werror", "-o", "OUT"], run: &["OUT"] },
    Language {
        file: "recorder.cpp",
        build: &["c++", "-std=c++14", "-O1", "-Wall", "-Werror", "-o", "OUT"],
        run: &["OUT"],
    },
    Language { file: "Recorder.cs", build: &["mcs", "-out:OUT"], run: &["mono", "OUT"] },
    Language { file: "recorder.lua", build: &[], run: &["lua5.4", "FILE"] },
    Language { file: "recorder.mjs", build: &[], run: &["node", "FILE"] },
    Language { file: "recorder.py", build: &[], run: &["python3", "FILE"] },
    Language { file: "recorder.rs", build: &["rustc", "-Dwarnings", "--edition=2021", "-o", "OUT"], run: &["OUT"] },
];

/// Whether a program is there to be run.
fn is_there(program: &str) -> bool {
    Command::new(program).arg("--version").output().is_ok()
}

fn run(words: &[String]) {
    let output = Command::new(&words[0]).args(&words[1..]).output().unwrap();
    assert!(output.status.success(), "{words:?}: {}", String::from_utf8_lossy(&output.stderr));
}

#[test]
fn what_each_recorder_writes_is_one_walk_and_clean() {
    let project = Project::empty();
    project.ok(&["new", "game"]);
    project.ok(&["fit", "--project", "game"]);
    let stage = project.read("game/stages/yard.toml");
    let floor = stage.split("name = \"floor\"").nth(1).and_then(|rest| rest.split(['[', ']']).nth(1)).unwrap();
    let ground = floor.split(", ").nth(1).unwrap();
    let examples = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../examples/recording");
    let mut first: Option<String> = None;
    for Language { file, build, run: start } in LANGUAGES {
        let program = build.first().unwrap_or(&start[0]);
        if !is_there(program) || !(start[0] == "OUT" || is_there(start[0])) {
            eprintln!("{file} is not tried: {program} is not installed");
            continue;
        }
        let source = examples.join(file);
        let text = std::fs::read_to_string(&source).unwrap();
        let recorder = text.split("A walk, in place of a game").next().unwrap();
        assert!(
            recorder.lines().filter(|line| !line.trim().is_empty()).count() <= 26,
            "{file}: a recorder of at most 25 lines"
        );
        let built = project.path(&format!("{file}.bin"));
        let words = |words: &[&str]| -> Vec<String> {
            let put =
                |word: &&str| word.replace("OUT", &built.to_string_lossy()).replace("FILE", &source.to_string_lossy());
            words.iter().map(put).collect()
        };
        if !build.is_empty() {
            run(&[words(build), vec![source.to_string_lossy().into_owned()]].concat());
        }
        for ending in ["csv", "jsonl"] {
            let take = format!("takes/{file}.{ending}");
            let path = project.path(&format!("game/{take}"));
            run(&[words(start), vec![path.to_string_lossy().into_owned(), ground.to_string()]].concat());
            let found = project.ok(&["check", &take, "--project", "game", "--format", "json", "--fail-on", "note"]);
            assert_eq!(found.take()["ticks"], 200, "{take}");
            let events = found.take()["events"].to_string();
            // Each language writes the very same walk.
            assert_eq!(first.get_or_insert_with(|| events.clone()), &events, "{take}");
            assert!(Path::new(&path).exists());
        }
    }
    assert!(first.is_some_and(|events| events.len() > 2), "the walk passes the gate, and Rust at least is there");
}
