//! The pixels of frames, fetched when they are wanted: a project's art may be larger than memory.

use crate::images::{Image, read_images};
use crate::problem::Problem;
use finitor_core::art::{Key, PixelRect, View};
use finitor_core::fit::FrameArt;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// A picture file and how it is read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ArtFile {
    /// The file.
    pub path: PathBuf,
    /// Its name as the actor file writes it.
    pub name: String,
    /// What stands for transparent in it.
    pub key: Option<Key>,
    /// Whether several frames come from it, so that it is kept once decoded.
    pub shared: bool,
}

/// Where a frame's pixels come from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FrameSource {
    /// The file.
    pub file: Arc<ArtFile>,
    /// Its part map.
    pub parts: Option<Arc<ArtFile>>,
    /// Which image of the file.
    pub image: usize,
    /// The part of the image; all of it where `None`.
    pub rect: Option<PixelRect>,
}

type Decoded = Result<Arc<Vec<Image>>, String>;
type Held = (Arc<ArtFile>, Arc<OnceLock<Decoded>>);

/// Decodes pictures; files that several frames share are kept as long as the gallery lasts.
#[derive(Debug)]
pub struct Gallery {
    max_mpx: u32,
    held: Mutex<Vec<Held>>,
}

impl Gallery {
    /// An empty gallery that decodes at most this many million pixels from one file.
    pub fn new(max_mpx: u32) -> Gallery {
        Gallery { max_mpx, held: Mutex::default() }
    }

    /// Million pixels decoded from one file at most.
    pub(crate) fn max_mpx(&self) -> u32 {
        self.max_mpx
    }

    /// All images of a file.
    ///
    /// # Errors
    /// The reason in words, without the path.
    pub fn images(&self, file: &Arc<ArtFile>) -> Result<Arc<Vec<Image>>, String> {
        let decode = || {
            let mut images = read_images(&file.path, self.max_mpx)?.images;
            if let Some(key) = file.key {
                images.iter_mut().for_each(|image| image.picture.apply_key(key));
            }
            Ok(Arc::new(images))
        };
        if !file.shared {
            return decode();
        }
        let slot = {
            let mut held = self.held.lock().unwrap_or_else(PoisonError::into_inner);
            match held.iter().find(|(known, _)| known == file) {
                Some((_, slot)) => Arc::clone(slot),
                None => {
                    let slot = Arc::default();
                    held.push((Arc::clone(file), Arc::clone(&slot)));
                    slot
                }
            }
        };
        slot.get_or_init(decode).clone()
    }

    /// Lets go of the files of a source.
    pub fn release(&self, source: &FrameSource) {
        let mut held = self.held.lock().unwrap_or_else(PoisonError::into_inner);
        held.retain(|(known, _)| *known != source.file && Some(known) != source.parts.as_ref());
    }

    /// A frame's pixels and part map.
    ///
    /// # Errors
    /// A [`Problem`] of the picture or of its part map.
    pub fn frame(&self, source: &FrameSource) -> Result<FrameArt, Problem> {
        self.look(source, |picture, parts| FrameArt {
            picture: picture.to_picture(),
            parts: parts.map(|parts| parts.to_picture()),
        })
    }

    /// Looks at a frame's pixels and part map where they are.
    ///
    /// # Errors
    /// A [`Problem`] of the picture or of its part map.
    pub fn look<R>(
        &self,
        source: &FrameSource,
        look: impl FnOnce(View<'_>, Option<View<'_>>) -> R,
    ) -> Result<R, Problem> {
        let images = self.opened(&source.file)?;
        let picture = piece(&images, &source.file, source)?;
        let Some(file) = &source.parts else {
            return Ok(look(picture, None));
        };
        let maps = self.opened(file)?;
        let parts = piece(&maps, file, source)?;
        if (parts.width(), parts.height()) != (picture.width(), picture.height()) {
            let message = format!(
                "the part map is {} x {} px, its picture {} x {}; they must be of one size",
                parts.width(),
                parts.height(),
                picture.width(),
                picture.height()
            );
            return Err(Problem::of_file(&file.path, message));
        }
        Ok(look(picture, Some(parts)))
    }

    fn opened(&self, file: &Arc<ArtFile>) -> Result<Arc<Vec<Image>>, Problem> {
        self.images(file).map_err(|reason| Problem::of_file(&file.path, reason))
    }
}

/// A frame's part of a file's images.
fn piece<'a>(images: &'a [Image], file: &ArtFile, source: &FrameSource) -> Result<View<'a>, Problem> {
    let problem = |reason: String| Problem::of_file(&file.path, reason);
    // A part map of one image serves all images of an animated file.
    let image = if images.len() == 1 { images.first() } else { images.get(source.image) };
    let missing = || problem(format!("has {} images, not {}", images.len(), source.image + 1));
    let picture = &image.ok_or_else(missing)?.picture;
    let Some(rect) = source.rect else {
        return Ok(picture.whole());
    };
    picture.view(rect).ok_or_else(|| {
        let (width, height) = (picture.width(), picture.height());
        let PixelRect { x, y, width: w, height: h } = rect;
        problem(format!("is {width} x {height} px and does not hold the cell at {x}, {y} of {w} x {h} px"))
    })
}
