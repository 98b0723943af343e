//! What can be reported before any take.
//!
//! A rule looks at plain [facts](ActorFacts) and reports [findings](crate::finding::Finding) of the same form as those
//! of takes.

mod detection;
mod facts;
mod floors;
mod landings;
mod rules;
mod still_rule;
mod strips;
#[cfg(test)]
mod testing;
mod turning;

pub use facts::{
    ActorFacts, AnimationArt, AnimationFacts, CastFacts, FitState, FrameFacts, LayerFacts, LayerParty, LayerSpot,
    MissingAnchorFacts, OwnerKind, ShapeFacts, SheetPlace, StageFacts, StaleAnimation,
};
pub(crate) use rules::SPECS;
pub use rules::{lint_actor, lint_animation, lint_cast, lint_layers, lint_stage};
pub use still_rule::StillFinding;
pub use strips::STRIP_INSET;
pub use turning::{Turn, TurnedShape, turned_shapes, turns};
