//! The demo, and that everything comes out the same every time.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use support::{Project, pixels};

#[test]
fn the_demo_does_the_whole_job_and_says_how() {
    let place = Project::empty();
    let run = place.ok(&["demo", "pier"]);
    for step in ["$ finitor fit", "$ finitor layers", "$ finitor check takes/faults.csv", "$ finitor draw"] {
        assert!(run.out.contains(step), "{step}:\n{}", run.out);
    }
    assert!(run.out.contains("clean.csv on pier: clean."), "{}", run.out);
    assert!(run.out.contains("12 errors, 3 warnings, 2 notes"), "{}", run.out);
    let files = place.files();
    for file in
        ["actors/keeper.fits.json", "pictures/keeper.png", "pictures/keeper.svg", "pictures/pier-faults-126.png"]
    {
        assert!(files.contains_key(&format!("pier/{file}")), "{file} is missing");
    }
    // Commands named by the demo work as they stand inside the folder.
    for args in [&["fit"][..], &["layers"], &["layers", "explain", "keeper.body", "pier/jetty"], &["draw", "keeper"]] {
        let inside = [args, &["--project", "pier"]].concat();
        place.ok(&inside);
    }
}

#[test]
fn a_folder_that_is_not_empty_is_left_alone_unless_forced() {
    let place = Project::empty();
    place.write("pier/notes.txt", "mine");
    place.refused(&["demo", "pier"], &["pier", "not empty", "--force"]);
    assert_eq!(place.files().len(), 1);
    place.ok(&["demo", "pier", "--force"]);
    assert_eq!(place.read("pier/notes.txt"), "mine");
    place.write("file", "x");
    place.refused(&["demo", "file"], &["is a file; name a folder"]);
}

#[test]
fn the_same_bytes_on_every_run_and_with_any_number_of_threads() {
    let run = |threads: &str| {
        let place = Project::empty();
        let run = place.ok(&["demo", "pier", "--threads", threads]);
        let json =
            place.run(&["check", "takes/faults.csv", "--format", "json", "--project", "pier", "--threads", threads]);
        let facing = place.ok(&["facing", "--format", "json", "--project", "pier", "--threads", threads]);
        (run.out, json.out, facing.out, place.files())
    };
    let first = run("1");
    assert_eq!(run("1"), first);
    assert_eq!(run("2"), first);
}

#[test]
fn the_contact_sheet_shows_the_art_enlarged_by_whole_pixels_in_both_facings() {
    let project = Project::sample();
    // With shapes over it the art's colours would be tinted; a speck in the corner leaves it as it is.
    let text = project.read("actors/barrel.toml");
    let bare = text.split("[shape.body]").next().unwrap();
    project.write("actors/barrel.toml", format!("{bare}[shape.speck]\nrole = \"sensor\"\nbox = [0, 0, 1, 1]\n"));
    project.ok(&["fit"]);
    project.ok(&["draw", "barrel", "--scale", "4"]);
    let (_, _, page) = pixels(&project.path("pictures/barrel.png"));
    let (_, _, art) = pixels(&project.path("actors/barrel.png"));
    for colour in [[112, 124, 150, 255], [166, 112, 72, 255]] {
        let count = |pixels: &[[u8; 4]]| pixels.iter().filter(|pixel| **pixel == colour).count();
        assert!(count(&art) > 10);
        assert_eq!(count(&page), count(&art) * 16 * 2, "each pixel is a 4 x 4 square, once a facing");
    }
    let svg = project.read("pictures/barrel.svg");
    assert_eq!(svg.matches("<image").count(), 1, "the frame's art is in it once");
    assert_eq!(svg.matches("<use ").count(), 2, "and shown once a facing");
    assert!(svg.contains("scale(-4 4)") && svg.contains("scale(4 4)"), "one of them mirrored");
}

#[test]
fn the_stage_is_drawn_at_the_tick_asked_for_with_its_finding() {
    let project = Project::fitted();
    let worst = project.ok(&["draw", "--take", "takes/faults.csv"]);
    assert!(worst.out.contains("pier-faults-184.png"), "the worst finding's tick: {}", worst.out);
    project.ok(&["draw", "--take", "takes/faults.csv", "--tick", "18"]);
    let svg = project.read("pictures/pier-faults-18.svg");
    for words in ["tick 18", "embedded", "after turning right", "sea_wall"] {
        assert!(svg.contains(words), "{words}");
    }
    project.refused(&["draw", "--take", "takes/faults.csv", "--tick", "50"], &["has no tick 50", "it has 0 to 920"]);
    project.refused(&["draw", "keper"], &["no actor or stage \"keper\"", "did you mean \"keeper\""]);
}
