//! A take along its ticks: a lane each for findings, and for what actors and zones did.

use crate::page::{EDGE, HEAD, INNER_WIDTH, headed, page};
use crate::palette::{CELL, FAULT, INK, QUIET_INK};
use crate::scene::{Align, Item, LETTER, Scene};
use finitor_core::finding::Span;
use finitor_core::{Point, Rect};

/// A lane.
#[derive(Clone, Debug)]
pub struct TimeLane {
    /// Its name.
    pub name: String,
    /// What is on it, in the order of its ticks.
    pub marks: Vec<TimeMark>,
    /// How marks look.
    pub look: LaneLook,
}

/// How the marks of a lane look: faults stand out, and the rest tells by its words.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LaneLook {
    /// Something that was found.
    Fault,
    /// Something that went on.
    Plain,
}

/// From a tick to a tick.
#[derive(Clone, Debug)]
pub struct TimeMark {
    /// When.
    pub ticks: Span,
    /// What, in a word.
    pub words: String,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct TimelineSheet {
    /// Over the page.
    pub title: String,
    /// Under the title.
    pub words: String,
    /// The ticks that are shown.
    pub span: Span,
    /// The lanes.
    pub lanes: Vec<TimeLane>,
}

const NAMES: f64 = 170.0;
const LANE: f64 = 20.0;
const SIZE: f64 = 12.0;

/// The page: lanes over a scale of ticks.
pub fn timeline_sheet(sheet: &TimelineSheet) -> Scene {
    let mut panel = headed(&sheet.title, &sheet.words);
    let (left, width) = (EDGE + NAMES, INNER_WIDTH - NAMES);
    let ticks = sheet.span.ticks() as f64;
    let across = |tick: u64| left + (tick.saturating_sub(sheet.span.first)) as f64 / ticks * width;
    let mut y = HEAD + 6.0;
    for lane in &sheet.lanes {
        panel.over.push(Item::text(Point::new(left - 8.0, y + 14.0), SIZE, Align::End, INK, lane.name.as_str()));
        panel.under.push(Item::Fill { rect: Rect::new(left, y + 2.0, left + width, y + LANE - 2.0), colour: CELL });
        let mut written = left;
        for (index, mark) in lane.marks.iter().enumerate() {
            let next = lane.marks.get(index + 1).map_or(left + width, |next| across(next.ticks.first));
            let (from, to) = (across(mark.ticks.first), across(mark.ticks.last + 1));
            let rect = Rect::new(from, y + 3.0, to.max(from + 2.5).min(left + width), y + LANE - 3.0);
            let colour = if lane.look == LaneLook::Fault { FAULT } else { QUIET_INK };
            panel.under.push(Item::Fill { rect, colour });
            // Words stand beside what they tell of, where there is room.
            let room = mark.words.chars().count() as f64 * 10.0 * LETTER;
            let at = rect.x1 + 3.0;
            if !mark.words.is_empty() && rect.x0 >= written && at + room < next {
                panel.over.push(Item::text(Point::new(at, y + 13.5), 10.0, Align::Start, INK, mark.words.as_str()));
                written = at + room + 2.0;
            }
        }
        y += LANE;
    }
    let step = scale_step(ticks / 10.0);
    let mut tick = sheet.span.first.div_ceil(step) * step;
    while tick <= sheet.span.last {
        let x = across(tick);
        let (from, to) = (Point::new(x, HEAD + 4.0), Point::new(x, y + 4.0));
        panel.under.push(Item::Line { from, to, colour: QUIET_INK, width: 0.5, dash: Some((2.0, 4.0)) });
        panel.over.push(Item::text(Point::new(x, y + 18.0), SIZE, Align::Middle, QUIET_INK, tick.to_string()));
        tick += step;
    }
    page(panel, 0.0, y + 30.0)
}

/// A round number of ticks that is not less than a number.
fn scale_step(least: f64) -> u64 {
    let power = 10_f64.powf(least.max(1.0).log10().floor());
    let step = [1.0, 2.0, 5.0, 10.0].into_iter().map(|by| by * power).find(|step| *step >= least);
    step.unwrap_or(10.0 * power).max(1.0) as u64
}
