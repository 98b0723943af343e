//! The shapes of an actor file.

use crate::actor_toml::check_name;
use crate::animation_toml::AnimationSpec;
use crate::cells::parse_list;
use crate::project::layer_set;
use crate::toml_table::{At, Table, nearest};
use finitor_core::Point;
use finitor_core::actor::Role;
use finitor_core::art::Colour;
use finitor_core::fit::{Along, BandSide, Fitting, Given, Hold, Keep, Kind, Region, Side, Sides, Source, given_shape};
use finitor_core::layers::{LayerSet, Layers};
use std::ops::Range;

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
    /// The body part it stands for.
    pub part: Option<String>,
    /// The family of parts.
    pub group: Option<String>,
    /// What damage is multiplied by.
    pub factor: Option<f64>,
    /// The damage a hit does.
    pub damage: Option<f64>,
    /// Indices of the frames it is on.
    pub frames: Vec<usize>,
    claim: Claim,
}

/// Which frames a shape asks for.
#[derive(Clone, Debug)]
struct Claim {
    span: Range<usize>,
    animations: Option<Vec<At<String>>>,
    frames: Option<At<Vec<u32>>>,
    /// Whether the file gave a mask; strips take over that of the shape they follow.
    masked: bool,
    along_span: Range<usize>,
}

impl ShapeSpec {
    /// The kind's word for tables and files.
    pub fn kind_name(&self) -> &'static str {
        match &self.source {
            Source::Fitted(fitting) => kind_word(fitting.kind),
            Source::Given(Given::Box(_)) | Source::Along(_) => "box",
            Source::Given(Given::Circle(_)) => "circle",
            Source::Given(Given::Capsule(_)) => "capsule",
            Source::Given(Given::Points(_)) => "points",
        }
    }
}

const KINDS: [(&str, Kind); 4] =
    [("box", Kind::Box), ("capsule", Kind::Capsule), ("hull", Kind::Hull), ("outline", Kind::Outline)];
const KEEPS: [(&str, Keep); 2] = [("cover", Keep::Cover), ("balance", Keep::Balance)];
const HOLDS: [(&str, Hold); 3] = [("frame", Hold::Frame), ("animation", Hold::Animation), ("actor", Hold::Actor)];
const SIDES: [(&str, Side); 4] =
    [("below", Side::Below), ("above", Side::Above), ("ahead", Side::Ahead), ("behind", Side::Behind)];
const BANDS: [(&str, BandSide); 4] =
    [("top", BandSide::Top), ("bottom", BandSide::Bottom), ("left", BandSide::Left), ("right", BandSide::Right)];

fn kind_word(kind: Kind) -> &'static str {
    KINDS.iter().find(|(_, known)| *known == kind).map_or("", |(word, _)| word)
}

/// Reads all `[shape.NAME]` tables.
pub(crate) fn shapes(top: &Table<'_>, layers: &Layers) -> Vec<ShapeSpec> {
    let mut shapes: Vec<ShapeSpec> =
        top.named("shape").iter().filter_map(|(name, table)| shape(name, table, layers)).collect();
    follow(top, &mut shapes);
    shapes
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
    let roles = Role::ALL.map(|role| (role.name(), role));
    if !table.has("role") {
        table.missing("role", "\"body\"");
    }
    let role = table.word("role", &roles);
    let layer = table.strings("layer", "\"hero\"").map(|names| layer_set(table, layers, &names));
    let mask = table.strings("mask", "[\"ground\"]").map(|names| layer_set(table, layers, &names));
    let animations = table.strings("animations", "[\"walk\"]");
    let frames = frame_list(table);
    let text = |key, example| table.string(key, example).map(|text| text.value);
    let (part, group) = (text("part", "\"head\""), text("group", "\"upper\""));
    let factor = table.number("factor", "1.0").map(|factor| factor.value);
    let damage = table.number("damage", "10").map(|damage| damage.value);
    let along_span = table.value_span("along");
    let source = source(table);
    table.finish();
    let role = role?.value;
    if layer.is_none() && role != Role::Sensor && !table.has("layer") {
        let message = format!("shape `{}` is on no layer, so nothing can look for it", name.value);
        let hint = format!("add for example `layer = \"{}\"`", layers.names.first().map_or("hero", String::as_str));
        table.wrong(name.span.clone(), message, Some(hint));
    }
    let layer = layer.unwrap_or(LayerSet::NONE);
    Some(ShapeSpec {
        name: name.value.clone(),
        role,
        source: source?,
        layer,
        mask: mask.unwrap_or_else(|| layers.default_mask(layer)),
        part,
        group,
        factor,
        damage,
        frames: Vec::new(),
        claim: Claim { span: name.span.clone(), animations, frames, masked: mask.is_some(), along_span },
    })
}

