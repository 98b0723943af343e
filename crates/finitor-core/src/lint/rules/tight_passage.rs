//! tight_passage: a body just fits a passage, or just does not.

use crate::actor::Actor;
use crate::clearance::{Passage, PassageKind, Room, Stance, passages};
use crate::finding::Place;
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Stage;

/// A body short by no more than this looks as if it fitted, px.
const NEARLY: f64 = 4.0;
/// A body with less than this to spare scrapes through, px.
const HARDLY: f64 = 1.0;

#[derive(Debug)]
pub(crate) struct TightPassage;

impl StillRule for TightPassage {
    const SPEC: Spec = Spec {
        code: "tight_passage",
        severity: Severity::Note,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body of an actor that starts on the stage has less than 1 px to spare in a passage, or is short \
                    by no more than 4 px.",
            matters: "It looks as if the actor could pass, and it cannot; or it scrapes through and any px more of the \
                      body stops it.",
            measured: "For each run of low or narrow places that is open at both ends, and each body in all its frames \
                       and both facings: the room between floor and ceiling (or wall and wall) as the body's outline \
                       meets them, at the tightest place. The figure is the room to spare, below 0 what is short. \
                       `finitor stage clearance` lists all passages.",
            fix: "Make the passage as high as the finding says, or plainly too low.",
            drawing: "   ##########\n    _   spare\n   [ ] ->\n   ##########\n",
        },
    };

    /// # Complexity
    /// That of [`passages`].
    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let stage = facts.stage;
        let stances: Vec<Stance> =
            facts.with_spawns().into_iter().flat_map(|actor: &Actor| Stance::of(actor)).collect();
        // What ends at the stage's border leads nowhere.
        let leads = |passage: &Passage| {
            let end = if passage.kind == PassageKind::Level { stage.size.x } else { stage.size.y };
            passage.open == [true; 2] && passage.span.0 > 0.0 && passage.span.1 < end
        };
        for passage in passages(stage, &stances, NEARLY).into_iter().filter(leads) {
            if let Some(fault) = near_miss(stage, &stances, &passage) {
                out.report(fault);
            }
        }
    }
}

/// What is said of a passage in which a body has little to spare, or is a little short.
fn near_miss(stage: &Stage, stances: &[Stance], passage: &Passage) -> Option<Fault> {
    let is_near = |room: &&Room| room.spare.is_some_and(|spare| (-NEARLY..HARDLY).contains(&spare));
    let near: Vec<&Room> = passage.rooms.iter().filter(is_near).collect();
    let spare = |room: &Room| room.spare.unwrap_or(0.0);
    let worst = spare(near.iter().min_by(|a, b| spare(a).total_cmp(&spare(b)))?);
    let (axis, size, less) = match passage.kind {
        PassageKind::Level => ("x", "high", "lower"),
        PassageKind::Upright => ("y", "wide", "narrower"),
    };
    let place = passage.place(stage);
    let of_actors = passage
        .rooms
        .iter()
        .filter(|room| near.iter().any(|near| stances[near.stance].actor == stances[room.stance].actor));
    let rooms = of_actors.map(|room| {
        let name = stances[room.stance].name();
        match room.spare {
            Some(spare) if spare < 0.0 => format!("{name} is {:.2} px short", -spare),
            Some(spare) if spare.is_finite() => format!("{name} fits with {spare:.2} px to spare"),
            Some(_) => format!("{name} fits"),
            None => format!("{name} is longer than the passage"),
        }
    });
    let rooms: Vec<String> = rooms.collect();
    let ((from, to), clear) = (passage.span, passage.clear);
    Some(Fault {
        subject: stage.name.clone(),
        place: Place::Stage(format!("{place}, {axis} {from:.2} to {to:.2}")),
        figure: worst,
        message: format!("The passage is {clear:.2} px {size}: {}", rooms.join("; ")),
        fix: if worst < 0.0 {
            format!(
                "Make it at least {:.2} px {size}, or so much {less} that it does not look passable.",
                clear - worst
            )
        } else {
            format!("Make it {:.2} px {size}, to leave {HARDLY} px.", clear + HARDLY - worst)
        },
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::testing::{floored, hero, solid};

    #[test]
    fn a_passage_that_nearly_fits_is_told_with_the_height_it_needs() {
        let with = |high: f64| {
            let mut stage = floored();
            stage.solids.push(solid("beam", Rect::new(150.0, 100.0, 250.0, 200.0 - high)));
            of_stage::<TightPassage>(&stage, &[hero(0)])
        };
        assert_eq!(with(21.0), [""; 0], "a px to spare over 20");
        assert_eq!(
            with(20.5),
            [
                "under beam, over floor, x 150.00 to 250.00: 0.5: The passage is 20.50 px high: hero.body fits with 0.50 px to spare. Make it 21.00 px high, to leave 1 px."
            ]
        );
        assert_eq!(
            with(18.0),
            [
                "under beam, over floor, x 150.00 to 250.00: -2: The passage is 18.00 px high: hero.body is 2.00 px short. Make it at least 20.00 px high, or so much lower that it does not look passable."
            ]
        );
        assert_eq!(with(15.0), [""; 0], "nobody takes that for a passage but for those that duck");
    }
}
