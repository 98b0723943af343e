//! Looking at pictures before there is an actor file: what each holds, and which belong together.

use crate::picture_names::{PictureName, lettered, picture_name};
use finitor_core::art::{Cutting, LookWishes, Mask, Run, SheetLook, Stance, look, stance};
use finitor_files::{Image, Problem, Problems, Progress, natural_order, read_images};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// A picture and what it shows.
pub struct SeenPicture {
    /// The file.
    pub path: PathBuf,
    /// How the file holds its pixels.
    pub written_as: String,
    /// What it is.
    pub what: What,
    /// A part map lying beside it.
    pub parts: Option<PathBuf>,
}

/// What a picture is.
pub enum What {
    /// Frames side by side, or one frame.
    Sheet(SheetLook),
    /// One frame of several files that make one animation.
    Frame(SheetLook),
    /// An animated file.
    Animated {
        /// Width and height.
        size: (u32, u32),
        /// The runs of opaque pixels, image by image.
        runs: Vec<Vec<Run>>,
        /// Seconds of each image.
        delays: Vec<f64>,
    },
}

impl SeenPicture {
    /// Frames with art in it.
    pub fn frames(&self) -> usize {
        match &self.what {
            What::Sheet(look) | What::Frame(look) => look.cells.iter().filter(|cell| !cell.is_empty()).count(),
            What::Animated { runs, .. } => runs.len(),
        }
    }

    /// Whether the cells asked for do not fit into it.
    pub fn has_no_cell(&self) -> bool {
        match &self.what {
            What::Sheet(look) => matches!(look.cutting, Cutting::Given(_)) && look.cells.is_empty(),
            What::Frame(_) | What::Animated { .. } => false,
        }
    }

    /// The longer side of its cells, px.
    pub fn longest_side(&self) -> u32 {
        match &self.what {
            What::Sheet(look) | What::Frame(look) => {
                look.cells.iter().map(|cell| cell.rect.width.max(cell.rect.height)).max().unwrap_or(0)
            }
            What::Animated { size, .. } => size.0.max(size.1),
        }
    }
}

/// Pictures that make one strip of frames, or one sheet.
pub struct PictureGroup {
    /// `walk` for walk_01.png, walk_02.png; the file's name without its ending for others.
    pub name: String,
    /// Its pictures, in order.
    pub seen: Vec<SeenPicture>,
}

impl PictureGroup {
    /// Whether it is a row of files, a frame each.
    pub fn is_files(&self) -> bool {
        matches!(self.seen.first().map(|seen| &seen.what), Some(What::Frame(_)))
    }
}

/// Part maps lie beside the art and are not art themselves.
fn is_part_map(path: &Path) -> bool {
    path.file_name().is_some_and(|name| name.to_string_lossy().contains(".parts."))
}

/// The names of pictures, in their order: frames by numbers, and by letters where one of them is `a`.
fn names_of(paths: &[&PathBuf]) -> Vec<PictureName> {
    let mut letters: BTreeMap<(Option<&Path>, String), Vec<char>> = BTreeMap::new();
    for path in paths {
        if let Some((base, letter)) = lettered(path) {
            letters.entry((path.parent(), base)).or_default().push(letter);
        }
    }
    let are_frames = |all: &Vec<char>| all.len() > 1 && all.contains(&'a');
    let by_letter = |path: &Path| {
        let (base, _) = lettered(path)?;
        let all = letters.get(&(path.parent(), base.clone()))?;
        are_frames(all).then_some(PictureName { base, is_frame: true })
    };
    paths.iter().map(|path| by_letter(path).unwrap_or_else(|| picture_name(path))).collect()
}

/// Looks at pictures, on all threads of the pool; those of one name and folder that are numbered, or have letters, make one
/// animation when there are several.
///
/// # Errors
/// Every picture that cannot be read.
pub fn gather(
    paths: &[PathBuf],
    wishes: &LookWishes,
    max_mpx: u32,
    progress: &dyn Progress,
) -> Result<Vec<PictureGroup>, Problems> {
    progress.expect(paths.len());
    let art: Vec<&PathBuf> = paths.iter().filter(|path| !is_part_map(path) || paths.len() == 1).collect();
    let mut groups: Vec<(String, bool, Vec<&PathBuf>)> = Vec::new();
    for (PictureName { base, is_frame: numbered }, path) in names_of(&art).into_iter().zip(art) {
        let joins = |group: &&mut (String, bool, Vec<&PathBuf>)| {
            group.1 && numbered && group.0 == base && group.2[0].parent() == path.parent()
        };
        match groups.iter_mut().find(joins) {
            Some(group) => group.2.push(path),
            None => groups.push((base, numbered, vec![path])),
        }
    }
    let mut problems = Problems::default();
    let mut found = Vec::new();
    for (name, _, mut files) in groups {
        files.sort_by(|a, b| natural_order(&a.to_string_lossy(), &b.to_string_lossy()));
        let several = files.len() > 1;
        let looked: Vec<Result<SeenPicture, Problems>> = files
            .par_iter()
            .map(|path| {
                let seen = see(path, several, wishes, max_mpx);
                progress.done(1);
                seen
            })
            .collect();
        let seen: Vec<SeenPicture> = looked.into_iter().filter_map(|seen| problems.take(seen)).collect();
        // An animated file among numbered ones stands for itself.
        let (frames, alone): (Vec<SeenPicture>, Vec<SeenPicture>) =
            seen.into_iter().partition(|seen| several && matches!(seen.what, What::Frame(_)));
        if !frames.is_empty() {
            found.push(PictureGroup { name: name.clone(), seen: frames });
        }
        for seen in alone {
            let name = seen.path.file_stem().map_or_else(|| name.clone(), |stem| stem.to_string_lossy().into_owned());
            found.push(PictureGroup { name, seen: vec![seen] });
        }
    }
    if wishes.cutting.is_none() {
        keep_siblings_whole(&mut found);
    }
    problems.or(found)
}

