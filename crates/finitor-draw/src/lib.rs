//! Pictures of core values: shapes over art, and a stage at a tick of a take.
//!
//! A view builds a [`Scene`] in page pixels, y down; [`to_svg`] and [`to_png`] write it. Both show the same: the PNG is
//! the scene's vector parts drawn by `resvg`, with the art copied between them by whole pixels.

mod aids;
mod animation;
mod atlas;
mod clearance_sheet;
mod contact_sheet;
mod diff_sheet;
mod facing_sheet;
mod kinds_sheet;
mod layer_sheet;
mod legend;
mod moments_sheet;
mod page;
mod palette;
mod path_sheet;
mod raster;
mod reach_sheet;
mod replay;
mod scene;
mod shapes;
mod stage_view;
mod svg;
mod tile_sheet;
mod timeline_sheet;

pub use aids::Aids;
pub use animation::{Moving, Pace, animation};
pub use atlas::{Atlas, AtlasPlace, atlas};
pub use clearance_sheet::{ClearanceSheet, PassageMark, clearance_sheet};
pub use contact_sheet::{Art, ContactSheet, SheetFrame, contact_sheet};
pub use diff_sheet::{DiffCell, DiffShape, DiffSheet, diff_sheet};
pub use facing_sheet::{FacingCell, FacingSheet, facing_sheet};
pub use kinds_sheet::{KindCell, KindRow, KindsSheet, kinds_sheet};
pub use layer_sheet::{LayerRow, LayerSheet, layer_sheet};
pub use moments_sheet::{MomentCell, MomentsSheet, moment_page, moments_sheet};
pub use palette::{Look, RoleLook, Theme};
pub use path_sheet::{PathSheet, Walk, path_sheet};
pub use raster::{DrawError, MAX_PICTURE_PIXELS, PagePixels, to_pixels, to_png};
pub use reach_sheet::{ReachBand, ReachRow, ReachSheet, reach_sheet};
pub use replay::{MadePage, PageError, Renewal, ReplayPage, replay_page};
pub use scene::{Align, Item, Panel, Placed, Scene, Text};
pub use stage_view::{StageActor, StageView, stage_view};
pub use svg::{png_bytes as png_of, to_svg};
pub use tile_sheet::{TileCell, TileSheet, tile_sheet};
pub use timeline_sheet::{LaneLook, TimeLane, TimeMark, TimelineSheet, timeline_sheet};
