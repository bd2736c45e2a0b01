//! A quantity per month or year of tenure.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Fraction, Operation, Quotient};
use alloc::borrow::ToOwned;
use alloc::format;

/// A quantity divided by an exact number of months or years, exactly; decimals are asked of the result.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the time is zero or below the smallest that was asked for;
/// and where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, Tenure, Unit, rate_per};
///
/// let tenure = Tenure::from("2026-01-01".parse()?).as_of("2026-07-16".parse()?)?;
/// let months = tenure.fractional(Unit::Month);
/// assert_eq!(months.to_string(), "6 + 15/31");
/// // 1,005.00 over 6 15/31 months.
/// let quantity: Decimal = "1005.00".parse()?;
/// let rate = rate_per(quantity.into(), months, None)?;
/// assert_eq!(rate.to_decimal(2, Rounding::Nearest)?.to_string(), "155.00");
/// let none = Tenure::from("2026-01-01".parse()?).as_of("2026-01-01".parse()?)?.fractional(Unit::Month);
/// assert!(rate_per(quantity.into(), none, None).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rate_per(quantity: Quotient, time: Fraction, smallest: Option<Decimal>) -> Result<Quotient, Error> {
    let exact = Quotient::from(time);
    if exact.numerator() <= 0 || smallest.is_some_and(|smallest| exact < smallest.into()) {
        let least =
            smallest.map_or_else(|| "more than 0".to_owned(), |smallest| format!("{smallest} or more"));
        let what = format!("there is no rate over a time of {time}");
        return Err(Error::new(ErrorKind::OutOfRange, what, least));
    }
    Operation::Quotient.of(quantity, exact)
}
