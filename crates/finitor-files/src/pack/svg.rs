//! The pack as a drawing: a group a frame and facing, a path a shape; the numbers are the exported ones.

use super::number::Digits;
use super::{Pack, PackSide, Ring, UpAxis};
use std::fmt::Write;

/// Frames beside each other.
const COLUMNS: usize = 8;

/// An SVG whose groups are named `keeper.walk.3.right` and `stage.pier`, and whose paths carry shape, role, layer and mask. Paths are in the
/// pack's space; only groups are moved, and turned upright where y grows up.
///
/// # Complexity
/// O(points).
pub fn pack_svg(pack: &Pack) -> String {
    let mut page = Page {
        body: String::new(),
        digits: Digits::default(),
        width: 0.0,
        top: 0.0,
        is_up: pack.space.y == UpAxis::Up,
    };
    for actor in &pack.actors {
        let sides: Vec<(String, &PackSide)> = actor
            .frames
            .iter()
            .flat_map(|frame| {
                let name = format!("{}.{}.{}", actor.name, frame.animation, frame.frame);
                frame.sides.iter().map(move |side| (format!("{name}.{}", side.facing), side))
            })
            .collect();
        for row in sides.chunks(COLUMNS) {
            page.frames(row, &|shape| {
                let meaning = actor.meaning(shape);
                meaning.map_or_else(Meaning::default, |of| Meaning {
                    role: of.role.clone(),
                    layer: of.layer,
                    mask: of.mask,
                })
            });
        }
    }
    for stage in &pack.stages {
        page.stage(stage);
    }
    let Page { body, width, top, .. } = page;
    let (width, height) = (width.ceil(), top.ceil());
    format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{width}\" height=\"{height}\" viewBox=\"0 0 {width} {height}\">\n\
         <style>path{{fill-opacity:.25;vector-effect:non-scaling-stroke}}\
         .body{{fill:#ffb454;stroke:#ffb454}}.hurt{{fill:#7cc7ff;stroke:#7cc7ff;stroke-dasharray:1 2}}\
         .hit{{fill:#c792ff;stroke:#c792ff;stroke-dasharray:5 2}}.sensor{{fill:#d7dbe4;stroke:#d7dbe4;stroke-dasharray:4 4}}\
         .solid{{fill:#8491ab;stroke:#8491ab}}.one_way{{fill:#4fd1b5;stroke:#4fd1b5;stroke-dasharray:8 2}}\
         .zone{{fill:#ff8fa3;stroke:#ff8fa3;stroke-dasharray:2 2}}</style>\n\
         <rect width=\"{width}\" height=\"{height}\" fill=\"#20242e\"/>\n{body}</svg>\n"
    )
}

/// What a path says of itself.
#[derive(Default)]
struct Meaning {
    role: String,
    layer: u32,
    mask: u32,
}

/// The smallest rectangle around points.
#[derive(Clone, Copy)]
struct Extent {
    low: [f64; 2],
    high: [f64; 2],
}

impl Extent {
    fn of<'r>(rings: impl Iterator<Item = &'r Ring>) -> Option<Extent> {
        let points = rings.flatten().map(|point| Extent { low: [point.x, point.y], high: [point.x, point.y] });
        points.reduce(|a, b| Extent {
            low: [a.low[0].min(b.low[0]), a.low[1].min(b.low[1])],
            high: [a.high[0].max(b.high[0]), a.high[1].max(b.high[1])],
        })
    }

    fn size(&self) -> [f64; 2] {
        [self.high[0] - self.low[0], self.high[1] - self.low[1]]
    }
}

struct Page {
    body: String,
    digits: Digits,
    width: f64,
    top: f64,
    is_up: bool,
}

impl Page {
    /// Room between groups, a share of the largest.
    const ROOM: f64 = 0.15;

    fn frames(&mut self, row: &[(String, &PackSide)], meaning: &dyn Fn(&str) -> Meaning) {
        let extents = row.iter().map(|(_, side)| Extent::of(side.shapes.iter().flat_map(|shape| &shape.outline)));
        let extents: Vec<Extent> = extents.map(|of| of.unwrap_or(Extent { low: [0.0; 2], high: [1.0; 2] })).collect();
        let most = |axis: usize| extents.iter().map(|extent| extent.size()[axis]).fold(0.0, f64::max);
        let (wide, high) = (most(0), most(1));
        let room = Self::ROOM * wide.max(high);
        let mut x = room;
        for ((name, side), extent) in row.iter().zip(&extents) {
            self.open(name, x, room, *extent);
            for shape in &side.shapes {
                let of = meaning(&shape.shape);
                self.path(&shape.shape, &of, shape.outline.iter().chain(&shape.holes));
            }
            self.body.push_str("</g>\n");
            x += wide + room;
        }
        self.width = self.width.max(x);
        self.top += high + room;
    }

    fn stage(&mut self, stage: &super::PackStage) {
        let solids = stage.solids.iter().map(|solid| ("solid", solid));
        let one_ways = stage.one_ways.iter().map(|one_way| ("one_way", &one_way.thing));
        let zones = stage.zones.iter().map(|zone| ("zone", &zone.thing));
        let extent = Extent { low: [0.0; 2], high: [stage.size.x, stage.size.y] };
        let room = Self::ROOM * stage.size.y;
        self.open(&format!("stage.{}", stage.name), room, room, extent);
        for (role, thing) in solids.chain(one_ways).chain(zones) {
            let of = Meaning { role: role.to_string(), layer: thing.layer, mask: thing.mask };
            self.path(&thing.name, &of, std::iter::once(&thing.outline).chain(&thing.holes));
        }
        self.body.push_str("</g>\n");
        self.width = self.width.max(stage.size.x + 2.0 * room);
        self.top += stage.size.y + 2.0 * room;
    }

    fn open(&mut self, name: &str, x: f64, room: f64, extent: Extent) {
        let left = x - extent.low[0];
        let place = if self.is_up {
            format!("translate({left} {}) scale(1 -1)", self.top + room + extent.high[1])
        } else {
            format!("translate({left} {})", self.top + room - extent.low[1])
        };
        let name = escaped(name);
        self.push(format_args!("<g id=\"{name}\" transform=\"{place}\"><title>{name}</title>\n"));
    }

    fn path<'r>(&mut self, name: &str, of: &Meaning, rings: impl Iterator<Item = &'r Ring>) {
        let Meaning { role, layer, mask } = of;
        let (name, role) = (escaped(name), escaped(role));
        self.push(format_args!(
            "<path class=\"{role}\" data-shape=\"{name}\" data-layer=\"{layer}\" data-mask=\"{mask}\" fill-rule=\"evenodd\" d=\""
        ));
        for ring in rings {
            for (index, point) in ring.iter().enumerate() {
                self.body.push(if index == 0 { 'M' } else { 'L' });
                self.digits.push(&mut self.body, point.x);
                self.body.push(' ');
                self.digits.push(&mut self.body, point.y);
            }
            self.body.push('Z');
        }
        self.body.push_str("\"/>\n");
    }

    fn push(&mut self, words: std::fmt::Arguments<'_>) {
        self.body.write_fmt(words).expect("a string takes all that is written to it");
    }
}

fn escaped(words: &str) -> String {
    quick_xml::escape::escape(words).into_owned()
}
