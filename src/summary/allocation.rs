//! Spreading a total over weights so that the shares sum to it.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient, Rounding};
use alloc::borrow::ToOwned;
use alloc::vec::Vec;

/// A total shared out over weights, such as the working days of months, with a number of decimals: each share is the
/// rounded part of the total up to its weight less the one before (half away from zero), so that the shares sum to the
/// total. A weight of zero gets a share of zero.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the weights sum to zero, the total has more decimals than asked for, or a number is
/// too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, allocate};
/// let shares = allocate(Decimal::of_units(10_000_000, 2)?, &[23, 21, 22], 2)?;
/// let shares: Vec<String> = shares.iter().map(|share| share.to_string()).collect();
/// assert_eq!(shares, ["34848.48", "31818.19", "33333.33"]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn allocate(total: Decimal, weights: &[u32], decimals: u8) -> Result<Vec<Decimal>, Error> {
    let refused =
        |what: &str, allowed: &'static str| Error::new(ErrorKind::OutOfRange, what.to_owned(), allowed);
    let brought = total.with_decimals(decimals, Rounding::Nearest)?;
    if brought != total {
        return Err(refused(
            "the total has more decimals than its shares",
            "as many decimals as the total has, or more",
        ));
    }
    let units = brought.units();
    let sum: i128 = weights.iter().map(|weight| i128::from(*weight)).sum();
    if sum == 0 {
        return Err(refused("there is nothing to spread it over", "weights of which one is more than 0"));
    }
    let mut up_to = 0;
    let mut before = 0;
    weights
        .iter()
        .map(|weight| {
            up_to += i128::from(*weight);
            let over = units
                .checked_mul(up_to)
                .ok_or_else(|| refused("the total is too large to spread", "at most 28 digits"))?;
            let here = Rounding::Nearest.divide(over, sum);
            let share = here - before;
            before = here;
            Decimal::of_units(share, decimals)
        })
        .collect()
}

/// A total over a number of days as a rate a day, and by how much the rate times the days overshoots the total: nothing but
/// what rounding adds or takes.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] for no days, and where a number is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, rate_a_day};
/// let (rate, over) = rate_a_day(Decimal::of_units(36_000, 0)?, 252, 2, Rounding::Up)?;
/// assert_eq!((rate.to_string(), over.to_string()), ("142.86".into(), "0.72".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn rate_a_day(
    total: Decimal,
    days: u32,
    decimals: u8,
    rounding: Rounding,
) -> Result<(Decimal, Decimal), Error> {
    let none = || Error::new(ErrorKind::OutOfRange, "there are no days to spread it over", "one day or more");
    let too_large =
        || Error::new(ErrorKind::OutOfRange, "the total is too large to spread", "at most 28 digits");
    let days = Quotient::of(days.into(), 1).filter(|days| days.numerator() > 0).ok_or_else(none)?;
    let rate =
        Quotient::from(total).checked_div(days).ok_or_else(too_large)?.to_decimal(decimals, rounding)?;
    let all = Quotient::from(rate).checked_mul(days);
    let over = all.and_then(|all| all.checked_sub(total.into())).ok_or_else(too_large)?;
    Ok((rate, over.to_decimal(decimals.max(total.decimals()), Rounding::Nearest)?))
}
