//! What a format says that the values of a column are.

use super::ColumnType;
use super::float_text::decimals_meant;
use crate::table::CellType;
use crate::table::TypedCell as Cell;
use crate::table::TypedDigits;

/// How many values of each type a column has.
#[derive(Debug, Clone, Default)]
pub(super) struct TypesMet {
    texts: u64,
    numbers: u64,
    /// The most digits of a number before and after the decimal mark.
    digits: (usize, usize),
    dates: u64,
    times: u64,
}

impl TypesMet {
    /// Whether some are dates and others texts.
    pub(super) fn are_mixed(&self) -> bool {
        self.texts > 0 && self.dates > 0
    }

    pub(super) fn note(&mut self, cell: &Cell) {
        match cell.holds {
            _ if cell.text.trim().is_empty() => {}
            CellType::Text => self.texts += 1,
            CellType::Number => {
                self.numbers += 1;
                let whole = cell.text.split('.').next().unwrap_or_default();
                let decimals = if cell.text.contains('.') { decimals_meant(&cell.text) } else { 0 };
                self.digits = (self.digits.0.max(whole.len()), self.digits.1.max(decimals));
            }
            CellType::Date | CellType::ZeroOf1904 => {
                self.dates += 1;
                self.times += u64::from(cell.text.len() > 10);
            }
        }
    }

    /// What all of them are.
    pub(super) fn of_all(&self) -> ColumnType {
        match (self.texts, self.numbers, self.dates, self.times) {
            (0, 0, 0, _) => ColumnType::Nothing,
            (0, 0, 1.., 0) => ColumnType::Dates,
            (0, 0, 1.., _) => ColumnType::DateTimes,
            (0, 1.., 0, _) => {
                let (whole, decimals) = (u16::try_from(self.digits.0), u8::try_from(self.digits.1));
                let digits = whole.ok().zip(decimals.ok());
                ColumnType::Numbers(digits.map(|(whole, decimals)| TypedDigits { whole, decimals }))
            }
            _ => ColumnType::Text,
        }
    }
}
