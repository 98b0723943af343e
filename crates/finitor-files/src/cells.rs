//! Lists of cells and frames as text: `0-3,9,8-5`.

use crate::toml_table::{At, Table};

/// Most entries a list may have.
const MOST: usize = 10_000;

/// The numbers of a list in the order written; a range may run downward.
///
/// # Errors
/// What is wrong, in words.
pub(crate) fn parse_list(text: &str) -> Result<Vec<u32>, String> {
    let mut numbers = Vec::new();
    for part in text.split(',') {
        let number = |word: &str| {
            let word = word.trim();
            let is_long = !word.is_empty() && word.chars().all(|c| c.is_ascii_digit());
            word.parse::<u32>().map_err(|_| match is_long {
                true => format!("{word} is more than any cell's number"),
                false => format!("\"{}\" is not a number or range such as 4-9", part.trim()),
            })
        };
        let (first, last) = match part.split_once('-') {
            Some((first, last)) => (number(first)?, number(last)?),
            None => (number(part)?, number(part)?),
        };
        if first.abs_diff(last) as usize >= MOST || numbers.len() >= MOST {
            return Err(format!("the list has more than {MOST} entries"));
        }
        if first <= last {
            numbers.extend(first..=last);
        } else {
            numbers.extend((last..=first).rev());
        }
    }
    Ok(numbers)
}

/// A key that lists frames of an animation: `"2-3"`.
pub(crate) fn frame_list(table: &Table<'_>, key: &'static str) -> Option<At<Vec<u32>>> {
    let text = table.string(key, "\"2-3\"")?;
    match parse_list(&text.value) {
        Ok(value) => Some(At { value, span: text.span }),
        Err(reason) => {
            table.wrong(text.span, reason, Some("frames count from 0, for example \"2-3\"".into()));
            None
        }
    }
}

#[cfg(test)]
mod tests {
    use super::parse_list;

    #[test]
    fn order_is_as_written() {
        assert_eq!(parse_list("9, 4-6"), Ok(vec![9, 4, 5, 6]));
        assert_eq!(parse_list("3-1"), Ok(vec![3, 2, 1]));
        assert!(parse_list("4-").is_err() && parse_list("").is_err() && parse_list("-2").is_err());
        assert!(parse_list("0-4000000000").is_err());
    }
}
