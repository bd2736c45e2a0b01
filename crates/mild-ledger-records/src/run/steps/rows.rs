//! The rows of a batch while a column is worked out, with where to list those that have no result.

use crate::csv::{Batch, TextColumn};
use crate::run::cleaning::key_text;
use crate::run::exceptions::{Became, Exception, ExceptionSink, Reason};
use crate::run::job::{DateInput, Job};
use crate::run::table::{Data, Table};
use mild_ledger::column::{DateColumn, Dates, Mask};
use mild_ledger::{Date, DateTime, Error, Scale};

/// A batch's rows, and the column that is being worked out.
pub(super) struct Rows<'r, 't, 'e> {
    pub(super) job: &'r Job,
    pub(super) batch: &'r Batch,
    pub(super) table: &'r Table<'t>,
    pub(super) column: usize,
    pub(super) exceptions: &'e mut ExceptionSink,
}

impl<'t> Rows<'_, 't, '_> {
    pub(super) fn count(&self) -> usize {
        self.table.rows
    }

    pub(super) fn date(&self, input: DateInput, row: usize) -> Option<Date> {
        match input {
            DateInput::Every(date) => Some(date),
            DateInput::Column(column) => self.table.date(column, row),
        }
    }

    /// A date with its time, midnight where there is none, and the instant where a zone told it.
    pub(super) fn moment(&self, input: DateInput, row: usize) -> Option<(DateTime, Option<DateTime>)> {
        match input {
            DateInput::Every(date) => Some((DateTime::new(date, mild_ledger::ClockTime::MIDNIGHT), None)),
            DateInput::Column(column) => {
                Some((self.table.date_time(column, row)?, self.table.instant(column, row)))
            }
        }
    }

    /// Whether an input keeps times of day.
    pub(super) fn keeps_times(&self, input: DateInput) -> bool {
        match input {
            DateInput::Every(_) => false,
            DateInput::Column(column) => {
                matches!(self.table.columns.get(column), Some(Data::Date { clock: Some(_), .. }))
            }
        }
    }

    /// Whether a date stands there, or stood there and could not be read.
    pub(super) fn is_known(&self, input: DateInput, row: usize) -> bool {
        self.date(input, row).is_some() || self.is_unreadable(input, row)
    }

    pub(super) fn is_unreadable(&self, input: DateInput, row: usize) -> bool {
        match input {
            DateInput::Every(_) => false,
            DateInput::Column(column) => match self.table.columns.get(column) {
                Some(Data::Date { unreadable, .. }) => unreadable.get(row).copied().unwrap_or(false),
                _ => false,
            },
        }
    }

    /// An input as a column function takes it; `none` stands in for a column that holds no dates.
    pub(super) fn dates<'d>(&'d self, input: DateInput, none: &'d DateColumn) -> Dates<'d> {
        match input {
            DateInput::Every(date) => Dates::Every(date),
            DateInput::Column(column) => match self.table.columns.get(column) {
                Some(Data::Date { dates, .. }) => Dates::Column(dates),
                _ => Dates::Column(none),
            },
        }
    }

    /// The results of all rows, blank where the input is, listed and blank where there is none.
    pub(super) fn each<I, T>(
        &mut self,
        result: impl Fn(I) -> Result<T, Error>,
        input: impl Fn(&Self, usize) -> Option<I>,
    ) -> Vec<Option<T>> {
        (0..self.count())
            .map(|row| match result(input(self, row)?) {
                Ok(value) => Some(value),
                Err(error) => {
                    self.list(row, String::new(), &error);
                    None
                }
            })
            .collect()
    }

    /// Lists a row that has no result, with the reason.
    pub(super) fn list(&mut self, row: usize, text: String, error: &Error) {
        self.exceptions.add(Exception {
            row: self.batch.numbers[row],
            line: self.batch.lines[row],
            key: key_text(self.job, self.batch, row),
            column: self.job.name(self.column).to_owned(),
            text,
            reason: Reason::NoResult,
            detail: format!("{} (allowed: {})", error.what(), error.allowed()),
            became: Became::CellEmpty,
        });
    }

    /// Lists the rows that a column function left empty though a date stands there, with the reason that the call
    /// for one value gives.
    pub(super) fn list_misses(
        &mut self,
        of: usize,
        found: &DateColumn,
        why: impl Fn(Date) -> Result<Date, Error>,
    ) {
        for row in 0..self.count() {
            if let (Some(date), None) = (self.table.date(of, row), found.get(row))
                && let Err(error) = why(date)
            {
                self.list(row, date.to_string(), &error);
            }
        }
    }

    pub(super) fn dates_of(&self, days: impl IntoIterator<Item = Option<Date>>) -> Data<'t> {
        self.date_data(days.into_iter().collect())
    }

    pub(super) fn date_data(&self, dates: DateColumn) -> Data<'t> {
        Data::Date { dates, unreadable: vec![false; self.count()], clock: None }
    }
}

/// A column of texts; an empty one for a row without.
pub(super) fn texts<'b>(values: impl IntoIterator<Item = Option<String>>) -> Data<'b> {
    let mut texts = TextColumn::default();
    values.into_iter().for_each(|text| texts.push(text.as_deref().unwrap_or("")));
    Data::Choice(texts)
}

/// A column of numbers in units of their last decimal.
pub(super) fn numbers<'b>(decimals: u8, values: impl IntoIterator<Item = Option<i128>>) -> Data<'b> {
    let mut present = Mask::new();
    let mut units = Vec::new();
    for number in values {
        match number {
            Some(_) => present.push_present(),
            None => present.push_empty(),
        }
        units.push(number.unwrap_or(0));
    }
    match Scale::new(decimals) {
        Ok(scale) => Data::Amount { units, present, scale },
        Err(_) => Data::Choice(TextColumn::default()),
    }
}
