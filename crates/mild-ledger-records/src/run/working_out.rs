//! How cells that a plan adds come about, worked out from the rows that are at hand.

use super::cell_working::CellWorking;
use super::job::Job;
use crate::columns::{CellWhy, Rows};
use crate::table::{Batch, Gap, Table};

/// How the cell of a row comes about.
pub(super) fn cell_working(
    job: &Job,
    (batch, table): (&Batch, &Table),
    (column, row): (usize, usize),
) -> CellWorking {
    let layout = &job.setting.layout;
    // The columns of the steps come after those that are joined.
    let first = layout.columns.len() - job.steps.len();
    let nth = column.checked_sub(first);
    let step = nth.and_then(|nth| job.steps.get(nth));
    let rows = Rows { setting: &job.setting, batch, table, column, exceptions: Vec::new(), gaps: Vec::new() };
    let why = step.and_then(|step| step.why(&rows, row));
    let named = |input: &usize| (layout.name(*input).to_owned(), table.shown(*input, row).into_owned());
    let inputs = job.inputs_of(column);
    let CellWhy { rule, steps, days } = why.unwrap_or_else(|| CellWhy {
        rule: match nth.and_then(|nth| job.said.get(nth)) {
            Some(said) => said.clone(),
            None => joined_from(job, column),
        },
        ..CellWhy::default()
    });
    let is_empty = table.is_empty(column, row);
    CellWorking {
        column: layout.name(column).to_owned(),
        value: table.shown(column, row).into_owned(),
        empty_because: is_empty.then(|| table.gap(column, row).map_or("blank", Gap::in_words).to_owned()),
        rule,
        inputs: inputs.iter().map(named).collect(),
        steps,
        days,
    }
}

fn joined_from(job: &Job, column: usize) -> String {
    job.join_of(column).map_or_else(String::new, |join| format!("joined from {}", join.other().name))
}
