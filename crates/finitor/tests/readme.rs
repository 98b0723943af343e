//! The README's walk works as it stands: its files are taken from the text.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::{Project, png};

/// The contents of the code block that follows a file's name in bold.
fn block(readme: &str, path: &str) -> String {
    let after = readme.split(&format!("**`{path}`**")).nth(1).unwrap_or_else(|| panic!("{path} is not in the README"));
    let code = after.split("```").nth(1).unwrap();
    code.lines().skip(1).map(|line| format!("{}\n", line.trim_start())).collect()
}

#[test]
fn the_walk_from_a_png_to_a_first_finding_works_to_the_letter() {
    let readme = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../../README.md")).unwrap();
    let project = Project::empty();
    for path in ["finitor.toml", "actors/hero.toml", "stages/yard.toml", "takes/wall.csv"] {
        project.write(path, block(&readme, path));
    }
    // A figure of head and trunk, 12 px wide, on the ground in all four cells.
    let figure = |x: u32, y: u32| (10..22).contains(&(x % 32)) && y >= 8;
    project.write("actors/hero.png", png(128, 32, |x, y| [90, 90, 90, if figure(x, y) { 255 } else { 0 }]));
    project.ok(&["fit"]);
    project.ok(&["draw"]);
    let lint = project.run(&["lint", "--format", "json"]);
    assert!(lint.code == 0 && !lint.out.contains("\"warn\""), "nothing above a note: {}", lint.out);
    let run = project.run(&["check", "takes/wall.csv", "--format", "json"]);
    assert_eq!(run.code, 1, "{}", run.err);
    let findings = run.take()["findings"].clone();
    assert_eq!(findings.as_array().unwrap().len(), 1, "{findings:#}");
    assert_eq!((&findings[0]["rule"], &findings[0]["with"]), (&"embedded".into(), &"yard/wall".into()));
    assert_eq!(findings[0]["ticks"], serde_json::json!([2, 2]));
    project.ok(&["draw", "--take", "takes/wall.csv"]);
}

#[test]
fn every_picture_is_linked_and_every_link_leads_somewhere() {
    let root = concat!(env!("CARGO_MANIFEST_DIR"), "/../../");
    let readme = std::fs::read_to_string(format!("{root}README.md")).unwrap();
    let mut links: Vec<&str> = readme.split("](").skip(1).filter_map(|rest| rest.split(')').next()).collect();
    links.retain(|link| !link.starts_with("http"));
    for link in &links {
        assert!(std::path::Path::new(&format!("{root}{link}")).exists(), "{link} is not there");
    }
    for entry in std::fs::read_dir(format!("{root}docs/screenshots")).unwrap() {
        let name = format!("docs/screenshots/{}", entry.unwrap().file_name().to_string_lossy());
        assert!(links.contains(&name.as_str()), "{name} is not linked");
    }
    let ci = std::fs::read_to_string(format!("{root}.ci/run")).unwrap();
    assert!(readme.lines().any(|line| line.starts_with("cargo test  ")), "the README's test command");
    assert_eq!(ci.lines().last(), Some("cargo test"), "CI runs the README's test command");
}
