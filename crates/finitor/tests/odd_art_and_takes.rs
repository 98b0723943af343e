//! Art and takes at the edge of what is usual: specks, empty frames, odd grids, other kinds of PNG, y up, gaps.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::Value;
use support::{Project, png, points};

const PROJECT: &str = "[project]\nname = \"odd\"\nactors = [\"*.actor.toml\"]\nstages = [\"*.stage.toml\"]\n[layers]\nnames = [\"ground\", \"hero\"]\n[layers.mask]\nhero = [\"ground\"]\n";
const STAGE: &str = "[stage]\nname = \"yard\"\nsize = [200, 100]\n[[solid]]\nname = \"floor\"\nbox = [0, 80, 200, 20]\nlayer = \"ground\"\n";

/// A project with one actor of one sheet.
fn odd(sheet: &str, animation: &str, shapes: &str, image: Vec<u8>) -> Project {
    let project = Project::empty();
    project.write("finitor.toml", PROJECT);
    project.write("yard.stage.toml", STAGE);
    project.write("it.png", image);
    let actor = format!(
        "[actor]\nname = \"it\"\npivot = \"feet\"\n[[sheet]]\nimage = \"it.png\"\n{sheet}\n[animation.be]\n{animation}\n{shapes}"
    );
    project.write("it.actor.toml", actor);
    project
}

fn shape(kind: &str) -> String {
    format!("[shape.{kind}]\nrole = \"hurt\"\nkind = \"{kind}\"\nlayer = \"hero\"\n")
}

fn fits(project: &Project) -> Value {
    serde_json::from_str(&project.read("it.actor.fits.json")).unwrap()
}

#[test]
fn a_speck_of_one_pixel_is_fitted_by_every_kind() {
    let shapes: String = ["box", "capsule", "hull", "outline"].map(shape).concat();
    let project = odd("", "cells = \"0\"", &shapes, png(1, 1, |_, _| [9, 9, 9, 255]));
    project.ok(&["fit"]);
    let fits = fits(&project);
    assert_eq!(fits["frames"][0]["pivot"], serde_json::json!([0.5, 1.0]));
    for shape in fits["frames"][0]["shapes"].as_array().unwrap() {
        let ring = points(&shape["points"]);
        assert!(support::area(&ring) > 0.4 && support::area(&ring) < 1.25, "{shape}");
    }
    project.ok(&["draw"]);
}

#[test]
fn wholly_transparent_frames_have_no_shape_and_the_rest_goes_on() {
    // Three cells; the middle one is empty.
    let image = png(24, 8, |x, y| [9, 9, 9, if (8..16).contains(&x) || y < 2 { 0 } else { 255 }]);
    let project = odd("cell = [8, 8]", "cells = \"0-2\"", &shape("outline"), image);
    let run = project.ok(&["fit"]);
    assert!(run.err.contains("outline on be 1"), "{}", run.err);
    let fits = fits(&project);
    let counts: Vec<usize> =
        fits["frames"].as_array().unwrap().iter().map(|f| f["shapes"].as_array().unwrap().len()).collect();
    assert_eq!(counts, [1, 0, 1]);
    let again = project.ok(&["fit"]);
    assert!(again.out.contains("2 shapes, nothing to do"), "{}", again.out);
    project.ok(&["draw"]);
    let take =
        "tick,actor,x,y,facing,animation,frame\n0,it,50,80,right,be,0\n1,it,50,80,right,be,1\n2,it,50,80,left,be,2\n";
    project.write("t.csv", take);
    project.ok(&["check", "t.csv"]);
    // An actor of nothing but transparent pixels is no error either.
    let nothing = odd("", "cells = \"0\"", &shape("box"), png(4, 4, |_, _| [0; 4]));
    nothing.ok(&["fit"]);
    nothing.ok(&["draw"]);
}

