//! Both facings of everything.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, area, points};

/// Mirrors a ring about x = 0 and keeps it clockwise with its first point first.
fn mirrored(ring: &[[f64; 2]]) -> Vec<[f64; 2]> {
    let mut ring: Vec<[f64; 2]> = ring.iter().map(|[x, y]| [0.0 - x, *y]).collect();
    ring[1..].reverse();
    ring
}

#[test]
fn left_is_the_mirror_of_right_and_twice_left_is_right_to_the_bit() {
    let project = Project::fitted();
    let result = project.ok(&["facing", "--format", "json"]).json();
    let mut rings = 0;
    for actor in result["actors"].as_array().unwrap() {
        for frame in actor["frames"].as_array().unwrap() {
            let (right, left) = (&frame["right"], &frame["left"]);
            for (name, at) in right["anchors"].as_object().unwrap() {
                let (x, y) = (at[0].as_f64().unwrap(), at[1].as_f64().unwrap());
                assert_eq!(left["anchors"][name], serde_json::json!([0.0 - x, y]));
            }
            let shapes = |pose: &Value| pose["shapes"].as_array().unwrap().clone();
            assert_eq!(shapes(right).len(), shapes(left).len());
            for (one, other) in shapes(right).iter().zip(&shapes(left)) {
                assert_eq!((&one["name"], &one["role"]), (&other["name"], &other["role"]));
                for (a, b) in one["rings"].as_array().unwrap().iter().zip(other["rings"].as_array().unwrap()) {
                    let (a, b) = (points(a), points(b));
                    assert_eq!(mirrored(&a), b);
                    let bits = |ring: &[[f64; 2]]| ring.iter().flatten().map(|v| v.to_bits()).collect::<Vec<_>>();
                    assert_eq!(bits(&mirrored(&b)), bits(&a), "twice is the identity");
                    assert!(area(&a) > 0.0 && area(&b) > 0.0, "both run clockwise");
                    rings += 1;
                }
            }
        }
    }
    assert!(rings > 110, "{rings} rings");
}

#[test]
fn art_drawn_to_the_left_gives_the_same_shapes_in_the_other_facing() {
    let right = Project::fitted();
    let left = Project::sample();
    left.edit("actors/gull.toml", "faces = \"right\"", "faces = \"left\"");
    left.ok(&["fit"]);
    let gull = |project: &Project| project.ok(&["facing", "gull", "--format", "json"]).json()["actors"][0].clone();
    let (drawn_right, drawn_left) = (gull(&right), gull(&left));
    assert_eq!(drawn_left["drawn"], "left");
    for (one, other) in drawn_right["frames"].as_array().unwrap().iter().zip(drawn_left["frames"].as_array().unwrap()) {
        assert_eq!(one["right"], other["left"], "as drawn");
        assert_eq!(one["left"], other["right"], "mirrored");
    }
}

#[test]
fn the_table_says_how_far_a_turn_moves_the_body() {
    let project = Project::fitted();
    let run = project.ok(&["facing", "keeper"]);
    assert!(run.out.starts_with("A turn moves the sides of keeper.body_low on crouch by 3.00 px"), "{}", run.out);
    let idle = run.out.lines().find(|line| line.contains("idle")).unwrap();
    let words: Vec<&str> = idle.split_whitespace().collect();
    assert_eq!(words, ["keeper.body", "idle", "4", "8.00", "9.00", "1.00"]);
}
