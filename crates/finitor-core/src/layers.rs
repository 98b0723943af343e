//! Layers and masks: who looks for whom, and what follows.

mod relation;

pub use relation::{BitToAdd, Party, PartyRole, Relation, Sight, Stand, acts, may_act, relation};

/// A mask has this many bits.
pub const MAX_LAYERS: usize = 32;

/// A set of layers, bit 0 the first.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct LayerSet(pub u32);

impl LayerSet {
    /// No layer.
    pub const NONE: LayerSet = LayerSet(0);

    /// The set of one layer.
    pub fn of(layer: usize) -> LayerSet {
        LayerSet(1 << layer)
    }

    /// The layers in both.
    #[must_use]
    pub fn and(self, other: LayerSet) -> LayerSet {
        LayerSet(self.0 & other.0)
    }

    /// The layers in either.
    #[must_use]
    pub fn or(self, other: LayerSet) -> LayerSet {
        LayerSet(self.0 | other.0)
    }

    /// The layers of this one that are not in the other.
    #[must_use]
    pub fn without(self, other: LayerSet) -> LayerSet {
        LayerSet(self.0 & !other.0)
    }

    /// Whether a mask of this set sees something on `layer`.
    pub fn sees(self, layer: LayerSet) -> bool {
        !self.and(layer).is_empty()
    }

    /// Whether no layer is in it.
    pub fn is_empty(self) -> bool {
        self.0 == 0
    }

    /// The bits in it, ascending.
    pub fn bits(self) -> impl Iterator<Item = usize> {
        (0..MAX_LAYERS).filter(move |bit| self.0 >> bit & 1 == 1)
    }
}

/// Whether one mask or both must detect the other for two bodies to stop each other.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Contact {
    /// One suffices.
    #[default]
    Either,
    /// Both must.
    Both,
}

impl Contact {
    /// Whether two bodies stop each other.
    pub fn stops(self, masks: Detection) -> bool {
        match self {
            Contact::Either => masks.there || masks.back,
            Contact::Both => masks.there && masks.back,
        }
    }
}

/// Which of two masks detect the other.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Detection {
    /// The first detects the second.
    pub there: bool,
    /// The second detects the first.
    pub back: bool,
}

/// What a state does to the shapes on one layer while it lasts.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct LayerChange {
    /// The layer whose shapes change: the one they are on by the files, whatever other states do to that.
    pub layer: usize,
    /// Layers added to the mask.
    pub add: LayerSet,
    /// Layers then taken from it.
    pub drop: LayerSet,
    /// Layers that the shapes are then on as well.
    pub join: LayerSet,
    /// Layers that they are then no longer on.
    pub leave: LayerSet,
}

/// A word in a take's `states` column that changes layers and masks.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct StateRule {
    /// The word.
    pub name: String,
    /// Its changes, by layer.
    pub changes: Vec<LayerChange>,
}

/// A name for several layers, usable wherever a list of layers is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Alias {
    /// The name; no layer has it.
    pub name: String,
    /// Its layers.
    pub layers: LayerSet,
}

/// The project's layers.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Layers {
    /// Names, bit 0 first, [`MAX_LAYERS`] at most.
    pub names: Vec<String>,
    /// Names for several of them.
    pub aliases: Vec<Alias>,
    /// What each layer looks for unless a shape says otherwise; as many as names.
    pub masks: Vec<LayerSet>,
    /// When two bodies stop each other.
    pub contact: Contact,
    /// State rules in the order in which they apply when several hold at once.
    pub states: Vec<StateRule>,
}

impl Layers {
    /// The bit of a layer.
    pub fn find(&self, name: &str) -> Option<usize> {
        self.names.iter().position(|known| known == name)
    }

    /// What a word in a list of layers stands for: a layer, or a alias.
    pub fn named(&self, name: &str) -> Option<LayerSet> {
        let alias = || self.aliases.iter().find(|alias| alias.name == name).map(|alias| alias.layers);
        self.find(name).map(LayerSet::of).or_else(alias)
    }

    /// What shapes on these layers look for by default: all that any of the layers looks for.
    pub fn default_mask(&self, layer: LayerSet) -> LayerSet {
        layer.bits().filter_map(|bit| self.masks.get(bit)).fold(LayerSet::NONE, |all, mask| all.or(*mask))
    }

    /// What a shape is on and looks for while the given states last: rules apply in the order of the project file, each
    /// adding first and dropping then.
    pub fn during(&self, layer: LayerSet, mask: LayerSet, states: &[String]) -> (LayerSet, LayerSet) {
        let (mut on, mut mask) = (layer, mask);
        for rule in self.states.iter().filter(|rule| states.contains(&rule.name)) {
            for change in rule.changes.iter().filter(|change| layer.sees(LayerSet::of(change.layer))) {
                mask = mask.or(change.add).without(change.drop);
                on = on.or(change.join).without(change.leave);
            }
        }
        (on, mask)
    }

    /// The names in a set, with their bits: `ground (bit 0), ledge (bit 1)`; `nothing` for the empty set.
    pub fn describe(&self, set: LayerSet) -> String {
        let words: Vec<String> = set
            .bits()
            .map(|bit| format!("{} (bit {bit})", self.names.get(bit).map_or("unnamed", String::as_str)))
            .collect();
        if words.is_empty() { "nothing".to_string() } else { words.join(", ") }
    }
}
