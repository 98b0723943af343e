//! `[animation.NAME]`: which frames, in which order, for how long.

use crate::cells::{frame_list, parse_list};
use crate::frame_files::matching;
use crate::gallery::{ArtFile, FrameSource};
use crate::images::Image;
use crate::pivot_toml::{PivotSpec, pivot_spec};
use crate::sheet_toml::{Folder, Sheet, chosen, key};
use crate::toml_table::{At, Table, cannot_be_given_together, nearest};
use crate::words::counted;
use finitor_core::Facing;
use std::ops::Range;
use std::sync::Arc;

/// Ticks of a frame whose animation says nothing.
const USUAL_TICKS: u32 = 6;

/// An animation.
#[derive(Clone, Debug)]
pub struct AnimationSpec {
    /// Its name.
    pub name: String,
    /// Its frames' indices in [`ActorFile::frames`](crate::ActorFile::frames).
    pub frames: Range<usize>,
    /// Whether its frames should stand on the pivot's line.
    pub standing: bool,
    /// The frames that it says strike, counted from its first.
    pub active: Option<Vec<u32>>,
    /// The way its art is drawn.
    pub faces: Facing,
    /// The animation that it is shown for when that faces this way, by index.
    pub stands_for: Option<usize>,
    /// Its own pivot.
    pub(crate) pivot: Option<PivotSpec>,
}

/// A frame before its pixels are looked at.
#[derive(Clone, Debug)]
pub(crate) struct FramePlan {
    pub(crate) animation: usize,
    pub(crate) source: FrameSource,
    pub(crate) ticks: u32,
    /// Whether it lies on a canvas that other frames of its size share, so that they have one pivot.
    pub(crate) canvas: bool,
    /// Where its picture is named, for mistakes about it.
    pub(crate) span: Range<usize>,
}

/// Where the frames of an animation come from, in the order of the art.
struct Strip {
    sources: Vec<FrameSource>,
    /// Ticks by the file's own delays, where it has any.
    ticks: Option<Vec<u32>>,
    canvas: bool,
    /// Where the picture is named; where the frames are when `None`.
    named: Option<Range<usize>>,
    /// What they are called where one is missing: `cell`, `file`.
    unit: &'static str,
    of: String,
}

/// Reads all `[animation.NAME]` tables.
pub(crate) fn animations(
    top: &Table<'_>,
    sheets: &[Sheet],
    folder: &Folder<'_>,
    tick_rate: f64,
    drawn: Facing,
) -> (Vec<AnimationSpec>, Vec<FramePlan>) {
    let mut animations = Vec::new();
    let mut standing_in: Vec<(usize, At<String>)> = Vec::new();
    let mut frames: Vec<FramePlan> = Vec::new();
    for (index, (name, table)) in top.named("animation").into_iter().enumerate() {
        crate::names::check_name(&table, &name, "an animation");
        let start = frames.len();
        let standing = table.boolean("standing").is_some_and(|standing| standing.value);
        let active = frame_list(&table, "active");
        let sides = Facing::BOTH.map(|facing| (facing.name(), facing));
        let faces = table.word("faces", &sides).map_or(drawn, |faces| faces.value);
        standing_in.extend(table.string("stands_for", "\"walk\"").map(|of| (index, of)));
        let ping_pong = table.boolean("ping_pong").is_some_and(|back| back.value);
        let ticks = table.integers("ticks", 1..100_000, "6");
        let pivot = pivot_spec(&table);
        let source = source(&table, sheets, folder, tick_rate);
        table.finish();
        if let Some(chosen) = source {
            frames.extend(plans(&table, &chosen, ping_pong, ticks.as_ref(), index));
        }
        let frames = start..frames.len();
        let active = active.map(|active| {
            if let Some(past) = active.value.iter().find(|frame| **frame as usize >= frames.len()) {
                let message = format!("{} has {} frames, there is no frame {past}", name.value, frames.len());
                table.wrong(active.span, message, Some("frames count from 0".into()));
            }
            active.value
        });
        if let Some(PivotSpec::Each(points)) = pivot.as_ref().map(|pivot| &pivot.value)
            && points.len() != frames.len()
            && !frames.is_empty()
        {
            let span = pivot.as_ref().map_or(0..0, |pivot| pivot.span.clone());
            let message = format!("`pivot` lists {} points, {} has {} frames", points.len(), name.value, frames.len());
            table.wrong(span, message, Some("give one [x, y] for all, or one a frame".into()));
        }
        let pivot = pivot.map(|pivot| pivot.value);
        animations.push(AnimationSpec { name: name.value, frames, standing, active, faces, stands_for: None, pivot });
    }
    for (index, of) in standing_in {
        let reason = match animations.iter().position(|animation| animation.name == of.value) {
            Some(found) => match why_not(&animations, index, found) {
                None => {
                    animations[index].stands_for = Some(found);
                    continue;
                }
                Some((reason, hint)) => (reason, Some(hint)),
            },
            None => {
                let names: Vec<&str> = animations.iter().map(|animation| animation.name.as_str()).collect();
                let near = nearest(&of.value, &names).map(|near| format!("did you mean \"{near}\"?"));
                (format!("there is no animation \"{}\"", of.value), near)
            }
        };
        top.wrong(of.span, reason.0, reason.1);
    }
    (animations, frames)
}

