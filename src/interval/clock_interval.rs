//! The time between two date-times.

use super::Interval;
use crate::date::clock_time::MICROSECONDS_IN_DAY;
use crate::date::{Date, DateTime, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use crate::number::Fraction;
use crate::reasoning::Working;
use crate::shift::{ClockUnit, MonthEnd, clock_amounts};
use alloc::borrow::ToOwned;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

/// The time from one date-time to another.
///
/// Days and the units of the calendar are those of the dates alone ([`dates`](ClockInterval::dates)), whatever the clock shows.
/// Hours, minutes and seconds are those of the clock, unless the instants in UTC are given with
/// [`with_instants`](Self::with_instants): then a zone's clock changes are counted for what they were. As for
/// [`Interval`], an end before the start only changes the sign.
///
/// ```
/// use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit};
///
/// let turnaround = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
/// assert_eq!(turnaround.figure(ClockMeasure::Complete(ClockUnit::Hour)).to_string(), "41");
/// assert_eq!(turnaround.figure(ClockMeasure::Fractional(ClockUnit::Hour)).to_string(), "41 + 1/2");
/// assert_eq!(turnaround.dates().days().value(), 2);
/// assert_eq!(turnaround.figure(ClockMeasure::MidnightsPassed).whole(), 2);
/// assert_eq!(turnaround.sentence(), "41 hours and 30 minutes");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct ClockInterval {
    start: DateTime,
    end: DateTime,
    instants: Option<(DateTime, DateTime)>,
    month_end: MonthEnd,
    week_begins: Weekday,
}

/// What hours are those of.
///
/// ```
/// assert_eq!(mild_ledger::HoursOf::Clock.to_string(), "clock hours");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum HoursOf {
    /// The clock on the wall, with no zone: a change of the clock between the two is not seen.
    Clock,
    /// Two instants: what a stopwatch shows.
    Instants,
}

impl fmt::Display for HoursOf {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(match self {
            Self::Clock => "clock hours",
            Self::Instants => "elapsed hours",
        })
    }
}

/// A figure that only date-times have.
///
/// ```
/// use mild_ledger::{ClockMeasure, ClockUnit};
/// assert_eq!("fractional hours".parse(), Ok(ClockMeasure::Fractional(ClockUnit::Hour)));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum ClockMeasure {
    /// Whole units of the clock elapsed.
    Complete(ClockUnit),
    /// Units of the clock, exactly.
    Fractional(ClockUnit),
    /// Whole days of 24 hours.
    DaysOf24Hours,
    /// Days of 24 hours, exactly.
    FractionalDays,
    /// How many midnights lie after the earlier date-time, up to and including the later.
    MidnightsPassed,
}

impl ClockMeasure {
    /// Every measure, in the order in which messages list them.
    ///
    /// ```
    /// assert_eq!(mild_ledger::ClockMeasure::all().count(), 9);
    /// ```
    pub fn all() -> impl Iterator<Item = Self> {
        ClockUnit::ALL.map(Self::Complete).into_iter().chain(ClockUnit::ALL.map(Self::Fractional)).chain([
            Self::DaysOf24Hours,
            Self::FractionalDays,
            Self::MidnightsPassed,
        ])
    }

    /// Whether its figures are always whole numbers.
    ///
    /// ```
    /// assert!(mild_ledger::ClockMeasure::MidnightsPassed.is_whole());
    /// ```
    #[must_use]
    pub fn is_whole(self) -> bool {
        !matches!(self, Self::Fractional(_) | Self::FractionalDays)
    }
}

impl fmt::Display for ClockMeasure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Complete(unit) => f.pad(&format!("complete {}", unit.plural())),
            Self::Fractional(unit) => f.pad(&format!("fractional {}", unit.plural())),
            Self::DaysOf24Hours => f.pad("24-hour days"),
            Self::FractionalDays => f.pad("fractional days"),
            Self::MidnightsPassed => f.pad("midnights passed"),
        }
    }
}

