//! The rows of a batch while a column is worked out, with what is to be listed of those that have no result.

use super::binder::BoundCalendar;
use super::inputs::{AsOfDate, DateInput, NumberInput};
use crate::table::{
    Batch, Became, Data, Exception, ExceptionSubject, Gap, Layout, Reason, Table, date_array, date_slice,
};
use arrow_array::Date32Array;
use arrow_array::builder::{Int64Builder, StringBuilder};
use mild_ledger::column::{self, Column, Values};
use mild_ledger::{ClockTime, Date, DateTime, Error, ErrorKind, Fraction, Quotient, Rounding};

/// What all batches of a run have in common.
pub(crate) struct Setting {
    pub(crate) as_of: Option<AsOfDate>,
    pub(crate) layout: Layout,
    pub(crate) calendars: Vec<BoundCalendar>,
}

/// A batch's rows, and the column that is being worked out.
pub(crate) struct Rows<'r> {
    pub(crate) setting: &'r Setting,
    pub(crate) batch: &'r Batch,
    pub(crate) table: &'r Table,
    pub(crate) column: usize,
    /// What is to be listed of it.
    pub(crate) exceptions: Vec<Exception>,
    /// Why its cells are empty, where the column itself is the reason.
    pub(crate) gaps: Vec<Option<Gap>>,
}

/// What a column function is to take: a date for every row, or one for each.
pub(crate) enum Days {
    Every(Date),
    Each(Date32Array),
}

impl Days {
    /// # Errors
    /// None in practice: an array has a bit for each of its rows.
    pub(crate) fn values(&self) -> Result<Values<'_, Date>, Error> {
        Ok(match self {
            Self::Every(date) => Values::Every(*date),
            Self::Each(dates) => date_slice(dates)?.into(),
        })
    }
}

/// A date-time, and its instant in UTC where a zone told it.
pub(crate) type Moment = (DateTime, Option<DateTime>);

