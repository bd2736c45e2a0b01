//! How the amounts and the plain numbers of the records are written.

use super::quoted_header::is_unquoted_dot;
use super::{AMOUNT, NumberColumnPlan, read_decimals, read_missing};
use crate::mistakes::{At, Value, Walk};
use crate::table::WrittenNumbers;
use mild_ledger::{DecimalMark, NegativeForm, Notation, Scale, ThousandsMark};
use toml::de::DeTable;

/// The two parts of a plan that name columns of numbers.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum NumberPart {
    /// Money: each row has some, and their sums are proved.
    Amounts,
    /// Plain numbers, which may be missing.
    Numbers,
}

impl NumberPart {
    fn key(self) -> &'static str {
        match self {
            Self::Amounts => "amounts",
            Self::Numbers => "numbers",
        }
    }
}

/// The columns that a part names.
pub(super) fn read_numbers(
    walk: &mut Walk,
    records: &DeTable<'_>,
    part: NumberPart,
) -> Option<Vec<NumberColumnPlan>> {
    let Some(value) = records.get(part.key()) else { return Some(Vec::new()) };
    let mut columns = Vec::new();
    for (name, value) in walk.table(value, "columns with their decimals")? {
        let column = At { value: name.get_ref().to_string(), span: name.span() };
        columns.extend(read_column(walk, column, value, part));
    }
    Some(columns)
}

fn read_column(
    walk: &mut Walk,
    column: At<String>,
    value: &Value<'_>,
    part: NumberPart,
) -> Option<NumberColumnPlan> {
    let table = walk.table(value, "a table such as { decimals = 2 }")?;
    if is_unquoted_dot(walk, &column, table, AMOUNT.known) {
        return None;
    }
    walk.check_keys(table, &AMOUNT);
    let decimals = walk.needed(table, "decimals", value.span(), "decimals = 2, or as many as they have");
    let decimals = decimals.and_then(|value| read_decimals(walk, value))?;
    let scale = Scale::new(decimals).ok()?;
    let notation = read_notation(walk, table, value)?;
    let is_required = part == NumberPart::Amounts;
    if let (Some(value), NumberPart::Amounts) = (table.get("keep_text"), part) {
        let what = "amounts are written as the numbers that are proved";
        walk.mistakes.tell(value.span(), what, "keep_text for a column under [records.numbers]");
        return None;
    }
    let missing = read_missing(walk, table, is_required)?;
    let blanks = match table.get("blank") {
        Some(value) => walk.texts(value, "the texts that mean a blank, such as [\"-\", \"n/a\"]")?,
        None => Vec::new(),
    };
    let blanks = blanks.into_iter().map(|text| text.value.trim().to_owned()).collect();
    let currency = match (table.get("currency"), part) {
        (Some(value), NumberPart::Amounts) => {
            Some(walk.text(value, "the column that names the currency, such as \"Currency\"")?)
        }
        (Some(value), NumberPart::Numbers) => {
            let what = "plain numbers are of no currency";
            walk.mistakes.tell(value.span(), what, "a column of money under [records.amounts]");
            return None;
        }
        (None, _) => None,
    };
    let written = WrittenNumbers { scale, notation, blanks, missing };
    Some(NumberColumnPlan { column, written, currency })
}

fn read_notation(walk: &mut Walk, table: &DeTable<'_>, whole: &Value<'_>) -> Option<Notation> {
    let decimal = match table.get("decimal_mark") {
        Some(value) => walk.choice_of(value, &DecimalMark::ALL, DecimalMark::word)?,
        None => DecimalMark::default(),
    };
    let thousands = match table.get("thousands") {
        Some(value) => walk.choice_of(value, &ThousandsMark::ALL, ThousandsMark::word)?,
        None => ThousandsMark::default(),
    };
    let mut notation = match Notation::with_marks(decimal, thousands) {
        Ok(notation) => notation,
        Err(error) => {
            let span = table.get("thousands").map_or_else(|| whole.span(), Value::span);
            walk.mistakes.tell(span, error.what(), error.allowed());
            return None;
        }
    };
    if let Some(value) = table.get("negatives") {
        let mut forms: Vec<NegativeForm> = Vec::new();
        for item in walk.items_or_one(value) {
            forms.push(walk.choice_of(item, &NegativeForm::ALL, NegativeForm::word)?);
        }
        if forms.contains(&NegativeForm::Credit) && forms.contains(&NegativeForm::Debit) {
            let what = "credit and debit cannot both be below zero";
            walk.mistakes.tell(value.span(), what, "one of \"credit\", \"debit\"");
            return None;
        }
        notation = forms.into_iter().fold(notation, Notation::with_negatives);
    }
    if let Some(value) = table.get("signs") {
        for text in walk.texts(value, "the symbols or codes next to the numbers, such as [\"$\", \"USD\"]")? {
            notation = notation.with_sign(&text.value);
        }
    }
    Some(notation)
}
