//! Pivots as they are written down.

use crate::toml_table::{At, Table};
use finitor_core::Point;

/// How a pivot is given.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum PivotSpec {
    /// One place on every frame, cell px.
    At(Point),
    /// A place a frame.
    Each(Vec<Point>),
    /// Bottom centre of the opaque pixels.
    Feet,
    /// The middle of the cell.
    Centre,
}

/// Reads `pivot`.
pub(crate) fn pivot_spec(table: &Table<'_>) -> Option<At<PivotSpec>> {
    let words = [("feet", ()), ("centre", ())];
    if table.is_string("pivot") {
        let text = table.string("pivot", "\"feet\"")?;
        let spec = if text.value == "centre" { PivotSpec::Centre } else { PivotSpec::Feet };
        return table.word("pivot", &words).map(|_| At { value: spec, span: text.span });
    }
    let point = |[x, y]: [f64; 2]| Point::new(x, y);
    if table.is_list_of_lists("pivot") {
        let points = table.points("pivot")?;
        let each = points.value.into_iter().map(point).collect();
        return Some(At { value: PivotSpec::Each(each), span: points.span });
    }
    let at = table.numbers::<2>("pivot", "[24, 46]` or `pivot = \"feet\"")?;
    Some(At { value: PivotSpec::At(point(at.value)), span: at.span })
}
