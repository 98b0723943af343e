//! Rectangles: the tight one, the greatest inside, and the one that agrees best.

mod line;

use super::quality::pixel_bounds;
use super::sides::Span;
use super::{FitError, FitGoal, Sides};
use crate::art::{Mask, SummedArea};
use crate::geometry::Rect;
use line::Line;
use std::ops::Range;

/// The rectangle for a selection, which is not empty. What is fixed stays.
pub(super) fn fit(selection: &Mask, sides: Sides, goal: FitGoal) -> Result<Rect, FitError> {
    match goal {
        FitGoal::Cover => covering(pixel_bounds(selection), sides),
        FitGoal::Inside => inside(selection, sides).ok_or(FitError::NoRoomInside),
        FitGoal::Balance => {
            let start = start(selection, sides).ok_or(FitError::SidesCross)?;
            Ok(best(selection, sides, start))
        }
    }
}

/// A rectangle whose IoU comes near that of the best one, to start a search from; `None` when fixed sides cross.
pub(super) fn near_best(selection: &Mask, sides: Sides) -> Option<Rect> {
    let start = start(selection, sides)?;
    let bounds = pixel_bounds(selection);
    let step = bounds.width().max(bounds.height()) / EXACT;
    let lines = |from: f64, to: f64| every(&lattice(from, to), START.max(step.ceil() as usize));
    let (columns, rows) = (lines(bounds.x0, bounds.x1), lines(bounds.y0, bounds.y1));
    Some(best_of(selection, sides, start, &Sums::new(selection), (&columns, &rows)))
}

/// The tight box with what is fixed of it; `None` when fixed sides cross.
fn start(selection: &Mask, sides: Sides) -> Option<Rect> {
    let start = sides.kept(pixel_bounds(selection));
    (start.width() > 0.0 && start.height() > 0.0).then_some(start)
}

/// The tight box as far as sides and sizes are free. Sides given by hand may cut pixels off; sizes may not.
fn covering(bounds: Rect, sides: Sides) -> Result<Rect, FitError> {
    let rect = sides.kept(bounds);
    for (given, needed) in [(sides.width, bounds.width()), (sides.height, bounds.height())] {
        if let Some(given) = given.filter(|given| *given < needed && !sides.has_side()) {
            return Err(FitError::TooSmall { given, needed });
        }
    }
    if rect.width() > 0.0 && rect.height() > 0.0 { Ok(rect) } else { Err(FitError::SidesCross) }
}

/// The greatest rectangle of set pixels.
///
/// # Complexity
/// O(pixels of the bounding box); with sides or sizes given O(h2 w).
///
/// # Source
/// Rectangles under a histogram, row by row, with a stack: folklore; first printed by Jayadev Misra, "A programming
/// exercise: the largest rectangle", Science of Computer Programming (1986).
fn inside(selection: &Mask, sides: Sides) -> Option<Rect> {
    if sides.has_side() || sides.has_size() || sides.axis.is_some() {
        return inside_given(selection, sides);
    }
    let bounds = selection.bounds()?;
    let mut heights = vec![0_u32; bounds.width as usize + 1];
    let mut best: Option<(u64, Rect)> = None;
    let mut open: Vec<(u32, u32)> = Vec::new();
    for y in bounds.y..bounds.y + bounds.height {
        for (x, height) in heights.iter_mut().take(bounds.width as usize).enumerate() {
            *height = if selection.get(i64::from(bounds.x) + x as i64, y.into()) { *height + 1 } else { 0 };
        }
        open.clear();
        for (x, &height) in heights.iter().enumerate() {
            let mut start = x as u32;
            while let Some(&(from, tall)) = open.last().filter(|(_, tall)| *tall >= height) {
                let area = u64::from(x as u32 - from) * u64::from(tall);
                if tall > 0 && best.is_none_or(|(most, _)| area > most) {
                    let (left, bottom) = (f64::from(bounds.x + from), f64::from(y) + 1.0);
                    let right = f64::from(bounds.x) + x as f64;
                    best = Some((area, Rect::new(left, bottom - f64::from(tall), right, bottom)));
                }
                start = from;
                open.pop();
            }
            open.push((start, height));
        }
    }
    best.map(|(_, rect)| rect)
}

/// The greatest rectangle of set pixels among those that keep to what is fixed, trying all pairs of rows.
fn inside_given(selection: &Mask, sides: Sides) -> Option<Rect> {
    const FULL: f64 = 1e-9;
    let sums = Sums::new(selection);
    let bounds = pixel_bounds(selection);
    let (columns, rows) = (lattice(bounds.x0, bounds.x1), lattice(bounds.y0, bounds.y1));
    let pairs = |span: Span, lattice: &[f64]| span.tied(lattice).unwrap_or_else(|| all_pairs(span, lattice));
    let across = pairs(sides.across(), &columns);
    let mut best: Option<(f64, Rect)> = None;
    for (top, bottom) in pairs(sides.down(), &rows) {
        for &(left, right) in &across {
            let rect = Rect::new(left, top, right, bottom);
            let more = best.is_none_or(|(most, _)| rect.area() > most + FULL);
            if more && bounds.contains_rect(rect) && rect.area() - sums.inside(rect) <= FULL {
                best = Some((rect.area(), rect));
            }
        }
    }
    best.map(|(_, rect)| rect)
}

