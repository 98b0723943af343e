//! The pack as a Rust module: constants that need nothing else.

use super::{
    Number, Pack, PackActor, PackAttack, PackFrame, PackPoint, PackShape, PackSide, PackStage, PackThing, PackZone,
    Ring, ShapeMeaning,
};
use std::fmt::Display;

/// The types; `NUMBER` is `f64`, or `i32` in fixed point.
const TYPES: &str = include_str!("rust_types.rs");

/// The module: the types, and `PACK`.
///
/// # Complexity
/// O(points).
pub fn rust_module(pack: &Pack) -> String {
    let source = Source { is_fixed: pack.space.fixed.is_some() };
    let number = if source.is_fixed { "i32" } else { "f64" };
    let layers = slice(&pack.layers.names, |layer| {
        format!("Layer {{ name: {:?}, bit: {}, mask: {} }}", layer.name, layer.bit, layer.mask)
    });
    format!(
        "// Written by finitor export; do not edit. Coordinates: {}.\n\n{}\n\
         /// The pack.\npub static PACK: Pack = Pack {{ project: {:?}, tick_rate: {:?}, layers: {layers},\n actors: {},\n \
         stages: {} }};\n",
        pack.space.words(),
        TYPES.replace("NUMBER", number),
        pack.project,
        pack.tick_rate.0,
        slice(&pack.actors, |actor| source.actor(actor)),
        slice(&pack.stages, |stage| source.stage(stage)),
    )
}

/// A slice of values, each on a line.
fn slice<T>(items: &[T], item: impl Fn(&T) -> String) -> String {
    let items: Vec<String> = items.iter().map(item).collect();
    if items.is_empty() { "&[]".to_string() } else { format!("&[\n  {}]", items.join(",\n  ")) }
}

fn facing(word: &str) -> &'static str {
    if word == "left" { "Facing::Left" } else { "Facing::Right" }
}

fn some<T: Display>(value: Option<T>) -> String {
    value.map_or_else(|| "None".to_string(), |value| format!("Some({value})"))
}

