//! The time between two date-times.

use super::{Count, CountRule, Ends, Fraction, Interval, Parts, Way};
use crate::date::clock::MICROSECONDS_IN_DAY;
use crate::date::{Date, DateTime, Weekday, quoted};
use crate::error::{Error, ErrorKind};
use crate::reasoning::Working;
use crate::shift::{ClockUnit, MonthEnd, Unit, clock_amounts};
use std::fmt;
use std::str::FromStr;

/// The time from one date-time to another.
///
/// Units of the calendar are complete where the earlier date, moved by so many with its time kept, is not after the
/// later date-time. Hours, minutes and seconds are those of the clock, unless the instants in UTC are given with
/// [`with_instants`](Self::with_instants): then a zone's clock changes are counted for what they were. As for
/// [`Interval`], an end before the start only changes the sign.
///
/// ```
/// use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit, Unit};
///
/// let turnaround = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?);
/// assert_eq!(turnaround.figure(ClockMeasure::Complete(ClockUnit::Hour)).to_string(), "41");
/// assert_eq!(turnaround.figure(ClockMeasure::Fractional(ClockUnit::Hour)).to_string(), "41 + 1/2");
/// assert_eq!(turnaround.complete(Unit::Day).value(), 1);
/// assert_eq!(turnaround.figure(ClockMeasure::MidnightsPassed).whole(), 2);
/// assert_eq!(turnaround.parts().to_string(), "1 day, 17 hours and 30 minutes");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct ClockInterval {
    start: DateTime,
    end: DateTime,
    instants: Option<(DateTime, DateTime)>,
    month_end: MonthEnd,
    week_start: Weekday,
}

/// What hours are those of.
///
/// ```
/// assert_eq!(mild_ledger::HoursOf::Clock.to_string(), "clock hours");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum ClockMeasure {
    /// Whole units of the clock gone by.
    Complete(ClockUnit),
    /// Units of the clock, exactly.
    Fractional(ClockUnit),
    /// Whole days of 24 hours.
    DaysOf24Hours,
    /// Days of 24 hours, exactly.
    FractionalDays,
    /// How many midnights lie after the earlier date-time, up to and with the later.
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
            Self::Complete(unit) => write!(f, "complete {}", unit.plural()),
            Self::Fractional(unit) => write!(f, "fractional {}", unit.plural()),
            Self::DaysOf24Hours => f.write_str("24-hour days"),
            Self::FractionalDays => f.write_str("fractional days"),
            Self::MidnightsPassed => f.write_str("midnights passed"),
        }
    }
}

impl FromStr for ClockMeasure {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        Self::all().find(|measure| measure.to_string() == text).ok_or_else(|| {
            let all: Vec<String> = Self::all().map(|measure| format!("\"{measure}\"")).collect();
            let what = format!("{} is no way of counting by the clock", quoted(text));
            Error::new(ErrorKind::Unreadable, what, all.join(", "))
        })
    }
}

impl ClockInterval {
    /// The interval from a start to an end, which may be before it.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MIN).parts().to_string(), "0 days");
    /// ```
    #[must_use]
    pub fn between(start: DateTime, end: DateTime) -> Self {
        Self { start, end, instants: None, month_end: MonthEnd::Clamp, week_start: Weekday::Monday }
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
    /// assert!(ClockInterval::between(DateTime::MIN, DateTime::MAX).month_end(MonthEnd::Refuse).is_err());
    /// ```
    pub fn month_end(self, rule: MonthEnd) -> Result<Self, Error> {
        self.dates().month_end(rule)?;
        Ok(Self { month_end: rule, ..self })
    }

    /// The same interval with weeks that start on another day than Monday.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, DateTime, Weekday};
    /// let interval = ClockInterval::between(DateTime::MIN, DateTime::MAX).week_starts(Weekday::Sunday);
    /// assert_eq!(interval.dates().week_start(), Weekday::Sunday);
    /// ```
    #[must_use]
    pub fn week_starts(self, weekday: Weekday) -> Self {
        Self { week_start: weekday, ..self }
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

    /// The complete units of the calendar: the largest number of them by which the earlier date-time can be moved,
    /// its time kept, without passing the later one.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, Unit};
    /// let months = |end: &str| -> Result<i64, mild_ledger::Error> {
    ///     let interval = ClockInterval::between("2026-01-31T12:00".parse()?, end.parse()?);
    ///     Ok(interval.complete(Unit::Month).value())
    /// };
    /// assert_eq!((months("2026-02-28T11:59")?, months("2026-02-28T12:00")?), (0, 1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn complete(self, unit: Unit) -> Count {
        let rule = CountRule::new(Way::Complete, unit);
        let (reached, sign, _) = self.reached();
        Count::new(reached.count(rule).value() * sign, rule, Ends::Last)
    }

    /// The unit starts passed: how many first midnights of a unit lie after the earlier date-time, up to and with
    /// the later. It is that of the dates.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, Unit};
    /// let minute = ClockInterval::between("2025-12-31T23:59".parse()?, "2026-01-01T00:00".parse()?);
    /// assert_eq!(minute.starts_passed(Unit::Year).value(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn starts_passed(self, unit: Unit) -> Count {
        self.dates().starts_passed(unit)
    }

