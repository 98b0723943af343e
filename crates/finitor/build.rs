//! Puts the version into the program, with the commit where it is built from a repository.

use std::path::Path;
use std::process::Command;

fn main() {
    let version = env!("CARGO_PKG_VERSION");
    let head = Path::new("../../.git/logs/HEAD");
    // Built from a package there is no repository, and a folder above may have another one.
    let commit = head.exists().then(commit).flatten();
    let words = commit.map_or_else(|| version.to_string(), |commit| format!("{version} ({commit})"));
    println!("cargo::rustc-env=FINITOR_VERSION={words}");
    println!("cargo::rerun-if-changed=build.rs");
    if head.exists() {
        println!("cargo::rerun-if-changed={}", head.display());
    }
}

fn commit() -> Option<String> {
    let output = Command::new("git").args(["rev-parse", "--short=10", "HEAD"]).output().ok()?;
    let words = String::from_utf8(output.stdout).ok()?;
    output.status.success().then(|| words.trim().to_string())
}
