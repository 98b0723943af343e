//! What was seen on pictures, as it is written.

use crate::{PictureGroup, SeenPicture, What, canvases, other_cuts};
use finitor_core::art::{Background, CellLook, Grid, SheetLook};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::ops::Range;

/// The schema of [`SheetList`].
pub const SHEET_SCHEMA: &str = "finitor.sheet/1";

/// Pictures, those together that make one strip or sheet.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SheetList {
    /// [`SHEET_SCHEMA`].
    pub schema: String,
    /// In order.
    pub groups: Vec<GroupResult>,
}

/// Pictures that belong together.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct GroupResult {
    /// What their names share.
    pub name: String,
    /// `files` or `picture`.
    pub kind: String,
    /// Where the figure stands in a cell, px.
    pub pivot: Option<[f64; 2]>,
    /// Picture by picture.
    pub images: Vec<ImageResult>,
}

/// A picture. An animated one has `images` and `delays_s`, any other what comes after them.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ImageResult {
    /// Its file.
    pub path: String,
    /// How it holds its pixels.
    pub written_as: String,
    /// Width and height.
    pub size_px: [u32; 2],
    /// How many pictures follow each other.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub images: Option<usize>,
    /// How long each is shown.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub delays_s: Option<Vec<f64>>,
    /// Whether what is around the art is transparent.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub transparent: Option<bool>,
    /// The colour around the art.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub background: Option<BackgroundResult>,
    /// The two colours of the squares that are painted in place of transparency.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub painted: Option<[String; 2]>,
    /// Rows that look like words above the frames.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub words: Vec<WordsResult>,
    /// How it is cut.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub grid: Option<GridResult>,
    /// Options that cut it otherwise and explain its art about as well, best first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub others: Vec<OtherResult>,
    /// Its frames.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cells: Option<Vec<CellResult>>,
    /// Cells by row.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rows: Option<Vec<Vec<usize>>>,
}

/// Another way to cut a picture.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct OtherResult {
    /// `--cell 24x32 --gap 1`.
    pub options: String,
    /// What it is, and what speaks for it.
    pub words: String,
}

/// A colour around the art.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct BackgroundResult {
    /// `#ff00ff`.
    pub colour: String,
    /// Its share of the border, 0 to 1.
    pub share: f64,
}

/// Words above frames.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct WordsResult {
    /// The first row, and the one after the last.
    pub rows_px: [u32; 2],
    /// Whether cells reach into them.
    pub in_cells: bool,
}

/// Equal cells; each pair is across and down.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct GridResult {
    /// Size of a cell.
    pub cell_px: [u32; 2],
    /// Room before the first.
    pub margin_px: [u32; 2],
    /// Room between two.
    pub gap_px: [u32; 2],
}

/// A frame of a picture.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct CellResult {
    /// Left, top, width, height.
    pub rect_px: [u32; 4],
    /// Pixels of art.
    pub opaque_px: u64,
    /// Pixels of art on each border.
    pub touched_px: TouchedResult,
    /// A cell with the same art.
    pub same_as: Option<usize>,
    /// A cell with the same art, mirrored.
    pub mirror_of: Option<usize>,
}

/// By side.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TouchedResult {
    /// Left.
    pub left: u32,
    /// Top.
    pub top: u32,
    /// Right.
    pub right: u32,
    /// Bottom.
    pub bottom: u32,
}

impl SheetList {
    /// All that was seen.
    pub fn new(groups: &[PictureGroup]) -> SheetList {
        let (canvases, places) = canvases(groups);
        let groups = groups.iter().zip(&places).map(|(group, place)| {
            let stance = place.and_then(|place| canvases[place].stance.as_ref());
            GroupResult {
                name: group.name.clone(),
                kind: if group.is_files() { "files" } else { "picture" }.to_string(),
                pivot: stance.map(|stance| [stance.pivot.x, stance.pivot.y]),
                images: group.seen.iter().map(ImageResult::from).collect(),
            }
        });
        SheetList { schema: SHEET_SCHEMA.to_string(), groups: groups.collect() }
    }
}

impl From<&SeenPicture> for ImageResult {
    fn from(seen: &SeenPicture) -> ImageResult {
        let bare = ImageResult {
            path: seen.path.display().to_string(),
            written_as: seen.written_as.clone(),
            size_px: [0; 2],
            images: None,
            delays_s: None,
            transparent: None,
            background: None,
            painted: None,
            words: Vec::new(),
            grid: None,
            others: Vec::new(),
            cells: None,
            rows: None,
        };
        match &seen.what {
            What::Animated { size, runs, delays } => ImageResult {
                size_px: (*size).into(),
                images: Some(runs.len()),
                delays_s: Some(delays.clone()),
                ..bare
            },
            What::Sheet(look) | What::Frame(look) => still(look, bare),
        }
    }
}

fn still(look: &SheetLook, bare: ImageResult) -> ImageResult {
    let (background, painted) = match look.background {
        Background::Coloured(colour, share) => (Some(BackgroundResult { colour: colour.to_string(), share }), None),
        Background::Checkered(colours) => (None, Some(colours.map(|colour| colour.to_string()))),
        Background::Transparent | Background::None => (None, None),
    };
    ImageResult {
        size_px: look.size.into(),
        transparent: Some(look.background == Background::Transparent),
        background,
        painted,
        words: look.words.iter().map(|rows| words(look, rows)).collect(),
        grid: look.cutting.grid().map(GridResult::from),
        others: other_cuts(look).into_iter().map(|of| OtherResult { options: of.options, words: of.words }).collect(),
        cells: Some(look.cells.iter().map(CellResult::from).collect()),
        rows: Some(look.rows.clone()),
        ..bare
    }
}

fn words(look: &SheetLook, rows: &Range<u32>) -> WordsResult {
    WordsResult { rows_px: [rows.start, rows.end], in_cells: look.is_in_cells(rows) }
}

impl From<Grid> for GridResult {
    fn from(grid: Grid) -> GridResult {
        GridResult { cell_px: grid.cell.into(), margin_px: grid.before.into(), gap_px: grid.gap.into() }
    }
}

impl From<&CellLook> for CellResult {
    fn from(cell: &CellLook) -> CellResult {
        let rect = cell.rect;
        let [left, top, right, bottom] = cell.touched;
        CellResult {
            rect_px: [rect.x, rect.y, rect.width, rect.height],
            opaque_px: cell.runs.iter().map(|run| u64::from(run.len())).sum(),
            touched_px: TouchedResult { left, top, right, bottom },
            same_as: cell.same_as,
            mirror_of: cell.mirror_of,
        }
    }
}
