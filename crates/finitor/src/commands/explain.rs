//! `finitor explain`.

use crate::cli::ExplainArgs;
use crate::exit::{Exit, Failure};
use finitor_core::check::Rule;
use std::io::Write;

/// Tells about a rule, or lists all.
pub(crate) fn run(args: &ExplainArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let Some(code) = &args.rule else {
        for rule in Rule::ALL {
            writeln!(out, "{:<14} {:<6} {}", rule.name(), rule.default_severity().name(), rule.text().means)?;
        }
        return Ok(Exit::Done);
    };
    let rule = Rule::parse(code).ok_or_else(|| {
        let known: Vec<&str> = Rule::ALL.iter().map(|rule| rule.name()).collect();
        Failure::Usage(format!("there is no rule \"{code}\"; there are {}", known.join(", ")))
    })?;
    let text = rule.text();
    writeln!(out, "{} ({} unless [check.rules] says otherwise)\n", rule.name(), rule.default_severity().name())?;
    writeln!(out, "{}", text.drawing)?;
    let entries = [("Means", text.means), ("Matters", text.matters), ("Measured", text.measured), ("Mend", text.mend)];
    for (title, words) in entries {
        writeln!(out, "{title}: {words}\n")?;
    }
    Ok(Exit::Done)
}
