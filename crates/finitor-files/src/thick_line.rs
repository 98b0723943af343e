//! Lines of some thickness as outlines.

use finitor_core::{Point, Vec2};

/// A mitre is cut no longer than this many times half the thickness.
const LONGEST_MITRE: f64 = 4.0;

/// The outline of an open line of some thickness, half of it on either side: there along one side and back along the other,
/// with mitred corners.
pub(crate) fn thick(chain: &[[f64; 2]], thickness: f64) -> Result<Vec<Point>, String> {
    let points: Vec<Point> = chain.iter().map(|&[x, y]| Point::new(x, y)).collect();
    if points.len() < 2 {
        return Err(format!("a chain has two points at least, this has {}", points.len()));
    }
    let ways: Vec<Vec2> = points.windows(2).map(|pair| pair[1] - pair[0]).collect();
    if let Some(place) = ways.iter().position(|way| way.hypot() < 1e-6) {
        return Err(format!("points {place} and {} of the chain are one", place + 1));
    }
    let aside = |way: Vec2| Vec2::new(way.y, 0.0 - way.x) / way.hypot() * (thickness / 2.0);
    let mut offsets = vec![aside(ways[0])];
    for (index, pair) in ways.windows(2).enumerate() {
        let (one, other) = (aside(pair[0]), aside(pair[1]));
        let middle = one + other;
        // Half of the sum, made as long as both sides need.
        let stretch = 2.0 * one.hypot2() / middle.hypot2();
        if stretch.is_nan() || (middle * stretch).hypot() > LONGEST_MITRE * thickness / 2.0 {
            return Err(format!("the chain turns back too sharply at its point {}", index + 1));
        }
        offsets.push(middle * stretch);
    }
    offsets.push(aside(ways[ways.len() - 1]));
    let there = points.iter().zip(&offsets).map(|(point, by)| *point + *by);
    let back = points.iter().zip(&offsets).rev().map(|(point, by)| *point - *by);
    Ok(there.chain(back).collect())
}
