//! Sheets of twelve sorts of figures in eleven layouts, and single frames: what is seen against what was drawn.
//!
//! The table of docs/art.md: `FINITOR_SHEETS=600 cargo test --release -p finitor-core --test sheets -- --nocapture`;
//! `FINITOR_SEED` draws others.
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    unreachable_pub,
    reason = "a test fails by panicking, and prints its table"
)]

#[path = "../dice/mod.rs"]
mod dice;
mod figures;
mod layouts;

use dice::Dice;
use figures::SORTS;
use finitor_core::art::{LookWishes, PixelRect, SheetLook, look};
use layouts::{Layout, Sheet, sheet};

/// What became of a sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Verdict {
    Right,
    Unsure,
    Wrong,
}

/// Each true cell in a cell of its own, all at the same place in it, and nothing besides.
fn is_right(sheet: &Sheet, cells: &[PixelRect]) -> bool {
    if cells.len() != sheet.cells.len() {
        return false;
    }
    let art = sheet.picture.opaque(1);
    let mut shift = None;
    for cell in &sheet.cells {
        let pixels = (cell.y..cell.y + cell.height)
            .flat_map(|y| (cell.x..cell.x + cell.width).map(move |x| (x, y)))
            .filter(|(x, y)| art.get((*x).into(), (*y).into()));
        let holds = |of: &PixelRect, (x, y): (u32, u32)| {
            (of.x..of.x + of.width).contains(&x) && (of.y..of.y + of.height).contains(&y)
        };
        let pixels: Vec<(u32, u32)> = pixels.collect();
        let Some(seen) = cells.iter().find(|of| holds(of, pixels[0])) else { return false };
        let by = (i64::from(seen.x) - i64::from(cell.x), i64::from(seen.y) - i64::from(cell.y));
        let is_shifted = sheet.is_grid && sheet.cells.len() > 1 && *shift.get_or_insert(by) != by;
        if is_shifted || !pixels.iter().all(|at| holds(seen, *at)) {
            return false;
        }
    }
    true
}

fn verdict(sheet: &Sheet, seen: &SheetLook) -> Verdict {
    let used: Vec<PixelRect> = seen.cells.iter().filter(|cell| !cell.is_empty()).map(|cell| cell.rect).collect();
    match (is_right(sheet, &used), seen.is_unsure() || !seen.words.is_empty()) {
        (true, _) => Verdict::Right,
        (false, true) => Verdict::Unsure,
        (false, false) => Verdict::Wrong,
    }
}

#[test]
fn what_pictures_show_is_what_was_drawn_or_they_say_that_it_is_not_sure() {
    let number = |key: &str| std::env::var(key).ok().and_then(|text| text.parse::<u64>().ok());
    let (each, series) = (number("FINITOR_SHEETS").unwrap_or(60), number("FINITOR_SEED").unwrap_or(0));
    println!("| layout | right | of these unsure | unsure and wrong | wrong |");
    let mut worst = Vec::new();
    for (index, layout) in Layout::ALL.into_iter().enumerate() {
        let (mut right, mut hedged, mut unsure, mut wrong) = (0, 0, 0, 0);
        for round in 0..each {
            let mut dice = Dice::new(series * 1_000_003 + index as u64 * 10_007 + round);
            let sheet = sheet(&mut dice, layout, (round % SORTS.len() as u64) as usize);
            let seen = look(&sheet.picture, &LookWishes::default());
            let verdict = verdict(&sheet, &seen);
            match verdict {
                Verdict::Right => right += 1,
                Verdict::Unsure => unsure += 1,
                Verdict::Wrong => wrong += 1,
            }
            hedged += u32::from(verdict == Verdict::Right && seen.is_unsure());
            if verdict != Verdict::Right && std::env::var("FINITOR_SHOW").is_ok() {
                let size = (sheet.picture.width(), sheet.picture.height());
                println!(
                    "{layout:?} {round}: {verdict:?} {} {size:?} {}, seen {:?}",
                    sheet.sort, sheet.made, seen.cutting
                );
            }
        }
        println!("| {} | {right} | {hedged} | {unsure} | {wrong} |", layout.name());
        worst.push((layout, right, wrong));
    }
    for (layout, right, wrong) in worst {
        // At most 1 in 200 silently wrong, and 59 of 60 right; words as high as the figures are taken for such.
        let most = if layout == Layout::Named { each / 20 } else { each / 200 };
        assert!(wrong <= most.max(1), "{layout:?}: {wrong} of {each} wrong without a word");
        let least = match layout {
            Layout::Headed => 52,
            Layout::Named => 40,
            Layout::Loose | Layout::Padded => 55,
            _ => 58,
        };
        assert!(right * 60 >= each * least, "{layout:?}: {right} of {each} right");
    }
}
