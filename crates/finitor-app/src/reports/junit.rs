//! JUnit XML: a suite a take, a case a rule; a rule with findings has failed.

use super::{Lines, Reported, place};
use crate::failure::Failure;
use finitor_core::book;
use finitor_core::finding::Finding;
use finitor_core::rule::{Rule, Severity};
use quick_junit::{NonSuccessKind, Report, TestCase, TestCaseStatus, TestSuite};

/// Notes are output of a case that has passed; warnings and errors make it fail.
pub(super) fn junit(lines: &Lines<'_>, groups: &[Reported<'_>]) -> Result<String, Failure> {
    let mut report = Report::new("finitor");
    for group in groups {
        let mut suite = TestSuite::new(&group.name);
        let of_group = lines.of_group(group);
        // Rules for takes, or those for the files.
        let of_takes: Vec<Rule> = book::take_rules().collect();
        let rules = book::rules().filter(|rule| of_takes.contains(rule) == group.take.is_some());
        for rule in rules {
            let found: Vec<(&Finding, String)> = group
                .findings
                .iter()
                .zip(&of_group)
                .filter(|(finding, _)| finding.rule == rule)
                .map(|(finding, line)| (finding, format!("{}:{}", line.uri, line.line)))
                .collect();
            suite.add_test_case(case(rule, &group.name, &found));
        }
        report.add_test_suite(suite);
    }
    Ok(report.to_string().map_err(std::io::Error::other)?)
}

fn case(rule: Rule, group: &str, found: &[(&Finding, String)]) -> TestCase {
    let text = |(finding, line): &(&Finding, String)| {
        let Finding { severity, message, fix, .. } = finding;
        format!("{severity} {}: {message}. {fix} ({line})", place(finding))
    };
    let all: Vec<String> = found.iter().map(text).collect();
    let worst = found.iter().max_by_key(|(finding, _)| finding.severity).map(|(finding, _)| finding);
    let failed = worst.filter(|finding| finding.severity >= Severity::Warn);
    let mut case = match failed {
        Some(finding) => {
            let mut status = TestCaseStatus::non_success(NonSuccessKind::Failure);
            status.set_type(finding.severity.name()).set_message(&finding.message).set_description(all.join("\n"));
            TestCase::new(rule.code(), status)
        }
        None => TestCase::new(rule.code(), TestCaseStatus::success()),
    };
    case.set_classname(format!("finitor.{group}"));
    if failed.is_none() && !all.is_empty() {
        case.set_system_out(all.join("\n"));
    }
    case
}
