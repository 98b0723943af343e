//! From pictures looked at to a starter actor file.

use crate::picture_groups::{Canvas, PictureGroup, What, canvases};
use crate::picture_names::{is_airborne, is_diagonal, is_plain_folder, motion_name, side_of};
use finitor_core::Facing;
use finitor_core::art::{Background, Cutting, Grid, GridEvidence, Key, Run, SheetLook};
use finitor_files::{Starter, StarterAnimation, StarterFrames, StarterPivot, StarterSheet, counted, name_matches};
use std::collections::BTreeSet;
use std::path::{Component, Path, PathBuf};

/// What a starter goes by beside the pictures.
pub struct Naming<'a> {
    /// The actor's name.
    pub actor: &'a str,
    /// The folder of the actor file.
    pub folder: &'a Path,
    /// Names of the rows of sheets, in order.
    pub rows: &'a [String],
    /// The layer for its shapes.
    pub layer: &'a str,
    /// The key that was given.
    pub key: Option<Key>,
    /// The way the art is drawn, where that was given.
    pub faces: Option<Facing>,
    /// Least alpha of pixels that count.
    pub alpha: u8,
}

/// A starter actor for groups of pictures.
///
/// # Errors
/// More row names than rows, or a picture that no path leads to.
pub fn starter(groups: &[PictureGroup], naming: &Naming<'_>) -> Result<Starter, String> {
    let (canvases, places) = canvases(groups);
    let pivot_of = |place: Option<usize>| place.map_or(StarterPivot::Feet, |place| pivot_on(&canvases[place]));
    let first = places.first().copied().flatten();
    let is_alone = groups.len() == 1;
    let mut found = Found { sheets: Vec::new(), animations: Vec::new(), names: naming.rows.iter(), is_alone };
    for (group, place) in groups.iter().zip(&places) {
        let canvas = place.map(|place| &canvases[place]);
        let pivot = (*place != first).then(|| pivot_of(*place));
        found.add_group(group, &Placed { canvas, pivot }, naming)?;
    }
    let Found { sheets, animations, mut names, .. } = found;
    if names.next().is_some() {
        let rows: usize = naming.rows.len();
        return Err(format!("--row: {rows} names are given; the pictures have fewer rows with art"));
    }
    if animations.is_empty() {
        return Err("the pictures hold no art: every pixel is transparent".to_string());
    }
    let (faces, animations) = with_sides(animations, naming.faces);
    let (actor, layer) = (naming.actor.to_string(), naming.layer.to_string());
    let alpha = (naming.alpha != USUAL_ALPHA).then_some(naming.alpha);
    Ok(Starter { actor, faces, pivot: pivot_of(first), sheets, animations, alpha, layer })
}

/// The alpha that shapes are fitted from where nobody says another.
const USUAL_ALPHA: u8 = 128;

/// Sets the way animations are drawn by their names, and which stands for which: `walk_left` for `walk_right`, or for `walk`.
fn with_sides(mut animations: Vec<StarterAnimation>, given: Option<Facing>) -> (Facing, Vec<StarterAnimation>) {
    let sides: Vec<Option<Facing>> = animations.iter().map(|of| side_of(&of.name).1).collect();
    let all_left = !sides.is_empty() && sides.iter().all(|side| *side == Some(Facing::Left));
    let faces = given.unwrap_or(if all_left { Facing::Left } else { Facing::Right });
    let names: Vec<String> = animations.iter().map(|of| of.name.clone()).collect();
    for (animation, side) in animations.iter_mut().zip(&sides) {
        let Some(side) = side.filter(|side| *side != faces) else { continue };
        animation.faces = Some(side);
        let base = side_of(&animation.name).0;
        let is_mirrored = |(name, of): &(&String, &Option<Facing>)| **of == Some(faces) && side_of(name).0 == base;
        let mirrored = names.iter().zip(&sides).find(is_mirrored).map(|(name, _)| name);
        // What is named without a side is seen from it, but `walk_n` is not for `walk_nw`.
        let plain = || names.iter().find(|name| name.as_str() == base).filter(|_| !is_diagonal(&animation.name));
        animation.stands_for = mirrored.or_else(plain).cloned();
    }
    (faces, animations)
}

fn pivot_on(canvas: &Canvas) -> StarterPivot {
    let at = canvas.stance.as_ref().map(|stance| [stance.pivot.x, stance.pivot.y]);
    at.map_or(StarterPivot::Feet, |at| StarterPivot::At(at, why_there(canvas)))
}

