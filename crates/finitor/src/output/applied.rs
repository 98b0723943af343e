//! Fixes that were applied, or taken back.

use super::difference::write_difference;
use finitor_app::{AppliedFix, ApplyOutcome, Failure};
use std::io::Write;

/// Writes each fix with the old value and the new one, and what became of it.
pub(crate) fn write_applied(fixes: &[AppliedFix], out: &mut dyn Write) -> Result<(), Failure> {
    if fixes.is_empty() {
        writeln!(out, "no fix is one value in one file: nothing to apply")?;
        return Ok(());
    }
    let count = |outcome: &dyn Fn(&ApplyOutcome) -> bool| fixes.iter().filter(|fix| outcome(&fix.outcome)).count();
    let (kept, shown) = (count(&|of| *of == ApplyOutcome::Kept), count(&|of| *of == ApplyOutcome::Shown));
    let all = if fixes.len() == 1 { "1 fix".to_string() } else { format!("{} fixes", fixes.len()) };
    match shown {
        0 => writeln!(out, "{kept} of {all} applied, {} taken back.", fixes.len() - kept)?,
        _ => writeln!(out, "{all} to try; nothing written (--dry-run).")?,
    }
    for fix in fixes {
        let AppliedFix { finding, file, line, key, old, new, change, outcome } = fix;
        let was = old.as_ref().map_or_else(|| "not set before".to_string(), |old| format!("was {old}"));
        writeln!(out, "\n{}: {}", finding.rule, finding.message)?;
        match outcome {
            ApplyOutcome::Kept => writeln!(out, "  {file}:{line}: {key} = {new} ({was}); the finding is gone")?,
            ApplyOutcome::Shown => {
                writeln!(out, "  {file}:{line}: {key} = {new} ({was})")?;
                write_difference(change, &format!("  {file}"), out)?;
            }
            ApplyOutcome::NoHelp => {
                writeln!(out, "  {file}:{line}: {key} = {new} taken back ({was}): the finding stays")?;
            }
            ApplyOutcome::Breaks(finding) => {
                writeln!(out, "  {file}:{line}: {key} = {new} taken back ({was}): it leads to {finding}")?;
            }
            ApplyOutcome::Fails(reason) => {
                writeln!(out, "  {file}:{line}: {key} = {new} taken back ({was}): {reason}")?;
            }
        }
    }
    Ok(())
}
