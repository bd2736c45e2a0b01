//! Rounding, by name.

use crate::choice::chosen_by_word;
use core::cmp::Ordering;

/// What becomes of digits beyond those that are kept.
///
/// ```
/// use mild_ledger::{DayCount, Interval, Rounding};
///
/// let third = Interval::between("2026-01-01".parse()?, "2026-05-01".parse()?).year_fraction(DayCount::Actual360);
/// let text = |rounding| third.to_decimal(2, rounding).map(|decimal| decimal.to_string());
/// assert_eq!(text(Rounding::Nearest)?, "0.33");
/// assert_eq!(text(Rounding::Truncate)?, "0.33");
/// assert_eq!(text(Rounding::Up)?, "0.34");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default)]
#[non_exhaustive]
pub enum Rounding {
    /// To the nearest, half away from zero. The default.
    #[default]
    Nearest,
    /// To the nearest, half to the even digit (ISO 80000-1, rule A).
    NearestEven,
    /// Toward zero.
    Truncate,
    /// Away from zero.
    Up,
}

impl Rounding {
    /// All rules.
    pub const ALL: &'static [Self] = &[Self::Nearest, Self::NearestEven, Self::Truncate, Self::Up];

    /// The word for it in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Rounding::Up.word(), "up");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Nearest => "nearest",
            Self::NearestEven => "nearest-even",
            Self::Truncate => "truncate",
            Self::Up => "up",
        }
    }

    /// A quotient rounded to a whole number; the divisor is above zero.
    pub(crate) fn divide(self, over: i128, of: i128) -> i128 {
        self.divide_onto(0, over, of)
    }

    /// A whole number and a quotient of the same sign, rounded to a whole number; the divisor is above zero.
    pub(crate) fn divide_onto(self, whole: i128, over: i128, of: i128) -> i128 {
        let (quotient, remainder) = (whole + over / of, over % of);
        let is_odd = quotient % 2 != 0;
        let away = self.goes_away(remainder.unsigned_abs(), of.unsigned_abs(), is_odd);
        if away { quotient + over.signum() } else { quotient }
    }

    /// Whether a remainder makes one more of the magnitude of a quotient that is odd, or is not.
    pub(crate) fn goes_away(self, remainder: u128, of: u128, is_odd: bool) -> bool {
        match self {
            Self::Truncate => false,
            Self::Up => remainder != 0,
            Self::Nearest => remainder >= of.div_ceil(2),
            Self::NearestEven => match remainder.cmp(&(of - remainder)) {
                Ordering::Less => false,
                Ordering::Equal => is_odd,
                Ordering::Greater => true,
            },
        }
    }
}

chosen_by_word!(Rounding, "a way of rounding");
