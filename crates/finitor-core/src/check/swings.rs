//! Swings: what each hit shape struck, where, and whether it lost its target in between.

use super::CheckInput;
use super::report::{Blocked, Hit, SwingSeen};
use super::step::{InstanceIndex, Way};
use crate::actor::{Part, Pose, Role, Shape};
use crate::finding::{Cause, Span};
use crate::geometry::Point;
use crate::hits::{Settle, Struck, settled, touched};
use crate::layers::LayerSet;
use crate::stage::Solid;
use crate::take::Sample;
use crate::world::first_between;

/// One side of a blow.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Fighter<'t> {
    pub(crate) way: &'t Way,
    pub(crate) sample: &'t Sample,
}

impl Fighter<'_> {
    pub(crate) fn instance(&self) -> InstanceIndex {
        self.way.instance
    }
}

/// A hit that overlaps a hurt shape, on the first tick of a contact.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Strike<'t, 'a> {
    pub(crate) striker: Fighter<'t>,
    pub(crate) hit: &'a Shape,
    pub(crate) target: Fighter<'t>,
    /// The hurt shape that it is settled on.
    pub(crate) hurt: &'a Shape,
    /// The part of that.
    pub(crate) part: &'a Part,
    /// The middle of that area.
    pub(crate) at: Point,
    /// What brought the hit there: another frame, or a step.
    pub(crate) cause: Cause,
    /// The contact that this swing had before with this target, first and last tick.
    pub(crate) before: Option<(u64, u64)>,
}

/// What a swing did on a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) enum SwingEvent<'t, 'a> {
    /// An instance is in a swing that began on a tick: whatever swing it was in before is over.
    Goes { striker: InstanceIndex, begun: u64 },
    /// It strikes.
    Strikes(Strike<'t, 'a>),
    /// It has struck this target.
    HasStruck { striker: InstanceIndex, target: InstanceIndex },
    /// It has not struck this target yet, and still may.
    MayStrike { striker: Fighter<'t>, target: Fighter<'t>, begun: u64 },
}

/// A swing that has struck a target.
#[derive(Clone, Debug)]
struct Contact {
    by: InstanceIndex,
    shape: String,
    on: InstanceIndex,
    /// The first tick of the swing.
    swing: u64,
    first: u64,
    last: u64,
    /// When it struck last: later contacts may count anew.
    struck: u64,
}

/// Where an instance is in its animation.
#[derive(Clone, Debug)]
struct Swing {
    of: InstanceIndex,
    animation: usize,
    frame: usize,
    begun: u64,
    last: u64,
    /// What is reported of it, once a hit shape was out.
    seen: Option<SwingSeen>,
}

impl Swing {
    /// What is reported of it, now that it is over.
    fn over(&mut self) -> Option<SwingSeen> {
        let mut seen = self.seen.take()?;
        seen.whole.last = self.last;
        Some(seen)
    }
}

/// What was struck so far.
#[derive(Clone, Debug, Default)]
pub(crate) struct Swings {
    swings: Vec<Swing>,
    contacts: Vec<Contact>,
    pub(crate) hits: Vec<Hit>,
    /// Whether to report them: those of a long take are many.
    pub(crate) are_reported: bool,
    /// Those that are over.
    seen: Vec<SwingSeen>,
}

/// The pose whose shapes an instance has on a tick.
fn pose_of<'a>(input: &CheckInput<'a>, of: &Sample) -> &'a Pose {
    input.actor(of.actor).pose(of.animation, of.frame, of.facing)
}

/// The hits of an instance on a tick, with the masks they have then.
pub(crate) fn hits_of<'a>(input: &CheckInput<'a>, of: &Sample) -> Vec<(&'a Shape, LayerSet)> {
    let pose = pose_of(input, of);
    let (layers, states) = (input.layers, &of.states);
    let hits = pose.shapes.iter().filter(|shape| shape.role == Role::Hit);
    hits.map(move |hit| (hit, layers.during(hit.layer, hit.mask, states).1)).collect()
}

