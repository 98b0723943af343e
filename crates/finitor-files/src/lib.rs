//! Finitor's files: bytes to core values and back, a module a format.
//!
//! Reading never stops at the first mistake of a file: all of them come back as [`Problems`], each with its place and
//! the mend. Writing goes to a temporary file beside the target, which is then renamed over it.

mod actor_toml;
mod anchors;
mod animation_toml;
mod art_change;
mod cells;
mod edit_svg;
mod edit_svg_read;
mod file_change;
mod file_schemas;
mod fits_json;
mod fits_text;
mod fitted_actor;
mod frame_files;
mod gallery;
mod hand_made;
mod height_from;
mod images;
mod layer_edit;
mod layer_uses;
mod layers_toml;
mod moves_toml;
mod names;
mod new_shape;
pub mod pack;
mod parts_toml;
mod paths;
mod pivot;
mod pivot_toml;
mod png_bytes;
mod problem;
mod project;
mod recipe_hash;
mod recipe_toml;
mod selected;
mod settled;
mod shape_toml;
mod sheet_toml;
mod stage_svg;
mod stage_toml;
mod starter;
mod starter_merge;
mod survey;
mod take;
mod text_edit;
mod thick_line;
mod tiles_toml;
mod toml_table;
mod toml_values;
mod value_edit;
mod words;
mod write;

pub use actor_toml::{ActorFile, ActorReading, FlipAbout, LoadedFrame, MissingAnchor, declared_name, load_actor};
pub use animation_toml::AnimationSpec;
pub use art_change::{ArtChange, FrameChange, Matching, match_frames};
pub use edit_svg::{EditSheet, write_edit_svg};
pub use edit_svg_read::{Edits, ShapeEdit, read_edit_svg};
pub use file_change::{FileChange, write_changes};
pub use file_schemas::{FILE_SCHEMAS, FileSchema};
pub use fits_json::{
    FITS_SCHEMA, FITS_SCHEMA_BEFORE, FitsFile, FrameFits, QualityFits, Rings, Settled, ShapeFits, fits_path,
    parse_fits, read_fits, write_fits,
};
pub use fits_text::FitsText;
pub use fitted_actor::{FitGroup, Staleness, actor_from_fits, fit_groups, frames_held};
pub use frame_files::{name_matches, natural_order};
pub use gallery::{ArtFile, FrameSource, Gallery};
pub use hand_made::{hand_made, is_same_shape};
pub use images::{Image, Images, MAX_SIDE, USUAL_MAX_MPX, read_images, read_picture};
pub use layer_edit::{add_layer, remove_layer, rename_layer, set_mask};
pub use layer_uses::{LayerUse, UseKind, UseOf, UseOwner, layer_uses};
pub use new_shape::{NewFrames, NewKey, NewShape};
pub use parts_toml::PartColour;
pub use png_bytes::encode_png;
pub use problem::{Place, Problem, Problems};
pub use project::Project;
pub use recipe_toml::USUAL_BODY_WORDS;
pub use selected::FrameSelections;
pub use settled::{Settlement, settle, settlement};
pub use shape_toml::{HeightFrom, ShapeSpec};
pub use stage_svg::stage_to_svg;
pub use stage_toml::{StageFile, load_stage};
pub use starter::{Starter, StarterAnimation, StarterFrames, StarterPivot, StarterSheet, ranges};
pub use starter_merge::known_cut;
pub use survey::{FRAMES_AT_ONCE, NoProgress, Progress, art_hash, short_hash};
pub use take::{Follow, RowOf, STANDARD_INPUT, TakeInFile, TakeRead, TakeReader, holds_take, names_in_take, row_lines};
pub use tiles_toml::{TileKind, TileMap, Tiles};
pub use toml_values::nearest;
pub use value_edit::{TablePath, ValuePlace, value_place, with_value};
pub use words::{counted, first_few};
pub use write::write_atomically;

pub use names::{NAME_HINT, can_name};
