//! Rows as samples of the project's actors.

use super::Row;
use super::bad_rows::Wrong;
use super::csv_rows::FARTHEST;
use crate::toml_table::nearest;
use finitor_core::actor::{Actor, ActorIndex};
use finitor_core::take::{Sample, actor_of};
use finitor_core::{Facing, Point, Vec2};

/// The actors that rows may name.
pub(super) struct Cast<'a> {
    actors: &'a [Actor],
    /// Height of the stage where the take counts y up.
    flip: Option<f64>,
    /// By actor: whether both facings of all its frames have the same shapes, so that a take need not tell it.
    looks_alike: Vec<bool>,
}

impl<'a> Cast<'a> {
    pub(super) fn new(actors: &'a [Actor], flip: Option<f64>) -> Cast<'a> {
        let alike = |actor: &Actor| {
            let frames = actor.animations.iter().flat_map(|animation| &animation.frames);
            frames.into_iter().all(|[right, left]| right.shapes == left.shapes && right.foot == left.foot)
        };
        Cast { actors, flip, looks_alike: actors.iter().map(alike).collect() }
    }

    /// Fills a sample from a row. What the sample holds of the same instance on another tick is not looked up again.
    pub(super) fn fill(&self, row: Row<'_>, into: &mut Sample) -> Result<(), Wrong> {
        if into.label != row.actor || into.label.is_empty() {
            // Not the same instance until all of it is read.
            into.label.clear();
            into.actor = self.actor(row.actor)?;
            into.animation = 0;
        }
        let actor = &self.actors[into.actor.0];
        into.facing = match row.facing {
            "" if self.looks_alike[into.actor.0] => Facing::Right,
            "" => {
                let message = format!("the row has no facing, and {}'s shapes differ by it", actor.name);
                return Err((message, Some("give right or left".into())));
            }
            word => {
                Facing::parse(word).ok_or_else(|| (format!("facing is \"{word}\"; expected right or left"), None))?
            }
        };
        if row.animation.is_empty() || actor.animations.get(into.animation).is_none_or(|a| a.name != row.animation) {
            into.animation = animation(actor, row.animation)?;
        }
        let animation = &actor.animations[into.animation];
        let frames = animation.frames.len();
        into.frame =
            match row.frame {
                "" if frames == 1 => 0,
                "" => return Err((format!("the row has no frame, and {} has {frames}", animation.name), None)),
                text => text.parse().ok().filter(|frame| *frame < frames).ok_or_else(|| {
                    (format!("frame is \"{text}\", {} has 0 to {}", animation.name, frames - 1), None)
                })?,
            };
        into.at = Point::new(row.at.x, self.flip.map_or(row.at.y, |height| height - row.at.y));
        into.flipped_art = row.flipped_art;
        into.grounded = row.grounded;
        into.velocity = row.velocity.map(|v| if self.flip.is_some() { Vec2::new(v.x, -v.y) } else { v });
        self.fill_via(row.via, &mut into.via)?;
        if !(into.states.is_empty() && row.states.is_empty()) {
            into.states.clear();
            into.states.extend(row.states.split_ascii_whitespace().map(str::to_string));
        }
        into.label.clear();
        into.label.push_str(row.actor);
        Ok(())
    }

    /// Reads where it turned on its way: `x y;x y`.
    fn fill_via(&self, text: &str, into: &mut Vec<Point>) -> Result<(), Wrong> {
        into.clear();
        for place in text.split(';').map(str::trim_ascii).filter(|place| !place.is_empty()) {
            let numbers = place.split_ascii_whitespace().map(|number| number.parse::<f64>().ok());
            let numbers: Option<Vec<f64>> = numbers.map(|n| n.filter(|n| n.abs() <= FARTHEST)).collect();
            let Some([x, y]) = numbers.as_deref() else {
                let hint = Some("give each place as x y, with semicolons between: \"96 200;96 188\"".to_string());
                return Err((format!("via holds \"{place}\"; expected two numbers up to 1e7"), hint));
            };
            into.push(Point::new(*x, self.flip.map_or(*y, |height| height - y)));
        }
        Ok(())
    }

    fn actor(&self, label: &str) -> Result<ActorIndex, Wrong> {
        if label.contains(|c: char| c.is_control() || c.is_whitespace()) {
            return Err((format!("actor is \"{label}\"; expected a name or name:instance"), None));
        }
        let name = actor_of(label);
        let found = self.actors.iter().position(|actor| actor.name == name).map(ActorIndex);
        found.ok_or_else(|| {
            let names: Vec<&str> = self.actors.iter().map(|a| a.name.as_str()).collect();
            let hint = match (numbered(name, &names), nearest(name, &names)) {
                (Some(instance), _) => {
                    format!("did you mean {instance}? Of several of one actor each is name:instance")
                }
                (None, Some(near)) => format!("did you mean {near}?"),
                (None, None) => format!("the project has {}", names.join(", ")),
            };
            (format!("there is no actor \"{name}\""), Some(hint))
        })
    }
}

/// A known name with something behind that counts, as recorders write it that have a way of their own to name instances: `gull:2` for
/// `gull#2`, `gull_2` or `gull2`.
fn numbered(word: &str, names: &[&str]) -> Option<String> {
    let rest_of =
        |name: &&&str| word.strip_prefix(**name).map(|rest| rest.trim_matches(|c: char| !c.is_alphanumeric()));
    let counts = |rest: &str| rest.starts_with(|c: char| c.is_ascii_digit());
    let name = names.iter().filter(|name| rest_of(name).is_some_and(counts)).max_by_key(|name| name.len())?;
    Some(format!("{name}:{}", rest_of(&name)?))
}

fn animation(actor: &Actor, word: &str) -> Result<usize, Wrong> {
    if word.is_empty() {
        return match actor.animations.as_slice() {
            [_] => Ok(0),
            all => Err((format!("the row has no animation, and {} has {}", actor.name, all.len()), None)),
        };
    }
    actor.find(word).ok_or_else(|| {
        let names: Vec<&str> = actor.animations.iter().map(|a| a.name.as_str()).collect();
        let hint = nearest(word, &names)
            .map_or_else(|| format!("{} has {}", actor.name, names.join(", ")), |near| format!("did you mean {near}?"));
        (format!("{} has no animation \"{word}\"", actor.name), Some(hint))
    })
}
