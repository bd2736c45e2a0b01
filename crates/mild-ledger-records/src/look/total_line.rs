//! The last row of a file, where it is the total of the others.

use super::Row;
use super::column::ColumnNotes;
use super::findings::{Holding, LookedColumn, TotalEvidence, TotalLine};
use crate::typing::says_total;
use mild_ledger::{Notation, Scale};

/// The last row, where a cell calls it a total or its amounts are the sums of the rows above it.
pub(super) fn total_line(
    columns: &[LookedColumn],
    notes: &[ColumnNotes],
    (row, cells): Row,
) -> Option<TotalLine> {
    let word = columns.iter().zip(&cells).find(|(_, text)| says_total(text));
    let sums = columns.iter().zip(notes).zip(&cells).filter_map(|((column, notes), text)| {
        let is_sum = is_sum(column, notes, text)?;
        Some((column, is_sum, text))
    });
    // Whole numbers may be anything, such as a year, so only those that are sums say something.
    let mut amounts = Vec::new();
    let mut all_are_sums = true;
    for (column, is_sum, text) in sums {
        if is_sum {
            amounts.push((column.name.clone(), text.clone()));
        } else if matches!(column.holds, Holding::Amount(_)) {
            all_are_sums = false;
        }
    }
    let is_sum = all_are_sums && !amounts.is_empty();
    let is_blank = columns.iter().zip(&cells).any(|(column, text)| {
        text.is_empty() && (column.blanks == 1 || matches!(column.holds, Holding::Date(_)))
    });
    let evidence = match (is_sum, is_blank, word.is_some()) {
        (true, true, _) => TotalEvidence::Sum,
        (true, false, true) => TotalEvidence::SumWithoutBlank,
        (false, true, true) => TotalEvidence::WordAlone,
        _ => return None,
    };
    let word = word.map(|(column, text)| (column.name.clone(), text.clone()));
    Some(TotalLine { row, word, amounts, evidence })
}

/// Whether the cell of the last row is the sum of two and more others of its column; `None` where it holds no amount.
fn is_sum(column: &LookedColumn, notes: &ColumnNotes, text: &str) -> Option<bool> {
    let plain = Notation::plain();
    let notation = match &column.holds {
        Holding::Amount(amounts) => &amounts.notation,
        Holding::WholeNumber { .. } => &plain,
        Holding::Text | Holding::Date(_) => return None,
    };
    let amount = notation.read(text, Scale::new(9).ok()?).ok().filter(|amount| amount.units() != 0)?;
    let is_twice = notes.numbers.sum(notation)?.checked_sub(amount)?.checked_sub(amount)?.units() == 0;
    Some(is_twice && column.values > 2)
}
