//! From rules to the days on which holidays are kept.

use super::holiday::{HolidayLength, HolidayMove, HolidayRule, SubstituteCloses};
use super::kept::Holiday;
use super::occurrence::Occurrence;
use super::rest_schedule::RestSchedule;
use crate::date::{Date, Weekday, year_month_day};
use crate::error::{Error, ErrorKind};
use alloc::collections::BTreeSet;
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
    rest_days: &RestSchedule,
    (first_year, last_year): (i32, i32),
) -> Result<Vec<Holiday>, Error> {
    let years = (first_year - 1, last_year + 1);
    let mut unmoved = Vec::new();
    for (order, rule) in rules.iter().enumerate() {
        for occurrence in rule.occurrences() {
            unmoved.extend(dates_of(*occurrence, rule, years).map(|date| (date, order)));
            if unmoved.len() > MOST_HOLIDAYS {
                let what = format!("{first_year} to {last_year} hold more than {MOST_HOLIDAYS} holidays");
                return Err(Error::new(ErrorKind::OutOfRange, what, "fewer years, or fewer rules"));
            }
        }
    }
    unmoved.extend(between_holidays(&unmoved, rules));
    place(unmoved, rules, rest_days, (first_year, last_year))
}

/// The dates of some years on which a rule occurs in one of its ways.
fn dates_of(
    occurrence: Occurrence,
    rule: &HolidayRule,
    (first, last): (i32, i32),
) -> impl Iterator<Item = Date> + '_ {
    let reach = occurrence.reach();
    // A day may be reached from a year that it does not lie in; what counts is the year that it lies in.
    let from = match occurrence.only_year() {
        Some(year) => year.max(first)..=year.min(last),
        None => (first - reach).max(0)..=(last + reach).min(10_000),
    };
    let days = from.filter_map(move |year| occurrence.day_number_in(year));
    days.filter_map(Date::in_range)
        .filter(move |date| (first..=last).contains(&date.year()) && rule.is_in(date.year()))
}

/// The days that lie between two of these holidays, for the rules that state that.
fn between_holidays(unmoved: &[(Date, usize)], rules: &[HolidayRule]) -> Vec<(Date, usize)> {
    let is_between = |rule: &HolidayRule| rule.occurrences().iter().any(|way| way.is_between_holidays());
    if !rules.iter().any(is_between) {
        return Vec::new();
    }
    let whole = |order: usize| rules[order].length() == HolidayLength::WholeDay;
    let days: BTreeSet<i32> =
        unmoved.iter().filter(|(_, order)| whole(*order)).map(|(date, _)| date.day_number()).collect();
    let between = days.iter().filter(|day| days.contains(&(*day + 2)) && !days.contains(&(*day + 1)));
    let dates: Vec<Date> = between.filter_map(|day| Date::in_range(i64::from(*day) + 1)).collect();
    let ordered = rules.iter().enumerate().filter(|(_, rule)| is_between(rule));
    ordered
        .flat_map(|(order, rule)| {
            dates.iter().filter(|date| rule.is_in(date.year())).map(move |date| (*date, order))
        })
        .collect()
}

/// A day on which a holiday is kept, by the order of its rule, and the day that it was moved from.
type Placed = (Date, usize, Option<Date>);

fn place(
    unmoved: Vec<(Date, usize)>,
    rules: &[HolidayRule],
    rest_days: &RestSchedule,
    (first_year, last_year): (i32, i32),
) -> Result<Vec<Holiday>, Error> {
    let covered = first_year..=last_year;
    let moves = |date: Date, order: usize| {
        let rule = &rules[order];
        rule.moved_on(date.weekday()) != 0
            || rest_days.is_rest_day(date) && rule.moved() != HolidayMove::Stays
    };
    let (mut movers, stayers): (Vec<_>, Vec<_>) =
        unmoved.into_iter().partition(|(date, order)| moves(*date, *order));
    movers.sort_unstable();
    let mut free = FreeDays::new((first_year, last_year), rest_days);
    let whole = |order: usize| rules[order].length() == HolidayLength::WholeDay;
    stayers.iter().filter(|(_, order)| whole(*order)).for_each(|(date, _)| free.take(*date));
    let mut kept: Vec<Placed> = stayers.into_iter().map(|(date, order)| (date, order, None)).collect();
    for (date, order) in movers {
        let rule = &rules[order];
        match moved(date, rule, rest_days, &mut free) {
            Ok(to) => {
                if whole(order) {
                    free.take(to);
                }
                kept.push((to, order, Some(date)));
                if rule.closes() == SubstituteCloses::BothDays && to != date {
                    kept.push((date, order, None));
                }
            }
            Err(why) if covered.contains(&date.year()) => {
                let what = format!("\"{}\" on {date} cannot be moved: {why}", rule.name());
                return Err(Error::new(ErrorKind::NoWorkingDay, what, "another move, or other rest days"));
            }
            Err(_) => {}
        }
    }
    kept.sort_unstable_by_key(|(date, order, _)| (*date, *order));
    // Half of a day that is closed already is none.
    let closed: BTreeSet<Date> =
        kept.iter().filter(|(_, order, _)| whole(*order)).map(|(date, ..)| *date).collect();
    kept.retain(|(date, order, _)| whole(*order) || !closed.contains(date));
    let named = |rule: &HolidayRule| (Arc::<str>::from(rule.name()), rule.source().map(Arc::<str>::from));
    let named: Vec<_> = rules.iter().map(named).collect();
    Ok(kept
        .into_iter()
        .filter(|(date, ..)| covered.contains(&date.year()))
        .map(|(date, order, from)| {
            let (name, source) = named[order].clone();
            Holiday::new(date, from, name, rules[order].length(), source)
        })
        .collect())
}

/// Where a holiday comes to: by its weekday first, and from there off a rest day.
fn moved(
    date: Date,
    rule: &HolidayRule,
    rest_days: &RestSchedule,
    free: &mut FreeDays,
) -> Result<Date, &'static str> {
    let date = rule.by_weekday(date).ok_or("there is no such day")?;
    if !rest_days.is_rest_day(date) {
        return Ok(date);
    }
    let on = |days: i64| Date::in_range(i64::from(date.day_number()) + days);
    let is_weekday = |date: &Date| !rest_days.is_rest_day(*date);
    match rule.moved() {
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
    /// The days of some years, the one before and the one after them, and as many after as a holiday may be pushed.
    fn new((first_year, last_year): (i32, i32), rest_days: &RestSchedule) -> Self {
        let first = year_month_day::day_number_of(first_year - 1, 1, 1);
        let days = year_month_day::day_number_of(last_year + 2, 1, 1) - first + FARTHEST_PUSH as i32;
        let onward = (0..days as u32)
            .map(|day| if rest_days.is_rest_day_number(first + day as i32) { day + 1 } else { day })
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
