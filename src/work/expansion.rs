//! From rules to the days on which holidays are kept.

use super::calendar::Holiday;
use super::holiday::{HolidayMove, HolidayRule};
use super::rest_days::RestDays;
use crate::date::{Date, Weekday};
use crate::error::{Error, ErrorKind};
use std::collections::BTreeSet;

/// The holidays kept in some years, both included, by date and then in the order of their rules.
///
/// Moves cross years, so the rules are expanded from the year before to the year after, and cut to the years.
pub(super) fn expand(
    rules: &[HolidayRule],
    rest_days: RestDays,
    (first_year, last_year): (i32, i32),
) -> Result<Vec<Holiday>, Error> {
    let covered = first_year..=last_year;
    let mut unmoved = Vec::new();
    for (order, rule) in rules.iter().enumerate() {
        let years = match rule.occurrence().only_year() {
            Some(year) => year.max(first_year - 1)..=year.min(last_year + 1),
            None => (first_year - 1).max(1)..=(last_year + 1).min(9_999),
        };
        for year in years.filter(|year| rule.is_in(*year)) {
            match rule.occurrence().in_year(year) {
                Ok(Some(date)) => unmoved.push((date, order)),
                Ok(None) => {}
                Err(error) if covered.contains(&year) => return Err(error),
                // Beside the years that are wanted, so at the end of the calendar.
                Err(_) => {}
            }
        }
    }
    let moves = |date: Date, order: usize| {
        rest_days.is_on(date) && rules[order].what_it_does_on_a_rest_day() != HolidayMove::Stays
    };
    let (mut movers, stayers): (Vec<_>, Vec<_>) =
        unmoved.into_iter().partition(|(date, order)| moves(*date, *order));
    movers.sort_unstable();
    let mut placed: BTreeSet<Date> = stayers.iter().map(|(date, _)| *date).collect();
    let mut kept: Vec<(Date, usize, Option<Date>)> =
        stayers.into_iter().map(|(date, order)| (date, order, None)).collect();
    for (date, order) in movers {
        let rule = &rules[order];
        match moved(date, rule.what_it_does_on_a_rest_day(), rest_days, &placed) {
            Ok(to) => {
                placed.insert(to);
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
    Ok(kept
        .into_iter()
        .filter(|(date, ..)| covered.contains(&date.year()))
        .map(|(date, order, from)| Holiday::new(date, rules[order].name().to_owned(), from))
        .collect())
}

/// Where a holiday on a rest day goes.
fn moved(
    date: Date,
    rule: HolidayMove,
    rest_days: RestDays,
    placed: &BTreeSet<Date>,
) -> Result<Date, &'static str> {
    let on = |days: i64| Date::in_range(i64::from(date.day_number()) + days);
    let is_free = |date: &Date| !rest_days.is_on(*date);
    match rule {
        HolidayMove::Stays => Ok(date),
        HolidayMove::NearestWeekday => (1..7)
            .flat_map(|days| [days, -days])
            .filter_map(on)
            .find(is_free)
            .ok_or("every day of the week is a rest day"),
        HolidayMove::FollowingMonday => {
            let monday = on(7 - date.weekday().days_from_monday())
                .filter(|monday| monday.weekday() == Weekday::Monday);
            monday.filter(is_free).ok_or("the following Monday is a rest day")
        }
        // There are never more holidays in a row than fit into a few years.
        HolidayMove::NextFreeDay => (1..1_500)
            .filter_map(on)
            .find(|date| is_free(date) && !placed.contains(date))
            .ok_or("no later day is free"),
    }
}
