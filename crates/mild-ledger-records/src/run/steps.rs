//! Working out the columns that a plan adds.

mod derived;

use super::cleaning::key_text;
use super::conditions::all_hold;
use super::exceptions::{Became, Exception, ExceptionSink, Reason};
use super::job::{ChoiceValue, DateInput, Job, Kind, Step};
use super::outcome::ColumnFigures;
use super::table::{Data, Table};
use crate::csv::{Batch, TextColumn};
use crate::error::RecordsError;
use mild_ledger::column::{CountColumn, DateColumn, Dates, Intervals, into_buckets, shifted};
use mild_ledger::{CountRule, Error, Shift};

/// Adds the plan's columns to a table, in the plan's order, so that each may use those before it.
pub(super) fn add_columns(
    job: &Job,
    batch: &Batch,
    table: &mut Table<'_>,
    exceptions: &mut ExceptionSink,
) -> Result<(), RecordsError> {
    for (nth, step) in job.steps.iter().enumerate() {
        let column = job.columns_of_file + nth;
        let data = match step {
            Step::Between { start, end, rule } => {
                Data::Number(between(table, *start, *end, *rule).map_err(|error| unequal(&error))?)
            }
            Step::Move { from, shift: Some(shift), weekday: None } => match table.columns.get(*from) {
                Some(Data::Date { dates, unreadable }) => {
                    let moved = shifted(dates, shift);
                    report_misses(job, batch, (dates, &moved), shift, column, exceptions);
                    Data::Date { dates: moved, unreadable: unreadable.clone() }
                }
                _ => Data::Choice(TextColumn::default()),
            },
            step @ (Step::Move { .. }
            | Step::Measured { .. }
            | Step::Period { .. }
            | Step::Age { .. }
            | Step::FirstOf(_)) => derived::column(step, job, batch, table, column, exceptions),
            Step::Bucket { of, buckets } => match table.columns.get(*of) {
                Some(Data::Number(figures)) => Data::Band(into_buckets(figures, buckets)),
                _ => Data::Choice(TextColumn::default()),
            },
            Step::Choice { when, then, otherwise } => {
                let mut texts = TextColumn::default();
                for row in 0..table.rows {
                    let value = if all_hold(when, table, row) { Some(then) } else { otherwise.as_ref() };
                    match value {
                        Some(ChoiceValue::Text(text)) => texts.push(text),
                        Some(ChoiceValue::Column(from)) => {
                            texts.push(&table.shown(*from, row, job.kind(*from)))
                        }
                        None => texts.push(""),
                    }
                }
                Data::Choice(texts)
            }
        };
        table.columns.push(data);
    }
    Ok(())
}

fn between(
    table: &Table<'_>,
    start: DateInput,
    end: DateInput,
    rule: CountRule,
) -> Result<CountColumn, Error> {
    let none = DateColumn::new();
    let dates = |input| match input {
        DateInput::Every(date) => Dates::Every(date),
        DateInput::Column(column) => match table.columns.get(column) {
            Some(Data::Date { dates, .. }) => Dates::Column(dates),
            _ => Dates::Column(&none),
        },
    };
    Ok(Intervals::between(dates(start), dates(end), table.rows)?.count(rule))
}

fn unequal(error: &Error) -> RecordsError {
    RecordsError::Proof { what: error.to_string() }
}

/// Lists the rows that have a date to move and no date it could be moved to.
fn report_misses(
    job: &Job,
    batch: &Batch,
    (dates, moved): (&DateColumn, &DateColumn),
    shift: &Shift,
    column: usize,
    exceptions: &mut ExceptionSink,
) {
    if dates.mask().present() == moved.mask().present() {
        return;
    }
    for row in 0..dates.len() {
        if let (Some(date), None) = (dates.get(row), moved.get(row))
            && let Err(error) = shift.apply(date)
        {
            exceptions.add(Exception {
                row: batch.numbers[row],
                line: batch.lines[row],
                key: key_text(job, batch, row),
                column: job.name(column).to_owned(),
                text: date.to_string(),
                reason: Reason::NoResult,
                detail: format!("{} (allowed: {})", error.what(), error.allowed()),
                became: Became::CellEmpty,
            });
        }
    }
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
                        rule: *rule,
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
