//! Numbers of a take as the page reads them: bytes of differences and of runs, in base64.
//!
//! A number takes one byte for each 7 of its bits, the lowest first; the eighth bit says that more follow. Signed numbers go as
//! 0, -1, 1, -2, ...: what is near 0 stays short. See [the page's reader](../../../finitor-draw/src/replay/columns.js).

use base64::Engine;
use serde::{Serialize, Serializer};

/// Bytes that are written as base64.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(super) struct Bytes(Vec<u8>);

impl Bytes {
    fn number(&mut self, mut number: u64) {
        while number >= 0x80 {
            self.0.push(number as u8 | 0x80);
            number >>= 7;
        }
        self.0.push(number as u8);
    }
}

impl Serialize for Bytes {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(&base64::engine::general_purpose::STANDARD.encode(&self.0))
    }
}

/// A column of numbers that change little from one to the next.
#[derive(Clone, Debug, Default)]
pub(super) struct Differences {
    bytes: Bytes,
    last: i64,
}

impl Differences {
    pub(super) fn push(&mut self, number: i64) {
        let by = number.wrapping_sub(self.last);
        self.bytes.number((by.wrapping_shl(1) ^ (by >> 63)) as u64);
        self.last = number;
    }

    pub(super) fn finish(self) -> Bytes {
        self.bytes
    }
}

/// A column of numbers that stay the same for long: each with how often it comes.
#[derive(Clone, Debug, Default)]
pub(super) struct Runs {
    bytes: Bytes,
    open: Option<Run>,
}

#[derive(Clone, Copy, Debug)]
struct Run {
    number: u64,
    count: u64,
}

impl Runs {
    pub(super) fn push(&mut self, number: u64) {
        match &mut self.open {
            Some(run) if run.number == number => run.count += 1,
            _ => {
                self.close();
                self.open = Some(Run { number, count: 1 });
            }
        }
    }

    fn close(&mut self) {
        if let Some(Run { number, count }) = self.open.take() {
            self.bytes.number(number);
            self.bytes.number(count);
        }
    }

    pub(super) fn finish(mut self) -> Bytes {
        self.close();
        self.bytes
    }
}

/// Numbers that rise, as gaps and how many follow each other without one.
#[derive(Clone, Debug, Default)]
pub(super) struct Rising {
    bytes: Bytes,
    next: u64,
    /// The open stretch.
    from: u64,
}

impl Rising {
    /// Adds a number, which is larger than all before.
    pub(super) fn push(&mut self, number: u64) {
        if number != self.next {
            self.close();
            self.bytes.number(number - self.next);
            self.from = number;
        } else if self.bytes.0.is_empty() {
            self.bytes.number(0);
        }
        self.next = number + 1;
    }

    fn close(&mut self) {
        if !self.bytes.0.is_empty() {
            self.bytes.number(self.next - self.from);
        }
    }

    pub(super) fn finish(mut self) -> Bytes {
        self.close();
        self.bytes
    }
}

#[cfg(test)]
mod tests {
    use super::{Bytes, Differences, Rising, Runs};

    /// Reads numbers back, as the page does.
    fn numbers(bytes: &Bytes) -> Vec<u64> {
        let (mut all, mut open, mut shift) = (Vec::new(), 0, 0);
        for byte in &bytes.0 {
            open |= u64::from(byte & 0x7f) << shift;
            shift += 7;
            if byte & 0x80 == 0 {
                all.push(open);
                (open, shift) = (0, 0);
            }
        }
        all
    }

    #[test]
    fn columns_read_back_to_what_was_written() {
        let places = [0, 5, 4, -3, 1_000_000_000_000, -1_000_000_000_000, i64::MAX, i64::MIN, 7];
        let mut column = Differences::default();
        places.iter().for_each(|at| column.push(*at));
        let mut last = 0_i64;
        let read: Vec<i64> = numbers(&column.finish())
            .into_iter()
            .map(|code| {
                last = last.wrapping_add((code >> 1) as i64 ^ -((code & 1) as i64));
                last
            })
            .collect();
        assert_eq!(read, places);

        let mut runs = Runs::default();
        [7, 7, 7, 0, 200, 200].iter().for_each(|number| runs.push(*number));
        assert_eq!(numbers(&runs.finish()), [7, 3, 0, 1, 200, 2]);
        assert!(numbers(&Runs::default().finish()).is_empty());

        for ticks in [vec![0, 1, 2], vec![3, 4, 9, 10, 11, 20], vec![5], vec![0, 7], Vec::new()] {
            let mut rising = Rising::default();
            ticks.iter().for_each(|tick| rising.push(*tick));
            let (mut read, mut next) = (Vec::new(), 0);
            for pair in numbers(&rising.finish()).chunks(2) {
                next += pair[0];
                read.extend(next..next + pair[1]);
                next += pair[1];
            }
            assert_eq!(read, ticks);
        }
    }
}
