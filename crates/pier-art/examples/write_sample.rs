//! Writes the sample's pictures and takes into the project that the program carries.
//!
//! `cargo run -p pier-art --example write_sample [DIR]`; DIR is `crates/finitor/sample` unless given.

use std::error::Error;
use std::path::PathBuf;

fn main() -> Result<(), Box<dyn Error>> {
    let beside = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../finitor/sample");
    let target = std::env::args_os().nth(1).map_or(beside, PathBuf::from);
    for folder in ["actors", "stages", "takes"] {
        std::fs::create_dir_all(target.join(folder))?;
    }
    for picture in pier_art::pictures() {
        let file = std::fs::File::create(target.join(picture.path))?;
        let mut encoder = png::Encoder::new(file, picture.raster.width, picture.raster.height);
        encoder.set_color(png::ColorType::Rgba);
        encoder.set_depth(png::BitDepth::Eight);
        encoder.write_header()?.write_image_data(picture.raster.pixels.as_flattened())?;
    }
    std::fs::write(target.join("takes/clean.csv"), pier_art::clean_take())?;
    std::fs::write(target.join("takes/faults.csv"), pier_art::faults_take())?;
    Ok(())
}
