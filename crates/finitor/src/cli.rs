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
    /// For spreadsheets: rows alone, of layers, facing, stage, lint and check
    Csv,
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
    /// Write the sample project, then fit, show, check and draw it
    Demo(DemoArgs),
    /// Write a new project that works as it stands, with a figure of its own or from your pictures
    New(NewArgs),
    /// Say what pictures show: grid, cells, pivot, odd frames; write a starter actor file from them
    Sheet(SheetArgs),
    /// Fit the actors' shapes to their art and write *.fits.json
    Fit(FitArgs),
    /// Every shape in both facings, and how far a turn moves the body's edges
    Facing(FacingArgs),
    /// Show who looks for whom; explain one pair in words and bits
    Layers(LayersArgs),
    /// What is on the stages: kind, layer, box, what looks for it; the shapes of tiles
    Stage(StageArgs),
    /// What is wrong before any take: art off the ground, stale fits, anchors not found
    Lint(LintArgs),
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

#[derive(Debug, Args)]
pub(crate) struct NewArgs {
    /// Folder to write to; it must be empty or not exist
    pub(crate) dir: PathBuf,
    /// Pictures to start from, as for `sheet`; they are copied
    #[arg(long, value_name = "IMAGE", num_args = 1..)]
    pub(crate) from: Vec<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct SheetArgs {
    /// Pictures: sheets, single frames (walk_01.png, walk_02.png ... make an animation), animated GIF and PNG
    #[arg(required = true, value_name = "IMAGE")]
    pub(crate) images: Vec<PathBuf>,
    /// Write a starter actor file; one that is there already is never overwritten
    #[arg(long, value_name = "actors/NAME.toml")]
    pub(crate) write: Option<PathBuf>,
    /// Where the file of --write is there already, add what it lacks; comments and order stay
    #[arg(long)]
    pub(crate) merge: bool,
    /// Name of a row of cells, from the top; once a row
    #[arg(long, value_name = "NAME")]
    pub(crate) row: Vec<String>,
    /// Cell size, instead of the guessed one
    #[arg(long, value_name = "WxH", value_parser = cell_size)]
    pub(crate) cell: Option<(u32, u32)>,
    /// With --cell: room around all cells, px
    #[arg(long, requires = "cell", value_name = "PX", value_parser = clap::value_parser!(u32).range(0..4096))]
    pub(crate) margin: Option<u32>,
    /// With --cell: room between cells; with --by-gaps: the least transparent gap that parts two pieces of art, px
    #[arg(long, value_name = "PX", value_parser = clap::value_parser!(u32).range(0..4096))]
    pub(crate) gap: Option<u32>,
    /// Cut by the transparent gaps around the art, not by a grid
    #[arg(long, conflicts_with = "cell")]
    pub(crate) by_gaps: bool,
    /// The colour that stands for transparent: #rrggbb, or corner for that of the top left pixel
    #[arg(long, value_name = "COLOUR")]
    pub(crate) key: Option<String>,
    /// How far any channel of a colour may be from the key's, 0 to 255
    #[arg(long, value_name = "N", default_value_t = 0)]
    pub(crate) key_tolerance: u8,
}

fn cell_size(text: &str) -> Result<(u32, u32), String> {
    let parsed = text.split_once(['x', 'X', ',']).and_then(|(w, h)| {
        let side = |text: &str| text.trim().parse::<u32>().ok().filter(|side| (1..=16_384).contains(side));
        side(w).zip(side(h))
    });
    parsed.ok_or_else(|| "write width x height in px, such as 48x48".to_string())
}

#[derive(Debug, Default, Args)]
pub(crate) struct FitArgs {
    /// Actors to fit; all unless given
    pub(crate) actors: Vec<String>,
    /// Fit also what has not changed since last time; hand edits stay
    #[arg(long)]
    pub(crate) all: bool,
    /// Fit these shapes alone (a part, or a rule that makes several); the others stay as they are
    #[arg(long, value_name = "SHAPE", num_args = 1..)]
    pub(crate) only: Vec<String>,
    /// Fit also what a hand changed or locked, and so give the hand's work up; with --only for those shapes alone
    #[arg(long)]
    pub(crate) unlock: bool,
    /// Measure and show, but write nothing
    #[arg(long)]
    pub(crate) dry_run: bool,
    /// Show the N shapes on frames that agree least with the art, worst first
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..))]
    pub(crate) worst: Option<u16>,
    /// Say in words how this shape is fitted and what was chosen for it
    #[arg(long, value_name = "SHAPE")]
    pub(crate) why: Option<String>,
    /// Write the frames with their shapes as paths to edit in a vector editor; nothing is fitted
    #[arg(long, value_name = "FILE", conflicts_with_all = ["from_svg", "all", "unlock"])]
    pub(crate) to_svg: Option<PathBuf>,
    /// Read edited paths back: shapes whose points changed are locked; nothing is fitted
    #[arg(long, value_name = "FILE", conflicts_with_all = ["all", "unlock"])]
    pub(crate) from_svg: Option<PathBuf>,
    /// An animation has another name now: its shapes and hand edits follow
    #[arg(long, value_name = "OLD=NEW", value_parser = rename)]
    pub(crate) rename: Vec<(String, String)>,
    /// Let hand edits go on frames that this animation lost, or that went with it
    #[arg(long, value_name = "ANIMATION")]
    pub(crate) forget: Vec<String>,
}

