//! Moving to a weekday.

use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// A move to the nearest day of a weekday on one side of a date.
///
/// Written as `on or after Monday`, `after Monday`, `on or before Monday`, `before Monday`, and read in any case.
///
/// ```
/// use mild_ledger::{Weekday, WeekdayMove};
///
/// let wednesday = "2026-09-30".parse()?;
/// assert_eq!(WeekdayMove::OnOrAfter(Weekday::Wednesday).apply(wednesday)?, wednesday);
/// assert_eq!(WeekdayMove::After(Weekday::Wednesday).apply(wednesday)?.to_string(), "2026-10-07");
/// let friday: WeekdayMove = "on or before friday".parse()?;
/// assert_eq!(friday.apply(wednesday)?.to_string(), "2026-09-25");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum WeekdayMove {
    /// The date itself if it is that weekday, else the next one.
    OnOrAfter(Weekday),
    /// The next one strictly after the date.
    After(Weekday),
    /// The date itself if it is that weekday, else the last one before it.
    OnOrBefore(Weekday),
    /// The last one strictly before the date.
    Before(Weekday),
}

impl WeekdayMove {
    /// The date moved to.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Date, Weekday, WeekdayMove};
    /// assert!(WeekdayMove::After(Weekday::Monday).apply(Date::MAX).is_err());
    /// ```
    pub fn apply(self, date: Date) -> Result<Date, Error> {
        Date::in_range(self.day_number_from(date.day_number().into())).ok_or_else(|| {
            let what = format!("there is no {self} {date}");
            Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
        })
    }

    /// The day moved to from a day, either of which may lie outside the range of dates.
    pub(crate) fn day_number_from(self, day: i64) -> i64 {
        // 1970-01-01 was a Thursday.
        let from = (day + 3).rem_euclid(7);
        let forward = |to: Weekday| (to.days_from_monday() - from).rem_euclid(7);
        let backward = |to: Weekday| (from - to.days_from_monday()).rem_euclid(7);
        day + match self {
            Self::OnOrAfter(to) => forward(to),
            Self::After(to) => (forward(to) + 6) % 7 + 1,
            Self::OnOrBefore(to) => -backward(to),
            Self::Before(to) => -((backward(to) + 6) % 7 + 1),
        }
    }
}

impl fmt::Display for WeekdayMove {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let (words, weekday) = match self {
            Self::OnOrAfter(weekday) => ("on or after", weekday),
            Self::After(weekday) => ("after", weekday),
            Self::OnOrBefore(weekday) => ("on or before", weekday),
            Self::Before(weekday) => ("before", weekday),
        };
        f.pad(&format!("{words} {weekday}"))
    }
}

impl FromStr for WeekdayMove {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let lower = text.trim().to_lowercase();
        let (words, weekday) = lower.rsplit_once(' ').unwrap_or(("", &lower));
        let weekday: Weekday = weekday.parse()?;
        match words.trim() {
            "on or after" => Ok(Self::OnOrAfter(weekday)),
            "after" => Ok(Self::After(weekday)),
            "on or before" => Ok(Self::OnOrBefore(weekday)),
            "before" => Ok(Self::Before(weekday)),
            _ => Err(Error::new(
                ErrorKind::Unreadable,
                format!("{} does not say on which side of the date", quoted(text)),
                "on or after, after, on or before or before, then a weekday",
            )),
        }
    }
}

/// Which one of its weekdays in a month: the nth from the start, or the last.
///
/// ```
/// use mild_ledger::{Month, NthWeekday, Weekday};
///
/// let may = Month::new(2026, 5)?;
/// assert_eq!(NthWeekday::Nth(1, Weekday::Monday).of_month(may.first_day())?.to_string(), "2026-05-04");
/// assert_eq!(NthWeekday::Last(Weekday::Monday).of_month(may.first_day())?.to_string(), "2026-05-25");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum NthWeekday {
    /// The first, second, third, fourth or fifth.
    Nth(u8, Weekday),
    /// The last, be it the fourth or the fifth.
    Last(Weekday),
}

impl NthWeekday {
    /// That day of the month that a date lies in.
    ///
    /// # Errors
    /// [`ErrorKind::NoSuchDay`] for a fifth one that the month lacks, and for a number other than 1 to 5.
    ///
    /// ```
    /// use mild_ledger::{Date, NthWeekday, Weekday};
    /// assert!(NthWeekday::Nth(5, Weekday::Monday).of_month("2026-09-30".parse()?).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn of_month(self, date: Date) -> Result<Date, Error> {
        let (year, month, _) = date.year_month_day();
        self.day_number_of_month(year, month).and_then(Date::in_range).ok_or_else(|| {
            let how_many =
                if Self::Nth(5, self.weekday()).day_number_of_month(year, month).is_some() { 5 } else { 4 };
            let number = match self {
                Self::Nth(number, _) => number,
                Self::Last(_) => 0,
            };
            Error::new(
                ErrorKind::NoSuchDay,
                format!("{year:04}-{month:02} has no {} number {number}", self.weekday()),
                format!("1 to {how_many}"),
            )
        })
    }

    fn weekday(self) -> Weekday {
        match self {
            Self::Nth(_, weekday) | Self::Last(weekday) => weekday,
        }
    }

    /// That day of a month, which may lie outside the range of dates; `None` where the month lacks it.
    pub(crate) fn day_number_of_month(self, year: i32, month: u8) -> Option<i64> {
        let length = year_month_day::month_length(year, month);
        let first = year_month_day::day_number_of(year, month, 1);
        let into_week = Weekday::of_day_number(first).days_from_monday();
        let first_one = 1 + (self.weekday().days_from_monday() - into_week).rem_euclid(7) as u8;
        let how_many = 1 + (length - first_one) / 7;
        let number = match self {
            Self::Nth(number, _) => number,
            Self::Last(_) => how_many,
        };
        let day = (1..=how_many).contains(&number).then(|| first_one + 7 * (number - 1))?;
        Some(i64::from(first) + i64::from(day) - 1)
    }
}
