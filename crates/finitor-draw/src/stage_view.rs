//! A stage at one tick of a take, with what its check found then.

use crate::aids::Aids;
use crate::contact_sheet::{Art, placed};
use crate::legend::{Extra, legend};
use crate::page::{PAGE_WIDTH, enlargement};
use crate::palette::{DUSK, FAULT, INK, Look, PAGE, QUIET_INK};
use crate::scene::{Align, Item, Panel, Placed, Scene, View, wrapped};
use crate::shapes::{fault_items, mark_items, pivot_mark, pose_items, stage_items};
use finitor_core::actor::Pose;
use finitor_core::finding::{Finding, Span};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Stage, TILES_NAME};
use finitor_core::{Point, Rect, Vec2};

/// An actor on the stage.
#[derive(Clone, Copy, Debug)]
pub struct StageActor<'a> {
    /// Its instance.
    pub label: &'a str,
    /// The pivot, world space.
    pub at: Point,
    /// The art that is seen.
    pub art: Art<'a>,
    /// Its shapes in this facing.
    pub pose: &'a Pose,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct StageView<'a> {
    /// The stage.
    pub stage: &'a Stage,
    /// Heading: take and tick.
    pub title: String,
    /// Actors on it.
    pub actors: Vec<StageActor<'a>>,
    /// Findings of this tick, the worst first.
    pub findings: Vec<&'a Finding>,
    /// Whole pixels a pixel; chosen to suit a page of 1280 px when `None`.
    pub scale: Option<u32>,
    /// To tell what each thing is on and looks for.
    pub layers: Option<&'a Layers>,
    /// Actors on ticks before and after, drawn faintly.
    pub ghosts: Vec<StageActor<'a>>,
    /// Lines and figures.
    pub aids: Aids,
}

