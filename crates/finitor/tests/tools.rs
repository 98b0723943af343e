//! What shells, editors and people who look for trouble get: completions, manual pages, versions, colour, times.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::Project;

#[test]
fn completions_and_manual_pages_have_every_command() {
    let project = Project::empty();
    let help = project.ok(&["--help"]).out;
    let commands: Vec<&str> = help
        .split("Commands:\n")
        .nth(1)
        .unwrap()
        .lines()
        .take_while(|line| !line.is_empty())
        .filter_map(|line| line.strip_prefix("  ").filter(|line| !line.starts_with(' ')))
        .filter_map(|line| line.split(' ').next())
        .filter(|name| *name != "help")
        .collect();
    assert!(commands.len() >= 16, "{commands:?}");
    for shell in ["bash", "zsh", "fish", "elvish", "powershell"] {
        let script = project.ok(&["completions", shell]).out;
        let missing: Vec<&&str> = commands.iter().filter(|name| !script.contains(**name)).collect();
        assert!(missing.is_empty(), "{shell}: {missing:?}");
        assert!(script.contains("fail-on") && script.contains("dry-run"), "{shell}");
    }
    project.write("finitor.bash", project.ok(&["completions", "bash"]).out);
    if let Ok(read) =
        std::process::Command::new("bash").args(["-n", "finitor.bash"]).current_dir(project.root()).status()
    {
        assert!(read.success());
    }
    assert!(project.ok(&["man"]).out.contains(".TH finitor 1"));
    project.ok(&["man", "--out", "man"]);
    for name in commands {
        let page = project.read(&format!("man/finitor-{name}.1"));
        assert!(page.contains(".TH") && page.contains(".SH OPTIONS"), "{name}");
    }
    project.refused(&["completions", "cmd"], &["bash"]);
}

#[test]
fn version_colour_and_times_are_as_asked_for() {
    let project = Project::fitted();
    let version = project.ok(&["--version"]).out;
    let number = env!("CARGO_PKG_VERSION");
    // With the commit where it is built from a repository.
    let rest = version.trim().strip_prefix(&format!("finitor {number}")).unwrap();
    assert!(rest.is_empty() || (rest.starts_with(" (") && rest.ends_with(')') && rest.len() == 13), "{version}");
    let check = |more: &[&str]| project.run(&[&["check", "takes/faults.csv"], more].concat());
    let plain = check(&[]).out;
    assert!(!plain.contains('\u{1b}'));
    let bright = check(&["--color", "always"]).out;
    assert!(bright.contains("\u{1b}["), "always is stronger than NO_COLOR and a pipe");
    assert_eq!(check(&["--color", "never"]).out, plain);
    let told = check(&["--verbose"]);
    assert_eq!(told.out, plain);
    for part in ["reading art: ", "checking takes: ", " s, 29 frames", "read 14 files: finitor.toml, "] {
        assert!(told.err.contains(part), "{part}: {}", told.err);
    }
    project.refused(&["check", "takes/clean.csv", "--verbose", "--quiet"], &["--quiet"]);
}

/// A pipe has no place beside it, and is not read: the same bytes as on standard output.
#[cfg(unix)]
#[test]
fn pipes_are_written_to_as_they_are() {
    let project = Project::fitted();
    for args in [&["export", "--to", "json"][..], &["report", "takes/faults.csv"]] {
        let to = |path: &str| project.ok(&[args, &["-o", path, "--quiet"]].concat()).out;
        let plain = to("-");
        let piped = to("/dev/stdout");
        assert!(plain.len() > 10_000 && piped.starts_with(&plain), "{args:?}: {}", piped.len());
    }
}
