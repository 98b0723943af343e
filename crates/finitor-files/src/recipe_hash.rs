//! The hash that tells whether a shape's recipe, or the art it was fitted to, changed since the last fit.
//!
//! The bytes that are hashed are written down here value by value, so that renaming a field or a variant marks no fit
//! stale. Each value is a tag byte that says which it is, then its payload in little-endian order. A value at its
//! default writes nothing: a key that is added later leaves the hashes of all recipes that do not use it as they were.
//!
//! A change of meaning (the same recipe fits another shape) needs another [`VERSION`].

use crate::actor_toml::ActorFile;
use crate::shape_toml::ShapeSpec;
use crate::survey::short_hash;
use finitor_core::Facing;
use finitor_core::fit::{
    Along, Angle, BandSide, FitGoal, Fitting, Forgiving, Given, Kind, Region, Share, Side, Sides, Source, StripEnds,
    Tidying,
};

/// Of the encoding; hashed first.
const VERSION: &[u8] = b"finitor.recipe/1";

/// The hash of all that decides the geometry a shape has on some frames: the recipe, the pivots and the frames' art.
pub(crate) fn recipe_hash(actor: &ActorFile, shape: &ShapeSpec, frames: &[usize]) -> String {
    let mut bytes = Bytes(VERSION.to_vec());
    bytes.source(&shape.source);
    bytes.tag(match actor.faces(frames[0]) {
        Facing::Right => 0,
        Facing::Left => 1,
    });
    let mut last = None;
    for pivot in frames.iter().map(|frame| actor.frames[*frame].pivot) {
        // Frames that share a pivot name it once.
        if last.replace(pivot) != Some(pivot) {
            bytes.numbers(&[pivot.x, pivot.y]);
        }
    }
    if let Some(base) = shape.like.as_ref().and_then(|like| actor.shapes.iter().find(|s| s.name == *like)) {
        bytes.text(&recipe_hash(actor, base, &base.frames));
    }
    if shape.siblings.is_some() && !shape.may_overlap {
        // Siblings are cut where they meet, so each depends on all.
        for row in &actor.parts {
            bytes.raw(&row.colour.0);
            bytes.text(&row.part);
        }
    }
    match &shape.source {
        Source::Fitted(_) => frames.iter().for_each(|frame| bytes.text(&actor.frames[*frame].art_hash)),
        Source::Along(along) => {
            if let Some(base) = actor.shapes.iter().find(|s| s.name == along.shape) {
                bytes.text(&recipe_hash(actor, base, frames));
            }
        }
        Source::Given(_) => {}
    }
    short_hash(&bytes.0)
}

/// Bytes to be hashed.
struct Bytes(Vec<u8>);

impl Bytes {
    fn raw(&mut self, bytes: &[u8]) {
        self.0.extend(bytes);
    }

    fn tag(&mut self, tag: u8) {
        self.0.push(tag);
    }

    fn count(&mut self, count: usize) {
        self.raw(&(count as u64).to_le_bytes());
    }

    /// Its length, then its UTF-8.
    fn text(&mut self, text: &str) {
        self.count(text.len());
        self.raw(text.as_bytes());
    }

    /// IEEE 754 doubles; -0 is 0.
    fn numbers(&mut self, numbers: &[f64]) {
        numbers.iter().for_each(|number| self.raw(&(number + 0.0).to_le_bytes()));
    }

    /// A number that writes nothing at its default.
    fn number_unless(&mut self, tag: u8, number: f64, default: f64) {
        if number != default {
            self.tag(tag);
            self.numbers(&[number]);
        }
    }

    fn whole_unless(&mut self, tag: u8, number: u64, default: u64) {
        if number != default {
            self.tag(tag);
            self.raw(&number.to_le_bytes());
        }
    }

    fn flag(&mut self, tag: u8, is_set: bool) {
        if is_set {
            self.tag(tag);
        }
    }

    fn option(&mut self, tag: u8, number: Option<f64>) {
        if let Some(number) = number {
            self.tag(tag);
            self.numbers(&[number]);
        }
    }