    /// Complete units of the calendar, and what is left over as a fraction of the unit that is running, in
    /// microseconds.
    ///
    /// ```
    /// use mild_ledger::{ClockInterval, Rounding, Unit};
    /// let interval = ClockInterval::between("2026-01-15T00:00".parse()?, "2026-03-01T12:00".parse()?);
    /// let months = interval.fractional(Unit::Month);
    /// assert_eq!(months.to_decimal(4, Rounding::Nearest)?.to_string(), "1.5179"); // 14.5 days of 28
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn fractional(self, unit: Unit) -> Fraction {
        let (reached, sign, rest) = self.reached();
        let days = reached.fractional(unit);
        // A week's and a day's fractions are over whole days, as are those of months and longer.
        let of = days.of() * MICROSECONDS_IN_DAY;
        Fraction::new(days.whole(), days.over() * MICROSECONDS_IN_DAY + rest, of)
            .in_lowest_terms()
            .with_sign(sign)
    }

    /// Complete years, months and days, and the time left over.
    ///
    /// ```
    /// use mild_ledger::ClockInterval;
    /// let interval = ClockInterval::between("2026-01-31T12:00".parse()?, "2026-03-01T06:00:01".parse()?);
    /// assert_eq!(interval.parts().to_string(), "1 month, 18 hours and 1 second");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn parts(self) -> ClockParts {
        let (reached, sign, rest) = self.reached();
        let parts = reached.parts();
        let by = sign as i32;
        ClockParts {
            dates: Parts::new(parts.years() * by, parts.months() * by, parts.days() * by),
            microseconds: rest * sign,
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
            ClockMeasure::Fractional(unit) => {
                Fraction::of_quotient(microseconds, unit.microseconds()).in_lowest_terms()
            }
            ClockMeasure::DaysOf24Hours => whole(microseconds / MICROSECONDS_IN_DAY),
            ClockMeasure::FractionalDays => {
                Fraction::of_quotient(microseconds, MICROSECONDS_IN_DAY).in_lowest_terms()
            }
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
        let seconds = Fraction::of_quotient(self.microseconds(), 1_000_000).in_lowest_terms();
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

    /// The interval of dates whose complete units are those between the date-times, the sign that was taken off,
    /// and the microseconds left over behind its end.
    fn reached(self) -> (Interval, i64, i64) {
        let sign = if self.start <= self.end { 1 } else { -1 };
        let (first, last) = (self.start.min(self.end), self.start.max(self.end));
        let rest = last.time().microseconds() - first.time().microseconds();
        let (day, rest) = if rest < 0 {
            // The time has not come on the last day, so the day before is the last that was reached; it is not
            // before the first, for the date-times are in order.
            (last.date().day_number() - 1, rest + MICROSECONDS_IN_DAY)
        } else {
            (last.date().day_number(), rest)
        };
        (self.of_dates(first.date(), Date::of_checked_day(day)), sign, rest)
    }

    fn of_dates(self, start: Date, end: Date) -> Interval {
        let interval = Interval::between(start, end).week_starts(self.week_start);
        // The rule was checked when it was named.
        interval.month_end(self.month_end).unwrap_or(interval)
    }
}

/// A time between two date-times as complete years, months and days, and the time of the clock left over.
///
/// ```
/// use mild_ledger::ClockInterval;
/// let parts = ClockInterval::between("2026-09-30T16:00".parse()?, "2026-10-02T09:30".parse()?).parts();
/// assert_eq!((parts.dates().days(), parts.microseconds()), (1, 63_000_000_000));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct ClockParts {
    dates: Parts,
    microseconds: i64,
}

impl ClockParts {
    /// Years, months and days.
    ///
    /// ```
    /// # use mild_ledger::{ClockInterval, DateTime};
    /// assert_eq!(ClockInterval::between(DateTime::MIN, DateTime::MAX).parts().dates().years(), 9998);
    /// ```
    #[must_use]
    pub fn dates(self) -> Parts {
        self.dates
    }

    /// Microseconds beyond the days, less than a day; negative where the end lies before the start.
    ///
    /// ```
    /// # use mild_ledger::{ClockInterval, DateTime};
    /// let parts = ClockInterval::between(DateTime::MIN, DateTime::MAX).parts();
    /// assert_eq!(parts.microseconds(), 86_399_999_999);
    /// ```
    #[must_use]
    pub fn microseconds(self) -> i64 {
        self.microseconds
    }
}

/// Zero parts left out, `0 days` for none.
impl fmt::Display for ClockParts {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut said = self.dates.amounts();
        said.extend(clock_amounts(self.microseconds));
        match said.as_slice() {
            [] => f.write_str("0 days"),
            [only] => f.write_str(only),
            [before @ .., last] => write!(f, "{} and {last}", before.join(", ")),
        }
    }
}
