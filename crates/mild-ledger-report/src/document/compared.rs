//! Columns of the file compared with added ones.

use super::{Block, Document, Table};
use crate::numbers::Writer;
use mild_ledger_records::{ComparedColumns, ReportCell, RunOutcome};

/// Each pair in a line, what would explain where they differ, and the first rows that do.
pub(super) fn put_compared(out: &mut Document, outcome: &RunOutcome) {
    if outcome.compared.is_empty() {
        return;
    }
    let header = ["Cross-check", "ours", "equal", "different", "in the file alone", "added alone", "neither"];
    let mut table = Table::new(header, [0, 1]);
    for pair in &outcome.compared {
        let names = [&pair.column, &pair.with].map(|name| ReportCell::Text(name.clone()));
        let counts = [pair.equal, pair.different, pair.only_in_file, pair.only_added, pair.neither];
        table.row(names.into_iter().chain(counts.map(ReportCell::count)));
    }
    out.end_part();
    out.push(Block::Table(table));
    for pair in outcome.compared.iter().filter(|pair| pair.different > 0) {
        out.paragraph(explained(pair, &out.writer));
        for row in &pair.examples {
            let key = if row.key.is_empty() { String::new() } else { format!("{}, ", row.key) };
            out.push(Block::Item(format!(
                "{key}{}: {} {} in the file, {} {}",
                row.place,
                pair.column,
                out.writer.value(&row.theirs),
                pair.with,
                out.writer.value(&row.ours)
            )));
        }
    }
}

/// `All 40 differences of "Their years" are explained by year starts passed.`
fn explained(pair: &ComparedColumns, writer: &Writer) -> String {
    let count = |rows: u64| writer.count(rows);
    let column = &pair.column;
    let are = |rows: u64| if rows == 1 { "is" } else { "are" };
    let which = |rows: u64| match (rows == pair.different, rows) {
        (true, 1) => format!("The one difference of \"{column}\""),
        (true, 2) => format!("Both differences of \"{column}\""),
        (true, rows) => format!("All {} differences of \"{column}\"", count(rows)),
        (false, rows) => format!("{} of {} differences of \"{column}\"", count(rows), count(pair.different)),
    };
    let ways: Vec<&str> = pair.explained.iter().map(|(way, _)| way.as_str()).collect();
    match (ways.as_slice(), pair.explained.first(), &pair.apart) {
        ([way], Some((_, rows)), _) => format!("{} {} explained by {way}.", which(*rows), are(*rows)),
        ([ways @ .., last], Some((_, rows)), _) => format!(
            "{} {} explained by {} and by {last} alike.",
            which(*rows),
            are(*rows),
            ways.join(", by ")
        ),
        (_, _, Some(apart)) => format!("{} come to {apart} more in the file.", which(pair.different)),
        _ => format!(
            "No other way of counting explains {} of \"{column}\".",
            if pair.different == 1 {
                "the difference".to_owned()
            } else {
                format!("the {} differences", count(pair.different))
            }
        ),
    }
}
