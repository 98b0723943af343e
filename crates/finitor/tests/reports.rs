//! Findings for build servers and reviews, read by others: the SARIF schema, an XML reader, a count of table cells.
#![allow(clippy::unwrap_used, clippy::print_stderr, reason = "a test fails by panicking, and says what it leaves out")]

mod support;

use serde_json::Value;
use std::process::Command;
use support::Project;

fn sarif(project: &Project, args: &[&str]) -> Value {
    project.run(&[args, &["--report", "sarif", "--out", "out.sarif", "--quiet"]].concat());
    serde_json::from_str(&project.read("out.sarif")).unwrap()
}

#[test]
fn sarif_is_valid_and_points_at_the_lines_to_change() {
    let project = Project::fitted();
    // The schema of OASIS has an expression with a stray bracket, which strict readers refuse.
    let schema = include_str!("schemas/sarif-2.1.0.json").replace("[a-zA-Z]{2}]?$", "[a-zA-Z]{2})?$");
    let schema = schema.replace("^[a-zA-Z]{2}|^[a-zA-Z]{2}-[a-zA-Z]{2})?$", "^[a-zA-Z]{2}(-[a-zA-Z]{2})?$");
    let valid = jsonschema::validator_for(&serde_json::from_str(&schema).unwrap()).unwrap();
    for args in [&["check", "takes/faults.csv", "takes/clean.csv"][..], &["lint"]] {
        let log = sarif(&project, args);
        let wrong: Vec<String> = valid.iter_errors(&log).map(|error| error.to_string()).collect();
        assert!(wrong.is_empty(), "{wrong:?}");
        let run = &log["runs"][0];
        let found = project.run(&[args, &["--format", "json"]].concat()).json();
        let all: Vec<Value> = match found["takes"].as_array() {
            Some(takes) => takes.iter().flat_map(|take| take["findings"].as_array().unwrap().clone()).collect(),
            None => found["findings"].as_array().unwrap().clone(),
        };
        let results = run["results"].as_array().unwrap();
        assert_eq!(results.len(), all.len());
        let mut prints: Vec<String> = Vec::new();
        for (result, finding) in results.iter().zip(&all) {
            assert_eq!(result["ruleId"], finding["rule"]);
            let rule = &run["tool"]["driver"]["rules"][result["ruleIndex"].as_u64().unwrap() as usize];
            assert_eq!(rule["id"], finding["rule"]);
            assert!(rule["help"]["text"].as_str().unwrap().len() > 20);
            assert!(result["message"]["text"].as_str().unwrap().contains(finding["fix"].as_str().unwrap()));
            let at = &result["locations"][0]["physicalLocation"];
            let (file, line) =
                (at["artifactLocation"]["uri"].as_str().unwrap(), at["region"]["startLine"].as_u64().unwrap());
            let text = project.read(file);
            let line = text.lines().nth(line as usize - 1).unwrap();
            match (finding["rule"].as_str().unwrap(), file.rsplit('.').next().unwrap()) {
                // The key is not there yet: its table.
                ("lopsided", _) => assert!(line.starts_with("[shape."), "{line}"),
                ("zone_skipped", _) => assert!(line.starts_with("box = "), "{line}"),
                // The row of the worst moment.
                (_, "csv") => {
                    let row: Vec<&str> = line.split(',').collect();
                    assert_eq!(
                        (row[0], row[1]),
                        (finding["worst"]["tick"].to_string().as_str(), finding["subject"].as_str().unwrap())
                    );
                }
                _ => {}
            }
            prints.push(result["partialFingerprints"]["finding/v1"].as_str().unwrap().to_string());
        }
        let before = prints.clone();
        prints.sort();
        prints.dedup();
        assert_eq!(prints.len(), results.len(), "each finding has a print of its own");
        // Lines that move do not change the prints.
        let stage = project.read("stages/pier.toml");
        project.write("stages/pier.toml", format!("# a line\n\n{stage}"));
        let again = sarif(&project, args);
        let after: Vec<String> = again["runs"][0]["results"]
            .as_array()
            .unwrap()
            .iter()
            .map(|of| of["partialFingerprints"]["finding/v1"].as_str().unwrap().to_string())
            .collect();
        assert_eq!(after, before);
        project.write("stages/pier.toml", stage);
    }
}

