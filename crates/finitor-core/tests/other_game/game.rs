//! Another game: speeds in px a second, small substeps, a slide along the ground, jumps that are cut short, friction, dashes.

use crate::Dice;
use crate::bug::{Bug, Seen};
use crate::flat::{Flat, Spot};
use crate::land::{FLOOR, Land, WIDTH};

/// Px a second, and px a second per second.
const WALK: f64 = 130.0;
const PICK_UP: f64 = 900.0;
const FRICTION: f64 = 1200.0;
const GRAVITY: f64 = 1300.0;
const JUMP: f64 = 430.0;
const DASH: f64 = 520.0;
const FASTEST_FALL: f64 = 560.0;
/// Longest substep, px.
const SUB: f64 = 0.4;
/// The highest edge it steps up, px.
pub const STEP: f64 = 4.0;

/// Bodies of an actor: standing and low, convex parts about the pivot, drawn facing right.
#[derive(Clone)]
pub struct Figure {
    pub name: &'static str,
    pub tall: Vec<Flat>,
    pub low: Vec<Flat>,
}

pub fn figures() -> Vec<Figure> {
    let capsule = |high: f64, radius: f64| {
        let arc = |cy: f64, from: f64| {
            (0..=8).map(move |k| {
                let angle = from + std::f64::consts::PI * f64::from(k) / 8.0;
                (radius * angle.cos(), cy + radius * angle.sin())
            })
        };
        use std::f64::consts::PI;
        Flat(arc(radius - high, PI).chain(arc(0.0 - radius, 0.0)).collect())
    };
    let block = |left: f64, right: f64, high: f64| Flat::block(left, 0.0 - high, right - left, high);
    vec![
        Figure { name: "box", tall: vec![block(-7.0, 7.0, 26.0)], low: vec![block(-7.0, 7.0, 15.0)] },
        Figure { name: "capsule", tall: vec![capsule(28.0, 7.0)], low: vec![capsule(16.0, 7.0)] },
        Figure { name: "lopsided", tall: vec![block(-5.0, 9.0, 24.0)], low: vec![block(-5.0, 9.0, 14.0)] },
        Figure {
            name: "pole",
            tall: vec![block(-6.0, 6.0, 26.0), Flat::block(6.0, -18.0, 9.0, 3.0)],
            low: vec![block(-6.0, 6.0, 15.0)],
        },
    ]
}

/// What is written of a tick.
#[derive(Clone, Copy, Debug)]
pub struct Tick {
    pub at: Spot,
    pub right: bool,
    pub animation: &'static str,
    pub drops: bool,
    pub is_warped: bool,
}

/// What some games do and others do not.
#[derive(Clone, Copy, Default)]
pub struct Habits {
    /// How fast it goes down a wall that it is pressed to, px a second.
    pub slide: Option<f64>,
    /// For how long all is held still now and then, seconds.
    pub pause: f64,
}

pub struct Game<'l> {
    land: &'l Land,
    pub bug: Option<Bug>,
    pub habits: Habits,
    /// The faults of the play.
    pub seen: Vec<Seen>,
    ticks: usize,
    figure: Figure,
    dt: f64,
    at: Spot,
    speed: Spot,
    right: bool,
    is_low: bool,
    on_ground: bool,
    dash: f64,
    drop: f64,
    /// Ticks for which it is stuck at a joint.
    stuck: u32,
}

/// What the player holds.
#[derive(Clone, Copy)]
struct Keys {
    way: f64,
    jump: bool,
    low: bool,
    dash: bool,
    drop: bool,
    /// Seconds.
    left: f64,
}

