//! Hits that meet hurt shapes: where, on which part, and whether one swing strikes twice.

use super::art_hits::{Limb, Misses, phantom_hit};
use super::checker::World;
use super::ledger::Fault;
use super::{Cause, Rule, Worst};
use crate::actor::{Role, Shape};
use crate::facing::Facing;
use crate::geometry::{Convex, Point, Vec2, overlap_region, rects_overlap};
use crate::layers::LayerSet;
use crate::take::Sample;

/// A hit's first contact with a target.
#[derive(Clone, Debug, PartialEq)]
pub struct Hit {
    /// The tick.
    pub tick: u64,
    /// The instance that strikes.
    pub by: String,
    /// Its hit shape.
    pub shape: String,
    /// The instance that is struck.
    pub on: String,
    /// Its hurt shape with the largest overlap.
    pub hurt: String,
    /// That shape's part, where it has one.
    pub part: Option<String>,
    /// The part's group.
    pub group: Option<String>,
    /// What damage is multiplied by there.
    pub factor: f64,
    /// The hit's damage times the factor, where the hit has any.
    pub damage: Option<f64>,
    /// The middle of what overlaps, world space.
    pub at: Point,
    /// How much overlaps, px2.
    pub area: f64,
}

/// A swing that has struck a target.
#[derive(Clone, Debug)]
struct Contact {
    by: String,
    shape: String,
    on: String,
    /// The first tick of the swing.
    swing: u64,
    first: u64,
    last: u64,
}

/// Where an instance is in its animation.
#[derive(Clone, Debug)]
struct Swing {
    label: String,
    animation: usize,
    frame: usize,
    begun: u64,
    last: u64,
}

/// What was struck so far.
#[derive(Clone, Debug, Default)]
pub(super) struct Blows {
    swings: Vec<Swing>,
    contacts: Vec<Contact>,
    misses: Misses,
    /// Swings that are over and struck nothing though they were seen to, with their first and last ticks.
    pub(super) missed: Vec<(Fault, (u64, u64))>,
    pub(super) hits: Vec<Hit>,
}

/// An overlap of a hit with hurt shapes of one target.
struct Overlap<'a> {
    hurt: &'a Shape,
    area: f64,
    at: Point,
}

impl Blows {
    /// Takes in a tick.
    ///
    /// # Complexity
    /// O(h k u), h hits of this tick, k instances, u hurt shapes of each; a box test decides for most.
    pub(super) fn tick(&mut self, world: &World<'_>, tick: u64, samples: &[Sample], faults: &mut Vec<Fault>) {
        for striker in samples {
            let pose = world.actors[striker.actor].pose(striker.animation, striker.frame, striker.facing);
            let hits = pose.shapes.iter().filter(|shape| shape.role == Role::Hit);
            let hits = hits.map(|hit| (hit, world.layers.during(hit.layer, hit.mask, &striker.states).1));
            let hits: Vec<(&Shape, LayerSet)> = hits.collect();
            if hits.is_empty() && !self.swings.iter().any(|swing| swing.label == striker.label) {
                continue;
            }
            let (begun, cause) = self.swing(tick, striker);
            self.missed.extend(self.misses.over(Some((&striker.label, begun))));
            for target in samples.iter().filter(|target| target.label != striker.label) {
                for &(hit, mask) in &hits {
                    if let Some(found) = largest(world, (striker, hit, mask), target) {
                        let told = self.hits.len();
                        self.met(tick, begun, (striker, hit), (target, &found), faults);
                        let new = self.hits[told..].iter();
                        let (hit, hurt) =
                            (Limb { sample: striker, shape: hit }, Limb { sample: target, shape: found.hurt });
                        faults.extend(new.filter_map(|told| phantom_hit(world, told, cause, hit, hurt)));
                    }
                }
                if self.has_struck(begun, striker, target) {
                    self.misses.struck(&striker.label, &target.label);
                } else if !hits.is_empty() {
                    self.misses.look(world, (tick, begun), striker, &hits, target);
                }
            }
        }
    }

    /// The take ends: no swing goes on.
    pub(super) fn end(&mut self) {
        self.missed.extend(self.misses.over(None));
    }

    fn has_struck(&self, swing: u64, striker: &Sample, target: &Sample) -> bool {
        let is_it = |known: &Contact| known.by == striker.label && known.on == target.label && known.swing == swing;
        self.contacts.iter().any(is_it)
    }

