//! Arguments as typed.

mod draw;
mod export;
mod hits;
mod layers;
mod pictures;
mod replay;
mod reports;
mod stage;
mod tools;
mod values;

pub(crate) use draw::DrawArgs;
pub(crate) use export::{
    ExportArgs, ExportFormat, FacingChoice, ImportArgs, OriginChoice, SpaceArgs, WindingChoice, YChoice,
};
pub(crate) use hits::HitsArgs;
pub(crate) use layers::{By, LayersArgs, LayersCommand};
pub(crate) use pictures::PictureArgs;
pub(crate) use replay::{PlayedChecks, ReplayArgs, WatchArgs};
pub(crate) use reports::{ApplyArgs, ReportArgs};
pub(crate) use stage::{ClearanceArgs, StageArgs, StageCommand};
pub(crate) use tools::{CompletionsArgs, DiffArgs, ManArgs, SchemaArgs};

use clap::{Args, Parser, Subcommand, ValueEnum};
use finitor_app::{Failure, Filter};
use finitor_core::actor::Actor;
use finitor_core::finding::Span;
use finitor_core::rule::Severity;
use finitor_files::USUAL_MAX_MPX;
use std::path::PathBuf;
use values::{cell_size, rename, tick_range};

/// Fit collision shapes to sprite frames, and find where recorded play clips: which shape, which tick, how deep, why, and
/// what number fixes it.
#[derive(Debug, Parser)]
#[command(name = "finitor", version = VERSION, after_help = EXIT_CODES, max_term_width = 100)]
pub(crate) struct Cli {
    #[command(subcommand)]
    pub(crate) command: Command,
    #[command(flatten)]
    pub(crate) global: Global,
}

/// The version, and the commit that it was built from where that is known.
pub(crate) const VERSION: &str = env!("FINITOR_VERSION");

const EXIT_CODES: &str = "Exit codes: 0 done, nothing found at or above --fail-on; 1 something found; 2 wrong input, \
                          nothing written; 3 results cannot be written, or a bug.\nStart with: finitor demo pier";

/// Options of every command.
#[derive(Clone, Debug, Args)]
pub(crate) struct Global {
    /// Project folder, with finitor.toml [default: the nearest one upward]
    #[arg(long, global = true, value_name = "DIR")]
    pub(crate) project: Option<PathBuf>,
    /// Output format
    #[arg(long, global = true, value_enum, default_value_t = Format::Table)]
    pub(crate) format: Format,
    /// Hide progress and notes; warnings stay
    #[arg(long, short, global = true)]
    pub(crate) quiet: bool,
    /// Show what was read, and how long each part took
    #[arg(long, global = true, conflicts_with = "quiet")]
    pub(crate) verbose: bool,
    /// Colour of words and tables; auto: on a terminal, and not with NO_COLOR
    #[arg(long, global = true, value_enum, value_name = "WHEN", default_value_t = Colour::Auto)]
    pub(crate) color: Colour,
    /// Number of threads; results do not depend on it [default: all cores]
    #[arg(long, global = true, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) threads: Option<u16>,
    /// Decode limit per image file, megapixels
    #[arg(long, global = true, value_name = "N", default_value_t = USUAL_MAX_MPX, value_parser = clap::value_parser!(u32).range(1..=4000))]
    pub(crate) max_mpx: u32,
}

/// When words are coloured.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum Colour {
    /// On a terminal
    #[default]
    Auto,
    /// Always
    Always,
    /// Never
    Never,
}

/// How results are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    /// Tables, for people
    Table,
    /// JSON, stable schema
    Json,
    /// Rows for spreadsheets, from layers, facing, stage, lint, check and hits
    Csv,
}

impl Format {
    /// The format's word.
    pub(crate) fn name(self) -> &'static str {
        match self {
            Format::Table => "table",
            Format::Json => "json",
            Format::Csv => "csv",
        }
    }
}

/// From which severity on findings make the exit code 1.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum FailOn {
    /// Any finding
    Note,
    /// Warnings and errors
    Warn,
    /// Errors
    #[default]
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
    /// Write the sample project, then fit, check and draw it
    Demo(DemoArgs),
    /// Create a working project, from your pictures or with a sample figure
    New(NewArgs),
    /// Show what pictures hold (grid, cells, pivot, odd frames) and write a starter actor file
    Sheet(SheetArgs),
    /// Fit the actors' shapes to their art and write *.fits.json
    Fit(FitArgs),
    /// Show every shape in both facings, and how far a turn moves the body's edges
    Facing(FacingArgs),
    /// Show which layer detects which; explain one pair; edit masks
    Layers(LayersArgs),
    /// List what is on the stages: kind, layer, box, what detects it; draw tiles
    Stage(StageArgs),
    /// Report mistakes before any take: art off the ground, stale fits, masks that detect nothing
    Lint(LintArgs),
    /// Check takes: where something clipped, how deep, why, and how to fix it
    Check(CheckArgs),
    /// Write one page to play takes in a browser, tick by tick, with their findings
    Report(ReplayArgs),
    /// Fit and check again whenever a file changes, say what that changed; serve the page of report
    Watch(WatchArgs),
    /// List who struck what in takes; show when attacks strike, and at which distances
    Hits(HitsArgs),
    /// Write actors, layers and stages as a game loads them
    Export(ExportArgs),
    /// Bring shapes tuned elsewhere into the fits, locked
    Import(ImportArgs),
    /// Compare two versions of the fits, or of what a check found
    Diff(DiffArgs),
    /// Draw shapes over art, or a stage at a tick of a take, as PNG and SVG
    Draw(DrawArgs),
    /// Explain a rule: what it means, how it is measured, how to fix it
    Explain(ExplainArgs),
    /// Print the JSON Schema of a file or result, or list all
    Schema(SchemaArgs),
    /// Print completions for a shell
    Completions(CompletionsArgs),
    /// Print the manual page, or write those of all commands
    Man(ManArgs),
}

