//! Sheets in twelve layouts, and what their cells truly are.

use super::dice::Dice;
use super::figures::{Build, Frame, Motion, SORTS, draw};
use finitor_core::art::{Picture, PixelRect};

/// How a picture is laid out.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Layout {
    Strip,
    Rows,
    Spaced,
    Roomy,
    Gapped,
    Loose,
    Single,
    Padded,
    Lined,
    Boxed,
    Headed,
    Named,
}

impl Layout {
    pub const ALL: [Layout; 12] = [
        Layout::Strip,
        Layout::Rows,
        Layout::Spaced,
        Layout::Roomy,
        Layout::Gapped,
        Layout::Loose,
        Layout::Single,
        Layout::Padded,
        Layout::Lined,
        Layout::Boxed,
        Layout::Headed,
        Layout::Named,
    ];

    pub fn name(self) -> &'static str {
        match self {
            Layout::Strip => "one strip",
            Layout::Rows => "rows without gaps",
            Layout::Spaced => "rows with margin and gap",
            Layout::Roomy => "cells larger than the art",
            Layout::Gapped => "rows with a gap or a margin alone",
            Layout::Loose => "figures of several sizes, packed loosely",
            Layout::Single => "one frame alone",
            Layout::Padded => "rows on a canvas with sides of a power of two",
            Layout::Lined => "rows with lines drawn between",
            Layout::Boxed => "boxes drawn round cells, apart",
            Layout::Headed => "rows under a line of words",
            Layout::Named => "rows, a line of words above each",
        }
    }
}

/// A sheet, and the cells with art that it is made of.
pub struct Sheet {
    pub sort: &'static str,
    pub picture: Picture,
    pub cells: Vec<PixelRect>,
    /// Whether cells have a common size, so that figures keep their places in them.
    pub is_grid: bool,
    pub made: String,
}

/// A sheet of a layout.
pub fn sheet(dice: &mut Dice, layout: Layout, sort: usize) -> Sheet {
    match layout {
        Layout::Loose => loose(dice, sort),
        Layout::Headed | Layout::Named => {
            let below = grid(dice, layout, sort);
            headed(dice, layout, below)
        }
        _ => grid(dice, layout, sort),
    }
}

const MOTIONS: [Motion; 5] = [Motion::Walk, Motion::Idle, Motion::Jump, Motion::Strike, Motion::Fall];

fn grid(dice: &mut Dice, layout: Layout, sort: usize) -> Sheet {
    let side = [16, 20, 24, 32, 40, 48, 64][dice.below(7) as usize];
    let odd = dice.below(10) < 3;
    let cell = if odd { (dice.whole(14, 60), dice.whole(14, 60)) } else { (side, side) };
    let cell = (cell.0.max(cell.1 * 2 / 3), cell.1.max(cell.0 * 2 / 3));
    let (columns, rows) = match layout {
        Layout::Single => (1, 1),
        Layout::Strip => (dice.whole(3, 12), 1),
        Layout::Headed => (dice.whole(3, 8), dice.whole(1, 4)),
        Layout::Named => (dice.whole(3, 8), dice.whole(2, 4)),
        _ => (dice.whole(3, 10), dice.whole(2, 6)),
    };
    let share = match layout {
        Layout::Roomy => 0.25 + 0.3 * dice.between(0.0, 1.0),
        Layout::Single => 0.6 + 0.4 * dice.between(0.0, 1.0),
        _ => 0.7 + 0.28 * dice.between(0.0, 1.0),
    };
    let thick = if layout == Layout::Boxed { dice.whole(1, 3) } else { 0 };
    let (margin, gap) = match layout {
        Layout::Boxed => (thick + dice.whole(0, 4), 2 * thick + dice.whole(1, 8)),
        Layout::Spaced => (dice.whole(1, 8), dice.whole(1, 8)),
        Layout::Gapped if dice.below(2) == 0 => (dice.whole(1, 6), 0),
        Layout::Gapped => (0, dice.whole(1, 6)),
        Layout::Lined => {
            let thick = dice.whole(1, 2);
            (if dice.below(3) == 0 { 0 } else { thick }, thick)
        }
        Layout::Roomy if dice.below(10) < 3 => (dice.whole(0, 3), dice.whole(0, 3)),
        _ => (0, 0),
    };
    let size = (2 * margin + columns * cell.0 + (columns - 1) * gap, 2 * margin + rows * cell.1 + (rows - 1) * gap);
    let size = match layout {
        Layout::Padded => (size.0.next_power_of_two(), size.1.next_power_of_two()),
        _ => size,
    };
    let build = Build::new(dice, sort, cell, share);
    let mut canvas = vec![[0; 4]; (size.0 * size.1) as usize];
    let mut cells = Vec::new();
    if layout == Layout::Lined {
        let between = |at: u32, cell: u32| (at + gap - margin) % (cell + gap) < gap;
        let places = (0..size.1).flat_map(|y| (0..size.0).map(move |x| (x, y)));
        let drawn = places.zip(&mut canvas).filter(|((x, y), _)| between(*x, cell.0) || between(*y, cell.1));
        drawn.for_each(|(_, pixel)| *pixel = [230, 40, 200, 255]);
    }
    for row in 0..rows {
        let motion = MOTIONS[row as usize % 5];
        let used = if rows > 1 && dice.below(2) == 0 { dice.whole(2, columns) } else { columns };
        for column in 0..used {
            let t = f64::from(column) / f64::from(used);
            let frame =
                draw(&build, if layout == Layout::Single { MOTIONS[dice.below(5) as usize] } else { motion }, t, dice);
            let at = (margin + column * (cell.0 + gap), margin + row * (cell.1 + gap));
            if layout == Layout::Boxed {
                let outer = |at: u32, cell: u32| at - thick..at + cell + thick;
                let is_line =
                    |x: u32, y: u32| !(at.0..at.0 + cell.0).contains(&x) || !(at.1..at.1 + cell.1).contains(&y);
                let places = outer(at.1, cell.1).flat_map(|y| outer(at.0, cell.0).map(move |x| (x, y)));
                let lines = places.filter(|(x, y)| is_line(*x, *y));
                lines.for_each(|(x, y)| canvas[(y * size.0 + x) as usize] = [40, 160, 255, 255]);
            }
            if put(&mut canvas, size.0, &frame, at) {
                cells.push(PixelRect { x: at.0, y: at.1, width: cell.0, height: cell.1 });
            }
        }
    }
    let made = format!("{columns} x {rows} cells of {cell:?}, margin {margin}, gap {gap}, art {share:.2}");
    let picture = Picture::new(size.0, size.1, canvas).unwrap();
    Sheet { sort: SORTS[sort], picture, cells, is_grid: true, made }
}

