//! Moving a date by days, weeks and months.

mod month_end;
mod series;
mod text;
mod unit;
mod weekday_move;
mod why;

use crate::date::{Date, civil};
use crate::error::{Error, ErrorKind};
pub use month_end::MonthEnd;
pub use series::Series;
pub use unit::Unit;
pub use weekday_move::{NthWeekday, WeekdayMove};

/// An amount of time to move a date by, with the rule for month ends.
///
/// Years, half-years, quarters and months are summed into one move of months and done first; weeks and days
/// are summed and done after it.
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
    month_end: MonthEnd,
}

impl Shift {
    /// So many days, back where negative.
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

    /// So many months, back where negative, under [`MonthEnd::Clamp`] until another rule is named.
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
        Self { months, days, month_end: MonthEnd::Clamp }
    }

    /// The same move with another rule for month ends.
    ///
    /// ```
    /// # use mild_ledger::{MonthEnd, Shift};
    /// let shift = Shift::months(1).month_end(MonthEnd::Keep);
    /// assert_eq!(shift.apply("2026-04-30".parse()?)?.to_string(), "2026-05-31");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn month_end(mut self, rule: MonthEnd) -> Self {
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
        match (self.months.checked_add(other.months), self.days.checked_add(other.days)) {
            (Some(months), Some(days)) => Ok(Self { months, days, month_end: self.month_end }),
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
    /// [`ErrorKind::OutOfRange`] where the result lies outside the years 0001 to 9999 (days on the way may),
    /// and under [`MonthEnd::Refuse`] [`ErrorKind::NoSuchDay`] where the month lacks the day.
    ///
    /// ```
    /// # use mild_ledger::{Date, Shift};
    /// assert!(Shift::days(1).apply(Date::MAX).is_err());
    /// ```
    pub fn apply(&self, date: Date) -> Result<Date, Error> {
        self.moved(date).map_err(|miss| match miss {
            Miss::OutOfRange => Error::new(
                ErrorKind::OutOfRange,
                format!("{date} moved by {self} lies outside the years 0001 to 9999"),
                "0001-01-01 to 9999-12-31",
            ),
            Miss::NoSuchDay { year, month, day } => Error::new(
                ErrorKind::NoSuchDay,
                format!("{date} moved by {self} would be day {day} of {year:04}-{month:02}, which has none"),
                format!("day 1 to {}", civil::month_length(year.rem_euclid(400) as i32, month)),
            ),
        })
    }

    /// So many times the move; `None` where that is more than a number here can hold.
    pub(crate) fn times(&self, number: i32) -> Option<Self> {
        let number = i64::from(number);
        let (months, days) = (self.months.checked_mul(number)?, self.days.checked_mul(number)?);
        Some(Self { months, days, month_end: self.month_end })
    }

    /// [`apply`](Self::apply) without the words of an error, for loops over columns.
    #[inline]
    pub(crate) fn moved(&self, date: Date) -> Result<Date, Miss> {
        let by_months = if self.months == 0 {
            i64::from(date.day_number())
        } else {
            self.month_end.day_number_after_months(date.day_number(), self.months)?
        };
        by_months.checked_add(self.days).and_then(Date::in_range).ok_or(Miss::OutOfRange)
    }
}

/// Why a move has no result, in a form that costs nothing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Miss {
    OutOfRange,
    NoSuchDay { year: i64, month: u8, day: u8 },
}
