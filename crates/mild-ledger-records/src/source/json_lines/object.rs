//! One object as names and cells.

use crate::table::RowFault;
use serde::de::{Deserializer, MapAccess, Visitor};
use serde_json::value::RawValue;
use std::borrow::Cow;
use std::fmt;

/// The names of an object and what comes after each, as the text of a cell: a text without its quotes, a number as it
/// is written, `true` and `false`, and nothing for null.
pub(super) fn cells_of(line: &str) -> Result<Vec<(String, Cow<'_, str>)>, RowFault> {
    let mut parser = serde_json::Deserializer::from_str(line);
    let entries = parser.deserialize_map(Entries).map_err(|_| RowFault::NotAnObject)?;
    parser.end().map_err(|_| RowFault::NotAnObject)?;
    let mut cells: Vec<(String, Cow<'_, str>)> = Vec::with_capacity(entries.len());
    for (name, value) in entries {
        let name = name.trim().to_owned();
        if cells.iter().any(|(other, _)| *other == name) {
            return Err(RowFault::NameTwice);
        }
        cells.push((name, cell_of(value.get())?));
    }
    Ok(cells)
}

fn cell_of(value: &str) -> Result<Cow<'_, str>, RowFault> {
    match value.as_bytes().first() {
        Some(b'{' | b'[') => Err(RowFault::NestedValue),
        Some(b'"') => {
            // Most texts hold no escape, so that they are between their quotes as they are.
            let inside = value.get(1..value.len().saturating_sub(1)).filter(|text| !text.contains('\\'));
            match inside {
                Some(text) => Ok(Cow::Borrowed(text)),
                None => serde_json::from_str(value).map(Cow::Owned).map_err(|_| RowFault::NotAnObject),
            }
        }
        _ if value == "null" => Ok(Cow::Borrowed("")),
        _ => Ok(without_exponent(value).map_or(Cow::Borrowed(value), Cow::Owned)),
    }
}

/// The most places that an exponent moves the decimal mark; beyond them no number of records is.
const MOST_PLACES: i32 = 60;

/// A number with an exponent (RFC 8259, 6) as the same number without one; nothing for any other.
fn without_exponent(value: &str) -> Option<String> {
    let (number, exponent) = value.split_once(['e', 'E'])?;
    let places: i32 = exponent.strip_prefix('+').unwrap_or(exponent).parse().ok()?;
    if places.abs() > MOST_PLACES {
        return None;
    }
    let (sign, number) = number.strip_prefix('-').map_or(("", number), |number| ("-", number));
    let (whole, fraction) = number.split_once('.').unwrap_or((number, ""));
    let digits = format!("{whole}{fraction}");
    let mark = i32::try_from(whole.len()).ok()?.checked_add(places)?;
    let digits = match usize::try_from(mark) {
        Ok(mark) => format!("{digits:0<mark$}"),
        Err(_) => digits,
    };
    // As many zeros before it as leave one digit before the mark.
    let missing = usize::try_from(1 - mark).unwrap_or(0);
    let digits = format!("{}{digits}", "0".repeat(missing));
    let (whole, fraction) = digits.split_at_checked(usize::try_from(mark.max(1)).ok()?)?;
    let whole = whole.trim_start_matches('0');
    let whole = if whole.is_empty() { "0" } else { whole };
    Some(if fraction.is_empty() { format!("{sign}{whole}") } else { format!("{sign}{whole}.{fraction}") })
}

/// The entries of an object in their order, none lost where a name occurs twice.
struct Entries;

impl<'de> Visitor<'de> for Entries {
    type Value = Vec<(String, &'de RawValue)>;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("an object")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<Self::Value, A::Error> {
        let mut entries = Vec::new();
        while let Some(entry) = map.next_entry::<String, &'de RawValue>()? {
            entries.push(entry);
        }
        Ok(entries)
    }
}

#[cfg(test)]
mod tests {
    use super::cells_of;
    use crate::table::RowFault;

    #[test]
    fn values_become_the_texts_of_cells() {
        let cells = cells_of(
            r#"{"Invoice":"QB-1","Amount":1250.00,"Big":123456789012345678901234567890.10,"Paid":null,"Open":true,"Note":"a \"b\" é\n"}"#,
        );
        let cells: Vec<(String, String)> =
            cells.unwrap().into_iter().map(|(name, cell)| (name, cell.into_owned())).collect();
        let texts: Vec<&str> = cells.iter().map(|(_, cell)| cell.as_str()).collect();
        let big = "123456789012345678901234567890.10";
        assert_eq!(texts, ["QB-1", "1250.00", big, "", "true", "a \"b\" é\n"]);
    }

    #[test]
    fn an_exponent_moves_the_decimal_mark() {
        for (written, cell) in [
            ("1e2", "100"),
            ("1.5E-3", "0.0015"),
            ("-2.50e1", "-25.0"),
            ("12.345e1", "123.45"),
            ("0.05e+2", "5"),
            ("0e0", "0"),
            ("-1e-1", "-0.1"),
            ("100e-2", "1.00"),
            ("1e61", "1e61"),
            ("1e99999999999", "1e99999999999"),
        ] {
            let line = format!("{{\"A\":{written}}}");
            assert_eq!(cells_of(&line).unwrap()[0].1, cell, "{written}");
        }
    }

    #[test]
    fn what_is_no_row_is_told_apart() {
        for (line, fault) in [
            ("[1, 2]", RowFault::NotAnObject),
            ("{\"A\":1", RowFault::NotAnObject),
            ("{\"A\":1} {\"A\":2}", RowFault::NotAnObject),
            ("{\"A\":1,}", RowFault::NotAnObject),
            ("Invoice,Amount", RowFault::NotAnObject),
            ("{\"A\":[1]}", RowFault::NestedValue),
            ("{\"A\":{\"B\":1}}", RowFault::NestedValue),
            ("{\"A\":1,\" A\":2}", RowFault::NameTwice),
        ] {
            assert_eq!(cells_of(line), Err(fault), "{line}");
        }
    }
}
