//! The page of `finitor report` in a real browser: how large it is, how soon it is there, and how long a frame takes while one scrubs.
#![allow(clippy::unwrap_used, clippy::print_stdout, missing_docs, reason = "a bench prints, and fails by panicking")]

#[path = "../tests/browser/driver.rs"]
#[allow(dead_code, unreachable_pub, reason = "the tests use the rest")]
mod driver;
#[path = "../tests/support/mod.rs"]
mod support;

use driver::{Browser, USUAL};
use std::collections::BTreeMap;
use std::fmt::Write;
use support::Project;

/// Instances on every tick.
const ACTORS: usize = 8;

fn main() {
    let project = Project::fitted();
    let clean = project.read("takes/clean.csv");
    let browser = Browser::start(USUAL);
    for ticks in [1_250, 10_000, 100_000] {
        project.write("takes/long.csv", longer(&clean, ticks));
        project.ok(&["report", "takes/long.csv", "-o", "page.html"]);
        let page = project.read("page.html");
        let art = project.read("page.html").matches("data:image/png;base64,").count();
        let pictures: usize =
            page.split("data:image/png;base64,").skip(1).map(|rest| rest.find('"').unwrap_or(0)).sum();
        let per = (page.len() - pictures) as f64 / (ticks * ACTORS) as f64 * 10_000.0 / 1e6;
        println!(
            "{ticks} ticks of {ACTORS} actors: {} kB, of it {} kB of art on {art} sheets; {per:.3} MB per 10,000 actor-ticks beyond the art",
            page.len() / 1000,
            pictures / 1000
        );
        browser.open_file(&project.path("page.html"), "");
        browser.until("window.finitor !== undefined && document.readyState === 'complete'");
        let opened = browser.run("return performance.getEntriesByType('navigation')[0].loadEventEnd");
        let frames = browser.wait_for(SCRUB);
        println!(
            "  open after {opened:.0} ms; scrubbed over 300 frames: median {} ms to draw, {} ms from frame to frame",
            frames[0], frames[1]
        );
    }
}

/// The sample's clean play over and over, each of its actors in several instances.
fn longer(clean: &str, ticks: usize) -> String {
    let mut lines = clean.lines();
    let mut text = format!("{}\n", lines.next().unwrap());
    let mut by_tick: BTreeMap<u64, Vec<(&str, &str)>> = BTreeMap::new();
    for line in lines {
        let mut parts = line.splitn(3, ',');
        let tick = parts.next().unwrap().parse().unwrap();
        by_tick.entry(tick).or_default().push((parts.next().unwrap(), parts.next().unwrap()));
    }
    let play: Vec<_> = by_tick.into_values().collect();
    for tick in 0..ticks {
        let rows = &play[tick % play.len()];
        for instance in 0..ACTORS {
            let (actor, rest) = rows[instance % rows.len()];
            let _ = writeln!(text, "{tick},{actor}:{instance},{rest}");
        }
    }
    text
}

/// Goes to places all over the take, one a frame.
const SCRUB: &str = r"
const { view, drawn, goTo } = window.finitor;
const gaps = [];
let last = performance.now();
let count = 0;
drawn.times.length = 0;
const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];
const next = (now) => {
  gaps.push(now - last);
  last = now;
  count += 1;
  if (count > 300) return done([median(drawn.times), median(gaps)]);
  goTo((count * 7919) % view.take.length);
  requestAnimationFrame(next);
};
requestAnimationFrame(next);
";
