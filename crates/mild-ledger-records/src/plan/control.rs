//! `control`: totals that the records are stated to have.

use super::model::{ControlOf, ControlPlan};
use crate::mistakes::{At, Value, Walk};
use mild_ledger::Decimal;
use toml::de::DeValue;

/// The key that represents the number of rows, not a column.
const ROWS: &str = "rows";

pub(super) fn read(walk: &mut Walk, value: &Value<'_>) -> Option<ControlPlan> {
    const EXPECTED: &str = "control = { rows = 240, Amount = \"125000.00\" }";
    let mut control = ControlPlan::default();
    for (name, value) in walk.table(value, EXPECTED)? {
        let word: &str = name.get_ref();
        if word == ROWS {
            control.rows = u64::try_from(walk.whole_number(value, 0..=i64::MAX)?).ok();
            continue;
        }
        let column = At { value: word.to_owned(), span: name.span() };
        let DeValue::Table(currencies) = value.get_ref() else {
            let total = read_total(walk, value)?;
            control.totals.push(ControlOf { column, currency: None, total });
            continue;
        };
        for (name, value) in currencies {
            let currency = Some(At { value: name.get_ref().to_string(), span: name.span() });
            let total = read_total(walk, value)?;
            control.totals.push(ControlOf { column: column.clone(), currency, total });
        }
    }
    Some(control)
}

fn read_total(walk: &mut Walk, value: &Value<'_>) -> Option<Decimal> {
    let total = match value.get_ref() {
        DeValue::Integer(digits) => digits.as_str().replace('_', ""),
        DeValue::Float(digits) => digits.as_str().replace('_', ""),
        _ => walk.text(value, "a total such as \"125000.00\", or { EUR = \"125000.00\" }")?.value,
    };
    match total.trim().parse() {
        Ok(total) => Some(total),
        Err(error) => {
            let error: mild_ledger::Error = error;
            walk.mistakes.tell(value.span(), error.what(), error.allowed());
            None
        }
    }
}
