//! The shapes of an actor file.

mod by_part;
mod claim;
mod like;
mod source;

use crate::anchors::AnchorSpec;
use crate::layers_toml::layer_set;
use crate::names::check_name;
use crate::parts_toml::{PartColour, part};
use crate::problem::Place;
use crate::toml_table::{At, Table, nearest};
pub(crate) use claim::assign_frames;
use claim::{Claim, frames_claimed};
use finitor_core::actor::{Carried, PartAnchor, Role};
use finitor_core::fit::{Given, Source};
use finitor_core::hits::Settle;
use finitor_core::layers::{LayerSet, Layers};
use source::{has_source, source};

/// A shape as the actor file asks for it.
#[derive(Clone, Debug)]
pub struct ShapeSpec {
    /// Its name.
    pub name: String,
    /// What it is for.
    pub role: Role,
    /// Where its geometry comes from.
    pub source: Source,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for.
    pub mask: LayerSet,
    /// What it means when it strikes or is struck.
    pub carries: Carried,
    /// Indices of the frames it is on.
    pub frames: Vec<usize>,
    /// The shape whose width and foot it keeps.
    pub like: Option<String>,
    /// What it takes its height from.
    pub height_from: Option<HeightFrom>,
    /// The rule it is one of several shapes of, a part each.
    pub siblings: Option<String>,
    /// Whether it may overlap its siblings.
    pub may_overlap: bool,
    /// Whether it is fitted as a body is that says nothing of how.
    pub is_usual: bool,
    /// Where the actor file names it.
    pub place: Place,
    claim: Claim,
}

/// A passage that a shape must fit through.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct HeightFrom {
    /// `stage/thing`.
    pub thing: String,
    /// What is to be left free above, thousandths of a px.
    pub clearance_milli: i64,
    /// Where it says so.
    pub place: Place,
}

impl ShapeSpec {
    /// Whether its mask is its own, and not that of its layer or of what it follows.
    pub fn has_own_mask(&self) -> bool {
        self.claim.masked
    }

    /// The kind's word for tables and files.
    pub fn kind_name(&self) -> &'static str {
        match &self.source {
            Source::Fitted(fitting) => fitting.kind.name(),
            Source::Given(Given::Box(_)) | Source::Along(_) => "box",
            Source::Given(Given::Circle(_)) => "circle",
            Source::Given(Given::Capsule(_)) => "capsule",
            Source::Given(Given::Points(_)) => "points",
        }
    }
}

/// Reads all `[shape.NAME]` tables.
pub(crate) fn shapes(top: &Table<'_>, layers: &Layers, parts: &[PartColour]) -> Vec<ShapeSpec> {
    let tables = top.named("shape");
    let mut shapes: Vec<ShapeSpec> = tables
        .iter()
        .filter_map(|(name, table)| shape(name, table, layers))
        .flat_map(|shape| by_part::shapes(shape, parts))
        .collect();
    for index in 1..shapes.len() {
        let (earlier, rest) = shapes.split_at(index);
        if let Some(twin) = earlier.iter().find(|twin| twin.name == rest[0].name) {
            let message = format!(
                "two shapes are named \"{}\": one a part, {}",
                twin.name,
                match &rest[0].siblings {
                    Some(rule) => format!("of the rule `{rule}`"),
                    None => "and this one".into(),
                }
            );
            top.wrong(rest[0].claim.span.clone(), message, Some("give the shape or the part another name".into()));
        }
    }
    by_part::check(top, &tables, &shapes, parts);
    like::resemble(top, &mut shapes);
    follow(top, &mut shapes);
    shapes
}

/// Gives shapes the parts of the anchors that they name; anchors that do not exist are mistakes.
pub(crate) fn assign_anchors(top: &Table<'_>, shapes: &mut [ShapeSpec], anchors: &[AnchorSpec]) {
    let known: Vec<&str> = anchors.iter().map(|anchor| anchor.name.as_str()).collect();
    for shape in shapes {
        let parts = shape.claim.part_anchors.iter().filter_map(|name| {
            let anchor = anchors.iter().find(|anchor| anchor.name == name.value)?;
            Some(PartAnchor { anchor: anchor.name.clone(), part: anchor.part.clone() })
        });
        shape.carries.anchors = parts.collect();
        for name in shape.claim.anchors.iter().filter(|name| !known.contains(&name.value.as_str())) {
            let hint = match nearest(&name.value, &known) {
                Some(near) => format!("did you mean \"{near}\"?"),
                None => format!("add it: [anchor.{}] with `at = [x, y]`", name.value),
            };
            top.wrong(name.span.clone(), format!("there is no anchor \"{}\"", name.value), Some(hint));
        }
    }
}

