//! A day of the calendar, as a day number and as year, month and day; and a time of it.

pub(crate) mod clock_time;
mod date_time;
mod field;
mod iso;
pub(crate) mod month_names;
mod weekday;
pub(crate) mod year_month_day;
pub(crate) mod zone_text;

use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::string::String;
pub use clock_time::{ClockTime, FinerDigits};
pub use date_time::DateTime;
pub use field::DateField;
pub use weekday::Weekday;
pub use zone_text::{ZoneName, ZoneText};

/// A day of the proleptic Gregorian calendar from 0001-01-01 to 9999-12-31.
///
/// Held in four bytes as the number of days since 1970-01-01, so dates order and subtract as numbers. The
/// calendar is that of ISO 8601: the Gregorian leap years (every fourth, not the centuries, but every
/// fourth century) carried back before 1582.
///
/// ```
/// use mild_ledger::{Date, Weekday};
///
/// let month_end = Date::new(2026, 9, 30)?;
/// assert_eq!(month_end.day_number(), 20_726);
/// assert_eq!(month_end.weekday(), Weekday::Wednesday);
/// assert_eq!(month_end.to_string(), "2026-09-30");
/// assert!("2026-10-01".parse::<Date>()? > month_end);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[repr(transparent)]
pub struct Date {
    day_number: i32,
}

impl Date {
    /// The first date there is, 0001-01-01.
    pub const MIN: Self = Self { day_number: -719_162 };
    /// The last date there is, 9999-12-31.
    pub const MAX: Self = Self { day_number: 2_932_896 };

