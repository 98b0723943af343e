//! Rectangles: the tight one, and the one that agrees best.

use super::quality::pixel_bounds;
use super::{FitError, Keep, Sides};
use crate::art::Mask;
use crate::geometry::Rect;

/// The rectangle for a selection, which is not empty. Given sides stay.
pub(super) fn fit(selection: &Mask, sides: Sides, keep: Keep) -> Result<Rect, FitError> {
    let tight = with_sides(pixel_bounds(selection), sides);
    if !(tight.width() > 0.0 && tight.height() > 0.0) {
        return Err(FitError::SidesCross);
    }
    Ok(match keep {
        Keep::Cover => tight,
        Keep::Inside | Keep::Balance => best(selection, sides, tight),
    })
}

pub(super) fn with_sides(rect: Rect, sides: Sides) -> Rect {
    Rect::new(
        sides.left.unwrap_or(rect.x0),
        sides.top.unwrap_or(rect.y0),
        sides.right.unwrap_or(rect.x1),
        sides.bottom.unwrap_or(rect.y1),
    )
}

/// The rectangle with the highest IoU of all whose sides not given lie anywhere.
///
/// Between two lattice lines both the shared area and the union are linear in a side's place, so their ratio is
/// monotone there and the optimum has its free sides on the lattice. The ratio is maximised by a series of
/// parametric problems "shared - ratio * union", each solved exactly over all pairs of rows.
///
/// # Complexity
/// O(h2 w) a round at worst, h and w rows and columns of the bounding box; a handful of rounds. Pairs of rows that hold
/// too few pixels are passed over, which as a rule are most.
///
/// # Source
/// Werner Dinkelbach, "On nonlinear fractional programming", Management Science 13 (1967); the scan over pairs of
/// rows: Jon Bentley, "Programming pearls: algorithm design techniques", Communications of the ACM 27 (1984).
fn best(selection: &Mask, sides: Sides, tight: Rect) -> Rect {
    let sums = Sums::new(selection);
    let selected = selection.count() as f64;
    let lattice = |from: f64, to: f64| -> Vec<f64> { (from as u32..=to as u32).map(f64::from).collect() };
    let bounds = pixel_bounds(selection);
    let columns = lattice(bounds.x0, bounds.x1);
    let rows = lattice(bounds.y0, bounds.y1);
    let choice = |given: Option<f64>, free: &[f64]| given.map_or_else(|| free.to_vec(), |side| vec![side]);
    let (lefts, rights) = (choice(sides.left, &columns), choice(sides.right, &columns));
    let (tops, bottoms) = (choice(sides.top, &rows), choice(sides.bottom, &rows));
    let ratio_of = |r: Rect| {
        let shared = sums.inside(r);
        shared / (selected + r.area() - shared)
    };
    let (mut found, mut ratio) = (tight, ratio_of(tight));
    loop {
        // What the rectangle found so far gains; only more is of interest.
        let mut top_gain = ratio * selected;
        let mut candidate = found;
        for &top in &tops {
            for &bottom in bottoms.iter().filter(|&&bottom| bottom > top) {
                // However wide it is, a rectangle in these rows gains no more than they hold.
                if sums.left_of(bounds.x1, top, bottom) <= top_gain {
                    continue;
                }
                // Gain of (left, right) = worth(right) - worth(left) - ratio * selected.
                let worth = |x: f64| (1.0 + ratio) * sums.left_of(x, top, bottom) - ratio * (bottom - top) * x;
                let mut lowest: Option<(f64, f64)> = None;
                let mut next_left = lefts.iter().peekable();
                for &right in &rights {
                    while let Some(&&left) = next_left.peek().filter(|left| ***left < right) {
                        let value = worth(left);
                        if lowest.is_none_or(|(least, _)| value < least) {
                            lowest = Some((value, left));
                        }
                        next_left.next();
                    }
                    if let Some((least, left)) = lowest
                        && worth(right) - least > top_gain
                    {
                        top_gain = worth(right) - least;
                        candidate = Rect::new(left, top, right, bottom);
                    }
                }
            }
        }
        let better = ratio_of(candidate);
        if better <= ratio {
            return found;
        }
        (found, ratio) = (candidate, better);
    }
}

/// Areas of the selection over rectangles from the cell's origin, at lattice corners.
struct Sums {
    width: usize,
    height: usize,
    table: Vec<f64>,
}

impl Sums {
    fn new(mask: &Mask) -> Sums {
        let (width, height) = (mask.width() as usize, mask.height() as usize);
        let mut table = vec![0.0; (width + 1) * (height + 1)];
        for y in 0..height {
            let mut line = 0.0;
            for x in 0..width {
                line += f64::from(u8::from(mask.get(x as i64, y as i64)));
                table[(y + 1) * (width + 1) + x + 1] = table[y * (width + 1) + x + 1] + line;
            }
        }
        Sums { width, height, table }
    }

    /// The selected area left of x and above y. Inside a pixel it is bilinear, so interpolating is exact.
    fn corner(&self, x: f64, y: f64) -> f64 {
        let (x, y) = (x.clamp(0.0, self.width as f64), y.clamp(0.0, self.height as f64));
        let (column, row) = (x.floor() as usize, y.floor() as usize);
        let (dx, dy) = (x - column as f64, y - row as f64);
        let at = |c: usize, r: usize| self.table[r.min(self.height) * (self.width + 1) + c.min(self.width)];
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
