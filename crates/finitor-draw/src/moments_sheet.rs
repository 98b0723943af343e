//! A place of a stage at several ticks: side by side on a page, or a page each.

use crate::aids::Aids;
use crate::page::{Cells, EDGE, HEAD, INNER_WIDTH, PAGE_WIDTH, enlargement, headed, page};
use crate::palette::{FAULT, INK};
use crate::scene::{Align, Item, Scene, View, wrapped};
use crate::stage_view::{StageActor, StageView, stage_panel};
use finitor_core::finding::Finding;
use finitor_core::stage::Stage;
use finitor_core::{Point, Rect, Vec2};

/// A tick.
#[derive(Clone, Debug)]
pub struct MomentCell<'a> {
    /// Over it: the tick and its time.
    pub title: String,
    /// Actors then.
    pub actors: Vec<StageActor<'a>>,
    /// Findings then, the worst first.
    pub findings: Vec<&'a Finding>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct MomentsSheet<'a> {
    /// Over the page.
    pub title: String,
    /// The stage.
    pub stage: &'a Stage,
    /// The part of it that is shown, world px.
    pub area: Rect,
    /// The ticks.
    pub moments: Vec<MomentCell<'a>>,
    /// Whole pixels a pixel; chosen to suit the page when `None`.
    pub scale: Option<u32>,
    /// Lines and figures.
    pub aids: Aids,
}

const TITLE: f64 = 20.0;
const WORDS: f64 = 13.0;

/// All moments on a page, in rows.
pub fn moments_sheet(sheet: &MomentsSheet<'_>) -> Scene {
    let count = sheet.moments.len().max(1) as f64;
    // As large as some rows of them allow.
    let scale = sheet.scale.unwrap_or_else(|| enlargement(INNER_WIDTH / count.min(4.0), sheet.area.width() + 4.0, 4.0));
    let size = Vec2::new(sheet.area.width(), sheet.area.height()) * f64::from(scale);
    let cells = Cells::new(size.x, size.y + TITLE + 2.0 * WORDS, 10.0);
    let mut words = headed(&sheet.title, "");
    let mut panels = Vec::new();
    let mut right = 0.0_f64;
    for (index, moment) in sheet.moments.iter().enumerate() {
        let corner = cells.corner(index) - Vec2::new(0.0, 20.0);
        words.over.push(Item::text(corner + Vec2::new(0.0, 14.0), 13.0, Align::Start, INK, moment.title.as_str()));
        let frame = Rect::from_origin_size(corner + Vec2::new(0.0, TITLE), (size.x, size.y));
        panels.push(cut(sheet, moment, frame, scale));
        words.over.extend(told(moment, Point::new(frame.x0, frame.y1 + WORDS), size.x));
        right = right.max(frame.x1);
    }
    let scene = page(words, right + EDGE, cells.bottom(sheet.moments.len()));
    panels.extend(scene.panels);
    Scene { panels, ..scene }
}

/// A moment on a page of its own; all moments of a sheet make pages of one size.
pub fn moment_page(sheet: &MomentsSheet<'_>, moment: usize) -> Scene {
    let scale = sheet.scale.unwrap_or_else(|| enlargement(PAGE_WIDTH, sheet.area.width(), 4.0));
    let size = Vec2::new(sheet.area.width(), sheet.area.height()) * f64::from(scale);
    let moment = &sheet.moments[moment];
    let frame = Rect::new(0.0, HEAD - 28.0, size.x, HEAD - 28.0 + size.y);
    let width = size.x.max(420.0);
    let mut words = crate::scene::Panel::new(Rect::new(0.0, 0.0, width, frame.y1 + 40.0));
    let title = format!("{}, {}", sheet.title, moment.title);
    words.over.push(Item::text(Point::new(EDGE, 24.0), 15.0, Align::Start, INK, title));
    words.over.extend(told(moment, Point::new(EDGE, frame.y1 + 16.0), width - 2.0 * EDGE));
    Scene::new(words.frame, vec![cut(sheet, moment, frame, scale), words])
}

/// The part of the stage at a moment.
fn cut(sheet: &MomentsSheet<'_>, moment: &MomentCell<'_>, frame: Rect, scale: u32) -> crate::scene::Panel {
    let origin = Point::new(frame.x0, frame.y0).to_vec2() - Vec2::new(sheet.area.x0, sheet.area.y0) * f64::from(scale);
    let world = View { origin: Vec2::new(origin.x.round(), origin.y.round()), scale };
    let view = StageView {
        actors: moment.actors.clone(),
        findings: moment.findings.clone(),
        aids: sheet.aids,
        ..StageView::of(sheet.stage)
    };
    stage_panel(&view, frame, world)
}

/// The worst finding of a moment in two lines at most.
fn told(moment: &MomentCell<'_>, at: Point, width: f64) -> Vec<Item> {
    let Some(finding) = moment.findings.first() else { return Vec::new() };
    let words = format!("{} {}, {}", finding.severity, finding.rule, finding.rule.unit().shown(finding.figure));
    let lines = wrapped(&words, 11.0, width).into_iter().take(2).enumerate();
    lines
        .map(|(row, line)| Item::text(at + Vec2::new(0.0, row as f64 * WORDS), 11.0, Align::Start, FAULT, line))
        .collect()
}
