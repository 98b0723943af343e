//! What each thing near a step is to the body: clear, deep in it, gone through, or being passed.

use super::crossing::{Crossing, crossing, crossing_by};
use super::step::Step;
use crate::finding::Cause;
use crate::geometry::{Deepest, Overlap, Point, Rect, TOUCH, Vec2, overlap_depth, rects_meet, rects_overlap};
use crate::world::{Near, OneWayIndex, Thing, World, stands_over, stops};

/// How a body got into what stops it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Entry {
    /// A taller frame came back under a ceiling.
    StoodUp,
    /// A warp put it there.
    Warped,
    /// Any other way.
    Other,
}

/// What a thing is to a body on a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum ContactState {
    /// It is within the slack of it, or apart.
    Clear,
    /// It is deeper than the slack in what stops it.
    Inside { found: Deepest, entry: Entry },
    /// It went through it within the step, and neither end shows it.
    Through(Crossing),
}

/// By which way a body came.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Route<'t> {
    /// The box around it.
    pub(crate) swept: Rect,
    /// Where it turned, if the take tells.
    pub(crate) via: &'t [Point],
    /// Whether it is as it was on the tick before.
    pub(crate) is_still: bool,
}

/// Something near that stops the body, or may.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Contact {
    pub(crate) thing: Thing,
    pub(crate) state: ContactState,
    /// Whether it was deep in it on the tick before.
    pub(crate) was_inside: bool,
}

/// A body deep in a thing, from tick to tick.
#[derive(Clone, Copy, Debug)]
struct Inside {
    thing: Thing,
    entry: Entry,
    last: u64,
}

/// What is known of an instance's contacts from one tick to the next.
#[derive(Clone, Debug, Default)]
pub(crate) struct ContactMemory {
    inside: Vec<Inside>,
    /// The platforms that the body overlaps and may pass until it has left them.
    passing: Vec<OneWayIndex>,
    /// The platforms that hold it: it came to them from their far side, and has not left them since.
    held_by: Vec<OneWayIndex>,
}

impl ContactMemory {
    /// The platforms that it is passing.
    pub(crate) fn passing(&self) -> &[OneWayIndex] {
        &self.passing
    }

    /// Whether it is deep in anything on a tick that was observed.
    pub(crate) fn is_inside(&self, tick: u64) -> bool {
        self.inside.iter().any(|known| known.last == tick)
    }

    /// Whether it is in nothing and passes nothing.
    pub(crate) fn is_clear(&self) -> bool {
        self.inside.is_empty() && self.passing.is_empty()
    }

    /// A frame without a body touches nothing and passes nothing.
    pub(crate) fn without_body(&mut self) {
        self.passing.clear();
        self.held_by.clear();
    }

    fn set_passing(&mut self, index: OneWayIndex, passes: bool) {
        match self.passing.iter().position(|known| *known == index) {
            Some(at) if !passes => drop(self.passing.swap_remove(at)),
            None if passes => self.passing.push(index),
            _ => {}
        }
    }

    fn entry_before(&self, thing: Thing, tick: u64) -> Option<Entry> {
        let known = self.inside.iter().find(|known| known.thing == thing && known.last + 1 == tick);
        known.map(|known| known.entry)
    }

