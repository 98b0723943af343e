//! `finitor explain`.

use crate::cli::ExplainArgs;
use crate::exit::Exit;
use crate::output::table::entries;
use finitor_app::{Failure, unknown};
use finitor_core::book;
use finitor_core::rule::{Rule, Views};
use finitor_core::symptoms::{Symptom, matching};
use std::io::Write;

/// Explains a rule, or lists all.
pub(crate) fn run(args: &ExplainArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    if args.words.is_empty() {
        let row =
            |rule: Rule| [rule.code(), rule.default_severity().name(), rule.text().means].map(String::from).to_vec();
        writeln!(out, "{}", entries(book::rules().map(row)).trim_fmt())?;
        return Ok(Exit::Done);
    }
    let words = args.words.join(" ");
    let Some(rule) = book::find(&words) else { return by_symptom(&words, out) };
    let text = rule.text();
    let (code, severity, unit) = (rule.code(), rule.default_severity().name(), rule.unit().name());
    let of_view = if rule.views() == Views::Side { ", for games seen from the side" } else { "" };
    writeln!(out, "{code}: {severity} by default, figure in {unit}{of_view}\n")?;
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

/// What people see, with the rules that find it: those that fit the words best.
fn by_symptom(words: &str, out: &mut dyn Write) -> Result<Exit, Failure> {
    /// More are hardly what was meant.
    const SHOWN: usize = 3;
    let codes: Vec<&str> = book::rules().map(Rule::code).collect();
    let found = matching(words);
    // A slip in a rule's name is no symptom.
    let is_slip = !words.contains(' ') && finitor_files::nearest(words, &codes).is_some();
    let Some(best) = found.first().filter(|_| !is_slip) else { return Err(unknown("rule", words, &codes)) };
    let fitting: Vec<&Symptom> =
        found.iter().filter(|other| other.fits == best.fits).map(|other| other.symptom).collect();
    for symptom in fitting.iter().take(SHOWN) {
        writeln!(out, "It {}\n", symptom.seen)?;
        let mut rows = vec![
            vec!["Reason".to_string(), symptom.reason.to_string()],
            vec!["Setting".to_string(), symptom.setting.to_string()],
        ];
        rows.extend(symptom.rules().map(|rule| vec![rule.code().to_string(), rule.text().means.to_string()]));
        writeln!(out, "{}\n", entries(rows).trim_fmt())?;
    }
    let rest = fitting.len().saturating_sub(SHOWN);
    if rest > 0 {
        writeln!(
            out,
            "{rest} more fit as well: say more of what you see, such as `finitor explain stuck after turning`.\n"
        )?;
    }
    writeln!(out, "`finitor explain RULE` tells how a rule measures and what mends it.")?;
    Ok(Exit::Done)
}
