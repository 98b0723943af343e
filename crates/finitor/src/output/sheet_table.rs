//! What was seen on pictures, in words and as JSON.

use finitor_app::Failure;
use finitor_app::{PictureGroup, SeenPicture, What, canvases, evidence, other_cuts};
use finitor_core::art::{Background, CellLook, Colour, Cutting, GridEvidence, SheetLook};
use finitor_files::{counted, first_few, ranges};
use std::io::Write;

/// Cells named one by one, up to this many.
const MOST_NAMED: usize = 8;

/// Tells what each picture shows, the most telling first.
pub(crate) fn write_looks(groups: &[PictureGroup], out: &mut dyn Write) -> Result<(), Failure> {
    let (canvases, places) = canvases(groups);
    for (index, (group, place)) in groups.iter().zip(&places).enumerate() {
        if index > 0 {
            writeln!(out)?;
        }
        write_head(group, out)?;
        let mut lines: Vec<(&str, String)> = Vec::new();
        match group.seen.first().map(|seen| &seen.what) {
            Some(What::Sheet(look)) => lines.extend(sheet_lines(look)),
            Some(What::Frame(_)) => lines.extend(files_lines(group)),
            Some(What::Animated { size, runs, delays }) => {
                let empty: Vec<usize> = (0..runs.len()).filter(|i| runs[*i].is_empty()).collect();
                let total: f64 = delays.iter().sum();
                lines.push(("images", format!("{} of {} x {} px, {total:.2} s in all", runs.len(), size.0, size.1)));
                if !empty.is_empty() {
                    lines.push(("empty", named("image", &empty)));
                }
            }
            None => {}
        }
        let stance = place.and_then(|place| canvases[place].stance.as_ref().map(|stance| (place, stance)));
        if let Some((place, stance)) = stance {
            let standing = stance.standing.iter().filter(|standing| **standing).count();
            let across = if stance.centred { "middle of the cell" } else { "middle of the feet" };
            lines.push((
                "pivot",
                format!(
                    "[{}, {}]: the art of {standing} of {} frames ends on y {}; x is the {across}",
                    stance.pivot.x,
                    stance.pivot.y,
                    canvases[place].frames.len(),
                    stance.pivot.y
                ),
            ));
        }
        if let Some(parts) = group.seen.first().and_then(|seen| seen.parts.as_ref()) {
            lines.push(("part map", parts.display().to_string()));
        }
        for (title, words) in lines {
            writeln!(out, "  {title:<9} {words}")?;
        }
    }
    writeln!(out)?;
    Ok(())
}

fn write_head(group: &PictureGroup, out: &mut dyn Write) -> Result<(), Failure> {
    let Some(first) = group.seen.first() else {
        return Ok(());
    };
    let about = |seen: &SeenPicture| {
        let (size, background) = match &seen.what {
            What::Sheet(look) | What::Frame(look) => (look.size, background_words(&look.background)),
            What::Animated { size, .. } => (*size, String::new()),
        };
        format!("{} x {} px, {}{background}", size.0, size.1, seen.written_as)
    };
    match group.seen.len() {
        1 => writeln!(out, "{}: {}", first.path.display(), about(first))?,
        count => writeln!(out, "{} and {} more: each {}", first.path.display(), count - 1, about(first))?,
    }
    Ok(())
}

/// What a chess board in place of transparency is, and what to do.
pub(crate) fn painted_words(one: Colour, other: Colour) -> String {
    format!(
        "squares of {one} and {other}, as programs show transparency, are painted into it; save it with an alpha channel, or all of it counts as art"
    )
}

fn background_words(background: &Background) -> String {
    match background {
        Background::Transparent => ", transparent around the art".to_string(),
        Background::Coloured(colour, share) => {
            format!(", NOT transparent: {:.0} % is {colour}; set key = \"{colour}\"", share * 100.0)
        }
        Background::Checkered([one, other]) => {
            format!(", NOT transparent: {}", painted_words(*one, *other))
        }
        Background::None => ", opaque all over".to_string(),
    }
}

/// How the picture is cut.
fn cut_line(look: &SheetLook) -> Option<(&'static str, String)> {
    let used = look.cells.iter().filter(|cell| !cell.is_empty()).count();
    Some(match look.cutting {
        Cutting::Whole => ("frames", "one: the whole picture".to_string()),
        Cutting::Gaps(gap) => {
            let sizes = look.cells.iter().map(|cell| (cell.rect.width, cell.rect.height));
            let (low, high) = sizes.fold(((u32::MAX, u32::MAX), (0, 0)), |(low, high), (w, h)| {
                ((low.0.min(w), low.1.min(h)), (high.0.max(w), high.1.max(h)))
            });
            (
                "no grid",
                format!(
                    "{used} pieces of art in {} rows, {} x {} to {} x {} px, parted by transparent gaps of {gap} px or more",
                    look.rows.len(),
                    low.0,
                    low.1,
                    high.0,
                    high.1
                ),
            )
        }
        Cutting::Guessed(_) | Cutting::Given(_) => {
            let grid = look.cutting.grid()?;
            let (columns, rows) = grid.cells_in(look.size.0, look.size.1);
            let mut words = format!(
                "{} x {} px: {}, {}, {used} of {} cells used{}",
                grid.cell.0,
                grid.cell.1,
                counted(columns as usize, "column"),
                counted(rows as usize, "row"),
                look.cells.len(),
                evidence(&look.cutting)
            );
            if grid.before != (0, 0) || grid.gap != (0, 0) {
                words += &format!("; margin {}, {}, gap {}, {}", grid.before.0, grid.before.1, grid.gap.0, grid.gap.1);
            }
            ("grid", words)
        }
    })
}

