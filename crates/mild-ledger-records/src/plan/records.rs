//! `[records]`: the file, its key, and which of its columns are dates and amounts.

use super::date_column::read_date_column;
use super::model::{AmountColumn, DateColumnPlan};
use super::output::check_name;
use super::quoted_header::is_unquoted_dot;
use super::vocabulary as keys;
use crate::keys::{REPEATS, Repeats};
use crate::mistakes::{At, Value, Walk};
use crate::table::Missing;
use mild_ledger::Scale;

/// The longest cell where a plan states none: 1 MiB.
const LONGEST_CELL: usize = 1 << 20;

pub(super) struct RecordsPart {
    pub(super) file: At<String>,
    pub(super) key: Vec<At<String>>,
    pub(super) repeats: Option<Repeats>,
    pub(super) longest_cell: usize,
    pub(super) dates: Vec<DateColumnPlan>,
    pub(super) amounts: Vec<AmountColumn>,
}

pub(super) fn read(walk: &mut Walk, value: &Value<'_>) -> Option<RecordsPart> {
    let table = walk.table(value, "a table under [records]")?;
    walk.check_keys(table, &keys::RECORDS);
    let file = walk.needed(table, "file", value.span(), "file = \"…\", the records file");
    let file = file
        .and_then(|value| walk.text(value, "the name of the records file"))
        .and_then(|name| check_name(walk, name));
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
    let mut dates = Vec::new();
    if let Some(value) = table.get("dates") {
        for (name, value) in walk.table(value, "columns with their patterns")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            dates.extend(read_date_column(walk, column, value));
        }
    }
    let mut amounts = Vec::new();
    if let Some(value) = table.get("amounts") {
        for (name, value) in walk.table(value, "columns with their decimals")? {
            let column = At { value: name.get_ref().to_string(), span: name.span() };
            amounts.extend(read_amount_column(walk, column, value));
        }
    }
    Some(RecordsPart { file: file?, key, repeats, longest_cell, dates, amounts })
}

fn read_amount_column(walk: &mut Walk, column: At<String>, value: &Value<'_>) -> Option<AmountColumn> {
    const EXPECTED: &str = "a table such as { decimals = 2 }";
    let table = walk.table(value, EXPECTED)?;
    if is_unquoted_dot(walk, &column, table, keys::AMOUNT.known) {
        return None;
    }
    walk.check_keys(table, &keys::AMOUNT);
    let decimals =
        walk.needed(table, "decimals", value.span(), "decimals = 2, or as many as its amounts have");
    let decimals = decimals.and_then(|value| crate::columns::read_decimals(walk, value))?;
    let required = table.get("required").and_then(|value| walk.yes_or_no(value)).unwrap_or(true);
    let missing = if required { Missing::SetsRowAside } else { Missing::LeavesCellEmpty };
    Some(AmountColumn { column, scale: Scale::new(decimals).ok()?, missing })
}
