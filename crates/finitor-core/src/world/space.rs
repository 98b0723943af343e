//! The places that obstacles leave free, column by column.

use super::chains::{Chains, crossings, crossings_at};
use crate::geometry::{Convex, Point, Rect, TOUCH, convex_hull};

/// A free part of a column, from the top to the bottom; both are straight.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Gap {
    /// Its upper border at the column's left and right.
    pub top: [f64; 2],
    /// Its lower border at the column's left and right.
    pub bottom: [f64; 2],
    /// The obstacle above, by index; none at the area's border.
    pub above: Option<usize>,
    /// The obstacle below.
    pub below: Option<usize>,
}

impl Gap {
    /// The borders at a part of the way from left to right.
    fn at(&self, part: f64) -> (f64, f64) {
        let on = |[left, right]: [f64; 2]| left + (right - left) * part;
        (on(self.top), on(self.bottom))
    }
}

/// An upright strip, or a single upright line where left and right are one.
#[derive(Clone, Debug, PartialEq)]
pub struct Column {
    /// Its left.
    pub x0: f64,
    /// Its right.
    pub x1: f64,
    /// What is free in it, from the top down.
    pub gaps: Vec<Gap>,
}

/// The places of an area that lie inside no obstacle, world space: the borders of obstacles are free, as a touch is no overlap.
///
/// Columns are lines and strips by turns, so that a place which is free only on a line, as where a body is exactly as wide as a
/// shaft, is there too.
#[derive(Clone, Debug, PartialEq)]
pub struct Space {
    columns: Vec<Column>,
}

impl Space {
    /// What the obstacles leave free of the area.
    ///
    /// # Complexity
    /// O((n + k) a log a), n corners of all obstacles, k crossings of their borders, a obstacles over one x at most.
    ///
    /// # Source
    /// Slabs at every corner and crossing: David Dobkin and Richard Lipton, "Multidimensional searching problems", SIAM
    /// Journal on Computing 5 (1976).
    pub fn new(obstacles: &[Convex], area: Rect) -> Space {
        Space::with_marks(obstacles, &[], area)
    }

    /// As by [`Space::new`], with columns that also begin and end at the corners and crossings of marks, which are no obstacles.
    pub fn with_marks(obstacles: &[Convex], marks: &[Convex], area: Rect) -> Space {
        let mut order: Vec<usize> = (0..obstacles.len()).collect();
        order.retain(|&i| crate::geometry::rects_meet(obstacles[i].bounds(), area));
        order.sort_by(|&a, &b| obstacles[a].bounds().x0.total_cmp(&obstacles[b].bounds().x0).then(a.cmp(&b)));
        let chains: Vec<(usize, Chains)> = order.iter().map(|&i| (i, Chains::of(&obstacles[i]))).collect();
        let marks: Vec<Chains> = marks.iter().map(Chains::of).collect();
        let mut borders: Vec<&Chains> = chains.iter().map(|(_, of)| of).chain(&marks).collect();
        borders.sort_by(|a, b| a.left().total_cmp(&b.left()));
        let lines = lines(&borders, area);
        let mut columns = Vec::with_capacity(2 * lines.len());
        let mut begun = 0;
        let mut over: Vec<&(usize, Chains)> = Vec::new();
        for (place, &x) in lines.iter().enumerate() {
            let next = lines.get(place + 1);
            while begun < chains.len() && chains[begun].1.left() <= x + TOUCH {
                over.push(&chains[begun]);
                begun += 1;
            }
            // On the line itself only what reaches past it on both sides is in the way.
            let inside = over.iter().filter(|(_, of)| of.left() < x - TOUCH && of.right() > x + TOUCH);
            columns.push(Column { x0: x, x1: x, gaps: gaps(inside.copied(), [x, x], area) });
            over.retain(|(_, of)| of.right() > x + TOUCH);
            if let Some(&next) = next {
                columns.push(Column { x0: x, x1: next, gaps: gaps(over.iter().copied(), [x, next], area) });
            }
        }
        Space { columns }
    }

    /// Its columns from left to right, a line first and last.
    pub fn columns(&self) -> &[Column] {
        &self.columns
    }

    /// Whether a place of the area is free.
    ///
    /// # Complexity
    /// O(log c + g), c columns, g gaps in one.
    pub fn contains(&self, at: Point) -> bool {
        self.gap_at(at).is_some()
    }

    /// The column and the gap in it that hold a place; of a line and a strip beside it the line.
    pub fn gap_at(&self, at: Point) -> Option<(usize, usize)> {
        let column = self.column_at(at.x)?;
        let Column { x0, x1, gaps } = &self.columns[column];
        let part = if x1 > x0 { (at.x - x0) / (x1 - x0) } else { 0.0 };
        let holds = |gap: &Gap| {
            let (top, bottom) = gap.at(part);
            at.y >= top - TOUCH && at.y <= bottom + TOUCH
        };
        gaps.iter().position(holds).map(|gap| (column, gap))
    }

    fn column_at(&self, x: f64) -> Option<usize> {
        let after = self.columns.partition_point(|column| column.x0 <= x + TOUCH);
        let last = after.checked_sub(1)?;
        // The last that begins there: a strip begins where the line before it stands.
        let on_line = |index: usize| {
            let column = &self.columns[index];
            column.x0 == column.x1 && (column.x0 - x).abs() <= TOUCH
        };
        let line = [last.checked_sub(1), Some(last)].into_iter().flatten().find(|index| on_line(*index));
        line.or_else(|| (self.columns[last].x1 >= x).then_some(last))
    }