#[test]
fn junit_has_a_case_a_rule_and_take_and_fails_where_something_was_found() {
    let project = Project::fitted();
    let run = project.run(&["check", "takes/faults.csv", "takes/clean.csv", "--report", "junit"]);
    assert_eq!(run.code, 1, "the exit code is that of the check");
    let document = roxmltree::Document::parse(&run.out).unwrap();
    let root = document.root_element();
    let suites: Vec<_> = root.children().filter(|node| node.has_tag_name("testsuite")).collect();
    let names: Vec<_> = suites.iter().map(|suite| suite.attribute("name").unwrap()).collect();
    assert_eq!((root.tag_name().name(), names), ("testsuites", vec!["faults.csv", "clean.csv"]));
    let found = project.run(&["check", "takes/faults.csv", "takes/clean.csv", "--format", "json"]).json();
    let mut failures = 0;
    for (suite, take) in suites.iter().zip(found["takes"].as_array().unwrap()) {
        let cases: Vec<_> = suite.children().filter(|node| node.has_tag_name("testcase")).collect();
        assert_eq!(suite.attribute("tests").unwrap(), cases.len().to_string());
        let findings = take["findings"].as_array().unwrap();
        for case in &cases {
            let rule = case.attribute("name").unwrap();
            let of_rule: Vec<&Value> = findings.iter().filter(|finding| finding["rule"] == rule).collect();
            let is_bad = of_rule.iter().any(|finding| finding["severity"] != "note");
            let failed = case.children().find(|node| node.has_tag_name("failure"));
            assert_eq!(failed.is_some(), is_bad, "{rule}");
            if let Some(text) = failed.and_then(|node| node.text()) {
                assert_eq!(text.trim().lines().count(), of_rule.len(), "{rule}: a line a finding");
                assert!(of_rule.iter().all(|finding| text.contains(finding["message"].as_str().unwrap())));
            }
            failures += usize::from(is_bad);
        }
        let of_suite = cases.iter().filter(|case| case.children().any(|node| node.has_tag_name("failure"))).count();
        assert_eq!(suite.attribute("failures").unwrap(), of_suite.to_string());
    }
    assert_eq!(root.attribute("failures").unwrap(), failures.to_string());
    assert!(failures > 5);
    let lint = project.run(&["lint", "--report", "junit"]).out;
    assert!(lint.contains("testsuite name=\"files\"") && lint.contains("testcase name=\"lopsided\""), "{lint}");
    assert!(!lint.contains("<failure"), "notes do not fail");
}

#[test]
fn junit_is_valid_by_the_schema_of_what_build_servers_read() {
    let project = Project::fitted();
    let schema = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/schemas/junit.xsd");
    let valid =
        |file: &str| Command::new("xmllint").args(["--noout", "--schema", schema]).arg(project.path(file)).output();
    for args in [&["check", "takes/faults.csv", "takes/clean.csv"][..], &["lint"]] {
        project.write("found.xml", project.run(&[args, &["--report", "junit"]].concat()).out);
        let Ok(told) = valid("found.xml") else {
            eprintln!("xmllint is not installed: the reports were not held against the schema");
            return;
        };
        assert!(told.status.success(), "{}", String::from_utf8_lossy(&told.stderr));
        // It does refuse what is no report.
        let found = project.read("found.xml");
        project.write("found.xml", found.replace(" classname=", " klass="));
        assert!(!valid("found.xml").unwrap().status.success());
    }
}

