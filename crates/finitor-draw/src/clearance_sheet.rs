//! Where on a stage an actor's pivot may be, by body, with its tight passages.

use crate::legend::{Extra, legend};
use crate::page::{EDGE, PAGE_WIDTH, enlargement};
use crate::palette::{FAULT, INK, Look, PAGE, QUIET_INK};
use crate::scene::{Align, Item, LETTER, Panel, Placed, Scene, View, wrapped};
use crate::shapes::stage_items;
use crate::stage_view::name_items;
use finitor_core::art::Picture;
use finitor_core::clearance::Stance;
use finitor_core::stage::Stage;
use finitor_core::world::Space;
use finitor_core::{Point, Rect, Vec2};

/// A passage with its number.
#[derive(Clone, Debug)]
pub struct PassageMark {
    /// Its number.
    pub number: usize,
    /// The middle of its tightest place, world space.
    pub at: Point,
    /// How high, or wide, it is there, px.
    pub clear: f64,
    /// Whether its width is what matters.
    pub is_upright: bool,
    /// Whether no body of the actor fits.
    pub is_short: bool,
    /// What there is to say.
    pub words: String,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct ClearanceSheet<'a> {
    /// The stage.
    pub stage: &'a Stage,
    /// Over the page.
    pub title: String,
    /// The actor's bodies, the tallest first.
    pub bodies: Vec<&'a Stance>,
    /// Its passages.
    pub marks: Vec<PassageMark>,
    /// Pockets that it cannot leave, world space.
    pub pockets: Vec<Rect>,
}

const HEAD: f64 = 36.0;
const LINE: f64 = 20.0;
const SIZE: f64 = 14.0;

/// Where the tallest body has room, and where only lower ones have: colour, and a pattern for those who do not see all hues.
const ROOM: [[u8; 4]; 3] = [[58, 110, 138, 255], [214, 164, 74, 255], [150, 92, 150, 255]];
const NOWHERE: [u8; 4] = [27, 31, 42, 255];

/// The page: every pixel of the stage by the tallest body whose pivot may be in its middle, the stage over it, the passages
/// by number, and below them in words.
///
/// # Complexity
/// That of [`Space::new`] for each body, and O(log n) a pixel.
pub fn clearance_sheet(sheet: &ClearanceSheet<'_>) -> Scene {
    let size = sheet.stage.size;
    let scale = f64::from(enlargement(PAGE_WIDTH, size.x, 4.0));
    let frame = Rect::new(0.0, HEAD, size.x * scale, HEAD + size.y * scale);
    let width = frame.x1.max(900.0);
    let view = View { origin: Vec2::new(0.0, HEAD), scale: scale as u32 };
    let mut map = Panel::new(frame);
    map.art.extend(room_map(sheet, scale).map(|picture| Placed {
        picture,
        at: Point::new(frame.x0, frame.y0),
        scale: 1,
        mirrored: false,
        opacity: 1.0,
    }));
    map.over.extend(stage_items(sheet.stage, view));
    map.over.extend(name_items(sheet.stage, view, frame, None));
    for pocket in &sheet.pockets {
        map.over.extend(outline(view, *pocket));
    }
    for mark in &sheet.marks {
        map.over.extend(mark_items(mark, view));
    }
    let mut words = Panel::new(Rect::ZERO);
    words.over.push(Item::text(Point::new(EDGE, 24.0), 17.0, Align::Start, INK, sheet.title.as_str()));
    let mut y = frame.y1 + 12.0;
    let mut x = EDGE;
    for (index, words_of) in key(sheet).into_iter().enumerate() {
        let swatch = Rect::new(x, y, x + 18.0, y + 18.0);
        let colour = if index < sheet.bodies.len() { ROOM[index.min(ROOM.len() - 1)] } else { NOWHERE };
        words.under.push(Item::Fill { rect: swatch.inflate(1.0, 1.0), colour: QUIET_INK });
        let paint = |dx: u32, dy: u32| pixel(colour, index, dx, dy);
        let pixels = (0..18 * 18).map(|i| paint(i % 18, i / 18)).collect();
        words.art.extend(Picture::new(18, 18, pixels).map(|picture| Placed {
            picture,
            at: Point::new(x, y),
            scale: 1,
            mirrored: false,
            opacity: 1.0,
        }));
        words.over.push(Item::text(Point::new(x + 24.0, y + 13.0), 13.0, Align::Start, INK, words_of.as_str()));
        x += 44.0 + words_of.chars().count() as f64 * 13.0 * LETTER;
    }
    y += 26.0;
    let looks = [(Look::Solid, "solid"), (Look::OneWay, "one-way"), (Look::Zone, "zone")];
    let looks: Vec<(Look, String)> = looks.into_iter().map(|(look, words)| (look, words.to_string())).collect();
    words.over.extend(legend(Point::new(EDGE, y), &looks, Extra::None));
    y += 30.0;
    let (told, more) = told(&sheet.marks);
    for mark in told {
        let colour = if mark.is_short { FAULT } else { INK };
        for line in wrapped(&format!("{}  {}", mark.number, mark.words), SIZE, width - 2.0 * EDGE) {
            y += LINE;
            words.over.push(Item::text(Point::new(EDGE, y), SIZE, Align::Start, colour, line));
        }
    }
    if more > 0 {
        y += LINE;
        let line = format!("and {more} more, which `finitor stage clearance` lists");
        words.over.push(Item::text(Point::new(EDGE, y), SIZE, Align::Start, QUIET_INK, line));
    }
    let page = Rect::new(0.0, 0.0, width, y + EDGE);
    words.frame = page;
    Scene::new(page, vec![map, words])
}

