//! How a shape is to be fitted, as an actor file says it.

use crate::toml_table::{At, Table};
use finitor_core::art::Colour;
use finitor_core::fit::{Angle, BandSide, FitGoal, Fitting, Forgiving, Kind, Region, Share, Sides, Tidying};

const GOALS: [(&str, FitGoal); 3] =
    [("cover", FitGoal::Cover), ("inside", FitGoal::Inside), ("balance", FitGoal::Balance)];
const SHARES: [(&str, Share); 3] = [("frame", Share::Frame), ("animation", Share::Animation), ("actor", Share::Actor)];
const ANGLES: [(&str, Angle); 3] = [("upright", Angle::Upright), ("lying", Angle::Lying), ("any", Angle::Any)];
const BANDS: [(&str, BandSide); 4] =
    [("top", BandSide::Top), ("bottom", BandSide::Bottom), ("left", BandSide::Left), ("right", BandSide::Right)];

/// Keys of a fitted shape that say what it is fitted to and how; one that is given outright has none of them.
pub(crate) const FITTING_KEYS: [&str; 30] = [
    "fit",
    "share",
    "alpha",
    "region",
    "paint",
    "min_island",
    "min_hole",
    "min_thickness",
    "close_gaps",
    "inset",
    "outset",
    "tolerance",
    "max_points",
    "max_piece_points",
    "angle",
    "left",
    "right",
    "top",
    "bottom",
    "width",
    "height",
    "radius",
    "symmetric",
    "grounded",
    "snap",
    "presence",
    "min_iou",
    "forgive_top",
    "forgive_front",
    "kind",
];

/// What a body is fitted like that says nothing of how: one box over the actor, as wide and as high as what most frames
/// have in common, thin parts dropped, flat on the ground line, forgiving at the top and the front.
pub(crate) fn usual_body() -> Fitting {
    Fitting {
        goal: FitGoal::Cover,
        share: Share::Actor,
        tidying: Tidying { min_thickness_share: 0.12, largest: true, ..Tidying::default() },
        symmetric: true,
        grounded: true,
        presence: 0.5,
        forgiving: Forgiving { top: 2.0, front: 4.0 },
        ..Fitting::of(Kind::Box)
    }
}

/// The usual body in words, for `fit --why`.
pub const USUAL_BODY_WORDS: &str = "no kind is given, so it is the usual body: one box over all its frames, round \
    the pixels that at least half of them share, thin parts (under 12 % of its height) dropped with what hangs on them, equal on both sides of the pivot, flat \
    on the pivot's line, 2 px lower at the top and 4 px narrower for the front";

/// Reads a recipe; what the table leaves open is taken from `defaults`.
pub(crate) fn fitting(table: &Table<'_>, defaults: Fitting) -> Option<Fitting> {
    let words: Vec<(&str, Kind)> = Kind::ALL.map(|kind| (kind.name(), kind)).to_vec();
    let defaults = match table.has("kind") {
        true => {
            let kind = table.word("kind", &words)?.value;
            if kind == defaults.kind { defaults } else { Fitting::of(kind) }
        }
        false => defaults,
    };
    let kind = defaults.kind;
    let goal = table.word("fit", &GOALS);
    if let Some(goal) = goal.as_ref().filter(|goal| goal.value == FitGoal::Inside && kind == Kind::Hull) {
        let message = "the greatest convex polygon inside is not fitted";
        let hint = "take kind = \"pieces\", or a box, circle or capsule inside; or fit = \"cover\" or \"balance\"";
        table.wrong(goal.span.clone(), message, Some(hint.into()));
    }
    let goal = goal.map_or(defaults.goal, |goal| goal.value);
    let fitting = Fitting {
        kind,
        goal,
        share: table.word("share", &SHARES).map_or(defaults.share, |share| share.value),
        alpha: table.integer("alpha", 1..256, "128").map_or(defaults.alpha, |alpha| alpha.value as u8),
        region: region(table).or(defaults.region),
        paint: if table.has("paint") { paint(table) } else { defaults.paint.clone() },
        tidying: tidying(table, defaults.tidying),
        tolerance: traced(table, kind, "tolerance", table.number_from("tolerance", 0.0, "1.0"))
            .unwrap_or(defaults.tolerance),
        max_points: traced(table, kind, "max_points", table.integer("max_points", 3..100_000, "16"))
            .map(|most| most as usize)
            .or(defaults.max_points),
        max_piece_points: table
            .integer("max_piece_points", 3..100_000, "8")
            .map_or(defaults.max_piece_points, |most| most.value as usize),
        angle: angle(table, kind).unwrap_or(defaults.angle),
        sides: sides(table, kind, goal, defaults.sides),
        symmetric: table.boolean("symmetric").map_or(defaults.symmetric, |symmetric| symmetric.value),
        grounded: table.boolean("grounded").map_or(defaults.grounded, |grounded| grounded.value),
        spared: defaults.spared.clone(),
        snap: above_zero(table, "snap", "1").or(defaults.snap),
        presence: share(table, "presence", "0.5").unwrap_or(defaults.presence),
        min_iou: share(table, "min_iou", "0.8").unwrap_or(defaults.min_iou),
        forgiving: Forgiving {
            top: table.number_from("forgive_top", 0.0, "2").map_or(defaults.forgiving.top, |by| by.value),
            front: table.number_from("forgive_front", 0.0, "4").map_or(defaults.forgiving.front, |by| by.value),
        },
    };
    contradictions(table, &fitting);
    Some(fitting)
}

