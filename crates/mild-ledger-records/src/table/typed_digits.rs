//! How many digits numbers have that a format types.

use serde::{Deserialize, Serialize};

/// The digits of the largest amount, or other number, that is read.
pub(super) const MOST_DIGITS: u16 = 30;

/// The digits of numbers that a format types: no cell has more.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct TypedDigits {
    /// Before the decimal mark.
    pub(crate) whole: u16,
    /// After it.
    pub(crate) decimals: u8,
}

impl TypedDigits {
    /// Those of whole numbers of 64 bits.
    #[cfg(any(feature = "parquet", feature = "postgres"))]
    pub(crate) const WHOLE: Self = Self { whole: 20, decimals: 0 };

    /// The digits of both.
    pub(crate) fn and(self, other: Self) -> Self {
        Self { whole: self.whole.max(other.whole), decimals: self.decimals.max(other.decimals) }
    }

    /// Whether each number of so many digits is read as one, so that none is lost by that.
    pub(crate) fn are_always_read(self) -> bool {
        self.whole + u16::from(self.decimals) <= MOST_DIGITS
    }
}
