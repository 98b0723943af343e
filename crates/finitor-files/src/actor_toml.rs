//! Actor files and the pictures they name.

use crate::anchors::{AnchorSpec, anchors};
use crate::cells::parse_list;
use crate::images::{MAX_FRAME_PIXELS, read_picture};
use crate::paths::resolve;
use crate::problem::{Problem, Problems};
use crate::shape_toml::{ShapeSpec, assign_frames, check_paint, shapes};
use crate::toml_table::{At, Document, Table, nearest};
use finitor_core::art::{Picture, PixelRect};
use finitor_core::fit::FrameArt;
use finitor_core::layers::Layers;
use finitor_core::{Facing, Point};
use std::ops::Range;
use std::path::{Path, PathBuf};

/// Alpha from which a pixel counts where no shape says otherwise: for the pivot "feet" and for the feet of checks.
pub(crate) const USUAL_ALPHA: u8 = 128;

/// An actor file, read and resolved, with its frames' pixels.
#[derive(Clone, Debug)]
pub struct ActorFile {
    /// The file.
    pub path: PathBuf,
    /// The actor's name.
    pub name: String,
    /// The way its art is drawn.
    pub faces: Facing,
    /// The pivot, cell px; the same on every frame.
    pub pivot: Point,
    /// Animations in the file's order.
    pub animations: Vec<AnimationSpec>,
    /// All frames, animation by animation.
    pub frames: Vec<LoadedFrame>,
    /// Shapes in the file's order, with the frames they are on.
    pub shapes: Vec<ShapeSpec>,
    /// Anchors in the file's order.
    pub anchors: Vec<AnchorSpec>,
}

/// An animation.
#[derive(Clone, Debug)]
pub struct AnimationSpec {
    /// Its name.
    pub name: String,
    /// Its frames' indices in [`ActorFile::frames`].
    pub frames: Range<usize>,
}

/// A frame with its pixels.
#[derive(Clone, Debug)]
pub struct LoadedFrame {
    /// Index of its animation.
    pub animation: usize,
    /// Its number in the animation.
    pub number: usize,
    /// The picture it is cut from, as written in the file.
    pub image: String,
    /// Where in the picture.
    pub rect: PixelRect,
    /// How long it lasts.
    pub ticks: u32,
    /// Its pixels.
    pub art: FrameArt,
    /// Hash of its pixels.
    pub art_hash: String,
}

impl ActorFile {
    /// `walk 3`.
    pub fn frame_name(&self, frame: usize) -> String {
        let frame = &self.frames[frame];
        format!("{} {}", self.animations[frame.animation].name, frame.number)
    }
}

/// A sheet cut by a grid.
struct Sheet {
    name: String,
    image: String,
    picture: Picture,
    parts: Option<Picture>,
    cell: (u32, u32),
    margin: u32,
    gap: u32,
}

impl Sheet {
    /// How many whole cells fit in one direction.
    fn fit(&self, length: u32, cell: u32) -> u32 {
        let room = u64::from(length) + u64::from(self.gap);
        let used = u64::from(self.margin) * 2;
        // One cell takes its size and a gap; the last needs no gap, which `room` makes up for.
        (room.saturating_sub(used) / (u64::from(cell) + u64::from(self.gap))) as u32
    }

    fn columns(&self) -> u32 {
        self.fit(self.picture.width(), self.cell.0)
    }

    fn count(&self) -> u32 {
        self.columns() * self.fit(self.picture.height(), self.cell.1)
    }

    fn rect(&self, cell: u32) -> PixelRect {
        let (column, row) = (cell % self.columns(), cell / self.columns());
        PixelRect {
            x: self.margin + column * (self.cell.0 + self.gap),
            y: self.margin + row * (self.cell.1 + self.gap),
            width: self.cell.0,
            height: self.cell.1,
        }
    }
}