/// Why one animation cannot stand for another, and the mend.
fn why_not(animations: &[AnimationSpec], index: usize, of: usize) -> Option<(String, String)> {
    let (own, other) = (&animations[index], &animations[of]);
    if index == of {
        return Some((format!("{} cannot stand for itself", own.name), "name the one drawn for the other side".into()));
    }
    if own.faces == other.faces {
        let message = format!("{} and {} are both drawn facing {}", own.name, other.name, own.faces);
        let turned = if own.faces == Facing::Right { Facing::Left } else { Facing::Right };
        return Some((message, format!("say faces = \"{turned}\" under the one that is")));
    }
    let twin = animations.iter().find(|known| known.stands_for == Some(of));
    twin.map(|twin| (format!("{} stands for {} already", twin.name, other.name), "one can, for the other side".into()))
}

/// Frames chosen from a strip.
struct Chosen {
    strip: Strip,
    /// Numbers into the strip; all of it where `None`.
    order: Option<At<Vec<u32>>>,
    /// Where the frames are named.
    span: Range<usize>,
}

fn source(table: &Table<'_>, sheets: &[Sheet], folder: &Folder<'_>, tick_rate: f64) -> Option<Chosen> {
    let ways = ["cells", "files", "file"];
    let used: Vec<&str> = ways.into_iter().filter(|way| table.has(way)).collect();
    match used.as_slice() {
        ["cells"] => {
            let cells = table.string("cells", "\"0-3\"");
            let sheet = chosen(table, sheets);
            let cells = cells?;
            if sheets.is_empty() {
                if folder.has_sheets {
                    return None;
                }
                let hint = "add [[sheet]] with its `image` and `cell`, or name `files` or a `file`".to_string();
                table.wrong(cells.span, "`cells` are cells of a sheet, and the actor has none", Some(hint));
                return None;
            }
            let sheet = sheet?;
            let order = list(table, cells)?;
            let span = order.span.clone();
            Some(Chosen { strip: strip_of(sheet), order: Some(order), span })
        }
        ["files"] => {
            let (strip, span) = files(table, folder)?;
            Some(Chosen { strip, order: order(table)?, span })
        }
        ["file"] => {
            let (strip, span) = animated(table, folder, tick_rate)?;
            Some(Chosen { strip, order: order(table)?, span })
        }
        several => {
            table.note_known(&["cells", "files", "file", "sheet", "order", "parts", "key", "key_tolerance"]);
            if several.is_empty() {
                table.missing("cells", "\"0-3\"");
            } else {
                table.wrong(table.span.clone(), cannot_be_given_together(several), None);
            }
            None
        }
    }
}

