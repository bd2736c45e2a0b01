//! Dates that programs write where there is none.

use crate::date::Date;
use alloc::format;
use core::fmt;

/// A date that often represents "no date".
///
/// ```
/// use mild_ledger::Filler;
///
/// let filler = Filler::of("9999-12-31".parse()?);
/// assert_eq!(filler, Some(Filler::EndOfTime));
/// assert_eq!(Filler::of("2026-09-30".parse()?), None);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Filler {
    /// 1899-12-30 or 1899-12-31: a zero that a spreadsheet showed as a date.
    SpreadsheetZero,
    /// 1900-01-00, which is not a day: a zero that a spreadsheet showed as a date.
    NoDayOf1900,
    /// 1900-01-01: a one shown as a date, or a true date.
    SpreadsheetOne,
    /// 1970-01-01: a zero of computer clocks, or a true date.
    ClockZero,
    /// 0001-01-01, the first date there is.
    StartOfTime,
    /// 9999-12-31, the last date there is.
    EndOfTime,
    /// 1904-01-01 where days are numbered from it: a zero shown as a date.
    SerialZero,
    /// A date that the person who reads the column named as a filler.
    Named(Date),
}

impl Filler {
    /// The filler that a date is or may be, if it is one.
    ///
    /// ```
    /// use mild_ledger::Filler;
    /// assert_eq!(Filler::of("1970-01-01".parse()?), Some(Filler::ClockZero));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of(date: Date) -> Option<Self> {
        match date.day_number() {
            -25_569 | -25_568 => Some(Self::SpreadsheetZero),
            -25_567 => Some(Self::SpreadsheetOne),
            0 => Some(Self::ClockZero),
            _ if date == Date::MIN => Some(Self::StartOfTime),
            _ if date == Date::MAX => Some(Self::EndOfTime),
            _ => None,
        }
    }

    /// Whether it is treated as blank; 1900-01-01 and 1970-01-01 can be true and are not.
    ///
    /// ```
    /// use mild_ledger::Filler;
    /// assert!(Filler::EndOfTime.counts_as_blank());
    /// assert!(!Filler::ClockZero.counts_as_blank());
    /// ```
    #[must_use]
    pub fn counts_as_blank(self) -> bool {
        !matches!(self, Self::SpreadsheetOne | Self::ClockZero)
    }
}

impl fmt::Display for Filler {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let words = match self {
            Self::Named(date) => return f.pad(&format!("{date}, which the plan takes for no date")),
            Self::SpreadsheetZero => "1899-12-30 or -31, a zero shown as a date",
            Self::NoDayOf1900 => "1900-01-00, a zero shown as a date",
            Self::SpreadsheetOne => "1900-01-01, perhaps a one shown as a date",
            Self::ClockZero => "1970-01-01, perhaps a zero shown as a date",
            Self::StartOfTime => "0001-01-01, the first date there is",
            Self::EndOfTime => "9999-12-31, the last date there is",
            Self::SerialZero => "1904-01-01, a zero shown as a date",
        };
        f.pad(words)
    }
}
