//! Fixes that are one value in one file, so that a program can find the line and write the value.

use crate::geometry::{Rect, Vec2};
use crate::stage::Outline;

/// A key and the value that fixes a finding.
#[derive(Clone, Debug, PartialEq)]
pub struct Change {
    /// The table that holds the key.
    pub of: ChangeOf,
    /// The key.
    pub key: &'static str,
    /// The value.
    pub value: NewValue,
}

/// A table of the project's files.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum ChangeOf {
    /// `[shape.TABLE]` of an actor, by the shape's own name; a rule by part has another.
    Shape(Owned),
    /// `[anchor.NAME]` of an actor.
    Anchor(Owned),
    /// `[moves]` of an actor.
    Moves(String),
    /// The pivot of an actor: of an animation where that has its own, else in `[actor]`.
    Pivot(Owned),
    /// A solid, platform or zone of a stage.
    Thing(Owned),
    /// A spawn of a stage, by its place in the file.
    Spawn(SpawnOf),
}

/// A name, and the actor or stage that it belongs to.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Owned {
    /// The actor or stage.
    pub owner: String,
    /// The name.
    pub name: String,
}

/// A spawn of a stage.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct SpawnOf {
    /// The stage.
    pub stage: String,
    /// Its place in the file.
    pub index: usize,
}

/// A value of a file.
#[derive(Clone, Debug, PartialEq)]
pub enum NewValue {
    /// `true`.
    Yes,
    /// A number.
    Number(f64),
    /// A list of numbers.
    Numbers(Vec<f64>),
    /// A word in quotes.
    Word(String),
    /// A list of words.
    Words(Vec<String>),
}

impl NewValue {
    /// As TOML.
    pub fn to_toml(&self) -> String {
        // Rounded as in messages, so that both show one figure.
        let number = |number: &f64| ((number * 100.0).round() / 100.0 + 0.0).to_string();
        let list = |items: Vec<String>| format!("[{}]", items.join(", "));
        match self {
            NewValue::Yes => "true".to_string(),
            NewValue::Number(value) => number(value),
            NewValue::Numbers(values) => list(values.iter().map(number).collect()),
            NewValue::Word(word) => format!("{word:?}"),
            NewValue::Words(words) => list(words.iter().map(|word| format!("{word:?}")).collect()),
        }
    }
}

impl Change {
    /// Of a shape.
    pub fn shape(actor: &str, shape: &str, key: &'static str, value: NewValue) -> Change {
        Change { of: ChangeOf::Shape(Owned::new(actor, shape)), key, value }
    }

    /// Of a thing on a stage.
    pub fn thing(stage: &str, thing: &str, key: &'static str, value: NewValue) -> Change {
        Change { of: ChangeOf::Thing(Owned::new(stage, thing)), key, value }
    }

    /// The box of a thing; `None` where its outline is no upright box.
    pub(crate) fn to_box(owned: &Owned, outline: &Outline, wanted: Rect) -> Option<Change> {
        let is_box = outline.holes.is_empty() && outline.polygon.points().len() == 4 && {
            let own = outline.bounds;
            outline
                .polygon
                .points()
                .iter()
                .all(|p| (p.x == own.x0 || p.x == own.x1) && (p.y == own.y0 || p.y == own.y1))
        };
        let numbers = vec![wanted.x0, wanted.y0, wanted.width(), wanted.height()];
        is_box.then(|| Change::thing(&owned.owner, &owned.name, "box", NewValue::Numbers(numbers)))
    }
}

impl Change {
    /// The box of a thing so much thicker along a way, to both sides; `None` where it is no upright box, or the way is along no axis.
    pub(crate) fn thicker(owned: &Owned, outline: &Outline, way: Vec2, by: f64) -> Option<Change> {
        let by = match (way.x.abs(), way.y.abs()) {
            (x, y) if y < 1e-9 * x => (by / 2.0, 0.0),
            (x, y) if x < 1e-9 * y => (0.0, by / 2.0),
            _ => return None,
        };
        Change::to_box(owned, outline, outline.bounds.inflate(by.0, by.1))
    }
}

impl Owned {
    /// A name and what it belongs to.
    pub fn new(owner: &str, name: &str) -> Owned {
        Owned { owner: owner.to_string(), name: name.to_string() }
    }
}