    fn source(&mut self, source: &Source) {
        match source {
            Source::Fitted(fitting) => {
                self.tag(1);
                self.fitting(fitting);
            }
            Source::Given(given) => {
                self.tag(2);
                self.given(given);
            }
            Source::Along(Along { shape, side, depth, inset, ends }) => {
                self.tag(3);
                self.text(shape);
                self.tag(match side {
                    Side::Below => 0,
                    Side::Above => 1,
                    Side::Ahead => 2,
                    Side::Behind => 3,
                });
                self.numbers(&[*depth, *inset]);
                self.flag(1, *ends == StripEnds::Shape);
            }
        }
    }

    fn given(&mut self, given: &Given) {
        match given {
            Given::Box(numbers) => {
                self.tag(0);
                self.numbers(numbers);
            }
            Given::Circle(numbers) => {
                self.tag(1);
                self.numbers(numbers);
            }
            Given::Capsule(numbers) => {
                self.tag(2);
                self.numbers(numbers);
            }
            Given::Points(points) => {
                self.tag(3);
                self.count(points.len());
                points.iter().for_each(|point| self.numbers(&[point.x, point.y]));
            }
        }
    }

    fn fitting(&mut self, fitting: &Fitting) {
        // Taken apart by name, so that a new field must be given its bytes here.
        let Fitting {
            kind,
            goal,
            share,
            alpha,
            region,
            paint,
            spared,
            tidying,
            tolerance,
            max_points,
            max_piece_points,
            angle,
            sides,
            symmetric,
            grounded,
            snap,
            presence,
            min_iou,
            forgiving: Forgiving { top, front },
        } = fitting;
        self.raw(&[kind_tag(*kind), goal_tag(*goal), share_tag(*share), *alpha]);
        self.region(region.as_ref());
        for (tag, colours) in [(16, paint), (17, spared)] {
            if !colours.is_empty() {
                self.tag(tag);
                self.count(colours.len());
                colours.iter().for_each(|colour| self.raw(&colour.0));
            }
        }
        self.tidying(tidying);
        self.numbers(&[*tolerance]);
        if let Some(most) = max_points {
            self.tag(18);
            self.count(*most);
        }
        self.count(*max_piece_points);
        self.whole_unless(
            19,
            match angle {
                Angle::Square => 0,
                Angle::Upright => 1,
                Angle::Lying => 2,
                Angle::Any => 3,
            },
            0,
        );
        self.sides(sides);
        self.flag(20, *symmetric);
        self.flag(21, *grounded);
        self.option(22, *snap);
        self.number_unless(23, *presence, 0.0);
        self.numbers(&[*min_iou]);
        self.number_unless(24, *top, 0.0);
        self.number_unless(25, *front, 0.0);
    }

    fn region(&mut self, region: Option<&Region>) {
        match region {
            None => {}
            Some(Region::Box(numbers)) => {
                self.tag(32);
                self.numbers(numbers);
            }
            Some(Region::Band(side, share)) => {
                self.tag(33);
                self.tag(match side {
                    BandSide::Top => 0,
                    BandSide::Bottom => 1,
                    BandSide::Left => 2,
                    BandSide::Right => 3,
                });
                self.numbers(&[*share]);
            }
        }
    }

    fn tidying(&mut self, tidying: &Tidying) {
        let Tidying { min_island, largest, min_hole, min_thickness, min_thickness_share, close_gaps, inset, outset } =
            tidying;
        self.whole_unless(48, *min_island, 0);
        self.flag(49, *largest);
        self.whole_unless(50, *min_hole, u64::MAX);
        self.whole_unless(51, u64::from(*min_thickness), 0);
        self.number_unless(52, *min_thickness_share, 0.0);
        self.whole_unless(53, u64::from(*close_gaps), 0);
        self.number_unless(54, *inset, 0.0);
        self.number_unless(55, *outset, 0.0);
    }

    fn sides(&mut self, sides: &Sides) {
        let Sides { left, top, right, bottom, width, height, radius, axis } = *sides;
        for (tag, side) in (64..).zip([left, top, right, bottom, width, height, radius, axis]) {
            self.option(tag, side);
        }
    }
}

fn kind_tag(kind: Kind) -> u8 {
    match kind {
        Kind::Box => 0,
        Kind::Circle => 1,
        Kind::Capsule => 2,
        Kind::Hull => 3,
        Kind::Outline => 4,
        Kind::Pieces => 5,
        Kind::Auto => 6,
    }
}

