//! What the numbers of a map are said to be: `[tiles.kinds]`.

use crate::cells::parse_list;
use crate::toml_table::{Table, WordOrPoints, nearest};

/// What a tile is said to be.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum TileWord {
    Nothing,
    Cell,
    Art,
    OneWay,
    Points(Vec<[f64; 2]>),
}

impl TileWord {
    pub(super) const NAMES: [&'static str; 4] = ["cell", "art", "one_way", "none"];

    pub(super) fn parse(word: &str) -> Option<TileWord> {
        match word {
            "none" => Some(TileWord::Nothing),
            "cell" => Some(TileWord::Cell),
            "art" => Some(TileWord::Art),
            "one_way" => Some(TileWord::OneWay),
            _ => None,
        }
    }

    pub(super) fn name(&self) -> &'static str {
        match self {
            TileWord::Nothing => "none",
            TileWord::Cell => "cell",
            TileWord::Art => "art",
            TileWord::OneWay => "one_way",
            TileWord::Points(_) => "points",
        }
    }
}

/// Reads `[tiles.kinds]`: the numbers of each entry, where it stands, and what they are.
pub(super) fn kind_words(table: &Table<'_>) -> Vec<(Vec<u32>, std::ops::Range<usize>, TileWord)> {
    let mut found: Vec<(Vec<u32>, std::ops::Range<usize>, TileWord)> = Vec::new();
    if !table.has("kinds") {
        table.missing("kinds", "{ \"0-7\" = \"cell\" }");
    }
    for (numbers, value) in table.words_or_points("kinds", "\"cell\"") {
        let word = match value.value {
            WordOrPoints::Points(points) => Some(TileWord::Points(points)),
            WordOrPoints::Word(word) => {
                let known = TileWord::parse(&word);
                if known.is_none() {
                    let hint = nearest(&word, &TileWord::NAMES).map(|near| format!("did you mean \"{near}\"?"));
                    let message =
                        format!("\"{word}\" is no kind of tile; it is one of cell, art, one_way, none, or points");
                    table.wrong(value.span.clone(), message, hint);
                }
                known
            }
        };
        match parse_list(&numbers.value) {
            Err(reason) => table.wrong(numbers.span, reason, Some("write numbers of tiles: \"0-7\" or \"3,5\"".into())),
            Ok(list) => {
                if let Some(twice) = list.iter().find(|number| found.iter().any(|(known, ..)| known.contains(number))) {
                    table.wrong(numbers.span, format!("tile {twice} is given twice"), None);
                } else if let Some(word) = word {
                    found.push((list, value.span, word));
                }
            }
        }
    }
    found
}
