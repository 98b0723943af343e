//! What was observed of a tick before any rule judges it.

use super::CheckInput;
use super::contacts::{Contact, ContactMemory, ContactState};
use super::drops::{DropMemory, DropSeen};
use super::moment::Moment;
use super::resting::RestingGap;
use super::standing::{Floors, Ground, GroundSeen, OneFloor, Standing};
use super::step::{InstanceIndex, Step, Way};
use super::still::{CalmMemory, StillMemory};
use super::visits::{Visits, ZoneContact};
use super::weight::Weight;
use crate::finding::Cause;
use crate::geometry::{
    Convex, Deepest, Overlap, Point, Rect, TOUCH, Vec2, deepest_overlap, near, overlap_depth, rects_meet,
};
use crate::layers::Detection;
use crate::take::Sample;
use crate::world::{Near, NearThings, Path, Thing, Through, Vicinity, World};

/// What is known of one instance from tick to tick.
#[derive(Debug)]
pub(crate) struct Track {
    pub(crate) before: Option<Moment>,
    pub(crate) last_move: Option<Vec2>,
    pub(crate) earlier_move: Option<Vec2>,
    pub(crate) settled: Option<u64>,
    pub(crate) contacts: ContactMemory,
    pub(crate) visits: Visits,
    pub(crate) drops: DropMemory,
    pub(crate) standing: Option<Standing>,
    /// The ground of the tick before, where it was passing no platform.
    pub(crate) ground: Option<Ground>,
    /// The one floor of the tick before, where there was one alone.
    pub(crate) floor: Option<OneFloor>,
    pub(crate) still: StillMemory,
    pub(crate) calm: CalmMemory,
    pub(crate) is_carried: bool,
    pub(crate) gap: RestingGap,
    pub(crate) weight: Weight,
    pub(crate) vicinity: Vicinity,
}

/// Where the lists of a tick end for one instance: those of the next one begin there.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Ends {
    pub(crate) solids: usize,
    pub(crate) one_ways: usize,
    pub(crate) near_zones: usize,
    pub(crate) contacts: usize,
    pub(crate) zones: usize,
}

/// One instance on a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seat<'a> {
    pub(crate) who: Seated<'a>,
    /// The box around the body's way; `None` without a body.
    pub(crate) swept: Option<Rect>,
    /// The motion of the body since the tick before, where that is known to be straight.
    pub(crate) motion: Option<Vec2>,
    pub(crate) ends: Ends,
    pub(crate) ground: GroundSeen,
    pub(crate) drop: DropSeen,
    /// Whether a hazard that detects it holds it.
    pub(crate) in_hazard: bool,
    /// Whether another body whose box meets its own stops it.
    pub(crate) meets_body: bool,
    /// Whether nothing has happened to it for long: most rules have nothing to ask.
    pub(crate) is_calm: bool,
}

/// Its way, with the bodies at the ends where its frame has one.
#[derive(Clone, Copy, Debug)]
#[allow(clippy::large_enum_variant, reason = "a step holds the way, and nearly all have a body")]
pub(crate) enum Seated<'a> {
    Body(Step<'a>),
    NoBody(Way),
}

impl<'a> Seat<'a> {
    pub(crate) fn way(&self) -> &Way {
        match &self.who {
            Seated::Body(step) => &step.way,
            Seated::NoBody(way) => way,
        }
    }

    /// The step; `None` when its frame has no body.
    pub(crate) fn step(&self) -> Option<&Step<'a>> {
        match &self.who {
            Seated::Body(step) => Some(step),
            Seated::NoBody(_) => None,
        }
    }
}

/// Two bodies whose boxes meet within the step, or nearly do, by their seats.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Meeting {
    pub(crate) one: usize,
    pub(crate) other: usize,
    /// Whether they stop each other.
    pub(crate) stops: bool,
}

/// All that was observed of a tick.
#[derive(Clone, Copy)]
pub(crate) struct TickSeen<'t, 'a> {
    pub(crate) input: &'t CheckInput<'a>,
    pub(crate) world: &'t World<'a>,
    pub(crate) tracks: &'t [Track],
    pub(crate) seats: &'t [Seat<'a>],
    pub(crate) near: &'t NearThings,
    pub(crate) contacts: &'t [Contact],
    pub(crate) zones: &'t [ZoneContact],
    pub(crate) meetings: &'t [Meeting],
    /// What the take says of the seats; none in a retrial.
    pub(crate) samples: &'t [Sample],
}

