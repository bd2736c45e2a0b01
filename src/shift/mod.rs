//! Moving a date by days, weeks and months, and a date-time by hours, minutes and seconds too.

mod clock_unit;
mod month_end;
mod recurrence;
mod text;
mod unit;
mod weekday_move;
mod why;

use crate::date::clock_time::MICROSECONDS_IN_DAY;
use crate::date::{Date, DateTime, year_month_day};
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::vec;
use alloc::vec::Vec;
pub use clock_unit::ClockUnit;
pub(crate) use clock_unit::clock_amounts;
use core::fmt;
pub use month_end::MonthEnd;
pub use recurrence::{Occurrences, Recurrence};
pub use unit::Unit;
pub use weekday_move::{NthWeekday, WeekdayMove};

/// An amount of time to move a date by, with the rule for month ends.
///
/// Years, half-years, quarters and months are summed into one move of months and done first; weeks and days
/// are summed and done after it; then working days, for which a calendar is asked
/// ([`WorkCalendar::shifted`](crate::WorkCalendar::shifted)); hours, minutes and seconds, which only a date-time has,
/// last.
///
/// ```
/// use mild_ledger::{Date, Shift};
///
/// let shift: Shift = "1 year 1 month".parse()?;
/// assert_eq!(shift.apply("2024-02-29".parse()?)?.to_string(), "2025-03-29");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Shift {
    months: i64,
    days: i64,
    working: Option<WorkingMove>,
    microseconds: i64,
    month_end: MonthEnd,
}

/// A move by working days: the working day that a date counts from, and how many on from there.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) struct WorkingMove {
    /// Which working day represents a date that is none.
    pub(crate) from: Nearby,
    pub(crate) number: i64,
}

/// The working day on one side of a date that is none; a working day is its own.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) enum Nearby {
    Before,
    After,
}

impl WorkingMove {
    /// The nth working day after a date lies strictly after it, so a rest day counts from the working day before it; back,
    /// and for zero, it counts from the one after it.
    fn by(number: i64) -> Self {
        Self { from: if number > 0 { Nearby::Before } else { Nearby::After }, number }
    }

    /// Both in turn: after the first a working day is reached, and the second counts from there.
    fn and(self, other: Self) -> Option<Self> {
        Some(Self { number: self.number.checked_add(other.number)?, ..self })
    }

    /// A number of times, each in turn; back where negative.
    fn times(self, number: i64) -> Option<Self> {
        let total = self.number.checked_mul(number)?;
        let from = match (number, self.number, self.from) {
            // None of them rolls forward in either direction.
            (_, 0, Nearby::After) => Nearby::After,
            (0.., ..) => self.from,
            (_, _, Nearby::Before) => Nearby::After,
            (_, _, Nearby::After) => Nearby::Before,
        };
        Some(Self { from, number: total })
    }

    /// The amounts that, done in turn, are this move.
    fn amounts(self) -> Vec<i64> {
        match (self.from, self.number) {
            (Nearby::Before, 1..) | (Nearby::After, ..=0) => vec![self.number],
            (Nearby::Before, _) => vec![1, self.number.saturating_sub(1)],
            (Nearby::After, _) => vec![0, self.number],
        }
    }
}

