//! One table of how fast everything is: each line stands beside plain work on the same data, the two taken turn by turn, so that the
//! ratio holds on a machine whose speed moves. Some five minutes; words after `--` choose lines by their part (`fit`, `check`, ...).
#![allow(clippy::unwrap_used, clippy::print_stdout, missing_docs, reason = "a bench prints, and fails by panicking")]

mod checking;
mod clock;
#[path = "../../../finitor-files/benches/crowd/mod.rs"]
mod crowd;
mod fitting;
mod stages;
#[path = "../../tests/support/mod.rs"]
mod support;

fn main() {
    let wanted: Vec<String> = std::env::args().skip(1).filter(|word| !word.starts_with('-')).collect();
    let is_wanted = |part: &str| wanted.is_empty() || wanted.iter().any(|word| word == part);
    println!("| what | beside | times | ms |\n|---|---|---|---|");
    let parts: [(&str, fn()); 3] = [("fit", fitting::table), ("stage", stages::table), ("check", checking::table)];
    parts.into_iter().filter(|(part, _)| is_wanted(part)).for_each(|(_, table)| table());
}
