//! Reach against placing the two and testing, and against Minkowski differences cut by a line.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod world;

use finitor_core::actor::{Actor, Carried, Part, Role, Shape};
use finitor_core::geometry::{Convex, convex_hull, overlap_region};
use finitor_core::hits::{Attack, Duel, Meeting, Settle, Stance, Way, attacks, reach};
use finitor_core::layers::Layers;
use finitor_core::world::pivots_hit;
use finitor_core::{Facing, Point, Polygon, Rect, Vec2};
use world::dice::Dice;
use world::fight::{actor, shape};

/// A shape of one to three random convex pieces that do not meet.
fn random(dice: &mut Dice, name: &str, role: Role, part: &str) -> Shape {
    let (x, y) = (dice.between(-10.0, 30.0), dice.between(-50.0, 10.0));
    let polygons = (0..dice.whole(1, 3)).filter_map(|at| {
        let mut corner = || Point::new(x + 20.0 * f64::from(at) + dice.between(0.0, 19.0), y + dice.between(0.0, 24.0));
        let corners: Vec<Point> = (0..7).map(|_| corner()).collect();
        Polygon::new(convex_hull(&corners)).ok()
    });
    let polygons: Vec<Polygon> = polygons.collect();
    let pieces: Vec<Convex> = polygons.iter().filter_map(Convex::new).collect();
    let carries = Carried { part: Part { name: Some(part.into()), ..Part::default() }, ..Carried::default() };
    let box_of = pieces[0].bounds();
    Shape { polygons, pieces: pieces.into(), ..shape(name, role, box_of, usize::from(role == Role::Hurt), carries) }
}

fn random_pair(dice: &mut Dice) -> [Actor; 2] {
    let swing = (0..3).map(|_| vec![random(dice, "blade", Role::Hit, "")]).collect();
    let body = |dice: &mut Dice, layer| {
        let Shape { polygons, pieces, .. } = random(dice, "body", Role::Body, "");
        let of = shape("body", Role::Body, pieces.bounds(), layer, Carried::default());
        Shape { polygons, pieces, ..of }
    };
    let parts = [("face", "head"), ("chest", "chest"), ("neck", "head")];
    let parts = parts.map(|(name, part)| random(dice, name, Role::Hurt, part));
    let mut stands = parts.to_vec();
    stands.push(body(dice, 1));
    let mut swing: Vec<Vec<Shape>> = swing;
    swing[0].push(body(dice, 0));
    [actor("keeper", vec![("swing", swing)]), actor("gull", vec![("stand", vec![stands])])]
}

fn placed(duel: &Duel<'_>, distance: f64) -> Vec2 {
    let side = if duel.facing == Facing::Right { 1.0 } else { -1.0 };
    Vec2::new(distance * side, duel.of.lower)
}

fn rects_overlap(a: Rect, b: Rect) -> bool {
    a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1
}

/// Whether two shapes overlap, the second at a place.
fn meets(one: &Shape, other: &Shape, place: Vec2) -> bool {
    let pairs = one.pieces.iter().flat_map(|a| other.pieces.iter().map(move |b| (a, b)));
    let near = |a: &Convex, b: &Convex| rects_overlap(a.bounds() - place, b.bounds());
    pairs
        .into_iter()
        .any(|(a, b)| near(a, b) && overlap_region(a, Vec2::ZERO - place, b).is_some_and(|(area, _)| area > 1e-9))
}

/// The distances at which two shapes overlap, by their Minkowski difference cut on the level of the second.
fn by_difference(one: &Shape, other: &Shape, duel: &Duel<'_>) -> Vec<(f64, f64)> {
    let pairs = one.pieces.iter().flat_map(|a| other.pieces.iter().map(move |b| (a, b)));
    let cut = pairs.into_iter().filter_map(|(a, b)| {
        let difference = pivots_hit(a, b);
        let ring = difference.points();
        let edges = ring.iter().zip(ring.iter().cycle().skip(1));
        let at = edges.filter(|(a, b)| (a.y < duel.of.lower) != (b.y < duel.of.lower)).map(|(a, b)| {
            let x = a.x + (b.x - a.x) * (duel.of.lower - a.y) / (b.y - a.y);
            if duel.facing == Facing::Right { x } else { -x }
        });
        let at: Vec<f64> = at.collect();
        (at.len() == 2).then(|| (at[0].min(at[1]), at[0].max(at[1])))
    });
    let mut all: Vec<(f64, f64)> = cut.collect();
    all.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut merged: Vec<(f64, f64)> = Vec::new();
    for next in all {
        match merged.last_mut().filter(|last| next.0 <= last.1) {
            Some(last) => last.1 = last.1.max(next.1),
            None => merged.push(next),
        }
    }
    merged
}

