//! Room on stages against trying every place.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;
mod world;

use finitor_core::actor::Actor;
use finitor_core::clearance::{PassageKind, Stance, low_stretches, passages, pockets};
use finitor_core::geometry::deepest_overlap;
use finitor_core::stage::{Effect, Passes, Stage};
use finitor_core::world::{Space, pivots_hit};
use finitor_core::{Convex, Point, Polygon, Rect, Vec2};
use proptest::prelude::*;
use support::cases;

const WIDTH: u32 = 48;
const HEIGHT: u32 = 32;

fn quarter(n: i32) -> f64 {
    f64::from(n) / 4.0
}

/// Corners on quarters of a px, so that many places touch exactly: boxes, triangles and notched outlines.
fn outline() -> impl Strategy<Value = Polygon> {
    let boxed = (-20..180, -20..120, 1..80, 1..60).prop_map(|(x, y, w, h)| {
        Polygon::from_rect(Rect::new(quarter(x), quarter(y), quarter(x + w), quarter(y + h))).ok()
    });
    let free = proptest::collection::vec((0..192, 0..128), 3..7).prop_map(|corners| {
        Polygon::new(corners.into_iter().map(|(x, y)| Point::new(quarter(x), quarter(y))).collect()).ok()
    });
    prop_oneof![boxed, free].prop_filter_map("touches itself", |polygon| polygon)
}

/// A box, a round body, and one of two pieces that is not convex; the pivot on its foot or beside it.
fn body() -> impl Strategy<Value = Vec<Convex>> {
    let boxed = (4..40, 4..60, -40..20).prop_map(|(w, h, x): (i32, i32, i32)| {
        Polygon::from_rect(Rect::new(quarter(x), quarter(-h), quarter(x + w), 0.0)).unwrap().pieces()
    });
    let round = (2..8, 9..14).prop_map(|(radius, corners)| {
        let on =
            |k: i32| Vec2::from_angle(f64::from(k) * std::f64::consts::TAU / f64::from(corners)) * f64::from(radius);
        Polygon::new((0..corners).map(|k| on(k).to_point()).collect()).unwrap().pieces()
    });
    let bent = (8..24, 8..24).prop_map(|(w, h)| {
        let (w, h) = (quarter(w), quarter(h));
        let corners = [(0.0, -2.0 * h), (w, -2.0 * h), (w, -h), (2.0 * w, -h), (2.0 * w, 0.0), (0.0, 0.0)];
        Polygon::new(corners.map(Point::from).to_vec()).unwrap().pieces()
    });
    prop_oneof![boxed, round, bent]
}

proptest! {
    #![proptest_config(cases(60))]

    /// Every place on a grid of quarters of a px is free by the columns exactly where the body overlaps nothing there.
    #[test]
    fn free_places_are_those_at_which_a_body_overlaps_nothing(
        solids in proptest::collection::vec(outline(), 0..9), body in body()
    ) {
        let solids: Vec<Vec<Convex>> = solids.iter().map(Polygon::pieces).collect();
        let pieces = || solids.iter().flatten();
        let hit: Vec<Convex> = pieces().flat_map(|solid| body.iter().map(|piece| pivots_hit(solid, piece))).collect();
        let space = Space::new(&hit, Rect::new(0.0, 0.0, WIDTH.into(), HEIGHT.into()));
        for row in 0..=4 * HEIGHT {
            for column in 0..=4 * WIDTH {
                let at = Point::new(f64::from(column) / 4.0, f64::from(row) / 4.0);
                let clear = solids.iter().all(|solid| deepest_overlap(&body, at.to_vec2(), solid).is_none());
                prop_assert_eq!(space.contains(at), clear, "at {:?}", at);
            }
        }
        // The nearest free place is free, and no place of the grid is nearer.
        let from = Point::new(f64::from(WIDTH) / 2.0, f64::from(HEIGHT) / 2.0);
        let near = space.nearest(from);
        prop_assert!(near.is_none_or(|near| space.contains(near)));
        let far = near.map_or(f64::INFINITY, |near| (near - from).hypot());
        for row in 0..=4 * HEIGHT {
            for column in 0..=4 * WIDTH {
                let at = Point::new(f64::from(column) / 4.0, f64::from(row) / 4.0);
                prop_assert!(!space.contains(at) || (at - from).hypot() >= far - 1e-9, "{:?} is nearer than {:?}", at, near);
            }
        }
    }
}

