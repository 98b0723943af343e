//! The sample harbour: its pictures, drawn by rules, its two takes, recorded by script, and a crowd to measure with.
//!
//! Everything here is deterministic. `cargo run -p pier-art --example write_sample` writes the files into the sample
//! project that the program carries; a test proves that they are still what this crate makes.

mod barrel;
mod canvas;
mod crowd;
mod dice;
mod finishes;
mod gull;
mod keeper;
mod takes;
mod tiles;

pub use canvas::Raster;
pub use crowd::figure;
pub use takes::{clean_take, faults_take};

/// One picture of the sample: its path in the sample project, and its pixels.
#[derive(Clone, Debug)]
pub struct SamplePicture {
    /// Path relative to the sample project, with forward slashes.
    pub path: &'static str,
    /// Its pixels.
    pub raster: Raster,
}

/// All pictures of the sample, in the order of their paths.
pub fn pictures() -> Vec<SamplePicture> {
    let (keeper, keeper_parts) = keeper::sheets();
    let picture = |path, raster| SamplePicture { path, raster };
    vec![
        picture("actors/barrel.png", barrel::sheet()),
        picture("actors/gull.png", gull::sheet()),
        picture("actors/keeper.parts.png", keeper_parts),
        picture("actors/keeper.png", keeper),
        picture("stages/tiles.png", tiles::sheet()),
    ]
}
