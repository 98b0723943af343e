//! Anchors: named points on frames, written down or found in the art.

use crate::animation_toml::AnimationSpec;
use crate::names::check_name;
use crate::parts_toml::part;
use crate::toml_table::{At, Table, nearest};
use finitor_core::actor::Part;
use finitor_core::art::{Colour, Landmark, Mask, centroid, landmark};
use finitor_core::fit::FrameArt;
use finitor_core::{Facing, Point};

/// A named point.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct AnchorSpec {
    /// Its name.
    pub name: String,
    /// Where it is on frames that say nothing else, cell px.
    at: Option<Point>,
    /// How the art says where it is.
    find: Option<Find>,
    /// Where it is by animation, a point a frame.
    by_frame: Vec<(usize, Vec<Point>)>,
    /// The animations it is on; all unless given.
    animations: Option<Vec<usize>>,
    /// The part that it stands for, where hurt shapes name it.
    pub part: Part,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Find {
    /// Middle of this colour in the part map.
    Paint(Colour),
    /// An outermost opaque pixel.
    Edge(Landmark),
}

impl AnchorSpec {
    /// Where the art has it, cell px; `opaque` are the frame's opaque pixels.
    pub(crate) fn found(&self, art: &FrameArt, opaque: &Mask, drawn: Facing) -> Option<Point> {
        match self.find? {
            Find::Paint(colour) => centroid(&opaque.and(&art.parts.as_ref()?.painted(&[colour]))),
            Find::Edge(which) => landmark(opaque, which, drawn),
        }
    }

    /// Where it is on a frame: as listed for the animation, else as found in the art, else where it is everywhere.
    pub(crate) fn on(&self, animation: usize, number: usize, found: Option<Point>) -> Option<Point> {
        if !self.is_on(animation) {
            return None;
        }
        let listed = self.by_frame.iter().find(|(known, _)| *known == animation);
        listed.and_then(|(_, points)| points.get(number)).copied().or(found).or(self.at)
    }

    fn is_on(&self, animation: usize) -> bool {
        self.animations.as_ref().is_none_or(|named| named.contains(&animation))
    }

    /// Whether an animation's frames ought to have it.
    pub(crate) fn is_needed(&self, animation: usize) -> bool {
        self.find.is_some() && self.is_on(animation)
    }

    /// What is looked for, in words.
    pub(crate) fn sought(&self) -> String {
        match self.find {
            Some(Find::Paint(colour)) => format!("no opaque pixel is painted {colour} in the part map"),
            _ => "no pixel is opaque".to_string(),
        }
    }

    /// Whether it is looked for in the art.
    pub(crate) fn is_sought(&self) -> bool {
        self.find.is_some()
    }

    /// Whether it is looked for in part maps.
    pub(crate) fn wants_parts(&self) -> bool {
        matches!(self.find, Some(Find::Paint(_)))
    }
}

const EDGES: [(&str, Landmark); 4] =
    [("top", Landmark::Top), ("bottom", Landmark::Bottom), ("front", Landmark::Front), ("back", Landmark::Back)];

/// Reads `[anchor.NAME]` with `at = [x, y]` or `find`, and, where it moves, `ANIMATION = [[x, y], ...]`.
pub(crate) fn anchors(top: &Table<'_>, animations: &[AnimationSpec], has_parts: bool) -> Vec<AnchorSpec> {
    let mut anchors = Vec::new();
    for (name, table) in top.named("anchor") {
        check_name(&table, &name, "an anchor");
        let point = |[x, y]: [f64; 2]| Point::new(x, y);
        let at = table.numbers::<2>("at", "[40, 12]").map(|at| point(at.value));
        let find = find(&table);
        let named = table.strings("animations", "[\"walk\"]");
        let on = named.map(|names| names.iter().filter_map(|name| known(&table, name, animations)).collect());
        let mut by_frame = Vec::new();
        for (animation, points) in table.other_point_lists(&["at", "find", "animations", "part", "group", "factor"]) {
            let Some(index) = known(&table, &animation, animations) else {
                continue;
            };
            let frames = animations[index].frames.len();
            if points.value.len() != frames {
                let message =
                    format!("{} points are listed, {} has {frames} frames", points.value.len(), animation.value);
                table.wrong(points.span, message, None);
            }
            by_frame.push((index, points.value.into_iter().map(point).collect()));
        }
        if at.is_none() && find.is_none() && by_frame.is_empty() && !table.has("at") && !table.has("find") {
            table.missing("at", "[40, 12]");
        }
        let anchor = AnchorSpec { name: name.value, at, find, by_frame, animations: on, part: part(&table) };
        if anchor.wants_parts() && !has_parts {
            let message = format!("anchor `{}` uses a paint, but no art has a part map", anchor.name);
            let hint = "add `parts = \"NAME.parts.png\"` to the [[sheet]]: the same size, one flat colour a body part";
            table.wrong(table.value_span("find"), message, Some(hint.into()));
        }
        anchors.push(anchor);
    }
    anchors
}

fn find(table: &Table<'_>) -> Option<Find> {
    let text = table.string("find", "\"paint #e8c547\"")?;
    if let Some((_, edge)) = EDGES.iter().find(|(word, _)| *word == text.value) {
        return Some(Find::Edge(*edge));
    }
    let colour = text.value.strip_prefix("paint ").and_then(|colour| Colour::parse(colour.trim()));
    if colour.is_none() {
        let message = format!("`find` cannot be \"{}\"", text.value);
        let hint = "write \"paint #rrggbb\" for the middle of that colour in the part map, or top, bottom, front or back for the outermost opaque pixel";
        table.wrong(text.span, message, Some(hint.into()));
    }
    colour.map(Find::Paint)
}

/// The index of a named animation; a mistake is noted when there is none.
fn known(table: &Table<'_>, name: &At<String>, animations: &[AnimationSpec]) -> Option<usize> {
    let index = animations.iter().position(|known| known.name == name.value);
    if index.is_none() {
        let names: Vec<&str> = animations.iter().map(|a| a.name.as_str()).collect();
        let hint = nearest(&name.value, &names).map(|near| format!("did you mean `{near}`?"));
        table.wrong(name.span.clone(), format!("there is no animation `{}`", name.value), hint);
    }
    index
}
