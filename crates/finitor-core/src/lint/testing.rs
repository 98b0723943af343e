//! Asks one rule, for the tests in the files of rules.

use super::facts::{
    ActorFacts, AnimationArt, CastFacts, FitState, FrameFacts, LayerFacts, LayerParty, OwnerKind, StageFacts,
};
use super::rules::{lint_actor, lint_animation, lint_cast, lint_layers, lint_stage};
use super::still_rule::{StillFinding, StillRule};
use crate::actor::{Actor, Pose, Role};
use crate::check::Settings;
use crate::fit::Side;
use crate::geometry::Rect;
use crate::layers::{Contact, LayerSet, Layers, Party, PartyRole};
use crate::stage::{Effect, Spawn, Stage, Warp};
use crate::{Facing, testing};

/// What the findings of a rule say: place, figure, message and fix.
fn said<R: StillRule>(found: Vec<StillFinding>) -> Vec<String> {
    let own = found.into_iter().map(|found| found.finding).filter(|finding| finding.rule.code() == R::SPEC.code);
    own.map(|of| format!("{}: {}: {}. {}", of.place.name(), of.figure, of.message, of.fix)).collect()
}

/// Plain facts of an actor with its fits.
pub(super) fn facts(of: &Actor) -> ActorFacts<'_> {
    ActorFacts {
        name: &of.name,
        animations: vec![],
        frames: vec![],
        shapes: vec![],
        parts: vec![],
        missing_anchors: vec![],
        fits: FitState::Current,
        fitted: Some(of),
    }
}

/// A frame without art, by its name, pivot and size.
pub(super) fn frame(name: &str, pivot: (f64, f64), size: (f64, f64)) -> FrameFacts {
    let (width, height) = size;
    FrameFacts {
        name: name.into(),
        pivot: pivot.into(),
        foot: None,
        width,
        height,
        drift: 0.0,
        opaque: vec![],
        sheet: None,
    }
}

/// An actor with one animation, `stand`, of two frames with a body 10 px wide over its pivot and a strip under it.
pub(super) fn with_strip(strip: Rect) -> Actor {
    let body = testing::shape("body", Role::Body, Rect::new(-5.0, -20.0, 5.0, 0.0), testing::HERO, None);
    let strip = testing::shape("feet", Role::Sensor, strip, testing::HERO, Some(Side::Below));
    let pose = Pose { shapes: vec![body, strip], ..Pose::default() };
    testing::actor("hero", vec![("stand", vec![pose.clone(), pose])])
}

/// A floored yard with two warps 100 px apart, the first of which leads to a place beside the middle of the second.
pub(super) fn gates(landing: (f64, f64)) -> Stage {
    let mut stage = testing::floored();
    for (name, x) in [("in", 100.0), ("out", 200.0)] {
        stage.zones.push(testing::zone(name, Rect::new(x, 160.0, x + 20.0, 200.0), Effect::Warp));
    }
    let leads =
        |to: usize, landing: (f64, f64)| Warp { to, landing: landing.into(), facing: None, turns_velocity: false };
    stage.zones[0].warp = Some(leads(1, landing));
    stage.zones[1].warp = Some(leads(0, (40.0, 20.0)));
    stage
}

/// Of an actor.
pub(super) fn of_actor<R: StillRule>(facts: &ActorFacts<'_>) -> Vec<String> {
    said::<R>(lint_actor(facts, &Settings::default()))
}

/// Of an animation's pictures.
pub(super) fn of_art<R: StillRule>(facts: &AnimationArt<'_>) -> Vec<String> {
    said::<R>(lint_animation(facts, &Settings::default()))
}

/// Of a stage on which the actors start in its top left corner.
pub(super) fn of_stage<R: StillRule>(stage: &Stage, actors: &[Actor]) -> Vec<String> {
    let names: Vec<&str> = actors.iter().map(|actor| actor.name.as_str()).collect();
    let mut stage = stage.clone();
    let start = |name: &&str| Spawn { actor: name.to_string(), at: (20.0, 60.0).into(), facing: Facing::Right };
    stage.spawns.extend(names.iter().map(start));
    let facts = StageFacts { stage: &stage, names: &names, actors, slack: 0.5 };
    said::<R>(lint_stage(&facts, &Settings::default()))
}

/// Of actors on layers 0 and 1.
pub(super) fn of_cast<R: StillRule>(actors: &[Actor]) -> Vec<String> {
    let layers = testing::layers();
    said::<R>(lint_cast(&CastFacts { actors, layers: &layers }, &Settings::default()))
}

/// Of layers, where contact is as given.
pub(super) fn of_layers<R: StillRule>(contact: Contact, parties: &[LayerParty]) -> Vec<String> {
    let layers = Layers { contact, masks: vec![LayerSet::NONE; 4], states: vec![], ..testing::layers() };
    let facts = LayerFacts { layers: &layers, parties, aliases_used: &[] };
    said::<R>(lint_layers(&facts, &Settings::default()))
}

/// A shape `actor.name` or a thing `stage/name`, on a layer, that detects layers.
pub(super) fn party(name: &str, role: PartyRole, layer: Option<usize>, detects: &[usize]) -> LayerParty {
    let (owner, own) = name.split_once(['.', '/']).unwrap_or((name, name));
    let set = |bits: &[usize]| bits.iter().fold(LayerSet::NONE, |set, bit| set.or(LayerSet::of(*bit)));
    let (layer, mask) = (layer.map_or(LayerSet::NONE, LayerSet::of), set(detects));
    LayerParty {
        party: Party { name: name.into(), role, layer, mask },
        owner: owner.into(),
        name: own.into(),
        of: if name.contains('/') { OwnerKind::Stage } else { OwnerKind::Actor },
        has_own_mask: false,
    }
}
