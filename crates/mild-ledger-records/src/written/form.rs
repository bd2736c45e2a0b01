//! How a file is written, as a plan says it.

use crate::mistakes::{Value, Walk};
use crate::source::{Encoding, FileForm, SheetChoice, Signs, TableChoice};
use toml::de::{DeTable, DeValue};

/// How the text of the file is written.
pub(crate) fn read_form(walk: &mut Walk, table: &DeTable<'_>) -> Option<FileForm> {
    let mut form = FileForm::default();
    if let Some(value) = table.get("separator") {
        form.signs.separator = read_sign(walk, value, "one character such as \";\", \"|\" or \"\\t\"")?;
    }
    if let Some(value) = table.get("quote") {
        form.signs.quote = read_sign(walk, value, "one character such as \"'\"")?;
    }
    let Signs { separator, quote } = form.signs;
    if separator == quote {
        let span = table.get("quote").or(table.get("separator")).map(Value::span).unwrap_or_default();
        walk.mistakes.tell(span, "separator and quote are the same character", "two different characters");
        return None;
    }
    if let Some(value) = table.get("header_line") {
        form.header_line = Some(u64::try_from(walk.whole_number(value, 1..=1_000_000)?).ok()?);
    }
    if let Some(value) = table.get("sheet") {
        form.sheet = Some(match value.get_ref() {
            DeValue::Integer(_) => {
                SheetChoice::Number(usize::try_from(walk.whole_number(value, 1..=10_000)?).ok()?)
            }
            _ => SheetChoice::Named(walk.text(value, "the name of a sheet, or its number from 1")?.value),
        });
    }
    form.table = match (table.get("table"), table.get("query")) {
        (Some(name), None) => Some(TableChoice::Named(walk.text(name, "the name of a table")?.value)),
        (None, Some(query)) => Some(TableChoice::Query(walk.text(query, "a query with an order")?.value)),
        (Some(_), Some(query)) => {
            walk.mistakes.tell(query.span(), "table and query both name what to read", "one of them");
            return None;
        }
        (None, None) => None,
    };
    if let Some(value) = table.get("encoding") {
        form.encoding = Some(walk.choice_of(value, &Encoding::ALL, Encoding::word)?);
    }
    Some(form)
}

/// A character of one byte that is neither a letter, a digit nor a line end.
pub(crate) fn read_sign(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<u8> {
    let text = walk.text(value, expected)?;
    match text.value.as_bytes() {
        [sign] if sign.is_ascii_punctuation() || matches!(sign, b'\t' | b' ' | 0x1e | 0x1f) => Some(*sign),
        _ => {
            let what = format!("\"{}\" cannot be between cells or around them", text.value.escape_debug());
            walk.mistakes.tell(text.span, what, expected);
            None
        }
    }
}
