//! `finitor stage`.

mod clearance;

use crate::cli::{Format, StageArgs, StageCommand};
use crate::commands::draw::name_drawings;
use crate::exit::Exit;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::results::{StageList, StageResult};
use finitor_app::{Drawing, Failure, parties, unknown};
use finitor_core::layers::LayerSet;
use finitor_core::stage::{Stage, TILES_NAME, TileFill};
use finitor_core::{Point, Polygon};
use finitor_draw::{StageView, TileCell, TileSheet, stage_view, tile_sheet};
use finitor_files::{StageFile, Tiles, counted, stage_to_svg, write_atomically};
use std::io::Write;
use std::path::Path;

/// Lists what is on the stages, and draws their tiles where that is asked for.
pub(crate) fn run(
    session: &Session<'_>,
    args: &StageArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    if let Some(StageCommand::Clearance(args)) = &args.command {
        return clearance::run(session, args, format, out);
    }
    let files = named(session, &args.stages)?;
    if let Some(to) = &args.to_svg {
        return write_drawing(session, &files, to, out);
    }
    let layers = &session.project.layers;
    let parties = parties(layers, &session.select(&[])?, &[], &[]);
    let all = files.iter().map(|file| StageResult::new(file, layers.contact, &parties)).collect();
    let list = StageList::new(all);
    match format {
        Format::Table => {
            files.iter().zip(&list.stages).try_for_each(|(file, stage)| write_stage(session, file, stage, out))?;
        }
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&list)?)?,
        Format::Csv => write_rows(&list, out)?,
    }
    let folder = session.pictures(args.out.as_ref());
    let mut words = Vec::new();
    for file in files.iter().filter(|_| args.draw) {
        let stage = &file.stage;
        let title = format!("{}: names, layers, and what zones detect", stage.name);
        let view = StageView { title, scale: args.scale, layers: Some(layers), ..StageView::of(stage) };
        let drawing = Drawing { stem: folder.join(format!("{}-stage", stage.name)), scene: stage_view(&view) };
        session.save(&drawing.sized(args.scale), &mut words)?;
    }
    for file in files.iter().filter(|_| args.tiles) {
        let Some(tiles) = &file.tiles else {
            return Err(Failure::Usage(format!("stage {} has no [tiles]", file.stage.name)));
        };
        let scene = tile_sheet(&sheet(&file.stage, tiles));
        session.save(&Drawing { stem: folder.join(format!("{}-tiles", file.stage.name)), scene }, &mut words)?;
    }
    name_drawings(session, format, &words, out)?;
    Ok(Exit::Done)
}

/// Writes one stage as a drawing.
fn write_drawing(session: &Session<'_>, files: &[&StageFile], to: &Path, out: &mut dyn Write) -> Result<Exit, Failure> {
    let [file] = files else {
        return Err(Failure::Usage("--to-svg writes one stage: name it".into()));
    };
    let (svg, left_out) = stage_to_svg(&file.stage, &session.project.layers);
    write_atomically(to, svg.as_bytes())?;
    let stays = match left_out {
        0 => String::new(),
        count => format!(" {} of tiles and borders stay in the stage file.", counted(count, "thing")),
    };
    writeln!(
        out,
        "{} written.{stays} To use it, take what is drawn out of the stage file and write svg = \"{}\" under [stage].",
        session.shown(to),
        to.file_name().unwrap_or_default().to_string_lossy()
    )?;
    Ok(Exit::Done)
}

/// The stages of these names, or all.
fn named<'s>(session: &'s Session<'_>, names: &[String]) -> Result<Vec<&'s StageFile>, Failure> {
    let files = session.stage_files()?;
    if let Some(name) = names.iter().find(|name| !files.iter().any(|file| file.stage.name == **name)) {
        let known: Vec<&str> = files.iter().map(|file| file.stage.name.as_str()).collect();
        return Err(unknown("stage", name, &known));
    }
    Ok(files.iter().filter(|file| names.is_empty() || names.contains(&file.stage.name)).collect())
}

