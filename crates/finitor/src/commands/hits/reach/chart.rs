//! The chart of `finitor hits --reach --draw`.

use super::title;
use finitor_app::results::{AttackReachResult, ReachResult};
use finitor_draw::{ReachBand, ReachRow, ReachSheet};

/// What the chart shows of a result.
pub(super) fn sheet(result: &ReachResult) -> ReachSheet {
    let ReachResult { attacker, target, animation, frame, dy_px, attacks, .. } = result;
    let level = if *dy_px == 0.0 { String::new() } else { format!(", its pivot {dy_px} px lower") };
    let mut parts: Vec<String> = Vec::new();
    for part in attacks.iter().flat_map(|of| &of.parts) {
        if !parts.contains(&part.part) {
            parts.push(part.part.clone());
        }
    }
    ReachSheet {
        title: format!("{attacker} against {target}: at which distances what is struck"),
        words: format!("Px from pivot to pivot, ahead of {attacker}; {target} stands in {animation} {frame}{level}."),
        parts,
        rows: attacks.iter().map(row).collect(),
    }
}

fn row(of: &AttackReachResult) -> ReachRow {
    let bands = of.frames.iter().flat_map(|frame| {
        frame.parts.iter().flat_map(move |part| {
            part.reach_px.iter().map(|[from, to]| ReachBand {
                line: format!("frame {}", frame.frame),
                part: part.part.clone(),
                from: *from,
                to: *to,
            })
        })
    });
    ReachRow {
        title: title(of),
        words: format!("target looks {}", of.target_looks),
        bands: bands.collect(),
        apart: of.bodies_apart_px,
        gaps: of.gaps_px.clone(),
    }
}
