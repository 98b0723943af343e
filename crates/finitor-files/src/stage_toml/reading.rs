//! What a thing of a stage says, or its table of defaults.

use crate::layers_toml::layer_set;
use crate::stage_svg::DrawnDefaults;
use crate::tiles_toml::Place;
use crate::toml_table::Table;
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Effect, Passes};

/// A thing under reading, with what its sort has by default.
#[derive(Clone, Copy)]
pub(super) struct Reading<'t> {
    pub(super) table: &'t Table<'t>,
    pub(super) defaults: Option<&'t Table<'t>>,
    pub(super) layers: &'t Layers,
    pub(super) place: Place<'t>,
}

impl Reading<'_> {
    /// The layers listed under a key, of its own or by default.
    pub(super) fn set(self, key: &'static str, example: &str) -> Option<LayerSet> {
        let of = |table: &Table<'_>| table.strings(key, example).map(|names| layer_set(table, self.layers, &names));
        of(self.table).or_else(|| self.defaults.and_then(of))
    }

    pub(super) fn has(self, key: &str) -> bool {
        self.table.has(key) || self.defaults.is_some_and(|table| table.has(key))
    }

    pub(super) fn layer(self) -> LayerSet {
        if !self.has("layer") {
            self.table.missing("layer", "\"ground\"");
        }
        self.set("layer", "\"ground\"").unwrap_or_default()
    }

    /// A mask of its own, or that of the layers it is on.
    pub(super) fn mask(self, layer: LayerSet) -> LayerSet {
        self.set("mask", "[\"hero\"]").unwrap_or_else(|| self.layers.default_mask(layer))
    }

    /// What a table of defaults gives to things of a drawing.
    pub(super) fn for_drawing(self) -> DrawnDefaults {
        DrawnDefaults {
            layer: self.set("layer", "\"ground\""),
            mask: self.set("mask", "[\"hero\"]"),
            passes: self.own_passes(),
            effect: self.word("effect", &Effect::ALL.map(|effect| (effect.name(), effect))),
        }
    }

    pub(super) fn passes(self) -> Passes {
        self.own_passes().unwrap_or(Passes::Up)
    }

    /// A word, or an angle in degrees from up.
    pub(super) fn own_passes(self) -> Option<Passes> {
        let of = |table: &Table<'_>| {
            match table.is_string("passes") || !table.has("passes") {
            true => table.word("passes", &Passes::WORDS).map(|way| way.value),
            false => table.number("passes", "\"up\"").and_then(|degrees| {
                if !(0.0..360.0).contains(&degrees.value) {
                    let message = format!("`passes` is up, down, left, right, or an angle from 0 (up) to below 360 degrees, clockwise, not {}", degrees.value);
                    table.wrong(degrees.span, message, None);
                    return None;
                }
                let straight = Passes::WORDS.map(|(_, way)| way);
                let at = [0.0, 180.0, 270.0, 90.0].iter().position(|angle| *angle == degrees.value);
                Some(at.map_or(Passes::Angle(degrees.value), |place| straight[place]))
            }),
        }
        };
        of(self.table).or_else(|| self.defaults.and_then(of))
    }

    pub(super) fn word<T: Copy>(self, key: &'static str, words: &[(&'static str, T)]) -> Option<T> {
        let own = self.table.word(key, words);
        let defaults = || self.defaults.and_then(|table| table.word(key, words));
        own.or_else(defaults).map(|word| word.value)
    }
}
