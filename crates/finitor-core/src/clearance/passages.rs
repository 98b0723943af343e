//! Low and narrow places of a stage, and what room a body has in them.

use super::strips::{Cell, SEAM, Strips};
use super::{Stance, StanceShape};
use crate::geometry::{Convex, Point, Rect, TOUCH};
use crate::stage::Stage;
use crate::world::{Chains, difference};

/// Which sides of a passage are near.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum PassageKind {
    /// It leads sideways, between what is above and what is below: its height matters.
    Level,
    /// It leads up and down, between what is left and what is right: its width matters.
    Upright,
}

/// How much room a body has in a passage.
#[derive(Clone, Debug, PartialEq)]
pub struct Room {
    /// The body, by its place in the list given.
    pub stance: usize,
    /// How far it can move up and down (sideways in an upright passage) at the tightest place, px; below 0 what it is short
    /// of. `None` where it is too long for a passage that is closed at both ends.
    pub spare: Option<f64>,
    /// The frame in which it has the least room.
    pub frame: String,
}

/// A place lower or narrower than the limit.
#[derive(Clone, Debug, PartialEq)]
pub struct Passage {
    /// Which way it leads.
    pub kind: PassageKind,
    /// From x to x; from y to y where it is upright.
    pub span: (f64, f64),
    /// The least height, or width, px.
    pub clear: f64,
    /// The middle of the tightest place.
    pub at: Point,
    /// The solids on both sides of the tightest place, by index: above and below, or left and right.
    pub between: (usize, usize),
    /// Whether it is open at its left and its right, or at its top and its bottom; else it ends at a wall there.
    pub open: [bool; 2],
    /// The room of each body.
    pub rooms: Vec<Room>,
}

impl Passage {
    /// Where it is, in words: `under boathouse, over terrace`.
    pub fn place(&self, stage: &Stage) -> String {
        let (one, other) = (&stage.solids[self.between.0].name, &stage.solids[self.between.1].name);
        match self.kind {
            _ if one == other => format!("inside {one}"),
            PassageKind::Level => format!("under {one}, over {other}"),
            PassageKind::Upright => format!("from {one} to {other}"),
        }
    }
}

/// A border of a passage, from left to right.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Border {
    pub(crate) from: Point,
    pub(crate) to: Point,
    /// Of the solid, by index.
    pub(crate) solid: usize,
}

/// The passages of a stage that are at most `within` px higher, or wider, than the tallest and the widest body, with the room of
/// each body: level ones from left to right, then upright ones from the top down.
///
/// A passage is a run of places that all are that tight; where it parts in two another begins. A niche that narrows to nothing
/// is none. The room is exact: at each x how far the floor that the body meets lies below the ceiling that it meets, both moved
/// by its outline, and the least of that.
///
/// # Complexity
/// That of [`crate::world::Space::new`] for the solids, and O(b2 m2) a passage and body: b borders, m corners of its pieces.
pub fn passages(stage: &Stage, stances: &[Stance], within: f64) -> Vec<Passage> {
    let most = |of: fn(&Stance) -> f64| stances.iter().map(of).fold(0.0, f64::max) + within;
    let (pieces, solids) = stage.pieces(|solid| stances.iter().any(|stance| stance.mask.sees(solid.layer)));
    let area = stage.area();
    let sees = |stance: &Stance, solid: usize| stance.mask.sees(stage.solids[solid].layer);
    let level = Search { pieces: &pieces, solids: &solids, area, most: most(Stance::height), turned: false };
    let mut found = level.passages(stances, sees);
    let pieces: Vec<Convex> = pieces.iter().map(turned).collect();
    let area = Rect::new(area.y0, area.x0, area.y1, area.x1);
    let upright = Search { pieces: &pieces, solids: &solids, area, most: most(Stance::width), turned: true };
    found.extend(upright.passages(stances, sees));
    found
}

/// Left for up: the piece mirrored about the line x = y.
fn turned(piece: &Convex) -> Convex {
    let points: Vec<Point> = piece.points().iter().rev().map(|p| Point::new(p.y, p.x)).collect();
    Convex::from_clockwise(points)
}

struct Search<'a> {
    pieces: &'a [Convex],
    solids: &'a [usize],
    area: Rect,
    most: f64,
    turned: bool,
}