fn boxed(rect: Rect) -> Vec<Convex> {
    Polygon::from_rect(rect).unwrap().pieces()
}

#[test]
fn a_shaft_as_wide_as_the_body_and_a_crawl_as_high_are_free() {
    let body = boxed(Rect::new(-5.0, -20.0, 5.0, 0.0));
    let solids =
        [Rect::new(0.0, 10.0, 15.0, 100.0), Rect::new(25.0, 10.0, 60.0, 40.0), Rect::new(25.0, 60.0, 60.0, 100.0)];
    let hit: Vec<Convex> =
        solids.iter().flat_map(|rect| boxed(*rect)).map(|solid| pivots_hit(&solid, &body[0])).collect();
    let space = Space::new(&hit, Rect::new(0.0, 0.0, 60.0, 100.0));
    for (at, free) in [
        ((20.0, 80.0), true),
        ((20.0, 100.0), true),
        ((20.01, 80.0), false),
        ((19.99, 80.0), false),
        ((40.0, 60.0), true),
        ((40.0, 59.99), false),
        ((40.0, 60.01), false),
        ((20.01, 60.0), true),
    ] {
        assert_eq!(space.contains(at.into()), free, "{at:?}");
    }
}

/// The standing and the ducking body of the hero: 10 px wide, 20 and 10 high, its pivot 6 px from the one side and 4 from the
/// other, whichever way it looks.
fn hero() -> Vec<Stance> {
    let hero = world::hero(0);
    let duck = |mut actor: Actor| {
        for pose in actor.animations.iter_mut().filter(|a| a.name == "duck").flat_map(|a| a.frames.iter_mut().flatten())
        {
            pose.shapes[0].name = "low".into();
        }
        actor
    };
    let all = Stance::of(&duck(hero));
    assert_eq!(
        all.iter().map(|stance| (stance.name(), stance.height())).collect::<Vec<_>>(),
        [("hero.body".to_string(), 20.0), ("hero.low".to_string(), 10.0)]
    );
    all
}

fn stage_of(solids: &[(&str, Rect)]) -> Stage {
    let solids = solids.iter().map(|(name, rect)| world::solid(name, *rect)).collect();
    Stage { solids, ..world::stage() }
}

#[test]
fn passages_tell_what_each_body_has_to_spare_and_where_it_cannot_stand_up() {
    // A floor, a crawl of 12 px under a house 50 px wide, and two posts 13 px apart on it.
    let stage = stage_of(&[
        ("floor", Rect::new(0.0, 200.0, 400.0, 300.0)),
        ("house", Rect::new(100.0, 100.0, 150.0, 188.0)),
        ("post", Rect::new(250.0, 150.0, 260.0, 200.0)),
        ("mast", Rect::new(273.0, 120.0, 280.0, 200.0)),
    ]);
    let found = passages(&stage, &hero(), 4.0);
    let told = |kind: PassageKind| {
        let of = found.iter().filter(|passage| passage.kind == kind);
        of.map(|p| {
            (p.span, p.clear, p.between, p.open == [true; 2], p.rooms.iter().map(|room| room.spare).collect::<Vec<_>>())
        })
        .collect::<Vec<_>>()
    };
    assert_eq!(told(PassageKind::Level), [((100.0, 150.0), 12.0, (1, 0), true, vec![Some(-8.0), Some(2.0)])]);
    assert_eq!(told(PassageKind::Upright), [((150.0, 200.0), 13.0, (2, 3), false, vec![Some(3.0), Some(3.0)])]);
    let stances = hero();
    let stretches = low_stretches(&stage, &stances[1], &stances[0]);
    assert_eq!(stretches.len(), 1);
    let (stretch, touch) = (&stretches[0], 1e-6);
    // In either facing: 6 px on the one side are enough to be under the house.
    assert!((stretch.span.0 - 94.0).abs() < touch && (stretch.span.1 - 156.0).abs() < touch, "{stretch:?}");
    assert_eq!((stretch.floor, stretch.ceiling, stretch.y), (0, 1, (200.0, 200.0)));
    assert!((stretch.depth - 8.0).abs() < touch, "{stretch:?}");
}

