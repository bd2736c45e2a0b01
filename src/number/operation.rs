//! Sums, differences, products and quotients by name.

use super::decimal::too_large;
use super::quotient::Quotient;
use super::rounding::Rounding;
use crate::choice::chosen_by_word;
use crate::error::{Error, ErrorKind};

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
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
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
    pub const ALL: &'static [Self] = &[Self::Sum, Self::Difference, Self::Product, Self::Quotient];

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

    /// The result of both numbers rounded to decimals first, half away from zero, with how many decimals those are: as many of 18 as its
    /// result can be held with. It serves where the [exact](Self::of) fraction has more digits than are held, and is no longer exact.
    ///
    /// # Errors
    /// Those of [`of`](Self::of), where no such result can be held either.
    ///
    /// ```
    /// use mild_ledger::{Operation, Quotient, Rounding};
    /// let part = |of: i128| Quotient::of(1, of).unwrap_or_default();
    /// let (one, other) = (part(170_141_183_460_469_231_731), part(170_141_183_460_469_231_729));
    /// assert!(Operation::Sum.of(one, other).is_err());
    /// let (sum, decimals) = Operation::Sum.of_rounded(part(3), other)?;
    /// assert_eq!((sum.to_decimal(6, Rounding::Nearest)?.to_string().as_str(), decimals), ("0.333333", 18));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn of_rounded(self, one: Quotient, other: Quotient) -> Result<(Quotient, u8), Error> {
        let with = |decimals: u8| {
            let [one, other] = [one, other].map(|side| side.to_decimal(decimals, Rounding::Nearest));
            self.of(one?.into(), other?.into()).map(|result| (result, decimals))
        };
        let mut tried = [18, 15, 12, 9, 6].into_iter().map(with);
        let first = tried.next().unwrap_or_else(|| Err(too_large()));
        first.or_else(|error| tried.find_map(Result::ok).ok_or(error))
    }
}

chosen_by_word!(Operation, "an operation");
