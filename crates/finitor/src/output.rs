//! Results as tables and JSON.

pub(crate) mod check_json;
pub(crate) mod check_table;
pub(crate) mod sheet_words;
pub(crate) mod table;
