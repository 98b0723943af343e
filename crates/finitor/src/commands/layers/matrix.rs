//! The matrix of layers: which layer detects which.

use crate::cli::{Format, LayersArgs};
use crate::commands::draw::name_drawings;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::{Drawing, Failure};
use finitor_core::layers::{Contact, LayerSet, Layers};
use finitor_draw::{LayerRow, LayerSheet, layer_sheet};
use schemars::JsonSchema;
use serde::Serialize;
use std::io::Write;

/// More layers than this are shown eight in a column.
const MOST_COLUMNS: usize = 10;

/// A layer: what shapes on it are on and detect while the states last.
struct Row {
    on: LayerSet,
    mask: LayerSet,
    /// Its mask as the file gives it.
    without_states: LayerSet,
}

/// Shows the matrix, and draws it where that is asked for.
pub(super) fn show(
    session: &Session<'_>,
    args: &LayersArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let layers = &session.project.layers;
    let rows: Vec<Row> = (0..layers.names.len())
        .map(|bit| {
            let without_states = layers.masks[bit];
            let (on, mask) = layers.during(LayerSet::of(bit), without_states, &args.state);
            Row { on, mask, without_states }
        })
        .collect();
    match format {
        Format::Table => write_table(layers, &rows, &args.state, out)?,
        Format::Json => write_json(layers, &rows, &args.state, out)?,
        Format::Csv => write_as_csv(layers, &rows, out)?,
    }
    if args.draw {
        let scene = layer_sheet(&sheet(session, &rows, &args.state));
        let folder = session.pictures(args.out.as_ref());
        let name = std::iter::once("layers").chain(args.state.iter().map(String::as_str)).collect::<Vec<_>>().join("-");
        let mut words = Vec::new();
        session.save(&Drawing { stem: folder.join(name), scene }, &mut words)?;
        name_drawings(session, format, &words, out)?;
    }
    Ok(())
}

/// `x` both look, `>` this one alone, `.` not.
fn mark(rows: &[Row], from: usize, to: usize) -> char {
    let detects = |a: usize, b: usize| rows[a].mask.sees(rows[b].on);
    match (detects(from, to), detects(to, from)) {
        (true, true) => 'x',
        (true, false) => '>',
        (false, _) => '.',
    }
}

fn one_sided(rows: &[Row]) -> usize {
    let pairs = (0..rows.len()).flat_map(|a| (a + 1..rows.len()).map(move |b| (a, b)));
    pairs.filter(|&(a, b)| (mark(rows, a, b) == '>') != (mark(rows, b, a) == '>')).count()
}

fn contact_words(contact: Contact) -> &'static str {
    match contact {
        Contact::Either => "Bodies stop each other when either mask detects the other (contact = \"either\").",
        Contact::Both => "Bodies stop each other when both masks detect the other (contact = \"both\").",
    }
}

fn heading(layers: &Layers, rows: &[Row], states: &[String]) -> String {
    let during = if states.is_empty() { String::new() } else { format!(" while {}", states.join(" and ")) };
    format!(
        "{} layers{during}; a row detects the columns marked: x both ways, > one way ({} pairs). {}",
        layers.names.len(),
        one_sided(rows),
        contact_words(layers.contact)
    )
}

/// Aliases and states in a sentence each.
fn notes(layers: &Layers, states: &[String]) -> Vec<String> {
    let mut notes = Vec::new();
    for alias in &layers.aliases {
        notes.push(format!("alias {}: {}", alias.name, layers.describe(alias.layers)));
    }
    for rule in layers.states.iter().filter(|rule| states.is_empty() || states.contains(&rule.name)) {
        for change in &rule.changes {
            let parts = [
                ("also detects", change.add),
                ("no longer detects", change.drop),
                ("is also on", change.join),
                ("is no longer on", change.leave),
            ];
            let phrases = parts.iter().filter(|(_, set)| !set.is_empty());
            let phrases: Vec<String> = phrases.map(|(verb, set)| format!("{verb} {}", layers.describe(*set))).collect();
            if !phrases.is_empty() {
                notes.push(format!("while {}: {} {}", rule.name, layers.names[change.layer], phrases.join(", and ")));
            }
        }
    }
    notes
}

