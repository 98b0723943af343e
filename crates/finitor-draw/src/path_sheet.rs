//! The ways of all actors over a stage, with the findings of a take where they were.

use crate::aids::Aids;
use crate::page::{EDGE, PAGE_WIDTH, enlargement};
use crate::palette::{BODY, DUSK, FAULT, HIT, HURT, INK, ONE_WAY, QUIET_INK, ZONE};
use crate::scene::{Align, Item, Panel, Scene, View, wrapped};
use crate::shapes::stage_items;
use crate::stage_view::name_items;
use finitor_core::finding::Finding;
use finitor_core::stage::Stage;
use finitor_core::{Point, Rect, Vec2};

/// The way of an instance.
#[derive(Clone, Debug)]
pub struct Walk {
    /// The instance.
    pub label: String,
    /// Places of the pivot tick by tick, world px: a list for each stretch that it went without being put elsewhere.
    pub stretches: Vec<Vec<Point>>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct PathSheet<'a> {
    /// Over the page.
    pub title: String,
    /// The stage.
    pub stage: &'a Stage,
    /// The ways.
    pub walks: Vec<Walk>,
    /// The findings, in the order of their ticks.
    pub findings: Vec<&'a Finding>,
    /// Whole pixels a pixel; chosen to suit the page when `None`.
    pub scale: Option<u32>,
    /// Lines and figures.
    pub aids: Aids,
}

const HEAD: f64 = 36.0;
const LINE: f64 = 18.0;

/// Ways differ by hue and by dashes.
const LOOKS: [(&str, Option<(f64, f64)>); 5] = [
    (BODY, None),
    (HURT, Some((8.0, 4.0))),
    (HIT, Some((6.0, 3.0))),
    (ONE_WAY, Some((12.0, 3.0))),
    (ZONE, Some((4.0, 8.0))),
];

/// The page: the stage with all ways, marks where something was found, and what that was.
pub fn path_sheet(sheet: &PathSheet<'_>) -> Scene {
    let size = sheet.stage.size;
    let scale = sheet.scale.unwrap_or_else(|| enlargement(PAGE_WIDTH, size.x, 4.0));
    let frame = Rect::new(0.0, HEAD, size.x * f64::from(scale), HEAD + size.y * f64::from(scale));
    let view = View { origin: Vec2::new(0.0, HEAD), scale };
    let width = frame.x1.max(900.0);
    let mut map = Panel::new(frame);
    map.under.push(Item::Fill { rect: frame, colour: DUSK });
    map.under.extend(stage_items(sheet.stage, view));
    map.over.extend(sheet.aids.items(view, frame));
    map.over.extend(name_items(sheet.stage, view, frame, None));
    let mut words = Panel::new(Rect::ZERO);
    words.over.push(Item::text(Point::new(EDGE, 24.0), 17.0, Align::Start, INK, sheet.title.as_str()));
    let mut x = EDGE;
    let mut y = frame.y1 + 22.0;
    for (index, walk) in sheet.walks.iter().enumerate() {
        let (colour, dash) = LOOKS[index % LOOKS.len()];
        let line = |from: Point, to: Point| Item::Line { from, to, colour, width: 2.5, dash };
        for stretch in &walk.stretches {
            let points: Vec<Point> = thinned(stretch, view);
            map.over.extend(points.windows(2).map(|pair| line(pair[0], pair[1])));
        }
        words.over.push(line(Point::new(x, y - 4.0), Point::new(x + 26.0, y - 4.0)));
        words.over.push(Item::text(Point::new(x + 32.0, y), 13.0, Align::Start, INK, walk.label.as_str()));
        x += 60.0 + walk.label.chars().count() as f64 * 13.0 * crate::scene::LETTER;
        if x > width - 160.0 {
            (x, y) = (EDGE, y + LINE);
        }
    }
    y += LINE + 6.0;
    for (index, finding) in sheet.findings.iter().enumerate() {
        let Some(place) = finding.in_take() else { continue };
        // What lies beyond the border is marked at it.
        let inside = frame.inflate(-12.0, -12.0);
        let at = view.point(place.worst.at);
        let at = Point::new(at.x.clamp(inside.x0, inside.x1), at.y.clamp(inside.y0, inside.y1));
        map.over.push(Item::Circle { at, radius: 9.0, colour: FAULT });
        map.over.push(Item::text(at + Vec2::new(0.0, 4.0), 11.0, Align::Middle, INK, (index + 1).to_string()));
        let figure = finding.rule.unit().shown(finding.figure);
        let told = format!(
            "{:>2}  tick {}: {} {}, {figure}. {}",
            index + 1,
            place.worst.tick,
            finding.severity,
            finding.rule,
            finding.message
        );
        for (row, line) in wrapped(&told, 13.0, width - 2.0 * EDGE).into_iter().enumerate() {
            let colour = if row == 0 { INK } else { QUIET_INK };
            let indent = if row == 0 { 0.0 } else { 32.0 };
            words.over.push(Item::text(Point::new(EDGE + indent, y), 13.0, Align::Start, colour, line));
            y += LINE;
        }
    }
    words.frame = Rect::new(0.0, 0.0, width, y + 8.0);
    Scene::new(words.frame, vec![map, words])
}

/// The places of a stretch on the page, without those that hide behind the one before.
fn thinned(stretch: &[Point], view: View) -> Vec<Point> {
    let mut points: Vec<Point> = Vec::new();
    for (index, point) in stretch.iter().enumerate() {
        let at = view.point(*point);
        let is_end = index + 1 == stretch.len();
        if is_end || points.last().is_none_or(|last| (*last - at).hypot() >= 1.5) {
            points.push(at);
        }
    }
    points
}