    /// Adds the contacts of a step to a list: all things that meet its swept box and that the body detects.
    pub(crate) fn observe<'a>(
        &mut self,
        world: &World<'a>,
        step: &Step<'a>,
        near: Near<'_>,
        route: Route<'_>,
        found: &mut Vec<Contact>,
    ) {
        let tick = step.now().tick;
        // Games that keep a small gap stop short of things.
        let around = route.swept.inflate(step.slack, step.slack);
        self.inside.retain(|known| known.last + 1 == tick);
        // It was clear of everything here on the tick before.
        let is_clear = route.is_still && self.inside.is_empty() && route.via.is_empty();
        for &index in near.solids {
            let solid = world.solid(index);
            let thing = Thing::Solid(index);
            if step.now().body_mask.sees(solid.layer) && rects_meet(around, solid.outline.bounds) {
                found.push(match is_clear {
                    true => Contact { thing, state: ContactState::Clear, was_inside: false },
                    false => self.contact(world, step, thing, route),
                });
            }
        }
        // What is far off is not being passed.
        self.passing.retain(|index| near.one_ways.binary_search(index).is_ok());
        for &index in near.one_ways {
            found.extend(self.platform(world, step, index, route));
        }
    }

    fn contact<'a>(&mut self, world: &World<'a>, step: &Step<'a>, thing: Thing, route: Route<'_>) -> Contact {
        let outline = world.outline(thing);
        let found = step.overlap_now(&outline.pieces, outline.bounds);
        let was_inside = self.entry_before(thing, step.now().tick).is_some();
        // What rests on it only touches it.
        if found.is_none() && !rects_overlap(route.swept, outline.bounds) {
            return Contact { thing, state: ContactState::Clear, was_inside };
        }
        let state = match found.filter(|found| found.overlap.depth > step.allowed(&found.overlap)) {
            Some(found) => self.enter(world, step, thing, found),
            None => through(world, step, thing, route.via),
        };
        Contact { thing, state, was_inside }
    }

    /// A one-way platform: it stops a body that comes from its far side, and lets one pass that does not.
    fn platform<'a>(
        &mut self,
        world: &World<'a>,
        step: &Step<'a>,
        index: OneWayIndex,
        route: Route<'_>,
    ) -> Option<Contact> {
        let platform = world.one_way(index);
        let outline = &platform.outline;
        if !rects_meet(route.swept.inflate(step.slack, step.slack), outline.bounds) {
            self.set_passing(index, false);
            self.held_by.retain(|known| *known != index);
            return None;
        }
        let found = step.overlap_now(&outline.pieces, outline.bounds);
        if !step.now().body_mask.sees(platform.layer) {
            // What it does not detect it passes, and goes on passing should a state make it detect it inside.
            self.set_passing(index, found.is_some());
            return None;
        }
        let thing = Thing::OneWay(index);
        let was_inside = self.entry_before(thing, step.now().tick).is_some();
        // What stands on it only touches it.
        if found.is_none() && !rects_overlap(route.swept, outline.bounds) {
            self.set_passing(index, false);
            self.held_by.retain(|known| *known != index);
            return Some(Contact { thing, state: ContactState::Clear, was_inside });
        }
        let depth = found.map_or(0.0, |found| found.overlap.depth);
        // Coming up out of a platform that failed to carry it is the end of that fault, not another.
        let way = platform.passes.direction();
        let is_held = |motion: Vec2| {
            let was_over =
                || step.old_body.zip(step.before()).is_some_and(|(old, before)| stands_over(platform, old, before.at));
            self.held_by.contains(&index) && motion.dot(way) <= TOUCH && was_over()
        };
        let is_stopping = was_inside
            || step
                .approach(route.via.last().copied())
                .is_some_and(|approach| is_held(approach.motion) || stops(platform, &approach));
        let is_passing = self.passing.contains(&index);
        let holds = found.is_some() && is_stopping && !is_passing;
        self.held_by.retain(|known| *known != index);
        self.held_by.extend(holds.then_some(index));
        let state = match found {
            Some(found) if !is_passing && is_stopping => {
                if found.overlap.depth > step.allowed(&found.overlap) {
                    self.enter(world, step, thing, found)
                } else {
                    ContactState::Clear
                }
            }
            // Until it is out of it: what fell back into it from under its top was never on it.
            _ if depth > step.touch() => {
                self.set_passing(index, true);
                ContactState::Clear
            }
            _ => {
                self.set_passing(index, false);
                if is_stopping { through(world, step, thing, route.via) } else { ContactState::Clear }
            }
        };
        Some(Contact { thing, state, was_inside })
    }

    fn enter<'a>(&mut self, world: &World<'a>, step: &Step<'a>, thing: Thing, found: Deepest) -> ContactState {
        let tick = step.now().tick;
        let entry = match self.inside.iter_mut().find(|known| known.thing == thing) {
            Some(known) => {
                known.last = tick;
                known.entry
            }
            None => {
                let entry = entry(world, step, thing, found.overlap);
                self.inside.push(Inside { thing, entry, last: tick });
                entry
            }
        };
        ContactState::Inside { found, entry }
    }
}

/// How a body got in, by what first made the overlap.
fn entry(world: &World<'_>, step: &Step<'_>, thing: Thing, overlap: Overlap) -> Entry {
    /// The way out of a ceiling points down, this steeply at least: its y part, of 1.
    const DOWN: f64 = 0.7;
    let is_taller = || step.old_body.is_some_and(|old| step.body.bounds().y0 < old.bounds().y0 - step.slack);
    match step.cause(world.pieces(thing), world.layer(thing)) {
        Cause::Warped => Entry::Warped,
        Cause::Reshaped if overlap.push.y > DOWN && is_taller() => Entry::StoodUp,
        _ => Entry::Other,
    }
}

