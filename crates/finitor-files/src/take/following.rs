//! A take that is still being written.

use super::{TakeInFile, TakeReader};
use crate::problem::{Problem, Problems};
use finitor_core::actor::Actor;
use std::fs::{File, Metadata};
use std::io::{self, Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

/// How long to wait for more before looking again.
const PAUSE: Duration = Duration::from_millis(20);

/// What becomes of a file that is followed.
#[derive(Clone, Debug, Default)]
pub struct Follow {
    stop: Arc<AtomicBool>,
    cut: Arc<AtomicBool>,
}

impl Follow {
    /// Ends what follows at what is there by now.
    pub fn stop(&self) {
        self.stop.store(true, Ordering::SeqCst);
    }

    /// Whether it was stopped.
    pub fn is_stopped(&self) -> bool {
        self.stop.load(Ordering::SeqCst)
    }

    /// Waits until something is there, or it is stopped.
    pub fn wait_for(&self, is_there: impl Fn() -> bool) {
        while !is_there() && !self.is_stopped() {
            std::thread::sleep(PAUSE);
        }
    }

    /// Whether the file was cut back, or another was put in its place, since this was asked last.
    pub fn was_cut(&self) -> bool {
        self.cut.swap(false, Ordering::SeqCst)
    }
}

impl<'a> TakeReader<'a> {
    /// Opens a take that is still being written: reading waits for more until it is stopped or the file is cut back.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn follow(
        path: &Path,
        actors: &'a [Actor],
        flip: Option<f64>,
        follow: &Follow,
    ) -> Result<TakeReader<'a>, Problems> {
        if let Some(TakeInFile { file, take }) = TakeInFile::of(path) {
            let reader = TakeReader::follow(&file, actors, flip, follow)?;
            return Ok(TakeReader { only: Some(take), ..reader });
        }
        let file = Following::open(path, follow);
        let file = file.map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
        TakeReader::of(path, Box::new(file), actors, flip)
    }

    /// Opens what is there by now of a take that is still being written: up to its last whole row.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn so_far(path: &Path, actors: &'a [Actor], flip: Option<f64>) -> Result<TakeReader<'a>, Problems> {
        if let Some(TakeInFile { file, take }) = TakeInFile::of(path) {
            let reader = TakeReader::so_far(&file, actors, flip)?;
            return Ok(TakeReader { only: Some(take), ..reader });
        }
        let file = whole_rows(path);
        let file = file.map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
        TakeReader::of(path, Box::new(file), actors, flip)
    }
}

/// A file whose end is where nothing more was written yet.
struct Following {
    path: PathBuf,
    file: File,
    at: u64,
    /// What was read last: where the file holds something else there, it was written anew.
    tail: Vec<u8>,
    follow: Follow,
}

impl Following {
    /// Opens a file.
    fn open(path: &Path, follow: &Follow) -> io::Result<Following> {
        let file = File::open(path)?;
        Ok(Following { path: path.to_path_buf(), file, at: 0, tail: Vec::new(), follow: follow.clone() })
    }

    /// Whether the file at the path is not the one that is read, is shorter than what was read of it, or holds something else
    /// there.
    fn is_cut(&mut self) -> io::Result<bool> {
        let Ok(there) = std::fs::metadata(&self.path) else { return Ok(false) };
        if there.len() < self.at || self.file.metadata().is_ok_and(|own| is_other(&own, &there)) {
            return Ok(true);
        }
        let mut again = vec![0; self.tail.len()];
        self.file.seek(SeekFrom::Start(self.at - again.len() as u64))?;
        match self.file.read_exact(&mut again) {
            Ok(()) => Ok(again != self.tail),
            // It became shorter just now.
            Err(error) if error.kind() == std::io::ErrorKind::UnexpectedEof => Ok(true),
            Err(error) => Err(error),
        }
    }

    fn keep_tail(&mut self, read: &[u8]) {
        /// Enough to tell two takes apart: a row or two.
        const KEPT: usize = 128;
        self.tail.extend_from_slice(&read[read.len().saturating_sub(KEPT)..]);
        let most = self.tail.len().saturating_sub(KEPT);
        self.tail.drain(..most);
    }
}

#[cfg(unix)]
fn is_other(one: &Metadata, other: &Metadata) -> bool {
    use std::os::unix::fs::MetadataExt;
    (one.dev(), one.ino()) != (other.dev(), other.ino())
}

#[cfg(not(unix))]
fn is_other(one: &Metadata, other: &Metadata) -> bool {
    one.created().ok() != other.created().ok()
}

impl Read for Following {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        loop {
            if self.is_cut()? {
                self.follow.cut.store(true, Ordering::SeqCst);
                return Ok(0);
            }
            let count = self.file.read(into)?;
            self.at += count as u64;
            self.keep_tail(&into[..count]);
            if count > 0 || into.is_empty() || self.follow.is_stopped() {
                return Ok(count);
            }
            std::thread::sleep(PAUSE);
        }
    }
}

/// A file up to its last end of a line.
fn whole_rows(path: &Path) -> io::Result<impl Read + Send + use<>> {
    /// Rows are shorter, as a rule; of longer ones several such pieces are looked at.
    const PIECE: u64 = 4096;
    let mut file = File::open(path)?;
    let mut end = file.metadata()?.len();
    let mut piece = Vec::new();
    while end > 0 {
        let from = end.saturating_sub(PIECE);
        file.seek(SeekFrom::Start(from))?;
        piece.clear();
        file.by_ref().take(end - from).read_to_end(&mut piece)?;
        if let Some(at) = piece.iter().rposition(|byte| *byte == b'\n') {
            end = from + at as u64 + 1;
            break;
        }
        end = from;
    }
    file.seek(SeekFrom::Start(0))?;
    Ok(file.take(end))
}