fn every(lines: &[f64], step: usize) -> Vec<f64> {
    lines.iter().copied().step_by(step).collect()
}

fn lattice(from: f64, to: f64) -> Vec<f64> {
    (from as u32..=to as u32).map(f64::from).collect()
}

/// All pairs of lattice places, one of them held where a side is fixed.
fn all_pairs(span: Span, lattice: &[f64]) -> Vec<(f64, f64)> {
    let ends = |fixed: Option<f64>| fixed.map_or_else(|| lattice.to_vec(), |side| vec![side]);
    let (lows, highs) = (ends(span.low), ends(span.high));
    lows.iter().flat_map(|&low| highs.iter().filter(move |&&high| high > low).map(move |&high| (low, high))).collect()
}

/// The rectangle with the highest IoU of all whose sides not given lie anywhere.
///
/// Between two lattice lines both the shared area and the union are linear in a side's place, so their ratio is
/// monotone there and the optimum has its free sides on the lattice. The ratio is maximised by a series of
/// parametric problems "shared - ratio * union", each solved exactly over all pairs of rows.
///
/// # Complexity
/// O(h2 w) a round at worst, h and w rows and columns of the bounding box; a handful of rounds. Pairs of rows that hold
/// too few pixels, or whose rows by themselves, each with the columns best for it, gain too little, are passed over, which as a rule
/// is nearly all.
///
/// # Source
/// Werner Dinkelbach, "On nonlinear fractional programming", Management Science 13 (1967); the scan over pairs of
/// rows: Jon Bentley, "Programming pearls: algorithm design techniques", Communications of the ACM 27 (1984).
///
/// Over bounding boxes of more than [`EXACT`] px a side the search goes first over every k-th line and then, exactly, over the
/// lines within k of what it found.
fn best(selection: &Mask, sides: Sides, tight: Rect) -> Rect {
    let sums = Sums::new(selection);
    let bounds = pixel_bounds(selection);
    let coarse = (bounds.width().max(bounds.height()) / EXACT).ceil().max(1.0);
    let (columns, rows) = (lattice(bounds.x0, bounds.x1), lattice(bounds.y0, bounds.y1));
    if coarse == 1.0 {
        // The better the start, the fewer pairs of rows can gain more.
        let near = best_of(selection, sides, tight, &sums, (&every(&columns, START), &every(&rows, START)));
        return best_of(selection, sides, near, &sums, (&columns, &rows));
    }
    let found =
        best_of(selection, sides, tight, &sums, (&every(&columns, coarse as usize), &every(&rows, coarse as usize)));
    let near = |lines: &[f64], ends: [f64; 2]| -> Vec<f64> {
        lines.iter().copied().filter(|line| ends.iter().any(|end| (line - end).abs() <= coarse)).collect()
    };
    let (columns, rows) = (near(&columns, [found.x0, found.x1]), near(&rows, [found.y0, found.y1]));
    best_of(selection, sides, found, &sums, (&columns, &rows))
}

/// Sides of a bounding box up to which the best box is searched over all lines at once, px.
const EXACT: f64 = 256.0;

/// The search over all lines starts from the best box with its sides on every such line.
const START: usize = 3;

/// The best rectangle with its free sides on these lines, or the one to start from.
fn best_of(selection: &Mask, sides: Sides, tight: Rect, sums: &Sums, (columns, rows): (&[f64], &[f64])) -> Rect {
    let selected = selection.count() as f64;
    let across = Choices::of(sides.across(), columns);
    let down = Choices::of(sides.down(), rows);
    let strips = Strips::new(sums, pixel_bounds(selection), &across, &down);
    let ratio_of = |r: Rect| {
        let shared = sums.inside(r);
        shared / (selected + r.area() - shared)
    };
    let (mut found, mut ratio) = (tight, ratio_of(tight));
    loop {
        // What the rectangle found so far gains; only more is of interest.
        let gain = ratio * selected;
        let Some(candidate) = strips.best(ratio, gain, &across, &down) else { return found };
        let better = ratio_of(candidate);
        if better <= ratio {
            return found;
        }
        (found, ratio) = (candidate, better);
    }
}

/// Where the two sides of a rectangle along one axis may lie: places in ascending order, and pairs of them.
struct Choices {
    places: Vec<f64>,
    /// Indices of the lower and the higher side, where both are tied to each other.
    tied: Option<Vec<[usize; 2]>>,
    /// Those of the lower and of the higher side, where each may lie by itself.
    low: Range<usize>,
    high: Range<usize>,
}

