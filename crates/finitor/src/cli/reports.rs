//! Arguments of `check` and `lint` for build servers, and for fixes.

use clap::{Args, ValueEnum};
use finitor_app::ReportKind;
use std::path::PathBuf;

/// The form of a report.
#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum ReportChoice {
    /// SARIF 2.1.0, with file and line of the key to change
    Sarif,
    /// JUnit XML, a case a rule
    Junit,
    /// Markdown table
    Markdown,
}

impl ReportChoice {
    /// What the library calls it.
    pub(crate) fn kind(self) -> ReportKind {
        match self {
            ReportChoice::Sarif => ReportKind::Sarif,
            ReportChoice::Junit => ReportKind::Junit,
            ReportChoice::Markdown => ReportKind::Markdown,
        }
    }
}

#[derive(Clone, Debug, Default, Args)]
pub(crate) struct ReportArgs {
    /// Also write findings for a build server or a review
    #[arg(long, value_enum, value_name = "KIND")]
    pub(crate) report: Option<ReportChoice>,
    /// File for the report [default: standard output, in place of the table]
    #[arg(long, short, value_name = "FILE", requires = "report")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Clone, Debug, Default, Args)]
pub(crate) struct ApplyArgs {
    /// Write fixes that are one value in one file; one that leaves its finding or makes another is taken back
    #[arg(long, conflicts_with = "report")]
    pub(crate) apply: bool,
    /// With --apply: show the fixes, write nothing
    #[arg(long, requires = "apply")]
    pub(crate) dry_run: bool,
}
