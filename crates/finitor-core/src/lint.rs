//! What can be told before any take.

mod layers;
mod leaks;
mod overlapping;
mod passages;
mod shapes;
mod surfaces;
mod turning;
mod warps;
mod zones;

pub use layers::{LayerParty, LayerSpot, layer_findings};
pub use leaks::leaks;
pub use overlapping::overlapping_solids;
pub use passages::tight_passages;
pub use shapes::{Uncovered, leap, shared_area, uncovered};
pub use surfaces::surface_findings;
pub use turning::{FlippedFrame, Turn, TurnedShape, flip_drift, turned_shapes, turning_findings, turns};
pub use warps::warp_findings;
pub use zones::thin_zones;

use crate::actor::Foot;
use crate::check::{Rule, Severity};
use crate::geometry::Point;

/// A fault of the art, the fits or the files.
#[derive(Clone, Debug, PartialEq)]
pub struct LintFinding {
    /// The rule it breaks.
    pub rule: Rule,
    /// How much it matters here.
    pub severity: Severity,
    /// The actor.
    pub actor: String,
    /// The animation, or the frame: `walk`, `walk 2`.
    pub place: String,
    /// The rule's figure, in [`Rule::unit`]; what it measures is told by [`Rule::text`].
    pub figure: f64,
    /// What is wrong, in one sentence.
    pub message: String,
    /// What mends it, with its number.
    pub remedy: String,
}

/// A frame that should stand.
#[derive(Clone, Debug, PartialEq)]
pub struct StandingFrame {
    /// Its pivot, cell px.
    pub pivot: Point,
    /// The lowest row of its art; `None` when it has none.
    pub foot: Option<Foot>,
}

/// A figure to two decimals.
fn rounded(figure: f64) -> f64 {
    (figure * 100.0).round() / 100.0
}

/// What is less than half a pixel off cannot be seen off.
const LEAST_OFF: f64 = 0.5;

/// Frames of an animation whose art does not end on the pivot's line, as one finding; `None` when all stand.
///
/// The figure is the largest distance, px. When every frame is off by the same the remedy is one pivot, else a list.
pub fn off_ground(actor: &str, animation: &str, frames: &[StandingFrame], severity: Severity) -> Option<LintFinding> {
    let off = |frame: &StandingFrame| frame.foot.as_ref().map(|foot| foot.y);
    let wrong: Vec<(usize, f64)> = frames
        .iter()
        .enumerate()
        .filter_map(|(number, frame)| Some((number, off(frame)?)))
        .filter(|(_, off)| off.abs() >= LEAST_OFF)
        .collect();
    let (worst, figure) = wrong.iter().copied().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()).then(b.0.cmp(&a.0)))?;
    let mended = |frame: &StandingFrame| (frame.pivot.x, frame.pivot.y + off(frame).unwrap_or(0.0));
    let told = |(x, y): (f64, f64)| format!("[{x}, {y}]");
    let one = mended(&frames[worst]);
    let together = frames.iter().all(|frame| off(frame).is_none() || mended(frame) == one);
    let side = if figure > 0.0 { "below" } else { "above" };
    let which = match wrong.as_slice() {
        _ if together && wrong.len() > 1 => format!("all frames of {animation} end"),
        [(only, _)] => format!("{animation} {only} ends"),
        several => format!(
            "{} of {} frames of {animation} end off the pivot's line; {animation} {worst} ends",
            several.len(),
            frames.len()
        ),
    };
    let message = format!("{which} {:.1} px {side} the pivot's line", figure.abs());
    let remedy = if together {
        format!(
            "set pivot = {} for {animation}; it is {}",
            told(one),
            told((frames[worst].pivot.x, frames[worst].pivot.y))
        )
    } else {
        let way = |off: f64| if off > 0.0 { "up" } else { "down" };
        let shifts: Vec<String> =
            wrong.iter().take(6).map(|(n, off)| format!("{n} {} px {}", off.abs(), way(*off))).collect();
        let list: Vec<String> = frames.iter().map(|frame| told(mended(frame))).collect();
        let pivots = if frames.len() <= 8 { format!("; or give pivot = [{}]", list.join(", ")) } else { String::new() };
        let more = if wrong.len() > 6 { format!(" and {} more", wrong.len() - 6) } else { String::new() };
        format!("redraw {animation} {}{more}{pivots}", shifts.join(", "))
    };
    Some(LintFinding {
        rule: Rule::OffGround,
        severity,
        actor: actor.to_string(),
        place: if wrong.len() == 1 { format!("{animation} {worst}") } else { animation.to_string() },
        figure,
        message,
        remedy,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn frame(y: f64, foot: Option<f64>) -> StandingFrame {
        let foot = foot.map(|foot| Foot { y: foot - y, runs: vec![(0.0, 1.0)] });
        StandingFrame { pivot: Point::new(8.0, y), foot }
    }

    #[test]
    fn one_pivot_mends_frames_that_are_off_alike_and_a_list_the_others() {
        let check = |frames: &[StandingFrame]| off_ground("it", "walk", frames, Severity::Warn);
        assert_eq!(check(&[frame(16.0, Some(16.0)), frame(16.0, None), frame(16.0, Some(15.6))]), None);
        let alike = check(&[frame(16.0, Some(14.0)), frame(16.0, Some(14.0))]).expect("both float");
        assert_eq!((alike.figure, alike.place.as_str()), (-2.0, "walk"));
        assert!(alike.remedy.contains("pivot = [8, 14]"), "{}", alike.remedy);
        let mixed =
            check(&[frame(16.0, Some(16.0)), frame(16.0, Some(19.0)), frame(16.0, Some(15.0))]).expect("two are off");
        assert_eq!(mixed.figure, 3.0);
        assert!(
            mixed.message.contains("2 of 3") && mixed.message.contains("walk 1 ends 3.0 px below"),
            "{}",
            mixed.message
        );
        assert!(mixed.remedy.contains("pivot = [[8, 16], [8, 19], [8, 15]]"), "{}", mixed.remedy);
    }
}
