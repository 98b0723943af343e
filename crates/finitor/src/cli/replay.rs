//! Arguments of `finitor report`.

use super::values::tick_range;
use clap::Args;
use finitor_core::finding::Span;
use std::path::PathBuf;

#[derive(Debug, Default, Args)]
pub(crate) struct ReplayArgs {
    /// Takes to play, CSV or JSON lines
    #[arg(value_name = "TAKE", required = true)]
    pub(crate) takes: Vec<PathBuf>,
    /// The page to write
    #[arg(long, short, value_name = "FILE", default_value = "report.html")]
    pub(crate) out: PathBuf,
    #[command(flatten)]
    pub(crate) checks: PlayedChecks,
}

/// What is checked, and what of it is shown.
#[derive(Clone, Debug, Default, Args)]
pub(crate) struct PlayedChecks {
    /// Stage the takes were recorded on [default: the only one]
    #[arg(long)]
    pub(crate) stage: Option<String>,
    /// Only show these rules: a,b or repeated [default: all]
    #[arg(long, value_name = "RULE", value_delimiter = ',')]
    pub(crate) rule: Vec<String>,
    /// Only show findings of these actors, or instances such as gull:1 [default: all]
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) actor: Vec<String>,
    /// Only show findings of these ticks, such as 100-250 [default: all]
    #[arg(long, value_name = "FIRST-LAST", value_parser = tick_range)]
    pub(crate) ticks: Option<Span>,
    /// Let the rows of this many takes of one file be mixed, which its column `take` tells apart
    #[arg(long, value_name = "TAKES", default_value_t = 1)]
    pub(crate) mixed: usize,
}