impl<'a> StageView<'a> {
    /// The bare stage.
    pub fn of(stage: &'a Stage) -> StageView<'a> {
        StageView {
            stage,
            title: String::new(),
            actors: Vec::new(),
            findings: Vec::new(),
            scale: None,
            layers: None,
            ghosts: Vec::new(),
            aids: Aids::default(),
        }
    }
}

const HEAD: f64 = 36.0;
const STRIP: f64 = 250.0;
const EDGE: f64 = 16.0;
/// The enlarged cut-out of the worst finding, page px.
const LENS: (f64, f64) = (420.0, 218.0);

/// The page: the stage as a whole, and below it, where something was found, the worst finding enlarged and told.
pub fn stage_view(view: &StageView<'_>) -> Scene {
    let size = view.stage.size;
    let suiting = enlargement(PAGE_WIDTH, size.x, 4.0);
    let scale = view.scale.unwrap_or(suiting);
    let (width, height) = (size.x * f64::from(scale), size.y * f64::from(scale));
    let page_width = width.max(PAGE_WIDTH.min(width.max(900.0)));
    let strip = if view.findings.is_empty() { 0.0 } else { STRIP };
    let legend_top = HEAD + height + strip;
    let world = View { origin: Vec2::new(0.0, HEAD), scale };
    let frame = Rect::new(0.0, HEAD, width, HEAD + height);
    let page = Rect::new(0.0, 0.0, page_width, legend_top + 40.0);
    let mut words = Panel::new(page);
    words.over.push(Item::text(Point::new(EDGE, 24.0), 17.0, Align::Start, INK, view.title.clone()));
    words.over.extend(legend(Point::new(EDGE, legend_top + 10.0), &looks(view), Extra::None));
    let mut whole = stage_panel(view, frame, world);
    whole.over.extend(name_items(view.stage, world, frame, view.layers));
    let mut panels = vec![whole];
    if let Some(worst) = view.findings.first() {
        panels.push(lens_panel(view, worst, HEAD + height + EDGE, scale));
        let left = EDGE + LENS.0 + EDGE;
        words.over.extend(list(&view.findings, Point::new(left, HEAD + height + EDGE), page_width - left - EDGE));
    }
    panels.push(words);
    Scene::new(page, panels)
}

fn looks(view: &StageView<'_>) -> Vec<(Look, String)> {
    let stage = view.stage;
    let mut looks = Vec::new();
    for look in Look::ALL {
        let present = match look {
            Look::Solid => !stage.solids.is_empty(),
            Look::OneWay => !stage.one_ways.is_empty(),
            Look::Zone => !stage.zones.is_empty(),
            Look::Role(_) => {
                view.actors.iter().flat_map(|actor| &actor.pose.shapes).any(|shape| Look::from(shape.role) == look)
            }
        };
        if present {
            let words = if look == Look::OneWay { "one-way: chevrons on the side that stops" } else { look.name() };
            looks.push((look, words.to_string()));
        }
    }
    looks
}

/// The world with all actors and findings, cut to a frame.
pub(crate) fn stage_panel(view: &StageView<'_>, frame: Rect, world: View) -> Panel {
    let mut panel = Panel::new(frame);
    panel.under.push(Item::Fill { rect: frame, colour: DUSK });
    panel.under.extend(stage_items(view.stage, world));
    panel.under.extend(view.aids.items(world, frame));
    for ghost in &view.ghosts {
        panel.art.push(Placed { opacity: FAINT, ..placed(&ghost.art, ghost.at, world) });
        panel.over.extend(ghost_items(ghost, world));
    }
    for actor in &view.actors {
        panel.art.push(placed(&actor.art, actor.at, world));
        panel.over.extend(view.aids.pivot(actor.at, world));
        panel.over.extend(pose_items(actor.pose, actor.at, world));
        let top = actor.pose.shapes.iter().map(|shape| shape.bounds().y0).fold(0.0, f64::min);
        let spot = world.point(actor.at + Vec2::new(0.0, top)) - Vec2::new(0.0, 8.0);
        panel.over.push(Item::text(spot, 12.0, Align::Middle, INK, actor.label));
    }
    for finding in &view.findings {
        panel.over.extend(fault_items(finding, world));
    }
    panel
}

/// How strong the art of other ticks is drawn.
const FAINT: f64 = 0.3;

/// The outline of a body on another tick.
fn ghost_items(ghost: &StageActor<'_>, world: View) -> Vec<Item> {
    let body = ghost.pose.body().into_iter().flat_map(|body| &body.polygons);
    let line = |(from, to): (Point, Point)| {
        let (from, to) = (world.point(from + ghost.at.to_vec2()), world.point(to + ghost.at.to_vec2()));
        Item::Line { from, to, colour: QUIET_INK, width: 0.8, dash: Some((2.0, 2.0)) }
    };
    body.flat_map(|polygon| polygon.edges().map(line).collect::<Vec<Item>>()).collect()
}

/// Where a name goes that does not fit inside: zones often stand on solids, so theirs go above.
enum Side {
    Above,
    Below,
}

/// Size of the letters of names.
const SIZE: f64 = 12.0;

/// What lines of a size cover, the first of which stands on a place.
fn covered(at: Point, block: Vec2) -> Rect {
    let half = block.x / 2.0 + 4.0;
    Rect::new(at.x - half, at.y - SIZE, at.x + half, at.y - SIZE + block.y)
}

/// Where the first line of a name goes: inside its thing where it fits, else beside; and where names would lie on each other, a
/// little to a side, or to the other side of the thing.
fn free_place(visible: Rect, side: Side, block: Vec2, frame: Rect, placed: &[Rect]) -> Point {
    let (width, height) = (block.x, block.y);
    let fits = visible.height() >= height + 4.0 && visible.width() >= width + 8.0;
    let (above, below) = (visible.y0 - 6.0 - height + 1.3 * SIZE, visible.y1 + SIZE + 4.0);
    let first = match side {
        _ if fits => visible.center().y + SIZE * 0.35 - (height - 1.3 * SIZE) / 2.0,
        Side::Below if below + height < frame.y1 => below,
        _ => above,
    };
    let half = width / 2.0 + 4.0;
    let within = |x: f64| x.clamp(frame.x0 + half, (frame.x1 - half).max(frame.x0 + half));
    let middle = visible.center().x;
    let aside = [0.0, half, -half, visible.width() / 2.0 + half, -visible.width() / 2.0 - half];
    let mut spots = [first, above, below].into_iter().flat_map(|y| aside.map(|by| Point::new(within(middle + by), y)));
    let is_free = |spot: &Point| {
        let rect = covered(*spot, block);
        rect.y0 >= frame.y0 && rect.y1 <= frame.y1 && placed.iter().all(|known| known.intersect(rect).area() <= 0.0)
    };
    spots.find(is_free).unwrap_or_else(|| Point::new(within(middle), first))
}

/// Names of the stage's things: inside where they fit, else beside.
pub(crate) fn name_items(stage: &Stage, world: View, frame: Rect, layers: Option<&Layers>) -> Vec<Item> {
    const SMALL: f64 = 11.0;
    let named = |set: LayerSet| match layers {
        Some(layers) => set.bits().filter_map(|bit| layers.names.get(bit)).cloned().collect::<Vec<_>>().join(", "),
        None => String::new(),
    };
    let on = |set: LayerSet| if layers.is_some() { format!("on {}", named(set)) } else { String::new() };
    let sees = |zone: &finitor_core::stage::Zone| match layers {
        Some(_) => format!("{}, detects {}", zone.effect.name(), named(zone.mask)),
        None => String::new(),
    };
    let solids = stage.solids.iter().map(|s| (&s.name, on(s.layer), s.outline.bounds, Side::Below));
    let one_ways = stage.one_ways.iter().map(|o| (&o.name, on(o.layer), o.outline.bounds, Side::Below));
    let zones = stage.zones.iter().map(|z| (&z.name, sees(z), z.outline.bounds, Side::Above));
    let mut items = Vec::new();
    let mut placed: Vec<Rect> = Vec::new();
    // Things made of tiles are many, and named after their place.
    let all = solids.chain(one_ways).chain(zones).filter(|(name, ..)| !name.starts_with(TILES_NAME));
    for (name, more, bounds, side) in all {
        let (low, high) =
            (world.point(Point::new(bounds.x0, bounds.y0)), world.point(Point::new(bounds.x1, bounds.y1)));
        let visible = Rect::new(low.x, low.y, high.x, high.y).intersect(frame);
        if visible.area() <= 0.0 {
            continue;
        }
        let lines = [(name.as_str(), SIZE, QUIET_INK), (more.as_str(), SMALL, INK)];
        let lines: Vec<_> = lines.into_iter().filter(|(words, ..)| !words.is_empty()).collect();
        let wide = |(words, size, _): &(&str, f64, &str)| words.chars().count() as f64 * size * crate::scene::LETTER;
        let width = lines.iter().map(wide).fold(0.0, f64::max);
        let block = Vec2::new(width, lines.len() as f64 * 1.3 * SIZE);
        let at = free_place(visible, side, block, frame, &placed);
        placed.push(covered(at, block));
        for (row, (words, size, colour)) in lines.into_iter().enumerate() {
            let at = Point::new(at.x, at.y + row as f64 * 1.3 * SIZE);
            if layers.is_some() {
                // Two things may lie there.
                let half = words.chars().count() as f64 * size * crate::scene::LETTER / 2.0 + 3.0;
                let rect = Rect::new(at.x - half, at.y - size, at.x + half, at.y + size * 0.35);
                items.push(Item::Fill { rect, colour: PAGE });
            }
            items.push(Item::text(at, size, Align::Middle, colour, words));
        }
    }
    let spawns = stage.spawns.iter().map(|spawn| (format!("{} starts", spawn.actor), spawn.at));
    let spots = stage.spots.iter().map(|spot| (spot.name.clone(), spot.at));
    for (words, at) in spawns.chain(spots).filter(|_| layers.is_some()) {
        let at = world.point(at);
        items.extend(pivot_mark(at));
        items.push(Item::text(at - Vec2::new(0.0, 9.0), SMALL, Align::Middle, INK, words));
    }
    items
}

/// The worst finding enlarged.
fn lens_panel(view: &StageView<'_>, finding: &Finding, top: f64, scale: u32) -> Panel {
    let frame = Rect::new(EDGE, top, EDGE + LENS.0, top + LENS.1);
    let scale = (scale * 5 / 2).max(3);
    let middle = frame.center().to_vec2();
    let at = finding.in_take().map_or(Point::ZERO, |place| place.worst.at);
    let origin = middle - at.to_vec2() * f64::from(scale);
    let world = View { origin: Vec2::new(origin.x.round(), origin.y.round()), scale };
    let mut panel = stage_panel(&StageView { findings: Vec::new(), ..view.clone() }, frame, world);
    for actor in &view.actors {
        panel.over.extend(mark_items(actor.pose, actor.at, world));
    }
    panel.over.extend(fault_items(finding, world));
    let corners =
        [(frame.x0, frame.y0), (frame.x1, frame.y0), (frame.x1, frame.y1), (frame.x0, frame.y1)].map(Point::from);
    panel.over.extend((0..4).map(|i| Item::Line {
        from: corners[i],
        to: corners[(i + 1) % 4],
        colour: FAULT,
        width: 3.0,
        dash: None,
    }));
    panel
}

/// The findings in words, as many as fit.
fn list(findings: &[&Finding], at: Point, width: f64) -> Vec<Item> {
    const SIZE: f64 = 14.0;
    const LINE: f64 = 20.0;
    let mut items = Vec::new();
    let mut y = at.y + SIZE;
    let bottom = at.y + LENS.1;
    for (index, finding) in findings.iter().enumerate() {
        let span = finding.in_take().map_or_else(String::new, |place| match place.ticks {
            Span { first, last } if first == last => format!(", tick {first}"),
            Span { first, last } => format!(", ticks {first}-{last}"),
        });
        let figure = finding.rule.unit().shown(finding.figure);
        let heading = format!("{} {}{span}: {figure}", finding.severity, finding.rule);
        let mut lines = vec![(heading, FAULT)];
        lines.extend(wrapped(&finding.message, SIZE, width).into_iter().map(|line| (line, INK)));
        let fix = format!("Fix: {}", finding.fix);
        lines.extend(wrapped(&fix, SIZE, width).into_iter().map(|line| (line, QUIET_INK)));
        if y + lines.len() as f64 * LINE > bottom + LINE {
            let more = format!("and {} more", findings.len() - index);
            items.push(Item::text(Point::new(at.x, y), SIZE, Align::Start, QUIET_INK, more));
            break;
        }
        for (line, colour) in lines {
            items.push(Item::text(Point::new(at.x, y), SIZE, Align::Start, colour, line));
            y += LINE;
        }
        y += LINE * 0.5;
    }
    items
}
