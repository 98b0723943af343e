//! Pictures of takes: ticks side by side and moving, ways, time, other colours, and what helps to read places off.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use roxmltree::Document;
use std::fs::File;
use std::io::BufReader;
use support::Project;

fn svg(project: &Project, name: &str) -> String {
    project.read(&format!("pictures/{name}.svg"))
}

/// All lines of text in a picture.
fn texts(svg: &str) -> Vec<String> {
    let document = Document::parse(svg).unwrap();
    let texts = document.descendants().filter(|node| node.has_tag_name("text"));
    texts.map(|node| node.text().unwrap_or_default().to_string()).collect()
}

fn count(svg: &str, tag: &str) -> usize {
    Document::parse(svg).unwrap().descendants().filter(|node| node.has_tag_name(tag)).count()
}

#[test]
fn ticks_stand_side_by_side_or_move() {
    let project = Project::fitted();
    let take = project.read("takes/faults.csv");
    let rows = |ticks: std::ops::RangeInclusive<u64>| {
        take.lines().skip(1).filter(|line| ticks.contains(&line.split(',').next().unwrap().parse().unwrap())).count()
    };
    project.ok(&["draw", "--take", "takes/faults.csv", "--ticks", "120-131"]);
    let strip = svg(&project, "pier-faults-120-131");
    let titles = texts(&strip);
    for tick in 120..=131 {
        assert!(titles.iter().any(|text| text.starts_with(&format!("tick {tick} ("))), "{tick}: {titles:?}");
    }
    assert_eq!(count(&strip, "use"), rows(120..=131));
    let told = titles.iter().filter(|text| *text == "error no_headroom, 12.31 px").count();
    assert_eq!(told, 6, "the fault goes on from 126 to 131");
    // Moving, with a page a tick, as fast as it was recorded.
    project.ok(&["draw", "--take", "takes/faults.csv", "--ticks", "120-131", "--as", "gif"]);
    let mut options = gif::DecodeOptions::new();
    options.set_color_output(gif::ColorOutput::RGBA);
    let mut reader = options.read_info(File::open(project.path("pictures/pier-faults-120-131.gif")).unwrap()).unwrap();
    let (mut frames, mut hundredths) = (0, 0);
    while let Some(frame) = reader.read_next_frame().unwrap() {
        frames += 1;
        hundredths += u32::from(frame.delay);
    }
    assert_eq!((frames, hundredths), (12, 20));
    project.ok(&["draw", "--take", "takes/faults.csv", "--ticks", "120-131", "--as", "apng"]);
    let file = BufReader::new(File::open(project.path("pictures/pier-faults-120-131.apng")).unwrap());
    let reader = png::Decoder::new(file).read_info().unwrap();
    let control = reader.info().animation_control.unwrap();
    assert_eq!((control.num_frames, control.num_plays), (12, 0));
    // Same input, same bytes.
    let once = std::fs::read(project.path("pictures/pier-faults-120-131.gif")).unwrap();
    project.ok(&["draw", "--take", "takes/faults.csv", "--ticks", "120-131", "--as", "gif", "--threads", "1"]);
    assert!(once == std::fs::read(project.path("pictures/pier-faults-120-131.gif")).unwrap());
    // Ticks that are not there, and more than can be drawn.
    let none = project.run(&["draw", "--take", "takes/faults.csv", "--ticks", "5000-5010"]);
    assert!(none.code == 2 && none.err.contains("has no tick 5000"), "{}", none.err);
    let many = project.run(&["draw", "--take", "takes/clean.csv", "--ticks", "0-700"]);
    assert!(many.code == 2 && many.err.contains("name fewer"), "{}", many.err);
}

#[test]
fn ways_and_time_show_all_that_was_found() {
    let project = Project::fitted();
    let check = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    let findings = check["findings"].as_array().unwrap();
    project.ok(&["draw", "--take", "takes/faults.csv", "--path"]);
    let path = svg(&project, "pier-faults-path");
    let words = texts(&path).join(" ");
    for finding in findings.iter().filter(|finding| finding["after"].is_null()) {
        let message = finding["message"].as_str().unwrap();
        let begin: String = message.chars().take(40).collect();
        assert!(words.contains(&begin), "{message}: {words}");
    }
    let marks = texts(&path).into_iter().filter(|text| text.parse::<usize>().is_ok()).count();
    assert_eq!(count(&path, "circle"), marks + count_in_patterns(&path));
    project.ok(&["draw", "--take", "takes/faults.csv", "--timeline"]);
    let time = texts(&svg(&project, "pier-faults-timeline"));
    for name in ["errors", "warnings", "notes", "keeper", "gull", "barrel", "keeper on ground", "active hits", "zones"]
    {
        assert!(time.iter().any(|text| text == name), "{name}: {time:?}");
    }
    assert!(time.iter().any(|text| text == "tunnelled"), "{time:?}");
}

/// Circles that patterns are made of.
fn count_in_patterns(svg: &str) -> usize {
    let document = Document::parse(svg).unwrap();
    let patterns = document.descendants().filter(|node| node.has_tag_name("pattern"));
    patterns.flat_map(|pattern| pattern.descendants()).filter(|node| node.has_tag_name("circle")).count()
}

