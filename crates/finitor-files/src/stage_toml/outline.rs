//! Names and outlines of things, one by one or repeated.

use super::set_piece::set_piece;
use crate::names::check_name;
use crate::thick_line::thick;
use crate::tiles_toml::Place;
use crate::toml_table::{At, Table};
use finitor_core::fit::{Given, given_shape};
use finitor_core::stage::Outline;
use finitor_core::{Point, Polygon, Vec2};

/// Copies of a thing at most.
const MOST_COPIES: i64 = 10_000;

/// The names and outlines of what a table describes: one, or with `repeat` several, named `NAME_1` and so on. What has no
/// name is called by its sort and its place in the file: `solid_3`.
pub(super) fn things(
    table: &Table<'_>,
    (sort, number): (&str, usize),
    place: Place<'_>,
    names: &mut Vec<String>,
) -> Vec<(String, Outline)> {
    let name = table.string("name", &format!("\"{sort}_1\""));
    if let Some(name) = &name {
        check_name(table, name, &format!("a {sort}"));
    }
    let repeat = table.table("repeat").map(|repeat| {
        if !repeat.has("count") {
            repeat.missing("count", "4");
        }
        let count = repeat.integer("count", 1..MOST_COPIES + 1, "4").map_or(1, |count| count.value);
        if !repeat.has("step") {
            repeat.missing("step", "[32, 0]");
        }
        let step = repeat.numbers::<2>("step", "[32, 0]").map_or([0.0; 2], |step| step.value);
        repeat.finish();
        (count, Vec2::new(step[0], step[1]))
    });
    let outlines = outlines(table, place);
    let name = name.unwrap_or_else(|| At { value: format!("{sort}_{number}"), span: table.span.clone() });
    let mut found = Vec::new();
    for copy in 0..repeat.map_or(1, |(count, _)| count) {
        let (own, by) = match repeat {
            Some((_, step)) => (format!("{}_{}", name.value, copy + 1), step * copy as f64),
            None => (name.value.clone(), Vec2::ZERO),
        };
        // Also where the outline is wrong, so that what leads there is not told as well.
        for island in 0..outlines.len().max(1) {
            let own = if outlines.len() > 1 { format!("{own}_{}", island + 1) } else { own.clone() };
            if names.contains(&own) {
                table.wrong(name.span.clone(), format!("\"{own}\" is the name of another thing on this stage"), None);
                return found;
            }
            names.push(own.clone());
            found.extend(outlines.get(island).map(|polygon| (own, Outline::from(polygon.translated(by)))));
        }
    }
    found
}

/// The outlines that a table gives: one, or of art one an island.
fn outlines(table: &Table<'_>, place: Place<'_>) -> Vec<Polygon> {
    let art = set_piece(table, place);
    let others = ["box", "circle", "points", "chain"];
    match (table.has("art"), others.iter().find(|key| table.has(key))) {
        (true, Some(other)) => {
            let message = format!("give one of art and {other}, not both");
            table.wrong(table.value_span(other), message, None);
            table.note_known(&[others[0], others[1], others[2], others[3], "thickness"]);
            Vec::new()
        }
        (true, None) => art.unwrap_or_default(),
        (false, _) => outline(table).into_iter().collect(),
    }
}

fn outline(table: &Table<'_>) -> Option<Polygon> {
    let boxed = table.numbers::<4>("box", "[0, 280, 240, 80]").map(|n| At { value: Given::Box(n.value), span: n.span });
    let circle =
        table.numbers::<3>("circle", "[100, 100, 24]").map(|n| At { value: Given::Circle(n.value), span: n.span });
    let points = table.points("points").map(|points| {
        let corners = points.value.into_iter().map(|[x, y]| Point::new(x, y)).collect();
        At { value: Given::Points(corners), span: points.span }
    });
    let chain = table.points("chain");
    let thickness = table.number_from("thickness", 0.01, "4");
    if let (Some(thickness), None) = (&thickness, &chain) {
        table.wrong(
            thickness.span.clone(),
            "`thickness` goes with a `chain`",
            Some("add chain = [[0, 0], [64, 16]]".into()),
        );
    }
    let mut given: Vec<At<Given>> = [boxed, circle, points].into_iter().flatten().collect();
    if let Some(chain) = chain {
        if !table.has("thickness") {
            table.missing("thickness", "4");
        }
        match thick(&chain.value, thickness?.value) {
            Ok(corners) => given.push(At { value: Given::Points(corners), span: chain.span }),
            Err(reason) => {
                let hint = "leave points out that lie on each other, or part the chain where it turns back";
                table.wrong(chain.span, reason, Some(hint.into()));
                return None;
            }
        }
    }
    match given.as_slice() {
        [only] => match given_shape(&only.value) {
            Ok(geometry) => geometry.polygons.into_iter().next(),
            Err(error) => {
                table.wrong(only.span.clone(), format!("not a valid shape: {error}"), None);
                None
            }
        },
        [] => {
            if !["box", "circle", "points", "chain"].iter().any(|key| table.has(key)) {
                table.missing("box", "[0, 280, 240, 80]");
            }
            None
        }
        [_, second, ..] => {
            table.wrong(second.span.clone(), "give one of box, circle, points and chain, not several", None);
            None
        }
    }
}
