//! How an actor moves, as its file tells: `[moves]`.

use crate::toml_table::Table;
use finitor_core::Vec2;
use finitor_core::actor::Moves;

/// Reads `[moves]`; each key may be left out.
pub(crate) fn moves(table: &Table<'_>) -> Moves {
    let fastest = table.numbers::<2>("fastest", "[4, 9]").and_then(|fastest| {
        if fastest.value.iter().any(|speed| *speed < 0.0) {
            let [x, y] = fastest.value;
            let message = format!("`fastest` must be two numbers of at least 0, px per tick; found [{x}, {y}]");
            table.wrong(fastest.span, message, Some("write fastest = [4, 9]".into()));
            return None;
        }
        Some(Vec2::new(fastest.value[0], fastest.value[1]))
    });
    let jump = table.number_from("jump", 0.0, "56").map(|jump| jump.value);
    let step = table.number_from("step", 0.0, "4").map(|step| step.value);
    let slope = table.number_from("slope", 0.0, "45").and_then(|slope| {
        if slope.value > 90.0 {
            let message = format!("`slope` must be an angle from 0 to 90 degrees; found {}", slope.value);
            table.wrong(slope.span, message, Some("write slope = 45".into()));
            return None;
        }
        Some(slope.value)
    });
    let gravity = table.number_from("gravity", 0.0, "0.36").map(|gravity| gravity.value);
    table.finish();
    Moves { fastest, jump, step, slope, gravity }
}
