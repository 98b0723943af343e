//! `height_from`: shapes as high as a passage of a stage lets through.

use crate::actor_toml::ActorFile;
use crate::problem::Problem;
use crate::toml_table::nearest;
use finitor_core::fit::Source;
use finitor_core::stage::{Stage, passage_height};

impl ActorFile {
    /// Gives shapes with a passage to fit through its height, less their clearance. Tells what is wrong with the names.
    pub fn take_heights(&mut self, stages: &[Stage]) -> Vec<Problem> {
        let mut problems = Vec::new();
        for shape in &mut self.shapes {
            let (Some(wanted), Source::Fitted(fitting)) = (&shape.height_from, &mut shape.source) else { continue };
            let clearance = wanted.clearance_milli as f64 / 1000.0;
            let found = height(stages, &wanted.thing).map(|height| height - clearance);
            match found {
                Ok(height) if height > 0.0 => {
                    fitting.sides.height = Some(height);
                    fitting.sides.top = None;
                }
                Ok(height) => {
                    let message = format!("the clearance leaves {height} px of {}", wanted.thing);
                    problems.push(problem(&self.path, &wanted.place, message, "make `clearance` smaller".into()));
                }
                Err((message, hint)) => problems.push(problem(&self.path, &wanted.place, message, hint)),
            }
        }
        problems
    }
}

fn problem(path: &std::path::Path, place: &crate::problem::Place, message: String, hint: String) -> Problem {
    Problem { place: Some(place.clone()), ..Problem::of_file(path, message).with_hint(hint) }
}

fn height(stages: &[Stage], thing: &str) -> Result<f64, (String, String)> {
    let Some((stage_name, name)) = thing.split_once('/') else {
        return Err((
            format!("\"{thing}\" names no passage"),
            "write a stage and a zone or solid of it: \"pier/crawl\"".into(),
        ));
    };
    let Some(stage) = stages.iter().find(|stage| stage.name == stage_name) else {
        let names: Vec<&str> = stages.iter().map(|stage| stage.name.as_str()).collect();
        let hint = nearest(stage_name, &names).map_or_else(
            || format!("there are: {}", names.join(", ")),
            |near| format!("did you mean \"{near}/{name}\"?"),
        );
        return Err((format!("there is no stage \"{stage_name}\""), hint));
    };
    let things =
        stage.solids.iter().map(|solid| solid.name.as_str()).chain(stage.zones.iter().map(|zone| zone.name.as_str()));
    let names: Vec<&str> = things.collect();
    passage_height(stage, name).ok_or_else(|| {
        if names.contains(&name) {
            return (
                format!("nothing lies under {thing}, so it is no passage"),
                "name a solid with a floor below it, or a zone".into(),
            );
        }
        let hint = nearest(name, &names).map_or_else(
            || format!("{stage_name} has: {}", names.join(", ")),
            |near| format!("did you mean \"{stage_name}/{near}\"?"),
        );
        (format!("{stage_name} has no zone or solid \"{name}\""), hint)
    })
}
