//! cramped_platform: over a one-way platform a body has too little room.

use crate::change::{Change, Owned};
use crate::clearance::{Border, Stance, least_room};
use crate::finding::Place;
use crate::geometry::{TOUCH, Vec2};
use crate::layers::LayerSet;
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::{OneWay, Outline, Stage};

#[derive(Debug)]
pub(crate) struct CrampedPlatform;

impl StillRule for CrampedPlatform {
    const SPEC: Spec = Spec {
        code: "cramped_platform",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Over a one-way platform lies a solid, or another platform, so near that a body which rises through \
                    has no room to stand.",
            matters: "It is caught between both: it can neither go on nor rest, and falls or shakes.",
            measured: "At every x at which the tallest body of an actor stands on the platform, how far it is short of \
                       fitting under what lies above. The figure is the worst.",
            fix: "Put the platform lower, or what lies above higher, by the figure.",
            drawing: "   ####################\n     |_|  <- no room\n   ==|=|=============\n",
        },
    };

    /// # Complexity
    /// O(e log e) for e edges of the stage, and those of them that lie over each platform.
    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let ceilings = Ceilings::new(facts.stage);
        let actors: Vec<Vec<Stance>> = facts.with_spawns().into_iter().map(Stance::of).collect();
        for platform in facts.stage.one_ways.iter().filter(|one_way| one_way.passes.is_upward()) {
            let faults = actors.iter().filter_map(|stances| over(&ceilings, platform, stances));
            faults.for_each(|Cramped { fault, change }| out.report_with(change, fault));
        }
    }
}

/// A platform with too little room over it.
struct Cramped {
    fault: Fault,
    /// The platform lower, where it is a box.
    change: Option<Change>,
}

/// The room of an actor's bodies over a platform, where the tallest has too little.
fn over(ceilings: &Ceilings<'_>, platform: &OneWay, stances: &[Stance]) -> Option<Cramped> {
    let tallest = stances.first().filter(|tallest| tallest.mask.sees(platform.layer))?;
    let (room, above) = ceilings.room_over(platform, tallest).filter(|(room, _)| *room < 0.0 - TOUCH)?;
    let others = stances[1..].iter().map(|stance| match ceilings.room_over(platform, stance) {
        Some((room, _)) if room < 0.0 => format!("{} is {:.2} px short", stance.shape, -room),
        _ => format!("{} fits", stance.shape),
    });
    let others: Vec<String> = others.collect();
    let others = if others.is_empty() { String::new() } else { format!("; {}", others.join(", ")) };
    // Up to the next hundredth, so that the number that is shown is enough.
    let by = (-room * 100.0).ceil() / 100.0;
    let (outline, owned) = (&platform.outline, Owned::new(&ceilings.stage.name, &platform.name));
    let change = Change::to_box(&owned, outline, outline.bounds + Vec2::new(0.0, by));
    let fault = Fault {
        subject: ceilings.stage.name.clone(),
        place: Place::Stage(platform.name.clone()),
        figure: room,
        message: format!(
            "{} needs {:.2} px more room between {} and {above}{others}",
            tallest.name(),
            -room,
            platform.name
        ),
        fix: format!("Lower {} by {by:.2} px, or raise {above}.", platform.name),
    };
    Some(Cramped { fault, change })
}

/// What bodies can meet with their heads.
struct Ceilings<'a> {
    stage: &'a Stage,
    /// By the left end.
    borders: Vec<Ceiling<'a>>,
    /// The longest one's length across, px.
    longest: f64,
}

/// A lower edge of a solid or platform.
struct Ceiling<'a> {
    border: Border,
    /// Whose it is, among all of them.
    of: usize,
    name: &'a str,
    layer: LayerSet,
}

impl Ceiling<'_> {
    fn left(&self) -> f64 {
        self.border.from.x.min(self.border.to.x)
    }

    fn right(&self) -> f64 {
        self.border.from.x.max(self.border.to.x)
    }
}

