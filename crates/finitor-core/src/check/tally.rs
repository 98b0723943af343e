//! What met what over a take, and what followed: a count a pair.

use super::CheckInput;
use crate::actor::{ActorIndex, Shape};
use crate::geometry::{Convex, Rect, Vec2, deepest_overlap, near, rects_meet};
use crate::layers::{Contact, PartyRole, Stand, acts, may_act};
use crate::stage::Stage;
use crate::take::Sample;
use std::collections::{BTreeMap, BTreeSet};

/// How often two things met. Instances of an actor are counted together.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PairTally {
    /// `actor.shape`.
    pub first: String,
    /// `actor.shape` or `stage/thing`.
    pub second: String,
    /// What they are.
    pub roles: (PartyRole, PartyRole),
    /// Ticks on which they touched or overlapped, once for each two instances.
    pub met: u64,
    /// Those on which they overlapped.
    pub overlapped: u64,
    /// Those on which something followed by their masks: one stops, strikes, senses the other or takes note of it.
    pub acted: u64,
    /// The first tick on which they met.
    pub first_tick: Option<u64>,
    /// Whether something follows by the masks as the files give them, whatever states change.
    pub acts: bool,
}

/// What is this near has met, px: games log places with few decimals, and resting on a slope they are rounded.
const TOUCH: f64 = 0.01;

impl PairTally {
    /// Of two that have not met.
    fn new(contact: Contact, (first, one): (&str, Stand), (second, other): (&str, Stand)) -> PairTally {
        PairTally {
            first: first.to_string(),
            second: second.to_string(),
            roles: (one.role, other.role),
            met: 0,
            overlapped: 0,
            acted: 0,
            first_tick: None,
            acts: acts(contact, one, other),
        }
    }
}

/// Something with a place on this tick.
#[derive(Debug)]
struct Present<'a> {
    name: String,
    label: &'a str,
    pieces: &'a [Convex],
    bounds: Rect,
    offset: Vec2,
    /// By the files.
    plain: Stand,
    /// On this tick.
    stand: Stand,
}

/// Counts pairs over a take.
#[derive(Debug)]
pub(super) struct Tally<'a> {
    still: Vec<Present<'a>>,
    pairs: Pairs,
    actors: BTreeSet<ActorIndex>,
}

impl<'a> Tally<'a> {
    /// A count of nothing yet.
    pub(super) fn new(stage: &'a Stage) -> Tally<'a> {
        Tally { still: things(stage), pairs: BTreeMap::new(), actors: BTreeSet::new() }
    }

    /// Takes in a tick.
    ///
    /// # Complexity
    /// O(p2 + p s), p shapes and s things on the stage; a box test decides for most.
    pub(super) fn tick(&mut self, input: &CheckInput<'_>, tick: u64, samples: &[Sample]) {
        self.actors.extend(samples.iter().map(|sample| sample.actor));
        let moving: Vec<Present<'_>> = samples.iter().flat_map(|sample| shapes(input, sample)).collect();
        let Tally { still, pairs, .. } = self;
        for (i, one) in moving.iter().enumerate() {
            let others = moving[i + 1..].iter().filter(|other| other.label != one.label);
            for other in others.chain(&*still).filter(|other| may_act(one.plain.role, other.plain.role)) {
                meet(pairs, input.layers.contact, tick, (one, other));
            }
        }
    }

    /// All pairs that could have something to do with each other, of the actors met: those that met first, by their names.
    pub(super) fn finish(self, input: &CheckInput<'_>) -> Vec<PairTally> {
        let mut known: BTreeMap<String, (ActorIndex, Stand)> = BTreeMap::new();
        for &index in &self.actors {
            let actor = input.actor(index);
            for shape in actor.animations.iter().flat_map(|a| &a.frames).flatten().flat_map(|pose| &pose.shapes) {
                known.entry(format!("{}.{}", actor.name, shape.name)).or_insert((index, stand(shape)));
            }
        }
        let mut pairs = self.pairs;
        let mut add = |one: &str, other: &str, a: Stand, b: Stand| {
            if may_act(a.role, b.role) {
                let pair = || PairTally::new(input.layers.contact, (one, a), (other, b));
                pairs.entry((one.to_string(), other.to_string())).or_insert_with(pair);
            }
        };
        for (one, (actor, a)) in &known {
            let others = known.range(one.clone()..).filter(|(_, (other, _))| other != actor);
            others.for_each(|(other, (_, b))| add(one, other, *a, *b));
            self.still.iter().for_each(|thing| add(one, &thing.name, *a, thing.plain));
        }
        let mut pairs: Vec<PairTally> = pairs.into_values().collect();
        pairs.sort_by_key(|pair| pair.met == 0);
        pairs
    }
}

type Pairs = BTreeMap<(String, String), PairTally>;

/// Counts what two things mean to each other on a tick, where they meet.
fn meet(pairs: &mut Pairs, contact: Contact, tick: u64, (one, other): (&Present<'_>, &Present<'_>)) {
    if !rects_meet(one.bounds.inflate(TOUCH, TOUCH), other.bounds) {
        return;
    }
    let offset = one.offset - other.offset;
    let overlapped = deepest_overlap(one.pieces, offset, other.pieces).is_some();
    let touches = || one.pieces.iter().any(|a| other.pieces.iter().any(|b| near(a, offset, b, TOUCH)));
    if !overlapped && !touches() {
        return;
    }
    let still = other.label.is_empty();
    let (one, other) = if still || one.name <= other.name { (one, other) } else { (other, one) };
    let pair = pairs
        .entry((one.name.clone(), other.name.clone()))
        .or_insert_with(|| PairTally::new(contact, (&one.name, one.plain), (&other.name, other.plain)));
    pair.first_tick = pair.first_tick.or(Some(tick));
    pair.met += 1;
    pair.overlapped += u64::from(overlapped);
    pair.acted += u64::from(acts(contact, one.stand, other.stand));
}

fn stand(shape: &Shape) -> Stand {
    Stand { role: shape.role.party(), layer: shape.layer, mask: shape.mask }
}

fn shapes<'a>(input: &CheckInput<'a>, sample: &'a Sample) -> impl Iterator<Item = Present<'a>> {
    let actor = input.actor(sample.actor);
    let (layers, offset) = (input.layers, sample.at.to_vec2());
    actor.pose(sample.animation, sample.frame, sample.facing).shapes.iter().map(move |shape| {
        let (layer, mask) = layers.during(shape.layer, shape.mask, &sample.states);
        Present {
            name: format!("{}.{}", actor.name, shape.name),
            label: &sample.label,
            pieces: &shape.pieces,
            bounds: shape.bounds() + offset,
            offset,
            plain: stand(shape),
            stand: Stand { layer, mask, ..stand(shape) },
        }
    })
}

fn things(stage: &Stage) -> Vec<Present<'_>> {
    stage
        .things()
        .map(|(name, outline, plain)| Present {
            name: format!("{}/{name}", stage.name),
            label: "",
            pieces: &outline.pieces,
            bounds: outline.bounds,
            offset: Vec2::ZERO,
            plain,
            stand: plain,
        })
        .collect()
}
