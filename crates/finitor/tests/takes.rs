//! Takes in all their forms, and what `check` tells of them.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use serde_json::{Value, json};
use std::io::Write;
use std::process::{Command, Output, Stdio};
use support::Project;

/// A CSV take as lines of JSON: numbers as numbers, states as a list.
fn as_json_lines(csv: &str) -> String {
    let mut lines = csv.lines();
    let header: Vec<&str> = lines.next().unwrap().split(',').collect();
    let row = |line: &str| {
        let mut object = serde_json::Map::new();
        for (key, text) in header.iter().zip(line.split(',')) {
            let value = match *key {
                _ if text.is_empty() => continue,
                "actor" | "facing" | "animation" => json!(text),
                "states" => json!(text.split(' ').collect::<Vec<_>>()),
                "flipped_art" => json!(text == "true" || text == "1"),
                _ => serde_json::from_str(text).unwrap(),
            };
            object.insert((*key).to_string(), value);
        }
        format!("{}\n", Value::Object(object))
    };
    lines.map(row).collect()
}

/// Runs a command with a text on its standard input.
fn piped(project: &Project, args: &[&str], text: String) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_finitor"))
        .args(args)
        .current_dir(project.root())
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let mut input = child.stdin.take().unwrap();
    let writer = std::thread::spawn(move || input.write_all(text.as_bytes()));
    let output = child.wait_with_output().unwrap();
    writer.join().unwrap().unwrap();
    output
}

fn findings(value: &Value) -> Vec<Value> {
    value["findings"].as_array().unwrap().clone()
}

#[test]
fn lines_of_json_and_standard_input_say_the_same_as_csv() {
    let project = Project::fitted();
    let csv = project.read("takes/faults.csv");
    let expected = project.run(&["check", "takes/faults.csv", "--format", "json"]).take();
    project.write("takes/faults.jsonl", as_json_lines(&csv));
    let found = project.run(&["check", "takes/faults.jsonl", "--format", "json"]).take();
    assert_eq!((&found["findings"], &found["events"]), (&expected["findings"], &expected["events"]));
    for text in [csv.clone(), as_json_lines(&csv)] {
        let output = piped(&project, &["check", "-", "--format", "json"], text);
        let found: Value = serde_json::from_slice(&output.stdout).unwrap();
        let found = &found["takes"][0];
        assert_eq!((&found["take"], &found["findings"]), (&json!("-"), &expected["findings"]));
    }
    project.ok(&["draw", "--take", "takes/faults.csv"]);
    piped(&project, &["draw", "--take", "-"], csv.clone());
    let picture =
        |name: &str| project.read(&format!("pictures/pier-{name}-184.svg")).replace(&format!("of {name}"), "");
    assert_eq!(picture("input"), picture("faults"));
    let bad = "{\"tick\":0,\"actor\":\"barrel\",\"x\":9,\"y\":200,\"facing\":\"right\",\"animation\":\"stand\",\"frame\":0}\n\n\
        {\"tick\":1,\"actor\":\"barrel\",\"x\":\"9\",\"y\":200}\n{\"tik\":2}\nwhat\n[1]\n{\"tick\":3,\"actor\":\"barel\",\"x\":9,\"y\":2}\n\
        {\"tick\":-1,\"actor\":\"barrel\",\"x\":9,\"y\":2}\n{\"tick\":4,\"actor\":\"barrel\",\"x\":9,\"y\":2,\"facing\":\"left\",\"frame\":7}\n";
    project.write("takes/bad.jsonl", bad);
    project.refused(
        &["check", "takes/bad.jsonl"],
        &[
            "line 3: x is \"9\"; expected a number up to 1e7",
            "line 4: unknown key \"tik\"",
            "did you mean tick?",
            "line 5: is no JSON object",
            "line 6: is no JSON object",
            "line 7: there is no actor \"barel\"",
            "line 8: tick is -1; expected a whole number from 0",
            "line 9: frame is \"7\", stand has 0 to 0",
        ],
    );
    project.write("takes/long.jsonl", format!("{{\"tick\":0,\"actor\":\"{}\"}}\n", "x".repeat(100_000)));
    project.refused(&["check", "takes/long.jsonl"], &["line 1: is longer than 65536 bytes"]);
}

