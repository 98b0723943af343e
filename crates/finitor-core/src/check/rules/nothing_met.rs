//! nothing_met: a whole take in which an instance met nothing of its stage.

use crate::actor::ActorIndex;
use crate::check::contacts::ContactState;
use crate::check::ledger::{Case, Key, Ledger, With};
use crate::check::look::{Look, Pair};
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::ticks;
use crate::check::{Settings, View};
use crate::finding::Span;
use crate::geometry::near;
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};
use crate::stage::Stage;
use crate::world::{NearThings, Thing, World};
use reading::{Fit, Reading, Trials, change};
use std::collections::BTreeSet;

mod reading;

/// How short a recording is not judged.
pub(crate) const NOTHING_MET: Threshold = Threshold {
    key: "nothing_met",
    about: "An instance with fewer ticks is not judged.",
    unit: Unit::Ticks,
    default: 30.0,
    least: 1.0,
    most: 99_999.0,
};

/// Poses kept of an instance; of longer takes every second one, every fourth, and so on.
const MOST_KEPT: usize = 64;

/// The share of poses that must stand by another reading where some do as it is.
const CLEARLY: f64 = 0.6;

/// Nearness is tested on every eighth tick.
const LOOK_EVERY: u64 = 8;

/// What is known of an instance.
#[derive(Clone, Debug, Default)]
struct Known {
    /// Poses, evenly over the take.
    kept: Vec<Way>,
    /// The distance in ticks between kept poses.
    stride: u64,
    /// How many ticks are left before the next is kept.
    left: u64,
    ticks: u64,
    /// Ticks on which it moved, or was seen first.
    moving: u64,
    /// Those of them on which it lay outside the stage.
    outside: u64,
    /// Those of them on which it went sideways at one height.
    level: u64,
    last_tick: u64,
    /// Ticks on which something carried it.
    stood: u64,
    /// Ticks on which it was in something.
    inside: u64,
    has_met: bool,
    has_been_on: bool,
}

#[derive(Debug)]
pub(crate) struct NothingMet {
    least: u64,
    view: View,
    known: PerInstance<Known>,
    near: NearThings,
}

/// What was found of an instance.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Unmet {
    total: u64,
    /// The last tick of it.
    last: u64,
    outside: u64,
    stood: u64,
    has_met: bool,
    is_outside: bool,
    fit: Option<Fit>,
    /// Where it has no reading of its own, that of another instance.
    like: Option<Like>,
}

/// What another instance's places mean.
#[derive(Clone, Copy, Debug)]
struct Like {
    instance: InstanceIndex,
    reading: Reading,
}

impl TakeRule for NothingMet {
    const SPEC: Spec = Spec {
        code: "nothing_met",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Ticks,
        thresholds: &[NOTHING_MET],
        text: RuleText {
            means: "In the whole take no body of the instance stood on, touched or came within its own height of \
                    anything it detects, or it lay outside the stage for most of it, or it can walk and hardly \
                    ever stood: the recording is probably wired up wrong.",
            matters: "A check of a take that means something else finds nothing, or only nonsense.",
            measured: "The figure is the number of ticks. Other readings of the take are tried in memory: y counted \
                       the other way, the position of the art's top left corner or middle, units of several px, x and y exchanged, \
                       another stage. One is named where the body then stands on ground, clear of all solids, for \
                       at least a third of the take, but not with view = \"top_down\". Without one an instance is reported only if no instance of its actor was ever on the \
                       stage, or its [moves] say that it walks and it went level with nothing below. What does not move while outside is taken as \
                       parked there.",
            fix: "Record what the message names, or change `y_axis`.",
            drawing: "        [ ]  [ ]  [ ]\n\n  ==========      ==========\n",
        },
    };
    type Seen = Unmet;

    fn new(settings: &Settings) -> NothingMet {
        let least = settings.get(&NOTHING_MET) as u64;
        let (known, near) = (PerInstance::default(), NearThings::default());
        NothingMet { least, view: settings.view(), known, near }
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Unmet>) {
        self.step(look, out);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, _: &mut Ledger<'a, Unmet>) {
        let step = look.step;
        let known = self.known.of(step.instance());
        known.see(step, look.world().stage());
        let is_inside = look.contacts.iter().any(|contact| matches!(contact.state, ContactState::Inside { .. }));
        let carries = look.seat.ground.now.carries;
        known.stood += u64::from(carries && !is_inside);
        known.inside += u64::from(is_inside);
        let meets_body = look.seat.meets_body;
        known.has_met |= carries || !look.zones.is_empty() || meets_body;
        // Another body may be what it stands on.
        known.stood += u64::from(!carries && meets_body);
        if !known.has_met && known.ticks % LOOK_EVERY == 1 {
            known.has_met = comes_near(step, look.world(), &mut self.near);
        }
    }

