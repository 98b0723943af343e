//! What bodies walk on: joints and slits between solids, low steps, steep slopes, slivers, and one-way platforms with too
//! little room above.

use super::{LintFinding, rounded};
use crate::actor::Actor;
use crate::check::{Rule, Severity};
use crate::clearance::{Border, Space, Stance, least_room};
use crate::geometry::{Convex, Point, Rect, TOUCH, Vec2, separation};
use crate::stage::{Outline, Stage};

/// Slits and lips under this are nobody's wish, px.
const LEAST_SEAM: f64 = 1.0;
/// Edges lower than this are rounding of shapes, px.
const LEAST_STEP: f64 = 0.1;
/// What is thinner than this is a sliver, px.
const LEAST_THICKNESS: f64 = 1.0;

/// What is wrong with the surfaces of a stage, for the actors that start on it.
///
/// # Complexity
/// O(solids2) box tests, and that of [`Space::new`] for the solids.
pub fn surface_findings(stage: &Stage, actors: &[Actor], severity: impl Fn(Rule) -> Severity) -> Vec<LintFinding> {
    let found = Found { stage, severity: &severity };
    let (space, solids) = strips(stage);
    let starting: Vec<&Actor> = actors.iter().filter(|actor| stage.starts(&actor.name).next().is_some()).collect();
    let mut all = found.slivers();
    all.extend(found.slits());
    let joints = joints(&space, &solids);
    all.extend(joints.iter().filter(|joint| joint.solids.0 != joint.solids.1).filter_map(|joint| found.lip(joint)));
    all.extend(found.flush(&joints));
    all.extend(found.low_steps(&joints, &starting));
    all.extend(found.steep_slopes(&floors(&space, &solids), &starting));
    all.extend(found.cramped(&starting));
    all
}

/// Where a floor goes on at another height, or on another solid.
struct Joint {
    at: Point,
    /// How much higher the one side is than the other, px, from 0 on.
    rise: f64,
    /// The lower solid and the higher one; left and right where they are level.
    solids: (usize, usize),
}

/// A stretch of floor.
struct Floor {
    from: Point,
    to: Point,
    solid: usize,
}

/// The floors of a stage, strip by strip, with what lies free over each.
fn strips(stage: &Stage) -> (Space, Vec<usize>) {
    let (pieces, solids) = stage.pieces(|_| true);
    (Space::new(&pieces, stage.area()), solids)
}

fn joints(space: &Space, solids: &[usize]) -> Vec<Joint> {
    let strips: Vec<_> = space.columns().iter().skip(1).step_by(2).collect();
    let mut found = Vec::new();
    for pair in strips.windows(2) {
        for left in &pair[0].gaps {
            for right in &pair[1].gaps {
                let shared = left.bottom[1].min(right.bottom[0]) - left.top[1].max(right.top[0]);
                let (Some(a), Some(b)) = (left.below, right.below) else { continue };
                // A lip and not a seam between pieces: what walks there has room over it.
                if shared <= LEAST_SEAM {
                    continue;
                }
                let rise = left.bottom[1] - right.bottom[0];
                let (a, b) = (solids[a], solids[b]);
                found.push(Joint {
                    at: Point::new(pair[1].x0, left.bottom[1].min(right.bottom[0])),
                    rise: rise.abs(),
                    solids: if rise >= 0.0 { (a, b) } else { (b, a) },
                });
            }
        }
    }
    found
}

struct Found<'a> {
    stage: &'a Stage,
    severity: &'a dyn Fn(Rule) -> Severity,
}

