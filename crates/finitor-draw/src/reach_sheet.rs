//! At which distances attacks strike, as bands along an axis.

use crate::page::{EDGE, HEAD, INNER_WIDTH, headed, page};
use crate::palette::{CELL, CELL_OTHER, FAULT, GROUND_LINE, INK, Look, QUIET_INK, RoleLook};
use crate::scene::{Align, Item, LETTER, Scene};
use finitor_core::{Point, Rect};

/// Distances at which a part is struck.
#[derive(Clone, Debug)]
pub struct ReachBand {
    /// The line it is drawn on: its frame.
    pub line: String,
    /// The part.
    pub part: String,
    /// From, px.
    pub from: f64,
    /// To, px.
    pub to: f64,
}

/// An attack.
#[derive(Clone, Debug)]
pub struct ReachRow {
    /// Its name.
    pub title: String,
    /// Under the name.
    pub words: String,
    /// Its bands, those of a line one after another.
    pub bands: Vec<ReachBand>,
    /// The distance at which the bodies are apart.
    pub apart: Option<f64>,
    /// Where nothing is struck, from and to, px.
    pub gaps: Vec<[f64; 2]>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct ReachSheet {
    /// Over the page.
    pub title: String,
    /// Under the title.
    pub words: String,
    /// The parts, in the order of the legend.
    pub parts: Vec<String>,
    /// The attacks.
    pub rows: Vec<ReachRow>,
}

const SIZE: f64 = 13.0;
const BAND: f64 = 14.0;
const NAMES: f64 = 250.0;

/// How parts look, by turns: by hue and by pattern.
const LOOKS: [Look; 6] = [
    Look::Role(RoleLook::Hurt),
    Look::Role(RoleLook::Body),
    Look::Role(RoleLook::Hit),
    Look::OneWay,
    Look::Zone,
    Look::Solid,
];

/// From distances to the page.
#[derive(Clone, Copy)]
struct Axis {
    from: f64,
    to: f64,
    left: f64,
    width: f64,
}

impl Axis {
    /// An axis that has all that is drawn.
    fn new(sheet: &ReachSheet) -> Axis {
        let bands = sheet.rows.iter().flat_map(|row| &row.bands).flat_map(|band| [band.from, band.to]);
        let apart = sheet.rows.iter().filter_map(|row| row.apart);
        let (mut from, mut to) = (0.0_f64, 1.0_f64);
        for at in bands.chain(apart) {
            (from, to) = (from.min(at), to.max(at));
        }
        let step = step(to - from);
        let (from, to) = ((from / step).floor() * step, (to / step).ceil() * step);
        Axis { from, to, left: EDGE + NAMES, width: INNER_WIDTH - NAMES - 12.0 }
    }

    fn x(self, distance: f64) -> f64 {
        self.left + self.width * (distance - self.from) / (self.to - self.from)
    }

