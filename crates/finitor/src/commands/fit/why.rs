//! `fit --why`: a shape's recipe in words.

use finitor_app::Failure;
use finitor_app::Outcome;
use finitor_core::fit::{Angle, FitGoal, Fitting, Forgiving, Kind, Share, Sides, Source, Tidying};
use finitor_files::{ActorFile, ShapeSpec, USUAL_BODY_WORDS, counted};
use std::io::Write;

/// Says for each shape of that name, or of that rule, how it came about and what it came to.
pub(super) fn explain(actor: &ActorFile, outcome: &Outcome, name: &str, out: &mut dyn Write) -> Result<(), Failure> {
    let named = |shape: &&ShapeSpec| shape.name == name || shape.siblings.as_deref() == Some(name);
    for spec in actor.shapes.iter().filter(named) {
        writeln!(out, "{}.{}", actor.name, spec.name)?;
        for line in recipe(actor, spec) {
            wrapped(&line).into_iter().try_for_each(|line| writeln!(out, "  {line}"))?;
        }
        let made = outcome.fits.frames.iter().flat_map(|frame| frame.shapes.iter().map(move |shape| (frame, shape)));
        let made: Vec<_> = made.filter(|(_, shape)| shape.name == spec.name).collect();
        let mut lines: Vec<String> = Vec::new();
        for (frame, shape) in &made {
            let place = format!("{} {}", frame.animation, frame.frame);
            let numbers = |of: &[f64]| of.iter().map(|n| format!("{:.2}", n + 0.0)).collect::<Vec<_>>().join(", ");
            let found = match (&shape.rect, &shape.circle, &shape.capsule) {
                (Some(rect), ..) => format!("box [{}] from the pivot", numbers(rect)),
                (_, Some(circle), _) => format!("circle [{}] from the pivot", numbers(circle)),
                (.., Some(capsule)) => format!("capsule [{}] from the pivot", numbers(capsule)),
                _ => format!(
                    "{} in {}",
                    counted(shape.points.all().concat().len(), "point"),
                    counted(actor.pieces(shape).len(), "convex piece")
                ),
            };
            let hand = if shape.is_hand_made() { ", made by hand and left so" } else { "" };
            let why = shape.why.as_ref().map_or_else(String::new, |why| format!("; {why}"));
            let line = format!("{found}{hand}{why}");
            // A shared shape is listed once.
            if lines.last().is_none_or(|last| !last.ends_with(&line)) {
                lines.push(format!("{place}: {line}"));
            }
        }
        const MOST: usize = 6;
        lines.iter().take(MOST).try_for_each(|line| writeln!(out, "  {line}"))?;
        if lines.len() > MOST {
            writeln!(out, "  and {} more", lines.len() - MOST)?;
        }
        let measured: Vec<f64> = made.iter().filter_map(|(_, shape)| Some(shape.quality?.iou)).collect();
        if !measured.is_empty() {
            let mean = measured.iter().sum::<f64>() / measured.len() as f64;
            writeln!(out, "  mean IoU {mean:.3} over {}", counted(measured.len(), "frame"))?;
        }
        writeln!(out)?;
    }
    Ok(())
}

/// A line broken between words, so that no terminal breaks it within one.
fn wrapped(line: &str) -> Vec<String> {
    const WIDTH: usize = 96;
    let mut lines: Vec<String> = Vec::new();
    for word in line.split(' ') {
        match lines.last_mut() {
            Some(last) if last.chars().count() + 1 + word.chars().count() <= WIDTH => {
                last.push(' ');
                last.push_str(word);
            }
            Some(_) => lines.push(format!("  {word}")),
            None => lines.push(word.to_string()),
        }
    }
    lines
}

fn recipe(actor: &ActorFile, spec: &ShapeSpec) -> Vec<String> {
    let mut lines = Vec::new();
    if spec.is_usual {
        lines.push(USUAL_BODY_WORDS.to_string());
    }
    if let Some(like) = &spec.like {
        lines.push(format!("width and bottom of {like}; its own height"));
    }
    if let Some(passage) = &spec.height_from {
        let clearance = passage.clearance_milli as f64 / 1000.0;
        lines.push(format!("as high as the passage {}, less {clearance} px", passage.thing));
    }
    match &spec.source {
        Source::Fitted(fitting) => lines.extend(fitting_words(fitting)),
        Source::Given(_) => lines.push("given outright in the actor file".into()),
        Source::Along(along) => lines.push(format!("a strip {} px deep along {}", along.depth, along.shape)),
    }
    if let Some(rule) = &spec.siblings {
        let apart =
            if spec.may_overlap { "may overlap its siblings" } else { "cut where it would overlap its siblings" };
        lines.push(format!("one of the parts of {rule}, {apart}"));
    }
    lines.push(format!("on {} of {}", spec.frames.len(), counted(actor.frames.len(), "frame")));
    lines
}