/// The hurt shapes of a target that a mask detects on a tick.
pub(crate) fn hurts_of<'t, 'a>(
    input: &CheckInput<'a>,
    of: &'t Sample,
    mask: LayerSet,
) -> impl Iterator<Item = &'a Shape> + use<'t, 'a> {
    let pose = pose_of(input, of);
    let layers = input.layers;
    pose.shapes.iter().filter(move |shape| {
        let layer = || layers.during(shape.layer, shape.mask, &of.states).0;
        shape.role == Role::Hurt && mask.sees(layer())
    })
}

impl Swings {
    /// Takes in a tick and adds what happened.
    ///
    /// # Complexity
    /// O(h k u), h hits of this tick, k instances, u hurt shapes of each; a box test decides for most.
    pub(crate) fn observe<'t, 'a>(
        &mut self,
        input: &CheckInput<'a>,
        fighters: impl Iterator<Item = Fighter<'t>> + Clone,
        events: &mut Vec<SwingEvent<'t, 'a>>,
    ) {
        for striker in fighters.clone() {
            let hits = hits_of(input, striker.sample);
            let of = striker.instance();
            if hits.is_empty() && !self.swings.iter().any(|swing| swing.of == of) {
                continue;
            }
            let (begun, cause) = self.swing(striker.way);
            if self.are_reported && !hits.is_empty() {
                self.is_out(input, &striker);
            }
            events.push(SwingEvent::Goes { striker: of, begun });
            for target in fighters.clone().filter(|target| target.instance() != of) {
                let mut is_blocked = false;
                for &(hit, mask) in &hits {
                    let Some(found) = struck(input, striker, (hit, mask), target) else { continue };
                    let Struck { touched: found, part } = found;
                    let at = found.middle + target.way.now.at.to_vec2();
                    if let Some(solid) = in_between(input, striker, hit, at) {
                        self.is_blocked(of, Blocked { on: target.sample.label.clone(), by: solid.name.clone() });
                        is_blocked = true;
                        continue;
                    }
                    let strike = Strike { striker, hit, target, hurt: found.hurt, part, at, cause, before: None };
                    events.extend(self.met(begun, strike, found.area).map(SwingEvent::Strikes));
                }
                if self.has_struck(begun, of, target.instance()) {
                    events.push(SwingEvent::HasStruck { striker: of, target: target.instance() });
                } else if !hits.is_empty() && !is_blocked {
                    events.push(SwingEvent::MayStrike { striker, target, begun });
                }
            }
        }
    }

    fn has_struck(&self, swing: u64, by: InstanceIndex, on: InstanceIndex) -> bool {
        self.contacts.iter().any(|known| known.by == by && known.on == on && known.swing == swing)
    }

    /// The first tick of the animation that an instance plays: it ends where another begins, where it begins anew, and where
    /// ticks are missing. And what brought the hit to where it is: another frame, or a step.
    fn swing(&mut self, way: &Way) -> (u64, Cause) {
        let (tick, animation, frame) = (way.now.tick, way.now.animation, way.now.frame);
        let known = self.swings.iter_mut().find(|swing| swing.of == way.instance);
        let Some(known) = known else {
            self.swings.push(Swing { of: way.instance, animation, frame, begun: tick, last: tick, seen: None });
            return (tick, Cause::Reshaped);
        };
        let same_frame = known.animation == animation && known.frame == frame;
        if known.animation != animation || frame < known.frame || tick > known.last + 1 {
            known.begun = tick;
            self.seen.extend(known.over());
        }
        (known.animation, known.frame, known.last) = (animation, frame, tick);
        (known.begun, if same_frame { Cause::Moved } else { Cause::Reshaped })
    }

    /// Notes that a hit shape of an instance is out.
    fn is_out(&mut self, input: &CheckInput<'_>, striker: &Fighter<'_>) {
        let now = &striker.way.now;
        let Some(known) = self.swings.iter_mut().find(|swing| swing.of == striker.instance()) else { return };
        let seen = known.seen.get_or_insert_with(|| SwingSeen {
            by: striker.sample.label.clone(),
            animation: input.actor(striker.way.actor).animations[now.animation].name.clone(),
            whole: Span { first: known.begun, last: now.tick },
            active: Span::at(now.tick),
            struck: Vec::new(),
            blocked: Vec::new(),
        });
        seen.active.last = now.tick;
    }

