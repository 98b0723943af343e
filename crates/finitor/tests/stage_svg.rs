//! Stages drawn in a vector editor.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use support::Project;

/// A stage that is only a drawing.
fn drawn(svg: &str, more: &str) -> Project {
    let project = Project::sample();
    project.edit("finitor.toml", "stages = [\"stages/*.toml\"]", "stages = [\"stages/bay.toml\"]");
    project.write("stages/bay.toml", format!("[stage]\nname = \"bay\"\nsize = [640, 280]\nsvg = \"bay.svg\"\n{more}"));
    project.write("stages/bay.svg", svg);
    project.ok(&["fit"]);
    project
}

fn listed(project: &Project) -> Value {
    project.ok(&["stage", "--format", "json"]).json()["stages"][0].clone()
}

fn thing(stage: &Value, name: &str) -> Value {
    let things = stage["things"].as_array().unwrap();
    things.iter().find(|thing| thing["name"] == name).unwrap_or_else(|| panic!("no {name}: {stage:#}")).clone()
}

fn svg(body: &str) -> String {
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 640 280\" width=\"640\" height=\"280\">\n{body}\n</svg>\n"
    )
}

#[test]
fn a_stage_written_as_a_drawing_reads_back_the_same() {
    let project = Project::fitted();
    // More of each sort, with numbers that no short decimal holds.
    let more = "[[solid]]\nname = \"buoy\"\ncircle = [500.1, 100.7, 13.3]\nlayer = \"ground\"\nmask = []\n\
        [[solid]]\nname = \"rope\"\nchain = [[40, 40], [90.3, 61.7], [140, 40]]\nthickness = 3\nlayer = [\"ground\", \"ledge\"]\n\
        [[one_way]]\nname = \"sail\"\npoints = [[420, 60], [470, 90], [460, 100], [415, 70]]\npasses = 33.5\nlayer = \"ledge\"\nmask = [\"hero\"]\n\
        [[zone]]\nname = \"low\"\nbox = [30, 160, 16, 40]\nmask = [\"hero\"]\neffect = \"warp\"\nto = \"high\"\nlanding = [24.1, 20]\n\
        landing_facing = \"left\"\ncooldown = 60\nonce = true\n\
        [[zone]]\nname = \"high\"\nbox = [250, 130, 16, 40]\nmask = []\neffect = \"warp\"\nto = \"low\"\n\
        [[spot]]\nname = \"lamp_post\"\nat = [33.3, 44.4]\n";
    let own = project.read("stages/pier.toml");
    let (hand, tiles) = own.split_once("[tiles]").unwrap();
    project.write("stages/pier.toml", format!("{hand}{more}\n[tiles]{tiles}"));
    let before = listed(&project);
    let said = project.ok(&["stage", "--to-svg", "stages/pier.svg"]).out;
    assert!(said.contains("3 things of tiles and borders stay in the stage file"), "{said}");
    assert!(said.contains("write svg = \"pier.svg\" under [stage]"), "{said}");
    let head = "[stage]\nname = \"pier\"\nsize = [640, 280]\nsvg = \"pier.svg\"\n";
    project.write("stages/pier.toml", format!("{head}[tiles]{tiles}"));
    let after = listed(&project);
    // Zones come first in the drawing, tiles last in the stage: names decide, and every number is the same to the bit.
    for key in ["things", "spawns", "spots"] {
        let sorted = |stage: &Value| {
            let mut all: Vec<String> = stage[key].as_array().unwrap().iter().map(Value::to_string).collect();
            all.sort();
            all
        };
        assert_eq!(sorted(&before), sorted(&after), "{key}");
    }
    let written = project.read("stages/pier.svg");
    project.ok(&["stage", "--to-svg", "stages/again.svg"]);
    assert_eq!(project.read("stages/again.svg"), written);
    // A check says the same too.
    let found = project.run(&["check", "takes/faults.csv", "--format", "json"]).out;
    project.write("stages/pier.toml", format!("{hand}{more}\n[tiles]{tiles}"));
    assert_eq!(project.run(&["check", "takes/faults.csv", "--format", "json"]).out, found);
}

