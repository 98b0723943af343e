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
    let closed = stem.trim_end_matches([')', ']']);
    let trimmed = without_number(without_count(closed));
    let base = trimmed.trim_end_matches(SEPARATORS);
    if !ends_with_number(closed) {
        return PictureName { base: stem, is_frame: false };
    }
    let folder = || path.parent().and_then(Path::file_name).map(|name| name.to_string_lossy().into_owned());
    match (base.is_empty(), folder()) {
        (false, _) => PictureName { base: base.to_string(), is_frame: true },
        (true, Some(folder)) => PictureName { base: folder, is_frame: true },
        (true, None) => PictureName { base: stem, is_frame: false },
    }
}

/// `walk_1` for `walk_1of4`, and for `walk_1_of_4`: without the number of frames behind that of the frame.
fn without_count(stem: &str) -> &str {
    let before_count = without_number(stem).trim_end_matches(SEPARATORS);
    let at = before_count.len().saturating_sub("of".len());
    let is_of = before_count.get(at..).is_some_and(|word| word.eq_ignore_ascii_case("of"));
    if !is_of || !ends_with_number(stem) {
        return stem;
    }
    let frame = before_count[..at].trim_end_matches(SEPARATORS);
    if ends_with_number(frame) { frame } else { stem }
}

fn without_number(text: &str) -> &str {
    text.trim_end_matches(|c: char| c.is_ascii_digit())
}

fn ends_with_number(text: &str) -> bool {
    text.ends_with(|c: char| c.is_ascii_digit())
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

const SEPARATORS: [char; 7] = ['_', '-', ' ', '.', '(', '[', '#'];

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
    let common = if side_of(common).1.is_some() { last_word(common).0 } else { common };
    let common = cleaned(without_motions(common));
    if common.chars().count() > 1 && !is_motion(&common) {
        return common;
    }
    let folders = pictures.first().map(|path| path.as_ref().to_path_buf());
    let folders = folders.and_then(|path| path.canonicalize().ok()).unwrap_or_default();
    let mut names =
        folders.ancestors().skip(1).filter_map(Path::file_name).map(|name| cleaned(&name.to_string_lossy()));
    let says_whose = |name: &String| !is_plain_folder(name) && !is_motion(name) && name.chars().count() > 1;
    names.find(says_whose).unwrap_or_else(|| "figure".to_string())
}

/// A name without the motions at its end: `keeper` for `keeper_walk`, `KeeperRun` and `keeper_attack2`. One that is nothing else stays.
fn without_motions(name: &str) -> &str {
    let (rest, word) = last_word(name);
    match is_motion(without_number(word)) && rest.chars().count() > 1 {
        true => without_motions(rest),
        false => name,
    }
}

/// A name's last word, behind a separator or from a capital letter on, and what is before it.
fn last_word(name: &str) -> (&str, &str) {
    let after_separator = name.rfind(SEPARATORS).map(|at| (at, at + 1));
    let letters = || name.char_indices().zip(name.chars().skip(1));
    let capital = letters().filter(|((_, before), next)| before.is_lowercase() && next.is_uppercase()).last();
    let from_capital = capital.map(|((at, before), _)| at + before.len_utf8()).map(|at| (at, at));
    match after_separator.max(from_capital) {
        Some((end, start)) => (name[..end].trim_end_matches(SEPARATORS), &name[start..]),
        None => ("", name),
    }
}

/// What the name of a picture says beside its actor's: `walk` for `Red Keeper walk` of the actor Red_Keeper.
pub(crate) fn motion_name(picture: &str, actor: &str) -> Option<String> {
    let name = cleaned(picture);
    let rest = name.strip_prefix(actor)?;
    // Half a word is no name.
    let begins = |c: char| SEPARATORS.contains(&c) || c.is_uppercase() || c.is_ascii_digit();
    let rest = rest.starts_with(begins).then(|| cleaned(rest))?;
    (!rest.is_empty()).then_some(rest)
}

fn is_motion(word: &str) -> bool {
    MOTIONS.contains(&word.to_lowercase().as_str())
}

/// Whether a folder says what kind of files it holds and not whose.
pub(crate) fn is_plain_folder(name: &str) -> bool {
    PLAIN_FOLDERS.contains(&name.to_lowercase().as_str())
}

