//! Which part is struck where a hit touches several.

use crate::actor::{Actor, Shape};
use crate::geometry::{Point, SharedRegion, Vec2, shared_region};

/// How it is settled which part is struck.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Settle {
    /// The one that shares the largest area with the hit; of equals the first in the actor file.
    #[default]
    Area,
    /// The one nearest to the contact, which is the middle of all that the hit shares with them; of equals, such as several that
    /// the contact lies in, the one of the larger area, then the first in the actor file.
    Nearest,
    /// The first in the actor file.
    Order,
}

impl Settle {
    /// All, as the files name them.
    pub const ALL: [Settle; 3] = [Settle::Area, Settle::Nearest, Settle::Order];

    /// Its word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Settle::Area => "area",
            Settle::Nearest => "nearest",
            Settle::Order => "order",
        }
    }

    /// What holds for a hit on a target: what the attack says, else the target, else the project.
    pub fn of(hit: &Shape, target: &Actor, project: Settle) -> Settle {
        hit.carries.settle.or(target.settle).unwrap_or(project)
    }
}

/// A hurt shape that a hit overlaps.
#[derive(Clone, Copy, Debug)]
pub struct Touched<'a> {
    /// The shape.
    pub hurt: &'a Shape,
    /// What they share, px2.
    pub area: f64,
    /// The middle of that, in the target's local space.
    pub middle: Point,
}

/// Those of some hurt shapes that a hit overlaps, in their order; the hit's pivot lies at an offset from theirs.
///
/// # Complexity
/// O(h u), pieces of the hit and of the shapes; a box test decides for most.
pub fn touched<'a>(hit: &Shape, offset: Vec2, hurts: impl Iterator<Item = &'a Shape>) -> Vec<Touched<'a>> {
    let shared = |hurt: &'a Shape| {
        let SharedRegion { area, middle } = shared_region(&hit.pieces, offset, &hurt.pieces)?;
        Some(Touched { hurt, area, middle })
    };
    hurts.filter_map(shared).collect()
}

/// Areas and squared distances that differ by less are equal: rounding must not settle what a rule is written for.
const EQUAL: f64 = 1e-9;

