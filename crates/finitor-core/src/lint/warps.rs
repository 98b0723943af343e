//! Where warps put what they take.

use super::{LintFinding, rounded};
use crate::actor::{Actor, Shape};
use crate::check::{Rule, Severity};
use crate::clearance::{Space, pivots_hit};
use crate::facing::Facing;
use crate::geometry::{Convex, Rect, Vec2, deepest_overlap};
use crate::stage::{Stage, Warp, Zone};

/// A body as it may land: the frame it is on, and its shape in a facing.
struct Landing<'a> {
    frame: String,
    body: &'a Shape,
}

/// Landings inside of solids, and landings in a warp that takes the actor again at once, for every actor that the warp looks for,
/// in every frame with a body and in the facings it may land in.
///
/// # Complexity
/// O(warps x frames x solids) box tests, and that of [`Space::new`] for each landing that is not free.
pub fn warp_findings(
    stage: &Stage,
    actors: &[Actor],
    slack: f64,
    severity: impl Fn(Rule) -> Severity,
) -> Vec<LintFinding> {
    let mut found = Vec::new();
    for zone in &stage.zones {
        let Some(warp) = &zone.warp else { continue };
        for actor in actors {
            let landings = landings(actor, zone, warp);
            let place = |rule, figure: f64, message, remedy| LintFinding {
                rule,
                severity: severity(rule),
                actor: stage.name.clone(),
                place: zone.name.clone(),
                figure: rounded(figure),
                message,
                remedy,
            };
            if let Some((depth, landing, with)) = deepest(stage, &landings, warp, Vec2::ZERO, slack) {
                let message = format!(
                    "{}.{} lands {depth:.2} px deep in {with} on {}",
                    actor.name, landing.body.name, landing.frame
                );
                let remedy = match free(stage, &landings, warp) {
                    Some(by) => format!(
                        "set landing = [{:.2}, {:.2}]",
                        warp.landing.x + by.x + 0.0,
                        warp.landing.y + by.y + 0.0
                    ),
                    None => "land where there is room: near by there is none".to_string(),
                };
                found.push(place(Rule::LandingInside, depth, message, remedy));
            }
            if let Some((left, right, back)) = caught(stage, &landings, warp, zone.cooldown) {
                let further = left.min(right);
                // Landings lead out of the side that they are on, or that the actor looks to.
                let to_left = match warp.facing {
                    Some(facing) => facing == Facing::Left,
                    None => warp.landing.x < 0.0 || (warp.landing.x == 0.0 && left < right),
                };
                let (by, side) = if to_left { (0.0 - left, "left") } else { (right, "right") };
                let message = format!(
                    "{} lands in {back}, which takes it again at once: it must move {further:.2} px on to be clear",
                    actor.name
                );
                let remedy = format!(
                    "set landing = [{:.2}, {:.2}], {:.2} px further {side}; or cooldown = {} for one that walks 1 px a tick",
                    warp.landing.x + by,
                    warp.landing.y,
                    by.abs(),
                    by.abs().ceil()
                );
                found.push(place(Rule::LandingBounces, further, message, remedy));
            }
        }
    }
    found
}

fn landings<'a>(actor: &'a Actor, zone: &Zone, warp: &Warp) -> Vec<Landing<'a>> {
    let mut all = Vec::new();
    for animation in &actor.animations {
        for (number, poses) in animation.frames.iter().enumerate() {
            let facings = Facing::BOTH.into_iter().filter(|facing| warp.facing.is_none_or(|only| only == *facing));
            let bodies = facings.filter_map(|facing| poses[facing.index()].body());
            let seen = bodies.filter(|body| zone.mask.sees(body.layer));
            all.extend(seen.map(|body| Landing { frame: format!("{} {number}", animation.name), body }));
        }
    }
    all
}

/// The deepest that any landing lies in something that stops it, when the landing is moved by so much.
fn deepest<'a>(
    stage: &'a Stage,
    landings: &'a [Landing<'a>],
    warp: &Warp,
    moved: Vec2,
    slack: f64,
) -> Option<(f64, &'a Landing<'a>, &'a str)> {
    let at = stage.landing(warp).to_vec2() + moved;
    let mut worst: Option<(f64, &Landing<'_>, &str)> = None;
    for landing in landings {
        for solid in stage.solids.iter().filter(|solid| landing.body.mask.sees(solid.layer)) {
            let found = deepest_overlap(&landing.body.pieces, at, &solid.outline.pieces);
            if let Some((overlap, ..)) = found
                && overlap.depth > slack
                && worst.is_none_or(|(known, ..)| overlap.depth > known)
            {
                worst = Some((overlap.depth, landing, &solid.name));
            }
        }
    }
    worst
}

/// The shortest move that frees every landing wholly, to a hundredth of a px.
fn free(stage: &Stage, landings: &[Landing<'_>], warp: &Warp) -> Option<Vec2> {
    let at = stage.landing(warp);
    let hit = landings.iter().flat_map(|landing| {
        let seen = stage.solids.iter().filter(|solid| landing.body.mask.sees(solid.layer));
        let pieces = seen.flat_map(|solid| &solid.outline.pieces);
        pieces.flat_map(|piece| landing.body.pieces.iter().map(move |own| pivots_hit(piece, own)))
    });
    let hit: Vec<Convex> = hit.collect();
    let around = stage.area();
    let by = Space::new(&hit, around).nearest(at)? - at;
    // Numbers as one would write them: the nearest on a grid of hundredths that is free as well.
    let cent = |n: f64| n / 100.0;
    let (x, y) = ((by.x * 100.0).round(), (by.y * 100.0).round());
    let steps = [0.0, -1.0, 1.0, -2.0, 2.0];
    let near = steps.iter().flat_map(|dx| steps.map(|dy| Vec2::new(cent(x + dx), cent(y + dy))));
    let clear = near.filter(|by| deepest(stage, landings, warp, *by, 0.0).is_none());
    clear.min_by(|a, b| a.hypot2().total_cmp(&b.hypot2()))
}

/// How far left and right the landings must move to leave every warp that would take them at once, and the first such; none
/// where the cooldown lasts for as many px.
fn caught<'a>(stage: &'a Stage, landings: &[Landing<'_>], warp: &Warp, cooldown: u32) -> Option<(f64, f64, &'a str)> {
    let at = stage.landing(warp).to_vec2();
    let (mut left, mut right, mut name): (f64, f64, Option<&str>) = (0.0, 0.0, None);
    for zone in stage.zones.iter().filter(|zone| zone.warp.is_some()) {
        for landing in landings.iter().filter(|landing| zone.mask.sees(landing.body.layer)) {
            if deepest_overlap(&landing.body.pieces, at, &zone.outline.pieces).is_none() {
                continue;
            }
            let (body, zone_box): (Rect, Rect) = (landing.body.bounds() + at, zone.outline.bounds);
            left = left.max(body.x1 - zone_box.x0);
            right = right.max(zone_box.x1 - body.x0);
            name = name.or(Some(&zone.name));
        }
    }
    let name = name?;
    (f64::from(cooldown) < left.min(right)).then_some((left, right, name))
}
