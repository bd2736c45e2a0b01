//! `[records]`: the file, its key, and which of its columns are dates and amounts.

use super::model::{TOTAL_ROW, TotalRow};
use super::output::check_name;
use super::vocabulary as keys;
use crate::keys::{DUPLICATES, Duplicates};
use crate::mistakes::{At, Value, Walk};
use crate::source::FileForm;
use crate::written::{WrittenColumns, read_form, read_written};

/// The longest cell where a plan states none: 1 MiB.
const LONGEST_CELL: usize = 1 << 20;

pub(super) struct RecordsPart {
    pub(super) files: Vec<At<String>>,
    pub(super) file_column: Option<At<String>>,
    pub(super) key: Vec<At<String>>,
    pub(super) duplicates: Option<Duplicates>,
    pub(super) total_row: TotalRow,
    pub(super) longest_cell: usize,
    pub(super) form: FileForm,
    pub(super) written: WrittenColumns,
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
    let duplicates = table.get("duplicates").and_then(|value| walk.choice(value, &DUPLICATES));
    if let (Some(value), true) = (table.get("duplicates"), key.is_empty()) {
        walk.mistakes.tell(
            value.span(),
            "duplicates says what happens to repeated keys, but there is no key",
            "key = \"…\" above it",
        );
    }
    let total_row = match table.get("total_row") {
        Some(value) => walk.choice(value, &TOTAL_ROW)?,
        None => TotalRow::default(),
    };
    let longest_cell = match table.get("longest_cell") {
        Some(value) => usize::try_from(walk.whole_number(value, 1..=1 << 30)?).ok()?,
        None => LONGEST_CELL,
    };
    let form = read_form(walk, table)?;
    let written = read_written(walk, table)?;
    Some(RecordsPart { files: files?, file_column, key, duplicates, total_row, longest_cell, form, written })
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
