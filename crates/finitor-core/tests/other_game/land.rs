//! Stages to play on, as the game sees them and as the checker does.

use crate::Dice;
use crate::flat::{Flat, Spot, near};
use finitor_core::layers::LayerSet;
use finitor_core::stage::{Effect, OneWay, Passes, Side, Solid, Stage, Zone};
use finitor_core::{Point, Polygon, Vec2};

pub const WIDTH: f64 = 800.0;
pub const FLOOR: f64 = 400.0;

#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Sort {
    Blocks,
    Hills,
    Tiles,
    Ledges,
    /// Blocks of one kind only, close together: low edges, walls, beams or posts.
    Edges,
    Walls,
    Beams,
    Posts,
}

pub const SORTS: [Sort; 4] = [Sort::Blocks, Sort::Hills, Sort::Tiles, Sort::Ledges];

/// A stage: convex solids, and one-way platforms by their boxes.
pub struct Land {
    pub solids: Vec<Flat>,
    pub ledges: Vec<Flat>,
    pub zones: Vec<Flat>,
    /// The boxes around the solids.
    around: Vec<[Spot; 2]>,
    /// How many times as large as it was made it is.
    times: f64,
}

impl Land {
    pub fn new(sort: Sort, dice: &mut Dice) -> Land {
        let (solids, around) = (Vec::new(), Vec::new());
        let mut land = Land { solids, ledges: Vec::new(), zones: Vec::new(), around, times: 1.0 };
        match sort {
            Sort::Blocks | Sort::Edges | Sort::Walls | Sort::Beams | Sort::Posts => land.blocks(sort, dice),
            Sort::Hills => land.hills(dice),
            Sort::Tiles => land.tiles(dice),
            Sort::Ledges => {
                land.add(Flat::block(0.0, FLOOR, WIDTH, 80.0));
                for _ in 0..9 {
                    let (x, wide) = (dice.between(30.0, 640.0), dice.between(40.0, 140.0));
                    let y = FLOOR - (dice.below(5) + 1) as f64 * 44.0 - dice.between(0.0, 8.0);
                    let ledge = Flat::block(x, y, wide, dice.between(3.0, 8.0));
                    let apart = |other: &Flat| !ledge.moved((0.0, 0.0)).meets(&grown(other, 40.0));
                    if land.ledges.iter().all(apart) {
                        land.ledges.push(ledge);
                    }
                }
            }
        }
        // Walls that nobody jumps over.
        land.add(Flat::block(-40.0, -400.0, 48.0, 900.0));
        land.add(Flat::block(WIDTH - 8.0, -400.0, 48.0, 900.0));
        land
    }

    /// The same without these walls.
    pub fn open(mut self) -> Land {
        self.solids.truncate(self.solids.len() - 2);
        self.around.truncate(self.solids.len());
        self
    }

    /// The same, some times as large.
    pub fn enlarged(&self, times: f64) -> Land {
        let all = |flats: &[Flat]| flats.iter().map(|flat| flat.enlarged(times)).collect();
        let around = self.around.iter().map(|ends| ends.map(|(x, y)| (x * times, y * times))).collect();
        Land { solids: all(&self.solids), ledges: all(&self.ledges), zones: all(&self.zones), around, times }
    }

    /// The same with ledges over one another, as wide as the stage.
    pub fn stacked(mut self) -> Land {
        self.ledges = (1..6).map(|k| Flat::block(40.0, FLOOR - 64.0 * f64::from(k), WIDTH - 80.0, 5.0)).collect();
        self
    }

    /// The same with upright zones, 1 px wide.
    pub fn with_zones(mut self) -> Land {
        self.zones = (1..24).map(|k| Flat::block(f64::from(k) * 32.0, FLOOR - 200.0, 1.0, 200.0)).collect();
        self
    }

    /// Whether any of the parts is in a solid.
    pub fn blocks_any(&self, parts: &[Flat]) -> bool {
        parts.iter().any(|part| {
            let box_of = part.around();
            self.around.iter().zip(&self.solids).any(|(around, solid)| near(&box_of, around) && part.meets(solid))
        })
    }

    fn add(&mut self, flat: Flat) {
        self.around.push(flat.around());
        self.solids.push(flat);
    }

