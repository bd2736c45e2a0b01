//! Why a text is not a date, in a form that costs nothing until it is put into words.

use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind, quoted};
use alloc::borrow::ToOwned;
use alloc::format;

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Fault {
    /// The text is not of the pattern.
    Shape,
    /// It ends before the pattern does.
    TooShort,
    /// Something follows the date.
    Trailing,
    /// The year has more or fewer digits than four.
    YearDigits,
    /// The year has more or fewer digits than two.
    ShortYearDigits,
    /// The month's name is not one.
    MonthName,
    /// The weekday's name is not one.
    WeekdayName,
    /// The date is another day of the week than the text says.
    OtherWeekday(Weekday),
    /// The quarter is none of four.
    Quarter,
    /// AM or PM was expected.
    HalfDay,
    /// Year, month and day do not make a date.
    NoDate { year: i32, month: u8, day: u8 },
    /// Hour, minute or second is not one.
    TimeOfDay,
    /// An offset or a zone after the time asks for the zone whose dates are meant.
    OtherZone,
    /// Its ISO form holds a week or a day of the year that does not exist.
    Iso,
    /// A serial number that the system has no day for.
    NoSerialDay,
    /// A number that leads out of the years that there are.
    OutOfYears,
    /// Two of several patterns read it as different dates.
    TwoWays(Date, Date),
}

/// The date of three numbers.
pub(crate) fn date_of(year: i32, month: u8, day: u8) -> Result<Date, Fault> {
    Date::new(year, month, day).map_err(|_| Fault::NoDate { year, month, day })
}

impl Fault {
    /// How far the text was read, so that the best of several reasons can be reported.
    pub(crate) fn reach(self) -> u8 {
        match self {
            Self::Shape => 0,
            Self::TooShort | Self::YearDigits | Self::ShortYearDigits | Self::WeekdayName => 1,
            Self::MonthName | Self::Quarter | Self::HalfDay | Self::Trailing => 2,
            Self::TimeOfDay | Self::OtherZone | Self::OtherWeekday(_) => 3,
            Self::NoDate { .. } | Self::Iso | Self::NoSerialDay | Self::OutOfYears => 4,
            Self::TwoWays(..) => 5,
        }
    }

    /// The error in words; `pattern` as it was named.
    pub(crate) fn into_error(self, text: &str, pattern: &str) -> Error {
        let shown = quoted(text);
        let of_pattern = match pattern {
            "iso" => "a date such as 2026-09-30, 2026-W40-3 or 2026-273".to_owned(),
            words if words.starts_with("serial ") => format!("a number of days ({words})"),
            words if words.ends_with("since 1970") => format!("a number of {words}"),
            words => format!("a date written {words}"),
        };
        let unreadable =
            |why: &str| Error::new(ErrorKind::Unreadable, format!("{shown}: {why}"), of_pattern.clone());
        match self {
            Self::Shape => unreadable("not a date of this pattern"),
            Self::TooShort => unreadable("the text ends before the date does"),
            Self::Trailing => unreadable("something follows the date"),
            Self::YearDigits => unreadable("a year has exactly four digits"),
            Self::ShortYearDigits => unreadable("a short year has exactly two digits"),
            Self::MonthName => unreadable("no month has this name"),
            Self::WeekdayName => unreadable("no weekday has this name"),
            Self::OtherWeekday(weekday) => unreadable(&format!("the date is a {weekday}")),
            Self::Quarter => unreadable("a year has quarters 1 to 4"),
            Self::HalfDay => unreadable("AM or PM is missing"),
            Self::TwoWays(one, other) => {
                unreadable(&format!("one pattern reads it as {one}, another as {other}"))
            }
            Self::NoSerialDay => Error::new(
                ErrorKind::NoSuchDay,
                format!("{shown}: the system has no day of this number"),
                "1 to 59, and 61 on",
            ),
            Self::OutOfYears => Error::new(
                ErrorKind::OutOfRange,
                format!("{shown} lies outside the years 0001 to 9999"),
                of_pattern.clone(),
            ),
            Self::OtherZone => {
                unreadable("a time with an offset or a zone needs a named zone to become a date")
            }
            Self::TimeOfDay => Error::new(
                ErrorKind::OutOfRange,
                format!("{shown}: there is no such time of day"),
                "00:00 to 23:59:59, or 12:00 AM to 11:59:59 PM",
            ),
            Self::NoDate { year, month, day } => said_again(&shown, Date::new(year, month, day)),
            Self::Iso => said_again(&shown, text.split(['T', ' ']).next().unwrap_or(text).parse()),
        }
    }
}

/// The error that the date itself gives, after the text it was read from.
fn said_again(shown: &str, result: Result<Date, Error>) -> Error {
    match result {
        Err(error) => {
            Error::new(error.kind(), format!("{shown}: {}", error.what()), error.allowed().to_owned())
        }
        Ok(_) => Error::new(ErrorKind::Unreadable, format!("{shown} is not a date"), "a date"),
    }
}
