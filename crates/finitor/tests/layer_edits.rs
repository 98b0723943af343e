//! `layers set`, `add`, `rename` and `remove`: every byte that need not change stays.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use std::collections::BTreeMap;
use support::Project;

type Files = BTreeMap<String, Vec<u8>>;

/// The names of files that differ.
fn changed(before: &Files, after: &Files) -> Vec<String> {
    after.iter().filter(|(name, bytes)| before.get(*name) != Some(bytes)).map(|(name, _)| name.clone()).collect()
}

/// A text with `from` taken out once and `to` put there.
fn once(text: &str, from: &str, to: &str) -> String {
    assert_eq!(text.matches(from).count(), 1, "{from:?} in {text}");
    text.replace(from, to)
}

#[test]
fn set_changes_the_bytes_of_one_list() {
    let project = Project::sample();
    let before = project.files();
    let text = project.read("finitor.toml");
    let said = project.ok(&["layers", "set", "strike", "+ground", "-crate"]).out;
    assert_eq!(
        project.read("finitor.toml"),
        once(&text, "strike = [\"foe\", \"crate\"]", "strike = [\"foe\", \"ground\"]")
    );
    assert_eq!(changed(&before, &project.files()), ["finitor.toml"]);
    assert!(said.contains("- strike = [\"foe\", \"crate\"]") && said.contains("mask 24 is now 9"), "{said}");
    // There and back again is the same file.
    project.ok(&["layers", "set", "strike", "-ground", "+crate"]);
    assert_eq!(project.files(), before);
    // A layer that looks for nothing yet gets a line; a shape and a zone have lists of their own.
    project.ok(&["layers", "set", "ledge", "+crate"]);
    let last = "strike = [\"foe\", \"crate\"]\n";
    assert_eq!(project.read("finitor.toml"), once(&text, last, &format!("{last}ledge = [\"crate\"]\n")));
    let (gull, keeper, pier) =
        (project.read("actors/gull.toml"), project.read("actors/keeper.toml"), project.read("stages/pier.toml"));
    project.ok(&["layers", "set", "gull.beak", "+crate"]);
    assert_eq!(project.read("actors/gull.toml"), once(&gull, "mask = [\"hero\"]", "mask = [\"hero\", \"crate\"]"));
    project.ok(&["layers", "set", "keeper.pole", "-crate"]);
    let pole = "damage = 10\nlayer = \"strike\"\n";
    assert_eq!(project.read("actors/keeper.toml"), once(&keeper, pole, &format!("{pole}mask = [\"foe\"]\n")));
    project.ok(&["layers", "set", "pier/tide", "-foe", "+strike"]);
    let tide = "mask = [\"hero\", \"foe\", \"crate\"]";
    assert_eq!(project.read("stages/pier.toml"), once(&pier, tide, "mask = [\"hero\", \"crate\", \"strike\"]"));
    // Options may stand before the target or, this one, behind the changes.
    let all = project.files();
    let dry = project.ok(&["layers", "set", "--dry-run", "hero", "+foe"]).out;
    assert_eq!(project.ok(&["layers", "set", "hero", "+foe", "--dry-run"]).out, dry);
    project.refused(&["layers", "set", "hero", "+foe", "--project", "."], &["put --project before `layers`"]);
    assert!(
        dry.starts_with("would change finitor.toml") && dry.contains("+ hero = [\"footing\", \"crate\", \"foe\"]"),
        "{dry}"
    );
    assert_eq!(project.files(), all);
}

#[test]
fn edits_keep_layouts_of_all_sorts() {
    let project = Project::sample();
    let tall = "[layers.mask]\r\n  # what heroes meet\r\nhero = [ # first\r\n\t'ground', # below\r\n\t\"crate\" # boxes\r\n] # end\r\n";
    let whole = |mask: &str| {
        format!(
            "[project]\r\nname = \"p\"\r\nactors = [\"actors/*.toml\"]\r\nstages = [\"stages/*.toml\"]\r\n\r\n[layers]\r\nnames = [\"ground\", \"ledge\", \"hero\", \"foe\", \"crate\", \"strike\"]\r\n{mask}\r\n[check] # last\r\nslack = 0.5\r\n"
        )
    };
    project.write("finitor.toml", whole(tall));
    project.ok(&["layers", "set", "hero", "+ledge"]);
    assert_eq!(
        project.read("finitor.toml"),
        whole(&once(tall, "\"crate\" # boxes\r\n", "\"crate\", # boxes\r\n\t\"ledge\"\r\n"))
    );
    project.ok(&["layers", "set", "hero", "-ledge"]);
    assert_eq!(project.read("finitor.toml"), whole(tall), "and back");
    project.ok(&["layers", "set", "foe", "+ground"]);
    assert_eq!(project.read("finitor.toml"), whole(&format!("{tall}foe = [\"ground\"]\r\n")));
    let inline = "mask = { hero = \"ground\" } # short\r\n";
    project.write("finitor.toml", whole(inline));
    project.ok(&["layers", "set", "hero", "+crate"]);
    project.ok(&["layers", "set", "foe", "+hero"]);
    let now = "mask = { hero = [\"ground\", \"crate\"], foe = [\"hero\"] } # short\r\n";
    assert_eq!(project.read("finitor.toml"), whole(now));
    let dotted = "  mask.hero = [\"ground\"] # dotted\r\n";
    project.write("finitor.toml", whole(dotted));
    project.ok(&["layers", "set", "foe", "+hero"]);
    assert_eq!(project.read("finitor.toml"), whole(&format!("{dotted}  mask.foe = [\"hero\"]\r\n")));
    project.write("finitor.toml", whole(""));
    project.ok(&["layers", "set", "foe", "+hero"]);
    assert_eq!(project.read("finitor.toml"), whole("\r\n[layers.mask]\r\nfoe = [\"hero\"]\r\n"));
}