    /// What is reported of the swing that an instance is in.
    fn seen_of(&mut self, of: InstanceIndex) -> Option<&mut SwingSeen> {
        self.swings.iter_mut().find(|swing| swing.of == of)?.seen.as_mut()
    }

    /// Notes a strike that a solid stopped.
    fn is_blocked(&mut self, by: InstanceIndex, blocked: Blocked) {
        if let Some(seen) = self.seen_of(by).filter(|seen| !seen.blocked.contains(&blocked)) {
            seen.blocked.push(blocked);
        }
    }

    /// All swings that are over; those that go on at the end of a take too.
    pub(crate) fn finish(&mut self) -> Vec<SwingSeen> {
        self.seen.extend(self.swings.iter_mut().filter_map(Swing::over));
        let mut seen = std::mem::take(&mut self.seen);
        seen.sort_by(|a, b| a.active.last.cmp(&b.active.last).then_with(|| a.by.cmp(&b.by)));
        seen
    }

    /// Notes a contact; a strike where it begins, or begins again.
    fn met<'t, 'a>(&mut self, swing: u64, strike: Strike<'t, 'a>, area: f64) -> Option<Strike<'t, 'a>> {
        let tick = strike.striker.way.now.tick;
        let (by, on) = (strike.striker.instance(), strike.target.instance());
        let is_it = |known: &&mut Contact| {
            known.by == by && known.shape == strike.hit.name && known.on == on && known.swing == swing
        };
        // Whichever of its shapes met the target before.
        let same_swing = self.contacts.iter().filter(|known| known.by == by && known.on == on && known.swing == swing);
        let before = same_swing.map(|known| (known.first, known.last)).reduce(|a, b| (a.0.min(b.0), a.1.max(b.1)));
        let before = before.filter(|(_, last)| last + 1 < tick && strike.hit.carries.again_after.is_none());
        match self.contacts.iter_mut().find(is_it) {
            Some(known) => {
                let last = std::mem::replace(&mut known.last, tick);
                // A hit that may strike again is asked by its own count, in contact or not.
                let is_again = strike.hit.carries.again_after.map(|after| tick >= known.struck + after);
                if !is_again.unwrap_or(tick > last + 1) {
                    return None;
                }
                known.struck = tick;
            }
            None => {
                // Older swings of this pair are over.
                self.contacts.retain(|known| known.by != by || known.swing == swing);
                let shape = strike.hit.name.clone();
                self.contacts.push(Contact { by, shape, on, swing, first: tick, last: tick, struck: tick });
            }
        }
        let strike = Strike { before, ..strike };
        if let Some(seen) = self.seen_of(by).filter(|seen| !seen.struck.contains(&strike.target.sample.label)) {
            seen.struck.push(strike.target.sample.label.clone());
        }
        self.hits.push(hit(&strike, area));
        Some(strike)
    }
}

fn hit(strike: &Strike<'_, '_>, area: f64) -> Hit {
    let Strike { striker, hit, target, hurt, part, at, .. } = strike;
    let factor = part.factor.unwrap_or(1.0);
    Hit {
        tick: striker.way.now.tick,
        by: striker.sample.label.clone(),
        shape: hit.name.clone(),
        on: target.sample.label.clone(),
        hurt: hurt.name.clone(),
        part: part.name.clone(),
        group: part.group.clone(),
        factor,
        has_factor: part.has_factor(),
        is_vital: part.is_vital,
        damage: hit.carries.damage.map(|damage| damage * factor),
        at: *at,
        area,
        is_again: strike.before.is_some(),
    }
}

