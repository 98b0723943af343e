//! Bodies that leave the stage and that nothing takes.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::tries::is_always_shown;
use super::words::px;
use super::{Cause, Rule, Worst};
use crate::geometry::{Point, Vec2};

/// Where a body is with regard to the stage's box.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Whereabouts {
    /// It meets the stage's box, or lies above it.
    On,
    /// Wholly past the left, right or bottom border: by how much, and the way back.
    Off { by: f64, back: Vec2 },
}

/// Where the body is now.
pub(super) fn whereabouts(world: &World<'_>, step: &Step<'_>) -> Whereabouts {
    let (body, size) = (step.bounds(), world.stage.size);
    let sides = [
        (body.x0 - size.x, Vec2::new(-1.0, 0.0)),
        (0.0 - body.x1, Vec2::new(1.0, 0.0)),
        (body.y0 - size.y, Vec2::new(0.0, -1.0)),
    ];
    let farthest = sides.into_iter().max_by(|a, b| a.0.total_cmp(&b.0));
    match farthest {
        Some((by, back)) if by > 0.0 => Whereabouts::Off { by, back },
        _ => Whereabouts::On,
    }
}

/// The fault of a body that is off the stage, was on it, and met no hazard since.
pub(super) fn off_stage(world: &World<'_>, step: &Step<'_>, ledger: &Ledger, by: f64, back: Vec2) -> Fault {
    let body = step.bounds();
    let size = world.stage.size;
    let middle = body.center();
    let exit = Point::new(middle.x.clamp(0.0, size.x), middle.y.clamp(0.0, size.y));
    let (border, range) = if back.y != 0.0 {
        ("bottom", format!("x {} to {}", px(body.x0), px(body.x1)))
    } else {
        let border = if back.x < 0.0 { "right" } else { "left" };
        (border, format!("y {} to {}", px(body.y0), px(body.y1)))
    };
    let worst = Worst { tick: step.now.tick, depth: by, at: exit, push: back };
    if ledger.is_no_worse(Rule::OffStage, step.label, &world.stage.name, (step.now.tick, by)) {
        return Fault::going_on(Rule::OffStage, step.label, &world.stage.name, worst);
    }
    let step_length = step.motion().map_or(0.0, Vec2::hypot);
    let extent = if back.y != 0.0 { body.height() } else { body.width() };
    let thick = (step_length - extent).max(0.0).floor() + 1.0;
    let caught_by = world
        .stage
        .zones
        .iter()
        .filter(|zone| zone.effect == crate::stage::Effect::Hazard && zone.mask.sees(step.now.body_layer))
        .map(|zone| zone.name.as_str())
        .collect::<Vec<_>>();
    let hazards = match caught_by.as_slice() {
        [] => "no hazard zone looks for it".to_string(),
        names => format!("of {} none lies there", names.join(", ")),
    };
    Fault {
        rule: Rule::OffStage,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: world.stage.name.clone(),
        worst,
        cause: Cause::Moved,
        message: format!(
            "{}'s {} left the stage by the {border} border, {} px past it, and {hazards}.",
            step.label,
            step.body.name,
            px(by)
        ),
        remedy: format!(
            "put a hazard zone or a solid at the {border} border over {range}; at this speed {thick} px thick suffice"
        ),
        remains: Some(if is_always_shown(extent, thick, step_length) { 0.0 } else { by }),
    }
}