impl<'t, 'a> TickSeen<'t, 'a> {
    /// The step of a seat; `None` when its frame has no body.
    pub(crate) fn step(&self, seat: usize) -> Option<&'t Step<'a>> {
        self.seats[seat].step()
    }

    /// What was seen of a seat; `None` when its frame has no body.
    pub(crate) fn look(&'t self, index: usize) -> Option<Look<'t, 'a>> {
        let seat = &self.seats[index];
        let step = self.step(index)?;
        let begin = index.checked_sub(1).map_or_else(Ends::default, |before| self.seats[before].ends);
        let end = seat.ends;
        let near = Near {
            solids: &self.near.solids[begin.solids..end.solids],
            one_ways: &self.near.one_ways[begin.one_ways..end.one_ways],
            zones: &self.near.zones[begin.near_zones..end.near_zones],
        };
        Some(Look {
            tick: self,
            index,
            step,
            near,
            contacts: &self.contacts[begin.contacts..end.contacts],
            zones: &self.zones[begin.zones..end.zones],
            seat,
        })
    }
}

/// What was seen of one instance with a body on a tick.
#[derive(Clone, Copy)]
pub(crate) struct Look<'t, 'a> {
    tick: &'t TickSeen<'t, 'a>,
    index: usize,
    pub(crate) step: &'t Step<'a>,
    /// The stage's things near the way.
    pub(crate) near: Near<'t>,
    /// What each of them that can stop the body is to it.
    pub(crate) contacts: &'t [Contact],
    /// The zones that matter on this step.
    pub(crate) zones: &'t [ZoneContact],
    pub(crate) seat: &'t Seat<'a>,
}

impl<'t, 'a> Look<'t, 'a> {
    pub(crate) fn input(&self) -> &'t CheckInput<'a> {
        self.tick.input
    }

    pub(crate) fn world(&self) -> &'t World<'a> {
        self.tick.world
    }

    /// What the ways of the instance so far tell of its weight.
    pub(crate) fn weight(&self) -> Weight {
        self.tick.tracks[self.step.instance().0].weight
    }

    /// Where it turned on its way, if the take tells.
    pub(crate) fn via(&self) -> &'t [Point] {
        self.tick.samples.get(self.index).map_or(&[], |sample| &sample.via)
    }

    /// Whether the body is clear at a place, but for the hair in which solvers leave things.
    pub(crate) fn has_room(&self, at: Point) -> bool {
        const HAIR: f64 = 0.01;
        self.world().depth(self.step.meeting(), at) <= self.step.touch() + HAIR
    }

    /// The other bodies near that stop it.
    fn bodies(&self) -> impl Iterator<Item = &'t Step<'a>> {
        let all = if self.seat.meets_body { self.tick.meetings } else { &[] };
        let meetings = all.iter().filter(|meeting| meeting.stops);
        let others = meetings.filter_map(|meeting| match meeting {
            Meeting { one, other, .. } if *one == self.index => Some(*other),
            Meeting { one, other, .. } if *other == self.index => Some(*one),
            _ => None,
        });
        others.filter_map(|other| self.tick.step(other))
    }

    /// Whether one of them holds it on a side: it lies against it, but for the gap that games keep.
    pub(crate) fn is_held_by_body(&self, way: Vec2) -> bool {
        let step = self.step;
        let on = step.now().at + way * (step.near() + step.touch());
        let is_in_the_way =
            |other: &Step<'_>| overlap_depth(&step.body.pieces, on - other.now().at, &other.body.pieces) > step.touch();
        self.bodies().any(is_in_the_way)
    }

    /// What can carry the body.
    pub(crate) fn floors(&self) -> Floors<'t, 'a> {
        let passing = self.tick.tracks[self.step.instance().0].contacts.passing();
        Floors { world: self.world(), near: self.near, passing }
    }

    /// Whether the body is deep in a thing that stops it.
    pub(crate) fn is_inside(&self, thing: Thing) -> bool {
        let mut contacts = self.contacts.iter().filter(|contact| contact.thing == thing);
        contacts.any(|contact| matches!(contact.state, ContactState::Inside { .. }))
    }

    /// The solids near that the body detects.
    pub(crate) fn solids(&self) -> impl Iterator<Item = crate::world::SolidIndex> + use<'t, 'a> {
        let (mask, world) = (self.step.now().body_mask, self.tick.world);
        self.near.solids.iter().copied().filter(move |index| mask.sees(world.solid(*index).layer))
    }

    /// Who pushed the body into what it is in: another body that touches it from behind and went the same way.
    pub(crate) fn pushed_by(&self, overlap: Overlap) -> Option<InstanceIndex> {
        let into = Vec2::ZERO - overlap.push;
        self.bodies().find(|by| is_pushed(self.step, by, into)).map(Step::instance)
    }
}