    /// The date of a year (1 to 9999), month (1 to 12) and day of the month (1 to 28, 29, 30 or 31).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a year or month outside these, [`ErrorKind::NoSuchDay`] for a day that
    /// the month lacks.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// assert!(Date::new(2024, 2, 29).is_ok());
    /// assert!(Date::new(2026, 2, 29).is_err());
    /// ```
    pub fn new(year: i32, month: u8, day: u8) -> Result<Self, Error> {
        if !(1..=9999).contains(&year) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("there is no year {year}"),
                "year 1 to 9999",
            ));
        }
        if !(1..=12).contains(&month) {
            return Err(Error::new(
                ErrorKind::OutOfRange,
                format!("there is no month {month}"),
                "month 1 to 12",
            ));
        }
        let length = year_month_day::month_length(year, month);
        if !(1..=length).contains(&day) {
            return Err(Error::new(
                ErrorKind::NoSuchDay,
                format!("there is no day {day} in {year:04}-{month:02}"),
                format!("day 1 to {length}"),
            ));
        }
        Ok(Self { day_number: year_month_day::day_number_of(year, month, day) })
    }

    /// The date with this number of days since 1970-01-01 (-719162 to 2932896).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for a number outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// assert_eq!(Date::from_day_number(0)?.to_string(), "1970-01-01");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_day_number(day_number: i32) -> Result<Self, Error> {
        Self::in_range(i64::from(day_number)).ok_or_else(|| {
            Error::new(
                ErrorKind::OutOfRange,
                format!("day number {day_number} lies outside the years 0001 to 9999"),
                "day number -719162 (0001-01-01) to 2932896 (9999-12-31)",
            )
        })
    }

    /// The number of days since 1970-01-01; negative before it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MAX.day_number(), 2_932_896);
    /// ```
    #[must_use]
    pub const fn day_number(self) -> i32 {
        self.day_number
    }

    /// The year, 1 to 9999.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MIN.year(), 1);
    /// ```
    #[must_use]
    pub fn year(self) -> i32 {
        self.year_month_day().0
    }

    /// The month of the year, 1 to 12.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MAX.month(), 12);
    /// ```
    #[must_use]
    pub fn month(self) -> u8 {
        self.year_month_day().1
    }

    /// The day of the month, 1 to 31.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MAX.day(), 31);
    /// ```
    #[must_use]
    pub fn day(self) -> u8 {
        self.year_month_day().2
    }

    /// Year, month and day in one step.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MAX.year_month_day(), (9999, 12, 31));
    /// ```
    #[must_use]
    pub fn year_month_day(self) -> (i32, u8, u8) {
        year_month_day::year_month_day_of_near(self.day_number)
    }

    /// The date of a year, month and day, where a constant is wanted; `None` where there is none.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// const YEAR_END: Option<Date> = Date::of_parts(2026, 12, 31);
    /// assert_eq!(YEAR_END.map(|date| date.to_string()), Some("2026-12-31".into()));
    /// assert_eq!(Date::of_parts(2026, 2, 29), None);
    /// ```
    #[must_use]
    pub const fn of_parts(year: i32, month: u8, day: u8) -> Option<Self> {
        if year < 1 || year > 9_999 || month < 1 || month > 12 {
            return None;
        }
        if day < 1 || day as u32 > year_month_day::month_length_lane(year, month as u32) {
            return None;
        }
        Some(Self { day_number: year_month_day::day_number_lane(year, month as u32, day as u32) })
    }

    /// The date a number of days on, back where negative; `None` outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// assert_eq!(Date::new(2026, 9, 30)?.days_later(1), Some(Date::new(2026, 10, 1)?));
    /// assert_eq!(Date::MAX.days_later(1), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn days_later(self, days: i32) -> Option<Self> {
        Self::in_range(i64::from(self.day_number) + i64::from(days))
    }

    /// The day of the week.
    ///
    /// ```
    /// use mild_ledger::{Date, Weekday};
    /// assert_eq!(Date::new(1970, 1, 1)?.weekday(), Weekday::Thursday);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn weekday(self) -> Weekday {
        Weekday::of_day_number(self.day_number)
    }

    /// The number of the day in its year, 1 to 365 or 366.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Date::MAX.day_of_year(), 365);
    /// ```
    #[must_use]
    pub fn day_of_year(self) -> u16 {
        self.field(DateField::DayOfYear) as u16
    }

    /// The date as ISO 8601 writes it by week: week-year, week and weekday from Monday, 1.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// assert_eq!(Date::new(2021, 1, 3)?.week_text(), "2020-W53-7");
    /// assert_eq!("2020-W53-7".parse::<Date>()?, Date::new(2021, 1, 3)?);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn week_text(self) -> String {
        let field = |field| self.field(field);
        format!(
            "{:04}-W{:02}-{}",
            field(DateField::IsoWeekYear),
            field(DateField::IsoWeek),
            field(DateField::WeekdayNumber)
        )
    }

    /// The date as ISO 8601 writes it by the day of the year.
    ///
    /// ```
    /// use mild_ledger::Date;
    /// assert_eq!(Date::new(2026, 9, 30)?.ordinal_text(), "2026-273");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn ordinal_text(self) -> String {
        format!("{:04}-{:03}", self.year(), self.day_of_year())
    }

    /// The date of a day number worked out in 64 bits, or `None` outside the years 0001 to 9999.
    pub(crate) fn in_range(day_number: i64) -> Option<Self> {
        match i32::try_from(day_number) {
            Ok(day_number) if (Self::MIN.day_number..=Self::MAX.day_number).contains(&day_number) => {
                Some(Self { day_number })
            }
            _ => None,
        }
    }

    /// For callers inside the library whose day number came from a date.
    #[inline]
    pub(crate) fn of_checked_day(day_number: i32) -> Self {
        Self { day_number }
    }

    /// For callers inside the library whose parts are known to make a date.
    pub(crate) fn of_known_parts(year: i32, month: u8, day: u8) -> Self {
        Self { day_number: year_month_day::day_number_of(year, month, day) }
    }
}

/// Shows it as it is written, `2026-09-30`.
impl core::fmt::Debug for Date {
    fn fmt(&self, f: &mut core::fmt::Formatter<'_>) -> core::fmt::Result {
        core::fmt::Display::fmt(self, f)
    }
}

/// The days from one date to another, below zero where the other comes first:
/// `"2026-10-01".parse::<Date>()? - "2026-09-30".parse()?` is 1.
impl core::ops::Sub for Date {
    type Output = i64;

    fn sub(self, from: Self) -> i64 {
        i64::from(self.day_number) - i64::from(from.day_number)
    }
}

/// Year, month and day.
impl TryFrom<(i32, u8, u8)> for Date {
    type Error = Error;

    fn try_from((year, month, day): (i32, u8, u8)) -> Result<Self, Error> {
        Self::new(year, month, day)
    }
}
