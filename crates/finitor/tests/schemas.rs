//! The JSON Schemas of all files and results: sound themselves, the same as in docs/schemas, and true of the sample, of what `new`
//! writes, and of every result; mistakes are against them.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod mistakes;
mod support;

use jsonschema::Validator;
use mistakes::{MISTAKES, Mistake};
use serde_json::Value;
use std::collections::BTreeMap;
use std::path::Path;
use support::Project;

/// All schemas by name.
fn schemas(project: &Project) -> BTreeMap<String, Validator> {
    project.ok(&["schema", "--out", "schemas_out"]);
    let files = project.files();
    let all = files
        .iter()
        .filter_map(|(path, bytes)| Some((path.strip_prefix("schemas_out/")?.strip_suffix(".json")?, bytes)));
    all.map(|(name, bytes)| {
        let schema: Value = serde_json::from_slice(bytes).unwrap();
        assert_eq!(schema["$schema"], "https://json-schema.org/draft/2020-12/schema", "{name}");
        assert!(jsonschema::meta::is_valid(&schema), "{name} is no schema");
        (name.to_string(), jsonschema::validator_for(&schema).unwrap())
    })
    .collect()
}

fn wrong(valid: &Validator, value: &Value) -> Vec<String> {
    valid.iter_errors(value).map(|error| format!("{} at {}", error, error.instance_path())).collect()
}

fn toml_value(text: &str) -> Option<Value> {
    let table: toml::Table = text.parse().ok()?;
    serde_json::to_value(table).ok()
}

/// Which schema a file of a project goes by.
fn of_file(path: &str) -> Option<&'static str> {
    match path {
        "finitor.toml" => Some("project"),
        _ if path.contains("actors/") && path.ends_with(".toml") => Some("actor"),
        _ if path.contains("stages/") && path.ends_with(".toml") => Some("stage"),
        _ if path.ends_with(".fits.json") => Some("fits"),
        _ => None,
    }
}

#[test]
fn the_schemas_in_docs_are_those_of_the_program() {
    let project = Project::empty();
    let names: Vec<String> = schemas(&project).into_keys().collect();
    assert!(names.len() >= 23, "{names:?}");
    let docs = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schemas");
    let renew = std::env::var_os("SNAPSHOTS").is_some_and(|how| how == "overwrite");
    for name in &names {
        let text = project.ok(&["schema", name]).out;
        assert_eq!(text, project.read(&format!("schemas_out/{name}.json")));
        let path = docs.join(format!("{name}.json"));
        if renew {
            std::fs::create_dir_all(&docs).unwrap();
            std::fs::write(&path, &text).unwrap();
        }
        let known = std::fs::read_to_string(&path).unwrap_or_default().replace("\r\n", "\n");
        assert!(
            known == text,
            "docs/schemas/{name}.json is of another version: SNAPSHOTS=overwrite cargo test -p finitor --test schemas"
        );
    }
    let list = project.ok(&["schema"]).out;
    assert!(names.iter().all(|name| list.contains(name.as_str())));
    project.refused(&["schema", "chek"], &["there is no schema \"chek\"", "did you mean \"check\"?"]);
}

