//! Scenes as SVG.

use crate::palette::{Look, PAGE, Theme};
use crate::scene::{Align, Item, Panel, Placed, Scene, Text};
use base64::Engine;
use finitor_core::art::Picture;
use finitor_core::{Point, Rect};
use quick_xml::escape::partial_escape;
use std::collections::BTreeMap;
use std::fmt::{Display, Formatter, Write};

/// Which parts of the panels to write.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Parts {
    /// Everything.
    All,
    /// One panel's part under its art.
    Under(usize),
    /// One panel's part over its art.
    Over(usize),
}

/// The text of a file as it is written, in the colours of a theme.
struct Ink {
    text: String,
    theme: Theme,
}

impl Ink {
    fn push(&mut self, arguments: std::fmt::Arguments<'_>) {
        push(&mut self.text, arguments);
    }

    fn colour(&self, dark: &'static str) -> &'static str {
        self.theme.colour(dark)
    }
}

/// A picture's width and bytes, by which it is found again.
type Content<'a> = (u32, &'a [u8]);

/// The pictures of a file, each written once however often it is placed: both facings of a frame show the same, and a play few
/// frames many times.
#[derive(Default)]
struct Pictures<'a> {
    numbers: BTreeMap<Content<'a>, usize>,
}

impl<'a> Pictures<'a> {
    fn content(picture: &Picture) -> Content<'_> {
        (picture.width(), picture.pixels().as_flattened())
    }

    /// Writes a picture that is not in the file yet.
    fn define(&mut self, svg: &mut Ink, picture: &'a Picture) {
        let number = self.numbers.len();
        if self.numbers.contains_key(&Pictures::content(picture)) {
            return;
        }
        let Some(bytes) = png_bytes(picture) else {
            return;
        };
        let data = base64::engine::general_purpose::STANDARD.encode(bytes);
        svg.push(format_args!(
            "<image id=\"art{number}\" width=\"{}\" height=\"{}\" style=\"image-rendering:pixelated\" \
             href=\"data:image/png;base64,{data}\"/>\n",
            picture.width(),
            picture.height()
        ));
        self.numbers.insert(Pictures::content(picture), number);
    }

    /// The number of a picture that is in the file.
    fn number(&self, picture: &Picture) -> Option<usize> {
        self.numbers.get(&Pictures::content(picture)).copied()
    }
}

/// The scene as a self-contained SVG file.
pub fn to_svg(scene: &Scene) -> String {
    parts_to_svg(scene, Parts::All)
}

pub(crate) fn parts_to_svg(scene: &Scene, parts: Parts) -> String {
    let (width, height) = (number(scene.width), number(scene.height));
    let (own_width, own_height) = match scene.shrink < 1.0 {
        true => (number(scene.size().x), number(scene.size().y)),
        false => (width, height),
    };
    let text = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{own_width}\" height=\"{own_height}\" viewBox=\"0 0 {width} \
         {height}\" font-family=\"JetBrains Mono, monospace\">\n<defs>\n"
    );
    let mut svg = Ink { text, theme: scene.theme };
    for look in Look::ALL {
        pattern(&mut svg, look);
    }
    // A panel that is the whole page needs no clip, and one of a large page is dear.
    let page = Rect::new(0.0, 0.0, scene.width, scene.height);
    let is_clipped = |panel: &Panel| panel.frame.intersect(page) != page;
    for (index, panel) in scene.panels.iter().enumerate().filter(|(_, panel)| is_clipped(panel)) {
        let frame = rect_attributes(panel.frame);
        svg.push(format_args!("<clipPath id=\"panel{index}\"><rect {frame}/></clipPath>\n"));
    }
    let mut pictures = Pictures::default();
    if parts == Parts::All {
        let arts = scene.panels.iter().flat_map(|panel| &panel.art);
        arts.for_each(|placed| pictures.define(&mut svg, &placed.picture));
    }
    svg.text.push_str("</defs>\n");
    if parts == Parts::All {
        let page = svg.colour(PAGE);
        svg.push(format_args!("<rect width=\"{width}\" height=\"{height}\" fill=\"{page}\"/>\n"));
    }
    for (index, panel) in scene.panels.iter().enumerate() {
        let is_shown = |part: Parts| parts == Parts::All || parts == part;
        if !is_shown(Parts::Under(index)) && !is_shown(Parts::Over(index)) {
            continue;
        }
        match is_clipped(panel) {
            true => svg.push(format_args!("<g clip-path=\"url(#panel{index})\">\n")),
            false => svg.text.push_str("<g>\n"),
        }
        if is_shown(Parts::Under(index)) {
            panel.under.iter().for_each(|item| write_item(&mut svg, item));
        }
        if parts == Parts::All {
            panel.art.iter().for_each(|placed| write_art(&mut svg, placed, &pictures));
        }
        if is_shown(Parts::Over(index)) {
            panel.over.iter().for_each(|item| write_item(&mut svg, item));
        }
        svg.text.push_str("</g>\n");
    }
    svg.text.push_str("</svg>\n");
    svg.text
}

