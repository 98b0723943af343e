//! Layers and masks before anything moves, each finding with the line to change.

use crate::commands::layers::parties;
use crate::exit::Failure;
use crate::session::Session;
use finitor_core::check::{Rule, Severity};
use finitor_core::lint::{LayerParty, LayerSpot, LintFinding, layer_findings};
use finitor_core::stage::Stage;
use finitor_files::{ActorFile, LayerUse, UseKind, layer_uses};

/// What is wrong with layers and masks, over all actors and stages.
pub(super) fn findings(
    session: &Session,
    actors: &[ActorFile],
    stages: &[Stage],
    severity: impl Fn(Rule) -> Severity,
) -> Result<Vec<LintFinding>, Failure> {
    let layers = &session.project.layers;
    let all = parties(layers, actors, stages, &[]);
    let uses = layer_uses(&session.project)?;
    let is_used = |name: &String| uses.iter().any(|found| found.name == *name && found.kind != UseKind::Named);
    let used: Vec<bool> = layers.families.iter().map(|family| is_used(&family.name)).collect();
    let found = layer_findings(layers, &all, &used, severity);
    let with_line = |(finding, spot): (LintFinding, LayerSpot)| {
        let line = line_of(session, actors, &uses, &all, spot);
        LintFinding { remedy: format!("{}: {line}", finding.remedy), ..finding }
    };
    Ok(found.into_iter().map(with_line).collect())
}

/// The line to change: `finitor.toml:16`.
fn line_of(session: &Session, actors: &[ActorFile], uses: &[LayerUse], all: &[LayerParty], spot: LayerSpot) -> String {
    let layers = &session.project.layers;
    let shown = |found: &LayerUse| format!("{}:{}", session.shown(&found.path), found.place.line);
    let named = |name: &str| uses.iter().find(|found| found.name == name && found.kind == UseKind::Named);
    let project = || "[layers.mask] of finitor.toml".to_string();
    match spot {
        LayerSpot::Layer(bit) => named(&layers.names[bit]).map_or_else(project, shown),
        LayerSpot::Family(index) => named(&layers.families[index].name).map_or_else(project, shown),
        LayerSpot::Mask(index) => {
            let LayerParty { party, owner, name, is_shape } = &all[index];
            if !is_shape {
                let words = format!("the mask of [[zone]] {name}");
                return uses.iter().find(|found| found.words == words).map_or_else(project, shown);
            }
            let Some(file) = actors.iter().find(|actor| actor.name == *owner) else { return project() };
            let Some(spec) = file.shapes.iter().find(|shape| shape.name == *name) else { return project() };
            let rule = spec.siblings.as_ref().unwrap_or(name);
            let own = format!("the mask of [shape.{rule}]");
            let of_layer = |found: &&LayerUse| {
                let is_row = found.kind == UseKind::Subject && found.words == "[layers.mask]";
                is_row && layers.find(&found.name).is_some_and(|bit| party.layer.bits().any(|on| on == bit))
            };
            if let Some(found) = uses.iter().find(|found| found.path == file.path && found.words == own) {
                return shown(found);
            }
            match uses.iter().find(of_layer) {
                Some(found) => format!("{}, or a `mask` in [shape.{rule}]", shown(found)),
                None => format!("a `mask` in [shape.{rule}], {}:{}", session.shown(&file.path), spec.place.line),
            }
        }
    }
}
