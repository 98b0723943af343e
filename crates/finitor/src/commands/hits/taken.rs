//! `finitor hits TAKE...`.

use crate::cli::{Format, HitsArgs};
use crate::session::Session;
use finitor_app::Failure;
use std::io::Write;

pub(super) fn run(_: &Session<'_>, _: &HitsArgs, _: Format, _: &mut dyn Write) -> Result<(), Failure> {
    Ok(())
}
