//! What a column of intervals is measured in, by one name.

use super::{ClockMeasure, Count, CountRule, DayCount, Interval, MeanMonth, Parts};
use crate::error::{Error, ErrorKind, quoted};
use crate::number::Fraction;
use crate::shift::Unit;
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

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
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
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
            .chain(DayCount::ALL.iter().copied().map(Self::YearFraction))
            .chain(MeanMonth::ALL.iter().copied().map(Self::MeanMonths))
            .chain([Self::CalendarMonths, Self::Parts])
            .chain(ClockMeasure::all().map(Self::Clock))
    }
}

/// What an interval gives under a [`Measure`].
///
/// ```
/// use mild_ledger::{Figure, Interval};
/// let interval = Interval::between("2026-03-15".parse()?, "2026-05-14".parse()?);
/// let months = interval.measure("fractional months".parse()?)?;
/// assert!(matches!(months, Figure::Fraction(_)));
/// assert_eq!(months.to_string(), "1 + 29/30");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Figure {
    /// A whole number, with the rule that it was counted by.
    Count(Count),
    /// An exact fraction.
    Fraction(Fraction),
    /// Years, months and days.
    Parts(Parts),
}

impl fmt::Display for Figure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Count(count) => count.fmt(f),
            Self::Fraction(fraction) => fraction.fmt(f),
            Self::Parts(parts) => parts.fmt(f),
        }
    }
}

impl Interval {
    /// The figure under any measure.
    ///
    /// # Errors
    /// [`ErrorKind::NoTimeOfDay`] for one that only date-times have.
    ///
    /// ```
    /// use mild_ledger::{Date, Interval, Measure};
    /// let none = Interval::between(Date::MIN, Date::MIN);
    /// assert_eq!(none.measure(Measure::Parts)?.to_string(), "0 days");
    /// assert!(none.measure("complete hours".parse()?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn measure(self, measure: Measure) -> Result<Figure, Error> {
        Ok(match measure {
            Measure::Count(rule) => Figure::Count(self.count(rule)),
            Measure::Fractional(unit) => Figure::Fraction(self.fractional(unit)),
            Measure::YearFraction(convention) => Figure::Fraction(self.year_fraction(convention)),
            Measure::MeanMonths(mean) => Figure::Fraction(self.mean_months(mean)),
            Measure::CalendarMonths => Figure::Fraction(self.calendar_months()),
            Measure::Parts => Figure::Parts(self.parts()),
            Measure::Clock(measure) => return Err(no_time_of_day(measure)),
        })
    }
}

/// The error of a figure that only date-times have.
pub(super) fn no_time_of_day(measure: ClockMeasure) -> Error {
    let what = format!("{measure} were asked of dates, which have no time of day");
    Error::new(ErrorKind::NoTimeOfDay, what, "date-times such as 2026-09-30T17:00")
}

impl fmt::Display for Measure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Count(rule) => f.pad(&format!("{rule}")),
            Self::Fractional(unit) => f.pad(&format!("fractional {}", unit.plural())),
            Self::YearFraction(convention) => f.pad(&format!("{convention}")),
            Self::MeanMonths(mean) => f.pad(&format!("{mean}")),
            Self::CalendarMonths => f.pad("calendar months"),
            Self::Parts => f.pad("parts"),
            Self::Clock(measure) => f.pad(&format!("{measure}")),
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
