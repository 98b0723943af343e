//! A picture in the terminal: two pixels a character, the upper half in one colour, the lower one in another.

use crate::session::Session;
use anstyle::{RgbColor, Style};
use finitor_app::Failure;
use finitor_draw::{PagePixels, Scene, to_pixels};
use std::io::{IsTerminal, Write};

/// Columns where the terminal does not say how many it has.
const USUAL_COLUMNS: u16 = 80;

/// Shows a page as wide as the terminal, where that has colours.
pub(super) fn show(session: &Session<'_>, scene: &Scene, out: &mut dyn Write) -> Result<(), Failure> {
    let is_forced = anstream::ColorChoice::global() == anstream::ColorChoice::Always;
    let has_colours =
        std::io::stdout().is_terminal() && anstream::ColorChoice::global() != anstream::ColorChoice::Never;
    if !is_forced && !has_colours {
        session.note("no preview: it needs a terminal with colours; --color always writes it all the same");
        return Ok(());
    }
    let page = to_pixels(scene).map_err(|error| Failure::Usage(error.to_string()))?;
    let columns = terminal_size::terminal_size().map_or(USUAL_COLUMNS, |(width, _)| width.0).max(8);
    out.write_all(half_blocks(&page, u32::from(columns)).as_bytes())?;
    Ok(())
}

/// The page in a number of columns; a colour is written where it changes.
fn half_blocks(page: &PagePixels, columns: u32) -> String {
    let columns = columns.min(page.width);
    let side = f64::from(page.width) / f64::from(columns);
    let rows = (f64::from(page.height) / side / 2.0).ceil() as u32;
    let mut text = String::new();
    for row in 0..rows {
        let mut last = None;
        for column in 0..columns {
            let [upper, lower] = [2 * row, 2 * row + 1].map(|line| mean(page, [column, line], side));
            let style = Style::new().fg_color(Some(upper.into())).bg_color(Some(lower.into()));
            if last != Some(style) {
                text.push_str(&style.render().to_string());
                last = Some(style);
            }
            text.push('\u{2580}');
        }
        text.push_str("\u{1b}[0m\n");
    }
    text
}

/// The mean colour of a square of the page.
fn mean(page: &PagePixels, [column, line]: [u32; 2], side: f64) -> RgbColor {
    let range = |index: u32, most: u32| {
        let from = ((f64::from(index) * side) as u32).min(most - 1);
        from..((f64::from(index + 1) * side) as u32).clamp(from + 1, most)
    };
    let (mut sums, mut count) = ([0_u32; 3], 0);
    for y in range(line, page.height) {
        for x in range(column, page.width) {
            let at = (y * page.width + x) as usize * 3;
            sums.iter_mut().zip(&page.rgb[at..at + 3]).for_each(|(sum, part)| *sum += u32::from(*part));
            count += 1;
        }
    }
    let [r, g, b] = sums.map(|sum| (sum / count) as u8);
    RgbColor(r, g, b)
}

#[cfg(test)]
mod tests {
    use super::half_blocks;
    use finitor_draw::PagePixels;

    #[test]
    fn halves_have_the_colours_of_their_pixels() {
        let rgb = vec![255, 0, 0, 0, 255, 0, 0, 0, 255, 9, 9, 9];
        let text = half_blocks(&PagePixels { width: 2, height: 2, rgb }, 80);
        assert_eq!(text.matches('\u{2580}').count(), 2);
        assert!(text.contains("38;2;255;0;0") && text.contains("48;2;0;0;255"), "{text:?}");
        assert!(text.contains("38;2;0;255;0") && text.contains("48;2;9;9;9"), "{text:?}");
        // Four pixels that become one are mixed.
        let rgb = [[200, 0, 0], [0, 0, 0], [0, 0, 0], [0, 0, 0]].concat();
        let text = half_blocks(&PagePixels { width: 2, height: 2, rgb }, 1);
        assert!(text.contains("38;2;50;0;0"), "{text:?}");
    }
}