impl Shift {
    /// A number of days, back where negative.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert_eq!(Shift::days(30).apply("2026-01-31".parse()?)?.to_string(), "2026-03-02");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days(days: i32) -> Self {
        Self::of(days, Unit::Day)
    }

    /// So many weeks of seven days, back where negative.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert_eq!(Shift::weeks(-1).apply("2026-01-05".parse()?)?.to_string(), "2025-12-29");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn weeks(weeks: i32) -> Self {
        Self::of(weeks, Unit::Week)
    }

    /// A number of months, back where negative, under [`MonthEnd::Clamp`] until another rule is named.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert_eq!(Shift::months(3).apply("2026-01-31".parse()?)?.to_string(), "2026-04-30");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn months(months: i32) -> Self {
        Self::of(months, Unit::Month)
    }

    /// So many of a unit, back where negative.
    ///
    /// ```
    /// # use mild_ledger::{Shift, Unit};
    /// assert_eq!(Shift::of(2, Unit::Quarter), Shift::months(6));
    /// ```
    #[must_use]
    pub fn of(amount: i32, unit: Unit) -> Self {
        let amount = i64::from(amount);
        let (months, days) = match unit.length() {
            unit::Length::Days(days) => (0, amount * days),
            unit::Length::Months(months) => (amount * months, 0),
        };
        Self { months, days, working: None, microseconds: 0, month_end: MonthEnd::Clamp }
    }

    /// So many of a unit of the clock, back where negative; for date-times.
    ///
    /// ```
    /// # use mild_ledger::{ClockUnit, Shift};
    /// let shift = Shift::of_clock(-90, ClockUnit::Minute);
    /// assert_eq!(shift.apply_at("2026-03-01T01:00".parse()?)?.to_string(), "2026-02-28T23:30:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn of_clock(amount: i32, unit: ClockUnit) -> Self {
        let microseconds = i64::from(amount) * unit.microseconds();
        Self { months: 0, days: 0, working: None, microseconds, month_end: MonthEnd::Clamp }
    }

    /// A number of working days, back where negative; a calendar moves by them. None of them rolls to the working day on or
    /// after a date.
    ///
    /// ```
    /// # use mild_ledger::{Shift, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// assert_eq!(week.shifted("2026-10-02".parse()?, &Shift::working_days(1))?.to_string(), "2026-10-05");
    /// assert!(Shift::working_days(1).apply("2026-10-02".parse()?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn working_days(number: i32) -> Self {
        Self { working: Some(WorkingMove::by(number.into())), ..Self::days(0) }
    }

    /// Whether it moves by working days, be it by none of them, for which it needs a calendar.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert!("1M 0wd".parse::<Shift>()?.needs_calendar());
    /// assert!(!"1M".parse::<Shift>()?.needs_calendar());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn needs_calendar(&self) -> bool {
        self.working.is_some()
    }

    /// The working days that it moves by, all in all; `None` where it needs no calendar.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert_eq!("1M 10wd".parse::<Shift>()?.working_day_total(), Some(10));
    /// assert_eq!("1M".parse::<Shift>()?.working_day_total(), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn working_day_total(&self) -> Option<i64> {
        self.working.map(|working| working.number)
    }

    /// The one amount of working days, where there are not several to be done in turn.
    pub(crate) fn only_working_amount(&self) -> Option<i32> {
        match self.working?.amounts().as_slice() {
            [only] => i32::try_from(*only).ok(),
            _ => None,
        }
    }

    /// Its working days alone.
    pub(crate) fn working_part(&self) -> Self {
        Self { working: self.working, ..Self::days(0) }
    }

    pub(crate) fn working(&self) -> Option<WorkingMove> {
        self.working
    }

    /// The move without its working days.
    pub(crate) fn without_working_days(&self) -> Self {
        Self { working: None, ..*self }
    }

    /// The same move with another rule for month ends.
    ///
    /// ```
    /// # use mild_ledger::{MonthEnd, Shift};
    /// let shift = Shift::months(1).with_month_end(MonthEnd::Keep);
    /// assert_eq!(shift.apply("2026-04-30".parse()?)?.to_string(), "2026-05-31");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn with_month_end(mut self, rule: MonthEnd) -> Self {
        self.month_end = rule;
        self
    }

    /// Both moves as one, under this one's rule for month ends.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where the sum is more than a number here can hold.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// let shift = Shift::months(1).and(Shift::days(10))?;
    /// assert_eq!(shift.apply("2026-01-31".parse()?)?.to_string(), "2026-03-10");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn and(self, other: Self) -> Result<Self, Error> {
        let working = match (self.working, other.working) {
            (Some(one), Some(then)) => one.and(then).map(Some),
            (one, then) => Some(one.or(then)),
        };
        let sums = (
            self.months.checked_add(other.months),
            self.days.checked_add(other.days),
            working,
            self.microseconds.checked_add(other.microseconds),
        );
        match sums {
            (Some(months), Some(days), Some(working), Some(microseconds)) => {
                Ok(Self { months, days, working, microseconds, month_end: self.month_end })
            }
            _ => Err(Error::new(
                ErrorKind::OutOfRange,
                "the amounts add up to too much",
                "less than 2^63 days",
            )),
        }
    }

    /// The date so far away.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where the result lies outside the years 0001 to 9999 (days on the way may).
    /// Under [`MonthEnd::Refuse`], [`ErrorKind::NoSuchDay`] where the month lacks the day.
    /// [`ErrorKind::NoTimeOfDay`] for hours, minutes or seconds. [`ErrorKind::NotCovered`] for working days, which
    /// a calendar moves by.
    ///
    /// ```
    /// # use mild_ledger::{Date, Shift};
    /// assert!(Shift::days(1).apply(Date::MAX).is_err());
    /// ```
    pub fn apply(&self, date: Date) -> Result<Date, Error> {
        self.moved(date).map_err(|miss| self.missed(date, miss))
    }

    /// The date-time so far away: the date is moved first, its time kept, then hours, minutes and seconds are
    /// added. These are hours of the clock: no zone's changes are among them.
    ///
    /// # Errors
    /// Those of [`apply`](Self::apply) but the last.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// let shift: Shift = "1 month 14h 30min".parse()?;
    /// assert_eq!(shift.apply_at("2026-01-31T12:00".parse()?)?.to_string(), "2026-03-01T02:30:00");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn apply_at(&self, at: DateTime) -> Result<DateTime, Error> {
        let out = || self.missed(at, Miss::OutOfRange);
        if self.working.is_some() {
            return Err(self.missed(at, Miss::NoCalendar));
        }
        let (dates, _) = self.parted();
        let day_number = dates.day_number_after(at.date()).map_err(|miss| self.missed(at, miss))?;
        let microseconds = day_number
            .checked_mul(MICROSECONDS_IN_DAY)
            .and_then(|days| days.checked_add(at.time().microseconds()))
            .and_then(|clock| clock.checked_add(self.microseconds));
        DateTime::from_microseconds(microseconds.ok_or_else(out)?).map_err(|_| out())
    }

    /// Whether it moves by hours, minutes or seconds, which only a date-time has.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert!("1d 2h".parse::<Shift>()?.needs_time_of_day());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn needs_time_of_day(&self) -> bool {
        self.microseconds != 0
    }

    /// The microseconds that it moves a clock by.
    pub(crate) fn clock_microseconds(&self) -> i64 {
        self.microseconds
    }

    /// The part that moves dates, and the part that moves clocks.
    pub(crate) fn parted(&self) -> (Self, Self) {
        (Self { microseconds: 0, ..*self }, Self { months: 0, days: 0, working: None, ..*self })
    }

    /// The error of a move that has no result.
    pub(crate) fn missed(&self, from: impl fmt::Display, miss: Miss) -> Error {
        match miss {
            Miss::OutOfRange => Error::new(
                ErrorKind::OutOfRange,
                format!("{from} moved by {self} lies outside the years 0001 to 9999"),
                "0001-01-01 to 9999-12-31",
            ),
            Miss::NoSuchDay { year, month, day } => Error::new(
                ErrorKind::NoSuchDay,
                format!("{from} moved by {self} would be day {day} of {year:04}-{month:02}, which has none"),
                format!("day 1 to {}", year_month_day::month_length(year.rem_euclid(400) as i32, month)),
            ),
            Miss::NoCalendar => Error::new(
                ErrorKind::NotCovered,
                format!("{from} moved by {self} asks for a calendar of working days"),
                "a calendar, or days, weeks, months and longer",
            ),
            Miss::NoTimeOfDay => Error::new(
                ErrorKind::NoTimeOfDay,
                format!("{from} has no time of day to move by {self}"),
                format!("days, weeks, months and longer, or a date with a time such as {from}T00:00"),
            ),
        }
    }

    /// A number of times the move.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where that is more than a number here can hold.
    ///
    /// ```
    /// # use mild_ledger::Shift;
    /// assert_eq!(Shift::months(2).times(-3)?, Shift::months(-6));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn times(&self, number: i32) -> Result<Self, Error> {
        let by = |amount: i64| amount.checked_mul(i64::from(number));
        // No times at all is not a move, not even to a working day.
        let working = match self.working.filter(|_| number != 0) {
            Some(working) => working.times(number.into()).map(Some),
            None => Some(None),
        };
        match (by(self.months), by(self.days), working, by(self.microseconds)) {
            (Some(months), Some(days), Some(working), Some(microseconds)) => {
                Ok(Self { months, days, working, microseconds, month_end: self.month_end })
            }
            _ => Err(Error::new(
                ErrorKind::OutOfRange,
                format!("{number} times {self} is too much"),
                "less than 2^63 days",
            )),
        }
    }

    /// The months of it, all in all: years, half-years and quarters too.
    ///
    /// ```
    /// assert_eq!("1 year 1 month 10 days".parse::<mild_ledger::Shift>()?.month_total(), 13);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn month_total(&self) -> i64 {
        self.months
    }

    /// The days of it, all in all: weeks too.
    ///
    /// ```
    /// assert_eq!("1 year 2 weeks 1 day".parse::<mild_ledger::Shift>()?.day_total(), 15);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn day_total(&self) -> i64 {
        self.days
    }

    /// The rule for month ends.
    ///
    /// ```
    /// use mild_ledger::{MonthEnd, Shift};
    /// assert_eq!("1 month (month end: keep)".parse::<Shift>()?.month_end(), MonthEnd::Keep);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn month_end(&self) -> MonthEnd {
        self.month_end
    }

    /// Whether it leaves every date where it is.
    pub(crate) fn is_nothing(&self) -> bool {
        self.months == 0 && self.days == 0 && self.working.is_none() && self.microseconds == 0
    }

    /// Its months and days where both are small enough for numbers of 32 bits, and it moves no clock.
    pub(crate) fn near(&self) -> Option<(i32, i32)> {
        let months = i32::try_from(self.months).ok().filter(|months| (-36_000..=36_000).contains(months))?;
        let days = i32::try_from(self.days).ok().filter(|days| (-4_000_000..=4_000_000).contains(days))?;
        (self.microseconds == 0 && self.working.is_none()).then_some((months, days))
    }

    /// [`apply`](Self::apply) without the words of an error, for loops over columns.
    #[inline]
    pub(crate) fn moved(&self, date: Date) -> Result<Date, Miss> {
        if self.microseconds != 0 {
            return Err(Miss::NoTimeOfDay);
        }
        if self.working.is_some() {
            return Err(Miss::NoCalendar);
        }
        // Most moves stay near the calendar, where numbers of 32 bits do.
        if let Some((months, days)) = self.near()
            && let (moved, true) = self.month_end.moved_lane(date.day_number(), months, days)
        {
            return Date::in_range(i64::from(moved)).ok_or(Miss::OutOfRange);
        }
        Date::in_range(self.day_number_after(date)?).ok_or(Miss::OutOfRange)
    }

    /// The day number a number of months and days away; it may lie outside the range of dates.
    #[inline]
    pub(crate) fn day_number_after(&self, date: Date) -> Result<i64, Miss> {
        let by_months = if self.months == 0 {
            i64::from(date.day_number())
        } else {
            self.month_end.day_number_after_months(date.day_number(), self.months)?
        };
        by_months.checked_add(self.days).ok_or(Miss::OutOfRange)
    }
}

/// Why a move has no result, in a form that costs nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Miss {
    OutOfRange,
    NoSuchDay { year: i64, month: u8, day: u8 },
    NoTimeOfDay,
    NoCalendar,
}

/// The same amounts the other way.
impl core::ops::Neg for Shift {
    type Output = Self;

    fn neg(self) -> Self {
        // Only amounts of 2^63 have no counterpart; they lead out of the calendar either way.
        Self {
            months: self.months.saturating_neg(),
            days: self.days.saturating_neg(),
            working: self.working.map(|working| working.times(-1).unwrap_or(working)),
            microseconds: self.microseconds.saturating_neg(),
            month_end: self.month_end,
        }
    }
}
