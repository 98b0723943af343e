//! phantom_hit: shapes struck where the art does not meet.

use crate::actor::Band;
use crate::check::blows::{Limb, art};
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::step::Way;
use crate::check::swings::SwingEvent;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{edge_against, px};
use crate::check::{CheckInput, Settings};
use crate::finding::Span;
use crate::geometry::{Deepest, Vec2, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};
use crate::world::{Cut, cut_needed};

/// How far apart the art may be where a hit strikes.
pub(crate) const PHANTOM_HIT: Threshold = Threshold {
    key: "phantom_hit",
    about: "The art of two that hit each other may be this far apart.",
    unit: Unit::Px,
    default: 4.0,
    least: 0.0,
    most: 1e7,
};

/// What is less is rounding, px.
const LEAST_PAST: f64 = 0.005;

#[derive(Debug)]
pub(crate) struct PhantomHit {
    allowed: f64,
}

impl TakeRule for PhantomHit {
    const SPEC: Spec = Spec {
        code: "phantom_hit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[PHANTOM_HIT],
        text: RuleText {
            means: "A hit struck, and the art of the two does not meet.",
            matters: "Players are struck by air, and call the game unfair.",
            measured: "On the first tick of each contact: the distance between the opaque pixels of the two frames, as \
                       they are seen in their facings, exactly. It counts beyond check.phantom_hit. A frame without \
                       opaque pixels is silent.",
            fix: "Pull the sides of the hit and of the hurt shape back to the art by the px given.",
            drawing: "   ====[.....(..].....)o\n   art  hit   hurt    art\n       |<-- figure -->|\n",
        },
    };
    /// The target.
    const AFTER: &'static [&'static str] = &["facing_split"];
    type Seen = Way;

    fn new(settings: &Settings) -> PhantomHit {
        PhantomHit { allowed: settings.get(&PHANTOM_HIT) }
    }

    fn swings<'a>(&mut self, input: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>], out: &mut Ledger<'a, Way>) {
        for event in events {
            let SwingEvent::Strikes(strike) = event else { continue };
            let (striker, target) = (strike.striker.way, strike.target.way);
            let offset = striker.now.at - target.now.at;
            let gap = art(input, striker).gap(offset, art(input, target)).filter(|gap| *gap > self.allowed);
            let deepest = deepest_overlap(&strike.hit.pieces, offset, &strike.hurt.pieces);
            let Some((gap, Deepest { overlap, .. })) = gap.zip(deepest) else { continue };
            let key = Key { instance: striker.instance, with: With::Shape(target.instance, &strike.hurt.name) };
            let tick = striker.now.tick;
            out.see(key, Span::at(tick), gap, || Sighting {
                tick,
                figure: gap,
                at: strike.at,
                push: overlap.push,
                cause: strike.cause,
                shape: &strike.hit.name,
                way: *striker,
                seen: *target,
            });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Way>) -> Words {
        let hit = Limb::named(scene.input, case.to_fix.way, case.to_fix.shape);
        let hurt = match case.key.with {
            With::Shape(_, name) => Limb::named(scene.input, case.to_fix.seen, name),
            _ => None,
        };
        let pulled = hit.zip(hurt).and_then(|(hit, hurt)| pull_in(scene, &hit, &hurt));
        let (fix, remains) = match pulled {
            Some(Pull { words, remains }) => (words, if remains > 0.0 { case.to_fix.figure } else { 0.0 }),
            None => ("Pull the shapes in to the art.".to_string(), case.to_fix.figure),
        };
        Words {
            message: format!(
                "{} hit {}, but their art is {} apart",
                scene.subject(case),
                scene.name(case.key.with),
                px(case.worst.figure)
            ),
            fix,
            remains,
            end_at: None,
            change: None,
        }
    }
}

/// Which edges to pull in, and what of the overlap is left then.
struct Pull {
    words: String,
    remains: f64,
}

fn pull_in(scene: &Scene<'_, '_>, hit: &Limb<'_>, hurt: &Limb<'_>) -> Option<Pull> {
    let (own, theirs) = (art(scene.input, &hit.way), art(scene.input, &hurt.way));
    let offset = hit.way.now.at - hurt.way.now.at;
    let Deepest { overlap: found, own: i, other: j } = deepest_overlap(&hit.shape.pieces, offset, &hurt.shape.pieces)?;
    let way = Vec2::ZERO - found.push;
    // What both pieces cover across the way, seen from each pivot.
    let across = Vec2::new(0.0 - way.y, way.x);
    let (a, b) = (hit.shape.pieces[i].extent(across), hurt.shape.pieces[j].extent(across));
    let moved = offset.dot(across);
    let (low, high) = ((a.0 + moved).max(b.0), (a.1 + moved).min(b.1));
    let past = hit.past_art(own, way, Band { low: low - moved, high: high - moved });
    let hurt_past = hurt.past_art(theirs, found.push, Band { low: 0.0 - high, high: 0.0 - low });
    let cuts = [(hit, past, way), (hurt, hurt_past, found.push)];
    let parts = cuts.map(|(limb, past, way)| limb.without(past, way));
    let apart = deepest_overlap(&parts[0], offset, &parts[1]).is_none();
    let words = cuts.iter().filter_map(|(limb, past, way)| {
        let past = past.filter(|past| *past > LEAST_PAST)?;
        Some(format!("the {} edge of {} in by {}", edge_against(Vec2::ZERO - *way), limb.shape.name, px(past)))
    });
    let words: Vec<String> = words.collect();
    if apart && !words.is_empty() {
        return Some(Pull { words: format!("Pull {}.", words.join(" and ")), remains: 0.0 });
    }
    let Cut { by, remains } = cut_needed(&hit.shape.pieces, offset, &hurt.shape.pieces, found.push);
    let words = format!("Pull the {} edge of {} in by {}.", edge_against(found.push), hit.shape.name, px(by));
    Some(Pull { words, remains })
}

#[cfg(test)]
mod tests {
    use crate::testing::at;
    use crate::testing::fight::{drawn, run_as};
    use crate::{Facing, Rect};

    #[test]
    fn a_hit_far_from_the_art_of_both_is_reported_with_the_edge_to_draw_in() {
        // The pole's shape reaches 30 px ahead, its art 18; the gull's chest begins 28 px ahead, as its art does.
        let torso = Rect::new(-8.0, -28.0, 8.0, 0.0);
        let fight = |reach: f64, facing: Facing| {
            let side = if facing == Facing::Right { 1.0 } else { -1.0 };
            let actors = drawn(Rect::new(-6.0, -30.0, reach, 0.0), torso);
            let rows = [("swing", 1, (36.0 * side, 0.0)), ("swing", 2, (60.0 * side, 0.0))];
            run_as(&actors, facing, &rows)
        };
        for facing in Facing::BOTH {
            let report = fight(18.0, facing);
            let found: Vec<_> =
                report.findings.iter().map(|f| (f.rule.code(), at(f).with.as_str(), f.figure)).collect();
            assert_eq!(found, [("phantom_hit", "gull:1.chest", 10.0)]);
            let fix = &report.findings[0].fix;
            assert!(fix.contains("edge of pole in by 12.00 px"), "{fix}");
            // The fix from the other side: art as long as the shape, but for what may be apart.
            assert_eq!(fight(26.0, facing).findings, []);
        }
    }
}