/// The solid that stops a hit on its way from its anchor, or the middle of the body, to the contact.
fn in_between<'a>(input: &CheckInput<'a>, striker: Fighter<'_>, hit: &Shape, contact: Point) -> Option<&'a Solid> {
    let layers = hit.carries.blocked_by;
    if layers.is_empty() {
        return None;
    }
    let pose = pose_of(input, striker.sample);
    let anchor = hit.carries.blocked_from.as_ref().and_then(|name| pose.anchor(name));
    let from = anchor.or_else(|| Some(pose.body()?.bounds().center())).unwrap_or_default();
    first_between(input.stage, layers, from + striker.way.now.at.to_vec2(), contact)
}

/// The hurt shape of a target that a hit strikes.
fn struck<'a>(
    input: &CheckInput<'a>,
    striker: Fighter<'_>,
    hit: (&Shape, LayerSet),
    target: Fighter<'_>,
) -> Option<Struck<'a>> {
    let offset = striker.way.now.at - target.way.now.at;
    let all = touched(hit.0, offset, pose_of(input, target.sample), hurts_of(input, target.sample, hit.1));
    let settle = Settle::of(hit.0, input.actor(target.sample.actor), input.settings.settle());
    settled(settle, &all)
}

#[cfg(test)]
mod tests {
    use crate::testing::fight::*;
    use crate::{Facing, Rect};

    /// The area two boxes share and its middle, counted in sixteenths of a px2.
    fn counted(one: Rect, other: Rect) -> (f64, (f64, f64)) {
        let (mut count, mut sum) = (0.0, (0.0, 0.0));
        for i in -400..400 {
            for j in -400..400 {
                let (x, y) = (f64::from(i) / 4.0 + 0.125, f64::from(j) / 4.0 + 0.125);
                if one.contains((x, y)) && other.contains((x, y)) {
                    count += 1.0;
                    sum = (sum.0 + x, sum.1 + y);
                }
            }
        }
        (count / 16.0, (sum.0 / count, sum.1 / count))
    }

    #[test]
    fn a_hit_is_told_once_with_the_part_that_it_meets_most() {
        for facing in Facing::BOTH {
            let side = if facing == Facing::Right { 1.0 } else { -1.0 };
            // The head's lower 2 px and the torso's upper 6 px lie in the pole: more of the torso.
            let rows =
                [("swing", 0), ("swing", 1), ("swing", 2), ("swing", 3)].map(|(a, f)| (a, f, (20.5 * side, 0.0)));
            let report = run(facing, &rows);
            assert_eq!(report.hits.len(), 1, "{:?}", report.hits);
            let hit = &report.hits[0];
            let pole = if facing == Facing::Right { POLE } else { Rect::new(-POLE.x1, POLE.y0, -POLE.x0, POLE.y1) };
            let torso = TORSO + finitor_core::Vec2::new(20.5 * side, 0.0);
            let (area, middle) = counted(pole, torso);
            assert_eq!(
                (hit.tick, hit.by.as_str(), hit.on.as_str(), hit.shape.as_str()),
                (1, "keeper", "gull:1", "pole")
            );
            assert_eq!(
                (hit.part.as_deref(), hit.group.as_deref(), hit.damage),
                (Some("torso"), Some("upper"), Some(10.0))
            );
            assert!(
                (hit.area - area).abs() < 1e-9
                    && (hit.at.x - middle.0).abs() < 1e-9
                    && (hit.at.y - middle.1).abs() < 1e-9,
                "{hit:?}"
            );
            assert_eq!(report.findings, []);
            // 8 px lower the head is in the pole and the torso is not.
            let low = rows.map(|(a, f, (x, _))| (a, f, (x, 8.0)));
            let hit = &run(facing, &low).hits[0];
            assert_eq!((hit.part.as_deref(), hit.factor, hit.damage), (Some("head"), 3.0, Some(30.0)));
        }
        // A touch is no hit, nor is anything that the mask does not look for.
        let touch = [("swing", 1, (38.0, 0.0)), ("swing", 2, (38.0, 0.0))];
        assert_eq!(run(Facing::Right, &touch).hits, []);
    }
}