impl Rows<'_> {
    pub(crate) fn count(&self) -> usize {
        self.table.rows
    }

    pub(crate) fn date(&self, input: DateInput, row: usize) -> Option<Date> {
        match input {
            DateInput::Every(as_of) => Some(as_of.date),
            DateInput::Column(column) => self.table.date(column, row),
        }
    }

    /// A date with its time, and the instant where a zone told it.
    pub(crate) fn moment(&self, input: DateInput, row: usize) -> Option<Moment> {
        match input {
            DateInput::Every(AsOfDate { date, at }) => {
                Some((at.unwrap_or(DateTime::new(date, ClockTime::MIDNIGHT)), None))
            }
            DateInput::Column(column) => {
                Some((self.table.date_time(column, row)?, self.table.instant(column, row)))
            }
        }
    }

    /// Whether an input keeps times of day.
    pub(crate) fn keeps_times(&self, input: DateInput) -> bool {
        match input {
            DateInput::Every(as_of) => as_of.at.is_some(),
            DateInput::Column(column) => {
                matches!(self.table.columns.get(column), Some(Data::Moment { .. }))
            }
        }
    }

    /// Whether a date was there and could not be read.
    pub(crate) fn is_unreadable(&self, input: DateInput, row: usize) -> bool {
        input.column().is_some_and(|column| self.table.is_unreadable(column, row))
    }

    /// A number exactly, as its column worked it out.
    pub(crate) fn exact(&self, input: NumberInput, row: usize) -> Option<Quotient> {
        match input {
            NumberInput::Number(number) => Some(number.into()),
            NumberInput::Column(column) => self.table.exact(column, row),
        }
    }

    /// The days of an input, for a column function.
    pub(crate) fn days(&self, input: DateInput) -> Days {
        match input {
            DateInput::Every(as_of) => Days::Every(as_of.date),
            DateInput::Column(column) => Days::Each(match self.table.columns.get(column) {
                Some(Data::Date(dates)) => dates.clone(),
                _ => date_array((0..self.count()).map(|row| self.table.date(column, row)).collect()),
            }),
        }
    }

    /// The days of two inputs; where neither is a column, the first is one all the same, so that there are rows.
    pub(crate) fn pair_of_days(&self, start: DateInput, end: DateInput) -> (Days, Days) {
        let starts = match (self.days(start), end) {
            (Days::Every(start), DateInput::Every(_)) => {
                Days::Each(date_array(std::iter::repeat_n(Some(start), self.count()).collect()))
            }
            (starts, _) => starts,
        };
        (starts, self.days(end))
    }

    /// The results of all rows: empty where the input is, listed and empty where there is none.
    pub(crate) fn each<I, T>(
        &mut self,
        mut result: impl FnMut(I) -> Result<T, Error>,
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

    /// Exact numbers shown with a number of decimals; one that is too large for them is empty and listed.
    pub(crate) fn rounded(
        &mut self,
        exact: Column<Quotient>,
        (decimals, rounding): (u8, Rounding),
    ) -> Result<Data, Error> {
        let units = column::rounded(&exact, decimals, rounding)?;
        for (row, (exact, units)) in exact.iter().zip(units.iter()).enumerate() {
            if let (Some(exact), None) = (exact, units)
                && let Err(error) = exact.to_decimal(decimals, rounding)
            {
                self.list(row, String::new(), &error);
            }
        }
        // What is empty here is empty for the columns after it too.
        let exact = match units.iter().any(|units| units.is_none()) {
            true => exact
                .iter()
                .zip(units.iter())
                .map(|(exact, units)| exact.filter(|_| units.is_some()))
                .collect(),
            false => exact,
        };
        Ok(Data::rounded(units, decimals, exact))
    }

    /// Lists a row that has no result, with the reason.
    pub(crate) fn list(&mut self, row: usize, text: String, error: &Error) {
        self.gaps.resize(self.table.rows, None);
        self.gaps[row] = Some(match error.kind() {
            ErrorKind::NotBegun => Gap::NotBegun,
            ErrorKind::NotCovered => Gap::NotCovered,
            _ => Gap::NoResult,
        });
        self.exceptions.push(Exception {
            origin: self.batch.origins.of(row),
            key: self.setting.layout.key_text(self.batch, row).into_owned(),
            subject: ExceptionSubject::Column(self.column),
            text,
            reason: Reason::NoResult,
            detail: format!("{} (allowed: {})", error.what(), error.allowed()),
            expected: String::new(),
            became: Became::CellEmpty,
        });
    }

    /// Lists something of the cell of a row that stays as it is.
    pub(crate) fn list_kept(&mut self, row: usize, reason: Reason, detail: String) {
        self.exceptions.push(Exception {
            origin: self.batch.origins.of(row),
            key: self.setting.layout.key_text(self.batch, row).into_owned(),
            subject: ExceptionSubject::Column(self.column),
            text: String::new(),
            reason,
            detail,
            expected: String::new(),
            became: Became::Kept,
        });
    }

    /// Lists the rows that a column function left empty though a date is there, with the reason that the call
    /// for one value gives.
    pub(crate) fn list_misses(
        &mut self,
        of: DateInput,
        found: &Column<Date>,
        why: impl Fn(Date) -> Result<Date, Error>,
    ) {
        for row in 0..self.count() {
            if let (Some(date), None) = (self.date(of, row), found.get(row))
                && let Err(error) = why(date)
            {
                self.list(row, date.to_string(), &error);
            }
        }
    }
}

/// Texts of our own making, in the order of their letters.
pub(crate) fn texts(values: impl IntoIterator<Item = Option<String>>) -> Data {
    ordered_texts(values.into_iter().map(|text| text.map(|text| (text, None))))
}

/// Texts of our own making, each with the number that it is ordered by, if it has one.
pub(crate) fn ordered_texts(values: impl IntoIterator<Item = Option<(String, Option<i64>)>>) -> Data {
    let (mut texts, mut order) = (StringBuilder::new(), Int64Builder::new());
    for value in values {
        texts.append_value(value.as_ref().map_or("", |(text, _)| text));
        order.append_option(value.and_then(|(_, order)| order));
    }
    Data::Made { texts: texts.finish(), order: order.finish() }
}

/// Whole numbers, which are far smaller than any that there is no room for.
pub(crate) fn whole_numbers(values: impl IntoIterator<Item = Option<i128>>) -> Data {
    Data::counts(values.into_iter().map(|value| i64::try_from(value?).ok()))
}

/// Exact fractions shown with a number of decimals, which they are small enough for.
pub(crate) fn rounded_fractions(
    fractions: impl IntoIterator<Item = Option<Fraction>>,
    (decimals, rounding): (u8, Rounding),
) -> Result<Data, Error> {
    let exact: Column<Quotient> =
        fractions.into_iter().map(|fraction| fraction.map(Quotient::from)).collect();
    let units = column::rounded(&exact, decimals, rounding)?;
    Ok(Data::rounded(units, decimals, exact))
}
