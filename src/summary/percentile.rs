//! Percentiles: linear between the closest ranks.

use crate::error::{Error, ErrorKind};
use crate::number::{Decimal, Quotient};
use alloc::format;

/// Where a percentile lies among values in their order: at a rank, or between two that follow each other.
///
/// Of n values, counted from 0, the p-th percentile lies at (n − 1) · p ÷ 100; between two ranks it is worked out in proportion.
/// The median is the 50th.
///
/// ```
/// use mild_ledger::{Decimal, PercentilePlace, Quotient};
///
/// // Of four values the 90th percentile lies at 3 · 90 ÷ 100 = 2.7: seven tenths of the way from the third to the fourth.
/// let place = PercentilePlace::of(4, Decimal::from(90))?.ok_or("no values")?;
/// assert_eq!((place.lower(), place.upper()), (2, 3));
/// let (third, fourth) = (Quotient::from(Decimal::from(30)), Quotient::from(Decimal::from(40)));
/// assert_eq!(place.between(third, fourth), Some(Quotient::from("37".parse::<Decimal>()?)));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PercentilePlace {
    lower: u64,
    /// The part of the way to the next rank.
    beyond: Quotient,
}

impl PercentilePlace {
    /// The place among so many values; `None` where there are none.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for less than 0 or more than 100 per cent, and where the place is too large to work out.
    ///
    /// ```
    /// use mild_ledger::{Decimal, PercentilePlace};
    /// assert_eq!(PercentilePlace::of(0, Decimal::from(50)), Ok(None));
    /// assert!(PercentilePlace::of(9, Decimal::from(101)).is_err());
    /// ```
    pub fn of(values: u64, per_cent: Decimal) -> Result<Option<Self>, Error> {
        let refused = |what: &str| {
            Error::new(ErrorKind::OutOfRange, format!("{per_cent} per cent: {what}"), "0 to 100")
        };
        if per_cent < Decimal::from(0) || per_cent > Decimal::from(100) {
            return Err(refused("there is no such percentile"));
        }
        let Some(last) = values.checked_sub(1) else { return Ok(None) };
        let whole = Quotient::of(last.into(), 100).and_then(|part| part.checked_mul(per_cent.into()));
        let place = whole.and_then(|place| {
            let lower = place.numerator().div_euclid(place.denominator());
            let beyond =
                Quotient::of(place.numerator().rem_euclid(place.denominator()), place.denominator())?;
            Some(Self { lower: u64::try_from(lower).ok()?, beyond })
        });
        place.map(Some).ok_or_else(|| refused("the place is too large to work out"))
    }

    /// The rank that it lies at or after, from 0.
    ///
    /// ```
    /// use mild_ledger::{Decimal, PercentilePlace};
    /// assert_eq!(PercentilePlace::of(5, Decimal::from(50))?.map(|place| place.lower()), Some(2));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn lower(self) -> u64 {
        self.lower
    }

    /// The rank that it lies at or before: that of [`lower`](Self::lower), or the next.
    ///
    /// ```
    /// use mild_ledger::{Decimal, PercentilePlace};
    /// assert_eq!(PercentilePlace::of(6, Decimal::from(50))?.map(|place| place.upper()), Some(3));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn upper(self) -> u64 {
        if self.beyond == Quotient::ZERO { self.lower } else { self.lower + 1 }
    }

    /// The percentile, from the values at the two ranks; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{Decimal, PercentilePlace, Quotient};
    /// let middle = PercentilePlace::of(2, Decimal::from(50))?.and_then(|place| {
    ///     place.between(Decimal::from(3).into(), Decimal::from(4).into())
    /// });
    /// assert_eq!(middle, Some(Quotient::from("3.5".parse::<Decimal>()?)));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn between(self, lower: Quotient, upper: Quotient) -> Option<Quotient> {
        lower.checked_add(upper.checked_sub(lower)?.checked_mul(self.beyond)?)
    }
}

/// The percentile of values that are in their order, linear between the closest ranks; `None` of none. The median is the 50th.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] for less than 0 or more than 100 per cent, and where the result is too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, percentile};
/// let days = [1, 2, 4, 8].map(Decimal::from);
/// let shown = |per_cent: i64| -> Result<String, mild_ledger::Error> {
///     let found = percentile(&days, Decimal::from(per_cent))?;
///     found.map_or(Ok(String::new()), |found| Ok(found.to_decimal(2, Rounding::Nearest)?.to_string()))
/// };
/// assert_eq!((shown(0)?, shown(50)?, shown(90)?, shown(100)?), ("1.00".into(), "3.00".into(), "6.80".into(), "8.00".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn percentile<N: Copy + Into<Quotient>>(
    sorted: &[N],
    per_cent: Decimal,
) -> Result<Option<Quotient>, Error> {
    let Some(place) = PercentilePlace::of(sorted.len() as u64, per_cent)? else { return Ok(None) };
    let at =
        |rank: u64| usize::try_from(rank).ok().and_then(|rank| sorted.get(rank)).map(|value| (*value).into());
    let found =
        at(place.lower()).zip(at(place.upper())).and_then(|(lower, upper)| place.between(lower, upper));
    found.map(Some).ok_or_else(too_large)
}

/// The percentile of values that are in their order, each with how many times it was met; `None` of none.
///
/// It is that of [`percentile`] over every value as often as it was met, without a list of them.
///
/// # Errors
/// [`ErrorKind::OutOfRange`] for less than 0 or more than 100 per cent, and where the counts or the result are too large to hold.
///
/// ```
/// use mild_ledger::{Decimal, Rounding, percentile_of_counted};
/// // One day 97 times, thirty days 3 times.
/// let days = [(Decimal::from(1), 97), (Decimal::from(30), 3)];
/// let found = percentile_of_counted(&days, Decimal::from(97))?.ok_or("no values")?;
/// assert_eq!(found.to_decimal(2, Rounding::Nearest)?.to_string(), "1.87");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn percentile_of_counted<N: Copy + Into<Quotient>>(
    sorted: &[(N, u64)],
    per_cent: Decimal,
) -> Result<Option<Quotient>, Error> {
    let values = sorted.iter().try_fold(0_u64, |sum, (_, count)| sum.checked_add(*count));
    let Some(place) = PercentilePlace::of(values.ok_or_else(too_large)?, per_cent)? else { return Ok(None) };
    let at = |rank: u64| {
        let mut passed = 0_u64;
        sorted.iter().find_map(|(value, count)| {
            passed += count;
            (rank < passed).then(|| (*value).into())
        })
    };
    let found = at(place.lower()).zip(at(place.upper()));
    found.and_then(|(lower, upper)| place.between(lower, upper)).map(Some).ok_or_else(too_large)
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "a percentile is too large to hold", "numbers of fewer digits")
}
