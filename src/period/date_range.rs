//! A stretch of days, first and last included.

use super::Month;
use crate::date::Date;
use crate::error::{Error, ErrorKind, quoted};
use crate::shift::{Recurrence, Shift};
use alloc::format;
use core::fmt;
use core::str::FromStr;

/// Days from a first to a last one, both included; there is always at least one.
///
/// ```
/// use mild_ledger::DateRange;
/// let september = DateRange::new("2026-09-01".parse()?, "2026-09-30".parse()?)?;
/// assert_eq!(september.days(), 30);
/// assert!(september.contains("2026-09-30".parse()?));
/// assert_eq!(september.to_string(), "2026-09-01 to 2026-09-30");
/// assert_eq!("2026-09-01 to 2026-09-30".parse(), Ok(september));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct DateRange {
    first: Date,
    last: Date,
}

impl DateRange {
    /// The days from one date through another.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where the last lies before the first.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert!(DateRange::new(Date::MAX, Date::MIN).is_err());
    /// ```
    pub fn new(first: Date, last: Date) -> Result<Self, Error> {
        if last < first {
            let what = format!("the last day {last} lies before the first, {first}");
            return Err(Error::new(ErrorKind::NotInOrder, what, format!("{first} or later")));
        }
        Ok(Self { first, last })
    }

    /// The days between two dates, whichever comes first.
    pub(crate) fn between(one: Date, other: Date) -> Self {
        Self { first: one.min(other), last: one.max(other) }
    }

