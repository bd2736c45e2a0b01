//! What a format itself says that a cell is.

/// What a format says that a cell is; those of text say nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum CellType {
    /// A text, whatever it says.
    Text = 0,
    /// A number, written plainly.
    Number = 1,
    /// A date or a date-time, written by ISO 8601.
    Date = 2,
    /// A zero that is shown as 1904-01-01, where days are numbered from it.
    ZeroOf1904 = 3,
}

impl CellType {
    /// The type with this number.
    pub(crate) fn of(number: u8) -> Option<Self> {
        [Self::Text, Self::Number, Self::Date, Self::ZeroOf1904]
            .into_iter()
            .find(|kind| *kind as u8 == number)
    }
}
