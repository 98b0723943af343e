//! The pack as a C99 header: tables of constants that need nothing else, and that C++ reads too.

use super::number::{push_digits, text_of};
use super::{
    Number, Pack, PackActor, PackChange, PackLayers, PackPart, PackPoint, PackShape, PackStage, PackState, PackThing,
    Ring,
};
use std::fmt::{self, Display};
use std::io::Write;

/// The types; `NUMBER` is `double`, or `int32_t` in fixed point.
const TYPES: &str = include_str!("c_types.h");

/// What a point takes in the text, about.
const POINT_BYTES: usize = 44;

/// The points of all actors, which are nearly all of a pack.
fn point_count(pack: &Pack) -> usize {
    let sides = pack.actors.iter().flat_map(|actor| &actor.frames).flat_map(|frame| &frame.sides);
    let shapes = sides.flat_map(|side| &side.shapes);
    shapes.flat_map(|of| of.outline.iter().chain(&of.holes).chain(&of.pieces)).map(Vec::len).sum()
}

/// The header. All tables hang on one constant, named after the project.
///
/// # Complexity
/// O(points).
pub fn c_header(pack: &Pack) -> String {
    let name = identifier(&pack.project);
    let guard = name.to_uppercase();
    let number = if pack.space.fixed.is_some() { "int32_t" } else { "double" };
    let mut text: Vec<u8> = Vec::with_capacity(TYPES.len() + POINT_BYTES * point_count(pack));
    let _ = write!(
        text,
        "/* Written by finitor export; do not edit. Coordinates: {}. */\n\
         #ifndef {guard}_PACK_H\n#define {guard}_PACK_H\n\n#include <stdint.h>\n\n{}\n\
         static const finitor_point {name}_points[] = {{\n  ",
        pack.space.words(),
        TYPES.replace("NUMBER", number)
    );
    // Most of a pack are points: they are written where they stay.
    let mut tables = Tables { points: Table { text, count: 0 }, ..Tables::default() };
    let actors = pack.actors.iter().map(|actor| tables.actor(actor)).collect::<Vec<_>>();
    let stages = pack.stages.iter().map(|stage| tables.stage(stage)).collect::<Vec<_>>();
    let PackLayers { contact, names, aliases, states } = &pack.layers;
    let layers = names.iter().map(|layer| row([&quoted(&layer.name), &layer.bit, &layer.mask])).collect::<Vec<_>>();
    let aliases = aliases.iter().map(|alias| row([&quoted(&alias.name), &alias.layers])).collect::<Vec<_>>();
    let mut changes: Vec<String> = Vec::new();
    let mut state = |state: &PackState| {
        let first = changes.len();
        let bits = |of: &PackChange| row([&of.layer, &of.add, &of.drop, &of.join, &of.leave]);
        changes.extend(state.changes.iter().map(bits));
        row([&quoted(&state.name), &span(first, state.changes.len())])
    };
    let states = states.iter().map(&mut state).collect::<Vec<_>>();
    let counts = [&layers, &aliases, &states, &actors, &stages].map(Vec::len);
    let Table { mut text, count } = std::mem::take(&mut tables.points);
    // An array has an element at least.
    text.extend_from_slice(if count == 0 { b"{0}\n};\n" } else { b"\n};\n" });
    let mut all = tables.rows();
    let last = [
        ("layer", layers),
        ("alias", aliases),
        ("change", changes),
        ("state", states),
        ("actor", actors),
        ("stage", stages),
    ];
    all.extend(last.map(|(kind, rows)| (kind, Table::of(&rows))));
    let kinds = std::iter::once("point").chain(all.iter().map(|(kind, _)| *kind));
    let pointers = kinds.map(|kind| format!("{name}_{}", plural(kind))).collect::<Vec<_>>().join(",\n  ");
    for (kind, rows) in all {
        let _ = write!(text, "static const finitor_{kind} {name}_{}[] = {{\n  ", plural(kind));
        text.extend_from_slice(if rows.count == 0 { b"{0}" } else { &rows.text });
        text.extend_from_slice(b"\n};\n");
    }
    let _ = write!(
        text,
        "static const finitor_pack {name}_pack = {{\n  {}, {}, {},\n  {},\n  {pointers}\n}};\n\n#endif\n",
        quoted(&pack.project),
        pack.tick_rate,
        quoted(contact),
        counts.map(|count| count.to_string()).join(", ")
    );
    text_of(text)
}