    fn pair<'a>(&mut self, pair: &Pair<'_, 'a>, _: &mut Ledger<'a, Unmet>) {
        for step in [pair.one, pair.other] {
            self.known.of(step.instance()).has_met = true;
        }
    }

    fn finish<'a>(&mut self, scene: &Scene<'_, 'a>, _: u64, out: &mut Ledger<'a, Unmet>) {
        let mut trials = Trials::new(scene);
        // A recording is wired up for all instances of an actor alike: shots that leave the stage, or begin beyond it, are none.
        let mut been_on: BTreeSet<ActorIndex> = BTreeSet::new();
        for (_, known) in self.known.iter() {
            been_on.extend(known.kept.first().filter(|_| known.has_been_on).map(|way| way.actor));
        }
        let mut all: Vec<(Way, Unmet)> = Vec::new();
        for (_, known) in self.known.iter() {
            let Some(first) = known.kept.first() else { continue };
            all.extend(self.unmet(scene, known, &been_on, &mut trials).map(|unmet| (*first, unmet)));
        }
        let like = all
            .iter()
            .find_map(|(first, unmet)| unmet.fit.map(|fit| Like { instance: first.instance, reading: fit.reading }));
        for (first, unmet) in all {
            let key = Key { instance: first.instance, with: With::Stage };
            let (ticks, figure) = (Span { first: first.now.tick, last: unmet.last }, unmet.total as f64);
            let seen = Unmet { like: like.filter(|_| unmet.fit.is_none()), ..unmet };
            out.see(key, ticks, figure, || scene.of_take(first, figure, seen));
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Unmet>) -> Words {
        let Unmet { total, outside, stood, has_met, is_outside, fit, like, .. } = case.worst.seen;
        let subject = scene.subject(case);
        let stage = &scene.input.stage.name;
        let message = if is_outside {
            format!("{subject} lay outside {stage} on {outside} of {}", ticks(total))
        } else if has_met {
            format!("{subject} stood on ground on {stood} of {}", ticks(total))
        } else {
            format!("{subject} met nothing of {stage} in {}", ticks(total))
        };
        let fix = match (fit, like) {
            (Some(Fit { reading, standing }), _) => {
                let share = (standing * 100.0).floor();
                format!("{}: then it stands on ground for {share} % of the take.", change(scene, &reading))
            }
            (None, Some(Like { instance, reading })) => {
                format!("{}, as for {}.", change(scene, &reading), scene.label(instance))
            }
            (None, None) => {
                "Check what the recording writes to x and y: with y counted the other way, another origin or \
                     another unit nothing carries it either."
                    .to_string()
            }
        };
        Words { message, fix, remains: if fit.is_some() { 0.0 } else { case.worst.figure }, end_at: None, change: None }
    }
}

impl NothingMet {
    /// What is wrong with an instance, where something is; some instance of the actors named was on the stage.
    fn unmet(
        &self,
        scene: &Scene<'_, '_>,
        known: &Known,
        been_on: &BTreeSet<ActorIndex>,
        trials: &mut Trials<'_, '_>,
    ) -> Option<Unmet> {
        let first = scene.step(*known.kept.first()?);
        // Seen from above nothing has to stand: only who never was on the stage is elsewhere.
        let stands = self.view == View::Side;
        let is_outside = known.outside * 2 > known.moving;
        // What crosses surfaces the wrong way is carried by some on a tick or two.
        let hardly_stood = first.may_walk() && known.stood * 20 < known.ticks;
        let is_unmet = !known.has_met || (is_outside && known.stood == 0) || hardly_stood;
        // By half of the px, or across, one stands here and there: another reading must say much more.
        let is_lost = known.stood * 5 < known.ticks || known.inside * 4 > known.ticks;
        if known.ticks < self.least || !(is_unmet || (first.may_walk() && is_lost && known.wanders())) {
            return None;
        }
        let fit = if stands { trials.best(&known.kept) } else { None };
        let fit = fit.filter(|fit| is_unmet || fit.standing >= CLEARLY);
        let walks_on_air = stands && !known.has_met && first.actor.moves.walks() && known.level * 2 > known.moving;
        let is_elsewhere = is_unmet && !been_on.contains(&first.way.actor) && known.outside >= self.least;
        let Known { ticks: total, outside, stood, has_met, last_tick: last, .. } = *known;
        let unmet = Unmet { total, last, outside, stood, has_met, is_outside, fit, like: None };
        (fit.is_some() || is_elsewhere || walks_on_air).then_some(unmet)
    }
}