/// Strips follow a shape that exists and is no strip itself, and look for what it looks for unless they say.
fn follow(top: &Table<'_>, shapes: &mut [ShapeSpec]) {
    let known: Vec<(String, bool, LayerSet)> =
        shapes.iter().map(|s| (s.name.clone(), matches!(s.source, Source::Along(_)), s.mask)).collect();
    for shape in shapes {
        let Source::Along(along) = &shape.source else {
            continue;
        };
        match known.iter().find(|(name, ..)| *name == along.shape) {
            Some((_, false, mask)) if !shape.claim.masked => shape.mask = *mask,
            Some((_, false, _)) => {}
            Some((_, true, _)) => {
                let message = format!("\"{}\" is a strip itself; follow a shape with an area", along.shape);
                top.wrong(shape.claim.along_span.clone(), message, None);
            }
            None => {
                let names: Vec<&str> = known.iter().map(|(name, ..)| name.as_str()).collect();
                let hint = nearest(&along.shape, &names).map(|near| format!("did you mean \"{near}\"?"));
                let message = format!("there is no shape \"{}\" to follow", along.shape);
                top.wrong(shape.claim.along_span.clone(), message, hint);
            }
        }
    }
}

fn shape(name: &At<String>, table: &Table<'_>, layers: &Layers) -> Option<ShapeSpec> {
    check_name(table, name, "a shape");
    let role = role(table);
    let layer = table.strings("layer", "\"hero\"").map(|names| layer_set(table, layers, &names));
    let mask = table.strings("mask", "[\"ground\"]").map(|names| layer_set(table, layers, &names));
    let animations = table.strings("animations", "[\"walk\"]");
    let frames = frames_claimed(table);
    let part = part(table);
    let anchors = table.strings("anchors", "[\"skull\", \"hip\"]").unwrap_or_default();
    let damage = table.number("damage", "10").map(|damage| damage.value);
    let settle = settle(table);
    let again_after = table.integer("again_after", 1..100_000, "12").map(|ticks| ticks.value as u64);
    let blocked_by = table.strings("blocked_by", "[\"ground\"]").map(|names| layer_set(table, layers, &names));
    let blocked_from = table.string("blocked_from", "\"hand\"");
    let along_span = table.value_span(if table.has("like") { "like" } else { "along" });
    let like = table.string("like", "\"body\"").map(|like| like.value);
    let height_from = like::height_from(table);
    let is_usual =
        table.has("role") && role.as_ref().is_some_and(|role| role.value == Role::Body) && !has_source(table);
    let by_part = by_part::read(table);
    let part_names = by_part.as_ref().and_then(|by_part| by_part.names.clone());
    let siblings = by_part.map(|_| name.value.clone());
    let may_overlap = table.boolean("siblings_overlap").is_some_and(|may| may.value);
    let has_kind = table.has("kind");
    let mut source = source(table, is_usual || like.is_some());
    if let (Some(_), false, Some(Source::Fitted(fitting))) = (&siblings, may_overlap, &mut source) {
        by_part::keep_apart(table, fitting);
    }
    table.finish();
    let role = role?.value;
    if layer.is_none() && role != Role::Sensor {
        no_layer(name, table, layers);
    }
    let layer = layer.unwrap_or(LayerSet::NONE);
    Some(ShapeSpec {
        name: name.value.clone(),
        role,
        source: source?,
        layer,
        mask: mask.unwrap_or_else(|| layers.default_mask(layer)),
        carries: Carried {
            part,
            anchors: Vec::new(),
            damage,
            settle,
            again_after,
            blocked_by: blocked_by.unwrap_or_default(),
            blocked_from: blocked_from.as_ref().map(|anchor| anchor.value.clone()),
        },
        frames: Vec::new(),
        like,
        height_from,
        siblings,
        may_overlap,
        is_usual,
        place: table.place(name.span.clone()),
        claim: Claim {
            span: name.span.clone(),
            animations,
            frames,
            masked: mask.is_some(),
            has_kind,
            part_names,
            along_span,
            anchors: blocked_from.into_iter().chain(anchors.iter().cloned()).collect(),
            part_anchors: anchors,
        },
    })
}

/// The key `settle`: how it is settled which part is struck.
pub(crate) fn settle(table: &Table<'_>) -> Option<Settle> {
    table.word("settle", &Settle::ALL.map(|settle| (settle.name(), settle))).map(|settle| settle.value)
}

fn role(table: &Table<'_>) -> Option<At<Role>> {
    if !table.has("role") {
        table.missing("role", "\"body\"");
    }
    table.word("role", &Role::ALL.map(|role| (role.name(), role)))
}

fn no_layer(name: &At<String>, table: &Table<'_>, layers: &Layers) {
    if !table.has("layer") {
        let message = format!("shape `{}` is on no layer, so nothing can detect it", name.value);
        let hint = format!("add for example `layer = \"{}\"`", layers.names.first().map_or("hero", String::as_str));
        table.wrong(name.span.clone(), message, Some(hint));
    }
}

/// Notes shapes that ask for a paint where no sheet has a part map to look it up in.
pub(crate) fn check_paint(top: &Table<'_>, shapes: &[ShapeSpec]) {
    for shape in shapes {
        if let Source::Fitted(fitting) = &shape.source
            && let Some(colour) = fitting.paint.first()
        {
            let message = format!("shape `{}` uses paint {colour}, but no sheet has a part map", shape.name);
            let hint = "add `parts = \"NAME.parts.png\"` to the [[sheet]]: the same size, one flat colour a body part";
            top.wrong(shape.claim.span.clone(), message, Some(hint.into()));
        }
    }
}
