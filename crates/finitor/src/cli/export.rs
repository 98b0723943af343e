//! Arguments of `export` and `import`.

use super::values::unit;
use clap::{Args, ValueEnum};
use std::path::PathBuf;

/// How a pack is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum ExportFormat {
    /// JSON
    Json,
    /// CBOR, the same keys in fewer bytes
    Cbor,
    /// A row a shape and frame, for spreadsheets and `finitor import`
    Csv,
    /// A drawing with a path a shape
    Svg,
    /// A C99 header of constants
    C,
    /// A Rust module of constants
    Rust,
    /// A Lua table
    Lua,
}

impl ExportFormat {
    /// The format that a file's ending stands for.
    pub(crate) fn of_ending(ending: &str) -> Option<ExportFormat> {
        Some(match ending {
            "json" => ExportFormat::Json,
            "cbor" => ExportFormat::Cbor,
            "csv" => ExportFormat::Csv,
            "svg" => ExportFormat::Svg,
            "h" => ExportFormat::C,
            "rs" => ExportFormat::Rust,
            "lua" => ExportFormat::Lua,
            _ => return None,
        })
    }
}

/// The facings that are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum FacingChoice {
    /// The facing the art is drawn in
    Drawn,
    /// Both facings
    Both,
}

/// The way y grows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum YChoice {
    /// Down the screen
    Down,
    /// Up the screen; stages then count from their bottom
    Up,
}

/// Where shapes are counted from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum OriginChoice {
    /// The pivot
    Pivot,
    /// The corner of the frame's cell
    Cell,
}

/// The order of corners as seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum WindingChoice {
    /// As a clock's hands
    Clockwise,
    /// Against them
    Counterclockwise,
}

/// How coordinates are counted.
#[derive(Clone, Debug, Args)]
pub(crate) struct SpaceArgs {
    /// Direction in which y grows [default: y_axis in [project]]
    #[arg(long, value_enum)]
    pub(crate) y: Option<YChoice>,
    /// Pixels per length unit [default: unit in [project]]
    #[arg(long, value_name = "PX", value_parser = unit)]
    pub(crate) unit: Option<f64>,
    /// Integers in fixed point, with this many binary digits behind the point
    #[arg(long, value_name = "BITS", value_parser = clap::value_parser!(u32).range(0..=16))]
    pub(crate) fixed: Option<u32>,
    /// Where shapes are counted from [default: pivot]
    #[arg(long, value_enum)]
    pub(crate) origin: Option<OriginChoice>,
}

impl SpaceArgs {
    /// Whether any of them is given.
    pub(crate) fn is_given(&self) -> bool {
        self.y.is_some() || self.unit.is_some() || self.fixed.is_some() || self.origin.is_some()
    }
}

#[derive(Debug, Args)]
pub(crate) struct ExportArgs {
    /// Actors to write [default: all, and all stages]
    pub(crate) actors: Vec<String>,
    /// Stages to write, such as a,b
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) stage: Vec<String>,
    /// Write all actors and stages
    #[arg(long, conflicts_with_all = ["actors", "stage"])]
    pub(crate) all: bool,
    /// Format [default: by the ending of the file]
    #[arg(long, value_enum, value_name = "FORMAT")]
    pub(crate) to: Option<ExportFormat>,
    /// File to write; - is standard output
    #[arg(long, short, value_name = "FILE", default_value = "-")]
    pub(crate) out: PathBuf,
    /// Facings to write
    #[arg(long, value_enum, default_value_t = FacingChoice::Both)]
    pub(crate) facing: FacingChoice,
    /// Only write shapes of these roles or names: body,hurt,pole
    #[arg(long, value_name = "ROLE|SHAPE", value_delimiter = ',')]
    pub(crate) only: Vec<String>,
    /// Cut convex pieces of at most this many corners [default: as fitted]
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(3..=256))]
    pub(crate) piece_points: Option<u16>,
    #[command(flatten)]
    pub(crate) space: SpaceArgs,
    /// Order of corners, as seen
    #[arg(long, value_enum, default_value_t = WindingChoice::Clockwise)]
    pub(crate) winding: WindingChoice,
    /// Leave out all space that is not needed
    #[arg(long)]
    pub(crate) small: bool,
}

#[derive(Debug, Args)]
pub(crate) struct ImportArgs {
    /// Shapes: a pack (.json, .cbor), or a table (.csv) with columns actor, animation, frame, shape, role and x, y, w, h, or
    /// x, y, r, or x, y, x2, y2, r, or points
    pub(crate) file: PathBuf,
    /// Show what would change, write nothing
    #[arg(long)]
    pub(crate) dry_run: bool,
    #[command(flatten)]
    pub(crate) space: SpaceArgs,
}