#[derive(Debug, Args)]
pub(crate) struct DemoArgs {
    /// Folder to write to; must be empty or not exist
    #[arg(default_value = "finitor-demo")]
    pub(crate) dir: PathBuf,
    /// Write into a folder that is not empty; replaces the sample's own files there
    #[arg(long)]
    pub(crate) force: bool,
}

#[derive(Debug, Args)]
pub(crate) struct NewArgs {
    /// Folder to write to: a new one, or one that holds pictures and no project yet
    pub(crate) dir: PathBuf,
    /// Pictures, or folders of them, to start from; copied into the project where they lie elsewhere
    #[arg(long, value_name = "IMAGE", num_args = 1..)]
    pub(crate) from: Vec<PathBuf>,
    #[command(flatten)]
    pub(crate) pictures: PictureArgs,
    /// Size of the stage, px [default: 14 by 7 cells]
    #[arg(long, value_name = "WxH", value_parser = cell_size)]
    pub(crate) stage: Option<(u32, u32)>,
}

#[derive(Debug, Args)]
pub(crate) struct SheetArgs {
    /// Pictures, or folders of them: sheets, single frames (walk_01.png, walk_02.png ... make an animation), animated GIF
    /// and PNG
    #[arg(required = true, value_name = "IMAGE")]
    pub(crate) images: Vec<PathBuf>,
    /// Write a starter actor file; never overwrites
    #[arg(long, value_name = "actors/NAME.toml")]
    pub(crate) write: Option<PathBuf>,
    /// Add what is missing to the file of --write; keeps comments and order
    #[arg(long)]
    pub(crate) merge: bool,
    #[command(flatten)]
    pub(crate) pictures: PictureArgs,
}

#[derive(Debug, Default, Args)]
pub(crate) struct FitArgs {
    /// Actors to fit [default: all]
    pub(crate) actors: Vec<String>,
    /// Fit everything, not only what changed; keeps hand edits
    #[arg(long)]
    pub(crate) all: bool,
    /// Fit only these shapes: body, keeper.body, or a table that makes several
    #[arg(long, value_name = "SHAPE", num_args = 1..)]
    pub(crate) only: Vec<String>,
    /// Fit hand-edited and locked shapes too, discarding hand edits; with --only just those shapes
    #[arg(long)]
    pub(crate) unlock: bool,
    /// Copy the hand edit of a shape that is held over several frames to all of them
    #[arg(long, conflicts_with_all = ["unlock", "to_svg", "from_svg", "check"])]
    pub(crate) everywhere: bool,
    /// Show the result, write nothing
    #[arg(long)]
    pub(crate) dry_run: bool,
    /// Show the N shapes that fit their frame worst
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..))]
    pub(crate) worst: Option<u16>,
    /// Explain how this shape is fitted: body, or keeper.body
    #[arg(long, value_name = "SHAPE")]
    pub(crate) why: Option<String>,
    /// Write frames and shapes as paths for a vector editor; fits nothing
    #[arg(long, value_name = "FILE", conflicts_with_all = ["from_svg", "all", "unlock"])]
    pub(crate) to_svg: Option<PathBuf>,
    /// Read edited paths back and lock the shapes that changed; fits nothing
    #[arg(long, value_name = "FILE", conflicts_with_all = ["all", "unlock"])]
    pub(crate) from_svg: Option<PathBuf>,
    /// Carry shapes and hand edits over to a renamed animation
    #[arg(long, value_name = "OLD=NEW", value_parser = rename)]
    pub(crate) rename: Vec<(String, String)>,
    /// Discard hand edits on removed frames of this animation
    #[arg(long, value_name = "ANIMATION")]
    pub(crate) discard_edits: Vec<String>,
    /// Exit with 1 when a fit is stale; fits and writes nothing
    #[arg(long, conflicts_with_all = ["all", "only", "unlock", "worst", "why", "to_svg", "from_svg", "rename", "discard_edits"])]
    pub(crate) check: bool,
}

