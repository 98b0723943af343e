//! Mistakes that a program could pass over in silence. Each is reported with its place and the fix, and ends with the fix.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::Project;

/// What lint says of one rule: where, the figure, the message and the fix.
fn lint(project: &Project, rule: &str) -> Vec<(String, f64, String, String)> {
    let found = project.run(&["lint", "--format", "json"]).json();
    let of = |key: &str, finding: &serde_json::Value| finding[key].as_str().unwrap_or_default().to_string();
    let findings = found["findings"].as_array().unwrap().iter().filter(|finding| finding["rule"] == rule);
    findings.map(|f| (of("where", f), f["figure"].as_f64().unwrap(), of("message", f), of("fix", f))).collect()
}

#[test]
fn spawns_of_nobody_off_the_stage_and_in_walls_are_told_and_the_fix_ends_it() {
    let project = Project::fitted();
    assert_eq!(lint(&project, "lost_spawn"), []);
    let stage = project.read("stages/pier.toml");
    let found = stage.find("[[spawn]]").map(|at| &stage[at..]).unwrap();
    let own: Vec<&str> = found.lines().skip(1).take_while(|line| !line.is_empty()).collect();
    let keeper = own.join("\n");
    assert!(keeper.contains("\"keeper\""), "the first spawn is the keeper's");
    let with = |lines: &str| project.write("stages/pier.toml", stage.replacen(&keeper, lines, 1));
    with("actor = \"keper\"\nat = [90, 200]\nfacing = \"right\"");
    let told = lint(&project, "lost_spawn");
    assert!(told[0].2.contains("\"keper\"") && told[0].3.contains("keeper"), "{told:?}");
    with("actor = \"keeper\"\nat = [900, 200]\nfacing = \"right\"");
    assert_eq!(lint(&project, "lost_spawn")[0].1, 260.0, "the stage is 640 px wide");
    with("actor = \"keeper\"\nat = [90, 230]\nfacing = \"right\"");
    let told = lint(&project, "lost_spawn");
    let [x, y] = {
        let numbers = told[0].3.split(['[', ']']).nth(1).unwrap();
        let mut all = numbers.split(", ").map(|number| number.parse::<f64>().unwrap());
        [all.next().unwrap(), all.next().unwrap()]
    };
    with(&format!("actor = \"keeper\"\nat = [{x}, {y}]\nfacing = \"right\""));
    assert_eq!(lint(&project, "lost_spawn"), [], "{told:?}");
}

#[test]
fn boxes_given_as_corners_and_pivots_elsewhere_are_told() {
    let project = Project::fitted();
    assert_eq!(lint(&project, "outside_cell"), []);
    // The gull's body as two corners of its cell of 32 x 24 px.
    let gull = project.read("actors/gull.toml");
    let extra = "\n[shape.crest]\nrole = \"hurt\"\nlayer = \"foe\"\nbox = [10, 4, 30, 22]\n";
    project.write("actors/gull.toml", format!("{gull}{extra}"));
    project.ok(&["fit"]);
    let told = lint(&project, "outside_cell");
    assert_eq!(told.len(), 1, "{told:?}");
    assert!(told[0].3.contains("`box = [10, 4, 20, 18]`"), "{told:?}");
    project.write("actors/gull.toml", format!("{gull}{}", extra.replace("[10, 4, 30, 22]", "[10, 4, 20, 18]")));
    project.ok(&["fit"]);
    assert_eq!(lint(&project, "outside_cell"), []);
    project.write("actors/gull.toml", gull.replace("pivot = [16, 20]", "pivot = [160, 200]"));
    project.ok(&["fit"]);
    let told = lint(&project, "outside_cell");
    assert!(!told.is_empty() && told.iter().all(|told| told.1 == 176.0), "200 is 176 px below 24: {told:?}");
}

#[test]
fn actors_and_frames_without_a_shape_are_told_by_fit_lint_and_check() {
    let project = Project::fitted();
    let barrel = project.read("actors/barrel.toml");
    let bare = &barrel[..barrel.find("[shape.").unwrap()];
    project.write("actors/barrel.toml", bare);
    let fit = project.ok(&["fit"]);
    assert!(fit.err.contains("barrel has no shape on any of its 1 frame"), "{}", fit.err);
    assert_eq!(lint(&project, "no_shape")[0].1, 1.0);
    let check = project.run(&["check", "takes/faults.csv"]);
    assert!(check.err.contains("faults.csv has barrel, which has no shape"), "{}", check.err);
    project.write("actors/barrel.toml", &barrel);
    let fit = project.ok(&["fit"]);
    assert!(!fit.err.contains("no shape"), "{}", fit.err);
    assert_eq!(lint(&project, "no_shape"), []);
}