/// A push moves both bodies by more than this share of the slack.
const PUSHED: f64 = 0.1;

fn is_pushed(pushed: &Step<'_>, by: &Step<'_>, into: Vec2) -> bool {
    let went = |step: &Step<'_>| step.motion().is_some_and(|motion| motion.dot(into) > step.slack * PUSHED);
    // What rides on a thing goes down with it, and does not push it.
    let rides = into.y > 0.5 && by.pose().strip_below().is_some();
    if rides {
        return false;
    }
    let is_behind = (pushed.bounds().center() - by.bounds().center()).dot(into) > 0.0;
    if !went(pushed) || !went(by) || !is_behind {
        return false;
    }
    let (offset, within) = (pushed.now().at - by.now().at, pushed.slack);
    let touches = |a: &Convex| by.body.pieces.iter().any(|b| near(a, offset, b, within));
    pushed.body.pieces.iter().any(touches)
}

/// How two bodies are to each other on a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) enum PairState {
    /// Deeper in each other than the slack, as seen by the first.
    Inside(Deepest),
    /// Through each other within the step, seen by the first.
    Through(Through),
}

/// Two bodies on a tick.
#[derive(Clone, Copy)]
pub(crate) struct Pair<'t, 'a> {
    pub(crate) tick: &'t TickSeen<'t, 'a>,
    pub(crate) one: &'t Step<'a>,
    pub(crate) other: &'t Step<'a>,
    /// Whether they stop each other.
    pub(crate) stops: bool,
    pub(crate) state: PairState,
}

impl<'t, 'a> Pair<'t, 'a> {
    /// Two bodies that are in each other, or went through each other; `None` for any others.
    pub(crate) fn new(tick: &'t TickSeen<'t, 'a>, meeting: &Meeting) -> Option<Pair<'t, 'a>> {
        let (one, other) = (tick.step(meeting.one)?, tick.step(meeting.other)?);
        let pair = |state| Some(Pair { tick, one, other, stops: meeting.stops, state });
        if !meeting.stops && !rects_meet(one.bounds(), other.bounds()) {
            return None;
        }
        let found = deepest_overlap(&one.body.pieces, one.now().at - other.now().at, &other.body.pieces);
        // Both places are rounded.
        let allowed = |overlap: &Overlap| {
            let of_one = one.allowed(overlap);
            if of_one > one.slack { 2.0 * of_one } else { of_one }
        };
        match found.filter(|found| found.overlap.depth > allowed(&found.overlap)) {
            Some(found) => pair(PairState::Inside(found)),
            None if meeting.stops => pair(PairState::Through(through_each_other(one, other)?)),
            None => None,
        }
    }
}

/// Two bodies through each other between two ticks that both show them apart: the sweep of their motion against each other.
fn through_each_other(one: &Step<'_>, other: &Step<'_>) -> Option<Through> {
    let (own, theirs) = (one.motion()?, other.motion()?);
    let (before, other_before) = (one.before()?.at, other.before()?.at);
    let (old, other_old) = (one.old_body?, other.old_body?);
    let path = Path { pieces: &old.pieces, from: (before - other_before).to_point(), motion: own - theirs };
    let deep = |offset: Vec2| overlap_depth(&old.pieces, offset, &other_old.pieces) > one.slack;
    if path.motion == Vec2::ZERO || deep(path.from.to_vec2()) || deep(path.from.to_vec2() + path.motion) {
        return None;
    }
    let found = path.through(&other_old.pieces)?;
    let is_crossing = found.depth > one.slack && !path.is_clear_axis_by_axis(&other_old.pieces, one.slack);
    is_crossing.then_some(found)
}

