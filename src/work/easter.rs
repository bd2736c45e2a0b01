//! The day of Easter.

use crate::choice::chosen_by_word;
use crate::date::{Date, year_month_day};
use crate::error::{Error, ErrorKind};
use alloc::format;

/// Whose Easter is meant.
///
/// ```
/// assert_eq!(mild_ledger::Church::Western.word(), "western");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Church {
    /// By the Gregorian calendar and its moon.
    Western,
    /// By the Julian calendar and its moon.
    Orthodox,
}

impl Church {
    /// Both.
    pub const ALL: &'static [Self] = &[Self::Western, Self::Orthodox];

    /// The word for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Church::Orthodox.word(), "orthodox");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Western => "western",
            Self::Orthodox => "orthodox",
        }
    }
}

chosen_by_word!(Church, "a church");

/// Easter Sunday of a year (1 to 9999): the Sunday after the full moon of the church that falls on or after 21 March
/// in its calendar (for the Western one J.-M. Oudin's form of the Gregorian computation of 1582, for the Orthodox one
/// the Julian computation).
///
/// # Errors
/// [`ErrorKind::OutOfRange`] for another year.
///
/// ```
/// use mild_ledger::{Church, easter_sunday};
/// assert_eq!(easter_sunday(2026, Church::Western)?.to_string(), "2026-04-05");
/// assert_eq!(easter_sunday(2026, Church::Orthodox)?.to_string(), "2026-04-12");
/// # Ok::<(), mild_ledger::Error>(())
/// ```
pub fn easter_sunday(year: i32, church: Church) -> Result<Date, Error> {
    let out = || {
        let what = format!("Easter of the year {year} lies outside the years 0001 to 9999");
        Error::new(ErrorKind::OutOfRange, what, "year 1 to 9999")
    };
    if !(1..=9999).contains(&year) {
        return Err(out());
    }
    Date::in_range(easter_day_number(year, church)).ok_or_else(out)
}

/// The same as a day number, for the years 0 to 10000.
pub(super) fn easter_day_number(year: i32, church: Church) -> i64 {
    // The place of the year in the moon's cycle of 19.
    let golden = year % 19;
    i64::from(match church {
        Church::Western => {
            let century = year / 100;
            let moon = (century - century / 4 - (8 * century + 13) / 25 + 19 * golden + 15) % 30;
            let moon = moon - moon / 28 * (1 - 29 / (moon + 1) * ((21 - golden) / 11));
            let weekday = (year + year / 4 + moon + 2 - century + century / 4) % 7;
            // Days from 28 March to Easter.
            year_month_day::day_number_of(year, 3, 28) + moon - weekday
        }
        Church::Orthodox => {
            let moon = (19 * golden + 15) % 30;
            let weekday = (year + year / 4 + moon) % 7;
            // From 28 March of the Julian calendar, which had drawn a number of days behind by then.
            let behind = year / 100 - year / 400 - 2;
            year_month_day::day_number_of(year, 3, 28) + behind + moon - weekday
        }
    })
}