    /// A number of days (1 or more) from a date on.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for less than one day, and where it would end after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert_eq!(DateRange::days_from("2026-11-12".parse()?, 60)?.last().to_string(), "2027-01-10");
    /// assert!(DateRange::days_from(Date::MAX, 2).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn days_from(first: Date, days: i32) -> Result<Self, Error> {
        Ok(Self { first, last: Shift::days(at_least_one(days, "days")? - 1).apply(first)? })
    }

    /// A number of months (1 or more) from a date on: the next stretch begins on the day that lies that many months after the
    /// first, so that stretches tile.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for less than one month, and where the next one would begin after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert_eq!(DateRange::months_from("2026-11-12".parse()?, 3)?.to_string(), "2026-11-12 to 2027-02-11");
    /// assert!(DateRange::months_from(Date::MAX, 1).is_err() && DateRange::months_from(Date::MIN, 0).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn months_from(first: Date, months: i32) -> Result<Self, Error> {
        let next = Shift::months(at_least_one(months, "months")?).apply(first)?;
        Ok(Self { first, last: Shift::days(-1).apply(next)? })
    }

    /// So many whole calendar months (1 or more), the first being the one that a date lies in.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for less than one month, and where it would end after 9999-12-31.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// let window = DateRange::calendar_months("2026-11-12".parse()?, 2)?;
    /// assert_eq!(window.to_string(), "2026-11-01 to 2026-12-31");
    /// assert_eq!(DateRange::calendar_months(Date::MAX, 1)?.last(), Date::MAX);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn calendar_months(date: Date, months: i32) -> Result<Self, Error> {
        let first = Month::of(date);
        Ok(Self {
            first: first.first_day(),
            last: first.away(at_least_one(months, "months")? - 1)?.last_day(),
        })
    }

    /// Its first day.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert_eq!(DateRange::new(Date::MIN, Date::MAX)?.first(), Date::MIN);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn first(self) -> Date {
        self.first
    }

    /// Its last day, which belongs to it.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert_eq!(DateRange::new(Date::MIN, Date::MAX)?.last(), Date::MAX);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn last(self) -> Date {
        self.last
    }

    /// How many days it holds, 1 or more.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert_eq!(DateRange::new(Date::MIN, Date::MIN)?.days(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days(self) -> i64 {
        i64::from(self.last.day_number()) - i64::from(self.first.day_number()) + 1
    }

    /// Whether a date lies in it.
    ///
    /// ```
    /// use mild_ledger::{Date, DateRange};
    /// assert!(!DateRange::new(Date::MIN, Date::MIN)?.contains(Date::MAX));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn contains(self, date: Date) -> bool {
        self.first <= date && date <= self.last
    }

    /// The days that both hold; `None` where there is none.
    ///
    /// ```
    /// use mild_ledger::DateRange;
    /// let range = |first: &str, last: &str| DateRange::new(first.parse()?, last.parse()?);
    /// let both = range("2026-08-20", "2026-10-05")?.overlap(range("2026-09-01", "2026-12-31")?);
    /// assert_eq!(both.map(|days| days.to_string()), Some("2026-09-01 to 2026-10-05".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn overlap(self, other: Self) -> Option<Self> {
        Self::new(self.first.max(other.first), self.last.min(other.last)).ok()
    }

    /// Every occurrence of a recurrence in these days from its first date on, in order, each with its number; the first date is number
    /// 0. None where the step does not lead on; those that are an error under [`MonthEnd::Refuse`](crate::MonthEnd::Refuse) are left
    /// out.
    ///
    /// ```
    /// use mild_ledger::{DateRange, Recurrence, Shift};
    /// let reviews = Recurrence::new("2020-08-31".parse()?, Shift::months(6));
    /// let year = DateRange::months_from("2026-01-01".parse()?, 12)?;
    /// let found: Vec<String> = year.occurrences_of(reviews).map(|(number, date)| format!("{number}: {date}")).collect();
    /// assert_eq!(found, ["11: 2026-02-28", "12: 2026-08-31"]);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn occurrences_of(self, recurrence: Recurrence) -> impl Iterator<Item = (i32, Date)> {
        let (months, days) = (recurrence.step().month_total(), recurrence.step().day_total());
        // A month has 28 to 31 days, so the numbers between these two steps hold all that can lie here.
        let shortest = months.saturating_mul(28).saturating_add(days);
        let longest = months.saturating_mul(31).saturating_add(days).max(1);
        let apart = |date: Date| i64::from(date.day_number()) - i64::from(recurrence.first().day_number());
        let first = (apart(self.first) / longest - 1).max(0);
        let last = if shortest > 0 { apart(self.last) / shortest + 1 } else { -1 };
        let number = |number: i64| i32::try_from(number).unwrap_or(i32::MAX);
        (number(first)..=number(last))
            .filter_map(move |nth| recurrence.occurrence(nth).ok().map(|date| (nth, date)))
            .filter(move |(_, date)| self.contains(*date))
    }

    /// Its days, one after the other.
    ///
    /// ```
    /// use mild_ledger::{DateRange, Weekday};
    /// let october = DateRange::calendar_months("2026-10-01".parse()?, 1)?;
    /// assert_eq!(october.dates().filter(|date| date.weekday() == Weekday::Monday).count(), 4);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn dates(self) -> impl DoubleEndedIterator<Item = Date> + ExactSizeIterator {
        // Every day between two dates of the calendar is one; their number fits, as there are fewer than four million.
        let days = self.days() as usize;
        (0..days).map(move |day| Date::of_checked_day(self.first.day_number() + day as i32))
    }
}

fn at_least_one(number: i32, unit: &str) -> Result<i32, Error> {
    if number >= 1 {
        return Ok(number);
    }
    let what = format!("a stretch of {number} {unit} holds no day");
    Err(Error::new(ErrorKind::OutOfRange, what, format!("1 {unit} or more")))
}

/// Writes both days: `2026-09-01 to 2026-09-30`.
impl fmt::Display for DateRange {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(&format!("{} to {}", self.first, self.last))
    }
}

/// Reads two dates with `to` between them: `2026-09-01 to 2026-09-30`.
impl FromStr for DateRange {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let dates = text.split_once(" to ").and_then(|(first, last)| {
            Some((first.trim().parse::<Date>().ok()?, last.trim().parse::<Date>().ok()?))
        });
        let (first, last) = dates.ok_or_else(|| {
            let what = format!("{} is not a stretch of days", quoted(text));
            Error::new(ErrorKind::Unreadable, what, "two dates such as 2026-09-01 to 2026-09-30")
        })?;
        Self::new(first, last)
    }
}