#[test]
fn shapes_groups_transforms_and_the_view_box_are_followed() {
    let body = "<g class=\"solid on-ground\" transform=\"translate(100 50)\">\n\
        <rect id=\"plain\" x=\"1\" y=\"2\" width=\"30\" height=\"20\"/>\n\
        <g transform=\"rotate(90) scale(2 3)\"><g transform=\"matrix(1 0 0.5 1 4 0)\">\
        <polygon id=\"nested\" points=\"0,0 10,0 10,4 0,4\"/></g></g>\n\
        <polyline id=\"line\" points=\"200 0 240 0 240 30 200 0\"/>\n\
        <path id=\"frame\" d=\"M300 0h40v40h-40z m10 10h20v20h-20z\"/>\n\
        <path id=\"two\" d=\"M300 60h10v10h-10z M320 60h10v10h-10z\"/>\n\
        <line id=\"bar\" x1=\"0\" y1=\"100\" x2=\"60\" y2=\"100\" stroke-width=\"4\"/>\n\
        <rect class=\"zone hazard detects-hero\" id=\"inner\" x=\"0\" y=\"150\" width=\"9\" height=\"9\"/>\n\
        </g>\n\
        <rect class=\"one-way passes-left on-ledge\" x=\"500\" y=\"100\" width=\"8\" height=\"50\"/>\n\
        <circle class=\"spawn\" data-actor=\"keeper\" data-facing=\"left\" cx=\"60\" cy=\"90\" r=\"5\"/>\n\
        <circle class=\"spot\" id=\"flag\" cx=\"70\" cy=\"91\" r=\"5\"/>";
    let project = drawn(&svg(body), "");
    let stage = listed(&project);
    assert_eq!(thing(&stage, "plain")["box"], json!([101.0, 52.0, 30.0, 20.0]));
    // By hand: x' = x + 0.5 y + 4, y' = y; times (2, 3); a quarter turn (x, y) -> (-y, x); and moved.
    let nested = thing(&stage, "nested");
    assert_eq!((&nested["box"], &nested["area_px2"]), (&json!([88.0, 58.0, 12.0, 24.0]), &json!(240.0)));
    assert_eq!(thing(&stage, "line")["area_px2"], json!(600.0));
    let frame = thing(&stage, "frame");
    assert_eq!((&frame["holes"], &frame["area_px2"]), (&json!(1), &json!(1200.0)));
    assert_eq!(thing(&stage, "two_2")["box"], json!([420.0, 110.0, 10.0, 10.0]));
    assert_eq!(thing(&stage, "bar")["box"], json!([100.0, 148.0, 60.0, 4.0]));
    assert_eq!(thing(&stage, "inner")["kind"], json!("zone, hazard"));
    assert_eq!(thing(&stage, "svg_one_way_1")["kind"], json!("one-way, passes left"));
    assert_eq!(stage["spawns"], json!([{"actor": "keeper", "at": [60.0, 90.0], "facing": "left"}]));
    assert_eq!(stage["spots"], json!([{"name": "flag", "at": [70.0, 91.0]}]));
    assert_eq!(stage["unread"], json!([]));
    // The same drawing in units of half a px, off the corner, and shown in another ratio than its own.
    for (head, place) in [
        ("viewBox=\"0 0 320 140\" width=\"640\" height=\"280\"", json!([202.0, 104.0, 60.0, 40.0])),
        ("viewBox=\"100 50 640 280\" width=\"640px\" height=\"280px\"", json!([1.0, 2.0, 30.0, 20.0])),
        ("viewBox=\"0 0 640 280\" width=\"640\" height=\"380\"", json!([101.0, 102.0, 30.0, 20.0])),
        ("viewBox=\"0 0 640 280\" width=\"20cm\" height=\"100%\"", json!([101.0, 52.0, 30.0, 20.0])),
        (
            "viewBox=\"0 0 640 280\" width=\"320\" height=\"280\" preserveAspectRatio=\"none\"",
            json!([50.5, 52.0, 15.0, 20.0]),
        ),
    ] {
        let other = svg(body).replace("viewBox=\"0 0 640 280\" width=\"640\" height=\"280\"", head);
        project.write("stages/bay.svg", other);
        assert_eq!(thing(&listed(&project), "plain")["box"], place, "{head}");
    }
}

#[test]
fn curves_are_followed_within_the_tolerance() {
    let body = "<g class=\"solid on-ground\"><circle id=\"ball\" cx=\"100\" cy=\"100\" r=\"40\"/>\
        <ellipse id=\"egg\" cx=\"300\" cy=\"100\" rx=\"60\" ry=\"20\"/>\
        <path id=\"arc\" d=\"M500 100 A 40 40 0 0 1 580 100 Z\"/>\
        <rect id=\"pad\" x=\"20\" y=\"180\" width=\"100\" height=\"60\" rx=\"30\" ry=\"15\"/></g>";
    let whole = [std::f64::consts::PI * 1600.0, std::f64::consts::PI * 1200.0, std::f64::consts::PI * 800.0];
    let pad = 100.0 * 60.0 - (4.0 - std::f64::consts::PI) * 30.0 * 15.0;
    let mut last = 0.0;
    for tolerance in [1.0, 0.25, 0.01] {
        let project = drawn(&svg(body), &format!("svg_tolerance = {tolerance}\n"));
        let stage = listed(&project);
        for (name, area) in ["ball", "egg", "arc", "pad"].into_iter().zip(whole.into_iter().chain([pad])) {
            let found = thing(&stage, name)["area_px2"].as_f64().unwrap();
            // A band as wide as the tolerance along the outline, no longer than that of a box around it.
            assert!(
                (found - area).abs() <= tolerance * 400.0 && found <= area + 0.01 * area,
                "{name}: {found} for {area}"
            );
        }
        let corners = thing(&stage, "ball")["corners"].as_f64().unwrap();
        assert!(corners > last, "{corners} at {tolerance}");
        last = corners;
    }
}