/// Where the frames of a group stand.
struct Placed<'c> {
    /// What they share.
    canvas: Option<&'c Canvas>,
    /// Their pivot, where it is not that of the first group.
    pivot: Option<StarterPivot>,
}

impl Placed<'_> {
    /// Whether the art of all frames ends on the line that the figure stands on, and none is squashed: what lies down, or
    /// comes out of the ground, does not stand.
    fn stands<'r>(&self, name: &str, frames: impl Iterator<Item = &'r Vec<Run>>) -> bool {
        /// Of the tallest frame's height.
        const SQUASHED: f64 = 0.6;
        let ground = self.canvas.and_then(|canvas| canvas.stance.as_ref()).map(|stance| stance.pivot.y);
        let extents = frames.map(|runs| Some([f64::from(runs.first()?.row), f64::from(runs.last()?.row + 1)]));
        let Some(extents) = extents.collect::<Option<Vec<[f64; 2]>>>().filter(|all| !all.is_empty()) else {
            return false;
        };
        let heights = extents.iter().map(|[top, bottom]| bottom - top);
        let (least, most) = heights.fold((f64::INFINITY, 0.0_f64), |(low, high), of| (low.min(of), high.max(of)));
        !is_airborne(name) && extents.iter().all(|[_, bottom]| Some(*bottom) == ground) && least >= SQUASHED * most
    }
}

/// What is found of a starter, group by group.
struct Found<'n> {
    sheets: Vec<StarterSheet>,
    animations: Vec<StarterAnimation>,
    /// Names of rows that are left.
    names: std::slice::Iter<'n, String>,
    /// Whether there is one group only.
    is_alone: bool,
}

impl Found<'_> {
    fn add(&mut self, animation: StarterAnimation, pivot: Option<StarterPivot>) {
        let taken = self.animations.iter().any(|known| known.name == animation.name);
        let name = if taken { format!("{}_{}", animation.name, self.animations.len()) } else { animation.name };
        self.animations.push(StarterAnimation { name, pivot, ..animation });
    }

    fn add_group(&mut self, group: &PictureGroup, placed: &Placed<'_>, naming: &Naming<'_>) -> Result<(), String> {
        let Some(seen) = group.seen.first() else {
            return Ok(());
        };
        let named = || animation_name(&group.name, naming.actor);
        let pivot = placed.pivot.clone();
        match &seen.what {
            What::Animated { runs, .. } if runs.iter().all(Vec::is_empty) => {}
            What::Animated { runs, .. } => {
                let frames = StarterFrames::File(relative(&seen.path, naming.folder)?);
                let standing = placed.stands(&group.name, runs.iter());
                self.add(animation(named(), Guessed::No, frames, standing), pivot);
            }
            What::Frame(_) => {
                let (pattern, files) = pattern(group, naming.folder)?;
                let runs = group.seen.iter().filter_map(|seen| match &seen.what {
                    What::Frame(look) => look.cells.first().map(|cell| &cell.solid),
                    _ => None,
                });
                let (frames, standing) = (StarterFrames::Files(pattern, files), placed.stands(&group.name, runs));
                self.add(animation(named(), Guessed::No, frames, standing), pivot);
            }
            What::Sheet(look) => {
                let image = relative(&seen.path, naming.folder)?;
                let parts = seen.parts.as_ref().map(|parts| relative(parts, naming.folder)).transpose()?;
                let (cut, why) = cut(look, naming.key);
                let name = if self.is_alone { "main".to_string() } else { group.name.clone() };
                self.sheets.push(StarterSheet { name, image, cut, why, parts });
                let is_told = !self.is_alone || motion_name(&group.name, naming.actor).is_some();
                self.add_rows(look, placed, is_told.then(named).as_deref());
            }
        }
        Ok(())
    }

    /// The rows of the sheet added last. Cells of gaps are numbered without empty ones, as those of a grid are with them.
    fn add_rows(&mut self, look: &SheetLook, placed: &Placed<'_>, named: Option<&str>) {
        for (index, row) in look.rows.iter().enumerate() {
            let (name, guessed) = match (self.names.next(), named) {
                (Some(name), _) => (name.clone(), Guessed::No),
                (None, Some(named)) if look.rows.len() == 1 => (named.to_string(), Guessed::No),
                (None, _) if look.cells.len() == 1 => ("still".to_string(), Guessed::Yes),
                (None, _) => (format!("row_{}", index + 1), Guessed::Yes),
            };
            let frames = StarterFrames::Cells(self.sheets.len() - 1, row.iter().map(|cell| *cell as u32).collect());
            let standing = placed.stands(&name, row.iter().map(|cell| &look.cells[*cell].solid));
            self.add(animation(name, guessed, frames, standing), placed.pivot.clone());
        }
    }
}

