//! The lengths of the bars of a table.

use super::shares::number_of;
use mild_ledger::{Decimal, Quotient, Rounding};
use mild_ledger_records::{ReportCell, ReportTable};

/// The bars of a table of whose rows one figure is drawn.
#[derive(Debug, Clone)]
pub(crate) struct Bars {
    column: usize,
    largest: Decimal,
}

impl Bars {
    /// `None` where none are drawn, or no figure is above zero.
    pub(crate) fn of(table: &ReportTable) -> Option<Self> {
        let column = table.bars?;
        let figures = table.rows.iter().filter_map(|row| number_of(row.get(column)?));
        let largest = figures.max().filter(|largest| *largest > Decimal::ZERO)?;
        Some(Self { column, largest })
    }

    /// The length of a row's bar in so many parts of the longest; none for a figure that is not above zero, and at least one for
    /// any that is.
    pub(crate) fn of_row(&self, row: &[ReportCell], parts: i64) -> i64 {
        let figure = row.get(self.column).and_then(number_of).filter(|figure| *figure > Decimal::ZERO);
        let length = figure.and_then(|figure| {
            let part = Quotient::from(figure).checked_div(self.largest.into())?;
            let length =
                part.checked_mul(Decimal::from(parts).into())?.to_decimal(0, Rounding::Nearest).ok()?;
            i64::try_from(length.units()).ok()
        });
        length.map_or(0, |length| length.max(1))
    }
}

#[cfg(test)]
mod tests {
    use super::Bars;
    use mild_ledger::Decimal;
    use mild_ledger_records::ReportCell;

    #[test]
    fn bars_are_in_proportion_and_nothing_has_none() {
        let bars = Bars { column: 1, largest: Decimal::from(160) };
        let length = |cell: ReportCell| bars.of_row(&[ReportCell::Text("Heron".to_owned()), cell], 16);
        assert_eq!(length(ReportCell::Count(160)), 16);
        assert_eq!(length(ReportCell::Count(75)), 8);
        assert_eq!(length(ReportCell::Count(74)), 7);
        assert_eq!((length(ReportCell::Count(1)), length(ReportCell::Count(0))), (1, 0));
        assert_eq!((length(ReportCell::Count(-5)), length(ReportCell::Empty)), (0, 0));
    }
}