#[test]
fn words_rows_and_names_of_takes_and_stages_that_mean_nothing_are_told() {
    let project = Project::fitted();
    let take = "tick,actor,x,y,facing,animation,frame,states\n0,keeper,90,200,right,idle,0,\n1,keeper,90,200,right,idle,0,drpo hurt\n";
    project.write("takes/words.csv", take);
    let args = ["check", "takes/words.csv"];
    let run = project.run(&args);
    assert!(
        run.err.contains("the state \"drpo\" from tick 1 on") && run.err.contains("did you mean \"drop\"?"),
        "{}",
        run.err
    );
    assert!(run.err.contains("the state \"hurt\""), "{}", run.err);
    assert_eq!(project.run(&["check", "takes/words.csv", "--any-state"]).err, "");
    project.edit("finitor.toml", "[check]\n", "[states]\nknown = [\"hurt\", \"drpo\"]\n\n[check]\n");
    assert_eq!(project.run(&args).err, "");
    // More fields than columns; nothing behind a last comma is no field.
    project.write("takes/words.csv", take.replace("idle,0,\n1", "idle,0,,\n1").replace("drpo hurt", "drop"));
    assert_eq!(project.run(&args).err, "");
    project.write("takes/words.csv", take.replace("idle,0,\n1", "idle,0,,7\n1"));
    project.refused(&args, &["line 2: the row has 9 fields, and the header 8"]);
    for (by, word) in [(";", "semicolons"), ("\t", "tabs")] {
        project.write("takes/words.csv", take.replace(',', by));
        project.refused(&args, &[&format!("parted by {word}, not by commas"), "write tick,actor,x,y"]);
    }
    project.write("takes/words.csv", take);
    project.write("stages/other.toml", project.read("stages/pier.toml"));
    project.refused(&args, &["the stage's name \"pier\" is also that of stages/"]);
}

#[test]
fn classes_of_a_drawing_that_are_nearly_ours_and_cells_that_leave_art_over_are_errors() {
    let project = Project::fitted();
    let stage = project.read("stages/pier.toml");
    let drawing = |class: &str| {
        let shape =
            format!("<rect id=\"wall\" class=\"{class} on-ground\" x=\"600\" y=\"20\" width=\"8\" height=\"40\"/>");
        let art = "<rect class=\"sunset\" x=\"0\" y=\"0\" width=\"9\" height=\"9\"/>";
        format!(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"640\" height=\"280\" viewBox=\"0 0 640 280\">{art}{shape}</svg>"
        )
    };
    project.write("stages/pier.toml", stage.replacen("[stage]\n", "[stage]\nsvg = \"walls.svg\"\n", 1));
    project.write("stages/walls.svg", drawing("sold"));
    project.refused(&["stage"], &["walls.svg:1:", "the class \"sold\"", "did you mean solid?"]);
    project.write("stages/walls.svg", drawing("solid"));
    assert!(project.ok(&["stage"]).out.contains("wall"), "and art is left alone");
    project.edit("actors/gull.toml", "cell = [32, 24]", "cell = [31, 24]");
    project.refused(&["fit"], &["leave 9 px at the right of the picture over", "`cell = [32, 24]` divides it evenly"]);
}

#[test]
fn ragged_maps_and_fits_of_another_program_are_no_longer_passed_over() {
    let project = Project::fitted();
    let map = project.read("stages/reef.csv");
    let rows: Vec<&str> = map.lines().collect();
    let with = |change: &dyn Fn(usize, &str) -> String| {
        let rows: Vec<String> = rows.iter().enumerate().map(|(index, row)| change(index, row)).collect();
        project.write("stages/reef.csv", rows.join("\n") + "\n");
    };
    let count = rows[0].split(',').count();
    with(&|index, row| if index == 1 { row.rsplit_once(',').unwrap().0.to_string() } else { row.to_string() });
    let words = format!("line 2: {} fields, and most rows have {count}", count - 1);
    project.refused(&["stage"], &["reef.csv", &words, "-1"]);
    // A comma behind each row, or behind all but the last, is how some write it.
    with(&|_, row| format!("{row},"));
    project.ok(&["stage"]);
    with(&|index, row| if index + 1 == rows.len() { row.to_string() } else { format!("{row},") });
    project.ok(&["stage"]);
    project.write("stages/reef.csv", &map);
    project.edit("actors/keeper.fits.json", "finitor.fits/2", "finitor.fits/99");
    project.refused(&["fit"], &["keeper.fits.json", "finitor.fits/99"]);
}
