//! `finitor explain`.

use crate::cli::ExplainArgs;
use crate::exit::{Exit, Failure};
use crate::output::table::entries;
use finitor_core::check::Rule;
use std::io::Write;

/// Tells about a rule, or lists all.
pub(crate) fn run(args: &ExplainArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let Some(code) = &args.rule else {
        let row =
            |rule: Rule| [rule.name(), rule.default_severity().name(), rule.text().means].map(String::from).to_vec();
        writeln!(out, "{}", entries(Rule::ALL.map(row)).trim_fmt())?;
        return Ok(Exit::Done);
    };
    let rule = Rule::parse(code).ok_or_else(|| {
        let known: Vec<&str> = Rule::ALL.iter().map(|rule| rule.name()).collect();
        Failure::Usage(format!("there is no rule \"{code}\"; there are {}", known.join(", ")))
    })?;
    let text = rule.text();
    writeln!(out, "{} ({} unless [check.rules] says otherwise)\n", rule.name(), rule.default_severity().name())?;
    writeln!(out, "{}", text.drawing)?;
    let parts = [("Means", text.means), ("Matters", text.matters), ("Measured", text.measured), ("Mend", text.mend)];
    writeln!(out, "{}", entries(parts.map(|(title, words)| vec![title.to_string(), words.to_string()])).trim_fmt())?;
    Ok(Exit::Done)
}
