//! `layers --by shape`: everything that has a layer or a mask, and what it acts with.

use crate::cli::Format;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::Failure;
use finitor_app::parties;
use finitor_app::results::LayersByShape;
use finitor_core::layers::PartyRole;
use finitor_core::lint::{LayerParty, OwnerKind};
use std::io::Write;

/// Shows the table.
pub(super) fn show(
    session: &Session<'_>,
    states: &[String],
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let layers = &session.project.layers;
    let all = parties(layers, &session.select(&[])?, &session.stages()?, states);
    let list = LayersByShape::new(layers, &all, states);
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&list)?)?,
        Format::Csv => write_rows(&list, out)?,
        Format::Table => write_table(&list, &all, states, out)?,
    }
    Ok(())
}

fn write_rows(list: &LayersByShape, out: &mut dyn Write) -> Result<(), Failure> {
    let header = ["thing", "role", "layer", "on", "mask", "hex", "detects", "affects"].map(String::from);
    let lines = list.things.iter().map(|thing| {
        vec![
            thing.name.clone(),
            thing.role.clone(),
            thing.layer.to_string(),
            thing.on.join(" "),
            thing.mask.to_string(),
            format!("{:#x}", thing.mask),
            thing.detects.join(" "),
            thing.affects.join(" "),
        ]
    });
    write_csv(&header, lines, out)
}

fn write_table(
    list: &LayersByShape,
    parties: &[LayerParty],
    states: &[String],
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let of_actors = list.things.iter().zip(parties).filter(|(_, party)| party.of == OwnerKind::Actor);
    let idle: Vec<&str> =
        of_actors.filter(|(thing, _)| thing.affects.is_empty()).map(|(thing, _)| thing.name.as_str()).collect();
    let during = if states.is_empty() { String::new() } else { format!(" while {}", states.join(" and ")) };
    let verdict = match idle.as_slice() {
        [] => "each has an effect on something".to_string(),
        _ => format!("{} have no effect on anything", idle.join(", ")),
    };
    writeln!(out, "{} shapes and things{during}; {verdict}.\n", list.things.len())?;
    let or_dash = |words: String| if words.is_empty() { "-".to_string() } else { words };
    let lines = list.things.iter().map(|thing| {
        let on = if thing.role == PartyRole::Zone.name() { "-".into() } else { or_dash(thing.on.join(", ")) };
        vec![
            thing.name.clone(),
            thing.role.clone(),
            on,
            or_dash(thing.detects.join(", ")),
            thing.mask.to_string(),
            format!("{:#x}", thing.mask),
            format!("{} of {}", thing.affects.len(), thing.could_affect),
        ]
    });
    let header = ["thing", "is a", "on", "detects", "mask", "hex", "affects"];
    writeln!(out, "{}", table(&header, &["mask", "hex", "affects"], lines.collect()).trim_fmt())?;
    Ok(())
}
