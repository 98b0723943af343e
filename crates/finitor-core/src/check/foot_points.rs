//! Games that stand their figures on slopes by points of the feet: by the middle of the body's bottom, or by a point near each
//! of its ends. What else there is of the bottom then lies in the slope by right.

use super::contacts::Contact;
use super::ledger::Readings;
use super::look::Look;
use super::step::Step;
use super::walk::STEEPEST;
use crate::geometry::{Stretch, Vec2, overlap_depth};
use crate::stage::Edge;

/// The readings.
const ALL: [FootPoints; COUNT] = [
    FootPoints::Middle,
    FootPoints::Pivot,
    FootPoints::Ends(0.0),
    FootPoints::Ends(1.0),
    FootPoints::Ends(2.0),
    FootPoints::Ends(3.0),
];
const COUNT: usize = 6;
/// How far apart the ground's height is asked for, px.
const APART: f64 = 0.5;
/// What is flatter than this is level, px a px.
const LEVEL: f64 = 0.1;

/// By which points of its bottom a figure stands on slopes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum FootPoints {
    /// The middle.
    Middle,
    /// The point under the pivot.
    Pivot,
    /// Two, so far from the body's ends, px.
    Ends(f64),
}

/// How an instance stands on slopes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Stance {
    pub(crate) by: FootPoints,
    /// The deepest that the body lies in them for that, px.
    pub(crate) depth: f64,
}

/// What speaks for a reading.
#[derive(Clone, Copy, Debug, Default)]
struct Evidence {
    ticks: u64,
    /// Ticks on which a body lay in the ground otherwise.
    against: u64,
    /// From where to where on the stage, px.
    across: Option<Stretch>,
    /// Of the slopes, px a px.
    steepness: Option<Stretch>,
    /// How far the ground was under the points that lay on it, px.
    under: Option<Stretch>,
    /// Ticks on which it was no further off than what touches.
    exact: u64,
    /// The deepest that the body lay in the ground, px.
    deepest: f64,
}

/// By which points an instance stands, as far as it is known.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct FootMemory {
    of: [Evidence; COUNT],
    /// How near what touches comes, px.
    near: f64,
}

/// What a body in the ground is to its foot points.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct OnPoints {
    /// The readings by which it stands there by right.
    pub(crate) by: Readings,
    /// How the points of each lie on the ground.
    lies: [Option<Lie>; COUNT],
    is_sloping: bool,
}

/// A point on sloping ground.
#[derive(Clone, Copy, Debug)]
struct Lie {
    /// Px a px.
    steepness: f64,
    /// How far the ground is under it, px.
    under: f64,
}

impl FootMemory {
    /// Takes in a body that is so deep in the ground on a tick.
    pub(crate) fn see(&mut self, step: &Step<'_>, on: OnPoints, depth: f64) {
        for (reading, evidence) in self.of.iter_mut().enumerate() {
            evidence.against += u64::from(on.is_sloping && !on.by.has(reading));
            let Some(Lie { steepness, under }) = on.lies[reading] else { continue };
            evidence.ticks += 1;
            evidence.deepest = evidence.deepest.max(depth);
            evidence.across = Some(with(evidence.across, step.now().at.x));
            evidence.steepness = Some(with(evidence.steepness, steepness));
            evidence.under = Some(with(evidence.under, under));
            evidence.exact += u64::from(under.abs() <= step.near());
        }
        self.near = step.near();
    }

