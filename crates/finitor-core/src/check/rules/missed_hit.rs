//! missed_hit: the art of a swing met a target, and no hit shape did.

use crate::actor::{PixelRuns, Pose, Role, Shape};
use crate::check::blows::{Limb, art, seen_pose};
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::step::{InstanceIndex, Way};
use crate::check::swings::{Fighter, SwingEvent, hits_of, hurts_of};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{px, shift};
use crate::check::{CheckInput, Settings};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Vec2, deepest_overlap, distance, rects_overlap};
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};
use std::collections::BTreeMap;

/// How much the art of a swing may cover a target that no shape hits.
pub(crate) const MISSED_HIT: Threshold = Threshold {
    key: "missed_hit",
    about: "The art of a hit may cover a target that it does not strike by this much.",
    unit: Unit::Px2,
    default: 32.0,
    least: 0.0,
    most: 1e7,
};

/// How far the shapes stayed apart.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Short {
    by: f64,
    /// The way in which the hit would reach the target.
    way: Vec2,
    target: Way,
}

/// A frame as it is seen: actor, animation, frame and facing.
type FrameKey = (usize, usize, usize, usize);

/// The opaque pixels of a frame: those that strike, and all others.
#[derive(Clone, Debug)]
struct Parted {
    strikes: PixelRuns,
    others: PixelRuns,
}

#[derive(Debug, Default)]
pub(crate) struct MissedHit {
    allowed: f64,
    parted: BTreeMap<FrameKey, Parted>,
    pending: Vec<Pending>,
}

/// Art that met in a swing of which no shape has struck yet.
#[derive(Clone, Debug)]
struct Pending {
    swing: u64,
    ticks: Span,
    /// The largest area that met, px2, and where.
    area: f64,
    at: Point,
    striker: Way,
    hit: String,
    hurt: String,
    short: Short,
}

impl Pending {
    fn is_of(&self, striker: InstanceIndex, target: InstanceIndex) -> bool {
        self.striker.instance == striker && self.short.target.instance == target
    }
}

impl TakeRule for MissedHit {
    const SPEC: Spec = Spec {
        code: "missed_hit",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Px2,
        thresholds: &[MISSED_HIT],
        text: RuleText {
            means: "The art of a swing covered a target, and in all that swing no hit shape touched it.",
            matters: "Players see their blow go through.",
            measured: "While a hit is out that detects a hurt shape of the target: the area that the opaque pixels of both \
                       share, exactly. Of the striker those count that lie as near to a hit as to its body and hurt \
                       shapes, of the target all but those. Reported when the swing is over and no hit of it struck. The \
                       figure is the largest such area. It counts beyond check.missed_hit: hurt shapes are often drawn \
                       small on purpose.",
            fix: "Extend the hit, or the hurt shape, by the px given.",
            drawing: "   ---[--]--- o\n   ---[--]--/|\\\n            / \\   art on art, no shape\n",
        },
    };
    const AFTER: &'static [&'static str] = &["facing_split"];
    type Seen = Short;

    fn new(settings: &Settings) -> MissedHit {
        MissedHit { allowed: settings.get(&MISSED_HIT), ..MissedHit::default() }
    }

    fn swings<'a>(&mut self, input: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>], out: &mut Ledger<'a, Short>) {
        for event in events {
            match event {
                SwingEvent::Goes { striker, begun } => {
                    let is_over = |miss: &Pending| miss.striker.instance == *striker && miss.swing != *begun;
                    self.close(input, is_over, out);
                }
                SwingEvent::HasStruck { striker, target } => {
                    self.pending.retain(|miss| !miss.is_of(*striker, *target));
                }
                SwingEvent::MayStrike { striker, target, begun } => self.look(input, striker, target, *begun),
                SwingEvent::Strikes(_) => {}
            }
        }
    }

    fn finish<'a>(&mut self, scene: &Scene<'_, 'a>, _: u64, out: &mut Ledger<'a, Short>) {
        self.close(scene.input, |_| true, out);
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Short>) -> Words {
        let Short { by, way, target } = case.worst.seen;
        let hit = Limb::named(scene.input, case.worst.way, case.worst.shape);
        let hurt = match case.key.with {
            With::Shape(_, name) => Limb::named(scene.input, target, name),
            _ => None,
        };
        // A hundredth further than where the two touch.
        let reached = case.worst.way.now.at - target.now.at + way * (by + 0.01);
        let meets = hit
            .zip(hurt)
            .is_some_and(|(hit, hurt)| deepest_overlap(&hit.shape.pieces, reached, &hurt.shape.pieces).is_some());
        let frame = case.worst.way.now.frame_name(scene.input.actor(case.worst.way.actor));
        Words {
            message: format!(
                "The art of {} covers {} of {}, but no hit shape touched it in that swing: {} short",
                scene.subject(case),
                Unit::Px2.shown(case.worst.figure),
                scene.label(target.instance),
                px(by)
            ),
            fix: format!("Extend {} by more than {} on {frame}.", case.worst.shape, shift(way, by)),
            remains: if meets { 0.0 } else { case.worst.figure },
            end_at: None,
            change: None,
        }
    }
}

