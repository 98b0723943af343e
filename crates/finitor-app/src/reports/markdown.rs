//! Markdown, as code hosts show it.

use super::{Lines, Reported, place};
use finitor_core::finding::Finding;
use finitor_core::rule::Severity;
use std::fmt::Write;

/// A headline a take or project, and a table of its findings.
pub(super) fn markdown(lines: &Lines<'_>, groups: &[Reported<'_>]) -> String {
    let mut text = String::new();
    for (index, group) in groups.iter().enumerate() {
        if index > 0 {
            text.push('\n');
        }
        let count = |severity: Severity| group.findings.iter().filter(|of| of.severity == severity).count();
        let counts = [(Severity::Error, "error"), (Severity::Warn, "warning"), (Severity::Note, "note")];
        let counts: Vec<String> = counts
            .iter()
            .filter(|(severity, _)| count(*severity) > 0)
            .map(|(severity, word)| finitor_files::counted(count(*severity), word))
            .collect();
        let verdict = if counts.is_empty() { "clean".to_string() } else { counts.join(", ") };
        let _ = writeln!(text, "### {}: {verdict}", escaped(&group.name));
        if group.findings.is_empty() {
            continue;
        }
        text.push_str("\n| severity | rule | where | figure | what | fix | line |\n|---|---|---|---:|---|---|---|\n");
        for (finding, line) in group.findings.iter().zip(lines.of_group(group)) {
            let Finding { severity, rule, message, fix, .. } = finding;
            let figure = rule.unit().shown(finding.figure);
            let (at, uri) = (escaped(&place(finding)), escaped(&line.uri));
            let _ = writeln!(
                text,
                "| {severity} | `{rule}` | {at} | {figure} | {} | {} | {uri}:{} |",
                escaped(message),
                escaped(fix),
                line.line
            );
        }
    }
    text
}

/// Words whose letters mean nothing to Markdown; what stands in backticks stays code.
fn escaped(words: &str) -> String {
    let mut text = String::new();
    let mut is_code = false;
    for letter in words.chars() {
        match letter {
            '`' => is_code = !is_code,
            '|' => text.push('\\'),
            '\\' | '*' | '_' | '[' | ']' | '<' | '>' | '#' if !is_code => text.push('\\'),
            '\n' | '\r' => {
                text.push(' ');
                continue;
            }
            _ => {}
        }
        text.push(letter);
    }
    text
}
