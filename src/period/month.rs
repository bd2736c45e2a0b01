//! A month of a year.

use crate::date::{Date, civil};
use crate::error::Error;
use std::fmt;

/// A calendar month.
///
/// ```
/// use mild_ledger::Month;
///
/// let february = Month::new(2024, 2)?;
/// assert_eq!(february.first_day().to_string(), "2024-02-01");
/// assert_eq!(february.last_day().to_string(), "2024-02-29");
/// assert_eq!(february.length_in_days(), 29);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Month {
    year: i32,
    month: u8,
}

impl Month {
    /// The month of a year (1 to 9999) with this number (1 to 12).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`](crate::ErrorKind::OutOfRange) for a year or number outside these.
    ///
    /// ```
    /// assert!(mild_ledger::Month::new(2026, 13).is_err());
    /// ```
    pub fn new(year: i32, month: u8) -> Result<Self, Error> {
        Date::new(year, month, 1).map(Self::of)
    }

    /// The month that a date lies in.
    ///
    /// ```
    /// use mild_ledger::Month;
    /// assert_eq!(Month::of("2026-09-30".parse()?), Month::new(2026, 9)?);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of(date: Date) -> Self {
        let (year, month, _) = date.year_month_day();
        Self { year, month }
    }

    /// Its first day.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(2026, 9)?.first_day().to_string(), "2026-09-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first_day(self) -> Date {
        Date::of_known_parts(self.year, self.month, 1)
    }

    /// Its last day.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(1900, 2)?.last_day().to_string(), "1900-02-28");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn last_day(self) -> Date {
        Date::of_known_parts(self.year, self.month, self.length_in_days())
    }

    /// The number of its days, 28 to 31.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(2026, 9)?.length_in_days(), 30);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn length_in_days(self) -> u8 {
        civil::month_length(self.year, self.month)
    }
}

/// Writes year and month as ISO 8601 does, `2026-09`.
impl fmt::Display for Month {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:04}-{:02}", self.year, self.month)
    }
}
