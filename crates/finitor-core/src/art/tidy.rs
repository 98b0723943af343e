//! Sets of pixels made tidier: specks dropped, thin features dropped, gaps closed, grown and shrunk. All exact.

use super::patches::Patches;
use super::{Mask, Run};

impl Mask {
    /// Without the islands of fewer than `pixels` pixels. Pixels that touch only at a corner are apart.
    ///
    /// # Complexity
    /// O(pixels / 64 + runs).
    #[must_use]
    pub fn without_islands_below(&self, pixels: u64) -> Mask {
        if pixels < 2 {
            return self.clone();
        }
        let patches = Patches::of(self);
        let kept = patches.runs().filter(|(_, patch)| patch.pixels >= pixels).map(|(run, _)| run);
        Mask::from_runs(self.width(), self.height(), kept)
    }

    /// The island of the most pixels alone, of equals the one that begins in the higher row, farther left.
    #[must_use]
    pub(crate) fn largest_island(&self) -> Mask {
        let patches = Patches::of(self);
        let most = patches.runs().map(|(_, patch)| patch.pixels).max().unwrap_or(0);
        let first =
            patches.runs().find(|(_, patch)| patch.pixels == most).and_then(|(run, _)| patches.at(run.start, run.row));
        let kept = patches.runs().map(|(run, _)| run).filter(|run| patches.at(run.start, run.row) == first);
        Mask::from_runs(self.width(), self.height(), kept)
    }

    /// Without features thinner than `side` px: what is left is every square of `side` x `side` set pixels. The cell's
    /// sides end the mask. 0 and 1 change nothing.
    ///
    /// # Complexity
    /// O((pixels / 64 + runs) log side).
    ///
    /// # Source
    /// Opening by a square: Jean Serra, "Image analysis and mathematical morphology" (1982); the doubling of steps: Marcel
    /// van Herk, Pattern Recognition Letters 13 (1992), shows what cheaper ways there are.
    #[must_use]
    pub fn opened(&self, side: u32) -> Mask {
        if side < 2 {
            return self.clone();
        }
        let corners = doubled(self, side, -1, Mask::and);
        let corners = lengthened(&corners, 1 - i64::from(side));
        doubled(&lengthened(&corners, i64::from(side) - 1), side, 1, Mask::or)
    }

    /// With gaps narrower than `side` px closed: unset pixels stay unset where a square of `side` x `side` of them fits,
    /// inside the cell or out of it.
    ///
    /// # Complexity
    /// O((pixels / 64 + runs) log side).
    ///
    /// # Source
    /// The closing that goes with [`Mask::opened`].
    #[must_use]
    pub fn closed(&self, side: u32) -> Mask {
        if side < 2 {
            return self.clone();
        }
        let room = self.placed(self.width() + 2 * side, self.height() + 2 * side, (side.into(), side.into()));
        let closed = room.inverted().opened(side).inverted();
        closed.placed(self.width(), self.height(), (-i64::from(side), -i64::from(side)))
    }

    /// The pixels whose middles lie within `reach` px of a set pixel's; on a canvas larger by the reach, rounded up, on all
    /// sides.
    ///
    /// # Complexity
    /// O(pixels).
    #[must_use]
    pub fn grown(&self, reach: f64) -> Mask {
        let room = reach.ceil().max(0.0) as u32;
        let canvas = self.placed(self.width() + 2 * room, self.height() + 2 * room, (room.into(), room.into()));
        let squares = squared_distances(&canvas);
        let width = canvas.width() as usize;
        let limit = reach * reach + ROUNDING;
        Mask::from_fn(canvas.width(), canvas.height(), |x, y| squares[y as usize * width + x as usize] <= limit)
    }

    /// The set pixels whose middles lie farther than `reach` px from every unset pixel's; outside the cell all are unset.
    ///
    /// # Complexity
    /// O(pixels).
    #[must_use]
    pub fn shrunk(&self, reach: f64) -> Mask {
        let canvas = self.placed(self.width() + 2, self.height() + 2, (1, 1)).inverted();
        let squares = squared_distances(&canvas);
        let width = canvas.width() as usize;
        let limit = reach * reach + ROUNDING;
        Mask::from_fn(self.width(), self.height(), |x, y| {
            squares[(y as usize + 1) * width + x as usize + 1] > limit && self.get(x.into(), y.into())
        })
    }

    /// By pixel, row by row: the distance between its middle and the nearest unset pixel's, those round the cell among them;
    /// 0 for unset pixels.
    ///
    /// # Complexity
    /// O(pixels).
    pub(crate) fn depths(&self) -> Vec<f64> {
        let canvas = self.placed(self.width() + 2, self.height() + 2, (1, 1)).inverted();
        let squares = squared_distances(&canvas);
        let width = canvas.width() as usize;
        let row = |y: usize| (y + 1) * width + 1..(y + 1) * width + 1 + self.width() as usize;
        (0..self.height() as usize).flat_map(|y| squares[row(y)].iter().map(|square| square.sqrt())).collect()
    }