/// Reads an actor file and all pictures it names.
///
/// # Errors
/// All mistakes in the file and its pictures.
pub fn load_actor(root: &Path, path: &Path, layers: &Layers) -> Result<ActorFile, Problems> {
    let doc = Document::open(path)?;
    let text = doc.text();
    let parsed = doc.parse(&text)?;
    let top = Table::top(&doc, &parsed);
    let head = top.table("actor");
    if head.is_none() && !top.has("actor") {
        top.missing_table("[actor]");
    }
    let name = head.as_ref().and_then(|t| t.required_string("name", "\"keeper\""));
    if let Some(name) = &name {
        check_name(&top, name, "an actor");
    }
    let faces_words = Facing::BOTH.map(|facing| (facing.name(), facing));
    let faces = head.as_ref().and_then(|t| t.word("faces", &faces_words)).map_or(Facing::Right, |f| f.value);
    let pivot = head.as_ref().and_then(pivot_spec);
    if let Some(head) = &head {
        head.word("flip_about", &[("pivot", ())]);
        head.finish();
    }
    let sheets = sheets(&doc, &top, root, path);
    let (animations, frames) = animations(&top, &sheets);
    let mut shapes = shapes(&top, layers);
    assign_frames(&top, &mut shapes, &animations);
    if !sheets.is_empty() && sheets.iter().all(|sheet| sheet.parts.is_none()) {
        check_paint(&top, &shapes);
    }
    let anchors = anchors(&top, &animations);
    top.finish();
    if frames.is_empty() && doc.is_sound() {
        let hint = "add for example [animation.idle] with cells = \"0-3\"";
        doc.note(Problem::of_file(path, "the actor has no animation").with_hint(hint));
    }
    let pivot = match pivot {
        Some(Pivot::At(at)) => at,
        Some(Pivot::Feet) | None => frames.first().map_or(Point::ZERO, |frame| feet(&frame.art)),
    };
    let actor = ActorFile {
        path: path.to_path_buf(),
        name: name.map_or_else(String::new, |name| name.value),
        faces,
        pivot,
        animations,
        frames,
        shapes,
        anchors,
    };
    doc.finish().or(actor)
}

/// Names are parts of addresses such as `keeper.body` and `pier/quay`, and of take rows.
pub(crate) fn check_name(table: &Table<'_>, name: &At<String>, what: &str) {
    let bad = |c: char| c.is_whitespace() || c.is_control() || "/.:,\"".contains(c);
    if name.value.is_empty() || name.value.contains(bad) {
        let message = format!("\"{}\" cannot name {what}", name.value);
        let hint = "use letters, digits, _ and -: no spaces, and none of / . : ,".to_string();
        table.wrong(name.span.clone(), message, Some(hint));
    }
}

enum Pivot {
    At(Point),
    Feet,
}

fn pivot_spec(head: &Table<'_>) -> Option<Pivot> {
    if head.is_string("pivot") {
        head.word("pivot", &[("feet", ())])?;
        return Some(Pivot::Feet);
    }
    let at = head.numbers::<2>("pivot", "[24, 46], or \"feet\"")?;
    Some(Pivot::At(Point::new(at.value[0], at.value[1])))
}

/// Bottom centre of the opaque pixels.
fn feet(art: &FrameArt) -> Point {
    art.picture.opaque(USUAL_ALPHA).bounds().map_or(Point::ZERO, |bounds| {
        let middle = f64::from(bounds.x) + f64::from(bounds.width) / 2.0;
        Point::new(middle, f64::from(bounds.y) + f64::from(bounds.height))
    })
}

fn sheets(doc: &Document, top: &Table<'_>, root: &Path, path: &Path) -> Vec<Sheet> {
    let tables = top.tables("sheet");
    if tables.is_empty() && !top.has("sheet") {
        top.missing_table("[[sheet]]");
    }
    tables.iter().filter_map(|table| sheet(doc, table, root, path)).collect()
}

fn sheet(doc: &Document, table: &Table<'_>, root: &Path, path: &Path) -> Option<Sheet> {
    let name = table.string("name", "\"main\"");
    let image = table.required_string("image", "\"keeper.png\"");
    let parts = table.string("parts", "\"keeper.parts.png\"");
    let cell = table.numbers::<2>("cell", "[48, 48]");
    let margin = table.integer("margin", 0..4096, "0");
    let gap = table.integer("gap", 0..4096, "0");
    table.finish();
    let open = |file: &At<String>| {
        let base = path.parent().unwrap_or(root);
        let read = resolve(root, base, &file.value).and_then(|resolved| {
            read_picture(&resolved).map_err(|reason| format!("picture \"{}\": {reason}", file.value))
        });
        read.map_err(|reason| doc.wrong(file.span.clone(), reason, None)).ok()
    };
    let image = image?;
    let picture = open(&image);
    let part_picture = parts.as_ref().and_then(&open);
    let picture = picture?;
    if let (Some(parts), Some(map)) = (&parts, &part_picture)
        && (map.width(), map.height()) != (picture.width(), picture.height())
    {
        let message = format!(
            "the part map is {} x {} px, its picture {} x {}; they must be of one size",
            map.width(),
            map.height(),
            picture.width(),
            picture.height()
        );
        doc.wrong(parts.span.clone(), message, None);
    }
    let whole = (picture.width(), picture.height());
    let size = match &cell {
        None => whole,
        Some(At { value: [w, h], span }) => {
            let side = |length: f64, most: u32| {
                (length.fract() == 0.0 && length >= 1.0 && length <= f64::from(most)).then_some(length as u32)
            };
            let Some(size) = side(*w, whole.0).zip(side(*h, whole.1)) else {
                let message = format!(
                    "`cell` must be two whole numbers from 1 to the picture's size, {} x {}, not {w} x {h}",
                    whole.0, whole.1
                );
                doc.wrong(span.clone(), message, None);
                return None;
            };
            size
        }
    };
    let whole_number = |value: Option<At<i64>>| value.map_or(0, |found| found.value as u32);
    let sheet = Sheet {
        name: name.map_or_else(String::new, |name| name.value),
        image: image.value,
        picture,
        parts: part_picture,
        cell: size,
        margin: whole_number(margin),
        gap: whole_number(gap),
    };
    if sheet.count() == 0 {
        let message = "no whole cell fits into the picture with this margin";
        table.wrong(cell.map_or(table.span.clone(), |cell| cell.span), message, None);
        return None;
    }
    Some(sheet)
}

