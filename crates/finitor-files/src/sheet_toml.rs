//! `[[sheet]]`: pictures that hold many frames, and how they are cut.

use crate::gallery::{ArtFile, Gallery};
use crate::images::read_size;
use crate::paths::resolve;
use crate::toml_table::{At, Document, Table, nearest};
use finitor_core::art::{Colour, Grid, Key, Mask, PixelRect, cells_by_gaps};
use std::ops::Range;
use std::path::Path;
use std::sync::Arc;

/// A sheet, cut.
#[derive(Clone, Debug)]
pub(crate) struct Sheet {
    pub(crate) name: String,
    pub(crate) file: Arc<ArtFile>,
    pub(crate) parts: Option<Arc<ArtFile>>,
    /// Its cells in order.
    pub(crate) cells: Vec<PixelRect>,
    /// Whether its cells are of one size, frames lying alike in them.
    pub(crate) regular: bool,
    /// Where its picture is named.
    pub(crate) span: Range<usize>,
}

/// Where the files of an actor are and how their pictures are read.
pub(crate) struct Folder<'a> {
    pub(crate) doc: &'a Document,
    pub(crate) root: &'a Path,
    /// The folder of the actor file.
    pub(crate) base: &'a Path,
    pub(crate) gallery: &'a Gallery,
    /// Whether the actor file has any `[[sheet]]`, right or wrong.
    pub(crate) has_sheets: bool,
}

impl Folder<'_> {
    /// The art file of a written name; a mistake is noted when it leaves the project.
    pub(crate) fn art_file(&self, name: &At<String>, key: Option<Key>, shared: bool) -> Option<Arc<ArtFile>> {
        let resolved = resolve(self.root, self.base, &name.value);
        let path = resolved.map_err(|reason| self.doc.wrong(name.span.clone(), reason, None)).ok()?;
        Some(Arc::new(ArtFile { path, name: name.value.clone(), key, shared }))
    }

    /// The size of a file's images by its header; a mistake is noted when it cannot be read.
    pub(crate) fn size(&self, file: &ArtFile, name: &At<String>) -> Option<(u32, u32)> {
        let note = |reason| self.doc.wrong(name.span.clone(), format!("picture \"{}\": {reason}", name.value), None);
        read_size(&file.path, self.gallery.max_mpx()).map_err(note).ok()
    }

    /// All images of a file; a mistake is noted when it cannot be read.
    pub(crate) fn open(&self, file: &Arc<ArtFile>, name: &At<String>) -> Option<Arc<Vec<crate::images::Image>>> {
        let images = self.gallery.images(file);
        let note = |reason| self.doc.wrong(name.span.clone(), format!("picture \"{}\": {reason}", name.value), None);
        images.map_err(note).ok()
    }
}

/// Reads `key` and `key_tolerance`.
pub(crate) fn key(table: &Table<'_>) -> Option<Key> {
    let text = table.string("key", "\"#ff00ff\", or \"corner\"");
    let tolerance = table.integer("key_tolerance", 0..256, "8");
    let Some(text) = text else {
        if let Some(tolerance) = tolerance {
            let hint = "add `key = \"corner\"`, or a colour such as \"#ff00ff\"".to_string();
            table.wrong(tolerance.span, "`key_tolerance` has no effect without `key`", Some(hint));
        }
        return None;
    };
    let colour = Colour::parse(&text.value);
    if colour.is_none() && text.value != "corner" {
        let message = format!("\"{}\" is not a colour", text.value);
        let hint = "write the background's colour as six hex digits, such as \"#ff00ff\", or \"corner\" for that of the top left pixel";
        table.wrong(text.span, message, Some(hint.into()));
    }
    Some(Key { colour, tolerance: tolerance.map_or(0, |found| found.value as u8) })
}

