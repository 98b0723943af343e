//! Pictures that are broken or made to harm: one clear message each, and no more memory than the limit allows.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]
#![cfg(unix)]

mod support;

use std::process::Command;
use support::{Project, Run, png};

/// Runs the program with a limit of address space, MB: what asks for more dies.
fn within(megabytes: u32, project: &Project, args: &[&str]) -> Run {
    let script = format!("ulimit -v {}; exec \"$0\" \"$@\"", megabytes * 1024);
    let mut command = Command::new("sh");
    command.args(["-c", &script, env!("CARGO_BIN_EXE_finitor")]).args(args).args(["--threads", "2"]);
    let output =
        command.current_dir(project.root()).env("NO_COLOR", "1").env_remove("RUST_BACKTRACE").output().unwrap();
    let text = |bytes: Vec<u8>| String::from_utf8(bytes).unwrap();
    Run { code: output.status.code().unwrap_or(-1), out: text(output.stdout), err: text(output.stderr) }
}

/// A zlib stream of `runs` times 258 zero bytes, in 13 bits each: fixed codes of RFC 1951.
fn bomb(runs: u32) -> Vec<u8> {
    let (mut bytes, mut held, mut count) = (vec![0x78, 0x01], 0_u64, 0);
    let mut put = |bits: u64, length: u32, bytes: &mut Vec<u8>| {
        held |= bits << count;
        count += length;
        while count >= 8 {
            bytes.push(held as u8);
            held >>= 8;
            count -= 8;
        }
    };
    put(0b011, 3, &mut bytes);
    // The literal 0 is 00110000, a length of 258 is 11000101, the distance 1 is 00000; codes are written high bit first.
    put(0b0000_1100, 8, &mut bytes);
    for _ in 0..runs {
        put(0b1010_0011, 8, &mut bytes);
        put(0, 5, &mut bytes);
    }
    put(0, 7, &mut bytes);
    put(0, 8, &mut bytes);
    bytes
}

fn chunk(name: &[u8; 4], data: &[u8]) -> Vec<u8> {
    let mut bytes = (data.len() as u32).to_be_bytes().to_vec();
    bytes.extend(name);
    bytes.extend(data);
    let checksum = support::crc(&bytes[4..]);
    bytes.extend(checksum.to_be_bytes());
    bytes
}

fn header(width: u32, height: u32) -> Vec<u8> {
    let size = [width.to_be_bytes(), height.to_be_bytes()].concat();
    [b"\x89PNG\r\n\x1a\n".to_vec(), chunk(b"IHDR", &[&size[..], &[8, 6, 0, 0, 0]].concat())].concat()
}

/// A GIF of `frames` wholly transparent images.
fn empty_gif(side: u16, frames: u32) -> Vec<u8> {
    let mut bytes = Vec::new();
    let mut encoder = gif::Encoder::new(&mut bytes, side, side, &[0, 0, 0, 255, 255, 255]).unwrap();
    for _ in 0..frames {
        let frame = gif::Frame {
            width: 1,
            height: 1,
            transparent: Some(0),
            delay: 5,
            buffer: vec![0].into(),
            ..gif::Frame::default()
        };
        encoder.write_frame(&frame).unwrap();
    }
    drop(encoder);
    bytes
}

/// A project whose only actor has one animated or still file.
fn project(name: &str, bytes: &[u8]) -> Project {
    let project = Project::empty();
    project.write("finitor.toml", "[project]\nname = \"odd\"\nactors = [\"it.toml\"]\n[layers]\nnames = [\"hero\"]\n");
    project.write(
        "it.toml",
        format!(
            "[actor]\nname = \"it\"\n[animation.be]\nfile = \"{name}\"\n[shape.all]\nrole = \"hurt\"\nkind = \"box\"\nlayer = \"hero\"\n"
        ),
    );
    project.write(name, bytes);
    project
}

/// Address space in MB that a run may take: the program and its threads take about 200, a picture of the usual limit 256.
const ENOUGH: u32 = 600;

