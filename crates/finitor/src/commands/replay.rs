//! `finitor report`.

use crate::cli::{PlayedChecks, ReplayArgs};
use crate::exit::Exit;
use crate::output::summary;
use crate::session::Session;
use finitor_app::results::SummaryResult;
use finitor_app::{Failure, ReplayRequest, TakeChecks, replay};
use finitor_draw::Renewal;
use finitor_files::{STANDARD_INPUT, write_atomically};
use std::io::Write;
use std::path::Path;

/// Writes the page that plays the takes.
pub(super) fn run(session: &Session<'_>, args: &ReplayArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let PlayedChecks { stage, filter, mixed } = &args.checks;
    if args.takes.iter().any(|take| take == Path::new(STANDARD_INPUT)) {
        return Err(Failure::Usage("a report is made of files; write the take to one".into()));
    }
    let cast = session.cast_of_takes(&args.takes)?;
    let stages = session.stages()?;
    let stage = session.stage(&stages, stage.as_deref())?;
    let filter = filter.filter(&cast.actors)?;
    let plain = TakeChecks::plain(session, stage, &stages, &cast.actors);
    let request = ReplayRequest {
        checks: TakeChecks { mixed: *mixed, ..plain },
        cast: &cast,
        takes: &args.takes,
        filter: Some(&filter),
        renewal: Renewal::Never,
    };
    let page = replay(&request)?;
    filter.expect_matches(&page.takes)?;
    let html = &page.page.html;
    if args.out == Path::new("-") {
        out.write_all(html.as_bytes())?;
        return Ok(Exit::Done);
    }
    write_atomically(&args.out, html.as_bytes())?;
    writeln!(
        out,
        "{}, {:.1} MB: {}",
        args.out.display(),
        megabytes(html),
        summary::line(&SummaryResult::new(&page.takes))
    )?;
    session.note("open it in a browser; it loads nothing and can be sent as it is");
    Ok(Exit::Done)
}

fn megabytes(text: &str) -> f64 {
    text.len() as f64 / 1e6
}
