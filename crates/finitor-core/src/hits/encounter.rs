//! All that two actors can do to each other.

use super::attack::{Attack, attacks};
use super::interval::Interval;
use super::reach::{AttackReach, Meeting, PartReach, Way, reach};
use crate::facing::Facing;

/// An attack against a target that looks one way.
#[derive(Clone, Debug, PartialEq)]
pub struct Encounter {
    /// The attack.
    pub attack: Attack,
    /// The way the attacker looks; `None` where both are alike.
    pub facing: Option<Facing>,
    /// The way the target looks; `None` where both are alike.
    pub way: Option<Way>,
    /// At which distances what is struck.
    pub reach: AttackReach,
}

impl Meeting<'_> {
    /// Every attack with the target looking either way.
    ///
    /// # Complexity
    /// That of [`reach`], twice an attack; four times where art is drawn for the other side.
    pub fn encounters(&self) -> Vec<Encounter> {
        attacks(self.attacker).iter().flat_map(|attack| self.of_attack(attack)).collect()
    }

    fn of_attack(&self, attack: &Attack) -> Vec<Encounter> {
        let is_same = self.attacker.is_mirrored(attack.animation) && self.target.is_mirrored(self.stance.animation);
        let of = |way: Way| {
            let right = reach(&self.duel(Facing::Right, way), attack);
            let left = if is_same { right.clone() } else { reach(&self.duel(Facing::Left, way), attack) };
            [right, left]
        };
        let [toward, away] = Way::BOTH.map(of);
        let same_ways = toward.iter().zip(&away).all(|(a, b)| is_alike(a, b));
        let ways =
            if same_ways { vec![(None, toward)] } else { vec![(Some(Way::Toward), toward), (Some(Way::Away), away)] };
        let mut found = Vec::new();
        for (way, [right, left]) in ways {
            let encounter = |facing, reach| Encounter { attack: attack.clone(), facing, way, reach };
            if is_alike(&right, &left) {
                found.push(encounter(None, right));
            } else {
                found.extend([encounter(Some(Facing::Right), right), encounter(Some(Facing::Left), left)]);
            }
        }
        found
    }
}

/// Whether two reaches are the same to a person, px: mirroring may round otherwise.
const ALIKE: f64 = 1e-4;

fn is_alike(one: &AttackReach, other: &AttackReach) -> bool {
    let near = |a: f64, b: f64| (a - b).abs() <= ALIKE;
    let intervals = |a: &[Interval], b: &[Interval]| {
        a.len() == b.len() && a.iter().zip(b).all(|(a, b)| near(a.from, b.from) && near(a.to, b.to))
    };
    let parts = |a: &[PartReach], b: &[PartReach]| {
        a.len() == b.len() && a.iter().zip(b).all(|(a, b)| a.part == b.part && intervals(a.reach.all(), b.reach.all()))
    };
    one.closest.is_some() == other.closest.is_some()
        && near(one.closest.unwrap_or(0.0), other.closest.unwrap_or(0.0))
        && one.frames.iter().zip(&other.frames).all(|(a, b)| parts(&a.parts, &b.parts))
}
