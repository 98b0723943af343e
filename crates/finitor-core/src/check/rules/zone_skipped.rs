//! zone_skipped: a body crossed a zone between two ticks.

use crate::change::{Change, Owned};
use crate::check::Settings;
use crate::check::crossing::{Crossing, crossing_by};
use crate::check::ledger::{Case, Key, Ledger, With};
use crate::check::look::Look;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{number, px};
use crate::finding::Span;
use crate::geometry::{Vec2, extent_along, overlap_depth};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::world::{Path, Through, ZoneIndex, is_always_shown};

#[derive(Debug)]
pub(crate) struct ZoneSkipped;

/// The zone and how the body went through it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seen {
    zone: ZoneIndex,
    through: Through,
    motion: Vec2,
}

impl TakeRule for ZoneSkipped {
    const SPEC: Spec = Spec {
        code: "zone_skipped",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body crossed a trigger zone between two ticks, and no tick shows it inside.",
            matters: "Deaths, goals and events fail to fire, but only at full speed.",
            measured: "The old shape is swept straight from the old place to the new one, exactly. It counts when it gets \
                       deeper than check.slack into the zone on the way, also when the step is taken axis by axis, in \
                       either order, and overlaps it at neither end. Where the take tells the way (via) that one is swept. \
                       The figure is the greatest depth on the way.",
            fix: "Make the zone at least as thick as given along the motion, or keep steps under the length given.",
            drawing: "        :zone:\n   [ ] -:----:-> [ ]\n        :    :\n",
        },
    };
    const AFTER: &'static [&'static str] = &["tunnelled", "off_stage"];
    type Seen = Seen;

    fn new(_: &Settings) -> ZoneSkipped {
        ZoneSkipped
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let step = look.step;
        for contact in look.zones.iter().filter(|contact| contact.is_passed) {
            let Some(((motion, before), body)) = step.motion().zip(step.before()).zip(step.old_body) else { continue };
            let zone = &look.world().zone(contact.zone).outline;
            // The tick before shows it inside, though a state kept the zone from detecting it then.
            if overlap_depth(&body.pieces, before.at.to_vec2(), &zone.pieces) > 0.0 {
                continue;
            }
            let path = Path { pieces: &body.pieces, from: before.at, motion };
            let via = look.via();
            if !via.is_empty() {
                let found = crossing_by(step, via, &zone.pieces, step.rough());
                found.into_iter().for_each(|found| report(look, contact.zone, found, out));
                continue;
            }
            let found = path.through(&zone.pieces).filter(|through| through.depth > step.rough());
            // A corner that the straight line cuts and a step axis by axis goes round is no crossing; nor is one of the old
            // frame alone, where the game may have taken the new one first.
            let new = Path { pieces: &step.body.pieces, ..path };
            let is_sure = [path, new].iter().all(|path| !path.is_clear(&zone.pieces, step.rough()));
            let Some(through) = found.filter(|_| is_sure) else { continue };
            report(look, contact.zone, Crossing { through, from: before.at, motion }, out);
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let Seen { zone, through, motion } = case.worst.seen;
        let zone = scene.world.zone(zone);
        let length = motion.hypot();
        let way = motion / length;
        let (near, far) = extent_along(std::slice::from_ref(&zone.outline.polygon), Vec2::ZERO, way);
        let passed = (through.exit - through.enter) * length;
        // The body is inside for `passed` px of way; each px of thickness adds one, and a whole step must fit in.
        let needed = (far - near + length - passed).floor() + 1.0;
        let owned = Owned::new(&scene.input.stage.name, &zone.name);
        Words {
            message: format!(
                "{} crossed {} within one step of {}; no tick shows it inside",
                scene.subject(case),
                scene.name(case.key.with),
                px(length)
            ),
            fix: format!(
                "Make {} at least {needed} px thick along the motion (now {}), or keep steps under {}.",
                zone.name,
                number(far - near),
                px(passed)
            ),
            change: Change::thicker(&owned, &zone.outline, way, needed - (far - near)),
            remains: if is_always_shown(passed - (far - near), needed, length) { 0.0 } else { through.depth },
            end_at: None,
        }
    }
}

