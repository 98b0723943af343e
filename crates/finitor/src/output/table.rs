//! Tables for people.

use comfy_table::{Cell, CellAlignment, ContentArrangement, Table};
use comfy_table::{LineStyle, TableStyle};

/// Width of tables where standard output is no terminal.
const PLAIN_WIDTH: u16 = 120;

/// A line under the header and nothing else, so that lines can be copied and searched.
const STYLE: TableStyle = TableStyle::new().header_separator(LineStyle::none().fill('-').junction('-'));

/// Lines of a table that a screen holds, with room for what is told around it.
pub(crate) fn screenful() -> usize {
    const PLAIN: u16 = 54;
    const AROUND: u16 = 8;
    let height = terminal_size::terminal_size().map_or(PLAIN, |(_, height)| height.0.clamp(24, PLAIN));
    usize::from(height - AROUND)
}

/// A table under a header line; columns named in `right` are set to the right.
pub(crate) fn table(header: &[&str], right: &[&str], rows: Vec<Vec<String>>) -> Table {
    let mut table = entries(rows);
    table.set_header(header.iter().map(Cell::new));
    for (index, title) in header.iter().enumerate() {
        if let Some(column) = table.column_mut(index) {
            column.set_padding((0, 2));
            if right.contains(title) {
                column.set_cell_alignment(CellAlignment::Right);
            }
        }
    }
    table
}

/// Rows without a header, each cell wrapped at words.
pub(crate) fn entries(rows: impl IntoIterator<Item = Vec<String>>) -> Table {
    let mut table = Table::new();
    table.load_style(STYLE);
    let width = terminal_size::terminal_size().map_or(PLAIN_WIDTH, |(width, _)| width.0.clamp(60, 160));
    table.set_content_arrangement(ContentArrangement::Dynamic).set_width(width);
    for row in rows {
        table.add_row(row);
    }
    table.column_iter_mut().for_each(|column| {
        column.set_padding((0, 2));
    });
    table
}