impl Search<'_> {
    fn passages(&self, stances: &[Stance], sees: impl Fn(&Stance, usize) -> bool) -> Vec<Passage> {
        let strips = Strips::new(self.pieces, self.area);
        let reach = stances.iter().map(|stance| self.own(stance.reach()).width()).fold(0.0, f64::max);
        let runs = strips.low_runs(self.most).into_iter();
        runs.filter_map(|run| self.passage(&strips, run, reach, stances, &sees)).collect()
    }

    /// A run of low places as a passage; none where it narrows to nothing.
    fn passage(
        &self,
        strips: &Strips,
        run: Vec<Cell>,
        reach: f64,
        stances: &[Stance],
        sees: &impl Fn(&Stance, usize) -> bool,
    ) -> Option<Passage> {
        let ends = [*run.first()?, *run.last()?];
        let span = (strips.column(ends[0]).x0, strips.column(ends[1]).x1);
        // Past the stage's border nothing is known to be in the way.
        let open = [
            span.0 <= self.area.x0 || strips.beside(ends[0], false).len() > 0,
            span.1 >= self.area.x1 || strips.beside(ends[1], true).len() > 0,
        ];
        let tightest = run.iter().flat_map(|cell| {
            let (gap, column) = (strips.gap(*cell), strips.column(*cell));
            [(0, column.x0), (1, column.x1)].map(|(side, x)| (gap.bottom[side] - gap.top[side], x, side, *cell))
        });
        let (clear, x, side, cell) = tightest.min_by(|a, b| a.0.total_cmp(&b.0))?;
        if clear <= SEAM {
            return None;
        }
        let narrow = strips.gap(cell);
        let y = (narrow.top[side] + narrow.bottom[side]) / 2.0;
        let mut cells = run;
        cells.extend(strips.beyond(ends[0], false, reach));
        cells.extend(strips.beyond(ends[1], true, reach));
        let border = |cell: &Cell, is_floor: bool| {
            let (gap, column) = (strips.gap(*cell), strips.column(*cell));
            let (of, y) = if is_floor { (gap.below?, gap.bottom) } else { (gap.above?, gap.top) };
            let (from, to) = (Point::new(column.x0, y[0]), Point::new(column.x1, y[1]));
            Some(Border { from, to, solid: self.solids[of] })
        };
        let ceilings: Vec<Border> = joined(cells.iter().filter_map(|cell| border(cell, false)).collect());
        let floors: Vec<Border> = joined(cells.iter().filter_map(|cell| border(cell, true)).collect());
        let rooms = stances.iter().enumerate().map(|(index, stance)| {
            let seen = |all: &[Border]| -> Vec<Border> {
                all.iter().filter(|border| sees(stance, border.solid)).copied().collect()
            };
            let sides = (seen(&ceilings), seen(&floors));
            let room = |shape: &StanceShape| (self.spare(shape, &sides, span, open), shape.frame.clone());
            let order = |spare: Option<f64>| spare.unwrap_or(f64::NEG_INFINITY);
            let least = stance.shapes.iter().map(room).min_by(|a, b| order(a.0).total_cmp(&order(b.0)));
            let (spare, frame) = least.unwrap_or((None, String::new()));
            Room { stance: index, spare, frame }
        });
        Some(Passage {
            kind: if self.turned { PassageKind::Upright } else { PassageKind::Level },
            span,
            clear,
            at: if self.turned { Point::new(y, x) } else { Point::new(x, y) },
            between: (self.solids[narrow.above?], self.solids[narrow.below?]),
            open,
            rooms: rooms.collect(),
        })
    }

    /// A rectangle in the search's own sense of left and up.
    fn own(&self, rect: Rect) -> Rect {
        if self.turned { Rect::new(rect.y0, rect.x0, rect.y1, rect.x1) } else { rect }
    }

    /// The least height between the ceilings and the floors that a body meets, at any x at which it is in the passage.
    fn spare(
        &self,
        shape: &StanceShape,
        (ceilings, floors): &(Vec<Border>, Vec<Border>),
        span: (f64, f64),
        open: [bool; 2],
    ) -> Option<f64> {
        let body = self.own(shape.bounds);
        let from = span.0 - if open[0] { body.x1 } else { body.x0 };
        let to = span.1 - if open[1] { body.x0 } else { body.x1 };
        if from > to + TOUCH {
            return None;
        }
        let pieces: Vec<Convex> =
            shape.pieces.iter().map(|piece| if self.turned { turned(piece) } else { piece.clone() }).collect();
        Some(least_room(&pieces, ceilings, floors, (from, to)))
    }
}

/// The least height between ceilings and floors as a body meets them, with its pivot from x to x; infinite where it meets none.
pub(crate) fn least_room(body: &[Convex], ceilings: &[Border], floors: &[Border], (from, to): (f64, f64)) -> f64 {
    let met = |borders: &[Border]| -> Vec<Chains> {
        borders.iter().flat_map(|border| body.iter().map(move |piece| hit_from(border, piece))).collect()
    };
    let (ceilings, floors) = (met(ceilings), met(floors));
    let mut least = f64::INFINITY;
    for floor in &floors {
        for ceiling in &ceilings {
            let start = from.max(floor.left()).max(ceiling.left());
            let end = to.min(floor.right()).min(ceiling.right());
            // What meets at one x only can be passed along that line.
            if end < start || (end - start <= TOUCH && to - from > TOUCH) {
                continue;
            }
            // Their distance is a convex function of x, straight from corner to corner.
            let corners = floor.corners().chain(ceiling.corners()).filter(|x| (start..end).contains(x));
            for x in corners.chain([start, end]) {
                least = least.min(floor.top(x) - ceiling.bottom(x));
            }
        }
    }
    // Exactly as high is a touch, whichever way it was rounded.
    if least.abs() <= TOUCH { 0.0 } else { least }
}

/// Borders from left to right, those on one straight line joined.
fn joined(mut borders: Vec<Border>) -> Vec<Border> {
    borders.sort_by(|a, b| a.from.x.total_cmp(&b.from.x));
    let mut all: Vec<Border> = Vec::new();
    for next in borders {
        match all.last_mut() {
            Some(last)
                if last.solid == next.solid
                    && (last.to - next.from).hypot() <= TOUCH
                    && (last.to - last.from).cross(next.to - last.from).abs()
                        <= TOUCH * (next.to - last.from).hypot() =>
            {
                last.to = next.to;
            }
            _ => all.push(next),
        }
    }
    all
}

/// The pivots from which a piece meets a border.
fn hit_from(border: &Border, piece: &Convex) -> Chains {
    Chains::of(&difference(&[border.from, border.to], piece.points()))
}