impl Known {
    /// Whether it goes about: of what stays in a place or two, any reading may bring these onto ground.
    fn wanders(&self) -> bool {
        let goes = |pair: &&[Way]| pair[0].now.at.distance(pair[1].now.at) > 1.0;
        self.kept.windows(2).filter(goes).count() * 2 > self.kept.len()
    }

    /// Takes in a pose.
    fn see(&mut self, step: &Step<'_>, stage: &Stage) {
        let (before, now) = (step.before().map(|before| before.at), step.now().at);
        self.ticks += 1;
        self.last_tick = step.now().tick;
        let body = step.bounds();
        let is_outside = body.x1 < 0.0 || body.y1 < 0.0 || body.x0 > stage.size.x || body.y0 > stage.size.y;
        self.has_been_on |= !is_outside;
        if before != Some(now) {
            self.moving += 1;
            self.outside += u64::from(is_outside);
            self.level += u64::from(before.is_some_and(|before| before.y == now.y));
        }
        if self.left > 0 {
            self.left -= 1;
            return;
        }
        self.kept.push(step.way);
        let stride = self.stride.max(1);
        self.left = stride - 1;
        if self.kept.len() == 2 * MOST_KEPT {
            let mut index = 0;
            self.kept.retain(|_| {
                index += 1;
                index % 2 == 1
            });
            self.stride = stride * 2;
            // The one that was just kept is dropped: it lies between two of the new distance.
            self.left = self.stride - 1 - stride;
        }
    }
}

/// Whether a body is within its own height of a solid or a platform that it detects.
fn comes_near(step: &Step<'_>, world: &World<'_>, found: &mut NearThings) -> bool {
    let (body, at, mask) = (step.bounds(), step.now().at.to_vec2(), step.now().body_mask);
    found.clear();
    world.find(body.inflate(body.height(), body.height()), found);
    let solids = found.solids.iter().map(|index| Thing::Solid(*index));
    let things = solids.chain(found.one_ways.iter().map(|index| Thing::OneWay(*index)));
    things.filter(|thing| mask.sees(world.layer(*thing))).any(|thing| {
        let is_near = |own| world.pieces(thing).iter().any(|theirs| near(own, at, theirs, body.height()));
        step.body.pieces.iter().any(is_near)
    })
}

#[cfg(test)]
mod tests {
    use crate::actor::Actor;
    use crate::check::{CheckInput, Checker, Settings};
    use crate::finding::Finding;
    use crate::stage::{Effect, Stage};
    use crate::testing::{crate_actor, hero, layers, sample, solid, stage, zone};
    use crate::{Facing, Rect};

    /// A floor from y 280 on, and of the other stage from y 120 on.
    fn floor(name: &str, y: f64) -> Stage {
        let mut of = stage();
        of.name = name.into();
        of.solids.push(solid("floor", Rect::new(0.0, y, 400.0, 300.0)));
        of
    }

    fn found(actor: Actor, stages: &[Stage], at: impl Fn(f64) -> (f64, f64)) -> Vec<Finding> {
        let (actors, layers, settings) = ([actor], layers(), Settings::default());
        let input = CheckInput { stages, ..CheckInput::new(&stages[0], &actors, &layers, &settings) };
        let mut checker = Checker::new(input);
        for tick in 0..60 {
            let (name, pose) = (&actors[0].name, &actors[0].animations[0].name);
            checker.tick(tick, &[sample(&actors, name, (at(tick as f64), Facing::Right), pose, "")]);
        }
        let findings = checker.finish().findings;
        findings.into_iter().filter(|finding| finding.rule.code() == "nothing_met").collect()
    }

    #[test]
    fn a_take_of_another_stage_names_it() {
        let stages = [floor("yard", 280.0), floor("loft", 120.0)];
        let found = found(hero(0), &stages, |tick| (20.0 + tick, 120.0));
        assert_eq!(found.len(), 1, "{found:#?}");
        assert_eq!(found[0].fix, "Check it with `--stage loft`: then it stands on ground for 100 % of the take.");
    }

