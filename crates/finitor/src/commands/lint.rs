//! `finitor lint`.

mod layers;
mod shapes;

use crate::cli::{Format, LintArgs};
use crate::exit::{Exit, Failure};
use crate::output::check_table::counts;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_core::Vec2;
use finitor_core::actor::{Actor, Foot};
use finitor_core::check::{Rule, Severity};
use finitor_core::lint::{
    FlippedFrame, LintFinding, StandingFrame, flip_drift, leaks, off_ground, overlapping_solids, surface_findings,
    thin_zones, tight_passages, turning_findings, warp_findings,
};
use finitor_core::stage::Stage;
use finitor_core::take::LongestSteps;
use finitor_files::{
    ActorFile, ArtChange, FrameChange, Problems, TakeReader, actor_from_fits, counted, fits_path, match_frames,
    read_fits,
};
use serde_json::json;
use std::io::Write;
use std::path::PathBuf;

/// Tells what is wrong with the art and the fits before any take.
pub(crate) fn run(session: &Session, args: &LintArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    let actors = session.actors(&args.actors)?;
    let known = |name: &String| actors.iter().any(|actor| actor.animations.iter().any(|a| a.name == *name));
    if let Some(unknown) = args.standing.iter().find(|name| !known(name)) {
        return Err(Failure::Usage(format!("--standing: no actor has an animation \"{unknown}\"")));
    }
    let severity = |rule: Rule| session.project.settings.severity[rule.index()];
    let mut findings = Vec::new();
    let mut problems = Problems::default();
    let mut told_to_stand = false;
    let mut all_fitted = Vec::new();
    for actor in &actors {
        for animation in &actor.animations {
            let named = args.standing.contains(&animation.name);
            if !(named || (args.standing.is_empty() && animation.standing)) {
                continue;
            }
            told_to_stand = true;
            let frames = actor.frames[animation.frames.clone()].iter();
            let frames: Vec<StandingFrame> = frames
                .map(|frame| StandingFrame {
                    pivot: frame.pivot,
                    foot: Foot::new(&frame.imprint.opaque_runs(), frame.pivot),
                })
                .collect();
            findings.extend(off_ground(&actor.name, &animation.name, &frames, severity(Rule::OffGround)));
        }
        let (stale, fitted) = problems.take(stale(actor, severity(Rule::StaleFit))).unwrap_or_default();
        findings.extend(stale);
        if let Some(fitted) = fitted {
            findings.extend(turning_findings(&fitted, severity));
            let found = session.pool.install(|| shapes::findings(actor, &fitted, severity));
            findings.extend(problems.take(found.map_err(Problems::from)).unwrap_or_default());
            all_fitted.push(fitted);
        }
        let frames = actor.frames.iter().enumerate().map(|(index, frame)| FlippedFrame {
            place: actor.frame_name(index),
            width: f64::from(frame.rect.width),
            pivot: frame.pivot,
            drift: actor.flip_drift(index),
        });
        let frames: Vec<FlippedFrame> = frames.collect();
        findings.extend(flip_drift(&actor.name, &frames, severity(Rule::FlipDrift)));
        let missing = actor.missing_anchors.iter().map(|missing| LintFinding {
            rule: Rule::MissingAnchor,
            severity: severity(Rule::MissingAnchor),
            actor: actor.name.clone(),
            place: missing.animation.clone(),
            figure: missing.frames.len() as f64,
            message: missing.to_string(),
            remedy: format!(
                "paint it on the part map, or name the `animations` that have it in [anchor.{}], or give it an `at`",
                missing.anchor
            ),
        });
        findings.extend(missing);
    }
    problems.or(())?;
    // Who looks for whom is a matter of all actors.
    if args.actors.is_empty() {
        let stages = session.stages()?;
        findings.extend(layers::findings(session, &actors, &stages, severity)?);
        if !args.takes.is_empty() {
            add_steps(session, &stages, &mut all_fitted, &args.takes)?;
        }
        for stage in &stages {
            let slack = session.project.settings.slack;
            findings.extend(overlapping_solids(stage, slack, severity(Rule::OverlappingSolids)));
            findings.extend(surface_findings(stage, &all_fitted, severity));
            findings.extend(leaks(stage, &all_fitted, severity(Rule::LeakyBottom)));
            findings.extend(thin_zones(stage, &all_fitted, severity(Rule::ThinZone)));
            findings.extend(tight_passages(stage, &all_fitted, severity(Rule::TightPassage)));
            findings.extend(warp_findings(stage, &all_fitted, slack, severity));
        }
    }
    findings.retain(|finding| finding.severity > Severity::Off);
    findings.sort_by_key(|finding| std::cmp::Reverse(finding.severity));
    if !told_to_stand {
        session.tell("note: no animation is said to stand: write `standing = true` under it, or name some with --standing idle,walk");
    }
    write(&findings, &actors, format, out)?;
    let fails = findings.iter().any(|finding| args.fail_on.fails(finding.severity));
    Ok(if fails { Exit::Findings } else { Exit::Done })
}

