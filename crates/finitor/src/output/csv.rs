//! Rows for other programs.

use finitor_app::Failure;
use std::io::Write;

/// Writes a header and rows as CSV.
pub(crate) fn write_csv(
    header: &[String],
    rows: impl Iterator<Item = Vec<String>>,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let mut writer = csv::Writer::from_writer(Vec::new());
    let wrong = |error: csv::Error| Failure::Write(std::io::Error::other(error));
    writer.write_record(header).map_err(wrong)?;
    for row in rows {
        writer.write_record(&row).map_err(wrong)?;
    }
    let bytes = writer.into_inner().map_err(|error| Failure::Write(std::io::Error::other(error.to_string())))?;
    out.write_all(&bytes)?;
    Ok(())
}
