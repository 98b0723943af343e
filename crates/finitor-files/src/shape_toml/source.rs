//! How a shape is made: fitted, given, or a strip along another.

use crate::recipe_toml::{FITTING_KEYS, fitting, usual_body};
use crate::thick_line::thick;
use crate::toml_table::{At, Table, cannot_be_given_together};
use finitor_core::Point;
use finitor_core::fit::{Along, Fitting, Given, Kind, Side, Source, StripEnds, given_shape};

pub(super) const SIDES: [(&str, Side); 4] =
    [("below", Side::Below), ("above", Side::Above), ("ahead", Side::Ahead), ("behind", Side::Behind)];

const ENDS: [(&str, StripEnds); 2] = [("box", StripEnds::Box), ("shape", StripEnds::Shape)];

/// Keys that say where a shape's geometry comes from.
pub(super) const WAYS: [&str; 8] = ["kind", "box", "circle", "capsule", "points", "point", "line", "along"];

pub(super) fn has_source(table: &Table<'_>) -> bool {
    WAYS.iter().any(|key| table.has(key))
}

pub(super) fn source(table: &Table<'_>, open: bool) -> Option<Source> {
    let used: Vec<&str> = WAYS.into_iter().filter(|key| table.has(key)).collect();
    match used.as_slice() {
        ["kind"] => fitting(table, Fitting::of(Kind::Auto)).map(Source::Fitted),
        ["along"] => along(table).map(Source::Along),
        [_] => given(table).map(Source::Given),
        [] if open => fitting(table, usual_body()).map(Source::Fitted),
        [] => {
            table.note_known(&WAYS);
            table.note_known(&FITTING_KEYS);
            let message = "the shape says neither how to fit it nor what it is";
            let hint = "add `kind = \"box\"`, or give it outright: box, circle, capsule, points, point, line or along";
            table.wrong(table.span.clone(), message, Some(hint.into()));
            None
        }
        several => {
            table.note_known(&WAYS);
            table.note_known(&FITTING_KEYS);
            table.wrong(table.span.clone(), cannot_be_given_together(several), None);
            None
        }
    }
}

pub(super) fn given(table: &Table<'_>) -> Option<Given> {
    let boxed = table.numbers::<4>("box", "[16, 10, 16, 36]").map(|n| (Given::Box(n.value), n.span));
    let circle = table.numbers::<3>("circle", "[24, 20, 8]").map(|n| (Given::Circle(n.value), n.span));
    let capsule = table.numbers::<5>("capsule", "[24, 18, 24, 38, 8]").map(|n| (Given::Capsule(n.value), n.span));
    let points = table
        .points("points")
        .map(|points| (Given::Points(points.value.into_iter().map(|[x, y]| Point::new(x, y)).collect()), points.span));
    let point = table.numbers::<2>("point", "[40, 18]").map(|n| (square(n.value), n.span));
    let line = table.numbers::<5>("line", "[24, 18, 40, 18, 2]");
    let line = line.and_then(|n| Some((stroke(table, &n)?, n.span)));
    let (given, span) = boxed.or(circle).or(capsule).or(points).or(point).or(line)?;
    if let Err(error) = given_shape(&given) {
        table.wrong(span, format!("not a valid shape: {error}"), None);
        return None;
    }
    Some(given)
}

/// Points and lines without thickness are this wide, px: what has no area overlaps nothing.
const HAIR: f64 = 1.0 / 64.0;

/// A point, as a square of a hair's width round it.
fn square([x, y]: [f64; 2]) -> Given {
    Given::Box([x - HAIR / 2.0, y - HAIR / 2.0, HAIR, HAIR])
}

/// A straight line of some thickness.
fn stroke(table: &Table<'_>, line: &At<[f64; 5]>) -> Option<Given> {
    let [x0, y0, x1, y1, thickness] = line.value;
    let outline = match thickness {
        below if below < 0.0 => Err("the thickness is below 0".to_string()),
        thickness => thick(&[[x0, y0], [x1, y1]], thickness.max(HAIR)),
    };
    match outline {
        Ok(corners) => Some(Given::Points(corners)),
        Err(reason) => {
            let hint = "give two ends and a thickness, such as `line = [24, 18, 40, 18, 2]`".to_string();
            table.wrong(line.span.clone(), format!("not a valid line: {reason}"), Some(hint));
            None
        }
    }
}

pub(super) fn along(table: &Table<'_>) -> Option<Along> {
    let shape = table.string("along", "\"body\"")?;
    if !table.has("side") {
        table.missing("side", "\"below\"");
    }
    let side = table.word("side", &SIDES)?;
    let depth = table.number_from("depth", 0.01, "2").map_or(2.0, |depth| depth.value);
    let inset = table.number_from("inset", 0.0, "1").map_or(0.0, |inset| inset.value);
    let ends = table.word("ends", &ENDS).map_or(StripEnds::Box, |ends| ends.value);
    Some(Along { shape: shape.value, side: side.value, depth, inset, ends })
}
