//! Attacks as they are written: what each is, and at which distances it strikes.

use finitor_core::Facing;
use finitor_core::actor::Actor;
use finitor_core::hits::{ActiveFrame, Attack, Encounter, Interval, Meeting, Move, PartReach, Way};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`MovesResult`].
pub const MOVES_SCHEMA: &str = "finitor.moves/1";
/// The schema of [`ReachResult`].
pub const REACH_SCHEMA: &str = "finitor.reach/1";

/// The attacks of an actor.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct MovesResult {
    /// [`MOVES_SCHEMA`].
    pub schema: String,
    /// The actor.
    pub actor: String,
    /// Ticks a second.
    pub tick_rate: f64,
    /// Its attacks, by animation.
    pub moves: Vec<MoveResult>,
}

/// An attack.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct MoveResult {
    /// The animation.
    pub animation: String,
    /// The hit shape.
    pub shape: String,
    /// `left`, `right`, or `both` where they are alike.
    pub facing: String,
    /// Ticks before the first active frame.
    pub startup_ticks: u32,
    /// Ticks of active frames.
    pub active_ticks: u32,
    /// Ticks between active frames.
    pub pause_ticks: u32,
    /// Ticks after the last active frame.
    pub recovery_ticks: u32,
    /// What it does.
    pub damage: Option<f64>,
    /// Its active frames.
    pub frames: Vec<ActiveFrameResult>,
    /// Whom it strikes.
    pub targets: Vec<MoveTargetResult>,
}

/// An active frame.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ActiveFrameResult {
    /// The frame.
    pub frame: usize,
    /// Its first tick, the animation's first being 1.
    pub first_tick: u32,
    /// Its ticks.
    pub ticks: u32,
    /// How far the hit reaches past the body's front.
    pub ahead_px: f64,
    /// How far it reaches past the body's back.
    pub behind_px: f64,
    /// From how high above the pivot to how high.
    pub height_px: [f64; 2],
    /// Its area.
    pub area_px2: f64,
}

/// Whom an attack strikes.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct MoveTargetResult {
    /// The actor.
    pub actor: String,
    /// Its parts.
    pub parts: Vec<String>,
    /// The distance between the pivots from which on nothing is struck.
    pub safe_from_px: f64,
}

/// At which distances the attacks of one actor strike another.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ReachResult {
    /// [`REACH_SCHEMA`].
    pub schema: String,
    /// Who strikes.
    pub attacker: String,
    /// Who stands.
    pub target: String,
    /// The target's animation.
    pub animation: String,
    /// The frame in it.
    pub frame: usize,
    /// How much lower the target's pivot is.
    pub dy_px: f64,
    /// By attack, and by the way the target looks.
    pub attacks: Vec<AttackReachResult>,
}

/// At which distances an attack strikes; all are from pivot to pivot, ahead of the attacker.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct AttackReachResult {
    /// The animation.
    pub animation: String,
    /// The hit shape.
    pub shape: String,
    /// `left`, `right`, or `both` where they are alike.
    pub facing: String,
    /// The way the target looks: `toward` the attacker, `away`, or `either` where these are alike.
    pub target_looks: String,
    /// The least distance at which the bodies are apart; `null` where they do not stop each other.
    pub bodies_apart_px: Option<f64>,
    /// Over the swing, by part.
    pub parts: Vec<PartReachResult>,
    /// By active frame.
    pub frames: Vec<FrameReachResult>,
    /// Which frame strikes first, and which part.
    pub first: Vec<FirstReachResult>,
    /// Where nothing is struck between the bodies, or 0, and the farthest reach.
    pub gaps_px: Vec<[f64; 2]>,
}

/// The distances at which a part is struck.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct PartReachResult {
    /// The part.
    pub part: String,
    /// From and to.
    pub reach_px: Vec<[f64; 2]>,
}

