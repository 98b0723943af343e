//! One tick of some instances: what is near them is observed, and then the rules judge it.

use super::contacts::Route;
use super::footing::FootingSeen;
use super::look::{Ends, Look, Meeting, Pair, Seat, Seated, TickSeen, Track, meetings};
use super::resting::RestingGap;
use super::rules::TakeRules;
use super::standing::{Floors, Ground, GroundSeen, with_cause};
use super::step::{InstanceIndex, Step, Way};
use super::still::{CALM_AFTER, CalmMemory, StillMemory};
use super::swings::{Fighter, Swings};
use super::take_rule::Scene;
use super::visits::{Visitor, Visits, ZonesSeen};
use super::weight::Weight;
use super::{CheckInput, contacts, drops, feet};
use crate::geometry::{Point, Rect};
use crate::take::Sample;
use crate::world::{Near, NearThings, Vicinity};

/// Lists of a tick, kept so that none is made for each.
#[derive(Debug, Default)]
struct Lists<'a> {
    seats: Vec<Seat<'a>>,
    near: NearThings,
    contacts: Vec<contacts::Contact>,
    meetings: Vec<Meeting>,
    boxes: Vec<(Rect, usize)>,
}

/// What is known of instances from tick to tick, and the rules with their cases.
#[derive(Debug)]
pub(crate) struct Pass<'a> {
    tracks: Vec<Track>,
    lists: Lists<'a>,
    pub(crate) zones: ZonesSeen,
    pub(crate) rules: TakeRules<'a>,
    pub(crate) footing: FootingSeen,
    /// From where on art off the ground counts, px.
    hover: f64,
    /// After how many ticks on which nothing happens to an instance most rules are not asked.
    pub(crate) calm_after: f64,
}

impl<'a> Pass<'a> {
    /// Nothing seen yet.
    pub(crate) fn new(input: &CheckInput<'a>) -> Pass<'a> {
        let (lists, zones) = (Lists::default(), ZonesSeen::default());
        let (rules, hover) = (TakeRules::new(input.settings, input.pace()), input.settings.get(&feet::HOVER));
        Pass { tracks: Vec::new(), lists, zones, rules, footing: FootingSeen::default(), hover, calm_after: CALM_AFTER }
    }

    /// Adds an instance, on a stage with this number of zones.
    pub(crate) fn add_instance(&mut self, zones: usize) -> InstanceIndex {
        self.tracks.push(Track::new(zones, self.calm_after));
        InstanceIndex(self.tracks.len() - 1)
    }

    /// What is known of an instance.
    pub(crate) fn track(&self, instance: InstanceIndex) -> &Track {
        &self.tracks[instance.0]
    }

    /// Observes the way of an instance to a tick, and where it turned on it if the take tells.
    pub(crate) fn observe(&mut self, scene: &Scene<'_, 'a>, way: Way, via: &[Point]) {
        let Pass { tracks, lists, zones, rules, hover, .. } = self;
        observe(scene, way, &mut tracks[way.instance.0], Seen { lists, zones, rules, via, hover: *hover });
    }

    /// Has the rules judge what was observed of a tick, of which these are the samples; there may be none. [`Pass::end_tick`] ends it.
    pub(crate) fn judge(&mut self, scene: &Scene<'_, 'a>, samples: &[Sample]) {
        let Pass { tracks, lists, zones, rules, .. } = self;
        if lists.seats.len() > 1 {
            meetings(scene.input, &lists.seats, &mut lists.boxes, &mut lists.meetings);
            for meeting in lists.meetings.iter().filter(|meeting| meeting.stops) {
                for seat in [meeting.one, meeting.other] {
                    lists.seats[seat].meets_body = true;
                    tracks[lists.seats[seat].way().instance.0].calm.disturb();
                }
            }
        }
        let seen = TickSeen {
            input: scene.input,
            world: scene.world,
            tracks,
            seats: &lists.seats,
            near: &lists.near,
            contacts: &lists.contacts,
            zones: &zones.contacts,
            samples,
            meetings: &lists.meetings,
        };
        judge(rules, &seen);
    }

    /// Has the rules judge what swings did on the tick.
    pub(crate) fn judge_swings(&mut self, input: &CheckInput<'a>, samples: &[Sample], swings: &mut Swings) {
        let ways = self.lists.seats.iter().map(Seat::way);
        let fighters = samples.iter().zip(ways).map(|(sample, way)| Fighter { way, sample });
        let mut events = Vec::new();
        swings.observe(input, fighters, &mut events);
        if !events.is_empty() {
            self.rules.swings(input, &events);
        }
    }

    /// Finds what the faults of the tick follow from, and makes ready for the next one.
    pub(crate) fn end_tick(&mut self, pace: f64, tick: u64) {
        self.rules.link(pace, &self.tracks, tick);
        self.footing.see(&self.lists.seats, tick);
        for seat in &self.lists.seats {
            self.tracks[seat.way().instance.0].move_on(seat);
        }
        self.lists.seats.clear();
        self.lists.near.clear();
        self.lists.contacts.clear();
        self.lists.meetings.clear();
        self.zones.contacts.clear();
    }

    /// The take is over.
    pub(crate) fn end(&mut self, scene: &Scene<'_, 'a>, tick: u64) {
        self.rules.end(scene, &self.tracks, tick);
    }
}

/// What a tick is observed into.
struct Seen<'s, 'a> {
    lists: &'s mut Lists<'a>,
    zones: &'s mut ZonesSeen,
    rules: &'s TakeRules<'a>,
    /// Where it turned on its way.
    via: &'s [Point],
    /// From where on art off the ground counts, px.
    hover: f64,
}

/// Finds what is near a way and what that is to it.
fn observe<'a>(scene: &Scene<'_, 'a>, way: Way, track: &mut Track, seen: Seen<'_, 'a>) {
    let Seen { lists, zones, rules, via, hover } = seen;
    let world = scene.world;
    // Made where it stays: it is large.
    lists.seats.push(Seat {
        who: Step::new(scene.input, way).map_or(Seated::NoBody(way), Seated::Body),
        swept: None,
        motion: None,
        ends: Ends::default(),
        ground: GroundSeen::default(),
        drop: drops::DropSeen::default(),
        in_hazard: false,
        meets_body: false,
        is_calm: false,
    });
    let Some(seat) = lists.seats.last_mut() else { return };
    match &seat.who {
        Seated::Body(step) => {
            let via = if step.is_swept { via } else { &[] };
            let swept = step.swept_by(via);
            (seat.swept, seat.motion) = (Some(swept), step.motion());
            let begin = (lists.near.solids.len(), lists.near.one_ways.len(), lists.near.zones.len());
            let reach = step.reach(swept);
            let is_still = track.still.see(step, reach);
            track.vicinity.find(world, reach, &mut lists.near);
            let near = Near {
                solids: &lists.near.solids[begin.0..],
                one_ways: &lists.near.one_ways[begin.1..],
                zones: &lists.near.zones[begin.2..],
            };
            let is_free =
                via.is_empty() && !way.now.is_dropping && track.contacts.is_clear() && track.visits.is_clear();
            let nothing_happens = step.is_swept && is_free && (is_still || near.is_empty());
            seat.is_calm = track.calm.see(step, nothing_happens, |since| rules.is_silent(way.instance, since));
            if !seat.is_calm {
                track.contacts.observe(world, step, near, Route { swept, via, is_still }, &mut lists.contacts);
                seat.drop = track.drops.observe(world, step, near, track.contacts.passing());
                let visitor = Visitor { step, near, swept, label: scene.label(way.instance) };
                seat.in_hazard = track.visits.observe(world, &visitor, zones);
            }
            let floors = Floors { world, near, passing: track.contacts.passing() };
            let floor = floors.one(step);
            let known = match track.ground {
                // There is nothing near.
                _ if seat.is_calm && !is_still => Some(Ground::default()),
                Some(known) if is_still && floors.passing.is_empty() => Some(known),
                Some(known) if floor.is_some() && floor == track.floor && track.contacts.is_clear() => {
                    floors.walked_on(step, reach, known)
                }
                _ => None,
            };
            track.floor = floor;
            let mut now = known.map_or_else(|| floors.ground(step), |known| known.at(way.now.tick));
            track.ground = floors.passing.is_empty().then_some(now);
            now.standing = now.standing.map(|now| with_cause(step, track.standing, now, hover));
            seat.ground = GroundSeen { now, stood: track.standing, was_carried: track.is_carried };
        }
        Seated::NoBody(_) => track.without_body(),
    }
    seat.ends = Ends {
        solids: lists.near.solids.len(),
        one_ways: lists.near.one_ways.len(),
        near_zones: lists.near.zones.len(),
        contacts: lists.contacts.len(),
        zones: zones.contacts.len(),
    };
}

