//! What an actor strikes with, and when.

use crate::actor::{Actor, Role, Shape};
use crate::facing::Facing;

/// A hit shape in an animation: a swing of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Attack {
    /// The animation, by index.
    pub animation: usize,
    /// The hit shape.
    pub shape: String,
    /// The frames that have it in either facing, ascending.
    pub frames: Vec<usize>,
    /// When it strikes.
    pub timing: Timing,
    /// What it does, where the file says so.
    pub damage: Option<f64>,
}

/// The ticks of a swing.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Timing {
    /// Before the first active frame.
    pub startup: u32,
    /// Of all active frames.
    pub active: u32,
    /// Of frames between these that are not active.
    pub pauses: u32,
    /// After the last active frame.
    pub recovery: u32,
}

impl Attack {
    /// Its name: the animation and the shape.
    pub fn name(&self, of: &Actor) -> String {
        format!("{} {}", of.animations[self.animation].name, self.shape)
    }

    /// The first tick of one of its frames, the animation's first being 1.
    pub fn first_tick(&self, of: &Actor, frame: usize) -> u32 {
        1 + (0..frame).map(|before| of.drawn_pose(self.animation, before).ticks).sum::<u32>()
    }

    /// Its shape on one of its frames.
    pub(crate) fn shape_on<'a>(&self, of: &'a Actor, frame: usize, facing: Facing) -> Option<&'a Shape> {
        let pose = of.pose(self.animation, frame, facing);
        pose.shapes.iter().find(|shape| shape.role == Role::Hit && shape.name == self.shape)
    }
}

/// All attacks of an actor, by animation, then in the order of its shapes. Art drawn for the other side stands for its
/// animation and is no attack of its own.
///
/// # Complexity
/// O(shapes of all frames).
pub fn attacks(actor: &Actor) -> Vec<Attack> {
    let mut all = Vec::new();
    let stands_in = |index: usize| actor.animations.iter().any(|other| other.turned_by == Some(index));
    for index in (0..actor.animations.len()).filter(|index| !stands_in(*index)) {
        let frames = actor.animations[index].frames.len();
        // Art drawn for the other side may strike on other frames.
        let hits = |frame: usize| {
            let poses = Facing::BOTH.map(|facing| actor.pose(index, frame, facing));
            poses.into_iter().flat_map(|pose| pose.shapes.iter().filter(|shape| shape.role == Role::Hit))
        };
        let mut found: Vec<Attack> = Vec::new();
        for frame in 0..frames {
            for hit in hits(frame) {
                match found.iter_mut().find(|attack| attack.shape == hit.name) {
                    Some(attack) if attack.frames.last() == Some(&frame) => {}
                    Some(attack) => attack.frames.push(frame),
                    None => found.push(Attack {
                        animation: index,
                        shape: hit.name.clone(),
                        frames: vec![frame],
                        timing: Timing::default(),
                        damage: hit.carries.damage,
                    }),
                }
            }
        }
        for attack in &mut found {
            attack.timing = timing(actor, attack);
        }
        all.extend(found);
    }
    all
}

fn timing(actor: &Actor, attack: &Attack) -> Timing {
    let mut timing = Timing::default();
    let (first, last) = (attack.frames.first().copied(), attack.frames.last().copied());
    for frame in 0..actor.animations[attack.animation].frames.len() {
        let ticks = actor.drawn_pose(attack.animation, frame).ticks;
        let part = match frame {
            _ if Some(frame) < first => &mut timing.startup,
            _ if Some(frame) > last => &mut timing.recovery,
            _ if attack.frames.contains(&frame) => &mut timing.active,
            _ => &mut timing.pauses,
        };
        *part += ticks;
    }
    timing
}

/// The body part that a hurt shape stands for: the one it names, else its own name.
pub fn part_name(hurt: &Shape) -> &str {
    hurt.carries.part.name.as_deref().unwrap_or(&hurt.name)
}
