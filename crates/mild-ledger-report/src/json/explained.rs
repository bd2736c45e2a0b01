//! The object of `mild run --why --row --json`.

use super::to_text;
use crate::facts::MarkedMonths;
use mild_ledger_records::{CellRead, CellWorking, RowWorking, RowsExplained};
use serde::Serialize;

/// The object of `mild run PLAN --why --row KEY --json`, in one line.
#[must_use]
pub fn explained(found: &RowsExplained) -> String {
    to_text(&Explained {
        title: &found.title,
        as_of: found.as_of.map(|date| date.to_string()),
        key: &found.key,
        rows: found.rows.iter().map(row).collect(),
        more_rows: found.more_rows,
    })
}

fn row(row: &RowWorking) -> Row<'_> {
    Row {
        place: &row.place,
        becomes: &row.becomes,
        remarks: &row.remarks,
        cells: row.cells.iter().map(cell).collect(),
        added: row.added.iter().map(added).collect(),
    }
}

fn cell(cell: &CellRead) -> Cell<'_> {
    Cell { column: &cell.column, text: &cell.text, read: &cell.read }
}

fn added(cell: &CellWorking) -> Added<'_> {
    let input =
        |(column, value): &'_ (String, String)| Input { column: column.clone(), value: value.clone() };
    let counted = MarkedMonths::behind(cell).map(|months| {
        let counted = months.inside().filter(|day| day.number.is_some());
        counted.map(|day| day.date.to_string()).collect()
    });
    Added {
        column: &cell.column,
        value: &cell.value,
        empty_because: cell.empty_because.as_deref(),
        rule: &cell.rule,
        inputs: cell.inputs.iter().map(input).collect(),
        steps: &cell.steps,
        working_days: counted,
    }
}

#[derive(Serialize)]
struct Explained<'e> {
    title: &'e str,
    as_of: Option<String>,
    key: &'e str,
    rows: Vec<Row<'e>>,
    more_rows: bool,
}

#[derive(Serialize)]
struct Row<'e> {
    place: &'e str,
    becomes: &'e str,
    remarks: &'e [String],
    cells: Vec<Cell<'e>>,
    added: Vec<Added<'e>>,
}

#[derive(Serialize)]
struct Cell<'e> {
    column: &'e str,
    text: &'e str,
    read: &'e str,
}

#[derive(Serialize)]
struct Added<'e> {
    column: &'e str,
    value: &'e str,
    empty_because: Option<&'e str>,
    rule: &'e str,
    inputs: Vec<Input>,
    steps: &'e [String],
    /// The days that were counted, where working days were.
    working_days: Option<Vec<String>>,
}

#[derive(Serialize)]
struct Input {
    column: String,
    value: String,
}
