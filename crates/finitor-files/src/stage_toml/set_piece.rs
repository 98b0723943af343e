//! Things whose outline is fitted to a picture: `art` in a stage file.

use crate::tiles_toml::{Place, art_recipe, picture};
use crate::toml_table::Table;
use finitor_core::art::PixelRect;
use finitor_core::fit::{FrameArt, fit_shape, selection};
use finitor_core::{Polygon, Vec2};

/// The outlines fitted to a table's `art`, placed with the picture's top left, or that of its `cut`, at `at`. Fit options, such as
/// region = "bottom 30%", are those of shapes, in `shape`; an outline that balances unless told otherwise.
pub(super) fn set_piece(table: &Table<'_>, place: Place<'_>) -> Option<Vec<Polygon>> {
    let art = table.string("art", "\"boat.png\"");
    let at = table.numbers::<2>("at", "[200, 168]");
    let cut = table.integers("cut", 0..1_000_000, "[0, 0, 48, 32]");
    let recipe = art_recipe(table);
    let Some(art) = art else {
        for key in ["at", "cut", "shape"].into_iter().filter(|key| table.has(key)) {
            let hint = Some("add art = \"boat.png\"".to_string());
            table.wrong(table.value_span(key), format!("`{key}` goes with `art`"), hint);
        }
        return None;
    };
    if !table.has("at") {
        table.missing("at", "[200, 168]");
    }
    let wrong = |reason: String| table.wrong(art.span.clone(), format!("picture \"{}\": {reason}", art.value), None);
    let mut picture = picture(table, place, &art)?;
    if let Some(cut) = cut {
        let rect = match cut.value.as_slice() {
            &[x, y, width, height] => {
                let [x, y, width, height] = [x, y, width, height].map(|side| side as u32);
                picture.crop(PixelRect { x, y, width, height }).filter(|_| width > 0 && height > 0)
            }
            _ => None,
        };
        let Some(part) = rect else {
            let (width, height) = (picture.width(), picture.height());
            let message = format!("`cut` is left, top, width and height inside the picture of {width} x {height} px");
            table.wrong(cut.span, message, None);
            return None;
        };
        picture = part;
    }
    let (recipe, [x, y]) = (recipe?, at?.value);
    let selected = selection(&FrameArt { picture, parts: None }, &recipe);
    if selected.is_empty() {
        wrong("no opaque pixel is left to fit an outline to".into());
        return None;
    }
    let fitted = fit_shape(&selected.mask, &recipe).map_err(|error| wrong(error.to_string())).ok()?;
    let by = selected.corner() + Vec2::new(x, y);
    Some(fitted.polygons.iter().map(|polygon| polygon.translated(by)).collect())
}
