//! Hits as they look: shapes that meet where the art does not, and art that meets where the shapes do not.

use super::checker::World;
use super::hits::{Hit, shown_facing};
use super::ledger::Fault;
use super::tries::cut_needed;
use super::words::{edge_against, px, shift};
use super::{Cause, Rule, Worst};
use crate::actor::{PixelRuns, Pose, Role, Shape};
use crate::geometry::{Convex, Point, Vec2, cut_back, deepest_overlap, distance, rects_overlap};
use crate::layers::LayerSet;
use crate::take::Sample;
use std::collections::BTreeMap;

/// A hit or hurt shape of an instance on a tick.
#[derive(Clone, Copy)]
pub(super) struct Limb<'a> {
    pub(super) sample: &'a Sample,
    pub(super) shape: &'a Shape,
}

impl Limb<'_> {
    fn name(&self) -> String {
        format!("{}.{}", self.sample.label, self.shape.name)
    }

    /// The extent of its pieces along a direction, seen from its own pivot.
    fn extent(&self, way: Vec2) -> (f64, f64) {
        let ends = self.shape.pieces.iter().map(|piece| piece.extent(way));
        ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), (a, b)| (low.min(a), high.max(b)))
    }

    /// How far it reaches past the art along a direction, within a stretch across it as [`PixelRuns::reach`] takes it, both seen
    /// from its pivot; `None` where there is no art in that stretch.
    fn past_art(&self, art: &PixelRuns, way: Vec2, stretch: (f64, f64)) -> Option<f64> {
        Some((self.extent(way).1 - art.reach(way, stretch)?).max(0.0))
    }
}

/// The opaque pixels of a sample as they are seen.
fn art<'a>(world: &World<'a>, of: &Sample) -> &'a PixelRuns {
    &world.actors[of.actor].pose(of.animation, of.frame, shown_facing(world, of)).pixels
}

/// A first contact of shapes while the art of the two is further apart than allowed.
pub(super) fn phantom_hit(world: &World<'_>, told: &Hit, cause: Cause, hit: Limb<'_>, hurt: Limb<'_>) -> Option<Fault> {
    let (own, theirs) = (art(world, hit.sample), art(world, hurt.sample));
    let offset = hit.sample.at - hurt.sample.at;
    let gap = own.gap(offset, theirs).filter(|gap| *gap > world.settings.phantom_hit)?;
    let (found, i, j) = deepest_overlap(&hit.shape.pieces, offset, &hurt.shape.pieces)?;
    let (with, way) = (hurt.name(), Vec2::ZERO - found.push);
    // What both pieces cover across the way, seen from each pivot.
    let across = Vec2::new(0.0 - way.y, way.x);
    let (a, b) = (hit.shape.pieces[i].extent(across), hurt.shape.pieces[j].extent(across));
    let moved = offset.dot(across);
    let (low, high) = ((a.0 + moved).max(b.0), (a.1 + moved).min(b.1));
    let past = hit.past_art(own, way, (low - moved, high - moved));
    let hurt_past = hurt.past_art(theirs, found.push, (0.0 - high, 0.0 - low));
    let cuts = [(hit, past, way), (hurt, hurt_past, found.push)];
    let parts = cuts.map(|(limb, past, way)| cut(&limb, past, way));
    let apart = deepest_overlap(&parts[0], offset, &parts[1]).is_none();
    let words = cuts.iter().filter_map(|(limb, past, way)| {
        let past = past.filter(|past| *past > 0.005)?;
        Some(format!("{}'s {} edge by {} px", limb.shape.name, edge_against(Vec2::ZERO - *way), px(past)))
    });
    let words: Vec<String> = words.collect();
    let (remedy, left) = if apart && !words.is_empty() {
        (format!("draw back to the art {}", words.join(", and ")), 0.0)
    } else {
        let (by, left) = cut_needed(&hit.shape.pieces, offset, &hurt.shape.pieces, found.push);
        (format!("draw {}'s {} edge back by {} px", hit.shape.name, edge_against(found.push), px(by)), left)
    };
    Some(Fault {
        rule: Rule::PhantomHit,
        actor: hit.sample.label.clone(),
        shape: hit.shape.name.clone(),
        worst: Worst { tick: told.tick, depth: gap, at: told.at, push: found.push },
        cause,
        message: format!(
            "{}'s {} struck {with}, and what is seen of the two is {} px apart.",
            hit.sample.label,
            hit.shape.name,
            px(gap)
        ),
        remedy,
        remains: Some(if left > 0.0 { gap } else { 0.0 }),
        with,
    })
}

/// The pieces of a shape without what is past its art along a direction.
fn cut(limb: &Limb<'_>, past: Option<f64>, way: Vec2) -> Vec<Convex> {
    let end = limb.extent(way).1 - past.unwrap_or(0.0);
    cut_back(&limb.shape.pieces, way, end)
}

/// Art that met in a swing of which no shape has struck yet.
#[derive(Clone, Debug)]
struct Miss {
    swing: u64,
    ticks: (u64, u64),
    fault: Fault,
}

/// Actor, animation, frame and the facing that is seen.
type Key = (usize, usize, usize, usize);

/// Swings that may turn out to have missed.
#[derive(Clone, Debug, Default)]
pub(super) struct Misses {
    /// The opaque pixels of a frame by what they stand for: those that strike, and all others.
    parted: BTreeMap<Key, [PixelRuns; 2]>,
    pending: Vec<Miss>,
}

