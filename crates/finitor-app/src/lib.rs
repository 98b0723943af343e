//! What Finitor does, as library calls: open a project, fit its actors, lint, check takes, draw.
//!
//! Nothing here prints. Progress and warnings go to a [`Sink`]; results come back as values, and [`results`] has the
//! forms in which they are written as JSON. An [`OpenProject`] keeps what it has loaded, and lists every file it read.
//!
//! ```text
//!  OpenProject -> actors, stages -> fit_actor, lint, check_takes, draw, export, import, diff -> values -> results -> JSON, CSV
//! ```
//!
//! # An example
//!
//! Fit the actors of a project, check a take, and say what was found:
//!
//! ```no_run
//! use finitor_app::{FitRequest, OpenOptions, OpenProject, Silent, TakeChecks, check_takes, fit_actor};
//! use finitor_files::{NoProgress, fits_path, read_fits, write_fits};
//!
//! # fn main() -> Result<(), finitor_app::Failure> {
//! let options = OpenOptions { root: Some("pier".into()), threads: None, max_mpx: 100 };
//! let project = OpenProject::open(&options, &Silent)?;
//! let request = FitRequest { all: false, only: &[], unlock: false, everywhere: false, discard_edits: &[] };
//! for file in project.actor_files()? {
//!     let path = fits_path(&file.path);
//!     let fitted = fit_actor(file, read_fits(&path)?.as_ref(), request, &NoProgress)?;
//!     write_fits(&path, &fitted.fits)?;
//! }
//! let actors = project.fitted(&project.select(&[])?)?;
//! let stages = project.stages()?;
//! let stage = project.stage(&stages, None)?;
//! let checks = TakeChecks::plain(&project, stage, &stages, &actors);
//! for take in check_takes(checks, &["takes/faults.csv".into()])? {
//!     for finding in &take.report.findings {
//!         println!("{}: {} {}. {}", take.name, finding.severity, finding.message, finding.fix);
//!     }
//! }
//! # Ok(())
//! # }
//! ```
//!
//! # Versions
//!
//! By semantic versioning (semver.org) once it is 1.0; until then a new minor version may change any item, and the changelog says
//! which. Files and results have versions of their own, in their key `schema`.

mod apply;
mod baseline;
mod checked_take;
mod checking;
mod diff;
mod drawing;
mod export;
mod failure;
mod filter;
mod fitting;
mod fix_places;
mod import;
mod layer_lines;
mod layer_parties;
mod linting;
mod open_takes;
mod picture_groups;
mod picture_inputs;
mod picture_names;
mod project;
mod replay;
mod reports;
pub mod results;
mod sink;
mod starter_guess;
mod state_words;
mod streaming;
mod take_cast;
mod take_checks;
mod watch;

pub use apply::{AppliedFix, ApplyOutcome, ApplyRequest, apply_fixes};
pub use baseline::{Baseline, BaselineOutcome, KnownFinding};
pub use checked_take::CheckedTake;
pub use checking::{check_recording, check_takes};
pub use diff::{Version, VersionName, diff};
pub use drawing::{Drawing, PictureWishes, TakePicture, actor_sheet, both_arts, pictures, stage_at_start};
pub use export::{ExportRequest, Facings, export};
pub use failure::{Failure, unknown};
pub use filter::Filter;
pub use fitting::{FitRequest, Outcome, Status, fit_actor};
pub use import::{AddedShape, Imported, ImportedShape, Unmatched, Writing, import};
pub use layer_parties::{find_party, parties};
pub use linting::{LintRequest, LintResult, lint, shape_findings, turning_findings};
pub use picture_groups::{Canvas, PictureGroup, SeenPicture, What, canvases, gather, part_map};
pub use picture_inputs::{PictureInput, is_picture, picture_inputs};
pub use picture_names::actor_name;
pub use project::{FittedFile, OpenOptions, OpenProject, thread_pool};
pub use replay::{Replay, ReplayRequest, replay};
pub use reports::{ReportKind, Reported, report};
pub use sink::{Silent, Sink, Warning};
pub use starter_guess::{Naming, OtherCut, evidence, other_cuts, relative, starter};
pub use streaming::{WriteLine, follow_take, stream_take};
pub use take_cast::{CastMember, TakeCast};
pub use take_checks::{TakeChecks, take_name};
pub use watch::{FitNews, Watch, WatchNews, WatchRequest};
