//! Fitting beside the plain decode of the same PNGs, one thread.

use crate::clock::{Beside, Sized, growth, least};
use crate::crowd;
use crate::support::Project;
use finitor_core::fit::{FitGoal, Fitting, FrameArt, Geometry, Kind, fit_shape, measure, pieces_of, selection};
use std::hint::black_box;

/// As many px as a frame of a finished game has.
const SIDE: u32 = 80;
const FRAMES: u64 = 200;
const ROUNDS: usize = 5;
/// Frames of a whole run, one PNG each.
const FILES: u64 = 2_000;

pub(crate) fn table() {
    kinds();
    sizes();
    whole_runs();
}

/// Made-up figures and their PNGs.
struct Art {
    figures: Vec<FrameArt>,
    files: Vec<Vec<u8>>,
}

impl Art {
    fn new(frames: u64, side: u32) -> Art {
        let figures = crowd::figures(frames, side);
        let files = crowd::files(&figures);
        Art { figures, files }
    }

    /// All of them decoded by the PNG crate alone.
    fn decode(&self) {
        black_box(crowd::decoded(&self.files));
    }

    /// A shape on each.
    fn fit(&self, fitting: &Fitting) -> Vec<Geometry> {
        self.figures.iter().filter_map(|art| fit_shape(&selection(art, fitting).mask, fitting).ok()).collect()
    }
}

fn name(goal: FitGoal) -> String {
    format!("{goal:?}").to_lowercase()
}

/// Each kind with each goal, then measuring and cutting.
fn kinds() {
    let art = Art::new(FRAMES, SIDE);
    let per = FRAMES as f64;
    let goals = [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance];
    for kind in Kind::ALL {
        for goal in goals.into_iter().filter(|goal| (kind, *goal) != (Kind::Hull, FitGoal::Inside)) {
            let fitting = Fitting { goal, ..Fitting::of(kind) };
            let found = Beside::plain(ROUNDS, || art.decode(), || drop(black_box(art.fit(&fitting))));
            found.line(&format!("{}, {}, of {SIDE} px", kind.name(), name(goal)), "decode", per);
        }
    }
    for goal in goals {
        let fitting = Fitting { goal, max_points: Some(30), ..Fitting::of(Kind::Outline) };
        let found = Beside::plain(ROUNDS, || art.decode(), || drop(black_box(art.fit(&fitting))));
        found.line(&format!("outline of at most 30 points, {}", name(goal)), "decode", per);
    }
    let outline = Fitting::of(Kind::Outline);
    let (shapes, masks): (Vec<_>, Vec<_>) =
        (art.fit(&outline), art.figures.iter().map(|art| selection(art, &outline).mask).collect());
    let measured =
        || drop(black_box(shapes.iter().zip(&masks).map(|(shape, mask)| measure(shape, mask)).collect::<Vec<_>>()));
    Beside::plain(ROUNDS, || art.decode(), measured).line("measuring an outline", "decode", per);
    let cut = || drop(black_box(shapes.iter().map(|shape| pieces_of(shape, usize::MAX)).collect::<Vec<_>>()));
    Beside::plain(ROUNDS, || art.decode(), cut).line("cutting it into the fewest convex pieces", "decode", per);
}

/// An outline a frame from 32 to 2,048 px a side.
fn sizes() {
    for goal in [FitGoal::Balance, FitGoal::Cover] {
        let fitting = Fitting { goal, ..Fitting::of(Kind::Outline) };
        let mut sizes = Vec::new();
        for (side, frames) in [(32, 400), (64, 200), (128, 100), (256, 40), (512, 12), (1024, 4), (2048, 2)] {
            let art = Art::new(frames, side);
            let found = Beside::plain(3, || art.decode(), || drop(black_box(art.fit(&fitting))));
            found.line(&format!("outline, {}, of {side} px", name(goal)), "decode", frames as f64);
            sizes.push(Sized { size: f64::from(side * side), seconds: found.least / frames as f64 });
        }
        growth(&format!("outline, {}, 32 to 2,048 px a side", name(goal)), &sizes);
    }
}

/// `finitor fit` of one outline a frame, from nothing, from files.
fn whole_runs() {
    let art = Art::new(FILES, SIDE);
    let project = Project::empty();
    for (number, file) in art.files.iter().enumerate() {
        project.write(&format!("actors/crowd/walk_{number:05}.png"), file);
    }
    project.write(
        "finitor.toml",
        "[project]\nname = \"crowd\"\nactors = [\"actors/*.toml\"]\n[layers]\nnames = [\"one\"]\n",
    );
    project.write(
        "actors/crowd.toml",
        "[actor]\nname = \"crowd\"\npivot = \"feet\"\n[animation.walk]\nfiles = \"crowd/walk_*.png\"\n[shape.body]\nrole = \"body\"\nkind = \"outline\"\nlayer = \"one\"\n",
    );
    let fits = project.path("actors/crowd.fits.json");
    let anew = |threads: &str| {
        std::fs::remove_file(&fits).ok();
        project.ok(&["fit", "--threads", threads]);
    };
    Beside::plain(3, || art.decode(), || anew("1")).line(
        "`fit` from nothing, one thread, a frame",
        "decode",
        FILES as f64,
    );
    Beside::plain(3, || anew("1"), || anew("2")).line("the same, two threads", "one thread", FILES as f64);
    let nothing = least(5, || drop(project.ok(&["fit"])));
    println!("| `fit` of {FILES} frames, nothing to do | | | {:.0} |", nothing * 1000.0);
    let bytes = std::fs::metadata(&fits).unwrap().len();
    println!("| fits on disk, bytes a frame | | {} | |", bytes / FILES);
}