#[test]
fn every_file_and_result_of_the_sample_is_as_its_schema_says() {
    let project = Project::fitted();
    let schemas = schemas(&project);
    project.ok(&["new", "own"]);
    project.ok(&["fit", "--project", "own"]);
    let mut seen: Vec<&str> = Vec::new();
    for (path, bytes) in project.files() {
        let name = path.strip_prefix("own/").unwrap_or(&path);
        let Some(schema) = of_file(name) else { continue };
        let text = String::from_utf8(bytes).unwrap();
        let value =
            if path.ends_with(".toml") { toml_value(&text).unwrap() } else { serde_json::from_str(&text).unwrap() };
        assert_eq!(wrong(&schemas[schema], &value), [""; 0], "{path}");
        seen.push(schema);
    }
    project.run(&["check", "takes/faults.csv", "--write-baseline", "known.json"]);
    let baseline: Value = serde_json::from_str(&project.read("known.json")).unwrap();
    assert_eq!(wrong(&schemas["baseline"], &baseline), [""; 0]);
    let results: &[(&str, &[&str])] = &[
        ("check", &["check", "takes/faults.csv", "takes/clean.csv", "--pairs"]),
        ("summary", &["check", "takes/faults.csv", "--summary"]),
        ("lint", &["lint"]),
        ("hits", &["hits", "takes/faults.csv"]),
        ("moves", &["hits", "--moves", "keeper"]),
        ("reach", &["hits", "--reach", "keeper", "gull"]),
        ("fit", &["fit", "--dry-run"]),
        ("fit_worst", &["fit", "--worst", "3", "--dry-run"]),
        ("sheet", &["sheet", "actors/keeper.png", "actors/gull.png"]),
        ("facing", &["facing"]),
        ("layers", &["layers"]),
        ("layers_by_shape", &["layers", "--by", "shape"]),
        ("layers_explain", &["layers", "explain", "keeper.body", "gull.body"]),
        ("stage_list", &["stage"]),
        ("clearance", &["stage", "clearance"]),
    ];
    for (schema, command) in results {
        let found = project.run(&[*command, &["--format", "json"]].concat()).json();
        assert_eq!(wrong(&schemas[*schema], &found), [""; 0], "{command:?}");
        seen.push(schema);
    }
    project
        .write("old/keeper.fits.json", project.read("actors/keeper.fits.json").replace("\"layer\":4", "\"layer\":8"));
    let changed = project.run(&["diff", "old", "--format", "json"]).json();
    assert!(!changed["shapes"].as_array().unwrap().is_empty());
    assert_eq!(wrong(&schemas["diff"], &changed), [""; 0]);
    for space in [&["--small"][..], &["--y", "up", "--fixed", "4", "--origin", "cell"]] {
        let pack = project.ok(&[&["export", "--to", "json"], space].concat()).json();
        assert_eq!(wrong(&schemas["pack"], &pack), [""; 0]);
    }
    for line in project.run(&["check", "takes/faults.csv", "--stream"]).out.lines() {
        assert_eq!(wrong(&schemas["stream"], &serde_json::from_str(line).unwrap()), [""; 0], "{line}");
    }
    // Takes as lines of JSON.
    let rows = project.read("takes/clean.csv");
    let header: Vec<&str> = rows.lines().next().unwrap().split(',').collect();
    for row in rows.lines().skip(1).take(500) {
        let cell = |(key, text): (&&str, &str)| {
            let value =
                serde_json::from_str::<Value>(text).ok().filter(|value| value.is_number() || value.is_boolean());
            (key.to_string(), value.unwrap_or_else(|| Value::from(text)))
        };
        let object: serde_json::Map<String, Value> =
            header.iter().zip(row.split(',')).map(cell).filter(|(_, value)| *value != "").collect();
        assert_eq!(wrong(&schemas["take"], &Value::Object(object)), [""; 0], "{row}");
    }
    seen.extend(["pack", "diff", "stream", "take", "baseline"]);
    assert!(schemas.keys().all(|name| seen.contains(&name.as_str())), "every schema is tried: {seen:?}");
}

/// What only a look at other files or tables tells: names, sizes of pictures, and what goes with what.
#[test]
fn nearly_every_mistake_in_a_key_or_its_type_is_against_the_schema() {
    let project = Project::fitted();
    let schemas = schemas(&project);
    let (mut caught, mut missed) = (0, Vec::new());
    for Mistake(path, from, to) in MISTAKES {
        let Some(schema) = of_file(path).filter(|schema| *schema != "fits") else { continue };
        let Some(value) = toml_value(&project.read(path).replacen(from, to, 1)) else { continue };
        let said = wrong(&schemas[schema], &value);
        if said.is_empty() {
            missed.push(format!("{path}: {from:?} -> {to:?}"));
        } else {
            caught += 1;
        }
    }
    assert!(caught >= 60 && caught > missed.len(), "{caught} caught, {}: {missed:#?}", missed.len());
    // None of those that are missed is an unknown key.
    for of in ["jmp", "slak", "factr", "animaton", "flicer"] {
        assert!(!missed.iter().any(|text| text.contains(&format!("\"{of} ="))), "{missed:#?}");
    }
}

