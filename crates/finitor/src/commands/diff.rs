//! `finitor diff`.

mod page;

use crate::cli::{DiffArgs, Format};
use crate::exit::Exit;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::results::{DiffResult, FindingDiff, FrameDiff, ShapeDiff};
use finitor_app::{Failure, Version, VersionName, diff};
use finitor_files::counted;
use std::collections::BTreeMap;
use std::io::Write;

/// Compares two versions; the exit code is 1 where something changed.
pub(super) fn run(
    session: &Session<'_>,
    args: &DiffArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let root = &session.project.root;
    let project = || VersionName::Path(root.clone());
    let old = Version::read(&VersionName::parse(&args.old), root)?;
    let mut new = Version::read(&args.new.as_deref().map_or_else(project, VersionName::parse), root)?;
    if args.new.is_none() {
        new.name = "the project".to_string();
    }
    let result = diff(&old, &new)?;
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?,
        Format::Csv => write_rows(&result, out)?,
        Format::Table => write_tables(&result, out)?,
    }
    if args.draw {
        let mut words = Vec::new();
        page::draw(session, &result, [&old, &new], &session.pictures(args.out.as_ref()), &mut words)?;
        super::draw::name_drawings(session, format, &words, out)?;
    }
    Ok(if result.is_empty() { Exit::Done } else { Exit::Findings })
}

/// How far the edges of a shape moved: `left +2, top -1.5`.
fn edges(of: &ShapeDiff) -> Vec<String> {
    let moved = of.edges_px.into_iter().flat_map(|edges| ["left", "top", "right", "bottom"].into_iter().zip(edges));
    let moved = moved.filter(|(_, by)| by.abs() >= 0.005);
    moved.map(|(edge, by)| format!("{edge} {:+}", (by * 100.0).round() / 100.0)).collect()
}

/// What changed of a shape, in words.
fn words(of: &ShapeDiff) -> String {
    let mut all = edges(of);
    all.extend(of.iou.map(|iou| format!("IoU {iou:.3}")));
    all.extend(of.values.iter().map(|value| {
        let or_none = |text: &str| if text.is_empty() { "none".to_string() } else { text.to_string() };
        format!("{} {} -> {}", value.key, or_none(&value.old), or_none(&value.new))
    }));
    all.join(", ")
}

/// Frames by animation: `walk 0-3, idle 1`.
fn frames<'f>(all: impl Iterator<Item = (&'f str, usize)>) -> String {
    let mut of: Vec<(&str, Vec<u32>)> = Vec::new();
    for (animation, frame) in all {
        match of.last_mut() {
            Some((known, frames)) if *known == animation => frames.push(frame as u32),
            _ => of.push((animation, vec![frame as u32])),
        }
    }
    let all = of.iter().map(|(animation, frames)| format!("{animation} {}", finitor_files::ranges(frames)));
    all.collect::<Vec<_>>().join(", ")
}

/// Items with the same key together, in the order of the first of each.
fn grouped<T, K: Ord>(items: Vec<T>, key: impl Fn(&T) -> K) -> Vec<Vec<T>> {
    let mut places: BTreeMap<K, usize> = BTreeMap::new();
    let mut groups: Vec<Vec<T>> = Vec::new();
    for item in items {
        let place = *places.entry(key(&item)).or_insert(groups.len());
        match groups.get_mut(place) {
            Some(group) => group.push(item),
            None => groups.push(vec![item]),
        }
    }
    groups
}

fn write_tables(result: &DiffResult, out: &mut dyn Write) -> Result<(), Failure> {
    let DiffResult { old, new, frames: of_frames, shapes, findings, .. } = result;
    if result.is_empty() {
        writeln!(out, "{old} and {new}: no difference.")?;
        return Ok(());
    }
    let counts = [(of_frames.len(), "frame"), (shapes.len(), "shape"), (findings.len(), "finding")];
    let counts = counts.iter().filter(|(count, _)| *count > 0).map(|(count, word)| counted(*count, word));
    writeln!(out, "{old} -> {new}: {} differ.", counts.collect::<Vec<_>>().join(", "))?;
    // What is the same on several frames is one row.
    let alike = grouped(of_frames.iter().collect(), |of| (of.actor.clone(), of.change.clone(), of.what.clone()));
    if !alike.is_empty() {
        let rows = alike.iter().map(|all: &Vec<&FrameDiff>| {
            let places = frames(all.iter().map(|of| (of.animation.as_str(), of.frame)));
            vec![all[0].actor.clone(), places, all[0].change.clone(), all[0].what.join(", ")]
        });
        writeln!(out, "\n{}", table(&["actor", "frames", "", "what"], &[], rows.collect()).trim_fmt())?;
    }
    let key = |of: &&ShapeDiff| (format!("{}.{}", of.actor, of.shape), of.change.clone(), words(of));
    let alike = grouped(shapes.iter().collect(), key);
    if !alike.is_empty() {
        let rows = alike.iter().map(|all| {
            let places = frames(all.iter().map(|of| (of.animation.as_str(), of.frame)));
            let (name, change, words) = key(&all[0]);
            vec![name, change, words, places]
        });
        writeln!(out, "\n{}", table(&["shape", "", "px, and values", "frames"], &[], rows.collect()).trim_fmt())?;
    }
    if !findings.is_empty() {
        let rows = findings.iter().map(|of| finding_row(of).to_vec());
        let header = ["take", "", "severity", "rule", "ticks", "who", "figure", "what"];
        writeln!(out, "\n{}", table(&header, &["figure"], rows.collect()).trim_fmt())?;
    }
    Ok(())
}

fn finding_row(of: &FindingDiff) -> [String; 8] {
    let figure = match (of.old_figure, of.new_figure) {
        (Some(old), Some(new)) => format!("{old:.2} -> {new:.2} {}", of.unit),
        (old, new) => format!("{:.2} {}", new.or(old).unwrap_or(0.0), of.unit),
    };
    let [first, last] = of.ticks;
    let ticks = if first == last { first.to_string() } else { format!("{first}-{last}") };
    let who = if of.with.is_empty() { of.subject.clone() } else { format!("{} with {}", of.subject, of.with) };
    let (take, change, severity) = (of.take.clone(), of.change.clone(), of.severity.clone());
    [take, change, severity, of.rule.clone(), ticks, who, figure, of.message.clone()]
}

fn write_rows(result: &DiffResult, out: &mut dyn Write) -> Result<(), Failure> {
    let header = ["of", "actor", "animation", "frame", "name", "change", "what", "iou"].map(String::from);
    let frames = result.frames.iter().map(|of| {
        let (actor, animation, frame) = (of.actor.clone(), of.animation.clone(), of.frame.to_string());
        vec![
            "frame".to_string(),
            actor,
            animation,
            frame,
            String::new(),
            of.change.clone(),
            of.what.join(" "),
            String::new(),
        ]
    });
    let shapes = result.shapes.iter().map(|of| {
        let (actor, animation, frame) = (of.actor.clone(), of.animation.clone(), of.frame.to_string());
        let iou = of.iou.map(|iou| iou.to_string()).unwrap_or_default();
        vec!["shape".to_string(), actor, animation, frame, of.shape.clone(), of.change.clone(), words(of), iou]
    });
    let findings = result.findings.iter().map(|of| {
        let tick = of.ticks[0].to_string();
        let (take, subject) = (of.take.clone(), of.subject.clone());
        vec![
            "finding".to_string(),
            subject,
            take,
            tick,
            of.rule.clone(),
            of.change.clone(),
            of.message.clone(),
            String::new(),
        ]
    });
    write_csv(&header, frames.chain(shapes).chain(findings), out)
}
