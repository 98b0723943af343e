//! `finitor demo`.

use super::editor_schemas::{with_schema_line, write_schemas};
use super::new_folder::refuse_full;
use crate::cli::{
    CheckArgs, DemoArgs, DrawArgs, FailOn, FitArgs, Format, Global, LayersArgs, LayersCommand, ReplayArgs,
};
use crate::commands::{check, draw, fit, layers, replay};
use crate::console::Console;
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::Failure;
use finitor_files::write_atomically;
use std::io::Write;
use std::path::{Path, PathBuf};

/// The sample project's files: path and contents.
const SAMPLE: [(&str, &[u8]); 13] = [
    ("finitor.toml", include_bytes!("../../sample/finitor.toml")),
    ("actors/keeper.toml", include_bytes!("../../sample/actors/keeper.toml")),
    ("actors/keeper.png", include_bytes!("../../sample/actors/keeper.png")),
    ("actors/keeper.parts.png", include_bytes!("../../sample/actors/keeper.parts.png")),
    ("actors/gull.toml", include_bytes!("../../sample/actors/gull.toml")),
    ("actors/gull.png", include_bytes!("../../sample/actors/gull.png")),
    ("actors/barrel.toml", include_bytes!("../../sample/actors/barrel.toml")),
    ("actors/barrel.png", include_bytes!("../../sample/actors/barrel.png")),
    ("stages/pier.toml", include_bytes!("../../sample/stages/pier.toml")),
    ("stages/reef.csv", include_bytes!("../../sample/stages/reef.csv")),
    ("stages/tiles.png", include_bytes!("../../sample/stages/tiles.png")),
    ("takes/clean.csv", include_bytes!("../../sample/takes/clean.csv")),
    ("takes/faults.csv", include_bytes!("../../sample/takes/faults.csv")),
];

/// The tick drawn beside the worst one: the keeper standing up under the boathouse.
const TELLING_TICK: u64 = 126;

/// Writes the sample and walks through the main job on it.
pub(crate) fn run(args: &DemoArgs, global: &Global, console: &Console, out: &mut dyn Write) -> Result<Exit, Failure> {
    write_sample(&args.dir, args.force)?;
    let dir = args.dir.display();
    writeln!(out, "The sample project is in {dir}: a lamp keeper, a gull, a barrel, and the pier.")?;
    writeln!(out, "Each step below names the command that does it alone; run it inside {dir}.")?;
    writeln!(out, "(`finitor` is this program; `cargo install --path crates/finitor` puts it on your path.)")?;
    let global = Global { project: Some(args.dir.clone()), ..global.clone() };
    let session = Session::open(&global, console)?;

    step(out, "1. Fit collision shapes to every frame", "finitor fit")?;
    let fit_args = FitArgs::default();
    fit::run(&session, &fit_args, Format::Table, out)?;

    step(out, "2. Show which layer detects which", "finitor layers")?;
    layers::run(&session, &LayersArgs::default(), Format::Table, out)?;
    let (one, other) = ("keeper.body".to_string(), "pier/jetty".to_string());
    step(out, "   and why one pair does or does not meet", &format!("finitor layers explain {one} {other}"))?;
    let explain = LayersCommand::Explain { one, other, state: Vec::new() };
    layers::run(&session, &LayersArgs { command: Some(explain), ..LayersArgs::default() }, Format::Table, out)?;

    for (number, take, words) in
        [(3, "takes/clean.csv", "a clean recording"), (4, "takes/faults.csv", "one with faults")]
    {
        step(out, &format!("{number}. Check {words}"), &format!("finitor check {take}"))?;
        let takes = vec![PathBuf::from(take)];
        let check_args = CheckArgs { takes, fail_on: FailOn::Error, ..CheckArgs::default() };
        check::run(&session, &check_args, Format::Table, out)?;
    }

    step(out, "5. Draw every actor and the stage", "finitor draw")?;
    draw::run(&session, &drawing(None, None), out)?;
    let take = PathBuf::from("takes/faults.csv");
    step(
        out,
        "   and the stage at a finding",
        &format!("finitor draw --take {} --tick {TELLING_TICK}", take.display()),
    )?;
    draw::run(&session, &drawing(Some(take), Some(TELLING_TICK)), out)?;

    let page = args.dir.join("report.html");
    step(out, "6. Make a page to play the takes in a browser", "finitor report takes/clean.csv takes/faults.csv")?;
    let takes = ["takes/clean.csv", "takes/faults.csv"].map(PathBuf::from).to_vec();
    replay::run(&session, &ReplayArgs { takes, out: page, ..ReplayArgs::default() }, out)?;

    writeln!(out, "\nDone: clean.csv is clean, faults.csv has the faults planted in it, reported in step 4.")?;
    writeln!(out, "Open      {} in a browser", shown(&args.dir, "report.html"))?;
    writeln!(out, "look at   {}", shown(&args.dir, "pictures/keeper.png"))?;
    writeln!(
        out,
        "then edit {} while `finitor watch takes/faults.csv` runs in {dir}.",
        shown(&args.dir, "actors/keeper.toml")
    )?;
    Ok(Exit::Done)
}

fn shown(dir: &Path, file: &str) -> String {
    dir.join(file).display().to_string()
}

fn step(out: &mut dyn Write, title: &str, command: &str) -> Result<(), Failure> {
    writeln!(out, "\n{title}\n$ {command}\n")?;
    Ok(())
}

fn drawing(take: Option<PathBuf>, tick: Option<u64>) -> DrawArgs {
    DrawArgs { take, tick, ..DrawArgs::default() }
}

fn write_sample(dir: &Path, force: bool) -> Result<(), Failure> {
    if !(force && dir.is_dir()) {
        refuse_full(dir, "name another folder, or add --force to replace the sample's files in it")?;
    }
    for (path, bytes) in SAMPLE {
        match std::str::from_utf8(bytes) {
            Ok(text) => write_atomically(&dir.join(path), with_schema_line(path, text).as_bytes())?,
            Err(_) => write_atomically(&dir.join(path), bytes)?,
        }
    }
    write_schemas(dir)
}
