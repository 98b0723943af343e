//! What a turn does to an actor: how far its sides move, and how the art drawn for the other side compares.

use super::{LintFinding, rounded, shared_area};
use crate::actor::{Actor, Shape};
use crate::check::{Rule, Severity};
use crate::geometry::{Convex, Point, Rect, ring_area};

/// A turn that moves the sides of a body by more than this is told, px.
const LEAST_LOPSIDED: f64 = 1.0;

/// What is less than half a pixel off cannot be seen off.
const LEAST_DRIFT: f64 = 0.5;

/// What a turn from the side an animation is drawn for to the other does to a body.
#[derive(Clone, Debug, PartialEq)]
pub struct Turn {
    /// Index of the animation.
    pub animation: usize,
    /// The body's name.
    pub shape: String,
    /// The frames with this very box.
    pub frames: Vec<usize>,
    /// How far it reaches ahead of the pivot as drawn, px.
    pub ahead: f64,
    /// How far it reaches behind.
    pub behind: f64,
    /// Its box as drawn, local.
    pub drawn: Rect,
    /// Its box on the other side.
    pub turned: Rect,
}

impl Turn {
    /// How far the left, top, right and bottom edge move; above 0 to the right and down.
    pub fn edges(&self) -> [f64; 4] {
        let (a, b) = (self.drawn, self.turned);
        [b.x0 - a.x0 + 0.0, b.y0 - a.y0 + 0.0, b.x1 - a.x1 + 0.0, b.y1 - a.y1 + 0.0]
    }

    /// The farthest that the left or right edge moves, px.
    pub fn moved(&self) -> f64 {
        let [left, _, right, _] = self.edges();
        left.abs().max(right.abs())
    }

    /// Room to be left before a wall in front so that turning away from it, and back, stays clear of it, px. For a body that
    /// is mirrored: what it reaches farther behind than ahead.
    pub fn room_ahead(&self) -> f64 {
        (self.behind - self.ahead).max(0.0)
    }

    /// Room to be left before a wall behind, px.
    pub fn room_behind(&self) -> f64 {
        (self.ahead - self.behind).max(0.0)
    }
}

/// What a turn does to the bodies of an actor, animation by animation, frames with the same box together.
pub fn turns(actor: &Actor) -> Vec<Turn> {
    let mut all: Vec<Turn> = Vec::new();
    for (index, animation) in actor.animations.iter().enumerate() {
        let first = all.len();
        for (frame, both) in animation.frames.iter().enumerate() {
            let (drawn, turned) = (&both[animation.faces.index()], &both[animation.faces.turned().index()]);
            let Some((body, other)) = drawn.body().zip(turned.body()) else { continue };
            let (a, b) = (body.bounds(), other.bounds());
            if let Some(known) = all[first..].iter_mut().find(|known| known.drawn == a && known.turned == b) {
                known.frames.push(frame);
                continue;
            }
            let (left, right) = (0.0 - a.x0, a.x1);
            let faces_right = animation.faces == crate::facing::Facing::Right;
            let (ahead, behind) = if faces_right { (right, left) } else { (left, right) };
            let shape = body.name.clone();
            all.push(Turn { animation: index, shape, frames: vec![frame], ahead, behind, drawn: a, turned: b });
        }
    }
    all
}

/// A shape drawn for the other side against the mirror image of the one that it stands for.
#[derive(Clone, Debug, PartialEq)]
pub struct TurnedShape {
    /// Index of the animation that it stands for.
    pub animation: usize,
    /// The frame.
    pub frame: usize,
    /// The shape's name.
    pub shape: String,
    /// Share of both that both have.
    pub iou: f64,
    /// How far its left, top, right and bottom edges are off the mirror image's; above 0 to the right and down.
    pub edges: [f64; 4],
}

/// All shapes of art drawn for the other side against the mirror images that they stand for.
///
/// # Complexity
/// O(shapes x pieces2).
pub fn turned_shapes(actor: &Actor) -> Vec<TurnedShape> {
    let mut all = Vec::new();
    for (index, animation) in actor.animations.iter().enumerate() {
        let Some(other) = animation.turned_by.map(|other| actor.animations[other].frames.len()) else { continue };
        for (frame, both) in animation.frames.iter().enumerate().take(other) {
            let mirrored = both[animation.faces.index()].turned(&actor.swaps);
            let drawn = &both[animation.faces.turned().index()];
            all.extend(drawn.shapes.iter().filter_map(|shape| {
                let twin = mirrored.shapes.iter().find(|twin| twin.name == shape.name)?;
                Some(compared(index, frame, shape, twin))
            }));
        }
    }
    all
}

fn compared(animation: usize, frame: usize, shape: &Shape, twin: &Shape) -> TurnedShape {
    let area = |pieces: &[Convex]| pieces.iter().map(|piece| ring_area(piece.points())).sum::<f64>();
    let shared = shared_area(&shape.pieces, &twin.pieces);
    let (a, b) = (shape.bounds(), twin.bounds());
    TurnedShape {
        animation,
        frame,
        shape: shape.name.clone(),
        iou: shared / (area(&shape.pieces) + area(&twin.pieces) - shared),
        edges: [a.x0 - b.x0 + 0.0, a.y0 - b.y0 + 0.0, a.x1 - b.x1 + 0.0, a.y1 - b.y1 + 0.0],
    }
}