fn push(text: &mut String, arguments: std::fmt::Arguments<'_>) {
    text.write_fmt(arguments).expect("a string takes all that is written to it");
}

/// Two decimals at most: a hundredth of a pixel is more than any screen shows.
#[derive(Clone, Copy)]
struct Hundredths(i64);

fn number(value: f64) -> Hundredths {
    Hundredths((value * 100.0).round_ties_even() as i64)
}

impl Hundredths {
    /// Its digits, at the end of a buffer: pages hold a hundred thousand numbers, and the usual way to write one takes longer than reading it.
    fn text(self, buffer: &mut [u8; 24]) -> &str {
        let Hundredths(hundredths) = self;
        let mut at = buffer.len();
        let mut put = |byte: u8| {
            at -= 1;
            buffer[at] = byte;
        };
        let (mut whole, part) = (hundredths.unsigned_abs() / 100, (hundredths.unsigned_abs() % 100) as u8);
        if part > 0 {
            if !part.is_multiple_of(10) {
                put(b'0' + part % 10);
            }
            put(b'0' + part / 10);
            put(b'.');
        }
        loop {
            put(b'0' + (whole % 10) as u8);
            whole /= 10;
            if whole == 0 {
                break;
            }
        }
        if hundredths < 0 {
            put(b'-');
        }
        std::str::from_utf8(&buffer[at..]).unwrap_or_default()
    }
}

impl Display for Hundredths {
    fn fmt(&self, f: &mut Formatter<'_>) -> std::fmt::Result {
        f.write_str(self.text(&mut [0; 24]))
    }
}

fn rect_attributes(rect: Rect) -> String {
    let (x, y, w, h) = (number(rect.x0), number(rect.y0), number(rect.width()), number(rect.height()));
    format!("x=\"{x}\" y=\"{y}\" width=\"{w}\" height=\"{h}\"")
}

fn pattern(svg: &mut Ink, look: Look) {
    let style = look.style();
    let (side, drawing) = style.pattern;
    let (id, colour, tint) = (style.id, svg.colour(style.colour), style.tint);
    svg.push(format_args!(
        "<pattern id=\"{id}\" width=\"{side}\" height=\"{side}\" patternUnits=\"userSpaceOnUse\"><rect \
             width=\"{side}\" height=\"{side}\" fill=\"{colour}\" fill-opacity=\"{tint}\"/><g fill=\"{colour}\" \
             stroke=\"{colour}\" stroke-width=\"0\">{drawing}</g></pattern>\n"
    ));
}

fn write_path(text: &mut String, points: &[Point]) {
    for (index, point) in points.iter().enumerate() {
        text.push(if index == 0 { 'M' } else { 'L' });
        text.push_str(number(point.x).text(&mut [0; 24]));
        text.push(' ');
        text.push_str(number(point.y).text(&mut [0; 24]));
    }
    text.push('Z');
}

fn write_item(svg: &mut Ink, item: &Item) {
    match item {
        Item::Ring { points, look } => {
            let style = look.style();
            let colour = svg.colour(style.colour);
            let dash = dash_attribute(style.dash);
            let (id, width) = (style.id, style.width);
            svg.text.push_str("<path d=\"");
            write_path(&mut svg.text, points);
            svg.push(format_args!(
                "\" fill=\"url(#{id})\" stroke=\"{colour}\" stroke-width=\"{width}\"{dash} stroke-linejoin=\"round\"/>\n"
            ));
        }
        Item::Fill { rect, colour } => {
            let colour = svg.colour(colour);
            svg.push(format_args!("<rect {} fill=\"{colour}\"/>\n", rect_attributes(*rect)));
        }
        Item::Line { from, to, colour, width, dash } => {
            let colour = svg.colour(colour);
            let dash = dash.map_or_else(String::new, |(on, off)| dash_attribute(&format!("{on} {off}")));
            write_line(svg, *from, *to, &format!("stroke=\"{colour}\" stroke-width=\"{width}\"{dash}"));
        }
        Item::Arrow { from, to, colour } => write_arrow(svg, *from, *to, svg.colour(colour)),
        Item::Circle { at, radius, colour } => {
            let colour = svg.colour(colour);
            let (x, y, r) = (number(at.x), number(at.y), number(*radius));
            svg.push(format_args!(
                "<circle cx=\"{x}\" cy=\"{y}\" r=\"{r}\" fill=\"none\" stroke=\"{colour}\" stroke-width=\"2.5\"/>\n"
            ));
        }
        Item::Text(text) => write_text(svg, text),
    }
}

