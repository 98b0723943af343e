//! `layers --by shape`: everything that has a layer or a mask, and what it acts with.

use crate::cli::Format;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::Failure;
use finitor_app::parties;
use finitor_core::layers::{LayerSet, PartyRole, acts, may_act};
use finitor_core::lint::{LayerParty, OwnerKind};
use serde_json::json;
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
    let names = |set: LayerSet| set.bits().filter_map(|bit| layers.names.get(bit).cloned()).collect::<Vec<String>>();
    let rows: Vec<(&LayerParty, Vec<&str>, usize)> = all
        .iter()
        .map(|one| {
            // A shape meets those of its own actor on other instances, yet never on its own.
            let others = || all.iter().filter(|other| !std::ptr::eq(*other, one) && pairs(one, other));
            let acting = others().filter(|other| acts(layers.contact, one.party.stand(), other.party.stand()));
            (one, acting.map(|other| other.party.name.as_str()).collect(), others().count())
        })
        .collect();
    match format {
        Format::Json => {
            let things = rows.iter().map(|(one, acting, _)| {
                let party = &one.party;
                json!({
                    "name": party.name, "role": party.role.name(), "layer": party.layer.0, "on": names(party.layer),
                    "mask": party.mask.0, "detects": names(party.mask), "affects": acting,
                })
            });
            let value = json!({ "schema": "finitor.layers_by_shape/1", "states": states, "things": things.collect::<Vec<_>>() });
            writeln!(out, "{}", serde_json::to_string_pretty(&value)?)?;
        }
        Format::Csv => {
            let header = ["thing", "role", "layer", "on", "mask", "hex", "detects", "affects"].map(String::from);
            let lines = rows.iter().map(|(one, acting, _)| {
                let party = &one.party;
                vec![
                    party.name.clone(),
                    party.role.name().to_string(),
                    party.layer.0.to_string(),
                    names(party.layer).join(" "),
                    party.mask.0.to_string(),
                    format!("{:#x}", party.mask.0),
                    names(party.mask).join(" "),
                    acting.join(" "),
                ]
            });
            write_csv(&header, lines, out)?;
        }
        Format::Table => {
            let idle: Vec<&str> = rows
                .iter()
                .filter(|(one, acting, _)| one.of == OwnerKind::Actor && acting.is_empty())
                .map(|(one, ..)| one.party.name.as_str())
                .collect();
            let during = if states.is_empty() { String::new() } else { format!(" while {}", states.join(" and ")) };
            let verdict = match idle.as_slice() {
                [] => "each has an effect on something".to_string(),
                _ => format!("{} have no effect on anything", idle.join(", ")),
            };
            writeln!(out, "{} shapes and things{during}; {verdict}.\n", rows.len())?;
            let or_dash = |words: String| if words.is_empty() { "-".to_string() } else { words };
            let lines = rows.iter().map(|(one, acting, of)| {
                let party = &one.party;
                let on =
                    if party.role == PartyRole::Zone { "-".into() } else { or_dash(names(party.layer).join(", ")) };
                vec![
                    party.name.clone(),
                    party.role.name().to_string(),
                    on,
                    or_dash(names(party.mask).join(", ")),
                    party.mask.0.to_string(),
                    format!("{:#x}", party.mask.0),
                    format!("{} of {of}", acting.len()),
                ]
            });
            let header = ["thing", "is a", "on", "detects", "mask", "hex", "affects"];
            writeln!(out, "{}", table(&header, &["mask", "hex", "affects"], lines.collect()).trim_fmt())?;
        }
    }
    Ok(())
}

/// Whether something could follow between the two.
fn pairs(one: &LayerParty, other: &LayerParty) -> bool {
    let apart = one.owner != other.owner || one.of != other.of;
    apart && may_act(one.party.role, other.party.role)
}
