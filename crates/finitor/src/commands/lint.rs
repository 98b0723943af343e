//! `finitor lint`.

use crate::cli::{Format, LintArgs};
use crate::exit::Exit;
use crate::output::applied::write_applied;
use crate::output::check_table::{Counts, counts};
use crate::output::csv::write_csv;
use crate::output::report::{Written, write_report};
use crate::output::table::{coloured, table};
use crate::session::Session;
use finitor_app::results::LintResultFile;
use finitor_app::{ApplyRequest, Failure, LintRequest, LintResult, OpenProject, Reported, apply_fixes, lint};
use finitor_core::finding::Finding;
use finitor_core::rule::Rule;
use finitor_files::{counted, first_few};
use std::collections::BTreeMap;
use std::io::Write;

/// Reports what is wrong before any take.
pub(crate) fn run(
    session: &Session<'_>,
    args: &LintArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let request =
        LintRequest { actors: args.actors.clone(), standing: args.standing.clone(), takes: args.takes.clone() };
    if args.apply.apply {
        let find = |open: &OpenProject<'_>| Ok(lint(open, &request)?.findings);
        write_applied(&apply_fixes(session, ApplyRequest { dry_run: args.apply.dry_run, find: &find })?, out)?;
        return Ok(Exit::Done);
    }
    let result = lint(session, &request)?;
    if !result.has_standing {
        session.note(
            "note: no animation is marked as standing; add `standing = true` under it, or use --standing idle,walk",
        );
    }
    let findings = &result.findings;
    let fails = findings.iter().any(|finding| args.fail_on.fails(finding.severity));
    let exit = if fails { Exit::Findings } else { Exit::Done };
    if write_report(session, &args.report, &Reported::files(findings), out)? == Written::Here {
        return Ok(exit);
    }
    match format {
        Format::Json => {
            let result = LintResultFile::new(session.warnings(), findings);
            writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        }
        Format::Csv => write_rows(findings, out)?,
        Format::Table => write_table(&result, out)?,
    }
    Ok(exit)
}

fn write_rows(findings: &[Finding], out: &mut dyn Write) -> Result<(), Failure> {
    let header = ["severity", "rule", "subject", "place", "figure", "unit", "message", "fix"].map(String::from);
    let rows = findings.iter().map(|finding| {
        vec![
            finding.severity.to_string(),
            finding.rule.to_string(),
            finding.subject.clone(),
            finding.place.name().to_string(),
            finding.figure.to_string(),
            finding.rule.unit().name().to_string(),
            finding.message.clone(),
            finding.fix.clone(),
        ]
    });
    write_csv(&header, rows, out)
}

fn write_table(result: &LintResult, out: &mut dyn Write) -> Result<(), Failure> {
    let findings = &result.findings;
    let what = format!("{} of {}", counted(result.frames, "frame"), result.actors.join(", "));
    if findings.is_empty() {
        writeln!(out, "clean. {what}.")?;
        return Ok(());
    }
    let all = Counts::of(findings.iter().map(|finding| finding.severity));
    writeln!(out, "{} in {what}.\n", counts(all))?;
    let row = |finding: &Finding| {
        vec![
            finding.severity.to_string(),
            finding.rule.to_string(),
            format!("{} {}", finding.subject, finding.place.name()),
            finding.rule.unit().shown(finding.figure),
            finding.message.clone(),
            finding.fix.clone(),
        ]
    };
    let header = ["severity", "rule", "where", "figure", "what", "fix"];
    let (told, more) = grouped(findings);
    let drawn = table(&header, &["figure"], told.into_iter().map(row).collect()).trim_fmt();
    drawn.lines().try_for_each(|line| writeln!(out, "{}", coloured(line)))?;
    for Group { rule, subject, count, places } in more {
        let places = first_few(&places, MOST_PLACES, ", ");
        writeln!(out, "\n{rule} at {count} more places of {subject}: {places}. `--format csv` lists each.")?;
    }
    Ok(())
}

/// Findings of one rule and one subject that are shown, the worst of them first; more are counted.
const MOST_SHOWN: usize = 6;
/// Places of those that are counted, by name.
const MOST_PLACES: usize = 8;

/// What is not shown one by one.
struct Group<'f> {
    rule: Rule,
    subject: &'f str,
    count: usize,
    places: Vec<String>,
}

/// Of a rule that is broken at many places of one subject the worst few, and the rest as groups.
fn grouped(findings: &[Finding]) -> (Vec<&Finding>, Vec<Group<'_>>) {
    let mut alike: Vec<Vec<usize>> = Vec::new();
    let mut known: BTreeMap<(&str, &str), usize> = BTreeMap::new();
    for (index, finding) in findings.iter().enumerate() {
        let group = *known.entry((finding.rule.code(), &finding.subject)).or_insert_with(|| {
            alike.push(Vec::new());
            alike.len() - 1
        });
        alike[group].push(index);
    }
    let mut is_told = vec![true; findings.len()];
    let mut groups = Vec::new();
    for of in alike.iter().filter(|of| of.len() > MOST_SHOWN + 1) {
        let mut worst = of.clone();
        worst.sort_by(|a, b| findings[*b].figure.abs().total_cmp(&findings[*a].figure.abs()).then(a.cmp(b)));
        let mut rest = worst.split_off(MOST_SHOWN);
        rest.sort_unstable();
        rest.iter().for_each(|index| is_told[*index] = false);
        let places = rest.iter().map(|index| findings[*index].place.name().to_string()).collect();
        let first = &findings[of[0]];
        groups.push(Group { rule: first.rule, subject: &first.subject, count: rest.len(), places });
    }
    let told = findings.iter().zip(is_told).filter(|(_, is_told)| *is_told).map(|(finding, _)| finding);
    (told.collect(), groups)
}
