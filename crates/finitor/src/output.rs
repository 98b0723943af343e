//! Results as tables and CSV.

mod alike;
pub(crate) mod applied;
pub(crate) mod check_pairs;
pub(crate) mod check_rows;
pub(crate) mod check_table;
pub(crate) mod csv;
pub(crate) mod difference;
pub(crate) mod json_schema;
pub(crate) mod report;
pub(crate) mod sheet_table;
pub(crate) mod summary;
pub(crate) mod table;
