//! Prints every shape and thing of a pack, a line each.
#![deny(warnings)]

mod pier;

use pier::{Exact, Facing, PACK, Ring, Thing};

fn ring(ring: Ring) -> String {
    ring.iter().map(|at| format!(" {} {}", at.x, at.y)).collect::<String>() + " |"
}

fn rings(rings: &[Ring]) -> String {
    rings.iter().map(|of| ring(of)).collect()
}

fn thing(stage: &str, of: &Thing) {
    let Thing { name, layer, mask, outline, holes, pieces } = of;
    println!("{stage} {name} {layer} {mask}:{}{}{}", ring(outline), rings(holes), rings(pieces));
}

fn main() {
    for actor in PACK.actors {
        for animation in actor.animations {
            for (number, frame) in animation.frames.iter().enumerate() {
                for side in frame.sides {
                    for shape in side.shapes {
                        let exact: &[pier::Number] = match &shape.exact {
                            Exact::Box(numbers) => numbers,
                            Exact::Circle(numbers) => numbers,
                            Exact::Capsule(numbers) => numbers,
                            Exact::Polygon => &[],
                        };
                        let exact: String = exact.iter().map(|number| format!(" {number}")).collect();
                        let facing = if side.facing == Facing::Right { "right" } else { "left" };
                        let of = &actor.meanings[shape.meaning];
                        println!(
                            "{} {} {number} {} {facing} {} {} {}:{exact} |{}{}{}",
                            actor.name, animation.name, frame.ticks, of.name, of.layer, of.mask,
                            rings(shape.outline), rings(shape.holes), rings(shape.pieces)
                        );
                    }
                }
            }
        }
    }
    for actor in PACK.actors {
        for of in actor.meanings {
            let (settle, from) = (of.settle.unwrap_or("-"), of.blocked_from.unwrap_or("-"));
            let anchors: String = of.part_anchors.iter().map(|of| format!(" {}", of.anchor)).collect();
            println!("{} {} {settle} {from}{anchors}: {} {}", actor.name, of.name, of.again_after, of.blocked_by);
        }
    }
    for alias in PACK.aliases {
        println!("{} {}: {}", PACK.contact, alias.name, alias.layers);
    }
    for state in PACK.states {
        for of in state.changes {
            println!("{}: {} {} {} {} {}", state.name, of.layer, of.add, of.drop, of.join, of.leave);
        }
    }
    for stage in PACK.stages {
        stage.solids.iter().for_each(|solid| thing(stage.name, solid));
        stage.one_ways.iter().for_each(|one_way| thing(stage.name, &one_way.thing));
        stage.zones.iter().for_each(|zone| thing(stage.name, &zone.thing));
    }
}