impl Misses {
    /// Takes in a striker and a target that none of its hits has struck in this swing.
    ///
    /// `hits` are its hits with their masks.
    pub(super) fn look(
        &mut self,
        world: &World<'_>,
        (tick, swing): (u64, u64),
        striker: &Sample,
        hits: &[(&Shape, LayerSet)],
        target: &Sample,
    ) {
        let (own, theirs) = (art(world, striker), art(world, target));
        let offset = striker.at - target.at;
        // Most are far off.
        if !rects_overlap(own.bounds() + offset, theirs.bounds()) {
            return;
        }
        let pose = world.actors[target.actor].pose(target.animation, target.frame, target.facing);
        let seen = |mask: LayerSet| {
            pose.shapes.iter().filter(move |shape| {
                let layer = || world.layers.during(shape.layer, shape.mask, &target.states).0;
                shape.role == Role::Hurt && mask.sees(layer())
            })
        };
        let pairs = hits.iter().flat_map(|&(hit, mask)| seen(mask).map(move |hurt| (hit, hurt)));
        let nearest = pairs.filter_map(|(hit, hurt)| {
            let (apart, way) = apart(hit, offset, hurt)?;
            Some((apart, way, hit, hurt))
        });
        let Some((apart, way, hit, hurt)) = nearest.min_by(|a, b| a.0.total_cmp(&b.0)) else { return };
        let (own, theirs) = (self.part(world, striker), self.part(world, target));
        let ([strikes, _], [_, struck]) = (&self.parted[&own], &self.parted[&theirs]);
        let Some((area, middle)) = strikes.shared(offset, struck) else { return };
        if area <= world.settings.missed_hit {
            return;
        }
        let (hit, hurt) = (Limb { sample: striker, shape: hit }, Limb { sample: target, shape: hurt });
        let at = middle + target.at.to_vec2();
        let fault = missed(tick, (area, at), (apart, way), hit, hurt);
        let same = |known: &&mut Miss| {
            known.swing == swing && known.fault.actor == striker.label && is_of(&known.fault.with, &target.label)
        };
        match self.pending.iter_mut().find(same) {
            Some(known) => {
                known.ticks.1 = tick;
                if area > known.fault.worst.depth {
                    known.fault = fault;
                }
            }
            None => self.pending.push(Miss { swing, ticks: (tick, tick), fault }),
        }
    }

    /// A target was struck after all.
    pub(super) fn struck(&mut self, by: &str, on: &str) {
        self.pending.retain(|known| known.fault.actor != by || !is_of(&known.fault.with, on));
    }

    /// The misses of all swings of an instance but the one begun on a tick; of all there are without one.
    pub(super) fn over(&mut self, going_on: Option<(&str, u64)>) -> Vec<(Fault, (u64, u64))> {
        let over =
            |known: &mut Miss| going_on.is_none_or(|(by, swing)| known.fault.actor == by && known.swing != swing);
        self.pending.extract_if(.., over).map(|miss| (miss.fault, miss.ticks)).collect()
    }

    /// Sees to the parts of a sample's frame, and gives their key.
    fn part(&mut self, world: &World<'_>, of: &Sample) -> Key {
        let facing = shown_facing(world, of);
        let key = (of.actor, of.animation, of.frame, facing.index());
        self.parted.entry(key).or_insert_with(|| {
            let pose = world.actors[of.actor].pose(of.animation, of.frame, facing);
            pose.pixels.parted(|pixel| strikes(pose, pixel))
        });
        key
    }
}

/// Whether `actor.shape` is a shape of an instance.
fn is_of(name: &str, label: &str) -> bool {
    name.strip_prefix(label).is_some_and(|rest| rest.starts_with('.'))
}

/// Whether a pixel stands for what strikes: it is as near to a hit as to any hurt shape or body.
fn strikes(pose: &Pose, pixel: Point) -> bool {
    let nearest = |wanted: &dyn Fn(Role) -> bool| {
        let pieces = pose.shapes.iter().filter(|shape| wanted(shape.role)).flat_map(|shape| &shape.pieces);
        pieces.map(|piece| piece.squared_distance(pixel)).fold(f64::INFINITY, f64::min)
    };
    let hit = nearest(&|role| role == Role::Hit);
    hit.is_finite() && hit <= nearest(&|role| matches!(role, Role::Hurt | Role::Body))
}

/// How far two shapes are apart, and the way in which the first would reach the second.
fn apart(one: &Shape, offset: Vec2, other: &Shape) -> Option<(f64, Vec2)> {
    let pairs = one.pieces.iter().flat_map(|a| other.pieces.iter().map(move |b| (a, b)));
    let nearest = pairs.filter_map(|(a, b)| distance(a, offset, b));
    nearest.min_by(|a, b| a.0.total_cmp(&b.0))
}

fn missed(tick: u64, (area, at): (f64, Point), (apart, way): (f64, Vec2), hit: Limb<'_>, hurt: Limb<'_>) -> Fault {
    let by = &hit.sample.label;
    // A hundredth further than where the two touch.
    let reached = hit.sample.at - hurt.sample.at + way * (apart + 0.01);
    let meets = deepest_overlap(&hit.shape.pieces, reached, &hurt.shape.pieces).is_some();
    Fault {
        rule: Rule::MissedHit,
        actor: by.clone(),
        shape: hit.shape.name.clone(),
        with: hurt.name(),
        worst: Worst { tick, depth: (area * 100.0).round() / 100.0, at, push: way },
        cause: Cause::Moved,
        message: format!(
            "{by}'s {} is seen to cover {} by {} px2 and strikes it not in all that swing: the shapes stay {} px apart.",
            hit.shape.name,
            hurt.sample.label,
            px(area),
            px(apart)
        ),
        remedy: format!(
            "let {} reach more than {} further, or {} come as far towards it",
            hit.shape.name,
            shift(way, apart),
            hurt.shape.name
        ),
        remains: Some(if meets { 0.0 } else { area }),
    }
}
