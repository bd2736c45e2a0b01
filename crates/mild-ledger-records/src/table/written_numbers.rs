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
    Blank,
    /// Why it is no number.
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
            CellType::Number => self.scale.read(text),
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
}