/// What an active frame strikes.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct FrameReachResult {
    /// The frame.
    pub frame: usize,
    /// By part.
    pub parts: Vec<PartReachResult>,
}

/// Distances at which one frame is the first to strike, and one part is struck.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct FirstReachResult {
    /// From and to.
    pub reach_px: [f64; 2],
    /// The frame.
    pub frame: usize,
    /// Its first tick, the animation's first being 1.
    pub tick: u32,
    /// The part.
    pub part: String,
}

/// A facing, or both, as a word.
fn facing_word(facing: Option<Facing>) -> String {
    facing.map_or("both", Facing::name).to_string()
}

fn ends(interval: &Interval) -> [f64; 2] {
    [interval.from, interval.to]
}

impl MovesResult {
    /// The attacks of an actor.
    pub fn new(actor: &Actor, tick_rate: f64, moves: &[Move]) -> MovesResult {
        let moves = moves.iter().map(|of| MoveResult::new(actor, of)).collect();
        MovesResult { schema: MOVES_SCHEMA.to_string(), actor: actor.name.clone(), tick_rate, moves }
    }
}

impl MoveResult {
    fn new(actor: &Actor, of: &Move) -> MoveResult {
        let Attack { animation, shape, timing, damage, .. } = &of.attack;
        let frame = |of: &ActiveFrame| ActiveFrameResult {
            frame: of.frame,
            first_tick: of.first_tick,
            ticks: of.ticks,
            ahead_px: of.ahead,
            behind_px: of.behind,
            height_px: [of.low, of.high],
            area_px2: of.area,
        };
        let targets = of.targets.iter().map(|target| MoveTargetResult {
            actor: target.actor.clone(),
            parts: target.parts.clone(),
            safe_from_px: target.safe,
        });
        MoveResult {
            animation: actor.animations[*animation].name.clone(),
            shape: shape.clone(),
            facing: facing_word(of.facing),
            startup_ticks: timing.startup,
            active_ticks: timing.active,
            pause_ticks: timing.pauses,
            recovery_ticks: timing.recovery,
            damage: *damage,
            frames: of.frames.iter().map(frame).collect(),
            targets: targets.collect(),
        }
    }
}

impl ReachResult {
    /// What the attacks of a meeting strike.
    pub fn new(meeting: &Meeting<'_>, encounters: &[Encounter]) -> ReachResult {
        ReachResult {
            schema: REACH_SCHEMA.to_string(),
            attacker: meeting.attacker.name.clone(),
            target: meeting.target.name.clone(),
            animation: meeting.target.animations[meeting.stance.animation].name.clone(),
            frame: meeting.stance.frame,
            dy_px: meeting.lower,
            attacks: encounters.iter().map(|of| AttackReachResult::new(meeting.attacker, of)).collect(),
        }
    }
}

impl AttackReachResult {
    fn new(attacker: &Actor, of: &Encounter) -> AttackReachResult {
        let Encounter { attack, facing, way, reach } = of;
        let part = |of: &PartReach| PartReachResult {
            part: of.part.clone(),
            reach_px: of.reach.all().iter().map(ends).collect(),
        };
        let frames = reach
            .frames
            .iter()
            .map(|of| FrameReachResult { frame: of.frame, parts: of.parts.iter().map(part).collect() });
        let first = reach.first.iter().map(|of| FirstReachResult {
            reach_px: ends(&of.distances),
            frame: of.frame,
            tick: attack.first_tick(attacker, of.frame),
            part: of.part.clone(),
        });
        AttackReachResult {
            animation: attacker.animations[attack.animation].name.clone(),
            shape: attack.shape.clone(),
            facing: facing_word(*facing),
            target_looks: way.map_or("either", Way::name).to_string(),
            bodies_apart_px: reach.closest,
            parts: reach.parts.iter().map(part).collect(),
            frames: frames.collect(),
            first: first.collect(),
            gaps_px: reach.gaps.iter().map(ends).collect(),
        }
    }
}
