//! Drawings of stages: shapes whose class says what they are.

mod outline;
mod walk;
mod write;

pub(crate) use walk::transform;
pub use write::stage_to_svg;

use crate::names::can_name;
use crate::problem::{Problem, Problems};
use crate::thick_line::thick;
use crate::toml_table::nearest;
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Effect, OneWay, Outline, Passes, Solid, Spawn, Spot, Warp, Zone};
use finitor_core::{Facing, Point, Polygon, Vec2};
use outline::pair;
use std::path::Path;
use walk::{Drawing, Drawn, place, read};

/// The words of a class that say what a shape is.
const SORTS: [(&str, Sort); 6] = [
    ("solid", Sort::Solid),
    ("one_way", Sort::OneWay),
    ("one-way", Sort::OneWay),
    ("zone", Sort::Zone),
    ("spawn", Sort::Spawn),
    ("spot", Sort::Spot),
];

/// Stands for no layer at all, after `on-` and `detects-`.
const NOTHING: &str = "nothing";

/// Unread elements are listed one by one up to this many.
const MOST_TOLD: usize = 50;

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Sort {
    Solid,
    OneWay,
    Zone,
    Spawn,
    Spot,
}

impl Sort {
    fn name(self) -> &'static str {
        match self {
            Sort::Solid => "solid",
            Sort::OneWay => "one_way",
            Sort::Zone => "zone",
            Sort::Spawn => "spawn",
            Sort::Spot => "spot",
        }
    }
}

/// What a sort of things has where nothing else is said: `[defaults.solid]` and so on.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct DrawnDefaults {
    pub(crate) layer: Option<LayerSet>,
    pub(crate) mask: Option<LayerSet>,
    pub(crate) passes: Option<Passes>,
    pub(crate) effect: Option<Effect>,
}

/// A warp whose zone is to be looked up: its name, and where that stands in the drawing.
pub(crate) type SvgLeading = (String, usize, Warp);

/// What a drawing adds to a stage.
pub(crate) struct SvgStage {
    pub(crate) solids: Vec<Solid>,
    pub(crate) one_ways: Vec<OneWay>,
    pub(crate) zones: Vec<(Zone, Option<SvgLeading>)>,
    pub(crate) spawns: Vec<Spawn>,
    pub(crate) spots: Vec<Spot>,
    /// What is not read, in words with its line.
    pub(crate) unread: Vec<String>,
    drawing: Drawing,
}

/// Reads a drawing. Names are added to those that are taken already.
///
/// # Errors
/// All mistakes in it.
pub(crate) fn read_stage_svg(
    path: &Path,
    tolerance: f64,
    layers: &Layers,
    defaults: &[DrawnDefaults; 3],
    names: &mut Vec<String>,
) -> Result<SvgStage, Problems> {
    let is_thing = |words: &[Vec<String>]| sort_of(words).is_some() || slip_of(words).is_some();
    let drawing = read(path, tolerance, is_thing)?;
    let mut stage = SvgStage {
        solids: Vec::new(),
        one_ways: Vec::new(),
        zones: Vec::new(),
        spawns: Vec::new(),
        spots: Vec::new(),
        unread: Vec::new(),
        drawing,
    };
    let mut problems = Problems::default();
    let mut counts = [0_usize; 5];
    // Names are looked up often in drawings of thousands of shapes.
    let mut taken: std::collections::BTreeSet<String> = names.iter().cloned().collect();
    for drawn in std::mem::take(&mut stage.drawing.shapes) {
        let Some(sort) = sort_of(&drawn.words) else {
            problems.0.extend(slip_of(&drawn.words).map(|slip| {
                let message = format!("the class \"{}\" is not what makes a shape a thing", slip.word);
                let hint = format!("did you mean {}? What is art alone needs another class", slip.meant);
                stage.problem(path, drawn.at, message).with_hint(hint)
            }));
            continue;
        };
        counts[sort as usize] += 1;
        let reading =
            Reading { drawn: &drawn, layers, defaults: defaults.get(sort as usize).copied().unwrap_or_default() };
        let name = drawn.id.clone().unwrap_or_else(|| format!("svg_{}_{}", sort.name(), counts[sort as usize]));
        let added = check_name(&name).and_then(|()| stage.add(sort, reading, &name));
        let added = added.and_then(|added| {
            for name in added {
                if !taken.insert(name.clone()) {
                    return Err((format!("\"{name}\" is the name of another thing on this stage"), None));
                }
                names.push(name);
            }
            Ok(())
        });
        if let Err((message, hint)) = added {
            let problem = Problem {
                place: Some(place(&stage.drawing.text, drawn.at)),
                ..Problem::of_file(path, format!("{} \"{}\": {message}", sort.name(), crate::problem::shown(&name)))
            };
            problems.0.push(match hint {
                Some(hint) => problem.with_hint(hint),
                None => problem,
            });
        }
    }
    let named = stage.drawing.unread.iter().take(MOST_TOLD);
    stage.unread = named.map(|(at, what)| format!("line {}: {what}", place(&stage.drawing.text, *at).line)).collect();
    if let Some(more) = stage.drawing.unread.len().checked_sub(MOST_TOLD).filter(|more| *more > 0) {
        stage.unread.push(format!("and {more} more"));
    }
    problems.or(stage)
}

