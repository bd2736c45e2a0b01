//! Spreading a total over weights so that the shares sum to it.

use crate::error::{Error, ErrorKind};
use crate::interval::{Decimal, Rounding};

/// A total shared out over weights, such as the working days of months, with so many decimals: each share is the
/// rounded part of the total up to its weight less the one before (half away from zero), so that the shares sum to the
/// total. A weight of zero gets a share of zero.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the weights sum to zero, the total has more decimals than asked for, or a number is
/// too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, spread};
/// let shares = spread(Decimal::of_units(10_000_000, 2)?, &[23, 21, 22], 2)?;
/// let shares: Vec<String> = shares.iter().map(|share| share.to_string()).collect();
/// assert_eq!(shares, ["34848.48", "31818.19", "33333.33"]);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn spread(total: Decimal, weights: &[u32], decimals: u8) -> Result<Vec<Decimal>, Error> {
    let refused =
        |what: &str, allowed: &'static str| Error::new(ErrorKind::OutOfRange, what.to_owned(), allowed);
    let zero = Decimal::of_units(0, decimals)?;
    let total = total.plus(zero, total.decimals().max(decimals), Rounding::Nearest)?;
    if total.decimals() > decimals {
        let brought = total.plus(zero, decimals, Rounding::Nearest)?;
        if brought.minus(total, total.decimals(), Rounding::Nearest)?.units() != 0 {
            return Err(refused(
                "the total has more decimals than its shares",
                "as many decimals as the total has, or more",
            ));
        }
    }
    let units = total.plus(zero, decimals, Rounding::Nearest)?.units();
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

/// A total over so many days as a rate a day, and by how much the rate times the days overshoots the total: nothing but
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
    let days = Decimal::of_units(i128::from(days), 0)?;
    let rate = total.over(days, decimals, rounding)?;
    let all = rate.times(days, decimals, Rounding::Nearest)?;
    let over = all.minus(total, decimals.max(total.decimals()), Rounding::Nearest)?;
    Ok((rate, over))
}
