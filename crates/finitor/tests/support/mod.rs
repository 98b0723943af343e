//! Running the built program on files in a temporary folder.
#![allow(
    dead_code,
    unreachable_pub,
    clippy::unwrap_used,
    reason = "each test file uses a part; a test fails by panicking"
)]

pub mod watching;

use serde_json::Value;
use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;
use tempfile::TempDir;

/// What a run said.
#[derive(Debug)]
pub struct Run {
    pub code: i32,
    pub out: String,
    pub err: String,
}

impl Run {
    /// The result of the one take that was checked, as JSON.
    pub fn take(&self) -> Value {
        self.json()["takes"][0].clone()
    }

    /// Standard output as JSON.
    pub fn json(&self) -> Value {
        serde_json::from_str(&self.out).unwrap_or_else(|error| panic!("{error}: {}{}", self.out, self.err))
    }
}

/// A folder with the sample project in it.
pub struct Project {
    folder: TempDir,
}

impl Project {
    /// The sample as it ships, not fitted yet.
    pub fn sample() -> Project {
        let folder = tempfile::tempdir().unwrap();
        copy(&PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("sample"), folder.path());
        Project { folder }
    }

    /// The sample, fitted.
    pub fn fitted() -> Project {
        let project = Project::sample();
        project.ok(&["fit"]);
        project
    }

    /// An empty folder.
    pub fn empty() -> Project {
        Project { folder: tempfile::tempdir().unwrap() }
    }

    pub fn root(&self) -> &Path {
        self.folder.path()
    }

    pub fn path(&self, path: &str) -> PathBuf {
        self.root().join(path)
    }

    pub fn read(&self, path: &str) -> String {
        fs::read_to_string(self.path(path)).unwrap()
    }

    pub fn write(&self, path: &str, bytes: impl AsRef<[u8]>) {
        let path = self.path(path);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, bytes).unwrap();
    }

    /// Replaces a text that must be there, once.
    pub fn edit(&self, path: &str, from: &str, to: &str) {
        let text = self.read(path);
        assert_eq!(text.matches(from).count(), 1, "{path} should hold {from:?} once");
        self.write(path, text.replace(from, to));
    }

    /// Runs the program in the folder.
    pub fn run(&self, args: &[&str]) -> Run {
        let mut command = Command::new(env!("CARGO_BIN_EXE_finitor"));
        command.args(args).current_dir(self.root()).env("NO_COLOR", "1").env_remove("RUST_BACKTRACE");
        let output = command.output().unwrap();
        let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
        let run = Run { code: output.status.code().unwrap_or(-1), out: text(output.stdout), err: text(output.stderr) };
        assert!(!run.err.contains("panicked"), "{args:?}: {}", run.err);
        run
    }

    /// Runs it and expects the exit code 0.
    pub fn ok(&self, args: &[&str]) -> Run {
        let run = self.run(args);
        assert_eq!(run.code, 0, "{args:?}: {}{}", run.out, run.err);
        run
    }

    /// Runs it and expects the exit code 2 and every one of the words on standard error.
    pub fn refused(&self, args: &[&str], words: &[&str]) -> Run {
        let run = self.run(args);
        assert_eq!(run.code, 2, "{args:?}: {}{}", run.out, run.err);
        for word in words {
            assert!(run.err.contains(word), "{args:?} should say {word:?}:\n{}", run.err);
        }
        run
    }

    /// The convex pieces of shapes as drawn, from an export, by `ANIMATION FRAME SHAPE`.
    pub fn pieces(&self, actor: &str) -> BTreeMap<String, Vec<Vec<[f64; 2]>>> {
        let pack = self.ok(&["export", actor, "--to", "json", "--facing", "drawn"]).json();
        let mut found = BTreeMap::new();
        for frame in pack["actors"][0]["frames"].as_array().unwrap() {
            for shape in frame["sides"][0]["shapes"].as_array().unwrap() {
                let name = [&frame["animation"], &frame["frame"], &shape["shape"]];
                let name = name.map(|word| word.as_str().map_or_else(|| word.to_string(), str::to_string)).join(" ");
                found.insert(name, shape["pieces"].as_array().unwrap().iter().map(points).collect());
            }
        }
        found
    }

    /// All files with their bytes, by path.
    pub fn files(&self) -> BTreeMap<String, Vec<u8>> {
        let mut files = BTreeMap::new();
        let mut open = vec![self.root().to_path_buf()];
        while let Some(folder) = open.pop() {
            for entry in fs::read_dir(folder).unwrap() {
                let path = entry.unwrap().path();
                if path.is_dir() {
                    open.push(path);
                } else {
                    let name = path.strip_prefix(self.root()).unwrap().to_string_lossy().into_owned();
                    files.insert(name, fs::read(path).unwrap());
                }
            }
        }
        files
    }
}

fn copy(from: &Path, to: &Path) {
    fs::create_dir_all(to).unwrap();
    for entry in fs::read_dir(from).unwrap() {
        let path = entry.unwrap().path();
        let target = to.join(path.file_name().unwrap());
        if path.is_dir() {
            copy(&path, &target);
        } else if !path.to_string_lossy().ends_with(".fits.json") {
            fs::copy(path, target).unwrap();
        }
    }
}

/// A PNG of RGBA pixels.
pub fn png(width: u32, height: u32, pixel: impl Fn(u32, u32) -> [u8; 4]) -> Vec<u8> {
    let pixels: Vec<u8> =
        (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).flat_map(|(x, y)| pixel(x, y)).collect();
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, width, height);
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.write_header().unwrap().write_image_data(&pixels).unwrap();
    bytes
}

/// The RGBA pixels of a PNG file.
pub fn pixels(path: &Path) -> (u32, u32, Vec<[u8; 4]>) {
    let file = std::io::BufReader::new(fs::File::open(path).unwrap());
    let mut decoder = png::Decoder::new(file);
    decoder.set_transformations(png::Transformations::ALPHA);
    let mut reader = decoder.read_info().unwrap();
    let mut bytes = vec![0; reader.output_buffer_size().unwrap()];
    let info = reader.next_frame(&mut bytes).unwrap();
    (info.width, info.height, bytes.chunks_exact(4).map(|p| [p[0], p[1], p[2], p[3]]).collect())
}

/// A list of points in JSON.
pub fn points(value: &Value) -> Vec<[f64; 2]> {
    let list = value.as_array().unwrap();
    list.iter().map(|p| [p[0].as_f64().unwrap(), p[1].as_f64().unwrap()]).collect()
}

/// Rings of a fits file: one, or a list of several.
pub fn rings(value: &Value) -> Vec<Vec<[f64; 2]>> {
    match &value[0][0] {
        Value::Array(_) => value.as_array().unwrap().iter().map(points).collect(),
        _ => vec![points(value)],
    }
}

/// Twice the area is positive where a ring runs clockwise on screen.
pub fn area(ring: &[[f64; 2]]) -> f64 {
    (0..ring.len())
        .map(|i| {
            let (a, b) = (ring[i], ring[(i + 1) % ring.len()]);
            (a[0] * b[1] - b[0] * a[1]) / 2.0
        })
        .sum()
}

/// The checksum of PNG chunks (ISO 3309).
pub fn crc(bytes: &[u8]) -> u32 {
    !bytes.iter().fold(!0, |mut crc, byte| {
        crc ^= u32::from(*byte);
        for _ in 0..8 {
            crc = if crc & 1 == 1 { (crc >> 1) ^ 0xedb8_8320 } else { crc >> 1 };
        }
        crc
    })
}