    /// A floor with blocks to jump over, low edges, and beams to crouch under.
    fn blocks(&mut self, sort: Sort, dice: &mut Dice) {
        self.add(Flat::block(0.0, FLOOR, WIDTH, 80.0));
        let mut x = 90.0;
        while x < WIDTH - 160.0 {
            let wide = dice.between(24.0, 80.0);
            let kind = match sort {
                Sort::Edges => 0,
                Sort::Walls => 1,
                Sort::Beams => 2,
                Sort::Posts => 4,
                _ => dice.below(5),
            };
            match kind {
                4 => self.add(Flat::block(x, FLOOR - 44.0, 3.0, 44.0)),
                0 => self.add(Flat::block(x, FLOOR - dice.between(1.0, 3.8), wide, 20.0)),
                1 => self.add(Flat::block(x, FLOOR - dice.between(8.0, 40.0), wide, 60.0)),
                2 => self.add(Flat::block(x, FLOOR - 60.0, wide, 60.0 - dice.between(17.0, 21.0))),
                _ => self.add(Flat::block(x, FLOOR - dice.between(70.0, 110.0), wide, 12.0)),
            }
            // Between walls there is hardly room to turn.
            x += wide + if sort == Sort::Walls { dice.between(14.2, 17.8) } else { dice.between(40.0, 90.0) };
        }
    }

    /// Slopes and crests, a solid each, up to 40 degrees.
    fn hills(&mut self, dice: &mut Dice) {
        let (mut x, mut y) = (0.0, FLOOR - 60.0);
        while x < WIDTH {
            let wide = dice.between(24.0, 90.0);
            let next: f64 = (y + wide * dice.between(-0.8, 0.8)).clamp(FLOOR - 140.0, FLOOR - 4.0);
            self.add(Flat(vec![(x, y), (x + wide, next), (x + wide, FLOOR + 80.0), (x, FLOOR + 80.0)]));
            (x, y) = (x + wide, next);
        }
    }

    /// A map of 16 px tiles: ground that rises and falls by one or two, and islands in the air.
    fn tiles(&mut self, dice: &mut Dice) {
        const TILE: f64 = 16.0;
        let columns = (WIDTH / TILE) as i32;
        let mut high = 3_i32;
        for column in 0..columns {
            if column % 4 == 0 {
                high = (high + dice.below(5) as i32 - 2).clamp(1, 7);
            }
            for row in 0..high {
                self.add(Flat::block(f64::from(column) * TILE, FLOOR + 80.0 - f64::from(row + 1) * TILE, TILE, TILE));
            }
            if column % 9 > 5 {
                self.add(Flat::block(
                    f64::from(column) * TILE,
                    FLOOR - 100.0 - f64::from(column / 9 % 2) * TILE,
                    TILE,
                    TILE,
                ));
            }
        }
    }

    /// The same for the checker.
    pub fn stage(&self) -> Stage {
        let polygon = |flat: &Flat| Polygon::new(flat.0.iter().map(|at| Point::from(*at)).collect()).unwrap();
        let solids = self.solids.iter().enumerate().map(|(index, flat)| Solid {
            name: format!("solid_{index}"),
            outline: polygon(flat).into(),
            layer: LayerSet::of(0),
            mask: LayerSet::NONE,
        });
        let ledges = self.ledges.iter().enumerate().map(|(index, flat)| OneWay {
            name: format!("ledge_{index}"),
            outline: polygon(flat).into(),
            layer: LayerSet::of(1),
            mask: LayerSet::NONE,
            passes: Passes::Up,
        });
        Stage {
            name: "land".into(),
            size: Vec2::new(WIDTH, FLOOR + 80.0) * self.times,
            solids: solids.collect(),
            one_ways: ledges.collect(),
            zones: self.zones.iter().enumerate().map(|(index, flat)| zone(index, polygon(flat))).collect(),
            spawns: vec![],
            spots: vec![],
            sealed: vec![Side::Bottom],
        }
    }
}

fn zone(index: usize, polygon: Polygon) -> Zone {
    Zone {
        name: format!("zone_{index}"),
        outline: polygon.into(),
        mask: LayerSet::of(2),
        effect: Effect::Event,
        warp: None,
        cooldown: 0,
        once: false,
    }
}

fn grown(flat: &Flat, by: f64) -> Flat {
    let ((x0, x1), (y0, y1)) = (flat.reach((1.0, 0.0)), flat.reach((0.0, 1.0)));
    Flat::block(x0 - by, y0 - by, x1 - x0 + 2.0 * by, y1 - y0 + 2.0 * by)
}
