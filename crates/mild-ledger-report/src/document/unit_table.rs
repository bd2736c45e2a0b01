//! A table of every unit, and the ways of counting side by side.

use super::Table;
use crate::facts::{UnitRow, decimal};
use mild_ledger_records::ReportCell;

/// The table without rows yet.
pub(super) fn unit_table() -> Table {
    Table::new(["", "complete", "starts passed", "fractional", "as a decimal"], [0])
}

/// A row a unit of the calendar: complete, by starts passed, and exactly.
pub(super) fn put_units(table: &mut Table, units: &[UnitRow]) {
    for row in units {
        let [starts, exact, shown] = row.parts.map_or([const { ReportCell::Empty }; 3], |parts| {
            [
                ReportCell::Count(parts.starts_passed),
                ReportCell::Text(parts.fractional.to_string()),
                ReportCell::Text(decimal(parts.fractional)),
            ]
        });
        table.row([
            ReportCell::Text(row.unit.plural().to_owned()),
            ReportCell::Count(row.complete),
            starts,
            exact,
            shown,
        ]);
    }
}
