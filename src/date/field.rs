//! The numbers that a date is made of, each by its name.

use super::Date;
use super::year_month_day::{day_number_lane, year_month_day_lane};
use crate::choice::chosen_by_word;

/// A field of a date that is a number.
///
/// ```
/// use mild_ledger::{Date, DateField};
/// let date = Date::new(2026, 9, 30)?;
/// assert_eq!(date.field(DateField::Quarter), 3);
/// assert_eq!(date.field("iso week".parse()?), 40);
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum DateField {
    /// The year, 1 to 9999.
    Year,
    /// The half of the year, 1 or 2.
    HalfYear,
    /// The quarter of the year, 1 to 4.
    Quarter,
    /// The month, 1 to 12.
    Month,
    /// The day of the month, 1 to 31.
    Day,
    /// The day of the year, 1 to 366.
    DayOfYear,
    /// The day of the week, 1 to 7 from Monday (ISO 8601).
    WeekdayNumber,
    /// The week-year, in which most days of the week lie (ISO 8601).
    IsoWeekYear,
    /// The week of the week-year, 1 to 53 (ISO 8601).
    IsoWeek,
}

impl DateField {
    /// Every field, in the order in which messages list them.
    pub const ALL: &'static [Self] = &[
        Self::Year,
        Self::HalfYear,
        Self::Quarter,
        Self::Month,
        Self::Day,
        Self::DayOfYear,
        Self::WeekdayNumber,
        Self::IsoWeekYear,
        Self::IsoWeek,
    ];

    /// The words for it in plans and headers; a number of a weekday says from where it counts.
    ///
    /// ```
    /// assert_eq!(mild_ledger::DateField::WeekdayNumber.word(), "weekday number from monday 1");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::Year => "year",
            Self::HalfYear => "half-year",
            Self::Quarter => "quarter",
            Self::Month => "month",
            Self::Day => "day",
            Self::DayOfYear => "day of year",
            Self::WeekdayNumber => "weekday number from monday 1",
            Self::IsoWeekYear => "iso week-year",
            Self::IsoWeek => "iso week",
        }
    }

    /// The field of a day number near the calendar, in numbers of one width.
    #[inline(always)]
    pub(crate) fn of_day(self, day_number: i32) -> i32 {
        let (year, month, day) = year_month_day_lane(day_number);
        // Every day of the calendar is brought above zero by whole weeks; 1970-01-01 is a Thursday.
        let weekday = ((day_number + 3 + 770_000) as u32 % 7) as i32;
        // A week belongs to the year of its Thursday.
        let thursday = day_number - weekday + 3;
        match self {
            Self::Year => year,
            Self::HalfYear => (month as i32 + 5) / 6,
            Self::Quarter => (month as i32 + 2) / 3,
            Self::Month => month as i32,
            Self::Day => day as i32,
            Self::DayOfYear => day_number - day_number_lane(year, 1, 1) + 1,
            Self::WeekdayNumber => weekday + 1,
            Self::IsoWeekYear => year_month_day_lane(thursday).0,
            Self::IsoWeek => (thursday - day_number_lane(year_month_day_lane(thursday).0, 1, 1)) / 7 + 1,
        }
    }
}

chosen_by_word!(DateField, "a field of a date");

impl Date {
    /// A field of the date.
    ///
    /// ```
    /// use mild_ledger::{Date, DateField};
    /// assert_eq!(Date::MIN.field(DateField::WeekdayNumber), 1);
    /// ```
    #[must_use]
    pub fn field(self, field: DateField) -> i32 {
        field.of_day(self.day_number())
    }
}