impl MissedHit {
    /// Takes in a striker and a target that none of its hits has struck in this swing.
    fn look(&mut self, input: &CheckInput<'_>, striker: &Fighter<'_>, target: &Fighter<'_>, swing: u64) {
        let (own, theirs) = (art(input, striker.way), art(input, target.way));
        let offset = striker.way.now.at - target.way.now.at;
        // Most are far off.
        if !rects_overlap(own.bounds() + offset, theirs.bounds()) {
            return;
        }
        let hits = hits_of(input, striker.sample).into_iter();
        let pairs = hits.flat_map(|(hit, mask)| hurts_of(input, target.sample, mask).map(move |hurt| (hit, hurt)));
        let nearest = pairs.filter_map(|(hit, hurt)| {
            let (apart, way) = apart(hit, offset, hurt)?;
            Some((apart, way, hit, hurt))
        });
        let Some((by, way, hit, hurt)) = nearest.min_by(|a, b| a.0.total_cmp(&b.0)) else { return };
        let (own, theirs) = (self.part(input, striker.way), self.part(input, target.way));
        let Some((area, middle)) = self.parted[&own].strikes.shared(offset, &self.parted[&theirs].others) else {
            return;
        };
        if area <= self.allowed {
            return;
        }
        let tick = striker.way.now.tick;
        let seen = Pending {
            swing,
            ticks: Span::at(tick),
            area,
            at: middle + target.way.now.at.to_vec2(),
            striker: *striker.way,
            hit: hit.name.clone(),
            hurt: hurt.name.clone(),
            short: Short { by, way, target: *target.way },
        };
        let is_same = |known: &&mut Pending| known.swing == swing && known.is_of(striker.instance(), target.instance());
        match self.pending.iter_mut().find(is_same) {
            Some(known) => {
                known.ticks.last = tick;
                if area > known.area_figure() {
                    *known = Pending { ticks: known.ticks, ..seen };
                }
            }
            None => self.pending.push(seen),
        }
    }

    /// Reports the misses of swings that are over.
    fn close<'a>(&mut self, input: &CheckInput<'a>, is_over: impl Fn(&Pending) -> bool, out: &mut Ledger<'a, Short>) {
        for miss in self.pending.extract_if(.., |miss| is_over(miss)) {
            let hit = Limb::named(input, miss.striker, &miss.hit);
            let hurt = Limb::named(input, miss.short.target, &miss.hurt);
            let Some((hit, hurt)) = hit.zip(hurt) else { continue };
            let with = With::Shape(miss.short.target.instance, hurt.shape.name.as_str());
            let seen = Sighting {
                tick: miss.striker.now.tick,
                figure: miss.area_figure(),
                at: miss.at,
                push: miss.short.way,
                cause: Cause::Moved,
                shape: &hit.shape.name,
                way: miss.striker,
                seen: miss.short,
            };
            out.close(Key { instance: miss.striker.instance, with }, miss.ticks, seen);
        }
    }

    /// Sees to the parts of a frame, and gives their key.
    fn part(&mut self, input: &CheckInput<'_>, of: &Way) -> FrameKey {
        let facing = if of.now.is_split { of.now.facing.turned() } else { of.now.facing };
        let key = (of.actor.0, of.now.animation, of.now.frame, facing.index());
        self.parted.entry(key).or_insert_with(|| {
            let pose = seen_pose(input, of);
            let [strikes, others] = pose.pixels.parted(|pixel| stands_for_a_hit(pose, pixel));
            Parted { strikes, others }
        });
        key
    }
}

impl Pending {
    /// The area to a hundredth.
    fn area_figure(&self) -> f64 {
        (self.area * 100.0).round() / 100.0
    }
}

/// Whether a pixel stands for what strikes: it is as near to a hit as to any hurt shape or body.
fn stands_for_a_hit(pose: &Pose, pixel: Point) -> bool {
    let nearest = |wanted: &dyn Fn(Role) -> bool| {
        let pieces = pose.shapes.iter().filter(|shape| wanted(shape.role)).flat_map(|shape| &shape.pieces);
        pieces.map(|piece| piece.squared_distance(pixel)).fold(f64::INFINITY, f64::min)
    };
    let hit = nearest(&|role| role == Role::Hit);
    hit.is_finite() && hit <= nearest(&|role| matches!(role, Role::Hurt | Role::Body))
}

/// How far two shapes are apart, and the way in which the first would reach the second.
fn apart(one: &Shape, offset: Vec2, other: &Shape) -> Option<(f64, Vec2)> {
    let pairs = one.pieces.iter().flat_map(|a| other.pieces.iter().map(move |b| (a, b)));
    let nearest = pairs.filter_map(|(a, b)| distance(a, offset, b));
    nearest.min_by(|a, b| a.0.total_cmp(&b.0))
}

#[cfg(test)]
mod tests {
    use crate::testing::at;
    use crate::testing::fight::{drawn, run_as};
    use crate::{Facing, Rect};

    #[test]
    fn art_that_meets_in_a_swing_without_a_hit_is_reported_by_the_area_they_share() {
        // The pole's shape reaches 30 px ahead, its art 50; the gull's chest begins 42 px ahead, as its art does.
        let torso = Rect::new(-8.0, -28.0, 8.0, 0.0);
        let fight = |reach: f64, frames: &[usize]| {
            let actors = drawn(Rect::new(4.0, -30.0, reach, -22.0), torso);
            let swing = frames.iter().map(|frame| ("swing", *frame, (50.0, 0.0)));
            run_as(&actors, Facing::Right, &swing.chain([("idle", 0, (50.0, 0.0))]).collect::<Vec<_>>())
        };
        let report = fight(50.0, &[0, 1, 2, 3]);
        // 8 px of the pole's art lie in the gull's, of its 8 rows 6 below the gull's top.
        let found: Vec<_> = report.findings.iter().map(|f| (f.rule.code(), at(f).with.as_str(), f.figure)).collect();
        assert_eq!(found, [("missed_hit", "gull:1.chest", 48.0)]);
        assert!(report.findings[0].fix.contains("12.00 px"), "{}", report.findings[0].fix);
        // Less art than counts, and frames on which no hit is out.
        assert_eq!(fight(46.0, &[0, 1, 2, 3]).findings, []);
        assert_eq!(fight(50.0, &[0, 3]).findings, []);
    }
}
