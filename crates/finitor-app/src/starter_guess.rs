//! From pictures looked at to a starter actor file.

use crate::picture_groups::{Canvas, PictureGroup, What, canvases};
use finitor_core::art::{Background, Cutting, GridEvidence, Key, Mask, Run, SheetLook};
use finitor_core::fit::{Exact, FitGoal, Fitting, Kind, Sides, fit_shape};
use finitor_files::{Starter, StarterAnimation, StarterBody, StarterFrames, StarterPivot, StarterSheet, counted};
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
    let body = match first {
        Some(place) if places.iter().all(|other| *other == first) => body(&canvases[place]),
        _ => StarterBody::Fitted,
    };
    let (actor, layer) = (naming.actor.to_string(), naming.layer.to_string());
    Ok(Starter { actor, pivot: pivot_of(first), sheets, animations, body, layer })
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
    /// Whether the art of all frames ends on the line that the figure stands on.
    fn stands<'r>(&self, frames: impl Iterator<Item = &'r Vec<Run>>) -> bool {
        let ground = self.canvas.and_then(|canvas| canvas.stance.as_ref()).map(|stance| stance.pivot.y);
        let mut bottoms = frames.map(|runs| runs.last().map(|run| f64::from(run.row + 1))).peekable();
        ground.is_some() && bottoms.peek().is_some() && bottoms.all(|bottom| bottom == ground)
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
    fn add(&mut self, animation: StarterAnimation) {
        let taken = self.animations.iter().any(|known| known.name == animation.name);
        let name = if taken { format!("{}_{}", animation.name, self.animations.len()) } else { animation.name };
        self.animations.push(StarterAnimation { name, ..animation });
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
                let standing = placed.stands(runs.iter());
                self.add(StarterAnimation { name: named(), guessed: false, frames, pivot, standing });
            }
            What::Frame(_) => {
                let (pattern, files) = pattern(group, naming.folder)?;
                let runs = group.seen.iter().filter_map(|seen| match &seen.what {
                    What::Frame(look) => look.cells.first().map(|cell| &cell.runs),
                    _ => None,
                });
                let (frames, standing) = (StarterFrames::Files(pattern, files), placed.stands(runs));
                self.add(StarterAnimation { name: named(), guessed: false, frames, pivot, standing });
            }
            What::Sheet(look) => {
                let image = relative(&seen.path, naming.folder)?;
                let parts = seen.parts.as_ref().map(|parts| relative(parts, naming.folder)).transpose()?;
                let (cut, why) = cut(look, naming.key);
                let name = if self.is_alone { "main".to_string() } else { group.name.clone() };
                self.sheets.push(StarterSheet { name, image, cut, why, parts });
                self.add_rows(look, placed, &named());
            }
        }
        Ok(())
    }

    /// The rows of the sheet added last. Cells of gaps are numbered without empty ones, as those of a grid are with them.
    fn add_rows(&mut self, look: &SheetLook, placed: &Placed<'_>, named: &str) {
        for (index, row) in look.rows.iter().enumerate() {
            let (name, guessed) = match self.names.next() {
                Some(name) => (name.clone(), false),
                None if look.rows.len() == 1 && !self.is_alone => (named.to_string(), false),
                None if look.cells.len() == 1 => ("still".to_string(), true),
                None => (format!("row_{}", index + 1), true),
            };
            let frames = StarterFrames::Cells(self.sheets.len() - 1, row.iter().map(|cell| *cell as u32).collect());
            let standing = placed.stands(row.iter().map(|cell| &look.cells[*cell].runs));
            self.add(StarterAnimation { name, guessed, frames, pivot: placed.pivot.clone(), standing });
        }
    }
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

/// The body that most standing frames share: the box that agrees best with the pixels opaque in half of them or more.
fn body(canvas: &Canvas) -> StarterBody {
    let Some(stance) = &canvas.stance else {
        return StarterBody::Fitted;
    };
    let (width, height) = canvas.size;
    let standing: Vec<&Vec<Run>> =
        canvas.frames.iter().zip(&stance.standing).filter(|(_, stands)| **stands).map(|(runs, _)| runs).collect();
    let mut counts = vec![0_u32; width as usize * height as usize];
    for run in standing.iter().flat_map(|runs| runs.iter()) {
        let row = run.row as usize * width as usize;
        counts[row + run.start as usize..row + run.end as usize].iter_mut().for_each(|count| *count += 1);
    }
    let half = standing.len().div_ceil(2) as u32;
    let often = Mask::from_fn(width, height, |x, y| counts[y as usize * width as usize + x as usize] >= half);
    let sides = Sides { bottom: Some(stance.pivot.y), ..Sides::default() };
    let fitting = Fitting { goal: FitGoal::Balance, sides, ..Fitting::of(Kind::Box) };
    match fit_shape(&often.filled(), &fitting).map(|geometry| geometry.exact) {
        Ok(Some(Exact::Box([x, y, width, height]))) => {
            let (left, top) = (x.round(), y.round());
            let (right, bottom) = ((x + width).round(), y + height);
            StarterBody::Box([left, top, (right - left).max(1.0), (bottom - top).max(1.0)])
        }
        _ => StarterBody::Fitted,
    }
}

/// The keys that cut a sheet as it was looked at, and why.
fn cut(look: &finitor_core::art::SheetLook, key: Option<Key>) -> (Vec<(&'static str, String)>, String) {
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
                let pair = |(x, y): (u32, u32)| if x == y { x.to_string() } else { format!("[{x}, {y}]") };
                if grid.before != (0, 0) {
                    // One number is room on all sides, two are room before the first cell.
                    let around = grid.before == grid.after && grid.before.0 == grid.before.1;
                    let both = format!("[{}, {}]", grid.before.0, grid.before.1);
                    keys.push(("margin", if around { grid.before.0.to_string() } else { both }));
                }
                if grid.gap != (0, 0) {
                    keys.push(("gap", pair(grid.gap)));
                }
                let (columns, rows) = grid.cells_in(look.size.0, look.size.1);
                why = format!(
                    "{}, {}{}",
                    counted(columns as usize, "column"),
                    counted(rows as usize, "row"),
                    evidence(&look.cutting)
                );
            }
        }
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
            GridEvidence::Edges(times) => format!("; colours change {times:.1} times as much at the borders"),
        },
        _ => String::new(),
    }
}

/// A name for an animation from a file's: without the actor's name in front.
fn animation_name(file: &str, actor: &str) -> String {
    let rest = file.strip_prefix(actor).map(|rest| rest.trim_start_matches(['_', '-', ' ', '.']));
    let name = rest.filter(|rest| !rest.is_empty()).unwrap_or(file);
    name.chars().map(|c| if c.is_whitespace() || "/.:,\"".contains(c) { '_' } else { c }).collect()
}

/// A pattern that names just the files of a group, or the first file's name where none does.
fn pattern(group: &PictureGroup, folder: &Path) -> Result<(String, Vec<String>), String> {
    let files: Result<Vec<String>, String> = group.seen.iter().map(|seen| relative(&seen.path, folder)).collect();
    let files = files?;
    let first = files.first().cloned().unwrap_or_default();
    let (start, ending) = first.rsplit_once('.').unwrap_or((&first, "png"));
    let base = start.trim_end_matches(|c: char| c.is_ascii_digit());
    // A digit first keeps walk_*.png from taking walk_back_1.png along.
    let escaped: String =
        base.chars().flat_map(|c| if "[]*?".contains(c) { vec!['[', c, ']'] } else { vec![c] }).collect();
    Ok((format!("{escaped}[0-9]*.{ending}"), files))
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
