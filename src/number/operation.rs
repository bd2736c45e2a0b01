//! Sums, differences, products and quotients by name.

use super::decimal::too_large;
use super::quotient::Quotient;
use crate::error::{Error, ErrorKind, quoted};
use std::fmt;
use std::str::FromStr;

/// What is done to two numbers.
///
/// ```
/// use mild_ledger::{Operation, Quotient, Rounding};
///
/// let third = Operation::Quotient.of(Quotient::of(1, 1).unwrap_or_default(), Quotient::of(3, 1).unwrap_or_default())?;
/// assert_eq!(third.to_decimal(2, Rounding::Nearest)?.to_string(), "0.33");
/// assert_eq!("product".parse(), Ok(Operation::Product));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Operation {
    /// One and the other.
    Sum,
    /// One less the other.
    Difference,
    /// One times the other.
    Product,
    /// One over the other.
    Quotient,
}

impl Operation {
    /// All four.
    pub const ALL: [Self; 4] = [Self::Sum, Self::Difference, Self::Product, Self::Quotient];

    /// The word for it in plans.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Operation::Sum.word(), "sum");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Sum => "sum",
            Self::Difference => "difference",
            Self::Product => "product",
            Self::Quotient => "quotient",
        }
    }

    /// The result, exactly.
    ///
    /// # Errors
    /// [`ErrorKind::DivisionByZero`], and [`ErrorKind::OutOfRange`] where the result is too large to hold.
    ///
    /// ```
    /// use mild_ledger::{ErrorKind, Operation, Quotient};
    /// let zero = Quotient::default();
    /// assert_eq!(Operation::Quotient.of(zero, zero).map_err(|error| error.kind()), Err(ErrorKind::DivisionByZero));
    /// ```
    pub fn of(self, one: Quotient, other: Quotient) -> Result<Quotient, Error> {
        let result = match self {
            Self::Sum => one.checked_add(other),
            Self::Difference => one.checked_sub(other),
            Self::Product => one.checked_mul(other),
            Self::Quotient if other == Quotient::default() => {
                return Err(Error::new(
                    ErrorKind::DivisionByZero,
                    "the divisor is zero",
                    "a divisor other than 0",
                ));
            }
            Self::Quotient => one.checked_div(other),
        };
        result.ok_or_else(too_large)
    }
}

impl fmt::Display for Operation {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.word())
    }
}

impl FromStr for Operation {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|operation| operation.word() == text).ok_or_else(|| {
            let what = format!("{} is not an operation", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "sum, difference, product or quotient")
        })
    }
}