fn write_table(layers: &Layers, rows: &[Row], states: &[String], out: &mut dyn Write) -> Result<(), Failure> {
    writeln!(out, "{}\n", heading(layers, rows, states))?;
    let width = rows.len();
    let marks =
        |from: usize, columns: std::ops::Range<usize>| columns.map(|to| mark(rows, from, to)).collect::<String>();
    // A column a layer as long as the lines stay readable, else a column for eight bits.
    let per_column = if width <= MOST_COLUMNS { 1 } else { 8 };
    let columns: Vec<std::ops::Range<usize>> =
        (0..width).step_by(per_column).map(|first| first..(first + per_column).min(width)).collect();
    let title = |columns: &std::ops::Range<usize>| match per_column {
        1 => layers.names[columns.start].clone(),
        _ => format!("{}-{}", columns.start, columns.end - 1),
    };
    let titles: Vec<String> = columns.iter().map(title).collect();
    let mut header = vec!["bit", "layer"];
    header.extend(titles.iter().map(String::as_str));
    header.extend(["mask", "hex"]);
    // With eight marks in a column the marks are as good as bits.
    header.extend((per_column == 1).then_some("binary"));
    let drawn = layers.names.iter().enumerate().map(|(from, name)| {
        let mut row = vec![from.to_string(), name.clone()];
        row.extend(columns.iter().map(|columns| marks(from, columns.clone())));
        let mask = rows[from].mask.0;
        row.extend([mask.to_string(), format!("{mask:#x}")]);
        row.extend((per_column == 1).then(|| format!("{mask:0width$b}")));
        row
    });
    writeln!(out, "{}", table(&header, &["bit", "mask", "hex", "binary"], drawn.collect()).trim_fmt())?;
    for note in notes(layers, states) {
        writeln!(out, "{note}")?;
    }
    for (name, row) in layers.names.iter().zip(rows).filter(|(_, row)| row.mask != row.without_states) {
        let (more, less) = (row.mask.without(row.without_states), row.without_states.without(row.mask));
        let part = |sign: char, set: LayerSet| {
            set.bits().map(|bit| format!(" {sign}{}", layers.names[bit])).collect::<String>()
        };
        writeln!(
            out,
            "changed: {name}{}{} (mask {} was {})",
            part('+', more),
            part('-', less),
            row.mask.0,
            row.without_states.0
        )?;
    }
    Ok(())
}

/// The schema of what it writes as JSON.
pub(in crate::commands) const SCHEMA: &str = "finitor.layers/1";

/// What it writes as JSON.
pub(in crate::commands) fn schema() -> schemars::Schema {
    crate::output::json_schema::schema_of::<MatrixOut<'_>>()
}

#[derive(Serialize, JsonSchema)]
struct MatrixOut<'a> {
    schema: &'static str,
    contact: &'static str,
    states: &'a [String],
    layers: Vec<LayerOut<'a>>,
    aliases: Vec<AliasOut<'a>>,
}

#[derive(Serialize, JsonSchema)]
struct LayerOut<'a> {
    name: &'a str,
    bit: usize,
    on: u32,
    mask: u32,
    detects: Vec<&'a String>,
}

#[derive(Serialize, JsonSchema)]
struct AliasOut<'a> {
    name: &'a str,
    layers: u32,
}

fn write_json(layers: &Layers, rows: &[Row], states: &[String], out: &mut dyn Write) -> Result<(), Failure> {
    let all = layers.names.iter().zip(rows).enumerate().map(|(bit, (name, row))| LayerOut {
        name,
        bit,
        on: row.on.0,
        mask: row.mask.0,
        detects: row.mask.bits().filter_map(|b| layers.names.get(b)).collect(),
    });
    let contact = match layers.contact {
        Contact::Either => "either",
        Contact::Both => "both",
    };
    let aliases = layers.aliases.iter().map(|alias| AliasOut { name: &alias.name, layers: alias.layers.0 });
    let result = MatrixOut { schema: SCHEMA, contact, states, layers: all.collect(), aliases: aliases.collect() };
    writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
    Ok(())
}

fn write_as_csv(layers: &Layers, rows: &[Row], out: &mut dyn Write) -> Result<(), Failure> {
    let mut header = vec!["bit".to_string(), "layer".into(), "mask".into(), "hex".into(), "binary".into()];
    header.extend(layers.names.iter().map(|name| format!("detects_{name}")));
    let width = rows.len();
    let lines = layers.names.iter().zip(rows).enumerate().map(|(bit, (name, row))| {
        let mask = row.mask.0;
        let mut line =
            vec![bit.to_string(), name.clone(), mask.to_string(), format!("{mask:#x}"), format!("{mask:0width$b}")];
        line.extend(rows.iter().map(|other| u8::from(row.mask.sees(other.on)).to_string()));
        line
    });
    write_csv(&header, lines, out)
}

fn sheet(session: &Session<'_>, rows: &[Row], states: &[String]) -> LayerSheet {
    let layers = &session.project.layers;
    let during = if states.is_empty() { String::new() } else { format!(" while {}", states.join(" and ")) };
    let drawn = layers.names.iter().zip(rows).enumerate().map(|(from, (name, row))| LayerRow {
        name: name.clone(),
        detects: rows.iter().map(|other| row.mask.sees(other.on)).collect(),
        without_states: (0..rows.len()).map(|to| row.without_states.sees(LayerSet::of(to))).collect(),
        bit: from,
        mask: row.mask.0,
    });
    LayerSheet {
        title: format!("{}: which layer detects which{during}", session.project.name),
        words: contact_words(layers.contact).to_string(),
        rows: drawn.collect(),
        notes: notes(layers, states),
    }
}
