//! An imprint in few letters: what each run has in common with the row above it.

use super::{Imprint, NOTHING};

/// Six bits a letter.
const LETTERS: &[u8; 64] = b"ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_";
/// Bits of a mark.
const MARK_BITS: u32 = 12;
/// How many changes of the row above are passed over before a length is written in full.
const MOST_PASSED: usize = 3;
/// Numbers are written with at least as many bits behind their length: of palettes, of marks and of lengths.
const PALETTE: u32 = 3;
const RANK: u32 = 1;
const LENGTH: u32 = 1;

/// The runs so far and what they let expect; kept alike by who writes and who reads.
struct Runs {
    width: u32,
    total: u32,
    /// Where each run ends, and its mark.
    runs: Vec<(u32, u16)>,
    /// The run over the next one's first pixel: the first whose end lies over a pixel to come.
    above: usize,
    /// All marks, the latest first.
    recent: Vec<u16>,
    /// The mark that the row above lets expect, unless it is the last run's.
    expected: Option<u16>,
}

/// Where a run may end.
#[derive(Clone, Copy)]
struct Change {
    at: u32,
    /// The mark above from there on.
    then: Option<u16>,
}

impl Runs {
    fn new(width: u32, total: u32, marks: &[u16]) -> Runs {
        let recent = [&[NOTHING], marks].concat();
        Runs { width, total, runs: Vec::new(), above: 0, recent, expected: Some(NOTHING) }
    }

    fn at(&self) -> u32 {
        self.runs.last().map_or(0, |(end, _)| *end)
    }

    /// The marks that may come where the expected one does not.
    fn others(&self) -> impl Iterator<Item = u16> + '_ {
        let (last, expected) = (self.runs.last().map(|(_, mark)| *mark), self.expected);
        self.recent.iter().copied().filter(move |mark| Some(*mark) != last && Some(*mark) != expected)
    }

    /// Where the row above changes behind the next run's start, after as many changes as are passed over; the end of all
    /// is the last of them.
    fn change(&self, passed: usize) -> Option<Change> {
        let known = |run: usize| {
            self.runs.get(run).map(|(end, _)| end.saturating_add(self.width)).filter(|at| *at < self.total)
        };
        let run = self.above + passed;
        match known(run) {
            _ if passed > MOST_PASSED => None,
            Some(at) => Some(Change { at, then: self.runs.get(run + 1).map(|(_, mark)| *mark) }),
            None if passed == 0 || known(run - 1).is_some() => Some(Change { at: self.total, then: None }),
            None => None,
        }
    }

    /// Adds a run that ends near a change of the row above, if it does.
    fn add(&mut self, end: u32, mark: u16, near: Option<Change>) {
        if let Some(known) = self.recent.iter().position(|known| *known == mark) {
            for place in (0..known).rev() {
                self.recent[place + 1] = self.recent[place];
            }
            self.recent[0] = mark;
        }
        self.runs.push((end, mark));
        while self.runs[self.above].0.saturating_add(self.width) <= end {
            self.above += 1;
        }
        let over = if end < self.width { NOTHING } else { self.runs[self.above].1 };
        let then = near.and_then(|near| near.then).unwrap_or(over);
        self.expected = [then, over].into_iter().find(|expected| *expected != mark);
    }
}

/// Bits as letters, the first bit the highest of a letter.
#[derive(Default)]
struct Writer {
    letters: Vec<u8>,
    held: u64,
    count: u32,
}

impl Writer {
    fn bits(&mut self, bits: u32, count: u32) {
        self.held = self.held << count | u64::from(bits);
        self.count += count;
        while self.count >= 6 {
            self.count -= 6;
            self.letters.push(LETTERS[(self.held >> self.count & 63) as usize]);
        }
    }

    /// A number in as many bits more as it is long (Elias, 1975), of which the lowest come as they are.
    fn number(&mut self, number: u32, plain: u32) {
        let number = number + (1 << plain);
        let length = 31 - number.leading_zeros();
        self.bits(1, length - plain + 1);
        self.bits(number & !(1 << length), length);
    }

    fn text(mut self) -> String {
        if self.count > 0 {
            self.bits(0, 6 - self.count);
        }
        String::from_utf8(self.letters).unwrap_or_default()
    }
}

struct Reader<'t> {
    letters: std::slice::Iter<'t, u8>,
    held: u32,
    count: u32,
}

/// A letter's place in [`LETTERS`].
fn place(letter: u8) -> Option<u32> {
    let place = match letter {
        b'A'..=b'Z' => letter - b'A',
        b'a'..=b'z' => letter - b'a' + 26,
        b'0'..=b'9' => letter - b'0' + 52,
        b'-' => 62,
        b'_' => 63,
        _ => return None,
    };
    Some(u32::from(place))
}

impl Reader<'_> {
    fn bit(&mut self) -> Option<u32> {
        if self.count == 0 {
            let letter = self.letters.next()?;
            (self.held, self.count) = (place(*letter)?, 6);
        }
        self.count -= 1;
        Some(self.held >> self.count & 1)
    }

    fn bits(&mut self, count: u32) -> Option<u32> {
        (0..count).try_fold(0, |bits, _| Some(bits << 1 | self.bit()?))
    }

    fn number(&mut self, plain: u32) -> Option<u32> {
        let mut length = plain;
        while self.bit()? == 0 {
            length += 1;
        }
        (length < 31).then_some(())?;
        Some((1 << length | self.bits(length)?) - (1 << plain))
    }
}