#[test]
fn a_slope_under_a_ledge_is_measured_by_the_outline_and_not_by_boxes() {
    // Floor falling 1 in 2 under a level ceiling: the body's back corner is what meets the slope.
    let mut stage = stage_of(&[("house", Rect::new(100.0, 100.0, 150.0, 170.0))]);
    stage.solids.push(world::slope("hill", &[(50.0, 150.0), (250.0, 250.0), (50.0, 250.0)]));
    let found = passages(&stage, &hero(), 30.0);
    let level: Vec<_> = found.iter().filter(|passage| passage.kind == PassageKind::Level).collect();
    assert_eq!(level.len(), 1);
    let passage = level[0];
    // At x = 100 the hill is at 175 and the ceiling at 170: 5 px, the least of a passage that grows to the right.
    assert_eq!((passage.clear, passage.span, passage.at.x), (5.0, (100.0, 150.0), 100.0));
    // Entering from the left the body has 6 px behind its pivot (facing right, or 4 facing left); when its front is at the
    // ceiling its back is 10 px further up the hill, 5 px higher than the front: the room is 5 - 5 px less its height.
    let spare: Vec<f64> = passage.rooms.iter().map(|room| room.spare.unwrap()).collect();
    assert!((spare[0] + 20.0).abs() < 1e-9 && (spare[1] + 10.0).abs() < 1e-9, "{spare:?}");
}

#[test]
fn a_pit_is_a_pocket_for_those_that_jump_less_than_it_is_deep() {
    let mut stage = stage_of(&[
        ("left", Rect::new(0.0, 200.0, 100.0, 300.0)),
        ("pit", Rect::new(100.0, 248.0, 200.0, 300.0)),
        ("step", Rect::new(180.0, 230.0, 200.0, 248.0)),
        ("right", Rect::new(200.0, 200.0, 400.0, 300.0)),
    ]);
    let stand = &hero()[0];
    let at = |stage: &Stage, jump: f64| pockets(stage, stand, Point::new(50.0, 200.0), jump);
    let found = at(&stage, 29.0);
    assert_eq!(found.len(), 1);
    // From the step it is 30 px to the right.
    assert_eq!((found[0].floor, found[0].needs), (248.0, Some(30.0)));
    assert_eq!(at(&stage, 30.0), []);
    assert_eq!(at(&stage, 17.0)[0].needs, Some(30.0), "the step is climbed by the jump that leads out");
    stage.zones.push(world::zone("flood", Rect::new(110.0, 240.0, 150.0, 248.0), Effect::Hazard));
    assert_eq!(at(&stage, 29.0), [], "the flood ends it");
    stage.zones.clear();
    stage.one_ways.push(world::one_way("plank", Rect::new(130.0, 225.0, 170.0, 228.0), Passes::Up));
    assert_eq!(at(&stage, 25.0), [], "from the plank it is 25 px");
    assert_eq!(at(&stage, 24.0).len(), 1);
    // A trap door that lets down and not up again, over a closed cellar.
    let mut stage = stage_of(&[
        ("left", Rect::new(0.0, 200.0, 100.0, 300.0)),
        ("right", Rect::new(140.0, 200.0, 400.0, 300.0)),
        ("cellar", Rect::new(100.0, 280.0, 140.0, 300.0)),
    ]);
    stage.one_ways.push(world::one_way("trap", Rect::new(100.0, 200.0, 140.0, 204.0), Passes::Down));
    let found = at(&stage, f64::INFINITY);
    assert_eq!((found.len(), found[0].floor, found[0].needs), (1, 280.0, None));
    stage.one_ways[0].passes = Passes::Up;
    assert_eq!(at(&stage, f64::INFINITY), []);
}