/// What an element is, by its own words or else by those of the nearest group.
fn sort_of(words: &[Vec<String>]) -> Option<Sort> {
    nearest_of(words, |word| SORTS.iter().find(|(name, _)| *name == word).map(|(_, sort)| *sort)).into_iter().next()
}

/// A word that is nearly one of [`SORTS`].
struct Slip<'w> {
    word: &'w str,
    meant: &'static str,
}

/// A slip in an element's own words, or those of the nearest group that has any: without it a wall would be left out.
fn slip_of(words: &[Vec<String>]) -> Option<Slip<'_>> {
    let known = SORTS.map(|(name, _)| name);
    let slip = |word: &'_ String| nearest(word, &known).is_some();
    let word = words.iter().rev().find_map(|words| words.iter().find(|word| slip(word)))?;
    let meant = SORTS.iter().map(|(name, _)| *name).find(|name| nearest(word, &known) == Some(*name))?;
    Some(Slip { word, meant })
}

/// What the innermost words that hold any mean.
fn nearest_of<T>(words: &[Vec<String>], meaning: impl Fn(&str) -> Option<T>) -> Vec<T> {
    let all = words.iter().rev().map(|words| words.iter().filter_map(|word| meaning(word)).collect::<Vec<T>>());
    all.into_iter().find(|found| !found.is_empty()).unwrap_or_default()
}

/// A mistake in words, with its mend.
type Wrong = (String, Option<String>);

fn check_name(name: &str) -> Result<(), Wrong> {
    let wrong = || ("the id cannot name a thing".into(), Some("use letters, digits, _ and -".into()));
    can_name(name).then_some(()).ok_or_else(wrong)
}

/// A shape under reading.
#[derive(Clone, Copy)]
struct Reading<'a> {
    drawn: &'a Drawn,
    layers: &'a Layers,
    defaults: DrawnDefaults,
}

impl Reading<'_> {
    /// The layers of the words with a prefix: `on-ground`.
    fn set(self, prefix: &str) -> Result<Option<LayerSet>, Wrong> {
        let names = nearest_of(&self.drawn.words, |word| word.strip_prefix(prefix).map(str::to_string));
        let mut set = None;
        for name in names {
            if name == NOTHING && self.layers.named(NOTHING).is_none() {
                set = set.or(Some(LayerSet::NONE));
                continue;
            }
            let found = self.layers.named(&name).ok_or_else(|| {
                let aliases = self.layers.aliases.iter().map(|alias| &alias.name);
                let known: Vec<&str> = self.layers.names.iter().chain(aliases).map(String::as_str).collect();
                let near = nearest(&name, &known).map(|near| format!("did you mean {prefix}{near}?"));
                (format!("{prefix}{name}: there is no layer \"{name}\""), near)
            })?;
            set = Some(set.unwrap_or(LayerSet::NONE).or(found));
        }
        Ok(set)
    }

    fn layer(self) -> Result<LayerSet, Wrong> {
        let none = || ("no class says what it is on".to_string(), Some("add for example on-ground".to_string()));
        self.set("on-")?.or(self.defaults.layer).ok_or_else(none)
    }

    fn mask(self, layer: LayerSet) -> Result<LayerSet, Wrong> {
        Ok(self.set("detects-")?.or(self.defaults.mask).unwrap_or_else(|| self.layers.default_mask(layer)))
    }

    fn passes(self) -> Result<Passes, Wrong> {
        let words = nearest_of(&self.drawn.words, |word| word.strip_prefix("passes-").map(str::to_string));
        let Some(word) = words.first() else { return Ok(self.defaults.passes.unwrap_or(Passes::Up)) };
        let angle = || word.parse().ok().filter(|angle: &f64| (0.0..360.0).contains(angle)).map(Passes::Angle);
        let known = Passes::WORDS.iter().find(|(name, _)| name == word).map(|(_, way)| *way).or_else(angle);
        known.ok_or_else(|| {
            let hint = "passes-up, passes-down, passes-left, passes-right, or an angle from up, clockwise: passes-45";
            (format!("passes-{word} is no way to pass"), Some(hint.to_string()))
        })
    }

    fn effect(self) -> Result<Effect, Wrong> {
        let found = nearest_of(&self.drawn.words, Effect::parse).into_iter().next().or(self.defaults.effect);
        found.ok_or_else(|| {
            ("no class says what it does".to_string(), Some("add hazard, goal, event or warp".to_string()))
        })
    }

    fn facing(self, key: &str) -> Result<Option<Facing>, Wrong> {
        let Some(word) = self.drawn.data.get(key) else { return Ok(None) };
        let found = Facing::BOTH.into_iter().find(|facing| facing.name() == word);
        found.map(Some).ok_or_else(|| (format!("data-{key} is right or left, not \"{word}\""), None))
    }

    /// A word that is true or false; false where it is not given.
    fn is_set(self, key: &str) -> Result<bool, Wrong> {
        match self.drawn.data.get(key).map(String::as_str) {
            None | Some("false") => Ok(false),
            Some("true") => Ok(true),
            Some(word) => Err((format!("data-{key} is true or false, not \"{word}\""), None)),
        }
    }

    fn cooldown(self) -> Result<u32, Wrong> {
        let Some(text) = self.drawn.data.get("cooldown") else { return Ok(0) };
        let ticks = text.parse().ok().filter(|ticks: &u32| *ticks < 100_000);
        ticks.ok_or_else(|| (format!("data-cooldown is a number of ticks, not \"{text}\""), None))
    }

    fn warp(self) -> Result<Option<SvgLeading>, Wrong> {
        let data = &self.drawn.data;
        let to = data.get("to").ok_or_else(|| {
            ("a warp has no data-to".to_string(), Some("add data-to=\"NAME\", the zone it leads to".to_string()))
        })?;
        let landing = match data.get("landing") {
            Some(text) => pair(text).ok_or_else(|| (format!("data-landing is two numbers, not \"{text}\""), None))?,
            None => Vec2::ZERO,
        };
        let facing = self.facing("landing-facing")?;
        let warp = Warp { to: 0, landing, facing, turns_velocity: self.is_set("turns-velocity")? };
        Ok(Some((to.clone(), self.drawn.at, warp)))
    }

    /// Its outlines, with their names.
    fn outlines(self, name: &str) -> Result<Vec<(String, Outline)>, Wrong> {
        let plain = |message: String| (message, None);
        let outlines = match (self.drawn.element.chain(), self.drawn.element.line) {
            (Some(chain), Some(thickness)) => {
                let chain: Vec<[f64; 2]> = chain.iter().map(|p| [p.x, p.y]).collect();
                let ring = thick(&chain, thickness).map_err(plain)?;
                vec![Outline::from(Polygon::new(ring).map_err(|error| plain(error.to_string()))?)]
            }
            _ => self.drawn.element.outlines().map_err(plain)?,
        };
        if let [_] = outlines.as_slice() {
            return Ok(outlines.into_iter().map(|outline| (name.to_string(), outline)).collect());
        }
        Ok(outlines.into_iter().enumerate().map(|(i, outline)| (format!("{name}_{}", i + 1), outline)).collect())
    }
}

