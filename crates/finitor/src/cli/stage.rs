//! Arguments of `stage`.

use super::values::px;
use clap::{Args, Subcommand};
use std::path::PathBuf;

#[derive(Debug, Args)]
#[command(args_conflicts_with_subcommands = true)]
pub(crate) struct StageArgs {
    #[command(subcommand)]
    pub(crate) command: Option<StageCommand>,
    /// Stages to list [default: all]
    pub(crate) stages: Vec<String>,
    /// Also draw each kind of tile with its shape, as PNG and SVG
    #[arg(long)]
    pub(crate) tiles: bool,
    /// Also draw the stage with names, layers and zones, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Scale of the picture [default: chosen to fit the page]
    #[arg(long, requires = "draw", value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for pictures [default: pictures in the project]
    #[arg(long, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
    /// Write the stage as a drawing for a vector editor; `svg` in [stage] reads it back
    #[arg(long, value_name = "FILE", conflicts_with_all = ["tiles", "draw"])]
    pub(crate) to_svg: Option<PathBuf>,
}

#[derive(Debug, Subcommand)]
pub(crate) enum StageCommand {
    /// Report where bodies have room: tight passages, low stretches, pockets they cannot leave
    Clearance(ClearanceArgs),
}

#[derive(Debug, Args)]
pub(crate) struct ClearanceArgs {
    /// Stages to look at [default: all]
    pub(crate) stages: Vec<String>,
    /// Actors to look at [default: all]
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) actor: Vec<String>,
    /// Report passages where a body has at most this much to spare, or is this much short, px
    #[arg(long, value_name = "PX", default_value_t = 16.0, value_parser = px)]
    pub(crate) within: f64,
    /// Also draw where each actor's pivot may be, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Folder for pictures [default: pictures in the project]
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}
