//! The pack as a Rust module: constants that need nothing else.

use super::number::Digits;
use super::{
    Number, Pack, PackActor, PackAttack, PackChange, PackFrame, PackPart, PackPartAnchor, PackPoint, PackShape,
    PackSide, PackStage, PackThing, PackZone, Ring, ShapeMeaning,
};
use std::fmt::{Arguments, Display, Write};

/// The types; `NUMBER` is `f64`, or `i32` in fixed point.
const TYPES: &str = include_str!("rust_types.rs");

/// The module: the types, and `PACK`.
///
/// # Complexity
/// O(points).
pub fn rust_module(pack: &Pack) -> String {
    let is_fixed = pack.space.fixed.is_some();
    let mut source = Source { text: String::new(), is_fixed, digits: Digits::default() };
    source.push(format_args!(
        "// Written by finitor export; do not edit. Coordinates: {}.\n\n{}\n/// The pack.\npub static PACK: Pack = \
         Pack {{ project: {:?}, tick_rate: {:?}, contact: {:?}, layers: ",
        pack.space.words(),
        TYPES.replace("NUMBER", if is_fixed { "i32" } else { "f64" }),
        pack.project,
        pack.tick_rate.0,
        pack.layers.contact,
    ));
    source.slice(&pack.layers.names, |source, layer| {
        source.push(format_args!("Layer {{ name: {:?}, bit: {}, mask: {} }}", layer.name, layer.bit, layer.mask));
    });
    source.word(", aliases: ");
    source.slice(&pack.layers.aliases, |source, alias| {
        source.push(format_args!("Alias {{ name: {:?}, layers: {} }}", alias.name, alias.layers));
    });
    source.word(", states: ");
    source.slice(&pack.layers.states, |source, state| {
        source.push(format_args!("State {{ name: {:?}, changes: ", state.name));
        source.slice(&state.changes, |source, PackChange { layer, add, drop, join, leave }| {
            let masks = format_args!("add: {add}, drop: {drop}, join: {join}, leave: {leave}");
            source.push(format_args!("Change {{ layer: {layer}, {masks} }}"));
        });
        source.word(" }");
    });
    source.word(", actors: ");
    source.slice(&pack.actors, Source::actor);
    source.word(", stages: ");
    source.slice(&pack.stages, Source::stage);
    source.word(" };\n");
    source.text
}

fn facing(word: &str) -> &'static str {
    if word == "left" { "Facing::Left" } else { "Facing::Right" }
}

fn some<T: Display>(value: Option<T>) -> String {
    value.map_or_else(|| "None".to_string(), |value| format!("Some({value})"))
}

fn some_word(words: Option<&String>) -> String {
    some(words.map(|words| format!("{words:?}")))
}

/// The fields of a part.
fn part(of: &PackPart) -> String {
    let PackPart { part, group, factor, is_vital } = of;
    let (part, group) = (some_word(part.as_ref()), some_word(group.as_ref()));
    let factor = factor.map_or(1.0, |factor| factor.0);
    format!("part: {part}, group: {group}, factor: {factor:?}, is_vital: {is_vital}")
}

