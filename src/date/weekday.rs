//! The seven days of the week.

use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// A day of the week, by name; ordered as in ISO 8601, Monday first.
///
/// ```
/// use mild_ledger::Weekday;
/// assert_eq!(Weekday::Saturday.to_string(), "Saturday");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Weekday {
    /// The first day of the week in ISO 8601.
    Monday,
    /// The day after Monday.
    Tuesday,
    /// The day after Tuesday.
    Wednesday,
    /// The day after Wednesday.
    Thursday,
    /// The day after Thursday.
    Friday,
    /// The day after Friday.
    Saturday,
    /// The last day of the week in ISO 8601.
    Sunday,
}

impl Weekday {
    /// All seven, Monday first.
    pub const ALL: [Self; 7] = [
        Self::Monday,
        Self::Tuesday,
        Self::Wednesday,
        Self::Thursday,
        Self::Friday,
        Self::Saturday,
        Self::Sunday,
    ];

    /// The word for it in plans, options and output, in lower case.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Weekday::Monday.word(), "monday");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Monday => "monday",
            Self::Tuesday => "tuesday",
            Self::Wednesday => "wednesday",
            Self::Thursday => "thursday",
            Self::Friday => "friday",
            Self::Saturday => "saturday",
            Self::Sunday => "sunday",
        }
    }

    pub(crate) fn of_day_number(day_number: i32) -> Self {
        // 1970-01-01 was a Thursday.
        Self::ALL[(i64::from(day_number) + 3).rem_euclid(7) as usize]
    }

    /// Days from Monday, 0 to 6.
    pub(crate) fn days_from_monday(self) -> i64 {
        self as i64
    }
}

impl fmt::Display for Weekday {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(match self {
            Self::Monday => "Monday",
            Self::Tuesday => "Tuesday",
            Self::Wednesday => "Wednesday",
            Self::Thursday => "Thursday",
            Self::Friday => "Friday",
            Self::Saturday => "Saturday",
            Self::Sunday => "Sunday",
        })
    }
}

/// Reads the word for a day, in any case.
impl FromStr for Weekday {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|day| day.word().eq_ignore_ascii_case(text)).ok_or_else(|| {
            let what = format!("{} is not a day of the week", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "monday to sunday")
        })
    }
}
