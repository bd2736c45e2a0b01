//! ISO 8601 text: calendar date, week date and ordinal date, in their extended forms.

use super::{Date, year_month_day};
use crate::error::{Error, ErrorKind, quoted};
use alloc::format;
use alloc::vec::Vec;
use core::fmt;
use core::str::FromStr;

impl Date {
    /// The calendar date in ISO 8601, `2026-09-30`, as ten ASCII bytes: what its `Display` writes, for callers that write
    /// many.
    ///
    /// ```
    /// let date: mild_ledger::Date = "2026-09-30".parse()?;
    /// assert_eq!(&date.iso_digits(), b"2026-09-30");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn iso_digits(self) -> [u8; 10] {
        let (year, month, day) = self.year_month_day();
        let digit = |n: i32| b'0' + (n % 10) as u8;
        [
            digit(year / 1000),
            digit(year / 100),
            digit(year / 10),
            digit(year),
            b'-',
            digit(i32::from(month) / 10),
            digit(i32::from(month)),
            b'-',
            digit(i32::from(day) / 10),
            digit(i32::from(day)),
        ]
    }
}

/// Writes the calendar date, `2026-09-30`.
impl fmt::Display for Date {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(core::str::from_utf8(&self.iso_digits()).unwrap_or_default())
    }
}

/// Reads a calendar date (`2026-09-30`), a week date (`2026-W40-3`) or an ordinal date (`2026-273`).
///
/// Each in exactly these digits (ISO 8601, extended form, four-digit years).
impl FromStr for Date {
    type Err = Error;

    fn from_str(text: &str) -> Result<Self, Error> {
        let shape: Vec<u8> =
            text.bytes().take(11).map(|byte| if byte.is_ascii_digit() { b'0' } else { byte }).collect();
        let number = |from: usize, to: usize| -> i32 {
            text.as_bytes()[from..to].iter().fold(0, |sum, byte| sum * 10 + i32::from(byte - b'0'))
        };
        match shape.as_slice() {
            b"0000-00-00" => Self::new(number(0, 4), number(5, 7) as u8, number(8, 10) as u8),
            b"0000-W00-0" => from_week_date(number(0, 4), number(6, 8), number(9, 10)),
            b"0000-000" => from_ordinal_date(number(0, 4), number(5, 8)),
            _ => Err(Error::new(
                ErrorKind::Unreadable,
                format!("{} is not an ISO 8601 date", quoted(text)),
                "a date such as 2026-09-30, 2026-W40-3 or 2026-273",
            )),
        }
    }
}

/// The Monday of week 1 is the Monday of the week that holds 4 January.
fn from_week_date(year: i32, week: i32, weekday: i32) -> Result<Date, Error> {
    let in_year = Date::new(year, 1, 4)?;
    let first_monday = i64::from(in_year.day_number()) - in_year.weekday().days_from_monday();
    let next = year_month_day::day_number_of(year + 1, 1, 4);
    let next_monday = i64::from(next) - super::Weekday::of_day_number(next).days_from_monday();
    let weeks = (next_monday - first_monday) / 7;
    if !(1..=weeks).contains(&i64::from(week)) {
        return Err(Error::new(
            ErrorKind::NoSuchDay,
            format!("there is no week {week} in week-year {year:04}"),
            format!("week 1 to {weeks}"),
        ));
    }
    if !(1..=7).contains(&weekday) {
        return Err(Error::new(
            ErrorKind::NoSuchDay,
            format!("there is no day {weekday} in a week"),
            "day 1 (Monday) to 7 (Sunday)",
        ));
    }
    let day_number = first_monday + 7 * i64::from(week - 1) + i64::from(weekday - 1);
    Date::in_range(day_number).ok_or_else(|| {
        Error::new(
            ErrorKind::OutOfRange,
            format!("{year:04}-W{week:02}-{weekday} lies outside the years 0001 to 9999"),
            "0001-01-01 to 9999-12-31",
        )
    })
}

fn from_ordinal_date(year: i32, day_of_year: i32) -> Result<Date, Error> {
    let first = Date::new(year, 1, 1)?;
    let length = if year_month_day::is_leap_year(year) { 366 } else { 365 };
    if !(1..=length).contains(&day_of_year) {
        return Err(Error::new(
            ErrorKind::NoSuchDay,
            format!("there is no day {day_of_year} in the year {year:04}"),
            format!("day 1 to {length}"),
        ));
    }
    Date::from_day_number(first.day_number() + day_of_year - 1)
}
