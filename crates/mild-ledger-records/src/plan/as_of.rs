//! The as-of date as a user writes it.

use crate::columns::AsOfDate;
use mild_ledger::{Date, DateTime, Error, NamedDay};
use std::str::FromStr;

/// An as-of date as a user wrote it: a date, a date with a time of it, a day named from today, or now.
///
/// ```
/// use mild_ledger_records::AsOf;
///
/// let as_of: AsOf = "end of last month".parse()?;
/// assert_eq!(as_of.on("2026-10-05T08:00".parse()?)?.to_string(), "2026-09-30");
/// let as_of: AsOf = "2026-09-30T17:00".parse()?;
/// assert_eq!(as_of.on("2026-10-05T08:00".parse()?)?.to_string(), "2026-09-30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum AsOf {
    /// A date.
    Date(Date),
    /// A date and a time of it, which only what counts times looks at.
    Time(DateTime),
    /// A day named from today.
    Named(NamedDay),
    /// Today, with the time that it is.
    Now,
}

impl AsOf {
    /// The date it means when it is this time.
    ///
    /// # Errors
    /// Where the named day lies outside the years 0001 to 9999.
    pub fn on(self, now: DateTime) -> Result<Date, Error> {
        self.resolved(now).map(|as_of| as_of.date)
    }

    /// Whether it depends on the clock.
    #[must_use]
    pub fn needs_clock(self) -> bool {
        matches!(self, Self::Named(_) | Self::Now)
    }

    pub(crate) fn resolved(self, now: DateTime) -> Result<AsOfDate, Error> {
        Ok(match self {
            Self::Date(date) => AsOfDate { date, at: None },
            Self::Time(at) => AsOfDate { date: at.date(), at: Some(at) },
            Self::Named(day) => AsOfDate { date: day.seen_from(now.date())?, at: None },
            Self::Now => AsOfDate { date: now.date(), at: Some(now) },
        })
    }
}

impl FromStr for AsOf {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        if text.trim() == "now" {
            return Ok(Self::Now);
        }
        match text.parse() {
            Ok(date) => Ok(Self::Date(date)),
            // A text with a colon was meant as a time, one with digits as a date; so their errors are the ones to show.
            Err(_) if text.contains(':') => text.parse().map(Self::Time),
            Err(error) if text.bytes().any(|byte| byte.is_ascii_digit()) => Err(error),
            Err(_) => text.parse().map(Self::Named),
        }
    }
}
