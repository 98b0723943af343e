//! `finitor layers`.

use crate::cli::{Format, LayersArgs, LayersCommand};
use crate::exit::{Exit, Failure};
use crate::output::table::table;
use crate::session::Session;
use finitor_core::layers::{Contact, LayerSet, Layers, Party, PartyRole, relation};
use finitor_core::stage::Stage;
use finitor_files::ActorFile;
use serde::Serialize;
use std::io::Write;

/// Shows the matrix, or explains a pair.
pub(crate) fn run(session: &Session, args: &LayersArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    match &args.command {
        None => matrix(&session.project.layers, format, out)?,
        Some(LayersCommand::Explain { one, other, state }) => {
            let known = || session.project.layers.states.iter().map(|rule| rule.name.as_str());
            if let Some(unknown) = state.iter().find(|word| !known().any(|name| name == *word)) {
                let names = known().collect::<Vec<_>>().join(", ");
                return Err(Failure::Usage(format!(
                    "no state \"{unknown}\" changes masks; [layers.state] has: {names}"
                )));
            }
            let (actors, stages) = (session.actors(&[])?, session.stages()?);
            let find = |address: &str| party(session, &actors, &stages, address, state);
            explain(session, &find(one)?, &find(other)?, format, out)?;
        }
    }
    Ok(Exit::Done)
}

fn matrix(layers: &Layers, format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    let looks = |from: usize, to: usize| layers.masks[from].sees(LayerSet::of(to));
    if format == Format::Json {
        let rows = layers.names.iter().enumerate().map(|(bit, name)| LayerOut {
            name,
            bit,
            mask: layers.masks[bit].0,
            looks_for: layers.masks[bit].bits().filter_map(|b| layers.names.get(b)).collect(),
        });
        let result =
            MatrixOut { schema: "finitor.layers/1", contact: contact_word(layers.contact), layers: rows.collect() };
        writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        return Ok(());
    }
    let one_sided = (0..layers.names.len())
        .flat_map(|a| (a + 1..layers.names.len()).map(move |b| (a, b)))
        .filter(|&(a, b)| looks(a, b) != looks(b, a))
        .count();
    writeln!(
        out,
        "{} layers; a row looks for the columns marked: x both ways, > one way ({one_sided} pairs). Bodies stop each \
         other when {}.\n",
        layers.names.len(),
        match layers.contact {
            Contact::Either => "either mask asks (contact = \"either\")",
            Contact::Both => "both masks ask (contact = \"both\")",
        }
    )?;
    let mut header = vec!["bit", "layer"];
    header.extend(layers.names.iter().map(String::as_str));
    header.extend(["mask", "hex", "binary"]);
    let rows = layers.names.iter().enumerate().map(|(from, name)| {
        let mut row = vec![from.to_string(), name.clone()];
        row.extend((0..layers.names.len()).map(|to| {
            let mark = match (looks(from, to), looks(to, from)) {
                (true, true) => "x",
                (true, false) => ">",
                (false, _) => ".",
            };
            mark.to_string()
        }));
        let (mask, width) = (layers.masks[from].0, layers.names.len());
        row.extend([mask.to_string(), format!("{mask:#x}"), format!("{mask:0width$b}")]);
        row
    });
    writeln!(out, "{}", table(&header, &["bit", "mask", "hex", "binary"], rows.collect()).trim_fmt())?;
    for rule in &layers.states {
        for change in &rule.changes {
            let name = &layers.names[change.layer];
            let parts = [("also looks for", change.add), ("no longer looks for", change.drop)];
            let told = parts.iter().filter(|(_, set)| !set.is_empty());
            let told: Vec<String> = told.map(|(verb, set)| format!("{verb} {}", layers.describe(*set))).collect();
            if !told.is_empty() {
                writeln!(out, "while {}: {name} {}", rule.name, told.join(", and "))?;
            }
        }
    }
    Ok(())
}

