//! Parts of a whole in per cent, which add up to 100.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Rounding};
use alloc::borrow::ToOwned;
use alloc::vec::Vec;
use core::cmp::Reverse;

/// Each part in per cent of all of them, with a number of decimals, so that the shares add up to 100 as they are shown.
///
/// Every share is rounded down. The missing units of the last decimal go to the parts that lost the most by it, of
/// equal ones to the first (the method of largest remainders). No share is off by a whole unit.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] where the parts sum to nothing, which has no shares, for more than 18 decimals, and where a number is too
/// large to hold.
///
/// ```
/// use mild_ledger::{Decimal, shares_of_hundred};
/// let parts = [1, 1, 1].map(Decimal::from);
/// let shares: Vec<String> = shares_of_hundred(&parts, 1)?.iter().map(ToString::to_string).collect();
/// assert_eq!(shares, ["33.4", "33.3", "33.3"]);
/// assert!(shares_of_hundred(&[5, -5].map(Decimal::from), 1).is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn shares_of_hundred(parts: &[Decimal], decimals: u8) -> Result<Vec<Decimal>, Error> {
    let refused =
        |what: &str, allowed: &'static str| Error::new(ErrorKind::OutOfRange, what.to_owned(), allowed);
    let too_large = || refused("the parts are too large to be shared", "at most 15 digits");
    let hundred = Decimal::of_units(100, 0)?.with_decimals(decimals, Rounding::Nearest)?.units();
    let scale = parts.iter().map(|part| part.decimals()).max().unwrap_or(0);
    let units = |part: &Decimal| part.with_decimals(scale, Rounding::Nearest).map(Decimal::units);
    let parts: Vec<i128> = parts.iter().map(units).collect::<Result<_, _>>()?;
    let whole = parts.iter().try_fold(0_i128, |sum, part| sum.checked_add(*part)).ok_or_else(too_large)?;
    if whole == 0 {
        return Err(refused(
            "the parts sum to nothing, of which nothing is a share",
            "parts of a sum other than 0",
        ));
    }
    // Of a whole below zero, parts below zero are shares above it.
    let divided = |part: i128| {
        let over = part.checked_mul(hundred)?.checked_mul(whole.signum())?;
        let whole = whole.checked_abs()?;
        Some((over.div_euclid(whole), over.rem_euclid(whole)))
    };
    let mut shares: Vec<(i128, i128)> =
        parts.iter().map(|part| divided(*part)).collect::<Option<_>>().ok_or_else(too_large)?;
    let given = shares.iter().try_fold(0_i128, |sum, (share, _)| sum.checked_add(*share));
    let missing = given.and_then(|given| hundred.checked_sub(given)).ok_or_else(too_large)?;
    let mut order: Vec<usize> = (0..shares.len()).collect();
    order.sort_by_key(|nth| Reverse(shares.get(*nth).map(|(_, left)| *left)));
    for nth in order.into_iter().take(usize::try_from(missing).unwrap_or(0)) {
        if let Some((share, _)) = shares.get_mut(nth) {
            *share += 1;
        }
    }
    shares.into_iter().map(|(share, _)| Decimal::of_units(share, decimals)).collect()
}
