//! `finitor hits --reach`.

mod chart;

use super::{all_actors, attack_title, ends, named};
use crate::cli::{Format, HitsArgs};
use crate::commands::draw::name_drawings;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::results::{AttackReachResult, ReachResult};
use finitor_app::{Drawing, Failure, unknown};
use finitor_core::actor::Actor;
use finitor_core::hits::{Meeting, Stance};
use finitor_draw::reach_sheet;
use finitor_files::counted;
use std::io::Write;

/// Whose attacks, and against whom.
pub(super) struct Pair<'a> {
    pub(super) attacker: &'a str,
    pub(super) target: &'a str,
}

/// Writes at which distances the attacks of one actor strike another.
pub(super) fn run(
    session: &Session<'_>,
    pair: &Pair<'_>,
    args: &HitsArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let actors = all_actors(session)?;
    let _progress = session.sink().task("measuring reach");
    let (attacker, target) = (named(&actors, pair.attacker)?, named(&actors, pair.target)?);
    let stance = stance(target, args.stance.as_deref())?;
    let project = &session.project;
    let (layers, settle) = (&project.layers, project.settings.settle());
    let meeting = Meeting { attacker, target, stance, lower: args.dy, layers, settle };
    let result = ReachResult::new(&meeting, &meeting.encounters());
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?,
        Format::Csv => write_rows(&result, out)?,
        Format::Table => write_table(&result, out)?,
    }
    if args.draw && !result.attacks.is_empty() {
        let name = format!("{}-reach-{}", pair.attacker, pair.target);
        let scene = reach_sheet(&chart::sheet(&result));
        let mut words = Vec::new();
        session.save(&Drawing { stem: session.pictures(args.out.as_ref()).join(name), scene }, &mut words)?;
        name_drawings(session, format, &words, out)?;
    }
    Ok(())
}

/// `ANIMATION:FRAME` or `ANIMATION` of the target.
fn stance(target: &Actor, words: Option<&str>) -> Result<Stance, Failure> {
    let Some(words) = words else {
        return Stance::usual(target).ok_or_else(|| Failure::Usage(format!("{} has no frame", target.name)));
    };
    let (name, number) = words.split_once(':').unwrap_or((words, "0"));
    let known: Vec<&str> = target.animations.iter().map(|animation| animation.name.as_str()).collect();
    let animation = target.find(name).ok_or_else(|| unknown("animation", name, &known))?;
    let frames = target.animations[animation].frames.len();
    let frame = number.parse().ok().filter(|frame| *frame < frames);
    let frame = frame.ok_or_else(|| {
        Failure::Usage(format!(
            "--stance: {name} of {} has frames 0 to {}, not {number}",
            target.name,
            frames.max(1) - 1
        ))
    })?;
    Ok(Stance { animation, frame })
}

/// An attack and the facings.
fn title(of: &AttackReachResult) -> String {
    attack_title(&of.animation, &of.shape, &of.facing)
}

/// The way the target looks, where that matters.
fn looks(of: &AttackReachResult) -> String {
    if of.target_looks == "either" { String::new() } else { format!(", target looks {}", of.target_looks) }
}

fn list(reach: &[[f64; 2]]) -> String {
    reach.iter().map(|at| ends(*at)).collect::<Vec<_>>().join(", ")
}

fn write_table(result: &ReachResult, out: &mut dyn Write) -> Result<(), Failure> {
    let ReachResult { attacker, target, animation, frame, dy_px, attacks, .. } = result;
    let level = match *dy_px {
        0.0 => "on the same level".to_string(),
        lower if lower > 0.0 => format!("{lower} px lower"),
        higher => format!("{} px higher", 0.0 - higher),
    };
    writeln!(out, "{}", verdict(result))?;
    writeln!(
        out,
        "Distances from {attacker}'s pivot to {target}'s, px ahead; {target} stands in {animation} {frame}, {level}.\n"
    )?;
    if attacks.iter().all(|of| of.parts.is_empty()) {
        return Ok(());
    }
    let rows = attacks.iter().flat_map(|of| {
        of.first.iter().map(move |first| {
            let frame = format!("frame {}, tick {}", first.frame, first.tick);
            vec![title(of), of.target_looks.clone(), first.part.clone(), ends(first.reach_px), frame]
        })
    });
    let header = ["attack", "target looks", "strikes", "from, to", "first on"];
    writeln!(out, "{}", table(&header, &["from, to"], rows.collect()).trim_fmt())?;
    let rows = attacks.iter().flat_map(|of| {
        of.frames.iter().flat_map(move |frame| {
            frame.parts.iter().map(move |part| {
                vec![
                    title(of),
                    of.target_looks.clone(),
                    frame.frame.to_string(),
                    part.part.clone(),
                    list(&part.reach_px),
                ]
            })
        })
    });
    let header = ["attack", "target looks", "frame", "part", "reached from, to"];
    writeln!(out, "\nFrame by frame:\n\n{}", table(&header, &["frame"], rows.collect()).trim_fmt())?;
    for of in attacks.iter().filter(|of| !of.parts.is_empty()) {
        let from = match of.bodies_apart_px {
            Some(apart) => format!("bodies are apart from {apart:.2} px on"),
            None => "the bodies do not stop each other".to_string(),
        };
        let gaps = match of.gaps_px.as_slice() {
            [] => "no gap".to_string(),
            gaps => format!(
                "gap: nothing is struck from {}",
                gaps.iter().map(|at| ends(*at)).collect::<Vec<_>>().join(" and ")
            ),
        };
        writeln!(out, "{}{}: {from}; {gaps}", title(of), looks(of))?;
    }
    Ok(())
}

/// What stands out, in a line.
fn verdict(result: &ReachResult) -> String {
    let ReachResult { attacker, target, attacks, .. } = result;
    if attacks.is_empty() {
        return format!("{attacker} has no attack: none of its shapes has `role = \"hit\"`.");
    }
    let farthest = attacks.iter().filter_map(|of| {
        let last = of.parts.iter().flat_map(|part| &part.reach_px).map(|[_, to]| *to);
        Some((of, last.max_by(f64::total_cmp)?))
    });
    let Some((of, to)) = farthest.max_by(|a, b| a.1.total_cmp(&b.1)) else {
        return format!(
            "No attack of {attacker} strikes {target}: none reaches its height, or none detects it; see `finitor layers explain`."
        );
    };
    let gaps = attacks.iter().filter(|of| !of.gaps_px.is_empty()).count();
    let gaps = match gaps {
        0 => "no gap between the bodies and that".to_string(),
        _ => format!("{} with a gap", counted(gaps, "row")),
    };
    format!("{attacker} strikes {target} up to {to:.2} px away, with {}; {gaps}.", title(of))
}

fn write_rows(result: &ReachResult, out: &mut dyn Write) -> Result<(), Failure> {
    let header =
        ["attacker", "target", "animation", "shape", "facing", "target_looks", "frame", "part", "from_px", "to_px"];
    let rows = result.attacks.iter().flat_map(|of| {
        of.frames.iter().flat_map(move |frame| {
            frame.parts.iter().flat_map(move |part| {
                part.reach_px.iter().map(move |[from, to]| {
                    let mut row = vec![result.attacker.clone(), result.target.clone()];
                    row.extend([&of.animation, &of.shape, &of.facing, &of.target_looks].map(String::clone));
                    row.extend([frame.frame.to_string(), part.part.clone(), from.to_string(), to.to_string()]);
                    row
                })
            })
        })
    });
    write_csv(&header.map(String::from), rows, out)
}
