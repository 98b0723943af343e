//! Walking bodies that are stopped by what ought not to stop them: low edges, joints of a flat floor, thin parts of their own.

use super::checker::World;
use super::footing::USUAL_STEP;
use super::ground::highest_surface;
use super::ledger::Fault;
use super::step::Step;
use super::tries::depth_at;
use super::words::{place, px};
use super::{Cause, Rule, Worst};
use crate::geometry::{Convex, Point, Rect, TOUCH, Vec2, bounds_of_pieces, cut_back, deepest_overlap, rects_meet};
use crate::stage::{Outline, Solid};

/// What is slower walks into nothing, px a tick.
const WALK: f64 = 1.0;
/// How far ahead a stop is felt for, px.
const AHEAD: f64 = 0.5;
/// A stop this near to a joint is a stop at it, px.
const AT: f64 = 0.02;
/// A part of a body thinner than this ought not to stop it, px.
const THIN: f64 = 4.0;

/// How a body walks and what is left of that on this step.
#[derive(Clone, Copy, Debug)]
pub(super) struct Walk {
    way: f64,
    speed: f64,
    lost: f64,
}

/// The walk of a body that has lost three quarters of its speed on this step, and did not turn; `pace` is how far it went two steps
/// ago, for the step that meets an edge may be a short one.
pub(super) fn stopped(step: &Step<'_>, motion: Vec2, pace: f64) -> Option<Walk> {
    let last = step.last_move?.x;
    let speed = if pace * last > 0.0 { last.abs().max(pace.abs()) } else { last.abs() };
    let slow = speed * 0.25;
    let is_stopped = motion.x.abs() <= slow && last.abs() > slow && step.now.facing == step.before?.facing;
    (speed >= WALK && is_stopped).then(|| Walk { way: last.signum(), speed, lost: speed - motion.x.abs() })
}

/// The solids that it would get into half a px ahead, and is not in.
fn ahead<'a>(world: &World<'a>, step: &Step<'a>, way: f64) -> impl Iterator<Item = &'a Solid> {
    let (body, now) = (&step.body.pieces, step.now.at.to_vec2());
    let meets = move |at: Vec2, solid: &Solid| deepest_overlap(body, at, &solid.outline.pieces).is_some();
    let seen = step.seen(world).map(|(_, solid)| solid);
    seen.filter(move |solid| meets(now + Vec2::new(way * AHEAD, 0.0), solid) && !meets(now, solid))
}

/// What a solid is to a body half a px further on.
enum Ahead {
    /// A floor that goes on upwards, as steep as any floor is.
    Slope,
    /// A side so many px higher than the body's foot; without end where it reaches over the body.
    Edge(f64),
}

/// What lies in front of a body whose box, half a px further on, is given.
fn edge_ahead(outline: &Outline, body: Rect, way: f64) -> Ahead {
    const PARTS: u32 = 10;
    let part = AHEAD / f64::from(PARTS);
    let height = |from: f64, to: f64| {
        let (a, b) = if way > 0.0 {
            (body.x1 - AHEAD + from, body.x1 - AHEAD + to)
        } else {
            (body.x0 + AHEAD - to, body.x0 + AHEAD - from)
        };
        highest_surface(outline, (a, b), body.y0).map(|(_, y)| body.y1 - y)
    };
    let Some(whole) = height(0.0, AHEAD).filter(|height| *height > 0.0) else { return Ahead::Edge(f64::INFINITY) };
    let (mut before, mut steepest) = (0.0, 0.0_f64);
    for index in 0..PARTS {
        let now = height(f64::from(index) * part, f64::from(index + 1) * part).unwrap_or(0.0).max(0.0);
        steepest = steepest.max(now - before);
        before = now;
    }
    // As steep as 2 in 1 is a floor, as for a rise.
    if steepest <= part * 2.0 + TOUCH { Ahead::Slope } else { Ahead::Edge(whole) }
}

