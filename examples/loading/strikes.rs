//! Does this hit strike that part? rustc strikes.rs beside pier.rs, which `finitor export -o pier.rs` writes.
//! strikes ACTOR ANIMATION FRAME FACING X Y  ACTOR ANIMATION FRAME FACING X Y  prints the first part that is struck, or -.
mod pier;
use pier::{Actor, Facing, PACK, Point, Ring, Role, Side};

fn find(of: &[String]) -> Option<(&'static Actor, &'static Side, Point)> {
    let actor = PACK.actors.iter().find(|actor| actor.name == of[0])?;
    let frames = actor.animations.iter().find(|animation| animation.name == of[1])?.frames;
    let facing = if of[3] == "right" { Facing::Right } else { Facing::Left };
    let side = frames.get(of[2].parse::<usize>().ok()?)?.sides.iter().find(|side| side.facing == facing)?;
    Some((actor, side, Point { x: of[4].parse().ok()?, y: of[5].parse().ok()? }))
}

/// Whether a side of the first piece has all of the other piece beyond it; corners run clockwise as seen, y down.
fn parted(one: Ring, at: Point, other: Ring, to: Point) -> bool {
    one.iter().zip(one.iter().cycle().skip(1)).any(|(a, b)| {
        let beyond = |q: &Point| (b.x - a.x) * (q.y + to.y - a.y - at.y) <= (b.y - a.y) * (q.x + to.x - a.x - at.x);
        other.iter().all(beyond)
    })
}

fn main() {
    let words: Vec<String> = std::env::args().skip(1).collect();
    let (attacker, own, at) = find(&words[..6]).expect("the attacker's frame");
    let (target, other, to) = find(&words[6..12]).expect("the target's frame");
    let overlap = |a: Ring, b: Ring| !parted(a, at, b, to) && !parted(b, to, a, at);
    let struck = other.shapes.iter().find(|hurt| {
        own.shapes.iter().any(|hit| {
            let (a, b) = (&attacker.meanings[hit.meaning], &target.meanings[hurt.meaning]);
            let meets = a.role == Role::Hit && b.role == Role::Hurt && a.mask & b.layer != 0;
            meets && hit.pieces.iter().any(|one| hurt.pieces.iter().any(|two| overlap(one, two)))
        })
    });
    let named = struck.map(|hurt| &target.meanings[hurt.meaning]).map(|of| of.part.unwrap_or(of.name));
    println!("{}", named.unwrap_or("-"));
}
