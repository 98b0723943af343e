//! lopsided: turning moves the sides of a body.

use crate::change::{Change, NewValue};
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::lint::turning::{Turn, turns};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// A turn that moves the sides of a body by more than this is reported, px.
const LEAST_LOPSIDED: f64 = 1.0;

#[derive(Debug)]
pub(crate) struct Lopsided;

impl StillRule for Lopsided {
    const SPEC: Spec = Spec {
        code: "lopsided",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body reaches farther from the pivot on one side than on the other, so that turning moves its \
                    sides.",
            matters: "An actor that turns at a wall is pushed into it, and one that turns on a ledge may lose it.",
            measured: "The difference of what the body reaches ahead of the pivot and behind it, the largest over the \
                       frames of an animation. It counts beyond 1 px.",
            fix: "Set `symmetric = true` on the shape: it is then fitted equal on both sides. Or widen the shorter \
                  side, or move the pivot, by the figures given.",
            drawing: "    pivot\n   __|____\n  |  |    |\n  |__|____|\n   a   b    moved by b - a\n",
        },
    };

    /// Bodies whose sides a turn moves, each box once.
    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        let all = turns(actor);
        let mut seen: Vec<(&Turn, usize)> = Vec::new();
        for turn in all.iter().filter(|turn| turn.moved() > LEAST_LOPSIDED) {
            match seen.iter_mut().find(|(known, _)| known.drawn == turn.drawn && known.turned == turn.turned) {
                Some((_, frames)) => *frames += turn.frames.len(),
                None => seen.push((turn, turn.frames.len())),
            }
        }
        for (turn, frames) in seen {
            let animation = &actor.animations[turn.animation];
            let more = if frames > 1 { format!(", on {frames} frames") } else { String::new() };
            let (message, fix) = match animation.turned_by {
                Some(_) => drawn_for_both(turn, &more),
                None => mirrored(turn, &more, made(facts, turn)),
            };
            let can_be_fitted = animation.turned_by.is_none() && made(facts, turn) == Made::Fitted;
            let change = can_be_fitted.then(|| Change::shape(facts.name, &turn.shape, "symmetric", NewValue::Yes));
            out.report_with(
                change,
                Fault {
                    subject: facts.name.to_string(),
                    place: Place::Actor(format!("{} {}", animation.name, turn.frames[0])),
                    figure: turn.moved(),
                    message,
                    fix,
                },
            );
        }
    }
}

/// Where the geometry of a body comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Made {
    /// A fit, which can be asked for another one.
    Fitted,
    /// Numbers in the actor file.
    Given,
    /// A hand, whose work no fit touches.
    ByHand,
}

fn made(facts: &ActorFacts<'_>, turn: &Turn) -> Made {
    let Some(shape) = facts.shapes.iter().find(|shape| shape.name == turn.shape) else { return Made::Fitted };
    let first = facts.animations.get(turn.animation).map_or(0, |animation| animation.frames.start);
    let is_by_hand = turn.frames.iter().any(|frame| shape.hand_made.contains(&(first + frame)));
    match (is_by_hand, shape.fitting) {
        (true, _) => Made::ByHand,
        (false, None) => Made::Given,
        (false, Some(_)) => Made::Fitted,
    }
}

/// Of a body that is mirrored: what happens, and the fix.
fn mirrored(turn: &Turn, more: &str, made: Made) -> (String, String) {
    let Turn { ahead, behind, shape, .. } = turn;
    let moved = turn.moved();
    let side = if ahead > behind { "behind" } else { "ahead" };
    (
        format!(
            "{shape} reaches {ahead:.2} px ahead and {behind:.2} px behind; turning moves its sides {moved:.2} px{more}"
        ),
        match made {
            Made::Fitted => format!(
                "Set `symmetric = true` on {shape}, or widen it {moved:.2} px {side}, or keep {moved:.2} px from walls {side}."
            ),
            Made::Given => {
                format!("Widen {shape} {moved:.2} px {side} in its file, or keep {moved:.2} px from walls {side}.")
            }
            Made::ByHand => format!(
                "Widen {shape} {moved:.2} px {side} by hand, as it was made, or keep {moved:.2} px from walls {side}. `symmetric = true` counts again once `finitor fit --unlock --only {shape}` drops the hand edit."
            ),
        },
    )
}

/// Of a body that is drawn for both sides: what happens, and the fix.
fn drawn_for_both(turn: &Turn, more: &str) -> (String, String) {
    let [left, _, right, _] = turn.edges();
    let shape = &turn.shape;
    (
        format!("Turning moves the left edge of {shape} {left:.2} px and the right edge {right:.2} px{more}"),
        format!("Draw {shape} by hand so that it covers both sides, or keep {:.2} px from walls.", turn.moved()),
    )
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Pose, Role};
    use crate::geometry::Rect;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::{HERO, actor, shape};

    #[test]
    fn a_turn_moves_the_sides_by_what_they_differ() {
        let with = |back: f64, front: f64| {
            let body = shape("body", Role::Body, Rect::new(-back, -20.0, front, 0.0), HERO, None);
            let pose = Pose { shapes: vec![body], ..Pose::default() };
            of_actor::<Lopsided>(&facts(&actor("hero", vec![("stand", vec![pose.clone(), pose])])))
        };
        assert_eq!(
            with(6.0, 4.0),
            [
                "stand 0: 2: body reaches 4.00 px ahead and 6.00 px behind; turning moves its sides 2.00 px, on 2 frames. Set `symmetric = true` on body, or widen it 2.00 px ahead, or keep 2.00 px from walls ahead."
            ]
        );
        assert_eq!(with(6.0, 5.0), [""; 0], "1 px is let pass");
        assert_eq!(with(4.0, 7.5).len(), 1);
    }
}