/// The letters that a name may hold.
fn cleaned(text: &str) -> String {
    let allowed = |c: char| if c.is_alphanumeric() || c == '_' || c == '-' { c } else { '_' };
    text.trim_matches(SEPARATORS).chars().map(allowed).collect()
}

/// A name without the word for a side at its end, and the side: `walk_left`, `walk-l`, `walkWest` and `left` look to the left. Of
/// `walk_nw` and `walk_ne` the same is left, which is not what is left of `walk_w`.
pub(crate) fn side_of(name: &str) -> (&str, Option<Facing>) {
    let (rest, word) = last_word(name);
    let without = |side: &str| &name[..name.len() - side.len()];
    match word.to_lowercase().as_str() {
        "left" | "l" | "west" | "w" => (rest, Some(Facing::Left)),
        "right" | "r" | "east" | "e" => (rest, Some(Facing::Right)),
        "nw" | "sw" => (without("w"), Some(Facing::Left)),
        "ne" | "se" => (without("e"), Some(Facing::Right)),
        "northwest" | "southwest" => (without("west"), Some(Facing::Left)),
        "northeast" | "southeast" => (without("east"), Some(Facing::Right)),
        _ => (name, None),
    }
}

/// Whether a name ends with a way between two of the compass, as `walk_nw` does.
pub(crate) fn is_diagonal(name: &str) -> bool {
    side_of(name).1.is_some() && last_word(name).0 != side_of(name).0
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
        assert_eq!(named(&["Gull-Glide-East-01.png", "Gull-Glide-West-01.png"]), "Gull-Glide");
        assert_eq!(named(&["Crab-Walk-East-01.png", "Crab-Walk-West-01.png"]), "Crab");
        assert_eq!(named(&["crab_walk_l1.png", "crab_walk_r1.png"]), "crab");
        assert_eq!(named(&["CRAB_ATTACK2_1.png", "CRAB_ATTACK2_2.png"]), "CRAB");
        assert_eq!(named(&["crabWalk1.png", "crabWalk2.png"]), "crab");
        assert_eq!(motion_name("Red Crab walk", "Red_Crab"), Some("walk".into()));
        assert_eq!(motion_name("crabWalk_l", "crab"), Some("Walk_l".into()));
        assert_eq!(motion_name("crab", "crab"), None);
        assert_eq!(motion_name("gull", "crab"), None);
        assert_eq!(motion_name("crabby", "crab"), None);
        let named = |path: &str| picture_name(Path::new(path));
        assert_eq!(named("art/walk/12.png"), PictureName { base: "walk".into(), is_frame: true });
        assert_eq!(named("walk (3).png"), PictureName { base: "walk".into(), is_frame: true });
        for frame in
            ["walk#1.png", "walk[3].png", "walk-1of4.png", "walk 2 of 12.png", "walk_1_OF_4.png", "walk1of4.png"]
        {
            assert_eq!(named(frame), PictureName { base: "walk".into(), is_frame: true }, "{frame}");
        }
        for (single, base) in [("roof4.png", "roof"), ("proof_of_4.png", "proof_of"), ("a/1of4.png", "a")] {
            assert_eq!(named(single).base, base, "{single}");
        }
        assert_eq!(named("walk.png"), PictureName { base: "walk".into(), is_frame: false });
        assert_eq!(lettered(Path::new("walk_b.png")), Some(("walk".into(), 'b')));
        assert_eq!(lettered(Path::new("walk_l.png")), None);
        assert_eq!(side_of("walk_left"), ("walk", Some(Facing::Left)));
        assert_eq!(side_of("walk-E"), ("walk", Some(Facing::Right)));
        assert_eq!(side_of("walkLeft"), ("walk", Some(Facing::Left)));
        assert_eq!(side_of("r"), ("", Some(Facing::Right)));
        assert_eq!(side_of("walk_NW"), ("walk_N", Some(Facing::Left)));
        assert_eq!(side_of("walk-southeast"), ("walk-south", Some(Facing::Right)));
        assert_eq!(side_of("shuffle"), ("shuffle", None));
        assert_eq!(side_of("Bright"), ("Bright", None));
        assert!(is_diagonal("walk_nw") && !is_diagonal("walk_w") && !is_diagonal("walk") && !is_diagonal("walk_n"));
        assert!(is_airborne("keeper_jump") && is_airborne("Falling") && !is_airborne("idle"));
    }
}