#[test]
fn margins_and_gaps_cut_the_cells_that_were_drawn() {
    // A grid of 3 x 2 cells of 5 x 4 px, margin 2, gap 3; cell n has n + 1 opaque pixels in its top row.
    let (width, height) = (2 * 2 + 3 * 5 + 2 * 3, 2 * 2 + 2 * 4 + 3);
    let image = png(width, height, |x, y| {
        let inside = |at: u32, cell: u32| {
            let step = at.checked_sub(2)?;
            (step % (cell + 3) < cell).then_some((step / (cell + 3), step % (cell + 3)))
        };
        match (inside(x, 5), inside(y, 4)) {
            (Some((column, dx)), Some((row, 0))) if dx < (row * 3 + column + 1).min(5) => [1, 2, 3, 255],
            _ => [0; 4],
        }
    });
    let sheet = "cell = [5, 4]\nmargin = 2\ngap = 3";
    let project = odd(
        sheet,
        "cells = \"4-0\"",
        &shape("box").replace("kind = \"box\"", "kind = \"box\"\nfit = \"cover\""),
        image,
    );
    project.ok(&["fit"]);
    let fits = fits(&project);
    for (number, frame) in fits["frames"].as_array().unwrap().iter().enumerate() {
        let cell = 4 - number;
        let expected = [2 + cell % 3 * 8, 2 + cell / 3 * 7, 5, 4];
        assert_eq!(frame["rect"], serde_json::json!(expected), "order as written, last first");
        assert_eq!(frame["shapes"][0]["box"][2].as_f64().unwrap() as usize, cell + 1);
    }
    project.edit("it.actor.toml", "cells = \"4-0\"", "cells = \"6\"");
    project.refused(&["fit"], &["cell 6 is past the end", "0 to 5"]);
}

#[test]
fn alpha_region_and_sides_choose_the_pixels_that_count() {
    // A trunk of 4 x 12 px under a haze of alpha 60, 8 px wide, on the right half of a cell of 16 px.
    let image = png(16, 16, |x, y| match (x, y) {
        (10..14, 4..16) => [9, 9, 9, 255],
        (8..16, 0..16) => [9, 9, 9, 60],
        _ => [0; 4],
    });
    let cover = "role = \"hurt\"\nkind = \"box\"\nfit = \"cover\"\nlayer = \"hero\"\n";
    let cases = [
        ("", [10.0, 4.0, 4.0, 12.0]),
        ("alpha = 50", [8.0, 0.0, 8.0, 16.0]),
        ("region = \"bottom 25%\"", [10.0, 13.0, 4.0, 3.0]),
        ("region = \"left 50%\"", [10.0, 4.0, 2.0, 12.0]),
        ("region = [0, 0, 12, 9]", [10.0, 4.0, 2.0, 5.0]),
        ("top = 2.5", [10.0, 2.5, 4.0, 13.5]),
        ("top = 6\nright = 20", [10.0, 6.0, 10.0, 10.0]),
    ];
    for (option, [x, y, width, height]) in cases {
        let project = odd("", "cells = \"0\"", &format!("[shape.it]\n{cover}{option}\n"), image.clone());
        project.ok(&["fit"]);
        // The pivot is the trunk's foot, (12, 16).
        let expected = serde_json::json!([x - 12.0, y - 16.0, width, height]);
        assert_eq!(fits(&project)["frames"][0]["shapes"][0]["box"], expected, "{option}");
    }
}

#[test]
fn shapes_held_over_frames_of_different_sizes_lie_over_each_other_by_the_pivot() {
    // 8 x 8 and 16 x 8 cells of one opaque sheet: feet in the middle of each, so the wide one reaches 4 px further out.
    let body = "[shape.body]\nrole = \"body\"\nkind = \"box\"\nfit = \"cover\"\nshare = \"actor\"\nlayer = \"hero\"\n";
    let sheet = "cell = [8, 8]\n[[sheet]]\nname = \"wide\"\nimage = \"it.png\"\ncell = [16, 8]";
    let two = "cells = \"0\"\n[animation.sprawl]\nsheet = \"wide\"\ncells = \"0\"";
    let project = odd(sheet, two, body, png(16, 8, |_, _| [9, 9, 9, 255]));
    project.ok(&["fit"]);
    let fitted = fits(&project);
    assert_eq!(fitted["frames"][0]["pivot"], serde_json::json!([4.0, 8.0]));
    assert_eq!(fitted["frames"][1]["pivot"], serde_json::json!([8.0, 8.0]));
    for frame in 0..2 {
        assert_eq!(fitted["frames"][frame]["shapes"][0]["box"], serde_json::json!([-8.0, -8.0, 16.0, 8.0]));
    }
    // Shared 64 px2 of 128 on the narrow frame, all of it on the wide one.
    assert_eq!(fitted["frames"][0]["shapes"][0]["quality"]["iou"], 0.5);
    assert_eq!(fitted["frames"][1]["shapes"][0]["quality"]["iou"], 1.0);
    // Pivots given by frame move the same art: 3 px further left in the second frame, by half a pixel in the third.
    let each = "cells = \"0,0,0\"\npivot = [[4, 8], [7, 8], [4.5, 8]]";
    let project = odd("cell = [8, 8]", each, body, png(16, 8, |_, _| [9, 9, 9, 255]));
    project.ok(&["fit"]);
    assert_eq!(fits(&project)["frames"][2]["shapes"][0]["box"], serde_json::json!([-7.0, -8.0, 11.0, 8.0]));
    project.ok(&["draw"]);
}

