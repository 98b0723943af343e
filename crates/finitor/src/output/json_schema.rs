//! JSON Schemas of results.

use schemars::generate::SchemaSettings;
use schemars::{JsonSchema, Schema};

/// The schema of a type, by JSON Schema 2020-12.
pub(crate) fn schema_of<T: JsonSchema>() -> Schema {
    SchemaSettings::draft2020_12().into_generator().into_root_schema_for::<T>()
}