impl Found<'_> {
    fn told(&self, rule: Rule, place: String, figure: f64, message: String, remedy: String) -> LintFinding {
        let severity = (self.severity)(rule);
        let actor = self.stage.name.clone();
        LintFinding { rule, severity, actor, place, figure: rounded(figure), message, remedy }
    }

    fn name(&self, solid: usize) -> &str {
        &self.stage.solids[solid].name
    }

    /// Things thinner than a px.
    fn slivers(&self) -> Vec<LintFinding> {
        let thin = |(name, outline): (&str, &Outline)| {
            let (thickness, way) = least_width(outline)?;
            (thickness < LEAST_THICKNESS).then(|| {
                self.told(
                    Rule::Sliver,
                    name.to_string(),
                    thickness,
                    format!("{name} is {thickness:.2} px thin: what moves a px a tick can pass it unseen"),
                    format!(
                        "make it {LEAST_THICKNESS} px thick at least, {:.2} px more along ({:.2}, {:.2})",
                        LEAST_THICKNESS - thickness,
                        way.x,
                        way.y
                    ),
                )
            })
        };
        self.stage.things().map(|(name, outline, _)| (name, outline)).filter_map(thin).collect()
    }

    /// Solids that nearly touch.
    fn slits(&self) -> Vec<LintFinding> {
        let solids = &self.stage.solids;
        let mut found = Vec::new();
        for (i, one) in solids.iter().enumerate() {
            let around = one.outline.bounds.inflate(LEAST_SEAM, LEAST_SEAM);
            for other in solids[i + 1..].iter().filter(|other| around.overlaps(other.outline.bounds)) {
                let pairs = one.outline.pieces.iter().flat_map(|a| other.outline.pieces.iter().map(move |b| (a, b)));
                let apart = pairs.map(|(a, b)| separation(a, b)).min_by(|a, b| a.0.total_cmp(&b.0));
                let Some((apart, way)) = apart.filter(|(apart, _)| *apart > TOUCH && *apart < LEAST_SEAM) else {
                    continue;
                };
                let by = way * apart;
                found.push(self.told(
                    Rule::Seam,
                    format!("{}, {}", one.name, other.name),
                    apart,
                    format!("{} and {} are {apart:.2} px apart: corners catch in the slit", one.name, other.name),
                    format!("move {} by ({:.2}, {:.2}) so that they are flush", one.name, by.x + 0.0, by.y + 0.0),
                ));
            }
        }
        found
    }

    /// A lip between two solids.
    fn lip(&self, joint: &Joint) -> Option<LintFinding> {
        let Joint { at, rise, solids: (low, high) } = *joint;
        if rise <= TOUCH || rise > LEAST_SEAM {
            return None;
        }
        let (low, high) = (self.name(low), self.name(high));
        let place = format!("{low}, {high} at {:.2}, {:.2}", at.x, at.y);
        let message = format!("{high} stands {rise:.2} px over {low}: a lip that bodies catch on");
        let remedy = format!("move {high} down by {rise:.2} px, or {low} up, so that they are flush");
        Some(self.told(Rule::Seam, place, rise, message, remedy))
    }

    /// Joints in the floor that are flush, all in one.
    fn flush(&self, joints: &[Joint]) -> Option<LintFinding> {
        const MOST_NAMED: usize = 6;
        let flush: Vec<String> = joints
            .iter()
            .filter(|joint| joint.solids.0 != joint.solids.1 && joint.rise <= TOUCH)
            .map(|Joint { at, solids: (one, other), .. }| {
                format!("{} and {} at {:.2}, {:.2}", self.name(*one), self.name(*other), at.x, at.y)
            })
            .collect();
        let more = match flush.len().saturating_sub(MOST_NAMED) {
            0 => String::new(),
            more => format!("; and {more} more"),
        };
        let named = flush[..flush.len().min(MOST_NAMED)].join("; ");
        let message = format!("solids meet flush in the floor, with an edge between them: {named}{more}");
        let remedy = "make one outline of both where the game takes solids one by one".to_string();
        let found = self.told(Rule::Seam, "floor".into(), 0.0, message, remedy);
        (!flush.is_empty()).then(|| LintFinding { severity: found.severity.min(Severity::Note), ..found })
    }

    /// Edges that an actor walks up, if the game sees to it.
    fn low_steps(&self, joints: &[Joint], actors: &[&Actor]) -> Vec<LintFinding> {
        let is_lip = |joint: &Joint| joint.solids.0 != joint.solids.1 && joint.rise <= LEAST_SEAM;
        let mut found = Vec::new();
        for joint in joints.iter().filter(|joint| joint.rise >= LEAST_STEP && !is_lip(joint)) {
            let over = |actor: &&&Actor| actor.moves.step.is_some_and(|step| joint.rise <= step);
            let names: Vec<&str> = actors.iter().filter(over).map(|actor| actor.name.as_str()).collect();
            if names.is_empty() {
                continue;
            }
            let Joint { at, rise, solids: (_, high) } = *joint;
            found.push(self.told(
                Rule::LowStep,
                format!("{} at {:.2}, {:.2}", self.name(high), at.x, at.y),
                rise,
                format!("an edge of {rise:.2} px stands in the way, which {} walks up", names.join(", ")),
                format!(
                    "slope it, or lower it by {rise:.2} px; or see that the game lifts {} over it",
                    names.join(", ")
                ),
            ));
        }
        found
    }

    /// Slopes that an actor cannot walk on, higher than it steps.
    fn steep_slopes(&self, floors: &[Floor], actors: &[&Actor]) -> Vec<LintFinding> {
        let mut found = Vec::new();
        let limit = actors.iter().filter_map(|actor| actor.moves.slope).fold(f64::INFINITY, f64::min);
        if limit.is_infinite() {
            return found;
        }
        for floor in floors {
            let (run, rise) = (floor.to.x - floor.from.x, (floor.to.y - floor.from.y).abs());
            let angle = rise.atan2(run).to_degrees();
            let cannot = |actor: &&&Actor| {
                actor.moves.slope.is_some_and(|slope| angle > slope + TOUCH) && rise > actor.moves.step.unwrap_or(0.0)
            };
            let names: Vec<String> = actors
                .iter()
                .filter(cannot)
                .map(|actor| format!("{} ({} degrees)", actor.name, actor.moves.slope.unwrap_or(0.0)))
                .collect();
            if names.is_empty() {
                continue;
            }
            let least = actors.iter().filter(cannot).filter_map(|actor| actor.moves.slope).fold(90.0, f64::min);
            let longer = rise / least.to_radians().tan();
            found.push(self.told(
                Rule::SteepSlope,
                format!("{} at x {:.2} to {:.2}", self.name(floor.solid), floor.from.x, floor.to.x),
                angle,
                format!("the floor rises {rise:.2} px at {angle:.1} degrees, steeper than {} walks", names.join(", ")),
                format!("make it {longer:.2} px long instead of {run:.2}, or upright so that it is a wall"),
            ));
        }
        found
    }

    /// One-way platforms over which a body has too little room under a solid or another platform.
    fn cramped(&self, actors: &[&Actor]) -> Vec<LintFinding> {
        let stage = self.stage;
        let mut found = Vec::new();
        for platform in stage.one_ways.iter().filter(|one_way| one_way.passes.is_upward()) {
            let floors = borders(&platform.outline, true);
            let Rect { x0, x1, y0: top, .. } = platform.outline.bounds;
            // Where the pivot is over it. What rests on it is a wall there and no ceiling.
            let on = (x0, x1);
            for actor in actors {
                let stances = Stance::of(actor);
                let over = |stance: &Stance| {
                    let solids = stage.solids.iter().map(|solid| (&solid.name, &solid.outline, solid.layer));
                    let others =
                        stage.one_ways.iter().filter(|other| other.passes.is_upward() && other.name != platform.name);
                    let others = others.map(|other| (&other.name, &other.outline, other.layer));
                    let things = solids.chain(others).filter(|(.., layer)| stance.mask.sees(*layer));
                    let rooms = things.flat_map(|(name, outline, _)| {
                        let above: Vec<Border> = borders(outline, false)
                            .into_iter()
                            .filter(|border| border.from.y.max(border.to.y) < top - TOUCH)
                            .collect();
                        let floors = &floors;
                        stance
                            .shapes
                            .iter()
                            .map(move |shape| (least_room(&shape.pieces, &above, floors, on), name.as_str()))
                    });
                    rooms.min_by(|a, b| a.0.total_cmp(&b.0))
                };
                let Some(tallest) = stances.first().filter(|tallest| tallest.mask.sees(platform.layer)) else {
                    continue;
                };
                let Some((room, above)) = over(tallest).filter(|(room, _)| *room < 0.0 - TOUCH) else { continue };
                let others = stances[1..].iter().map(|stance| match over(stance) {
                    Some((room, _)) if room < 0.0 => format!("{} is {:.2} px short", stance.shape, -room),
                    _ => format!("{} fits", stance.shape),
                });
                let others: Vec<String> = others.collect();
                let others = if others.is_empty() { String::new() } else { format!("; {}", others.join(", ")) };
                found.push(self.told(
                    Rule::CrampedPlatform,
                    platform.name.clone(),
                    room,
                    format!(
                        "{} that rises through {} is caught under {above}: {:.2} px short of standing{others}",
                        tallest.name(),
                        platform.name,
                        -room
                    ),
                    format!("put {} {:.2} px lower, or {above} higher", platform.name, -room),
                ));
            }
        }
        found
    }
}

