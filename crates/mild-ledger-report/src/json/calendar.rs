//! The objects of `mild calendar --json`.

use super::to_text;
use crate::facts::{DayIs, DifferentDay};
use crate::{CalendarSources, TwoCalendars, WorkYears};
use mild_ledger::{CalendarYears, Date, Decimal, HolidayLength, PeriodRule, RestDays};
use mild_ledger_calendars::Shipped;
use serde::Serialize;

/// The object of `mild calendar NAME YEAR --json`, in one line.
#[must_use]
pub fn calendar(found: &WorkYears) -> String {
    let mut holidays: Vec<ClosedDay> = Vec::new();
    for holiday in &found.holidays {
        // A day is closed once, whatever falls on it.
        match holidays.last_mut().filter(|day| day.date == holiday.date().to_string()) {
            Some(day) => {
                day.name = format!("{} / {}", day.name, holiday.name());
                if holiday.length() == HolidayLength::WholeDay {
                    day.length = None;
                }
                day.moved_from = day.moved_from.take().or(holiday.moved_from().map(|from| from.to_string()));
            }
            None => holidays.push(ClosedDay {
                date: holiday.date().to_string(),
                weekday: holiday.date().weekday().word(),
                name: holiday.name().to_owned(),
                moved_from: holiday.moved_from().map(|from| from.to_string()),
                length: (holiday.length() == HolidayLength::HalfDay).then(|| holiday.length().word()),
                source: holiday.source().map(str::to_owned),
            }),
        }
    }
    let text = |amount: Option<Decimal>| amount.map(|amount| amount.to_string());
    to_text(&Calendar {
        calendar: &found.calendar,
        covers: found.covers.map(|years| [years.first(), years.last()]),
        rest_days: found.months.rest_days.days().map(mild_ledger::Weekday::word).collect(),
        rest_days_from: found.rest_day_changes.iter().map(changed_rest_days).collect(),
        by_rule: found.by_rule.map(|years| [years.first(), years.last()]),
        hours: found.hours.as_deref(),
        months: found
            .rows
            .iter()
            .filter(|row| row.of == PeriodRule::Month)
            .map(|month| CalendarMonth {
                month: month.label.clone(),
                days: month.days,
                working_days: month.working_days,
                rest_days: month.rest_days,
                holidays: month.holidays,
                holidays_on_rest_days: month.holidays_on_rest_days,
                half_days: month.half_days,
                target: month.share.and_then(|share| text(share.target)),
                rate: month.share.map(|share| MonthRate {
                    a_day: text(share.a_day),
                    at_the_rate: text(share.at_the_rate),
                    over: text(share.over),
                }),
            })
            .collect(),
        holidays,
        working_days: found.total.count(),
        target: found.rate.map(|rate| CalendarTarget {
            total: rate.total.to_string(),
            rate_a_day: rate.a_day.to_string(),
            rounding: rate.rounding.word(),
            overshoots_by: rate.over.to_string(),
        }),
    })
}

/// The object of `mild calendar --json`: calendars that ship.
#[must_use]
pub fn shipped_calendars(listed: &[&Shipped]) -> String {
    to_text(&ShippedCalendars { calendars: listed.iter().map(|shipped| of_shipped(shipped)).collect() })
}

fn of_shipped(shipped: &Shipped) -> ShippedCalendar {
    ShippedCalendar {
        name: shipped.name(),
        title: shipped.title(),
        region: shipped.region().word(),
        law: shipped.law(),
        notes: shipped.notes(),
        builds_on: shipped.base().map(Shipped::name),
        covers: span(shipped.covers()),
        by_rule: shipped.by_rule().map(span),
    }
}

fn span(years: CalendarYears) -> [i32; 2] {
    [years.first(), years.last()]
}

/// The object of `mild calendar NAME --sources --json`.
#[must_use]
pub fn sources(found: &CalendarSources) -> String {
    to_text(&Sources {
        calendar: &found.calendar,
        covers: found.covers.map(span),
        by_rule: found.by_rule.map(span),
        ships: found.shipped.map(of_shipped),
        days: found
            .days
            .iter()
            .map(|day| Sourced { date: day.date.to_string(), name: &day.holiday, source: &day.source })
            .collect(),
    })
}