impl<'l> Game<'l> {
    pub fn new(land: &'l Land, figure: Figure, rate: f64, dice: &mut Dice) -> Game<'l> {
        let mut game = Game {
            land,
            bug: None,
            habits: Habits::default(),
            seen: Vec::new(),
            ticks: 0,
            figure,
            dt: 1.0 / rate,
            at: (0.0, 0.0),
            speed: (0.0, 0.0),
            right: true,
            is_low: false,
            on_ground: false,
            dash: 0.0,
            drop: 0.0,
            stuck: 0,
        };
        game.at = game.free_place(dice);
        game
    }

    fn free_place(&self, dice: &mut Dice) -> Spot {
        loop {
            let high =
                if self.has(Bug::WarpsIntoWalls) { dice.between(0.0, 160.0) } else { dice.between(120.0, 260.0) };
            let at = (dice.between(30.0, WIDTH - 30.0), FLOOR - high);
            let may_be_in = self.has(Bug::WarpsIntoWalls) && self.ticks > 0;
            if may_be_in || !self.blocked(at) && !self.in_ledge(at) {
                return at;
            }
        }
    }

    fn parts(&self) -> Vec<Flat> {
        let parts = if self.is_low { &self.figure.low } else { &self.figure.tall };
        if self.right { parts.clone() } else { parts.iter().map(Flat::mirrored).collect() }
    }

    fn blocked(&self, at: Spot) -> bool {
        let parts: Vec<Flat> = self.parts().iter().map(|part| part.moved(at)).collect();
        self.land.blocks_any(&parts)
    }

    fn in_ledge(&self, at: Spot) -> bool {
        let parts: Vec<Flat> = self.parts().iter().map(|part| part.moved(at)).collect();
        self.land.ledges.iter().any(|ledge| parts.iter().any(|part| part.meets(ledge)))
    }

    /// Whether a move down from a place ends on a ledge whose top it was above.
    fn lands_on_ledge(&self, from: Spot, to: Spot) -> bool {
        let bottom = self.parts().iter().map(Flat::bottom).fold(f64::NEG_INFINITY, f64::max);
        let parts: Vec<Flat> = self.parts().iter().map(|part| part.moved(to)).collect();
        let is_above = |ledge: &&Flat| from.1 + bottom <= ledge.top() + 1e-6;
        let meets = |ledge: &Flat| parts.iter().any(|part| part.meets(ledge));
        !self.has(Bug::LedgesFail) && self.drop <= 0.0 && self.land.ledges.iter().filter(is_above).any(meets)
    }

    fn stops_down(&self, from: Spot, to: Spot) -> bool {
        self.blocked(to) || (to.1 > from.1 && self.lands_on_ledge(from, to))
    }

    /// As far along a small move as there is room.
    fn has(&self, bug: Bug) -> bool {
        self.bug == Some(bug)
    }

    fn see(&mut self, bug: Bug, figure: Option<f64>) {
        self.seen.push(Seen { tick: self.ticks, bug, figure });
    }

    /// How deep the body is in the solid that it is deepest in.
    fn depth(&self, at: Spot) -> f64 {
        let parts: Vec<Flat> = self.parts().iter().map(|part| part.moved(at)).collect();
        let depths = self.land.solids.iter().flat_map(|solid| parts.iter().map(move |part| part.depth(solid)));
        depths.fold(0.0, f64::max)
    }

    /// The ledge whose underside or inside a body that rises meets.
    fn ledge_at(&self, at: Spot) -> Option<&Flat> {
        let parts: Vec<Flat> = self.parts().iter().map(|part| part.moved(at)).collect();
        self.land.ledges.iter().find(|ledge| parts.iter().any(|part| part.meets(ledge)))
    }

    fn bottom(&self) -> f64 {
        self.parts().iter().map(Flat::bottom).fold(f64::NEG_INFINITY, f64::max)
    }

    fn as_far(&self, by: Spot, stops: impl Fn(Spot) -> bool) -> Spot {
        let at = |share: f64| (self.at.0 + by.0 * share, self.at.1 + by.1 * share);
        if !stops(at(1.0)) {
            return at(1.0);
        }
        let (mut free, mut full) = (0.0, 1.0);
        for _ in 0..30 {
            let middle = f64::midpoint(free, full);
            if stops(at(middle)) { full = middle } else { free = middle }
        }
        at(free)
    }

    /// A part of a walk; `lifted` is how far it was lifted in this tick, and `most` how far it may be.
    fn across(&mut self, by: f64, most: f64, lifted: &mut f64) -> bool {
        let to = (self.at.0 + by, self.at.1);
        if !self.blocked(to) {
            self.at = to;
            return true;
        }
        if self.on_ground {
            // Up a slope, or an edge.
            let most =
                (most - *lifted).min(if self.has(Bug::StepsUpAnything) { most } else { STEP.max(by.abs() * 1.1) });
            if !self.blocked((to.0, to.1 - most)) && !self.blocked((self.at.0, self.at.1 - most)) {
                let (mut free, mut full) = (most, 0.0);
                for _ in 0..30 {
                    let middle = f64::midpoint(free, full);
                    if self.blocked((to.0, to.1 - middle)) { full = middle } else { free = middle }
                }
                self.at = (to.0, to.1 - free);
                *lifted += free;
                return true;
            }
        }
        self.at = self.as_far((by, 0.0), |to| self.blocked(to));
        false
    }

    fn upright(&mut self, by: f64) -> bool {
        let from = self.at;
        if by < 0.0 && (self.has(Bug::LedgesAreSolid) || self.has(Bug::LedgesLift)) {
            let to = (from.0, from.1 + by);
            let (was, is) = (self.ledge_at(from).is_some(), self.ledge_at(to).map(Flat::top));
            if let Some(top) = is {
                if self.has(Bug::LedgesAreSolid) && !was {
                    let lost = 0.0 - self.speed.1 * self.dt;
                    self.see(Bug::LedgesAreSolid, Some(lost));
                    return false;
                }
                let below = from.1 + self.bottom() - top;
                let on_top = (from.0, top - self.bottom());
                if self.has(Bug::LedgesLift) && (1.0..12.0).contains(&below) && !self.blocked(on_top) {
                    self.see(Bug::LedgesLift, Some(below));
                    (self.at, self.on_ground) = (on_top, true);
                    return true;
                }
            }
        }
        let to = self.as_far((0.0, by), |to| self.stops_down(from, to));
        let is_free = to == (self.at.0, self.at.1 + by);
        self.at = to;
        is_free
    }

    /// What it keeps off the ground.
    fn gap(&self) -> f64 {
        if self.has(Bug::LandsHigh) { 1.6 } else { 0.0 }
    }

    /// Down onto ground that falls away under a walk.
    fn snap_down(&mut self, most: f64) {
        let (from, gap) = (self.at, self.gap());
        let most = if self.has(Bug::LosesGround) { 0.01 } else { most };
        if self.stops_down(from, (from.0, from.1 + most + gap)) {
            self.at = self.as_far((0.0, most + gap), |to| self.stops_down(from, to));
            self.at.1 -= gap;
        } else {
            self.on_ground = false;
        }
    }

    fn tick(&mut self, keys: Keys, is_first: bool) -> Tick {
        let dt = self.dt;
        self.drop -= dt;
        self.dash -= dt;
        if keys.way != 0.0 && (keys.way > 0.0) != self.right && self.dash <= 0.0 {
            let was_free = self.depth(self.at) <= 1e-6;
            self.right = !self.right;
            let deep = self.depth(self.at);
            if self.has(Bug::TurnsBlindly) && was_free {
                if deep > 0.0 {
                    self.see(Bug::TurnsBlindly, Some(deep));
                }
            } else if self.blocked(self.at) {
                self.right = !self.right;
            }
        }
        if keys.low != self.is_low {
            let was_free = self.depth(self.at) <= 1e-6;
            self.is_low = !self.is_low;
            let deep = self.depth(self.at);
            if self.has(Bug::StandsUpBlindly) && was_free {
                if deep > 0.0 {
                    self.see(Bug::StandsUpBlindly, Some(deep));
                }
            } else if self.blocked(self.at) {
                self.is_low = true;
            }
        }
        let wanted = keys.way * if self.is_low { WALK * 0.5 } else { WALK };
        let change = if keys.way == 0.0 { FRICTION } else { PICK_UP } * dt;
        self.speed.0 += (wanted - self.speed.0).clamp(0.0 - change, change);
        if is_first && keys.dash && !self.is_low {
            self.dash = 0.13;
        }
        if self.dash > 0.0 {
            let fast = if self.has(Bug::LeapsWhenDashing) { 3.0 * DASH } else { DASH };
            self.speed = (if self.right { fast } else { 0.0 - fast }, 0.0);
        } else if self.speed.0.abs() > WALK {
            self.speed.0 = self.speed.0.clamp(0.0 - WALK, WALK);
        }
        if is_first && self.on_ground && keys.drop {
            self.drop = if self.has(Bug::DropsTooLong) { 1.0 } else { 0.14 };
            self.on_ground = false;
        }
        if is_first && self.on_ground && keys.jump && !self.is_low && self.dash <= 0.0 {
            (self.speed.1, self.on_ground) = (0.0 - JUMP, false);
        }
        // A key let go cuts the jump short.
        if !keys.jump && self.speed.1 < -120.0 {
            self.speed.1 *= 0.45;
        }
        if !self.on_ground && self.dash <= 0.0 {
            self.speed.1 = (self.speed.1 + GRAVITY * dt).min(self.fastest_fall(keys.way));
        }
        if self.stuck > 0 {
            self.stuck -= 1;
            return self.written();
        }
        let (dx, dy) = (self.speed.0 * dt, if self.on_ground { 0.0 } else { self.speed.1 * dt });
        if self.has(Bug::LeapsWhenDashing) && self.dash > 0.0 {
            let to = (self.at.0 + dx, self.at.1);
            if self.blocked(to) {
                self.speed.0 = 0.0;
            } else {
                let on_the_way = (1..200).map(|k| self.depth((self.at.0 + dx * f64::from(k) / 200.0, self.at.1)));
                let deepest = on_the_way.fold(0.0, f64::max);
                if deepest > 0.0 {
                    self.see(Bug::LeapsWhenDashing, Some(deepest));
                }
                self.at = to;
                self.on_ground = false;
            }
            return self.written();
        }
        let parts = (dx.abs().max(dy.abs()) / SUB).ceil().max(1.0);
        let step = match self.bug {
            Some(Bug::StepsUpAnything) => 18.0,
            Some(Bug::NeverStepsUp) => 0.0,
            _ => STEP,
        };
        let (mut lifted, most) = (0.0, step.max(dx.abs() * 1.1));
        let (on_foot, from) = (self.on_ground, self.at);
        for _ in 0..parts as u32 {
            let was_up = dy != 0.0 && !self.on_ground;
            if dx != 0.0 && !self.across(dx / parts, most, &mut lifted) {
                let on = (self.at.0 + dx / parts, self.at.1 - STEP);
                let is_low_edge = !self.blocked(on) && !self.blocked((self.at.0, on.1));
                let walks = self.on_ground && self.speed.0.abs() > 100.0 && self.dash <= 0.0;
                if self.has(Bug::NeverStepsUp) && walks && is_low_edge {
                    self.see(Bug::NeverStepsUp, None);
                }
                if self.has(Bug::UndoesBoth) && was_up && self.dash <= 0.0 {
                    // Down a slope it has landed.
                    if !self.stops_down(self.at, (self.at.0, self.at.1 + dy.signum())) {
                        self.see(Bug::UndoesBoth, Some(dy.abs()));
                    }
                    self.speed = (0.0, 0.0);
                    break;
                }
                self.speed.0 = 0.0;
            }
            if self.on_ground {
                self.snap_down((dx.abs() / parts * 1.1) + 0.6);
            } else if dy != 0.0 && !self.upright(dy / parts) {
                self.on_ground = dy > 0.0;
                self.speed.1 = 0.0;
                if self.on_ground && self.has(Bug::LandsHigh) {
                    self.at.1 -= self.gap();
                    self.see(Bug::LandsHigh, Some(self.gap()));
                }
                if self.on_ground && self.has(Bug::LandsDeep) {
                    self.at.1 += 2.0;
                    self.see(Bug::LandsDeep, None);
                }
                break;
            }
        }
        if self.has(Bug::SnagsOnJoints) && on_foot && self.on_ground {
            self.stop_at_joint(from);
        }
        if on_foot && self.on_ground && self.has(Bug::StepsUpAnything) && lifted > STEP.max(dx.abs() * 2.0) {
            self.see(Bug::StepsUpAnything, Some(lifted));
        }
        if self.on_ground {
            self.speed.1 = 0.0;
        }
        self.written()
    }

    fn fastest_fall(&self, way: f64) -> f64 {
        let is_pressed = way != 0.0 && self.blocked((self.at.0 + way * SUB, self.at.1));
        self.habits.slide.filter(|_| is_pressed).unwrap_or(FASTEST_FALL)
    }

    /// Back to the joint of two level tiles that the front has just passed.
    fn stop_at_joint(&mut self, from: Spot) {
        const TILE: f64 = 16.0;
        let dx = self.at.0 - from.0;
        let ends = self
            .parts()
            .iter()
            .map(|part| part.reach((1.0, 0.0)))
            .fold((0.0, 0.0), |(low, high), (a, b)| (f64::min(low, a), f64::max(high, b)));
        let front = if dx > 0.0 { ends.1 } else { ends.0 };
        let joint = ((from.0 + front) / TILE + if dx > 0.0 { 1e-6 } else { -1e-6 }).floor() * TILE
            + if dx > 0.0 { TILE } else { 0.0 };
        let at = (joint - front, from.1);
        let is_passed = (joint - from.0 - front) * dx > 0.0 && (joint - self.at.0 - front) * dx < 0.0;
        let is_level = self.at.1 == from.1 && (joint / TILE) as i64 % 3 == 0;
        let ahead = Flat::block(joint + 0.5 * dx.signum() - 0.25, from.1 + 0.25, 0.5, 0.5);
        let is_level = is_level && self.land.blocks_any(&[ahead]);
        // Where a wall stands it stops by right.
        let is_free = !self.blocked((at.0 + 0.5 * dx.signum(), at.1));
        if is_passed && is_level && is_free && (at.0 - from.0).abs() > 0.1 {
            (self.at, self.stuck) = (at, 5);
            self.see(Bug::SnagsOnJoints, None);
        }
    }

    fn written(&self) -> Tick {
        let animation = match (self.is_low, self.on_ground, self.dash > 0.0) {
            (true, ..) => "low",
            (_, _, true) => "dash",
            (_, true, _) if self.speed.0.abs() > 1.0 => "walk",
            (_, true, _) => "stand",
            _ => "air",
        };
        Tick { at: self.at, right: self.right, animation, drops: self.drop > 0.0, is_warped: false }
    }

    /// What the body is in at the end of a tick is what a take can show.
    fn look_again(&mut self, before: usize) {
        let deep = self.depth(self.at);
        let is_in = |bug: Bug| matches!(bug, Bug::TurnsBlindly | Bug::StandsUpBlindly | Bug::LandsDeep);
        for seen in self.seen[before..].iter_mut().filter(|seen| is_in(seen.bug)) {
            seen.figure = Some(deep);
        }
    }

    /// Plays random keys for some ticks.
    pub fn play(&mut self, ticks: usize, dice: &mut Dice) -> Vec<Tick> {
        let mut all = Vec::with_capacity(ticks);
        let is_dashing = self.has(Bug::LeapsWhenDashing) || self.has(Bug::SkipsZones);
        let warps = if self.has(Bug::WarpsIntoWalls) { 8 } else { 40 };
        while all.len() < ticks {
            let keys = Keys {
                way: [-1.0, 1.0, -1.0, 1.0, 0.0][dice.below(5) as usize],
                jump: dice.below(3) == 0,
                low: dice.below(5) == 0,
                dash: dice.below(if is_dashing { 3 } else { 9 }) == 0,
                drop: dice.below(6) == 0,
                left: dice.between(0.05, 0.9),
            };
            let mut left = keys.left;
            let mut is_first = true;
            while left > 0.0 && all.len() < ticks {
                self.ticks = all.len();
                if let Some(last) = all.last().filter(|_| ((all.len() + 20) % 47) as f64 * self.dt < self.habits.pause)
                {
                    all.push(Tick { is_warped: false, ..*last });
                    continue;
                }
                let before = self.seen.len();
                all.push(self.tick(keys, is_first));
                self.look_again(before);
                (left, is_first) = (left - self.dt, false);
            }
            // Now and then the game puts it elsewhere.
            let is_lost = self.at.1 > FLOOR + 500.0;
            if dice.below(warps) == 0 || is_lost {
                (self.is_low, self.speed, self.on_ground) = (false, (0.0, 0.0), false);
                self.at = self.free_place(dice);
                let at = self.at;
                self.ticks = all.len();
                if self.has(Bug::WarpsIntoWalls) && self.depth(at) > 0.0 {
                    self.see(Bug::WarpsIntoWalls, Some(self.depth(at)));
                }
                all.push(Tick { at, right: self.right, animation: "air", drops: false, is_warped: true });
            }
        }
        all
    }
}
