//! What the rows and columns of a table are of its whole.

use crate::numbers::share;
use mild_ledger::Decimal;
use mild_ledger_records::{ReportCell, ReportTable};

/// The shares of a table that says of which column they are worth showing, in per cent with one decimal.
#[derive(Debug, Clone)]
pub(crate) struct Shares {
    /// The header of the column.
    pub(crate) of: String,
    column: usize,
    whole: Decimal,
    /// Of each column of figures, as the total has it.
    pub(crate) columns: Vec<Option<Decimal>>,
}

impl Shares {
    /// `None` where nothing is a share of anything.
    pub(crate) fn of(table: &ReportTable) -> Option<Self> {
        let column = table.share_of?;
        let total = table.total.as_ref()?;
        let whole = number_of(total.get(column)?)?;
        let figures = total.iter().skip(table.names);
        let columns = figures.map(|cell| share(number_of(cell)?, whole)).collect();
        Some(Self { of: table.columns.get(column)?.clone(), column, whole, columns })
    }

    /// That of a row.
    pub(crate) fn of_row(&self, row: &[ReportCell]) -> Option<Decimal> {
        share(number_of(row.get(self.column)?)?, self.whole)
    }
}

pub(super) fn number_of(cell: &ReportCell) -> Option<Decimal> {
    match cell {
        ReportCell::Decimal(number) => Some(*number),
        ReportCell::Count(count) => Some(Decimal::from(*count)),
        _ => None,
    }
}
