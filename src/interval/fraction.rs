//! Exact fractions, and the decimals that somebody asks for.

use super::rounding::{Decimal, Rounding};
use crate::error::{Error, ErrorKind};
use std::fmt;

/// An exact number: a whole part and a part `over` / `of` of one more.
///
/// Whole and over have the same sign, `of` is above zero, and over is smaller than it.
///
/// ```
/// use mild_ledger::{Interval, Rounding, Unit};
///
/// let months = Interval::between("2019-11-30".parse()?, "2022-01-02".parse()?).fractional(Unit::Month);
/// assert_eq!((months.whole(), months.over(), months.of()), (25, 3, 31));
/// assert_eq!(months.to_string(), "25 + 3/31");
/// assert_eq!(months.to_decimal(2, Rounding::Nearest)?.to_string(), "25.10");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Fraction {
    whole: i64,
    over: i64,
    of: i64,
}

impl Fraction {
    /// A whole part and a remainder, both of one sign, over a divisor above zero.
    pub(crate) fn new(whole: i64, over: i64, of: i64) -> Self {
        Self { whole, over, of }
    }

    /// A quotient with its whole part taken out; the divisor is above zero.
    pub(crate) fn of_quotient(over: i64, of: i64) -> Self {
        Self { whole: over / of, over: over % of, of }
    }

    /// The same number over the smallest divisor that it has.
    pub(crate) fn in_lowest_terms(self) -> Self {
        let (mut common, mut rest) = (self.of, self.over.abs());
        while rest != 0 {
            (common, rest) = (rest, common % rest);
        }
        Self { over: self.over / common, of: self.of / common, ..self }
    }

    /// The same number below zero.
    pub(crate) fn with_sign(self, sign: i64) -> Self {
        Self { whole: self.whole * sign, over: self.over * sign, of: self.of }
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

    /// What is left over, in parts of one `of`-th.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).fractional(Unit::Year).over(), 364);
    /// ```
    #[must_use]
    pub fn over(self) -> i64 {
        self.over
    }

    /// Into how many parts one more is divided.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Unit};
    /// assert_eq!(Interval::between(Date::MIN, Date::MAX).fractional(Unit::Year).of(), 365);
    /// ```
    #[must_use]
    pub fn of(self) -> i64 {
        self.of
    }

    /// The number with so many decimals (0 to 18), rounded once by the named rule.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more decimals.
    ///
    /// ```
    /// # use mild_ledger::{DayCount, Interval, Rounding};
    /// let half = Interval::between("2026-01-01".parse()?, "2026-06-30".parse()?).year_fraction(DayCount::Actual360);
    /// assert_eq!(half.to_decimal(4, Rounding::Truncate)?.to_string(), "0.5000");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn to_decimal(self, decimals: u8, rounding: Rounding) -> Result<Decimal, Error> {
        if decimals > Decimal::MOST_DECIMALS {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("a number cannot be rounded to {decimals} decimals"),
                "0 to 18 decimals",
            ));
        }
        let scale = 10_i128.pow(u32::from(decimals));
        let (whole, over, of) = (i128::from(self.whole), i128::from(self.over), i128::from(self.of));
        // The whole part is exact, so only the part below one is rounded.
        let units = whole * scale + rounding.divide(over * scale, of);
        Ok(Decimal::new(units, decimals))
    }

    /// The numerator of the whole number over [`of`](Self::of).
    pub(crate) fn numerator(self) -> i128 {
        i128::from(self.whole) * i128::from(self.of) + i128::from(self.over)
    }
}

/// Compares the numbers, whatever they are divided into.
impl PartialOrd for Fraction {
    fn partial_cmp(&self, other: &Self) -> Option<std::cmp::Ordering> {
        (self.numerator() * i128::from(other.of)).partial_cmp(&(other.numerator() * i128::from(self.of)))
    }
}

/// Writes `25 + 3/31`, `25`, `3/31`, or with a minus before each part.
impl fmt::Display for Fraction {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (self.whole, self.over) {
            (whole, 0) => write!(f, "{whole}"),
            (0, over) => write!(f, "{over}/{}", self.of),
            (whole, over) if over < 0 => write!(f, "{whole} - {}/{}", -over, self.of),
            (whole, over) => write!(f, "{whole} + {over}/{}", self.of),
        }
    }
}
