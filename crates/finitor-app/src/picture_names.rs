//! What the names of pictures say: the actor, the animation, the frame, the side.

use finitor_core::Facing;
use std::path::Path;

/// Words that name a motion and so no actor.
const MOTIONS: [&str; 38] = [
    "idle", "stand", "walk", "run", "jump", "fall", "land", "attack", "hit", "hurt", "die", "death", "dead", "climb",
    "crouch", "duck", "slide", "dash", "swim", "fly", "cast", "shoot", "block", "roll", "turn", "push", "pull", "talk",
    "sleep", "sit", "dive", "strike", "throw", "spin", "frame", "sprite", "img", "image",
];

/// Words that name a motion off the ground.
const AIRBORNE: [&str; 9] = ["jump", "fall", "fly", "dive", "swim", "climb", "leap", "hover", "float"];

/// Folders that say what kind of files they hold and not whose.
const PLAIN_FOLDERS: [&str; 12] =
    ["actors", "art", "assets", "frames", "gfx", "images", "img", "pictures", "png", "sheets", "sprites", "textures"];

/// What a file's name says of its picture.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct PictureName {
    /// What it shares with the other frames of its animation.
    pub(crate) base: String,
    /// Whether a number or a letter of a frame follows.
    pub(crate) is_frame: bool,
}

/// `walk_02.png` -> walk; `12.png` in the folder walk -> walk; others as they are.
pub(crate) fn picture_name(path: &Path) -> PictureName {
    let stem = path.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
    let trimmed = stem.trim_end_matches(')').trim_end_matches(|c: char| c.is_ascii_digit());
    let base = trimmed.trim_end_matches(SEPARATORS);
    if trimmed.len() == stem.len() {
        return PictureName { base: stem, is_frame: false };
    }
    let folder = || path.parent().and_then(Path::file_name).map(|name| name.to_string_lossy().into_owned());
    match (base.is_empty(), folder()) {
        (false, _) => PictureName { base: base.to_string(), is_frame: true },
        (true, Some(folder)) => PictureName { base: folder, is_frame: true },
        (true, None) => PictureName { base: stem, is_frame: false },
    }
}

/// `walk_b.png` -> walk, b: a frame by a letter, where others of its name have letters too.
pub(crate) fn lettered(path: &Path) -> Option<(String, char)> {
    let stem = path.file_stem()?.to_string_lossy().into_owned();
    let mut letters = stem.chars();
    let last = letters.next_back().filter(char::is_ascii_lowercase)?;
    let rest = letters.as_str();
    let base = rest.trim_end_matches(SEPARATORS);
    // `l` and `r` are sides.
    (base.len() < rest.len() && !base.is_empty() && !"lrnesw".contains(last)).then(|| (base.to_string(), last))
}

const SEPARATORS: [char; 5] = ['_', '-', ' ', '.', '('];

/// The name of an actor: what its pictures' names have in common, else the folder's, else `figure`.
pub fn actor_name(pictures: &[impl AsRef<Path>]) -> String {
    let bases: Vec<String> = pictures.iter().map(|path| picture_name(path.as_ref()).base).collect();
    let common = bases.iter().skip(1).fold(bases.first().cloned().unwrap_or_default(), |known, base| {
        known.chars().zip(base.chars()).take_while(|(a, b)| a == b).map(|(a, _)| a).collect()
    });
    // Half a word is nothing in common.
    let is_whole = |base: &String| {
        base[common.len()..].chars().next().is_none_or(|c| SEPARATORS.contains(&c) || c.is_ascii_uppercase())
    };
    let common = match bases.iter().all(is_whole) || common.ends_with(SEPARATORS) {
        true => common.trim_end_matches(SEPARATORS),
        false => common.rfind(SEPARATORS).map_or("", |at| &common[..at]),
    };
    let common = cleaned(side_of(common).0);
    if common.chars().count() > 1 && !MOTIONS.contains(&common.to_lowercase().as_str()) {
        return common;
    }
    let folders = pictures.first().map(|path| path.as_ref().to_path_buf());
    let folders = folders.and_then(|path| path.canonicalize().ok()).unwrap_or_default();
    let mut names =
        folders.ancestors().skip(1).filter_map(Path::file_name).map(|name| cleaned(&name.to_string_lossy()));
    let says_whose = |name: &String| {
        let lower = name.to_lowercase();
        !PLAIN_FOLDERS.contains(&lower.as_str()) && !MOTIONS.contains(&lower.as_str()) && name.chars().count() > 1
    };
    names.find(says_whose).unwrap_or_else(|| "figure".to_string())
}

/// The letters that a name may hold.
fn cleaned(text: &str) -> String {
    let allowed = |c: char| if c.is_alphanumeric() || c == '_' || c == '-' { c } else { '_' };
    text.trim_matches(SEPARATORS).chars().map(allowed).collect()
}

/// A name without the word for a side at its end, and the side: `walk_left`, `walk-l`, `walk_west` look to the left.
pub(crate) fn side_of(name: &str) -> (&str, Option<Facing>) {
    let Some(at) = name.rfind(SEPARATORS) else { return (name, None) };
    let facing = match name[at + 1..].to_lowercase().as_str() {
        "left" | "l" | "west" | "w" => Facing::Left,
        "right" | "r" | "east" | "e" => Facing::Right,
        _ => return (name, None),
    };
    (&name[..at], Some(facing))
}

/// Whether an animation's name says that it is off the ground.
pub(crate) fn is_airborne(name: &str) -> bool {
    let lower = name.to_lowercase();
    lower.split(|c: char| !c.is_alphabetic()).any(|word| AIRBORNE.iter().any(|motion| word.starts_with(motion)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_of_files_say_whose_they_are_and_which_way_they_look() {
        let named = |files: &[&str]| actor_name(files);
        assert_eq!(named(&["keeper_walk_1.png", "keeper_walk_2.png", "keeper_idle.png"]), "keeper");
        assert_eq!(named(&["keeperWalk.png", "keeperIdle.png"]), "keeper");
        assert_eq!(named(&["mop-walk.png", "mop-wait.png"]), "mop", "and not `mop-wa`");
        assert_eq!(named(&["gull 2.png"]), "gull");
        assert_eq!(named(&["gull_left.png", "gull_right.png"]), "gull");
        let named = |path: &str| picture_name(Path::new(path));
        assert_eq!(named("art/walk/12.png"), PictureName { base: "walk".into(), is_frame: true });
        assert_eq!(named("walk (3).png"), PictureName { base: "walk".into(), is_frame: true });
        assert_eq!(named("walk.png"), PictureName { base: "walk".into(), is_frame: false });
        assert_eq!(lettered(Path::new("walk_b.png")), Some(("walk".into(), 'b')));
        assert_eq!(lettered(Path::new("walk_l.png")), None);
        assert_eq!(side_of("walk_left"), ("walk", Some(Facing::Left)));
        assert_eq!(side_of("walk-E"), ("walk", Some(Facing::Right)));
        assert_eq!(side_of("shuffle"), ("shuffle", None));
        assert!(is_airborne("keeper_jump") && is_airborne("Falling") && !is_airborne("idle"));
    }
}