#[test]
fn markdown_is_a_table_with_every_finding() {
    let project = Project::fitted();
    let run = project.run(&["check", "takes/faults.csv", "takes/clean.csv", "--report", "markdown"]);
    let lines: Vec<&str> = run.out.lines().collect();
    assert!(lines[0].starts_with("### faults.csv: 12 errors, 3 warnings, 2 notes"), "{}", lines[0]);
    assert!(lines.contains(&"### clean.csv: clean"), "{}", run.out);
    let rows: Vec<&&str> =
        lines.iter().filter(|line| line.starts_with("| ") && !line.starts_with("| severity")).collect();
    assert_eq!(rows.len(), 17);
    for row in rows {
        let bars = row.matches('|').count() - row.matches("\\|").count();
        assert_eq!(bars, 8, "{row}");
    }
    project.refused(&["check", "takes/clean.csv", "--out", "x"], &["--report"]);
    // In a file the table stands beside it.
    let both = project.run(&["check", "takes/clean.csv", "--report", "markdown", "--out", "out/found.md"]);
    assert!(both.out.starts_with("clean.csv on pier: clean.") && both.err.contains("found.md written"), "{both:?}");
    assert_eq!(project.read("out/found.md"), "### clean.csv: clean\n");
}

#[test]
fn a_layer_is_pointed_at_by_its_own_line() {
    let project = Project::fitted();
    project.edit("finitor.toml", "\"strike\"]", "\"strike\", \"mist\"]");
    project.edit("finitor.toml", "foe = [\"ground\"]", "foe = [\"ground\"]\nmist = [\"ground\"]");
    let gull = project.read("actors/gull.toml").replace("layer = \"foe\"", "layer = \"mist\"");
    project.write("actors/gull.toml", gull);
    project.ok(&["fit"]);
    let log = sarif(&project, &["lint"]);
    let results = log["runs"][0]["results"].as_array().unwrap();
    let unseen = results.iter().find(|result| result["ruleId"] == "unseen_layer").unwrap();
    let at = &unseen["locations"][0]["physicalLocation"];
    assert_eq!(at["artifactLocation"]["uri"], "finitor.toml");
    let line = at["region"]["startLine"].as_u64().unwrap() as usize;
    assert_eq!(project.read("finitor.toml").lines().nth(line - 1), Some("mist = [\"ground\"]"));
}

#[test]
fn a_seam_is_pointed_at_by_one_of_its_things_and_a_leak_by_the_stage_s_size() {
    let project = Project::fitted();
    let stage = project.read("stages/pier.toml");
    let line = |text: &str, key: &str| text.lines().position(|line| line.starts_with(key)).unwrap() + 1;
    let of = |rule: &str| {
        let log = sarif(&project, &["lint"]);
        let results = log["runs"][0]["results"].as_array().unwrap();
        let found = results.iter().find(|result| result["ruleId"] == rule).unwrap();
        let at = &found["locations"][0]["physicalLocation"];
        assert_eq!(at["artifactLocation"]["uri"], "stages/pier.toml");
        at["region"]["startLine"].as_u64().unwrap() as usize
    };
    // A tide that ends before the border leaves a way out.
    let start = stage.find("name = \"tide\"").unwrap();
    let at = start + stage[start..].find("box = [").unwrap();
    let end = at + stage[at..].find('\n').unwrap();
    let size = stage[at + 7..end].trim_end_matches(|c| c != ']').trim_end_matches(']');
    let numbers: Vec<f64> = size.split(", ").map(|number| number.parse().unwrap()).collect();
    let short = format!("box = [{}, {}, {}, {}]", numbers[0], numbers[1], numbers[2] - 80.0, numbers[3]);
    let leaky = format!("{}{short}{}", &stage[..at], &stage[end..]);
    project.write("stages/pier.toml", &leaky);
    assert_eq!(of("leaky_bottom"), line(&leaky, "size"));
    let seamed = format!(
        "{stage}\n[[solid]]\nname = \"crate_a\"\nbox = [30, 40, 20, 20]\nlayer = \"ground\"\n\n\
         [[solid]]\nname = \"crate_b\"\nbox = [50, 40.5, 20, 20]\nlayer = \"ground\"\n"
    );
    project.write("stages/pier.toml", &seamed);
    let either = ["crate_a", "crate_b"].map(|name| line(&seamed, &format!("name = \"{name}\"")));
    assert!(either.contains(&of("seam")));
}
