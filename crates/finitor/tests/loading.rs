//! The programs of `examples/loading`, built beside an export, and their answers compared with those of `hits`.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use std::path::{Path, PathBuf};
use std::process::Command;
use support::Project;

/// A fight on one tick: the keeper swings, the gull is somewhere.
struct Meeting {
    frame: u32,
    facings: [&'static str; 2],
    gull: [f64; 2],
}

fn built(project: &Project, compiler: &str, options: &[&str], source: &str) -> Option<PathBuf> {
    let from = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../examples/loading").join(source);
    let text = std::fs::read_to_string(from).unwrap();
    assert!(text.lines().filter(|line| !line.trim().is_empty()).count() <= 50, "{source} stays small");
    project.write(&format!("load/{source}"), text);
    let target = project.path(&format!("load/{source}.bin"));
    let done = Command::new(compiler)
        .args(options)
        .arg(source)
        .arg("-o")
        .arg(&target)
        .current_dir(project.path("load"))
        .output()
        .ok()?;
    assert!(done.status.success(), "{}", String::from_utf8_lossy(&done.stderr));
    Some(target)
}

#[test]
fn programs_that_load_an_export_strike_as_hits_says() {
    let project = Project::fitted();
    // The first part in the file is struck, as the programs have it.
    project.edit("finitor.toml", "[check]\n", "[check]\nsettle = \"order\"\n");
    project.edit("actors/gull.toml", "kind = \"outline\"\nfit = \"cover\"", "kind = \"pieces\"\nfit = \"cover\"");
    project.ok(&["fit"]);
    project.ok(&["export", "-o", "load/pier.h"]);
    project.ok(&["export", "-o", "load/pier.rs"]);
    let rustc = option_env!("RUSTC").unwrap_or("rustc");
    let programs: Vec<PathBuf> = [
        built(&project, "cc", &["-std=c99", "-Wall", "-Wextra", "-Werror"], "strikes.c"),
        built(&project, rustc, &["--edition", "2021", "-Dwarnings"], "strikes.rs"),
    ]
    .into_iter()
    .flatten()
    .collect();
    assert!(!programs.is_empty());
    let mut dice = fastrand::Rng::with_seed(5);
    let mut facing = || if dice.bool() { "right" } else { "left" };
    let facings: Vec<[&str; 2]> = (0..300).map(|_| [facing(), facing()]).collect();
    let mut near = |reach: i32| f64::from(dice.i32(-reach * 4..reach * 4)) / 4.0;
    let meetings: Vec<Meeting> = facings
        .into_iter()
        .enumerate()
        .map(|(index, facings)| Meeting {
            frame: 1 + index as u32 % 3,
            facings,
            gull: [200.0 + near(40), 180.0 + near(30)],
        })
        .collect();
    // Ticks apart, so that each is a swing of its own.
    let mut take = "tick,actor,x,y,facing,animation,frame\n".to_string();
    for (index, Meeting { frame, facings: [own, other], gull: [x, y] }) in meetings.iter().enumerate() {
        let tick = 10 * index;
        take += &format!("{tick},keeper,200,200,{own},swing,{frame}\n{tick},gull,{x},{y},{other},glide,0\n");
    }
    project.write("takes/meetings.csv", take);
    let found = project.ok(&["hits", "takes/meetings.csv", "--format", "json"]).json();
    let hits = found["takes"][0]["hits"].as_array().unwrap();
    let mut struck = 0;
    for (index, Meeting { frame, facings: [own, other], gull: [x, y] }) in meetings.iter().enumerate() {
        let hit = hits.iter().find(|hit| hit["tick"] == 10 * index && hit["by"] == "keeper");
        let expected = hit.map_or("-", |hit| hit["part"].as_str().unwrap());
        struck += usize::from(hit.is_some());
        let (frame, x, y) = (frame.to_string(), x.to_string(), y.to_string());
        let words = ["keeper", "swing", &frame, own, "200", "200", "gull", "glide", "0", other, &x, &y];
        for program in &programs {
            let said = Command::new(program).args(words).output().unwrap();
            assert_eq!(String::from_utf8_lossy(&said.stdout).trim(), expected, "{program:?} {words:?}");
        }
    }
    assert!((30..270).contains(&struck), "{struck} of 300 strike");
}
