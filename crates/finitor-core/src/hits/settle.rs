//! Which part is struck where a hit touches several.

use crate::actor::{Actor, Part, PartAnchor, Pose, Shape};
use crate::geometry::{Point, SharedRegion, Vec2, shared_region};

/// How it is settled which part is struck.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Settle {
    /// The one that shares the largest area with the hit; of equals the first in the actor file.
    #[default]
    Area,
    /// The one nearest to the contact, which is the middle of all that the hit shares with them; one that has anchors is as far
    /// as the nearest of these. Of equals, such as several that the contact lies in, the one of the larger area, then the first
    /// in the actor file.
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
    /// The pose that it is of.
    pose: &'a Pose,
}

impl<'a> Touched<'a> {
    /// Its anchors on this frame.
    fn anchors(&self) -> impl Iterator<Item = (&'a PartAnchor, Point)> + use<'a> {
        let pose = self.pose;
        self.hurt.carries.anchors.iter().filter_map(|own| Some((own, pose.anchor(&own.anchor)?)))
    }

    /// Its square distance from a contact, px2: that of its nearest anchor where it has any.
    fn squared_distance(&self, contact: Point) -> f64 {
        let to_anchor = self.anchors().map(|(_, at)| (at - contact).hypot2()).reduce(f64::min);
        let to_shape = || self.hurt.pieces.iter().map(|piece| piece.squared_distance(contact)).reduce(f64::min);
        to_anchor.or_else(to_shape).unwrap_or(f64::INFINITY)
    }

    /// The part that is struck: that of its anchor nearest to the contact, of equals the first that the shape lists; its own
    /// where it has no anchor on this frame.
    fn part(&self, contact: Point) -> &'a Part {
        let far = |at: Point| (at - contact).hypot2();
        let nearest = self.anchors().reduce(|best, next| if far(next.1) < far(best.1) - EQUAL { next } else { best });
        nearest.map_or(&self.hurt.carries.part, |(anchor, _)| &anchor.part)
    }
}

/// What a hit strikes.
#[derive(Clone, Copy, Debug)]
pub struct Struck<'a> {
    /// The shape, and how much of it.
    pub touched: Touched<'a>,
    /// The part.
    pub part: &'a Part,
}

impl<'a> Struck<'a> {
    /// The part's name, or that of the shape where it has none.
    pub fn part_name(&self) -> &'a str {
        self.part.name.as_deref().unwrap_or(&self.touched.hurt.name)
    }
}

/// Those of some hurt shapes of a pose that a hit overlaps, in their order; the hit's pivot lies at an offset from theirs.
///
/// # Complexity
/// O(h u), pieces of the hit and of the shapes; a box test decides for most.
pub fn touched<'a>(
    hit: &Shape,
    offset: Vec2,
    pose: &'a Pose,
    hurts: impl Iterator<Item = &'a Shape>,
) -> Vec<Touched<'a>> {
    let shared = |hurt: &'a Shape| {
        let SharedRegion { area, middle } = shared_region(&hit.pieces, offset, &hurt.pieces)?;
        Some(Touched { hurt, area, middle, pose })
    };
    hurts.filter_map(shared).collect()
}

/// Areas and squared distances that differ by less are equal: rounding must not settle what a rule is written for.
const EQUAL: f64 = 1e-9;

/// The one of several touched that is struck; `None` where there is none.
pub fn settled<'a>(settle: Settle, touched: &[Touched<'a>]) -> Option<Struck<'a>> {
    let is_less = |[a, b]: [f64; 2], [c, d]: [f64; 2]| a < c - EQUAL || (a <= c + EQUAL && b < d - EQUAL);
    // The first of equals.
    let least = |figure: &dyn Fn(&Touched<'_>) -> [f64; 2]| {
        touched.iter().reduce(|best, next| if is_less(figure(next), figure(best)) { next } else { best })
    };
    let whole: f64 = touched.iter().map(|one| one.area).sum();
    let sum = touched.iter().fold(Vec2::ZERO, |sum, one| sum + one.middle.to_vec2() * one.area);
    let contact = (sum / whole).to_point();
    let found = match settle {
        Settle::Order => touched.first(),
        Settle::Area => least(&|one| [0.0 - one.area, 0.0]),
        Settle::Nearest => least(&|one| [one.squared_distance(contact), 0.0 - one.area]),
    }?;
    Some(Struck { touched: *found, part: found.part(contact) })
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
        let pose = Pose::default();
        let all = touched(&hit, Vec2::ZERO, &pose, hurts.iter());
        settled(settle, &all).map_or_else(String::new, |one| one.part_name().to_string())
    }

    /// A tall shape with an anchor at its top and at its bottom, beside a small one: the nearest anchor names the part, and a shape is
    /// as far as its nearest anchor.
    #[test]
    fn the_anchor_nearest_to_the_contact_names_the_part() {
        let anchor = |anchor: &str, part: Option<&str>| PartAnchor {
            anchor: anchor.into(),
            part: Part { name: part.map(Into::into), ..Part::default() },
        };
        let mut tall = hurt("whole", Rect::new(0.0, 0.0, 10.0, 40.0));
        tall.carries.anchors = vec![anchor("skull", Some("head")), anchor("hip", None), anchor("gone", Some("tail"))];
        let tail = hurt("tail", Rect::new(10.0, 30.0, 14.0, 40.0));
        let anchors = vec![("hip".to_string(), Point::new(5.0, 38.0)), ("skull".to_string(), Point::new(5.0, 4.0))];
        let pose = Pose { shapes: vec![tall, tail], anchors, ..Pose::default() };
        let part = |settle: Settle, pose: &Pose, rect: Rect| {
            let hit = shape("blade", Role::Hit, rect, 0, Carried::default());
            let all = touched(&hit, Vec2::ZERO, pose, pose.shapes.iter());
            settled(settle, &all).map(|struck| struck.part_name().to_string()).unwrap_or_default()
        };
        for settle in Settle::ALL {
            assert_eq!(part(settle, &pose, Rect::new(-9.0, 0.0, 5.0, 20.0)), "head");
            assert_eq!(part(settle, &pose, Rect::new(-9.0, 22.0, 5.0, 30.0)), "whole", "the hip has no part");
            assert_eq!(part(settle, &pose.turned(&[]), Rect::new(-9.0, 0.0, 5.0, 20.0)), "head");
        }
        // The contact (7.54, 32.5) is 6.1 px from the hip and 2.5 px from the tail.
        let across = Rect::new(0.0, 30.0, 14.0, 35.0);
        assert_eq!(part(Settle::Area, &pose, across), "whole");
        assert_eq!(part(Settle::Nearest, &pose, across), "tail");
        assert_eq!(
            part(Settle::Nearest, &pose, Rect::new(0.0, 0.0, 1.0, 42.0)),
            "head",
            "equally far: the first listed"
        );
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