/// Lets the actors move as fast as in the takes, where that is faster than their files say.
fn add_steps(session: &Session, stages: &[Stage], actors: &mut [Actor], takes: &[PathBuf]) -> Result<(), Failure> {
    let mut steps = LongestSteps::new(actors.len(), session.project.settings.teleport);
    for take in takes {
        // Which stage it was played on matters only for its height, and so for no step.
        let flip = stages.first().and_then(|stage| session.flip(stage));
        let mut reader = TakeReader::open(&session.take_path(take), actors, flip)?;
        steps.begin();
        while let Some((tick, samples)) = reader.next_tick()? {
            steps.tick(tick, samples);
        }
    }
    for (index, actor) in actors.iter_mut().enumerate() {
        let known = actor.moves.fastest;
        actor.moves.fastest = match (known, steps.of(index)) {
            (Some(a), Some(b)) => Some(Vec2::new(a.x.max(b.x), a.y.max(b.y))),
            (known, seen) => known.or(seen),
        };
    }
    Ok(())
}

/// What the fits were not made from, and the actor with its fits, where they go with its frames.
fn stale(actor: &ActorFile, severity: Severity) -> Result<(Vec<LintFinding>, Option<Actor>), Problems> {
    let path = fits_path(&actor.path);
    let finding = |place: String, figure: u64, message: String| LintFinding {
        rule: Rule::StaleFit,
        severity,
        actor: actor.name.clone(),
        place,
        figure: figure as f64,
        message,
        remedy: format!("run `finitor fit {}`", actor.name),
    };
    let Some(fits) = read_fits(&path)? else {
        return Ok((vec![finding("all".into(), 0, format!("{} has no fits yet", actor.name))], None));
    };
    let changes = match_frames(actor, &fits).changes;
    let mut findings: Vec<LintFinding> = changes
        .iter()
        .map(|change| {
            let mut found = finding(change.animation.clone(), pixels(change), change.told().join("; "));
            if let Some(like) = &change.like {
                found.remedy = format!("run `finitor fit {} --rename {}={like}`", actor.name, change.animation);
            }
            found
        })
        .collect();
    let (fitted, stale) = actor_from_fits(actor, &fits, &path)?;
    if let (true, Some(first)) = (changes.is_empty(), stale.shapes.first()) {
        let message =
            format!("the recipes of {} shapes changed since they were made (first: {first})", stale.shapes.len());
        findings.push(finding("all".into(), 0, message));
    }
    Ok((findings, changes.is_empty().then_some(fitted)))
}

/// Opaque pixels that came, went or changed their colour.
fn pixels(change: &ArtChange) -> u64 {
    let count = |(_, change): &(usize, FrameChange)| match change {
        FrameChange::Redrawn(change) => change.pixels(),
        _ => 0,
    };
    change.frames.iter().map(count).sum()
}

fn write(findings: &[LintFinding], actors: &[ActorFile], format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    if format == Format::Json {
        let rows = findings.iter().map(|finding| {
            json!({
                "rule": finding.rule.name(), "severity": finding.severity.name(), "actor": finding.actor,
                "place": finding.place, "figure": finding.figure, "unit": finding.rule.unit(), "message": finding.message, "remedy": finding.remedy,
            })
        });
        let value = json!({ "schema": "finitor.lint/1", "findings": rows.collect::<Vec<_>>() });
        writeln!(out, "{}", serde_json::to_string_pretty(&value)?)?;
        return Ok(());
    }
    if format == Format::Csv {
        let header = ["severity", "rule", "actor", "place", "figure", "unit", "message", "remedy"];
        let rows = findings.iter().map(|finding| {
            vec![
                finding.severity.to_string(),
                finding.rule.to_string(),
                finding.actor.clone(),
                finding.place.clone(),
                finding.figure.to_string(),
                finding.rule.unit().to_string(),
                finding.message.clone(),
                finding.remedy.clone(),
            ]
        });
        return write_csv(&header.map(String::from), rows, out);
    }
    let names: Vec<&str> = actors.iter().map(|actor| actor.name.as_str()).collect();
    let frames: usize = actors.iter().map(|actor| actor.frames.len()).sum();
    let what = format!("{} of {}", counted(frames, "frame"), names.join(", "));
    if findings.is_empty() {
        writeln!(out, "clean. {what}.")?;
        return Ok(());
    }
    writeln!(out, "{} in {what}.\n", counts(findings.iter().map(|finding| finding.severity)))?;
    let row = |finding: &LintFinding| {
        vec![
            finding.severity.to_string(),
            finding.rule.to_string(),
            format!("{} {}", finding.actor, finding.place),
            format!("{} {}", finding.figure, finding.rule.unit()),
            finding.message.clone(),
            finding.remedy.clone(),
        ]
    };
    let header = ["severity", "rule", "where", "figure", "what", "mend"];
    writeln!(out, "{}", table(&header, &["figure"], findings.iter().map(row).collect()).trim_fmt())?;
    Ok(())
}