    #[test]
    fn a_walk_that_no_reading_carries_is_reported_and_says_so() {
        let mut walker = hero(0);
        walker.moves.jump = Some(40.0);
        let walk = found(walker, &[floor("yard", 280.0)], |tick| (20.0 + tick, 131.7));
        assert_eq!(walk[0].message, "hero.body met nothing of yard in 60 ticks");
        assert!(walk[0].fix.starts_with("Check what the recording writes"), "{walk:#?}");
        assert_eq!(walk[0].remains, Some(60.0));
        let away = |tick: f64| (-500.0 - tick, -90.0 - tick);
        let gone = found(crate_actor(), &[floor("yard", 280.0)], away);
        assert_eq!(gone[0].message, "crate.body lay outside yard on 60 of 60 ticks");
    }

    #[test]
    fn who_stands_here_and_there_is_told_where_another_reading_says_much_more() {
        let jump = |tick: f64| if tick % 30.0 < 20.0 { 280.0 } else { 280.0 - 30.0 + (tick % 30.0 - 25.0).powi(2) };
        // A plank under the first steps of a walk in half of the px, a block in the way of one across.
        let mut yard = floor("yard", 280.0);
        yard.solids.push(solid("plank", Rect::new(0.0, 140.0, 12.0, 150.0)));
        let half = found(hero(0), &[yard.clone()], |tick| (10.0 + 2.0 * tick, jump(tick) / 2.0));
        assert_eq!(half[0].fix.split(':').next(), Some("Multiply x and y by 2"), "{half:#?}");
        assert!(half[0].message.starts_with("hero.body stood on ground on "), "{half:#?}");
        yard.solids.push(solid("block", Rect::new(260.0, 40.0, 330.0, 90.0)));
        let across = found(hero(0), &[yard.clone()], |tick| (jump(tick), 20.0 + 4.0 * tick));
        assert_eq!(across[0].fix.split(':').next(), Some("Exchange x and y"), "{across:#?}");
        // As it is meant, and flying about with a rest on the plank.
        assert_eq!(found(hero(0), &[yard.clone()], |tick| (20.0 + 4.0 * tick, jump(tick))), []);
        let fly = |tick: f64| (20.0 + 2.0 * tick, 140.0 - 30.0 * (tick / 12.0).sin().abs());
        assert_eq!(found(hero(0), &[yard], fly), []);
    }

    /// Play that meets nothing and is right.
    #[test]
    fn what_flies_hangs_falls_or_is_parked_is_left_alone() {
        let yard = || [floor("yard", 280.0), floor("loft", 120.0)];
        let silent = |actor: Actor, stages: &[Stage], at: &dyn Fn(f64) -> (f64, f64)| {
            assert_eq!(found(actor, stages, at), vec![]);
        };
        // Along a line that is a floor with y counted the other way, and on the other stage.
        silent(crate_actor(), &yard(), &|tick| (20.0 + 2.0 * tick, 20.0));
        silent(crate_actor(), &yard(), &|tick| (20.0 + 2.0 * tick, 120.0));
        silent(hero(0), &yard(), &|tick| (20.0 + tick, 131.7));
        // Up and down and to and fro.
        silent(crate_actor(), &yard(), &|tick| (90.0 + 60.0 * (tick / 9.0).sin(), 110.0 + 40.0 * (tick / 7.0).cos()));
        // A lamp on its chain.
        silent(crate_actor(), &yard(), &|_| (200.0, 70.0));
        // Parked far outside, and used for a moment.
        silent(hero(0), &yard(), &|tick| if tick < 50.0 { (-900.0, -900.0) } else { (50.0, 100.0 + tick) });
        // A long fall.
        silent(hero(0), &yard(), &|tick| (200.0, 20.0 + 3.0 * tick));
        // Through the air into a zone.
        let mut windy = floor("yard", 280.0);
        windy.zones.push(zone("wind", Rect::new(30.0, 60.0, 60.0, 120.0), Effect::Event));
        silent(hero(0), &[windy], &|tick| (20.0 + tick, 100.0));
        // Carried along the floor, on ground from the first tick on, and then out of the stage.
        silent(hero(0), &yard(), &|tick| (300.0 + 30.0 * tick, 280.0));
    }
}
