//! How each cell of a row comes about.

use super::{Block, Document, Table};
use crate::facts::MarkedMonths;
use mild_ledger_records::{CellWorking, RowWorking, RowsExplained};

/// Each row of the key: what becomes of it, the cells as in the file and as read, and the working of those that the
/// plan adds.
pub(crate) fn explained(found: &RowsExplained) -> Document {
    let mut out = Document::default();
    out.push(Block::Heading(format!("{}: {}", found.title, found.key)));
    if let Some(as_of) = found.as_of {
        out.paragraph(format!("as of {as_of} ({})", as_of.weekday()));
    }
    match (found.rows.len(), found.more_rows) {
        (_, true) => out.push(Block::Doubt(format!(
            "more than {} rows have this key; these are the first, each by itself",
            found.rows.len()
        ))),
        (0 | 1, false) => {}
        (rows, false) => out.push(Block::Doubt(format!(
            "{rows} rows have this key; each is shown by itself, and duplicates in the plan says which count"
        ))),
    }
    found.rows.iter().for_each(|row| put_row(&mut out, row));
    out
}

fn put_row(out: &mut Document, row: &RowWorking) {
    out.end_part();
    out.paragraph(format!("{}: {}", row.place, row.becomes));
    row.remarks.iter().for_each(|remark| out.push(Block::Note(remark.clone())));
    out.end_part();
    let mut table = Table::new(["column", "in the file", "read as"], 0..3);
    for cell in &row.cells {
        table.row([cell.column.clone(), cell.text.clone(), cell.read.clone()]);
    }
    out.push(Block::Table(table));
    for cell in &row.added {
        put_cell(out, cell);
    }
}

pub(super) fn put_cell(out: &mut Document, cell: &CellWorking) {
    out.end_part();
    out.paragraph(match &cell.empty_because {
        Some(because) if cell.value.is_empty() => format!("{} is empty: {because}", cell.column),
        Some(because) => format!("{} = {} ({because})", cell.column, cell.value),
        None => format!("{} = {}", cell.column, cell.value),
    });
    let given = |(name, value): &(String, String)| match value.as_str() {
        "" => format!("{name} is empty"),
        value => format!("{name} = {value}"),
    };
    let inputs: Vec<String> = cell.inputs.iter().map(given).collect();
    let from = if inputs.is_empty() { String::new() } else { format!("; {}", inputs.join(", ")) };
    out.push(Block::Item(format!("{}{from}", cell.rule)));
    cell.steps.iter().for_each(|step| out.push(Block::Example(step.clone())));
    if let Some(months) = MarkedMonths::behind(cell) {
        out.end_part();
        out.push(Block::Months(months));
    }
}