/// Reads all `[[sheet]]` tables and cuts their pictures.
pub(crate) fn sheets(top: &Table<'_>, folder: &Folder<'_>) -> Vec<Sheet> {
    top.tables("sheet").iter().filter_map(|table| sheet(table, folder)).collect()
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Cut {
    Grid,
    Gaps,
}

fn sheet(table: &Table<'_>, folder: &Folder<'_>) -> Option<Sheet> {
    let before = folder.doc.mistakes();
    let name = table.string("name", "\"main\"");
    let image = table.required_string("image", "\"keeper.png\"");
    let parts = table.string("parts", "\"keeper.parts.png\"");
    let cell = table.numbers::<2>("cell", "[48, 48]");
    let margin = table.one_or_two("margin", 0..4096, "0");
    let gap = table.one_or_two("gap", 0..4096, "0");
    let cut = table.word("cut", &[("grid", Cut::Grid), ("gaps", Cut::Gaps)]).map_or(Cut::Grid, |cut| cut.value);
    let key = key(table);
    table.finish();
    let image = image?;
    // Cells that are not those meant would be past many ends.
    let is_sound = folder.doc.mistakes() == before;
    let file = folder.art_file(&image, key, true);
    let part_file = parts.as_ref().and_then(|parts| folder.art_file(parts, None, true));
    let file = file?;
    let size = folder.size(&file, &image)?;
    if let (Some(parts), Some(map)) = (&parts, &part_file) {
        check_part_map(folder, map, parts, PictureSize::from(size));
    }
    let cells = match cut {
        Cut::Gaps => {
            for (unused, key) in
                [(cell.as_ref().map(|c| &c.span), "cell"), (margin.as_ref().map(|m| &m.span), "margin")]
            {
                if let Some(span) = unused {
                    let message =
                        format!("`{key}` is for grids; with cut = \"gaps\" the art itself says where cells are");
                    table.wrong(span.clone(), message, None);
                }
            }
            let gap = gap.as_ref().map_or(1, |gap| gap.value.0.min(gap.value.1));
            let images = folder.open(&file, &image)?;
            found_cells(table, &image, &images.first()?.picture.opaque(1), gap)
        }
        Cut::Grid => {
            let pair = |found: &Option<At<(u32, u32)>>| found.as_ref().map_or((0, 0), |found| found.value);
            let before = pair(&margin);
            // One number is room on all sides, two are only the room before the first cell.
            let after = if table.is_list("margin") { (0, 0) } else { before };
            let cell_size = cell_size(table, cell.as_ref(), PictureSize::from(size))?;
            let grid = Grid { cell: cell_size, before, after, gap: pair(&gap) };
            let cells = grid.rects(size.0, size.1);
            if cells.is_empty() {
                let message =
                    format!("no whole cell fits into the picture, {} x {} px, with this margin", size.0, size.1);
                table.wrong(cell.map_or(table.span.clone(), |cell| cell.span), message, None);
            } else if let Some(cell) = cell.as_ref().filter(|_| margin.is_none() && gap.is_none()) {
                let images = || folder.open(&file, &image);
                art_left_over(table, cell, &cells, PictureSize::from(size), || {
                    Some(images()?.first()?.picture.opaque(1))
                });
            }
            cells
        }
    };
    if cells.is_empty() || !is_sound {
        return None;
    }
    let name = name.map_or_else(String::new, |name| name.value);
    Some(Sheet { name, file, parts: part_file, cells, regular: cut == Cut::Grid, span: image.span })
}

/// Art beyond the last whole cell is cut off, and most often all cells are cut wrongly then.
fn art_left_over(
    table: &Table<'_>,
    cell: &At<[f64; 2]>,
    cells: &[PixelRect],
    size: PictureSize,
    art: impl FnOnce() -> Option<Mask>,
) {
    let right = cells.iter().map(|cell| cell.x + cell.width).max().unwrap_or(0);
    let bottom = cells.iter().map(|cell| cell.y + cell.height).max().unwrap_or(0);
    let (over, under) = (size.width.saturating_sub(right), size.height.saturating_sub(bottom));
    if over == 0 && under == 0 {
        return;
    }
    let Some(art) = art() else { return };
    let has_art = |x: u32, y: u32| (y..size.height).any(|y| (x..size.width).any(|x| art.get(x.into(), y.into())));
    let sides = [(over, has_art(right, 0), "right"), (under, has_art(0, bottom), "bottom")];
    let cut: Vec<String> = sides
        .into_iter()
        .filter(|(left, art, _)| *left > 0 && *art)
        .map(|(left, _, side)| format!("{left} px at the {side}"))
        .collect();
    if cut.is_empty() {
        return;
    }
    // The nearest to what was given that divides the picture, if any is near.
    let even = |whole: u32, given: f64| {
        let sizes = (1..=whole).filter(|size| whole.is_multiple_of(*size)).map(f64::from);
        let nearest = sizes.min_by(|a, b| (a - given).abs().total_cmp(&(b - given).abs()));
        nearest.filter(|size| (size - given).abs() <= given / 4.0)
    };
    let divides = even(size.width, cell.value[0]).zip(even(size.height, cell.value[1]));
    let message = format!(
        "cells of {} x {} px leave {} of the picture over, {} x {} px, and there is art in it",
        cell.value[0],
        cell.value[1],
        cut.join(" and "),
        size.width,
        size.height
    );
    let hint = if let Some((width, height)) = divides {
        format!(
            "`cell = [{width}, {height}]` divides it evenly; or correct `margin` and `gap`; `finitor sheet` shows what it finds"
        )
    } else {
        "correct `cell`, `margin` or `gap`; `finitor sheet` shows what it finds".to_string()
    };
    table.wrong(cell.span.clone(), message, Some(hint));
}

fn found_cells(table: &Table<'_>, image: &At<String>, art: &Mask, gap: u32) -> Vec<PixelRect> {
    let cells = cells_by_gaps(art, gap);
    if cells.is_empty() {
        table.wrong(image.span.clone(), "the picture has no pixel that is not wholly transparent", None);
    }
    cells
}

/// Size of a picture, px.
#[derive(Clone, Copy, PartialEq, Eq)]
struct PictureSize {
    width: u32,
    height: u32,
}

impl From<(u32, u32)> for PictureSize {
    fn from((width, height): (u32, u32)) -> PictureSize {
        PictureSize { width, height }
    }
}

fn check_part_map(folder: &Folder<'_>, map: &Arc<ArtFile>, parts: &At<String>, size: PictureSize) {
    let found = folder.size(map, parts);
    if let Some((width, height)) = found.filter(|found| PictureSize::from(*found) != size) {
        let message = format!(
            "the part map is {width} x {height} px, its picture {} x {}; they must be of one size",
            size.width, size.height
        );
        folder.doc.wrong(parts.span.clone(), message, None);
    }
}

fn cell_size(table: &Table<'_>, cell: Option<&At<[f64; 2]>>, whole: PictureSize) -> Option<(u32, u32)> {
    let Some(At { value: [w, h], span }) = cell else {
        return (!table.has("cell")).then_some((whole.width, whole.height));
    };
    let side = |length: f64, most: u32| {
        (length.fract() == 0.0 && length >= 1.0 && length <= f64::from(most)).then_some(length as u32)
    };
    let found = side(*w, whole.width).zip(side(*h, whole.height));
    if found.is_none() {
        let message = format!(
            "`cell` must be two whole numbers from 1 to the picture's size, {} x {}, not {w} x {h}",
            whole.width, whole.height
        );
        table.wrong(span.clone(), message, None);
    }
    found
}

/// The sheet that an animation names, or the first.
pub(crate) fn chosen<'s>(table: &Table<'_>, sheets: &'s [Sheet]) -> Option<&'s Sheet> {
    let Some(named) = table.string("sheet", "\"main\"") else {
        return sheets.first();
    };
    let found = sheets.iter().find(|sheet| sheet.name == named.value);
    if found.is_none() {
        let names: Vec<&str> = sheets.iter().map(|sheet| sheet.name.as_str()).collect();
        let hint = nearest(&named.value, &names).map(|near| format!("did you mean \"{near}\"?"));
        table.wrong(named.span, format!("there is no sheet \"{}\"", named.value), hint);
    }
    found
}