    /// The readings that hold for the instance.
    pub(crate) fn known(&self) -> Readings {
        /// How many ticks must speak for a reading for each that speaks against it.
        const MOST: u64 = 4;
        /// A body that is stopped in a slope may touch it anywhere for a while; one that goes along it does not.
        const TICKS: u64 = 4;
        const ACROSS: f64 = 8.0;
        /// Two points in from the ends may be a body that is too low, which slopes of another steepness tell.
        const APART: f64 = 0.2;
        let is_known = |reading: &usize| {
            let is_inset = matches!(ALL[*reading], FootPoints::Ends(inset) if inset > 0.0);
            let Evidence { ticks, against, across, steepness, under, exact, .. } = &self.of[*reading];
            let is_rule = *ticks >= TICKS && *ticks >= MOST * against && exact * 2 > *ticks;
            let is_told_apart = !is_inset || steepness.is_some_and(|s| s.right - s.left >= APART);
            // The ground is neither always a little under the points nor always over them.
            let is_on = under.is_some_and(|under| under.left <= self.near && under.right >= -self.near);
            is_rule && is_told_apart && is_on && across.is_some_and(|a| a.right - a.left >= ACROSS)
        };
        (0..COUNT).filter(is_known).fold(Readings::default(), Readings::and)
    }

    /// How it stands, where that is by points.
    pub(crate) fn found(&self) -> Option<Stance> {
        let known = self.known();
        let best = (0..COUNT)
            .filter(|reading| known.has(*reading))
            .max_by_key(|reading| (self.of[*reading].ticks, COUNT - reading))?;
        Some(Stance { by: ALL[best], depth: self.of[best].deepest })
    }
}

fn with(stretch: Option<Stretch>, value: f64) -> Stretch {
    let Stretch { left, right } = stretch.unwrap_or(Stretch { left: value, right: value });
    Stretch { left: left.min(value), right: right.max(value) }
}

