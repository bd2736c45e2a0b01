//! The days of a year on which holidays occur.

use super::easter::{Church, easter_day_number};
use crate::choice::chosen_by_word;
use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind};
use crate::shift::{NthWeekday, WeekdayMove};
use alloc::format;

/// The day of a year on which a holiday occurs.
///
/// ```
/// use mild_ledger::{Occurrence, Weekday};
/// let may_day = Occurrence::on_nth_weekday(1, Weekday::Monday, 5)?;
/// assert_eq!(may_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-05-04".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Occurrence {
    kind: Kind,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
enum Kind {
    Date(Date),
    DayOfYear { month: u8, day: u8 },
    LeapDay(CommonYears),
    OfMonth { month: u8, which: NthWeekday },
    Beside { month: u8, day: u8, to: WeekdayMove },
    Easter { days: i16, church: Church },
    BetweenHolidays,
}

/// On which day a 29 February is kept in common years.
///
/// ```
/// use mild_ledger::{CommonYears, Occurrence};
/// let leap_day = Occurrence::on_leap_day(CommonYears::MarchFirst);
/// assert_eq!(leap_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-03-01".into()));
/// assert_eq!(leap_day.in_year(2028)?.map(|date| date.to_string()), Some("2028-02-29".into()));
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum CommonYears {
    /// On 28 February.
    February28,
    /// On 1 March.
    MarchFirst,
}

impl CommonYears {
    /// Both.
    pub const ALL: [Self; 2] = [Self::February28, Self::MarchFirst];

    /// The words for it in calendar files.
    ///
    /// ```
    /// assert_eq!(mild_ledger::CommonYears::February28.word(), "28 february");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::February28 => "28 february",
            Self::MarchFirst => "1 march",
        }
    }
}

chosen_by_word!(CommonYears, "a day for a 29 February");

/// On which side of a day a weekday is looked for.
///
/// ```
/// assert_eq!(mild_ledger::WeekdaySide::ALL.len(), 4);
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum WeekdaySide {
    /// The day itself or the next such weekday.
    OnOrAfter,
    /// The next such weekday.
    After,
    /// The day itself or the last such weekday before.
    OnOrBefore,
    /// The last such weekday before.
    Before,
}

impl WeekdaySide {
    /// All four.
    pub const ALL: &'static [Self] = &[Self::OnOrAfter, Self::After, Self::OnOrBefore, Self::Before];

    fn of(self, weekday: Weekday) -> WeekdayMove {
        match self {
            Self::OnOrAfter => WeekdayMove::OnOrAfter(weekday),
            Self::After => WeekdayMove::After(weekday),
            Self::OnOrBefore => WeekdayMove::OnOrBefore(weekday),
            Self::Before => WeekdayMove::Before(weekday),
        }
    }
}

