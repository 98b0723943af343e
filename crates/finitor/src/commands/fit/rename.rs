//! `fit --rename`.

use finitor_files::{ActorFile, FitsFile, Problem, Problems};

/// Gives animations of the old fits their new names.
pub(super) fn rename(
    old: &mut FitsFile,
    actor: &ActorFile,
    names: &[(String, String)],
    renamed: &mut [bool],
) -> Result<(), Problems> {
    for (index, (from, to)) in names.iter().enumerate() {
        if !old.frames.iter().any(|frame| frame.animation == *from) {
            continue;
        }
        let wrong = |message: String| Err(Problem::of_file(&actor.path, message).into());
        if !actor.animations.iter().any(|animation| animation.name == *to) {
            return wrong(format!("--rename {from}={to}: the actor file has no animation \"{to}\""));
        }
        if old.frames.iter().any(|frame| frame.animation == *to) {
            return wrong(format!("--rename {from}={to}: the fits already have an animation \"{to}\""));
        }
        for frame in old.frames.iter_mut().filter(|frame| frame.animation == *from) {
            frame.animation.clone_from(to);
        }
        renamed[index] = true;
    }
    Ok(())
}
