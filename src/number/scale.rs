//! The number of decimals of a column of amounts, and amounts read by it.

use super::decimal::{Decimal, check_decimals};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// The number of decimals that all amounts of a column have.
///
/// ```
/// use mild_ledger::Scale;
///
/// let cents = Scale::new(2)?;
/// assert_eq!(cents.read("-12.5")?.units(), -1250);
/// assert!(cents.read("12.345").is_err());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Scale {
    decimals: u8,
}

impl Scale {
    /// The most decimals there can be; it leaves 20 digits before the point.
    pub const MOST_DECIMALS: u8 = Decimal::MOST_DECIMALS;

    /// A scale of 0 to 18 decimals.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more.
    ///
    /// ```
    /// assert!(mild_ledger::Scale::new(19).is_err());
    /// ```
    pub fn new(decimals: u8) -> Result<Self, Error> {
        check_decimals(decimals)?;
        Ok(Self { decimals })
    }

    pub(super) fn of_checked(decimals: u8) -> Self {
        Self { decimals }
    }

    /// The number of decimals.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Scale::new(2)?.decimals(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn decimals(self) -> u8 {
        self.decimals
    }

    /// The amount of so many smallest units.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Scale::new(2)?.amount(-5).to_string(), "-0.05");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn amount(self, units: i128) -> Decimal {
        Decimal::new(units, self.decimals)
    }

    /// Reads a plain decimal: an optional sign, digits, and a point with no more decimals than the scale has
    /// (zeros beyond it lose nothing and are allowed).
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for any other text, such as one with grouped digits or a currency symbol, and
    /// for decimals finer than the scale; [`ErrorKind::OutOfRange`] where it is too large to hold.
    ///
    /// ```
    /// let cents = mild_ledger::Scale::new(2)?;
    /// assert_eq!(cents.read("1250")?.to_string(), "1250.00");
    /// assert!(cents.read("1,250.00").is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn read(self, text: &str) -> Result<Decimal, Error> {
        self.read_units(text.as_bytes())
            .map(|units| self.amount(units))
            .map_err(|fault| fault.into_error(text, self))
    }

    /// [`read`](Self::read) without the words of an error, for loops over columns.
    pub(crate) fn read_units(self, text: &[u8]) -> Result<i128, Fault> {
        let (negative, digits) = match text {
            [b'-', rest @ ..] => (true, rest),
            [b'+', rest @ ..] => (false, rest),
            _ => (false, text),
        };
        if digits.is_empty() {
            return Err(Fault::Empty);
        }
        // Up to 18 digits fit 64 bits, which nearly every amount needs no more than.
        if digits.len() + usize::from(self.decimals) <= 18 {
            let units = i128::from(self.read_short(text, digits)?);
            return Ok(if negative { -units } else { units });
        }
        self.read_long(text, digits, negative)
    }

    /// The same for so few digits, with those after the point, that they fit.
    fn read_short(self, text: &[u8], digits: &[u8]) -> Result<u64, Fault> {
        let digit_at =
            |at: usize| digits.get(at).map(|sign| sign.wrapping_sub(b'0')).filter(|digit| *digit < 10);
        let (mut units, mut at) = (0_u64, 0);
        while let Some(digit) = digit_at(at) {
            units = units * 10 + u64::from(digit);
            at += 1;
        }
        let mut missing = self.decimals;
        if digits.get(at) == Some(&b'.') {
            at += 1;
            while missing > 0
                && let Some(digit) = digit_at(at)
            {
                units = units * 10 + u64::from(digit);
                at += 1;
                missing -= 1;
            }
            while missing == 0 && digits.get(at) == Some(&b'0') {
                at += 1;
            }
            match digit_at(at) {
                Some(_) => return Err(Fault::TooFine),
                None if digits.len() == 1 => return Err(Fault::Empty),
                None => {}
            }
        }
        match digits.get(at) {
            Some(sign) => Err(Fault::of_sign(text, *sign)),
            None => Ok((0..missing).fold(units, |units, _| units * 10)),
        }
    }

    /// The same for any number of digits.
    fn read_long(self, text: &[u8], digits: &[u8], negative: bool) -> Result<i128, Fault> {
        let mut units: i128 = 0;
        let mut decimals: Option<u8> = None;
        let mut any_digit = false;
        for &sign in digits {
            match sign {
                b'0'..=b'9' => {
                    any_digit = true;
                    if decimals == Some(self.decimals) {
                        if sign != b'0' {
                            return Err(Fault::TooFine);
                        }
                        continue;
                    }
                    units = push_digit(units, sign - b'0', negative)?;
                    decimals = decimals.map(|count| count + 1);
                }
                b'.' if decimals.is_none() => decimals = Some(0),
                _ => return Err(Fault::of_sign(text, sign)),
            }
        }
        if !any_digit {
            return Err(Fault::Empty);
        }
        for _ in decimals.unwrap_or(0)..self.decimals {
            units = push_digit(units, 0, negative)?;
        }
        Ok(units)
    }
}

