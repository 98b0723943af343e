//! Mirror images about the pivot, in the program's own space.

use super::{Number, PackPoint, PackShape, Ring};

impl PackPoint {
    /// The mirror image.
    #[must_use]
    pub fn mirrored(self) -> PackPoint {
        // Not the negative, which would make -0.0 of 0.0.
        PackPoint { x: 0.0 - self.x, y: self.y }
    }
}

/// Clockwise again, with the same first point.
fn mirrored_ring(ring: &Ring) -> Ring {
    let mut ring: Ring = ring.iter().map(|at| at.mirrored()).collect();
    if let Some(rest) = ring.get_mut(1..) {
        rest.reverse();
    }
    ring
}

impl PackShape {
    /// The mirror image.
    #[must_use]
    pub fn mirrored(&self) -> PackShape {
        let turned = |x: Number| Number(0.0 - x.0);
        let rings = |rings: &[Ring]| rings.iter().map(mirrored_ring).collect();
        PackShape {
            shape: self.shape.clone(),
            kind: self.kind.clone(),
            rect: self.rect.map(|[x, y, w, h]| [Number(0.0 - (x.0 + w.0)), y, w, h]),
            circle: self.circle.map(|[x, y, r]| [turned(x), y, r]),
            capsule: self.capsule.map(|[x1, y1, x2, y2, r]| [turned(x1), y1, turned(x2), y2, r]),
            outline: rings(&self.outline),
            holes: rings(&self.holes),
            pieces: rings(&self.pieces),
        }
    }
}