/// `order` of an animation of files; `None` when it is wrong, `Some(None)` when it is not given.
fn order(table: &Table<'_>) -> Option<Option<At<Vec<u32>>>> {
    match table.string("order", "\"0-3,2-1\"") {
        Some(text) => list(table, text).map(Some),
        None => (!table.has("order")).then_some(None),
    }
}

fn list(table: &Table<'_>, text: At<String>) -> Option<At<Vec<u32>>> {
    match parse_list(&text.value) {
        Ok(value) => Some(At { value, span: text.span }),
        Err(reason) => {
            let hint = "write numbers in order, for example \"0-3\" or \"9,4-8\"".to_string();
            table.wrong(text.span, reason, Some(hint));
            None
        }
    }
}

fn strip_of(sheet: &Sheet) -> Strip {
    let cut =
        |rect| FrameSource { file: Arc::clone(&sheet.file), parts: sheet.parts.clone(), image: 0, rect: Some(rect) };
    let sizes = match (sheet.regular, sheet.cells.first()) {
        (true, Some(cell)) => format!(" of {} x {} px", cell.width, cell.height),
        _ => " found by the gaps".to_string(),
    };
    Strip {
        sources: sheet.cells.iter().copied().map(cut).collect(),
        ticks: None,
        canvas: sheet.regular,
        named: Some(sheet.span.clone()),
        unit: "cell",
        of: format!("{}: it has {}{sizes}", sheet.file.name, counted(sheet.cells.len(), "cell")),
    }
}

fn files(table: &Table<'_>, folder: &Folder<'_>) -> Option<(Strip, Range<usize>)> {
    let patterns = table.strings("files", "\"turn_*.png\"");
    let maps = table.strings("parts", "\"turn_*.parts.png\"");
    let key = key(table);
    let patterns = patterns?;
    let span = patterns.first().map_or(table.span.clone(), |pattern| pattern.span.clone());
    let art = named_files(table, folder, &patterns, key)?;
    let parts = match &maps {
        Some(maps) => Some(named_files(table, folder, maps, None)?),
        None => None,
    };
    if let (Some(parts), Some(maps)) = (&parts, &maps)
        && parts.len() != art.len()
    {
        let span = maps.first().map_or(table.span.clone(), |map| map.span.clone());
        table.wrong(span, format!("there are {} part maps for {} frames", parts.len(), art.len()), None);
        return None;
    }
    let of = format!("the {} of {}", counted(art.len(), "file"), patterns.first().map_or("", |p| p.value.as_str()));
    let sources = art.into_iter().enumerate().map(|(index, file)| FrameSource {
        file,
        parts: parts.as_ref().map(|parts| Arc::clone(&parts[index])),
        image: 0,
        rect: None,
    });
    Some((Strip { sources: sources.collect(), ticks: None, canvas: true, named: None, unit: "file", of }, span))
}

/// The files of all patterns, those of each pattern in natural order.
fn named_files(
    table: &Table<'_>,
    folder: &Folder<'_>,
    patterns: &[At<String>],
    key: Option<finitor_core::art::Key>,
) -> Option<Vec<Arc<ArtFile>>> {
    let mut files = Vec::new();
    for pattern in patterns {
        match matching(folder.root, folder.base, &pattern.value) {
            Ok(found) if found.is_empty() => {
                let message = format!("no file matches \"{}\"", pattern.value);
                let hint = "patterns start at this file's folder; * stands for any letters within a name".to_string();
                table.wrong(pattern.span.clone(), message, Some(hint));
                return None;
            }
            Ok(found) => files.extend(found.into_iter().map(|path| {
                let name = path.strip_prefix(folder.base).unwrap_or(&path).to_string_lossy().replace('\\', "/");
                Arc::new(ArtFile { path, name, key, shared: false })
            })),
            Err(reason) => {
                table.wrong(pattern.span.clone(), reason, None);
                return None;
            }
        }
    }
    Some(files)
}