/// The rows of a table so far.
#[derive(Default)]
struct Table {
    text: Vec<u8>,
    count: usize,
}

impl Table {
    fn of(rows: &[String]) -> Table {
        Table { text: rows.join(",\n  ").into_bytes(), count: rows.len() }
    }

    fn push(&mut self, row: &str) {
        self.begin();
        self.text.extend_from_slice(row.as_bytes());
    }

    /// Begins a row, which the caller writes.
    fn begin(&mut self) {
        if self.count > 0 {
            self.text.extend_from_slice(b",\n  ");
        }
        self.count += 1;
    }

    fn len(&self) -> usize {
        self.count
    }
}

/// The rows of all tables so far.
#[derive(Default)]
struct Tables {
    points: Table,
    rings: Table,
    shapes: Table,
    anchors: Table,
    sides: Table,
    frames: Table,
    animations: Table,
    meanings: Table,
    attacks: Table,
    things: Table,
    one_ways: Table,
    zones: Table,
    spawns: Table,
    spots: Table,
    part_anchors: Table,
}

impl Tables {
    /// In the order of the members of `finitor_pack`, without the points and the last six.
    fn rows(self) -> Vec<(&'static str, Table)> {
        vec![
            ("ring", self.rings),
            ("shape", self.shapes),
            ("anchor", self.anchors),
            ("side", self.sides),
            ("frame", self.frames),
            ("animation", self.animations),
            ("meaning", self.meanings),
            ("attack", self.attacks),
            ("thing", self.things),
            ("one_way", self.one_ways),
            ("zone", self.zones),
            ("spawn", self.spawns),
            ("spot", self.spots),
            ("part_anchor", self.part_anchors),
        ]
    }

