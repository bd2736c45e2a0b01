//! What the rows and columns of a table are of its whole.

use crate::numbers::share;
use mild_ledger::{Decimal, shares_of_hundred};
use mild_ledger_records::{ReportCell, ReportTable};

/// The decimals of a share.
const DECIMALS: u8 = 1;

/// The shares of a table that says of which column they are worth showing, in per cent with one decimal; those of the rows add up to
/// 100.0, and so do those of the columns.
#[derive(Debug, Clone)]
pub(crate) struct Shares {
    /// The header of the column.
    pub(crate) of: String,
    pub(crate) rows: Vec<Option<Decimal>>,
    /// Of each column of figures, as the total has it.
    pub(crate) columns: Vec<Option<Decimal>>,
    /// That of all rows, where there is a whole.
    pub(crate) total: Option<Decimal>,
}

impl Shares {
    /// `None` where nothing is a share of anything.
    pub(crate) fn of(table: &ReportTable) -> Option<Self> {
        let column = table.share_of?;
        let total = table.total.as_ref()?;
        let whole = number_of(total.get(column)?)?;
        let of_rows = table.rows.iter().map(|row| row.get(column).and_then(number_of));
        let rows = shares(&of_rows.collect::<Vec<_>>(), whole);
        // The column itself is the whole of the others.
        let figures = || total.iter().enumerate().skip(table.names);
        let others: Vec<Option<Decimal>> =
            figures().filter(|(nth, _)| *nth != column).map(|(_, cell)| number_of(cell)).collect();
        let mut others = shares(&others, whole).into_iter();
        let hundred = share(whole, whole);
        let columns =
            figures().map(|(nth, _)| if nth == column { hundred } else { others.next().flatten() }).collect();
        Some(Self { of: table.columns.get(column)?.clone(), rows, columns, total: hundred })
    }

    /// The part of the rows after the first.
    pub(crate) fn rest_behind(&self, shown: usize) -> Option<Decimal> {
        Decimal::checked_sum(self.rows.iter().skip(shown).map(|share| share.unwrap_or(Decimal::ZERO)))
            .filter(|_| self.total.is_some())
    }
}

/// The share of each part in a whole, which they sum to; each by itself where they are too large to be shared out.
fn shares(parts: &[Option<Decimal>], whole: Decimal) -> Vec<Option<Decimal>> {
    let numbers: Vec<Decimal> = parts.iter().map(|part| part.unwrap_or(Decimal::ZERO)).collect();
    let together = shares_of_hundred(&numbers, DECIMALS).ok().filter(|_| whole != Decimal::ZERO);
    match together {
        Some(shares) => parts.iter().zip(shares).map(|(part, share)| part.map(|_| share)).collect(),
        None => parts.iter().map(|part| share((*part)?, whole)).collect(),
    }
}

pub(super) fn number_of(cell: &ReportCell) -> Option<Decimal> {
    match cell {
        ReportCell::Decimal(number) | ReportCell::Number(number) => Some(*number),
        ReportCell::Count(count) => Some(Decimal::from(*count)),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::shares;
    use crate::numbers::Writer;
    use mild_ledger::Decimal;

    fn said(parts: &[i64]) -> Vec<String> {
        let parts: Vec<Option<Decimal>> = parts.iter().map(|part| Some(Decimal::from(*part))).collect();
        let whole = parts.iter().flatten().fold(Decimal::ZERO, |sum, part| sum.checked_add(*part).unwrap());
        shares(&parts, whole).into_iter().map(|share| Writer::default().per_cent(share)).collect()
    }

    #[test]
    fn shares_add_up_to_a_hundred_with_credits_among_them() {
        assert_eq!(said(&[1, 1, 1]), ["33.4 %", "33.3 %", "33.3 %"]);
        assert_eq!(said(&[6, -3]), ["200.0 %", "-100.0 %"]);
        assert_eq!(said(&[5, -5]), ["–", "–"]);
        assert_eq!(shares(&[None, Some(Decimal::from(7))], Decimal::from(7)).first(), Some(&None));
    }
}
