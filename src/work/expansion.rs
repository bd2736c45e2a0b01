//! From rules to the days on which holidays are kept.

use super::holiday::{HolidayMove, HolidayRule};
use super::kept::Holiday;
use super::rest_days::RestDays;
use crate::date::{Date, Weekday, civil};
use crate::error::{Error, ErrorKind};
use alloc::format;
use alloc::sync::Arc;
use alloc::vec::Vec;

/// The most holidays that one calendar keeps, so that its memory stays bounded.
const MOST_HOLIDAYS: usize = 1_000_000;
/// How many days on a holiday may be pushed.
const FARTHEST_PUSH: i64 = 1_500;

/// The holidays of the years that are covered, by date. The rules are followed from one year before to one year after,
/// since moves may cross years. What does not move is placed first, then the movers by the date that they would have, and
/// on one date by their order.
pub(super) fn expand(
    rules: &[HolidayRule],
    rest_days: RestDays,
    (first_year, last_year): (i32, i32),
) -> Result<Vec<Holiday>, Error> {
    let years = (first_year - 1)..=(last_year + 1);
    let mut unmoved = Vec::new();
    for (order, rule) in rules.iter().enumerate() {
        let reach = rule.occurrence().reach();
        // A day may be reached from a year that it does not lie in; what counts is the year that it lies in.
        let from = match rule.occurrence().only_year() {
            Some(year) => year.max(*years.start())..=year.min(*years.end()),
            None => (years.start() - reach).max(0)..=(years.end() + reach).min(10_000),
        };
        let days = from.filter_map(|year| rule.occurrence().day_number_in(year));
        unmoved.extend(days.filter_map(Date::in_range).filter_map(|date| {
            let year = date.year();
            (years.contains(&year) && rule.is_in(year)).then_some((date, order))
        }));
        if unmoved.len() > MOST_HOLIDAYS {
            let what = format!("{first_year} to {last_year} hold more than {MOST_HOLIDAYS} holidays");
            return Err(Error::new(ErrorKind::OutOfRange, what, "fewer years, or fewer rules"));
        }
    }
    place(unmoved, rules, rest_days, (first_year, last_year))
}

fn place(
    unmoved: Vec<(Date, usize)>,
    rules: &[HolidayRule],
    rest_days: RestDays,
    (first_year, last_year): (i32, i32),
) -> Result<Vec<Holiday>, Error> {
    let covered = first_year..=last_year;
    let moves =
        |date: Date, order: usize| rest_days.is_on(date) && rules[order].moved() != HolidayMove::Stays;
    let (mut movers, stayers): (Vec<_>, Vec<_>) =
        unmoved.into_iter().partition(|(date, order)| moves(*date, *order));
    movers.sort_unstable();
    let mut free = FreeDays::new((first_year, last_year), rest_days);
    stayers.iter().for_each(|(date, _)| free.take(*date));
    let mut kept: Vec<(Date, usize, Option<Date>)> =
        stayers.into_iter().map(|(date, order)| (date, order, None)).collect();
    for (date, order) in movers {
        let rule = &rules[order];
        match moved(date, rule.moved(), rest_days, &mut free) {
            Ok(to) => {
                free.take(to);
                kept.push((to, order, Some(date)));
            }
            Err(why) if covered.contains(&date.year()) => {
                let what = format!("\"{}\" on {date} cannot be moved: {why}", rule.name());
                return Err(Error::new(ErrorKind::NoWorkingDay, what, "another move, or other rest days"));
            }
            Err(_) => {}
        }
    }
    kept.sort_unstable_by_key(|(date, order, _)| (*date, *order));
    let names: Vec<Arc<str>> = rules.iter().map(|rule| rule.name().into()).collect();
    Ok(kept
        .into_iter()
        .filter(|(date, ..)| covered.contains(&date.year()))
        .map(|(date, order, from)| Holiday::new(date, Arc::clone(&names[order]), from))
        .collect())
}

fn moved(
    date: Date,
    rule: HolidayMove,
    rest_days: RestDays,
    free: &mut FreeDays,
) -> Result<Date, &'static str> {
    let on = |days: i64| Date::in_range(i64::from(date.day_number()) + days);
    let is_weekday = |date: &Date| !rest_days.is_on(*date);
    match rule {
        HolidayMove::Stays => Ok(date),
        HolidayMove::NearestWeekday => (1..7)
            .flat_map(|days| [days, -days])
            .filter_map(on)
            .find(is_weekday)
            .ok_or("every day of the week is a rest day"),
        HolidayMove::FollowingMonday => {
            let monday = on(7 - date.weekday().days_from_monday())
                .filter(|monday| monday.weekday() == Weekday::Monday);
            monday.filter(is_weekday).ok_or("the following Monday is a rest day")
        }
        HolidayMove::NextFreeDay => free
            .next_after(date)
            .filter(|to| i64::from(to.day_number()) - i64::from(date.day_number()) <= FARTHEST_PUSH)
            .ok_or("no later day is free"),
    }
}

/// The days that are neither rest days nor taken. Each day that is not free leads on to a later one, and the ways are
/// shortened as they are gone, so that many holidays in a row cost no more than few.
struct FreeDays {
    first: i32,
    /// For each day a day on or after it to look at next: itself where it is free.
    onward: Vec<u32>,
}

impl FreeDays {
    /// The days of some years, the one before and the one after them, and as many behind as a holiday may be pushed.
    fn new((first_year, last_year): (i32, i32), rest_days: RestDays) -> Self {
        let first = civil::day_number_of(first_year - 1, 1, 1);
        let days = civil::day_number_of(last_year + 2, 1, 1) - first + FARTHEST_PUSH as i32;
        let onward = (0..days as u32)
            .map(|day| {
                let weekday = Weekday::of_day_number(first + day as i32);
                if rest_days.contains(weekday) { day + 1 } else { day }
            })
            .collect();
        Self { first, onward }
    }

    fn place(&self, date: Date) -> Option<usize> {
        usize::try_from(date.day_number() - self.first).ok().filter(|place| *place < self.onward.len())
    }

    fn take(&mut self, date: Date) {
        if let Some(place) = self.place(date)
            && self.onward[place] as usize == place
        {
            self.onward[place] += 1;
        }
    }

    fn next_after(&mut self, date: Date) -> Option<Date> {
        let start = self.place(date)? + 1;
        let mut end = start;
        while let Some(next) = self.onward.get(end) {
            if *next as usize == end {
                break;
            }
            end = *next as usize;
        }
        let mut place = start;
        while place < end && place < self.onward.len() {
            place = core::mem::replace(&mut self.onward[place], end as u32) as usize;
        }
        let day = i64::from(self.first) + end as i64;
        (end < self.onward.len()).then_some(day).and_then(Date::in_range)
    }
}
