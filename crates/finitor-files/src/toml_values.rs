//! Single TOML values: numbers within bounds, what a value is called, and the name that was probably meant.

use toml::Spanned;
use toml::de::DeValue;

/// A value with its place.
pub(crate) type Value<'t> = Spanned<DeValue<'t>>;

/// The known name most like a wrong one, when it is like it at all.
pub fn nearest<'n>(wrong: &str, known: &[&'n str]) -> Option<&'n str> {
    let scored = known.iter().map(|name| (strsim::damerau_levenshtein(wrong, name), *name));
    let (distance, name) = scored.min()?;
    let longest = wrong.chars().count().max(name.chars().count());
    (distance * 5 <= longest * 2 || distance == 1 && longest == 2).then_some(name)
}

/// Numbers lie between plus and minus this: far beyond any stage, and products of them still have all their digits
/// before the point.
const MOST: f64 = 1e7;

pub(crate) fn number(value: &DeValue<'_>) -> Option<f64> {
    let parsed = match value {
        DeValue::Integer(_) => integer(value)? as f64,
        DeValue::Float(text) => text.as_str().replace('_', "").parse().ok()?,
        _ => return None,
    };
    (parsed.abs() <= MOST).then_some(parsed)
}

pub(crate) fn integer(value: &DeValue<'_>) -> Option<i64> {
    match value {
        DeValue::Integer(text) => i64::from_str_radix(&text.as_str().replace('_', ""), text.radix()).ok(),
        _ => None,
    }
}

pub(crate) fn numbers<const N: usize>(value: &Value<'_>) -> Option<[f64; N]> {
    match value.get_ref() {
        DeValue::Array(list) => {
            let found: Option<Vec<f64>> = list.iter().map(|item| number(item.get_ref())).collect();
            found?.try_into().ok()
        }
        _ => None,
    }
}

fn is_numeric(value: &DeValue<'_>) -> bool {
    matches!(value, DeValue::Integer(_) | DeValue::Float(_))
}

/// A value as an error names it: what was written, or for lists what they hold.
pub(crate) fn found_of(value: &DeValue<'_>) -> String {
    /// Longer text is cut.
    const MOST_SHOWN: usize = 32;
    match value {
        DeValue::String(text) if text.chars().count() <= MOST_SHOWN => format!("\"{text}\""),
        DeValue::String(_) => "a long string".to_string(),
        DeValue::Integer(number) => number.as_str().to_string(),
        DeValue::Float(number) => number.as_str().to_string(),
        DeValue::Boolean(value) => value.to_string(),
        DeValue::Datetime(_) => "a date".to_string(),
        DeValue::Array(list) => {
            let all = |is_one: fn(&DeValue<'_>) -> bool| list.iter().all(|item| is_one(item.get_ref()));
            let noun = match list.len() {
                0 => return "an empty list".to_string(),
                _ if all(|item| number(item).is_some()) => "number",
                _ if all(is_numeric) => {
                    let wrong = list.iter().find(|item| number(item.get_ref()).is_none());
                    return wrong.map_or_else(String::new, |item| found_of(item.get_ref()));
                }
                _ if all(|item| matches!(item, DeValue::String(_))) => "string",
                _ if all(|item| matches!(item, DeValue::Array(_))) => "list",
                _ => "value",
            };
            crate::words::counted(list.len(), noun)
        }
        DeValue::Table(_) => "a table".to_string(),
    }
}