fn dash_attribute(dash: &str) -> String {
    if dash.is_empty() { String::new() } else { format!(" stroke-dasharray=\"{dash}\"") }
}

fn write_line(svg: &mut Ink, from: Point, to: Point, attributes: &str) {
    let (x1, y1, x2, y2) = (number(from.x), number(from.y), number(to.x), number(to.y));
    svg.push(format_args!("<line x1=\"{x1}\" y1=\"{y1}\" x2=\"{x2}\" y2=\"{y2}\" {attributes}/>\n"));
}

fn write_arrow(svg: &mut Ink, from: Point, to: Point, colour: &str) {
    const HEAD: f64 = 8.0;
    let along = to - from;
    if along.hypot() == 0.0 {
        return;
    }
    let unit = along.normalize();
    let across = finitor_core::Vec2::new(-unit.y, unit.x);
    let base = to - unit * HEAD;
    write_line(svg, from, base, &format!("stroke=\"{colour}\" stroke-width=\"3\""));
    svg.text.push_str("<path d=\"");
    write_path(&mut svg.text, &[to, base + across * (HEAD * 0.6), base - across * (HEAD * 0.6)]);
    svg.push(format_args!("\" fill=\"{colour}\"/>\n"));
}

fn write_text(svg: &mut Ink, text: &Text) {
    let anchor = match text.align {
        Align::Start => "start",
        Align::Middle => "middle",
        Align::End => "end",
    };
    let (x, y, size, colour) = (number(text.at.x), number(text.at.y), number(text.size), svg.colour(text.colour));
    svg.push(format_args!(
        "<text x=\"{x}\" y=\"{y}\" font-size=\"{size}\" fill=\"{colour}\" text-anchor=\"{anchor}\" \
             xml:space=\"preserve\">{}</text>\n",
        safe(&text.words)
    ));
}

/// Text that is safe inside an element. Characters that XML cannot hold become question marks, breaks spaces.
fn safe(words: &str) -> String {
    let allowed = |letter: char| match letter {
        '\t' | '\n' | '\r' => ' ',
        c if c.is_control() || c == '\u{fffe}' || c == '\u{ffff}' => '?',
        c => c,
    };
    partial_escape(words.chars().map(allowed).collect::<String>()).into_owned()
}

fn write_art(svg: &mut Ink, placed: &Placed, pictures: &Pictures<'_>) {
    let Placed { picture, at, scale, mirrored, opacity } = placed;
    let Some(number_in_file) = pictures.number(picture) else {
        return;
    };
    let left = if *mirrored { at.x + f64::from(picture.width() * scale) } else { at.x };
    let faint = if *opacity < 1.0 { format!(" opacity=\"{}\"", number(*opacity)) } else { String::new() };
    let flip = if *mirrored { format!("-{scale}") } else { scale.to_string() };
    svg.push(format_args!(
        "<use href=\"#art{number_in_file}\" transform=\"translate({} {}) scale({flip} {scale})\"{faint}/>\n",
        number(left),
        number(at.y)
    ));
}

/// The picture as a PNG file; `None` when it has no pixel.
pub fn png_bytes(picture: &Picture) -> Option<Vec<u8>> {
    encoded([picture.width(), picture.height()], png::ColorType::Rgba, picture.pixels().as_flattened())
}

/// Bytes of pixels from which on a picture is packed well, and from which on quickly again.
const SMALL: usize = 1 << 16;
const LARGE: usize = 1 << 23;

/// Pixels of 8 bits a channel as a PNG file.
pub(crate) fn encoded([width, height]: [u32; 2], colour: png::ColorType, pixels: &[u8]) -> Option<Vec<u8>> {
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, width, height);
    encoder.set_color(colour);
    encoder.set_depth(png::BitDepth::Eight);
    // Packing a page of 5 Mpx well takes as long as drawing half of it, and for the art of a frame setting that up takes longer than
    // the rest.
    encoder.set_compression(match pixels.len() {
        ..SMALL => png::Compression::Fastest,
        SMALL..LARGE => png::Compression::Balanced,
        LARGE.. => png::Compression::Fast,
    });
    encoder.write_header().ok()?.write_image_data(pixels).ok()?;
    Some(bytes)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_have_the_two_decimals_that_they_need() {
        for hundredths in (-2_500..2_500).chain([i64::from(i32::MAX) * 100 + 99, -1_234_567]) {
            let whole = format!("{:.2}", hundredths as f64 / 100.0);
            let short = whole.trim_end_matches('0').trim_end_matches('.');
            assert_eq!(Hundredths(hundredths).to_string(), short);
        }
        assert_eq!(number(-0.004).to_string(), "0");
    }
}