/// Whether a name is a guess.
#[derive(Clone, Copy, PartialEq)]
enum Guessed {
    Yes,
    No,
}

fn animation(name: String, guessed: Guessed, frames: StarterFrames, standing: bool) -> StarterAnimation {
    let guessed = guessed == Guessed::Yes;
    StarterAnimation { name, guessed, frames, pivot: None, standing, faces: None, stands_for: None }
}

fn why_there(canvas: &Canvas) -> String {
    let Some(stance) = &canvas.stance else {
        return String::new();
    };
    let standing = stance.standing.iter().filter(|standing| **standing).count();
    let across = if stance.centred { "the middle of the cell" } else { "the middle of the feet" };
    format!(
        "feet on the ground: {standing} of {} frames end on y {}; x is {across}",
        canvas.frames.len(),
        stance.pivot.y
    )
}

/// The keys that cut a sheet as it was looked at, and why.
fn cut(look: &SheetLook, key: Option<Key>) -> (Vec<(&'static str, String)>, String) {
    let mut keys = Vec::new();
    let mut why = String::new();
    match look.cutting {
        Cutting::Gaps(gap) => {
            keys.push(("cut", "\"gaps\"".to_string()));
            keys.push(("gap", gap.to_string()));
            why = format!("no grid fits; {} pieces of art, parted by transparent rows and columns", look.cells.len());
        }
        Cutting::Whole => {}
        Cutting::Guessed(_) | Cutting::Given(_) => {
            if let Some(grid) = look.cutting.grid() {
                keys.push(("cell", format!("[{}, {}]", grid.cell.0, grid.cell.1)));
                for Spacing { key, numbers } in spacings(grid) {
                    let value = match numbers.as_slice() {
                        [both] => both.to_string(),
                        several => format!("{several:?}"),
                    };
                    keys.push((key, value));
                }
                why = grid_words(look, grid, &look.cutting);
            }
        }
    }
    if let Some(other) = other_cuts(look).first() {
        why += &format!("; or `{}`: {}", other.options, other.words);
    }
    match (key, look.background) {
        (Some(key), _) => {
            let colour = key.colour.map_or_else(|| "corner".to_string(), |colour| colour.to_string());
            keys.push(("key", format!("\"{colour}\"")));
            if key.tolerance > 0 {
                keys.push(("key_tolerance", key.tolerance.to_string()));
            }
        }
        (None, Background::Coloured(colour, _)) => keys.push(("key", format!("\"{colour}\""))),
        _ => {}
    }
    (keys, why)
}

/// A margin or a gap as files and options give it.
struct Spacing {
    key: &'static str,
    /// One where it says all, else those across and down.
    numbers: Vec<u32>,
}

/// The margin and the gap of a grid, without those that are none.
fn spacings(grid: Grid) -> impl Iterator<Item = Spacing> {
    let of = |key, (x, y): (u32, u32), is_one| Spacing { key, numbers: if is_one { vec![x] } else { vec![x, y] } };
    let (before, gap) = (grid.before, grid.gap);
    // One number is room on all sides, two are room before the first cell.
    let is_around = before == grid.after && before.0 == before.1;
    let both = [of("margin", before, is_around), of("gap", gap, gap.0 == gap.1)];
    both.into_iter().filter(|spacing| spacing.numbers.iter().any(|px| *px > 0))
}

/// How many columns and rows a grid has, and what speaks for it.
fn grid_words(look: &SheetLook, grid: Grid, cutting: &Cutting) -> String {
    let (columns, rows) = grid.cells_in(look.size.0, look.size.1);
    format!("{}, {}{}", counted(columns as usize, "column"), counted(rows as usize, "row"), evidence(cutting))
}

/// Another way to cut a picture.
#[derive(Clone, Debug, PartialEq)]
pub struct OtherCut {
    /// The options that choose it.
    pub options: String,
    /// What it is, and what speaks for it.
    pub words: String,
}

/// The other ways to cut a picture that explain its art about as well, best first.
pub fn other_cuts(look: &SheetLook) -> Vec<OtherCut> {
    let cut = |cutting: &Cutting| {
        let grid = match cutting {
            Cutting::Whole => return OtherCut { options: "--whole".into(), words: "one frame".into() },
            Cutting::Gaps(gap) => {
                let words = "pieces of art parted by transparent gaps".to_string();
                return OtherCut { options: format!("--gaps --gap {gap}"), words };
            }
            Cutting::Guessed(guess) => guess.grid,
            Cutting::Given(grid) => *grid,
        };
        let mut options = format!("--cell {}x{}", grid.cell.0, grid.cell.1);
        for Spacing { key, numbers } in spacings(grid) {
            let numbers: Vec<String> = numbers.iter().map(u32::to_string).collect();
            options += &format!(" --{key} {}", numbers.join(","));
        }
        OtherCut { options, words: grid_words(look, grid, cutting) }
    };
    look.others.iter().map(cut).collect()
}

/// What speaks for a guessed grid, after a comma or semicolon.
pub fn evidence(cutting: &Cutting) -> String {
    match cutting {
        Cutting::Guessed(guess) => match guess.evidence {
            GridEvidence::Alike(iou) => {
                let crossed = if guess.crossed == 0.0 {
                    "no art crosses a border".to_string()
                } else {
                    format!("art crosses {:.0} % of the borders", guess.crossed * 100.0)
                };
                format!("; {crossed}, neighbours agree to IoU {iou:.2}")
            }
            GridEvidence::Lines => "; lines are drawn between them".to_string(),
            GridEvidence::Edges(times) => format!("; colours change {times:.1} times as much at the borders"),
        },
        _ => String::new(),
    }
}

/// A name for an animation from a file's: without the actor's name in front. Numbers alone are called after their folder, or after the
/// actor where that says nothing.
fn animation_name(file: &str, actor: &str) -> String {
    let plain = if is_plain_folder(file) { actor } else { file };
    let name = motion_name(file, actor).unwrap_or_else(|| plain.to_string());
    name.chars().map(|c| if c.is_whitespace() || "/.:,\"".contains(c) { '_' } else { c }).collect()
}

/// Patterns that name just the files of a group, and the files: one pattern where it takes no other file along, else each by
/// its name.
fn pattern(group: &PictureGroup, folder: &Path) -> Result<(Vec<String>, Vec<String>), String> {
    let files: Result<Vec<String>, String> = group.seen.iter().map(|seen| relative(&seen.path, folder)).collect();
    let files = files?;
    let first = files.first().cloned().unwrap_or_default();
    let (start, ending) = first.rsplit_once('.').unwrap_or((&first, "png"));
    let base = start.trim_end_matches(')').trim_end_matches(|c: char| c.is_ascii_digit());
    let escaped = |text: &str| -> String {
        text.chars().flat_map(|c| if "[]*?".contains(c) { vec!['[', c, ']'] } else { vec![c] }).collect()
    };
    // A digit first keeps walk_*.png from taking walk_back_1.png along.
    let pattern = format!("{}[0-9]*.{ending}", escaped(base));
    let seen: BTreeSet<String> = files.iter().map(|file| file.rsplit('/').next().unwrap_or(file).to_string()).collect();
    let own = pattern.rsplit('/').next().unwrap_or(&pattern);
    let beside = group.seen.first().and_then(|seen| seen.path.parent()).map(Path::to_path_buf).unwrap_or_default();
    let beside = if beside.as_os_str().is_empty() { PathBuf::from(".") } else { beside };
    let there = std::fs::read_dir(beside).map_err(|error| error.to_string())?;
    let taken = there.filter_map(|entry| Some(entry.ok()?.file_name().to_string_lossy().into_owned()));
    let taken: BTreeSet<String> = taken.filter(|name| name_matches(own, name)).collect();
    let patterns = if taken == seen { vec![pattern] } else { files.iter().map(|file| escaped(file)).collect() };
    Ok((patterns, files))
}

/// A path as an actor file in the folder writes it.
///
/// # Errors
/// When the picture lies in another place than below the folder or beside it.
pub fn relative(path: &Path, folder: &Path) -> Result<String, String> {
    let real = |path: &Path| -> Result<PathBuf, String> {
        path.canonicalize().map_err(|error| format!("{}: {error}", path.display()))
    };
    let (path, folder) = (real(path)?, real(folder)?);
    let shared = path.components().zip(folder.components()).take_while(|(a, b)| a == b).count();
    let up = folder.components().count() - shared;
    let mut parts: Vec<String> = vec!["..".to_string(); up];
    parts.extend(path.components().skip(shared).filter_map(|part| match part {
        Component::Normal(name) => Some(name.to_string_lossy().into_owned()),
        _ => None,
    }));
    Ok(parts.join("/"))
}
