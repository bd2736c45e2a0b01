//! Rounding, by name.

use crate::date::quoted;
use crate::error::{Error, ErrorKind};
use std::fmt;
use std::str::FromStr;

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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default)]
pub enum Rounding {
    /// To the nearest, half away from zero. The default.
    #[default]
    Nearest,
    /// Toward zero.
    Truncate,
    /// Away from zero.
    Up,
}

impl Rounding {
    /// All rules.
    pub const ALL: [Self; 3] = [Self::Nearest, Self::Truncate, Self::Up];

    /// The word for it in plans, options and output.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Rounding::Up.word(), "up");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Nearest => "nearest",
            Self::Truncate => "truncate",
            Self::Up => "up",
        }
    }

    /// A quotient rounded to a whole number; the divisor is above zero.
    pub(crate) fn divide(self, over: i128, of: i128) -> i128 {
        let (quotient, remainder) = (over / of, over % of);
        let away = match self {
            Self::Truncate => false,
            Self::Up => remainder != 0,
            Self::Nearest => remainder.unsigned_abs() >= of.unsigned_abs().div_ceil(2),
        };
        if away { quotient + over.signum() } else { quotient }
    }
}

impl fmt::Display for Rounding {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.word())
    }
}

impl FromStr for Rounding {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|rule| rule.word() == text).ok_or_else(|| {
            let what = format!("{} is no way of rounding", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "nearest, truncate or up")
        })
    }
}

/// A number with a fixed count of decimals, made by rounding.
///
/// ```
/// use mild_ledger::{Interval, Rounding, Unit};
/// let years = Interval::between("2026-01-01".parse()?, "2025-07-01".parse()?).fractional(Unit::Year);
/// let decimal = years.to_decimal(1, Rounding::Nearest)?;
/// assert_eq!((decimal.units(), decimal.decimals()), (-5, 1));
/// assert_eq!(decimal.to_string(), "-0.5");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Decimal {
    units: i128,
    decimals: u8,
}

impl Decimal {
    /// The most decimals there can be.
    pub const MOST_DECIMALS: u8 = 18;

    pub(crate) fn new(units: i128, decimals: u8) -> Self {
        Self { units, decimals }
    }

    /// The number in units of its last decimal.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Rounding, Unit};
    /// let none = Interval::between(Date::MIN, Date::MIN).fractional(Unit::Year);
    /// assert_eq!(none.to_decimal(2, Rounding::Up)?.units(), 0);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn units(self) -> i128 {
        self.units
    }

    /// The count of decimals.
    ///
    /// ```
    /// # use mild_ledger::{Date, Interval, Rounding, Unit};
    /// let none = Interval::between(Date::MIN, Date::MIN).fractional(Unit::Year);
    /// assert_eq!(none.to_decimal(2, Rounding::Up)?.decimals(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn decimals(self) -> u8 {
        self.decimals
    }
}

impl fmt::Display for Decimal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let decimals = usize::from(self.decimals);
        let mut text = format!("{:0>width$}", self.units.unsigned_abs(), width = decimals + 1);
        if decimals > 0 {
            text.insert(text.len() - decimals, '.');
        }
        if self.units < 0 {
            text.insert(0, '-');
        }
        f.pad(&text)
    }
}
