//! Trigger zones: enter, exit, and crossings that no tick shows.

use super::checker::World;
use super::finding::{Event, EventKind, Stay};
use super::ledger::Fault;
use super::one_way::extent;
use super::step::Step;
use super::stops::{clear_axis_by_axis, passage};
use super::tries::{depth_at, is_always_shown};
use super::words::px;
use super::{Cause, Rule, Worst};
use crate::geometry::{Vec2, deepest_overlap, rects_meet};
use crate::stage::{Effect, Zone};

/// What a step meant for the zones.
#[derive(Debug, Default)]
pub(super) struct ZoneNews {
    pub(super) events: Vec<Event>,
    /// Whether a hazard that looks for the body holds it now.
    pub(super) in_hazard: bool,
}

/// How an actor stands to a zone.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Visit {
    /// Whether it is inside.
    inside: bool,
    /// Whether its entering was told: not while the zone does nothing to it.
    told: bool,
    /// When that was last.
    entered: Option<u64>,
    /// How often.
    times: u64,
    /// How many of the ticks that the take holds it was inside.
    ticks: u64,
    /// The first and last of them.
    span: Option<(u64, u64)>,
}

impl Visit {
    /// Whether the zone does something to the actor when it enters on this tick.
    fn takes(self, zone: &Zone, tick: u64) -> bool {
        self.entered.is_none_or(|last| !zone.once && tick - last >= u64::from(zone.cooldown))
    }
}

/// How an actor stands to all zones of a stage.
#[derive(Clone, Debug)]
pub(super) struct Visits {
    all: Vec<Visit>,
    /// The zones that it is inside, by their places.
    inside: Vec<u32>,
    /// The zones to look at on a tick; kept so that no list is made for each.
    looked_at: Vec<u32>,
    /// The tick of the last landing, and the cooldown of the warp that it came by.
    landed: Option<(u64, u32)>,
}

impl Visits {
    /// Of an actor that was in none of so many zones.
    pub(super) fn new(zones: usize) -> Visits {
        Visits { all: vec![Visit::default(); zones], inside: Vec::new(), looked_at: Vec::new(), landed: None }
    }
}

impl Visits {
    /// What an instance had to do with each zone it was in, over the take.
    pub(super) fn stays<'s>(&'s self, world: &World<'s>, actor: &'s str) -> impl Iterator<Item = Stay> + 's {
        let zones = &world.stage.zones;
        self.all.iter().zip(zones).filter_map(move |(visit, zone)| {
            let (first_tick, last_tick) = visit.span?;
            let (zone, effect, actor) = (zone.name.clone(), zone.effect, actor.to_string());
            Some(Stay { zone, effect, actor, entered: visit.times, ticks: visit.ticks, first_tick, last_tick })
        })
    }
}

/// Events and skipped zones of a step.
pub(super) fn zones(world: &World<'_>, step: &Step<'_>, visits: &mut Visits, faults: &mut Vec<Fault>) -> ZoneNews {
    let reach = step.swept_box;
    let mut news = ZoneNews::default();
    let tick = step.now.tick;
    if step.was_put() {
        let came_by =
            visits.inside.iter().map(|place| &world.stage.zones[*place as usize]).find(|zone| zone.warp.is_some());
        visits.landed = Some((tick, came_by.map_or(0, |zone| zone.cooldown)));
    }
    let Visits { all, inside: inside_of, looked_at, landed } = visits;
    looked_at.clear();
    looked_at.extend(step.near.zones);
    // Those far off matter to one that was inside.
    looked_at.extend(inside_of.iter().filter(|place| step.near.zones.binary_search(place).is_err()));
    looked_at.sort_unstable();
    inside_of.clear();
    for &place in &*looked_at {
        let (zone, visit) = (&world.stage.zones[place as usize], &mut all[place as usize]);
        let outline = &zone.outline;
        let was = visit.inside;
        let looks = zone.mask.sees(step.now.body_layer) && rects_meet(reach, outline.bounds);
        let inside = looks && step.overlap_now(&outline.pieces, outline.bounds).is_some();
        let event = |kind| Event { tick, zone: zone.name.clone(), actor: step.label.to_string(), kind };
        visit.inside = inside;
        if inside {
            inside_of.push(place);
            visit.ticks += 1;
            visit.span = Some((visit.span.map_or(tick, |(first, _)| first), tick));
            // Put there, and still there when a warp takes again.
            let since = landed.filter(|(at, cooldown)| tick == at + u64::from(*cooldown) && (was || tick == *at));
            if since.is_some() && zone.warp.is_some() {
                faults.push(bounce(world, step, zone));
            }
        }
        if inside && !was && visit.takes(zone, tick) {
            (visit.told, visit.entered) = (true, Some(tick));
            visit.times += 1;
            news.events.push(event(EventKind::Enter));
        } else if was && !inside && visit.told {
            visit.told = false;
            news.events.push(event(EventKind::Exit));
        }
        news.in_hazard |= inside && zone.effect == Effect::Hazard;
        if looks && !was && !inside && visit.takes(zone, tick) {
            faults.extend(skipped(world, step, zone));
        }
    }
    news
}