/// Bodies whose sides a turn moves, each box told once, and frames that are missing of art drawn for the other side.
pub fn turning_findings(actor: &Actor, severity: impl Fn(Rule) -> Severity) -> Vec<LintFinding> {
    let mut found = Vec::new();
    let all = turns(actor);
    let mut told: Vec<(&Turn, usize)> = Vec::new();
    for turn in all.iter().filter(|turn| turn.moved() > LEAST_LOPSIDED) {
        match told.iter_mut().find(|(known, _)| known.drawn == turn.drawn && known.turned == turn.turned) {
            Some((_, frames)) => *frames += turn.frames.len(),
            None => told.push((turn, turn.frames.len())),
        }
    }
    for (turn, frames) in told {
        let animation = &actor.animations[turn.animation];
        let finding = |message: String, remedy: String| LintFinding {
            rule: Rule::Lopsided,
            severity: severity(Rule::Lopsided),
            actor: actor.name.clone(),
            place: format!("{} {}", animation.name, turn.frames[0]),
            figure: rounded(turn.moved()),
            message,
            remedy,
        };
        let Turn { ahead, behind, shape, .. } = turn;
        let more = if frames > 1 { format!(", on {frames} frames") } else { String::new() };
        if animation.turned_by.is_some() {
            let [left, _, right, _] = turn.edges();
            found.push(finding(
                format!(
                    "a turn moves the left edge of {shape} by {left:.2} px and the right one by {right:.2} px{more}"
                ),
                format!("hold {shape} over both sides by hand, or leave {:.2} px of room before walls", turn.moved()),
            ));
            continue;
        }
        let (short, wall) = if ahead > behind { ("behind", "behind") } else { ("ahead", "in front") };
        found.push(finding(
            format!(
                "{shape} reaches {ahead:.2} px ahead of the pivot and {behind:.2} px behind: a turn moves its sides by {:.2} px{more}",
                turn.moved()
            ),
            format!(
                "say symmetric = true for {shape}, or widen it by {:.2} px {short}, or leave as much room before a wall {wall}",
                turn.moved()
            ),
        ));
    }
    for animation in &actor.animations {
        let Some(other) = animation.turned_by.map(|other| &actor.animations[other]) else { continue };
        let missing: Vec<String> =
            (other.frames.len()..animation.frames.len()).map(|frame| frame.to_string()).collect();
        if !missing.is_empty() {
            found.push(LintFinding {
                rule: Rule::MissingTurned,
                severity: severity(Rule::MissingTurned),
                actor: actor.name.clone(),
                place: other.name.clone(),
                figure: missing.len() as f64,
                message: format!(
                    "{} stands for {} and has {} of its {} frames: {} {} mirrored instead",
                    other.name,
                    animation.name,
                    other.frames.len(),
                    animation.frames.len(),
                    missing.join(", "),
                    if missing.len() == 1 { "is" } else { "are" }
                ),
                remedy: format!("draw the missing frames of {}, or take `stands_for` out", other.name),
            });
        }
    }
    found
}

/// A frame and what flipping does to its art.
#[derive(Clone, Debug, PartialEq)]
pub struct FlippedFrame {
    /// Its name.
    pub place: String,
    /// The cell's width, px.
    pub width: f64,
    /// The pivot, cell px.
    pub pivot: Point,
    /// How far right of its mirror image about the pivot the flipped art lies, px.
    pub drift: f64,
}

/// Frames whose art flips about another axis than their shapes, those of one width and pivot told together.
pub fn flip_drift(actor: &str, frames: &[FlippedFrame], severity: Severity) -> Vec<LintFinding> {
    let mut told: Vec<(&FlippedFrame, usize)> = Vec::new();
    for frame in frames.iter().filter(|frame| frame.drift.abs() >= LEAST_DRIFT) {
        match told.iter_mut().find(|(known, _)| (known.width, known.pivot.x) == (frame.width, frame.pivot.x)) {
            Some((_, count)) => *count += 1,
            None => told.push((frame, 1)),
        }
    }
    let finding = |(FlippedFrame { place, width, pivot, drift }, count): (&FlippedFrame, usize)| {
        let side = if *drift > 0.0 { "right" } else { "left" };
        let more = if count > 1 { format!(", as on {} more frames", count - 1) } else { String::new() };
        LintFinding {
            rule: Rule::FlipDrift,
            severity,
            actor: actor.to_string(),
            place: place.clone(),
            figure: rounded(drift.abs()),
            message: format!(
                "flipped about the middle of its {width} px cell, the art lies {} px {side} of its shapes, which turn about \
                 the pivot at x {}{more}",
                drift.abs(),
                pivot.x
            ),
            remedy: format!(
                "set the pivot to [{}, {}]; or draw flipped art at an offset of {} px in x; or flip it about the pivot",
                width / 2.0,
                pivot.y,
                0.0 - drift
            ),
        }
    };
    told.into_iter().map(finding).collect()
}