/// The upper, or the lower, edges of an outline.
fn borders(outline: &Outline, upper: bool) -> Vec<Border> {
    // The inside lies to the right of the way: edges that lead right are floors.
    let edges = outline.edges().filter(|(a, b)| if upper { b.x > a.x } else { b.x < a.x });
    edges.map(|(from, to)| Border { from, to, solid: 0 }).collect()
}

/// The floors of the stage, as long as they are straight and of one solid.
fn floors(space: &Space, solids: &[usize]) -> Vec<Floor> {
    let mut all: Vec<Floor> = Vec::new();
    for column in space.columns().iter().skip(1).step_by(2) {
        for gap in column.gaps.iter().filter(|gap| gap.bottom[0] - gap.top[0] + gap.bottom[1] - gap.top[1] > TOUCH) {
            let Some(below) = gap.below else { continue };
            let (from, to) = (Point::new(column.x0, gap.bottom[0]), Point::new(column.x1, gap.bottom[1]));
            let goes_on = |known: &&mut Floor| {
                let way = known.to - known.from;
                known.solid == solids[below]
                    && (known.to - from).hypot() <= TOUCH
                    && way.cross(to - known.from).abs() <= 1e-6 * way.hypot() * (to - known.from).hypot()
            };
            match all.iter_mut().rev().find(goes_on) {
                Some(known) => known.to = to,
                None => all.push(Floor { from, to, solid: solids[below] }),
            }
        }
    }
    all
}

/// The least extent of an outline over the directions of its edges, and that direction.
fn least_width(outline: &Outline) -> Option<(f64, Vec2)> {
    let hull = Convex::from_clockwise(crate::geometry::convex_hull(outline.polygon.points()));
    let width = |normal: &Vec2| hull.breadth(*normal);
    let least = hull.normals().iter().min_by(|a, b| width(a).total_cmp(&width(b)))?;
    Some((width(least), *least))
}