fn animated(table: &Table<'_>, folder: &Folder<'_>, tick_rate: f64) -> Option<(Strip, Range<usize>)> {
    let name = table.string("file", "\"turn.gif\"");
    let maps = table.string("parts", "\"turn.parts.png\"");
    let key = key(table);
    let name = name?;
    let file = folder.art_file(&name, key, true)?;
    let parts = match &maps {
        Some(maps) => Some(folder.art_file(maps, None, true)?),
        None => None,
    };
    let images = folder.open(&file, &name)?;
    if let (Some(parts), Some(maps)) = (&parts, &maps) {
        let count = folder.open(parts, maps)?.len();
        if count != 1 && count != images.len() {
            let message =
                format!("the part map has {count} images, the animation {}; give one, or one each", images.len());
            table.wrong(maps.span.clone(), message, None);
            return None;
        }
    }
    let of = format!("{}: it has {}", name.value, counted(images.len(), "image"));
    let source = |image| FrameSource { file: Arc::clone(&file), parts: parts.clone(), image, rect: None };
    let ticks = (images.len() > 1).then(|| ticks_of(&images, tick_rate));
    Some((
        Strip { sources: (0..images.len()).map(source).collect(), ticks, canvas: true, named: None, unit: "image", of },
        name.span,
    ))
}

/// Delays as ticks: each image ends at the tick nearest to its end in time, so that the whole keeps its length; none is
/// shorter than a tick.
fn ticks_of(images: &[Image], tick_rate: f64) -> Vec<u32> {
    let (mut time, mut tick) = (0.0, 0.0);
    let ticks = images.iter().map(|image| {
        time += image.delay * tick_rate;
        let length = f64::max(time.round() - tick, 1.0);
        tick += length;
        length as u32
    });
    ticks.collect()
}

fn plans(
    table: &Table<'_>,
    chosen: &Chosen,
    ping_pong: bool,
    ticks: Option<&At<Vec<i64>>>,
    animation: usize,
) -> Vec<FramePlan> {
    let strip = &chosen.strip;
    let count = strip.sources.len();
    let mut order: Vec<usize> = match &chosen.order {
        Some(order) => order.value.iter().map(|number| *number as usize).collect(),
        None => (0..count).collect(),
    };
    if let Some(past) = order.iter().find(|number| **number >= count) {
        let span = chosen.order.as_ref().map_or(chosen.span.clone(), |order| order.span.clone());
        let last = count.saturating_sub(1);
        table.wrong(span, format!("{} {past} is past the end of {}, 0 to {last}", strip.unit, strip.of), None);
        return Vec::new();
    }
    let mut lengths: Vec<u32> = match ticks {
        Some(ticks) if ticks.value.len() == 1 => vec![ticks.value[0] as u32; order.len()],
        Some(ticks) if ticks.value.len() == order.len() => ticks.value.iter().map(|length| *length as u32).collect(),
        Some(ticks) => {
            let message = format!("`ticks` lists {} lengths for {} frames", ticks.value.len(), order.len());
            table.wrong(ticks.span.clone(), message, Some("give one for all, or one a frame".into()));
            return Vec::new();
        }
        None => order.iter().map(|n| strip.ticks.as_ref().map_or(USUAL_TICKS, |ticks| ticks[*n])).collect(),
    };
    if ping_pong && order.len() > 2 {
        // There and back: neither end twice in a row, also where the animation starts over.
        let back = 1..order.len() - 1;
        lengths.extend(lengths[back.clone()].to_vec().iter().rev());
        order.extend(order[back].to_vec().iter().rev());
    }
    let plan = |(number, ticks): (usize, u32)| FramePlan {
        animation,
        source: strip.sources[number].clone(),
        ticks,
        canvas: strip.canvas,
        span: strip.named.clone().unwrap_or_else(|| chosen.span.clone()),
    };
    order.into_iter().zip(lengths).map(plan).collect()
}
