//! How the amounts and numbers of a column of the file are written.

use super::cell_type::CellType;
use super::data::trimmed;
use super::kind::Missing;
use super::typed_digits::MOST_DIGITS;
use mild_ledger::{Notation, Scale};

/// How the numbers of a column are written, and what becomes of a row without one.
#[derive(Debug, Clone)]
pub(crate) struct WrittenNumbers {
    pub(crate) scale: Scale,
    pub(crate) notation: Notation,
    /// Texts that mean a blank.
    pub(crate) blanks: Vec<String>,
    pub(crate) missing: Missing,
}

/// What a text turned out to be.
pub(crate) enum NumberRead {
    Units(i128),
    /// Of a number that a format types with more decimals than the column has, rounded half away from zero.
    Rounded(i128),
    Blank,
    /// Why it is not a number.
    Fault(String),
}

/// One absurd number would spoil every sum, so what has more digits than any money is not read.
const MOST_UNITS: u128 = 10_u128.pow(MOST_DIGITS as u32);

impl WrittenNumbers {
    /// Reads a text as it is read wherever it is; a number that the format itself typed is written plainly.
    pub(crate) fn read(&self, text: &str, holds: CellType) -> NumberRead {
        let text = trimmed(text);
        if text.is_empty() || self.blanks.iter().any(|blank| blank.eq_ignore_ascii_case(text)) {
            return NumberRead::Blank;
        }
        let read = match holds {
            CellType::Number => {
                let read = self.scale.read(text);
                if read.is_err()
                    && let Some(units) = self.rounded(text).filter(|units| units.unsigned_abs() < MOST_UNITS)
                {
                    return NumberRead::Rounded(units);
                }
                read
            }
            _ => self.notation.read(text, self.scale),
        };
        match read {
            Ok(number) if number.units().unsigned_abs() < MOST_UNITS => NumberRead::Units(number.units()),
            Ok(_) => NumberRead::Fault(
                "the amount has more than 30 digits (allowed: amounts of at most 30 digits)".to_owned(),
            ),
            Err(error) => NumberRead::Fault(format!("{} (allowed: {})", error.what(), error.allowed())),
        }
    }

    /// The units of a plain number that has more decimals than the column; `None` of any other text.
    fn rounded(&self, text: &str) -> Option<i128> {
        let (whole, decimals) = text.split_once('.')?;
        let (kept, rest) = decimals.split_at_checked(self.scale.decimals().into())?;
        let next = rest.bytes().next().filter(|_| rest.bytes().all(|digit| digit.is_ascii_digit()))?;
        let cut = if kept.is_empty() { whole } else { text.get(..=whole.len() + kept.len())? };
        let units = self.scale.read(cut).ok()?.units();
        let away = if whole.starts_with('-') { -1 } else { 1 };
        units.checked_add(if next >= b'5' { away } else { 0 })
    }
}