#[test]
fn reach_is_what_placing_the_two_at_every_quarter_of_a_pixel_finds() {
    const STEP: f64 = 0.25;
    let layers = Layers::default();
    for seed in 0..500 {
        let mut dice = Dice::new(seed);
        let [attacker, target] = random_pair(&mut dice);
        let attack: Attack = attacks(&attacker).remove(0);
        let (facing, way) = (Facing::BOTH[dice.below(2) as usize], Way::BOTH[dice.below(2) as usize]);
        let (stance, lower) = (Stance::usual(&target).unwrap(), dice.between(-20.0, 20.0));
        let meeting =
            Meeting { attacker: &attacker, target: &target, stance, lower, layers: &layers, settle: Settle::Area };
        let duel = meeting.duel(facing, way);
        let found = reach(&duel, &attack);
        let pose = target.pose(0, 0, way.facing(facing));
        let hit =
            |frame: usize| attacker.pose(0, frame, facing).shapes.iter().find(|shape| shape.role == Role::Hit).unwrap();
        let hurts = |part: &str| {
            let part = part.to_string();
            pose.shapes.iter().filter(move |shape| shape.carries.part.name.as_deref() == Some(part.as_str()))
        };
        for frame in &found.frames {
            for part in ["head", "chest"] {
                let reach = frame.parts.iter().find(|known| known.part == part).map(|known| known.reach.all());
                let reach: Vec<(f64, f64)> = reach.unwrap_or(&[]).iter().map(|at| (at.from, at.to)).collect();
                // Placing.
                for step in -640..640 {
                    let distance = f64::from(step) * STEP;
                    let is_in = reach.iter().any(|(from, to)| *from < distance && distance < *to);
                    let near_end =
                        reach.iter().any(|(from, to)| (from - distance).abs().min((to - distance).abs()) < 1e-3);
                    let struck = hurts(part).any(|hurt| meets(hit(frame.frame), hurt, placed(&duel, distance)));
                    assert!(is_in == struck || near_end, "seed {seed}: {part} at {distance}: {struck}, {reach:?}");
                }
                // Ends, by another way, where there is one shape of that part.
                if part == "chest" {
                    let hurt = hurts(part).next().unwrap();
                    let expected = by_difference(hit(frame.frame), hurt, &duel);
                    assert_eq!(expected.len(), reach.len(), "seed {seed}: {expected:?} {reach:?}");
                    for (a, b) in expected.iter().zip(&reach) {
                        assert!((a.0 - b.0).abs() < 1e-9 && (a.1 - b.1).abs() < 1e-9, "seed {seed}: {a:?} {b:?}");
                    }
                }
            }
        }
        // Which frame strikes first, and which part: by placing and sharing.
        for step in -160..160 {
            let distance = f64::from(step) + 0.37;
            let place = placed(&duel, distance);
            let area = |frame: usize, hurt: &Shape| -> f64 {
                let pairs = hit(frame).pieces.iter().flat_map(|a| hurt.pieces.iter().map(move |b| (a, b)));
                pairs.filter_map(|(a, b)| overlap_region(a, Vec2::ZERO - place, b)).map(|(area, _)| area).sum()
            };
            let all = || pose.shapes.iter().filter(|shape| shape.role == Role::Hurt);
            let first = attack.frames.iter().copied().find(|&frame| all().any(|hurt| area(frame, hurt) > 1e-6));
            let told = found.first.iter().find(|reached| reached.distances.contains(distance));
            let Some(frame) = first else { continue };
            let told = told.unwrap();
            if told.frame != frame {
                // A hair of an overlap, which areas do not show.
                assert!(
                    told.frame < frame && all().any(|hurt| area(told.frame, hurt) > 0.0),
                    "seed {seed} at {distance}"
                );
                continue;
            }
            let most = all().map(|hurt| area(frame, hurt)).fold(0.0, f64::max);
            let of_told = hurts(&told.part).map(|hurt| area(frame, hurt)).fold(0.0, f64::max);
            // Within a step of where they are equal either may be told.
            assert!(most - of_told < 0.05 * most + 1e-3, "seed {seed} at {distance}: {of_told} of {most}");
        }
        // From the closest distance on the bodies are apart, and just before it they are not.
        let bodies = [attacker.pose(0, 0, facing), pose].map(|pose| pose.body().unwrap());
        let closest = found.closest.unwrap();
        let overlap = |at: f64| meets(bodies[0], bodies[1], placed(&duel, at));
        assert!((0..200).all(|step| !overlap(closest + f64::from(step) * STEP)), "seed {seed}");
        assert!(closest == 0.0 || overlap(closest - 0.01), "seed {seed}: {closest}");
    }
}
