//! Pages in a real browser: what they show equals what `check` says, every control does what it says, and names stay text.
#![allow(
    clippy::unwrap_used,
    dead_code,
    unreachable_pub,
    reason = "a test fails by panicking; parts are for the bench too"
)]

mod driver;
mod report;
#[path = "../support/mod.rs"]
mod support;
mod watch;
