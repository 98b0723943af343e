//! What an actor's attacks are, as a table.

use super::attack::{Attack, attacks};
use super::reach::{Meeting, Stance, Way};
use super::settle::Settle;
use crate::actor::Actor;
use crate::facing::Facing;
use crate::geometry::{Rect, shared_area};
use crate::layers::Layers;

/// An attack in a facing, or in both where they are alike.
#[derive(Clone, Debug, PartialEq)]
pub struct Move {
    /// The attack.
    pub attack: Attack,
    /// The facing; `None` where both are the same.
    pub facing: Option<Facing>,
    /// Its active frames.
    pub frames: Vec<ActiveFrame>,
    /// Whom it strikes, as they stand on the same level, in the order of the actors.
    pub targets: Vec<MoveTarget>,
}

/// An active frame of an attack.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ActiveFrame {
    /// The frame.
    pub frame: usize,
    /// The first tick of it, the animation's first being 1.
    pub first_tick: u32,
    /// Its ticks.
    pub ticks: u32,
    /// How far the hit reaches past the body's front, or the pivot where there is no body; below 0 it stays behind it.
    pub ahead: f64,
    /// How far it reaches past the body's back.
    pub behind: f64,
    /// How high above the pivot it begins, px.
    pub low: f64,
    /// ... and ends.
    pub high: f64,
    /// Its area, px2.
    pub area: f64,
}

/// Whom an attack strikes.
#[derive(Clone, Debug, PartialEq)]
pub struct MoveTarget {
    /// The actor.
    pub actor: String,
    /// The parts that it strikes at any distance.
    pub parts: Vec<String>,
    /// The distance between the pivots from which on nothing is struck.
    pub safe: f64,
}

/// The attacks of an actor against all actors, which stand as [`Stance::usual`].
///
/// # Complexity
/// O(a t f h u), a attacks, t actors, f active frames, h pieces of a hit, u of hurt shapes.
pub fn moves(attacker: &Actor, actors: &[Actor], layers: &Layers) -> Vec<Move> {
    let mut found = Vec::new();
    for attack in attacks(attacker) {
        let of = |facing: Facing| Move {
            attack: attack.clone(),
            facing: Some(facing),
            frames: active_frames(attacker, &attack, facing),
            targets: targets(attacker, actors, layers, (&attack, facing)),
        };
        let [right, left] = Facing::BOTH.map(of);
        if is_alike(&right, &left) {
            found.push(Move { facing: None, ..right });
        } else {
            found.extend([right, left]);
        }
    }
    found
}

/// Mirroring may round otherwise.
const ALIKE: f64 = 1e-9;

fn is_alike(one: &Move, other: &Move) -> bool {
    let near = |a: f64, b: f64| (a - b).abs() <= ALIKE;
    let frames = |a: &ActiveFrame, b: &ActiveFrame| {
        near(a.ahead, b.ahead)
            && near(a.behind, b.behind)
            && near(a.low, b.low)
            && near(a.high, b.high)
            && near(a.area, b.area)
    };
    let targets = |a: &MoveTarget, b: &MoveTarget| a.parts == b.parts && near(a.safe, b.safe);
    one.frames.iter().zip(&other.frames).all(|(a, b)| frames(a, b))
        && one.targets.len() == other.targets.len()
        && one.targets.iter().zip(&other.targets).all(|(a, b)| targets(a, b))
}

fn active_frames(actor: &Actor, attack: &Attack, facing: Facing) -> Vec<ActiveFrame> {
    let mut found = Vec::new();
    for frame in 0..actor.animations[attack.animation].frames.len() {
        let pose = actor.pose(attack.animation, frame, facing);
        let ticks = pose.ticks;
        if let Some(hit) = attack.shape_on(actor, frame, facing) {
            let along =
                |rect: Rect| if facing == Facing::Right { (rect.x0, rect.x1) } else { (0.0 - rect.x1, 0.0 - rect.x0) };
            let bounds = hit.bounds();
            let (back, front) = along(bounds);
            let (body_back, body_front) = pose.body().map_or((0.0, 0.0), |body| along(body.bounds()));
            found.push(ActiveFrame {
                frame,
                first_tick: attack.first_tick(actor, frame),
                ticks,
                ahead: front - body_front,
                behind: body_back - back,
                low: 0.0 - bounds.y1,
                high: 0.0 - bounds.y0,
                area: shared_area(&hit.pieces, &hit.pieces),
            });
        }
    }
    found
}

fn targets(
    attacker: &Actor,
    actors: &[Actor],
    layers: &Layers,
    (attack, facing): (&Attack, Facing),
) -> Vec<MoveTarget> {
    let mut found = Vec::new();
    for target in actors {
        let mut struck = MoveTarget { actor: target.name.clone(), parts: Vec::new(), safe: f64::NEG_INFINITY };
        let Some(stance) = Stance::usual(target) else { continue };
        let meeting = Meeting { attacker, target, stance, lower: 0.0, layers, settle: Settle::default() };
        for way in Way::BOTH {
            for part in meeting.duel(facing, way).parts(attack) {
                struck.safe = struck.safe.max(part.reach.farthest().unwrap_or(f64::NEG_INFINITY));
                if !struck.parts.contains(&part.part) {
                    struck.parts.push(part.part);
                }
            }
        }
        if !struck.parts.is_empty() {
            found.push(struck);
        }
    }
    found
}
