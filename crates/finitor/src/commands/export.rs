//! `finitor export`.

use crate::cli::{ExportArgs, ExportFormat, FacingChoice, OriginChoice, SpaceArgs, WindingChoice, YChoice};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{ExportRequest, Facings, Failure, export, unknown};
use finitor_core::stage::Stage;
use finitor_core::take::YAxis;
use finitor_files::pack::{
    Layout, Number, Origin, Pack, Space, UpAxis, Winding, c_header, csv_table, lua_table, pack_svg, rust_module,
    to_cbor, to_json,
};
use finitor_files::{ActorFile, Project, counted, write_atomically};
use std::io::Write;
use std::path::Path;

/// Writes a project as a game loads it.
pub(super) fn run(session: &Session<'_>, args: &ExportArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let format = format(args)?;
    let is_all = args.all || (args.actors.is_empty() && args.stage.is_empty());
    let actors: Vec<&ActorFile> =
        if is_all || !args.actors.is_empty() { session.select(&args.actors)? } else { Vec::new() };
    let all_stages = session.stages()?;
    let stages = stages(&all_stages, args, is_all)?;
    let winding = match args.winding {
        WindingChoice::Clockwise => Winding::Clockwise,
        WindingChoice::Counterclockwise => Winding::Counterclockwise,
    };
    let request = ExportRequest {
        actors,
        stages,
        facings: match args.facing {
            FacingChoice::Drawn => Facings::Drawn,
            FacingChoice::Both => Facings::Both,
        },
        only: args.only.clone(),
        piece_points: args.piece_points.map(usize::from),
        space: Space { winding, ..space(&args.space, &session.project) },
    };
    let pack = export(session, &request)?;
    let bytes = written(&pack, format, if args.small { Layout::Small } else { Layout::Lines })?;
    if args.out == Path::new("-") {
        out.write_all(&bytes)?;
    } else {
        write_atomically(&args.out, &bytes)?;
        writeln!(out, "{} -> {}, {} bytes", contents(&pack), args.out.display(), bytes.len())?;
    }
    Ok(Exit::Done)
}

/// The space that options ask for; what they leave open is the project's.
pub(super) fn space(args: &SpaceArgs, project: &Project) -> Space {
    let is_up = match args.y {
        Some(y) => y == YChoice::Up,
        None => project.y_axis == YAxis::Up,
    };
    Space {
        y: if is_up { UpAxis::Up } else { UpAxis::Down },
        unit: Number(args.unit.unwrap_or(project.unit)),
        fixed: args.fixed,
        origin: match args.origin {
            Some(OriginChoice::Cell) => Origin::Cell,
            Some(OriginChoice::Pivot) | None => Origin::Pivot,
        },
        winding: Winding::Clockwise,
    }
}

fn format(args: &ExportArgs) -> Result<ExportFormat, Failure> {
    let ending = args.out.extension().and_then(|ending| ending.to_str());
    let format = args.to.or_else(|| ExportFormat::of_ending(ending?));
    format.ok_or_else(|| {
        let known = "json, cbor, csv, svg, c, rust, lua";
        Failure::Usage(match ending {
            Some(ending) => format!("no format has the ending .{ending}; name one with --to: {known}"),
            None => format!("name a format with --to: {known}"),
        })
    })
}

fn stages<'s>(all: &'s [Stage], args: &ExportArgs, is_all: bool) -> Result<Vec<&'s Stage>, Failure> {
    if is_all {
        return Ok(all.iter().collect());
    }
    let known: Vec<&str> = all.iter().map(|stage| stage.name.as_str()).collect();
    let named =
        |name: &String| all.iter().find(|stage| stage.name == *name).ok_or_else(|| unknown("stage", name, &known));
    args.stage.iter().map(named).collect()
}

fn written(pack: &Pack, format: ExportFormat, layout: Layout) -> Result<Vec<u8>, Failure> {
    Ok(match format {
        ExportFormat::Json => to_json(pack, layout)?.into_bytes(),
        ExportFormat::Cbor => to_cbor(pack)?,
        ExportFormat::Csv => csv_table(pack)?,
        ExportFormat::Svg => pack_svg(pack).into_bytes(),
        ExportFormat::C => c_header(pack).into_bytes(),
        ExportFormat::Rust => rust_module(pack).into_bytes(),
        ExportFormat::Lua => lua_table(pack, layout)?.into_bytes(),
    })
}

/// What a pack holds, in words.
fn contents(pack: &Pack) -> String {
    let frames: usize = pack.actors.iter().map(|actor| actor.frames.len()).sum();
    let sides = pack.actors.iter().flat_map(|actor| &actor.frames).flat_map(|frame| &frame.sides);
    let shapes: usize = sides.map(|side| side.shapes.len()).sum();
    let things: usize =
        pack.stages.iter().map(|stage| stage.solids.len() + stage.one_ways.len() + stage.zones.len()).sum();
    let mut all = Vec::new();
    if !pack.actors.is_empty() {
        let actors = counted(pack.actors.len(), "actor");
        all.push(format!("{actors} with {} and {}", counted(frames, "frame"), counted(shapes, "shape")));
    }
    if !pack.stages.is_empty() {
        all.push(format!("{} with {}", counted(pack.stages.len(), "stage"), counted(things, "outline")));
    }
    all.join(", ")
}
