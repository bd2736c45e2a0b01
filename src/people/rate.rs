//! A quantity per month or year of tenure.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Fraction, Quotient, Rounding};

/// A quantity divided by an exact number of months or years, with so many decimals (0 to 18), rounded once.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the time is zero or below the smallest that was asked for, so that there is no
/// rate; and where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, Tenure, Unit, rate_per};
///
/// let tenure = Tenure::from("2026-01-01".parse()?).as_of("2026-07-16".parse()?)?;
/// let months = tenure.fractional(Unit::Month);
/// assert_eq!(months.to_string(), "6 + 15/31");
/// // 1,005.00 over 6 15/31 months.
/// let quantity = Decimal::of_units(100_500, 2)?;
/// assert_eq!(rate_per(quantity, months, None, 2, Rounding::Nearest)?.to_string(), "155.00");
/// let none = Tenure::from("2026-01-01".parse()?).as_of("2026-01-01".parse()?)?.fractional(Unit::Month);
/// assert!(rate_per(quantity, none, None, 2, Rounding::Nearest).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rate_per(
    quantity: Decimal,
    time: Fraction,
    smallest: Option<Decimal>,
    decimals: u8,
    rounding: Rounding,
) -> Result<Decimal, Error> {
    let least = smallest.map_or_else(|| "more than 0".to_owned(), |smallest| format!("{smallest} or more"));
    let none = || Error::new(ErrorKind::OutOfRange, format!("there is no rate over a time of {time}"), least);
    let time = Quotient::from(time);
    if time.numerator() <= 0 || smallest.is_some_and(|smallest| time < smallest.into()) {
        return Err(none());
    }
    match Quotient::from(quantity).checked_div(time) {
        Some(rate) => rate.to_decimal(decimals, rounding),
        None => Err(Error::new(ErrorKind::OutOfRange, "the rate is too large to hold", "at most 38 digits")),
    }
}
