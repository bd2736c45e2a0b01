//! A month of a year.

use super::DateRange;
use crate::date::{Date, year_month_day};
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::string::String;
use core::fmt;
use core::str::FromStr;

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
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Month {
    year: i32,
    month: u8,
}

impl Month {
    /// The month of a year (1 to 9999) with this number (1 to 12).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a year or number outside these.
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

    /// Its year, 1 to 9999.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(2026, 9)?.year(), 2026);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year(self) -> i32 {
        self.year
    }

    /// Its number in the year, 1 to 12.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(2026, 9)?.number(), 9);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn number(self) -> u8 {
        self.month
    }

    /// The month a number of months away, back where negative.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::Month;
    /// assert_eq!(Month::new(2026, 11)?.away(3)?, Month::new(2027, 2)?);
    /// assert!(Month::new(1, 1)?.away(-1).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn away(self, months: i32) -> Result<Self, Error> {
        let index = i64::from(self.year) * 12 + i64::from(self.month) - 1 + i64::from(months);
        let (year, month) = (index.div_euclid(12), index.rem_euclid(12) as u8 + 1);
        match i32::try_from(year) {
            Ok(year) if (1..=9_999).contains(&year) => Ok(Self { year, month }),
            _ => {
                let what = format!("the month {months} months away from {self} is none");
                Err(Error::new(ErrorKind::OutOfRange, what, "0001-01 to 9999-12"))
            }
        }
    }

    /// A day of it, by its number.
    ///
    /// # Errors
    /// [`ErrorKind::NoSuchDay`] for a day that it lacks.
    ///
    /// ```
    /// use mild_ledger::Month;
    /// assert_eq!(Month::new(2026, 9)?.day(30)?.to_string(), "2026-09-30");
    /// assert!(Month::new(2026, 9)?.day(31).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn day(self, day: u8) -> Result<Date, Error> {
        Date::new(self.year, self.month, day)
    }

    /// Its days.
    ///
    /// ```
    /// use mild_ledger::Month;
    /// assert_eq!(Month::new(2024, 2)?.dates().days(), 29);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn dates(self) -> DateRange {
        DateRange::between(self.first_day(), self.last_day())
    }

    /// The months from this one through another, both included; none where that lies before it.
    ///
    /// ```
    /// use mild_ledger::Month;
    /// let months = Month::new(2026, 11)?.through(Month::new(2027, 1)?);
    /// assert_eq!(months.map(|month| month.to_string()).collect::<Vec<_>>(), ["2026-11", "2026-12", "2027-01"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn through(self, last: Self) -> impl Iterator<Item = Self> {
        let next = |month: &Self| month.away(1).ok();
        core::iter::successors(Some(self), next).take_while(move |month| *month <= last)
    }

    /// The number of its days, 28 to 31.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Month::new(2026, 9)?.length_in_days(), 30);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn length_in_days(self) -> u8 {
        year_month_day::month_length(self.year, self.month)
    }
}

/// Writes year and month as ISO 8601 does, `2026-09`.
impl fmt::Display for Month {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&format!("{:04}-{:02}", self.year, self.month))
    }
}

/// Reads year and month as ISO 8601 writes them, `2026-09`.
impl FromStr for Month {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        // What the date of its first day is read from tells the rest.
        let first_day: Result<Date, Error> = match text.len() {
            7 => format!("{text}-01").parse(),
            _ => Err(Error::new(ErrorKind::Unreadable, String::new(), "")),
        };
        first_day.map(Self::of).map_err(|_| {
            let what = format!("{} is not a month", crate::error::quoted(text));
            Error::new(ErrorKind::Unreadable, what, "a month such as 2026-09")
        })
    }
}

/// Shows it as it is written.
impl fmt::Debug for Month {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}
