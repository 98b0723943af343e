//! The stage on the page, and what two things mean to each other.

use super::cast::{png_url, ring};
use super::columns::{Bytes, Runs};
use super::tracks::StateSets;
use finitor_core::Point;
use finitor_core::layers::{Contact, LayerSet, Layers, Party, Stand, may_act, relation};
use finitor_core::lint::LayerParty;
use finitor_core::stage::{Outline, Stage};
use finitor_draw::png_of;
use finitor_files::Tiles;
use serde::Serialize;
use std::collections::HashMap;

/// A stage.
#[derive(Debug, Serialize)]
pub(super) struct StageData {
    name: String,
    size: [f64; 2],
    things: Vec<ThingData>,
    spots: Vec<SpotData>,
    #[serde(skip_serializing_if = "Option::is_none")]
    tiles: Option<TilesData>,
}

/// The art of a map of tiles.
#[derive(Debug, Serialize)]
struct TilesData {
    /// The picture with the tiles, as a data URL.
    sheet: String,
    cell: [u32; 2],
    /// Tiles in a row of the picture.
    per_row: u32,
    at: [f64; 2],
    columns: usize,
    rows: usize,
    /// Numbers of tiles and 1, row by row; 0 where a cell is empty.
    cells: Bytes,
}

/// Something on it, world px.
#[derive(Debug, Serialize)]
struct ThingData {
    name: String,
    kind: &'static str,
    /// x and y by turns.
    ring: Vec<f64>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    holes: Vec<Vec<f64>>,
    /// The way in which a one-way platform lets pass, as a unit vector.
    #[serde(skip_serializing_if = "Option::is_none")]
    passes: Option<[f64; 2]>,
    /// What a zone does.
    #[serde(skip_serializing_if = "Option::is_none")]
    effect: Option<&'static str>,
    /// Where a warp puts what enters.
    #[serde(skip_serializing_if = "Option::is_none")]
    lands: Option<[f64; 2]>,
}

#[derive(Debug, Serialize)]
struct SpotData {
    name: String,
    at: [f64; 2],
}

fn pair(point: Point) -> [f64; 2] {
    [point.x, point.y]
}

impl TilesData {
    /// The art of tiles, where they have any.
    fn new(tiles: &Tiles) -> Option<TilesData> {
        let picture = tiles.picture.as_ref()?;
        let mut cells = Runs::default();
        tiles.map.cells.iter().for_each(|cell| cells.push(cell.map_or(0, |number| u64::from(number) + 1)));
        Some(TilesData {
            sheet: png_url(&png_of(picture)?),
            cell: tiles.cell.into(),
            per_row: (picture.width() / tiles.cell.0).max(1),
            at: [tiles.map.at.x, tiles.map.at.y],
            columns: tiles.map.columns,
            rows: tiles.map.cells.len() / tiles.map.columns.max(1),
            cells: cells.finish(),
        })
    }
}

impl StageData {
    /// A stage, and the art of its tiles where it has any.
    pub(super) fn new(stage: &Stage, tiles: Option<&Tiles>) -> StageData {
        let thing = |name: &str, kind, outline: &Outline| ThingData {
            name: name.to_string(),
            kind,
            ring: ring(&outline.polygon),
            holes: outline.holes.iter().map(ring).collect(),
            passes: None,
            effect: None,
            lands: None,
        };
        let solids = stage.solids.iter().map(|solid| thing(&solid.name, "solid", &solid.outline));
        let one_ways = stage.one_ways.iter().map(|of| {
            let way = of.passes.direction();
            ThingData { passes: Some([way.x, way.y]), ..thing(&of.name, "one_way", &of.outline) }
        });
        let zones = stage.zones.iter().map(|zone| ThingData {
            effect: Some(zone.effect.name()),
            lands: zone.warp.as_ref().map(|warp| pair(stage.landing(warp))),
            ..thing(&zone.name, "zone", &zone.outline)
        });
        let starts =
            stage.spawns.iter().map(|spawn| SpotData { name: format!("{} starts", spawn.actor), at: pair(spawn.at) });
        let spots = stage.spots.iter().map(|spot| SpotData { name: spot.name.clone(), at: pair(spot.at) });
        StageData {
            name: stage.name.clone(),
            size: [stage.size.x, stage.size.y],
            things: solids.chain(one_ways).chain(zones).collect(),
            spots: starts.chain(spots).collect(),
            tiles: tiles.and_then(TilesData::new),
        }
    }
}