#[test]
fn what_the_actor_file_says_for_sure_need_not_be_in_the_take() {
    let project = Project::fitted();
    // The barrel has one animation of one frame; its body is symmetric, its staves are not.
    project.write("takes/short.csv", "tick,actor,x,y\n0,barrel,130,203\n");
    project
        .refused(&["check", "takes/short.csv"], &["line 2: the row has no facing, and barrel's shapes differ by it"]);
    project.write("takes/short.csv", "tick,actor,x,y,facing\n0,barrel,130,203,left\n");
    let found = findings(&project.run(&["check", "takes/short.csv", "--format", "json"]).take());
    assert_eq!((&found[0]["rule"], &found[0]["figure"]), (&json!("embedded"), &json!(3.0)));
    project.edit("actors/barrel.toml", "[shape.staves]", "[shape.staves]\nsymmetric = true");
    project.run(&["fit", "--all"]);
    let again = project.run(&["check", "takes/short.csv", "--format", "json"]);
    assert_eq!(findings(&again.take()).len(), 1);
    project.write("takes/short.csv", "tick,actor,x,y,facing\n0,keeper,130,200,left\n");
    project.refused(&["check", "takes/short.csv"], &["the row has no animation, and keeper has 6"]);
    project.write(
        "takes/short.csv",
        "tick,actor,x,y,facing,animation\n0,keeper,130,200,left,rise\n0,gull,500,40,left,glide\n",
    );
    project.refused(&["check", "takes/short.csv"], &["line 3: the row has no frame, and glide has"]);
}

#[test]
fn a_take_that_is_read_ahead_says_the_same() {
    let project = Project::fitted();
    let text = project.read("takes/faults.csv");
    let (head, rows) = text.split_once('\n').unwrap();
    // Thousands of rows, so that many batches are handed over.
    let takes = (0..6).flat_map(|take| rows.lines().map(move |row| format!("{row},run {take}\n")));
    let many: String = std::iter::once(format!("{head},take\n")).chain(takes).collect();
    project.write("takes/many.csv", &many);
    project.write("takes/broken.csv", format!("{many}no,keeper\n"));
    for take in ["takes/many.csv", "takes/many.csv:run 3", "takes/broken.csv"] {
        let run = |threads: &str| project.run(&["check", take, "--format", "json", "--threads", threads]);
        let (beside, ahead) = (run("1"), run("2"));
        assert_eq!((beside.code, &beside.out, &beside.err), (ahead.code, &ahead.out, &ahead.err), "{take}");
    }
}

#[test]
fn many_takes_are_checked_side_by_side_and_told_in_their_order() {
    let project = Project::fitted();
    let takes = ["takes/faults.csv", "takes/clean.csv", "takes/faults.csv"];
    let run = |threads: &str, format: &str| {
        let mut args = vec!["check"];
        args.extend(takes);
        args.extend(["--threads", threads, "--format", format]);
        project.run(&args)
    };
    for format in ["table", "json", "csv"] {
        let (one, two) = (run("1", format), run("2", format));
        assert_eq!((one.code, &one.out), (two.code, &two.out), "{format}");
    }
    let told = run("2", "table").out;
    assert!(told.contains("\n3 takes, ") && told.contains(" 1 clean; "), "{told}");
    let all = run("2", "json").json()["takes"].clone();
    let names: Vec<&str> = all.as_array().unwrap().iter().map(|take| take["take"].as_str().unwrap()).collect();
    assert_eq!(names, ["faults.csv", "clean.csv", "faults.csv"]);
    let summary = project.run(&["check", takes[0], takes[1], "--summary", "--format", "json"]).json();
    let counted: u64 = summary["rules"].as_array().unwrap().iter().map(|rule| rule["findings"].as_u64().unwrap()).sum();
    assert_eq!(counted, findings(&all[0]).len() as u64);
    assert_eq!(
        summary["takes"][1],
        json!({"take": "clean.csv", "ticks": all[1]["ticks"], "errors": 0, "warnings": 0, "notes": 0, "follow": 0})
    );
    // Mistakes of all takes come at once, and nothing else.
    project.write("takes/a.csv", "tick,actor,x,y\nno,keeper,1,2\n");
    project.write("takes/b.csv", "tick,actr,x,y\n");
    let run = project.refused(
        &["check", "takes/a.csv", "takes/clean.csv", "takes/b.csv"],
        &["takes/a.csv: line 2", "takes/b.csv: line 1"],
    );
    assert_eq!(run.out, "");
}