fn report<'a>(look: &Look<'_, 'a>, zone: ZoneIndex, crossing: Crossing, out: &mut Ledger<'a, Seen>) {
    let Crossing { through, motion, .. } = crossing;
    let step = look.step;
    let key = Key { instance: step.instance(), with: With::Zone(zone) };
    let seen = Seen { zone, through, motion };
    out.see(key, Span::at(step.now().tick), through.depth, || crossing.sighting(step, seen));
}

#[cfg(test)]
mod tests {
    use crate::check::{CheckInput, Checker, EventKind, Settings};
    use crate::layers::{LayerChange, LayerSet};
    use crate::stage::Effect;
    use crate::testing::*;
    use crate::{Facing, Rect};

    #[test]
    fn zones_tell_enter_exit_and_what_was_skipped() {
        let mut stage = stage();
        stage.zones.push(zone("rope", Rect::new(100.0, 0.0, 103.0, 300.0), Effect::Event));
        let walk = path(&[(90.0, 100.0), (96.0, 100.0), (97.0, 100.0), (109.0, 100.0)]);
        let report = check(&stage, hero(0), &walk);
        let events: Vec<(u64, EventKind)> = report.events.iter().map(|event| (event.tick, event.kind)).collect();
        assert_eq!(events, [(2, EventKind::Enter), (3, EventKind::Exit)], "a touch at tick 1 is no entry");
        assert_eq!(short(&report), []);
        // 20 px in a step: from 2 px before it to 5 past; deepest with half of 10 + 3 px.
        let dash = check(&stage, hero(0), &path(&[(94.0, 100.0), (114.0, 100.0)]));
        assert_eq!(short(&dash), vec![found("zone_skipped", "yard/rope", (1, 1), 6.5, "moved")]);
        assert_eq!(dash.events, []);
        // 13 px of way lie inside, 20 are needed: 7 px more, and a whole one so that it overlaps.
        assert!(dash.findings[0].fix.contains("at least 11 px thick"), "{}", dash.findings[0].fix);
        for (thick, skipped) in [(10.0, true), (11.0, false)] {
            // Where the dash starts must not matter: the worst start is just short of the zone.
            stage.zones[0] = zone("rope", Rect::new(100.0, 0.0, 100.0 + thick, 300.0), Effect::Event);
            let report = check(&stage, hero(0), &path(&[(96.0, 100.0), (116.0, 100.0)]));
            assert_eq!(!report.findings.is_empty(), skipped, "{thick} px: {:?}", short(&report));
        }
    }

    #[test]
    fn a_tick_that_shows_a_body_inside_counts_whether_or_not_it_was_detected_then() {
        let mut yard = floored();
        let mut rope = zone("rope", Rect::new(100.0, 0.0, 103.0, 300.0), Effect::Event);
        rope.mask = LayerSet::of(CRATE);
        yard.zones.push(rope);
        let mut layers = layers();
        layers.states[0].changes[0] = LayerChange { layer: HERO, join: LayerSet::of(CRATE), ..LayerChange::default() };
        let actors = [hero(0)];
        let settings = Settings::default();
        // Detected from the second tick on; the first shows it inside, or short of it.
        let found = |from: f64| {
            let mut checker = Checker::new(CheckInput::new(&yard, &actors, &layers, &settings));
            for (tick, (x, states)) in [(from, ""), (114.0, "ghost")].into_iter().enumerate() {
                checker.tick(tick as u64, &[sample(&actors, "hero", ((x, LEVEL), Facing::Right), "stand", states)]);
            }
            short(&checker.finish()).len()
        };
        assert_eq!([found(97.0), found(94.0)], [0, 1]);
    }
}
