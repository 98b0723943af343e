//! Records where actors are, a row an actor and tick: CSV, or lines of JSON where the file's name ends in .jsonl.
use std::fs::File;
use std::io::{BufWriter, Result, Write};

pub struct Recorder {
    file: BufWriter<File>, // written in blocks, the last one when it is dropped
    json: bool,
}

impl Recorder {
    pub fn open(path: &str) -> Result<Recorder> {
        let mut file = BufWriter::with_capacity(1 << 16, File::create(path)?);
        let json = path.ends_with(".jsonl");
        if !json {
            writeln!(file, "tick,actor,x,y,facing,animation,frame")?;
        }
        Ok(Recorder { file, json })
    }

    pub fn row(&mut self, tick: u64, actor: &str, (x, y): (f64, f64), facing: &str, (animation, frame): (&str, u32)) -> Result<()> {
        match self.json {
            true => writeln!(self.file, r#"{{"tick":{tick},"actor":"{actor}","x":{x},"y":{y},"facing":"{facing}","animation":"{animation}","frame":{frame}}}"#),
            false => writeln!(self.file, "{tick},{actor},{x},{y},{facing},{animation},{frame}"),
        }
    }
}

/// A walk, in place of a game: argument 1 is the file, 2 the ground's y.
fn main() -> Result<()> {
    let arguments: Vec<String> = std::env::args().collect();
    let (mut recorder, ground) = (Recorder::open(&arguments[1])?, arguments[2].parse().expect("a number"));
    for tick in 0..200 {
        recorder.row(tick, "hand", (64.0 + 1.5 * tick as f64, ground), "right", ("walk", (tick / 6 % 4) as u32))?;
    }
    Ok(())
}