#[test]
fn rules_actors_and_ticks_can_be_asked_for() {
    let project = Project::fitted();
    let all = findings(&project.run(&["check", "takes/faults.csv", "--format", "json"]).take());
    let asked = |args: &[&str]| {
        findings(&project.run(&[&["check", "takes/faults.csv", "--format", "json"], args].concat()).take())
    };
    let by = |goal: &dyn Fn(&Value) -> bool| all.iter().filter(|finding| goal(finding)).cloned().collect::<Vec<_>>();
    assert_eq!(asked(&["--rule", "embedded,tunnelled"]), by(&|f| f["rule"] == "embedded" || f["rule"] == "tunnelled"));
    let of_gull = |f: &Value| f["subject"] == "gull" || f["with"].as_str().unwrap().starts_with("gull.");
    assert_eq!(asked(&["--actor", "gull"]), by(&of_gull));
    assert!(!asked(&["--actor", "gull"]).is_empty());
    let in_span = |f: &Value| f["ticks"][0].as_u64().unwrap() <= 200 && f["ticks"][1].as_u64().unwrap() >= 100;
    assert_eq!(asked(&["--ticks", "100-200"]), by(&in_span));
    assert_eq!(project.run(&["check", "takes/faults.csv", "--rule", "hover"]).code, 0, "no error is asked for");
    project.refused(
        &["check", "takes/faults.csv", "--rule", "embeded"],
        &["there is no take rule \"embeded\"; did you mean \"embedded\"?"],
    );
    project.refused(
        &["check", "takes/faults.csv", "--rule", "lopsided"],
        &["there is no take rule \"lopsided\"; known: embedded, tunnelled"],
    );
    project.refused(
        &["check", "takes/faults.csv", "--actor", "gul"],
        &["there is no actor \"gul\"; did you mean \"gull\"?"],
    );
    project.refused(&["check", "takes/faults.csv", "--ticks", "9-3"], &["write FIRST-LAST"]);
}

#[test]
fn streamed_lines_hold_the_same_findings_and_events() {
    let project = Project::fitted();
    let whole = project.run(&["check", "takes/faults.csv", "--format", "json"]);
    let streamed = project.run(&["check", "takes/faults.csv", "--stream"]);
    assert_eq!(streamed.code, whole.code);
    let lines: Vec<Value> = streamed.out.lines().map(|line| serde_json::from_str(line).unwrap()).collect();
    let of = |key: &str| -> Vec<Value> { lines.iter().filter_map(|line| line.get(key).cloned()).collect() };
    assert_eq!(Value::Array(of("event")), whole.take()["events"]);
    let sorted = |mut all: Vec<Value>| {
        all.sort_by_key(Value::to_string);
        all
    };
    assert_eq!(sorted(of("finding")), sorted(findings(&whole.take())));
    assert_eq!(of("end")[0]["ticks"], whole.take()["ticks"]);
    // Told when they have ended, so in the order of their last ticks.
    let ends: Vec<u64> = of("finding").iter().map(|finding| finding["ticks"][1].as_u64().unwrap()).collect();
    assert!(ends.is_sorted(), "{ends:?}");
}

