//! off_ground: the art of a frame that should stand does not end on the pivot's line.

use crate::change::{Change, ChangeOf, NewValue, Owned};
use crate::finding::Place;
use crate::geometry::Point;
use crate::lint::facts::{ActorFacts, FrameFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// What is less than half a pixel off cannot be seen off.
const LEAST_OFF: f64 = 0.5;
/// Frames listed one by one at most.
const MOST_LISTED: usize = 6;
/// Pivots listed one by one at most.
const MOST_PIVOTS: usize = 8;

#[derive(Debug)]
pub(crate) struct OffGround;

impl StillRule for OffGround {
    const SPEC: Spec = Spec {
        code: "off_ground",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The art of a frame that should stand does not end on the pivot's line.",
            matters: "The pivot is where the game puts the actor on the ground: the figure floats above it or sinks in, on \
                      that frame and at every place.",
            measured: "The lower edge of the lowest opaque row (alpha 128 and more) against the pivot's y; above 0 it lies \
                       below the line. Frames that should stand are those of animations with `standing = true`, or named \
                       by --standing. It counts from half a pixel on.",
            fix: "Set the pivot to the one given. Where frames differ, give the pivots by frame as listed, or redraw the \
                  frames named.",
            drawing: "     o\n    /|\\\n    / \\    lowest opaque row\n  --------  the pivot's line\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        for animation in facts.animations.iter().filter(|animation| animation.must_stand) {
            let frames = &facts.frames[animation.frames.clone()];
            if let Some(Found { fault, change }) = of_animation(facts.name, animation.name, frames) {
                out.report_with(change, fault);
            }
        }
    }
}

/// A frame whose art is off the line.
struct Off {
    number: usize,
    by: f64,
}

/// What is wrong, and the value that fixes it where it is one.
struct Found {
    fault: Fault,
    change: Option<Change>,
}

/// Frames of an animation that are off the line, as one finding: when every frame is off by the same the fix is one pivot,
/// else a list.
fn of_animation(actor: &str, animation: &str, frames: &[FrameFacts]) -> Option<Found> {
    let off = |frame: &FrameFacts| frame.foot.as_ref().map(|foot| foot.y);
    let wrong: Vec<Off> = frames
        .iter()
        .enumerate()
        .filter_map(|(number, frame)| Some(Off { number, by: off(frame)? }))
        .filter(|off| off.by.abs() >= LEAST_OFF)
        .collect();
    let worst = wrong.iter().max_by(|a, b| a.by.abs().total_cmp(&b.by.abs()).then(b.number.cmp(&a.number)))?;
    let (number, figure) = (worst.number, worst.by);
    let fixed = |frame: &FrameFacts| Point::new(frame.pivot.x, frame.pivot.y + off(frame).unwrap_or(0.0));
    let one = fixed(&frames[number]);
    let is_one = frames.iter().all(|frame| off(frame).is_none() || fixed(frame) == one);
    let side = if figure > 0.0 { "below" } else { "above" };
    let which = match wrong.as_slice() {
        _ if is_one && wrong.len() > 1 => format!("All frames of {animation} end"),
        [only] => format!("{animation} {} ends", only.number),
        several => {
            let (wrong, all) = (several.len(), frames.len());
            format!("{wrong} of {all} frames of {animation} end off the pivot's line; {animation} {number} ends")
        }
    };
    let change = is_one.then(|| Change {
        of: ChangeOf::Pivot(Owned::new(actor, animation)),
        key: "pivot",
        value: NewValue::Numbers(vec![one.x, one.y]),
    });
    let fault = Fault {
        subject: actor.to_string(),
        place: Place::Actor(if wrong.len() == 1 { format!("{animation} {number}") } else { animation.to_string() }),
        figure,
        message: format!("{which} {:.1} px {side} the pivot's line", figure.abs()),
        fix: if is_one {
            format!("Set `pivot = {}` for {animation}; now {}.", shown(one), shown(frames[number].pivot))
        } else {
            let pivots: Vec<String> = frames.iter().map(|frame| shown(fixed(frame))).collect();
            redraw(animation, &wrong, &pivots)
        },
    };
    Some(Found { fault, change })
}

fn shown(pivot: Point) -> String {
    format!("[{}, {}]", pivot.x, pivot.y)
}

fn redraw(animation: &str, wrong: &[Off], pivots: &[String]) -> String {
    let shifts = wrong.iter().take(MOST_LISTED).map(|off| {
        let way = if off.by > 0.0 { "up" } else { "down" };
        format!("{} {} px {way}", off.number, off.by.abs())
    });
    let shifts: Vec<String> = shifts.collect();
    let more = match wrong.len().saturating_sub(MOST_LISTED) {
        0 => String::new(),
        more => format!(" and {more} more"),
    };
    let pivots = match pivots.len() <= MOST_PIVOTS {
        true => format!("; or set `pivot = [{}]`", pivots.join(", ")),
        false => String::new(),
    };
    format!("Redraw {animation} {}{more}{pivots}.", shifts.join(", "))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::Foot;
    use crate::lint::testing;

    fn frame(y: f64, foot: Option<f64>) -> FrameFacts {
        let foot = foot.map(|foot| Foot { y: foot - y, runs: vec![(0.0, 1.0)] });
        FrameFacts { foot, ..testing::frame("", (8.0, y), (16.0, 16.0)) }
    }

    #[test]
    fn one_pivot_where_all_are_off_alike_and_a_list_where_they_differ() {
        let alike = of_animation("hero", "idle", &[frame(20.0, Some(22.0)), frame(20.0, Some(22.0))]).unwrap();
        assert_eq!((alike.fault.figure, alike.fault.place), (2.0, Place::Actor("idle".into())));
        assert_eq!(alike.fault.message, "All frames of idle end 2.0 px below the pivot's line");
        assert_eq!(alike.fault.fix, "Set `pivot = [8, 22]` for idle; now [8, 20].");
        let apart = of_animation("hero", "walk", &[frame(20.0, Some(20.0)), frame(20.0, Some(17.0))]).unwrap();
        assert_eq!((apart.fault.figure, apart.fault.place), (-3.0, Place::Actor("walk 1".into())));
        assert_eq!(apart.fault.fix, "Redraw walk 1 3 px down; or set `pivot = [[8, 20], [8, 17]]`.");
        assert!(of_animation("hero", "idle", &[frame(20.0, Some(20.4)), frame(20.0, None)]).is_none());
    }
}