/// By which points of its bottom a body stands that is deep in a thing: they lie on the ground, none lies under it, from end to end
/// the ground is no steeper than a floor, and the body is clear of the thing once it is over the highest of it.
///
/// # Complexity
/// O(w e) for a body w px wide and e upper edges near.
pub(crate) fn points_on_ground(look: &Look<'_, '_>, contact: &Contact) -> OnPoints {
    let (step, body) = (look.step, look.step.bounds());
    let floors = look.floors();
    let tops = floors.supports(step).flat_map(|outline| &outline.tops);
    let tops: Vec<Edge> =
        tops.filter(|top| top.from.x <= body.x1 + APART && body.x0 - APART <= top.to.x).copied().collect();
    // Below its head: what lies higher is over it.
    let surface = |x: f64| {
        let under = tops.iter().filter(|top| top.from.x <= x && x <= top.to.x);
        let heights = under.map(|Edge { from, to }| from.y + (to.y - from.y) * ((x - from.x) / (to.x - from.x)));
        heights.filter(|y| *y > body.y0).fold(f64::INFINITY, f64::min)
    };
    // What only touches an end is beside it.
    let aside = step.near().min(body.width() / 4.0);
    let (left, right) = (body.x0 + aside, body.x1 - aside);
    let count = ((right - left) / APART).ceil().max(1.0);
    let across = (0..=count as usize).map(|at| left + (right - left) * (at as f64 / count));
    let profile: Vec<f64> = across.map(|x| surface(x).min(body.y1)).collect();
    let rises = STEEPEST * APART + step.actor.moves.step_height() + step.touch();
    if profile.windows(2).any(|pair| (pair[1] - pair[0]).abs() > rises) {
        return OnPoints::default();
    }
    let highest = profile.iter().copied().fold(body.y1, f64::min);
    let lifted = step.now().at.to_vec2() - Vec2::new(0.0, body.y1 - highest);
    if overlap_depth(&step.body.pieces, lifted, look.world().pieces(contact.thing)) > step.rough() {
        return OnPoints::default();
    }
    let near = step.slack.max(step.near());
    let mut on = OnPoints { is_sloping: true, ..OnPoints::default() };
    for (reading, points) in ALL.iter().enumerate() {
        let [one, other] = match points {
            FootPoints::Middle => [body.center().x; 2],
            FootPoints::Pivot => [step.now().at.x; 2],
            FootPoints::Ends(inset) => [left.max(body.x0 + inset), right.min(body.x1 - inset)],
        };
        let over = [one, other].map(|x| surface(x) - body.y1);
        // In the air the rest of the bottom is in the slope first.
        if one <= other && over.iter().all(|over| *over >= -near) {
            let touching = [one, other].into_iter().zip(over).filter(|(_, over)| over.abs() <= near);
            let lies = touching.map(|(x, under)| {
                let steepness = (surface(x - APART) - surface(x + APART)).abs() / (2.0 * APART);
                Lie { steepness, under }
            });
            let sloping = lies.filter(|lie| (LEVEL..=STEEPEST).contains(&lie.steepness));
            on.by = on.by.and(reading);
            on.lies[reading] = sloping.min_by(|a, b| a.under.abs().total_cmp(&b.under.abs()));
        }
    }
    on
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::check::{FootPoints, OnSlopes};
    use crate::stage::Stage;
    use crate::testing::*;

    /// Level ground, a slope of 1 in 2 up to the right, level ground.
    fn hill() -> Stage {
        let mut stage = stage();
        stage.solids.push(solid("low", Rect::new(0.0, 200.0, 100.0, 300.0)));
        stage.solids.push(slope("hill", &[(100.0, 200.0), (200.0, 150.0), (200.0, 300.0), (100.0, 300.0)]));
        stage.solids.push(solid("high", Rect::new(200.0, 150.0, 400.0, 300.0)));
        stage
    }

    /// The ground of it.
    fn ground(x: f64) -> f64 {
        200.0 - (x.clamp(100.0, 200.0) - 100.0) / 2.0
    }

    /// A walk to the right with its feet at some height, until it has come so far. The body reaches 4 px ahead and 6 px behind.
    fn walk(until: f64, height: impl Fn(f64) -> f64) -> Vec<Row> {
        let places: Vec<_> =
            (0..).map(|k| 60.0 + 1.7 * f64::from(k)).take_while(|x| *x <= until).map(|x| (x, height(x))).collect();
        path(&places)
    }

    #[test]
    fn who_stands_on_slopes_by_a_point_is_in_them_by_right() {
        // How much lower than the point the ground under the body's end is, straight out of the slope.
        let deep = |ahead: f64| ahead / 2.0 / 1.25_f64.sqrt();
        for (aside, by, ahead) in [(0.0, FootPoints::Pivot, 4.0), (-1.0, FootPoints::Middle, 5.0)] {
            let report = check(&hill(), hero(0), &walk(240.0, |x| ground(x + aside)));
            assert_eq!(short(&report), []);
            let [OnSlopes { by: found, px, .. }] = &report.written.slopes[..] else { panic!("{:?}", report.written) };
            assert_eq!(*found, by);
            assert!((px - deep(ahead)).abs() < 0.01, "{px}");
        }
    }

    #[test]
    fn who_only_sinks_into_slopes_is_at_fault() {
        let rules = |rows: &[Row]| -> Vec<&str> {
            let report = check(&hill(), hero(0), rows);
            assert_eq!(report.written.slopes, []);
            brief(&report).into_iter().map(|found| found.0).collect()
        };
        // By its body 1.5 px too low on the slope alone; level into it, as far as the point is; and lower with each step.
        let by_body = |x: f64| ground(x + 4.0);
        assert_eq!(rules(&walk(180.0, |x| by_body(x) + if x > 110.0 { 1.5 } else { 0.0 })), ["embedded"]);
        assert_eq!(rules(&walk(99.0, |_| 200.0)), ["embedded"]);
        assert_eq!(rules(&walk(130.0, |x| by_body(x) + 0.1 * (x - 96.0).max(0.0))), ["embedded"]);
        // A wall is no slope, whatever the point stands on.
        let mut walled = hill();
        walled.solids.push(solid("wall", Rect::new(150.0, 100.0, 170.0, 300.0)));
        let found = check(&walled, hero(0), &walk(148.0, ground));
        assert_eq!(brief(&found).into_iter().map(|found| found.0).collect::<Vec<_>>(), ["embedded"]);
        assert!(at(&found.findings[0]).with.ends_with("wall"));
    }
}
