//! `[records]`: the file, its key, and which of its columns are dates and amounts.

use super::date_column::read_date_column;
use super::model::{DateColumnPlan, NumberColumnPlan};
use super::number_column::{NumberPart, read_numbers};
use super::output::check_name;
use super::vocabulary as keys;
use crate::keys::{REPEATS, Repeats};
use crate::mistakes::{At, Value, Walk};
use crate::source::{Encoding, FileForm, SheetChoice, Signs};
use toml::de::{DeTable, DeValue};

/// The longest cell where a plan states none: 1 MiB.
const LONGEST_CELL: usize = 1 << 20;

pub(super) struct RecordsPart {
    pub(super) files: Vec<At<String>>,
    pub(super) file_column: Option<At<String>>,
    pub(super) key: Vec<At<String>>,
    pub(super) repeats: Option<Repeats>,
    pub(super) longest_cell: usize,
    pub(super) form: FileForm,
    pub(super) dates: Vec<DateColumnPlan>,
    pub(super) amounts: Vec<NumberColumnPlan>,
    pub(super) numbers: Vec<NumberColumnPlan>,
}

pub(super) fn read(walk: &mut Walk, value: &Value<'_>) -> Option<RecordsPart> {
    let table = walk.table(value, "a table under [records]")?;
    walk.check_keys(table, &keys::RECORDS);
    let files = walk.needed(table, "file", value.span(), "file = \"…\", the records file");
    let files = files.and_then(|value| read_files(walk, value));
    let file_column = match table.get("file_column") {
        Some(value) => Some(walk.text(value, "the name of a column for the name of each row's file")?),
        None => None,
    };
    let key = match table.get("key") {
        Some(value) => walk.texts(value, "the name of the key column, or a list of names")?,
        None => Vec::new(),
    };
    let repeats = table.get("repeats").and_then(|value| walk.choice(value, &REPEATS));
    if let (Some(value), true) = (table.get("repeats"), key.is_empty()) {
        walk.mistakes.tell(
            value.span(),
            "repeats says what happens to repeated keys, but there is no key",
            "key = \"…\" above it",
        );
    }
    let longest_cell = match table.get("longest_cell") {
        Some(value) => usize::try_from(walk.whole_number(value, 1..=1 << 30)?).ok()?,
        None => LONGEST_CELL,
    };
    let form = read_form(walk, table)?;
    let mut dates = Vec::new();
    if let Some(value) = table.get("dates") {
        for (name, value) in walk.table(value, "columns with their patterns")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            dates.extend(read_date_column(walk, column, value));
        }
    }
    let amounts = read_numbers(walk, table, NumberPart::Amounts)?;
    let numbers = read_numbers(walk, table, NumberPart::Numbers)?;
    Some(RecordsPart {
        files: files?,
        file_column,
        key,
        repeats,
        longest_cell,
        form,
        dates,
        amounts,
        numbers,
    })
}

/// The names of the records files.
fn read_files(walk: &mut Walk, value: &Value<'_>) -> Option<Vec<At<String>>> {
    const EXPECTED: &str = "the name of the records file, or a list of names";
    let names = walk.texts(value, EXPECTED)?;
    if names.is_empty() {
        walk.mistakes.tell(value.span(), "no records file is named", EXPECTED);
        return None;
    }
    names.into_iter().map(|name| check_name(walk, name)).collect()
}

/// How the text of the file is written.
fn read_form(walk: &mut Walk, table: &DeTable<'_>) -> Option<FileForm> {
    let mut form = FileForm::default();
    if let Some(value) = table.get("separator") {
        form.signs.separator = read_sign(walk, value, "one sign such as \";\", \"|\" or \"\\t\"")?;
    }
    if let Some(value) = table.get("quote") {
        form.signs.quote = read_sign(walk, value, "one sign such as \"'\"")?;
    }
    let Signs { separator, quote } = form.signs;
    if separator == quote {
        let span = table.get("quote").or(table.get("separator")).map(Value::span).unwrap_or_default();
        walk.mistakes.tell(span, "separator and quote are the same sign", "two different signs");
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
    if let Some(value) = table.get("encoding") {
        form.encoding = Some(walk.choice_of(value, &Encoding::ALL, Encoding::word)?);
    }
    Some(form)
}

/// A sign of one byte that is no letter, no digit and no line end.
fn read_sign(walk: &mut Walk, value: &Value<'_>, expected: &str) -> Option<u8> {
    let text = walk.text(value, expected)?;
    match text.value.as_bytes() {
        [sign] if sign.is_ascii_punctuation() || matches!(sign, b'\t' | b' ' | 0x1e | 0x1f) => Some(*sign),
        _ => {
            let what = format!("\"{}\" cannot stand between cells or around them", text.value.escape_debug());
            walk.mistakes.tell(text.span, what, expected);
            None
        }
    }
}