#[test]
fn findings_of_the_baseline_are_hidden_and_fixed_ones_reported() {
    let project = Project::fitted();
    let take = "takes/faults.csv";
    let all = findings(&project.run(&["check", take, "--format", "json"]).take());
    project.ok(&["check", take, "--write-baseline", "known.json"]);
    let accepted = project.ok(&["check", take, "--baseline", "known.json"]);
    assert!(
        accepted.out.contains(&format!("{} known findings of the baseline not reported.", all.len())),
        "{}",
        accepted.out
    );
    assert!(accepted.out.contains("clean."), "{}", accepted.out);
    // The same play, 40 ticks later and 5 px to the side: the same faults, by place and not by tick. What lies against the
    // stage's sides stays there.
    let csv = project.read(take);
    let moved: String = csv
        .lines()
        .enumerate()
        .map(|(row, line)| {
            if row == 0 {
                return format!("{line}\n");
            }
            let (tick, rest) = line.split_once(',').unwrap();
            format!("{},{rest}\n", tick.parse::<u64>().unwrap() + 40)
        })
        .collect();
    project.write("takes/later.csv", moved);
    let later = project.run(&["check", "takes/later.csv", "--baseline", "known.json", "--format", "json"]);
    assert_eq!((findings(&later.take()).len(), later.code), (0, 0));
    assert!(!later.err.contains("gone"), "they are of another take: {}", later.err);
    // One that is no longer there is reported, and dropped when the file is written anew, with the user's own notes kept.
    let known: Value = serde_json::from_str(&project.read("known.json")).unwrap();
    let mut more = known.clone();
    more["findings"][0]["note"] = json!("the game pushes it out");
    let extra = json!({"rule": "embedded", "subject": "keeper", "with": "pier/quay", "at": [100.0, 9.0], "take": "faults.csv", "tick": 3});
    more["findings"].as_array_mut().unwrap().push(extra);
    project.write("more.json", more.to_string());
    let said = project.ok(&["check", take, "--baseline", "more.json", "--write-baseline", "more.json"]).out;
    assert!(said.contains("fixed: embedded of keeper with pier/quay at (100.00, 9.00), faults.csv tick 3"), "{said}");
    let left: Value = serde_json::from_str(&project.read("more.json")).unwrap();
    let count = |value: &Value| value["findings"].as_array().unwrap().len();
    assert_eq!((count(&left), &left["findings"][0]["note"]), (count(&known), &json!("the game pushes it out")));
    // Another place is another fault.
    let mut elsewhere = known;
    elsewhere["findings"][0]["at"] = json!([0.0, 0.0]);
    project.write("elsewhere.json", elsewhere.to_string());
    let found = findings(&project.run(&["check", take, "--baseline", "elsewhere.json", "--format", "json"]).take());
    assert_eq!(found.len(), 1);
    project.refused(&["check", take, "--baseline", "none.json"], &["none.json", "cannot be read"]);
    project.write("odd.json", "{\"schema\": \"x\"}");
    project.refused(&["check", take, "--baseline", "odd.json"], &["is not a baseline", "--write-baseline"]);
}

#[test]
fn hits_are_told_with_part_and_damage() {
    let project = Project::fitted();
    // The pole comes down on frames 2 and 3 of the swing, over the gull.
    let rows: String = (0..10)
        .map(|tick| format!("{tick},keeper,100,200,right,swing,{}\n{tick},gull,125,190,left,glide,0\n", tick / 2))
        .collect();
    project.write("takes/swing.csv", format!("tick,actor,x,y,facing,animation,frame\n{rows}"));
    let found = project.run(&["check", "takes/swing.csv", "--format", "json"]).take();
    let hits = found["hits"].as_array().unwrap();
    assert_eq!(hits.len(), 1, "{found:#}");
    let hit = &hits[0];
    assert_eq!(
        (&hit["by"], &hit["shape"], &hit["on"], &hit["tick"]),
        (&json!("keeper"), &json!("pole"), &json!("gull"), &json!(4))
    );
    let factor = hit["factor"].as_f64().unwrap();
    assert_eq!(hit["damage"].as_f64().unwrap(), 10.0 * factor);
    let said = project.run(&["check", "takes/swing.csv"]).out;
    assert!(said.contains("Hits: keeper.pole hit gull ("), "{said}");
    let streamed = project.run(&["check", "takes/swing.csv", "--stream"]).out;
    assert!(streamed.lines().any(|line| line.contains(",\"hit\":{\"tick\":4")), "{streamed}");
}