/// A body put where a warp takes it again.
fn bounce(world: &World<'_>, step: &Step<'_>, zone: &Zone) -> Fault {
    let (body, zone_box) = (step.bounds(), zone.outline.bounds);
    let (left, right) = (body.x1 - zone_box.x0, zone_box.x1 - body.x0);
    // The shorter way out first; the other where a solid is in the way.
    let mut ways = [(left, -1.0, "left"), (right, 1.0, "right")];
    ways.sort_by(|a, b| a.0.total_cmp(&b.0));
    let rest = |by: f64, way: f64| {
        let at = step.now.at + Vec2::new(by * way, 0.0);
        let in_zone = deepest_overlap(&step.body.pieces, at.to_vec2(), &zone.outline.pieces).is_some();
        if in_zone || depth_at(world, step, at) > step.slack { by } else { 0.0 }
    };
    let has_room = ways.into_iter().find(|(by, way, _)| rest(*by, *way) == 0.0);
    let (by, way, word) = has_room.unwrap_or(ways[0]);
    Fault {
        rule: Rule::WarpBounce,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: format!("{}/{}", world.stage.name, zone.name),
        worst: Worst { tick: step.now.tick, depth: by, at: body.center(), push: Vec2::new(way, 0.0) },
        cause: Cause::Warped,
        message: format!("{} was put into {}, which takes it again.", step.label, zone.name),
        remedy: format!("move the landing {} px {word}, or let no warp take it until it has walked as far", px(by)),
        remains: Some(rest(by, way)),
    }
}

fn skipped(world: &World<'_>, step: &Step<'_>, zone: &Zone) -> Option<Fault> {
    let (motion, before, body) = (step.motion()?, step.before?, step.old_body?);
    let found = passage(&body.pieces, before.at, motion, &zone.outline.pieces)?;
    // A corner that the straight line cuts and a step axis by axis goes round is no crossing.
    let zone_pieces = &zone.outline.pieces;
    if found.depth <= step.slack || clear_axis_by_axis(&body.pieces, before.at, motion, zone_pieces, step.slack) {
        return None;
    }
    let length = motion.hypot();
    let way = motion / length;
    let (near, far) = extent(std::slice::from_ref(&zone.outline.polygon), Vec2::ZERO, way);
    let passed = (found.exit - found.enter) * length;
    // The body is inside for `passed` px of way; each px of thickness adds one, and a whole step must fit in.
    let needed = (far - near + length - passed).floor() + 1.0;
    let with = format!("{}/{}", world.stage.name, zone.name);
    Some(Fault {
        rule: Rule::ZoneSkipped,
        actor: step.label.to_string(),
        shape: body.name.clone(),
        worst: Worst { tick: step.now.tick, depth: found.depth, at: found.at, push: found.push },
        cause: Cause::Moved,
        message: format!(
            "{}'s {} crossed {with} in one step of {} px, up to {} px deep, and no tick shows it inside.",
            step.label,
            body.name,
            px(length),
            px(found.depth)
        ),
        remedy: format!(
            "make {} at least {needed} px thick along the motion (it is {}), or move under {} px a tick",
            zone.name,
            px(far - near),
            px(passed)
        ),
        remains: Some(if is_always_shown(passed - (far - near), needed, length) { 0.0 } else { found.depth }),
        with,
    })
}
