//! The game's own geometry: convex corners, told apart by their edge normals. Nothing of the crate's.

pub type Spot = (f64, f64);

/// A convex outline, clockwise as seen with y down.
#[derive(Clone, Debug)]
pub struct Flat(pub Vec<Spot>);

/// What is in by less only touches, px.
const TOUCH: f64 = 1e-7;

impl Flat {
    pub fn block(x: f64, y: f64, width: f64, height: f64) -> Flat {
        Flat(vec![(x, y), (x + width, y), (x + width, y + height), (x, y + height)])
    }

    pub fn moved(&self, (dx, dy): Spot) -> Flat {
        Flat(self.0.iter().map(|(x, y)| (x + dx, y + dy)).collect())
    }

    pub fn enlarged(&self, by: f64) -> Flat {
        Flat(self.0.iter().map(|(x, y)| (x * by, y * by)).collect())
    }

    pub fn mirrored(&self) -> Flat {
        Flat(self.0.iter().rev().map(|(x, y)| (0.0 - x, *y)).collect())
    }

    /// Its least and greatest reach along a direction.
    pub fn reach(&self, (nx, ny): Spot) -> Spot {
        let along = self.0.iter().map(|(x, y)| x * nx + y * ny);
        along.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), a| (low.min(a), high.max(a)))
    }

    pub fn top(&self) -> f64 {
        self.reach((0.0, 1.0)).0
    }

    pub fn bottom(&self) -> f64 {
        self.reach((0.0, 1.0)).1
    }

    fn normals(&self) -> impl Iterator<Item = Spot> + '_ {
        (0..self.0.len()).map(|i| {
            let ((ax, ay), (bx, by)) = (self.0[i], self.0[(i + 1) % self.0.len()]);
            let length = (bx - ax).hypot(by - ay);
            ((by - ay) / length, (ax - bx) / length)
        })
    }

    /// How deep two are in each other: the least by which one must go along any edge's normal. 0 where they are apart.
    pub fn depth(&self, other: &Flat) -> f64 {
        let axes = self.normals().chain(other.normals());
        let gaps = axes.map(|axis| {
            let (a, b) = (self.reach(axis), other.reach(axis));
            (a.1 - b.0).min(b.1 - a.0)
        });
        gaps.fold(f64::INFINITY, f64::min).max(0.0)
    }

    pub fn meets(&self, other: &Flat) -> bool {
        self.depth(other) > TOUCH
    }

    /// Its least and greatest x and y.
    pub fn around(&self) -> [Spot; 2] {
        [self.reach((1.0, 0.0)), self.reach((0.0, 1.0))]
    }
}

/// Whether two boxes share some room.
pub fn near(one: &[Spot; 2], other: &[Spot; 2]) -> bool {
    one.iter().zip(other).all(|(a, b)| a.0 < b.1 && b.0 < a.1)
}
