//! A step asked again as a fix would have it: what would the other rules say?

use super::ledger::Told;
use super::moment::Moment;
use super::pass::Pass;
use super::step::Way;
use super::take_rule::Scene;
use crate::rule::Severity;

/// Whether a step that ends otherwise than it did breaks a rule, as a warning or an error, that it did not break as it was.
///
/// What happened before is as it was; where the body then rests on something, it rests for one tick more. Other instances
/// are left out.
///
/// # Complexity
/// That of three to six ticks of one instance.
pub(crate) fn breaks_another_rule(scene: &Scene<'_, '_>, way: Way, instead: Moment) -> bool {
    let told = told(scene, way, instead);
    if told.is_empty() {
        return false;
    }
    let known = self::told(scene, way, way.now);
    told.iter().any(|told| !known.contains(told))
}

/// The faults of a step that ends so.
fn told<'a>(scene: &Scene<'_, 'a>, way: Way, end: Moment) -> Vec<Told<'a>> {
    let mut pass = Pass::new(scene.input);
    let instance = pass.add_instance(scene.world.stage().zones.len());
    let labels = [String::new()];
    let scene = Scene { labels: &labels, ..*scene };
    let way = Way { instance, now: end, ..way };
    if let Some(before) = way.one_before() {
        run(&mut pass, &scene, before);
    }
    run(&mut pass, &scene, way);
    if pass.track(instance).is_carried {
        let motion = way.before.map(|before| end.at - before.at);
        let still = Moment { tick: end.tick + 1, is_warped: false, ..end };
        run(
            &mut pass,
            &scene,
            Way { before: Some(end), now: still, earlier_move: way.last_move, last_move: motion, ..way },
        );
    }
    pass.rules.told(end.tick, Severity::Warn)
}

fn run<'a>(pass: &mut Pass<'a>, scene: &Scene<'_, 'a>, way: Way) {
    pass.observe(scene, way, &[]);
    pass.judge(scene, &[]);
    pass.end_tick(scene.input.pace(), way.now.tick);
}