    /// Where numbers are written.
    fn marks(self) -> impl Iterator<Item = f64> {
        let step = step(self.to - self.from);
        let count = ((self.to - self.from) / step).round() as u32;
        (0..=count).map(move |index| self.from + step * f64::from(index))
    }
}

/// A round number, of which some ten make a way.
fn step(way: f64) -> f64 {
    const MARKS: f64 = 12.0;
    let rough = (way / MARKS).max(1.0);
    let ten = 10.0_f64.powf(rough.log10().floor());
    let round = [1.0, 2.0, 5.0, 10.0].map(|by| by * ten);
    round.into_iter().find(|step| *step >= rough).unwrap_or(rough)
}

/// The page: distance across, attacks down, a line a frame, a band a part. The bodies' nearest distance is an upright line, and
/// what is not struck beyond it is marked below.
pub fn reach_sheet(sheet: &ReachSheet) -> Scene {
    let axis = Axis::new(sheet);
    let mut panel = headed(&sheet.title, &sheet.words);
    let look = |part: &str| LOOKS[sheet.parts.iter().position(|known| known == part).unwrap_or(0) % LOOKS.len()];
    let over = &mut panel.over;
    over.extend(legend(sheet, look));
    let top = HEAD + 44.0;
    let mut y = top;
    let mut rows = Vec::new();
    for (index, row) in sheet.rows.iter().enumerate() {
        let height = row_height(sheet, row);
        let back = Rect::new(EDGE, y, EDGE + INNER_WIDTH, y + height);
        over.push(Item::Fill { rect: back, colour: if index % 2 == 0 { CELL } else { CELL_OTHER } });
        rows.extend(row_items(sheet, row, Place { axis, y, height }, look));
        y += height + 6.0;
    }
    for at in axis.marks() {
        let x = axis.x(at);
        let (from, to) = (Point::new(x, top), Point::new(x, y));
        let (width, dash) = if at == 0.0 { (1.6, None) } else { (0.6, Some((2.0, 4.0))) };
        over.push(Item::Line { from, to, colour: GROUND_LINE, width, dash });
        over.push(Item::text(Point::new(x, y + 16.0), SIZE, Align::Middle, INK, format!("{at}")));
    }
    over.extend(rows);
    over.push(Item::text(
        Point::new(axis.left + axis.width / 2.0, y + 36.0),
        SIZE,
        Align::Middle,
        QUIET_INK,
        "px from pivot to pivot",
    ));
    page(panel, 0.0, y + 52.0)
}

/// Where a row lies.
#[derive(Clone, Copy)]
struct Place {
    axis: Axis,
    y: f64,
    height: f64,
}

/// The lines of a row, in their order.
fn lines(row: &ReachRow) -> Vec<&str> {
    let mut lines: Vec<&str> = row.bands.iter().map(|band| band.line.as_str()).collect();
    lines.dedup();
    lines
}

fn row_height(sheet: &ReachSheet, row: &ReachRow) -> f64 {
    let parts = sheet.parts.len().max(1) as f64;
    let lines = lines(row).len() as f64;
    (lines * (parts * BAND + 8.0) + 26.0).max(56.0)
}

fn row_items(sheet: &ReachSheet, row: &ReachRow, place: Place, look: impl Fn(&str) -> Look) -> Vec<Item> {
    let Place { axis, y, height } = place;
    let mut items = vec![
        Item::text(Point::new(EDGE + 10.0, y + 20.0), 14.0, Align::Start, INK, row.title.as_str()),
        Item::text(Point::new(EDGE + 10.0, y + 38.0), SIZE, Align::Start, INK, row.words.as_str()),
    ];
    let mut top = y + 6.0;
    for line in lines(row) {
        for (number, part) in sheet.parts.iter().enumerate() {
            let at = top + number as f64 * BAND;
            for band in row.bands.iter().filter(|band| band.line == line && band.part == *part) {
                let (left, right) = (axis.x(band.from), axis.x(band.to));
                let (above, below) = (at + 1.0, at + BAND - 1.0);
                let corners = [(left, above), (right, above), (right, below), (left, below)];
                items.push(Item::Ring { points: corners.map(Point::from).to_vec(), look: look(part) });
            }
        }
        let middle = top + sheet.parts.len() as f64 * BAND / 2.0 + 4.0;
        items.push(Item::text(Point::new(axis.left - 10.0, middle), SIZE, Align::End, INK, line));
        top += sheet.parts.len() as f64 * BAND + 8.0;
    }
    let below = y + height - 7.0;
    if row.bands.is_empty() {
        items.push(Item::text(Point::new(axis.left + 8.0, y + 24.0), SIZE, Align::Start, INK, "strikes nothing"));
    }
    for [from, to] in &row.gaps {
        let (from, to) = (axis.x(*from), axis.x(*to));
        let line = |width| Item::Line {
            from: Point::new(from, below - 4.0),
            to: Point::new(to, below - 4.0),
            colour: FAULT,
            width,
            dash: None,
        };
        items.push(line(3.0));
        items.push(Item::text(Point::new(to + 6.0, below), SIZE, Align::Start, FAULT, "gap"));
    }
    if let Some(apart) = row.apart {
        let x = axis.x(apart);
        let (from, to) = (Point::new(x, y), Point::new(x, y + height));
        items.push(Item::Line { from, to, colour: INK, width: 2.0, dash: Some((6.0, 3.0)) });
    }
    items
}

/// The parts with their looks, and what the lines mean.
fn legend(sheet: &ReachSheet, look: impl Fn(&str) -> Look) -> Vec<Item> {
    let y = HEAD + 4.0;
    let looks: Vec<(Look, String)> = sheet.parts.iter().map(|part| (look(part), part.clone())).collect();
    let mut items = crate::legend::legend(Point::new(EDGE, y), &looks, crate::legend::Extra::None);
    let names: f64 = sheet.parts.iter().map(|part| 44.0 + part.chars().count() as f64 * SIZE * LETTER).sum();
    let x = EDGE + names + 8.0;
    let (from, to) = (Point::new(x, y), Point::new(x, y + 18.0));
    items.push(Item::Line { from, to, colour: INK, width: 2.0, dash: Some((6.0, 3.0)) });
    let words = "the bodies are apart from here on; red: nothing is struck";
    items.push(Item::text(Point::new(x + 10.0, y + 13.0), SIZE, Align::Start, INK, words));
    items
}