impl Choices {
    fn of(span: Span, lines: &[f64]) -> Choices {
        let tied = span.tied(lines);
        let mut places: Vec<f64> = match &tied {
            Some(pairs) => pairs.iter().flat_map(|&(low, high)| [low, high]).collect(),
            None => lines.iter().copied().chain(span.low).chain(span.high).collect(),
        };
        places.sort_by(f64::total_cmp);
        places.dedup();
        let index = |at: f64| places.partition_point(|place| *place < at);
        let tied = tied.map(|pairs| pairs.iter().map(|&(low, high)| [index(low), index(high)]).collect());
        // A side that is given has one place; one that is free any line.
        let own = |side: Option<f64>| side.map_or(0..places.len(), |side| index(side)..index(side) + 1);
        let (low, high) = (own(span.low), own(span.high));
        Choices { places, tied, low, high }
    }

    /// All pairs, in order.
    fn pairs(&self) -> Box<dyn Iterator<Item = [usize; 2]> + '_> {
        match &self.tied {
            Some(pairs) => Box::new(pairs.iter().copied()),
            None => Box::new(self.low.clone().flat_map(|low| {
                let high = self.high.start.max(low + 1)..self.high.end;
                high.map(move |high| [low, high])
            })),
        }
    }
}

/// What lies left of places and above places, and what each strip between two of them may gain.
struct Strips {
    /// By place down and place across.
    left: Vec<Vec<f64>>,
    /// By place down: all that lies above.
    above: Vec<f64>,
}

impl Strips {
    fn new(sums: &Sums, bounds: Rect, across: &Choices, down: &Choices) -> Strips {
        let row = |y: &f64| across.places.iter().map(|x| sums.corner(*x, *y)).collect();
        Strips {
            left: down.places.iter().map(row).collect(),
            above: down.places.iter().map(|y| sums.corner(bounds.x1, *y)).collect(),
        }
    }

    /// The rectangle that gains most, if any gains more than `least`: the area it shares with the selection times one more than the
    /// ratio, less its own times the ratio.
    fn best(&self, ratio: f64, least: f64, across: &Choices, down: &Choices) -> Option<Rect> {
        let mut line = Line::new(across.places.len());
        // What strips from one place down to the next gain by the columns best for each: together they gain no less than any
        // rectangle over them.
        let mut most = vec![0.0];
        for (strip, pair) in down.places.windows(2).enumerate() {
            line.fill(ratio, pair[1] - pair[0], [&self.left[strip], &self.left[strip + 1]], &across.places);
            most.push(most[strip] + line.most());
        }
        let mut top_gain = least;
        let mut found = None;
        let slack = least * 1e-9;
        for [top, bottom] in down.pairs() {
            // However wide it is, a rectangle in these rows gains no more than they hold.
            if self.above[bottom] - self.above[top] <= top_gain || most[bottom] - most[top] + slack <= top_gain {
                continue;
            }
            let height = down.places[bottom] - down.places[top];
            line.fill(ratio, height, [&self.left[top], &self.left[bottom]], &across.places);
            // A look at the figures alone; where they lie matters for few pairs.
            if line.most() <= top_gain {
                continue;
            }
            if let Some([left, right]) = line.best(across, &mut top_gain) {
                let [left, right] = [left, right].map(|index| across.places[index]);
                found = Some(Rect::new(left, down.places[top], right, down.places[bottom]));
            }
        }
        found
    }
}

/// Areas of the selection over rectangles from the cell's origin, at lattice corners.
struct Sums {
    width: f64,
    height: f64,
    table: SummedArea,
}

impl Sums {
    fn new(mask: &Mask) -> Sums {
        Sums { width: f64::from(mask.width()), height: f64::from(mask.height()), table: SummedArea::new(mask) }
    }

    /// The selected area left of x and above y. Inside a pixel it is bilinear, so interpolating is exact.
    fn corner(&self, x: f64, y: f64) -> f64 {
        let (x, y) = (x.clamp(0.0, self.width), y.clamp(0.0, self.height));
        let (column, row) = (x.floor() as usize, y.floor() as usize);
        let (dx, dy) = (x - column as f64, y - row as f64);
        let at = |column: usize, row: usize| f64::from(self.table.before(column, row));
        if dx == 0.0 && dy == 0.0 {
            return at(column, row);
        }
        let upper = at(column, row) * (1.0 - dx) + at(column + 1, row) * dx;
        let lower = at(column, row + 1) * (1.0 - dx) + at(column + 1, row + 1) * dx;
        upper * (1.0 - dy) + lower * dy
    }

    fn left_of(&self, x: f64, top: f64, bottom: f64) -> f64 {
        self.corner(x, bottom) - self.corner(x, top)
    }

    fn inside(&self, r: Rect) -> f64 {
        self.left_of(r.x1, r.y0, r.y1) - self.left_of(r.x0, r.y0, r.y1)
    }
}