fn fitting_words(fitting: &Fitting) -> Vec<String> {
    let goal = match fitting.goal {
        FitGoal::Cover => "covers every selected pixel with the least area",
        FitGoal::Inside => "lies inside the selected pixels with the greatest area",
        FitGoal::Balance => "agrees best with the selected pixels",
    };
    let share = match fitting.share {
        Share::Frame => "one a frame".to_string(),
        Share::Animation => "one an animation".to_string(),
        Share::Actor => "one for the actor".to_string(),
    };
    let mut lines = vec![format!("{} that {goal}, {share}", fitting.kind.name())];
    let limits = limits(fitting);
    lines.extend((!limits.is_empty()).then(|| limits.join("; ")));
    lines.push(format!("{}; {}", selected(fitting).join(", "), tidied(&fitting.tidying).join(", ")));
    lines
}

/// What the shape is held to.
fn limits(fitting: &Fitting) -> Vec<String> {
    let mut limits = Vec::new();
    if fitting.kind.is_traced() || fitting.kind == Kind::Auto {
        limits.push(match fitting.max_points {
            Some(most) => format!("the closest with at most {most} points"),
            None => format!("the fewest points within {} px", fitting.tolerance),
        });
    }
    if fitting.kind == Kind::Auto {
        limits.push(format!("the simplest kind with an IoU of at least {}", fitting.min_iou));
    }
    if fitting.angle != Angle::Square {
        limits.push(format!(
            "lies {}",
            match fitting.angle {
                Angle::Upright => "upright",
                Angle::Lying => "lying",
                _ => "at any angle",
            }
        ));
    }
    if fitting.symmetric {
        limits.push("equal on both sides of the pivot".into());
    }
    if fitting.grounded {
        limits.push("its foot on the pivot's line".into());
    }
    if let Some(grid) = fitting.snap {
        limits.push(format!("on a grid of {grid} px from the pivot"));
    }
    let Sides { left, top, right, bottom, width, height, radius, .. } = fitting.sides;
    let given = [
        ("left", left),
        ("top", top),
        ("right", right),
        ("bottom", bottom),
        ("width", width),
        ("height", height),
        ("radius", radius),
    ];
    limits.extend(given.into_iter().filter_map(|(name, value)| Some(format!("{name} set to {}", value?))));
    if fitting.forgiving != Forgiving::default() {
        limits.push(format!(
            "moved in {} px at the top, {} px at the front",
            fitting.forgiving.top, fitting.forgiving.front
        ));
    }
    limits
}

/// The pixels that it is fitted to.
fn selected(fitting: &Fitting) -> Vec<String> {
    let mut picked = vec![format!("selected: pixels with alpha of at least {}", fitting.alpha)];
    if !fitting.paint.is_empty() {
        let colours: Vec<String> = fitting.paint.iter().map(ToString::to_string).collect();
        picked.push(format!("of {}", colours.join(", ")));
    }
    if fitting.region.is_some() {
        picked.push("in the region given".into());
    }
    if fitting.presence > 0.0 {
        picked.push(format!("on at least {:.0} % of the frames", fitting.presence * 100.0));
    }
    picked
}

/// What is done to them first.
fn tidied(tidying: &Tidying) -> Vec<String> {
    let Tidying {
        min_island: islands,
        largest,
        min_hole: holes,
        min_thickness,
        min_thickness_share,
        close_gaps,
        inset,
        outset,
    } = *tidying;
    let mut tidied: Vec<String> = Vec::new();
    tidied.extend((close_gaps > 1).then(|| format!("gaps under {close_gaps} px closed")));
    tidied.push(if holes == u64::MAX { "holes filled".into() } else { format!("holes under {holes} px filled") });
    tidied.extend((min_thickness > 1).then(|| format!("parts thinner than {min_thickness} px dropped")));
    let percent = min_thickness_share * 100.0;
    tidied.extend((percent > 0.0).then(|| format!("parts thinner than {percent:.0} % of the height dropped")));
    tidied.extend(largest.then(|| "only the largest island kept".to_string()));
    tidied.extend((islands > 1).then(|| format!("islands under {islands} px dropped")));
    tidied.extend((inset > 0.0).then(|| format!("{inset} px removed all around")));
    tidied.extend((outset > 0.0).then(|| format!("{outset} px added all around")));
    tidied
}
