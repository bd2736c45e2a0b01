//! Exact fractions, and the decimals that a user asks for.

use super::decimal::{Decimal, check_decimals};
use super::rounding::Rounding;
use crate::error::Error;
use alloc::format;
use core::cmp::Ordering;
use core::fmt;

/// An exact number: a whole part, and a numerator over a denominator below one, in lowest terms.
///
/// Whole part and numerator have the same sign, the denominator is above zero, and the numerator is smaller than it; so each
/// number has one form, and fractions that are equal compare, sort and hash as equal.
///
/// ```
/// use mild_ledger::{Interval, Rounding, Unit};
///
/// let months = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?).fractional(Unit::Month);
/// assert_eq!((months.whole(), months.numerator(), months.denominator()), (25, 3, 31));
/// assert_eq!(months.to_string(), "25 + 3/31");
/// assert_eq!(months.to_decimal(2, Rounding::Nearest)?.to_string(), "25.10");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Fraction {
    whole: i64,
    numerator: i64,
    denominator: i64,
}

impl Fraction {
    /// A whole part and a remainder over a divisor above zero, which may be more than one and not in lowest terms; both
    /// of one sign.
    /// Nothing.
    pub const ZERO: Self = Self { whole: 0, numerator: 0, denominator: 1 };

    #[inline]
    pub(crate) fn new(whole: i64, over: i64, of: i64) -> Self {
        let (whole, over) = (whole + over / of, over % of);
        let (mut common, mut rest) = (of, over.abs());
        while rest != 0 {
            (common, rest) = (rest, common % rest);
        }
        Self { whole, numerator: over / common, denominator: of / common }
    }

    /// A quotient; the divisor is above zero.
    #[inline]
    pub(crate) fn of_quotient(over: i64, of: i64) -> Self {
        Self::new(0, over, of)
    }

    /// The same number below zero.
    pub(crate) fn with_sign(self, sign: i64) -> Self {
        Self { whole: self.whole * sign, numerator: self.numerator * sign, ..self }
    }

    /// The whole part.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).fractional(Unit::Year).whole(), 9998);
    /// ```
    #[must_use]
    pub fn whole(self) -> i64 {
        self.whole
    }

    /// The numerator of the part below one.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).fractional(Unit::Year).numerator(), 364);
    /// ```
    #[must_use]
    pub fn numerator(self) -> i64 {
        self.numerator
    }

    /// The denominator of the part below one; 1 where there is none.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).fractional(Unit::Year).denominator(), 365);
    /// ```
    #[must_use]
    pub fn denominator(self) -> i64 {
        self.denominator
    }

    /// The number with a number of decimals (0 to 18), rounded once by the named rule.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for more decimals.
    ///
    /// ```
    /// # use mild_ledger::{DayCount, Interval, Rounding};
    /// let half = Interval::between("2026-01-01".parse()?, "2026-06-30".parse()?).year_fraction(DayCount::Actual360);
    /// assert_eq!(half.to_decimal(4, Rounding::Truncate)?.to_string(), "0.5000");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn to_decimal(self, decimals: u8, rounding: Rounding) -> Result<Decimal, Error> {
        check_decimals(decimals)?;
        let scale = 10_i128.pow(u32::from(decimals));
        let whole = i128::from(self.whole) * scale;
        let (over, of) = (i128::from(self.numerator) * scale, i128::from(self.denominator));
        // The whole part is exact, so only the part below one is rounded.
        Ok(Decimal::new(rounding.divide_onto(whole, over, of), decimals))
    }

    /// The numerator of the whole number over its denominator.
    pub(crate) fn improper_numerator(self) -> i128 {
        i128::from(self.whole) * i128::from(self.denominator) + i128::from(self.numerator)
    }
}

impl PartialOrd for Fraction {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Fraction {
    fn cmp(&self, other: &Self) -> Ordering {
        let below_one = |one: &Self, of: &Self| i128::from(one.numerator) * i128::from(of.denominator);
        self.whole.cmp(&other.whole).then_with(|| below_one(self, other).cmp(&below_one(other, self)))
    }
}

/// Writes `25 + 3/31`, `25`, `3/31`, or with a minus before each part.
impl fmt::Display for Fraction {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&match (self.whole, self.numerator) {
            (whole, 0) => format!("{whole}"),
            (0, over) => format!("{over}/{}", self.denominator),
            (whole, over) if over < 0 => format!("{whole} - {}/{}", -over, self.denominator),
            (whole, over) => format!("{whole} + {over}/{}", self.denominator),
        })
    }
}
