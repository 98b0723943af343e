//! Anchors: named points on frames.

use crate::actor_toml::{AnimationSpec, check_name};
use crate::toml_table::{Table, nearest};
use finitor_core::Point;

/// A named point, fixed or by frame, cell px.
#[derive(Clone, Debug, PartialEq)]
pub struct AnchorSpec {
    /// Its name.
    pub name: String,
    /// Where it is on frames that say nothing else.
    at: Option<Point>,
    /// Where it is by animation, a point a frame.
    by_frame: Vec<(usize, Vec<Point>)>,
}

impl AnchorSpec {
    /// Where it is on a frame; `None` when neither the frame nor the anchor says.
    pub fn on(&self, animation: usize, number: usize) -> Option<Point> {
        let listed = self.by_frame.iter().find(|(known, _)| *known == animation);
        listed.and_then(|(_, points)| points.get(number)).copied().or(self.at)
    }
}

/// Reads `[anchor.NAME]` with `at = [x, y]` and, where it moves, `ANIMATION = [[x, y], ...]`.
pub(crate) fn anchors(top: &Table<'_>, animations: &[AnimationSpec]) -> Vec<AnchorSpec> {
    let mut anchors = Vec::new();
    for (name, table) in top.named("anchor") {
        check_name(&table, &name, "an anchor");
        let point = |[x, y]: [f64; 2]| Point::new(x, y);
        let at = table.numbers::<2>("at", "[40, 12]").map(|at| point(at.value));
        let mut by_frame = Vec::new();
        for (animation, points) in table.other_point_lists(&["at"]) {
            let Some(index) = animations.iter().position(|known| known.name == animation.value) else {
                let names: Vec<&str> = animations.iter().map(|a| a.name.as_str()).collect();
                let hint = nearest(&animation.value, &names).map(|near| format!("did you mean `{near}`?"));
                let message = format!("there is no animation `{}`", animation.value);
                table.wrong(animation.span, message, hint);
                continue;
            };
            let frames = animations[index].frames.len();
            if points.value.len() != frames {
                let message =
                    format!("{} points are listed, {} has {frames} frames", points.value.len(), animation.value);
                table.wrong(points.span, message, None);
            }
            by_frame.push((index, points.value.into_iter().map(point).collect()));
        }
        if at.is_none() && by_frame.is_empty() && !table.has("at") {
            table.missing("at", "[40, 12]");
        }
        anchors.push(AnchorSpec { name: name.value, at, by_frame });
    }
    anchors
}
