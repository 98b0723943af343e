//! Arguments of `finitor draw`.

use super::values::tick_range;
use clap::{Args, ValueEnum};
use finitor_core::finding::Span;
use finitor_draw::{Moving, Theme};
use std::path::PathBuf;

#[derive(Debug, Default, Args)]
pub(crate) struct DrawArgs {
    /// Actors or stages to draw [default: all]
    pub(crate) names: Vec<String>,
    /// Draw the stage at a tick of this take, with its findings
    #[arg(long)]
    pub(crate) take: Option<PathBuf>,
    /// The tick [default: that of the worst finding]
    #[arg(long, requires = "take", conflicts_with_all = ["ticks", "path", "timeline"])]
    pub(crate) tick: Option<u64>,
    /// Draw all of these ticks, around those who move or have findings
    #[arg(long, requires = "take", value_name = "FIRST-LAST", value_parser = tick_range, conflicts_with_all = ["path", "timeline"])]
    pub(crate) ticks: Option<Span>,
    /// With --ticks: side by side, or moving
    #[arg(long = "as", requires = "ticks", value_enum, value_name = "FORM", default_value_t = Form::Strip)]
    pub(crate) form: Form,
    /// Draw the ways of all actors over the take, with its findings
    #[arg(long, requires = "take", conflicts_with = "timeline")]
    pub(crate) path: bool,
    /// Draw the take along its ticks: findings, animations, ground, hits, zones
    #[arg(long, requires = "take")]
    pub(crate) timeline: bool,
    /// With --take: also show this many ticks before and after, faintly
    #[arg(long, requires = "take", value_name = "TICKS", default_value_t = 0, value_parser = clap::value_parser!(u64).range(..=32), conflicts_with_all = ["ticks", "path", "timeline"])]
    pub(crate) onion: u64,
    /// Draw every kind and every `fit` on one frame of an actor, side by side
    #[arg(long, value_name = "ANIMATION:FRAME", conflicts_with = "take")]
    pub(crate) kinds: Option<String>,
    /// Draw grid lines; on actors they count from the pivot
    #[arg(long)]
    pub(crate) grid: bool,
    /// Write coordinates along the edges and at pivots; on actors also the number of each corner
    #[arg(long)]
    pub(crate) numbers: bool,
    /// Colours of the pages
    #[arg(long, value_enum, default_value_t = ThemeChoice::Dark)]
    pub(crate) theme: ThemeChoice,
    /// Also show the pictures in the terminal, where it has colours
    #[arg(long)]
    pub(crate) preview: bool,
    /// Scale of the picture [default: chosen to fit the page]
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for pictures [default: pictures in the project]
    #[arg(long, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
}

/// How several ticks are drawn.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum Form {
    /// Side by side, as PNG and SVG
    #[default]
    Strip,
    /// Animated PNG
    Apng,
    /// Animated GIF
    Gif,
}

impl Form {
    /// The moving file, where it is one.
    pub(crate) fn moving(self) -> Option<Moving> {
        match self {
            Form::Strip => None,
            Form::Apng => Some(Moving::Apng),
            Form::Gif => Some(Moving::Gif),
        }
    }
}

/// The colours of pages.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum ThemeChoice {
    /// Light on dark
    #[default]
    Dark,
    /// Dark on light, as for printing
    Light,
}

impl ThemeChoice {
    /// What the library calls it.
    pub(crate) fn theme(self) -> Theme {
        match self {
            ThemeChoice::Dark => Theme::Dark,
            ThemeChoice::Light => Theme::Light,
        }
    }
}
