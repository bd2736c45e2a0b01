//! What a column of intervals is measured in, by one name.

use super::{ClockMeasure, CountRule, DayCount, MeanMonth};
use crate::error::{Error, ErrorKind, quoted};
use crate::shift::Unit;
use std::fmt;
use std::str::FromStr;

/// A figure that an interval can be asked for: a count, an exact fraction, or its parts.
///
/// Read from and written as `days`, `complete months`, `month starts passed`, `fractional years`, `actual-360`,
/// `parts` and so on.
///
/// ```
/// use mild_ledger::{Measure, Unit};
/// assert_eq!("fractional months".parse(), Ok(Measure::Fractional(Unit::Month)));
/// assert_eq!(Measure::Parts.to_string(), "parts");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Measure {
    /// A whole number under a rule of counting.
    Count(CountRule),
    /// Complete units and the part of the one that is running.
    Fractional(Unit),
    /// The fraction of a year by a convention.
    YearFraction(DayCount),
    /// Days in mean months.
    MeanMonths(MeanMonth),
    /// The days in each calendar month ÷ its length.
    CalendarMonths,
    /// Years, months and days.
    Parts,
    /// A figure that only date-times have.
    Clock(ClockMeasure),
}

impl Measure {
    /// Every measure, in the order in which messages list them.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Measure::all().count(), 36);
    /// ```
    pub fn all() -> impl Iterator<Item = Self> {
        let units = Unit::ALL.into_iter().filter(|unit| *unit != Unit::Day);
        CountRule::all()
            .map(Self::Count)
            .chain(units.map(Self::Fractional))
            .chain(DayCount::ALL.map(Self::YearFraction))
            .chain(MeanMonth::ALL.map(Self::MeanMonths))
            .chain([Self::CalendarMonths, Self::Parts])
            .chain(ClockMeasure::all().map(Self::Clock))
    }
}

impl fmt::Display for Measure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Count(rule) => write!(f, "{rule}"),
            Self::Fractional(unit) => write!(f, "fractional {}", unit.plural()),
            Self::YearFraction(convention) => write!(f, "{convention}"),
            Self::MeanMonths(mean) => write!(f, "{mean}"),
            Self::CalendarMonths => f.write_str("calendar months"),
            Self::Parts => f.write_str("parts"),
            Self::Clock(measure) => write!(f, "{measure}"),
        }
    }
}

impl FromStr for Measure {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::all().find(|measure| measure.to_string() == text).ok_or_else(|| {
            Error::new(
                ErrorKind::Unreadable,
                format!("{} is not a way of counting", quoted(text)),
                Self::all().map(|measure| format!("\"{measure}\"")).collect::<Vec<_>>().join(", "),
            )
        })
    }
}
