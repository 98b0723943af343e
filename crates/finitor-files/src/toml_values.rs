//! Single TOML values: numbers within bounds, what a value is called, and the name that was probably meant.

use toml::Spanned;
use toml::de::DeValue;

/// A value with its place.
pub(crate) type Value<'t> = Spanned<DeValue<'t>>;

/// The known name most like a wrong one, when it is like it at all.
pub(crate) fn nearest<'n>(wrong: &str, known: &[&'n str]) -> Option<&'n str> {
    let scored = known.iter().map(|name| (strsim::damerau_levenshtein(wrong, name), *name));
    let (distance, name) = scored.min()?;
    let longest = wrong.chars().count().max(name.chars().count());
    (distance * 5 <= longest * 2 || distance == 1).then_some(name)
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

pub(crate) fn kind_of(value: &DeValue<'_>) -> &'static str {
    match value {
        DeValue::String(_) => "a string",
        DeValue::Integer(_) => "a whole number",
        DeValue::Float(_) => "a number",
        DeValue::Boolean(_) => "true or false",
        DeValue::Datetime(_) => "a date",
        DeValue::Array(_) => "a list",
        DeValue::Table(_) => "a table",
    }
}
