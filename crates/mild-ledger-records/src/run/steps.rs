//! Working out the columns that a plan adds.

mod arithmetic;
mod measures;
mod moves;
mod people;
mod periods;
mod rows;
mod working_time;

use super::conditions::all_hold;
use super::exceptions::ExceptionSink;
use super::job::{BoundCondition, ChoiceValue, DateInput, Job, Kind, Step};
use super::outcome::ColumnFigures;
use super::table::{ClockColumn, Data, Table};
use crate::csv::{Batch, TextColumn};
use crate::error::RecordsError;
use measures::Measured;
use mild_ledger::column::into_buckets;
use mild_ledger::{DateTime, Error};
use rows::Rows;

/// Adds the plan's columns to a table, in the plan's order, so that each may use those before it.
pub(super) fn add_columns(
    job: &Job,
    batch: &Batch,
    table: &mut Table<'_>,
    exceptions: &mut ExceptionSink,
) -> Result<(), RecordsError> {
    for (nth, step) in job.steps.iter().enumerate() {
        let rows = Rows { job, batch, table, column: job.columns_of_file + nth, exceptions };
        // Only columns of different lengths, or a rule that the plan's reader refuses, could end here.
        let data = column(step, rows).map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        table.columns.push(data);
    }
    Ok(())
}

/// The column of a step; a row whose inputs are blank is empty, one that has no result is listed with its reason.
fn column<'t>(step: &Step, mut rows: Rows<'_, 't, '_>) -> Result<Data<'t>, Error> {
    Ok(match step {
        Step::Measured { start, end, stay, within, measuring } => {
            let measured = Measured { start: *start, end: *end, stay: *stay, within: *within };
            rows.measured(&measured, measuring)?
        }
        Step::WorkingDays { start, end, ends, calendar } => {
            rows.working_days(*start, *end, *ends, *calendar)?
        }
        Step::WorkingDay { of, gives, calendar } => rows.working_day(*of, *gives, *calendar),
        Step::Move(moved) => rows.moved(moved),
        Step::Period { of, rule, away, gives } => rows.period(*of, *rule, *away, gives),
        Step::Field { of, field } => rows.field(*of, *field),
        Step::Age { of, on, leap_day } => rows.ages(DateInput::Column(*of), *on, *leap_day),
        Step::Anniversary { of, on_or_after, leap_day, gives } => {
            rows.anniversaries(DateInput::Column(*of), *on_or_after, *leap_day, *gives)
        }
        Step::Rate(rate) => rows.rates(rate),
        Step::FirstOf(columns) => first_of(columns, &rows),
        Step::Arithmetic { operation, left, right, decimals, rounding } => {
            rows.arithmetic(*operation, (left, right), (*decimals, *rounding))
        }
        Step::Bucket { of, buckets } => match rows.table.columns.get(*of) {
            Some(Data::Number(figures)) => Data::Band(into_buckets(figures, buckets)),
            _ => Data::Choice(TextColumn::default()),
        },
        Step::Choice { when, then, otherwise } => choice(when, then, otherwise.as_ref(), &rows),
    })
}

/// The first of several dates that is not blank.
fn first_of<'t>(columns: &[usize], rows: &Rows<'_, 't, '_>) -> Data<'t> {
    // A date that could not be read is not blank, so nothing is taken in its place.
    let known = |row| columns.iter().copied().find(|column| rows.is_known(DateInput::Column(*column), row));
    let keeps_times = columns.iter().any(|column| rows.keeps_times(DateInput::Column(*column)));
    let found: Vec<_> = (0..rows.count()).map(|row| rows.table.date_time(known(row)?, row)).collect();
    let clock = keeps_times.then(|| ClockColumn {
        local: found.iter().map(|at| at.map_or(0, DateTime::microseconds)).collect(),
        utc: None,
    });
    let dates = found.iter().map(|at| at.map(DateTime::date)).collect();
    Data::Date { dates, unreadable: vec![false; rows.count()], clock }
}

/// One value where conditions hold, and another where they do not.
fn choice<'t>(
    when: &[BoundCondition],
    then: &ChoiceValue,
    otherwise: Option<&ChoiceValue>,
    rows: &Rows<'_, 't, '_>,
) -> Data<'t> {
    let mut texts = TextColumn::default();
    for row in 0..rows.count() {
        match if all_hold(when, rows.table, row) { Some(then) } else { otherwise } {
            Some(ChoiceValue::Text(text)) => texts.push(text),
            Some(ChoiceValue::Column(from)) => {
                texts.push(&rows.table.shown(*from, row, rows.job.kind(*from)));
            }
            None => texts.push(""),
        }
    }
    Data::Choice(texts)
}

/// The signs of all figures in columns of intervals, over the rows written.
pub(super) struct FigureSigns {
    columns: Vec<(usize, ColumnFigures)>,
}

impl FigureSigns {
    pub(super) fn new(job: &Job) -> Self {
        let columns = (0..job.columns.len())
            .filter_map(|column| match job.kind(column) {
                Kind::Number { rule, ends, .. } => Some((
                    column,
                    ColumnFigures {
                        column: job.name(column).to_owned(),
                        rule: rule.clone(),
                        ends: *ends,
                        negative: 0,
                        zero: 0,
                        positive: 0,
                        empty: 0,
                    },
                )),
                _ => None,
            })
            .collect();
        Self { columns }
    }

    pub(super) fn count(&mut self, table: &Table<'_>, row: usize) {
        for (column, figures) in &mut self.columns {
            let place = match table.number(*column, row) {
                None => &mut figures.empty,
                Some(figure) if figure < 0 => &mut figures.negative,
                Some(0) => &mut figures.zero,
                Some(_) => &mut figures.positive,
            };
            *place += 1;
        }
    }

    pub(super) fn finish(self) -> Vec<ColumnFigures> {
        self.columns.into_iter().map(|(_, figures)| figures).collect()
    }
}
