//! Lint of the shapes themselves, against the art they are fitted to.

use finitor_core::Point;
use finitor_core::actor::{Actor, Shape};
use finitor_core::art::Colour;
use finitor_core::check::{Rule, Severity};
use finitor_core::fit::{FrameArt, Source, selection};
use finitor_core::lint::{LintFinding, Uncovered, leap, shared_area, uncovered};
use finitor_files::{ActorFile, Problem, ShapeSpec, counted};
use rayon::prelude::*;

/// A shape that moves this much farther than its art leaps, px.
const LEAST_LEAP: f64 = 3.0;
/// Siblings that share less than this only touch, px2.
const LEAST_SHARED: f64 = 0.5;
/// Alpha from which a pixel is part of the figure.
const OPAQUE: u8 = 128;

/// Findings of an actor's shapes; `fitted` is the actor with its fits.
///
/// # Errors
/// Pictures that cannot be read any more.
pub(super) fn findings(
    file: &ActorFile,
    fitted: &Actor,
    severity: impl Fn(Rule) -> Severity + Copy + Sync,
) -> Result<Vec<LintFinding>, Problem> {
    let mut all = siblings(file, fitted, severity(Rule::SiblingsOverlap));
    let animations: Vec<usize> = (0..file.animations.len()).collect();
    let looked: Vec<Result<Vec<LintFinding>, Problem>> = animations
        .par_iter()
        .map(|&animation| {
            let frames = file.animations[animation].frames.clone();
            let gallery = file.gallery();
            let art = frames.map(|frame| gallery.frame(&file.frames[frame].source)).collect::<Result<Vec<_>, _>>()?;
            let mut found = leaps(file, fitted, animation, &art, severity(Rule::ShapeJump));
            found.extend(uncovered_parts(file, animation, &art, severity(Rule::UncoveredPart)));
            Ok(found)
        })
        .collect();
    for found in looked {
        all.extend(found?);
    }
    Ok(all)
}

/// A shape as it is drawn on a frame.
fn drawn<'a>(file: &ActorFile, fitted: &'a Actor, frame: usize, name: &str) -> Option<&'a Shape> {
    let loaded = &file.frames[frame];
    let animation = fitted.find(&file.animations[loaded.animation].name)?;
    let pose = fitted.drawn_pose(animation, loaded.number);
    pose.shapes.iter().find(|shape| shape.name == name)
}

fn leaps(file: &ActorFile, fitted: &Actor, animation: usize, art: &[FrameArt], severity: Severity) -> Vec<LintFinding> {
    let spec = &file.animations[animation];
    let mut found = Vec::new();
    for shape in &file.shapes {
        let Source::Fitted(fitting) = &shape.source else { continue };
        let mut worst: Option<(f64, usize)> = None;
        let mut count = 0;
        for frame in spec.frames.clone().skip(1) {
            let at = |frame: usize| -> Option<(&Shape, _, Point)> {
                let shape = drawn(file, fitted, frame, &shape.name)?;
                Some((shape, selection(&art[frame - spec.frames.start], fitting), file.frames[frame].pivot))
            };
            let (Some(one), Some(other)) = (at(frame - 1), at(frame)) else { continue };
            if one.0.polygons == other.0.polygons {
                continue;
            }
            let figure = leap([&one.0.polygons, &other.0.polygons], [&one.1, &other.1], [one.2, other.2]);
            let Some(figure) = figure.filter(|figure| *figure > LEAST_LEAP) else { continue };
            count += 1;
            if worst.is_none_or(|(most, _)| figure > most) {
                worst = Some((figure, frame - spec.frames.start));
            }
        }
        let Some((figure, number)) = worst else { continue };
        let times = if count > 1 { format!("; so it does {count} times in {}", spec.name) } else { String::new() };
        found.push(LintFinding {
            rule: Rule::ShapeJump,
            severity,
            actor: file.name.clone(),
            place: format!("{} {number}", spec.name),
            figure: rounded(figure),
            message: format!(
                "{} moves {figure:.1} px farther than its art from {} {} to {number}{times}",
                shape.name,
                spec.name,
                number - 1
            ),
            remedy: format!(
                "add hold = \"animation\" to [shape.{}], or drop what flickers with `slim` or `islands`",
                rule_name(shape)
            ),
        });
    }
    found
}