fn frame_list(table: &Table<'_>) -> Option<At<Vec<u32>>> {
    let text = table.string("frames", "\"2-3\"")?;
    match parse_list(&text.value) {
        Ok(value) => Some(At { value, span: text.span }),
        Err(reason) => {
            table.wrong(text.span, reason, Some("frames count from 0, for example \"2-3\"".into()));
            None
        }
    }
}

fn source(table: &Table<'_>) -> Option<Source> {
    let ways = ["kind", "box", "circle", "capsule", "points", "along"];
    let used: Vec<&str> = ways.into_iter().filter(|key| table.has(key)).collect();
    match used.as_slice() {
        ["kind"] => fitting(table).map(Source::Fitted),
        ["along"] => along(table).map(Source::Along),
        [_] => given(table).map(Source::Given),
        [] => {
            table.note_known(&ways);
            let message = "the shape says neither how to fit it nor what it is";
            let hint = "add `kind = \"box\"`, or give it outright: box, circle, capsule, points or along";
            table.wrong(table.span.clone(), message, Some(hint.into()));
            None
        }
        several => {
            table.note_known(&ways);
            table.wrong(table.span.clone(), format!("{} contradict one another", several.join(" and ")), None);
            None
        }
    }
}

fn fitting(table: &Table<'_>) -> Option<Fitting> {
    let kind = table.word("kind", &KINDS)?;
    let usual = Fitting::of(kind.value);
    let keep = table.word("keep", &KEEPS).map_or(usual.keep, |keep| keep.value);
    let hold = table.word("hold", &HOLDS).map_or(usual.hold, |hold| hold.value);
    let alpha = table.integer("alpha", 1..256, "128").map_or(usual.alpha, |alpha| alpha.value as u8);
    let tolerance = table.number_from("tolerance", 0.0, "1.0");
    if let Some(tolerance) = &tolerance
        && kind.value != Kind::Outline
    {
        let message = format!("`tolerance` is for outlines, kind \"{}\" has none", kind_word(kind.value));
        table.wrong(tolerance.span.clone(), message, None);
    }
    let fitting = Fitting {
        kind: kind.value,
        keep,
        hold,
        alpha,
        region: region(table),
        paint: paint(table),
        tolerance: tolerance.map_or(usual.tolerance, |tolerance| tolerance.value),
        sides: sides(table, kind.value, keep),
    };
    Some(fitting)
}

fn sides(table: &Table<'_>, kind: Kind, keep: Keep) -> Sides {
    let side = |key| {
        let found = table.number(key, "20")?;
        let reason = match (kind, keep) {
            (Kind::Hull | Kind::Outline, _) => format!("kind \"{}\" has no sides to give", kind_word(kind)),
            (Kind::Capsule, Keep::Cover) => {
                "a capsule that covers every pixel cannot keep a given side: its round end would cut the corners"
                    .to_string()
            }
            _ => return Some(found.value),
        };
        table.wrong(found.span, reason, Some("drop it, or take kind = \"box\"".into()));
        None
    };
    Sides { left: side("left"), top: side("top"), right: side("right"), bottom: side("bottom") }
}