/// Options that are there and do nothing, or cannot be kept.
fn contradictions(table: &Table<'_>, fitting: &Fitting) {
    let wrong = |key: &str, message: String, hint: &str| {
        if table.has(key) {
            table.wrong(table.value_span(key), message, Some(hint.into()));
        }
    };
    if fitting.kind != Kind::Auto {
        wrong("min_iou", "`min_iou` is for kind \"auto\"".into(), "drop it, or take kind = \"auto\"");
    }
    if fitting.share == Share::Frame {
        wrong(
            "presence",
            "`presence` needs several frames to count over".into(),
            "add share = \"animation\" or \"actor\"",
        );
    }
    if table.has("tolerance") {
        wrong("max_points", "`max_points` and `tolerance` cannot be given together".into(), "drop one of them");
    }
    if table.has("inset") {
        wrong("outset", "`inset` and `outset` cannot be given together".into(), "drop one of them");
    }
    if fitting.grounded && table.has("grounded") {
        wrong("bottom", "`bottom` and `grounded` cannot be given together".into(), "drop one of them");
    }
    if fitting.kind != Kind::Box {
        for key in ["forgive_top", "forgive_front", "grounded"] {
            wrong(key, format!("`{key}` is for boxes"), "drop it, or take kind = \"box\"");
        }
    }
    let convex = fitting.kind == Kind::Hull && fitting.goal == FitGoal::Cover;
    if (fitting.kind.is_traced() || fitting.kind == Kind::Hull) && fitting.goal != FitGoal::Balance && !convex {
        let message = "`snap` would move corners off the pixel edges that this `fit` must keep to".to_string();
        wrong("snap", message, "drop it, or take fit = \"balance\"");
    }
}

fn tidying(table: &Table<'_>, defaults: Tidying) -> Tidying {
    const MOST: i64 = 1 << 31;
    const WIDEST: f64 = 4096.0;
    let count = |key, defaults: u64| table.integer(key, 0..MOST, "8").map_or(defaults, |count| count.value as u64);
    let side = |key, defaults: u32| table.integer(key, 0..4096, "3").map_or(defaults, |side| side.value as u32);
    let reach = |key, defaults: f64| match table.number_from(key, 0.0, "1") {
        Some(reach) if reach.value > WIDEST => {
            table.wrong(reach.span, format!("`{key}` is more than {WIDEST} px"), None);
            defaults
        }
        Some(reach) => reach.value,
        None => defaults,
    };
    let shared = table.is_string("min_thickness").then(|| min_thickness_share(table).unwrap_or(0.0));
    let largest = table.is_string("min_island").then(|| table.word("min_island", &[("largest", ())]).is_some());
    Tidying {
        min_island: if largest.is_some() { 0 } else { count("min_island", defaults.min_island) },
        largest: largest.unwrap_or(defaults.largest && !table.has("min_island")),
        min_hole: count("min_hole", defaults.min_hole),
        min_thickness: if shared.is_some() { 0 } else { side("min_thickness", defaults.min_thickness) },
        min_thickness_share: shared.unwrap_or(if table.has("min_thickness") {
            0.0
        } else {
            defaults.min_thickness_share
        }),
        close_gaps: side("close_gaps", defaults.close_gaps),
        inset: reach("inset", defaults.inset),
        outset: reach("outset", defaults.outset),
    }
}