/// The schema of a table: `*` stands for any name, and lists are looked into.
fn of_table<'s>(schema: &'s Value, path: &[&str]) -> &'s Value {
    let resolved = |mut at: &'s Value| {
        while let Some(reference) = at["$ref"].as_str() {
            at = schema.pointer(reference.trim_start_matches('#')).unwrap();
        }
        if at["items"].is_object() { &at["items"] } else { at }
    };
    path.iter().fold(schema, |at, name| {
        let at = resolved(at);
        resolved(if *name == "*" { &at["additionalProperties"] } else { &at["properties"][name] })
    })
}

#[test]
fn every_key_that_a_reader_knows_is_in_its_schema() {
    let project = Project::fitted();
    // A file, the line of a table's title, and where its schema is.
    let tables: [(&str, &str, &str, &[&str]); 17] = [
        ("actors/keeper.toml", "[actor]", "actor", &["actor"]),
        ("actors/keeper.toml", "[moves]", "actor", &["moves"]),
        ("actors/keeper.toml", "[[sheet]]", "actor", &["sheet"]),
        ("actors/keeper.toml", "[animation.walk]", "actor", &["animation", "*"]),
        ("actors/keeper.toml", "[shape.body]", "actor", &["shape", "*"]),
        ("actors/keeper.toml", "[shape.feet]", "actor", &["shape", "*"]),
        ("actors/keeper.toml", "[shape.pole]", "actor", &["shape", "*"]),
        ("stages/pier.toml", "[stage]", "stage", &["stage"]),
        ("stages/pier.toml", "[[solid]]", "stage", &["solid"]),
        ("stages/pier.toml", "[[one_way]]", "stage", &["one_way"]),
        ("stages/pier.toml", "[[zone]]", "stage", &["zone"]),
        ("stages/pier.toml", "[[spawn]]", "stage", &["spawn"]),
        ("stages/pier.toml", "[tiles]", "stage", &["tiles"]),
        ("stages/pier.toml", "[tiles.shape]", "stage", &["tiles", "shape"]),
        ("finitor.toml", "[project]", "project", &["project"]),
        ("finitor.toml", "[layers]", "project", &["layers"]),
        ("finitor.toml", "[check]", "project", &["check"]),
    ];
    let mut counted = 0;
    for (file, title, name, path) in tables {
        let text = project.read(file);
        let begins = text.lines().find(|line| line.starts_with(title)).unwrap_or_else(|| panic!("{title}"));
        project.write(file, text.replacen(begins, &format!("{begins}\nqqqqqqq = 1"), 1));
        let run = project.run(&["lint"]);
        project.write(file, &text);
        let known = run.err.split("known here: ").nth(1).unwrap_or_else(|| panic!("{title}: {}", run.err));
        let schema: Value = serde_json::from_str(&project.run(&["schema", name]).out).unwrap();
        let properties =
            of_table(&schema, path)["properties"].as_object().unwrap_or_else(|| panic!("{title}: {path:?}"));
        for key in known.lines().next().unwrap().split(", ") {
            // One picture has no share of frames: read as for actors, and not offered.
            let is_of_frames = title == "[tiles.shape]" && ["presence", "share"].contains(&key);
            assert!(
                is_of_frames || properties.contains_key(key),
                "{file} {title}: `{key}` is read, and its schema does not know it"
            );
            counted += 1;
        }
    }
    assert!(counted > 150, "{counted}");
}
