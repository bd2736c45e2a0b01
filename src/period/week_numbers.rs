//! Numbers of weeks, by the two parameters that Unicode CLDR names.

use crate::date::{Date, Weekday, civil};
use crate::error::{Error, ErrorKind};
use std::fmt;

/// How weeks are numbered: the day they start on, and the smallest number of days of the year that make week 1.
///
/// The terms are those of Unicode CLDR (`firstDay`, `minDays`); ISO 8601 is Monday and 4.
///
/// ```
/// use mild_ledger::{WeekNumbers, Weekday};
///
/// let new_year = "2021-01-01".parse()?;
/// assert_eq!(WeekNumbers::iso().of(new_year).to_string(), "2020-W53");
/// // With Sunday and 1, the week of 1 January is week 1 whatever day that is.
/// let sunday = WeekNumbers::new(Weekday::Sunday, 1)?;
/// assert_eq!(sunday.of(new_year).week(), 1);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct WeekNumbers {
    first: Weekday,
    smallest_first_week: u8,
}

/// A week with the year that it is numbered in.
///
/// ```
/// use mild_ledger::WeekNumbers;
/// let week = WeekNumbers::iso().of("2026-09-30".parse()?);
/// assert_eq!((week.year(), week.week()), (2026, 40));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct WeekNumber {
    year: i32,
    week: u8,
}

impl WeekNumber {
    /// The year it is numbered in, 0 to 10000: it may differ from the calendar year around New Year.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekNumbers::iso().of("2021-01-03".parse()?).year(), 2020);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn year(self) -> i32 {
        self.year
    }

    /// Its number, 1 to 54.
    ///
    /// ```
    /// assert_eq!(mild_ledger::WeekNumbers::iso().of("2021-01-03".parse()?).week(), 53);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn week(self) -> u8 {
        self.week
    }
}

impl fmt::Display for WeekNumber {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:04}-W{:02}", self.year, self.week)
    }
}

impl WeekNumbers {
    /// Weeks that start on a day, with week 1 having at least so many days (1 to 7) of the year.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another number of days.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// assert!(WeekNumbers::new(Weekday::Monday, 8).is_err());
    /// ```
    pub fn new(first: Weekday, smallest_first_week: u8) -> Result<Self, Error> {
        if !(1..=7).contains(&smallest_first_week) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("a first week cannot have at least {smallest_first_week} days"),
                "1 to 7 days",
            ));
        }
        Ok(Self { first, smallest_first_week })
    }

    /// The weeks of ISO 8601: Monday, and 4.
    ///
    /// ```
    /// use mild_ledger::{WeekNumbers, Weekday};
    /// assert_eq!(Ok(WeekNumbers::iso()), WeekNumbers::new(Weekday::Monday, 4));
    /// ```
    #[must_use]
    pub fn iso() -> Self {
        Self { first: Weekday::Monday, smallest_first_week: 4 }
    }

    /// The week that a date lies in.
    ///
    /// ```
    /// use mild_ledger::{Date, WeekNumbers};
    /// assert_eq!(WeekNumbers::iso().of(Date::MAX).to_string(), "9999-W52");
    /// ```
    #[must_use]
    pub fn of(self, date: Date) -> WeekNumber {
        let (calendar_year, ..) = date.year_month_day();
        let day = i64::from(date.day_number());
        let year = if day < self.first_day_of(calendar_year) {
            calendar_year - 1
        } else if day >= self.first_day_of(calendar_year + 1) {
            calendar_year + 1
        } else {
            calendar_year
        };
        let week = (day - self.first_day_of(year)) / 7 + 1;
        WeekNumber { year, week: week as u8 }
    }

    /// The first day of week 1: the week that holds the day of January by which it has days enough.
    fn first_day_of(self, year: i32) -> i64 {
        let inside = civil::day_number_of(year, 1, self.smallest_first_week);
        let weekday = Weekday::of_day_number(inside).days_from_monday();
        i64::from(inside) - (weekday - self.first.days_from_monday()).rem_euclid(7)
    }
}