    fn rings<'r>(&mut self, rings: impl IntoIterator<Item = &'r Ring>) -> Span {
        let first = self.rings.len();
        for ring in rings {
            self.rings.begin();
            let _ = write!(self.rings.text, "{{{}, {}}}", self.points.len(), ring.len());
            for at in ring {
                self.points.begin();
                let text = &mut self.points.text;
                text.push(b'{');
                push_digits(text, at.x);
                text.extend_from_slice(b", ");
                push_digits(text, at.y);
                text.push(b'}');
            }
        }
        span(first, self.rings.len() - first)
    }

    fn shape(&mut self, actor: &PackActor, shape: &PackShape) {
        let meaning = actor.shapes.iter().position(|known| known.name == shape.shape).unwrap_or(0);
        let (kind, exact): (&str, &[Number]) = match (&shape.rect, &shape.circle, &shape.capsule) {
            (Some(rect), _, _) => ("FINITOR_BOX", rect),
            (_, Some(circle), _) => ("FINITOR_CIRCLE", circle),
            (_, _, Some(capsule)) => ("FINITOR_CAPSULE", capsule),
            _ => ("FINITOR_POLYGON", &[Number(0.0)]),
        };
        let exact = list(exact);
        let [outline, holes, pieces] = [&shape.outline, &shape.holes, &shape.pieces].map(|rings| self.rings(rings));
        self.shapes.push(&row([&(self.first_meaning() + meaning), &kind, &exact, &outline, &holes, &pieces]));
    }

    /// Meanings of the actors before; those of the one that is written come after its frames.
    fn first_meaning(&self) -> usize {
        self.meanings.len()
    }

    fn actor(&mut self, actor: &PackActor) -> String {
        let (first_animation, first_frame) = (self.animations.len(), self.frames.len());
        for (index, frame) in actor.frames.iter().enumerate() {
            let first_side = self.sides.len();
            for side in &frame.sides {
                let (first_anchor, first_shape) = (self.anchors.len(), self.shapes.len());
                let anchors = side.anchors.iter().map(|(name, at)| row([&quoted(name), &point(*at)]));
                anchors.for_each(|anchor| self.anchors.push(&anchor));
                side.shapes.iter().for_each(|shape| self.shape(actor, shape));
                let art = &side.art;
                self.sides.push(&row([
                    &facing(&side.facing),
                    &u8::from(art.flipped),
                    &quoted(&art.image),
                    &art.image_number,
                    &list(&art.rect),
                    &list(&[Number(art.pivot.x), Number(art.pivot.y)]),
                    &span(first_anchor, self.anchors.len() - first_anchor),
                    &span(first_shape, self.shapes.len() - first_shape),
                ]));
            }
            let animation = actor.animations.iter().position(|of| (of.first..of.first + of.count).contains(&index));
            self.frames.push(&row([
                &(first_animation + animation.unwrap_or(0)),
                &frame.frame,
                &frame.ticks,
                &span(first_side, self.sides.len() - first_side),
            ]));
        }
        for animation in &actor.animations {
            let of = |name: &String| actor.animations.iter().position(|known| known.name == *name);
            let stands_for = animation.stands_for.as_ref().and_then(of);
            let stands_for = stands_for.map_or_else(|| "-1".to_string(), |of| (first_animation + of).to_string());
            let frames = span(first_frame + animation.first, animation.count);
            self.animations.push(&row([&quoted(&animation.name), &facing(&animation.faces), &stands_for, &frames]));
        }
        let first_meaning = self.first_meaning();
        let first_attack = self.attacks.len();
        for attack in &actor.attacks {
            let animation = actor.animations.iter().position(|known| known.name == attack.animation).unwrap_or(0);
            let shape = actor.shapes.iter().position(|known| known.name == attack.shape).unwrap_or(0);
            self.attacks.push(&row([
                &(first_animation + animation),
                &(first_meaning + shape),
                &attack.startup,
                &attack.active,
                &attack.pauses,
                &attack.recovery,
            ]));
        }
        for shape in &actor.shapes {
            let anchors = span(self.part_anchors.len(), shape.part_anchors.len());
            for anchor in &shape.part_anchors {
                self.part_anchors.push(&row([&quoted(&anchor.anchor), &part_cells(&anchor.part)]));
            }
            self.meanings.push(&row([
                &quoted(&shape.name),
                &format!("FINITOR_{}", shape.role.to_uppercase()),
                &format!("{}u", shape.layer),
                &format!("{}u", shape.mask),
                &part_cells(&shape.part),
                &shape.damage.unwrap_or_default(),
                &shape.again_after.unwrap_or(0),
                &format!("{}u", shape.blocked_by),
                &maybe(shape.blocked_from.as_ref()),
                &maybe(shape.settle.as_ref()),
                &anchors,
            ]));
        }
        row([
            &quoted(&actor.name),
            &span(first_meaning, actor.shapes.len()),
            &span(first_animation, actor.animations.len()),
            &span(first_attack, actor.attacks.len()),
        ])
    }

    fn thing(&mut self, thing: &PackThing) -> usize {
        let outline = self.rings.len();
        self.rings([&thing.outline]);
        let [holes, pieces] = [&thing.holes, &thing.pieces].map(|rings| self.rings(rings));
        let (layer, mask) = (format!("{}u", thing.layer), format!("{}u", thing.mask));
        self.things.push(&row([&quoted(&thing.name), &layer, &mask, &outline, &holes, &pieces]));
        self.things.len() - 1
    }

    fn stage(&mut self, stage: &PackStage) -> String {
        let solids = span(self.things.len(), stage.solids.len());
        for solid in &stage.solids {
            self.thing(solid);
        }
        let one_ways = span(self.one_ways.len(), stage.one_ways.len());
        for one_way in &stage.one_ways {
            let thing = self.thing(&one_way.thing);
            self.one_ways.push(&row([&thing, &point(one_way.passes)]));
        }
        let first_zone = self.zones.len();
        for zone in &stage.zones {
            let thing = self.thing(&zone.thing);
            let to = |name: &str| stage.zones.iter().position(|known| known.thing.name == name);
            let leads = zone.warp.as_ref().and_then(|warp| Some((first_zone + to(&warp.to)?).to_string()));
            let leads = leads.unwrap_or_else(|| "-1".to_string());
            let landing = zone.warp.as_ref().map_or(PackPoint::default(), |warp| warp.landing);
            let faces = zone.warp.as_ref().and_then(|warp| warp.facing.as_deref()).map_or("0", facing);
            let turns = zone.warp.as_ref().is_some_and(|warp| warp.turns_velocity);
            self.zones.push(&row([
                &thing,
                &format!("FINITOR_{}", zone.effect.to_uppercase()),
                &zone.cooldown,
                &u8::from(zone.once),
                &leads,
                &point(landing),
                &faces,
                &u8::from(turns),
            ]));
        }
        let spawns = span(self.spawns.len(), stage.spawns.len());
        let spots = span(self.spots.len(), stage.spots.len());
        let starts = stage.spawns.iter();
        starts.for_each(|of| self.spawns.push(&row([&quoted(&of.actor), &point(of.at), &facing(&of.facing)])));
        stage.spots.iter().for_each(|of| self.spots.push(&row([&quoted(&of.name), &point(of.at)])));
        let zones = span(first_zone, stage.zones.len());
        row([&quoted(&stage.name), &point(stage.size), &solids, &one_ways, &zones, &spawns, &spots])
    }
}

