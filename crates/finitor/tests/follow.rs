//! `check --follow`: findings while the take is still being written.
#![cfg(unix)]
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use std::fs::OpenOptions;
use std::io::{BufRead, BufReader, Write};
use std::process::{Child, ChildStdout, Command, Stdio};
use support::Project;

/// The program while it follows a take.
struct Follower {
    child: Child,
    lines: BufReader<ChildStdout>,
}

impl Follower {
    fn start(project: &Project, args: &[&str]) -> Follower {
        let mut command = Command::new(env!("CARGO_BIN_EXE_finitor"));
        command.args(["check", "--follow"]).args(args).current_dir(project.root()).env("NO_COLOR", "1");
        let mut child = command.stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
        let lines = BufReader::new(child.stdout.take().unwrap());
        // Nothing here takes a second; a line that never comes must not hold up all tests.
        let pid = child.id().to_string();
        std::thread::spawn(move || {
            std::thread::sleep(std::time::Duration::from_secs(60));
            let _ = Command::new("kill").args(["-KILL", &pid]).stderr(Stdio::null()).status();
        });
        Follower { child, lines }
    }

    /// The next line; nothing at the end.
    fn line(&mut self) -> String {
        let mut line = String::new();
        self.lines.read_line(&mut line).unwrap();
        line
    }

    /// Ctrl-C; gives the rest of the lines and the exit code.
    fn stop(mut self) -> (Vec<String>, i32) {
        let pid = self.child.id().to_string();
        assert!(Command::new("kill").args(["-INT", &pid]).status().unwrap().success());
        let rest = self.lines.lines().map(Result::unwrap).collect();
        (rest, self.child.wait().unwrap().code().unwrap())
    }
}

fn append(project: &Project, take: &str, rows: &str) {
    let mut file = OpenOptions::new().append(true).create(true).open(project.path(take)).unwrap();
    file.write_all(rows.as_bytes()).unwrap();
}

#[test]
fn findings_come_while_the_game_runs_and_again_when_the_file_is_cut_back() {
    let project = Project::empty();
    project.ok(&["new", "game"]);
    project.ok(&["fit", "--project", "game"]);
    let wall = project.read("game/takes/wall.csv");
    let (clean, live) = (project.read("game/takes/first.csv"), "game/takes/live.csv");
    let stay = |from: usize, to: usize, x: f64| -> String {
        let last: Vec<&str> = wall.lines().last().unwrap().split(',').collect();
        (from..to).map(|tick| format!("{tick},{},{x},{},right,{},0\n", last[1], last[3], last[5])).collect()
    };
    // The file is not there yet when it is followed.
    let mut follower = Follower::start(&project, &["takes/live.csv", "--project", "game"]);
    assert!(follower.line().starts_with("following "), "says that it waits");
    let ticks = wall.lines().count() - 1;
    let last_x: f64 = wall.lines().last().unwrap().split(',').nth(2).unwrap().parse().unwrap();
    append(&project, live, &wall);
    // The error goes on: a line comes before it has ended.
    append(&project, live, &stay(ticks, ticks + 160, last_x));
    let lasting = follower.line();
    assert!(lasting.starts_with("error") && lasting.contains("embedded") && lasting.contains("-now"), "{lasting}");
    // It ends as soon as the actor is out for some ticks, half a row at a time.
    let out = stay(ticks + 160, ticks + 200, last_x - 60.0);
    append(&project, live, &out[..out.len() / 2]);
    append(&project, live, &out[out.len() / 2..]);
    let mut ended = follower.line();
    while !ended.contains("embedded") {
        ended = follower.line();
    }
    assert!(ended.contains(&format!("-{} ", ticks + 159)), "{ended}");
    // The game starts again with a clean take.
    project.write(live, &clean);
    let mut summary = follower.line();
    while !summary.contains(" in ") || !summary.starts_with("live.csv") {
        summary = follower.line();
    }
    assert!(summary.contains("error"), "{summary}");
    std::thread::sleep(std::time::Duration::from_millis(300));
    let (rest, code) = follower.stop();
    assert_eq!(code, 1, "the first run had an error: {rest:?}");
    let count = clean.lines().count() - 1;
    assert_eq!(rest.last().unwrap(), &format!("live.csv: clean in {count} ticks."));
    // A clean one from the start, as lines of JSON.
    let follower = Follower::start(&project, &["takes/first.csv", "--project", "game", "--stream"]);
    std::thread::sleep(std::time::Duration::from_millis(500));
    let (lines, code) = follower.stop();
    assert_eq!(code, 0, "{lines:?}");
    assert!(lines.iter().all(|line| line.starts_with('{')) && lines.last().unwrap().contains("\"end\""), "{lines:?}");
    let usage = ["check", "--follow", "a.csv", "b.csv", "--project", "game"];
    project.refused(&usage, &["name one take"]);
    project.refused(&["check", "--follow", "-", "--project", "game"], &["--stream"]);
}

#[test]
fn one_take_of_a_file_that_holds_several_is_followed() {
    let project = Project::fitted();
    let faults = project.read("takes/faults.csv");
    let mut rows = faults.lines();
    append(&project, "takes/all.csv", &format!("take,{}\n", rows.next().unwrap()));
    let mut follower = Follower::start(&project, &["takes/all.csv:bad"]);
    assert!(follower.line().starts_with("following takes/all.csv:bad"));
    for row in project.read("takes/clean.csv").lines().skip(1) {
        append(&project, "takes/all.csv", &format!("good,{row}\n"));
    }
    let rest: String = rows.map(|row| format!("bad,{row}\n")).collect();
    append(&project, "takes/all.csv", &rest);
    let wanted = project.run(&["check", "takes/all.csv:bad", "--format", "json"]).take();
    // All but those that the end of the take ends.
    let mut seen = Vec::new();
    while seen.len() < 10 {
        seen.push(follower.line());
    }
    let (rest, code) = follower.stop();
    seen.extend(rest);
    assert_eq!(code, 1);
    for finding in wanted["findings"].as_array().unwrap() {
        let message = finding["message"].as_str().unwrap();
        assert!(seen.iter().any(|line| line.contains(message)), "{message}: {seen:?}");
    }
    assert!(seen.last().unwrap().contains("180 ticks"), "{seen:?}");
}
