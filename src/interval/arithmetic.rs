//! Sums, differences, products and quotients of exact decimals.

use super::rounding::{Decimal, Rounding};
use crate::error::{Error, ErrorKind};

impl Decimal {
    /// A number in units of its last decimal (0 to 18 decimals).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more decimals.
    ///
    /// ```
    /// use mild_ledger::Decimal;
    /// assert_eq!(Decimal::of_units(125_050, 2)?.to_string(), "1250.50");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn of_units(units: i128, decimals: u8) -> Result<Self, Error> {
        if decimals > Self::MOST_DECIMALS {
            let what = format!("a number cannot have {decimals} decimals");
            return Err(Error::new(ErrorKind::OutOfRange, what, "0 to 18 decimals"));
        }
        Ok(Self::new(units, decimals))
    }

    /// The sum with so many decimals, rounded once.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it is too large to hold, or the decimals are more than 18.
    ///
    /// ```
    /// use mild_ledger::{Decimal, Rounding};
    /// let sum = Decimal::of_units(105, 1)?.plus(Decimal::of_units(25, 2)?, 1, Rounding::Nearest)?;
    /// assert_eq!(sum.to_string(), "10.8"); // 10.5 + 0.25
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn plus(self, other: Self, decimals: u8, rounding: Rounding) -> Result<Self, Error> {
        let scale = self.decimals().max(other.decimals());
        let sum = self.units_at(scale)?.checked_add(other.units_at(scale)?).ok_or_else(too_large)?;
        rescaled(sum, scale, decimals, rounding)
    }

    /// The difference with so many decimals, rounded once.
    ///
    /// # Errors
    /// Those of [`plus`](Self::plus).
    ///
    /// ```
    /// use mild_ledger::{Decimal, Rounding};
    /// let difference = Decimal::of_units(10, 0)?.minus(Decimal::of_units(25, 2)?, 2, Rounding::Nearest)?;
    /// assert_eq!(difference.to_string(), "9.75");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn minus(self, other: Self, decimals: u8, rounding: Rounding) -> Result<Self, Error> {
        let scale = self.decimals().max(other.decimals());
        let difference = self.units_at(scale)?.checked_sub(other.units_at(scale)?).ok_or_else(too_large)?;
        rescaled(difference, scale, decimals, rounding)
    }

    /// The product with so many decimals, rounded once.
    ///
    /// # Errors
    /// Those of [`plus`](Self::plus).
    ///
    /// ```
    /// use mild_ledger::{Decimal, Rounding};
    /// let product = Decimal::of_units(1_999, 2)?.times(Decimal::of_units(3, 0)?, 2, Rounding::Nearest)?;
    /// assert_eq!(product.to_string(), "59.97");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn times(self, other: Self, decimals: u8, rounding: Rounding) -> Result<Self, Error> {
        let product = self.units().checked_mul(other.units()).ok_or_else(too_large)?;
        rescaled(product, self.decimals() + other.decimals(), decimals, rounding)
    }

    /// The quotient with so many decimals, rounded once.
    ///
    /// # Errors
    /// Those of [`plus`](Self::plus), and [`ErrorKind::OutOfRange`] for a divisor of zero.
    ///
    /// ```
    /// use mild_ledger::{Decimal, Rounding};
    /// let (hundred, three) = (Decimal::of_units(100, 0)?, Decimal::of_units(-3, 0)?);
    /// assert_eq!(hundred.over(three, 2, Rounding::Nearest)?.to_string(), "-33.33");
    /// assert!(hundred.over(Decimal::of_units(0, 2)?, 2, Rounding::Nearest).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn over(self, other: Self, decimals: u8, rounding: Rounding) -> Result<Self, Error> {
        if other.units() == 0 {
            return Err(Error::new(ErrorKind::OutOfRange, "the divisor is zero", "a divisor other than 0"));
        }
        let of_checked = Self::of_units(0, decimals)?.decimals();
        let scaled = |units: i128, places: u8| units.checked_mul(power_of_ten(places)?);
        let over = scaled(self.units(), other.decimals()).and_then(|units| scaled(units, of_checked));
        let of = scaled(other.units(), self.decimals());
        let (over, of) = over.zip(of).ok_or_else(too_large)?;
        let over = if of < 0 { over.checked_neg() } else { Some(over) };
        let (over, of) = over.zip(of.checked_abs()).ok_or_else(too_large)?;
        Self::of_units(rounding.divide(over, of), decimals)
    }

    fn units_at(self, scale: u8) -> Result<i128, Error> {
        let more = power_of_ten(scale - self.decimals());
        more.and_then(|more| self.units().checked_mul(more)).ok_or_else(too_large)
    }
}

/// Units of so many decimals brought to others.
fn rescaled(units: i128, from: u8, to: u8, rounding: Rounding) -> Result<Decimal, Error> {
    let units = if to >= from {
        power_of_ten(to - from).and_then(|more| units.checked_mul(more))
    } else {
        power_of_ten(from - to).map(|less| rounding.divide(units, less))
    };
    Decimal::of_units(units.ok_or_else(too_large)?, to)
}

fn power_of_ten(places: u8) -> Option<i128> {
    10_i128.checked_pow(u32::from(places))
}

fn too_large() -> Error {
    Error::new(ErrorKind::OutOfRange, "the result is too large to hold", "numbers of at most 38 digits")
}