impl FitArgs {
    /// Whether nothing is asked for but to fit what changed.
    pub(crate) fn is_plain(&self) -> bool {
        let names = self.only.is_empty() && self.rename.is_empty() && self.forget.is_empty();
        let wishes = self.all || self.unlock || self.worst.is_some() || self.why.is_some();
        names && !wishes && self.to_svg.is_none() && self.from_svg.is_none()
    }
}

fn rename(text: &str) -> Result<(String, String), String> {
    match text.split_once('=') {
        Some((old, new)) if !old.is_empty() && !new.is_empty() && old != new => Ok((old.into(), new.into())),
        _ => Err("write the old name, = and the new one, such as walk=stroll".to_string()),
    }
}

#[derive(Debug, Default, Args)]
pub(crate) struct FacingArgs {
    /// Actors to show; all unless given
    pub(crate) actors: Vec<String>,
    /// Also draw each actor in both facings about one pivot line, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// With --draw: whole pixels a pixel is enlarged to; chosen to suit unless given
    #[arg(long, requires = "draw", value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for the pictures; `pictures` in the project unless given
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Default, Args)]
#[command(args_conflicts_with_subcommands = true)]
pub(crate) struct LayersArgs {
    #[command(subcommand)]
    pub(crate) command: Option<LayersCommand>,
    /// As it is while this state lasts; may be given several times
    #[arg(long, value_name = "STATE")]
    pub(crate) state: Vec<String>,
    /// What the rows are
    #[arg(long, value_enum, default_value_t = By::Layer)]
    pub(crate) by: By,
    /// Also draw the matrix as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Folder for the picture; `pictures` in the project unless given
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}