/// The table of the actor file a shape comes from.
fn rule_name(shape: &ShapeSpec) -> &str {
    shape.siblings.as_deref().unwrap_or(&shape.name)
}

fn rounded(figure: f64) -> f64 {
    (figure * 100.0).round() / 100.0
}

fn siblings(file: &ActorFile, fitted: &Actor, severity: Severity) -> Vec<LintFinding> {
    let mut found = Vec::new();
    let parted: Vec<&ShapeSpec> =
        file.shapes.iter().filter(|shape| shape.siblings.is_some() && !shape.may_overlap).collect();
    for (i, one) in parted.iter().enumerate() {
        for other in parted[i + 1..].iter().filter(|other| other.siblings == one.siblings) {
            let shared = |frame: usize| {
                let shape = |spec: &ShapeSpec| drawn(file, fitted, frame, &spec.name);
                let (a, b) = (shape(one)?, shape(other)?);
                Some((shared_area(&a.pieces, &b.pieces), frame))
            };
            let over: Vec<(f64, usize)> =
                (0..file.frames.len()).filter_map(shared).filter(|(area, _)| *area >= LEAST_SHARED).collect();
            let Some(&(area, frame)) = over.iter().max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.cmp(&a.1))) else {
                continue;
            };
            found.push(LintFinding {
                rule: Rule::SiblingsOverlap,
                severity,
                actor: file.name.clone(),
                place: file.frame_name(frame),
                figure: rounded(area),
                message: format!(
                    "{} and {} share {area:.1} px2 on {}, and overlap on {}",
                    one.name,
                    other.name,
                    file.frame_name(frame),
                    counted(over.len(), "frame")
                ),
                remedy: format!(
                    "move the points of either apart, or `finitor fit {} --unlock --only {} {}`",
                    file.name, one.name, other.name
                ),
            });
        }
    }
    found
}

fn uncovered_parts(file: &ActorFile, animation: usize, art: &[FrameArt], severity: Severity) -> Option<LintFinding> {
    if file.parts.is_empty() {
        return None;
    }
    let colours: Vec<Colour> = file.parts.iter().map(|row| row.colour).collect();
    let spec = &file.animations[animation];
    let frames: Vec<(usize, Uncovered)> = art
        .iter()
        .enumerate()
        .map(|(number, art)| (number, uncovered(art, &colours, OPAQUE)))
        .filter(|(_, uncovered)| uncovered.pixels > 0)
        .collect();
    let (worst, most) =
        frames.iter().max_by_key(|(number, uncovered)| (uncovered.pixels, std::cmp::Reverse(*number)))?;
    let share = |of: &Uncovered| 100.0 * of.pixels as f64 / of.opaque.max(1) as f64;
    let list: Vec<String> =
        frames.iter().take(8).map(|(number, of)| format!("{number}: {} px ({:.1} %)", of.pixels, share(of))).collect();
    let more = if frames.len() > 8 { format!(" and {} more frames", frames.len() - 8) } else { String::new() };
    let remedy = match most.colour {
        Some(colour) => format!("add \"{colour}\" = {{ part = \"...\" }} to [parts]; most of them have that colour"),
        None => format!("paint them on the part map: most of them are transparent there, on {} {worst}", spec.name),
    };
    Some(LintFinding {
        rule: Rule::UncoveredPart,
        severity,
        actor: file.name.clone(),
        place: spec.name.clone(),
        figure: most.pixels as f64,
        message: format!(
            "art of no part on {} of {}: {}{more}",
            counted(frames.len(), "frame"),
            spec.name,
            list.join(", ")
        ),
        remedy,
    })
}