/// A word as a variant's name: `hazard` as `Hazard`.
fn variant(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

fn index_of<T>(items: &[T], is_it: impl Fn(&T) -> bool) -> usize {
    items.iter().position(is_it).unwrap_or(0)
}

struct Source {
    is_fixed: bool,
}

impl Source {
    fn number(&self, number: f64) -> String {
        if self.is_fixed { Number(number).to_string() } else { format!("{number:?}") }
    }

    fn point(&self, at: PackPoint) -> String {
        format!("Point {{ x: {}, y: {} }}", self.number(at.x), self.number(at.y))
    }

    fn ring(&self, ring: &Ring) -> String {
        let points: Vec<String> = ring.iter().map(|at| self.point(*at)).collect();
        format!("&[{}]", points.join(", "))
    }

    fn rings(&self, rings: &[Ring]) -> String {
        let rings: Vec<String> = rings.iter().map(|ring| self.ring(ring)).collect();
        format!("&[{}]", rings.join(", "))
    }

    fn exact(&self, shape: &PackShape) -> String {
        let list = |kind: &str, numbers: &[Number]| {
            let numbers: Vec<String> = numbers.iter().map(|number| self.number(number.0)).collect();
            format!("Exact::{kind}([{}])", numbers.join(", "))
        };
        match (&shape.rect, &shape.circle, &shape.capsule) {
            (Some(rect), _, _) => list("Box", rect),
            (_, Some(circle), _) => list("Circle", circle),
            (_, _, Some(capsule)) => list("Capsule", capsule),
            _ => "Exact::Polygon".to_string(),
        }
    }

    fn shape(&self, actor: &PackActor, shape: &PackShape) -> String {
        format!(
            "Shape {{ meaning: {}, exact: {}, outline: {}, holes: {}, pieces: {} }}",
            index_of(&actor.shapes, |known| known.name == shape.shape),
            self.exact(shape),
            self.rings(&shape.outline),
            self.rings(&shape.holes),
            self.rings(&shape.pieces)
        )
    }

    fn side(&self, actor: &PackActor, side: &PackSide) -> String {
        let PackSide { facing: faces, art, anchors, shapes } = side;
        let anchors: Vec<String> = anchors.iter().map(|(name, at)| self.anchor(name, *at)).collect();
        format!(
            "Side {{ facing: {}, flipped: {}, image: {:?}, image_number: {}, rect: {:?}, pivot: {:?}, anchors: &[{}], \
             shapes: {} }}",
            facing(faces),
            art.flipped,
            art.image,
            art.image_number,
            art.rect,
            [art.pivot.x, art.pivot.y],
            anchors.join(", "),
            slice(shapes, |shape| self.shape(actor, shape))
        )
    }

    fn anchor(&self, name: &str, at: PackPoint) -> String {
        format!("Anchor {{ name: {name:?}, at: {} }}", self.point(at))
    }

    fn frame(&self, actor: &PackActor, frame: &PackFrame) -> String {
        let sides = slice(&frame.sides, |side| self.side(actor, side));
        format!("Frame {{ ticks: {}, sides: {sides} }}", frame.ticks)
    }

    fn meaning(&self, shape: &ShapeMeaning) -> String {
        let word = |words: &Option<String>| some(words.as_ref().map(|words| format!("{words:?}")));
        format!(
            "Meaning {{ name: {:?}, role: Role::{}, layer: {}, mask: {}, part: {}, group: {}, factor: {:?}, is_vital: {}, \
             damage: {:?}, again_after: {}, blocked_by: {} }}",
            shape.name,
            variant(&shape.role),
            shape.layer,
            shape.mask,
            word(&shape.part.part),
            word(&shape.part.group),
            shape.part.factor.map_or(1.0, |factor| factor.0),
            shape.part.is_vital,
            shape.damage.unwrap_or_default().0,
            shape.again_after.unwrap_or(0),
            shape.blocked_by
        )
    }

    fn attack(actor: &PackActor, attack: &PackAttack) -> String {
        let PackAttack { startup, active, pauses, recovery, .. } = attack;
        format!(
            "Attack {{ animation: {}, meaning: {}, startup: {startup}, active: {active}, pauses: {pauses}, recovery: \
             {recovery} }}",
            index_of(&actor.animations, |known| known.name == attack.animation),
            index_of(&actor.shapes, |known| known.name == attack.shape)
        )
    }

    fn actor(&self, actor: &PackActor) -> String {
        let animations = slice(&actor.animations, |animation| {
            let stands_for = animation.stands_for.as_ref();
            let stands_for = stands_for.map(|of| index_of(&actor.animations, |known| known.name == *of));
            let frames = &actor.frames[animation.first..animation.first + animation.count];
            format!(
                "Animation {{ name: {:?}, faces: {}, stands_for: {}, frames: {} }}",
                animation.name,
                facing(&animation.faces),
                some(stands_for),
                slice(frames, |frame| self.frame(actor, frame))
            )
        });
        format!(
            "Actor {{ name: {:?}, meanings: {}, attacks: {}, animations: {animations} }}",
            actor.name,
            slice(&actor.shapes, |shape| self.meaning(shape)),
            slice(&actor.attacks, |attack| Source::attack(actor, attack))
        )
    }

    fn thing(&self, thing: &PackThing) -> String {
        format!(
            "Thing {{ name: {:?}, layer: {}, mask: {}, outline: {}, holes: {}, pieces: {} }}",
            thing.name,
            thing.layer,
            thing.mask,
            self.ring(&thing.outline),
            self.rings(&thing.holes),
            self.rings(&thing.pieces)
        )
    }

    fn zone(&self, stage: &PackStage, zone: &PackZone) -> String {
        let warp = zone.warp.as_ref().map(|warp| {
            format!(
                "Warp {{ to: {}, landing: {}, facing: {}, turns_velocity: {} }}",
                index_of(&stage.zones, |known| known.thing.name == warp.to),
                self.point(warp.landing),
                some(warp.facing.as_deref().map(facing)),
                warp.turns_velocity
            )
        });
        format!(
            "Zone {{ thing: {}, effect: Effect::{}, cooldown: {}, once: {}, warp: {} }}",
            self.thing(&zone.thing),
            variant(&zone.effect),
            zone.cooldown,
            zone.once,
            some(warp)
        )
    }

    fn stage(&self, stage: &PackStage) -> String {
        let one_ways = slice(&stage.one_ways, |one_way| {
            format!("OneWay {{ thing: {}, passes: {} }}", self.thing(&one_way.thing), self.point(one_way.passes))
        });
        let spawns = slice(&stage.spawns, |of| {
            format!("Spawn {{ actor: {:?}, at: {}, facing: {} }}", of.actor, self.point(of.at), facing(&of.facing))
        });
        format!(
            "Stage {{ name: {:?}, size: {}, solids: {}, one_ways: {one_ways}, zones: {}, spawns: {spawns}, spots: {} }}",
            stage.name,
            self.point(stage.size),
            slice(&stage.solids, |solid| self.thing(solid)),
            slice(&stage.zones, |zone| self.zone(stage, zone)),
            slice(&stage.spots, |spot| self.anchor(&spot.name, spot.at))
        )
    }
}
