//! How pictures are looked at: the same for `new` and `sheet`.

use super::values::{Margin, both_ways, cell_size, margin};
use clap::{Args, ValueEnum};
use finitor_app::Failure;
use finitor_core::Facing;
use finitor_core::art::{Colour, Cutting, Grid, Key, LookWishes};
use finitor_files::{NAME_HINT, can_name};

/// Options for looking at pictures.
#[derive(Debug, Default, Args)]
pub(crate) struct PictureArgs {
    /// Cell size [default: guessed]
    #[arg(long, value_name = "WxH", value_parser = cell_size)]
    pub(crate) cell: Option<(u32, u32)>,
    /// With --cell: margin around all cells, px; 3,5 for 3 left of the first cell and 5 above it alone
    #[arg(long, requires = "cell", value_name = "PX", value_parser = margin)]
    pub(crate) margin: Option<Margin>,
    /// With --cell: gap between cells, px, or 3,5 across and down; with --gaps: smallest transparent gap between two frames
    #[arg(long, value_name = "PX", value_parser = both_ways)]
    pub(crate) gap: Option<(u32, u32)>,
    /// Cut at the transparent gaps around the art, not by a grid
    #[arg(long, conflicts_with_all = ["cell", "whole"])]
    pub(crate) gaps: bool,
    /// Take each picture as one frame
    #[arg(long, conflicts_with = "cell")]
    pub(crate) whole: bool,
    /// Colour that counts as transparent: #rrggbb, or corner for that of the top left pixel
    #[arg(long, value_name = "COLOUR")]
    pub(crate) key: Option<String>,
    /// Largest difference from the key colour in any channel, 0 to 255
    #[arg(long, value_name = "N", default_value_t = 0)]
    pub(crate) key_tolerance: u8,
    /// Least alpha of what the figure stands on; fainter pixels are glow or shadow
    #[arg(long, value_name = "N", default_value_t = 128, value_parser = clap::value_parser!(u8).range(1..))]
    pub(crate) alpha: u8,
    /// Names of the rows of cells, from the top: a,b or repeated
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) row: Vec<String>,
    /// Name of the actor [default: what the files' names have in common, else the folder's]
    #[arg(long)]
    pub(crate) name: Option<String>,
    /// The way the art is drawn to look [default: by words such as `left` in the files' names, else right]
    #[arg(long, value_enum)]
    pub(crate) faces: Option<Side>,
}

/// A side to look to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Side {
    /// To the right
    Right,
    /// To the left
    Left,
}

impl PictureArgs {
    /// What is known of the pictures.
    ///
    /// # Errors
    /// A key that is no colour, and names that cannot be names.
    pub(crate) fn wishes(&self) -> Result<LookWishes, Failure> {
        let names = self.row.iter().map(|name| ("--row", name)).chain(self.name.iter().map(|name| ("--name", name)));
        for (option, name) in names {
            if !can_name(name) {
                return Err(Failure::Usage(format!("{option}: \"{name}\" cannot be a name; {NAME_HINT}")));
            }
        }
        let (gap, Margin { before, after }) = (self.gap.unwrap_or_default(), self.margin.unwrap_or_default());
        let grid = self.cell.map(|cell| Cutting::Given(Grid { cell, before, after, gap }));
        let cutting = match (self.gaps, self.whole) {
            (true, _) => Some(Cutting::Gaps(gap.0.max(gap.1).max(1))),
            (_, true) => Some(Cutting::Whole),
            _ => grid,
        };
        Ok(LookWishes { cutting, key: self.key()?, alpha: self.alpha })
    }

    /// The colour that counts as transparent.
    pub(crate) fn key(&self) -> Result<Option<Key>, Failure> {
        let Some(text) = self.key.as_deref() else { return Ok(None) };
        let tolerance = self.key_tolerance;
        match (text, Colour::parse(text)) {
            ("corner", _) => Ok(Some(Key { colour: None, tolerance })),
            (_, Some(colour)) => Ok(Some(Key { colour: Some(colour), tolerance })),
            _ => Err(Failure::Usage(format!(
                "--key: \"{text}\" is not a colour; write six hex digits such as #ff00ff, or corner"
            ))),
        }
    }

    /// The way the art looks, where it was said.
    pub(crate) fn facing(&self) -> Option<Facing> {
        self.faces.map(|side| if side == Side::Left { Facing::Left } else { Facing::Right })
    }
}
