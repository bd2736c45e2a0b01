//! Exact arithmetic on decimals and fractions, rounded once where a user asks for decimals.

use super::decimal::{Decimal, check_decimals, power_of_ten, too_large};
use super::fraction::Fraction;
use super::rounding::Rounding;
use crate::error::Error;
use alloc::format;
use alloc::string::ToString;
use core::cmp::Ordering;
use core::fmt;

/// An exact number as a quotient of two whole numbers in lowest terms, the divisor above zero.
///
/// Sums, products and quotients of decimals and fractions are worked out in it without rounding; `None` says that a result
/// is too large to hold, never that a step on the way was.
///
/// ```
/// use mild_ledger::{Decimal, Interval, Quotient, Rounding, Unit};
///
/// let months = Interval::between("2026-01-15".parse()?, "2026-08-17".parse()?).fractional(Unit::Month);
/// assert_eq!(months.to_string(), "7 + 2/31");
/// let fee = Quotient::from(months).checked_mul("100".parse::<Decimal>()?.into());
/// assert_eq!(fee.map(|fee| fee.to_decimal(2, Rounding::Nearest)), Some("706.45".parse()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(into = "OverParts", try_from = "OverParts"))]
pub struct Quotient {
    numerator: i128,
    /// Above zero.
    denominator: i128,
}

/// The first number with more than 38 digits.
const MOST: u128 = 10_u128.pow(38);

impl Quotient {
    /// Nothing.
    pub const ZERO: Self = Self { numerator: 0, denominator: 1 };

    /// One whole number over another; `None` where that is zero, or the result is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Quotient;
    /// assert_eq!(Quotient::of(4, -6).map(|number| number.to_string()), Some("-2/3".into()));
    /// assert_eq!(Quotient::of(1, 0), None);
    /// ```
    #[must_use]
    pub fn of(over: i128, of: i128) -> Option<Self> {
        let common = greatest_common_divisor(over.unsigned_abs(), of.unsigned_abs());
        let is_below_zero = (over < 0) != (of < 0);
        let magnitude = over.unsigned_abs().checked_div(common)?;
        let denominator = i128::try_from(of.unsigned_abs() / common).ok().filter(|of| *of > 0)?;
        let numerator = match is_below_zero {
            true => 0_i128.checked_sub_unsigned(magnitude)?,
            false => i128::try_from(magnitude).ok()?,
        };
        Some(Self { numerator, denominator })
    }

    /// The number over its divisor.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Quotient::of(10, 4).map(|number| number.numerator()), Some(5));
    /// ```
    #[must_use]
    pub fn numerator(self) -> i128 {
        self.numerator
    }

    /// The divisor, above zero.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Quotient::of(10, 4).map(|number| number.denominator()), Some(2));
    /// ```
    #[must_use]
    pub fn denominator(self) -> i128 {
        self.denominator
    }

    /// The sum; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Quotient;
    /// let half = Quotient::of(1, 2);
    /// assert_eq!(half.and_then(|half| half.checked_add(Quotient::of(1, 3)?)), Quotient::of(5, 6));
    /// ```
    #[must_use]
    pub fn checked_add(self, other: Self) -> Option<Self> {
        // Whole parts and the parts below one by themselves, so that a sum that fits is not missed.
        let whole = (self.numerator / self.denominator).checked_add(other.numerator / other.denominator)?;
        let (one, two) = (self.numerator % self.denominator, other.numerator % other.denominator);
        let common =
            greatest_common_divisor(self.denominator.unsigned_abs(), other.denominator.unsigned_abs());
        let common = i128::try_from(common).ok()?;
        let (by_one, by_two) = (other.denominator / common, self.denominator / common);
        let below = one.checked_mul(by_one)?.checked_add(two.checked_mul(by_two)?)?;
        let below = Self::of(below, self.denominator.checked_mul(by_one)?)?;
        Self::of(whole.checked_mul(below.denominator)?.checked_add(below.numerator)?, below.denominator)
    }

    /// The difference; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Quotient;
    /// let half = Quotient::of(1, 2);
    /// assert_eq!(half.and_then(|half| half.checked_sub(Quotient::of(1, 3)?)), Quotient::of(1, 6));
    /// ```
    #[must_use]
    pub fn checked_sub(self, other: Self) -> Option<Self> {
        self.checked_add(Self { numerator: other.numerator.checked_neg()?, ..other })
    }

    /// The product; `None` where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Quotient;
    /// let two_thirds = Quotient::of(2, 3);
    /// assert_eq!(two_thirds.and_then(|number| number.checked_mul(Quotient::of(3, 4)?)), Quotient::of(1, 2));
    /// ```
    #[must_use]
    pub fn checked_mul(self, other: Self) -> Option<Self> {
        // What divides one side's numerator and the other's divisor is taken out first.
        let (one, two) =
            (Self::of(self.numerator, other.denominator)?, Self::of(other.numerator, self.denominator)?);
        Some(Self {
            numerator: one.numerator.checked_mul(two.numerator)?,
            denominator: one.denominator.checked_mul(two.denominator)?,
        })
    }

    /// The quotient; `None` for a divisor of zero, and where it is too large to hold.
    ///
    /// ```
    /// use mild_ledger::Quotient;
    /// let half = Quotient::of(1, 2);
    /// assert_eq!(half.and_then(|half| half.checked_div(Quotient::of(-3, 4)?)), Quotient::of(-2, 3));
    /// assert_eq!(half.and_then(|half| half.checked_div(Quotient::of(0, 4)?)), None);
    /// ```
    #[must_use]
    pub fn checked_div(self, other: Self) -> Option<Self> {
        self.checked_mul(Self::of(other.denominator, other.numerator)?)
    }

