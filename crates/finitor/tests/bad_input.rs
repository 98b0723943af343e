//! Every mistake gets a message with file, line and mend; nothing panics, nothing is written.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::{Project, png};

#[test]
fn all_mistakes_of_a_file_come_at_once_with_line_column_and_text() {
    let project = Project::sample();
    project.edit("actors/gull.toml", "pivot = [16, 20]", "pivto = [16, 20]");
    project.edit("actors/gull.toml", "cells = \"4-5\"", "cells = \"4-50\"");
    project.edit("actors/gull.toml", "role = \"hit\"", "role = \"strike\"");
    project.edit("stages/pier.toml", "passes = \"up\"", "passes = 3");
    let run = project.refused(&["fit"], &["3 mistakes; nothing was written"]);
    for (place, text) in [
        ("gull.toml:6:1", "pivto = [16, 20]"),
        ("gull.toml:16:9", "cells = \"4-50\""),
        ("gull.toml:38:8", "role = \"strike\""),
    ] {
        assert!(run.err.contains(place) && run.err.contains(text), "{place}:\n{}", run.err);
    }
}

#[test]
fn hostile_and_broken_pictures_get_one_clear_message() {
    let whole = png(288, 24, |_, _| [200, 200, 200, 255]);
    let header = |width: u32, height: u32| {
        // Signature and header chunk of a picture of any size, with a true checksum, and no data at all.
        let mut bytes = b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR".to_vec();
        bytes.extend(width.to_be_bytes());
        bytes.extend(height.to_be_bytes());
        bytes.extend([8, 6, 0, 0, 0]);
        let checksum = support::crc(&bytes[12..]);
        bytes.extend(checksum.to_be_bytes());
        bytes.extend(b"\0\0\0\0IDAT\x35\xaf\x06\x1e");
        bytes
    };
    let cases: [(Vec<u8>, &[&str]); 7] = [
        (whole[..whole.len() / 2].to_vec(), &["gull.png", "cut short"]),
        (header(60_000, 60_000), &["gull.png", "60000 x 60000"]),
        (header(16_000, 16_000), &["gull.png", "16000 x 16000"]),
        (header(0, 24), &["gull.png", "no sound PNG"]),
        (Vec::new(), &["gull.png", "is empty"]),
        (b"GIF89a and no more".to_vec(), &["gull.png", "24864 x 25710"]),
        (header(288, 24), &["gull.png"]),
    ];
    for (bytes, words) in cases {
        let project = Project::sample();
        project.write("actors/gull.png", bytes);
        let run = project.refused(&["fit"], words);
        assert_eq!(run.err.matches("error").count(), 1, "one message:\n{}", run.err);
    }
}

