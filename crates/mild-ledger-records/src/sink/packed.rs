//! Rows of typed values as bytes, for formats that are not text, so that they wait and are sorted as lines do.

use super::columns::{Columns, Value, Words};
use super::{RowBytes, RowForm};
use arrow_array::RecordBatch;
use mild_ledger::column::Cell;
use mild_ledger::{Date, DateTime, Decimal};
use std::io;

/// Each value with what it is; parts of an interval as their words.
pub(super) struct PackedForm;

impl RowForm for PackedForm {
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        let columns = Columns::of(records)?;
        for row in rows {
            let bytes = into.rows.open_row();
            columns.row(*row).for_each(|value| pack(value, bytes));
            into.rows.end_row();
        }
        Ok(())
    }
}

/// What a byte says of those after it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Holds {
    Nothing = b'_' as isize,
    Text = b't' as isize,
    OwnText = b'o' as isize,
    Date = b'd' as isize,
    DateTime = b'm' as isize,
    Number = b'n' as isize,
}

fn pack(value: Value<'_>, bytes: &mut Vec<u8>) {
    match value {
        Value::Empty => bytes.push(Holds::Nothing as u8),
        Value::Text(text, Words::TakenOver) => pack_text(Holds::Text, text, bytes),
        Value::Text(text, Words::Own) => pack_text(Holds::OwnText, text, bytes),
        Value::Parts(parts) => pack_text(Holds::OwnText, &parts.to_string(), bytes),
        Value::Date(date) => {
            bytes.push(Holds::Date as u8);
            bytes.extend_from_slice(&date.stored().to_le_bytes());
        }
        Value::DateTime(at) => {
            bytes.push(Holds::DateTime as u8);
            bytes.extend_from_slice(&at.stored().to_le_bytes());
        }
        Value::Number(number) => {
            bytes.extend_from_slice(&[Holds::Number as u8, number.decimals()]);
            bytes.extend_from_slice(&number.units().to_le_bytes());
        }
    }
}

fn pack_text(holds: Holds, text: &str, bytes: &mut Vec<u8>) {
    bytes.push(holds as u8);
    bytes.extend_from_slice(&(text.len() as u64).to_le_bytes());
    bytes.extend_from_slice(text.as_bytes());
}

/// The values of a packed row, in their order; an error for what was not packed here.
pub(super) fn unpack(mut bytes: &[u8]) -> impl Iterator<Item = io::Result<Value<'_>>> {
    std::iter::from_fn(move || {
        let (holds, rest) = bytes.split_first()?;
        bytes = rest;
        let value = value_of(*holds, &mut bytes);
        if value.is_none() {
            bytes = &[];
        }
        Some(value.ok_or_else(|| io::Error::new(io::ErrorKind::InvalidData, "a packed row is broken")))
    })
}

fn value_of<'b>(holds: u8, bytes: &mut &'b [u8]) -> Option<Value<'b>> {
    fn take<'b, const N: usize>(bytes: &mut &'b [u8]) -> Option<&'b [u8; N]> {
        let (first, rest) = bytes.split_first_chunk()?;
        *bytes = rest;
        Some(first)
    }
    fn text<'b>(bytes: &mut &'b [u8]) -> Option<&'b str> {
        let length = usize::try_from(u64::from_le_bytes(*take(bytes)?)).ok()?;
        let (text, rest) = bytes.split_at_checked(length)?;
        *bytes = rest;
        std::str::from_utf8(text).ok()
    }
    let is = |kind: Holds| holds == kind as u8;
    if is(Holds::Nothing) {
        Some(Value::Empty)
    } else if is(Holds::Text) {
        Some(Value::Text(text(bytes)?, Words::TakenOver))
    } else if is(Holds::OwnText) {
        Some(Value::Text(text(bytes)?, Words::Own))
    } else if is(Holds::Date) {
        Date::of_stored(i32::from_le_bytes(*take(bytes)?)).map(Value::Date)
    } else if is(Holds::DateTime) {
        DateTime::of_stored(i64::from_le_bytes(*take(bytes)?)).map(Value::DateTime)
    } else if is(Holds::Number) {
        let [decimals] = *take(bytes)?;
        Decimal::of_units(i128::from_le_bytes(*take(bytes)?), decimals).ok().map(Value::Number)
    } else {
        None
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn values_come_back_as_they_were() {
        let number = |text: &str| Value::Number(text.parse().unwrap());
        let values = [
            Value::Empty,
            Value::Text("=1+1", Words::TakenOver),
            Value::Text("", Words::Own),
            Value::Date(Date::MIN),
            Value::DateTime(DateTime::MAX),
            number("-10.50"),
            number("170141183460469231731687303715884105727"),
        ];
        let mut bytes = Vec::new();
        values.iter().for_each(|value| pack(*value, &mut bytes));
        assert_eq!(unpack(&bytes).collect::<io::Result<Vec<_>>>().unwrap(), values);
        for end in [bytes.len() - 1, bytes.len() - 16, 3] {
            assert!(unpack(&bytes[..end]).collect::<io::Result<Vec<_>>>().is_err(), "{end}");
        }
        assert!(unpack(b"?").collect::<io::Result<Vec<_>>>().is_err());
    }
}
