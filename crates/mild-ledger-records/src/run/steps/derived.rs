//! Columns worked out row by row with the calls for one value: measures, weekday moves, periods, ages, stays.

use crate::csv::{Batch, TextColumn};
use crate::plan::{MeasuredEnds, Measuring, PeriodGives};
use crate::run::cleaning::key_text;
use crate::run::exceptions::{Became, Exception, ExceptionSink, Reason};
use crate::run::job::{DateInput, Job, Stay, Step};
use crate::run::table::{Data, Table};
use mild_ledger::column::{CountColumn, DateColumn, Mask};
use mild_ledger::{
    Anniversaries, CountRule, Date, Error, Interval, Measure, MonthEnd, Period, PeriodRule, Scale, Shift,
    Tenure, WeekdayMove,
};

/// The column of a step; a row whose inputs are blank is empty, one that has no result is listed with its reason.
pub(super) fn column<'b>(
    step: &Step,
    job: &Job,
    batch: &Batch,
    table: &Table<'_>,
    column: usize,
    exceptions: &mut ExceptionSink,
) -> Data<'b> {
    let mut rows = Rows { job, batch, table, column, exceptions };
    match step {
        Step::Move { from, shift, weekday } => {
            let from = DateInput::Column(*from);
            rows.dates(|date| moved(date, *shift, *weekday), |rows, row| rows.date(from, row))
        }
        Step::Measured { start, end, stay, measuring } => rows.measured(*start, *end, *stay, measuring),
        Step::Period { of, rule, away, gives } => rows.period(DateInput::Column(*of), *rule, *away, gives),
        Step::Age { of, on, leap_day } => rows.ages(DateInput::Column(*of), *on, *leap_day),
        Step::FirstOf(columns) => {
            // A date that could not be read is not blank, so nothing is taken in its place.
            let known = |row| columns.iter().find(|column| rows.is_known(DateInput::Column(**column), row));
            let first = |row| known(row).and_then(|column| table.date(*column, row));
            Data::Date { dates: (0..table.rows).map(first).collect(), unreadable: vec![false; table.rows] }
        }
        Step::Between { .. } | Step::Bucket { .. } | Step::Choice { .. } => {
            Data::Choice(TextColumn::default())
        }
    }
}

fn moved(date: Date, shift: Option<Shift>, weekday: Option<WeekdayMove>) -> Result<Date, Error> {
    let date = shift.map_or(Ok(date), |shift| shift.apply(date))?;
    weekday.map_or(Ok(date), |weekday| weekday.apply(date))
}

/// The rows of a batch, with where to list those that have no result.
struct Rows<'r, 't, 'e> {
    job: &'r Job,
    batch: &'r Batch,
    table: &'r Table<'t>,
    column: usize,
    exceptions: &'e mut ExceptionSink,
}