fn region(table: &Table<'_>) -> Option<Region> {
    const EXAMPLE: &str = "\"bottom 30%\", or [x, y, width, height]";
    if table.is_list("region") {
        return table.numbers::<4>("region", EXAMPLE).map(|numbers| Region::Box(numbers.value));
    }
    let text = table.string("region", EXAMPLE)?;
    let band = || {
        let (side, share) = text.value.split_once(' ')?;
        let side = BANDS.iter().find(|(word, _)| *word == side)?.1;
        let percent: f64 = share.trim().strip_suffix('%')?.trim().parse().ok()?;
        (percent > 0.0 && percent <= 100.0).then_some(Region::Band(side, percent / 100.0))
    };
    let found = band();
    if found.is_none() {
        let message = format!("`region` cannot be \"{}\"", text.value);
        let hint =
            "write a side and a share, such as \"bottom 30%\" (top, bottom, left or right), or [x, y, width, height]";
        table.wrong(text.span.clone(), message, Some(hint.into()));
    }
    found
}

fn paint(table: &Table<'_>) -> Vec<Colour> {
    let mut colours = Vec::new();
    for text in table.strings("paint", "\"#d9a066\"").unwrap_or_default() {
        match Colour::parse(&text.value) {
            Some(colour) => colours.push(colour),
            None => {
                let message = format!("\"{}\" is no colour", text.value);
                let hint = "write six hex digits of the part map's colour, such as \"#d9a066\"";
                table.wrong(text.span, message, Some(hint.into()));
            }
        }
    }
    colours
}

fn given(table: &Table<'_>) -> Option<Given> {
    let boxed = table.numbers::<4>("box", "[16, 10, 16, 36]").map(|n| (Given::Box(n.value), n.span));
    let circle = table.numbers::<3>("circle", "[24, 20, 8]").map(|n| (Given::Circle(n.value), n.span));
    let capsule = table.numbers::<5>("capsule", "[24, 18, 24, 38, 8]").map(|n| (Given::Capsule(n.value), n.span));
    let points = table
        .points("points")
        .map(|points| (Given::Points(points.value.into_iter().map(|[x, y]| Point::new(x, y)).collect()), points.span));
    let (given, span) = boxed.or(circle).or(capsule).or(points)?;
    if let Err(error) = given_shape(&given) {
        table.wrong(span, format!("this is no shape: {error}"), None);
        return None;
    }
    Some(given)
}

fn along(table: &Table<'_>) -> Option<Along> {
    let shape = table.string("along", "\"body\"")?;
    if !table.has("side") {
        table.missing("side", "\"below\"");
    }
    let side = table.word("side", &SIDES)?;
    let depth = table.number_from("depth", 0.01, "2").map_or(2.0, |depth| depth.value);
    let inset = table.number_from("inset", 0.0, "1").map_or(0.0, |inset| inset.value);
    Some(Along { shape: shape.value, side: side.value, depth, inset })
}

/// Notes shapes that ask for a paint where no sheet has a part map to look it up in.
pub(crate) fn check_paint(top: &Table<'_>, shapes: &[ShapeSpec]) {
    for shape in shapes {
        if let Source::Fitted(fitting) = &shape.source
            && let Some(colour) = fitting.paint.first()
        {
            let message = format!("shape `{}` asks for paint {colour}, but no sheet has a part map", shape.name);
            let hint = "add `parts = \"NAME.parts.png\"` to the [[sheet]]: the same size, one flat colour a body part";
            top.wrong(shape.claim.span.clone(), message, Some(hint.into()));
        }
    }
}