/// The object of `mild calendar ONE OTHER YEAR --json`.
#[must_use]
pub fn two_calendars(found: &TwoCalendars) -> String {
    let of_two = |days: [Decimal; 2]| days.map(|days| days.to_string());
    let is = |is: &DayIs| IsToOne { is: is.kind.word(), name: is.holiday.clone() };
    let days = |days: &[DifferentDay]| {
        let day = |day: &DifferentDay| DayOfTwo {
            date: day.date.to_string(),
            weekday: day.date.weekday().word(),
            by: [is(&day.is[0]), is(&day.is[1])],
        };
        days.iter().map(day).collect()
    };
    to_text(&Two {
        calendars: &found.calendars,
        years: span(found.years),
        by_rule: found.by_rule.map(|years| years.map(span)),
        working_days: of_two(found.totals),
        months: found
            .months
            .iter()
            .map(|month| TwoInMonth { month: &month.label, working_days: of_two(month.working_days) })
            .collect(),
        different: days(&found.different),
        holidays_in_both: days(&found.closed_in_both),
    })
}

#[derive(Serialize)]
struct Sources<'s> {
    calendar: &'s str,
    covers: Option<[i32; 2]>,
    by_rule: Option<[i32; 2]>,
    ships: Option<ShippedCalendar>,
    days: Vec<Sourced<'s>>,
}

#[derive(Serialize)]
struct Sourced<'s> {
    date: String,
    name: &'s str,
    source: &'s str,
}

#[derive(Serialize)]
struct Two<'t> {
    calendars: &'t [String; 2],
    years: [i32; 2],
    by_rule: [Option<[i32; 2]>; 2],
    working_days: [String; 2],
    months: Vec<TwoInMonth<'t>>,
    different: Vec<DayOfTwo>,
    holidays_in_both: Vec<DayOfTwo>,
}

#[derive(Serialize)]
struct TwoInMonth<'t> {
    month: &'t str,
    working_days: [String; 2],
}

#[derive(Serialize)]
struct DayOfTwo {
    date: String,
    weekday: &'static str,
    by: [IsToOne; 2],
}

/// What a day is to one of two calendars, and the holiday on it.
#[derive(Serialize)]
struct IsToOne {
    is: &'static str,
    name: Option<String>,
}

#[derive(Serialize)]
struct Calendar<'c> {
    calendar: &'c str,
    covers: Option<[i32; 2]>,
    rest_days: Vec<&'static str>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    rest_days_from: Vec<RestDaysFrom>,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
    #[serde(skip_serializing_if = "Option::is_none")]
    hours: Option<&'c str>,
    months: Vec<CalendarMonth>,
    holidays: Vec<ClosedDay>,
    working_days: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    target: Option<CalendarTarget>,
}

/// Rest days that change at a date.
#[derive(Serialize)]
struct RestDaysFrom {
    date: String,
    rest_days: Vec<&'static str>,
}

fn changed_rest_days((date, rest_days): &(Date, RestDays)) -> RestDaysFrom {
    RestDaysFrom {
        date: date.to_string(),
        rest_days: rest_days.days().map(mild_ledger::Weekday::word).collect(),
    }
}

#[derive(Serialize)]
struct CalendarMonth {
    month: String,
    days: i64,
    working_days: i64,
    rest_days: i64,
    holidays: i64,
    holidays_on_rest_days: i64,
    #[serde(skip_serializing_if = "is_none_at_all")]
    half_days: i64,
    #[serde(skip_serializing_if = "Option::is_none")]
    target: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    rate: Option<MonthRate>,
}

/// The month's target over its working days, and what the rate of all the years comes to in it.
#[derive(Serialize)]
struct MonthRate {
    a_day: Option<String>,
    at_the_rate: Option<String>,
    over: Option<String>,
}

#[derive(Serialize)]
struct CalendarTarget {
    total: String,
    rate_a_day: String,
    rounding: &'static str,
    overshoots_by: String,
}

#[derive(Serialize)]
struct ClosedDay {
    date: String,
    weekday: &'static str,
    name: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    moved_from: Option<String>,
    #[serde(skip_serializing_if = "Option::is_none")]
    length: Option<&'static str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    source: Option<String>,
}

#[allow(clippy::trivially_copy_pass_by_ref)] // serde asks for a reference
fn is_none_at_all(count: &i64) -> bool {
    *count == 0
}

#[derive(Serialize)]
struct ShippedCalendars {
    calendars: Vec<ShippedCalendar>,
}

#[derive(Serialize)]
struct ShippedCalendar {
    name: &'static str,
    title: &'static str,
    region: &'static str,
    law: &'static str,
    notes: &'static [&'static str],
    #[serde(skip_serializing_if = "Option::is_none")]
    builds_on: Option<&'static str>,
    covers: [i32; 2],
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
}
