//! Corners and IoU of outlines beside the usual simplification of the same boundaries, as the table of docs/fitting.md:
//! `cargo run --release -p finitor-core --example outlines_compared`.
#![allow(clippy::unwrap_used, clippy::print_stdout, reason = "prints a table, and stops where there is none")]

#[path = "../tests/support/usual.rs"]
mod usual;

use finitor_core::art::{Mask, Picture, PixelRect, contours};
use finitor_core::fit::{FitGoal, Fitting, FrameArt, Geometry, Kind, RunRows, area_inside, fit_shape, selection};
use finitor_core::geometry::{Polygon, convex_pieces, quick_convex_pieces};

/// Mean corners and IoU over masks.
fn mean(masks: &[Mask], outline: impl Fn(&Mask) -> Geometry) -> (f64, f64) {
    let mut sum = (0.0, 0.0);
    for mask in masks {
        let geometry = outline(mask);
        sum.0 += geometry.point_count() as f64;
        sum.1 += iou(&geometry, mask);
    }
    (sum.0 / masks.len() as f64, sum.1 / masks.len() as f64)
}

fn iou(geometry: &Geometry, mask: &Mask) -> f64 {
    let shared = area_inside(&geometry.polygons, &RunRows::new(mask));
    shared / (mask.count() as f64 + geometry.area() - shared)
}

/// The usual simplification; crossing ones are cut down to what is still a polygon.
fn usual_outline(mask: &Mask, tolerance: f64) -> Geometry {
    let rings = contours(mask);
    let simplified = rings.iter().map(|traced| usual::simplified(&traced.points(), tolerance));
    Geometry::new(simplified.filter_map(|ring| Polygon::new(ring).ok()).collect(), None)
}

fn ours(tolerance: f64, goal: FitGoal) -> impl Fn(&Mask) -> Geometry {
    move |mask| fit_shape(mask, &Fitting { tolerance, goal, ..Fitting::of(Kind::Outline) }).unwrap()
}

/// Corners at which ours has the IoU asked for.
fn at_iou(masks: &[Mask], wanted: f64) -> f64 {
    let (mut low, mut high) = (0.1, 4.0);
    for _ in 0..12 {
        let middle = f64::midpoint(low, high);
        if mean(masks, ours(middle, FitGoal::Balance)).1 >= wanted { low = middle } else { high = middle }
    }
    let (a, b) = (mean(masks, ours(low, FitGoal::Balance)), mean(masks, ours(high, FitGoal::Balance)));
    if a.1 == b.1 { a.0 } else { b.0 + (a.0 - b.0) * (wanted - b.1) / (a.1 - b.1) }
}

fn frames(picture: &Picture, cell: u32) -> Vec<Mask> {
    let cells = (0..picture.height() / cell).flat_map(|y| (0..picture.width() / cell).map(move |x| (x, y)));
    let mask = |(x, y)| {
        let art = picture.crop(PixelRect { x: x * cell, y: y * cell, width: cell, height: cell }).unwrap();
        selection(&FrameArt { picture: art, parts: None }, &Fitting::of(Kind::Outline)).mask
    };
    cells.map(mask).filter(|mask| !mask.is_empty()).collect()
}

fn main() {
    let picture = |raster: pier_art::Raster| Picture::new(raster.width, raster.height, raster.pixels).unwrap();
    let crowd = |side, count| -> Vec<Mask> {
        (0..count).flat_map(|number| frames(&picture(pier_art::figure(number, side)), side)).collect()
    };
    let mut pier = Vec::new();
    for sample in pier_art::pictures() {
        let cell = match sample.path {
            "actors/keeper.png" => 48,
            "actors/gull.png" => 32,
            "actors/barrel.png" => 16,
            _ => continue,
        };
        pier.extend(frames(&picture(sample.raster), cell));
    }
    let art = [
        ("the pier's actors", pier),
        ("crowd, 64 px", crowd(64, 200)),
        ("crowd, 32 px", crowd(32, 200)),
        ("crowd, 160 px", crowd(160, 60)),
    ];
    println!("| art | tolerance | usual: corners, IoU | outline: corners, IoU | corners at the usual IoU | share |");
    println!("|---|---|---|---|---|---|");
    for (name, masks) in &art {
        for tolerance in [0.5, 1.0, 1.5, 2.0] {
            let usual = mean(masks, |mask| usual_outline(mask, tolerance));
            let own = mean(masks, ours(tolerance, FitGoal::Balance));
            let equal = at_iou(masks, usual.1);
            println!(
                "| {name} | {tolerance} | {:.1}, {:.4} | {:.1}, {:.4} | {equal:.1} | {:.2} |",
                usual.0,
                usual.1,
                own.0,
                own.1,
                equal / usual.0
            );
        }
        for goal in [FitGoal::Cover, FitGoal::Balance] {
            let fit = |most: usize| {
                move |mask: &Mask| {
                    let fitting = Fitting { goal, max_points: Some(most), ..Fitting::of(Kind::Outline) };
                    fit_shape(mask, &fitting).unwrap()
                }
            };
            for most in [16, 30] {
                let own = mean(masks, fit(most));
                println!("| {name}, {goal:?}, at most {most} points | | | {:.1}, {:.4} | | |", own.0, own.1);
            }
        }
        let outlines: Vec<Geometry> = masks.iter().map(ours(1.0, FitGoal::Balance)).collect();
        let polygons = || outlines.iter().flat_map(|outline| &outline.polygons);
        let fewest: usize = polygons().map(|polygon| convex_pieces(polygon).len()).sum();
        let joined: usize = polygons().map(|polygon| quick_convex_pieces(polygon).len()).sum();
        println!("| {name}, convex pieces at 1 px | | | {fewest} the fewest, {joined} joined from ears | | |");
        for tolerance in [1.0, 2.0, 3.0] {
            let own = mean(masks, ours(tolerance, FitGoal::Cover));
            println!("| {name}, cover | {tolerance} | | {:.1}, {:.4} | | |", own.0, own.1);
        }
    }
}