#[test]
fn bad_rows_of_a_take_are_told_all_at_once_by_line() {
    let project = Project::fitted();
    let head = "tick,actor,x,y,facing,animation,frame,states\n";
    let rows = [
        "0,keeper,60,200,right,idle,0,",
        "1,keper,60,200,right,idle,0,",
        "2,keeper,sixty,200,right,idle,0,",
        "3,keeper,60,NaN,right,idle,0,",
        "4,keeper,60,200,east,idle,0,",
        "5,keeper,60,200,right,idel,0,",
        "6,keeper,60,200,right,idle,4,",
        "-7,keeper,60,200,right,idle,0,",
        "8,keeper,60,200,right,idle",
        "9,keeper,60,200,right,idle,0,",
        "9,keeper,60,200,right,idle,0,",
        "2,keeper,60,200,right,idle,0,",
        "10,keeper:\u{1b}[31m,60,200,right,idle,0,",
    ];
    project.write("takes/bad.csv", format!("{head}{}\n", rows.join("\n")));
    project.refused(
        &["check", "takes/bad.csv"],
        &[
            "line 3: there is no actor \"keper\"",
            "did you mean keeper?",
            "line 4: x is \"sixty\"",
            "line 5: y is \"NaN\"",
            "line 6: facing is \"east\"; expected right or left",
            "line 7: keeper has no animation \"idel\"",
            "did you mean idle?",
            "line 8: frame is \"4\", idle has 0 to 3",
            "line 9: tick is \"-7\"",
            "line 10: the row has no frame",
            "line 12: tick 9 has a second row for keeper",
            "line 13: tick 2 comes after tick 9",
            "line 14: actor is \"keeper:\u{fffd}[31m\"",
        ],
    );
    let many: String = (0..500).map(|tick| format!("{tick},ghost,0,0,right,idle,0,\n")).collect();
    project.write("takes/many.csv", format!("{head}{many}"));
    let run = project.refused(&["check", "takes/many.csv"], &["line 2 and 499 more: there is no actor \"ghost\""]);
    assert!(run.err.lines().count() < 6, "{}", run.err);
    let several: String = (0..500).map(|tick| format!("{tick},ghost{tick},0,0,right,idle,0,\n")).collect();
    project.write("takes/several.csv", format!("{head}{several}"));
    let run = project.refused(&["check", "takes/several.csv"], &["line 2: there", "480 more bad rows"]);
    assert!(run.err.lines().count() < 60, "a screenful:\n{}", run.err);
    // Time in place of ticks is one mistake; whole numbers with decimals are none.
    let seconds: String =
        (0..90).map(|tick| format!("{:.4},keeper,60,200,right,idle,0,\n", f64::from(tick) / 60.0)).collect();
    project.write("takes/seconds.csv", format!("{head}{seconds}"));
    let wrong = "line 3 and 87 more: tick is \"0.0167\"; expected a whole number from 0";
    project.refused(&["check", "takes/seconds.csv"], &[wrong, "not the time in seconds"]);
    let steps: String = (0..9).map(|tick| format!("{tick}.0,keeper,60,200,right,idle,0,\n")).collect();
    project.write("takes/steps.csv", format!("{head}{steps}"));
    assert!(project.run(&["check", "takes/steps.csv"]).out.contains("9 ticks"));
    // Instances as other recorders name them.
    for name in ["keeper#2", "keeper_2", "keeper-2", "keeper2", "keeper[2]"] {
        project.write("takes/second.csv", format!("{head}0,{name},60,200,right,idle,0,\n"));
        project.refused(&["check", "takes/second.csv"], &["did you mean keeper:2? Of several"]);
    }
    let with_id = head.trim_end().to_string() + ",id\n0,keeper,60,200,right,idle,0,,7\n";
    project.write("takes/with_id.csv", with_id);
    project.refused(&["check", "takes/with_id.csv"], &["unknown column \"id\"", "such as gull:2"]);
}

#[test]
fn headers_and_missing_files_are_told() {
    let project = Project::fitted();
    let check = |name: &str, text: &str, words: &[&str]| {
        project.write(name, text);
        project.refused(&["check", name], words);
    };
    check("takes/a.csv", "tick,actor,x,y,facing,animation,fram\n", &["unknown column \"fram\"", "did you mean frame?"]);
    check("takes/b.csv", "tick,actor,x,y,facing,animation,frame,x\n", &["column x is there twice"]);
    check("takes/c.csv", "a,b\n", &["names no column of a take"]);
    check("takes/d.csv", "tick,actor,x,y,facing,animation,frame\n", &["a header but no rows"]);
    project.refused(&["check", "takes/none.csv"], &["takes/none.csv", "cannot be read"]);
    project.refused(&["check", "takes/clean.csv", "--stage", "peer"], &["no stage \"peer\"", "pier"]);
    project.refused(&["fit", "keper"], &["no actor \"keper\"", "keeper"]);
    project.refused(&["layers", "explain", "keeper.bdy", "pier/jetty"], &["keeper.bdy", "keeper.body"]);
    project.refused(&["explain", "embeded"], &["no rule \"embeded\"", "embedded"]);
    let nowhere = Project::empty();
    nowhere.refused(&["fit"], &["no finitor.toml here or in any folder above", "finitor demo"]);
    let unfitted = Project::sample();
    unfitted.refused(&["check", "takes/clean.csv"], &["keeper has no fits yet", "finitor fit"]);
}

#[test]
fn broken_fits_are_told_and_never_overwritten() {
    for (text, words) in [
        ("{", &["keeper.fits.json", "line 1"][..]),
        (
            "{\"schema\": \"finitor.fits/9\", \"actor\": \"keeper\", \"frames\": []}",
            &["finitor.fits/9", "finitor.fits/2"],
        ),
        ("{\"schema\": \"finitor.fits/2\", \"actor\": \"keeper\", \"frame\": []}", &["unknown field \"frame\""]),
    ] {
        let project = Project::sample();
        project.write("actors/keeper.fits.json", text);
        project.refused(&["fit"], words);
        project.refused(&["check", "takes/clean.csv"], words);
        assert_eq!(project.read("actors/keeper.fits.json"), text);
    }
}