/// Whether a box body overlaps a solid when its pivot is there.
fn blocked(solids: &[Rect], body: Rect, x: f64, y: f64) -> bool {
    solids.iter().any(|s| x + body.x1 > s.x0 && x + body.x0 < s.x1 && y + body.y1 > s.y0 && y + body.y0 < s.y1)
}

proptest! {
    #![proptest_config(cases(200))]

    /// Boxes on whole px: floors that are pockets, against walking and jumping from px to px.
    #[test]
    fn pockets_are_what_a_walk_from_px_to_px_cannot_leave(
        boxes in proptest::collection::vec((0..36, 4..24, 1..14, 1..10), 1..12), jump in 1..14_i32, half in 1..3_i32, high in 1..5_i32
    ) {
        const SIZE: (i32, i32) = (40, 26);
        let rect = |(x, y, w, h): (i32, i32, i32, i32)| Rect::new(x.into(), y.into(), (x + w).into(), (y + h).into());
        let mut solids: Vec<Rect> = boxes.iter().copied().map(rect).collect();
        solids.extend([Rect::new(-9.0, 24.0, 60.0, 40.0), Rect::new(-9.0, -30.0, 2.0, 60.0), Rect::new(38.0, -30.0, 60.0, 60.0)]);
        let body = Rect::new(f64::from(-half), f64::from(-high), f64::from(half), 0.0);
        let mut stage = stage_of(&solids.iter().map(|rect| ("solid", *rect)).collect::<Vec<_>>());
        stage.size = Vec2::new(SIZE.0.into(), SIZE.1.into());
        let mut stance = hero().remove(0);
        stance.shapes.truncate(1);
        stance.shapes[0].pieces = boxed(body);
        stance.shapes[0].bounds = body;
        let free = |x: f64, y: f64| !blocked(&solids, body, x, y);
        let start = (0..SIZE.0).find(|x| free(f64::from(*x), 0.0));
        prop_assume!(start.is_some());
        // Where it stands after falling from there.
        let x = start.unwrap();
        let start = (x, (0..).take_while(|y| free(f64::from(x), f64::from(*y) - 0.5)).last().unwrap());
        // From px to px: those at or below the level that the last floor allows.
        let index = |(x, y): (i32, i32)| (y * (SIZE.0 + 1) + x) as usize;
        let visit = |from: (i32, i32), stop: &dyn Fn((i32, i32)) -> bool| {
            let mut seen: Vec<Option<i32>> = vec![None; index((SIZE.0, SIZE.1)) + 1];
            let mut open = vec![(from, from.1)];
            while let Some((at, level)) = open.pop() {
                let (x, y) = (f64::from(at.0), f64::from(at.1));
                let level = if free(x, y + 0.5) { level } else { level.min(at.1 - jump) };
                if seen[index(at)].is_some_and(|known| known <= level) {
                    continue;
                }
                if stop(at) {
                    return (seen, true);
                }
                seen[index(at)] = Some(level);
                for (dx, dy) in [(1, 0), (-1, 0), (0, 1), (0, -1)] {
                    let to = (at.0 + dx, at.1 + dy);
                    let inside = (0..=SIZE.0).contains(&to.0) && (0..=SIZE.1).contains(&to.1) && to.1 >= level;
                    let half = (x + f64::from(dx) / 2.0, y + f64::from(dy) / 2.0);
                    if inside && free(f64::from(to.0), f64::from(to.1)) && free(half.0, half.1) {
                        open.push((to, level));
                    }
                }
            }
            (seen, false)
        };
        let (reached, _) = visit(start, &|_| false);
        let is_start = |at: (i32, i32)| at == start;
        let mut lowest: Option<i32> = None;
        for y in 0..=SIZE.1 {
            for x in 0..=SIZE.0 {
                let rests = reached[index((x, y))].is_some() && !free(f64::from(x), f64::from(y) + 0.5);
                if rests && !visit((x, y), &is_start).1 {
                    lowest = lowest.max(Some(y));
                }
            }
        }
        let found = pockets(&stage, &stance, Point::new(start.0.into(), start.1.into()), f64::from(jump));
        let deepest = found.iter().map(|pocket| pocket.floor).max_by(f64::total_cmp);
        prop_assert_eq!(deepest, lowest.map(f64::from), "{:#?}", found);
    }
}