impl Occurrence {
    /// Once, on a date.
    ///
    /// ```
    /// use mild_ledger::{Date, Occurrence};
    /// assert_eq!(Occurrence::on_date(Date::MIN).in_year(2)?, None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn on_date(date: Date) -> Self {
        Self { kind: Kind::Date(date) }
    }

    /// Every year on a day of a month; a 29 February in leap years only.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] and [`ErrorKind::NoSuchDay`] for a day that no year has.
    ///
    /// ```
    /// use mild_ledger::Occurrence;
    /// let leap_day = Occurrence::on_day_of_year(2, 29)?;
    /// assert!(leap_day.in_year(2024)?.is_some() && leap_day.in_year(2026)?.is_none());
    /// assert!(Occurrence::on_day_of_year(2, 30).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_day_of_year(month: u8, day: u8) -> Result<Self, Error> {
        check_day(month, day)?;
        Ok(Self { kind: Kind::DayOfYear { month, day } })
    }

    /// Every year on 29 February, and in common years on the day next to it that is named.
    ///
    /// ```
    /// use mild_ledger::{CommonYears, Occurrence};
    /// let leap_day = Occurrence::on_leap_day(CommonYears::February28);
    /// assert_eq!(leap_day.in_year(2026)?.map(|date| date.to_string()), Some("2026-02-28".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn on_leap_day(common_years: CommonYears) -> Self {
        Self { kind: Kind::LeapDay(common_years) }
    }

    /// The first to fifth such weekday of a month; in years that lack a fifth, never.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month or number.
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday};
    /// assert!(Occurrence::on_nth_weekday(1, Weekday::Monday, 13).is_err());
    /// assert!(Occurrence::on_nth_weekday(6, Weekday::Monday, 1).is_err());
    /// ```
    pub fn on_nth_weekday(number: u8, weekday: Weekday, month: u8) -> Result<Self, Error> {
        Date::new(2000, month, 1)?;
        if !(1..=5).contains(&number) {
            let what = format!("no month has a {weekday} number {number}");
            return Err(Error::new(ErrorKind::OutOfRange, what, "first to fifth, or last"));
        }
        Ok(Self { kind: Kind::OfMonth { month, which: NthWeekday::Nth(number, weekday) } })
    }

    /// The last such weekday of a month.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for another month.
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday};
    /// let august = Occurrence::on_last_weekday(Weekday::Monday, 8)?;
    /// assert_eq!(august.in_year(2026)?.map(|date| date.to_string()), Some("2026-08-31".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_last_weekday(weekday: Weekday, month: u8) -> Result<Self, Error> {
        Date::new(2000, month, 1)?;
        Ok(Self { kind: Kind::OfMonth { month, which: NthWeekday::Last(weekday) } })
    }

    /// The weekday on or after, after, on or before, or before a day of a month; next to a 29 February in leap years
    /// only.
    ///
    /// # Errors
    /// Those of [`on_day_of_year`](Self::on_day_of_year).
    ///
    /// ```
    /// use mild_ledger::{Occurrence, Weekday, WeekdaySide};
    /// let harvest = Occurrence::on_weekday_beside(Weekday::Monday, WeekdaySide::OnOrAfter, 5, 24)?;
    /// assert_eq!(harvest.in_year(2026)?.map(|date| date.to_string()), Some("2026-05-25".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn on_weekday_beside(weekday: Weekday, side: WeekdaySide, month: u8, day: u8) -> Result<Self, Error> {
        check_day(month, day)?;
        Ok(Self { kind: Kind::Beside { month, day, to: side.of(weekday) } })
    }

    /// A number of days after Easter Sunday, before it where negative (at most 400 either way).
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] for more days.
    ///
    /// ```
    /// use mild_ledger::{Church, Occurrence};
    /// let good_friday = Occurrence::from_easter(-2, Church::Western)?;
    /// assert_eq!(good_friday.in_year(2026)?.map(|date| date.to_string()), Some("2026-04-03".into()));
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn from_easter(days: i16, church: Church) -> Result<Self, Error> {
        if !(-400..=400).contains(&days) {
            let what = format!("{days} days from Easter lie in another year");
            return Err(Error::new(ErrorKind::OutOfRange, what, "-400 to 400 days"));
        }
        Ok(Self { kind: Kind::Easter { days, church } })
    }

    /// Each day between two holidays of the calendar that are two days apart, by the days that they occur on before
    /// they are moved. Holidays of half a day do not count, nor do days that lie between others themselves.
    ///
    /// ```
    /// use mild_ledger::{Date, HolidayRule, Occurrence, RestDays, WorkCalendar};
    /// let days = ["2026-09-21".parse()?, "2026-09-23".parse()?].map(Occurrence::on_date);
    /// let rules = [HolidayRule::on_all("Feast", days), HolidayRule::new("Between", Occurrence::between_holidays())];
    /// let calendar = WorkCalendar::new("C", RestDays::default(), 2026, 2026, &rules)?;
    /// assert_eq!(calendar.holidays_on("2026-09-22".parse()?)[0].name(), "Between");
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn between_holidays() -> Self {
        Self { kind: Kind::BetweenHolidays }
    }

    /// The day in a year, `None` where the year has none; a day [between holidays](Self::between_holidays) has none of
    /// its own.
    ///
    /// # Errors
    /// [`ErrorKind::OutOfRange`] where it lies outside the years 0001 to 9999.
    ///
    /// ```
    /// use mild_ledger::{Church, Occurrence};
    /// assert!(Occurrence::from_easter(0, Church::Western)?.in_year(10_000).is_err());
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn in_year(self, year: i32) -> Result<Option<Date>, Error> {
        Date::new(year, 1, 1)?;
        match self.day_number_in(year) {
            None => Ok(None),
            Some(day) => Date::in_range(day).map(Some).ok_or_else(|| {
                let what = format!("the day in {year:04} lies outside the years 0001 to 9999");
                Error::new(ErrorKind::OutOfRange, what, "0001-01-01 to 9999-12-31")
            }),
        }
    }

    /// The same for any year, also besides those that there are: a day may be reached from a year that it does not lie in.
    pub(super) fn day_number_in(self, year: i32) -> Option<i64> {
        let on = |month, day| i64::from(year_month_day::day_number_of(year, month, day));
        let day_of = |month, day| (day <= year_month_day::month_length(year, month)).then(|| on(month, day));
        match self.kind {
            Kind::Date(date) => (date.year() == year).then(|| date.day_number().into()),
            Kind::DayOfYear { month, day } => day_of(month, day),
            Kind::LeapDay(common_years) => Some(match (year_month_day::is_leap_year(year), common_years) {
                (true, _) => on(2, 29),
                (false, CommonYears::February28) => on(2, 28),
                (false, CommonYears::MarchFirst) => on(3, 1),
            }),
            Kind::OfMonth { month, which } => which.day_number_of_month(year, month),
            Kind::Beside { month, day, to } => day_of(month, day).map(|day| to.day_number_from(day)),
            Kind::Easter { days, church } => Some(easter_day_number(year, church) + i64::from(days)),
            Kind::BetweenHolidays => None,
        }
    }

    /// Its one date, where it occurs once.
    ///
    /// ```
    /// use mild_ledger::{Date, Occurrence};
    /// assert_eq!(Occurrence::on_date(Date::MIN).only_date(), Some(Date::MIN));
    /// assert_eq!(Occurrence::on_day_of_year(1, 1)?.only_date(), None);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    #[must_use]
    pub fn only_date(self) -> Option<Date> {
        match self.kind {
            Kind::Date(date) => Some(date),
            _ => None,
        }
    }

    /// Whether it depends on the other holidays.
    pub(super) fn is_between_holidays(self) -> bool {
        self.kind == Kind::BetweenHolidays
    }

    /// How many years a day may lie from the year that it is reached from.
    pub(super) fn reach(self) -> i32 {
        match self.kind {
            Kind::Easter { .. } => 2,
            Kind::Beside { .. } => 1,
            _ => 0,
        }
    }

    /// The one year of a date; every year otherwise.
    pub(super) fn only_year(self) -> Option<i32> {
        self.only_date().map(Date::year)
    }
}

/// Every day of every year is in a leap year.
fn check_day(month: u8, day: u8) -> Result<(), Error> {
    Date::new(2000, month, 1)?;
    let length = year_month_day::month_length(2000, month);
    if (1..=length).contains(&day) {
        return Ok(());
    }
    let what = format!("no year has a day {day} in month {month}");
    Err(Error::new(ErrorKind::NoSuchDay, what, format!("day 1 to {length}")))
}
