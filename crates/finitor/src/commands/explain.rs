//! `finitor explain`.

use crate::cli::ExplainArgs;
use crate::exit::Exit;
use crate::output::table::entries;
use finitor_app::{Failure, unknown};
use finitor_core::book;
use finitor_core::rule::Rule;
use std::io::Write;

/// Explains a rule, or lists all.
pub(crate) fn run(args: &ExplainArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let Some(code) = &args.rule else {
        let row =
            |rule: Rule| [rule.code(), rule.default_severity().name(), rule.text().means].map(String::from).to_vec();
        writeln!(out, "{}", entries(book::rules().map(row)).trim_fmt())?;
        return Ok(Exit::Done);
    };
    let rule = book::find(code).ok_or_else(|| {
        let known: Vec<&str> = book::rules().map(Rule::code).collect();
        unknown("rule", code, &known)
    })?;
    let text = rule.text();
    let (code, severity, unit) = (rule.code(), rule.default_severity().name(), rule.unit().name());
    writeln!(out, "{code}: {severity} by default, figure in {unit}\n")?;
    writeln!(out, "{}", text.drawing)?;
    let parts = [("Means", text.means), ("Matters", text.matters), ("Measured", text.measured), ("Fix", text.fix)];
    let mut rows: Vec<Vec<String>> =
        parts.iter().map(|(title, words)| vec![(*title).to_string(), (*words).to_string()]).collect();
    for threshold in rule.thresholds() {
        let (key, unit) = (threshold.key, threshold.unit.name());
        let words = format!("[check] {key} = {} ({unit} by default). {}", threshold.default, threshold.about);
        rows.push(vec!["Threshold".to_string(), words]);
    }
    rows.push(vec!["Severity".to_string(), format!("[check.rules] {code} = \"off\", \"note\", \"warn\" or \"error\"")]);
    writeln!(out, "{}", entries(rows).trim_fmt())?;
    Ok(Exit::Done)
}
