//! Results as tables, JSON and CSV.

pub(crate) mod check_json;
pub(crate) mod check_pairs;
pub(crate) mod check_table;
pub(crate) mod csv;
pub(crate) mod sheet_words;
pub(crate) mod table;
