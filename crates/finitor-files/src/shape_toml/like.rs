//! Shapes that keep the width and foot of another.

use super::{HeightFrom, ShapeSpec};
use crate::toml_table::{Table, nearest};
use finitor_core::fit::{Fitting, Forgiving, Share, Source};

/// Gives shapes that are like another that one's recipe where they have none of their own.
pub(super) fn resemble(top: &Table<'_>, shapes: &mut [ShapeSpec]) {
    let known = shapes.to_vec();
    for shape in shapes.iter_mut() {
        let Some(like) = &shape.like else { continue };
        let wrong = |message: String, hint: String| top.wrong(shape.claim.along_span.clone(), message, Some(hint));
        let Some(base) = known.iter().find(|base| base.name == *like) else {
            let names: Vec<&str> = known.iter().map(|base| base.name.as_str()).collect();
            let near = nearest(like, &names)
                .map_or_else(|| "name another shape".into(), |near| format!("did you mean \"{near}\"?"));
            wrong(format!("there is no shape \"{like}\" to be like"), near);
            continue;
        };
        let one_size = match &base.source {
            Source::Fitted(fitting) => fitting.share == Share::Actor && base.like.is_none(),
            Source::Given(_) => true,
            Source::Along(_) => false,
        };
        if !one_size {
            let hint = format!("give [shape.{like}] share = \"actor\"");
            wrong(format!("\"{like}\" has not one size whose width and foot could be kept"), hint);
            continue;
        }
        if let (false, Source::Fitted(fitting)) = (shape.claim.has_kind, &base.source) {
            let forgiving = Forgiving { front: 0.0, ..fitting.forgiving };
            shape.source = Source::Fitted(Fitting { forgiving, ..fitting.clone() });
        }
        shape.is_usual = false;
    }
}

pub(super) fn height_from(table: &Table<'_>) -> Option<HeightFrom> {
    let thing = table.string("height_from", "\"pier/crawl\"");
    let clearance = table.number_from("clearance", 0.0, "1");
    let Some(thing) = thing else {
        if let Some(clearance) = clearance {
            let hint = "add `height_from = \"STAGE/THING\"`, or drop it";
            table.wrong(clearance.span, "`clearance` is for `height_from`", Some(hint.into()));
        }
        return None;
    };
    if !table.has("like") {
        let hint = "add `like = \"body\"`, whose width and foot it keeps";
        table.wrong(thing.span.clone(), "`height_from` needs `like`", Some(hint.into()));
    }
    let clearance_milli = clearance.map_or(0, |clearance| (clearance.value * 1000.0).round() as i64);
    Some(HeightFrom { thing: thing.value, clearance_milli, place: table.place(thing.span) })
}