    /// The first tick of the animation that an instance plays: it ends where another begins, where it begins anew, and where
    /// ticks are missing. And what brought the hit to where it is: another frame, or a step.
    fn swing(&mut self, tick: u64, of: &Sample) -> (u64, Cause) {
        let known = self.swings.iter_mut().find(|swing| swing.label == of.label);
        let Some(known) = known else {
            let Sample { label, animation, frame, .. } = of.clone();
            self.swings.push(Swing { label, animation, frame, begun: tick, last: tick });
            return (tick, Cause::Reshaped);
        };
        let same_frame = known.animation == of.animation && known.frame == of.frame;
        if known.animation != of.animation || of.frame < known.frame || tick > known.last + 1 {
            known.begun = tick;
        }
        (known.animation, known.frame, known.last) = (of.animation, of.frame, tick);
        (known.begun, if same_frame { Cause::Moved } else { Cause::Reshaped })
    }

    fn met(
        &mut self,
        tick: u64,
        swing: u64,
        (striker, hit): (&Sample, &Shape),
        (target, found): (&Sample, &Overlap<'_>),
        faults: &mut Vec<Fault>,
    ) {
        let is_it = |known: &&mut Contact| {
            known.by == striker.label && known.shape == hit.name && known.on == target.label && known.swing == swing
        };
        if let Some(known) = self.contacts.iter_mut().find(is_it) {
            if tick > known.last + 1 {
                faults.push(again(tick, known, (striker, hit), target, found));
            } else {
                known.last = tick;
                return;
            }
            known.last = tick;
        } else {
            // Older swings of this pair are over.
            self.contacts.retain(|known| known.by != striker.label || known.swing == swing);
            let (by, shape, on) = (striker.label.clone(), hit.name.clone(), target.label.clone());
            self.contacts.push(Contact { by, shape, on, swing, first: tick, last: tick });
        }
        let carried = &found.hurt.carries;
        let factor = carried.factor.unwrap_or(1.0);
        self.hits.push(Hit {
            tick,
            by: striker.label.clone(),
            shape: hit.name.clone(),
            on: target.label.clone(),
            hurt: found.hurt.name.clone(),
            part: carried.part.clone(),
            group: carried.group.clone(),
            factor,
            damage: hit.carries.damage.map(|damage| damage * factor),
            at: found.at,
            area: found.area,
        });
    }
}

fn again(tick: u64, known: &Contact, (striker, hit): (&Sample, &Shape), target: &Sample, found: &Overlap<'_>) -> Fault {
    let (first, last) = (known.first, known.last);
    Fault {
        rule: Rule::RepeatHit,
        actor: striker.label.clone(),
        shape: hit.name.clone(),
        with: format!("{}.{}", target.label, found.hurt.name),
        worst: Worst { tick, depth: (tick - last) as f64, at: found.at, push: Vec2::ZERO },
        cause: Cause::Moved,
        message: format!(
            "{}'s {} struck {} at tick {first}, lost it after tick {last}, and struck it again in the same swing.",
            striker.label, hit.name, target.label
        ),
        remedy: format!(
            "let one swing strike each target once, or not again within {} ticks of losing it",
            tick - last
        ),
        // Of two contacts of one swing the second then does nothing.
        remains: Some(0.0),
    }
}

/// The way in which the picture of a sample looks.
pub(super) fn shown_facing(world: &World<'_>, of: &Sample) -> Facing {
    let shown = world.actors[of.actor].shown(of.animation, of.frame, of.facing);
    let is_split = of.flipped_art.is_some_and(|flipped| flipped != shown.flipped);
    if is_split { of.facing.turned() } else { of.facing }
}

/// The hurt shape of a target that shares most with a hit.
fn largest<'a>(
    world: &World<'a>,
    (striker, hit, mask): (&Sample, &Shape, LayerSet),
    target: &Sample,
) -> Option<Overlap<'a>> {
    let pose = world.actors[target.actor].pose(target.animation, target.frame, target.facing);
    let offset = striker.at - target.at;
    let mut best: Option<Overlap<'a>> = None;
    for hurt in pose.shapes.iter().filter(|shape| shape.role == Role::Hurt) {
        let (layer, _) = world.layers.during(hurt.layer, hurt.mask, &target.states);
        if !mask.sees(layer) {
            continue;
        }
        let Some((area, middle)) = shared(&hit.pieces, offset, &hurt.pieces) else { continue };
        if best.as_ref().is_none_or(|known| area > known.area) {
            best = Some(Overlap { hurt, area, at: middle + target.at.to_vec2() });
        }
    }
    best
}

/// The area that two shapes share, and its middle, in the second's own space.
fn shared(one: &[Convex], offset: Vec2, other: &[Convex]) -> Option<(f64, Point)> {
    let (mut area, mut moment) = (0.0, Vec2::ZERO);
    for a in one {
        for b in other.iter().filter(|b| rects_overlap(a.bounds() + offset, b.bounds())) {
            if let Some((own, middle)) = overlap_region(a, offset, b) {
                area += own;
                moment += middle.to_vec2() * own;
            }
        }
    }
    (area > 0.0).then(|| (area, (moment / area).to_point()))
}
