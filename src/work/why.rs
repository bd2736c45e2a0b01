//! The working of counts and moves: the months concerned, with each day marked.

use super::calendar::WorkCalendar;
use super::day::DayKind;
use super::working_day_count::WorkingDays;
use crate::date::Date;
use crate::error::Error;
use crate::interval::{Ends, Interval};
use crate::period::Month;
use crate::reasoning::{Working, ordinal};
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;

/// The months that a count or a move goes through, with each of their days marked, and the sum under them.
///
/// ```
/// use mild_ledger::{Ends, Interval, WorkCalendar};
/// let week = WorkCalendar::rest_days_only(Default::default());
/// let grid = week.why_working_days(Interval::between("2026-10-03".parse()?, "2026-10-18".parse()?), Ends::FirstAndLast)?;
/// assert_eq!(grid.months().len(), 1);
/// assert_eq!(grid.months()[0].days().iter().filter(|day| day.number().is_some()).count(), 10);
/// assert_eq!(grid.working().figure(), "10");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WorkingGrid {
    months: Vec<MonthGrid>,
    working: Working,
}

/// One month of a grid.
///
/// ```
/// # use mild_ledger::{Ends, Interval, WorkCalendar};
/// # let week = WorkCalendar::rest_days_only(Default::default());
/// let day = "2026-10-05".parse()?;
/// let grid = week.why_working_days(Interval::between(day, day), Ends::FirstAndLast)?;
/// assert_eq!((grid.months()[0].first_day().to_string(), grid.months()[0].days().len()), ("2026-10-01".into(), 31));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct MonthGrid {
    days: Vec<CountedDay>,
    first: Date,
}

/// One day of a grid: what it is, and its running number where it was counted.
///
/// ```
/// # use mild_ledger::{DayKind, Ends, Interval, WorkCalendar};
/// # let week = WorkCalendar::rest_days_only(Default::default());
/// let day = "2026-10-01".parse()?;
/// let grid = week.why_working_days(Interval::between(day, day), Ends::FirstAndLast)?;
/// let first = grid.months()[0].days()[0];
/// assert_eq!((first.date(), first.kind(), first.number(), first.is_inside()), (day, Some(DayKind::Working), Some(1), true));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CountedDay {
    date: Date,
    kind: Option<DayKind>,
    inside: bool,
    number: Option<i64>,
}

impl CountedDay {
    /// The date.
    #[must_use]
    pub fn date(self) -> Date {
        self.date
    }

    /// What it is; `None` where the calendar does not cover it, which no counted day is.
    #[must_use]
    pub fn kind(self) -> Option<DayKind> {
        self.kind
    }

    /// Whether it lies among the days that were looked at.
    #[must_use]
    pub fn is_inside(self) -> bool {
        self.inside
    }

    /// Its running number among those counted, from 1; `None` where it was not counted.
    #[must_use]
    pub fn number(self) -> Option<i64> {
        self.number
    }
}

impl MonthGrid {
    /// Its first day.
    #[must_use]
    pub fn first_day(&self) -> Date {
        self.first
    }

    /// Its days, in their order.
    #[must_use]
    pub fn days(&self) -> &[CountedDay] {
        &self.days
    }
}

impl WorkingGrid {
    /// The months, in their order; none where no day was looked at.
    #[must_use]
    pub fn months(&self) -> &[MonthGrid] {
        &self.months
    }

    /// The rule and the sum; the last step gives the figure.
    #[must_use]
    pub fn working(&self) -> &Working {
        &self.working
    }
}

impl WorkCalendar {
    /// How a count of working days comes about.
    ///
    /// # Errors
    /// Those of [`working_days`](Self::working_days).
    pub fn why_working_days(&self, interval: Interval, ends: Ends) -> Result<WorkingGrid, Error> {
        let found: WorkingDays = self.working_days(interval, ends)?;
        let working = Working::of_rule(format!("working days (ends: {ends}; {})", self.name()))
            .step(found.to_string(), found.count());
        let months = match interval.days_counted(ends) {
            Some(days) => self.grids(days.first(), days.last(), Direction::Forward),
            None => Vec::new(),
        };
        Ok(WorkingGrid { months, working })
    }

    /// How a move by working days comes about: each counted day bears its running number, from the date on.
    ///
    /// # Errors
    /// Those of [`add_working_days`](Self::add_working_days).
    ///
    /// ```
    /// use mild_ledger::WorkCalendar;
    /// let week = WorkCalendar::rest_days_only(Default::default());
    /// let grid = week.why_add_working_days("2026-10-02".parse()?, 3)?;
    /// assert_eq!(grid.working().steps()[0].said(), "the 3rd working day after 2026-10-02 is 2026-10-07");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn why_add_working_days(&self, date: Date, number: i32) -> Result<WorkingGrid, Error> {
        let end = self.add_working_days(date, number)?;
        let rule = format!("working days ({})", self.name());
        let (said, months) = match number {
            0 if end == date => {
                (format!("{date} is a working day and stays"), self.grids(date, date, Direction::Forward))
            }
            0 => (
                format!("{date} is not a working day; the next is {end}"),
                self.grids(on(date, 1), end, Direction::Forward),
            ),
            1.. => (
                format!("the {} working day after {date} is {end}", ordinal(number.unsigned_abs())),
                self.grids(on(date, 1), end, Direction::Forward),
            ),
            _ => (
                format!("the {} working day before {date} is {end}", ordinal(number.unsigned_abs())),
                self.grids(end, on(date, -1), Direction::Backward),
            ),
        };
        Ok(WorkingGrid { months, working: Working::of_rule(rule).step(said, end) })
    }

    /// The months of a stretch of days, its working days numbered from one of its ends.
    fn grids(&self, first: Date, last: Date, direction: Direction) -> Vec<MonthGrid> {
        let all = self.count_working_days(Interval::between(first, last), Ends::FirstAndLast).unwrap_or(0);
        let mut counted = 0;
        let mut months = Vec::new();
        let mut month = Month::of(first);
        loop {
            let (from, to) = (month.first_day(), month.last_day());
            let days = (from.day_number()..=to.day_number()).map(Date::of_checked_day).map(|date| {
                let kind = self.kind_of(date).ok();
                let inside = (first..=last).contains(&date);
                let number = (inside && kind.is_some_and(DayKind::is_working)).then(|| {
                    counted += 1;
                    match direction {
                        Direction::Forward => counted,
                        Direction::Backward => all - counted + 1,
                    }
                });
                CountedDay { date, kind, inside, number }
            });
            months.push(MonthGrid { days: days.collect(), first: from });
            match Date::in_range(i64::from(to.day_number()) + 1) {
                Some(next) if next <= last => month = Month::of(next),
                _ => return months,
            }
        }
    }
}

#[derive(Clone, Copy)]
enum Direction {
    Forward,
    Backward,
}

/// The day next to a date, or the date itself at the ends of the calendar.
fn on(date: Date, days: i64) -> Date {
    Date::in_range(i64::from(date.day_number()) + days).unwrap_or(date)
}
