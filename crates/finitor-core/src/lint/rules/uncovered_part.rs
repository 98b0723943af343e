//! uncovered_part: opaque art is of no part.

use crate::art::Colour;
use crate::finding::Place;
use crate::fit::FrameArt;
use crate::lint::facts::AnimationArt;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// Alpha from which a pixel is part of the figure.
const OPAQUE: u8 = 128;
/// Frames listed one by one at most.
const MOST_LISTED: usize = 8;

#[derive(Debug)]
pub(crate) struct UncoveredPart;

/// Opaque pixels of a frame that are of no part.
struct Uncovered {
    number: usize,
    pixels: u64,
    /// Of how many opaque ones.
    opaque: u64,
    /// The colour most of them have in the part map; `None` where that is transparent.
    colour: Option<Colour>,
}

impl StillRule for UncoveredPart {
    const SPEC: Spec = Spec {
        code: "uncovered_part",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Opaque pixels of a frame are of no part: their colour in the part map is not in [parts], or they have \
                    none.",
            matters: "Strikes there hit nothing, though the art is plainly there.",
            measured: "Opaque pixels (alpha 128 and more) of each frame, in px and percent of them. The figure is that of \
                       the worst frame.",
            fix: "Add the colour named to [parts], or paint those pixels of the part map with a colour that is there.",
            drawing: "    o    head\n   /|\\_ ?  <- in no part\n   / \\   legs\n",
        },
    };

    fn animation(facts: &AnimationArt<'_>, out: &mut Out<'_>) {
        let parts = &facts.actor.parts;
        if parts.is_empty() {
            return;
        }
        let animation = facts.actor.animations[facts.animation].name;
        let frames = facts.art.iter().enumerate().map(|(number, art)| uncovered(number, art, parts));
        let frames: Vec<Uncovered> = frames.filter(|frame| frame.pixels > 0).collect();
        let worst = frames.iter().max_by_key(|frame| (frame.pixels, std::cmp::Reverse(frame.number)));
        let Some(worst) = worst else { return };
        let share = |of: &Uncovered| 100.0 * of.pixels as f64 / of.opaque.max(1) as f64;
        let list = frames.iter().take(MOST_LISTED);
        let list: Vec<String> =
            list.map(|of| format!("{}: {} px ({:.1} %)", of.number, of.pixels, share(of))).collect();
        let more = match frames.len().saturating_sub(MOST_LISTED) {
            0 => String::new(),
            more => format!(" and {more} more frames"),
        };
        let count = if frames.len() == 1 { "1 frame".to_string() } else { format!("{} frames", frames.len()) };
        out.report(Fault {
            subject: facts.actor.name.to_string(),
            place: Place::Actor(animation.to_string()),
            figure: worst.pixels as f64,
            message: format!("Art of no part on {count} of {animation}: {}{more}", list.join(", ")),
            fix: match worst.colour {
                Some(colour) => {
                    format!(
                        "Add `\"{colour}\" = {{ part = \"...\" }}` to [parts]; most of these pixels have that colour."
                    )
                }
                None => format!(
                    "Paint them on the part map: most of them are transparent there, on {animation} {}.",
                    worst.number
                ),
            },
        });
    }
}

/// Counts the opaque pixels whose colour in the part map is none of the parts'.
///
/// # Complexity
/// O(pixels), times the few colours there are.
fn uncovered(number: usize, art: &FrameArt, parts: &[Colour]) -> Uncovered {
    let opaque = art.picture.opaque(OPAQUE);
    let mut seen: Vec<(Option<Colour>, u64)> = Vec::new();
    for run in opaque.runs() {
        for x in run.start..run.end {
            let colour = art.parts.as_ref().and_then(|map| {
                let [r, g, b, a] = map.row(run.row)[x as usize];
                (a > 0).then_some(Colour([r, g, b]))
            });
            if colour.is_some_and(|colour| parts.contains(&colour)) {
                continue;
            }
            match seen.iter_mut().find(|(known, _)| *known == colour) {
                Some((_, count)) => *count += 1,
                None => seen.push((colour, 1)),
            }
        }
    }
    seen.sort_by_key(|(colour, count)| (std::cmp::Reverse(*count), *colour));
    Uncovered {
        number,
        pixels: seen.iter().map(|(_, count)| count).sum(),
        opaque: opaque.count(),
        colour: seen.first().and_then(|(colour, _)| *colour),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::art::Picture;
    use crate::lint::facts::{ActorFacts, AnimationFacts};
    use crate::lint::testing::{facts, of_art};
    use crate::testing::hero;

    #[test]
    fn opaque_pixels_of_no_part_are_counted() {
        let known = Colour([200, 0, 0]);
        // Of 16 opaque px: 10 of a part, 4 of another colour, 2 transparent on the map.
        let map = |at: usize| match at {
            0..10 => [200, 0, 0, 255],
            10..14 => [0, 0, 200, 255],
            _ => [0; 4],
        };
        let picture = |pixels: Vec<[u8; 4]>| Picture::new(4, 4, pixels).unwrap();
        let art = |parts: Picture| [FrameArt { picture: picture(vec![[9, 9, 9, 255]; 16]), parts: Some(parts) }];
        let of = hero(0);
        let with = |parts: Vec<Colour>, art: &[FrameArt]| {
            let animations = vec![AnimationFacts { name: "stand", frames: 0..1, must_stand: false, active: None }];
            let actor = ActorFacts { animations, parts, ..facts(&of) };
            of_art::<UncoveredPart>(&AnimationArt { actor: &actor, animation: 0, art })
        };
        let mixed = art(picture((0..16).map(map).collect()));
        assert_eq!(
            with(vec![known], &mixed),
            [
                "stand: 6: Art of no part on 1 frame of stand: 0: 6 px (37.5 %). Add `\"#0000c8\" = { part = \"...\" }` to [parts]; most of these pixels have that colour."
            ]
        );
        assert_eq!(with(vec![], &mixed), [""; 0], "no part has a colour");
        assert_eq!(with(vec![known], &art(picture(vec![map(0); 16]))), [""; 0]);
    }
}
