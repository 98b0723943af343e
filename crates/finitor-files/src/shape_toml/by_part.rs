//! Rules that make a shape for each part.

use super::ShapeSpec;
use crate::parts_toml::PartColour;
use crate::toml_table::{At, Table, nearest};
use finitor_core::actor::{Carried, Part};
use finitor_core::fit::{FitGoal, Fitting, Kind, Source};

/// The shapes of a rule that is by part, one a part; any other shape as it is.
pub(super) fn shapes(shape: ShapeSpec, parts: &[PartColour]) -> Vec<ShapeSpec> {
    if shape.siblings.is_none() {
        return vec![shape];
    }
    let Source::Fitted(fitting) = &shape.source else { return vec![shape] };
    let mut shapes: Vec<ShapeSpec> = Vec::new();
    let chosen = |row: &&PartColour| {
        shape.claim.part_names.as_ref().is_none_or(|names| names.iter().any(|name| name.value == row.part))
    };
    for row in parts.iter().filter(chosen) {
        // What another part has is never this part's, unless both may have it.
        let others = parts.iter().filter(|other| other.part != row.part && !shape.may_overlap);
        let spared = others.map(|other| other.colour).collect();
        let mut fitting = Fitting { paint: vec![row.colour], spared, ..fitting.clone() };
        if let Some(known) = shapes.iter_mut().find(|known| known.name == row.part) {
            if let Source::Fitted(known) = &mut known.source {
                known.paint.append(&mut fitting.paint);
            }
            continue;
        }
        shapes.push(ShapeSpec {
            name: row.part.clone(),
            source: Source::Fitted(fitting),
            carries: Carried {
                part: Part {
                    name: Some(row.part.clone()),
                    group: row.group.clone(),
                    factor: row.factor,
                    is_vital: row.is_vital,
                },
                ..shape.carries.clone()
            },
            ..shape.clone()
        });
    }
    shapes
}

/// Notes parts that do not exist, and rules without any [parts].
pub(super) fn check(top: &Table<'_>, tables: &[(At<String>, Table<'_>)], shapes: &[ShapeSpec], parts: &[PartColour]) {
    for shape in shapes {
        // Once for each rule: its first shape.
        let first = shapes.iter().find(|other| other.siblings == shape.siblings).is_some_and(|f| f.name == shape.name);
        let asked = shape.claim.part_names.iter().flatten().filter(|_| first);
        for name in asked.filter(|name| !parts.iter().any(|row| row.part == name.value)) {
            let known: Vec<&str> = parts.iter().map(|row| row.part.as_str()).collect();
            let hint = nearest(&name.value, &known).map(|near| format!("did you mean \"{near}\"?"));
            top.wrong(name.span.clone(), format!("[parts] has no part \"{}\"", name.value), hint);
        }
    }
    for (name, table) in tables {
        if table.has("by_part") && parts.is_empty() {
            let message = format!("shape `{}` is by part, but there is no [parts]", name.value);
            let hint =
                "add [parts] with a line a colour: \"#d9a066\" = { part = \"head\", group = \"upper\", factor = 3.0 }";
            top.wrong(table.value_span("by_part"), message, Some(hint.into()));
        }
    }
}

/// The key `by_part`.
pub(super) struct ByPart {
    /// The parts it names; all where `None`.
    pub(super) names: Option<Vec<At<String>>>,
}

/// Reads `by_part`; `None` where the shape is one for itself.
pub(super) fn read(table: &Table<'_>) -> Option<ByPart> {
    let by_part = match table.is_list("by_part") {
        true => Some(ByPart { names: table.strings("by_part", "[\"head\"]") }),
        false => table.boolean("by_part").filter(|by_part| by_part.value).map(|_| ByPart { names: None }),
    };
    if by_part.is_some() {
        no_part_keys(table);
    }
    by_part
}

/// What a shape by part may not say, since its parts do.
fn no_part_keys(table: &Table<'_>) {
    for key in ["part", "group", "factor", "paint"] {
        if table.has(key) {
            let message = format!("`{key}` and `by_part` cannot be given together: [parts] sets it for each colour");
            table.wrong(table.value_span(key), message, Some("drop one of them".into()));
        }
    }
    if !table.has("kind") {
        table.missing("kind", "\"hull\"");
    }
}

/// Shapes by part that may not overlap are of kinds that can be cut where parts meet, or lie inside their own pixels.
pub(super) fn keep_apart(table: &Table<'_>, fitting: &mut Fitting) {
    let hint = "or say `siblings_overlap = true`";
    match fitting.kind {
        Kind::Box | Kind::Hull => {}
        Kind::Outline | Kind::Pieces if !table.has("fit") => fitting.goal = FitGoal::Inside,
        Kind::Outline | Kind::Pieces if fitting.goal == FitGoal::Inside => {}
        Kind::Outline | Kind::Pieces => {
            let message = "outlines that cover or balance reach into the parts beside them";
            table.wrong(table.value_span("fit"), message, Some(format!("take fit = \"inside\", {hint}")));
        }
        Kind::Circle | Kind::Capsule | Kind::Auto => {
            let message = format!("parts of kind \"{}\" cannot be cut where they meet", fitting.kind.name());
            let hint = format!("take \"hull\", \"box\", \"outline\" or \"pieces\", {hint}");
            table.wrong(table.value_span("kind"), message, Some(hint));
        }
    }
}
