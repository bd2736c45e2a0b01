//! Short ways to say the rules that many calendars share.

use mild_ledger::{
    Church, Date, Error, HolidayMove, HolidayRule, Occurrence, SubstituteCloses, Weekday, WeekdayMove,
    WeekdaySide,
};

/// The rules of a calendar.
pub(crate) type Rules = Result<Vec<HolidayRule>, Error>;

/// Every year on a day of a month.
pub(crate) fn on(name: &str, month: u8, day: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_day_of_year(month, day)?))
}

/// Once, on a date, by what is named.
pub(crate) fn once(
    name: &str,
    (year, month, day): (i32, u8, u8),
    source: &str,
) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_date(Date::new(year, month, day)?)).with_source(source))
}

/// On dates that are published one by one, each a month and a day of a year.
pub(crate) fn dates(name: &str, dates: &[(i32, u8, u8)], source: &str) -> Result<HolidayRule, Error> {
    let date = |(year, month, day): &(i32, u8, u8)| Date::new(*year, *month, *day).map(Occurrence::on_date);
    let dates = dates.iter().map(date).collect::<Result<Vec<_>, _>>()?;
    Ok(HolidayRule::on_all(name, dates).with_source(source))
}

/// A number of days after Western Easter Sunday.
pub(crate) fn easter(name: &str, days: i16) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::from_easter(days, Church::Western)?))
}

/// A number of days after Orthodox Easter Sunday.
pub(crate) fn orthodox_easter(name: &str, days: i16) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::from_easter(days, Church::Orthodox)?))
}

/// The first to fifth such weekday of a month.
pub(crate) fn nth(name: &str, number: u8, weekday: Weekday, month: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_nth_weekday(number, weekday, month)?))
}

/// The last such weekday of a month.
pub(crate) fn last(name: &str, weekday: Weekday, month: u8) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_last_weekday(weekday, month)?))
}

/// The weekday on a side of a day of a month.
pub(crate) fn beside(
    name: &str,
    weekday: Weekday,
    side: WeekdaySide,
    (month, day): (u8, u8),
) -> Result<HolidayRule, Error> {
    Ok(HolidayRule::new(name, Occurrence::on_weekday_beside(weekday, side, month, day)?))
}

/// On a weekend it is kept on the next day that is free.
pub(crate) fn substituted(rule: HolidayRule) -> HolidayRule {
    rule.with_moved(HolidayMove::NextFreeDay)
}

/// On a Saturday or a Sunday it is kept on the Monday after it, whatever else that is.
pub(crate) fn on_following_monday(rule: HolidayRule) -> HolidayRule {
    rule.with_moved(HolidayMove::FollowingMonday)
}

/// On a Sunday it is kept on the Monday after it, whatever else that is; a Saturday stays.
pub(crate) fn sunday_to_monday(rule: HolidayRule) -> HolidayRule {
    rule.with_moved_on(Weekday::Sunday, WeekdayMove::After(Weekday::Monday))
}

/// On a Sunday the Monday after it is closed too.
pub(crate) fn sunday_and_monday(rule: HolidayRule) -> HolidayRule {
    sunday_to_monday(rule).with_closes(SubstituteCloses::BothDays)
}
