//! The units that dates are moved and counted by.

use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// A unit of time: a number of days, or a number of calendar months.
///
/// ```
/// use mild_ledger::Unit;
/// assert_eq!(Unit::HalfYear.plural(), "half-years");
/// assert_eq!("months".parse(), Ok(Unit::Month));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Unit {
    /// One day.
    Day,
    /// Seven days.
    Week,
    /// One calendar month.
    Month,
    /// Three calendar months.
    Quarter,
    /// Six calendar months.
    HalfYear,
    /// Twelve calendar months.
    Year,
}

/// What a unit is a multiple of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Length {
    Days(i64),
    Months(i64),
}

impl Unit {
    /// Every unit, shortest first.
    pub const ALL: [Self; 6] =
        [Self::Day, Self::Week, Self::Month, Self::Quarter, Self::HalfYear, Self::Year];

    /// The word for one of it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Unit::Day.singular(), "day");
    /// ```
    #[must_use]
    pub fn singular(self) -> &'static str {
        match self {
            Self::Day => "day",
            Self::Week => "week",
            Self::Month => "month",
            Self::Quarter => "quarter",
            Self::HalfYear => "half-year",
            Self::Year => "year",
        }
    }

    /// The word for several of it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Unit::Day.plural(), "days");
    /// ```
    #[must_use]
    pub fn plural(self) -> &'static str {
        match self {
            Self::Day => "days",
            Self::Week => "weeks",
            Self::Month => "months",
            Self::Quarter => "quarters",
            Self::HalfYear => "half-years",
            Self::Year => "years",
        }
    }

    /// The word that agrees with a number: singular for 1 and −1.
    pub(crate) fn word_for(self, amount: i64) -> &'static str {
        if amount.unsigned_abs() == 1 { self.singular() } else { self.plural() }
    }

    pub(crate) fn length(self) -> Length {
        match self {
            Self::Day => Length::Days(1),
            Self::Week => Length::Days(7),
            Self::Month => Length::Months(1),
            Self::Quarter => Length::Months(3),
            Self::HalfYear => Length::Months(6),
            Self::Year => Length::Months(12),
        }
    }
}

impl fmt::Display for Unit {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(self.singular())
    }
}

/// Reads the word for one or several, in lower case.
impl FromStr for Unit {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::ALL.into_iter().find(|unit| text == unit.singular() || text == unit.plural()).ok_or_else(|| {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a unit of time", quoted(text)),
                "days, weeks, months, quarters, half-years or years",
            )
        })
    }
}