    /// The pixels on a canvas of another size, moved by whole columns and rows; what falls outside is lost.
    #[must_use]
    pub fn placed(&self, width: u32, height: u32, (columns, rows): (i64, i64)) -> Mask {
        let held = |at: i64| at.clamp(0, i64::from(width)) as u32;
        let moved = self.runs().into_iter().filter_map(|run| {
            let row = u32::try_from(i64::from(run.row) + rows).ok().filter(|row| *row < height)?;
            let (start, end) = (held(i64::from(run.start) + columns), held(i64::from(run.end) + columns));
            (start < end).then_some(Run { row, start, end })
        });
        Mask::from_runs(width, height, moved)
    }

    /// The mirror image left to right within the cell.
    #[must_use]
    pub fn mirrored(&self) -> Mask {
        let width = self.width();
        let runs = self.runs().into_iter().map(|run| Run { start: width - run.end, end: width - run.start, ..run });
        Mask::from_runs(width, self.height(), runs)
    }
}

/// Room for rounding when a square of a distance is compared; squares of whole distances are whole.
const ROUNDING: f64 = 1e-9;

/// `rule` over a mask and its copies moved by 1, 2 ... `side` - 1 rows, in the direction of `sign`.
fn doubled(mask: &Mask, side: u32, sign: i64, rule: impl Fn(&Mask, &Mask) -> Mask) -> Mask {
    let mut all = mask.clone();
    let mut done = 1;
    while done < side {
        let step = done.min(side - done);
        all = rule(&all, &all.placed(all.width(), all.height(), (0, sign * i64::from(step))));
        done += step;
    }
    all
}

/// Every run n pixels longer on the right, or shorter; runs that vanish are gone.
fn lengthened(mask: &Mask, by: i64) -> Mask {
    let width = i64::from(mask.width());
    let runs = mask.runs().into_iter().filter_map(|run| {
        let end = (i64::from(run.end) + by).min(width);
        (end > i64::from(run.start)).then_some(Run { end: end as u32, ..run })
    });
    Mask::from_runs(mask.width(), mask.height(), runs)
}

/// By pixel, row by row: the square of the distance between its middle and the nearest set pixel's; infinite when none is
/// set.
///
/// # Source
/// Pedro Felzenszwalb and Daniel Huttenlocher, "Distance transforms of sampled functions", Theory of Computing 8 (2012).
fn squared_distances(mask: &Mask) -> Vec<f64> {
    let (width, height) = (mask.width() as usize, mask.height() as usize);
    // First along columns, row by row: down, then up.
    let mut squares = vec![f64::INFINITY; width * height];
    for y in 0..height {
        let (above, row) = squares[..(y + 1) * width].split_at_mut(y * width);
        if y > 0 {
            row.iter_mut().zip(&above[(y - 1) * width..]).for_each(|(own, above)| *own = above + 1.0);
        }
        row.iter_mut().zip(mask.row(y as u32)).filter(|(_, set)| *set).for_each(|(own, _)| *own = 0.0);
    }
    for y in (1..height).rev() {
        let (above, row) = squares.split_at_mut(y * width);
        let above = &mut above[(y - 1) * width..];
        above.iter_mut().zip(row).for_each(|(own, below)| *own = if *below + 1.0 < *own { *below + 1.0 } else { *own });
    }
    squares.iter_mut().for_each(|distance| *distance *= *distance);
    let (mut parabolas, mut old) = (Vec::with_capacity(width), Vec::with_capacity(width));
    for row in squares.chunks_mut(width.max(1)) {
        let mut from = 0;
        // What lies beyond a set pixel is no nearer than that.
        while let Some(start) = row[from..].iter().position(|square| *square > 0.0).map(|at| from + at) {
            let end = row[start..].iter().position(|square| *square == 0.0).map_or(width, |at| start + at);
            old.clear();
            old.extend_from_slice(&row[start.saturating_sub(1)..(end + 1).min(width)]);
            lower_envelope(&old, &mut parabolas);
            let mut at = 0;
            for (x, square) in (usize::from(start > 0)..).zip(&mut row[start..end]) {
                while parabolas.get(at + 1).is_some_and(|next| next.1 <= x as f64) {
                    at += 1;
                }
                *square = parabolas.get(at).map_or(f64::INFINITY, |(middle, _)| {
                    let across = x as f64 - *middle as f64;
                    across * across + old[*middle]
                });
            }
            from = end;
        }
    }
    squares
}

/// The lowest of the parabolas (x - middle)2 + value over a row: their middles, and from which x each is lowest.
fn lower_envelope(row: &[f64], parabolas: &mut Vec<(usize, f64)>) {
    parabolas.clear();
    for (middle, value) in row.iter().enumerate().filter(|(_, value)| value.is_finite()) {
        let height = value + (middle * middle) as f64;
        loop {
            let Some(&(last, from)) = parabolas.last() else {
                parabolas.push((middle, f64::NEG_INFINITY));
                break;
            };
            let cross = (height - (row[last] + (last * last) as f64)) / (2.0 * (middle - last) as f64);
            if cross > from {
                parabolas.push((middle, cross));
                break;
            }
            parabolas.pop();
        }
    }
}
