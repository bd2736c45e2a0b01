//! The units of the clock that date-times are moved and counted by.

use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// A unit of the clock: always the same number of seconds.
///
/// ```
/// use mild_ledger::ClockUnit;
/// assert_eq!("hours".parse(), Ok(ClockUnit::Hour));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum ClockUnit {
    /// Sixty minutes.
    Hour,
    /// Sixty seconds.
    Minute,
    /// One second.
    Second,
}

impl ClockUnit {
    /// Every unit, longest first.
    pub const ALL: [Self; 3] = [Self::Hour, Self::Minute, Self::Second];

    /// The word for one of it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockUnit::Hour.singular(), "hour");
    /// ```
    #[must_use]
    pub fn singular(self) -> &'static str {
        match self {
            Self::Hour => "hour",
            Self::Minute => "minute",
            Self::Second => "second",
        }
    }

    /// The word for several of it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockUnit::Hour.plural(), "hours");
    /// ```
    #[must_use]
    pub fn plural(self) -> &'static str {
        match self {
            Self::Hour => "hours",
            Self::Minute => "minutes",
            Self::Second => "seconds",
        }
    }

    /// The word that agrees with a number: singular for 1 and −1.
    pub(crate) fn word_for(self, amount: i64) -> &'static str {
        if amount.unsigned_abs() == 1 { self.singular() } else { self.plural() }
    }

    /// How many microseconds one of it has.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockUnit::Minute.microseconds(), 60_000_000);
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        match self {
            Self::Hour => 3_600_000_000,
            Self::Minute => 60_000_000,
            Self::Second => 1_000_000,
        }
    }
}

/// Microseconds as hours, minutes and seconds in words, zero parts left out; empty for none. The sign goes with
/// each amount.
pub(crate) fn clock_amounts(microseconds: i64) -> Vec<String> {
    let mut said = Vec::new();
    let mut rest = microseconds;
    for unit in [ClockUnit::Hour, ClockUnit::Minute] {
        let amount = rest / unit.microseconds();
        rest %= unit.microseconds();
        if amount != 0 {
            said.push(format!("{amount} {}", unit.word_for(amount)));
        }
    }
    let (seconds, part) = (rest / 1_000_000, rest % 1_000_000);
    if part != 0 {
        let sign = if rest < 0 { "-" } else { "" };
        said.push(format!("{sign}{}.{:06} seconds", seconds.abs(), part.abs()));
    } else if seconds != 0 {
        said.push(format!("{seconds} {}", ClockUnit::Second.word_for(seconds)));
    }
    said
}

impl fmt::Display for ClockUnit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.singular())
    }
}

/// Reads the word for one or several, in lower case.
impl FromStr for ClockUnit {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|unit| text == unit.singular() || text == unit.plural()).ok_or_else(|| {
            let what = format!("{} is not a unit of the clock", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "hours, minutes or seconds")
        })
    }
}