fn animations(top: &Table<'_>, sheets: &[Sheet]) -> (Vec<AnimationSpec>, Vec<LoadedFrame>) {
    let mut animations = Vec::new();
    let mut frames = Vec::new();
    for (index, (name, table)) in top.named("animation").into_iter().enumerate() {
        check_name(&table, &name, "an animation");
        let cells = table.required_string("cells", "\"0-3\"");
        let ticks = table.integers("ticks", 1..100_000, "6");
        let sheet = chosen_sheet(&table, sheets);
        table.finish();
        let start = frames.len();
        if let (Some(cells), Some(sheet)) = (cells, sheet) {
            add_frames(&table, sheet, &cells, ticks.as_ref(), index, &mut frames);
        }
        animations.push(AnimationSpec { name: name.value, frames: start..frames.len() });
    }
    (animations, frames)
}

fn chosen_sheet<'s>(table: &Table<'_>, sheets: &'s [Sheet]) -> Option<&'s Sheet> {
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

fn add_frames(
    table: &Table<'_>,
    sheet: &Sheet,
    cells: &At<String>,
    ticks: Option<&At<Vec<i64>>>,
    animation: usize,
    frames: &mut Vec<LoadedFrame>,
) {
    let list = match parse_list(&cells.value) {
        Ok(list) => list,
        Err(reason) => {
            let hint = "write cells in order, for example \"0-3\" or \"9,4-8\"".to_string();
            table.wrong(cells.span.clone(), reason, Some(hint));
            return;
        }
    };
    if let Some(past) = list.iter().find(|cell| **cell >= sheet.count()) {
        let message = format!(
            "cell {past} is past the end of {}: it has {} cells of {} x {} px, 0 to {}",
            sheet.image,
            sheet.count(),
            sheet.cell.0,
            sheet.cell.1,
            sheet.count() - 1
        );
        table.wrong(cells.span.clone(), message, None);
        return;
    }
    let area = |rect: PixelRect| u64::from(rect.width) * u64::from(rect.height);
    let held: u64 = frames.iter().map(|frame| area(frame.rect)).sum();
    let asked = area(sheet.rect(0)) * list.len() as u64;
    if held + asked > MAX_FRAME_PIXELS {
        let million = |pixels: u64| pixels / 1_000_000;
        let message = format!(
            "the actor's frames hold {} million px up to here; at most {} million are read",
            million(held + asked),
            million(MAX_FRAME_PIXELS)
        );
        table.wrong(cells.span.clone(), message, Some("use smaller cells or fewer frames".into()));
        return;
    }
    let lengths = match ticks {
        None => vec![6],
        Some(ticks) if ticks.value.len() == 1 || ticks.value.len() == list.len() => ticks.value.clone(),
        Some(ticks) => {
            let message = format!("`ticks` lists {} lengths for {} frames", ticks.value.len(), list.len());
            table.wrong(ticks.span.clone(), message, Some("give one for all, or one a frame".into()));
            return;
        }
    };
    for (number, &cell) in list.iter().enumerate() {
        let rect = sheet.rect(cell);
        let Some(picture) = sheet.picture.crop(rect) else {
            continue;
        };
        let parts = sheet.parts.as_ref().and_then(|parts| parts.crop(rect));
        let art_hash = art_hash(&picture, parts.as_ref());
        frames.push(LoadedFrame {
            animation,
            number,
            image: sheet.image.clone(),
            rect,
            ticks: lengths[number % lengths.len()] as u32,
            art: FrameArt { picture, parts },
            art_hash,
        });
    }
}

/// A short hash of a frame's pixels and part map.
fn art_hash(picture: &Picture, parts: Option<&Picture>) -> String {
    let mut hasher = blake3::Hasher::new();
    for layer in [Some(picture), parts].into_iter().flatten() {
        hasher.update(&layer.width().to_le_bytes());
        hasher.update(&layer.height().to_le_bytes());
        hasher.update(layer.pixels().as_flattened());
    }
    short_hash(&hasher)
}

/// The first 64 bits of a hash, as 16 digits: enough to tell a project's frames and recipes apart.
pub(crate) fn short_hash(hasher: &blake3::Hasher) -> String {
    hasher.finalize().to_hex()[..16].to_string()
}
