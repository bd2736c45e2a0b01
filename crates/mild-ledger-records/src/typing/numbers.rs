//! Texts of a column into amounts or numbers.

use super::cells::Cells;
use crate::table::{Became, Data, Gap, Kind, Missing, NumberRead, Reason, WrittenNumbers};

/// Reads the amounts or numbers of a column. A row whose amount cannot be read is set aside; a number that is not money leaves its
/// cell empty, unless the plan wants one in each row.
pub(super) fn read_numbers(
    cells: &mut Cells<'_>,
    kind: &Kind,
    written: &WrittenNumbers,
) -> (Data, Vec<Option<Gap>>) {
    let (missing, unreadable) = match kind {
        Kind::Amount { .. } => (Reason::NoAmount, Reason::UnreadableAmount),
        _ => (Reason::NoNumber, Reason::UnreadableNumber),
    };
    let without = match (kind, written.missing) {
        (Kind::Number { .. }, Missing::LeavesCellEmpty) => Became::CellEmpty,
        (Kind::Number { .. }, Missing::KeepsText) => Became::TextKept,
        _ => Became::RowSetAside,
    };
    let mut gaps: Vec<Option<Gap>> = Vec::new();
    let mut units = Vec::with_capacity(cells.rows());
    for row in 0..cells.rows() {
        units.push(match written.read(cells.text(row), cells.holds(row)) {
            NumberRead::Units(units) => Some(units),
            NumberRead::Rounded(units) => {
                let detail = format!("read as {}", written.scale.amount(units));
                cells.list(row, Reason::Rounded, detail, Became::Kept);
                Some(units)
            }
            NumberRead::Blank => {
                if written.missing == Missing::SetsRowAside {
                    cells.list(row, missing, String::new(), Became::RowSetAside);
                }
                None
            }
            NumberRead::Fault(detail) => {
                if without != Became::RowSetAside {
                    gaps.resize(cells.rows(), None);
                    gaps[row] = Some(Gap::Unreadable);
                }
                cells.list(row, unreadable, detail, without);
                None
            }
        });
    }
    (Data::numbers(units, written.scale.decimals()), gaps)
}