#[test]
fn what_follows_from_a_finding_is_counted_with_it_and_shown_when_asked_for() {
    let project = Project::fitted();
    let stage = project.read("stages/pier.toml");
    project.write("stages/pier.toml", stage.replace("box = [370, 260, 270, 60]", "box = [370, 260, 100, 60]"));
    // Through the gangplank in one step, past the bottom, and put back in three.
    let places =
        [(165.0, "warped"), (213.0, ""), (261.0, ""), (309.0, ""), (357.0, ""), (305.0, ""), (212.0, ""), (130.0, "")];
    let rows =
        places.iter().enumerate().map(|(tick, (y, states))| format!("{tick},keeper,590,{y},right,fall,0,{states}\n"));
    project
        .write("takes/lost.csv", format!("tick,actor,x,y,facing,animation,frame,states\n{}", rows.collect::<String>()));
    let json = project.run(&["check", "takes/lost.csv", "--format", "json"]);
    let found = findings(&json.take());
    let rules: Vec<&str> = found.iter().map(|finding| finding["rule"].as_str().unwrap()).collect();
    assert_eq!(rules, ["tunnelled", "off_stage", "tunnelled"], "{found:?}");
    assert_eq!(found[0].get("after"), None);
    let root = json!({"rule": "tunnelled", "subject": "keeper", "with": "pier/gangplank", "first_tick": 1});
    assert!(found[1..].iter().all(|finding| finding["after"] == root), "{found:?}");
    let table = project.run(&["check", "takes/lost.csv"]);
    assert!(table.out.starts_with("lost.csv on pier: 1 error, and 2 that follow in 8 ticks"), "{}", table.out);
    assert!(table.out.contains("tunnelled") && !table.out.contains("off_stage"), "{}", table.out);
    let all = project.run(&["check", "takes/lost.csv", "--all"]).out;
    assert!(all.contains("1 error, and 2 that follow") && all.contains("off_stage"), "{all}");
    let summary = project.run(&["check", "takes/lost.csv", "--summary", "--format", "json"]).json();
    assert_eq!((&summary["takes"][0]["errors"], &summary["takes"][0]["follow"]), (&json!(1), &json!(2)));
    // Asked for alone it stands for itself, and says what it follows from.
    let alone = project.run(&["check", "takes/lost.csv", "--rule", "off_stage"]);
    assert_eq!(alone.code, 1);
    let told = alone.out.split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(told.starts_with("lost.csv on pier: 1 error in") && told.contains("tunnelled"), "{told}");
    let streamed = project.run(&["check", "takes/lost.csv", "--stream"]).out;
    assert_eq!(streamed.matches("\"after\":{\"rule\":\"tunnelled\"").count(), 2, "{streamed}");
}

#[test]
fn where_a_take_tells_the_way_that_alone_is_asked() {
    let project = Project::fitted();
    let told = |from: [i32; 2], via: &str, to: [i32; 2]| -> Vec<String> {
        let row = |tick: usize, at: [i32; 2], via: &str, states: &str| {
            format!("{tick},keeper,{},{},right,fall,0,{states},{via}\n", at[0], at[1])
        };
        let rows = [row(0, from, "", ""), row(1, to, via, ""), row(2, to, "", ""), row(3, to, "", "")].concat();
        project.write("takes/way.csv", format!("tick,actor,x,y,facing,animation,frame,states,via\n{rows}"));
        let csv = findings(&project.run(&["check", "takes/way.csv", "--format", "json"]).take());
        let places = |via: &str| -> Value {
            let number = |text: &str| text.parse::<f64>().unwrap();
            via.split(';').map(|at| at.split(' ').map(number).collect::<Value>()).collect()
        };
        let row = |tick: usize, at: [i32; 2], states: &str| json!({"tick": tick, "actor": "keeper", "x": at[0], "y": at[1], "facing": "right", "animation": "fall", "frame": 0, "states": states});
        let mut rows = [row(0, from, ""), row(1, to, ""), row(2, to, ""), row(3, to, "")];
        if !via.is_empty() {
            rows[1]["via"] = places(via);
        }
        project.write("takes/way.jsonl", rows.iter().map(|row| format!("{row}\n")).collect::<String>());
        let json = findings(&project.run(&["check", "takes/way.jsonl", "--format", "json"]).take());
        assert_eq!(csv, json, "{via}");
        csv.iter().map(|finding| format!("{} {}", finding["rule"], finding["with"]).replace('"', "")).collect()
    };
    let none: [&str; 0] = [];
    // Past the end of the gangplank, across first by right; down first it is in the way.
    assert_eq!(told([535, 165], "", [505, 205]), none);
    assert_eq!(told([535, 165], "535 205", [505, 205]), ["tunnelled pier/gangplank"]);
    assert_eq!(told([535, 165], "505 165", [505, 205]), none);
    // Through it, or round its end.
    assert_eq!(told([550, 165], "", [550, 212]), ["tunnelled pier/gangplank"]);
    assert_eq!(told([550, 165], "505 165;505 212", [550, 212]), none);
    // Through the bell's zone, or over it.
    assert_eq!(told([540, 165], "", [590, 165]), ["zone_skipped pier/bell"]);
    assert_eq!(told([540, 165], "540 60;590 60", [590, 165]), none);
    // Up through the jetty and down onto it.
    assert_eq!(told([420, 182], "420 164", [420, 170]), none);
    project.write("takes/way.csv", "tick,actor,x,y,facing,animation,frame,via\n0,keeper,590,160,right,fall,0,590 x\n");
    project
        .refused(&["check", "takes/way.csv"], &["line 2: via holds \"590 x\"; expected two numbers", "96 200;96 188"]);
}

