//! One batch of rows with the columns that the plan reads and adds.

use super::kind::{BandKind, Kind};
use super::texts::TextColumn;
use mild_ledger::column::Column;
use mild_ledger::{ClockTime, Date, DateTime, Decimal, Parts, Quotient};
use std::borrow::Cow;

/// Columns of one length, in the order of the job's columns.
pub(crate) struct Table<'b> {
    pub(crate) rows: usize,
    pub(crate) columns: Vec<Data<'b>>,
    /// For each column why its empty cells are empty; nothing for a column that tells blanks apart from nothing else.
    pub(crate) gaps: Vec<Vec<Option<Gap>>>,
}

/// The values of one column.
pub(crate) enum Data<'b> {
    /// Cells of the records.
    Text(&'b TextColumn),
    /// Texts from the plan or copied from the records.
    Chosen(TextColumn),
    /// Texts of our own making, such as labels, each with the number that it is ordered by.
    Made {
        texts: TextColumn,
        order: Vec<Option<i64>>,
    },
    Date {
        dates: Column<Date>,
        clock: Option<ClockColumn>,
    },
    Whole(Column<i32>),
    Number(NumberColumn),
    Parts(Vec<Option<Parts>>),
    Band(Column<u16>),
}

/// Numbers with a fixed count of decimals, and what they were before they were rounded.
#[derive(Default)]
pub(crate) struct NumberColumn {
    pub(crate) units: Vec<Option<i128>>,
    pub(crate) decimals: u8,
    /// The exact values, where they are others than those that are shown.
    pub(crate) exact: Option<Vec<Option<Quotient>>>,
}

/// Why a cell is empty.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Gap {
    Blank,
    /// A text stood there, or in a cell that it is worked out from, and could not be read.
    Unreadable,
    NotBegun,
    NotBorn,
    NotCovered,
    NoResult,
}

/// The times of day beside a column of dates.
pub(crate) struct ClockColumn {
    /// Microseconds of each date-time on the clock; what stands in an empty row has no meaning.
    pub(crate) local: Vec<i64>,
    /// The same instants in UTC, where a zone told them.
    pub(crate) utc: Option<Vec<i64>>,
}

impl Gap {
    /// The bucket of a row without a figure.
    pub(crate) fn bucket(self, band: &BandKind) -> &'static str {
        match self {
            Self::Blank if band.is_of_dates => "No date",
            Self::Blank => "Blank",
            Self::Unreadable => "Unreadable",
            Self::NotBegun => "Not begun",
            Self::NotBorn => "Not born",
            Self::NotCovered => "Not covered",
            Self::NoResult => "No result",
        }
    }
}