#[test]
fn other_ticks_other_colours_and_figures() {
    let project = Project::fitted();
    let draw = |more: &[&str]| {
        project.ok(&[&["draw", "--take", "takes/faults.csv", "--tick", "126"], more].concat());
        svg(&project, "pier-faults-126")
    };
    let plain = draw(&[]);
    // Three ticks before and three after, each with its actors, in the whole and in the cut-out.
    let onion = draw(&["--onion", "3"]);
    let faint = onion.matches(" opacity=\"0.3\"/>").count();
    assert_eq!(faint, 2 * 6 * 2, "two actors on six ticks, twice");
    assert_eq!(count(&onion, "use"), count(&plain, "use") + faint);
    // Grid lines and figures where they belong: the pivot's place is the take's.
    let grid = draw(&["--grid", "--numbers"]);
    assert!(count(&grid, "line") > count(&plain, "line") + 40);
    let row =
        project.read("takes/faults.csv").lines().find(|line| line.starts_with("126,keeper,")).unwrap().to_string();
    let place: Vec<f64> = row.split(',').skip(2).take(2).map(|number| number.parse().unwrap()).collect();
    assert!(texts(&grid).contains(&format!("{:.2}, {:.2}", place[0], place[1])), "{:?}", texts(&grid));
    assert!(texts(&grid).contains(&"512".to_string()));
    // Where takes count y up, so do the figures.
    project.edit("finitor.toml", "y_axis = \"down\"", "y_axis = \"up\"");
    assert!(texts(&draw(&["--numbers"])).contains(&format!("{:.2}, {:.2}", place[0], place[1])));
    project.edit("finitor.toml", "y_axis = \"up\"", "y_axis = \"down\"");
    // A light page has none of the dark page's colours.
    let light = draw(&["--theme", "light"]);
    assert_eq!(texts(&light), texts(&plain));
    let colours = |svg: &str| {
        // Pictures are placed by names such as #art0.
        let parts = svg.split("\"#").skip(1).filter(|rest| !rest.starts_with("art"));
        parts.map(|rest| rest[..6].to_string()).collect::<std::collections::BTreeSet<String>>()
    };
    assert!(colours(&light).is_disjoint(&colours(&plain)), "{:?} {:?}", colours(&light), colours(&plain));
    // Corners of an actor's shapes have their numbers.
    project.ok(&["draw", "barrel", "--numbers"]);
    let numbers = texts(&svg(&project, "barrel"));
    for corner in ["0", "1", "2", "3"] {
        assert!(numbers.contains(&corner.to_string()), "{numbers:?}");
    }
    // In the terminal: only where it has colours, or where they are asked for.
    let quiet = project.run(&["draw", "--take", "takes/faults.csv", "--preview"]);
    assert!(quiet.code == 0 && !quiet.out.contains('\u{2580}') && quiet.err.contains("no preview"), "{}", quiet.err);
    let shown = project.run(&["draw", "--take", "takes/faults.csv", "--preview", "--color", "always"]);
    let rows: Vec<&str> = shown.out.lines().filter(|line| line.contains('\u{2580}')).collect();
    assert!(rows.len() > 10 && rows.iter().all(|row| row.matches('\u{2580}').count() == 80), "{}", rows.len());
}

/// Width and height of a picture, px.
fn size(project: &Project, name: &str) -> [u32; 2] {
    let file = BufReader::new(File::open(project.path(&format!("pictures/{name}.png"))).unwrap());
    let reader = png::Decoder::new(file).read_info().unwrap();
    [reader.info().width, reader.info().height]
}

#[test]
fn pictures_of_large_stages_are_made_smaller_unless_a_scale_is_named() {
    let project = Project::fitted();
    project.edit("stages/pier.toml", "size = [640, 280]", "size = [9000, 2600]");
    for args in [
        &["draw", "pier"][..],
        &["draw", "--take", "takes/faults.csv", "--tick", "126"],
        &["draw", "--take", "takes/faults.csv", "--path"],
        &["stage", "--draw"],
        &["stage", "clearance", "--draw"],
    ] {
        let said = project.ok(args).out;
        assert!(said.contains("made smaller"), "{args:?}: {said}");
    }
    for name in ["pier", "pier-faults-126", "pier-faults-path", "pier-stage", "pier-clearance-keeper"] {
        let [width, height] = size(&project, name);
        assert!(
            width <= 4096 && height <= 4096 && width * height <= 16_000_000 && width > 3000,
            "{name}: {width} x {height}"
        );
        // The SVG shows the same, as large.
        let svg = svg(&project, name);
        let document = Document::parse(&svg).unwrap();
        let side = |side: &str| document.root_element().attribute(side).unwrap().parse::<f64>().unwrap();
        assert_eq!([side("width"), side("height")], [width, height].map(f64::from), "{name}");
    }
    project.ok(&["draw", "pier", "--scale", "1"]);
    assert_eq!(size(&project, "pier")[0], 9000);
    // Just over the limit.
    project.edit("stages/pier.toml", "size = [9000, 2600]", "size = [4500, 400]");
    project.ok(&["draw", "--take", "takes/faults.csv", "--tick", "126"]);
    let [width, _] = size(&project, "pier-faults-126");
    assert_eq!(width, 4096);
}
