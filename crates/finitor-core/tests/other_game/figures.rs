//! Figures of findings, reckoned again by hand: with the game's own geometry, in fine steps where there is a way.

use crate::flat::{Flat, Spot};
use crate::game::{Figure, Tick};
use crate::land::Land;
use finitor_core::finding::Finding;

/// What a take holds, as it is written.
pub struct Play<'p> {
    pub land: &'p Land,
    pub figure: &'p Figure,
    pub ticks: &'p [Tick],
    /// The places as written.
    pub places: Vec<Spot>,
}

impl Play<'_> {
    /// The body's parts of a tick, at a place.
    pub fn body(&self, tick: usize, at: Spot) -> Vec<Flat> {
        let Tick { animation, right, .. } = self.ticks[tick];
        let parts = if animation == "low" { &self.figure.low } else { &self.figure.tall };
        parts.iter().map(|part| if right { part.clone() } else { part.mirrored() }.moved(at)).collect()
    }

    pub fn bottom(&self, tick: usize) -> f64 {
        self.body(tick, self.places[tick]).iter().map(Flat::bottom).fold(f64::NEG_INFINITY, f64::max)
    }

    pub fn sides(&self, tick: usize) -> Spot {
        let ends = self.body(tick, self.places[tick]).into_iter().map(|part| part.reach((1.0, 0.0)));
        ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), (a, b)| (low.min(a), high.max(b)))
    }

    pub fn moved(&self, tick: usize) -> Spot {
        let ((ax, ay), (bx, by)) = (self.places[tick - 1], self.places[tick]);
        (bx - ax, by - ay)
    }

    pub fn thing(&self, name: &str) -> Option<&Flat> {
        let (sort, index) = name.strip_prefix("land/")?.rsplit_once('_')?;
        let all = match sort {
            "solid" => &self.land.solids,
            "ledge" => &self.land.ledges,
            _ => &self.land.zones,
        };
        all.get(index.parse::<usize>().ok()?)
    }

    fn depth(&self, tick: usize, at: Spot, thing: &Flat) -> f64 {
        self.body(tick, at).iter().map(|part| part.depth(thing)).fold(0.0, f64::max)
    }

    /// The greatest depth of the old body on the straight way to a tick.
    fn depth_on_the_way(&self, tick: usize, thing: &Flat) -> f64 {
        const PARTS: u32 = 4000;
        let ((ax, ay), (dx, dy)) = (self.places[tick - 1], self.moved(tick));
        let at =
            |part: u32| (ax + dx * f64::from(part) / f64::from(PARTS), ay + dy * f64::from(part) / f64::from(PARTS));
        (0..=PARTS).map(|part| self.depth(tick - 1, at(part), thing)).fold(0.0, f64::max)
    }
}

/// The figure of a finding at its worst tick; `None` for rules whose figure is not reckoned here.
pub fn by_hand(play: &Play<'_>, finding: &Finding) -> Option<f64> {
    let place = finding.in_take().unwrap();
    let tick = place.worst.tick as usize;
    let thing = play.thing(&place.with);
    match finding.rule.code() {
        "embedded" | "no_headroom" | "warp_blocked" => Some(play.depth(tick, play.places[tick], thing?)),
        "tunnelled" | "zone_skipped" => Some(play.depth_on_the_way(tick, thing?)),
        "popped" => Some(0.0 - play.moved(tick).1),
        // The step that met the side may have been a short one.
        "midair_stop" => {
            let both = [play.moved(tick - 1).1.abs(), play.moved(tick - 2).1.abs()];
            both.into_iter().min_by(|a, b| (a - finding.figure).abs().total_cmp(&(b - finding.figure).abs()))
        }
        "caught_rising" if finding.message.contains("lifted") => Some(play.bottom(tick - 1) - thing?.top()),
        "caught_rising" => Some(play.moved(tick).1 - play.moved(tick - 1).1),
        // A round body has gone up a part of the edge by then.
        "snagged" if finding.message.contains("edge of") => {
            let walked = (tick - 2..=tick).map(|tick| play.bottom(tick)).fold(f64::NEG_INFINITY, f64::max);
            Some(walked - thing?.top())
        }
        "off_stage" => {
            let (left, right) = play.sides(tick);
            let top = play.body(tick, play.places[tick]).iter().map(Flat::top).fold(f64::INFINITY, f64::min);
            Some((left - crate::land::WIDTH).max(0.0 - right).max(top - crate::land::FLOOR - 80.0))
        }
        "facing_split" => Some(
            play.figure
                .tall
                .iter()
                .map(|part| {
                    let (left, right) = part.reach((1.0, 0.0));
                    (left + right).abs()
                })
                .fold(0.0, f64::max),
        ),
        _ => None,
    }
}
