//! What room bodies have on stages, as it is written.

use finitor_core::clearance::{BodyPocket, LowPlace, Passage, PassageKind, Room, StageClearance, Stance};
use finitor_core::stage::Stage;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`ClearanceList`].
pub const CLEARANCE_SCHEMA: &str = "finitor.clearance/2";

/// The room on stages.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ClearanceList {
    /// [`CLEARANCE_SCHEMA`].
    pub schema: String,
    /// In the project's order.
    pub stages: Vec<StageClearanceResult>,
}

/// The room on one stage.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct StageClearanceResult {
    /// Its name.
    pub stage: String,
    /// Passages that are tight for a body.
    pub passages: Vec<PassageResult>,
    /// Where bodies must stay low.
    pub low: Vec<LowResult>,
    /// What bodies cannot leave.
    pub pockets: Vec<PocketResult>,
}

/// A tight passage.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct PassageResult {
    /// `level` or `upright`.
    pub kind: String,
    /// From x to x; from y to y where it is upright.
    pub span_px: [f64; 2],
    /// The least height, or width.
    pub clear_px: f64,
    /// The middle of the tightest place, px.
    pub at: [f64; 2],
    /// The solids on both sides there.
    pub between: [String; 2],
    /// Whether both ends are open.
    pub through: bool,
    /// Body by body.
    pub rooms: Vec<RoomResult>,
}

/// The room of a body in a passage.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct RoomResult {
    /// `keeper.body`.
    pub body: String,
    /// Whether it gets through.
    pub fits: bool,
    /// How far it can move across at the tightest place; below 0 what it is short of; `null` where it is too long.
    pub spare_px: Option<f64>,
    /// The frame that has the least room.
    pub frame: String,
}

/// Where a body must stay low.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct LowResult {
    /// The low body.
    pub body: String,
    /// The tall one, which would overlap.
    #[serde(rename = "as")]
    pub tall: String,
    /// The pivot, from and to, px.
    pub x: [f64; 2],
    /// The pivot at both ends, px.
    pub y: [f64; 2],
    /// What it stands on.
    pub floor: String,
    /// What the tall body would overlap.
    #[serde(rename = "in")]
    pub ceiling: String,
    /// How deep.
    pub depth_px: f64,
}

/// What a body cannot leave.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct PocketResult {
    /// The body.
    pub body: String,
    /// Left, top, width, height of the places of its pivot, px.
    #[serde(rename = "box")]
    pub bounds: [f64; 4],
    /// Its lowest floor, y of the pivot, px.
    pub floor: f64,
    /// The jump that would lead out; `null` where none does.
    pub needs_px: Option<f64>,
}

impl ClearanceList {
    /// The room of bodies, which the survey was made for.
    pub fn new(surveys: &[StageClearance<'_>], stances: &[Stance]) -> ClearanceList {
        let stages = surveys.iter().map(|survey| StageClearanceResult::new(survey, stances)).collect();
        ClearanceList { schema: CLEARANCE_SCHEMA.to_string(), stages }
    }
}

impl StageClearanceResult {
    fn new(survey: &StageClearance<'_>, stances: &[Stance]) -> StageClearanceResult {
        let StageClearance { stage, passages, low, pockets } = survey;
        StageClearanceResult {
            stage: stage.name.clone(),
            passages: passages.iter().map(|passage| PassageResult::new(stage, passage, stances)).collect(),
            low: low.iter().map(|place| LowResult::new(stage, place, stances)).collect(),
            pockets: pockets.iter().map(|pocket| PocketResult::new(pocket, stances)).collect(),
        }
    }
}

impl PassageResult {
    fn new(stage: &Stage, passage: &Passage, stances: &[Stance]) -> PassageResult {
        let room = |room: &Room| RoomResult {
            body: stances[room.stance].name(),
            fits: !room.is_short(),
            spare_px: room.spare.filter(|spare| spare.is_finite()),
            frame: room.frame.clone(),
        };
        let kind = match passage.kind {
            PassageKind::Level => "level",
            PassageKind::Upright => "upright",
        };
        PassageResult {
            kind: kind.to_string(),
            span_px: passage.span.into(),
            clear_px: passage.clear,
            at: [passage.at.x, passage.at.y],
            between: passage.between_names(stage),
            through: passage.open == [true; 2],
            rooms: passage.rooms.iter().map(room).collect(),
        }
    }
}

impl LowResult {
    fn new(stage: &Stage, place: &LowPlace, stances: &[Stance]) -> LowResult {
        let LowPlace { low, tall, stretch } = place;
        LowResult {
            body: stances[*low].name(),
            tall: stances[*tall].name(),
            x: stretch.span.into(),
            y: stretch.y.into(),
            floor: stage.solids[stretch.floor].name.clone(),
            ceiling: stage.solids[stretch.ceiling].name.clone(),
            depth_px: stretch.depth,
        }
    }
}

impl PocketResult {
    fn new(of: &BodyPocket, stances: &[Stance]) -> PocketResult {
        let bounds = of.pocket.bounds;
        PocketResult {
            body: stances[of.stance].name(),
            bounds: [bounds.x0, bounds.y0, bounds.width(), bounds.height()],
            floor: of.pocket.floor,
            needs_px: of.pocket.needs,
        }
    }
}
