//! Numbers and directions as words.

use crate::geometry::{Point, Vec2};

/// A length: two decimals, no minus before zero.
pub(super) fn px(length: f64) -> String {
    let rounded = (length * 100.0).round() / 100.0;
    format!("{:.2}", rounded + 0.0)
}

/// A place.
pub(super) fn place(at: Point) -> String {
    format!("({}, {})", px(at.x), px(at.y))
}

/// The direction as one word when it runs along an axis.
pub(super) fn way(push: Vec2) -> Option<&'static str> {
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
pub(super) fn shift(push: Vec2, depth: f64) -> String {
    match way(push) {
        Some(word) => format!("{} px {word}", px(depth)),
        None => {
            let across = if push.x > 0.0 { "right" } else { "left" };
            let upright = if push.y > 0.0 { "down" } else { "up" };
            let (x, y) = (px((push.x * depth).abs()), px((push.y * depth).abs()));
            format!("{} px aslant ({x} {across}, {y} {upright})", px(depth))
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
