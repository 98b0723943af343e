//! `[parts]` and `[factors]`: what the colours of part maps stand for.

use crate::toml_table::{Table, nearest};
use finitor_core::actor::Part;
use finitor_core::art::Colour;
use std::ops::Range;

/// A colour of the part map and what it stands for.
#[derive(Clone, Debug)]
pub struct PartColour {
    /// The colour.
    pub colour: Colour,
    /// The body part; several colours may be one part.
    pub part: String,
    /// The family of parts.
    pub group: Option<String>,
    /// What damage is multiplied by.
    pub factor: Option<f64>,
    /// Whether a hit on it is the end, whatever its damage.
    pub is_vital: bool,
    pub(crate) span: Range<usize>,
}

/// What a hit on a part does.
#[derive(Clone, Copy, Debug, Default)]
struct Factor {
    /// What damage is multiplied by.
    times: Option<f64>,
    /// Whether it is the end, whatever the damage: `factor = "all"`.
    is_vital: bool,
}

/// Reads `factor`.
fn factor(table: &Table<'_>) -> Factor {
    if table.is_string("factor") {
        return Factor { times: None, is_vital: table.word("factor", &[("all", ())]).is_some() };
    }
    Factor { times: table.number("factor", "1.0` or `factor = \"all\"").map(|factor| factor.value), is_vital: false }
}

/// Reads the keys of a part: `part`, `group` and `factor`.
pub(crate) fn part(table: &Table<'_>) -> Part {
    let text = |key, example| table.string(key, example).map(|text| text.value);
    let (name, group) = (text("part", "\"head\""), text("group", "\"upper\""));
    let Factor { times: factor, is_vital } = factor(table);
    Part { name, group, factor, is_vital }
}

/// Reads both tables.
pub(crate) fn parts(top: &Table<'_>) -> Vec<PartColour> {
    let mut rows: Vec<PartColour> = Vec::new();
    for (name, table) in top.named("parts") {
        let colour = Colour::parse(&name.value);
        if colour.is_none() {
            let hint =
                "write six hex digits of the part map's colour as the key, such as \"#d9a066\" = { part = \"head\" }";
            top.wrong(name.span.clone(), format!("\"{}\" is not a colour", name.value), Some(hint.into()));
        }
        let part = table.required_string("part", "\"head\"");
        let group = table.string("group", "\"upper\"").map(|group| group.value);
        let Factor { times: factor, is_vital } = factor(&table);
        table.finish();
        let (Some(colour), Some(part)) = (colour, part) else { continue };
        crate::names::check_name(top, &part, "a part");
        let is_same = |row: &PartColour| (&row.group, row.factor, row.is_vital) == (&group, factor, is_vital);
        let twin = rows.iter().find(|row| row.part == part.value && !is_same(row));
        if twin.is_some() {
            let message = format!("part \"{}\" has another group or factor above", part.value);
            top.wrong(part.span.clone(), message, Some("give all its colours the same".into()));
        }
        rows.push(PartColour { colour, part: part.value, group, factor, is_vital, span: name.span });
    }
    factors(top, &mut rows);
    rows
}

/// `[factors]`: by part or by group; a part's own comes first.
fn factors(top: &Table<'_>, rows: &mut [PartColour]) {
    let given = top.named_numbers("factors", "3.0");
    for by_part in [true, false] {
        for (name, factor) in &given {
            let named = |row: &PartColour| {
                if by_part { row.part == name.value } else { row.group.as_ref() == Some(&name.value) }
            };
            rows.iter_mut()
                .filter(|row| named(row) && row.factor.is_none() && !row.is_vital)
                .for_each(|row| row.factor = Some(factor.value));
        }
    }
    for (name, _) in &given {
        let known = |row: &PartColour| row.part == name.value || row.group.as_ref() == Some(&name.value);
        if !rows.iter().any(known) {
            let names: Vec<&str> =
                rows.iter().flat_map(|row| [Some(row.part.as_str()), row.group.as_deref()]).flatten().collect();
            let message = format!("there is no part or group \"{}\" in [parts]", name.value);
            let hint = nearest(&name.value, &names).map(|near| format!("did you mean \"{near}\"?"));
            let hint = hint.or_else(|| Some(format!("there are: {}", names.join(", "))));
            top.wrong(name.span.clone(), message, hint);
        }
    }
}

/// Notes colours that no part map has.
pub(crate) fn check_colours(top: &Table<'_>, rows: &[PartColour], seen: &[Colour]) {
    for row in rows.iter().filter(|row| !seen.contains(&row.colour)) {
        let message = format!("no opaque pixel has the colour {} ({}) in the part maps", row.colour, row.part);
        let apart = |other: &Colour| -> u32 {
            row.colour.0.iter().zip(other.0).map(|(a, b)| u32::from(a.abs_diff(b)).pow(2)).sum()
        };
        let hint = match seen.iter().min_by_key(|other| (apart(other), **other)) {
            Some(near) => format!("the nearest colour there is {near}"),
            None => {
                "the part maps have no opaque pixel over the art; add `parts = \"NAME.parts.png\"` to the [[sheet]]"
                    .into()
            }
        };
        top.wrong(row.span.clone(), message, Some(hint));
    }
}