fn contact_word(contact: Contact) -> &'static str {
    match contact {
        Contact::Either => "either",
        Contact::Both => "both",
    }
}

#[derive(Serialize)]
struct MatrixOut<'a> {
    schema: &'static str,
    contact: &'static str,
    layers: Vec<LayerOut<'a>>,
}

#[derive(Serialize)]
struct LayerOut<'a> {
    name: &'a str,
    bit: usize,
    mask: u32,
    looks_for: Vec<&'a String>,
}

#[derive(Serialize)]
struct ExplainOut<'a> {
    schema: &'static str,
    first: SideOut<'a>,
    second: SideOut<'a>,
    acts: bool,
    follows: &'a [String],
    remedy: Option<&'a str>,
}

#[derive(Serialize)]
struct SideOut<'a> {
    name: &'a str,
    role: &'static str,
    layer: u32,
    mask: u32,
    shared: u32,
    says: &'a str,
}

fn explain(session: &Session, one: &Party, other: &Party, format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    let layers = &session.project.layers;
    let found = relation(layers, one, other);
    if format == Format::Json {
        let side = |party: &'_ Party, shared: LayerSet| (party.role.name(), party.layer.0, party.mask.0, shared.0);
        let (a, b) = (side(one, found.first.shared), side(other, found.second.shared));
        let side_out = |name, (role, layer, mask, shared), says| SideOut { name, role, layer, mask, shared, says };
        let result = ExplainOut {
            schema: "finitor.layers_explain/1",
            first: side_out(&one.name, a, &found.first.sentence),
            second: side_out(&other.name, b, &found.second.sentence),
            acts: found.acts,
            follows: &found.follows,
            remedy: found.remedy.as_deref(),
        };
        writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        return Ok(());
    }
    for sentence in &found.follows {
        writeln!(out, "{sentence}")?;
    }
    if let Some(remedy) = &found.remedy {
        writeln!(out, "To change that: {remedy}.")?;
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

/// Finds `actor.shape` or `stage/thing`.
fn party(
    session: &Session,
    actors: &[ActorFile],
    stages: &[Stage],
    address: &str,
    states: &[String],
) -> Result<Party, Failure> {
    if let Some((actor_name, shape_name)) = address.split_once('.') {
        let actor = actors.iter().find(|actor| actor.name == actor_name);
        let shape = actor.and_then(|actor| actor.shapes.iter().find(|shape| shape.name == shape_name));
        if let Some(shape) = shape {
            let mask = session.project.layers.mask_during(shape.layer, shape.mask, states);
            return Ok(Party { name: address.to_string(), role: shape.role.party(), layer: shape.layer, mask });
        }
    }
    let found = stages.iter().flat_map(things).find(|thing| thing.name == address);
    found.ok_or_else(|| {
        let shapes = actors.iter().flat_map(|a| a.shapes.iter().map(move |s| format!("{}.{}", a.name, s.name)));
        let mut known: Vec<String> = shapes.collect();
        known.extend(stages.iter().flat_map(things).map(|thing| thing.name));
        Failure::Usage(format!(
            "\"{address}\" is neither a shape (ACTOR.SHAPE) nor a thing of a stage (STAGE/THING). There are: {}",
            known.join(", ")
        ))
    })
}

fn things(stage: &Stage) -> Vec<Party> {
    let party = |name: &str, role, layer, mask| Party { name: format!("{}/{name}", stage.name), role, layer, mask };
    let solids = stage.solids.iter().map(|s| party(&s.name, PartyRole::Solid, s.layer, LayerSet::NONE));
    let one_ways = stage.one_ways.iter().map(|o| party(&o.name, PartyRole::OneWay, o.layer, LayerSet::NONE));
    let zones = stage.zones.iter().map(|z| party(&z.name, PartyRole::Zone, LayerSet::NONE, z.mask));
    solids.chain(one_ways).chain(zones).collect()
}
