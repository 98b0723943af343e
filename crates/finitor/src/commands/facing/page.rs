//! `facing --draw`: a picture of both facings about one pivot line.

use super::{drift, room};
use crate::session::Session;
use finitor_app::Failure;
use finitor_app::{Drawing, both_arts, pictures};
use finitor_core::actor::Actor;
use finitor_core::lint::turns;
use finitor_draw::{FacingCell, FacingSheet, facing_sheet};
use finitor_files::{ActorFile, FlipAbout};
use std::io::Write;
use std::path::Path;

/// Draws of each animation the frame whose body a turn moves most.
pub(super) fn draw(
    session: &Session<'_>,
    file: &ActorFile,
    actor: &Actor,
    scale: Option<u32>,
    folder: &Path,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let pictures = pictures(file)?;
    let turns = turns(actor);
    let mut cells = Vec::new();
    for (index, animation) in actor.animations.iter().enumerate() {
        let worst = turns.iter().filter(|turn| turn.animation == index).max_by(|a, b| a.moved().total_cmp(&b.moved()));
        let number = worst.map_or(0, |turn| turn.frames[0]);
        let Some(poses) = animation.frames.get(number) else { continue };
        let frame = file.animations[index].frames.start + number;
        let mut words = Vec::new();
        if let Some(turn) = worst {
            words.push(format!("ahead {:.2}, behind {:.2}", turn.ahead, turn.behind));
            words.push(match turn.moved() {
                0.0 => "a turn moves nothing".to_string(),
                moved => format!("moves {moved:.2} px; room {}", room(turn)),
            });
            let drift = drift(file, turn);
            if drift != 0.0 {
                words.push(format!("art drifts {drift:+.1} px"));
            }
        }
        let name = format!("{} {number}", animation.name);
        cells.push(FacingCell { name, art: both_arts(file, actor, &pictures, frame), poses, words });
    }
    let most = turns.iter().map(finitor_core::lint::Turn::moved).fold(0.0, f64::max);
    let moves =
        if most == 0.0 { "moves nothing".into() } else { format!("moves the body's sides by up to {most:.2} px") };
    let title = format!("{} in both facings: a turn {moves}", actor.name);
    let axis = match file.flip_about {
        FlipAbout::Pivot => "art and shapes are mirrored about the pivot (upright line)",
        FlipAbout::Cell => "art is flipped about the middle of its cell, shapes about the pivot (upright line)",
    };
    let words =
        format!("{axis}; of each animation the frame that moves most; red: what the body gains or loses by a turn");
    let scene = facing_sheet(&FacingSheet { title, words, cells, scale });
    session.save(&Drawing { stem: folder.join(format!("{}-facing", file.name)), scene }, out)
}
