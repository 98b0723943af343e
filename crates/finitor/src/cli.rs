//! Arguments as typed.

use clap::{Args, Parser, Subcommand, ValueEnum};
use finitor_core::check::Severity;
use finitor_files::USUAL_MAX_MPX;
use std::path::PathBuf;

/// Fits collision shapes to sprite frames, and finds where recorded play clips: which shape, which tick, how deep,
/// why, and what number mends it.
#[derive(Debug, Parser)]
#[command(name = "finitor", version, after_help = EXIT_CODES, max_term_width = 100)]
pub(crate) struct Cli {
    #[command(subcommand)]
    pub(crate) command: Command,
    #[command(flatten)]
    pub(crate) global: Global,
}

const EXIT_CODES: &str = "Exit codes: 0 done, nothing found at or above --fail-on; 1 something found; 2 the input is \
                          wrong and nothing was written.\nStart with: finitor demo pier";

/// Options of every command.
#[derive(Clone, Debug, Args)]
pub(crate) struct Global {
    /// Folder of the project (with finitor.toml); otherwise the nearest one from here upward
    #[arg(long, global = true, value_name = "DIR")]
    pub(crate) project: Option<PathBuf>,
    /// How results are written
    #[arg(long, global = true, value_enum, default_value_t = Format::Table)]
    pub(crate) format: Format,
    /// No words about progress
    #[arg(long, short, global = true)]
    pub(crate) quiet: bool,
    /// Threads to use; all cores unless given. Results do not depend on it
    #[arg(long, global = true, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) threads: Option<u16>,
    /// Million pixels that are decoded from one picture file at most, all its images together
    #[arg(long, global = true, value_name = "N", default_value_t = USUAL_MAX_MPX, value_parser = clap::value_parser!(u32).range(1..=4000))]
    pub(crate) max_mpx: u32,
}

/// How results are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    /// For people
    Table,
    /// For programs: the contract
    Json,
}

/// From which severity on findings make the exit code 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum FailOn {
    /// Any finding
    Note,
    /// Warnings and errors
    Warn,
    /// Errors
    Error,
    /// Never
    Never,
}

impl FailOn {
    /// Whether a finding of this severity fails the run.
    pub(crate) fn fails(self, severity: Severity) -> bool {
        match self {
            FailOn::Note => severity >= Severity::Note,
            FailOn::Warn => severity >= Severity::Warn,
            FailOn::Error => severity >= Severity::Error,
            FailOn::Never => false,
        }
    }
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Write the sample project, then fit, show, check and draw it
    Demo(DemoArgs),
    /// Fit the actors' shapes to their art and write *.fits.json
    Fit(FitArgs),
    /// Every shape in both facings, and how far a turn moves the body's edges
    Facing(FacingArgs),
    /// Show who looks for whom; explain one pair in words and bits
    Layers(LayersArgs),
    /// Check takes: where something clipped, how deep, why, and what mends it
    Check(CheckArgs),
    /// Draw shapes over art, or a stage at a tick of a take, as PNG and SVG
    Draw(DrawArgs),
    /// What a rule means, how it is measured, how to mend it
    Explain(ExplainArgs),
}

#[derive(Debug, Args)]
pub(crate) struct DemoArgs {
    /// Folder to write to; it must be empty or not exist
    #[arg(default_value = "finitor-demo")]
    pub(crate) dir: PathBuf,
    /// Write into a folder that is not empty; the sample's own files there are replaced
    #[arg(long)]
    pub(crate) force: bool,
}

#[derive(Debug, Default, Args)]
pub(crate) struct FitArgs {
    /// Actors to fit; all unless given
    pub(crate) actors: Vec<String>,
    /// Fit also what has not changed since last time; hand edits stay
    #[arg(long)]
    pub(crate) all: bool,
    /// Measure and show, but write nothing
    #[arg(long)]
    pub(crate) dry_run: bool,
    /// An animation has another name now: its shapes and hand edits follow
    #[arg(long, value_name = "OLD=NEW", value_parser = rename)]
    pub(crate) rename: Vec<(String, String)>,
    /// Let hand edits go on frames that this animation lost, or that went with it
    #[arg(long, value_name = "ANIMATION")]
    pub(crate) forget: Vec<String>,
}

fn rename(text: &str) -> Result<(String, String), String> {
    match text.split_once('=') {
        Some((old, new)) if !old.is_empty() && !new.is_empty() && old != new => Ok((old.into(), new.into())),
        _ => Err("write the old name, = and the new one, such as walk=stroll".to_string()),
    }
}

#[derive(Debug, Args)]
pub(crate) struct FacingArgs {
    /// Actors to show; all unless given
    pub(crate) actors: Vec<String>,
}

#[derive(Debug, Args)]
pub(crate) struct LayersArgs {
    #[command(subcommand)]
    pub(crate) command: Option<LayersCommand>,
}

#[derive(Debug, Subcommand)]
pub(crate) enum LayersCommand {
    /// What two things mean to each other: ACTOR.SHAPE or STAGE/THING, each
    Explain {
        /// The one, such as keeper.body
        one: String,
        /// The other, such as pier/jetty
        other: String,
        /// As it is while this state lasts; may be given several times
        #[arg(long, value_name = "STATE")]
        state: Vec<String>,
    },
}

#[derive(Debug, Args)]
pub(crate) struct CheckArgs {
    /// Takes to check, as CSV
    #[arg(required = true, value_name = "TAKE")]
    pub(crate) takes: Vec<PathBuf>,
    /// Stage they were recorded on; not needed where the project has one
    #[arg(long)]
    pub(crate) stage: Option<String>,
    /// Least severity that makes the exit code 1
    #[arg(long, value_enum, default_value_t = FailOn::Error)]
    pub(crate) fail_on: FailOn,
}

#[derive(Debug, Args)]
pub(crate) struct DrawArgs {
    /// Actors to draw, or stages; everything unless given
    pub(crate) names: Vec<String>,
    /// Draw the stage at a tick of this take, with what its check found
    #[arg(long)]
    pub(crate) take: Option<PathBuf>,
    /// The tick; that of the worst finding unless given
    #[arg(long, requires = "take")]
    pub(crate) tick: Option<u64>,
    /// Whole pixels a pixel is enlarged to; chosen to suit unless given
    #[arg(long, value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for the pictures; `pictures` in the project unless given
    #[arg(long, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct ExplainArgs {
    /// The rule, such as embedded; all rules in a line each unless given
    pub(crate) rule: Option<String>,
}
