//! At which distances an attack strikes which part.

use super::attack::{Attack, part_name};
use super::interval::{Interval, Intervals};
use super::settle::{Settle, settled, touched};
use crate::actor::{Actor, Pose, Role, Shape};
use crate::facing::Facing;
use crate::geometry::{Convex, Rect, Vec2};
use crate::layers::{Detection, Layers};

/// Which way a target looks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Way {
    /// At an attacker that it is ahead of.
    Toward,
    /// Away from it.
    Away,
}

impl Way {
    /// Both.
    pub const BOTH: [Way; 2] = [Way::Toward, Way::Away];

    /// Its word in results.
    pub fn name(self) -> &'static str {
        match self {
            Way::Toward => "toward",
            Way::Away => "away",
        }
    }

    /// The facing of a target that looks this way from ahead of an attacker.
    pub fn facing(self, attacker: Facing) -> Facing {
        match self {
            Way::Toward => attacker.turned(),
            Way::Away => attacker,
        }
    }
}

/// An attacker, and a target that stands still.
#[derive(Clone, Copy, Debug)]
pub struct Meeting<'a> {
    /// Who strikes.
    pub attacker: &'a Actor,
    /// Who stands.
    pub target: &'a Actor,
    /// How the target stands.
    pub stance: Stance,
    /// How much lower the target's pivot is than the attacker's, px.
    pub lower: f64,
    /// The project's layers.
    pub layers: &'a Layers,
    /// How the project settles which part is struck.
    pub settle: Settle,
}

/// The two with the ways they look.
#[derive(Clone, Copy, Debug)]
pub struct Duel<'a> {
    /// The two.
    pub of: Meeting<'a>,
    /// The way the attacker looks.
    pub facing: Facing,
    /// The way the target looks.
    pub way: Way,
}

impl<'a> Meeting<'a> {
    /// The two with their facings.
    pub fn duel(&self, facing: Facing, way: Way) -> Duel<'a> {
        Duel { of: *self, facing, way }
    }
}

/// A frame that an actor stands in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Stance {
    /// The animation, by index.
    pub animation: usize,
    /// The frame in it.
    pub frame: usize,
}

impl Stance {
    /// The frame that an actor stands in when nothing else is known: the first of its first animation. `None` where it has none.
    pub fn usual(actor: &Actor) -> Option<Stance> {
        actor
            .animations
            .iter()
            .position(|animation| !animation.frames.is_empty())
            .map(|animation| Stance { animation, frame: 0 })
    }
}

/// The distances at which a part is struck.
#[derive(Clone, Debug, PartialEq)]
pub struct PartReach {
    /// The part: see [`part_name`].
    pub part: String,
    /// The distances.
    pub reach: Intervals,
}

/// What one active frame of an attack strikes.
#[derive(Clone, Debug, PartialEq)]
pub struct FrameReach {
    /// The frame.
    pub frame: usize,
    /// The parts of the target that it can strike at any distance.
    pub parts: Vec<PartReach>,
}

/// Distances at which one frame is the first to strike, and one part is struck.
#[derive(Clone, Debug, PartialEq)]
pub struct Reached {
    /// The distances.
    pub distances: Interval,
    /// The first frame that strikes.
    pub frame: usize,
    /// The part that is struck there.
    pub part: String,
}

/// At which distances an attack strikes.
#[derive(Clone, Debug, PartialEq)]
pub struct AttackReach {
    /// By active frame.
    pub frames: Vec<FrameReach>,
    /// Over the whole swing, by part.
    pub parts: Vec<PartReach>,
    /// Over the whole swing, ascending: which frame is the first to strike, and which part.
    pub first: Vec<Reached>,
    /// The least distance ahead at which the two bodies are not in each other, where they stop each other.
    pub closest: Option<f64>,
    /// Distances from there, or from 0, to the end of the reach at which nothing is struck.
    pub gaps: Vec<Interval>,
}

/// At which distances an attack strikes the parts of a target that it detects.
///
/// # Complexity
/// O(f h u (n + m)^2), f active frames, h pieces of the hit, u of the hurt shapes, n and m corners of a piece.
pub fn reach(duel: &Duel<'_>, attack: &Attack) -> AttackReach {
    let frames = duel.frames(attack);
    let parts = over_swing(&frames);
    let all = Intervals::union(parts.iter().flat_map(|part| part.reach.all().iter().copied()));
    let closest = duel.closest(attack);
    let gaps = all.gaps(closest.unwrap_or(0.0));
    let first = duel.first(attack, &frames);
    AttackReach { frames, parts, first, closest, gaps }
}

/// The hurt shapes of a pose that a hit detects, by the masks in the files.
pub(crate) fn struck<'s>(hit: &'s Shape, pose: &'s Pose) -> impl Iterator<Item = &'s Shape> {
    pose.shapes.iter().filter(|hurt| hurt.role == Role::Hurt && hit.mask.sees(hurt.layer))
}