fn goal_tag(goal: FitGoal) -> u8 {
    match goal {
        FitGoal::Cover => 0,
        FitGoal::Inside => 1,
        FitGoal::Balance => 2,
    }
}

fn share_tag(share: Share) -> u8 {
    match share {
        Share::Frame => 0,
        Share::Animation => 1,
        Share::Actor => 2,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use finitor_core::art::Colour;

    fn hash(source: &Source) -> String {
        let mut bytes = Bytes(VERSION.to_vec());
        bytes.source(source);
        short_hash(&bytes.0)
    }

    /// These are in users' fits files: whoever changes one marks all fits of the world stale.
    #[test]
    fn the_hashes_of_known_recipes_stay_as_they_are() {
        let body = Fitting { symmetric: true, snap: Some(0.5), ..Fitting::of(Kind::Capsule) };
        let head = Fitting { paint: vec![Colour([217, 160, 102])], ..Fitting::of(Kind::Hull) };
        let along = Along { shape: "body".into(), side: Side::Below, depth: 2.0, inset: 1.0, ends: StripEnds::Box };
        let hashes = [
            hash(&Source::Fitted(Fitting::of(Kind::Outline))),
            hash(&Source::Fitted(body)),
            hash(&Source::Fitted(head)),
            hash(&Source::Given(Given::Box([1.0, 2.0, 3.0, 4.0]))),
            hash(&Source::Along(along)),
        ];
        assert_eq!(hashes, KNOWN);
    }

    const KNOWN: [&str; 5] =
        ["4b8f487ca0fd8af7", "34190e4be549f7dd", "b0140987312d08ce", "f4ff7282c4caa0c4", "704a32f3e2825fda"];

    #[test]
    fn every_field_of_a_recipe_changes_its_hash() {
        let of = || Fitting::of(Kind::Box);
        let tidy = |tidying: Tidying| Fitting { tidying, ..of() };
        let tidying = Tidying::default();
        let all = [
            of(),
            Fitting::of(Kind::Capsule),
            Fitting { goal: FitGoal::Cover, ..of() },
            Fitting { share: Share::Actor, ..of() },
            Fitting { alpha: 1, ..of() },
            Fitting { region: Some(Region::Box([0.0, 0.0, 8.0, 8.0])), ..of() },
            Fitting { region: Some(Region::Band(BandSide::Bottom, 0.5)), ..of() },
            Fitting { paint: vec![Colour([1, 2, 3])], ..of() },
            Fitting { spared: vec![Colour([1, 2, 3])], ..of() },
            tidy(Tidying { min_island: 3, ..tidying }),
            tidy(Tidying { largest: true, ..tidying }),
            tidy(Tidying { min_hole: 3, ..tidying }),
            tidy(Tidying { min_thickness: 3, ..tidying }),
            tidy(Tidying { min_thickness_share: 0.5, ..tidying }),
            tidy(Tidying { close_gaps: 3, ..tidying }),
            tidy(Tidying { inset: 1.0, ..tidying }),
            tidy(Tidying { outset: 1.0, ..tidying }),
            Fitting { tolerance: 2.0, ..of() },
            Fitting { max_points: Some(8), ..of() },
            Fitting { max_piece_points: 6, ..of() },
            Fitting { angle: Angle::Any, ..of() },
            Fitting { sides: Sides { left: Some(1.0), ..Sides::default() }, ..of() },
            Fitting { sides: Sides { top: Some(1.0), ..Sides::default() }, ..of() },
            Fitting { symmetric: true, ..of() },
            Fitting { grounded: true, ..of() },
            Fitting { snap: Some(1.0), ..of() },
            Fitting { presence: 0.5, ..of() },
            Fitting { min_iou: 0.9, ..of() },
            Fitting { forgiving: Forgiving { top: 1.0, front: 0.0 }, ..of() },
            Fitting { forgiving: Forgiving { top: 0.0, front: 1.0 }, ..of() },
        ];
        let mut hashes: Vec<String> = all.iter().map(|fitting| hash(&Source::Fitted(fitting.clone()))).collect();
        hashes.sort();
        hashes.dedup();
        assert_eq!(hashes.len(), all.len());
        let minus = Fitting { min_iou: -0.0, ..of() };
        assert_eq!(hash(&Source::Fitted(minus)), hash(&Source::Fitted(Fitting { min_iou: 0.0, ..of() })), "-0 is 0");
    }
}