/// The passages listed in words, those that nobody fits before others, and how many are left.
fn told(marks: &[PassageMark]) -> (Vec<&PassageMark>, usize) {
    /// A longer list makes a page that nobody reads.
    const MOST_TOLD: usize = 40;
    let mut told: Vec<&PassageMark> = marks.iter().collect();
    if told.len() > MOST_TOLD {
        told.sort_by_key(|mark| (!mark.is_short, mark.number));
        told.truncate(MOST_TOLD);
        told.sort_by_key(|mark| mark.number);
    }
    let more = marks.len() - told.len();
    (told, more)
}

fn key(sheet: &ClearanceSheet<'_>) -> Vec<String> {
    let bodies = sheet.bodies.iter().enumerate();
    let mut words: Vec<String> = bodies
        .map(|(index, body)| if index == 0 { body.shape.clone() } else { format!("{} alone", body.shape) })
        .collect();
    words.push("no body".into());
    words
}

/// Each pixel by the first body that has room there; none where the page would be too large to hold.
fn room_map(sheet: &ClearanceSheet<'_>, scale: f64) -> Option<Picture> {
    let size = sheet.stage.size;
    let (width, height) = ((size.x * scale).ceil(), (size.y * scale).ceil());
    if width * height > crate::raster::MAX_PICTURE_PIXELS {
        return None;
    }
    let (width, height) = (width as u32, height as u32);
    let spaces: Vec<Space> = sheet.bodies.iter().map(|body| body.space(sheet.stage)).collect();
    let middle = |i: u32| (f64::from(i) + 0.5) / scale;
    let mut pixels = Vec::with_capacity(width as usize * height as usize);
    for y in 0..height {
        for x in 0..width {
            let at = Point::new(middle(x), middle(y));
            pixels.push(match spaces.iter().position(|space| space.contains(at)) {
                Some(index) => pixel(ROOM[index.min(ROOM.len() - 1)], index, x, y),
                None => pixel(NOWHERE, spaces.len(), x, y),
            });
        }
    }
    Picture::new(width, height, pixels)
}

/// Lower bodies are striped, each the other way.
fn pixel(colour: [u8; 4], index: usize, x: u32, y: u32) -> [u8; 4] {
    let stripe = match index {
        1 => (x + y) % 6 < 2,
        2 => (x + 6 - y % 6) % 6 < 2,
        _ => false,
    };
    if colour == NOWHERE || !stripe { colour } else { [colour[0] / 2, colour[1] / 2, colour[2] / 2, 255] }
}

fn outline(view: View, rect: Rect) -> Vec<Item> {
    let corners = [(rect.x0, rect.y0), (rect.x1, rect.y0), (rect.x1, rect.y1), (rect.x0, rect.y1)];
    let corners = corners.map(|corner| view.point(corner.into()));
    let side = |i: usize| Item::Line {
        from: corners[i],
        to: corners[(i + 1) % 4],
        colour: FAULT,
        width: 2.0,
        dash: Some((6.0, 4.0)),
    };
    let mut items: Vec<Item> = (0..4).map(side).collect();
    let at = corners[0] + Vec2::new(4.0, -5.0);
    items.push(Item::text(at, 12.0, Align::Start, FAULT, "pocket"));
    items
}

/// The tightest place as a line with bars at its ends, and the number beside it.
fn mark_items(mark: &PassageMark, view: View) -> Vec<Item> {
    let colour = if mark.is_short { FAULT } else { INK };
    let across = if mark.is_upright { Vec2::new(1.0, 0.0) } else { Vec2::new(0.0, 1.0) };
    let along = Vec2::new(across.y, across.x);
    let ends = [-0.5, 0.5].map(|part| view.point(mark.at + across * (mark.clear * part)));
    let mut items = vec![Item::Line { from: ends[0], to: ends[1], colour, width: 2.0, dash: None }];
    for end in ends {
        items.push(Item::Line { from: end - along * 4.0, to: end + along * 4.0, colour, width: 2.0, dash: None });
    }
    let number = mark.number.to_string();
    let at = view.point(mark.at) + if mark.is_upright { Vec2::new(0.0, -12.0) } else { Vec2::new(14.0, 0.0) };
    let half = Vec2::new(5.0 + 4.5 * number.len() as f64, 9.0);
    items
        .push(Item::Fill { rect: Rect::new(at.x - half.x, at.y - half.y, at.x + half.x, at.y + half.y), colour: PAGE });
    items.push(Item::text(at + Vec2::new(0.0, 5.0), SIZE, Align::Middle, colour, number));
    items
}
