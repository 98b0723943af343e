//! Reading in a thread of its own, while what was read before is worked on.

use super::{TakeRead, TakeReader};
use crate::problem::Problems;
use finitor_core::Point;
use finitor_core::actor::ActorIndex;
use finitor_core::take::Sample;
use std::ops::ControlFlow;
use std::sync::mpsc::{Receiver, Sender, channel};

/// Samples handed on at a time.
const BATCH: usize = 256;

/// Batches that are on their way: one read, one worked on, and one between.
const BATCHES: usize = 3;

/// Ticks and ends of takes, in their order, copied out of the reader.
#[derive(Default)]
struct Batch {
    reads: Vec<Read>,
    takes: Vec<String>,
    samples: Vec<Sample>,
    used: usize,
}

/// One of them.
#[derive(Clone, Copy)]
struct Read {
    /// Which of the batch's takes.
    take: usize,
    /// The tick, and how many samples it has; `None` for the end of the take.
    tick: Option<(u64, usize)>,
}

impl Batch {
    fn clear(&mut self) {
        self.reads.clear();
        self.takes.clear();
        self.used = 0;
    }

    fn push(&mut self, read: &TakeRead<'_>) {
        let (TakeRead::Tick { take, .. } | TakeRead::End { take }) = read;
        if self.takes.last().is_none_or(|last| last != take) {
            self.takes.push((*take).to_string());
        }
        let mut tick = None;
        if let TakeRead::Tick { tick: at, samples, .. } = read {
            tick = Some((*at, samples.len()));
            for sample in *samples {
                if self.used == self.samples.len() {
                    self.samples.push(Sample::new(String::new(), ActorIndex(0), Point::ZERO));
                }
                self.samples[self.used].copy_from(sample);
                self.used += 1;
            }
        }
        self.reads.push(Read { take: self.takes.len() - 1, tick });
    }

    fn each<E>(&self, each: &mut impl FnMut(TakeRead<'_>) -> Result<(), E>) -> Result<(), E> {
        let mut samples = self.samples.as_slice();
        for Read { take, tick } in &self.reads {
            let take = &self.takes[*take];
            match *tick {
                Some((tick, count)) => {
                    let (now, rest) = samples.split_at(count);
                    samples = rest;
                    each(TakeRead::Tick { take, tick, samples: now })?;
                }
                None => each(TakeRead::End { take })?,
            }
        }
        Ok(())
    }
}

impl TakeReader<'_> {
    /// Reads all that is left, and hands it on as it comes.
    ///
    /// # Errors
    /// Those of [`TakeReader::next`], and the first of `each`.
    pub fn each<E: From<Problems>>(mut self, mut each: impl FnMut(TakeRead<'_>) -> Result<(), E>) -> Result<(), E> {
        while let Some(read) = self.next()? {
            each(read)?;
        }
        Ok(())
    }

    /// The same with a thread that reads ahead. What is handed on is the same, in the same order.
    ///
    /// # Errors
    /// Those of [`TakeReader::each`].
    pub fn each_ahead<E: From<Problems>>(self, mut each: impl FnMut(TakeRead<'_>) -> Result<(), E>) -> Result<(), E> {
        std::thread::scope(|scope| {
            let (full, read) = channel();
            let (done, empty) = channel();
            (0..BATCHES).for_each(|_| drop(done.send(Batch::default())));
            let reading = scope.spawn(move || self.fill(&empty, &full));
            for batch in &read {
                batch.each(&mut each)?;
                // Where all is read nobody wants it back.
                drop(done.send(batch));
            }
            let read = reading.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic));
            Ok(read?)
        })
    }

    /// Fills batches until all is read or nobody wants more.
    fn fill(mut self, empty: &Receiver<Batch>, full: &Sender<Batch>) -> Result<(), Problems> {
        for mut batch in empty {
            batch.clear();
            let more = loop {
                match self.next()? {
                    None => break ControlFlow::Break(()),
                    Some(read) => batch.push(&read),
                }
                if batch.used >= BATCH {
                    break ControlFlow::Continue(());
                }
            };
            if full.send(batch).is_err() || more.is_break() {
                break;
            }
        }
        Ok(())
    }
}