    /// The number with a number of decimals (0 to 18), rounded once by the named rule.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for more decimals, and where the result is too large to
    /// hold.
    ///
    /// ```
    /// use mild_ledger::{Quotient, Rounding};
    /// let third = Quotient::of(100, -3).map(|number| number.to_decimal(2, Rounding::Nearest));
    /// assert_eq!(third, Some("-33.33".parse()));
    /// ```
    pub fn to_decimal(self, decimals: u8, rounding: Rounding) -> Result<Decimal, Error> {
        check_decimals(decimals)?;
        let scale = power_of_ten(decimals);
        let whole = (self.numerator / self.denominator).checked_mul(scale).ok_or_else(too_large)?;
        let (over, of) = (self.numerator % self.denominator, self.denominator.unsigned_abs());
        let (below, remainder) = scaled_quotient(over.unsigned_abs(), scale.unsigned_abs(), of);
        let magnitude = whole.unsigned_abs().checked_add(below).ok_or_else(too_large)?;
        let away = rounding.goes_away(remainder, of, magnitude % 2 == 1);
        let magnitude =
            magnitude.checked_add(u128::from(away)).filter(|units| *units < MOST).ok_or_else(too_large)?;
        let units = match self.numerator < 0 {
            true => 0_i128.checked_sub_unsigned(magnitude),
            false => i128::try_from(magnitude).ok(),
        };
        Ok(Decimal::new(units.ok_or_else(too_large)?, decimals))
    }
}

/// A number below a divisor, times a scale, over the divisor: the whole part, which is below the scale, and the remainder.
/// It goes digit by digit, so that no product is too large.
pub(super) fn scaled_quotient(over: u128, scale: u128, of: u128) -> (u128, u128) {
    if let Some(product) = over.checked_mul(scale) {
        return (product / of, product % of);
    }
    let (mut quotient, mut remainder) = (0, over);
    let mut left = scale;
    while left > 1 {
        left /= 10;
        // Ten times the remainder by additions, since the divisor may fill all bits but one.
        let mut digit = 0;
        let mut next = 0_u128;
        for _ in 0..10 {
            next += remainder;
            if next >= of {
                next -= of;
                digit += 1;
            }
        }
        quotient = quotient * 10 + digit;
        remainder = next;
    }
    (quotient, remainder)
}

fn greatest_common_divisor(a: u128, b: u128) -> u128 {
    let (mut a, mut b) = (a, b);
    while b != 0 {
        (a, b) = (b, a % b);
    }
    a
}

/// Nothing.
impl Default for Quotient {
    fn default() -> Self {
        Self { numerator: 0, denominator: 1 }
    }
}

impl From<Decimal> for Quotient {
    fn from(number: Decimal) -> Self {
        let of = power_of_ten(number.decimals());
        // A divisor that is a power of ten fits, so there is always a quotient.
        Self::of(number.units(), of).unwrap_or(Self { numerator: number.units(), denominator: of })
    }
}

impl From<Fraction> for Quotient {
    fn from(number: Fraction) -> Self {
        Self { numerator: number.improper_numerator(), denominator: number.denominator().into() }
    }
}

impl PartialOrd for Quotient {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Quotient {
    fn cmp(&self, other: &Self) -> Ordering {
        // Whole parts first, then the parts below one by the reciprocals of the rest, as Euclid does.
        let (mut one, mut two) = (
            (self.numerator.rem_euclid(self.denominator), self.denominator),
            (other.numerator.rem_euclid(other.denominator), other.denominator),
        );
        let whole = |number: &Self| number.numerator.div_euclid(number.denominator);
        let mut order = whole(self).cmp(&whole(other));
        let mut is_turned = false;
        while order.is_eq() {
            order = match (one.0, two.0) {
                (0, 0) => return Ordering::Equal,
                (0, _) => Ordering::Less,
                (_, 0) => Ordering::Greater,
                _ => {
                    let wholes = (one.1 / one.0).cmp(&(two.1 / two.0));
                    (one, two) = ((one.1 % one.0, one.0), (two.1 % two.0, two.0));
                    is_turned = !is_turned;
                    wholes
                }
            };
            if !order.is_eq() {
                break;
            }
        }
        if is_turned { order.reverse() } else { order }
    }
}

/// Writes `7`, `-2/3`.
impl fmt::Display for Quotient {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&match self.denominator {
            1 => self.numerator.to_string(),
            of => format!("{}/{of}", self.numerator),
        })
    }
}

/// A quotient by its number and its divisor.
#[cfg(feature = "serde")]
#[derive(serde::Serialize, serde::Deserialize)]
struct OverParts(i128, i128);

#[cfg(feature = "serde")]
impl From<Quotient> for OverParts {
    fn from(number: Quotient) -> Self {
        Self(number.numerator(), number.denominator())
    }
}

#[cfg(feature = "serde")]
impl TryFrom<OverParts> for Quotient {
    type Error = &'static str;

    fn try_from(OverParts(over, of): OverParts) -> Result<Self, Self::Error> {
        Self::of(over, of).ok_or("a number over one that is not zero was expected")
    }
}