impl Decimal {
    /// Its number of decimals, as a column has one.
    ///
    /// ```
    /// use mild_ledger::{Decimal, Scale};
    /// assert_eq!("12.50".parse::<Decimal>()?.scale(), Scale::new(2)?);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn scale(self) -> Scale {
        Scale::of_checked(self.decimals())
    }
}

/// Reads a plain decimal such as `1250.00` or `-12.5`, with as many decimals as it is written with.
impl FromStr for Decimal {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let decimals = text.split_once('.').map_or(0, |(_, decimals)| decimals.len());
        Scale::new(u8::try_from(decimals).unwrap_or(u8::MAX))?.read(text)
    }
}

const PLAIN: &str = "a plain decimal such as 1250.00 or -12.50";

/// Appends a digit, downward for a negative number so that the smallest can be reached.
fn push_digit(units: i128, digit: u8, negative: bool) -> Result<i128, Fault> {
    let digit = if negative { -i128::from(digit) } else { i128::from(digit) };
    units.checked_mul(10).and_then(|units| units.checked_add(digit)).ok_or(Fault::TooLarge)
}

/// Why a text is not an amount, in a form that costs nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Fault {
    Empty,
    Sign(ShownSign),
    TooFine,
    TooLarge,
}

/// A character of a text that does not belong in an amount.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct ShownSign(char);

impl Fault {
    /// The error in words.
    pub(super) fn into_error(self, text: &str, scale: Scale) -> Error {
        let what = quoted(text);
        match self {
            Self::Empty => Error::new(ErrorKind::Unreadable, "there is no amount", PLAIN),
            Self::Sign(sign) => {
                Error::new(ErrorKind::Unreadable, format!("{what} is not an amount: it holds {sign}"), PLAIN)
            }
            Self::TooFine => Error::new(
                ErrorKind::Unreadable,
                format!("{what} is too fine an amount"),
                format!("at most {} decimals", scale.decimals),
            ),
            Self::TooLarge => Error::new(
                ErrorKind::OutOfRange,
                format!("{what} is too large an amount"),
                "amounts of at most 38 digits",
            ),
        }
    }

    /// The fault of a character that cannot be in an amount.
    pub(super) fn of_char(sign: char) -> Self {
        Self::Sign(ShownSign(sign))
    }

    /// The fault of a byte that cannot be in an amount, shown as the whole character it belongs to.
    fn of_sign(text: &[u8], byte: u8) -> Self {
        let whole = core::str::from_utf8(text).ok().and_then(|text| {
            text.char_indices().find(|(at, sign)| {
                text.as_bytes()[*at..*at + sign.len_utf8()].contains(&byte) && !sign.is_ascii_digit()
            })
        });
        Self::Sign(ShownSign(whole.map_or(char::REPLACEMENT_CHARACTER, |(_, sign)| sign)))
    }
}

impl fmt::Display for ShownSign {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.0 {
            '.' => f.write_str("a second point"),
            ' ' => f.write_str("a space"),
            sign => write!(f, "'{}'", sign.escape_debug()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::Scale;
    use alloc::string::String;
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(4_000))]
        #[test]
        fn short_texts_are_read_as_long_ones_are(text in "[0-9.x+-]{1,9}", decimals in 0_u8..5) {
            let scale = Scale::of_checked(decimals);
            let text: String = text;
            let digits = text.trim_start_matches(['-', '+']).as_bytes();
            // What a character comes before twice is left to the longer of the two.
            if digits.len() + 1 >= text.len() && !digits.is_empty() {
                let long = scale.read_long(text.as_bytes(), digits, text.starts_with('-'));
                prop_assert_eq!(scale.read_units(text.as_bytes()), long);
            }
        }
    }
}