/// Where a sheet seems to have words above its frames, and what becomes of them.
pub(crate) fn heading_words(look: &SheetLook) -> Option<String> {
    if look.words.is_empty() || look.cells.len() < 2 {
        return None;
    }
    let lines: Vec<String> = look.words.iter().map(|rows| format!("{} to {}", rows.start, rows.end - 1)).collect();
    let is_in_cells = look.words.iter().any(|rows| look.is_in_cells(rows));
    let becomes = match look.cutting.grid() {
        Some(grid) if !is_in_cells => format!("no cell holds them, the first begins at y {}", grid.before.1),
        _ => "cut them off the picture, or its cells are wrong".to_string(),
    };
    Some(format!("y {} look like words above the frames: {becomes}", first_few(&lines, MOST_NAMED, ", ")))
}

fn sheet_lines(look: &SheetLook) -> Vec<(&'static str, String)> {
    let mut lines: Vec<_> = cut_line(look).into_iter().collect();
    lines.extend(other_cuts(look).into_iter().map(|other| ("or", format!("`{}`: {}", other.options, other.words))));
    lines.extend(heading_words(look).map(|words| ("words?", words)));
    if look.rows.len() > 1 {
        let row = |row: &Vec<usize>| ranges(&row.iter().map(|cell| *cell as u32).collect::<Vec<_>>());
        let rows: Vec<String> = look.rows.iter().map(row).collect();
        lines.push(("rows", format!("cells {}", first_few(&rows, MOST_NAMED, "; "))));
    }
    let indices = |pick: &dyn Fn(&CellLook) -> bool| -> Vec<usize> {
        (0..look.cells.len()).filter(|index| pick(&look.cells[*index])).collect()
    };
    let empty = indices(&CellLook::is_empty);
    if !empty.is_empty() {
        lines.push(("empty", named("cell", &empty)));
    }
    // Cells cut by gaps end where the art does, and so does the one cell of a picture that was trimmed; the cells of a
    // tile set are filled to their edges.
    let cut_by_art = match look.cutting {
        Cutting::Guessed(guess) => matches!(guess.evidence, GridEvidence::Alike(_) | GridEvidence::Lines),
        Cutting::Given(_) => look.background != Background::None,
        Cutting::Gaps(_) | Cutting::Whole => false,
    };
    if cut_by_art {
        let cut = indices(&|cell| cell.cut_off() > 0);
        if !cut.is_empty() {
            lines.push(("cut off?", cut_words(look, &cut)));
        }
    }
    lines.extend(twin_words(look).map(|words| ("twins", words)));
    lines
}

fn cut_words(look: &SheetLook, cut: &[usize]) -> String {
    let each = cut.iter().map(|index| {
        let [left, top, right, _] = look.cells[*index].touched;
        let sides = [("left", left), ("top", top), ("right", right)];
        let sides: Vec<String> =
            sides.iter().filter(|(_, px)| *px > 0).map(|(side, px)| format!("{side} by {px} px")).collect();
        format!("cell {index} {}", sides.join(", "))
    });
    let each: Vec<String> = each.collect();
    format!("art touches the cell's edge: {}", first_few(&each, MOST_NAMED, "; "))
}

fn twin_words(look: &SheetLook) -> Option<String> {
    let twins = look.cells.iter().enumerate().filter_map(|(index, cell)| match (cell.same_as, cell.mirror_of) {
        (Some(first), _) => Some(format!("{index} is {first} again")),
        (None, Some(first)) => Some(format!("{index} is {first} mirrored")),
        _ => None,
    });
    let twins: Vec<String> = twins.collect();
    (!twins.is_empty()).then(|| format!("cell {}", first_few(&twins, MOST_NAMED, ", ")))
}

fn files_lines(group: &PictureGroup) -> Vec<(&'static str, String)> {
    let looks = group.seen.iter().filter_map(|seen| match &seen.what {
        What::Frame(look) => Some(look),
        _ => None,
    });
    let looks: Vec<&SheetLook> = looks.collect();
    let sizes: Vec<(u32, u32)> = looks.iter().map(|look| look.size).collect();
    let same = sizes.iter().all(|size| *size == sizes[0]);
    let words = if same { "all of one size" } else { "of several sizes: each has its own feet" };
    let mut lines = vec![("animation", format!("{}: {} frames, {words}", group.name, looks.len()))];
    let empty: Vec<usize> = (0..looks.len()).filter(|i| looks[*i].cells.iter().all(CellLook::is_empty)).collect();
    if !empty.is_empty() {
        lines.push(("empty", named("frame", &empty)));
    }
    lines
}

/// `cells 3, 5, 9`.
fn named(unit: &str, indices: &[usize]) -> String {
    let listed: Vec<String> = indices.iter().map(ToString::to_string).collect();
    let plural = if indices.len() == 1 { "" } else { "s" };
    format!("{unit}{plural} {}", first_few(&listed, MOST_NAMED, ", "))
}
