//! What the looks mean.

use crate::palette::{INK, Look};
use crate::scene::{Align, Item, LETTER};
use crate::shapes::{anchor_mark, pivot_mark};
use finitor_core::{Point, Rect};

const SIZE: f64 = 13.0;
const SWATCH: f64 = 18.0;

/// A row of swatches with their names from a point on; `extra` adds the pivot and anchor marks.
pub(crate) fn legend(at: Point, looks: &[(Look, String)], extra: Extra) -> Vec<Item> {
    let mut items = Vec::new();
    let mut x = at.x;
    let label = |x: &mut f64, words: &str, items: &mut Vec<Item>| {
        let place = Point::new(*x + SWATCH + 6.0, at.y + SWATCH - 5.0);
        items.push(Item::text(place, SIZE, Align::Start, INK, words));
        *x += SWATCH + 6.0 + words.chars().count() as f64 * SIZE * LETTER + 20.0;
    };
    for (look, words) in looks {
        let box_ = Rect::new(x, at.y, x + SWATCH, at.y + SWATCH);
        let points = vec![
            Point::new(box_.x0, box_.y0),
            Point::new(box_.x1, box_.y0),
            Point::new(box_.x1, box_.y1),
            Point::new(box_.x0, box_.y1),
        ];
        items.push(Item::Ring { points, look: *look });
        label(&mut x, words, &mut items);
    }
    if extra == Extra::Marks {
        let middle = |x: f64| Point::new(x + SWATCH / 2.0, at.y + SWATCH / 2.0);
        items.extend(pivot_mark(middle(x)));
        label(&mut x, "pivot, on the ground line", &mut items);
        items.extend(anchor_mark(middle(x)));
        label(&mut x, "anchor", &mut items);
    }
    items
}

/// What a legend tells beside the looks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Extra {
    /// Nothing.
    None,
    /// The marks of pivot and anchors.
    Marks,
}