    /// The free place nearest to one, and whether there is any.
    ///
    /// # Complexity
    /// O(gaps).
    pub fn nearest(&self, to: Point) -> Option<Point> {
        let mut best: Option<(f64, Point)> = None;
        for Column { x0, x1, gaps } in &self.columns {
            let away = (x0 - to.x).max(to.x - x1).max(0.0);
            if best.is_some_and(|(least, _)| away * away >= least) {
                continue;
            }
            for gap in gaps {
                let place = nearest_in(gap, (*x0, *x1), to);
                let far = (place - to).hypot2();
                if best.is_none_or(|(least, _)| far < least) {
                    best = Some((far, place));
                }
            }
        }
        best.map(|(_, place)| place)
    }
}

/// The place of a gap that is nearest to one.
fn nearest_in(gap: &Gap, (x0, x1): (f64, f64), to: Point) -> Point {
    let part = if x1 > x0 { ((to.x - x0) / (x1 - x0)).clamp(0.0, 1.0) } else { 0.0 };
    let (top, bottom) = gap.at(part);
    if (x0..=x1).contains(&to.x) && (top..=bottom).contains(&to.y) {
        return to;
    }
    let corner = |side: usize, y: f64| Point::new([x0, x1][side], y);
    let sides = [
        (corner(0, gap.top[0]), corner(1, gap.top[1])),
        (corner(0, gap.bottom[0]), corner(1, gap.bottom[1])),
        (corner(0, gap.top[0]), corner(0, gap.bottom[0])),
        (corner(1, gap.top[1]), corner(1, gap.bottom[1])),
    ];
    let nearest = |(from, to_end): (Point, Point)| {
        let way = to_end - from;
        let along = if way.hypot2() > 0.0 { ((to - from).dot(way) / way.hypot2()).clamp(0.0, 1.0) } else { 0.0 };
        from + way * along
    };
    let all = sides.map(nearest);
    all.into_iter().min_by(|a, b| (*a - to).hypot2().total_cmp(&(*b - to).hypot2())).unwrap_or(to)
}

/// The x of all corners and crossings inside the area, and of its sides.
fn lines(borders: &[&Chains], area: Rect) -> Vec<f64> {
    let mut all: Vec<f64> = vec![area.x0, area.x1];
    let mut over: Vec<&Chains> = Vec::new();
    for of in borders {
        all.extend(of.corners());
        crossings_at(of, [area.y0, area.y1], &mut all);
        over.retain(|other| other.right() > of.left());
        for other in over.iter().filter(|other| other.bounds_meet(of)) {
            crossings(of, other, &mut all);
        }
        over.push(of);
    }
    all.retain(|x| (area.x0..=area.x1).contains(x));
    all.sort_by(f64::total_cmp);
    // Corners meant to stand over each other differ by rounding.
    all.dedup_by(|later, first| *later - *first <= TOUCH);
    all
}

/// What is left free between the top and the bottom of the area by obstacles that reach over the whole column.
fn gaps<'a>(over: impl Iterator<Item = &'a (usize, Chains)>, x: [f64; 2], area: Rect) -> Vec<Gap> {
    struct Span {
        top: [f64; 2],
        bottom: [f64; 2],
        of: usize,
    }
    let middle = |y: [f64; 2]| (y[0] + y[1]) / 2.0;
    let mut spans: Vec<Span> = over
        .map(|(of, chains)| Span { top: x.map(|x| chains.top(x)), bottom: x.map(|x| chains.bottom(x)), of: *of })
        .collect();
    spans.retain(|span| middle(span.top) < area.y1 && middle(span.bottom) > area.y0);
    spans.sort_by(|a, b| middle(a.top).total_cmp(&middle(b.top)).then(a.of.cmp(&b.of)));
    let mut found = Vec::new();
    let (mut top, mut above) = ([area.y0; 2], None);
    let mut gap = |top: [f64; 2], bottom: [f64; 2], above, below| {
        if middle(bottom) - middle(top) >= -TOUCH {
            // Rounding must not turn a gap over.
            let bottom = [bottom[0].max(top[0]), bottom[1].max(top[1])];
            found.push(Gap { top, bottom, above, below });
        }
    };
    for span in &spans {
        gap(top, span.top, above, Some(span.of));
        if middle(span.bottom) > middle(top) {
            (top, above) = (span.bottom, Some(span.of));
        }
    }
    gap(top, [area.y1; 2], above, None);
    found
}

/// The places of a pivot from which the body's piece overlaps the obstacle: their Minkowski difference. Inside is an overlap, the
/// border a touch.
///
/// # Complexity
/// O(n m log(n m)), n and m corners.
pub fn pivots_hit(obstacle: &Convex, body: &Convex) -> Convex {
    difference(obstacle.points(), body.points())
}

/// The Minkowski difference of the convex hulls of points.
pub(crate) fn difference(ones: &[Point], others: &[Point]) -> Convex {
    let all = ones.iter().flat_map(|a| others.iter().map(|b| Point::new(a.x - b.x, a.y - b.y)));
    Convex::from_clockwise(convex_hull(&all.collect::<Vec<Point>>()))
}
