//! A stage as a drawing that is read back the same.

use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Effect, Outline, Stage, TILES_NAME, Warp};
use finitor_core::{Point, Polygon};
use quick_xml::escape::escape;
use std::fmt::Write;

/// The drawing of a stage's things: a path each, its name the id, its class in the words that are read, coordinates to the last
/// digit. What tiles fill and the borders stay with the stage file, and are left out; the result says how many.
pub fn stage_to_svg(stage: &Stage, layers: &Layers) -> (String, usize) {
    let mut left_out = 0;
    let mut goals = |name: &str| {
        let goals = !name.starts_with(TILES_NAME) && !name.starts_with("border_");
        left_out += usize::from(!goals);
        goals
    };
    let mut body = String::new();
    for zone in stage.zones.iter().filter(|zone| goals(&zone.name)) {
        let mut class = format!("zone {}", zone.effect.name());
        push_layers(&mut class, "detects-", zone.mask, layers);
        let mut data = zone.warp.as_ref().map(|warp| warp_data(stage, warp)).unwrap_or_default();
        if zone.cooldown > 0 {
            push(&mut data, format_args!(" data-cooldown=\"{}\"", zone.cooldown));
        }
        if zone.once {
            data.push_str(" data-once=\"true\"");
        }
        path(&mut body, &zone.name, &class, &data, &zone.outline, zone_colour(zone.effect));
    }
    for solid in stage.solids.iter().filter(|solid| goals(&solid.name)) {
        let mut class = "solid".to_string();
        push_layers(&mut class, "on-", solid.layer, layers);
        if solid.mask != layers.default_mask(solid.layer) {
            push_layers(&mut class, "detects-", solid.mask, layers);
        }
        path(&mut body, &solid.name, &class, "", &solid.outline, "#8d9bb8");
    }
    for one_way in stage.one_ways.iter().filter(|one_way| goals(&one_way.name)) {
        let mut class = format!("one_way passes-{}", passes(one_way.passes));
        push_layers(&mut class, "on-", one_way.layer, layers);
        if one_way.mask != layers.default_mask(one_way.layer) {
            push_layers(&mut class, "detects-", one_way.mask, layers);
        }
        path(&mut body, &one_way.name, &class, "", &one_way.outline, "#35d0ba");
    }
    for spawn in &stage.spawns {
        let data = format!(" data-actor=\"{}\" data-facing=\"{}\"", escape(&spawn.actor), spawn.facing.name());
        dot(&mut body, "", "spawn", &data, spawn.at);
    }
    for spot in &stage.spots {
        dot(&mut body, &format!(" id=\"{}\"", escape(&spot.name)), "spot", "", spot.at);
    }
    let (width, height) = (stage.size.x, stage.size.y);
    let svg = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" viewBox=\"0 0 {width} {height}\">\n\
         <!-- A shape's id is its name, and its class says what it is: see docs/stage.md. -->\n{body}</svg>\n"
    );
    (svg, left_out)
}

fn passes(way: finitor_core::stage::Passes) -> String {
    match way {
        finitor_core::stage::Passes::Angle(degrees) => degrees.to_string(),
        word => word.to_string(),
    }
}

fn zone_colour(effect: Effect) -> &'static str {
    match effect {
        Effect::Hazard => "#ff5a4f",
        Effect::Goal => "#8fd16a",
        Effect::Event => "#ff8fb1",
        Effect::Warp => "#c77dff",
    }
}

fn push_layers(class: &mut String, prefix: &str, set: LayerSet, layers: &Layers) {
    if set == LayerSet::NONE {
        push(class, format_args!(" {prefix}nothing"));
    }
    for name in set.bits().filter_map(|bit| layers.names.get(bit)) {
        push(class, format_args!(" {prefix}{}", escape(name)));
    }
}

fn warp_data(stage: &Stage, warp: &Warp) -> String {
    let to = escape(&stage.zones[warp.to].name);
    let mut data = format!(" data-to=\"{to}\" data-landing=\"{} {}\"", warp.landing.x, warp.landing.y);
    if let Some(facing) = warp.facing {
        push(&mut data, format_args!(" data-landing-facing=\"{}\"", facing.name()));
    }
    if warp.turns_velocity {
        data.push_str(" data-turns-velocity=\"true\"");
    }
    data
}

fn path(body: &mut String, name: &str, class: &str, data: &str, outline: &Outline, colour: &str) {
    let rings = std::iter::once(&outline.polygon).chain(&outline.holes).map(ring);
    let d = rings.collect::<Vec<String>>().join(" ");
    push(
        body,
        format_args!(
            "<path id=\"{}\" class=\"{class}\"{data} d=\"{d}\" fill=\"{colour}\" fill-opacity=\"0.4\" fill-rule=\"evenodd\" \
             stroke=\"{colour}\"/>\n",
            escape(name)
        ),
    );
}

fn ring(polygon: &Polygon) -> String {
    let mut d = String::new();
    for (index, point) in polygon.points().iter().enumerate() {
        push(&mut d, format_args!("{} {} {} ", if index == 0 { "M" } else { "L" }, point.x, point.y));
    }
    d.push('Z');
    d
}

/// A path that stays at a place, seen by its round ends.
fn dot(body: &mut String, id: &str, class: &str, data: &str, at: Point) {
    push(
        body,
        format_args!(
            "<path{id} class=\"{class}\"{data} d=\"M {x} {y} h 0 v 0 Z\" fill=\"none\" stroke=\"#ffffff\" stroke-width=\"4\" \
             stroke-linecap=\"round\"/>\n",
            x = at.x,
            y = at.y
        ),
    );
}

fn push(text: &mut String, arguments: std::fmt::Arguments<'_>) {
    text.write_fmt(arguments).expect("a string takes all that is written to it");
}
