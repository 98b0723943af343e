//! Results as they are written: one type a schema, for JSON and for whoever reads it.

mod baseline;
mod check;
mod clearance;
mod diff;
mod finding;
mod hits;
mod layers;
mod lint;
mod moves;
mod sheet;
mod stage;
mod summary;
mod worst_fits;

pub use baseline::{BASELINE_SCHEMA, BaselineFile};
pub use check::{
    CHECK_SCHEMA, CheckResult, EventResult, GapResult, HitResult, PairResult, STREAM_SCHEMA, SlopeResult, StreamEnd,
    StreamItem, StreamLine, TakeResult, WrittenResult, ZoneResult,
};
pub use clearance::{
    CLEARANCE_SCHEMA, ClearanceList, LowResult, PassageResult, PocketResult, RoomResult, StageClearanceResult,
};
pub use diff::{DIFF_SCHEMA, DiffResult, FindingDiff, FrameDiff, ShapeDiff, ValueDiff};
pub use finding::{EndAtResult, FindingResult, RootResult, WarningResult, WorstResult};
pub use hits::{
    BlockedResult, HITS_SCHEMA, HitCount, HitInTake, HitsResult, MatrixCell, SwingResult, TakeHits, struck_part,
};
pub use layers::{BY_SHAPE_SCHEMA, LayersByShape, ThingLayers};
pub use lint::{LINT_SCHEMA, LintResultFile};
pub use moves::{
    ActiveFrameResult, AttackReachResult, FirstReachResult, FrameReachResult, MOVES_SCHEMA, MoveResult,
    MoveTargetResult, MovesResult, PartReachResult, REACH_SCHEMA, ReachResult,
};
pub use sheet::{
    BackgroundResult, CellResult, GridResult, GroupResult, ImageResult, SHEET_SCHEMA, SheetList, TouchedResult,
};
pub use stage::{
    STAGE_SCHEMA, SpawnResult, SpotResult, StageList, StageResult, ThingResult, TileKindResult, TilesResult,
};
pub use summary::{RuleSummary, SUMMARY_SCHEMA, SummaryResult, SummaryWorst, TakeSummary};
pub use worst_fits::{WORST_FITS_SCHEMA, WorstFit, WorstFits};
