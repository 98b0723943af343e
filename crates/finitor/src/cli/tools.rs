//! Arguments of `diff`, `schema`, `completions` and `man`.

use clap::Args;
use std::path::PathBuf;

#[derive(Debug, Args)]
pub(crate) struct CompletionsArgs {
    /// The shell
    #[arg(value_enum)]
    pub(crate) shell: clap_complete::Shell,
}

#[derive(Debug, Args)]
pub(crate) struct ManArgs {
    /// Folder to write a page a command to
    #[arg(long, short, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct SchemaArgs {
    /// Its name [default: list all]
    pub(crate) name: Option<String>,
    /// Folder to write it, or all, to
    #[arg(long, short, value_name = "DIR")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Debug, Args)]
pub(crate) struct DiffArgs {
    /// The old version: a fits file, a folder with fits, git:REV, or a result of `check --format json`
    pub(crate) old: String,
    /// The new version [default: the project as it is]
    pub(crate) new: Option<String>,
    /// Also draw frames whose shapes moved, old beside new, as PNG and SVG
    #[arg(long)]
    pub(crate) draw: bool,
    /// Folder for the picture [default: pictures in the project]
    #[arg(long, value_name = "DIR", requires = "draw")]
    pub(crate) out: Option<PathBuf>,
}
