//! Moving by working days, and working days by their number.

use super::calendar::{CalendarIndex, WorkCalendar};
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use crate::period::{Month, Period};
use crate::reasoning::ordinal;
use crate::shift::{Nearby, Shift, WorkingMove};
use alloc::format;
use core::fmt;

/// The number of a working day in its month, from either end.
///
/// ```
/// use mild_ledger::WorkCalendar;
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let last = week.number_in_month("2026-10-30".parse()?)?;
/// assert_eq!(last.map(|number| (number.from_start(), number.from_end())), Some((22, -1)));
/// let text = last.map(|number| number.to_string());
/// assert_eq!(text.as_deref(), Some("22nd, and last, working day of the month"));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct NumberInMonth {
    from_start: i64,
    from_end: i64,
}

impl NumberInMonth {
    /// 1 for the first working day of the month.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// let first = WorkCalendar::rest_days_only(Default::default()).number_in_month("2026-10-01".parse()?)?;
    /// assert_eq!(first.map(|number| number.from_start()), Some(1));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn from_start(self) -> i64 {
        self.from_start
    }

    /// −1 for the last working day of the month.
    ///
    /// ```
    /// # use mild_ledger::WorkCalendar;
    /// let first = WorkCalendar::rest_days_only(Default::default()).number_in_month("2026-10-01".parse()?)?;
    /// assert_eq!(first.map(|number| number.from_end()), Some(-22));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn from_end(self) -> i64 {
        self.from_end
    }
}

/// Written as `3rd working day of the month, 20th from its end`; the last one states that.
impl fmt::Display for NumberInMonth {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let place = |number: i64| ordinal(u32::try_from(number.unsigned_abs()).unwrap_or(u32::MAX));
        let (from_start, from_end) = (place(self.from_start), place(self.from_end));
        // The last one is number -1 from the end of its month.
        f.pad(&match self.from_end {
            -1 => format!("{from_start}, and last, working day of the month"),
            _ => format!("{from_start} working day of the month, {from_end} from its end"),
        })
    }
}

impl WorkCalendar {
    /// The working day so many after a date, strictly after it; strictly before it where negative; for 0 the date
    /// rolled to a working day by [`Roll::Following`](crate::Roll::Following).
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`] where the date, or a day on the way, lies outside the years that the calendar covers,
    /// [`ErrorKind::NoWorkingDay`] where it has no working day at all.
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let friday = "2026-10-02".parse()?;
    /// assert_eq!(week.add_working_days(friday, 1)?.to_string(), "2026-10-05");
    /// assert_eq!(week.add_working_days("2026-10-04".parse()?, -1)?, friday);
    /// assert_eq!(week.add_working_days("2026-10-03".parse()?, 0)?.to_string(), "2026-10-05");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn add_working_days(&self, date: Date, number: i32) -> Result<Date, Error> {
        self.shifted(date, &Shift::working_days(number))
    }

    /// The day that a move by working days leads to from a day, which may lie outside the range of dates where rest days
    /// alone are known.
    pub(crate) fn day_moved_by(&self, day: i64, moved: WorkingMove) -> Option<i64> {
        // The working day before a day that is none is the last of those up to and including it; the one after it is the
        // first that is not before it.
        let (day, places) = match moved.from {
            Nearby::Before => (day.checked_add(1)?, moved.number.checked_sub(1)?),
            Nearby::After => (day, moved.number),
        };
        self.working_day_at(i32::try_from(day).ok()?, places)
    }

    /// The working day so many places from the first one on or after a day, which is a covered one or the day after the
    /// last.
    fn working_day_at(&self, from: i32, places: i64) -> Option<i64> {
        match self.index() {
            CalendarIndex::Weekly(weekly) => weekly.working_day(weekly.before(from).checked_add(places)?),
            CalendarIndex::Daily(index) => {
                index.working_day(index.before(from)?.checked_add(places)?).map(i64::from)
            }
        }
    }

    /// Why there is no such working day.
    pub(super) fn no_day(&self, from: impl fmt::Display, number: i64) -> Error {
        if !self.has_working_days() {
            let what = format!("the calendar \"{}\" has no working day", self.name());
            return Error::new(ErrorKind::NoWorkingDay, what, "a calendar with working days");
        }
        let side = if number < 0 { "before" } else { "after" };
        let number = u32::try_from(number.unsigned_abs()).unwrap_or(u32::MAX);
        self.not_covered(format!("the {} working day {side} {from}", ordinal(number)))
    }

    /// Whether there is a working day in it at all.
    ///
    /// ```
    /// use mild_ledger::{RestDays, WorkCalendar, Weekday};
    /// assert!(!WorkCalendar::rest_days_only(RestDays::of(Weekday::ALL)).has_working_days());
    /// ```
    #[must_use]
    pub fn has_working_days(&self) -> bool {
        match self.index() {
            CalendarIndex::Weekly(weekly) => weekly.has_working_days(),
            CalendarIndex::Daily(index) => index.count() > 0,
        }
    }

