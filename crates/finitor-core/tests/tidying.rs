//! Tidying of masks against looking at every pixel and every square.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::art::Mask;
use proptest::prelude::*;
use support::masks;

/// Whether the square of `side` pixels with that top left corner has only pixels of one sort.
fn square(mask: &Mask, (x, y): (i64, i64), side: i64, set: bool) -> bool {
    (0..side).all(|dy| (0..side).all(|dx| mask.get(x + dx, y + dy) == set))
}

/// Whether any such square lies over a pixel.
fn covered(mask: &Mask, (x, y): (i64, i64), side: i64, set: bool) -> bool {
    (0..side).any(|dy| (0..side).any(|dx| square(mask, (x - dx, y - dy), side, set)))
}

fn pixels(mask: &Mask, room: i64) -> impl Iterator<Item = (i64, i64)> + use<> {
    let (width, height) = (i64::from(mask.width()), i64::from(mask.height()));
    (-room..height + room).flat_map(move |y| (-room..width + room).map(move |x| (x, y)))
}

proptest! {
    #![proptest_config(support::cases(300))]

    #[test]
    fn opening_keeps_squares_and_closing_fills_where_no_square_fits(mask in masks(14), side in 0..6_u32) {
        let (opened, closed) = (mask.opened(side), mask.closed(side));
        let n = i64::from(side.max(1));
        for at in pixels(&mask, 0) {
            prop_assert_eq!(opened.get(at.0, at.1), covered(&mask, at, n, true), "opened at {:?}", at);
            prop_assert_eq!(closed.get(at.0, at.1), !covered(&mask, at, n, false), "closed at {:?}", at);
        }
    }

    #[test]
    fn growing_and_shrinking_go_by_the_distance_of_middles(mask in masks(12), reach in 0.0..4.0_f64) {
        let (grown, shrunk) = (mask.grown(reach), mask.shrunk(reach));
        let room = reach.ceil() as i64;
        let near = |(x, y): (i64, i64), set: bool| {
            let span = -room..=room;
            span.clone().any(|dy| span.clone().any(|dx| {
                mask.get(x + dx, y + dy) == set && ((dx * dx + dy * dy) as f64) <= reach * reach + 1e-9
            }))
        };
        for (x, y) in pixels(&mask, room) {
            prop_assert_eq!(grown.get(x + room, y + room), near((x, y), true), "grown at {:?}", (x, y));
            prop_assert_eq!(shrunk.get(x, y), mask.get(x, y) && !near((x, y), false), "shrunk at {:?}", (x, y));
        }
    }

    #[test]
    fn small_islands_and_small_holes_go_and_no_others(mask in masks(14), most in 0..8_u64) {
        let mut left: Vec<(i64, i64)> = pixels(&mask, 0).collect();
        let (kept, filled) = (mask.without_islands_below(most), mask.filled_below(most));
        // Patches by flooding, one after another.
        while let Some(start) = left.pop() {
            let set = mask.get(start.0, start.1);
            let (mut patch, mut open) = (vec![start], vec![start]);
            while let Some((x, y)) = open.pop() {
                for beside in [(x + 1, y), (x - 1, y), (x, y + 1), (x, y - 1)] {
                    if mask.get(beside.0, beside.1) == set && let Some(i) = left.iter().position(|p| *p == beside) {
                        left.swap_remove(i);
                        patch.push(beside);
                        open.push(beside);
                    }
                }
            }
            let (right, bottom) = (i64::from(mask.width()) - 1, i64::from(mask.height()) - 1);
            let at_border = patch.iter().any(|&(x, y)| x == 0 || y == 0 || x == right || y == bottom);
            let small = (patch.len() as u64) < most;
            for (x, y) in patch {
                prop_assert_eq!(kept.get(x, y), set && !(small && most > 1), "island at {:?}", (x, y));
                prop_assert_eq!(filled.get(x, y), set || (small && !at_border), "hole at {:?}", (x, y));
            }
        }
    }
}
