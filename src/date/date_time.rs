//! A day and a time of it.

use super::Date;
use super::clock_time::{ClockTime, MICROSECONDS_IN_DAY};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// A date and a time of day to the microsecond, with no zone: what a calendar and a clock on the wall show.
///
/// ```
/// use mild_ledger::{ClockTime, Date, DateTime};
///
/// let launched: DateTime = "2026-09-30T14:30:05".parse()?;
/// assert_eq!(launched, DateTime::new("2026-09-30".parse()?, ClockTime::new(14, 30, 5)?));
/// assert_eq!(launched.date().to_string(), "2026-09-30");
/// assert_eq!(launched.to_string(), "2026-09-30T14:30:05");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct DateTime {
    date: Date,
    time: ClockTime,
}

impl DateTime {
    /// The first there is, 0001-01-01T00:00:00.
    pub const MIN: Self = Self { date: Date::MIN, time: ClockTime::MIDNIGHT };
    /// The last there is, 9999-12-31T23:59:59.999999.
    pub const MAX: Self = Self { date: Date::MAX, time: ClockTime::LAST };

    /// A time of a day.
    ///
    /// ```
    /// use mild_ledger::{ClockTime, Date, DateTime};
    /// assert_eq!(DateTime::new(Date::MIN, ClockTime::MIDNIGHT), DateTime::MIN);
    /// ```
    #[must_use]
    pub fn new(date: Date, time: ClockTime) -> Self {
        Self { date, time }
    }

    /// The day, its time dropped.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateTime::MAX.date(), mild_ledger::Date::MAX);
    /// ```
    #[must_use]
    pub fn date(self) -> Date {
        self.date
    }

    /// The time of the day.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateTime::MAX.time().hour(), 23);
    /// ```
    #[must_use]
    pub fn time(self) -> ClockTime {
        self.time
    }

    /// Microseconds on the clock since 1970-01-01T00:00:00; negative before it.
    ///
    /// ```
    /// let second: mild_ledger::DateTime = "1970-01-01T00:00:01".parse()?;
    /// assert_eq!(second.microseconds(), 1_000_000);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        i64::from(self.date.day_number()) * MICROSECONDS_IN_DAY + self.time.microseconds()
    }

    /// The date-time with this number of microseconds on the clock since 1970-01-01T00:00:00.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::DateTime;
    /// assert_eq!(DateTime::from_microseconds(-1)?.to_string(), "1969-12-31T23:59:59.999999");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_microseconds(microseconds: i64) -> Result<Self, Error> {
        let (days, time) =
            (microseconds.div_euclid(MICROSECONDS_IN_DAY), microseconds.rem_euclid(MICROSECONDS_IN_DAY));
        match Date::in_range(days) {
            Some(date) => Ok(Self { date, time: ClockTime::of_known(time) }),
            None => Err(Error::new(
                ErrorKind::OutOfRange,
                format!("{microseconds} microseconds from 1970 lie outside the years 0001 to 9999"),
                "0001-01-01T00:00:00 to 9999-12-31T23:59:59.999999",
            )),
        }
    }
}

/// Writes the date, a T and the time (ISO 8601, extended form).
impl fmt::Display for DateTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&format!("{}T{}", self.date, self.time))
    }
}

/// Reads a date of ISO 8601 and a time after a T or a space. An offset or Z is refused, for that asks for a zone,
/// and so is what is finer than a microsecond.
impl FromStr for DateTime {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let Some((day, clock)) = text.split_once(['T', ' ']) else {
            return Err(Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a date with a time of day", quoted(text)),
                "a date and a time such as 2026-09-30T14:30 or 2026-09-30T14:30:05.123456",
            ));
        };
        Ok(Self { date: day.parse()?, time: clock.parse()? })
    }
}

/// Shows it as it is written.
impl fmt::Debug for DateTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}

/// Midnight at the beginning of the day.
impl From<Date> for DateTime {
    fn from(date: Date) -> Self {
        Self::new(date, ClockTime::MIDNIGHT)
    }
}
