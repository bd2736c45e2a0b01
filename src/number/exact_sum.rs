//! Sums of many quotients whose divisors have little in common.

use super::decimal::Decimal;
use super::quotient::{Quotient, scaled_quotient};
use super::rounding::Rounding;
use crate::error::{Error, ErrorKind};
use alloc::borrow::ToOwned;
use alloc::collections::BTreeMap;

/// The exact sum of quotients, also where it is not a quotient that can be held: a sum of rates by months of 28 to 31 days soon has a divisor of
/// fifty digits. It is then kept by divisor, and rounded from bounds that are known to lie on both sides of it.
///
/// ```
/// use mild_ledger::{ExactSum, Quotient, Rounding};
/// let mut sum = ExactSum::default();
/// // One over each prime number up to 200: a divisor of more than eighty digits.
/// for number in (2..200_i128).filter(|number| (2..*number).all(|less| number % less != 0)) {
///     sum.add(Quotient::of(1, number).ok_or("no quotient")?)?;
/// }
/// assert_eq!(sum.quotient(), None);
/// assert_eq!(sum.over(1, 6, Rounding::Nearest)?.to_string(), "1.949034");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(into = "SumParts", try_from = "SumParts"))]
pub struct ExactSum {
    held: Held,
}

#[derive(Debug, Clone, PartialEq, Eq)]
enum Held {
    Quotient(Quotient),
    /// The sum of the numerators of each divisor.
    ByDivisor(BTreeMap<i128, i128>),
}

/// Below one, parts are known to a number of units.
const UNITS: u128 = 100_000_000_000_000_000_000;

