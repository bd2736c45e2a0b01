//! One batch of rows with the columns that the plan reads and adds.

use super::job::Kind;
use crate::csv::TextColumn;
use mild_ledger::column::{BucketColumn, CountColumn, DateColumn, Mask};
use mild_ledger::{ClockTime, Date, DateTime, Decimal, Scale};
use std::borrow::Cow;

/// Columns of one length, in the order of the job's columns.
pub(super) struct Table<'b> {
    pub(super) rows: usize,
    pub(super) columns: Vec<Data<'b>>,
}

/// The values of one column.
pub(super) enum Data<'b> {
    Text(&'b TextColumn),
    Choice(TextColumn),
    Date { dates: DateColumn, unreadable: Vec<bool>, clock: Option<ClockColumn> },
    Amount { units: Vec<i128>, present: Mask, scale: Scale },
    Number(CountColumn),
    Band(BucketColumn),
}

/// The times of day beside a column of dates.
pub(super) struct ClockColumn {
    /// Microseconds of each date-time on the clock; what stands in an empty row has no meaning.
    pub(super) local: Vec<i64>,
    /// The same instants in UTC, where a zone told them.
    pub(super) utc: Option<Vec<i64>>,
}

impl Table<'_> {
    /// A date with its time of day; midnight where the column keeps none.
    pub(super) fn date_time(&self, column: usize, row: usize) -> Option<DateTime> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: None, .. } => {
                dates.get(row).map(|date| DateTime::new(date, ClockTime::MIDNIGHT))
            }
            Data::Date { dates, clock: Some(clock), .. } => {
                dates.get(row)?;
                DateTime::from_microseconds(clock.local[row]).ok()
            }
            _ => None,
        }
    }

    /// The instant of a date-time in UTC, where a zone told it.
    pub(super) fn instant(&self, column: usize, row: usize) -> Option<DateTime> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: Some(ClockColumn { utc: Some(utc), .. }), .. } => {
                dates.get(row)?;
                DateTime::from_microseconds(utc[row]).ok()
            }
            _ => None,
        }
    }

    /// A number exactly, with its decimals.
    pub(super) fn decimal(&self, column: usize, row: usize) -> Option<Decimal> {
        match self.columns.get(column)? {
            Data::Amount { units, present, scale } if present.is_present(row) => {
                Decimal::of_units(units[row], scale.decimals()).ok()
            }
            Data::Number(figures) => Decimal::of_units(figures.get(row)?.into(), 0).ok(),
            _ => None,
        }
    }

    /// The text of a cell, without spaces around it; empty for columns of other kinds.
    pub(super) fn text(&self, column: usize, row: usize) -> &str {
        match self.columns.get(column) {
            Some(Data::Text(texts)) => texts.get(row).trim(),
            Some(Data::Choice(texts)) => texts.get(row).trim(),
            _ => "",
        }
    }

    pub(super) fn date(&self, column: usize, row: usize) -> Option<Date> {
        match self.columns.get(column) {
            Some(Data::Date { dates, .. }) => dates.get(row),
            _ => None,
        }
    }

    /// The number that a cell compares and sorts by; `None` where it is empty, or a text.
    pub(super) fn number(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Date { dates, .. } => dates.get(row).map(|date| i128::from(date.day_number())),
            Data::Amount { units, present, .. } => present.is_present(row).then(|| units[row]),
            Data::Number(figures) => figures.get(row).map(i128::from),
            Data::Band(buckets) => buckets.get(row).map(|bucket| bucket as i128),
            Data::Text(_) | Data::Choice(_) => None,
        }
    }

    /// The number that a cell sorts by, and is told from others by as a key: a date-time by its instant, or by its clock.
    pub(super) fn order_number(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: Some(clock), .. } => {
                dates.get(row)?;
                Some(i128::from(clock.utc.as_ref().unwrap_or(&clock.local)[row]))
            }
            _ => self.number(column, row),
        }
    }

    pub(super) fn is_blank(&self, column: usize, row: usize) -> bool {
        match self.columns.get(column) {
            Some(Data::Text(_) | Data::Choice(_)) => self.text(column, row).is_empty(),
            _ => self.number(column, row).is_none(),
        }
    }

    /// A cell as it is shown to a person or copied into a text; empty where it is blank.
    pub(super) fn shown(&self, column: usize, row: usize, kind: &Kind) -> Cow<'_, str> {
        match (self.columns.get(column), kind) {
            (Some(Data::Text(texts)), _) => Cow::Borrowed(texts.get(row)),
            (Some(Data::Choice(texts)), _) => Cow::Borrowed(texts.get(row)),
            (Some(Data::Band(buckets)), Kind::Band { buckets: bands, .. }) => match buckets.get(row) {
                Some(bucket) => Cow::Owned(bands.label(bucket).to_owned()),
                None => Cow::Borrowed(NO_DATE),
            },
            (Some(Data::Date { clock: Some(_), .. }), _) => {
                self.date_time(column, row).map_or_else(Cow::default, |at| at.to_string().into())
            }
            (Some(Data::Date { dates, .. }), _) => {
                dates.get(row).map_or_else(Cow::default, |date| date.to_string().into())
            }
            (Some(Data::Amount { units, present, scale }), _) if present.is_present(row) => {
                scale.amount(units[row]).to_string().into()
            }
            (Some(Data::Number(figures)), _) => {
                figures.get(row).map_or_else(Cow::default, |figure| figure.to_string().into())
            }
            _ => Cow::default(),
        }
    }
}

/// The bucket of rows whose figure is empty because a date is missing.
pub(super) const NO_DATE: &str = "No date";
