//! Ten made-up characters, from pictures to a first finding and its fix, with nothing written by hand in between.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

#[path = "../../finitor-core/tests/dice/mod.rs"]
mod dice;
#[path = "../../finitor-core/tests/sheets/figures.rs"]
#[allow(dead_code, unreachable_pub, reason = "shared with the tests of sheets")]
mod figures;
mod support;

use dice::Dice;
use figures::{Build, Frame, Motion, SORTS, draw};
use support::{Project, png};

/// The frames of a motion.
fn frames(build: &Build, motion: Motion, count: u32) -> Vec<Frame> {
    let mut dice = Dice::new(3);
    (0..count).map(|frame| draw(build, motion, f64::from(frame) / f64::from(count), &mut dice)).collect()
}

/// A picture with a row of cells for each of the rows.
fn sheet(cell: (u32, u32), rows: &[Vec<Frame>]) -> Vec<u8> {
    let columns = rows.iter().map(Vec::len).max().unwrap() as u32;
    png(columns * cell.0, rows.len() as u32 * cell.1, |x, y| {
        let frame = rows[(y / cell.1) as usize].get((x / cell.0) as usize);
        let alpha = frame.map_or(0, |frame| frame.at(x % cell.0, y % cell.1));
        [60, (40 + y % 150) as u8, 110, alpha]
    })
}

/// How the files of a character are laid out.
#[derive(Clone, Copy, Debug)]
enum Files {
    Sheet,
    Strips,
    Frames,
}

fn write(project: &Project, name: &str, build: &Build, files: Files) {
    let motions = [("idle", Motion::Idle, 4), ("walk", Motion::Walk, 6), ("jump", Motion::Jump, 5)];
    let rows = motions.map(|(motion, of, count)| (motion, frames(build, of, count)));
    match files {
        Files::Sheet => {
            let all: Vec<Vec<Frame>> = rows.into_iter().map(|(_, frames)| frames).collect();
            project.write(&format!("art/{name}/{name}.png"), sheet(build.cell, &all));
        }
        Files::Strips => {
            for (motion, frames) in rows {
                project.write(&format!("art/{name}/{name}_{motion}.png"), sheet(build.cell, &[frames]));
            }
        }
        Files::Frames => {
            for (motion, frames) in rows {
                for (number, frame) in frames.into_iter().enumerate() {
                    let path = format!("art/{name}/{name}_{motion}_{number}.png");
                    project.write(&path, sheet(build.cell, &[vec![frame]]));
                }
            }
        }
    }
}

/// Follows the fix of a step that ended in a wall: from there on the actor stands where it says.
fn end_step_at(take: &str, tick: u64, at: [f64; 2]) -> String {
    let follow = |line: &str| {
        let mut fields: Vec<String> = line.split(',').map(String::from).collect();
        if fields[0].parse::<u64>().is_ok_and(|own| own >= tick) {
            (fields[2], fields[3]) = (at[0].to_string(), at[1].to_string());
        }
        fields.join(",") + "\n"
    };
    take.lines().map(follow).collect()
}

#[test]
fn from_pictures_to_a_finding_and_its_fix_without_a_warning_on_the_way() {
    let project = Project::empty();
    // Others with another `FINITOR_SEED`.
    let series = std::env::var("FINITOR_SEED").ok().and_then(|text| text.parse::<u64>().ok()).unwrap_or(0);
    for (index, sort) in [0, 1, 2, 3, 4, 5, 6, 8, 9, 10].into_iter().enumerate() {
        let name = SORTS[sort];
        let cell = [(32, 32), (48, 48), (40, 56)][index % 3];
        let build = Build::new(&mut Dice::new(40 + index as u64 + 1000 * series), sort, cell, 0.8);
        let files = [Files::Sheet, Files::Strips, Files::Frames][index % 3];
        write(&project, name, &build, files);
        let (from, dir) = (format!("art/{name}"), format!("made/{name}"));
        let made = project.ok(&["new", &dir, "--from", &from]);
        assert!(made.out.starts_with(&format!("{dir} is a project now: {name}, with 15 frames")), "{}", made.out);
        assert_eq!(made.err, "", "{name}");
        let within = |args: &[&str]| project.run(&[args, &["--project", &dir]].concat());
        for args in [&["fit"][..], &["lint", "--fail-on", "warn"], &["facing"], &["draw"]] {
            let run = within(args);
            let said = format!("{name} {args:?}: {}{}", run.out, run.err);
            assert_eq!(run.code, 0, "{said}");
            assert!(!run.err.contains("warning"), "{said}");
            assert!(!run.out.lines().any(|line| line.starts_with("warn") || line.starts_with("error")), "{said}");
        }
        let clean = within(&["check", "takes/first.csv", "--format", "json", "--fail-on", "note"]);
        assert_eq!(clean.code, 0, "{name}: {}", clean.out);
        assert!(clean.take()["events"].as_array().unwrap().len() >= 2, "{name} passes the gate");
        // A body that looks different each way, or frames that differ, may tell more than one thing of the wall.
        let take = format!("{dir}/takes/wall.csv");
        let found = within(&["check", "takes/wall.csv", "--format", "json"]);
        assert_eq!(found.code, 1, "{name}: {}", found.out);
        let (first, of) = (found.take(), |finding: &serde_json::Value| finding["rule"] == "embedded");
        let embedded = first["findings"].as_array().unwrap().iter().find(|finding| of(finding)).unwrap();
        let fix = embedded["fix"].as_str().unwrap();
        let numbers = fix.split(['(', ')']).nth(1).unwrap_or_else(|| panic!("{name}: {fix}"));
        let at: Vec<f64> = numbers.split(", ").map(|number| number.parse().unwrap()).collect();
        let tick = embedded["ticks"][0].as_u64().unwrap();
        project.write(&take, end_step_at(&project.read(&take), tick, [at[0], at[1]]));
        let mended = within(&["check", "takes/wall.csv", "--format", "json", "--fail-on", "warn"]);
        assert_eq!(mended.code, 0, "{name}: {fix}\n{}", mended.out);
    }
}
