//! Recordings that write down something else than the pivot in px, y down.

use crate::scene::*;
use crate::world::dice::Dice;
use finitor_core::Vec2;
use finitor_core::finding::Finding;

/// A walk with jumps over an open floor, as the game means it.
fn walk(scene: &mut Scene, dice: &mut Dice) {
    scene.stage.solids.retain(|solid| solid.name == "floor");
    scene.stage.one_ways.clear();
    scene.rows.clear();
    let (mut x, high) = (dice.hundredths(20.0, 60.0).round(), dice.hundredths(20.0, 60.0));
    for tick in 0..60 + dice.below(60) {
        // Up and down again on 20 of 60 ticks.
        let into = (tick % 60) as f64;
        let up = if into < 20.0 { high * (1.0 - ((into - 10.0) / 10.0).powi(2)) } else { 0.0 };
        scene.row((x, FLOOR - up), "stand", "");
        x += 2.0;
    }
}

fn planted(scene: &Scene) -> Option<Planted> {
    let count = scene.next();
    let with = scene.stage.name.clone();
    Some(Planted {
        actor: "hero",
        with,
        ticks: (0, count - 1),
        figure: count as f64,
        cause: "moved",
        mend: read_as_said,
    })
}

/// The take as the finding's fix reads it.
fn read_as_said(scene: &mut Scene, finding: &Finding) {
    let (height, unit) = (scene.stage.size.y, numbers(finding)[0]);
    let corner = scene.actors[0].pose(0, 0, finitor_core::Facing::Right).picture.origin().to_vec2();
    for row in &mut scene.rows {
        let mut at = Vec2::from(row.1);
        if finding.fix.contains("xchange") {
            at = Vec2::new(at.y, at.x);
        }
        if finding.fix.contains("ultiply") {
            at *= unit;
        }
        if finding.fix.contains("y_axis = \"up\"") {
            at.y = height - at.y;
        }
        if finding.fix.contains("top left") {
            at -= corner;
        }
        row.1 = at.into();
    }
}

pub fn y_up(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    let height = scene.stage.size.y;
    scene.rows.iter_mut().for_each(|row| row.1.1 = height - row.1.1);
    planted(scene)
}

pub fn top_left(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    let corner = scene.actors[0].pose(0, 0, finitor_core::Facing::Right).picture.origin();
    scene.rows.iter_mut().for_each(|row| row.1 = (row.1.0 + corner.x, row.1.1 + corner.y));
    planted(scene)
}

pub fn in_tiles(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    let unit = [8.0, 16.0, 32.0][dice.below(3) as usize];
    scene.rows.iter_mut().for_each(|row| row.1 = (row.1.0 / unit, row.1.1 / unit));
    planted(scene)
}

pub fn in_tiles_y_up(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    let height = scene.stage.size.y;
    scene.rows.iter_mut().for_each(|row| row.1 = (row.1.0 / 16.0, (height - row.1.1) / 16.0));
    planted(scene)
}

pub fn exchanged(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    // Further on it would come down into the floor.
    scene.rows.retain(|row| row.1.0 < 240.0);
    scene.rows.iter_mut().for_each(|row| row.1 = (row.1.1, row.1.0));
    planted(scene)
}

/// The walk with other numbers for its ticks.
fn numbered(scene: &mut Scene, dice: &mut Dice, tick: fn(u64) -> u64) -> Option<Planted> {
    walk(scene, dice);
    scene.rows.iter_mut().for_each(|row| row.0 = tick(row.0));
    let ticks = (tick(0), scene.rows.last()?.0);
    let (with, figure) = (scene.stage.name.clone(), (scene.rows.len() - 1) as f64);
    Some(Planted { actor: "hero", with, ticks, figure, cause: "moved", mend: count_rows })
}

/// The rows counted from 0, as both fixes say.
fn count_rows(scene: &mut Scene, _: &Finding) {
    scene.rows.iter_mut().zip(0..).for_each(|(row, tick)| row.0 = tick);
}

pub fn every_second_tick(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    numbered(scene, dice, |tick| 2 * tick)
}

pub fn in_milliseconds(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    numbered(scene, dice, |tick| (tick * 1000 + 30) / 60)
}

/// A walk of which the recording writes frame 0 all through.
pub fn one_frame(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    walk(scene, dice);
    let pose = scene.actors[0].animations[0].frames[0].clone();
    scene.actors[0].animations[0].frames = vec![pose; 2 + dice.below(3) as usize];
    scene.rows.clear();
    let speed = dice.hundredths(1.0, 2.0);
    let count = 121 + dice.below(60);
    (0..count).for_each(|tick| scene.row((30.0 + speed * tick as f64, FLOOR), "stand", ""));
    let (with, ticks) = (scene.stage.name.clone(), (31, count - 1));
    Some(Planted { actor: "hero", with, ticks, figure: (count - 31) as f64, cause: "moved", mend: write_frames })
}

/// The frames as the fix says, each for six ticks.
fn write_frames(scene: &mut Scene, _: &Finding) {
    let count = scene.actors[0].animations[0].frames.len();
    scene.frames = (0..scene.next()).map(|tick| (tick, tick as usize / 6 % count)).collect();
}