#[test]
fn each_broken_picture_gets_one_message_that_names_it_and_the_mend() {
    let whole = png(40, 30, |x, y| [x as u8, y as u8, 9, 255]);
    let mut flipped = whole.clone();
    let middle = flipped.len() / 2;
    flipped[middle] ^= 0x10;
    let cases: [(&str, Vec<u8>, &[&str]); 9] = [
        ("short.png", whole[..whole.len() - 30].to_vec(), &["short.png", "cut short"]),
        ("crc.png", flipped, &["crc.png", "no sound PNG"]),
        ("wide.png", header(60_000, 2), &["wide.png", "60000 x 2 px", "16384"]),
        ("huge.png", header(16_000, 16_000), &["huge.png", "256 million px", "--max-mpx 256"]),
        ("none.png", header(0, 0), &["none.png", "no sound PNG"]),
        ("text.png", b"not a picture at all".to_vec(), &["text.png", "neither a PNG nor a GIF"]),
        ("empty.gif", Vec::new(), &["empty.gif", "is empty"]),
        ("bare.gif", b"GIF89a\x08\0\x08\0\0\0\0;".to_vec(), &["bare.gif", "cut short"]),
        ("big.gif", empty_gif(2000, 1000), &["big.gif", "images of 2000 x 2000 px", "at most 64 million"]),
    ];
    for (name, bytes, words) in cases {
        let project = project(name, &bytes);
        for args in [&["fit"][..], &["sheet", name]] {
            let run = within(ENOUGH, &project, args);
            assert_eq!(run.code, 2, "{name}: {}{}", run.out, run.err);
            assert_eq!(run.err.matches("error").count(), 1, "{name}: one message\n{}", run.err);
            for word in words {
                assert!(run.err.contains(word), "{name} should say {word:?}:\n{}", run.err);
            }
        }
    }
}

#[test]
fn compressed_bombs_take_no_more_memory_than_the_picture() {
    // 1 GB of zeros in a text, in a colour profile, and behind the pixels of an 8 x 8 picture.
    let bomb = bomb(4_200_000);
    let pixels = png(8, 8, |_, _| [9, 9, 9, 255]);
    let after_header = 33;
    let with = |extra: Vec<u8>| [&pixels[..after_header], &extra[..], &pixels[after_header..]].concat();
    let text = with(chunk(b"zTXt", &[b"Comment\0\0", &bomb[..]].concat()));
    let profile = with(chunk(b"iCCP", &[b"icc\0\0", &bomb[..]].concat()));
    for bytes in [text, profile] {
        let project = project("it.png", &bytes);
        let run = within(ENOUGH, &project, &["fit"]);
        assert_eq!(run.code, 0, "what is not pixels is passed over: {}", run.err);
    }
    let data = [header(8, 8), chunk(b"IDAT", &bomb), chunk(b"IEND", &[])].concat();
    let run = within(ENOUGH, &project("it.png", &data), &["fit"]);
    assert!(run.code == 2 || run.code == 0, "{}{}", run.out, run.err);
}

#[test]
fn a_thousand_empty_frames_are_read_and_told_in_one_line() {
    let project = project("blank.gif", &empty_gif(8, 1000));
    let run = within(ENOUGH, &project, &["fit"]);
    assert_eq!(run.code, 0, "{}", run.err);
    assert!(run.err.contains("be: none of its frames has an opaque pixel"), "{}", run.err);
    assert!(run.err.lines().count() <= 6, "{}", run.err);
    let seen = within(ENOUGH, &project, &["sheet", "blank.gif"]);
    assert!(seen.out.contains("1000 of 8 x 8 px") && seen.out.contains("empty"), "{}", seen.out);
    let refused = within(ENOUGH, &project, &["sheet", "blank.gif", "--write", "other.toml"]);
    assert!(refused.code == 2 && refused.err.contains("hold no art"), "{}", refused.err);
}

#[test]
fn links_that_leave_the_project_are_not_followed() {
    let outside = Project::empty();
    outside.write("secret.png", png(8, 8, |_, _| [9, 9, 9, 255]));
    let project = project("it.png", &png(8, 8, |_, _| [9, 9, 9, 255]));
    std::os::unix::fs::symlink(outside.path("secret.png"), project.path("walk_2.png")).unwrap();
    project.write("walk_1.png", png(8, 8, |_, _| [9, 9, 9, 255]));
    for source in
        ["file = \"walk_2.png\"", "files = \"walk_*.png\"", "file = \"../secret.png\"", "files = \"/etc/*.png\""]
    {
        let actor = project.read("it.toml");
        project.edit("it.toml", "file = \"it.png\"", source);
        let said = if source.contains("/etc") { "absolute path" } else { "leaves the project's folder" };
        let run = project.refused(&["fit"], &["it.toml:4:", said]);
        assert_eq!(run.err.matches("error").count(), 1, "{}", run.err);
        project.write("it.toml", actor);
    }
    std::os::unix::fs::symlink(project.path("walk_1.png"), project.path("inside_1.png")).unwrap();
    project.edit("it.toml", "file = \"it.png\"", "files = \"inside_*.png\"");
    project.ok(&["fit"]);
}