#[test]
fn rename_reaches_every_file_and_nothing_else() {
    let project = Project::fitted();
    let before = project.files();
    let said = project.ok(&["layers", "rename", "crate", "cargo"]).out;
    let after = project.files();
    assert_eq!(changed(&before, &after), ["actors/barrel.toml", "finitor.toml", "stages/pier.toml"], "{said}");
    for name in changed(&before, &after) {
        // The sample writes the layer only as a quoted word and as a key; comments that speak of crates stay.
        let text = String::from_utf8(before[&name].clone()).unwrap();
        let expected = text.replace("\"crate\"", "\"cargo\"").replace("\ncrate = ", "\ncargo = ");
        assert_eq!(String::from_utf8(after[&name].clone()).unwrap(), expected, "{name}");
    }
    project.ok(&["lint"]);
    project.ok(&["layers", "rename", "cargo", "crate"]);
    assert_eq!(project.files(), before, "and back");
    project.ok(&["layers", "rename", "footing", "floors"]);
    let text = String::from_utf8(before["finitor.toml"].clone()).unwrap();
    assert_eq!(project.read("finitor.toml"), text.replace("footing", "floors"));
    project.ok(&["layers", "rename", "floors", "footing"]);
    let dry = project.ok(&["layers", "rename", "--dry-run", "hero", "lead"]).out;
    assert!(dry.contains("actors/keeper.toml:") && dry.contains("+ layer = \"lead\""), "{dry}");
    assert_eq!(project.files(), before);
}

#[test]
fn layers_come_and_go_and_used_ones_stay() {
    let project = Project::sample();
    let before = project.files();
    let text = project.read("finitor.toml");
    let said = project.ok(&["layers", "add", "fog"]).out;
    assert_eq!(project.read("finitor.toml"), once(&text, "\"strike\"]", "\"strike\", \"fog\"]"));
    assert!(said.contains("layer fog, bit 6"), "{said}");
    project.ok(&["layers", "remove", "fog"]);
    assert_eq!(project.files(), before);
    let refused = project.refused(
        &["layers", "remove", "strike"],
        &["layer \"strike\" is in use: the layer of [shape.pole]", "actors/gull.toml:", "[layers.mask]"],
    );
    assert_eq!(refused.err.matches("is in use").count(), 3, "{}", refused.err);
    for n in 6..32 {
        project.ok(&["layers", "add", &format!("more_{n}")]);
    }
    project.refused(&["layers", "add", "one_too_many"], &["32 layers fit into a mask"]);
    let moved = project.ok(&["layers", "remove", "more_30"]).out;
    assert!(moved.contains("bits moved down by one: more_31"), "{moved}");
}

#[test]
fn what_cannot_be_is_refused_and_changes_nothing() {
    let project = Project::sample();
    let before = project.files();
    let cases: [(&[&str], &[&str]); 14] = [
        (&["set", "her", "+crate"], &["there is no layer \"her\"", "did you mean \"hero\"?"]),
        (&["set", "hero", "+crat"], &["there is no layer \"crat\"", "did you mean \"crate\"?"]),
        (&["set", "hero", "crate"], &["write +LAYER to add and -LAYER to drop"]),
        (&["set", "hero", "+crate"], &["the mask has crate already"]),
        (&["set", "hero", "-ledge"], &["it comes with the alias footing"]),
        (&["set", "hero", "-foe"], &["the mask does not name foe: it has footing, crate"]),
        (&["set", "hero", "+foe", "-foe"], &["foe is both added and dropped"]),
        (&["set", "footing", "+foe"], &["\"footing\" is an alias"]),
        (&["set", "keeper.bdy", "+foe"], &["actor keeper has no [shape.bdy]"]),
        (&["set", "pier/bel", "+foe"], &["stage pier has no \"bel\""]),
        (&["set", "keper.body", "+foe"], &["there is no actor \"keper\"", "keeper"]),
        (&["add", "hero"], &["there is a layer or alias \"hero\" already"]),
        (&["rename", "hero", "a b"], &["\"a b\" cannot name a layer"]),
        (&["rename", "hero", "footing"], &["there is a layer or alias \"footing\" already"]),
    ];
    for (args, words) in cases {
        let args: Vec<&str> = std::iter::once("layers").chain(args.iter().copied()).collect();
        project.refused(&args, words);
        assert_eq!(project.files(), before, "{args:?}");
    }
    // A file that is broken stops a change of all.
    project.write("stages/pier.toml", "[stage\n");
    let before = project.files();
    project.refused(&["layers", "rename", "hero", "lead"], &["stages/pier.toml"]);
    assert_eq!(project.files(), before);
}
