//! Short ways to say the rules that many calendars share.

use mild_ledger::{Church, Date, Error, HolidayRule, Occurrence, Weekday};

/// Every year on a day of a month.
pub(crate) fn on(name: &str, month: u8, day: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_day_of_year(month, day)?))
}

/// Once, on a date.
pub(crate) fn once(name: &str, year: i32, month: u8, day: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_date(Date::new(year, month, day)?)))
}

/// So many days after Western Easter Sunday.
pub(crate) fn easter(name: &str, days: i16) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::from_easter(days, Church::Western)?))
}

/// The first to fifth such weekday of a month.
pub(crate) fn nth(name: &str, number: u8, weekday: Weekday, month: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_nth_weekday(number, weekday, month)?))
}

/// The last such weekday of a month.
pub(crate) fn last(name: &str, weekday: Weekday, month: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_last_weekday(weekday, month)?))
}
