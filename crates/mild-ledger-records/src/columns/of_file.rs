//! What the columns of a file hold, as the plan or the format itself says.

use super::binder::Binder;
use crate::source::ColumnType;
use crate::table::{Column, DateKind, Kind, Missing, TimeKept, WrittenNumbers};
use crate::written::WrittenColumns;
use mild_ledger::{DatePattern, HoursOf, Scale, WrittenDates};

impl Binder<'_> {
    /// Says of the columns of the file what the plan says of them, and of those that it does not name what the format says; how their
    /// numbers are written.
    pub(crate) fn bind_file(
        &mut self,
        said: &WrittenColumns,
        types: &[ColumnType],
    ) -> Vec<Option<WrittenNumbers>> {
        let written = bind_written(self, said);
        bind_typed_dates(self, types);
        bind_typed_numbers(self, types);
        bind_currencies(self, said);
        written
    }
}

/// Says of the columns of the file what the plan says of them; how their numbers are written.
fn bind_written(binder: &mut Binder<'_>, said: &WrittenColumns) -> Vec<Option<WrittenNumbers>> {
    let mut written = vec![None; binder.columns_of_file];
    for date in &said.dates {
        if let Some(column) = binder.find(&date.column) {
            let hours = if date.zone.is_some() { HoursOf::Instants } else { HoursOf::Clock };
            let source = DateKind::Read {
                written: date.written.clone(),
                missing: date.missing,
                time: date.time,
                zone: date.zone.clone(),
            };
            let time = (date.time == TimeKept::Kept).then_some(hours);
            binder.columns[column].kind = Kind::Date { source, time };
        }
    }
    for amount in &said.amounts {
        if let Some(column) = binder.find(&amount.column) {
            if matches!(binder.kind(column), Kind::Date { .. }) {
                let span = amount.column.span.clone();
                binder.mistakes.tell(span, "this column is read as dates already", "another column");
            }
            binder.columns[column].kind = Kind::Amount { scale: amount.written.scale };
            if let Some(place) = written.get_mut(column) {
                *place = Some(amount.written.clone());
            }
        }
    }
    for number in &said.numbers {
        if let Some(column) = binder.find(&number.column) {
            if !matches!(binder.kind(column), Kind::Text) {
                let what = format!("this column is read as {} already", binder.kind(column).word());
                binder.mistakes.tell(number.column.span.clone(), what, "another column");
            }
            let decimals = number.written.scale.decimals();
            binder.columns[column].kind = Kind::Number { decimals, figure: None };
            if let Some(place) = written.get_mut(column) {
                *place = Some(number.written.clone());
            }
        }
    }
    written
}

/// The columns of texts that name currencies, once it is known what every column holds.
fn bind_currencies(binder: &mut Binder<'_>, said: &WrittenColumns) {
    for amount in &said.amounts {
        let Some(name) = &amount.currency else { continue };
        let Some(currency) = binder.find(name) else { continue };
        if !matches!(binder.kind(currency), Kind::Text) {
            let what = format!("\"{}\" holds {}", name.value.escape_debug(), binder.kind(currency).word());
            binder.mistakes.tell(name.span.clone(), what, "a column of texts, such as EUR and USD");
            continue;
        }
        // A column of amounts that is not there was told of before.
        let known = |column: &Column| column.name == amount.column.value.trim();
        if let Some(column) = binder.columns.iter_mut().find(|column| known(column)) {
            column.currency = Some(currency);
        }
    }
}

/// A column whose values the format itself typed as numbers is one where the plan uses it so.
fn bind_typed_numbers(binder: &mut Binder<'_>, types: &[ColumnType]) {
    for (column, holds) in binder.columns.iter_mut().zip(types) {
        if let (ColumnType::Numbers(digits), Kind::Text) = (holds, &column.kind) {
            column.typed = digits.filter(|digits| Scale::new(digits.decimals).is_ok());
        }
    }
    binder.take_as_known();
}

/// A column whose values the format itself typed as dates holds dates, though the plan says nothing of it.
fn bind_typed_dates(binder: &mut Binder<'_>, types: &[ColumnType]) {
    for (nth, holds) in types.iter().enumerate() {
        let (time, kept) = match holds {
            ColumnType::Dates => (TimeKept::Dropped, None),
            ColumnType::DateTimes => (TimeKept::Kept, Some(HoursOf::Clock)),
            ColumnType::Nothing | ColumnType::Text | ColumnType::Numbers(_) => continue,
        };
        if let Some(column) = binder.columns.get_mut(nth).filter(|column| matches!(column.kind, Kind::Text)) {
            let written = WrittenDates::by(DatePattern::iso());
            let source = DateKind::Read { written, missing: Missing::LeavesCellEmpty, time, zone: None };
            column.kind = Kind::Date { source, time: kept };
        }
    }
}