impl Imprint {
    /// The imprint in letters: a bit where a run ends as the row above does, and few more where it does nearly or has
    /// another mark, as in facsimile (ITU-T T.6, 1988). No letters where nothing is opaque.
    ///
    /// # Complexity
    /// O(runs × marks).
    pub fn to_text(&self) -> String {
        let total = self.width * self.height;
        if self.runs.is_empty() {
            return String::new();
        }
        let mut marks: Vec<u16> = Vec::new();
        for (_, mark) in self.runs.iter().filter(|(_, mark)| *mark != NOTHING) {
            if !marks.contains(mark) {
                marks.push(*mark);
            }
        }
        let mut out = Writer::default();
        out.number(marks.len() as u32, PALETTE);
        marks.iter().for_each(|mark| out.bits(u32::from(*mark), MARK_BITS));
        let mut so_far = Runs::new(self.width, total, &marks);
        let rest = total - self.runs.iter().map(|(length, _)| length).sum::<u32>();
        let rest = Some((rest, NOTHING)).filter(|(length, _)| *length > 0);
        for (length, mark) in self.runs.iter().copied().chain(rest) {
            write_mark(&so_far, mark, &mut out);
            let end = so_far.at() + length;
            let near = write_end(&so_far, end, &mut out);
            so_far.add(end, mark, near);
        }
        out.text()
    }

    /// Reads what [`Imprint::to_text`] wrote; `None` for anything else, or where the runs do not fit into the size.
    pub fn parse(text: &str, width: u32, height: u32) -> Option<Imprint> {
        let total = width.checked_mul(height)?;
        let mut imprint = Imprint { width, height, runs: Vec::new() };
        if text.is_empty() {
            return Some(imprint);
        }
        let mut read = Reader { letters: text.as_bytes().iter(), held: 0, count: 0 };
        let count = read.number(PALETTE)?;
        let marks: Vec<u16> = (0..count).map(|_| Some(read.bits(MARK_BITS)? as u16)).collect::<Option<_>>()?;
        let is_double = |n: usize| marks[n] == NOTHING || marks[..n].contains(&marks[n]);
        if (0..marks.len()).any(is_double) {
            return None;
        }
        let mut so_far = Runs::new(width, total, &marks);
        while so_far.at() < total {
            let mark = read_mark(&so_far, &mut read)?;
            let at = so_far.at();
            let (end, near) = read_end(&so_far, &mut read)?;
            if end <= at || end > total {
                return None;
            }
            so_far.add(end, mark, near);
            if end < total || mark != NOTHING {
                imprint.add(end - at, mark);
            }
        }
        (read.letters.len() == 0 && read.held & ((1 << read.count) - 1) == 0).then_some(imprint)
    }
}

fn write_mark(so_far: &Runs, mark: u16, out: &mut Writer) {
    if so_far.expected.is_some() {
        out.bits(u32::from(so_far.expected == Some(mark)), 1);
    }
    if so_far.expected != Some(mark) {
        out.number(so_far.others().position(|known| known == mark).unwrap_or(0) as u32, RANK);
    }
}

fn read_mark(so_far: &Runs, read: &mut Reader<'_>) -> Option<u16> {
    match so_far.expected {
        Some(mark) if read.bit()? == 1 => Some(mark),
        _ => {
            let rank = read.number(RANK)?;
            so_far.others().nth(rank as usize)
        }
    }
}

/// Writes where a run ends: at most two px beside a change of the row above, or how long it is.
fn write_end(so_far: &Runs, end: u32, out: &mut Writer) -> Option<Change> {
    let mut best: Option<(usize, Change)> = None;
    let bits = |passed: usize, change: &Change| 4 * passed + [1, 3, 5][end.abs_diff(change.at) as usize];
    for passed in 0..=MOST_PASSED {
        let Some(change) = so_far.change(passed).filter(|change| change.at <= end.saturating_add(2)) else { break };
        let is_near = end.abs_diff(change.at) <= 2;
        if is_near && best.is_none_or(|(known, of)| bits(passed, &change) < bits(known, &of)) {
            best = Some((passed, change));
        }
        // Behind one change more it takes four bits more.
        if best.is_some_and(|(known, of)| bits(known, &of) <= 4 * passed + 5) {
            break;
        }
    }
    let Some((passed, change)) = best else {
        out.bits(0b000, 3);
        out.number(end - so_far.at() - 1, LENGTH);
        return None;
    };
    (0..passed).for_each(|_| out.bits(0b0011, 4));
    match i64::from(end) - i64::from(change.at) {
        0 => out.bits(0b1, 1),
        1 => out.bits(0b011, 3),
        -1 => out.bits(0b010, 3),
        2 => out.bits(0b00101, 5),
        _ => out.bits(0b00100, 5),
    }
    Some(change)
}

/// A run's end as it was written, and the change it lies beside.
fn read_end(so_far: &Runs, read: &mut Reader<'_>) -> Option<(u32, Option<Change>)> {
    for passed in 0.. {
        let change = so_far.change(passed)?;
        let beside = |by: i64| Some((u32::try_from(i64::from(change.at) + by).ok()?, Some(change)));
        if read.bit()? == 1 {
            return beside(0);
        }
        if read.bit()? == 1 {
            return if read.bit()? == 1 { beside(1) } else { beside(-1) };
        }
        if read.bit()? == 0 {
            return Some((so_far.at().checked_add(read.number(LENGTH)?)?.checked_add(1)?, None));
        }
        if read.bit()? == 0 {
            return if read.bit()? == 1 { beside(2) } else { beside(-2) };
        }
    }
    None
}