impl SvgStage {
    /// Adds what a shape is, and gives the names that it has.
    fn add(&mut self, sort: Sort, of: Reading<'_>, name: &str) -> Result<Vec<String>, Wrong> {
        let middle: Point = of.drawn.element.middle();
        match sort {
            Sort::Spot => {
                self.spots.push(Spot { name: name.to_string(), at: middle });
                return Ok(vec![name.to_string()]);
            }
            Sort::Spawn => {
                let none =
                    || ("it has no data-actor".to_string(), Some("add for example data-actor=\"keeper\"".into()));
                let actor = of.drawn.data.get("actor").cloned().ok_or_else(none)?;
                let facing = of.facing("facing")?.unwrap_or(Facing::Right);
                self.spawns.push(Spawn { actor, at: middle, facing });
                return Ok(Vec::new());
            }
            _ => {}
        }
        let outlines = of.outlines(name)?;
        let names = outlines.iter().map(|(name, _)| name.clone()).collect();
        match sort {
            Sort::Solid => {
                let layer = of.layer()?;
                let mask = of.mask(layer)?;
                let solid = |(name, outline)| Solid { name, outline, layer, mask };
                self.solids.extend(outlines.into_iter().map(solid));
            }
            Sort::OneWay => {
                let (layer, passes) = (of.layer()?, of.passes()?);
                let mask = of.mask(layer)?;
                let one_way = |(name, outline)| OneWay { name, outline, layer, mask, passes };
                self.one_ways.extend(outlines.into_iter().map(one_way));
            }
            _ => {
                let none =
                    || ("no class says what it detects".to_string(), Some("for example add detects-hero".into()));
                let mask = of.set("detects-")?.or(of.defaults.mask).ok_or_else(none)?;
                let effect = of.effect()?;
                let warp = if effect == Effect::Warp { of.warp()? } else { None };
                let (cooldown, once) = (of.cooldown()?, of.is_set("once")?);
                let zone =
                    |(name, outline)| (Zone { name, outline, mask, effect, warp: None, cooldown, once }, warp.clone());
                self.zones.extend(outlines.into_iter().map(zone));
            }
        }
        Ok(names)
    }

    /// A mistake at a place in the drawing.
    pub(crate) fn problem(&self, path: &Path, at: usize, message: String) -> Problem {
        Problem { place: Some(place(&self.drawing.text, at)), ..Problem::of_file(path, message) }
    }
}