/// The one of several touched that is struck; `None` where there is none.
pub fn settled<'t, 'a>(settle: Settle, touched: &'t [Touched<'a>]) -> Option<&'t Touched<'a>> {
    let is_less = |[a, b]: [f64; 2], [c, d]: [f64; 2]| a < c - EQUAL || (a <= c + EQUAL && b < d - EQUAL);
    // The first of equals.
    let least = |figure: &dyn Fn(&Touched<'_>) -> [f64; 2]| {
        touched.iter().reduce(|best, next| if is_less(figure(next), figure(best)) { next } else { best })
    };
    match settle {
        Settle::Order => touched.first(),
        Settle::Area => least(&|one| [0.0 - one.area, 0.0]),
        Settle::Nearest => {
            let whole: f64 = touched.iter().map(|one| one.area).sum();
            let sum = touched.iter().fold(Vec2::ZERO, |sum, one| sum + one.middle.to_vec2() * one.area);
            let contact = (sum / whole).to_point();
            let away = |hurt: &Shape| {
                hurt.pieces.iter().map(|piece| piece.squared_distance(contact)).fold(f64::INFINITY, f64::min)
            };
            least(&|one| [away(one.hurt), 0.0 - one.area])
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Rect;
    use crate::actor::{Carried, Role};
    use crate::geometry::overlap_region;
    use crate::testing::dice::Dice;
    use crate::testing::fight::shape;

    fn hurt(name: &str, rect: Rect) -> Shape {
        shape(name, Role::Hurt, rect, 1, Carried::default())
    }

    fn struck(settle: Settle, hit: Rect, hurts: &[Shape]) -> String {
        let hit = shape("blade", Role::Hit, hit, 0, Carried::default());
        let all = touched(&hit, Vec2::ZERO, hurts.iter());
        settled(settle, &all).map_or_else(String::new, |one| one.hurt.name.clone())
    }

    #[test]
    fn of_equal_areas_the_first_in_the_file_is_struck() {
        let hurts = [hurt("legs", Rect::new(0.0, 10.0, 10.0, 20.0)), hurt("head", Rect::new(0.0, 0.0, 10.0, 10.0))];
        assert_eq!(struck(Settle::Area, Rect::new(0.0, 5.0, 10.0, 15.0), &hurts), "legs");
        assert_eq!(struck(Settle::Area, Rect::new(0.0, 4.0, 10.0, 15.0), &hurts), "head");
    }

    #[test]
    fn of_several_that_the_contact_lies_in_the_larger_share_is_struck_then_the_first() {
        let whole = Rect::new(0.0, 0.0, 20.0, 20.0);
        let inner = Rect::new(5.0, 5.0, 15.0, 15.0);
        let hurts = [hurt("core", inner), hurt("coat", whole)];
        assert_eq!(struck(Settle::Nearest, whole, &hurts), "coat", "both hold the contact, the coat shares more");
        assert_eq!(struck(Settle::Nearest, inner, &hurts), "core", "equal shares");
    }

    #[test]
    fn the_first_in_the_file_is_struck_whatever_its_share() {
        let hurts = [hurt("hat", Rect::new(0.0, 0.0, 1.0, 1.0)), hurt("coat", Rect::new(0.0, 0.0, 20.0, 20.0))];
        assert_eq!(struck(Settle::Order, Rect::new(0.0, 0.0, 20.0, 20.0), &hurts), "hat");
        assert_eq!(struck(Settle::Order, Rect::new(2.0, 2.0, 20.0, 20.0), &hurts), "coat", "the hat is not touched");
        assert_eq!(struck(Settle::Order, Rect::new(50.0, 0.0, 60.0, 9.0), &hurts), "");
    }

    /// Boxes in whole px, so that areas, and of them the middle, can be counted pixel by pixel.
    #[test]
    fn two_thousand_random_overlaps_are_settled_as_pixels_say() {
        let mut dice = Dice::new(7);
        let mut rect = || {
            let (x, y) = (f64::from(dice.whole(0, 20)), f64::from(dice.whole(0, 20)));
            Rect::new(x, y, x + f64::from(dice.whole(1, 14)), y + f64::from(dice.whole(1, 14)))
        };
        for round in 0..2000 {
            let hit = rect();
            let hurts: Vec<Shape> = ["a", "b", "c", "d"].iter().map(|name| hurt(name, rect())).collect();
            let pixels = |hurt: &Shape| -> Vec<(f64, f64)> {
                let all = (0..40).flat_map(|x| (0..40).map(move |y| (f64::from(x) + 0.5, f64::from(y) + 0.5)));
                all.filter(|at| hit.contains(*at) && hurt.bounds().contains(*at)).collect()
            };
            let shares: Vec<Vec<(f64, f64)>> = hurts.iter().map(pixels).collect();
            let all: Vec<&(f64, f64)> = shares.iter().flatten().collect();
            let count = all.len() as f64;
            let middle = all.iter().fold((0.0, 0.0), |sum, at| (sum.0 + at.0 / count, sum.1 + at.1 / count));
            let away = |hurt: &Shape| {
                let Rect { x0, y0, x1, y1 } = hurt.bounds();
                let beside = |at: f64, low: f64, high: f64| (low - at).max(at - high).max(0.0);
                beside(middle.0, x0, x1).powi(2) + beside(middle.1, y0, y1).powi(2)
            };
            let best = |figure: &dyn Fn(usize) -> (f64, f64)| {
                let mut found: Option<usize> = None;
                for index in (0..hurts.len()).filter(|index| !shares[*index].is_empty()) {
                    let less = |known: usize| {
                        let (one, other) = (figure(index), figure(known));
                        one.0 < other.0 - 1e-9 || ((one.0 - other.0).abs() <= 1e-9 && one.1 < other.1 - 1e-9)
                    };
                    if found.is_none_or(less) {
                        found = Some(index);
                    }
                }
                found.map_or_else(String::new, |index| hurts[index].name.clone())
            };
            let share = |index: usize| 0.0 - shares[index].len() as f64;
            assert_eq!(struck(Settle::Area, hit, &hurts), best(&|index| (share(index), 0.0)), "round {round}");
            assert_eq!(struck(Settle::Nearest, hit, &hurts), best(&|i| (away(&hurts[i]), share(i))), "round {round}");
            assert_eq!(struck(Settle::Order, hit, &hurts), best(&|_| (0.0, 0.0)), "round {round}");
            let area: f64 = hurts
                .iter()
                .filter_map(|hurt| {
                    let one = shape("hit", Role::Hit, hit, 0, Carried::default());
                    overlap_region(&one.pieces[0], Vec2::ZERO, &hurt.pieces[0]).map(|(area, _)| area)
                })
                .sum();
            assert!((area - count).abs() < 1e-6, "round {round}");
        }
    }
}
