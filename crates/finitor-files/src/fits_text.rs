//! The text of a fits file: one line a shape, so that a change of one shape is a change of one line.

use crate::fits_json::{FitsFile, FrameFits, is_zero};
use crate::problem::Problems;
use crate::write::write_atomically;
use rayon::prelude::*;
use serde::Serialize;
use std::collections::BTreeMap;
use std::path::Path;

/// The text of a fits file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FitsText {
    /// It, in UTF-8.
    pub bytes: Vec<u8>,
}

impl FitsText {
    /// Writes the file.
    ///
    /// # Errors
    /// The path and the system's reason; the old file is then still there.
    pub fn write(&self, path: &Path) -> Result<(), Problems> {
        write_atomically(path, &self.bytes)
    }
}

impl FitsFile {
    /// The file's text.
    ///
    /// # Errors
    /// Those of the JSON writer.
    pub fn text(&self) -> serde_json::Result<FitsText> {
        self.text_with(&self.frame_lines()?)
    }

    /// The file's text, of which the lines of its frames are known.
    pub(crate) fn text_with(&self, frames: &[u8]) -> serde_json::Result<FitsText> {
        let mut text = Vec::from(b"{\"schema\": ");
        serde_json::to_writer(&mut text, &self.schema)?;
        text.extend_from_slice(b", \"actor\": ");
        serde_json::to_writer(&mut text, &self.actor)?;
        if let Some(settled) = &self.settled {
            text.extend_from_slice(b", \"settled\": ");
            serde_json::to_writer(&mut text, settled)?;
        }
        text.extend_from_slice(b", \"frames\": [\n");
        text.extend_from_slice(frames);
        Ok(FitsText { bytes: text })
    }

    /// All of the text after its first line.
    pub(crate) fn frame_lines(&self) -> serde_json::Result<Vec<u8>> {
        /// Frames that a thread writes in one go.
        const AT_ONCE: usize = 64;
        let chunks = self.frames.par_chunks(AT_ONCE).map(|frames| {
            let mut lines = Vec::new();
            for frame in frames {
                lines.extend_from_slice(b",\n ");
                frame.write_lines(&mut lines)?;
            }
            Ok(lines)
        });
        let chunks: Vec<Vec<u8>> = chunks.collect::<serde_json::Result<_>>()?;
        let mut lines = Vec::with_capacity(chunks.iter().map(Vec::len).sum::<usize>() + 4);
        for chunk in &chunks {
            // The first frame comes after no other.
            let before = if lines.is_empty() { b",\n".len() } else { 0 };
            lines.extend_from_slice(&chunk[before..]);
        }
        lines.extend_from_slice(if lines.is_empty() { b"]}\n" } else { b"\n]}\n" });
        Ok(lines)
    }
}

impl FrameFits {
    fn write_lines(&self, text: &mut Vec<u8>) -> serde_json::Result<()> {
        serde_json::to_writer(&mut *text, &FrameHead::of(self))?;
        // Its shapes stand in the same braces, a line each.
        text.pop();
        text.extend_from_slice(b",\"shapes\":[");
        for (i, shape) in self.shapes.iter().enumerate() {
            text.extend_from_slice(if i == 0 { b"\n  " } else { b",\n  " });
            serde_json::to_writer(&mut *text, shape)?;
        }
        text.extend_from_slice(b"]}");
        Ok(())
    }
}

/// A frame without its shapes, as it is written; the keys of [`FrameFits`].
#[derive(Serialize)]
struct FrameHead<'f> {
    animation: &'f str,
    frame: usize,
    image: &'f str,
    #[serde(skip_serializing_if = "is_zero")]
    image_number: usize,
    rect: [u32; 4],
    pivot: [f64; 2],
    ticks: u32,
    faces: &'f str,
    art: &'f str,
    #[serde(skip_serializing_if = "str::is_empty")]
    seen: &'f str,
    anchors: &'f BTreeMap<String, [f64; 2]>,
}

impl FrameHead<'_> {
    fn of(frame: &FrameFits) -> FrameHead<'_> {
        let FrameFits {
            animation,
            frame,
            image,
            image_number,
            rect,
            pivot,
            ticks,
            faces,
            art,
            seen,
            anchors,
            shapes: _,
        } = frame;
        let (frame, image_number, rect, pivot, ticks) = (*frame, *image_number, *rect, *pivot, *ticks);
        FrameHead { animation, frame, image, image_number, rect, pivot, ticks, faces, art, seen, anchors }
    }
}