/// `min_thickness` as a share of the height: `"12%"`.
fn min_thickness_share(table: &Table<'_>) -> Option<f64> {
    let text = table.string("min_thickness", "\"12%\"")?;
    let percent = text.value.strip_suffix('%').and_then(|number| number.trim().parse::<f64>().ok());
    let found = percent.filter(|percent| (0.0..=100.0).contains(percent));
    if found.is_none() {
        let message = format!("`min_thickness` cannot be \"{}\"", text.value);
        table.wrong(text.span, message, Some("write px, such as 3, or a share of the height, such as \"12%\"".into()));
    }
    found.map(|percent| percent / 100.0)
}

/// A value that is for shapes that follow the art alone.
fn traced<T>(table: &Table<'_>, kind: Kind, key: &str, found: Option<At<T>>) -> Option<T> {
    let found = found?;
    if kind.is_traced() || kind == Kind::Auto {
        return Some(found.value);
    }
    let message = format!("`{key}` is for outlines, kind \"{}\" has none", kind.name());
    table.wrong(found.span, message, Some("drop it, or take kind = \"outline\" or \"pieces\"".into()));
    None
}

fn angle(table: &Table<'_>, kind: Kind) -> Option<Angle> {
    let found = table.word("angle", &ANGLES)?;
    if matches!(kind, Kind::Capsule | Kind::Auto) {
        return Some(found.value);
    }
    let message = format!("`angle` is for capsules, kind \"{}\" has none", kind.name());
    table.wrong(found.span, message, Some("drop it, or take kind = \"capsule\"".into()));
    None
}

fn above_zero(table: &Table<'_>, key: &'static str, example: &str) -> Option<f64> {
    let found = table.number(key, example)?;
    if found.value > 0.0 && found.value <= 4096.0 {
        return Some(found.value);
    }
    table.wrong(found.span, format!("`{key}` must be above 0 and at most 4096"), Some(format!("`{key} = {example}`")));
    None
}

fn share(table: &Table<'_>, key: &'static str, example: &str) -> Option<f64> {
    let found = table.number(key, example)?;
    if (0.0..=1.0).contains(&found.value) {
        return Some(found.value);
    }
    let message = format!("`{key}` is a share from 0 to 1, not {}", found.value);
    table.wrong(found.span, message, Some(format!("for example `{key} = {example}`")));
    None
}

fn sides(table: &Table<'_>, kind: Kind, goal: FitGoal, defaults: Sides) -> Sides {
    let number = |key, defaults: Option<f64>, reason: Option<String>| {
        let Some(found) = table.number(key, "20") else { return defaults };
        let Some(reason) = reason else { return Some(found.value) };
        table.wrong(found.span, reason, Some("drop it, or take kind = \"box\"".into()));
        None
    };
    let side = |key, defaults| {
        let reason = match (kind, goal) {
            (Kind::Box | Kind::Auto, _) | (Kind::Capsule, FitGoal::Balance) => None,
            (Kind::Capsule, FitGoal::Cover) => Some(
                "a capsule that covers every pixel cannot keep a given side: its round end would cut the corners"
                    .into(),
            ),
            (Kind::Capsule, FitGoal::Inside) => {
                Some("a capsule inside is where there is most room, not at a side".into())
            }
            _ => Some(format!("kind \"{}\" has no sides to give", kind.name())),
        };
        number(key, defaults, reason)
    };
    let size = |key, defaults| {
        let has = matches!((kind, goal), (Kind::Box, _) | (Kind::Capsule, FitGoal::Balance));
        let reason = if kind == Kind::Capsule {
            format!("a capsule with that `fit` has a `radius` to give, no `{key}`")
        } else {
            format!("kind \"{}\" has no `{key}` to give", kind.name())
        };
        number(key, defaults, (!has).then_some(reason))
    };
    let has_radius = matches!(kind, Kind::Circle | Kind::Capsule);
    let radius = (!has_radius).then(|| format!("kind \"{}\" has no `radius` to give", kind.name()));
    let found = Sides {
        left: side("left", defaults.left),
        top: side("top", defaults.top),
        right: side("right", defaults.right),
        bottom: side("bottom", defaults.bottom),
        width: size("width", defaults.width),
        height: size("height", defaults.height),
        radius: number("radius", defaults.radius, radius),
        axis: None,
    };
    for (key, value) in [("width", found.width), ("height", found.height), ("radius", found.radius)] {
        if value.is_some_and(|value| value <= 0.0) && table.has(key) {
            table.wrong(table.value_span(key), format!("`{key}` must be above 0"), None);
        }
    }
    found
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
                let message = format!("\"{}\" is not a colour", text.value);
                let hint = "write six hex digits of the part map's colour, such as \"#d9a066\"";
                table.wrong(text.span, message, Some(hint.into()));
            }
        }
    }
    colours
}