#[test]
fn what_is_not_read_is_listed_with_its_line() {
    let body = "<title>the bay</title><defs><clipPath id=\"c\"><rect width=\"9\" height=\"9\"/></clipPath></defs>\n\
        <text class=\"solid on-ground\" x=\"4\" y=\"4\">quay</text>\n\
        <image href=\"https://example.org/a.png\" width=\"4\" height=\"4\"/>\n\
        <use href=\"other.svg#hill\"/>\n\
        <rect id=\"sketch\" class=\"cls-1\" width=\"9\" height=\"9\"/>\n\
        <rect class=\"solid on-ground\" id=\"cut\" clip-path=\"url(#c)\" width=\"9\" height=\"9\"/>\n\
        <g style=\"opacity:1; display: none\"><rect class=\"solid on-ground\" width=\"9\" height=\"9\"/></g>\n\
        <rect class=\"solid on-ground\" id=\"flat\" width=\"9\" height=\"0\"/>";
    let project = drawn(&svg(body), "");
    let unread = listed(&project)["unread"].clone();
    let expected = [
        "line 3: text is not a shape",
        "line 4: image is not a shape",
        "line 5: use is not a shape",
        "line 6: rect \"sketch\" has no class that says what it is",
        "line 7: rect \"cut\" is read whole: its clip-path is not applied",
        "line 8: g is hidden",
        "line 9: rect \"flat\" has no extent",
    ];
    assert_eq!(unread, json!(expected));
    let said = project.ok(&["stage"]);
    assert!(said.out.contains("not read from the drawing: line 3: text is not a shape"), "{}", said.out);
    project.write("takes/one.csv", "tick,actor,x,y,facing,animation,frame\n0,keeper,60,200,right,idle,0\n");
    let said = project.run(&["check", "takes/one.csv"]).err;
    assert!(said.contains("7 items of bay's drawing ignored; `finitor stage` lists them"), "{said}");
}

