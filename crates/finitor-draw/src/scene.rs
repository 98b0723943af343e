//! What is on a page, in page pixels.

use crate::palette::{Look, Theme};
use finitor_core::art::Picture;
use finitor_core::{Point, Rect, Vec2};

/// A page.
#[derive(Clone, Debug)]
pub struct Scene {
    /// Width, px.
    pub width: f64,
    /// Height, px.
    pub height: f64,
    /// Its parts, later ones on top.
    pub panels: Vec<Panel>,
    /// Its colours; items are in those of the dark page.
    pub theme: Theme,
    /// Pixels of the picture a pixel of the page: less than 1 where the page is larger than a picture should be.
    pub shrink: f64,
}

/// Pictures are at most this wide and high, px, and have at most this many pixels, so that anything opens them.
const MOST_SIDE: f64 = 4096.0;
const MOST_PIXELS: f64 = 16.0e6;

impl Scene {
    /// A dark page.
    pub(crate) fn new(page: Rect, panels: Vec<Panel>) -> Scene {
        Scene { width: page.width(), height: page.height(), panels, theme: Theme::Dark, shrink: 1.0 }
    }

    /// The same, made smaller where it is larger than anything opens, 4096 px a side or 16 million px, and no scale was asked for.
    #[must_use]
    pub fn sized(self, scale: Option<u32>) -> Scene {
        if scale.is_some() {
            return self;
        }
        let longest = self.width.max(self.height).max(1.0);
        let by_area = (MOST_PIXELS / (self.width * self.height).max(1.0)).sqrt();
        Scene { shrink: (MOST_SIDE / longest).min(by_area).min(1.0), ..self }
    }

    /// Width and height of its picture, px.
    pub fn size(&self) -> Vec2 {
        let whole = |side: f64| if self.shrink < 1.0 { (side * self.shrink).floor().max(1.0) } else { side.ceil() };
        Vec2::new(whole(self.width), whole(self.height))
    }

    /// The same in other colours.
    #[must_use]
    pub fn themed(self, theme: Theme) -> Scene {
        Scene { theme, ..self }
    }
}

/// A part of a page; nothing in it shows outside its frame.
#[derive(Clone, Debug)]
pub struct Panel {
    /// Where it is on the page.
    pub frame: Rect,
    /// What lies under the art.
    pub under: Vec<Item>,
    /// The art.
    pub art: Vec<Placed>,
    /// What lies over it.
    pub over: Vec<Item>,
}

impl Panel {
    /// An empty panel.
    pub fn new(frame: Rect) -> Panel {
        Panel { frame, under: Vec::new(), art: Vec::new(), over: Vec::new() }
    }
}

/// A picture on the page, enlarged by whole pixels.
#[derive(Clone, Debug)]
pub struct Placed {
    /// Its pixels.
    pub picture: Picture,
    /// Top left on the page; of the mirrored picture when it is mirrored.
    pub at: Point,
    /// Page pixels a pixel.
    pub scale: u32,
    /// Left and right changed over.
    pub mirrored: bool,
    /// 1 for a picture as it is, less for a faint one.
    pub opacity: f64,
}

/// How a text stands to its point.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Align {
    /// It begins there.
    Start,
    /// Its middle is there.
    Middle,
    /// It ends there.
    End,
}

/// A line of text.
#[derive(Clone, Debug)]
pub struct Text {
    /// On its base line.
    pub at: Point,
    /// Font size, px.
    pub size: f64,
    /// How it stands to the point.
    pub align: Align,
    /// `#rrggbb`.
    pub colour: &'static str,
    /// The words.
    pub words: String,
}

/// Something drawn.
#[derive(Clone, Debug)]
pub enum Item {
    /// A closed ring in a look of the palette.
    Ring {
        /// Its corners.
        points: Vec<Point>,
        /// How it looks.
        look: Look,
    },
    /// A filled rectangle.
    Fill {
        /// Where.
        rect: Rect,
        /// `#rrggbb`.
        colour: &'static str,
    },
    /// A line.
    Line {
        /// From.
        from: Point,
        /// To.
        to: Point,
        /// `#rrggbb`.
        colour: &'static str,
        /// Thickness, px.
        width: f64,
        /// Lengths of dash and gap, px; solid when `None`.
        dash: Option<(f64, f64)>,
    },
    /// An arrow, with its head at the end.
    Arrow {
        /// From.
        from: Point,
        /// To.
        to: Point,
        /// `#rrggbb`.
        colour: &'static str,
    },
    /// A circle's line.
    Circle {
        /// Middle.
        at: Point,
        /// Radius, px.
        radius: f64,
        /// `#rrggbb`.
        colour: &'static str,
    },
    /// A line of text.
    Text(Text),
}

/// Width of a letter by the font's size: all letters of the font are as wide.
pub(crate) const LETTER: f64 = 0.6;

impl Item {
    /// A line of text.
    pub fn text(at: Point, size: f64, align: Align, colour: &'static str, words: impl Into<String>) -> Item {
        Item::Text(Text { at, size, align, colour, words: words.into() })
    }
}

/// Breaks words into lines that fit a width.
pub(crate) fn wrapped(words: &str, size: f64, width: f64) -> Vec<String> {
    let most = ((width / (size * LETTER)).floor() as usize).max(8);
    let mut lines: Vec<String> = Vec::new();
    for word in words.split_whitespace() {
        match lines.last_mut() {
            Some(line) if line.chars().count() + 1 + word.chars().count() <= most => {
                line.push(' ');
                line.push_str(word);
            }
            _ => lines.push(word.to_string()),
        }
    }
    lines
}

/// From a space of its own, such as the world, to the page.
#[derive(Clone, Copy, Debug)]
pub(crate) struct View {
    /// The page's place of the space's origin.
    pub(crate) origin: Vec2,
    /// Page pixels a unit.
    pub(crate) scale: u32,
}

impl View {
    pub(crate) fn point(self, point: Point) -> Point {
        (point.to_vec2() * f64::from(self.scale) + self.origin).to_point()
    }

    pub(crate) fn points(self, points: &[Point]) -> Vec<Point> {
        points.iter().map(|point| self.point(*point)).collect()
    }
}
