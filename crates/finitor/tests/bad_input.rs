//! Every mistake gets a message with file, line and mend; nothing panics, nothing is written.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::{Project, png};

/// One mistake put into a sample file, and what must be said about it.
struct Mistake(&'static str, &'static str, &'static str, &'static [&'static str]);

const MISTAKES: &[Mistake] = &[
    // The project file.
    Mistake("finitor.toml", "slack = 0.5", "slak = 0.5", &["unknown key `slak` in [check]", "did you mean `slack`?"]),
    Mistake(
        "finitor.toml",
        "tick_rate = 60",
        "tick_rate = \"fast\"",
        &["`tick_rate` must be a number of at most 1e7, not a string"],
    ),
    Mistake("finitor.toml", "tick_rate = 60", "tick_rate = 0", &["`tick_rate` must be at least 1, not 0"]),
    Mistake("finitor.toml", "name = \"pier\"\n", "", &["[project] has no `name`", "add `name = \"pier\"`"]),
    Mistake(
        "finitor.toml",
        "y_axis = \"down\"",
        "y_axis = \"dwn\"",
        &["it is one of down, up", "did you mean \"down\"?"],
    ),
    Mistake(
        "finitor.toml",
        "contact = \"either\"",
        "contact = true",
        &["`contact` must be a string, not true or false"],
    ),
    Mistake(
        "finitor.toml",
        "foe = [\"ground\"]",
        "foe = [\"grond\"]",
        &["unknown layer \"grond\"", "did you mean \"ground\"?"],
    ),
    Mistake(
        "finitor.toml",
        "foe = [\"ground\"]",
        "fo = [\"ground\"]",
        &["unknown layer \"fo\"", "did you mean \"foe\"?"],
    ),
    Mistake("finitor.toml", "\"strike\"]   #", "\"strike\", \"strike\"]   #", &["layer `strike` is named twice"]),
    Mistake("finitor.toml", "hero = { drop", "her = { drop", &["unknown layer `her`", "did you mean `hero`?"]),
    Mistake("finitor.toml", "footing = [", "hero = [", &["`hero` is a layer's name already", "a name of its own"]),
    Mistake(
        "finitor.toml",
        "footing = [\"ground\", \"ledge\"]",
        "footing = []",
        &["the family `footing` has no layer"],
    ),
    Mistake(
        "finitor.toml",
        "hero = [\"footing\"",
        "hero = [\"foting\"",
        &["unknown layer \"foting\"", "did you mean \"footing\"?"],
    ),
    Mistake("finitor.toml", "[layers.family]", "[layers.famly]", &["unknown key `famly`", "did you mean `family`?"]),
    Mistake("finitor.toml", "{ drop = [", "{ leve = [", &["unknown key `leve`", "did you mean `leave`?"]),
    Mistake(
        "finitor.toml",
        "{ drop = [\"crate\"] }",
        "{ join = \"crat\" }",
        &["unknown layer \"crat\"", "did you mean \"crate\"?"],
    ),
    Mistake(
        "finitor.toml",
        "\"strike\"]   #",
        "\"str ike\"]   #",
        &["\"str ike\" cannot name a layer", "use letters, digits"],
    ),
    Mistake(
        "actors/keeper.toml",
        "faces = \"right\" ",
        "flip_about = \"cel\" ",
        &["`flip_about` cannot be \"cel\"", "did you mean \"cell\"?"],
    ),
    Mistake(
        "actors/keeper.toml",
        "[animation.walk]\n",
        "[animation.walk]\nfaces = \"lft\"\n",
        &["`faces` cannot be \"lft\"", "did you mean \"left\"?"],
    ),
    Mistake(
        "actors/keeper.toml",
        "[animation.walk]\n",
        "[animation.walk]\nstand_for = \"idle\"\n",
        &["unknown key `stand_for`", "did you mean `stands_for`?"],
    ),
    Mistake(
        "actors/keeper.toml",
        "faces = \"right\" ",
        "swap = \"body\" ",
        &["`swap` must be a list of pairs of names"],
    ),
    Mistake(
        "stages/pier.toml",
        "box = [16, 200, 164, 80]\n",
        "box = [16, 200, 164, 80]\nmask = [\"her\"]\n",
        &["unknown layer \"her\"", "did you mean \"hero\"?"],
    ),
    Mistake("finitor.toml", "[check]", "[chek]", &["unknown key `chek` in the file", "did you mean `check`?"]),
    Mistake("finitor.toml", "actors/*.toml", "../elsewhere/*.toml", &["leaves the project's folder"]),
    Mistake(
        "finitor.toml",
        "[check]",
        "[check.rules]\nhoover = \"warn\"\n[check]",
        &["unknown key `hoover`", "did you mean `hover`?"],
    ),
    Mistake("finitor.toml", "teleport = 160", "teleport = ", &["finitor.toml:29", "is no TOML here"]),
    // An actor file.
    Mistake(
        "actors/gull.toml",
        "faces = \"right\"",
        "faces = \"rigth\"",
        &["it is one of right, left", "did you mean \"right\"?"],
    ),
    Mistake("actors/gull.toml", "pivot = [16, 20]", "pivot = [16]", &["`pivot` must be a list of 2 numbers"]),
    Mistake(
        "actors/gull.toml",
        "pivot = [16, 20]",
        "pivot = \"foot\"",
        &["`pivot` cannot be \"foot\"; it is one of feet"],
    ),
    Mistake(
        "actors/gull.toml",
        "cell = [32, 24]",
        "cell = [32, 24]\nmargin = [1, 2, 3]",
        &["`margin` lists 3 numbers; give one, or two"],
    ),
    Mistake("actors/gull.toml", "cell = [32, 24]", "gap = \"2\"", &["`gap` must be", "not a string"]),
    Mistake("actors/gull.toml", "cell = [32, 24]", "cut = \"gap\"", &["one of grid, gaps", "did you mean \"gaps\"?"]),
    Mistake(
        "actors/gull.toml",
        "cell = [32, 24]",
        "cell = [32, 24]\ncut = \"gaps\"",
        &["`cell` is for grids", "the art itself says"],
    ),
    Mistake("actors/gull.toml", "cell = [32, 24]", "key = \"pink\"", &["\"pink\" is no colour", "corner"]),
    Mistake(
        "actors/gull.toml",
        "cell = [32, 24]",
        "cell = [32, 24]\nkey_tolerance = 3",
        &["`key_tolerance` without a `key` says nothing"],
    ),
    Mistake("actors/gull.toml", "ticks = 8", "file = \"gull.png\"", &["cells and file contradict one another"]),
    Mistake("actors/gull.toml", "ticks = 8", "order = \"0-1\"", &["unknown key `order` in [animation.glide]"]),
    Mistake("actors/gull.toml", "ticks = 8", "standing = \"yes\"", &["`standing` must be true or false"]),
    Mistake("actors/gull.toml", "ticks = 8", "ping_pong = 1", &["`ping_pong` must be true or false"]),
    Mistake("actors/gull.toml", "ticks = 8", "pingpong = true", &["did you mean `ping_pong`?"]),
    Mistake(
        "actors/gull.toml",
        "ticks = 8",
        "pivot = [[16, 20], [16, 21]]",
        &["`pivot` lists 2 points, glide has 4 frames", "one a frame"],
    ),
    Mistake(
        "actors/gull.toml",
        "cells = \"4-5\"",
        "files = \"gul_*.png\"",
        &["no file matches \"gul_*.png\"", "patterns start at this file's folder"],
    ),
    Mistake(
        "actors/gull.toml",
        "cells = \"4-5\"",
        "file = \"gull.png\"\norder = \"0-3\"",
        &["image 1 is past the end of gull.png: it has 1 image, 0 to 0"],
    ),
    Mistake(
        "actors/keeper.toml",
        "at = [34, 9]",
        "find = \"above\"",
        &["`find` cannot be \"above\"", "top, bottom, front or back"],
    ),
    Mistake(
        "actors/keeper.toml",
        "at = [34, 9]",
        "at = [34, 9]\nanimations = [\"wlak\"]",
        &["there is no animation `wlak`", "did you mean `walk`?"],
    ),
    Mistake("actors/gull.toml", "name = \"gull\"", "name = \"sea gull\"", &["cannot name an actor", "no spaces"]),
    Mistake(
        "actors/gull.toml",
        "image = \"gull.png\"",
        "image = \"gul.png\"",
        &["picture \"gul.png\"", "no such file"],
    ),
    Mistake("actors/gull.toml", "image = \"gull.png\"", "image = \"/etc/passwd\"", &["absolute path"]),
    Mistake("actors/gull.toml", "cell = [32, 24]", "cell = [32, 0]", &["`cell` must be two whole numbers", "288 x 24"]),
    Mistake("actors/gull.toml", "cell = [32, 24]", "cell = [32.5, 24]", &["`cell` must be two whole numbers"]),
    Mistake(
        "actors/gull.toml",
        "cells = \"4-5\"",
        "cells = \"4-9\"",
        &["cell 9 is past the end of gull.png", "0 to 8"],
    ),
    Mistake("actors/gull.toml", "cells = \"4-5\"", "cells = \"four\"", &["\"four\" is no number or range"]),
    Mistake("actors/gull.toml", "cells = \"4-5\"", "cell = \"4-5\"", &["has no `cells`", "did you mean `cells`?"]),
    Mistake("actors/gull.toml", "ticks = [14, 5, 8, 5]", "ticks = [14, 5]", &["`ticks` lists 2 lengths for 4 frames"]),
    Mistake("actors/gull.toml", "ticks = 8", "ticks = 0", &["`ticks` must be whole numbers from 1"]),
    Mistake(
        "actors/gull.toml",
        "keep = \"balance\"",
        "keep = \"balanced\"",
        &["it is one of cover, inside, balance", "did you mean \"balance\"?"],
    ),
    Mistake("actors/gull.toml", "tolerance = 1.5", "slim = 2.5", &["`slim` must be a whole number from 0 to 4095"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "slim = \"thin\"", &["`slim` cannot be \"thin\"", "\"12%\""]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "islands = \"large\"", &["it is one of largest", "did you mean"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "islands = -1", &["`islands` must be a whole number from 0"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "bridge = \"2\"", &["`bridge` must be a whole number"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "holes = true", &["`holes` must be a whole number"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "outset = 5000", &["`outset` is more than 4096 px"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "inset = 1\noutset = 1", &["`inset` and `outset` contradict"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "max_points = 2", &["`max_points` must be a whole number from 3"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "tolerance = 1\nmax_points = 9", &["contradict one another"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "max_piece_points = 2", &["`max_piece_points` must be"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "angle = \"any\"", &["`angle` is for capsules"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "snap = 1", &["no longer keep to the pixels", "keep = \"balance\""]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "min_iou = 0.9", &["`min_iou` is for kind \"auto\""]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "presence = 0.5", &["`presence` needs several frames"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "width = 3", &["kind \"outline\" has no `width` to give"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "radius = 3", &["kind \"outline\" has no `radius` to give"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "symetric = true", &["did you mean `symmetric`?"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "grounded = true", &["`grounded` is for boxes"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "like = \"bodi\"", &["no shape \"bodi\"", "did you mean \"body\"?"]),
    Mistake(
        "actors/gull.toml",
        "tolerance = 1.5",
        "like = \"body\"",
        &["\"body\" has not one size", "hold = \"actor\""],
    ),
    Mistake("actors/gull.toml", "tolerance = 1.5", "height_for = \"pier/quay\"", &["`height_for` needs `like`"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "by_part = true", &["there is no [parts]"]),
    Mistake(
        "actors/gull.toml",
        "hold = \"animation\"",
        "presence = 2\nhold = \"actor\"",
        &["share from 0 to 1, not 2"],
    ),
    Mistake("actors/gull.toml", "hold = \"animation\"", "height = 0", &["`height` must be above 0"]),
    Mistake("actors/gull.toml", "hold = \"animation\"", "tolerance = 1", &["kind \"box\" has none", "\"outline\""]),
    Mistake("actors/gull.toml", "hold = \"animation\"", "snap = 0", &["`snap` must be above 0"]),
    Mistake("actors/barrel.toml", "keep = \"balance\"", "keep = \"inside\"", &["convex polygon inside is not fitted"]),
    Mistake("actors/gull.toml", "hold = \"animation\"", "hold = \"all\"", &["it is one of frame, animation, actor"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "tolerance = -1", &["`tolerance` must be at least 0"]),
    Mistake(
        "actors/gull.toml",
        "tolerance = 1.5",
        "tolerence = 1.5",
        &["unknown key `tolerence` in [shape.feathers]", "did you mean `tolerance`?"],
    ),
    Mistake("actors/gull.toml", "tolerance = 1.5", "top = 3", &["kind \"outline\" has no sides to give"]),
    Mistake("actors/gull.toml", "tolerance = 1.5", "paint = \"blue\"", &["\"blue\" is no colour", "#d9a066"]),
    Mistake(
        "actors/gull.toml",
        "tolerance = 1.5",
        "alpha = 300",
        &["`alpha` must be a whole number from 1 to 255, not 300"],
    ),
    Mistake(
        "actors/gull.toml",
        "tolerance = 1.5",
        "region = \"buttom 30%\"",
        &["`region` cannot be \"buttom 30%\"", "bottom 30%"],
    ),
    Mistake("actors/gull.toml", "circle = [24, 18, 4]", "circle = [24, 18, 0]", &["radius must be above 0"]),
    Mistake(
        "actors/gull.toml",
        "circle = [24, 18, 4]",
        "points = [[0, 0], [9, 9], [9, 0], [0, 9]]",
        &["this is no shape", "meets the edge"],
    ),
    Mistake("actors/gull.toml", "circle = [24, 18, 4]", "", &["neither how to fit it nor what it is"]),
    Mistake(
        "actors/gull.toml",
        "circle = [24, 18, 4]",
        "circle = [24, 18, 4]\nkind = \"box\"",
        &["kind and circle contradict one another"],
    ),
    Mistake("actors/gull.toml", "circle = [24, 18, 4]", "circle = [24, 18, inf]", &["list of 3 numbers"]),
    Mistake(
        "actors/gull.toml",
        "animations = [\"dive\"]",
        "animations = [\"dives\"]",
        &["there is no animation \"dives\"", "did you mean \"dive\"?"],
    ),
    Mistake(
        "actors/gull.toml",
        "animations = [\"dive\"]",
        "frames = \"3\"",
        &["dive has 2 frames, there is no frame 3"],
    ),
    Mistake(
        "actors/gull.toml",
        "mask = [\"hero\"]",
        "mask = [\"heros\"]",
        &["unknown layer \"heros\"", "did you mean \"hero\"?"],
    ),
    Mistake(
        "actors/gull.toml",
        "role = \"hit\"",
        "role = \"hitt\"",
        &["it is one of body, hurt, hit, sensor", "did you mean \"hit\"?"],
    ),
    Mistake(
        "actors/gull.toml",
        "role = \"hurt\"",
        "role = \"body\"",
        &["two bodies on glide 0", "the narrower claim wins"],
    ),
    Mistake(
        "actors/gull.toml",
        "part = \"all\"\nlayer = \"foe\"",
        "part = \"all\"",
        &["is on no layer", "add for example `layer"],
    ),
    Mistake(
        "actors/keeper.toml",
        "along = \"body\"",
        "along = \"boddy\"",
        &["no shape \"boddy\" to follow", "did you mean \"body\"?"],
    ),
    Mistake("actors/keeper.toml", "walk = [[36, 8], ", "walk = [", &["5 points are listed, walk has 6 frames"]),
    Mistake(
        "actors/keeper.toml",
        "rise = [[35, 9]]",
        "ris = [[35, 9]]",
        &["there is no animation `ris`", "did you mean `rise`?"],
    ),
    Mistake(
        "actors/keeper.toml",
        "parts = \"keeper.parts.png\"",
        "parts = \"barrel.png\"",
        &["the part map is 24 x 28 px, its picture 480 x 96"],
    ),
    Mistake(
        "actors/gull.toml",
        "tolerance = 1.5",
        "paint = \"#d9a066\"",
        &["shape `feathers` asks for paint #d9a066, but no sheet has a part map", "add `parts ="],
    ),
    // A stage.
    Mistake("stages/pier.toml", "size = [640, 280]", "size = [640, -280]", &["`size` must lie between 1 and"]),
    Mistake("stages/pier.toml", "name = \"ramp\"", "name = \"quay\"", &["\"quay\" is the name of another thing"]),
    Mistake(
        "stages/pier.toml",
        "box = [240, 170, 130, 110]",
        "box = [240, 170, 130, 0]",
        &["width, height or radius must be above 0"],
    ),
    Mistake(
        "stages/pier.toml",
        "box = [240, 170, 130, 110]",
        "bax = [240, 170, 130, 110]",
        &["has no `box`", "did you mean `box`?"],
    ),
    Mistake("stages/pier.toml", "passes = \"up\"", "passes = \"upward\"", &["it is one of up, down, left, right"]),
    Mistake(
        "stages/pier.toml",
        "effect = \"event\"",
        "efect = \"event\"",
        &["[[zone]] has no `effect`", "did you mean `effect`?"],
    ),
    Mistake(
        "stages/pier.toml",
        "layer = \"ledge\"",
        "layer = \"legde\"",
        &["unknown layer \"legde\"", "did you mean \"ledge\"?"],
    ),
    Mistake("stages/pier.toml", "at = [500, 40]", "at = [500, 40", &["pier.toml"]),
];

#[test]
fn each_mistake_is_told_with_its_place_and_its_mend() {
    let fitted = Project::fitted();
    for Mistake(path, from, to, words) in MISTAKES {
        let text = fitted.read(path);
        let at = text.find(from).unwrap_or_else(|| panic!("{path} does not hold {from:?}"));
        fitted.write(path, format!("{}{to}{}", &text[..at], &text[at + from.len()..]));
        let before = fitted.files();
        let run = fitted.run(&["check", "takes/clean.csv"]);
        assert_eq!(run.code, 2, "{path}: {to:?} should be refused:\n{}{}", run.out, run.err);
        let name = path.rsplit('/').next().unwrap();
        assert!(run.err.contains(name), "{to:?} should name {name}:\n{}", run.err);
        for word in *words {
            assert!(run.err.contains(word), "{path}: {to:?} should say {word:?}:\n{}", run.err);
        }
        assert!(run.out.is_empty(), "{to:?}: {}", run.out);
        assert_eq!(fitted.files(), before, "nothing is written");
        fitted.write(path, text);
    }
}

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
            "line 6: facing is \"east\", right or left",
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
    let run = project.refused(&["check", "takes/many.csv"], &["line 2:", "480 more bad rows"]);
    assert!(run.err.lines().count() < 60, "a screenful:\n{}", run.err);
}

#[test]
fn headers_and_missing_files_are_told() {
    let project = Project::fitted();
    let check = |name: &str, text: &str, words: &[&str]| {
        project.write(name, text);
        project.refused(&["check", name], words);
    };
    check(
        "takes/a.csv",
        "tick,actor,x,y,facing,animation,fram\n",
        &["unknown column \"fram\"", "did you mean frame?", "no column frame"],
    );
    check("takes/b.csv", "tick,actor,x,y,facing,animation,frame,x\n", &["column x stands twice"]);
    check("takes/c.csv", "", &["there is no column tick, actor, x"]);
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
            &["finitor.fits/9", "finitor.fits/1"],
        ),
        ("{\"schema\": \"finitor.fits/1\", \"actor\": \"keeper\", \"frame\": []}", &["unknown field `frame`"]),
    ] {
        let project = Project::sample();
        project.write("actors/keeper.fits.json", text);
        project.refused(&["fit"], words);
        project.refused(&["check", "takes/clean.csv"], words);
        assert_eq!(project.read("actors/keeper.fits.json"), text);
    }
}