impl FitArgs {
    /// Whether nothing is asked for but to fit what changed.
    pub(crate) fn is_plain(&self) -> bool {
        let names = self.only.is_empty() && self.rename.is_empty() && self.discard_edits.is_empty();
        let asks =
            self.all || self.everywhere || self.check || self.unlock || self.worst.is_some() || self.why.is_some();
        names && !asks && self.to_svg.is_none() && self.from_svg.is_none()
    }
}

#[derive(Debug, Default, Args)]
pub(crate) struct FacingArgs {
    /// Actors to show [default: all]
    pub(crate) actors: Vec<String>,
    /// Also draw each actor in both facings about one pivot line, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// With --draw: scale of the picture [default: chosen to fit the page]
    #[arg(long, requires = "draw", value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for pictures [default: pictures in the project]
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct LintArgs {
    /// Actors to look at [default: all]
    pub(crate) actors: Vec<String>,
    /// Animations that should stand on the pivot's line [default: those with `standing = true`]
    #[arg(long, value_name = "ANIMATION", value_delimiter = ',')]
    pub(crate) standing: Vec<String>,
    /// Takes to read the actors' speed from, besides [moves] fastest
    #[arg(long, value_name = "FILE", num_args = 1..)]
    pub(crate) takes: Vec<PathBuf>,
    #[command(flatten)]
    pub(crate) report: ReportArgs,
    #[command(flatten)]
    pub(crate) apply: ApplyArgs,
    /// Lowest severity that makes the exit code 1
    #[arg(long, value_enum, default_value_t = FailOn::Error)]
    pub(crate) fail_on: FailOn,
}

/// Which findings are reported.
#[derive(Clone, Debug, Default, Args)]
pub(crate) struct FilterArgs {
    /// Only report these rules: a,b or repeated [default: all]
    #[arg(long, value_name = "RULE", value_delimiter = ',')]
    pub(crate) rule: Vec<String>,
    /// Only report these actors, or instances such as gull:1 [default: all]
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) actor: Vec<String>,
    /// Only report these ticks, such as 100-250 [default: all]
    #[arg(long, value_name = "FIRST-LAST", value_parser = tick_range)]
    pub(crate) ticks: Option<Span>,
}

impl FilterArgs {
    /// The filter, of a project's actors.
    ///
    /// # Errors
    /// Rules and actors that there are not.
    pub(crate) fn filter(&self, actors: &[Actor]) -> Result<Filter, Failure> {
        Filter::new(&self.rule, &self.actor, self.ticks, actors)
    }
}

#[derive(Debug, Default, Args)]
pub(crate) struct CheckArgs {
    /// Takes to check, CSV or JSON lines; - reads standard input
    #[arg(required = true, value_name = "TAKE")]
    pub(crate) takes: Vec<PathBuf>,
    #[command(flatten)]
    pub(crate) filter: FilterArgs,
    /// Findings shown in the table; 0 shows all [default: as many as the screen holds]
    #[arg(long, value_name = "N", conflicts_with_all = ["summary", "stream"])]
    pub(crate) limit: Option<usize>,
    /// Show also findings that follow from others, such as a fall off the stage after a floor was passed
    #[arg(long, conflicts_with_all = ["summary", "stream"])]
    pub(crate) all: bool,
    /// Only report how many findings of each rule the takes hold, and the worst
    #[arg(long, conflicts_with = "pairs")]
    pub(crate) summary: bool,
    /// Write findings, events and hits as they are found, one JSON line each
    #[arg(long, conflicts_with_all = ["pairs", "summary", "baseline", "write_baseline", "report", "apply"])]
    pub(crate) stream: bool,
    /// Read a take that the game is still writing, report each finding when it has ended, until Ctrl-C
    #[arg(long, conflicts_with_all = ["pairs", "summary", "baseline", "write_baseline", "limit", "report", "apply"])]
    pub(crate) follow: bool,
    /// Do not report the known findings in this file; list those that are fixed
    #[arg(long, value_name = "FILE")]
    pub(crate) baseline: Option<PathBuf>,
    /// Write all findings to this file as known
    #[arg(long, value_name = "FILE")]
    pub(crate) write_baseline: Option<PathBuf>,
    /// Stage the takes were recorded on [default: the only one]
    #[arg(long)]
    pub(crate) stage: Option<String>,
    /// Do not warn of state words in the takes that no file knows
    #[arg(long)]
    pub(crate) any_state: bool,
    /// Let the rows of this many takes of one file be mixed, which its column `take` tells apart
    #[arg(long, value_name = "TAKES", default_value_t = 1)]
    pub(crate) mixed: usize,
    /// Also count contacts per pair: ticks touching, overlapping, and with an effect
    #[arg(long)]
    pub(crate) pairs: bool,
    #[command(flatten)]
    pub(crate) report: ReportArgs,
    #[command(flatten)]
    pub(crate) apply: ApplyArgs,
    /// Lowest severity that makes the exit code 1
    #[arg(long, value_enum, default_value_t = FailOn::Error)]
    pub(crate) fail_on: FailOn,
}

#[derive(Debug, Args)]
pub(crate) struct ExplainArgs {
    /// The rule, such as embedded, or what you see, such as stuck [default: list all]
    pub(crate) words: Vec<String>,
}