impl Table<'_> {
    /// Why a cell is empty; `None` for one that is not.
    pub(crate) fn gap(&self, column: usize, row: usize) -> Option<Gap> {
        let known = self.gaps.get(column).and_then(|gaps| gaps.get(row)).copied().flatten();
        known.or_else(|| self.is_empty(column, row).then_some(Gap::Blank))
    }

    /// Whether nothing stands in a cell, be it that nothing ever did or that it could not be read.
    pub(crate) fn is_empty(&self, column: usize, row: usize) -> bool {
        match self.columns.get(column) {
            Some(Data::Text(_) | Data::Chosen(_) | Data::Made { .. }) => self.text(column, row).is_empty(),
            Some(Data::Date { dates, .. }) => dates.get(row).is_none(),
            Some(Data::Whole(figures)) => figures.get(row).is_none(),
            Some(Data::Number(numbers)) => numbers.units.get(row).copied().flatten().is_none(),
            Some(Data::Parts(parts)) => parts.get(row).copied().flatten().is_none(),
            Some(Data::Band(buckets)) => buckets.get(row).is_none(),
            None => true,
        }
    }

    /// Whether a cell is blank: what could not be read is not.
    pub(crate) fn is_blank(&self, column: usize, row: usize) -> bool {
        self.is_empty(column, row) && !self.is_unreadable(column, row)
    }

    pub(crate) fn is_unreadable(&self, column: usize, row: usize) -> bool {
        self.gap(column, row) == Some(Gap::Unreadable)
    }

    /// A date with its time of day; midnight where the column keeps none.
    pub(crate) fn date_time(&self, column: usize, row: usize) -> Option<DateTime> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: None } => {
                dates.get(row).map(|date| DateTime::new(date, ClockTime::MIDNIGHT))
            }
            Data::Date { dates, clock: Some(clock) } => {
                dates.get(row)?;
                DateTime::from_microseconds(*clock.local.get(row)?).ok()
            }
            _ => None,
        }
    }

    /// The instant of a date-time in UTC, where a zone told it.
    pub(crate) fn instant(&self, column: usize, row: usize) -> Option<DateTime> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: Some(ClockColumn { utc: Some(utc), .. }) } => {
                dates.get(row)?;
                DateTime::from_microseconds(*utc.get(row)?).ok()
            }
            _ => None,
        }
    }

    /// A number as it is shown.
    pub(crate) fn decimal(&self, column: usize, row: usize) -> Option<Decimal> {
        match self.columns.get(column)? {
            Data::Number(numbers) => Decimal::of_units((*numbers.units.get(row)?)?, numbers.decimals).ok(),
            Data::Whole(figures) => Some(Decimal::from(figures.get(row)?)),
            _ => None,
        }
    }

    /// A number exactly, before any rounding.
    pub(crate) fn exact(&self, column: usize, row: usize) -> Option<Quotient> {
        match self.columns.get(column)? {
            Data::Number(NumberColumn { exact: Some(exact), .. }) => *exact.get(row)?,
            _ => self.decimal(column, row).map(Quotient::from),
        }
    }

    /// The text of a cell, without spaces around it; empty for columns of other kinds.
    pub(crate) fn text(&self, column: usize, row: usize) -> &str {
        match self.columns.get(column) {
            Some(Data::Text(texts)) => texts.get(row).trim(),
            Some(Data::Chosen(texts) | Data::Made { texts, .. }) => texts.get(row).trim(),
            _ => "",
        }
    }

    pub(crate) fn date(&self, column: usize, row: usize) -> Option<Date> {
        match self.columns.get(column) {
            Some(Data::Date { dates, .. }) => dates.get(row),
            _ => None,
        }
    }

    /// The units of an amount, or a whole number.
    pub(crate) fn units(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Number(numbers) => *numbers.units.get(row)?,
            Data::Whole(figures) => figures.get(row).map(i128::from),
            _ => None,
        }
    }

    /// The number that a cell sorts by; a date-time by its instant, or by its clock, parts by their length, labels by
    /// their period. `None` where it is empty, or a text.
    pub(crate) fn order_number(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Date { dates, clock: Some(clock) } => {
                dates.get(row)?;
                Some(i128::from(*clock.utc.as_ref().unwrap_or(&clock.local).get(row)?))
            }
            Data::Date { dates, clock: None } => dates.get(row).map(|date| i128::from(date.day_number())),
            Data::Parts(parts) => (*parts.get(row)?).map(length_of),
            Data::Band(buckets) => buckets.get(row).map(|bucket| bucket.into()),
            Data::Made { order, .. } => (*order.get(row)?).map(i128::from),
            Data::Whole(_) | Data::Number(_) => self.units(column, row),
            Data::Text(_) | Data::Chosen(_) => None,
        }
    }

    /// Whether a figure is below zero, zero or above.
    pub(crate) fn sign(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            // The exact value tells: what is shown as 0.00 need not be nothing.
            Data::Number(_) => self.exact(column, row).map(|number| number.numerator().signum()),
            _ => self.order_number(column, row).map(i128::signum),
        }
    }

    /// A cell as it is shown to a person or copied into a text; empty where it is blank.
    pub(crate) fn shown(&self, column: usize, row: usize, kind: &Kind) -> Cow<'_, str> {
        match (self.columns.get(column), kind) {
            (Some(Data::Text(texts)), _) => Cow::Borrowed(texts.get(row)),
            (Some(Data::Chosen(texts) | Data::Made { texts, .. }), _) => Cow::Borrowed(texts.get(row)),
            (Some(Data::Band(buckets)), Kind::Band(band)) => match buckets.get(row) {
                Some(bucket) => Cow::Owned(band.buckets.label(bucket.into()).unwrap_or_default().to_owned()),
                None => Cow::Borrowed(self.gap(column, row).unwrap_or(Gap::Blank).bucket(band)),
            },
            (Some(Data::Date { clock: Some(_), .. }), _) => {
                self.date_time(column, row).map_or_else(Cow::default, |at| at.to_string().into())
            }
            (Some(Data::Date { dates, .. }), _) => {
                dates.get(row).map_or_else(Cow::default, |date| date.to_string().into())
            }
            (Some(Data::Number(_) | Data::Whole(_)), _) => {
                self.decimal(column, row).map_or_else(Cow::default, |number| number.to_string().into())
            }
            (Some(Data::Parts(parts)), _) => {
                parts.get(row).copied().flatten().map_or_else(Cow::default, |parts| parts.to_string().into())
            }
            _ => Cow::default(),
        }
    }
}

/// Parts as one number that orders them by months and then days; a month has fewer than a hundred days.
fn length_of(parts: Parts) -> i128 {
    (i128::from(parts.years()) * 12 + i128::from(parts.months())) * 100 + i128::from(parts.days())
}
