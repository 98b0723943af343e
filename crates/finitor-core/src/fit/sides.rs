//! Sides and sizes fixed by hand.

use crate::geometry::Rect;

/// Sides and sizes fixed by hand, px of the selection's canvas; the rest is fitted.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Sides {
    /// Left side.
    pub left: Option<f64>,
    /// Top side.
    pub top: Option<f64>,
    /// Right side.
    pub right: Option<f64>,
    /// Bottom side.
    pub bottom: Option<f64>,
    /// Width, above 0.
    pub width: Option<f64>,
    /// Height, above 0.
    pub height: Option<f64>,
    /// Radius of a circle or a capsule, above 0.
    pub radius: Option<f64>,
    /// The x about which the shape must be equal left and right.
    pub axis: Option<f64>,
}

/// What is fixed along one axis: two sides, a size, and a middle.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Span {
    pub(super) low: Option<f64>,
    pub(super) high: Option<f64>,
    pub(super) size: Option<f64>,
    pub(super) middle: Option<f64>,
}

impl Sides {
    /// The sides moved by (dx, dy).
    #[must_use]
    pub fn moved(self, dx: f64, dy: f64) -> Sides {
        let by = |side: Option<f64>, delta: f64| side.map(|side| side + delta);
        Sides {
            left: by(self.left, dx),
            top: by(self.top, dy),
            right: by(self.right, dx),
            bottom: by(self.bottom, dy),
            axis: by(self.axis, dx),
            ..self
        }
    }

    /// The sides of the mirror image about x = 0.
    #[must_use]
    pub fn mirrored(self) -> Sides {
        let flipped = |x: Option<f64>| x.map(|x| 0.0 - x);
        Sides { left: flipped(self.right), right: flipped(self.left), axis: flipped(self.axis), ..self }
    }

    /// Whether a side is fixed.
    pub fn has_side(&self) -> bool {
        [self.left, self.top, self.right, self.bottom].iter().any(Option::is_some)
    }

    /// Whether a size is fixed.
    pub fn has_size(&self) -> bool {
        [self.width, self.height, self.radius].iter().any(Option::is_some)
    }

    pub(super) fn across(&self) -> Span {
        Span { low: self.left, high: self.right, size: self.width, middle: self.axis }
    }

    pub(super) fn down(&self) -> Span {
        Span { low: self.top, high: self.bottom, size: self.height, middle: None }
    }

    /// Whether what is fixed leaves no rectangle at all.
    pub(super) fn contradict(&self) -> bool {
        self.across().contradicts() || self.down().contradicts() || self.radius.is_some_and(|r| r <= 0.0)
    }

    /// The rectangle that keeps to what is fixed and is otherwise nearest to another.
    pub(super) fn kept(&self, rect: Rect) -> Rect {
        let ((x0, x1), (y0, y1)) = (self.across().kept(rect.x0, rect.x1), self.down().kept(rect.y0, rect.y1));
        Rect::new(x0, y0, x1, y1)
    }
}

impl Span {
    /// Both ends, where they follow from what is fixed.
    fn fixed(self) -> Option<(f64, f64)> {
        let Span { low, high, size, middle } = self;
        match (low, high, size, middle) {
            (Some(low), Some(high), ..) => Some((low, high)),
            (Some(low), None, Some(size), _) => Some((low, low + size)),
            (None, Some(high), Some(size), _) => Some((high - size, high)),
            (Some(low), None, None, Some(middle)) => Some((low, 2.0 * middle - low)),
            (None, Some(high), None, Some(middle)) => Some((2.0 * middle - high, high)),
            (None, None, Some(size), Some(middle)) => Some((middle - size / 2.0, middle + size / 2.0)),
            _ => None,
        }
    }

    fn contradicts(self) -> bool {
        const SAME: f64 = 1e-9;
        let size_wrong = self.size.is_some_and(|size| size <= 0.0);
        size_wrong
            || self.fixed().is_some_and(|(low, high)| {
                let longer = |size: f64| (high - low - size).abs() > SAME;
                let off = |middle: f64| (f64::midpoint(low, high) - middle).abs() > SAME;
                low >= high || self.size.is_some_and(longer) || self.middle.is_some_and(off)
            })
    }

    /// The span that keeps to what is fixed, from one wished for.
    pub(super) fn kept(self, low: f64, high: f64) -> (f64, f64) {
        if let Some(fixed) = self.fixed() {
            return fixed;
        }
        let centre = f64::midpoint(low, high);
        match (self.low, self.high, self.size, self.middle) {
            (Some(fixed), None, ..) => (fixed, high),
            (None, Some(fixed), ..) => (low, fixed),
            (_, _, Some(size), _) => (centre - size / 2.0, centre + size / 2.0),
            (_, _, _, Some(middle)) => {
                let half = (high - middle).max(middle - low);
                (middle - half, middle + half)
            }
            _ => (low, high),
        }
    }

    /// Pairs of ends that keep to what is fixed with the others at lattice places, where both ends are tied to each other;
    /// `None` when the ends are free of each other.
    pub(super) fn tied(self, lattice: &[f64]) -> Option<Vec<(f64, f64)>> {
        if let Some(fixed) = self.fixed() {
            return Some(vec![fixed]);
        }
        let mut pairs: Vec<(f64, f64)> = match (self.size, self.middle) {
            (Some(size), _) => lattice.iter().flat_map(|&at| [(at, at + size), (at - size, at)]).collect(),
            (None, Some(middle)) => {
                let pair = |at: f64| {
                    let half = (at - middle).abs();
                    (middle - half, middle + half)
                };
                lattice.iter().map(|&at| pair(at)).filter(|pair| pair.1 > pair.0).collect()
            }
            (None, None) => return None,
        };
        pairs.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.total_cmp(&b.1)));
        pairs.dedup();
        Some(pairs)
    }
}
