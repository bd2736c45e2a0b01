//! Several calendars as one.

use super::calendar::{WorkCalendar, bounds};
use super::day::DayKind;
use super::kept::Holiday;
use super::opening_hours::OpeningHours;
use super::rest_days::RestDays;
use crate::choice::chosen_by_word;
use crate::date::Date;
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::vec::Vec;

/// How calendars are put together.
///
/// ```
/// assert_eq!(mild_ledger::Combination::ClosedIfAny.word(), "closed if any is");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Combination {
    /// A day is worked only where all of them work.
    ClosedIfAny,
    /// A day is worked where one of them works.
    ClosedIfAll,
}

impl Combination {
    /// Both.
    pub const ALL: &'static [Self] = &[Self::ClosedIfAny, Self::ClosedIfAll];

    /// The words for it.
    ///
    /// ```
    /// assert_eq!(mild_ledger::Combination::ClosedIfAll.word(), "closed if all are");
    /// ```
    #[must_use]
    pub fn word(self) -> &'static str {
        match self {
            Self::ClosedIfAny => "closed if any is",
            Self::ClosedIfAll => "closed if all are",
        }
    }
}

chosen_by_word!(Combination, "a way of putting calendars together");

impl WorkCalendar {
    /// Several calendars as one, which covers the years that all of them cover. A day that one of them declares
    /// working is worked in that one; whether the others close it is theirs to say.
    ///
    /// # Errors
    /// [`ErrorKind::NotInOrder`] where there are none, or they have no year in common.
    ///
    /// ```
    /// use mild_ledger::{Combination, RestDays, WorkCalendar};
    /// let [shop, yard] = ["saturday, sunday", "sunday, monday"].map(|days| days.parse().map(WorkCalendar::rest_days_only));
    /// let (shop, yard) = (shop?, yard?);
    /// let both = WorkCalendar::combined(Combination::ClosedIfAny, &[shop.clone(), yard.clone()])?;
    /// assert_eq!(both.rest_days().count(), 3);
    /// assert_eq!(WorkCalendar::combined(Combination::ClosedIfAll, &[shop, yard])?.rest_days().count(), 1);
    /// # Ok::<(), mild_ledger::Error>(())
    /// ```
    pub fn combined(how: Combination, calendars: &[Self]) -> Result<Self, Error> {
        let nothing = |what: &str| Error::new(ErrorKind::NotInOrder, what, "calendars with a year in common");
        let Some((first, rest)) = calendars.split_first() else {
            return Err(nothing("there is no calendar to combine"));
        };
        let joined = |one: RestDays, other: RestDays| match how {
            Combination::ClosedIfAny => RestDays::of(one.days().chain(other.days())),
            Combination::ClosedIfAll => RestDays::of(one.days().filter(|day| other.contains(*day))),
        };
        let rest_days = rest.iter().fold(first.rest_schedule().clone(), |days, calendar| {
            days.joined(calendar.rest_schedule(), joined)
        });
        let names: Vec<&str> = calendars.iter().map(Self::name).collect();
        let name = format!("{} ({})", names.join(" + "), how.word());
        let hours = hours_together(how, calendars);
        let covered: Vec<(i32, i32)> = calendars.iter().filter_map(Self::years).collect();
        let Some(years) = covered.into_iter().reduce(|one, other| (one.0.max(other.0), one.1.min(other.1)))
        else {
            return Ok(Self::rest_days_only(rest_days.last()).with_name(name).open_in(hours));
        };
        if years.1 < years.0 {
            return Err(nothing(&format!("the calendars {} cover no year together", names.join(" and "))));
        }
        let (from, to) = bounds(years)?;
        let days = (from.day_number()..=to.day_number()).map(Date::of_checked_day);
        let kinds = days.map(|date| together(how, calendars, date)).collect::<Result<Vec<_>, _>>()?;
        let in_years = |date: &Date| (years.0..=years.1).contains(&date.year());
        let mut holidays: Vec<Holiday> = calendars
            .iter()
            .flat_map(|calendar| calendar.holidays().iter().cloned())
            .filter(|holiday| in_years(&holiday.date()))
            .collect();
        holidays.sort_by_key(|holiday| holiday.date());
        holidays.dedup();
        let mut working: Vec<Date> = calendars
            .iter()
            .flat_map(|calendar| calendar.declared_working().iter().copied())
            .filter(in_years)
            .collect();
        working.sort_unstable();
        working.dedup();
        let proclaimed = calendars.iter().filter_map(|calendar| calendar.proclaimed()).min();
        let combined = Self::of_kinds(name, &rest_days, (years, kinds), holidays, working);
        Ok(combined.with_proclaimed(proclaimed).open_in(hours))
    }
}

/// The hours in which several calendars together are open: where a day is closed if one of them closes it, those that all have, of calendars that
/// state some; otherwise those that are the same in all.
fn hours_together(how: Combination, calendars: &[WorkCalendar]) -> Option<OpeningHours> {
    let mut stated = calendars.iter().filter_map(WorkCalendar::hours);
    let first = stated.next()?.clone();
    match how {
        Combination::ClosedIfAny => Some(stated.fold(first, |hours, other| hours.overlap(other))),
        Combination::ClosedIfAll => {
            let all_alike = calendars.iter().all(|calendar| calendar.hours() == Some(&first));
            all_alike.then_some(first)
        }
    }
}

/// What a date is to several calendars together.
fn together(how: Combination, calendars: &[WorkCalendar], date: Date) -> Result<DayKind, Error> {
    let kinds = calendars.iter().map(|calendar| calendar.kind_of(date)).collect::<Result<Vec<_>, _>>()?;
    let working = |kind: &&DayKind| kind.is_working();
    let open = match how {
        Combination::ClosedIfAny => kinds.iter().all(|kind| kind.is_working()),
        Combination::ClosedIfAll => kinds.iter().any(|kind| kind.is_working()),
    };
    if open {
        let has = |wanted: DayKind| kinds.iter().filter(working).any(|kind| *kind == wanted);
        // Half a day is open where one that must be open is half a day, or none is open longer.
        let half = match how {
            Combination::ClosedIfAny => has(DayKind::HalfDay),
            Combination::ClosedIfAll => kinds.iter().filter(working).all(|kind| *kind == DayKind::HalfDay),
        };
        return Ok(match (half, has(DayKind::DeclaredWorking)) {
            (true, _) => DayKind::HalfDay,
            (false, true) => DayKind::DeclaredWorking,
            (false, false) => DayKind::Working,
        });
    }
    let closed = || kinds.iter().filter(|kind| !kind.is_working());
    let rests = closed().any(|kind| matches!(kind, DayKind::RestDay | DayKind::HolidayOnRestDay));
    let holiday = closed().any(|kind| matches!(kind, DayKind::Holiday | DayKind::HolidayOnRestDay));
    Ok(match (rests, holiday) {
        (true, true) => DayKind::HolidayOnRestDay,
        (true, false) => DayKind::RestDay,
        _ => DayKind::Holiday,
    })
}
