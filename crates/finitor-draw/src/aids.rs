//! Lines and figures to read places off a picture.

use crate::palette::{GROUND_LINE, INK, QUIET_INK};
use crate::scene::{Align, Item, View};
use finitor_core::actor::Pose;
use finitor_core::{Point, Rect};

/// What is drawn to read places off a picture.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Aids {
    /// Lines at equal distances.
    pub grid: bool,
    /// Coordinates along the edges and at pivots; in contact sheets the number of each corner, as `points` in the fits count them.
    pub numbers: bool,
    /// The stage's height where y counts up from its bottom: figures then do so too.
    pub up_from: Option<f64>,
}

/// Grid lines are at least this far apart, page px, so that what is between can be seen.
const LEAST_APART: f64 = 24.0;
const SIZE: f64 = 11.0;

/// How far grid lines are apart, px.
fn step(scale: u32) -> f64 {
    let steps = [1.0, 2.0, 4.0, 8.0, 16.0, 32.0, 64.0];
    steps.into_iter().find(|step| step * f64::from(scale) >= LEAST_APART).unwrap_or(64.0)
}

impl Aids {
    /// What belongs over a part of a space, cut to a frame of the page.
    pub(crate) fn items(self, view: View, frame: Rect) -> Vec<Item> {
        let mut items = Vec::new();
        if self.grid {
            items.extend(marks(view, frame, step(view.scale)).flat_map(|mark| mark.line(frame)));
        }
        if self.numbers {
            // Figures take more room than lines.
            let apart = step(view.scale) * 2.0;
            items.extend(marks(view, frame, apart).flat_map(|mark| mark.figure(frame, self)));
        }
        items
    }

    /// The place of a pivot.
    pub(crate) fn pivot(self, at: Point, view: View) -> Vec<Item> {
        if !self.numbers {
            return Vec::new();
        }
        let spot = view.point(at) + finitor_core::Vec2::new(8.0, SIZE);
        vec![Item::text(spot, SIZE, Align::Start, INK, format!("{:.2}, {:.2}", at.x, self.counted(at.y)))]
    }

    /// A y as figures have it.
    fn counted(self, y: f64) -> f64 {
        self.up_from.map_or(y, |height| height - y)
    }

    /// The number of each corner of a pose's shapes.
    pub(crate) fn corners(self, pose: &Pose, view: View) -> Vec<Item> {
        const SMALL: f64 = 8.0;
        if !self.numbers {
            return Vec::new();
        }
        let polygons = pose.shapes.iter().flat_map(|shape| &shape.polygons);
        let corners = polygons.flat_map(|polygon| polygon.points().iter().enumerate());
        let figure = |(index, point): (usize, &Point)| {
            Item::text(view.point(*point), SMALL, Align::Middle, INK, index.to_string())
        };
        corners.map(figure).collect()
    }
}

/// A place on an axis.
#[derive(Clone, Copy)]
struct Mark {
    is_across: bool,
    /// On the page.
    at: f64,
    /// In the space.
    px: f64,
}

/// The places of both axes that are within a frame.
fn marks(view: View, frame: Rect, step: f64) -> impl Iterator<Item = Mark> {
    let scale = f64::from(view.scale);
    let axis = move |is_across: bool, origin: f64, from: f64, to: f64| {
        let (first, last) =
            (((from - origin) / scale / step).ceil() as i64, ((to - origin) / scale / step).floor() as i64);
        (first..=last).map(move |index| {
            let px = index as f64 * step;
            Mark { is_across, at: origin + px * scale, px }
        })
    };
    axis(true, view.origin.x, frame.x0, frame.x1).chain(axis(false, view.origin.y, frame.y0, frame.y1))
}

impl Mark {
    fn line(self, frame: Rect) -> Option<Item> {
        let (from, to) = match self.is_across {
            true => (Point::new(self.at, frame.y0), Point::new(self.at, frame.y1)),
            false => (Point::new(frame.x0, self.at), Point::new(frame.x1, self.at)),
        };
        let (colour, width, dash) = (GROUND_LINE, 0.4, (self.px != 0.0).then_some((1.0, 3.0)));
        Some(Item::Line { from, to, colour, width, dash })
    }

    fn figure(self, frame: Rect, aids: Aids) -> Option<Item> {
        let at = match self.is_across {
            true => Point::new(self.at + 2.0, frame.y0 + SIZE),
            false => Point::new(frame.x0 + 2.0, self.at - 2.0),
        };
        // Corners are where the figures of both axes would lie on each other, and those of frames.
        let is_corner = if self.is_across { self.at > frame.x1 - 34.0 } else { self.at < frame.y0 + 2.0 * SIZE };
        (!is_corner).then(|| {
            let px = if self.is_across { self.px } else { aids.counted(self.px) };
            Item::text(at, SIZE, Align::Start, QUIET_INK, px.to_string())
        })
    }
}
