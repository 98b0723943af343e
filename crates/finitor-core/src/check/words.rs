//! Numbers and directions as words.

use crate::geometry::Vec2;

/// A length without its unit: two decimals, no minus before zero.
pub(super) fn number(length: f64) -> String {
    let rounded = (length * 100.0).round() / 100.0;
    format!("{:.2}", rounded + 0.0)
}

/// A length: `3.40 px`.
pub(super) fn px(length: f64) -> String {
    format!("{} px", number(length))
}

/// A number of ticks: `1 tick`, `3 ticks`.
pub(super) fn ticks(count: u64) -> String {
    if count == 1 { "1 tick".to_string() } else { format!("{count} ticks") }
}

/// How many instances are as the one that is named: `, one more instance too`, `, those of 2 more instances too`; nothing where none is.
pub(super) fn and_more_instances(of: &str, count: usize) -> String {
    match count {
        0 => String::new(),
        1 => format!(", {of}one more instance too"),
        more => format!(", {of}{more} more instances too"),
    }
}

/// The direction as one word when it runs along an axis.
pub(super) fn direction(push: Vec2) -> Option<&'static str> {
    const ALONG: f64 = 1.0 - 1e-9;
    if push.x >= ALONG {
        Some("right")
    } else if push.x <= -ALONG {
        Some("left")
    } else if push.y >= ALONG {
        Some("down")
    } else if push.y <= -ALONG {
        Some("up")
    } else {
        None
    }
}

/// A translation: `3.40 px left`, or by its two parts.
pub(super) fn shift(push: Vec2, length: f64) -> String {
    match direction(push) {
        Some(word) => format!("{} {word}", px(length)),
        None => {
            let across = if push.x > 0.0 { "right" } else { "left" };
            let upright = if push.y > 0.0 { "down" } else { "up" };
            let (x, y) = (px((push.x * length).abs()), px((push.y * length).abs()));
            format!("{x} {across} and {y} {upright}")
        }
    }
}

/// The edge of a body that lies deepest when `push` is the way out: the one on the far side.
pub(super) fn edge_against(push: Vec2) -> &'static str {
    if push.x.abs() >= push.y.abs() {
        if push.x > 0.0 { "left" } else { "right" }
    } else if push.y > 0.0 {
        "top"
    } else {
        "bottom"
    }
}
