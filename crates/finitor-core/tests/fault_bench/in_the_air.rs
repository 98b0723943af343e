//! Faults of bodies in the air: stopped at a side, and hanging by a part.

use crate::scene::FLOOR;
use crate::scene::{Planted, Scene, hero_drawn};
use crate::world::dice::Dice;
use crate::world::{actor, solid};
use finitor_core::Polygon;
use finitor_core::Rect;
use finitor_core::actor::Pose;
use finitor_core::finding::Finding;

/// Ticks of the fall after a stop.
const FALLS: u32 = 4;

/// Flies up against the side of a block, and loses its rise as well.
pub fn stopped_at_a_side(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 70.0, 150.0)?;
    scene.stage.solids.push(solid("block", Rect::new(left + 40.0, FLOOR - 140.0, left + 60.0, FLOOR - 30.0)));
    let (across, rise) = (dice.hundredths(1.5, 3.0), dice.hundredths(3.0, 6.0));
    // Its front is 4 px ahead.
    let (side, low) = (left + 36.0, FLOOR - 30.0);
    for back in (0..5).rev() {
        let states = if back == 4 { "warped" } else { "" };
        scene.row((side - across * (f64::from(back) + 0.6), low - rise * f64::from(4 - back)), "stand", states);
    }
    scene.row((side, low - rise * 5.0), "stand", "");
    scene.row((side, low - rise * 5.0), "stand", "");
    let rise_on = |scene: &mut Scene, finding: &Finding| {
        let stop = scene.rows.len() - FALLS as usize - 1;
        for (index, row) in scene.rows[stop..].iter_mut().enumerate() {
            row.1.1 -= finding.figure * (index as f64 + 1.0);
        }
    };
    let planted = Planted::new(scene, "yard/block", rise, "moved", rise_on);
    // From there it falls as from rest.
    (1..=FALLS).for_each(|k| scene.row((side, low - rise * 5.0 + 0.2 * f64::from(k * (k + 1))), "stand", ""));
    Some(planted)
}

/// The hero with a rod in front of its middle.
fn with_rod(thick: f64) -> Pose {
    let mut pose = hero_drawn(&[Rect::new(-6.0, -20.0, 4.0, 0.0)], &[]);
    let rod = Polygon::from_rect(Rect::new(4.0, -12.0 - thick / 2.0, 14.0, -12.0 + thick / 2.0)).unwrap();
    let body = pose.shapes.iter_mut().find(|shape| shape.name == "body").unwrap();
    body.pieces = [body.pieces.to_vec(), rod.pieces()].concat().into();
    body.polygons.push(rod);
    pose
}

/// Hangs over the floor by a rod that lies on a block.
pub fn hanging(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 70.0, 90.0)?;
    let thick = dice.hundredths(1.0, 3.6);
    let top = FLOOR - 50.0;
    scene.stage.solids.push(solid("block", Rect::new(left + 34.0, top, left + 60.0, FLOOR - 20.0)));
    scene.animation("rod", vec![with_rod(thick)]);
    let (place, first) = ((left + 26.0, top + 12.0 - thick / 2.0), scene.next());
    (0..24).for_each(|k| scene.row(place, "rod", if k == 0 { "warped" } else { "" }));
    let drop_the_rod = |scene: &mut Scene, finding: &Finding| {
        assert!(finding.fix.contains("min_thickness"), "{}", finding.fix);
        let at = scene.actors[0].find("rod").unwrap();
        let whole = hero_drawn(&[Rect::new(-6.0, -20.0, 4.0, 0.0)], &[]);
        scene.actors[0].animations[at] = actor("hero", vec![("rod", vec![whole])]).animations[0].clone();
    };
    let planted = Planted::new(scene, "yard/block", thick, "moved", drop_the_rod);
    Some(Planted { ticks: (first, first + 23), ..planted })
}