/// Rows of takes in one file, each with its take's name in front; `block` rows of one after as many of the next.
fn in_one_file(takes: &[(&str, String)], block: usize) -> String {
    let header = takes[0].1.lines().next().unwrap();
    let mut rows: Vec<Vec<String>> =
        takes.iter().map(|(name, csv)| csv.lines().skip(1).map(|row| format!("{name},{row}\n")).collect()).collect();
    let mut text = format!("take,{header}\n");
    while rows.iter().any(|rows| !rows.is_empty()) {
        for rows in &mut rows {
            let count = block.min(rows.len());
            text.extend(rows.drain(..count));
        }
    }
    text
}

#[test]
fn takes_in_one_file_are_checked_each_by_itself() {
    let project = Project::fitted();
    let takes = [("clean", project.read("takes/clean.csv")), ("lap 2", project.read("takes/faults.csv"))];
    let alone: Vec<Value> = ["takes/clean.csv", "takes/faults.csv"]
        .map(|take| project.run(&["check", take, "--format", "json"]).take())
        .to_vec();
    project.write("takes/runs.csv", in_one_file(&takes, usize::MAX));
    project.write("takes/mixed.csv", in_one_file(&takes, 7));
    for (args, file) in
        [(&["check", "takes/runs.csv"][..], "runs"), (&["check", "takes/mixed.csv", "--mixed", "2"], "mixed")]
    {
        let found = project.run(&[args, &["--format", "json"]].concat()).json();
        let found = found["takes"].as_array().unwrap();
        assert_eq!(found.len(), 2);
        for ((found, alone), (name, _)) in found.iter().zip(&alone).zip(&takes) {
            assert_eq!(found["take"], json!(format!("{file}.csv:{name}")));
            for key in ["ticks", "findings", "events", "hits", "stays"] {
                assert_eq!(found[key], alone[key], "{key} of {name} in {file}");
            }
        }
        let lines = project.run(&[args, &["--stream"]].concat()).out;
        let of = |kind: &str, name: &str| {
            let lines = lines.lines().map(|line| serde_json::from_str::<Value>(line).unwrap());
            lines.filter(|line| line.get(kind).is_some() && line["take"] == format!("{file}.csv:{name}")).count()
        };
        let wanted = findings(&alone[1]).len();
        assert_eq!((of("finding", "clean"), of("finding", "lap 2"), of("end", "lap 2")), (0, wanted, 1));
    }
    // One of them by its name, also as a picture.
    let one = project.run(&["check", "takes/mixed.csv:lap 2", "--mixed", "2", "--format", "json"]).take();
    assert_eq!((&one["take"], &one["findings"]), (&json!("mixed.csv:lap 2"), &alone[1]["findings"]));
    project.ok(&["draw", "--take", "takes/runs.csv:lap 2"]);
    project.refused(&["draw", "--take", "takes/runs.csv"], &["holds several takes: clean, lap 2", "runs.csv:clean"]);
    project.refused(&["check", "takes/runs.csv:lap 3"], &["holds no take lap 3", "did you mean lap 2?"]);
    let words = ["take clean goes on here after another one began", "--mixed N"];
    project.refused(&["check", "takes/mixed.csv"], &words);
    project.write(
        "takes/lines.jsonl",
        as_json_lines(&in_one_file(&takes, usize::MAX).replace("\nlap 2,", "\n2,").replace("\nclean,", "\n1,")),
    );
    let found = project.run(&["check", "takes/lines.jsonl", "--format", "json"]).json();
    assert_eq!(found["takes"][1]["findings"], alone[1]["findings"]);
}

