//! Passages that a body just fits, or just does not.

use super::{LintFinding, rounded};
use crate::actor::Actor;
use crate::check::{Rule, Severity};
use crate::clearance::{Lie, Passage, Room, Stance, passages};
use crate::stage::Stage;

/// A body short by no more than this looks as if it fitted, px.
const NEARLY: f64 = 4.0;
/// A body with less than this to spare scrapes through, px.
const HARDLY: f64 = 1.0;

/// Passages open at both ends, and that not to the stage's border, in which a body of an actor that starts on the stage has less than 1 px to spare, or is short by no
/// more than 4 px.
///
/// # Complexity
/// That of [`passages`].
pub fn tight_passages(stage: &Stage, actors: &[Actor], severity: Severity) -> Vec<LintFinding> {
    let starts = |actor: &&Actor| stage.starts(&actor.name).next().is_some();
    let stances: Vec<Stance> = actors.iter().filter(starts).flat_map(Stance::of).collect();
    let is_near = |room: &&Room| room.spare.is_some_and(|spare| (-NEARLY..HARDLY).contains(&spare));
    let mut found = Vec::new();
    // What ends at the stage's border leads nowhere.
    let leads = |passage: &Passage| {
        let end = if passage.lie == Lie::Level { stage.size.x } else { stage.size.y };
        passage.open == [true; 2] && passage.span.0 > 0.0 && passage.span.1 < end
    };
    for passage in passages(stage, &stances, NEARLY).into_iter().filter(leads) {
        let near: Vec<&Room> = passage.rooms.iter().filter(is_near).collect();
        let spare = |room: &Room| room.spare.unwrap_or(0.0);
        let Some(worst) = near.iter().min_by(|a, b| spare(a).total_cmp(&spare(b))) else { continue };
        found.push(finding(stage, &stances, &passage, &near, spare(worst), severity));
    }
    found
}

fn finding(
    stage: &Stage,
    stances: &[Stance],
    passage: &Passage,
    near: &[&Room],
    worst: f64,
    severity: Severity,
) -> LintFinding {
    let (axis, size, less) = match passage.lie {
        Lie::Level => ("x", "high", "lower"),
        Lie::Upright => ("y", "wide", "narrower"),
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
            None => format!("{name} is longer than it"),
        }
    });
    let rooms: Vec<String> = rooms.collect();
    let (from, to) = passage.span;
    LintFinding {
        rule: Rule::TightPassage,
        severity,
        actor: stage.name.clone(),
        place: format!("{place}, {axis} {from:.2} to {to:.2}"),
        figure: rounded(worst),
        message: format!("it is {:.2} px {size}: {}", passage.clear, rooms.join("; ")),
        remedy: if worst < 0.0 {
            format!(
                "make it {:.2} px {size} at least, or so much {less} that it does not look passable",
                passage.clear - worst
            )
        } else {
            format!("make it {:.2} px {size} to leave {HARDLY} px", passage.clear + HARDLY - worst)
        },
    }
}