impl Rows<'_, '_, '_> {
    fn date(&self, input: DateInput, row: usize) -> Option<Date> {
        match input {
            DateInput::Every(date) => Some(date),
            DateInput::Column(column) => self.table.date(column, row),
        }
    }

    /// Whether a date stands there, or stood there and could not be read.
    fn is_known(&self, input: DateInput, row: usize) -> bool {
        self.date(input, row).is_some() || self.is_unreadable(input, row)
    }

    fn is_unreadable(&self, input: DateInput, row: usize) -> bool {
        match input {
            DateInput::Every(_) => false,
            DateInput::Column(column) => match self.table.columns.get(column) {
                Some(Data::Date { unreadable, .. }) => unreadable.get(row).copied().unwrap_or(false),
                _ => false,
            },
        }
    }

    /// The results of all rows, blank where the input is, listed and blank where there is none.
    fn each<I, T>(
        &mut self,
        result: impl Fn(I) -> Result<T, Error>,
        input: impl Fn(&Self, usize) -> Option<I>,
    ) -> Vec<Option<T>> {
        (0..self.table.rows)
            .map(|row| match result(input(self, row)?) {
                Ok(value) => Some(value),
                Err(error) => {
                    self.list(row, &error);
                    None
                }
            })
            .collect()
    }

    fn list(&mut self, row: usize, error: &Error) {
        self.exceptions.add(Exception {
            row: self.batch.numbers[row],
            line: self.batch.lines[row],
            key: key_text(self.job, self.batch, row),
            column: self.job.name(self.column).to_owned(),
            text: String::new(),
            reason: Reason::NoResult,
            detail: format!("{} (allowed: {})", error.what(), error.allowed()),
            became: Became::CellEmpty,
        });
    }

    fn dates<'b, I>(
        &mut self,
        result: impl Fn(I) -> Result<Date, Error>,
        input: impl Fn(&Self, usize) -> Option<I>,
    ) -> Data<'b> {
        let dates: DateColumn = self.each(result, input).into_iter().collect();
        Data::Date { dates, unreadable: vec![false; self.table.rows] }
    }

    fn texts<'b, I>(
        &mut self,
        result: impl Fn(I) -> Result<String, Error>,
        input: impl Fn(&Self, usize) -> Option<I>,
    ) -> Data<'b> {
        let mut texts = TextColumn::default();
        self.each(result, input).iter().for_each(|text| texts.push(text.as_deref().unwrap_or("")));
        Data::Choice(texts)
    }

    /// Numbers in units of their last decimal.
    fn numbers<'b, I>(
        &mut self,
        decimals: u8,
        result: impl Fn(I) -> Result<i128, Error>,
        input: impl Fn(&Self, usize) -> Option<I>,
    ) -> Data<'b> {
        let mut present = Mask::new();
        let mut units = Vec::with_capacity(self.table.rows);
        for number in self.each(result, input) {
            if number.is_some() {
                present.push_present()
            } else {
                present.push_empty()
            }
            units.push(number.unwrap_or(0));
        }
        match Scale::new(decimals) {
            Ok(scale) => Data::Amount { units, present, scale },
            Err(_) => Data::Choice(TextColumn::default()),
        }
    }

    fn measured<'b>(
        &mut self,
        start: DateInput,
        end: DateInput,
        stay: Stay,
        measuring: &Measuring,
    ) -> Data<'b> {
        let as_of = self.job.as_of;
        let ends = move |rows: &Self, row: usize| match stay {
            Stay::Interval => Some((rows.date(start, row)?, Some(rows.date(end, row)?))),
            // An end that could not be read is not the same as none.
            Stay::Tenure if rows.is_unreadable(end, row) => None,
            Stay::Tenure => Some((rows.date(start, row)?, rows.date(end, row))),
        };
        let interval = |(start, end): (Date, Option<Date>)| -> Result<Interval, Error> {
            let interval = match (stay, end) {
                (Stay::Interval, end) => Interval::between(start, end.unwrap_or(start)),
                (Stay::Tenure, Some(end)) => Tenure::from(start).until(end).as_of(as_of)?,
                (Stay::Tenure, None) => Tenure::from(start).as_of(as_of)?,
            };
            let interval = interval.month_end(measuring.month_end)?.week_starts(measuring.week_starts);
            Ok(if measuring.ends == MeasuredEnds::FirstAndLast {
                interval.through_last_day()
            } else {
                interval
            })
        };
        let (decimals, rounding) = (measuring.decimals, measuring.rounding);
        match measuring.measure {
            Measure::Count(rule) => {
                let figures = self.each(|ends| Ok(interval(ends)?.count(rule).value()), ends);
                Data::Number(CountColumn::of_figures(rule, figures))
            }
            Measure::Fractional(unit) => self.numbers(
                decimals,
                |ends| Ok(interval(ends)?.fractional(unit).to_decimal(decimals, rounding)?.units()),
                ends,
            ),
            Measure::YearFraction(convention) => self.numbers(
                decimals,
                |ends| Ok(interval(ends)?.year_fraction(convention).to_decimal(decimals, rounding)?.units()),
                ends,
            ),
            _ => self.texts(|ends| Ok(interval(ends)?.parts().to_string()), ends),
        }
    }

    fn period<'b>(&mut self, of: DateInput, rule: PeriodRule, away: i64, gives: &PeriodGives) -> Data<'b> {
        let date = |rows: &Self, row: usize| rows.date(of, row);
        let period = |date: Date| -> Result<Period, Error> { rule.containing(date).away(away) };
        match gives {
            PeriodGives::FirstDay => self.dates(|date| period(date)?.first_day(), date),
            PeriodGives::LastDay => self.dates(|date| period(date)?.last_day(), date),
            PeriodGives::Number => self.numbers(0, |date| Ok(i128::from(period(date)?.number())), date),
            PeriodGives::Days => self.numbers(0, |date| Ok(i128::from(period(date)?.days())), date),
            PeriodGives::Label => self.texts(|date| Ok(period(date)?.label()), date),
            PeriodGives::LabelBy { pattern, fiscal } => {
                self.texts(|date| Ok(pattern.write(period(date)?.first_day()?, *fiscal)), date)
            }
        }
    }

    fn ages<'b>(&mut self, of: DateInput, on: DateInput, leap_day: MonthEnd) -> Data<'b> {
        let ages = self.each(
            |(born, on)| Ok(Anniversaries::of(born).leap_day(leap_day)?.age_on(on)?.value()),
            |rows, row| rows.date(of, row).zip(rows.date(on, row)),
        );
        Data::Number(CountColumn::of_figures(CountRule::COMPLETE_YEARS, ages))
    }
}