#[test]
fn mistakes_in_drawings_are_told_with_line_and_mend() {
    let rect =
        |attributes: &str| svg(&format!("<rect id=\"quay\" x=\"1\" y=\"1\" width=\"9\" height=\"9\" {attributes}/>"));
    let deep = format!("{}<rect/>{}", "<g>".repeat(300), "</g>".repeat(300));
    let bomb = "<!DOCTYPE svg [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;&a;&a;&a;&a;\">]>\n<svg xmlns=\"http://www.w3.org/2000/svg\"><text>&b;</text></svg>";
    let outside = "<!DOCTYPE svg [<!ENTITY a SYSTEM \"file:///etc/passwd\">]>\n<svg xmlns=\"http://www.w3.org/2000/svg\"><text>&a;</text></svg>";
    let many = format!("<path class=\"solid on-ground\" d=\"M0 0 {}z\"/>", "l1 1 ".repeat(20_000));
    let cases: Vec<(String, &[&str])> = vec![
        (
            rect("class=\"solid on-grond\""),
            &["stages/bay.svg:2", "there is no layer \"grond\"", "did you mean on-ground?"],
        ),
        (rect("class=\"solid\""), &["no class says what it is on", "add for example on-ground"]),
        (rect("class=\"zone detects-hero\""), &["no class says what it does", "add hazard, goal, event or warp"]),
        (rect("class=\"zone hazard\""), &["no class says what it detects", "detects-hero"]),
        (rect("class=\"zone warp detects-hero\""), &["a warp has no data-to"]),
        (
            rect("class=\"zone warp detects-hero\" data-to=\"quai\""),
            &["bay.svg:2", "there is no zone \"quai\"", "did you mean \"quay\"?"],
        ),
        (
            rect("class=\"zone warp detects-hero\" data-to=\"quay\" data-landing=\"1\""),
            &["data-landing is two numbers, not \"1\""],
        ),
        (rect("class=\"one_way on-ledge passes-upp\""), &["passes-upp is no way to pass", "passes-up"]),
        (rect("class=\"spawn\""), &["it has no data-actor"]),
        (rect("class=\"solid on-ground\" transform=\"rotat(3)\""), &["a transform cannot be read"]),
        (rect("class=\"solid on-ground\" transform=\"scale(1e308)\""), &["beyond 10000000 px"]),
        (rect("class=\"solid on-ground\" rx=\"3cm\""), &["lengths are plain numbers or px"]),
        (svg("<rect class=\"solid on-ground\" x=\"1e308\" width=\"9\" height=\"9\"/>"), &["beyond 10000000 px"]),
        (svg("<rect class=\"solid on-ground\" x=\"NaN\" width=\"9\" height=\"9\"/>"), &["`x` is no length"]),
        (
            svg("<path class=\"solid on-ground\" d=\"M 0 0 L 9 9 L 9 0 L 0 9 Z\"/>"),
            &["it is no outline", "meets the edge"],
        ),
        (svg("<path class=\"solid on-ground\" d=\"M 0 0 L 9 9\"/>"), &["it has no ring of three points"]),
        (svg("<path class=\"solid on-ground\" d=\"what\"/>"), &["its `d` cannot be read"]),
        (svg(&many), &["it has more than 10000 points"]),
        (svg(&deep), &["it lies in more than 256 groups"]),
        (svg("<rect id=\"a b\" class=\"solid on-ground\" width=\"9\" height=\"9\"/>"), &["the id cannot name a thing"]),
        (
            svg(
                "<g class=\"solid on-ground\"><rect id=\"a\" width=\"9\" height=\"9\"/><rect id=\"a\" width=\"9\" height=\"9\"/></g>",
            ),
            &["\"a\" is the name of another thing on this stage"],
        ),
        (bomb.into(), &["is no SVG", "without a document type"]),
        (outside.into(), &["is no SVG"]),
        ("<html/>".into(), &["the outermost element is not <svg>"]),
        (String::new(), &["is no SVG"]),
        ("<svg".into(), &["is no SVG"]),
    ];
    let project = drawn(&svg(""), "");
    for (drawing, words) in cases {
        project.write("stages/bay.svg", &drawing);
        project.refused(&["stage"], words);
    }
    // Nesting far beyond any stack.
    project.write("stages/bay.svg", svg(&format!("{}{}", "<g>".repeat(100_000), "</g>".repeat(100_000))));
    project.refused(&["stage"], &["stages/bay.svg"]);
    project.edit("stages/bay.toml", "svg = \"bay.svg\"", "svg = \"bai.svg\"");
    project.refused(&["stage"], &["there is no file \"bai.svg\" beside this one", "--to-svg"]);
    project.edit("stages/bay.toml", "svg = \"bai.svg\"", "svg = \"../../bai.svg\"");
    project.refused(&["stage"], &["leaves the project's folder"]);
    project.edit("stages/bay.toml", "svg = \"../../bai.svg\"", "svg_tolerance = 0.1");
    project.refused(&["stage"], &["`svg_tolerance` goes with `svg`"]);
}

#[test]
fn ten_thousand_shapes_are_read_as_what_they_are() {
    let shape = |i: u32| {
        let (x, y) = (f64::from(i % 100) * 6.0, f64::from(i / 100) * 2.5);
        format!("<path id=\"p{i}\" d=\"M{x} {y}c 2 0 4 1 4 2 h -4 z\"/>\n")
    };
    let body: String = (0..10_000).map(shape).collect();
    let project = drawn(&svg(&format!("<g class=\"solid on-ground\">{body}</g>")), "");
    let stage = listed(&project);
    assert_eq!(stage["things"].as_array().unwrap().len(), 10_000);
    let last = thing(&stage, "p9999");
    assert_eq!(last["box"], json!([594.0, 247.5, 4.0, 2.0]));
}

#[test]
fn layers_are_renamed_in_drawings_too() {
    let drawing = "<svg xmlns=\"http://www.w3.org/2000/svg\"><g class=\"solid  on-ground detects-hero\"><rect class='x on-ledge on-ground' \
        id=\"on-ground\" width=\"9\" height=\"9\"/></g></svg>\n";
    let project = drawn(drawing, "");
    project.ok(&["layers", "rename", "ground", "floor"]);
    let renamed = drawing.replace("on-ground detects", "on-floor detects").replace("on-ground'", "on-floor'");
    assert_eq!(project.read("stages/bay.svg"), renamed, "the id is no word of a class");
    project.ok(&["stage"]);
    project.ok(&["layers", "rename", "floor", "ground"]);
    assert_eq!(project.read("stages/bay.svg"), drawing);
    project.refused(
        &["layers", "remove", "ledge"],
        &["stages/bay.svg:1", "layer \"ledge\" is in use: the class word on-ledge"],
    );
}
