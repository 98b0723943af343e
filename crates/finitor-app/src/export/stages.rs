//! Stages of a pack.

use finitor_core::layers::LayerSet;
use finitor_core::stage::{Outline, Stage, Warp};
use finitor_core::{Point, Vec2};
use finitor_files::pack::{PackOneWay, PackPoint, PackSpawn, PackSpot, PackStage, PackThing, PackWarp, PackZone, Ring};

pub(super) fn pack_stage(stage: &Stage) -> PackStage {
    let solids = stage.solids.iter();
    let one_ways = stage.one_ways.iter();
    let zones = stage.zones.iter();
    PackStage {
        name: stage.name.clone(),
        size: vector(stage.size),
        solids: solids.map(|of| thing(&of.name, &of.outline, of.layer, of.mask)).collect(),
        one_ways: one_ways
            .map(|of| PackOneWay {
                thing: thing(&of.name, &of.outline, of.layer, of.mask),
                passes: vector(of.passes.direction()),
            })
            .collect(),
        zones: zones
            .map(|of| PackZone {
                thing: thing(&of.name, &of.outline, LayerSet::NONE, of.mask),
                effect: of.effect.name().to_string(),
                cooldown: of.cooldown,
                once: of.once,
                warp: of.warp.as_ref().map(|leads| warp(stage, leads)),
            })
            .collect(),
        spawns: stage
            .spawns
            .iter()
            .map(|of| PackSpawn { actor: of.actor.clone(), at: point(of.at), facing: of.facing.name().to_string() })
            .collect(),
        spots: stage.spots.iter().map(|of| PackSpot { name: of.name.clone(), at: point(of.at) }).collect(),
    }
}

fn point(at: Point) -> PackPoint {
    PackPoint { x: at.x, y: at.y }
}

fn vector(way: Vec2) -> PackPoint {
    PackPoint { x: way.x, y: way.y }
}

fn ring(points: &[Point]) -> Ring {
    points.iter().map(|at| point(*at)).collect()
}

fn thing(name: &str, outline: &Outline, layer: LayerSet, mask: LayerSet) -> PackThing {
    PackThing {
        name: name.to_string(),
        layer: layer.0,
        mask: mask.0,
        outline: ring(outline.polygon.points()),
        holes: outline.holes.iter().map(|hole| ring(hole.points())).collect(),
        pieces: outline.pieces.iter().map(|piece| ring(piece.points())).collect(),
    }
}

fn warp(stage: &Stage, warp: &Warp) -> PackWarp {
    PackWarp {
        to: stage.zones[warp.to].name.clone(),
        landing: point(stage.landing(warp)),
        facing: warp.facing.map(|facing| facing.name().to_string()),
        turns_velocity: warp.turns_velocity,
    }
}