/// By part, over all frames.
fn over_swing(frames: &[FrameReach]) -> Vec<PartReach> {
    let mut names: Vec<&str> = Vec::new();
    for part in frames.iter().flat_map(|frame| &frame.parts) {
        if !names.contains(&part.part.as_str()) {
            names.push(&part.part);
        }
    }
    let of = |name: &&str| {
        let same = frames.iter().flat_map(|frame| &frame.parts).filter(|part| part.part == **name);
        let all = same.flat_map(|part| part.reach.all().iter().copied());
        PartReach { part: (*name).to_string(), reach: Intervals::union(all) }
    };
    names.iter().map(of).collect()
}

impl Duel<'_> {
    fn target_pose(&self) -> &Pose {
        let Stance { animation, frame } = self.of.stance;
        self.of.target.pose(animation, frame, self.way.facing(self.facing))
    }

    /// What one frame of an attack strikes.
    fn frame_reach(&self, attack: &Attack, frame: usize) -> FrameReach {
        let mut found: Vec<(&str, Vec<Interval>)> = Vec::new();
        if let Some(hit) = attack.shape_on(self.of.attacker, frame, self.facing) {
            for hurt in struck(hit, self.target_pose()) {
                let at = self.distances(hit, hurt);
                match found.iter_mut().find(|(part, _)| *part == part_name(hurt)) {
                    Some((_, known)) => known.extend(at),
                    None => found.push((part_name(hurt), at)),
                }
            }
        }
        let part =
            |(part, at): (&str, Vec<Interval>)| PartReach { part: part.to_string(), reach: Intervals::union(at) };
        let parts = found.into_iter().map(part).filter(|part| !part.reach.is_empty()).collect();
        FrameReach { frame, parts }
    }

    /// What each frame of an attack strikes.
    fn frames(&self, attack: &Attack) -> Vec<FrameReach> {
        attack.frames.iter().map(|&frame| self.frame_reach(attack, frame)).collect()
    }

    /// What an attack strikes over its whole swing, by part.
    pub fn parts(&self, attack: &Attack) -> Vec<PartReach> {
        over_swing(&self.frames(attack))
    }

    /// The distances at which one shape of the attacker overlaps one of the target.
    fn distances(&self, own: &Shape, other: &Shape) -> Vec<Interval> {
        let pairs = own.pieces.iter().flat_map(|a| other.pieces.iter().map(move |b| (a, b)));
        let found = pairs.filter_map(|(a, b)| overlapped(a, b, self.of.lower));
        match self.facing {
            Facing::Right => found.collect(),
            Facing::Left => found.map(Interval::turned).collect(),
        }
    }

    /// The least distance ahead at which the bodies are not in each other, as the attack begins.
    pub fn closest(&self, attack: &Attack) -> Option<f64> {
        let own = self.of.attacker.pose(attack.animation, 0, self.facing).body()?;
        let other = self.target_pose().body()?;
        let masks = Detection { there: own.mask.sees(other.layer), back: other.mask.sees(own.layer) };
        if !self.of.layers.contact.stops(masks) {
            return None;
        }
        Some(Intervals::union(self.distances(own, other)).farthest().unwrap_or(0.0).max(0.0))
    }

    /// Over the swing: for each distance the first frame that strikes, and the part that is struck.
    fn first(&self, attack: &Attack, frames: &[FrameReach]) -> Vec<Reached> {
        let mut ends: Vec<f64> = Vec::new();
        for interval in frames.iter().flat_map(|frame| &frame.parts).flat_map(|part| part.reach.all()) {
            ends.extend([interval.from, interval.to]);
        }
        ends.sort_by(f64::total_cmp);
        ends.dedup();
        let mut found: Vec<Reached> = Vec::new();
        let mut add = |next: Reached| match found.last_mut() {
            Some(last)
                if last.distances.to == next.distances.from && (last.frame, &last.part) == (next.frame, &next.part) =>
            {
                last.distances.to = next.distances.to;
            }
            _ => found.push(next),
        };
        for pair in ends.windows(2) {
            let between = Interval { from: pair[0], to: pair[1] };
            let middle = f64::midpoint(between.from, between.to);
            let strikes = |frame: &&FrameReach| frame.parts.iter().any(|part| part.reach.contains(middle));
            let Some(frame) = frames.iter().find(strikes) else { continue };
            self.settled(attack, frame.frame, between).into_iter().for_each(&mut add);
        }
        found
    }

    /// Which part is struck where between two distances between which the same parts are touched.
    fn settled(&self, attack: &Attack, frame: usize, between: Interval) -> Vec<Reached> {
        let Some(hit) = attack.shape_on(self.of.attacker, frame, self.facing) else { return Vec::new() };
        let settle = Settle::of(hit, self.of.target, self.of.settle);
        let is_near =
            |hurt: &&Shape| self.distances(hit, hurt).into_iter().any(|reached| reached.and(between).is_some());
        let hurts: Vec<&Shape> = struck(hit, self.target_pose()).filter(is_near).collect();
        let name = |hurt: &Shape| part_name(hurt).to_string();
        let is_as = |first: &&&Shape| {
            hurts.iter().all(|hurt| part_name(hurt) == part_name(first) && hurt.carries.anchors.is_empty())
        };
        if let Some(only) = hurts.first().filter(is_as) {
            return vec![Reached { distances: between, frame, part: name(only) }];
        }
        let part = |at: f64| {
            let all = touched(hit, self.offset(at), self.target_pose(), hurts.iter().copied());
            settled(settle, &all).map(|struck| struck.part_name().to_string())
        };
        let width = between.to - between.from;
        let steps = ((width * STEPS_A_PX).ceil() as usize).clamp(2, MOST_STEPS);
        // A hair inside the ends, where what is touched there alone has some area.
        let place = |index: usize| {
            let share = (index as f64 / steps as f64).clamp(END_SHARE, 1.0 - END_SHARE);
            between.from + width * share
        };
        let mut found: Vec<Reached> = Vec::new();
        let (mut from, mut before) = (between.from, place(0));
        let mut known = part(before);
        for index in 1..=steps {
            let at = place(index);
            let next = part(at);
            if next != known {
                // The place where the larger share changes hands.
                let (mut low, mut high) = (before, at);
                while high - low > SETTLED_TO {
                    let middle = f64::midpoint(low, high);
                    if part(middle) == known { low = middle } else { high = middle }
                }
                found.extend(known.map(|part| Reached { distances: Interval { from, to: high }, frame, part }));
                (from, known) = (high, next);
            }
            before = at;
        }
        found.extend(known.map(|part| Reached { distances: Interval { from, to: between.to }, frame, part }));
        found
    }

    /// Where the attacker's pivot is, seen from the target's, at a distance.
    fn offset(&self, distance: f64) -> Vec2 {
        let side = if self.facing == Facing::Right { 1.0 } else { -1.0 };
        Vec2::new(0.0 - distance * side, 0.0 - self.of.lower)
    }
}