impl<'a> Ceilings<'a> {
    fn new(stage: &'a Stage) -> Ceilings<'a> {
        let solids = stage.solids.iter().map(|solid| (solid.name.as_str(), &solid.outline, solid.layer));
        let others = stage.one_ways.iter().filter(|other| other.passes.is_upward());
        let others = others.map(|other| (other.name.as_str(), &other.outline, other.layer));
        let mut all: Vec<Ceiling<'a>> = Vec::new();
        for (of, (name, outline, layer)) in solids.chain(others).enumerate() {
            let lower = borders(outline, Facing::Down).into_iter();
            all.extend(lower.map(|border| Ceiling { border, of, name, layer }));
        }
        all.sort_by(|a, b| a.left().total_cmp(&b.left()));
        let longest = all.iter().map(|ceiling| ceiling.right() - ceiling.left()).fold(0.0, f64::max);
        Ceilings { stage, borders: all, longest }
    }

    /// The least room of a stance over a platform, px, below 0 what it is short of; and what lies above there.
    fn room_over(&self, platform: &OneWay, stance: &Stance) -> Option<(f64, &'a str)> {
        let floors = borders(&platform.outline, Facing::Up);
        let bounds = platform.outline.bounds;
        // Where the pivot is over it, and how far the body reaches from there. What rests on the platform is a wall there and no
        // ceiling.
        let (on, reach) = ((bounds.x0, bounds.x1), stance.reach());
        let (left, right) = (on.0 + reach.x0 - TOUCH, on.1 + reach.x1 + TOUCH);
        let first = self.borders.partition_point(|ceiling| ceiling.left() < left - self.longest);
        let near = self.borders[first..].iter().take_while(|ceiling| ceiling.left() <= right);
        let mut near: Vec<&Ceiling<'a>> = near
            .filter(|ceiling| {
                ceiling.right() >= left && ceiling.border.from.y.max(ceiling.border.to.y) < bounds.y0 - TOUCH
            })
            .filter(|ceiling| stance.mask.sees(ceiling.layer) && ceiling.name != platform.name)
            .collect();
        near.sort_by_key(|ceiling| ceiling.of);
        let rooms = near.chunk_by(|one, other| one.of == other.of).flat_map(|of_one| {
            let above: Vec<Border> = of_one.iter().map(|ceiling| ceiling.border).collect();
            let (floors, name) = (&floors, of_one[0].name);
            stance.shapes.iter().map(move |shape| (least_room(&shape.pieces, &above, floors, on), name))
        });
        rooms.min_by(|a, b| a.0.total_cmp(&b.0))
    }
}

/// Which edges of an outline.
#[derive(Clone, Copy, PartialEq)]
enum Facing {
    /// Those that something can stand on.
    Up,
    /// Those that something can meet from below.
    Down,
}

/// The upper, or the lower, edges of an outline.
fn borders(outline: &Outline, facing: Facing) -> Vec<Border> {
    // The inside lies to the right of the way: edges that lead right are floors.
    let is_wanted = |from: f64, to: f64| if facing == Facing::Up { to > from } else { to < from };
    let edges = outline.edges().filter(|(a, b)| is_wanted(a.x, b.x));
    edges.map(|(from, to)| Border { from, to, solid: 0 }).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::stage::Passes;
    use crate::testing::{floored, hero, one_way, solid};

    #[test]
    fn who_stands_on_a_platform_fits_under_what_is_above() {
        let with = |ceiling: f64| {
            let mut stage = floored();
            stage.one_ways.push(one_way("plank", Rect::new(100.0, 150.0, 200.0, 154.0), Passes::Up));
            stage.solids.push(solid("beam", Rect::new(100.0, ceiling - 10.0, 200.0, ceiling)));
            of_stage::<CrampedPlatform>(&stage, &[hero(0)])
        };
        assert_eq!(with(130.0), [""; 0], "the hero is 20 px high");
        assert_eq!(
            with(133.0),
            [
                "plank: -3: hero.body needs 3.00 px more room between plank and beam. Lower plank by 3.00 px, or raise beam."
            ]
        );
    }
}
