//! The rows of a batch while a column is worked out, with what is to be listed of those that have no result.

use super::binder::BoundCalendar;
use super::inputs::{AsOfDate, DateInput, NumberInput};
use crate::table::{
    Batch, Became, Data, Exception, ExceptionSubject, Gap, Layout, NumberColumn, Reason, Table, TextColumn,
};
use mild_ledger::column::{Column, Values};
use mild_ledger::{ClockTime, Date, DateTime, Error, ErrorKind, Fraction, Quotient, Rounding};

/// What all batches of a run have in common.
pub(crate) struct Setting {
    pub(crate) as_of: Option<AsOfDate>,
    pub(crate) layout: Layout,
    pub(crate) calendars: Vec<BoundCalendar>,
}

/// A batch's rows, and the column that is being worked out.
pub(crate) struct Rows<'r, 't> {
    pub(crate) setting: &'r Setting,
    pub(crate) batch: &'r Batch,
    pub(crate) table: &'r Table<'t>,
    pub(crate) column: usize,
    /// What is to be listed of it.
    pub(crate) exceptions: Vec<Exception>,
    /// Why its cells are empty, where the column itself is the reason.
    pub(crate) gaps: Vec<Option<Gap>>,
}

/// A date-time, and its instant in UTC where a zone told it.
pub(crate) type Moment = (DateTime, Option<DateTime>);

impl<'r, 't> Rows<'r, 't> {
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
                matches!(self.table.columns.get(column), Some(Data::Date { clock: Some(_), .. }))
            }
        }
    }

    /// Whether a date stood there and could not be read.
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

    /// Two inputs as a column function takes them. The room holds what stands in for a column: one that holds no dates,
    /// and the rows where neither input is a column.
    pub(crate) fn date_pair<'d>(
        &'d self,
        start: DateInput,
        end: DateInput,
        room: &'d mut Column<Date>,
    ) -> (Values<'d, Date>, Values<'d, Date>) {
        let stand_in = match (start, end) {
            (DateInput::Every(start), DateInput::Every(_)) => Some(start.date),
            _ => None,
        };
        *room = (0..self.count()).map(|_| stand_in).collect();
        let room = &*room;
        let values = |input: DateInput| match input {
            DateInput::Every(as_of) => Values::Every(as_of.date),
            DateInput::Column(column) => match self.table.columns.get(column) {
                Some(Data::Date { dates, .. }) => dates.into(),
                _ => room.into(),
            },
        };
        (if stand_in.is_some() { room.into() } else { values(start) }, values(end))
    }

    /// The results of all rows: empty where the input is, listed and empty where there is none.
    pub(crate) fn each<I, T>(
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
    pub(crate) fn list(&mut self, row: usize, text: String, error: &Error) {
        self.gaps.resize(self.table.rows, None);
        self.gaps[row] = Some(match error.kind() {
            ErrorKind::NotBegun => Gap::NotBegun,
            ErrorKind::NotCovered => Gap::NotCovered,
            _ => Gap::NoResult,
        });
        self.exceptions.push(Exception {
            row: self.batch.numbers[row],
            line: self.batch.lines[row],
            key: self.setting.layout.key_text(self.batch, row),
            subject: ExceptionSubject::Column(self.column),
            text,
            reason: Reason::NoResult,
            detail: format!("{} (allowed: {})", error.what(), error.allowed()),
            became: Became::CellEmpty,
        });
    }

    /// Lists the rows that a column function left empty though a date stands there, with the reason that the call
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

/// Dates without times.
pub(crate) fn dates<'t>(dates: impl IntoIterator<Item = Option<Date>>) -> Data<'t> {
    Data::Date { dates: dates.into_iter().collect(), clock: None }
}

/// Counts; one too large for the column is empty.
pub(crate) fn counts<'t>(figures: impl IntoIterator<Item = Option<i64>>) -> Data<'t> {
    let figures = figures.into_iter().map(|figure| figure.and_then(|figure| i32::try_from(figure).ok()));
    Data::Whole(figures.collect())
}

/// Texts of our own making, in the order of their letters.
pub(crate) fn texts<'t>(values: impl IntoIterator<Item = Option<String>>) -> Data<'t> {
    let mut texts = TextColumn::default();
    values.into_iter().for_each(|text| texts.push(text.as_deref().unwrap_or("")));
    let order = vec![None; texts.len()];
    Data::Made { texts, order }
}

/// Texts of our own making, each with the number that it is ordered by.
pub(crate) fn ordered_texts<'t>(values: impl IntoIterator<Item = Option<(String, i64)>>) -> Data<'t> {
    let (mut texts, mut order) = (TextColumn::default(), Vec::new());
    for value in values {
        texts.push(value.as_ref().map_or("", |(text, _)| text));
        order.push(value.map(|(_, order)| order));
    }
    Data::Made { texts, order }
}

/// Whole numbers.
pub(crate) fn whole_numbers<'t>(values: impl IntoIterator<Item = Option<i128>>) -> Data<'t> {
    Data::Number(NumberColumn { units: values.into_iter().collect(), decimals: 0, exact: None })
}

/// Exact numbers shown with so many decimals; one that has no such decimals is an error.
pub(crate) fn rounded<'t>(
    exact: Vec<Option<Quotient>>,
    (decimals, rounding): (u8, Rounding),
) -> Result<Data<'t>, Error> {
    let units = exact
        .iter()
        .map(|number| number.map(|number| number.to_decimal(decimals, rounding)).transpose())
        .map(|number| number.map(|number| number.map(|number| number.units())))
        .collect::<Result<_, _>>()?;
    Ok(Data::Number(NumberColumn { units, decimals, exact: Some(exact) }))
}

/// Exact fractions shown with so many decimals.
pub(crate) fn rounded_fractions<'t>(
    fractions: impl IntoIterator<Item = Option<Fraction>>,
    how: (u8, Rounding),
) -> Result<Data<'t>, Error> {
    rounded(fractions.into_iter().map(|fraction| fraction.map(Quotient::from)).collect(), how)
}
