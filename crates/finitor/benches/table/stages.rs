//! Large stages, and how soon a command is there.

use crate::clock::Beside;
use crate::support::Project;
use std::fmt::Write;

pub(crate) fn table() {
    let sample = Project::fitted();
    let version = || drop(sample.ok(&["--version"]));
    Beside::plain(9, version, || drop(sample.ok(&["check", "takes/clean.csv"]))).line(
        "`check` of the sample's 727 ticks",
        "`--version`",
        1.0,
    );
    let hills = on_tiles(Map { columns: 400, rows: 120 });
    Beside::plain(3, || drop(hills.ok(&["stage", "clearance"])), || drop(hills.run(&["lint"]))).line(
        "`lint` of 400 x 120 tiles",
        "`stage clearance`",
        1.0,
    );
    let caves = on_tiles(Map { columns: 1000, rows: 1000 });
    caves.write(
        "one.csv",
        "tick,actor,x,y,facing,animation,frame\n0,keeper,40,100,right,fall,0\n1,keeper,40,100,right,fall,0\n",
    );
    Beside::plain(3, version, || drop(caves.run(&["check", "one.csv"]))).line(
        "`check` of two ticks on 1,000 x 1,000 tiles",
        "`--version`",
        1.0,
    );
}

struct Map {
    columns: u32,
    rows: u32,
}

/// The sample's actors on hills with caves.
fn on_tiles(map: Map) -> Project {
    let project = Project::fitted();
    let Map { columns, rows } = map;
    let ground = |x: f64| f64::from(rows) * 0.4 + 9.0 * (x / 17.0).sin() + 5.0 * (x / 5.0).cos();
    let is_cave = |x: f64, y: f64| (x / 7.0).sin() + (y / 6.0).cos() > 1.4;
    let mut text = String::new();
    for y in 0..rows {
        for x in 0..columns {
            let (left, top) = (f64::from(x), f64::from(y));
            let is_set = top > ground(left) && !is_cave(left, top);
            write!(text, "{}{}", if x > 0 { "," } else { "" }, if is_set { "0" } else { "" }).unwrap();
        }
        text.push('\n');
    }
    for known in std::fs::read_dir(project.path("stages")).unwrap() {
        std::fs::remove_file(known.unwrap().path()).unwrap();
    }
    project.write("stages/hills.csv", text);
    let size = [columns * 16, rows * 16];
    project.write(
        "stages/hills.toml",
        format!(
            "[stage]\nname = \"hills\"\nsize = [{}, {}]\n[tiles]\nmap = \"hills.csv\"\ncell = 16\nlayer = \"ground\"\n[tiles.kinds]\n\"0\" = \"cell\"\n",
            size[0], size[1]
        ),
    );
    project
}
