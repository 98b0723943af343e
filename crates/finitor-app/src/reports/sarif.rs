//! SARIF 2.1.0 (OASIS standard, 2020).

use super::{Line, Lines, Reported};
use crate::failure::Failure;
use finitor_core::book;
use finitor_core::finding::Finding;
use finitor_core::rule::{Rule, Severity};
use finitor_files::short_hash;
use serde::Serialize;
use std::collections::BTreeMap;

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Log {
    #[serde(rename = "$schema")]
    schema: &'static str,
    version: &'static str,
    runs: [Run; 1],
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Run {
    tool: Tool,
    original_uri_base_ids: BTreeMap<&'static str, Base>,
    column_kind: &'static str,
    results: Vec<ResultOf>,
}

/// What relative places start from: named, and left to whoever reads it.
#[derive(Serialize)]
struct Base {
    description: Message,
}

#[derive(Serialize)]
struct Tool {
    driver: Driver,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Driver {
    name: &'static str,
    semantic_version: &'static str,
    rules: Vec<RuleOf>,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct RuleOf {
    id: &'static str,
    short_description: Message,
    full_description: Message,
    help: Message,
    default_configuration: Configuration,
}

#[derive(Serialize)]
struct Configuration {
    level: &'static str,
    enabled: bool,
}

#[derive(Serialize)]
struct Message {
    text: String,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct ResultOf {
    rule_id: &'static str,
    rule_index: usize,
    level: &'static str,
    message: Message,
    locations: Vec<Location>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    related_locations: Vec<Location>,
    partial_fingerprints: BTreeMap<&'static str, String>,
    properties: Properties,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Location {
    physical_location: Physical,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    logical_locations: Vec<Logical>,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Physical {
    artifact_location: Artifact,
    region: Region,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Artifact {
    uri: String,
    uri_base_id: &'static str,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Region {
    start_line: usize,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Logical {
    fully_qualified_name: String,
}

#[derive(Serialize)]
struct Properties {
    figure: f64,
    unit: &'static str,
    fix: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    take: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    ticks: Option<[u64; 2]>,
}

/// The log of a run, with the texts of all rules that it has findings of.
pub(super) fn sarif(lines: &Lines<'_>, groups: &[Reported<'_>]) -> Result<String, Failure> {
    let used = |rule: &Rule| groups.iter().flat_map(|group| group.findings).any(|finding| finding.rule == *rule);
    let rules: Vec<Rule> = book::rules().filter(used).collect();
    let mut results = Vec::new();
    for group in groups {
        let mut known: BTreeMap<String, usize> = BTreeMap::new();
        for (finding, line) in group.findings.iter().zip(lines.of_group(group)) {
            let index = rules.iter().position(|rule| *rule == finding.rule).unwrap_or(0);
            let identity = identity(group, finding);
            // Findings that only their ticks tell apart are counted in their order.
            let number = known.entry(identity.clone()).or_default();
            *number += 1;
            let print = short_hash(format!("{identity} {number}").as_bytes());
            results.push(result(finding, index, (lines, group, line), print));
        }
    }
    let driver = Driver {
        name: "finitor",
        semantic_version: env!("CARGO_PKG_VERSION"),
        rules: rules.into_iter().map(rule).collect(),
    };
    let base = Base { description: Message { text: "The folder of the project, with finitor.toml.".into() } };
    let run = Run {
        tool: Tool { driver },
        original_uri_base_ids: BTreeMap::from([(BASE, base)]),
        column_kind: "unicodeCodePoints",
        results,
    };
    let schema = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";
    let log = Log { schema, version: "2.1.0", runs: [run] };
    Ok(serde_json::to_string_pretty(&log)? + "\n")
}

const BASE: &str = "PROJECT";

fn level(severity: Severity) -> &'static str {
    match severity {
        Severity::Error => "error",
        Severity::Warn => "warning",
        Severity::Note => "note",
        Severity::Off => "none",
    }
}

fn rule(rule: Rule) -> RuleOf {
    let text = rule.text();
    let message = |text: String| Message { text };
    RuleOf {
        id: rule.code(),
        short_description: message(text.means.to_string()),
        full_description: message(format!("{} {}", text.means, text.matters)),
        help: message(format!("{}\n\nMeasured: {}", text.fix, text.measured)),
        default_configuration: Configuration {
            level: level(rule.default_severity()),
            enabled: rule.default_severity() > Severity::Off,
        },
    }
}

/// What a finding is, whichever its figure, its ticks, and the lines of the files.
fn identity(group: &Reported<'_>, finding: &Finding) -> String {
    let rule = finding.rule.code();
    let of = match finding.in_take() {
        Some(at) => format!("{} {} {}", at.shape, at.with, at.cause.name()),
        None => finding.place.name().to_string(),
    };
    format!("{} {rule} {} {of}", group.name, finding.subject)
}

fn result(
    finding: &Finding,
    index: usize,
    (lines, group, line): (&Lines<'_>, &Reported<'_>, Line),
    print: String,
) -> ResultOf {
    let name = match finding.in_take() {
        Some(at) => format!("{}.{}", finding.subject, at.shape),
        None => format!("{} {}", finding.subject, finding.place.name()),
    };
    let location = |line: Line, logical_locations| Location {
        physical_location: Physical {
            artifact_location: Artifact { uri: encoded(&line.uri), uri_base_id: BASE },
            region: Region { start_line: line.line },
        },
        logical_locations,
    };
    let beside = lines.beside(group, finding).into_iter().filter(|beside| *beside != line);
    ResultOf {
        rule_id: finding.rule.code(),
        rule_index: index,
        level: level(finding.severity),
        message: Message { text: format!("{}. {}", finding.message, finding.fix) },
        related_locations: beside.map(|line| location(line, Vec::new())).collect(),
        locations: vec![location(line, vec![Logical { fully_qualified_name: name.trim_end().to_string() }])],
        partial_fingerprints: BTreeMap::from([("finding/v1", print)]),
        properties: Properties {
            figure: finding.figure,
            unit: finding.rule.unit().name(),
            fix: finding.fix.clone(),
            take: group.take.is_some().then(|| group.name.clone()),
            ticks: finding.in_take().map(|at| [at.ticks.first, at.ticks.last]),
        },
    }
}

/// A path as a relative URI (RFC 3986): what is no plain letter as percent and two digits.
fn encoded(path: &str) -> String {
    let mut uri = String::new();
    for byte in path.bytes() {
        match byte {
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'/' | b'.' | b'-' | b'_' | b'~' => uri.push(char::from(byte)),
            _ => uri.push_str(&format!("%{byte:02X}")),
        }
    }
    uri
}
