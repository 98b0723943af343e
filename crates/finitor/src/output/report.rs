//! Reports for build servers and reviews.

use crate::cli::ReportArgs;
use crate::session::Session;
use finitor_app::{Failure, Reported, report};
use finitor_files::write_atomically;
use std::io::Write;

/// Whether the report is all that is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Written {
    /// It stands on standard output.
    Here,
    /// It is in a file, or there is none.
    Elsewhere,
}

/// Writes the report that is asked for, to its file or to `out`.
pub(crate) fn write_report(
    session: &Session<'_>,
    args: &ReportArgs,
    groups: &[Reported<'_>],
    out: &mut dyn Write,
) -> Result<Written, Failure> {
    let Some(kind) = args.report else { return Ok(Written::Elsewhere) };
    let text = report(session, kind.kind(), groups)?;
    match &args.out {
        Some(path) => {
            write_atomically(path, text.as_bytes())?;
            session.note(&format!("{} written", path.display()));
            Ok(Written::Elsewhere)
        }
        None => {
            out.write_all(text.as_bytes())?;
            Ok(Written::Here)
        }
    }
}