/// Places tried a px, and at most between two ends, to find where another part takes the larger share.
const STEPS_A_PX: f64 = 2.0;
const MOST_STEPS: usize = 512;
/// How near to the ends the first and last of them are, as a share of the way.
const END_SHARE: f64 = 1e-3;

/// ... and how exactly that place is found, px.
const SETTLED_TO: f64 = 1e-6;

/// How far the second must be to the right of the first for the two to overlap, for a second that is so much lower; `None` where
/// they do at no distance.
///
/// On every level that both have, the first's right side less the second's left side is the most; the ends are the extremes over
/// the levels, and as sides are straight between corners, they are on a corner's level: those of the Minkowski difference's cut.
fn overlapped(first: &Convex, second: &Convex, lower: f64) -> Option<Interval> {
    let (one, other) = (first.bounds(), second.bounds());
    let (top, bottom) = (one.y0.max(other.y0 + lower), one.y1.min(other.y1 + lower));
    if top >= bottom {
        return None;
    }
    let levels = first.points().iter().map(|p| p.y).chain(second.points().iter().map(|p| p.y + lower));
    let levels = levels.filter(|y| (top..=bottom).contains(y)).chain([top, bottom]);
    let mut found = Interval { from: f64::INFINITY, to: f64::NEG_INFINITY };
    for y in levels {
        let (a, b) = (width_at(first, y), width_at(second, y - lower));
        found.from = found.from.min(a.from - b.to);
        found.to = found.to.max(a.to - b.from);
    }
    (found.from < found.to).then_some(found)
}

/// From where to where a convex piece reaches on a level that it has, but for rounding.
fn width_at(piece: &Convex, y: f64) -> Interval {
    let Rect { y0, y1, .. } = piece.bounds();
    let (ring, y) = (piece.points(), y.clamp(y0, y1));
    let mut found = Interval { from: f64::INFINITY, to: f64::NEG_INFINITY };
    let edges = ring.iter().zip(ring.iter().cycle().skip(1));
    for (a, b) in edges {
        let (low, high) = if a.y <= b.y { (a, b) } else { (b, a) };
        if y < low.y || y > high.y {
            continue;
        }
        let ends = if low.y == high.y {
            [low.x, high.x]
        } else {
            [low.x + (high.x - low.x) * ((y - low.y) / (high.y - low.y)); 2]
        };
        for x in ends {
            found = Interval { from: found.from.min(x), to: found.to.max(x) };
        }
    }
    found
}
