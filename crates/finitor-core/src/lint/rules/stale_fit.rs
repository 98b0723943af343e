//! stale_fit: the art or a recipe is not what the shapes were made from.

use crate::finding::Place;
use crate::lint::facts::{ActorFacts, FitState};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct StaleFit;

impl StillRule for StaleFit {
    const SPEC: Spec = Spec {
        code: "stale_fit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The art or a recipe changed since the last fit, or frames came or went.",
            matters: "Checks and the game use shapes that no longer go with the picture.",
            measured: "Each frame's pixels and each recipe are hashed and compared with the fits. The figure is the number \
                       of opaque pixels that came, went or have another colour or body part.",
            fix: "Run `finitor fit`; hand edits stay. Where an animation has another name now, `finitor fit --rename \
                  OLD=NEW` takes its shapes along.",
            drawing: "   made from      now\n     ##           ###\n     ##           ##   1 px came\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let name = facts.name;
        let mut report = |place: &str, pixels: u64, message: String, fix: String| {
            out.report(Fault {
                subject: name.to_string(),
                place: Place::Actor(place.to_string()),
                figure: pixels as f64,
                message,
                fix,
            });
        };
        let fit = format!("Run `finitor fit {name}`.");
        match &facts.fits {
            FitState::Current => {}
            FitState::Missing => report("all", 0, format!("{name} has no fits yet"), fit),
            FitState::Recipes(count, first) => {
                let shapes = if *count == 1 { "1 shape".to_string() } else { format!("{count} shapes") };
                report("all", 0, format!("The recipes of {shapes} changed since the last fit (first: {first})"), fit);
            }
            FitState::Frames(changes) => {
                for change in changes {
                    let fix = match &change.was {
                        Some(was) => format!("Run `finitor fit {name} --rename {}={was}`.", change.name),
                        None => fit.clone(),
                    };
                    report(&change.name, change.pixels, change.message.clone(), fix);
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::StaleAnimation;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::hero;

    #[test]
    fn what_changed_since_the_fit_is_named_with_the_command() {
        let of = hero(0);
        let with = |fits: FitState| of_actor::<StaleFit>(&ActorFacts { fits, ..facts(&of) });
        assert_eq!(with(FitState::Current), [""; 0]);
        assert_eq!(with(FitState::Missing), ["all: 0: hero has no fits yet. Run `finitor fit hero`."]);
        assert_eq!(
            with(FitState::Recipes(2, "body".into())),
            ["all: 0: The recipes of 2 shapes changed since the last fit (first: body). Run `finitor fit hero`."]
        );
        let changed = |was: Option<&str>| {
            let message = "12 px of walk changed".to_string();
            FitState::Frames(vec![StaleAnimation {
                name: "walk".into(),
                pixels: 12,
                message,
                was: was.map(String::from),
            }])
        };
        assert_eq!(with(changed(None)), ["walk: 12: 12 px of walk changed. Run `finitor fit hero`."]);
        assert_eq!(
            with(changed(Some("stride"))),
            ["walk: 12: 12 px of walk changed. Run `finitor fit hero --rename walk=stride`."]
        );
    }
}
