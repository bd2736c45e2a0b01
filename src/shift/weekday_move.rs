//! Moving to a weekday.

use crate::date::{Date, Weekday, civil, quoted};
use crate::error::{Error, ErrorKind};
use std::fmt;
use std::str::FromStr;

/// A move to the nearest day of a weekday on one side of a date.
///
/// Read from and written as `on or after monday`, `after monday`, `on or before monday`, `before monday`.
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
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
        let from = date.weekday().days_from_monday();
        let forward = |to: Weekday| (to.days_from_monday() - from).rem_euclid(7);
        let backward = |to: Weekday| (from - to.days_from_monday()).rem_euclid(7);
        let days = match self {
            Self::OnOrAfter(to) => forward(to),
            Self::After(to) => (forward(to) + 6) % 7 + 1,
            Self::OnOrBefore(to) => -backward(to),
            Self::Before(to) => -((backward(to) + 6) % 7 + 1),
        };
        Date::in_range(i64::from(date.day_number()) + days).ok_or_else(|| {
            let what = format!("there is no {self} {date}");
            Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
        })
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
        write!(f, "{words} {}", weekday.word())
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
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
        let (year, month, _) = date.civil();
        let length = civil::month_length(year, month);
        let (number, weekday) = match self {
            Self::Nth(number, weekday) => (Some(number), weekday),
            Self::Last(weekday) => (None, weekday),
        };
        let first = Date::of_known_parts(year, month, 1).weekday().days_from_monday();
        let first_one = 1 + (weekday.days_from_monday() - first).rem_euclid(7) as u8;
        let how_many = 1 + (length - first_one) / 7;
        let number = number.unwrap_or(how_many);
        if !(1..=how_many).contains(&number) {
            return Err(Error::new(
                ErrorKind::NoSuchDay,
                format!("{year:04}-{month:02} has no {} number {number}", weekday),
                format!("1 to {how_many}"),
            ));
        }
        Ok(Date::of_known_parts(year, month, first_one + 7 * (number - 1)))
    }
}