/// A picture as large as others of its folder, most of which are one frame, is one frame too.
fn keep_siblings_whole(groups: &mut [PictureGroup]) {
    /// With this many pictures of a size a folder says what they are.
    const SIBLINGS: usize = 3;
    /// Of pictures of one size in one folder.
    #[derive(Default)]
    struct Siblings {
        all: usize,
        whole: usize,
    }
    let mut siblings: BTreeMap<(Option<PathBuf>, Size), Siblings> = BTreeMap::new();
    let key = |path: &Path, look: &SheetLook| (path.parent().map(Path::to_path_buf), look.size);
    for seen in groups.iter().flat_map(|group| &group.seen) {
        let What::Sheet(look) = &seen.what else { continue };
        let of = siblings.entry(key(&seen.path, look)).or_default();
        of.all += 1;
        of.whole += usize::from(look.cutting == Cutting::Whole);
    }
    for seen in groups.iter_mut().flat_map(|group| &mut group.seen) {
        let What::Sheet(look) = &mut seen.what else { continue };
        let are_whole = |of: &Siblings| of.all >= SIBLINGS && 2 * of.whole > of.all;
        if look.cutting != Cutting::Whole && siblings.get(&key(&seen.path, look)).is_some_and(are_whole) {
            *look = look.as_one_frame();
        }
    }
}

fn see(path: &Path, frame: bool, wishes: &LookWishes, max_mpx: u32) -> Result<SeenPicture, Problems> {
    let read = read_images(path, max_mpx).map_err(|reason| Problem::of_file(path, reason))?;
    let what = match read.images.as_slice() {
        [one] if frame => What::Frame(look(&one.picture, &LookWishes { cutting: Some(Cutting::Whole), ..*wishes })),
        [one] => What::Sheet(look(&one.picture, wishes)),
        several => animated(several, wishes),
    };
    Ok(SeenPicture { path: path.to_path_buf(), written_as: read.written_as, what, parts: part_map(path) })
}

fn animated(images: &[Image], wishes: &LookWishes) -> What {
    let art = |image: &Image| -> Mask {
        let mut picture = image.picture.clone();
        if let Some(key) = wishes.key {
            picture.apply_key(key);
        }
        let opaque = picture.opaque(wishes.alpha);
        if opaque.is_empty() { picture.opaque(1) } else { opaque }
    };
    let size = images.first().map_or((0, 0), |image| (image.picture.width(), image.picture.height()));
    let runs = images.iter().map(|image| art(image).runs()).collect();
    What::Animated { size, runs, delays: images.iter().map(|image| image.delay).collect() }
}

/// `keeper.parts.png` beside `keeper.png`.
pub fn part_map(path: &Path) -> Option<PathBuf> {
    let ending = path.extension()?.to_string_lossy().into_owned();
    let parts = path.with_extension(format!("parts.{ending}"));
    (parts.is_file() && !is_part_map(path)).then_some(parts)
}

/// Frames that share a canvas, and where the figure stands on it.
pub struct Canvas {
    /// Width and height.
    pub size: (u32, u32),
    /// The runs of opaque pixels, frame by frame.
    pub frames: Vec<Vec<Run>>,
    /// Where the figure stands.
    pub stance: Option<Stance>,
}

/// The canvases of groups, by size in the order they come; frames cut by gaps share none. By group: the place of its
/// canvas.
pub fn canvases(groups: &[PictureGroup]) -> (Vec<Canvas>, Vec<Option<usize>>) {
    let mut canvases: Vec<Canvas> = Vec::new();
    let mut places = Vec::new();
    for group in groups {
        let Some((size, frames)) = shared(group) else {
            places.push(None);
            continue;
        };
        let place = canvases.iter().position(|known| known.size == size).unwrap_or_else(|| {
            canvases.push(Canvas { size, frames: Vec::new(), stance: None });
            canvases.len() - 1
        });
        canvases[place].frames.extend(frames);
        places.push(Some(place));
    }
    for canvas in &mut canvases {
        canvas.stance = stance(&canvas.frames, canvas.size.0);
    }
    (canvases, places)
}

/// Width and height, px.
type Size = (u32, u32);

/// The size that all frames of a group have, and their art.
fn shared(group: &PictureGroup) -> Option<(Size, Vec<Vec<Run>>)> {
    let mut size = None;
    let mut frames = Vec::new();
    for seen in &group.seen {
        let own = match &seen.what {
            What::Animated { size, runs, .. } => {
                frames.extend(runs.iter().filter(|runs| !runs.is_empty()).cloned());
                *size
            }
            What::Sheet(look) | What::Frame(look) => {
                if matches!(look.cutting, Cutting::Gaps(_)) {
                    return None;
                }
                let used = look.cells.iter().filter(|cell| !cell.is_empty());
                frames.extend(used.map(|cell| cell.solid.clone()));
                look.cells.first().map_or(look.size, |cell| (cell.rect.width, cell.rect.height))
            }
        };
        if size.is_some_and(|size| size != own) {
            return None;
        }
        size = Some(own);
    }
    size.map(|size| (size, frames))
}