/// A walking body stopped by an edge that it would step up, or by a thin part of its own outline.
pub(super) fn snagged(world: &World<'_>, step: &Step<'_>, Walk { way, speed, lost }: Walk) -> Option<Fault> {
    let own = step.actor.moves.step.unwrap_or(USUAL_STEP);
    let body = step.bounds() + Vec2::new(way * AHEAD, 0.0);
    // Every edge ahead must be low: what is stopped by a wall is stopped by right.
    let mut low: Option<(f64, &Solid)> = None;
    for solid in ahead(world, step, way) {
        match edge_ahead(&solid.outline, body, way) {
            Ahead::Edge(height) if height <= own => {
                low = low.filter(|known| known.0 >= height).or(Some((height, solid)));
            }
            Ahead::Slope => {}
            Ahead::Edge(_) => return thin_part(world, step, (way, lost)),
        }
    }
    let (height, solid) = low?;
    let lifted = step.now.at - Vec2::new(0.0, height);
    let left = depth_at(world, step, lifted + Vec2::new(way * lost, 0.0));
    let corner = Point::new(if way > 0.0 { body.x1 - AHEAD } else { body.x0 + AHEAD }, body.y1 - height);
    let message = format!(
        "{} walked {} px a tick and was stopped by an edge of {} that is only {} px high.",
        step.label,
        px(speed),
        solid.name,
        px(height)
    );
    let remedy = format!(
        "lift it by {} px to {} and go on {} px, or lower the edge by that",
        px(height),
        place(lifted),
        px(lost)
    );
    let snag = Snag { solid, way, tick: step.now.tick, depth: height, at: corner };
    Some(fault(world, step, &snag, (message, remedy), if left > step.slack { height } else { 0.0 }))
}

/// What stopped a body that walked a way: on which tick, by how much, and where.
struct Snag<'a> {
    solid: &'a Solid,
    way: f64,
    tick: u64,
    depth: f64,
    at: Point,
}

/// The fault of a snag; `remains` is what is left of it.
fn fault(
    world: &World<'_>,
    step: &Step<'_>,
    snag: &Snag<'_>,
    (message, remedy): (String, String),
    remains: f64,
) -> Fault {
    let Snag { solid, way, tick, depth, at } = *snag;
    Fault {
        rule: Rule::Snagged,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: format!("{}/{}", world.stage.name, solid.name),
        worst: Worst { tick, depth, at, push: Vec2::new(0.0 - way, 0.0) },
        cause: Cause::Moved,
        message,
        remedy,
        remains: Some(remains),
    }
}

/// A walking body of which only thin pieces meet what is ahead, the rest having room for the step that was lost.
fn thin_part(world: &World<'_>, step: &Step<'_>, (way, lost): (f64, f64)) -> Option<Fault> {
    let breadth =
        |piece: &Convex| piece.normals().iter().map(|axis| piece.breadth(*axis)).fold(f64::INFINITY, f64::min);
    let (thin, rest): (Vec<Convex>, Vec<Convex>) =
        step.body.pieces.iter().cloned().partition(|piece| breadth(piece) < THIN);
    if thin.is_empty() || rest.is_empty() {
        return None;
    }
    let at = step.now.at.to_vec2();
    let meets = |pieces: &[Convex], by: f64, solid: &Solid| {
        deepest_overlap(pieces, at + Vec2::new(way * by, 0.0), &solid.outline.pieces)
    };
    // One step of the rest, in parts no longer than half a px, so that nothing is leapt over.
    let parts = (lost / AHEAD).ceil().max(1.0);
    let is_clear = |solid: &Solid| {
        (1..=parts as u32)
            .all(|part| meets(&rest, lost * f64::from(part) / parts, solid).is_none_or(|o| o.0.depth <= step.slack))
    };
    if !step.seen(world).all(|(_, solid)| is_clear(solid)) {
        return None;
    }
    let (solid, part) = ahead(world, step, way).find_map(|solid| Some((solid, meets(&thin, AHEAD, solid)?.1)))?;
    let (part, thick) = (&thin[part], breadth(&thin[part]));
    let bounds = part.bounds() + at;
    let front = Point::new(if way > 0.0 { bounds.x1 } else { bounds.x0 }, bounds.center().y);
    let past = bounds_of_pieces(&rest)
        .map_or(0.0, |rest| if way > 0.0 { part.bounds().x1 - rest.x1 } else { rest.x0 - part.bounds().x0 });
    let message = format!(
        "{} was stopped by {} with a part of its {} that is {} px thin and reaches {} px past the rest.",
        step.label,
        solid.name,
        step.body.name,
        px(thick),
        px(past.max(0.0))
    );
    let remedy = format!(
        "say slim = {} for [shape.{}], or move that part {} px back: the rest has room to go on",
        thick.floor() + 1.0,
        step.body.name,
        px(past.max(lost))
    );
    let snag = Snag { solid, way, tick: step.now.tick, depth: thick, at: front };
    Some(fault(world, step, &snag, (message, remedy), 0.0))
}