#[test]
fn only_actors_that_a_take_names_are_loaded_and_others_are_still_known() {
    let project = Project::fitted();
    let rows = |of: &str| format!("tick,actor,x,y,facing,animation,frame\n0,{of},200,100,right,glide,0\n");
    project.write("takes/one.csv", rows("gull"));
    let whole = project.ok(&["check", "takes/one.csv", "--format", "json"]).out;
    // Nothing of the keeper can be read but its name.
    project.write("actors/keeper.png", "no picture");
    assert_eq!(project.ok(&["check", "takes/one.csv", "--format", "json"]).out, whole);
    project.refused(&["check", "takes/one.csv", "takes/clean.csv"], &["keeper.png"]);
    project.write(
        "takes/escaped.jsonl",
        r#"{"tick":0,"actor":"gu\u006cl","x":1,"y":1,"facing":"right","animation":"glide","frame":0}"#,
    );
    project.refused(&["check", "takes/escaped.jsonl"], &["keeper.png"]);
    // A name that no actor has gets the nearest of all.
    project.write("takes/other.csv", rows("gull") + &rows("keper").lines().last().unwrap().replacen('0', "1", 1));
    project.refused(&["check", "takes/other.csv"], &["there is no actor \"keper\"", "did you mean keeper?"]);
    // A file without a name is still told.
    project.write("actors/nameless.toml", "[actor]\n");
    project.refused(&["check", "takes/one.csv"], &["nameless.toml"]);
}

#[test]
fn what_a_fix_leaves_of_a_body_that_stays_in_the_ground_is_told() {
    let project = Project::fitted();
    // The barrel stays 29.5 px deep in the terrace, whose top is at y 170, and a keeper is put into it.
    let rows = [
        "0,keeper:3,2.019072083443035,170,left,idle,0",
        "60,barrel,294.21069592438596,199.5,right,stand,0",
        "61,barrel,294.21069592438596,199.5,right,stand,0",
        "62,keeper:2,275.7323922192629,224,left,walk,4",
        "62,barrel,294.21069592438596,199.5,right,stand,0",
    ];
    project.write("deep.csv", format!("tick,actor,x,y,facing,animation,frame\n{}\n", rows.join("\n")));
    let take = project.run(&["check", "deep.csv", "--stage", "pier", "--format", "json"]).take();
    let found = findings(&take);
    let of =
        |with: &str| found.iter().find(|found| found["with"] == with).unwrap_or_else(|| panic!("{with}: {found:?}"));
    assert_eq!(of("pier/terrace")["figure"], 29.5);
    assert_eq!(of("barrel.body")["remains"], 29.5);
}

#[test]
fn what_is_told_again_and_again_is_counted() {
    let project = Project::fitted();
    let mut csv = "tick,actor,x,y,facing,animation,frame\n".to_string();
    for tick in 0..120_i32 {
        let away = (tick % 20 - 10).abs() * 6;
        csv += &format!("{tick},gull:0,{},184,right,glide,0\n{tick},keeper,60,200,right,idle,0\n", 40 + away);
    }
    project.write("takes/again.csv", &csv);
    let found = project.run(&["check", "takes/again.csv", "--format", "json"]).take();
    let count = findings(&found).iter().filter(|of| of["rule"] == "ghost_pair").count();
    let text = project.run(&["check", "takes/again.csv"]).out;
    assert!(
        text.contains(&format!("ghost_pair {} more times between gull.body and keeper.body: ticks ", count - 1)),
        "{text}"
    );
    assert_eq!(text.matches("note ").count(), 1, "{text}");
    let all = project.run(&["check", "takes/again.csv", "--limit", "0"]).out;
    assert_eq!((all.matches("note ").count(), all.contains("more times")), (count, false), "{all}");
}
