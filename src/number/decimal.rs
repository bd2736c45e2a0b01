//! Exact decimals: whole numbers of the smallest unit, with a number of decimals.

use super::rounding::Rounding;
use crate::error::{Error, ErrorKind};
use alloc::format;
use core::cmp::Ordering;
use core::fmt;
use core::hash::{Hash, Hasher};

/// An exact decimal: a whole number of its smallest unit, and how many decimals that has. Amounts of money are such numbers.
///
/// Decimals compare, sort and hash by their value: `1.0` and `1.00` are equal.
///
/// ```
/// use mild_ledger::{Decimal, Scale};
///
/// let cents = Scale::new(2)?;
/// let sum = cents.read("0.10")?.checked_add(cents.read("0.20")?);
/// assert_eq!(sum, Some("0.3".parse()?));
/// assert_eq!(sum.map(|sum| sum.to_string()), Some("0.30".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Decimal {
    units: i128,
    decimals: u8,
}

impl Decimal {
    /// The most decimals there can be; it leaves 20 digits before the point.
    pub const MOST_DECIMALS: u8 = 18;
    /// Nothing, without decimals.
    pub const ZERO: Self = Self { units: 0, decimals: 0 };

    pub(crate) fn new(units: i128, decimals: u8) -> Self {
        Self { units, decimals }
    }

    /// A number of units of the last decimal.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more than 18 decimals.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// assert_eq!(Decimal::of_units(-1_250, 2)?.to_string(), "-12.50");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn of_units(units: i128, decimals: u8) -> Result<Self, Error> {
        check_decimals(decimals)?;
        Ok(Self { units, decimals })
    }

    /// The number in units of its last decimal.
    ///
    /// ```
    /// assert_eq!("12.50".parse::<mild_ledger::Decimal>()?.units(), 1_250);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn units(self) -> i128 {
        self.units
    }

    /// The count of decimals.
    ///
    /// ```
    /// assert_eq!("12.50".parse::<mild_ledger::Decimal>()?.decimals(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn decimals(self) -> u8 {
        self.decimals
    }

    /// The sum, with as many decimals as the finer of both; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// let sum = "10.5".parse::<Decimal>()?.checked_add("0.25".parse()?);
    /// assert_eq!(sum.map(|sum| sum.to_string()), Some("10.75".into()));
    /// assert_eq!(Decimal::of_units(i128::MAX, 2)?.checked_add("0.01".parse()?), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn checked_add(self, other: Self) -> Option<Self> {
        let decimals = self.decimals.max(other.decimals);
        let units = self.units_at(decimals)?.checked_add(other.units_at(decimals)?)?;
        Some(Self { units, decimals })
    }

    /// The difference, with as many decimals as the finer of both; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// let difference = "10".parse::<Decimal>()?.checked_sub("0.25".parse()?);
    /// assert_eq!(difference.map(|difference| difference.to_string()), Some("9.75".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn checked_sub(self, other: Self) -> Option<Self> {
        let decimals = self.decimals.max(other.decimals);
        let units = self.units_at(decimals)?.checked_sub(other.units_at(decimals)?)?;
        Some(Self { units, decimals })
    }

    /// The number with the other sign; `None` where that is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// assert_eq!("0.25".parse::<Decimal>()?.checked_neg(), Some("-0.25".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn checked_neg(self) -> Option<Self> {
        Some(Self { units: self.units.checked_neg()?, ..self })
    }

    /// The sum of all, nothing for none; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// let amounts = ["1.10", "2.20", "-0.30"].map(|text| text.parse::<Decimal>().unwrap_or(Decimal::ZERO));
    /// assert_eq!(Decimal::checked_sum(amounts), Some("3".parse()?));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn checked_sum(numbers: impl IntoIterator<Item = Self>) -> Option<Self> {
        numbers.into_iter().try_fold(Self::ZERO, Self::checked_add)
    }

    /// The number with a number of decimals (0 to 18), rounded once by the named rule where it had more.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more decimals, and where the result is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{Decimal, Rounding};
    /// let number: Decimal = "2.345".parse()?;
    /// assert_eq!(number.with_decimals(2, Rounding::Nearest)?.to_string(), "2.35");
    /// assert_eq!(number.with_decimals(2, Rounding::NearestEven)?.to_string(), "2.34");
    /// assert_eq!(number.with_decimals(4, Rounding::Nearest)?.to_string(), "2.3450");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn with_decimals(self, decimals: u8, rounding: Rounding) -> Result<Self, Error> {
        check_decimals(decimals)?;
        let units = match decimals.checked_sub(self.decimals) {
            Some(_) => self.units_at(decimals).ok_or_else(too_large)?,
            None => rounding.divide(self.units, power_of_ten(self.decimals - decimals)),
        };
        Ok(Self { units, decimals })
    }

    fn units_at(self, decimals: u8) -> Option<i128> {
        self.units.checked_mul(power_of_ten(decimals - self.decimals))
    }

    /// The whole part, and what is below one in units of the eighteenth decimal.
    fn parts(self) -> (i128, i128) {
        let scale = power_of_ten(self.decimals);
        let finer = power_of_ten(Self::MOST_DECIMALS - self.decimals);
        (self.units / scale, self.units % scale * finer)
    }
}

pub(super) fn check_decimals(decimals: u8) -> Result<(), Error> {
    if decimals <= Decimal::MOST_DECIMALS {
        return Ok(());
    }
    let what = format!("a number cannot have {decimals} decimals");
    Err(Error::new(ErrorKind::OutOfRange, what, "0 to 18 decimals"))
}

/// A power that numbers here are scaled by; at most 36 are asked for.
pub(super) fn power_of_ten(places: u8) -> i128 {
    10_i128.pow(u32::from(places.min(38)))
}

pub(super) fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the result is too large to hold", "numbers of at most 38 digits")
}

impl PartialEq for Decimal {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other).is_eq()
    }
}

impl Eq for Decimal {}

impl PartialOrd for Decimal {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Decimal {
    fn cmp(&self, other: &Self) -> Ordering {
        if self.decimals == other.decimals {
            return self.units.cmp(&other.units);
        }
        self.parts().cmp(&other.parts())
    }
}

impl Hash for Decimal {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.parts().hash(state);
    }
}

impl From<i64> for Decimal {
    fn from(whole: i64) -> Self {
        Self { units: whole.into(), decimals: 0 }
    }
}

impl From<i32> for Decimal {
    fn from(whole: i32) -> Self {
        i64::from(whole).into()
    }
}

impl Default for Decimal {
    fn default() -> Self {
        Self::ZERO
    }
}

/// Writes all decimals: `1250.00`, `-0.05`. With a precision, that many of them, half away from zero. Width, fill and sign are
/// honoured as for other numbers.
impl fmt::Display for Decimal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut magnitude = self.units.unsigned_abs();
        let mut decimals = usize::from(self.decimals);
        let mut zeros = 0;
        if let Some(precision) = f.precision() {
            if precision < decimals {
                let step = 10_u128.pow((decimals - precision) as u32);
                magnitude = magnitude / step + u128::from(magnitude % step >= step.div_ceil(2));
                decimals = precision;
            } else {
                zeros = precision - decimals;
            }
        }
        let mut text = format!("{magnitude:0>width$}", width = decimals + 1);
        if decimals + zeros > 0 {
            text.insert(text.len() - decimals, '.');
            text.extend(core::iter::repeat_n('0', zeros));
        }
        f.pad_integral(self.units >= 0 || magnitude == 0, "", &text)
    }
}