#[test]
fn grey_indexed_and_deep_pictures_give_the_same_shape() {
    let set = |x: u32, y: u32| (2..7).contains(&x) && (1..8).contains(&y) && !(x == 2 && y == 1);
    let plain = png(8, 8, |x, y| [255, 255, 255, if set(x, y) { 255 } else { 0 }]);
    let encoded = |colour, depth, palette: bool, pixel: &dyn Fn(bool) -> Vec<u8>| {
        let mut bytes = Vec::new();
        let mut encoder = png::Encoder::new(&mut bytes, 8, 8);
        encoder.set_color(colour);
        encoder.set_depth(depth);
        if palette {
            encoder.set_palette(vec![0, 0, 0, 255, 255, 255]);
            encoder.set_trns(vec![0, 255]);
        }
        let data: Vec<u8> =
            (0..8).flat_map(|y| (0..8).map(move |x| (x, y))).flat_map(|(x, y)| pixel(set(x, y))).collect();
        encoder.write_header().unwrap().write_image_data(&data).unwrap();
        bytes
    };
    use png::{BitDepth, ColorType};
    let grey = encoded(ColorType::GrayscaleAlpha, BitDepth::Eight, false, &|set| vec![255, if set { 255 } else { 0 }]);
    let deep = encoded(ColorType::Rgba, BitDepth::Sixteen, false, &|set| {
        [[255; 6], if set { [255; 6] } else { [0; 6] }].concat()[..].iter().take(8).copied().collect()
    });
    let indexed = encoded(ColorType::Indexed, BitDepth::Eight, true, &|set| vec![u8::from(set)]);
    let outline = |image: Vec<u8>| {
        let project = odd("", "cells = \"0\"", &shape("outline"), image);
        project.ok(&["fit"]);
        fits(&project)["frames"][0]["shapes"][0]["points"].clone()
    };
    let expected = outline(plain);
    assert_eq!(outline(grey), expected);
    assert_eq!(outline(indexed), expected);
    assert_eq!(outline(deep), expected);
}

#[test]
fn a_take_that_counts_y_up_says_the_same() {
    let down = Project::fitted();
    let up = Project::fitted();
    up.edit("finitor.toml", "y_axis = \"down\"", "y_axis = \"up\"");
    let rows = up.read("takes/faults.csv");
    up.write("takes/faults.csv", turned_take(&rows));
    let brief = |project: &Project| -> Vec<(Value, Value, i64)> {
        let result = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
        let findings = result["findings"].as_array().unwrap();
        let depth = |f: &Value| (f["figure"].as_f64().unwrap() * 1e6).round() as i64;
        findings.iter().map(|f| (f["rule"].clone(), f["ticks"].clone(), depth(f))).collect()
    };
    assert_eq!(brief(&up), brief(&down));
    // Read the wrong way round, the take differs from one that is only faulty.
    down.write("takes/up.csv", turned_take(&down.read("takes/clean.csv")));
    let args = |take| ["check", take, "--rule", "nothing_met", "--format", "json"];
    let found = down.run(&args("takes/up.csv")).take()["findings"].clone();
    assert!(found[0]["fix"].as_str().unwrap().starts_with("Set `y_axis = \"up\"` in [project]: then"), "{found:#}");
    assert_eq!(down.run(&args("takes/faults.csv")).take()["findings"], serde_json::json!([]));
}

/// A take of the sample with y counted up; its stage is 280 px high.
fn turned_take(rows: &str) -> String {
    let turned = rows.lines().enumerate().map(|(line, row)| {
        let mut fields: Vec<String> = row.split(',').map(String::from).collect();
        if line > 0 {
            fields[3] = format!("{:.4}", 280.0 - fields[3].parse::<f64>().unwrap());
        }
        fields.join(",")
    });
    turned.collect::<Vec<_>>().join("\n")
}