/// A stop at a joint of a level floor with nothing ahead; it is a fault if the actor still wants to walk on the next tick.
#[derive(Clone, Copy, Debug)]
pub(super) struct AtJoint {
    tick: u64,
    animation: usize,
    corner: Point,
    walk: Walk,
    /// Where the solid ahead is among the stage's.
    solid: u32,
}

/// Whether a walking body stopped where two solids of one height meet under its front, and nothing is ahead.
pub(super) fn at_joint(world: &World<'_>, step: &Step<'_>, walk: Walk) -> Option<AtJoint> {
    let way = walk.way;
    let before = step.before?;
    // A step cut short is the mark of a stop; whoever lets go of the key does so after a whole one.
    let is_cut = [step.last_move?.x, step.now.at.x - before.at.x]
        .into_iter()
        .any(|across| across.abs() > TOUCH && across.abs() < walk.speed - AT);
    // In whole px steps differ by rounding, and every few stops are at a joint.
    let earlier = before.at.x - step.last_move?.x;
    let is_whole = [earlier, before.at.x, step.now.at.x].into_iter().all(|x| (x - x.round()).abs() < TOUCH);
    if !is_cut || is_whole {
        return None;
    }
    if before.animation != step.now.animation || ahead(world, step, way).next().is_some() {
        return None;
    }
    let body = step.bounds();
    // Its front, and the front of what it stands with: round bodies are narrower there.
    let foot = step.body.bounds().y1 - step.slack;
    let low = cut_back(&step.body.pieces, Vec2::new(0.0, -1.0), 0.0 - foot);
    let low = bounds_of_pieces(&low).map_or(body, |low| low + step.now.at.to_vec2());
    let front = |rect: Rect| if way > 0.0 { rect.x1 } else { rect.x0 };
    let fronts = [front(body), front(low)];
    let is_level = |y: f64| (y - body.y1).abs() <= step.slack;
    // The side of the solid ahead that a body which has sunk a hair would meet.
    let side = |solid: &Solid| {
        let outline = &solid.outline;
        let x = if way > 0.0 { outline.bounds.x0 } else { outline.bounds.x1 };
        let (near, top) = (fronts.iter().any(|front| (front - x).abs() <= AT), (x, x + way * AHEAD));
        let (_, y) = highest_surface(outline, (top.0.min(top.1), top.0.max(top.1)), body.y0)?;
        (near && is_level(y)).then_some((x, y))
    };
    let carries = |solid: &Solid, x: f64| {
        let under = if way > 0.0 { (x - AHEAD, x) } else { (x, x + AHEAD) };
        let meets = rects_meet(solid.outline.bounds, body.inflate(0.0, step.slack));
        meets && highest_surface(&solid.outline, under, body.y0).is_some_and(|(_, y)| is_level(y))
    };
    let found = step.seen(world).filter_map(|(place, solid)| {
        let (x, y) = side(solid)?;
        let carried = step.seen(world).any(|(other, floor)| other != place && carries(floor, x));
        carried.then_some((place, x, y))
    });
    let (solid, x, y) = { found }.next()?;
    Some(AtJoint { tick: step.now.tick, animation: step.now.animation, corner: Point::new(x, y), walk, solid })
}

/// The fault of a stop at a joint, now that the actor still walks.
pub(super) fn stuck_at_joint(world: &World<'_>, step: &Step<'_>, joint: AtJoint) -> Option<Fault> {
    let before = step.before?;
    if step.now.animation != joint.animation || step.now.facing != before.facing {
        return None;
    }
    let solid = &world.stage.solids[joint.solid as usize];
    let went_on = before.at + Vec2::new(joint.walk.way * joint.walk.lost, 0.0);
    let left = depth_at(world, step, went_on);
    let Walk { way, speed, lost } = joint.walk;
    let message = format!(
        "{} walked {} px a tick and was stopped at the joint where {} begins, level with the floor it walks on.",
        step.label,
        px(speed),
        solid.name
    );
    let remedy =
        format!("merge the two solids, or let it go on {} px to {}: nothing is in the way", px(lost), place(went_on));
    let snag = Snag { solid, way, tick: joint.tick, depth: lost, at: joint.corner };
    Some(fault(world, step, &snag, (message, remedy), if left > step.slack { lost } else { 0.0 }))
}