/// Has the rules look at all that was seen of a tick.
fn judge<'a>(rules: &mut TakeRules<'a>, seen: &TickSeen<'_, 'a>) {
    for (index, seat) in seen.seats.iter().enumerate() {
        rules.pose(seen.input, seat.way());
        let look: Option<Look<'_, 'a>> = seen.look(index);
        match look {
            Some(look) if seat.is_calm => rules.calm(&look),
            Some(look) => rules.step(&look),
            None => rules.without_body(seat.way().instance),
        }
    }
    for pair in seen.meetings.iter().filter_map(|meeting| Pair::new(seen, meeting)) {
        rules.pair(&pair);
    }
}

impl Track {
    fn new(zones: usize, calm_after: f64) -> Track {
        Track {
            before: None,
            last_move: None,
            earlier_move: None,
            settled: None,
            contacts: contacts::ContactMemory::default(),
            visits: Visits::new(zones),
            drops: drops::DropMemory::default(),
            standing: None,
            ground: None,
            floor: None,
            still: StillMemory::default(),
            calm: CalmMemory::new(calm_after),
            is_carried: false,
            gap: RestingGap::default(),
            weight: Weight::default(),
            vicinity: Vicinity::default(),
        }
    }

    /// A frame without a body neither touches nor passes anything.
    fn without_body(&mut self) {
        self.calm.disturb();
        self.contacts.without_body();
        self.drops.clear();
        self.standing = None;
        self.is_carried = false;
    }

    /// The tick is over.
    fn move_on(&mut self, seat: &Seat<'_>) {
        let is_put = seat.step().is_some_and(Step::was_put);
        let way = seat.way();
        if is_put || (seat.ground.now.standing.is_some() && !self.contacts.is_inside(way.now.tick)) {
            self.settled = Some(way.now.tick);
        }
        self.gap.see(seat.ground.now.rest, [seat.motion, way.last_move]);
        if let Some(step) = seat.step() {
            self.weight.see(step, seat.motion.filter(|_| !seat.ground.now.carries));
        }
        self.earlier_move = self.last_move;
        (self.before, self.last_move) = (Some(way.now), seat.motion);
        (self.standing, self.is_carried) = (seat.ground.now.standing, seat.ground.now.carries);
    }
}
