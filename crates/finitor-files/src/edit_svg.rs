//! Frames with their shapes as paths, to be edited in any vector editor: the writing side.

use crate::fits_json::{FitsFile, FrameFits, ShapeFits};
use crate::png_bytes::encode_png;
use base64::Engine;
use finitor_core::art::Picture;
use std::fmt::Write;

/// How many px of the drawing a pixel of the art is wide.
const SCALE: f64 = 8.0;
/// Room round frames, px of the drawing.
const ROOM: f64 = 24.0;
/// Frames beside each other.
const COLUMNS: usize = 6;

/// One actor's frames for the drawing.
#[derive(Debug)]
pub struct EditSheet<'a> {
    /// Its fits.
    pub fits: &'a FitsFile,
    /// By frame of the fits: its picture.
    pub pictures: Vec<Picture>,
}

/// The `id` by which a shape's path is found again: `keeper.walk.3.body`.
pub(crate) fn path_id(actor: &str, frame: &FrameFits, shape: &ShapeFits) -> String {
    format!("{actor}.{}.{}.{}", frame.animation, frame.frame, shape.name)
}

/// The drawing: a group a frame, named `keeper.walk.3`, moved and enlarged as a whole, in it the art and a path a shape.
/// Coordinates of paths are the shapes' own, from the pivot, to the last digit.
///
/// # Errors
/// Those of the PNG encoder.
pub fn write_edit_svg(sheets: &[EditSheet<'_>]) -> Result<String, std::io::Error> {
    let mut body = String::new();
    let (mut width, mut y) = (0.0_f64, ROOM);
    for sheet in sheets {
        let frames = sheet.fits.frames.iter().zip(&sheet.pictures).collect::<Vec<_>>();
        for row in frames.chunks(COLUMNS) {
            let mut x = ROOM;
            let tallest = row.iter().map(|(_, picture)| f64::from(picture.height()) * SCALE).fold(0.0, f64::max);
            for (frame, picture) in row {
                write_frame(&mut body, &sheet.fits.actor, frame, picture, (x, y))?;
                x += f64::from(picture.width()) * SCALE + ROOM;
            }
            width = width.max(x);
            y += tallest + ROOM + 12.0;
        }
    }
    Ok(format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{y}\" viewBox=\"0 0 {width} {y}\">\n\
         <!-- Move, add and delete points of the paths and keep their ids; finitor fit reads them back. -->\n\
         <rect width=\"{width}\" height=\"{y}\" fill=\"#59627a\"/>\n{body}</svg>\n"
    ))
}

fn write_frame(
    svg: &mut String,
    actor: &str,
    frame: &FrameFits,
    picture: &Picture,
    (x, y): (f64, f64),
) -> Result<(), std::io::Error> {
    let [px, py] = frame.pivot;
    let art = base64::engine::general_purpose::STANDARD.encode(encode_png(picture)?);
    let name = format!("{actor}.{}.{}", frame.animation, frame.frame);
    let (width, height) = (picture.width(), picture.height());
    let (left, top) = (x + px * SCALE, y + py * SCALE);
    push(
        svg,
        format_args!(
            "<text x=\"{x}\" y=\"{}\" font-family=\"monospace\" font-size=\"11\" fill=\"#eef1f7\">{name}</text>\n",
            y - 4.0
        ),
    );
    push(svg, format_args!("<g id=\"{name}\" transform=\"translate({left} {top}) scale({SCALE})\">\n"));
    push(
        svg,
        format_args!(
            "<image x=\"{}\" y=\"{}\" width=\"{width}\" height=\"{height}\" preserveAspectRatio=\"none\" \
             style=\"image-rendering:pixelated\" href=\"data:image/png;base64,{art}\"/>\n",
            -px, -py
        ),
    );
    for shape in &frame.shapes {
        let (colour, dash) = look(&shape.role);
        let id = path_id(actor, frame, shape);
        push(
            svg,
            format_args!(
                "<path id=\"{id}\" d=\"{}\" fill=\"{colour}\" fill-opacity=\"0.25\" fill-rule=\"evenodd\" \
                 stroke=\"{colour}\" stroke-width=\"0.25\"{dash}/>\n",
                path_data(shape)
            ),
        );
    }
    svg.push_str("</g>\n");
    Ok(())
}

fn push(svg: &mut String, arguments: std::fmt::Arguments<'_>) {
    svg.write_fmt(arguments).expect("a string takes all that is written to it");
}

fn look(role: &str) -> (&'static str, &'static str) {
    match role {
        "body" => ("#ffb454", ""),
        "hurt" => ("#7cc7ff", " stroke-dasharray=\"0.3 0.5\" stroke-linecap=\"round\""),
        "hit" => ("#c792ff", " stroke-dasharray=\"1.5 0.5\""),
        _ => ("#d7dbe4", " stroke-dasharray=\"1 1\""),
    }
}

/// Rings as subpaths, holes last; numbers so that reading them gives the same bits.
fn path_data(shape: &ShapeFits) -> String {
    let mut data = String::new();
    let rings = shape.points.all().into_iter().chain(shape.holes.iter().map(Vec::as_slice));
    for ring in rings {
        for (i, [x, y]) in ring.iter().enumerate() {
            push(&mut data, format_args!("{}{x} {y}", if i == 0 { "M" } else { " L" }));
        }
        data.push_str(" Z ");
    }
    data.truncate(data.trim_end().len());
    data
}
