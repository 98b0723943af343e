//! Values of options, as typed.

use finitor_core::finding::Span;

/// A cell's width and height: `48x48`.
pub(super) fn cell_size(text: &str) -> Result<(u32, u32), String> {
    let parsed = text.split_once(['x', 'X', ',']).and_then(|(w, h)| {
        let side = |text: &str| text.trim().parse::<u32>().ok().filter(|side| (1..=16_384).contains(side));
        side(w).zip(side(h))
    });
    parsed.ok_or_else(|| "write width x height in px, such as 48x48".to_string())
}

/// One number of px for both ways, or one across and one down: `3`, `3,5`.
pub(super) fn both_ways(text: &str) -> Result<(u32, u32), String> {
    let (across, down) = text.split_once(',').unwrap_or((text, text));
    let px = |text: &str| text.trim().parse::<u32>().ok().filter(|px| *px < 4096);
    px(across)
        .zip(px(down))
        .ok_or_else(|| "write whole px from 0 to 4095, such as 3, or 3,5 across and down".to_string())
}

/// Free room around the cells of a sheet.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Margin {
    /// Left and top.
    pub(crate) before: (u32, u32),
    /// Right and bottom.
    pub(crate) after: (u32, u32),
}

/// One number of px for all sides, or one for the left and one for the top: as files write it.
pub(super) fn margin(text: &str) -> Result<Margin, String> {
    let before = both_ways(text)?;
    Ok(Margin { before, after: if text.contains(',') { (0, 0) } else { before } })
}

/// An old and a new name: `walk=stroll`.
pub(super) fn rename(text: &str) -> Result<(String, String), String> {
    match text.split_once('=') {
        Some((old, new)) if !old.is_empty() && !new.is_empty() && old != new => Ok((old.into(), new.into())),
        _ => Err("write OLD=NEW, such as walk=stroll".to_string()),
    }
}

/// A length: a finite number that is not below 0.
pub(super) fn px(text: &str) -> Result<f64, String> {
    let length = text.parse::<f64>().ok().filter(|length| length.is_finite() && *length >= 0.0);
    length.ok_or_else(|| "a length in px is a number from 0 on, such as 16".to_string())
}

/// `100-250`, or one tick.
pub(super) fn tick_range(text: &str) -> Result<Span, String> {
    let (first, last) = text.split_once('-').unwrap_or((text, text));
    match (first.trim().parse(), last.trim().parse()) {
        (Ok(first), Ok(last)) if first <= last => Ok(Span { first, last }),
        _ => Err("write FIRST-LAST, such as 100-250".to_string()),
    }
}

/// A way up or down.
pub(super) fn signed_px(text: &str) -> Result<f64, String> {
    const MOST: f64 = 1e6;
    let way = text.parse::<f64>().ok().filter(|way| way.abs() <= MOST);
    way.ok_or_else(|| "a number of px from -1000000 to 1000000, such as 16 or -16".to_string())
}

/// Pixels per length unit.
pub(super) fn unit(text: &str) -> Result<f64, String> {
    let unit = text.parse::<f64>().ok().filter(|unit| unit.is_finite() && *unit > 0.0);
    unit.ok_or_else(|| "a number of px above 0, such as 16".to_string())
}
