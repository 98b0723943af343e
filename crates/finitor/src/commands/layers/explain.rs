//! `layers explain A B`: what two things mean to each other, in words and bits.

use crate::cli::Format;
use crate::output::table::table;
use finitor_app::Failure;
use finitor_core::layers::{LayerSet, Layers, Party, relation};
use schemars::JsonSchema;
use serde::Serialize;
use std::io::Write;

/// The schema of what it writes as JSON.
pub(in crate::commands) const EXPLAIN_SCHEMA: &str = "finitor.layers_explain/2";

/// What it writes as JSON.
pub(in crate::commands) fn explain_schema() -> schemars::Schema {
    crate::output::json_schema::schema_of::<ExplainOut<'_>>()
}

#[derive(Serialize, JsonSchema)]
struct ExplainOut<'a> {
    schema: &'static str,
    first: SideOut<'a>,
    second: SideOut<'a>,
    has_effect: bool,
    effect: &'a [String],
    fix: Option<&'a str>,
}

#[derive(Serialize, JsonSchema)]
struct SideOut<'a> {
    name: &'a str,
    role: &'static str,
    layer: u32,
    mask: u32,
    shared: u32,
    says: &'a str,
}

/// Writes the effect, then which mask detects which, then the bits.
pub(super) fn explain(
    layers: &Layers,
    one: &Party,
    other: &Party,
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let found = relation(layers, one, other);
    if format == Format::Json {
        let side = |party: &'_ Party, shared: LayerSet| (party.role.name(), party.layer.0, party.mask.0, shared.0);
        let (a, b) = (side(one, found.first.shared), side(other, found.second.shared));
        let side_out = |name, (role, layer, mask, shared), says| SideOut { name, role, layer, mask, shared, says };
        let result = ExplainOut {
            schema: EXPLAIN_SCHEMA,
            first: side_out(&one.name, a, &found.first.sentence),
            second: side_out(&other.name, b, &found.second.sentence),
            has_effect: found.acts,
            effect: &found.follows,
            fix: found.remedy.as_ref().map(|remedy| remedy.words.as_str()),
        };
        writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        return Ok(());
    }
    for sentence in &found.follows {
        writeln!(out, "{sentence}")?;
    }
    if let Some(remedy) = &found.remedy {
        let layer = layers.names.get(remedy.bit).map_or("", String::as_str);
        writeln!(out, "To change that: {}, with `finitor layers set {} +{layer}`.", remedy.words, remedy.looker)?;
    }
    if of_one_actor(one, other) {
        let note =
            "Both are shapes of one actor: this holds between two instances of it; an instance never detects itself.";
        writeln!(out, "{note}")?;
    }
    writeln!(out, "\n{}\n{}\n", found.first.sentence, found.second.sentence)?;
    let width = layers.names.len().max(1);
    let rows = [one, other].map(|party| {
        vec![
            party.name.clone(),
            party.role.name().to_string(),
            layers.describe(party.layer),
            format!("{:0width$b}", party.layer.0),
            format!("{:0width$b}", party.mask.0),
        ]
    });
    writeln!(out, "{}", table(&["thing", "is a", "on", "layer bits", "mask bits"], &[], rows.to_vec()).trim_fmt())?;
    Ok(())
}

fn of_one_actor(one: &Party, other: &Party) -> bool {
    let actor = |party: &Party| party.name.split_once('.').map(|(actor, _)| actor.to_string());
    actor(one).is_some() && actor(one) == actor(other)
}
