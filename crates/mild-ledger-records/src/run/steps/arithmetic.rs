//! Columns that are the sum, difference, product or quotient of two.

use super::rows::{Rows, numbers};
use crate::plan::Operation;
use crate::run::job::BoundQuantity;
use crate::run::table::Data;
use mild_ledger::{Decimal, Rounding};

impl Rows<'_, '_, '_> {
    /// Exact, and rounded once; a row is blank where either side is.
    pub(super) fn arithmetic<'b>(
        &mut self,
        operation: Operation,
        (left, right): (&BoundQuantity, &BoundQuantity),
        (decimals, rounding): (u8, Rounding),
    ) -> Data<'b> {
        let results = self.each(
            |(left, right): (Decimal, Decimal)| {
                let result = match operation {
                    Operation::Sum => left.plus(right, decimals, rounding),
                    Operation::Difference => left.minus(right, decimals, rounding),
                    Operation::Product => left.times(right, decimals, rounding),
                    Operation::Quotient => left.over(right, decimals, rounding),
                };
                result.map(Decimal::units)
            },
            |rows, row| rows.quantity(left, row).zip(rows.quantity(right, row)),
        );
        numbers(decimals, results)
    }

    fn quantity(&self, quantity: &BoundQuantity, row: usize) -> Option<Decimal> {
        match quantity {
            BoundQuantity::Number(number) => Some(*number),
            BoundQuantity::Column(column) => self.table.decimal(*column, row),
        }
    }
}