impl FromStr for ClockMeasure {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::all().find(|measure| measure.to_string() == text).ok_or_else(|| {
            let all: Vec<String> = Self::all().map(|measure| format!("\"{measure}\"")).collect();
            let what = format!("{} is not a way of counting by the clock", quoted(text));
            Error::new(ErrorKind::Unreadable, what, all.join(", "))
        })
    }
}

impl ClockInterval {
    /// The interval from a start to an end, which may be before it.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MIN).sentence(), "0 hours");
    /// ```
    #[must_use]
    pub fn between(start: DateTime, end: DateTime) -> Self {
        Self { start, end, instants: None, month_end: MonthEnd::Clamp, week_begins: Weekday::Monday }
    }

    /// The same interval with its hours, minutes, seconds and 24-hour days counted between two instants in UTC,
    /// which are the start and the end before their zone was dropped.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit};
    /// // Clocks went forward by an hour in that night.
    /// let night = ClockInterval::between("2026-03-29T00:30".parse()?, "2026-03-29T03:30".parse()?)
    ///     .with_instants("2026-03-29T00:30".parse()?, "2026-03-29T02:30".parse()?);
    /// assert_eq!(night.figure(ClockMeasure::Complete(ClockUnit::Hour)).whole(), 2);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_instants(self, start: DateTime, end: DateTime) -> Self {
        Self { instants: Some((start, end)), ..self }
    }

    /// The same interval counted under another rule for month ends, as [`Interval::month_end`].
    ///
    /// # Errors
    /// [`ErrorKind::Unreadable`] for [`MonthEnd::Refuse`].
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime, MonthEnd};
    /// assert!(ClockInterval::between(DateTime::MIN, DateTime::MAX).with_month_end(MonthEnd::Refuse).is_err());
    /// ```
    pub fn with_month_end(self, rule: MonthEnd) -> Result<Self, Error> {
        self.dates().with_month_end(rule)?;
        Ok(Self { month_end: rule, ..self })
    }

    /// The same interval with weeks that start on another day than Monday.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime, Weekday};
    /// let interval = ClockInterval::between(DateTime::MIN, DateTime::MAX).with_weeks_beginning(Weekday::Sunday);
    /// assert_eq!(interval.dates().week_begins(), Weekday::Sunday);
    /// ```
    #[must_use]
    pub fn with_weeks_beginning(self, weekday: Weekday) -> Self {
        Self { week_begins: weekday, ..self }
    }

    /// The start it was made with.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MAX).start(), DateTime::MIN);
    /// ```
    #[must_use]
    pub fn start(self) -> DateTime {
        self.start
    }

    /// The end it was made with.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MAX).end(), DateTime::MAX);
    /// ```
    #[must_use]
    pub fn end(self) -> DateTime {
        self.end
    }

    /// What its hours are those of.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime, HoursOf};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MAX).hours_of(), HoursOf::Clock);
    /// ```
    #[must_use]
    pub fn hours_of(self) -> HoursOf {
        if self.instants.is_some() { HoursOf::Instants } else { HoursOf::Clock }
    }

    /// The interval between the two dates, their times dropped.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, Date, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MAX).dates().end(), Date::MAX);
    /// ```
    #[must_use]
    pub fn dates(self) -> Interval {
        self.of_dates(self.start.date(), self.end.date())
    }

    /// The time by the clock as a sentence: hours, minutes and seconds, zero parts left out.
    ///
    /// ```
    /// use mild_ledger::ClockInterval;
    /// let interval = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
    /// assert_eq!(interval.sentence(), "41 hours and 30 minutes");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn sentence(self) -> String {
        match clock_amounts(self.microseconds()).as_slice() {
            [] => "0 hours".to_owned(),
            [only] => only.clone(),
            [before @ .., last] => format!("{} and {last}", before.join(", ")),
        }
    }

    /// The figure of a measure that only date-times have, exactly.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, ClockMeasure};
    /// let interval = ClockInterval::between("2026-09-30T18:00".parse()?, "2026-10-01T00:00".parse()?);
    /// assert_eq!(interval.figure(ClockMeasure::FractionalDays).to_string(), "1/4");
    /// assert_eq!(interval.figure(ClockMeasure::DaysOf24Hours).to_string(), "0");
    /// assert_eq!(interval.figure(ClockMeasure::MidnightsPassed).to_string(), "1");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn figure(self, measure: ClockMeasure) -> Fraction {
        let microseconds = self.microseconds();
        let whole = |number: i64| Fraction::new(number, 0, 1);
        match measure {
            ClockMeasure::Complete(unit) => whole(microseconds / unit.microseconds()),
            ClockMeasure::Fractional(unit) => Fraction::of_quotient(microseconds, unit.microseconds()),
            ClockMeasure::DaysOf24Hours => whole(microseconds / MICROSECONDS_IN_DAY),
            ClockMeasure::FractionalDays => Fraction::of_quotient(microseconds, MICROSECONDS_IN_DAY),
            ClockMeasure::MidnightsPassed => whole(self.dates().days().value()),
        }
    }

    /// Microseconds from the start to the end, of the clock or between the instants.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MAX, DateTime::MAX).microseconds(), 0);
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        let (start, end) = self.instants.unwrap_or((self.start, self.end));
        end.microseconds() - start.microseconds()
    }

    /// How a figure that only date-times have comes about.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit};
    /// let interval = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
    /// assert_eq!(
    ///     interval.why(ClockMeasure::Complete(ClockUnit::Hour)).to_string(),
    ///     "complete hours (clock hours): 2 midnights passed are 48 hours, 09:30:00 less 16:00:00 is -6 hours and -30 minutes, \
    ///      together 149400 seconds, over 3600 seconds, so 41"
    /// );
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn why(self, measure: ClockMeasure) -> Working {
        let figure = self.figure(measure);
        let (start, end) = self.instants.unwrap_or((self.start, self.end));
        let per = match measure {
            ClockMeasure::MidnightsPassed => {
                return self.dates().why_days().with_rule(|_| measure.to_string());
            }
            ClockMeasure::Complete(unit) | ClockMeasure::Fractional(unit) => unit.microseconds(),
            ClockMeasure::DaysOf24Hours | ClockMeasure::FractionalDays => MICROSECONDS_IN_DAY,
        };
        let mut working = Working::of_rule(format!("{measure} ({})", self.hours_of()));
        if self.instants.is_some() {
            working = working.step(format!("in UTC from {start} to {end}"), end);
        }
        let midnights = i64::from(end.date().day_number()) - i64::from(start.date().day_number());
        let clock = end.time().microseconds() - start.time().microseconds();
        let word = if midnights.abs() == 1 { "midnight passed is" } else { "midnights passed are" };
        let clock_said = match clock_amounts(clock).as_slice() {
            [] => "0 hours".to_owned(),
            said => said.join(" and "),
        };
        let seconds = Fraction::of_quotient(self.microseconds(), 1_000_000);
        working
            .step(format!("{midnights} {word} {} hours", midnights * 24), midnights * 24)
            .step(format!("{} less {} is {clock_said}", end.time(), start.time()), clock)
            .step(format!("together {seconds} seconds"), seconds)
            .step(
                format!("over {} {}", per / 1_000_000, ClockUnit::Second.word_for(per / 1_000_000)),
                per / 1_000_000,
            )
            .step(format!("so {figure}"), figure)
    }

    fn of_dates(self, start: Date, end: Date) -> Interval {
        let interval = Interval::between(start, end).with_weeks_beginning(self.week_begins);
        // The rule was checked when it was named.
        interval.with_month_end(self.month_end).unwrap_or(interval)
    }
}
