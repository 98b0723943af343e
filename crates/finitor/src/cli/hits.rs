//! Arguments of `finitor hits`.

use super::values::signed_px;
use clap::Args;
use std::path::PathBuf;

#[derive(Debug, Default, Args)]
pub(crate) struct HitsArgs {
    /// Takes to list the hits of, CSV or JSON lines; - reads standard input. Without one: --moves or --reach
    #[arg(value_name = "TAKE")]
    pub(crate) takes: Vec<PathBuf>,
    /// Show the attacks of this actor: when they strike, how far they reach, whom
    #[arg(long, value_name = "ACTOR", conflicts_with_all = ["takes", "reach"])]
    pub(crate) moves: Option<String>,
    /// Show at which distances the attacks of one actor strike which parts of another
    #[arg(long, value_names = ["ATTACKER", "TARGET"], num_args = 2, conflicts_with = "takes")]
    pub(crate) reach: Vec<String>,
    /// With --reach: how the target stands [default: the first frame of its first animation]
    #[arg(long, value_name = "ANIMATION:FRAME", requires = "reach", conflicts_with = "moves")]
    pub(crate) stance: Option<String>,
    /// With --reach: how much lower the target stands than the attacker, px; below 0 it stands higher
    #[arg(long, value_name = "PX", default_value_t = 0.0, allow_negative_numbers = true, requires = "reach", conflicts_with = "moves", value_parser = signed_px)]
    pub(crate) dy: f64,
    /// With --reach: also draw the distances as a chart, as PNG and SVG
    #[arg(long, requires = "reach", conflicts_with = "moves")]
    pub(crate) draw: bool,
    /// Folder for the chart [default: pictures in the project]
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
    /// Count hits and damage by attacker, by part and by group
    #[arg(long, requires = "takes", conflicts_with_all = ["matrix", "stream"])]
    pub(crate) summary: bool,
    /// Count hits by attacker's shape and target's part
    #[arg(long, requires = "takes", conflicts_with = "stream")]
    pub(crate) matrix: bool,
    /// Write each hit as it is found, one JSON line each
    #[arg(long, requires = "takes")]
    pub(crate) stream: bool,
    /// Stage the takes were recorded on [default: the only one]
    #[arg(long, requires = "takes")]
    pub(crate) stage: Option<String>,
    /// Let the rows of this many takes of one file be mixed, which its column `take` tells apart
    #[arg(long, value_name = "TAKES", default_value_t = 1, requires = "takes")]
    pub(crate) mixed: usize,
}
