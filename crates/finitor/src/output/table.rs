//! Tables for people.

use anstyle::AnsiColor;
use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, LineStyle, Table, TableStyle, Width};
use finitor_core::rule::Severity;
use std::io::IsTerminal;

/// Width of tables where standard output is no terminal.
const PLAIN_WIDTH: u16 = 120;

/// A line under the header and nothing else, so that lines can be copied and searched.
const STYLE: TableStyle = TableStyle::new().header_separator(LineStyle::none().fill('-').junction('-'));

/// Columns at most this wide keep their words whole.
const WHOLE: usize = 24;

/// Lines of a table that a screen holds, with room for what is around it; `None` where the output is no screen.
pub(crate) fn screenful() -> Option<usize> {
    const AROUND: u16 = 8;
    const LEAST: u16 = 24;
    if !std::io::stdout().is_terminal() {
        return None;
    }
    let height = terminal_size::terminal_size().map_or(LEAST, |(_, height)| height.0.max(LEAST));
    Some(usize::from(height - AROUND))
}

/// A table under a header line; columns named in `right` are set to the right.
pub(crate) fn table(header: &[&str], right: &[&str], rows: Vec<Vec<String>>) -> Table {
    let words = longest_words(header, &rows);
    let mut table = entries(rows);
    table.set_header(header.iter().map(Cell::new));
    for (index, title) in header.iter().enumerate() {
        if let Some(column) = table.column_mut(index) {
            column.set_padding((0, 2));
            // Words are not broken in the middle.
            let mut least = words.get(index).copied().unwrap_or(0).min(WHOLE) as u16 + 2;
            // Sentences need room more than names do.
            if ["what", "fix"].contains(title) {
                least = least.max(width() / SENTENCE);
            }
            column.set_constraint(ColumnConstraint::LowerBoundary(Width::Fixed(least)));
            if right.contains(title) {
                column.set_cell_alignment(CellAlignment::Right);
            }
        }
    }
    table
}

/// A column of sentences has at least a fifth of the width.
const SENTENCE: u16 = 5;

/// The longest word of each column.
fn longest_words(header: &[&str], rows: &[Vec<String>]) -> Vec<usize> {
    let longest = |text: &str| text.split_whitespace().map(|word| word.chars().count()).max().unwrap_or(0);
    let of = |(index, title): (usize, &&str)| {
        let cells = rows.iter().filter_map(|row| row.get(index)).map(|cell| longest(cell));
        cells.max().unwrap_or(0).max(longest(title))
    };
    header.iter().enumerate().map(of).collect()
}

/// Rows without a header, each cell wrapped at words.
pub(crate) fn entries(rows: impl IntoIterator<Item = Vec<String>>) -> Table {
    let mut table = Table::new();
    table.load_style(STYLE);
    table.set_content_arrangement(ContentArrangement::Dynamic).set_width(width());
    for row in rows {
        table.add_row(row);
    }
    table.column_iter_mut().for_each(|column| {
        column.set_padding((0, 2));
    });
    table
}

/// The terminal's width.
fn width() -> u16 {
    const LEAST: u16 = 60;
    if !std::io::stdout().is_terminal() {
        return PLAIN_WIDTH;
    }
    terminal_size::terminal_size().map_or(PLAIN_WIDTH, |(width, _)| width.0.max(LEAST))
}

/// Whether a text has lines that the output is too narrow for.
pub(crate) fn is_too_wide(text: &str) -> bool {
    text.lines().any(|line| line.chars().count() > usize::from(width()))
}

/// A title and what belongs to it; on a screen wrapped at words, else on one line, to be searched.
pub(crate) fn titled(title: &str, text: String) -> String {
    if std::io::stdout().is_terminal() {
        entries([vec![format!("{title}:"), text]]).trim_fmt()
    } else {
        format!("{title}: {text}")
    }
}

/// The line with its severity, which comes first, in colour. Colour is dropped again where there is no terminal.
pub(crate) fn coloured(line: &str) -> String {
    let colours =
        [(Severity::Error, AnsiColor::Red), (Severity::Warn, AnsiColor::Yellow), (Severity::Note, AnsiColor::Cyan)];
    let found = colours.into_iter().find_map(|(severity, colour)| Some((colour, line.strip_prefix(severity.name())?)));
    match found {
        Some((colour, rest)) => {
            let style = colour.on_default().bold();
            format!("{style}{}{style:#}{rest}", &line[..line.len() - rest.len()])
        }
        None => line.to_string(),
    }
}