#[test]
fn gaps_extra_columns_and_instances_are_read() {
    let project = Project::fitted();
    // Left-out ticks break the sweep: the same fall as planted, but with the tick between missing.
    let head = "actor,tick,x,y,vx,vy,states,facing,animation,frame\n";
    let fall = "keeper,10,590,165,0,48,,right,fall,0\nkeeper,12,590,213,0,48,,right,fall,0\n";
    project.write("takes/gap.csv", format!("{head}{fall}"));
    let result = project.ok(&["check", "takes/gap.csv", "--format", "json"]).take();
    assert_eq!(result["findings"], Value::Array(vec![]));
    let whole = fall.replace("keeper,12", "keeper,11");
    project.write("takes/whole.csv", format!("{head}{whole}"));
    assert_eq!(project.run(&["check", "takes/whole.csv"]).code, 1);
    // Two gulls by number, one of them off the stage.
    let gulls = "gull:1,0,600,60,0,0,,right,glide,0\ngull:2,0,600,90,0,0,,right,glide,0\ngull:1,1,655,60,0,0,,right,glide,0\ngull:2,1,604,90,0,0,,right,glide,0\n";
    project.write("takes/gulls.csv", format!("{head}{gulls}"));
    let result = project.run(&["check", "takes/gulls.csv", "--format", "json"]).take();
    assert_eq!(result["actors"], serde_json::json!(["gull:1", "gull:2"]));
    assert_eq!(result["findings"].as_array().unwrap().len(), 1);
    assert_eq!(result["findings"][0]["subject"], "gull:1");
}

#[test]
fn takes_that_are_none_say_what_they_are_and_what_to_write() {
    let project = Project::fitted();
    let head = "tick,actor,x,y,facing,animation,frame\n";
    let utf16: Vec<u8> = [0xff, 0xfe].into_iter().chain(head.bytes().flat_map(|byte| [byte, 0])).collect();
    let cases: [(&str, &[u8], &[&str]); 7] = [
        ("empty", b"", &["the take is empty", "tick,actor,x,y,facing,animation,frame"]),
        ("bare", head.as_bytes(), &["a header but no rows", "docs/recording.md"]),
        ("utf16", &utf16, &["UTF-16", "save the take as UTF-8"]),
        ("list", b"[{\"tick\":0}]", &["is one JSON list", "one object a line"]),
        ("latin", b"tick,actor,x,y\n0,k\xe9per,1,2\n", &["line 2", "field 2 is not UTF-8 text"]),
        // Two readings of x are none.
        ("two", b"tick,actor,px,pos_x,y\n", &["unknown column \"px\"", "missing column: x"]),
        ("far", b"tick,actor,x,y\n0,keeper,nan,1e9\n", &["line 2", "x is \"nan\"; expected a number up to 1e7"]),
    ];
    for (name, bytes, words) in cases {
        let take = format!("takes/{name}.csv");
        project.write(&take, bytes);
        project.refused(&["check", &take], words);
    }
    // Other names of which one reading is left are read, and told.
    let wall = std::fs::read_to_string(project.path("takes/faults.csv")).unwrap();
    let (_, rows) = wall.split_once('\n').unwrap();
    let columns = wall.lines().next().unwrap();
    let other = columns.replace("tick", "t").replace("actor", "Name").replace(",x,y", ",px,py");
    project.write("takes/faults2.csv", format!("{other}\n{rows}").as_bytes());
    let both =
        ["faults", "faults2"].map(|take| project.run(&["check", &format!("takes/{take}.csv"), "--format", "json"]));
    let said = both[1].err.clone();
    assert!(said.contains("faults2.csv: its columns have other names") && said.contains(columns), "{said}");
    let [first, second] = both.map(|run| run.take()["findings"].clone());
    assert_eq!(first, second);
}

#[test]
fn a_take_says_who_stands_on_slopes_by_the_middle_of_its_feet() {
    let body = "[shape.body]\nrole = \"body\"\nbox = [3, 0, 10, 20]\nlayer = \"hero\"\n";
    let project = odd("", "cells = \"0\"", body, png(16, 20, |_, _| [9, 9, 9, 255]));
    let hill = "[[solid]]\nname = \"hill\"\npoints = [[60, 80], [120, 50], [200, 50], [200, 90], [60, 90]]\nlayer = \"ground\"\n";
    project.write("yard.stage.toml", format!("{STAGE}{hill}"));
    project.ok(&["fit"]);
    let ground = |x: f64| 80.0 - (x.clamp(60.0, 120.0) - 60.0) / 2.0;
    let take = |sunk: &dyn Fn(f64) -> f64| {
        let rows = (0..100).map(|tick| (tick, 31.7 + 1.1 * f64::from(tick)));
        let rows = rows.map(|(tick, x)| format!("{tick},it,{x:.3},{:.3},right,be,0\n", ground(x) + sunk(x)));
        format!("tick,actor,x,y,facing,animation,frame\n{}", rows.collect::<String>())
    };
    project.write("walk.csv", take(&|_| 0.0));
    let told = project.ok(&["check", "walk.csv"]).out;
    // The end of the bottom is 5 px ahead, where the ground is 2.5 px higher.
    let line = "Slopes: it stands on them by the middle of its bottom, so that its body lies up to 2.24 px in them, as its game has it.";
    assert!(told.contains("clean.") && told.contains(line), "{told}");
    let slopes = &project.ok(&["check", "walk.csv", "--format", "json"]).take()["written"]["slopes"];
    assert_eq!(*slopes, serde_json::json!([{ "actor": "it", "points": "middle", "depth_px": 2.236 }]));
    // With its feet under the ground it is at fault.
    project.write("sunk.csv", take(&|x| if (70.0..110.0).contains(&x) { 1.5 } else { 0.0 }));
    let sunk = project.run(&["check", "sunk.csv"]);
    assert!(sunk.code == 1 && sunk.out.contains("yard/hill") && !sunk.out.contains("Slopes:"), "{}", sunk.out);
}

