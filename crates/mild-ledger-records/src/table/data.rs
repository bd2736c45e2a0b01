//! One batch of rows with the columns that the plan reads and adds.

use super::columns::{Data, value_of};
use super::dictionary::LabelCount;
use super::gap::Gap;
use super::kind::BandKind;
use arrow_array::Array;
use mild_ledger::column::Cell;
use mild_ledger::{ClockTime, Date, DateTime, Decimal, Parts, Quotient};
use std::borrow::Cow;

/// Columns of one length, in the order of the job's columns.
pub(crate) struct Table {
    pub(crate) rows: usize,
    pub(crate) columns: Vec<Data>,
    /// For each column why its empty cells are empty; nothing for a column that distinguishes blanks from nothing else.
    pub(crate) gaps: Vec<Vec<Option<Gap>>>,
}

/// An amount that takes the place of another one, or nothing that does.
pub(crate) struct ReplacedAmount {
    pub(crate) column: usize,
    pub(crate) row: usize,
    pub(crate) units: Option<i128>,
}

/// A text without spaces around it, which most texts have none of.
pub(super) fn trimmed(text: &str) -> &str {
    match text.as_bytes() {
        [only] | [only, .., b'!'..=b'~'] if only.is_ascii_graphic() => text,
        _ => text.trim(),
    }
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
            Self::NotMatched => "Not matched",
            Self::SeveralMatches => "Several matches",
        }
    }
}

impl Table {
    /// Why a cell is empty; `None` for one that is not.
    pub(crate) fn gap(&self, column: usize, row: usize) -> Option<Gap> {
        let known = self.gaps.get(column).and_then(|gaps| gaps.get(row)).copied().flatten();
        known.or_else(|| self.is_empty(column, row).then_some(Gap::Blank))
    }

    /// Whether nothing is in a cell, be it that nothing ever did or that it could not be read.
    pub(crate) fn is_empty(&self, column: usize, row: usize) -> bool {
        let is_there = |array: &dyn Array| row < array.len() && array.is_valid(row);
        match self.columns.get(column) {
            Some(Data::Text(_) | Data::Choice(_) | Data::Made { .. }) => self.text(column, row).is_empty(),
            Some(Data::Date(dates)) => !is_there(dates),
            Some(Data::Moment { local, .. }) => !is_there(local),
            Some(Data::Count(counts)) => !is_there(counts),
            Some(Data::Number(numbers)) => !is_there(&numbers.values),
            Some(Data::Parts(parts)) => !is_there(parts),
            Some(Data::Band(bands)) => bands.bucket(row).is_none(),
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
            Data::Date(_) => self.date(column, row).map(|date| DateTime::new(date, ClockTime::MIDNIGHT)),
            Data::Moment { local, .. } => DateTime::of_stored(value_of(local, row)?),
            _ => None,
        }
    }

    /// The instant of a date-time in UTC, where a zone told it.
    pub(crate) fn instant(&self, column: usize, row: usize) -> Option<DateTime> {
        match self.columns.get(column)? {
            Data::Moment { utc: Some(utc), .. } => DateTime::of_stored(value_of(utc, row)?),
            _ => None,
        }
    }

    /// A number as it is shown.
    pub(crate) fn decimal(&self, column: usize, row: usize) -> Option<Decimal> {
        match self.columns.get(column)? {
            Data::Number(numbers) => {
                let decimals = u8::try_from(numbers.values.scale()).ok()?;
                Decimal::of_units(value_of(&numbers.values, row)?, decimals).ok()
            }
            Data::Count(counts) => Some(Decimal::from(value_of(counts, row)?)),
            _ => None,
        }
    }

    /// A number exactly, before any rounding.
    pub(crate) fn exact(&self, column: usize, row: usize) -> Option<Quotient> {
        match self.columns.get(column)? {
            Data::Number(numbers) if numbers.exact.is_some() => numbers.exact.as_ref()?.get(row),
            _ => self.decimal(column, row).map(Quotient::from),
        }
    }

    /// The text of a cell, without spaces around it; empty for columns of other kinds.
    pub(crate) fn text(&self, column: usize, row: usize) -> &str {
        match self.columns.get(column) {
            Some(Data::Text(texts) | Data::Made { texts, .. }) if row < texts.len() => {
                trimmed(texts.value(row))
            }
            Some(Data::Choice(texts)) => trimmed(texts.text(row)),
            _ => "",
        }
    }

    /// The day of a date or a date-time.
    pub(crate) fn date(&self, column: usize, row: usize) -> Option<Date> {
        match self.columns.get(column)? {
            Data::Date(dates) => Date::of_stored(value_of(dates, row)?),
            Data::Moment { .. } => self.date_time(column, row).map(DateTime::date),
            _ => None,
        }
    }

