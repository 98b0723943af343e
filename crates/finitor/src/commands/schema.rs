//! `finitor schema`.

use crate::cli::SchemaArgs;
use crate::commands::{facing, fit, layers};
use crate::exit::Exit;
use crate::output::json_schema::schema_of;
use crate::output::table::entries;
use finitor_app::results::{
    BASELINE_SCHEMA, BY_SHAPE_SCHEMA, BaselineFile, CHECK_SCHEMA, CLEARANCE_SCHEMA, CheckResult, ClearanceList,
    DIFF_SCHEMA, DiffResult, HITS_SCHEMA, HitsResult, LINT_SCHEMA, LayersByShape, LintResultFile, MOVES_SCHEMA,
    MovesResult, REACH_SCHEMA, ReachResult, SHEET_SCHEMA, STAGE_SCHEMA, STREAM_SCHEMA, SUMMARY_SCHEMA, SheetList,
    StageList, StreamLine, SummaryResult, WORST_FITS_SCHEMA, WorstFits,
};
use finitor_app::{Failure, unknown};
use finitor_core::book;
use finitor_core::rule::Threshold;
use finitor_files::pack::{PACK_SCHEMA, Pack};
use finitor_files::{FILE_SCHEMAS, FITS_SCHEMA, FitsFile, counted, write_atomically};
use schemars::Schema;
use serde_json::{Value, json};
use std::io::Write;

/// A result or file that has a schema.
struct Known {
    name: &'static str,
    about: &'static str,
    /// What its key `schema` holds.
    id: &'static str,
    schema: fn() -> Schema,
}

const fn known(name: &'static str, id: &'static str, about: &'static str, schema: fn() -> Schema) -> Known {
    Known { name, about, id, schema }
}

/// Everything that is written by the program.
const WRITTEN: &[Known] = &[
    known("fits", FITS_SCHEMA, "actors/NAME.fits.json", schema_of::<FitsFile>),
    known("pack", PACK_SCHEMA, "export --to json and cbor", schema_of::<Pack>),
    known("check", CHECK_SCHEMA, "check", schema_of::<CheckResult>),
    known("stream", STREAM_SCHEMA, "a line of check --stream", schema_of::<StreamLine>),
    known("summary", SUMMARY_SCHEMA, "check --summary", schema_of::<SummaryResult>),
    known("baseline", BASELINE_SCHEMA, "check --write-baseline", schema_of::<BaselineFile>),
    known("lint", LINT_SCHEMA, "lint", schema_of::<LintResultFile>),
    known("hits", HITS_SCHEMA, "hits", schema_of::<HitsResult>),
    known("moves", MOVES_SCHEMA, "hits --moves", schema_of::<MovesResult>),
    known("reach", REACH_SCHEMA, "hits --reach", schema_of::<ReachResult>),
    known("diff", DIFF_SCHEMA, "diff", schema_of::<DiffResult>),
    known("fit", fit::SCHEMA, "fit", fit::schema),
    known("fit_worst", WORST_FITS_SCHEMA, "fit --worst", schema_of::<WorstFits>),
    known("sheet", SHEET_SCHEMA, "sheet", schema_of::<SheetList>),
    known("facing", facing::SCHEMA, "facing", facing::schema),
    known("layers", layers::SCHEMA, "layers", layers::schema),
    known("layers_by_shape", BY_SHAPE_SCHEMA, "layers --by shape", schema_of::<LayersByShape>),
    known("layers_explain", layers::EXPLAIN_SCHEMA, "layers explain", layers::explain_schema),
    known("stage_list", STAGE_SCHEMA, "stage", schema_of::<StageList>),
    known("clearance", CLEARANCE_SCHEMA, "stage clearance", schema_of::<ClearanceList>),
];

impl Known {
    fn text(&self) -> Result<String, Failure> {
        let mut schema = (self.schema)().to_value();
        schema["title"] = json!(self.id);
        schema["description"] = json!(format!("Written by finitor: {}.", self.about));
        schema["properties"]["schema"] = json!({ "const": self.id });
        Ok(serde_json::to_string_pretty(&schema)? + "\n")
    }
}

/// Puts the keys under `[check]` and the rules' codes into the schema of the project file.
fn add_rules(project: &mut Value) {
    let check = &mut project["$defs"]["check"];
    for Threshold { key, about, unit, default, least, most } in book::thresholds() {
        let about = format!("{about} [{default}, {}]", unit.name());
        check["properties"][key] = json!({ "description": about, "type": "number", "minimum": least, "maximum": most });
    }
    check["additionalProperties"] = json!(false);
    let codes: Vec<&str> = book::rules().map(|rule| rule.code()).collect();
    project["$defs"]["rules"]["propertyNames"] = json!({ "enum": codes });
}

/// Names and what they are of: those of files that people write first.
fn list() -> impl Iterator<Item = [&'static str; 2]> {
    let by_hand = FILE_SCHEMAS.iter().map(|file| [file.name, file.about]);
    by_hand.chain(WRITTEN.iter().map(|known| [known.name, known.about]))
}

/// The text of a schema.
pub(super) fn text_of(name: &str) -> Result<String, Failure> {
    if let Some(file) = FILE_SCHEMAS.iter().find(|file| file.name == name) {
        let mut value: Value = serde_json::from_str(file.text)?;
        if file.name == "project" {
            add_rules(&mut value);
        }
        return Ok(serde_json::to_string_pretty(&value)? + "\n");
    }
    let known = WRITTEN.iter().find(|known| known.name == name);
    let names: Vec<&str> = list().map(|[name, _]| name).collect();
    known.ok_or_else(|| unknown("schema", name, &names))?.text()
}

/// Writes a schema, all of them, or their list.
pub(super) fn run(args: &SchemaArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    match (&args.out, &args.name) {
        (Some(folder), only) => {
            let names: Vec<&str> = match only {
                Some(name) => vec![name],
                None => list().map(|[name, _]| name).collect(),
            };
            for name in &names {
                write_atomically(&folder.join(format!("{name}.json")), text_of(name)?.as_bytes())?;
            }
            writeln!(out, "{} -> {}", counted(names.len(), "schema"), folder.display())?;
        }
        (None, Some(name)) => out.write_all(text_of(name)?.as_bytes())?,
        (None, None) => writeln!(out, "{}", entries(list().map(|row| row.map(String::from).to_vec())).trim_fmt())?,
    }
    Ok(Exit::Done)
}
