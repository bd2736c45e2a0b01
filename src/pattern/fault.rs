//! Why a text is no date, in a form that costs nothing until it is put into words.

use crate::date::Date;
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
    /// The month's name is not one.
    MonthName,
    /// Year, month and day do not make a date.
    NoDate { year: i32, month: u8, day: u8 },
    /// Hour, minute or second is not one.
    TimeOfDay,
    /// An offset or Z asks for a zone.
    Offset,
    /// Its ISO form holds a week or a day of the year that does not exist.
    Iso,
}

/// The date of three numbers.
pub(crate) fn date_of(year: i32, month: u8, day: u8) -> Result<Date, Fault> {
    Date::new(year, month, day).map_err(|_| Fault::NoDate { year, month, day })
}

impl Fault {
    /// The error in words; `pattern` as it was named.
    pub(crate) fn into_error(self, text: &str, pattern: &str) -> Error {
        let shown = quoted(text);
        let of_pattern = match pattern {
            "iso" => "a date such as 2026-09-30, 2026-W40-3 or 2026-273".to_owned(),
            words => format!("a date written {words}"),
        };
        let unreadable =
            |why: &str| Error::new(ErrorKind::Unreadable, format!("{shown}: {why}"), of_pattern.clone());
        match self {
            Self::Shape => unreadable("not a date of this pattern"),
            Self::TooShort => unreadable("the text ends before the date does"),
            Self::Trailing => unreadable("something follows the date"),
            Self::YearDigits => unreadable("a year has exactly four digits"),
            Self::MonthName => unreadable("no month has this name"),
            Self::Offset => unreadable("a time with an offset needs a named zone to become a date"),
            Self::TimeOfDay => Error::new(
                ErrorKind::OutOfRange,
                format!("{shown}: there is no such time of day"),
                "00:00 to 23:59:59",
            ),
            Self::NoDate { year, month, day } => said_again(&shown, Date::new(year, month, day)),
            Self::Iso => said_again(&shown, text.split(['T', ' ']).next().unwrap_or(text).parse()),
        }
    }
}

/// The error that the date itself gives, behind the text it was read from.
fn said_again(shown: &str, result: Result<Date, Error>) -> Error {
    match result {
        Err(error) => {
            Error::new(error.kind(), format!("{shown}: {}", error.what()), error.allowed().to_owned())
        }
        Ok(_) => Error::new(ErrorKind::Unreadable, format!("{shown} is not a date"), "a date"),
    }
}