fn row<const N: usize>(cells: [&dyn Display; N]) -> String {
    list(&cells)
}

fn list<T: Display>(items: &[T]) -> String {
    let mut text = String::with_capacity(64);
    text.push('{');
    for (index, item) in items.iter().enumerate() {
        let _ = fmt::write(&mut text, format_args!("{}{item}", if index == 0 { "" } else { ", " }));
    }
    text + "}"
}

/// Rows of another table.
struct Span {
    first: usize,
    count: usize,
}

impl Display for Span {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{{{}, {}}}", self.first, self.count)
    }
}

fn span(first: usize, count: usize) -> Span {
    Span { first, count }
}

fn point(at: PackPoint) -> String {
    list(&[Number(at.x), Number(at.y)])
}

/// A part's words, its factor and whether it is vital.
fn part_cells(of: &PackPart) -> String {
    let PackPart { part, group, factor, is_vital } = of;
    let (part, group) = (maybe(part.as_ref()), maybe(group.as_ref()));
    format!("{part}, {group}, {}, {}", factor.unwrap_or(Number(1.0)), u8::from(*is_vital))
}

fn plural(kind: &str) -> String {
    format!("{kind}{}", if kind.ends_with('s') { "es" } else { "s" })
}

fn facing(word: &str) -> &'static str {
    if word == "left" { "-1" } else { "1" }
}

fn maybe(words: Option<&String>) -> String {
    words.map_or_else(|| "0".to_string(), |words| quoted(words))
}

/// A C string; other bytes than plain letters as octal escapes.
fn quoted(words: &str) -> String {
    let mut text = String::from("\"");
    for byte in words.bytes() {
        match byte {
            b'"' | b'\\' | b'?' => text.push_str(&format!("\\{}", char::from(byte))),
            0x20..0x7f => text.push(char::from(byte)),
            _ => text.push_str(&format!("\\{byte:03o}")),
        }
    }
    text + "\""
}

/// A name that C and Rust take: letters, digits and `_`, and no digit first.
pub(super) fn identifier(words: &str) -> String {
    let plain = |letter: char| if letter.is_ascii_alphanumeric() { letter.to_ascii_lowercase() } else { '_' };
    let name: String = words.chars().map(plain).collect();
    if name.starts_with(|first: char| first.is_ascii_digit()) || name.is_empty() { format!("p{name}") } else { name }
}