    /// The units of an amount, or a whole number.
    pub(crate) fn units(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Number(numbers) => value_of(&numbers.values, row),
            Data::Count(counts) => value_of(counts, row).map(i128::from),
            _ => None,
        }
    }

    /// Years, months and days.
    pub(crate) fn parts(&self, column: usize, row: usize) -> Option<Parts> {
        match self.columns.get(column)? {
            Data::Parts(parts) => {
                value_of(parts, row).map(|parts| Parts::of_months(parts.months, parts.days))
            }
            _ => None,
        }
    }

    /// The number that a cell sorts by; a date-time by its instant, or by its clock, parts by their length, labels by
    /// their period. `None` where it is empty, or a text.
    pub(crate) fn order_number(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            Data::Moment { local, utc } => value_of(utc.as_ref().unwrap_or(local), row).map(i128::from),
            Data::Date(dates) => value_of(dates, row).map(i128::from),
            // By months and then days; a month has fewer than a hundred days.
            Data::Parts(parts) => {
                value_of(parts, row).map(|parts| i128::from(parts.months) * 100 + i128::from(parts.days))
            }
            Data::Band(bands) => bands.bucket(row).map(i128::from),
            Data::Made { order, .. } => value_of(order, row).map(i128::from),
            Data::Count(_) | Data::Number(_) => self.units(column, row),
            Data::Text(_) | Data::Choice(_) => None,
        }
    }

    /// Takes the [`order_number`](Self::order_number) of each of these rows.
    pub(crate) fn each_order_number(
        &self,
        column: usize,
        rows: &[usize],
        mut take: impl FnMut(usize, Option<i128>),
    ) {
        // What the column holds is looked at once and not for every row.
        match self.columns.get(column) {
            Some(Data::Date(dates)) => {
                rows.iter().for_each(|row| take(*row, value_of(dates, *row).map(i128::from)));
            }
            Some(Data::Count(counts)) => {
                rows.iter().for_each(|row| take(*row, value_of(counts, *row).map(i128::from)));
            }
            Some(Data::Number(numbers)) => {
                rows.iter().for_each(|row| take(*row, value_of(&numbers.values, *row)));
            }
            _ => rows.iter().for_each(|row| take(*row, self.order_number(column, *row))),
        }
    }

    /// The labels of a column that has few, with how many of these rows have each; `None` for one of other values.
    pub(crate) fn label_counts(&self, column: usize, rows: &[usize]) -> Option<Vec<LabelCount<'_>>> {
        match self.columns.get(column)? {
            Data::Band(bands) => Some(bands.counts(rows)),
            Data::Choice(texts) => Some(texts.counts(rows, |_, label| trimmed(label).is_empty())),
            _ => None,
        }
    }

    /// Puts amounts in place of others.
    pub(crate) fn replace_units(&mut self, replaced: &[ReplacedAmount]) {
        let mut columns: Vec<usize> = replaced.iter().map(|amount| amount.column).collect();
        columns.sort_unstable();
        columns.dedup();
        for column in columns {
            let Some(Data::Number(numbers)) = self.columns.get_mut(column) else { continue };
            let mut units: Vec<Option<i128>> = numbers.values.iter().collect();
            for amount in replaced.iter().filter(|amount| amount.column == column) {
                if let Some(place) = units.get_mut(amount.row) {
                    *place = amount.units;
                }
            }
            let decimals = u8::try_from(numbers.values.scale()).unwrap_or_default();
            self.columns[column] = Data::numbers(units, decimals);
        }
    }

    /// Whether a figure is below zero, zero or above.
    pub(crate) fn sign(&self, column: usize, row: usize) -> Option<i128> {
        match self.columns.get(column)? {
            // The exact value decides: 0.00 as shown need not be zero.
            Data::Number(numbers) if numbers.exact.is_some() => {
                self.exact(column, row).map(|number| number.numerator().signum())
            }
            _ => self.order_number(column, row).map(i128::signum),
        }
    }

    /// A cell as it is shown to a person or copied into a text; empty where it is blank.
    pub(crate) fn shown(&self, column: usize, row: usize) -> Cow<'_, str> {
        fn written(value: Option<impl ToString>) -> Cow<'static, str> {
            value.map_or_else(Cow::default, |value| value.to_string().into())
        }
        match self.columns.get(column) {
            Some(Data::Text(texts) | Data::Made { texts, .. }) if row < texts.len() => {
                Cow::Borrowed(texts.value(row))
            }
            Some(Data::Choice(texts)) => Cow::Borrowed(texts.text(row)),
            Some(Data::Band(bands)) => Cow::Borrowed(bands.label(row)),
            Some(Data::Moment { .. }) => written(self.date_time(column, row)),
            Some(Data::Date(_)) => written(self.date(column, row)),
            Some(Data::Number(_) | Data::Count(_)) => written(self.decimal(column, row)),
            Some(Data::Parts(_)) => written(self.parts(column, row)),
            _ => Cow::default(),
        }
    }
}