/// A word as a variant's name: `hazard` as `Hazard`.
fn variant(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

fn index_of<T>(items: &[T], is_it: impl Fn(&T) -> bool) -> usize {
    items.iter().position(is_it).unwrap_or(0)
}

/// The text so far; everything is written once, at its end.
struct Source {
    text: String,
    is_fixed: bool,
    digits: Digits,
}

impl Source {
    fn push(&mut self, words: Arguments<'_>) {
        self.text.write_fmt(words).expect("a string takes all that is written to it");
    }

    fn word(&mut self, words: &str) {
        self.text.push_str(words);
    }

    /// A slice of values, each on a line.
    fn slice<T>(&mut self, items: &[T], mut item: impl FnMut(&mut Source, &T)) {
        self.word("&[");
        for (index, one) in items.iter().enumerate() {
            self.word(if index > 0 { ",\n  " } else { "\n  " });
            item(self, one);
        }
        self.word("]");
    }

    /// A number, which in Rust has a point where it is of no integer type.
    fn number(&mut self, number: f64) {
        self.digits.push(&mut self.text, number);
        if !self.is_fixed && Number(number).whole().is_some() {
            self.word(".0");
        }
    }

    fn point(&mut self, at: PackPoint) {
        self.word("Point { x: ");
        self.number(at.x);
        self.word(", y: ");
        self.number(at.y);
        self.word(" }");
    }

    fn ring(&mut self, ring: &Ring) {
        self.word("&[");
        for (index, at) in ring.iter().enumerate() {
            self.word(if index > 0 { ", " } else { "" });
            self.point(*at);
        }
        self.word("]");
    }

    fn rings(&mut self, rings: &[Ring]) {
        self.word("&[");
        for (index, ring) in rings.iter().enumerate() {
            self.word(if index > 0 { ", " } else { "" });
            self.ring(ring);
        }
        self.word("]");
    }

    fn exact(&mut self, shape: &PackShape) {
        let (kind, numbers): (&str, &[Number]) = match (&shape.rect, &shape.circle, &shape.capsule) {
            (Some(rect), _, _) => ("Box", rect),
            (_, Some(circle), _) => ("Circle", circle),
            (_, _, Some(capsule)) => ("Capsule", capsule),
            _ => return self.word("Exact::Polygon"),
        };
        self.push(format_args!("Exact::{kind}(["));
        for (index, number) in numbers.iter().enumerate() {
            self.word(if index > 0 { ", " } else { "" });
            self.number(number.0);
        }
        self.word("])");
    }

    fn shape(&mut self, actor: &PackActor, shape: &PackShape) {
        let meaning = index_of(&actor.shapes, |known| known.name == shape.shape);
        self.push(format_args!("Shape {{ meaning: {meaning}, exact: "));
        self.exact(shape);
        for (key, rings) in [("outline", &shape.outline), ("holes", &shape.holes), ("pieces", &shape.pieces)] {
            self.push(format_args!(", {key}: "));
            self.rings(rings);
        }
        self.word(" }");
    }

    fn side(&mut self, actor: &PackActor, side: &PackSide) {
        let PackSide { facing: faces, art, anchors, shapes } = side;
        self.push(format_args!(
            "Side {{ facing: {}, flipped: {}, image: {:?}, image_number: {}, rect: {:?}, pivot: {:?}, anchors: &[",
            facing(faces),
            art.flipped,
            art.image,
            art.image_number,
            art.rect,
            [art.pivot.x, art.pivot.y],
        ));
        for (index, (name, at)) in anchors.iter().enumerate() {
            self.word(if index > 0 { ", " } else { "" });
            self.anchor(name, *at);
        }
        self.word("], shapes: ");
        self.slice(shapes, |source, shape| source.shape(actor, shape));
        self.word(" }");
    }

    fn anchor(&mut self, name: &str, at: PackPoint) {
        self.push(format_args!("Anchor {{ name: {name:?}, at: "));
        self.point(at);
        self.word(" }");
    }

    fn frame(&mut self, actor: &PackActor, frame: &PackFrame) {
        self.push(format_args!("Frame {{ ticks: {}, sides: ", frame.ticks));
        self.slice(&frame.sides, |source, side| source.side(actor, side));
        self.word(" }");
    }

    fn meaning(&mut self, shape: &ShapeMeaning) {
        self.push(format_args!(
            "Meaning {{ name: {:?}, role: Role::{}, layer: {}, mask: {}, {}, damage: {:?}, again_after: {}, \
             blocked_by: {}, blocked_from: {}, settle: {}, part_anchors: ",
            shape.name,
            variant(&shape.role),
            shape.layer,
            shape.mask,
            part(&shape.part),
            shape.damage.unwrap_or_default().0,
            shape.again_after.unwrap_or(0),
            shape.blocked_by,
            some_word(shape.blocked_from.as_ref()),
            some_word(shape.settle.as_ref()),
        ));
        self.slice(&shape.part_anchors, |source, PackPartAnchor { anchor, part: of }| {
            source.push(format_args!("PartAnchor {{ anchor: {anchor:?}, {} }}", part(of)));
        });
        self.word(" }");
    }

    fn attack(&mut self, actor: &PackActor, attack: &PackAttack) {
        let PackAttack { startup, active, pauses, recovery, .. } = attack;
        let animation = index_of(&actor.animations, |known| known.name == attack.animation);
        let meaning = index_of(&actor.shapes, |known| known.name == attack.shape);
        self.push(format_args!(
            "Attack {{ animation: {animation}, meaning: {meaning}, startup: {startup}, active: {active}, pauses: {pauses}, \
             recovery: {recovery} }}"
        ));
    }

    fn actor(&mut self, actor: &PackActor) {
        self.push(format_args!("Actor {{ name: {:?}, meanings: ", actor.name));
        self.slice(&actor.shapes, Source::meaning);
        self.word(", attacks: ");
        self.slice(&actor.attacks, |source, attack| source.attack(actor, attack));
        self.word(", animations: ");
        self.slice(&actor.animations, |source, animation| {
            let stands_for = animation.stands_for.as_ref();
            let stands_for = stands_for.map(|of| index_of(&actor.animations, |known| known.name == *of));
            let (name, faces) = (&animation.name, facing(&animation.faces));
            let stands_for = some(stands_for);
            source
                .push(format_args!("Animation {{ name: {name:?}, faces: {faces}, stands_for: {stands_for}, frames: "));
            let frames = &actor.frames[animation.first..animation.first + animation.count];
            source.slice(frames, |source, frame| source.frame(actor, frame));
            source.word(" }");
        });
        self.word(" }");
    }

    fn thing(&mut self, thing: &PackThing) {
        let PackThing { name, layer, mask, outline, holes, pieces } = thing;
        self.push(format_args!("Thing {{ name: {name:?}, layer: {layer}, mask: {mask}, outline: "));
        self.ring(outline);
        self.word(", holes: ");
        self.rings(holes);
        self.word(", pieces: ");
        self.rings(pieces);
        self.word(" }");
    }

    fn zone(&mut self, stage: &PackStage, zone: &PackZone) {
        self.word("Zone { thing: ");
        self.thing(&zone.thing);
        let (effect, PackZone { cooldown, once, .. }) = (variant(&zone.effect), zone);
        self.push(format_args!(", effect: Effect::{effect}, cooldown: {cooldown}, once: {once}, warp: "));
        match &zone.warp {
            None => self.word("None"),
            Some(warp) => {
                let to = index_of(&stage.zones, |known| known.thing.name == warp.to);
                self.push(format_args!("Some(Warp {{ to: {to}, landing: "));
                self.point(warp.landing);
                let faces = some(warp.facing.as_deref().map(facing));
                self.push(format_args!(", facing: {faces}, turns_velocity: {} }})", warp.turns_velocity));
            }
        }
        self.word(" }");
    }

    fn stage(&mut self, stage: &PackStage) {
        self.push(format_args!("Stage {{ name: {:?}, size: ", stage.name));
        self.point(stage.size);
        self.word(", solids: ");
        self.slice(&stage.solids, Source::thing);
        self.word(", one_ways: ");
        self.slice(&stage.one_ways, |source, one_way| {
            source.word("OneWay { thing: ");
            source.thing(&one_way.thing);
            source.word(", passes: ");
            source.point(one_way.passes);
            source.word(" }");
        });
        self.word(", zones: ");
        self.slice(&stage.zones, |source, zone| source.zone(stage, zone));
        self.word(", spawns: ");
        self.slice(&stage.spawns, |source, of| {
            source.push(format_args!("Spawn {{ actor: {:?}, at: ", of.actor));
            source.point(of.at);
            source.push(format_args!(", facing: {} }}", facing(&of.facing)));
        });
        self.word(", spots: ");
        self.slice(&stage.spots, |source, spot| source.anchor(&spot.name, spot.at));
        self.word(" }");
    }
}
