//! Which zones an instance is in, was in, and went past.

use super::report::{Event, EventKind, Stay};
use super::step::Step;
use crate::geometry::{Rect, rects_meet};
use crate::stage::{Effect, Zone};
use crate::world::{Near, World, ZoneIndex};

/// How an instance stands to a zone.
#[derive(Clone, Copy, Debug, Default)]
struct Visit {
    is_inside: bool,
    /// Whether its entering had an effect: not while the zone does nothing to it.
    is_effective: bool,
    /// When that was last.
    entered: Option<u64>,
    /// How often.
    times: u64,
    /// When it was put into it, while it has not left it since.
    put_in: Option<u64>,
    /// How many of the take's ticks it was inside.
    ticks: u64,
    /// The first and last of them.
    span: Option<(u64, u64)>,
}

impl Visit {
    /// Whether the zone has an effect on the instance when it enters on this tick.
    fn takes(self, zone: &Zone, tick: u64) -> bool {
        self.entered.is_none_or(|last| !zone.once && tick - last >= u64::from(zone.cooldown))
    }
}

/// What a zone near a step is to it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct ZoneContact {
    pub(crate) zone: ZoneIndex,
    /// Whether it was put here, or is still here when the cooldown of the warp that put it here ends, and this is a warp.
    pub(crate) bounces: bool,
    /// Whether it may have crossed the zone within the step: inside at neither end, and the zone would have had an effect.
    pub(crate) is_passed: bool,
}

/// A landing: where a warp, or the game, put an instance.
#[derive(Clone, Copy, Debug)]
struct Landing {
    tick: u64,
    /// Of the warp that it came by.
    cooldown: u32,
}

/// How an instance stands to all zones of a stage.
#[derive(Clone, Debug)]
pub(crate) struct Visits {
    all: Vec<Visit>,
    /// The zones that it is inside.
    inside: Vec<ZoneIndex>,
    /// The zones to look at on a tick; kept so that no list is made for each.
    looked_at: Vec<ZoneIndex>,
    landed: Option<Landing>,
}

impl Visits {
    /// Of an instance that was in no zone yet.
    pub(crate) fn new(zones: usize) -> Visits {
        Visits { all: vec![Visit::default(); zones], inside: Vec::new(), looked_at: Vec::new(), landed: None }
    }

    /// Whether it is in no zone.
    pub(crate) fn is_clear(&self) -> bool {
        self.inside.is_empty()
    }

    /// What an instance had to do with each zone it was in, over the take.
    pub(crate) fn stays<'s>(&'s self, world: &World<'s>, actor: &'s str) -> impl Iterator<Item = Stay> + 's {
        let zones = &world.stage().zones;
        self.all.iter().zip(zones).filter_map(move |(visit, zone)| {
            let (first_tick, last_tick) = visit.span?;
            let (zone, effect, actor) = (zone.name.clone(), zone.effect, actor.to_string());
            Some(Stay { zone, effect, actor, entered: visit.times, ticks: visit.ticks, first_tick, last_tick })
        })
    }

    /// Takes in a step: adds what the zones near are to it, and its events. Whether a hazard that detects it holds it now.
    pub(crate) fn observe(&mut self, world: &World<'_>, visitor: &Visitor<'_>, found: &mut ZonesSeen) -> bool {
        let Visitor { step, near, swept, label } = *visitor;
        let tick = step.now().tick;
        if step.was_put() {
            let came_by = self.inside.iter().map(|index| world.zone(*index)).find(|zone| zone.warp.is_some());
            self.landed = Some(Landing { tick, cooldown: came_by.map_or(0, |zone| zone.cooldown) });
        }
        let Visits { all, inside: inside_of, looked_at, landed } = self;
        looked_at.clear();
        looked_at.extend(near.zones);
        // Those far off matter to one that was inside.
        looked_at.extend(inside_of.iter().filter(|index| near.zones.binary_search(index).is_err()));
        looked_at.sort_unstable();
        inside_of.clear();
        let mut in_hazard = false;
        for &index in &*looked_at {
            let (zone, visit) = (world.zone(index), &mut all[index.0 as usize]);
            let outline = &zone.outline;
            let was = visit.is_inside;
            let is_detected = zone.mask.sees(step.now().body_layer) && rects_meet(swept, outline.bounds);
            let is_inside = is_detected && step.overlap_now(&outline.pieces, outline.bounds).is_some();
            let event = |kind| Event { tick, zone: zone.name.clone(), actor: label.to_string(), kind };
            visit.is_inside = is_inside;
            let mut contact = ZoneContact { zone: index, bounces: false, is_passed: false };
            if is_inside {
                inside_of.push(index);
                visit.ticks += 1;
                visit.span = Some((visit.span.map_or(tick, |(first, _)| first), tick));
                // Put there, and still there when a warp takes again.
                let landed_in = landed.as_ref().filter(|landing| landing.tick == tick);
                visit.put_in = landed_in.map(|_| tick).or(visit.put_in);
                let put_in = visit.put_in;
                let takes_again = |landing: &Landing| {
                    tick == landing.tick + u64::from(landing.cooldown) && put_in == Some(landing.tick)
                };
                contact.bounces = zone.warp.is_some() && landed.as_ref().is_some_and(takes_again);
            }
            if !is_inside {
                visit.put_in = None;
            }
            if is_inside && !was && visit.takes(zone, tick) {
                (visit.is_effective, visit.entered) = (true, Some(tick));
                visit.times += 1;
                found.events.push(event(EventKind::Enter));
            } else if was && !is_inside && visit.is_effective {
                visit.is_effective = false;
                found.events.push(event(EventKind::Exit));
            }
            in_hazard |= is_inside && zone.effect == Effect::Hazard;
            contact.is_passed = is_detected && !was && !is_inside && visit.takes(zone, tick);
            if contact.bounces || contact.is_passed {
                found.contacts.push(contact);
            }
        }
        in_hazard
    }
}

/// Who visits, and by which way.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Visitor<'t> {
    pub(crate) step: &'t Step<'t>,
    pub(crate) near: Near<'t>,
    pub(crate) swept: Rect,
    pub(crate) label: &'t str,
}

/// What zones were to the steps of a tick, and the events of a take.
#[derive(Debug, Default)]
pub(crate) struct ZonesSeen {
    pub(crate) contacts: Vec<ZoneContact>,
    pub(crate) events: Vec<Event>,
}