/// A sheet with a line of words above, or above each row.
fn headed(dice: &mut Dice, layout: Layout, below: Sheet) -> Sheet {
    let (wide, high) = (below.picture.width(), below.picture.height());
    let (above, letter, under) = (dice.whole(1, 6), dice.whole(5, 9), dice.whole(2, 6));
    let under = if layout == Layout::Named { under.min(16 - above - letter) } else { under };
    let (band, pitch) = (above + letter + under, letter / 2 + 3);
    // How high what follows each line is.
    let part = if layout == Layout::Named { below.cells[0].height } else { high };
    let mut pixels = Vec::new();
    for rows in below.picture.pixels().chunks((wide * part) as usize) {
        let letters = dice.whole(8, 20).min((wide - 3) / pitch);
        let ink: Vec<bool> = (0..letters * letter * (pitch - 1)).map(|_| dice.below(10) < 6).collect();
        let is_ink = |x: u32, y: u32| {
            let (Some(x), Some(y)) = (x.checked_sub(2), y.checked_sub(above)) else { return false };
            let (of, x) = (x / pitch, x % pitch);
            // A blank after every sixth.
            let is_in = of < letters && of % 7 != 6 && x < pitch - 1 && y < letter;
            is_in && ink[((of * letter + y) * (pitch - 1) + x) as usize]
        };
        let words = (0..band).flat_map(|y| (0..wide).map(move |x| (x, y)));
        pixels.extend(words.map(|(x, y)| if is_ink(x, y) { [255; 4] } else { [0; 4] }));
        pixels.extend_from_slice(rows);
    }
    let lines = high / part;
    let moved = |cell: &PixelRect| PixelRect { y: cell.y + band * (cell.y / part + 1), ..*cell };
    let made = format!("{}, {lines} lines of words {letter} px high, in {band} px", below.made);
    let cells = below.cells.iter().map(moved).collect();
    Sheet { picture: Picture::new(wide, high + band * lines, pixels).unwrap(), cells, made, ..below }
}

/// Whether anything was put there.
fn put(canvas: &mut [[u8; 4]], width: u32, frame: &Frame, at: (u32, u32)) -> bool {
    for y in 0..frame.size.1 {
        for x in 0..frame.size.0 {
            let alpha = frame.at(x, y);
            if alpha > 0 {
                canvas[((at.1 + y) * width + at.0 + x) as usize] = [90, (30 + 3 * y % 200) as u8, 120, alpha];
            }
        }
    }
    !frame.is_empty()
}

/// The smallest rectangle around a frame's art.
fn trimmed(frame: &Frame) -> Frame {
    let inside = |x: u32, y: u32| frame.at(x, y) > 0;
    let (width, height) = frame.size;
    let columns: Vec<u32> = (0..width).filter(|x| (0..height).any(|y| inside(*x, y))).collect();
    let rows: Vec<u32> = (0..height).filter(|y| (0..width).any(|x| inside(x, *y))).collect();
    let (x0, x1, y0, y1) = (columns[0], columns[columns.len() - 1], rows[0], rows[rows.len() - 1]);
    let alpha = (y0..=y1).flat_map(|y| (x0..=x1).map(move |x| (x, y))).map(|(x, y)| frame.at(x, y)).collect();
    Frame { size: (x1 - x0 + 1, y1 - y0 + 1), alpha }
}

/// Frames cut to their art, side by side with a few px between, row under row.
fn loose(dice: &mut Dice, sort: usize) -> Sheet {
    let side = dice.whole(20, 48);
    let (build, space) = (Build::new(dice, sort, (side, side), 0.9), side / 3 + dice.whole(2, 5));
    let (mut frames, mut at, mut high, mut wide) = (Vec::new(), (space, space), 0, 0);
    for row in 0..dice.whole(1, 3) {
        for column in 0..dice.whole(3, 7) {
            let frame = trimmed(&draw(&build, MOTIONS[row as usize], f64::from(column) / 7.0, dice));
            let size = frame.size;
            frames.push((at, frame));
            at.0 += size.0 + space + dice.whole(0, 3);
            high = size.1.max(high);
            wide = at.0.max(wide);
        }
        at = (space, at.1 + high + space + dice.whole(0, 3));
        high = 0;
    }
    let size = (wide, at.1);
    let mut canvas = vec![[0; 4]; (size.0 * size.1) as usize];
    let mut cells = Vec::new();
    for (at, frame) in &frames {
        put(&mut canvas, size.0, frame, *at);
        cells.push(PixelRect { x: at.0, y: at.1, width: frame.size.0, height: frame.size.1 });
    }
    let made = format!("{} pieces, {space} px apart", frames.len());
    let picture = Picture::new(size.0, size.1, canvas).unwrap();
    Sheet { sort: SORTS[sort], picture, cells, is_grid: false, made }
}