#[test]
fn a_game_seen_from_above_says_so_and_hears_nothing_of_ground() {
    let body = "[shape.body]\nrole = \"body\"\nbox = [3, 12, 10, 8]\nlayer = \"hero\"\n";
    let project = odd("", "cells = \"0\"", body, png(16, 20, |_, _| [9, 9, 9, 255]));
    let wall = "[[solid]]\nname = \"back\"\nbox = [0, 0, 240, 20]\nlayer = \"ground\"\n";
    project.write("yard.stage.toml", format!("{STAGE}{wall}"));
    project.ok(&["fit"]);
    // Up to the wall behind, along it, and down again, in four rounds: the head is drawn over the wall.
    let legs = [(0.0, -1.0, 30), (1.0, 0.0, 40), (0.0, 1.0, 30), (-1.0, 0.0, 40)];
    let (mut at, mut tick, mut rows) = ((60.0, 58.0), 0, String::new());
    for (dx, dy, count) in legs.into_iter().cycle().take(16) {
        for _ in 0..count {
            at = (at.0 + dx, at.1 + dy);
            rows += &format!("{tick},it,{},{},right,be,0\n", at.0, at.1);
            tick += 1;
        }
    }
    project.write("about.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
    let told = project.ok(&["check", "about.csv"]).out;
    let line = "View: nothing falls in this take. Is it seen from above? Then set `view = \"top_down\"` in [project].";
    assert!(told.contains("art_in_wall") && told.contains(line), "{told}");
    let json = project.ok(&["check", "about.csv", "--format", "json"]).take();
    assert_eq!(json["written"]["nothing_falls"], true);
    project.edit("finitor.toml", "[project]\n", "[project]\nview = \"top_down\"\n");
    let told = project.ok(&["check", "about.csv"]).out;
    assert!(told.contains("clean.") && !told.contains("View:"), "{told}");
    project.edit("finitor.toml", "top_down", "topdown");
    project.refused(&["check", "about.csv"], &["finitor.toml", "top_down"]);
}

#[test]
fn ticks_that_are_rows_milliseconds_or_every_third_step_are_told() {
    let project = Project::fitted();
    let clean = std::fs::read_to_string(project.path("takes/clean.csv")).unwrap();
    let (head, rows) = clean.split_once('\n').unwrap();
    assert!(head.starts_with("tick,"));
    let numbered = |number: &dyn Fn(u64, u64) -> Option<u64>| {
        let rows = rows.lines().zip(0..).filter_map(|(row, count)| {
            let (tick, rest) = row.split_once(',').unwrap();
            number(tick.parse().unwrap(), count).map(|tick| format!("{tick},{rest}\n"))
        });
        format!("{head}\n{}", rows.collect::<String>())
    };
    let told = |name: &str, take: String, words: [&str; 2]| {
        project.write(name, take);
        let run = project.run(&["check", name, "--format", "json"]);
        let findings = run.take()["findings"].clone();
        let [finding] = &findings.as_array().unwrap()[..] else { panic!("{findings}") };
        assert_eq!((run.code, &finding["rule"]), (1, &serde_json::json!("skipped_ticks")));
        for (key, words) in ["message", "fix"].into_iter().zip(words) {
            assert!(finding[key].as_str().unwrap().contains(words), "{finding}");
        }
    };
    // The take has three actors at a time, and rows of one kind only here and there.
    told("rows.csv", numbered(&|_, count| Some(count)), ["those of", "not how many rows"]);
    told("time.csv", numbered(&|tick, _| Some((tick * 50 + 1) / 3)), ["16 to ", "look like milliseconds"]);
    told("third.csv", numbered(&|tick, _| tick.is_multiple_of(3).then_some(tick)), ["3 ", "tick"]);
}