/// Gives every shape the frames it is on. A strip that names none is where the shape is that it follows. Of several bodies on a frame the one that claims fewest frames wins; two
/// that claim as many are a mistake.
pub(crate) fn assign_frames(top: &Table<'_>, shapes: &mut [ShapeSpec], animations: &[AnimationSpec]) {
    for shape in shapes.iter_mut() {
        shape.frames = claimed(top, &shape.claim, animations);
    }
    let claims: Vec<(Role, usize, Vec<usize>)> =
        shapes.iter().map(|s| (s.role, s.frames.len(), s.frames.clone())).collect();
    for i in 0..shapes.len() {
        if shapes[i].role != Role::Body {
            continue;
        }
        let size = claims[i].1;
        let mut clash: Option<(usize, usize)> = None;
        shapes[i].frames.retain(|frame| {
            claims.iter().enumerate().filter(|(j, _)| *j != i).all(|(j, (role, other, frames))| {
                let both = *role == Role::Body && frames.contains(frame);
                if both && *other == size && j < i {
                    clash = clash.or(Some((j, *frame)));
                }
                !(both && *other < size)
            })
        });
        if let Some((j, frame)) = clash {
            let at = animations.iter().find(|a| a.frames.contains(&frame));
            let place = at.map_or_else(String::new, |a| format!("{} {}", a.name, frame - a.frames.start));
            let message = format!(
                "two bodies on {place}: `{}` and `{}` both claim {size} frames",
                shapes[j].name, shapes[i].name
            );
            let hint = "name `animations` or `frames` so that one claims fewer: the narrower claim wins".to_string();
            top.wrong(shapes[i].claim.span.clone(), message, Some(hint));
        }
    }
    assign_strips(shapes);
}

/// Strips without a claim of their own go with the shape they follow.
fn assign_strips(shapes: &mut [ShapeSpec]) {
    let bases: Vec<(String, Vec<usize>)> = shapes.iter().map(|s| (s.name.clone(), s.frames.clone())).collect();
    for shape in shapes {
        let Source::Along(along) = &shape.source else {
            continue;
        };
        let free = shape.claim.animations.is_none() && shape.claim.frames.is_none();
        if let Some((_, frames)) = bases.iter().find(|(name, _)| free && *name == along.shape) {
            shape.frames.clone_from(frames);
        }
    }
}

fn claimed(top: &Table<'_>, claim: &Claim, animations: &[AnimationSpec]) -> Vec<usize> {
    let chosen: Vec<&AnimationSpec> = match &claim.animations {
        None => animations.iter().collect(),
        Some(names) => names.iter().filter_map(|name| named_animation(top, name, animations)).collect(),
    };
    let Some(numbers) = &claim.frames else {
        return chosen.iter().flat_map(|animation| animation.frames.clone()).collect();
    };
    let mut frames = Vec::new();
    for animation in chosen {
        let length = animation.frames.len();
        if let Some(past) = numbers.value.iter().find(|number| **number as usize >= length) {
            let message = format!("{} has {length} frames, there is no frame {past}", animation.name);
            let hint = "name `animations` that have it; frames count from 0".to_string();
            top.wrong(numbers.span.clone(), message, Some(hint));
        }
        let inside = numbers.value.iter().map(|n| *n as usize).filter(|n| *n < length);
        frames.extend(inside.map(|number| animation.frames.start + number));
    }
    frames.sort_unstable();
    frames.dedup();
    frames
}

fn named_animation<'a>(
    top: &Table<'_>,
    name: &At<String>,
    animations: &'a [AnimationSpec],
) -> Option<&'a AnimationSpec> {
    let found = animations.iter().find(|animation| animation.name == name.value);
    if found.is_none() {
        let names: Vec<&str> = animations.iter().map(|a| a.name.as_str()).collect();
        let hint = match nearest(&name.value, &names) {
            Some(near) => format!("did you mean \"{near}\"?"),
            None => format!("there are: {}", names.join(", ")),
        };
        top.wrong(name.span.clone(), format!("there is no animation \"{}\"", name.value), Some(hint));
    }
    found
}