impl ExactSum {
    /// Adds a quotient.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where the sum is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{ExactSum, Quotient};
    /// let mut sum = ExactSum::default();
    /// sum.add(Quotient::of(1, 3).unwrap_or_default())?;
    /// sum.add(Quotient::of(1, 6).unwrap_or_default())?;
    /// assert_eq!(sum.quotient(), Quotient::of(1, 2));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn add(&mut self, number: Quotient) -> Result<(), Error> {
        match &mut self.held {
            Held::Quotient(sum) => match sum.checked_add(number) {
                Some(more) => *sum = more,
                None => {
                    let mut by_divisor = BTreeMap::from([(sum.denominator(), sum.numerator())]);
                    add_to(&mut by_divisor, number)?;
                    self.held = Held::ByDivisor(by_divisor);
                }
            },
            Held::ByDivisor(by_divisor) => add_to(by_divisor, number)?,
        }
        Ok(())
    }

    /// Adds another sum.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where the sum is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{Decimal, ExactSum};
    /// let (mut one, mut other) = (ExactSum::default(), ExactSum::default());
    /// one.add(Decimal::from(1).into())?;
    /// other.add(Decimal::from(2).into())?;
    /// one.add_sum(&other)?;
    /// assert_eq!(one.quotient(), Some(Decimal::from(3).into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn add_sum(&mut self, other: &Self) -> Result<(), Error> {
        match &other.held {
            Held::Quotient(number) => self.add(*number),
            Held::ByDivisor(by_divisor) => by_divisor.iter().try_for_each(|(divisor, units)| {
                self.add(Quotient::of(*units, *divisor).ok_or_else(too_large)?)
            }),
        }
    }

    /// Quotients that add up to it.
    #[cfg(feature = "serde")]
    fn parts(&self) -> impl Iterator<Item = Quotient> + '_ {
        let (whole, by_divisor) = match &self.held {
            Held::Quotient(sum) => (Some(*sum), None),
            Held::ByDivisor(by_divisor) => (None, Some(by_divisor)),
        };
        // A part that was added is one that can be held.
        let parts =
            by_divisor.into_iter().flatten().filter_map(|(divisor, units)| Quotient::of(*units, *divisor));
        whole.into_iter().chain(parts)
    }

    /// The sum as a quotient; `None` where it is none that can be held.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ExactSum::default().quotient(), Some(mild_ledger::Quotient::ZERO));
    /// ```
    #[must_use]
    pub fn quotient(&self) -> Option<Quotient> {
        match &self.held {
            Held::Quotient(sum) => Some(*sum),
            Held::ByDivisor(by_divisor) => {
                by_divisor.iter().try_fold(Quotient::ZERO, |sum, (divisor, units)| {
                    sum.checked_add(Quotient::of(*units, *divisor)?)
                })
            }
        }
    }

    /// The sum over a number of values with a number of decimals, rounded once; 1 for the sum itself. Where no quotient holds the sum, it is rounded
    /// from two bounds, which lie less than 10 to the power of -20 apart for each divisor; where rounding turns from one number to the next between
    /// these, the sum is taken to lie where it turns.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for no values, for more than 18 decimals, and where the result is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{Decimal, ExactSum, Rounding};
    /// let mut sum = ExactSum::default();
    /// sum.add(Decimal::from(10).into())?;
    /// assert_eq!(sum.over(4, 1, Rounding::Nearest)?.to_string(), "2.5");
    /// assert!(sum.over(0, 1, Rounding::Nearest).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn over(&self, values: u64, decimals: u8, rounding: Rounding) -> Result<Decimal, Error> {
        let divisor = Quotient::of(values.into(), 1).filter(|_| values > 0).ok_or_else(|| {
            Error::new(ErrorKind::OutOfRange, "there are no values".to_owned(), "one value or more")
        })?;
        if let Some(sum) = self.quotient()
            && let Some(mean) = sum.checked_div(divisor)
        {
            return mean.to_decimal(decimals, rounding);
        }
        let (lower, upper) = self.bounds(values)?;
        let (low, high) = (lower.to_decimal(decimals, rounding)?, upper.to_decimal(decimals, rounding)?);
        if low == high {
            return Ok(low);
        }
        // Where rounding turns is between the two, or one of them.
        let middle = Quotient::from(low).checked_add(high.into());
        let middle = middle.and_then(|both| both.checked_div(Quotient::of(2, 1)?));
        let turns = [middle, Some(low.into()), Some(high.into())];
        let turn = turns.into_iter().flatten().find(|turn| (lower..=upper).contains(turn));
        turn.unwrap_or(lower).to_decimal(decimals, rounding)
    }

    /// A quotient next to the sum, for an order or a share; the sum itself where that can be held.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// # use mild_ledger::{Decimal, ExactSum};
    /// let mut sum = ExactSum::default();
    /// sum.add(Decimal::from(10).into())?;
    /// assert_eq!(sum.nearly()?, Decimal::from(10).into());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn nearly(&self) -> Result<Quotient, Error> {
        self.quotient().map_or_else(|| self.bounds(1).map(|(lower, _)| lower), Ok)
    }

    /// How many numbers it holds.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ExactSum::default().held(), 1);
    /// ```
    #[must_use]
    pub fn held(&self) -> usize {
        match &self.held {
            Held::Quotient(_) => 1,
            Held::ByDivisor(by_divisor) => by_divisor.len(),
        }
    }

    /// Quotients below and above the sum over a number of values.
    fn bounds(&self, values: u64) -> Result<(Quotient, Quotient), Error> {
        let one;
        let by_divisor = match &self.held {
            Held::Quotient(sum) => {
                one = BTreeMap::from([(sum.denominator(), sum.numerator())]);
                &one
            }
            Held::ByDivisor(by_divisor) => by_divisor,
        };
        let (mut whole, mut below, mut inexact) = (0_i128, 0_u128, 0_u128);
        for (divisor, units) in by_divisor {
            whole = whole.checked_add(units.div_euclid(*divisor)).ok_or_else(too_large)?;
            let part = units.rem_euclid(*divisor).unsigned_abs();
            let (parts, remainder) = scaled_quotient(part, UNITS, divisor.unsigned_abs());
            below = below.checked_add(parts).ok_or_else(too_large)?;
            inexact += u128::from(remainder > 0);
        }
        let scale = i128::try_from(UNITS).map_err(|_| too_large())?;
        let of = scale.checked_mul(values.into()).ok_or_else(too_large)?;
        let bound = |below: u128| {
            let below = i128::try_from(below).ok()?;
            Quotient::of(whole.checked_mul(scale)?.checked_add(below)?, of)
        };
        let above = below.checked_add(inexact).ok_or_else(too_large)?;
        Ok((bound(below).ok_or_else(too_large)?, bound(above).ok_or_else(too_large)?))
    }
}

/// Nothing.
impl Default for ExactSum {
    fn default() -> Self {
        Self { held: Held::Quotient(Quotient::ZERO) }
    }
}

fn add_to(by_divisor: &mut BTreeMap<i128, i128>, number: Quotient) -> Result<(), Error> {
    let units = by_divisor.entry(number.denominator()).or_insert(0);
    *units = units.checked_add(number.numerator()).ok_or_else(too_large)?;
    Ok(())
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the sum is too large to hold".to_owned(), "at most 38 digits")
}

/// A sum by quotients that add up to it.
#[cfg(feature = "serde")]
#[derive(serde::Serialize, serde::Deserialize)]
struct SumParts(alloc::vec::Vec<Quotient>);

#[cfg(feature = "serde")]
impl From<ExactSum> for SumParts {
    fn from(sum: ExactSum) -> Self {
        Self(sum.parts().collect())
    }
}

#[cfg(feature = "serde")]
impl TryFrom<SumParts> for ExactSum {
    type Error = Error;

    fn try_from(SumParts(parts): SumParts) -> Result<Self, Self::Error> {
        let mut sum = Self::default();
        parts.into_iter().try_for_each(|part| sum.add(part))?;
        Ok(sum)
    }
}