    /// The number of a date among the working days of its month, from 1, and from its end, −1 for the last; `None` for
    /// a date that is not a working day.
    ///
    /// # Errors
    /// [`ErrorKind::NotCovered`] outside the years that the calendar covers.
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let number = week.number_in_month("2026-10-05".parse()?)?;
    /// assert_eq!(number.map(|number| (number.from_start(), number.from_end())), Some((3, -20)));
    /// assert_eq!(week.number_in_month("2026-10-04".parse()?)?, None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn number_in_month(&self, date: Date) -> Result<Option<NumberInMonth>, Error> {
        if !self.kind_of(date)?.is_working() {
            return Ok(None);
        }
        let month = Month::of(date);
        let before = |date: Date, on: i32| match self.index() {
            CalendarIndex::Weekly(weekly) => weekly.before(date.day_number() + on),
            // A month is covered where one of its days is.
            CalendarIndex::Daily(index) => index.before(date.day_number() + on).unwrap_or(0),
        };
        let (first, here, end) = (before(month.first_day(), 0), before(date, 0), before(month.last_day(), 1));
        Ok(Some(NumberInMonth { from_start: here - first + 1, from_end: here - end }))
    }

    /// The working day with a number in a period, from 1, or from its end, −1 for the last.
    ///
    /// # Errors
    /// [`ErrorKind::NoWorkingDay`] for a number that the period lacks, and for 0; [`ErrorKind::NotCovered`] where the
    /// period is not covered as a whole; [`ErrorKind::OutOfRange`] where it leaves the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{PeriodRule, WorkCalendar};
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let october = PeriodRule::Month.containing("2026-10-15".parse()?);
    /// assert_eq!(week.working_day_of(&october, 3)?.to_string(), "2026-10-05");
    /// assert_eq!(week.working_day_of(&october, -1)?.to_string(), "2026-10-30");
    /// assert!(week.working_day_of(&october, 25).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn working_day_of(&self, period: &Period, number: i32) -> Result<Date, Error> {
        let (first, last) = (period.first_day()?, period.last_day()?);
        for end in [first, last] {
            self.kind_of(end)?;
        }
        let found = match number {
            1.. => self.working_day_at(first.day_number(), i64::from(number) - 1),
            0 => None,
            _ => self.working_day_at(last.day_number() + 1, number.into()),
        };
        found.and_then(Date::in_range).filter(|date| period.contains(*date)).ok_or_else(|| {
            let count = self
                .count_working_days(crate::Interval::between(first, last), crate::Ends::FirstAndLast)
                .unwrap_or(0);
            let what = format!("{} has no working day {number}", period.label());
            Error::new(ErrorKind::NoWorkingDay, what, format!("1 to {count}, or -1 to -{count} from its end"))
        })
    }
}