/// What the rows of a table of layers are.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum By {
    #[default]
    /// Layers: who looks for whom
    Layer,
    /// Every shape and every thing on a stage, with its bits
    Shape,
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
    /// Change a mask in its file: +LAYER adds, -LAYER drops; comments and order stay
    Set {
        /// Whose mask: a layer, such as hero; a shape, such as keeper.body; or a thing, such as pier/bell
        target: String,
        /// The changes, such as +crate -ledge
        #[arg(required = true, allow_hyphen_values = true, value_name = "+LAYER|-LAYER")]
        changes: Vec<String>,
        /// Show the difference and write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Add a layer with the next bit
    Add {
        /// Its name
        name: String,
        /// Show the difference and write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Give a layer or family another name, in all files that use it
    Rename {
        /// The name it has
        old: String,
        /// The name it is to have
        new: String,
        /// Show the difference and write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Remove a layer that nothing uses
    Remove {
        /// Its name
        name: String,
        /// Show the difference and write nothing
        #[arg(long)]
        dry_run: bool,
    },
}

#[derive(Debug, Args)]
#[command(args_conflicts_with_subcommands = true)]
pub(crate) struct StageArgs {
    #[command(subcommand)]
    pub(crate) command: Option<StageCommand>,
    /// Stages to list; all unless given
    pub(crate) stages: Vec<String>,
    /// Also draw each kind of tile with its shape, as PNG and SVG
    #[arg(long)]
    pub(crate) tiles: bool,
    /// Also draw the stage with names, layers and zones, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Whole pixels a pixel in that picture; chosen to suit a page unless given
    #[arg(long, requires = "draw", value_parser = clap::value_parser!(u32).range(1..=16))]
    pub(crate) scale: Option<u32>,
    /// Folder for the pictures; `pictures` in the project unless given
    #[arg(long, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
    /// Write the stage's things as a drawing for any vector editor, which `svg` in [stage] reads back
    #[arg(long, value_name = "FILE", conflicts_with_all = ["tiles", "draw"])]
    pub(crate) to_svg: Option<PathBuf>,
}

#[derive(Debug, Subcommand)]
pub(crate) enum StageCommand {
    /// The room that bodies have: tight passages, where they must stay low, pockets that they cannot leave
    Clearance(ClearanceArgs),
}

#[derive(Debug, Args)]
pub(crate) struct ClearanceArgs {
    /// Stages to look at; all unless given
    pub(crate) stages: Vec<String>,
    /// Actors whose bodies to look at; all unless given
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) actor: Vec<String>,
    /// A passage is told when the tallest (widest) body has at most so many px to spare, and the smallest is short of no more
    #[arg(long, value_name = "PX", default_value_t = 16.0, value_parser = px)]
    pub(crate) within: f64,
    /// Also draw, for each actor, where its pivot may be, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Folder for the pictures; `pictures` in the project unless given
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct LintArgs {
    /// Actors to look at; all unless given
    pub(crate) actors: Vec<String>,
    /// Animations that should stand on the pivot's line; those with `standing = true` unless given
    #[arg(long, value_name = "ANIMATION", value_delimiter = ',')]
    pub(crate) standing: Vec<String>,
    /// Takes whose longest steps tell how fast the actors move, beside [moves] fastest
    #[arg(long, value_name = "FILE", num_args = 1..)]
    pub(crate) takes: Vec<PathBuf>,
    /// Least severity that makes the exit code 1
    #[arg(long, value_enum, default_value_t = FailOn::Error)]
    pub(crate) fail_on: FailOn,
}

#[derive(Debug, Default, Args)]
pub(crate) struct CheckArgs {
    /// Takes to check, as CSV or lines of JSON; - for standard input
    #[arg(required = true, value_name = "TAKE")]
    pub(crate) takes: Vec<PathBuf>,
    /// Rules to tell of; all unless given
    #[arg(long, value_name = "RULE", value_delimiter = ',')]
    pub(crate) rule: Vec<String>,
    /// Actors, or instances such as gull:1, to tell of; all unless given
    #[arg(long, value_name = "NAME", value_delimiter = ',')]
    pub(crate) actor: Vec<String>,
    /// Ticks to tell of, such as 100-250; all unless given
    #[arg(long, value_name = "FROM-TO", value_parser = tick_range)]
    pub(crate) ticks: Option<(u64, u64)>,
    /// Tell only how many findings of each rule the takes hold together, and the worst
    #[arg(long, conflicts_with = "pairs")]
    pub(crate) summary: bool,
    /// Write findings and events as they are found, a line of JSON each
    #[arg(long, conflicts_with_all = ["pairs", "summary", "accept", "write_accepted"])]
    pub(crate) stream: bool,
    /// Findings accepted earlier, which are not told again; those that are gone are
    #[arg(long, value_name = "FILE")]
    pub(crate) accept: Option<PathBuf>,
    /// Write what is found as accepted, with what --accept holds that is still there
    #[arg(long, value_name = "FILE")]
    pub(crate) write_accepted: Option<PathBuf>,
    /// Stage they were recorded on; not needed where the project has one
    #[arg(long)]
    pub(crate) stage: Option<String>,
    /// Count also what met what, on how many ticks, and on how many something followed; and what never met
    #[arg(long)]
    pub(crate) pairs: bool,
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
    /// Draw every kind and keep on one frame of an actor, beside each other, with their figures
    #[arg(long, value_name = "ANIMATION:FRAME", conflicts_with = "take")]
    pub(crate) kinds: Option<String>,
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

/// A length: a finite number that is not below 0.
fn px(text: &str) -> Result<f64, String> {
    let length = text.parse::<f64>().ok().filter(|length| length.is_finite() && *length >= 0.0);
    length.ok_or_else(|| "a length in px is a number from 0 on, such as 16".to_string())
}

/// `100-250`, or one tick.
fn tick_range(text: &str) -> Result<(u64, u64), String> {
    let (from, to) = text.split_once('-').unwrap_or((text, text));
    match (from.trim().parse(), to.trim().parse()) {
        (Ok(from), Ok(to)) if from <= to => Ok((from, to)),
        _ => Err("ticks are written as FROM-TO, such as 100-250".to_string()),
    }
}