/// Layers, masks, and why any two things affect each other or not.
#[derive(Debug, Serialize)]
pub(super) struct LayersData {
    contact: &'static str,
    layers: Vec<LayerData>,
    states: Vec<Vec<String>>,
    /// Kinds of things that masks treat alike.
    kinds: Vec<KindData>,
    /// `actor.shape` and `stage/thing`, with their kind in each set of states.
    parties: Vec<PartyData>,
    /// By pair of kinds that could affect each other, in both orders.
    pairs: Vec<PairData>,
    /// What is said of pairs, each once; `{a}` and `{b}` stand for the names.
    sentences: Vec<String>,
}

#[derive(Debug, Serialize)]
struct LayerData {
    name: String,
    detects: Vec<String>,
}

#[derive(Debug, Serialize)]
struct KindData {
    role: &'static str,
    on: Vec<String>,
    detects: Vec<String>,
}

#[derive(Debug, Serialize)]
struct PartyData {
    name: String,
    /// By set of states where that matters, else one.
    kinds: Vec<usize>,
}

/// What two kinds mean to each other, sentences by index.
#[derive(Debug, Serialize)]
struct PairData {
    kinds: [usize; 2],
    has_effect: bool,
    follows: Vec<usize>,
    detects: [usize; 2],
    #[serde(skip_serializing_if = "Option::is_none")]
    fix: Option<usize>,
}

impl LayersData {
    /// Of the things that are there, in the states that takes hold.
    ///
    /// # Complexity
    /// O(n s + k^2), n things, s sets of states, k kinds of them: few.
    pub(super) fn new(layers: &Layers, parties: &[LayerParty], states: &StateSets) -> LayersData {
        let mut stands: Vec<Stand> = Vec::new();
        let mut kind_of = |stand: Stand| {
            stands.iter().position(|known| *known == stand).unwrap_or_else(|| {
                stands.push(stand);
                stands.len() - 1
            })
        };
        let party = |of: &LayerParty| {
            let Party { name, role, layer, mask } = &of.party;
            let mut kinds: Vec<usize> = states
                .0
                .iter()
                .map(|words| {
                    let is_shape = of.of == finitor_core::lint::OwnerKind::Actor;
                    let words = if is_shape { words.as_slice() } else { &[] };
                    let (layer, mask) = layers.during(*layer, *mask, words);
                    kind_of(Stand { role: *role, layer, mask })
                })
                .collect();
            if kinds.iter().all(|kind| *kind == kinds[0]) {
                kinds.truncate(1);
            }
            PartyData { name: name.clone(), kinds }
        };
        let parties = parties.iter().map(party).collect();
        let names = |set: LayerSet| set.bits().filter_map(|bit| layers.names.get(bit).cloned()).collect::<Vec<_>>();
        let side = |name: &str, stand: Stand| {
            let Stand { role, layer, mask } = stand;
            Party { name: name.to_string(), role, layer, mask }
        };
        let (mut pairs, mut sentences) = (Vec::new(), Sentences::default());
        for (first, a) in stands.iter().enumerate() {
            for (second, b) in stands.iter().enumerate().filter(|(_, b)| may_act(a.role, b.role)) {
                let found = relation(layers, &side("{a}", *a), &side("{b}", *b));
                pairs.push(PairData {
                    kinds: [first, second],
                    has_effect: found.acts,
                    follows: found.follows.into_iter().map(|words| sentences.index(words)).collect(),
                    detects: [found.first.sentence, found.second.sentence].map(|words| sentences.index(words)),
                    fix: found.remedy.map(|remedy| sentences.index(remedy.words)),
                });
            }
        }
        let kind =
            |stand: &Stand| KindData { role: stand.role.name(), on: names(stand.layer), detects: names(stand.mask) };
        let layer = |(name, mask): (&String, &LayerSet)| LayerData { name: name.clone(), detects: names(*mask) };
        LayersData {
            contact: if layers.contact == Contact::Both { "both" } else { "either" },
            layers: layers.names.iter().zip(&layers.masks).map(layer).collect(),
            states: states.0.clone(),
            kinds: stands.iter().map(kind).collect(),
            parties,
            pairs,
            sentences: sentences.all,
        }
    }
}

/// Sentences, each once.
#[derive(Debug, Default)]
struct Sentences {
    all: Vec<String>,
    /// For looking up only: its order shows nowhere.
    places: HashMap<String, usize>,
}

impl Sentences {
    fn index(&mut self, words: String) -> usize {
        *self.places.entry(words).or_insert_with_key(|words| {
            self.all.push(words.clone());
            self.all.len() - 1
        })
    }
}
