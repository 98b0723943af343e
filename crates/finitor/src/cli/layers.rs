//! Arguments of `layers`.

use clap::{Args, Subcommand, ValueEnum};
use std::path::PathBuf;

#[derive(Debug, Default, Args)]
#[command(args_conflicts_with_subcommands = true)]
pub(crate) struct LayersArgs {
    #[command(subcommand)]
    pub(crate) command: Option<LayersCommand>,
    /// While this state lasts; repeat for several
    #[arg(long, value_name = "STATE")]
    pub(crate) state: Vec<String>,
    /// What a row stands for
    #[arg(long, value_enum, default_value_t = By::Layer)]
    pub(crate) by: By,
    /// Also draw the matrix as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Folder for the picture [default: pictures in the project]
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}

/// What the rows of a table of layers are.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, ValueEnum)]
pub(crate) enum By {
    #[default]
    /// A layer: what it detects, and what detects it
    Layer,
    /// A shape, or a thing of a stage, with its bits
    Shape,
}

#[derive(Debug, Subcommand)]
pub(crate) enum LayersCommand {
    /// Explain why two things do or do not meet: ACTOR.SHAPE or STAGE/THING, each
    Explain {
        /// The first, such as keeper.body
        one: String,
        /// The second, such as pier/jetty
        other: String,
        /// While this state lasts; repeat for several
        #[arg(long, value_name = "STATE")]
        state: Vec<String>,
    },
    /// Change a mask in its file: +LAYER adds, -LAYER removes; keeps comments and order
    Set {
        /// Whose mask: a layer, such as hero; a shape, such as keeper.body; or a thing, such as pier/bell
        target: String,
        /// The changes, such as +crate -ledge
        #[arg(required = true, allow_hyphen_values = true, value_name = "+LAYER|-LAYER")]
        changes: Vec<String>,
        /// Show the difference, write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Add a layer with the next bit
    Add {
        /// Its name
        name: String,
        /// Show the difference, write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Rename a layer or an alias in all files that use it
    Rename {
        /// The old name
        old: String,
        /// The new name
        new: String,
        /// Show the difference, write nothing
        #[arg(long)]
        dry_run: bool,
    },
    /// Remove a layer that nothing uses
    Remove {
        /// Its name
        name: String,
        /// Show the difference, write nothing
        #[arg(long)]
        dry_run: bool,
    },
}

impl LayersCommand {
    /// Whether it changes files.
    pub(crate) fn is_edit(&self) -> bool {
        !matches!(self, LayersCommand::Explain { .. })
    }
}