/// The body through a thing within the step.
fn through(world: &World<'_>, step: &Step<'_>, thing: Thing, via: &[Point]) -> ContactState {
    let found = if via.is_empty() {
        crossing(world, step, thing)
    } else {
        let others = world.pieces(thing);
        let before = step.before().zip(step.old_body);
        let depth = before.map_or(0.0, |(before, old)| overlap_depth(&old.pieces, before.at.to_vec2(), others));
        crossing_by(step, via, others, depth + step.rough())
    };
    found.map_or(ContactState::Clear, ContactState::Through)
}

#[cfg(test)]
mod tests {
    use crate::stage::Passes;
    use crate::testing::*;
    use crate::{Facing, Rect};

    #[test]
    fn a_one_way_platform_stops_only_what_comes_down_from_wholly_above() {
        let mut stage = stage();
        stage.one_ways.push(one_way("ledge", Rect::new(0.0, 100.0, 200.0, 106.0), Passes::Up));
        let (r, s) = (Facing::Right, "stand");
        // Before and after a step, whether it drops, and whether ending 3 px deep is a fault.
        for from_above in [true, false] {
            for rising in [true, false] {
                for drop in ["", "drop"] {
                    let end = (50.0, 103.0);
                    let start = match (from_above, rising) {
                        (true, false) => (50.0, 99.0),
                        // Wholly above and moving up cannot end inside; sideways and level is the nearest.
                        (true, true) => continue,
                        (false, true) => (50.0, 108.0),
                        (false, false) => (50.0, 102.0),
                    };
                    let rows = [Row(0, start, r, s, ""), Row(1, end, r, s, drop)];
                    let stops = from_above && !rising && drop.is_empty();
                    let embedded = check(&stage, hero(0), &rows).findings.iter().any(|f| f.rule.code() == "embedded");
                    assert_eq!(embedded, stops, "{rows:?}");
                }
            }
        }
    }

    #[test]
    fn a_jump_through_and_a_drop_through_are_silent() {
        let mut stage = stage();
        stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 400.0, 300.0)));
        stage.one_ways.push(one_way("ledge", Rect::new(0.0, 160.0, 200.0, 166.0), Passes::Up));
        let mut rows = Vec::new();
        let (mut y, mut speed) = (200.0, -6.0);
        while speed < 0.0 || y < 160.0 {
            speed += 0.35;
            y += speed;
            let landed = speed > 0.0 && y >= 160.0;
            rows.push(Row(rows.len() as u64, (50.0, if landed { 160.0 } else { y }), Facing::Right, "stand", ""));
        }
        for _ in 0..5 {
            rows.push(Row(rows.len() as u64, (50.0, 160.0), Facing::Right, "stand", ""));
        }
        (y, speed) = (160.0, 0.0);
        while y < 200.0 {
            speed += 0.35;
            y = f64::min(y + speed, 200.0);
            let state = if y < 164.0 { "drop" } else { "" };
            rows.push(Row(rows.len() as u64, (50.0, y), Facing::Right, "stand", state));
        }
        assert_eq!(short(&check(&stage, hero(0), &rows)), []);
        // The same drop without the state is a fall through the platform from the first deep tick on.
        let dropped: Vec<Row> = rows.iter().map(|row| Row(row.0, row.1, row.2, row.3, "")).collect();
        let report = check(&stage, hero(0), &dropped);
        assert_eq!(report.findings.len(), 1, "{:?}", short(&report));
        assert_eq!(report.findings[0].rule.code(), "embedded");
    }

    #[test]
    fn platforms_that_pass_other_ways_stop_the_opposite_motion() {
        // Wholly on the far side, 1 px off; then 3 px in against the pass direction.
        let cases = [
            (Passes::Down, (50.0, 127.0), (50.0, 123.0)),
            (Passes::Left, (35.0, 110.0), (39.0, 110.0)),
            (Passes::Right, (67.0, 110.0), (63.0, 110.0)),
        ];
        for (passes, start, end) in cases {
            let mut stage = stage();
            stage.one_ways.push(one_way("gate", Rect::new(40.0, 100.0, 60.0, 106.0), passes));
            let report = check(&stage, hero(0), &path(&[start, end]));
            assert_eq!(short(&report), vec![found("embedded", "yard/gate", (1, 1), 3.0, "moved")], "{passes:?}");
            assert_eq!(short(&check(&stage, hero(0), &path(&[end, start]))), [], "{passes:?} the other way");
        }
    }
}