/// Adds every two bodies whose boxes meet within the step, or nearly do; `boxes` is kept from tick to tick.
///
/// # Complexity
/// O(k log k + p) for k bodies, p pairs of them whose boxes share a stretch of x: sweep and prune.
///
/// # Source
/// Jonathan D. Cohen, Ming C. Lin, Dinesh Manocha and Madhav K. Ponamgi, "I-COLLIDE", I3D 1995.
pub(crate) fn meetings(
    input: &CheckInput<'_>,
    seats: &[Seat<'_>],
    boxes: &mut Vec<(Rect, usize)>,
    found: &mut Vec<Meeting>,
) {
    boxes.clear();
    // Games keep a small gap between what lies against each other.
    let around = |seat: &Seat<'_>| {
        let by = 0.5 * (seat.step()?.near() + TOUCH);
        Some(seat.swept?.inflate(by, by))
    };
    boxes.extend(seats.iter().enumerate().filter_map(|(index, seat)| Some((around(seat)?, index))));
    boxes.sort_by(|a, b| a.0.x0.total_cmp(&b.0.x0).then(a.1.cmp(&b.1)));
    let sees = |one: usize, other: usize| {
        let (one, other) = (&seats[one].way().now, &seats[other].way().now);
        one.body_mask.sees(other.body_layer)
    };
    for (i, (rect, index)) in boxes.iter().enumerate() {
        let beside = boxes[i + 1..].iter().take_while(|(other, _)| other.x0 <= rect.x1);
        // They share a stretch of x.
        for (_, other) in beside.filter(|(other, _)| other.y0 <= rect.y1 && rect.y0 <= other.y1) {
            // In the order of the samples, whichever lies further left.
            let (one, other) = (*index.min(other), *index.max(other));
            let stops = input.layers.contact.stops(Detection { there: sees(one, other), back: sees(other, one) });
            found.push(Meeting { one, other, stops });
        }
    }
}

/// What first made two bodies overlap, seen by the one that is to blame.
pub(crate) fn cause_between(culprit: &Step<'_>, victim: &Step<'_>) -> Cause {
    let victim_shape = victim.old_body.unwrap_or(victim.body);
    culprit.cause_by(super::step::Sight::Before, |shape| {
        overlap_depth(&shape.pieces, culprit.now().at - victim.now().at, &victim_shape.pieces)
    })
}

#[cfg(test)]
mod tests {
    use crate::testing::{LEVEL, check_both, planks, short, walk_to, with_wall};

    /// The rules that a take of a hero and a crate breaks, with the crate where it is and with it far off.
    fn with_and_without(stage: &crate::stage::Stage, hero: &[(f64, f64)], of_crate: (f64, f64)) -> [Vec<String>; 2] {
        [of_crate, (380.0, LEVEL)].map(|at| {
            let places: Vec<_> = hero.iter().map(|&place| (place, at)).collect();
            short(&check_both(stage, &places)).into_iter().map(|found| found.0).collect()
        })
    }

    #[test]
    fn what_another_body_stops_is_stopped_by_nothing_else() {
        // Down on a crate, beside a wall at x 100 that is met on the same tick.
        let mut fall: Vec<(f64, f64)> =
            (0..6).map(|k| (96.0 - 1.7 * f64::from(5 - k), 183.95 - 6.3 * f64::from(5 - k))).collect();
        fall.extend([(96.0, 183.95); 30]);
        assert_eq!(with_and_without(&with_wall(), &fall, (90.0, LEVEL)), [vec![], vec!["midair_stop".to_string()]]);
        // Against a crate, with the front at a seam.
        let stroll: Vec<_> = walk_to(96.0, ("stand", 4), false).iter().map(|row| row.1).collect();
        assert_eq!(with_and_without(&planks(0.0), &stroll, (108.0, LEVEL)), [vec![], vec!["snagged".to_string()]]);
    }
}
