//! What is on a stage, as it is written.

use finitor_core::Polygon;
use finitor_core::layers::{Contact, LayerSet, PartyRole, Stand, acts};
use finitor_core::lint::LayerParty;
use finitor_core::stage::{Outline, Stage};
use finitor_files::{StageFile, Tiles};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`StageList`].
pub const STAGE_SCHEMA: &str = "finitor.stage/2";

/// Stages and what is on them.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct StageList {
    /// [`STAGE_SCHEMA`].
    pub schema: String,
    /// In the project's order.
    pub stages: Vec<StageResult>,
}

/// One stage.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct StageResult {
    /// Its name.
    pub stage: String,
    /// Width and height, px.
    pub size: [f64; 2],
    /// Solids, one-way platforms, zones.
    pub things: Vec<ThingResult>,
    /// Its map of tiles.
    pub tiles: Option<TilesResult>,
    /// Where actors begin.
    pub spawns: Vec<SpawnResult>,
    /// Named places.
    pub spots: Vec<SpotResult>,
    /// What a drawing holds besides.
    pub unread: Vec<String>,
}

/// A thing of a stage.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ThingResult {
    /// Its name.
    pub name: String,
    /// `solid`, `one-way, passes up`, `zone, warp to low_door`.
    pub kind: String,
    /// The bits it is on.
    pub layer: u32,
    /// The bits it detects.
    pub mask: u32,
    /// Left, top, width, height, px.
    #[serde(rename = "box")]
    pub bounds: [f64; 4],
    /// Of all its rings.
    pub corners: usize,
    /// Rings that are holes.
    pub holes: usize,
    /// Without the holes.
    pub area_px2: f64,
    /// The shapes that it affects, or that affect it.
    pub affects: Vec<String>,
}

/// A map of tiles.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TilesResult {
    /// Width and height of a cell, px.
    pub cell: [u32; 2],
    /// The tiles used.
    pub kinds: Vec<TileKindResult>,
}

/// A tile of a map.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TileKindResult {
    /// Its number.
    pub tile: u32,
    /// What fills it.
    pub kind: String,
    /// Cells that hold it.
    pub cells: usize,
}

/// Where an actor begins.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SpawnResult {
    /// The actor.
    pub actor: String,
    /// Its pivot, px.
    pub at: [f64; 2],
    /// Where it looks.
    pub facing: String,
}

/// A named place.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SpotResult {
    /// Its name.
    pub name: String,
    /// Where, px.
    pub at: [f64; 2],
}

impl StageList {
    /// Stages as a file.
    pub fn new(stages: Vec<StageResult>) -> StageList {
        StageList { schema: STAGE_SCHEMA.to_string(), stages }
    }
}

impl StageResult {
    /// What is on a stage, and which of all shapes that have to do with it.
    pub fn new(file: &StageFile, contact: Contact, parties: &[LayerParty]) -> StageResult {
        let stage = &file.stage;
        let spawns = stage.spawns.iter().map(|spawn| SpawnResult {
            actor: spawn.actor.clone(),
            at: [spawn.at.x, spawn.at.y],
            facing: spawn.facing.name().to_string(),
        });
        let spots = stage.spots.iter().map(|spot| SpotResult { name: spot.name.clone(), at: [spot.at.x, spot.at.y] });
        StageResult {
            stage: stage.name.clone(),
            size: [stage.size.x, stage.size.y],
            things: things(stage, contact, parties),
            tiles: file.tiles.as_ref().map(TilesResult::from),
            spawns: spawns.collect(),
            spots: spots.collect(),
            unread: file.unread.clone(),
        }
    }
}

impl From<&Tiles> for TilesResult {
    fn from(tiles: &Tiles) -> TilesResult {
        let kinds = tiles.kinds.iter().map(|kind| TileKindResult {
            tile: kind.number,
            kind: kind.word.to_string(),
            cells: kind.count,
        });
        TilesResult { cell: tiles.cell.into(), kinds: kinds.collect() }
    }
}

fn things(stage: &Stage, contact: Contact, parties: &[LayerParty]) -> Vec<ThingResult> {
    let affected = |stand: Stand| {
        let shapes = parties.iter().map(|of| &of.party);
        let found = shapes.filter(|party| acts(contact, party.stand(), stand));
        found.map(|party| party.name.clone()).collect::<Vec<String>>()
    };
    let stand = |role, layer, mask| Stand { role, layer, mask };
    let thing = |name: &str, kind: String, outline: &Outline, stand: Stand| ThingResult {
        name: name.to_string(),
        kind,
        layer: stand.layer.0,
        mask: stand.mask.0,
        bounds: [outline.bounds.x0, outline.bounds.y0, outline.bounds.width(), outline.bounds.height()],
        corners: outline.edges().count(),
        holes: outline.holes.len(),
        area_px2: outline.polygon.area() - outline.holes.iter().map(Polygon::area).sum::<f64>(),
        affects: affected(stand),
    };
    let solids = stage
        .solids
        .iter()
        .map(|s| thing(&s.name, "solid".into(), &s.outline, stand(PartyRole::Solid, s.layer, s.mask)));
    let one_ways = stage.one_ways.iter().map(|o| {
        let kind = format!("one-way, passes {}", o.passes);
        thing(&o.name, kind, &o.outline, stand(PartyRole::OneWay, o.layer, o.mask))
    });
    let zones = stage.zones.iter().map(|z| {
        let to = z.warp.as_ref().map(|warp| format!(" to {}", stage.zones[warp.to].name)).unwrap_or_default();
        let kind = format!("zone, {}{to}", z.effect.name());
        thing(&z.name, kind, &z.outline, stand(PartyRole::Zone, LayerSet::NONE, z.mask))
    });
    solids.chain(one_ways).chain(zones).collect()
}