proptest! {
    #![proptest_config(cases(200))]

    /// Corridors of boxes: raised by what a body is short of, the ceiling lets it through from end to end, and by a hundredth of
    /// a px less it does not; lowered by what it has to spare likewise.
    #[test]
    fn the_room_told_is_what_a_ceiling_must_rise_or_may_sink(
        bumps in proptest::collection::vec((0..8_u32, 1..40_u32), 2..7),
        drops in proptest::collection::vec((0..8_u32, 1..40_u32), 2..7),
        body in body(),
    ) {
        const END: f64 = 160.0;
        let bounds = body.iter().map(Convex::bounds).reduce(|a, b| a.union(b)).unwrap();
        let (height, width) = (bounds.height(), bounds.width());
        // Steps of 20 px in floor and ceiling, up to 10 px high, the ceiling about as high over the floor as the body.
        let stage_with = |raised: f64| {
            let mut solids = vec![Rect::new(0.0, 100.0, END, 140.0)];
            let top = 100.0 - height - 6.0 - raised;
            solids.push(Rect::new(20.0, top - 40.0, END - 20.0, top));
            solids.extend(bumps.iter().map(|(at, high)| {
                let x = 20.0 * f64::from(*at);
                Rect::new(x, 100.0 - f64::from(*high) / 8.0, x + 20.0, 100.0)
            }));
            solids.extend(drops.iter().filter(|(at, _)| (1..7).contains(at)).map(|(at, low)| {
                let x = 20.0 * f64::from(*at);
                Rect::new(x, top, x + 20.0, top + f64::from(*low) / 8.0)
            }));
            let mut stage = stage_of(&solids.iter().map(|rect| ("solid", *rect)).collect::<Vec<_>>());
            stage.size = Vec2::new(END, 140.0);
            stage
        };
        let mut stance = hero().remove(0);
        stance.shapes.truncate(1);
        (stance.shapes[0].pieces, stance.shapes[0].bounds) = (body.clone(), bounds);
        // From end to end: every column has a gap that borders on one of the column before, from left to right, near the floor.
        let passes = |raised: f64| {
            let stage = stage_with(raised);
            let space = stance.space(&stage);
            let low = |gap: &finitor_core::world::Gap| gap.bottom[0].max(gap.bottom[1]) > 100.0 - height - 20.0 - bounds.y1;
            let mut reached: Option<Vec<(f64, f64)>> = None;
            for column in space.columns() {
                let gaps = column.gaps.iter().filter(|gap| low(gap));
                let now: Vec<_> = match &reached {
                    None => gaps.map(|gap| (gap.top[1], gap.bottom[1])).collect(),
                    Some(from) => gaps
                        .filter(|gap| from.iter().any(|(top, bottom)| gap.bottom[0].min(*bottom) - gap.top[0].max(*top) >= -1e-9))
                        .map(|gap| (gap.top[1], gap.bottom[1]))
                        .collect(),
                };
                reached = Some(now);
            }
            reached.is_some_and(|reached| !reached.is_empty())
        };
        let found = passages(&stage_with(0.0), std::slice::from_ref(&stance), 60.0);
        let under = found.iter().filter(|passage| passage.kind == PassageKind::Level && passage.open == [true; 2]);
        // Only where the whole corridor is one passage and longer than the body.
        let Some(corridor) = under.into_iter().find(|p| p.span.0 <= 20.0 && p.span.1 >= END - 20.0) else { return Ok(()) };
        prop_assume!(width < END - 40.0);
        let spare = corridor.rooms[0].spare.unwrap();
        prop_assume!(spare.is_finite());
        prop_assert_eq!(passes(0.0), spare >= 0.0, "spare {}", spare);
        prop_assert!(passes(-spare + 1e-6), "raised by {} it passes", -spare);
        prop_assert!(!passes(-spare - 0.01), "raised by {} it does not", -spare - 0.01);
    }
}
