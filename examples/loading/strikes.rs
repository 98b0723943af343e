//! Does this hit strike that part? rustc strikes.rs beside pier.rs, which `finitor export -o pier.rs` writes.
//! strikes ACTOR ANIMATION FRAME FACING X Y  ACTOR ANIMATION FRAME FACING X Y  prints the first part that is struck, or -.
mod pier;
use pier::{Actor, Facing, PACK, Point, Ring, Role, Side};

struct Placed(&'static Actor, &'static Side, Point);

fn find(words: &[String]) -> Option<Placed> {
    let actor = PACK.actors.iter().find(|actor| actor.name == words[0])?;
    let frames = actor.animations.iter().find(|animation| animation.name == words[1])?.frames;
    let facing = if words[3] == "right" { Facing::Right } else { Facing::Left };
    let side = frames.get(words[2].parse::<usize>().ok()?)?.sides.iter().find(|side| side.facing == facing)?;
    Some(Placed(actor, side, Point { x: words[4].parse().ok()?, y: words[5].parse().ok()? }))
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
    let Placed(attacker, own, at) = find(&words[..6]).expect("the attacker's frame");
    let Placed(target, other, to) = find(&words[6..12]).expect("the target's frame");
    let overlap = |a: Ring, b: Ring| !parted(a, at, b, to) && !parted(b, to, a, at);
    for hurt in other.shapes.iter().filter(|shape| target.meanings[shape.meaning].role == Role::Hurt) {
        let (of, detects) = (&target.meanings[hurt.meaning], |hit: usize| &attacker.meanings[hit]);
        let strikes = |hit: usize| detects(hit).role == Role::Hit && detects(hit).mask & of.layer != 0;
        let mut hits = own.shapes.iter().filter(|hit| strikes(hit.meaning));
        if hits.any(|hit| hit.pieces.iter().any(|a| hurt.pieces.iter().any(|b| overlap(a, b)))) {
            return println!("{}", of.part.unwrap_or(of.name));
        }
    }
    println!("-");
}
