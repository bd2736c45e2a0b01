//! A quantity per month or year of tenure.

use crate::error::{Error, ErrorKind};
use crate::interval::{Decimal, Fraction, Rounding};

/// A quantity divided by an exact number of months or years, rounded once.
///
/// The quantity is a whole number of the smallest unit of so many decimals (0 to 18), as is the result.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the time is zero or below the smallest that was asked for, so that there is no
/// rate; and where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Rounding, Tenure, Unit, rate_per};
///
/// let tenure = Tenure::from("2026-01-01".parse()?).as_of("2026-07-16".parse()?)?;
/// let months = tenure.fractional(Unit::Month);
/// assert_eq!(months.to_string(), "6 + 15/31");
/// // 1,005.00 over 6 15/31 months.
/// let rate = rate_per(100_500, 2, months, None, Rounding::Nearest)?;
/// assert_eq!(rate.to_string(), "155.00");
/// let none = Tenure::from("2026-01-01".parse()?).as_of("2026-01-01".parse()?)?.fractional(Unit::Month);
/// assert!(rate_per(100_500, 2, none, None, Rounding::Nearest).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rate_per(
    quantity: i128,
    decimals: u8,
    time: Fraction,
    smallest: Option<Fraction>,
    rounding: Rounding,
) -> Result<Decimal, Error> {
    let over = time.numerator();
    if over <= 0 || smallest.is_some_and(|smallest| time < smallest) {
        let least =
            smallest.map_or_else(|| "more than 0".to_owned(), |smallest| format!("{smallest} or more"));
        return Err(Error::new(
            ErrorKind::OutOfRange,
            format!("there is no rate over a time of {time}"),
            least,
        ));
    }
    if decimals > Decimal::MOST_DECIMALS {
        let what = format!("a quantity cannot have {decimals} decimals");
        return Err(Error::new(ErrorKind::OutOfRange, what, "0 to 18 decimals"));
    }
    let units = quantity.checked_mul(i128::from(time.of())).ok_or_else(|| {
        Error::new(
            ErrorKind::OutOfRange,
            "the quantity is too large to divide",
            "quantities of at most 30 digits",
        )
    })?;
    Ok(Decimal::new(rounding.divide(units, over), decimals))
}
