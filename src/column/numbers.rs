//! Exact numbers over columns: worked out of two, and rounded.

use super::slices::rows_of;
use super::{Column, Values};
use crate::error::Error;
use crate::number::{Operation, Quotient, Rounding};

/// Two numbers a row added, subtracted, multiplied or divided, as [`Operation::of`] gives it for two: empty where either
/// is, and where that is an error, such as a division by zero.
///
/// # Errors
/// [`ErrorKind::LengthsDiffer`](crate::ErrorKind::LengthsDiffer) for columns of different lengths.
///
/// ```
/// use mild_ledger::{Decimal, Operation, Quotient, column::{Column, worked_out}};
/// let amounts: Column<Quotient> = [Some(Decimal::from(10).into()), None].into_iter().collect();
/// let thirds = worked_out(Operation::Quotient, &amounts, Quotient::from(Decimal::from(3)))?;
/// assert_eq!((thirds.get(0), thirds.get(1)), (Quotient::of(10, 3), None));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn worked_out<'c>(
    operation: Operation,
    left: impl Into<Values<'c, Quotient>>,
    right: impl Into<Values<'c, Quotient>>,
) -> Result<Column<Quotient>, Error> {
    let (left, right) = (left.into(), right.into());
    Ok(Column::of_rows(rows_of(left.rows(), right.rows())?, |row| {
        operation.of(left.get(row)?, right.get(row)?).ok()
    }))
}

/// Every number with a number of decimals, in units of the last one, as [`Quotient::to_decimal`] gives it for one; empty
/// where the number is, and where the result is too large to hold.
///
/// # Errors
/// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for more than 18 decimals.
///
/// ```
/// use mild_ledger::{Quotient, Rounding, column::rounded};
/// let third = Quotient::of(1, 3).unwrap_or(Quotient::ZERO);
/// assert_eq!(rounded(third, 2, Rounding::Nearest)?.get(0), Some(33));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rounded<'c>(
    numbers: impl Into<Values<'c, Quotient>>,
    decimals: u8,
    rounding: Rounding,
) -> Result<Column<i128>, Error> {
    let numbers = numbers.into();
    Quotient::ZERO.to_decimal(decimals, rounding)?;
    Ok(Column::of_rows(numbers.rows().unwrap_or(1), |row| {
        Some(numbers.get(row)?.to_decimal(decimals, rounding).ok()?.units())
    }))
}
