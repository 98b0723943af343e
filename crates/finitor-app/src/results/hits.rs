//! Hits of takes as they are written.

use super::check::HitResult;
use crate::checked_take::CheckedTake;
use finitor_core::check::Hit;
use finitor_core::take::actor_of;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// The schema of [`HitsResult`].
pub const HITS_SCHEMA: &str = "finitor.hits/1";

/// Who struck whom in takes.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct HitsResult {
    /// [`HITS_SCHEMA`].
    pub schema: String,
    /// In the order in which they were given.
    pub takes: Vec<TakeHits>,
    /// Hits by attacker, over all takes.
    pub by_attacker: Vec<HitCount>,
    /// Hits by part: `gull.head`.
    pub by_part: Vec<HitCount>,
    /// Hits by group: `gull.upper`; parts of no group are left out.
    pub by_group: Vec<HitCount>,
    /// Hits by the attacker's shape and the target's part.
    pub matrix: Vec<MatrixCell>,
    /// Hurt shapes that were struck and have no factor: they count 1.
    pub no_factor: Vec<String>,
}

/// The hits of a take.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TakeHits {
    /// Its name.
    pub take: String,
    /// Hits in their order.
    pub hits: Vec<HitInTake>,
    /// Swings by the tick on which they ended.
    pub swings: Vec<SwingResult>,
}

/// A hit.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct HitInTake {
    /// The hit.
    #[serde(flatten)]
    pub hit: HitResult,
    /// Whether the target struck the attacker on the same tick.
    pub is_trade: bool,
    /// Whether the same swing had struck the target before and lost it.
    pub is_again: bool,
}

/// A swing.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SwingResult {
    /// The instance.
    pub by: String,
    /// The animation.
    pub animation: String,
    /// First and last tick on which a hit shape was out.
    pub active: [u64; 2],
    /// Ticks of the animation before these, as they were in the take.
    pub startup: u64,
    /// Ticks of the animation after these, as they were in the take: less where something ended it.
    pub recovery: u64,
    /// Whom it struck; nobody where it is empty.
    pub struck: Vec<String>,
    /// Whom it would have struck, were it not for a solid between.
    pub blocked: Vec<BlockedResult>,
}

/// A strike that a solid stopped.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct BlockedResult {
    /// The instance that was not struck.
    pub on: String,
    /// The solid.
    pub by: String,
}

/// Hits of one kind.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct HitCount {
    /// What was counted by.
    pub name: String,
    /// How many.
    pub hits: u64,
    /// Their damage.
    pub damage: f64,
}

/// Hits of one shape on one part.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct MatrixCell {
    /// The attacker's shape: `keeper.pole`.
    pub shape: String,
    /// The target's part: `gull.head`.
    pub part: String,
    /// How many.
    pub hits: u64,
}

/// The part that was struck, with its actor.
pub fn struck_part(hit: &Hit) -> String {
    format!("{}.{}", actor_of(&hit.on), hit.part.as_deref().unwrap_or(&hit.hurt))
}

impl HitsResult {
    /// The hits of takes.
    ///
    /// # Complexity
    /// O(h log k), h hits, k names that they are counted by.
    pub fn new(takes: &[CheckedTake]) -> HitsResult {
        let all = || takes.iter().flat_map(|take| &take.report.hits);
        let group = |hit: &Hit| Some(format!("{}.{}", actor_of(&hit.on), hit.group.as_deref()?));
        let mut matrix: BTreeMap<(String, String), u64> = BTreeMap::new();
        let mut no_factor: Vec<String> = Vec::new();
        for hit in all() {
            let shape = format!("{}.{}", actor_of(&hit.by), hit.shape);
            *matrix.entry((shape, struck_part(hit))).or_default() += 1;
            if !hit.has_factor {
                no_factor.push(format!("{}.{}", actor_of(&hit.on), hit.hurt));
            }
        }
        let matrix = matrix.into_iter().map(|((shape, part), hits)| MatrixCell { shape, part, hits });
        no_factor.sort();
        no_factor.dedup();
        HitsResult {
            schema: HITS_SCHEMA.to_string(),
            takes: takes.iter().map(TakeHits::new).collect(),
            by_attacker: counted_by(all(), |hit| Some(hit.by.clone())),
            by_part: counted_by(all(), |hit| Some(struck_part(hit))),
            by_group: counted_by(all(), group),
            matrix: matrix.collect(),
            no_factor,
        }
    }
}

/// Hits by a name, the most damage first, then the most hits.
fn counted_by<'h>(hits: impl Iterator<Item = &'h Hit>, name: impl Fn(&Hit) -> Option<String>) -> Vec<HitCount> {
    let mut counts: BTreeMap<String, HitCount> = BTreeMap::new();
    for hit in hits {
        let Some(name) = name(hit) else { continue };
        let count = counts.entry(name.clone()).or_insert(HitCount { name, hits: 0, damage: 0.0 });
        count.hits += 1;
        count.damage += hit.damage.unwrap_or(0.0);
    }
    let mut counts: Vec<HitCount> = counts.into_values().collect();
    counts.sort_by(|a, b| b.damage.total_cmp(&a.damage).then(b.hits.cmp(&a.hits)));
    counts
}

impl TakeHits {
    fn new(take: &CheckedTake) -> TakeHits {
        let hits = &take.report.hits;
        // Hits are in the order of their ticks.
        let on_tick = |tick: u64| {
            let first = hits.partition_point(|hit| hit.tick < tick);
            hits[first..].iter().take_while(move |hit| hit.tick == tick)
        };
        let is_trade = |hit: &Hit| on_tick(hit.tick).any(|back| back.by == hit.on && back.on == hit.by);
        let swings = take.report.swings.iter().map(|swing| SwingResult {
            by: swing.by.clone(),
            animation: swing.animation.clone(),
            active: [swing.active.first, swing.active.last],
            startup: swing.active.first - swing.whole.first,
            recovery: swing.whole.last - swing.active.last,
            struck: swing.struck.clone(),
            blocked: swing.blocked.iter().map(|of| BlockedResult { on: of.on.clone(), by: of.by.clone() }).collect(),
        });
        let in_take =
            |hit: &Hit| HitInTake { hit: HitResult::from(hit), is_trade: is_trade(hit), is_again: hit.is_again };
        TakeHits { take: take.name.clone(), hits: hits.iter().map(in_take).collect(), swings: swings.collect() }
    }
}