fn write_stage(
    session: &Session<'_>,
    file: &StageFile,
    list: &StageResult,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let stage = &file.stage;
    let (solids, one_ways) = (stage.solids.len(), stage.one_ways.len());
    writeln!(
        out,
        "{}: {} x {} px, {}, {}, {}, {}.\n",
        stage.name,
        stage.size.x,
        stage.size.y,
        counted(solids, "solid"),
        counted(one_ways, "one-way platform"),
        counted(stage.zones.len(), "zone"),
        counted(stage.spawns.len(), "spawn"),
    )?;
    let names = |set: u32| {
        let bits = LayerSet(set).bits();
        bits.filter_map(|bit| session.project.layers.names.get(bit).cloned()).collect::<Vec<_>>().join(", ")
    };
    let rows = list.things.iter().map(|thing| {
        let [left, top, width, height] = thing.bounds;
        let corners = match thing.holes {
            0 => thing.corners.to_string(),
            holes => format!("{}, {}", thing.corners, counted(holes, "hole")),
        };
        let on = if thing.layer == 0 { "-".to_string() } else { names(thing.layer) };
        vec![
            thing.name.clone(),
            thing.kind.clone(),
            on,
            format!("{left}, {top}"),
            format!("{width} x {height}"),
            corners,
            if thing.affects.is_empty() { "nothing".to_string() } else { by_actor(&thing.affects) },
        ]
    });
    let header = ["thing", "is a", "on", "left, top", "size", "corners", "affects"];
    writeln!(out, "{}", table(&header, &["corners"], rows.collect()).trim_fmt())?;
    for spawn in &stage.spawns {
        writeln!(out, "spawn: {} at {}, {} facing {}", spawn.actor, spawn.at.x, spawn.at.y, spawn.facing)?;
    }
    for spot in &stage.spots {
        writeln!(out, "spot: {} at {}, {}", spot.name, spot.at.x, spot.at.y)?;
    }
    for unread in &file.unread {
        writeln!(out, "not read from the drawing: {unread}")?;
    }
    Ok(())
}

/// Shapes, those of an actor together: `gull body; keeper body, feet`.
fn by_actor(names: &[String]) -> String {
    let mut list = String::new();
    let mut last = "";
    for (actor, shape) in names.iter().filter_map(|name| name.split_once('.')) {
        let parted = if list.is_empty() { "" } else { "; " };
        list.push_str(&if actor == last { format!(", {shape}") } else { format!("{parted}{actor} {shape}") });
        last = actor;
    }
    list
}

fn write_rows(list: &StageList, out: &mut dyn Write) -> Result<(), Failure> {
    let header =
        ["stage", "thing", "kind", "layer", "mask", "left", "top", "width", "height", "corners", "holes", "affects"];
    let rows = list.stages.iter().flat_map(|stage| {
        stage.things.iter().map(|thing| {
            let mut row = vec![stage.stage.clone(), thing.name.clone(), thing.kind.clone()];
            row.extend([thing.layer, thing.mask].map(|bits| bits.to_string()));
            row.extend(thing.bounds.map(|number| number.to_string()));
            row.extend([thing.corners, thing.holes].map(|count| count.to_string()));
            row.push(thing.affects.join(" "));
            row
        })
    });
    write_csv(&header.map(String::from), rows, out)
}

fn sheet(stage: &Stage, tiles: &Tiles) -> TileSheet {
    let (width, height) = tiles.cell;
    let cells = tiles.kinds.iter().map(|kind| {
        let art = tiles.picture.as_ref().and_then(|picture| {
            let per_row = (picture.width() / width).max(1);
            let (x, y) = (kind.number % per_row * width, kind.number / per_row * height);
            picture.crop(finitor_core::art::PixelRect { x, y, width, height })
        });
        let ring = |polygon: &Polygon| polygon.points().to_vec();
        let (w, h) = (f64::from(width), f64::from(height));
        let rings: Vec<Vec<Point>> = match &kind.fill {
            TileFill::Nothing => Vec::new(),
            TileFill::Cell => vec![[(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)].map(Point::from).to_vec()],
            TileFill::Shape(polygons) => polygons.iter().map(ring).collect(),
        };
        let corners = rings.iter().map(Vec::len).sum::<usize>();
        let shape = match kind.word {
            "art" => format!("art, {}", counted(corners, "corner")),
            word => word.to_string(),
        };
        let is_one_way = kind.is_one_way;
        TileCell { number: kind.number, art, rings, is_one_way, words: vec![shape, counted(kind.count, "cell")] }
    });
    let cells: Vec<TileCell> = cells.collect();
    let merged = stage.solids.iter().filter(|solid| solid.name.starts_with(TILES_NAME)).count();
    let count: usize = tiles.kinds.iter().map(|kind| kind.count).sum();
    let title =
        format!("{}: {} in the map, merged into {}", stage.name, counted(count, "tile"), counted(merged, "solid"));
    TileSheet { title, size: tiles.cell, cells }
}
