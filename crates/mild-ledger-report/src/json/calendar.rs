//! The objects of `mild calendar --json`.

use super::to_text;
use crate::WorkYears;
use mild_ledger::{Date, Decimal, HolidayLength, PeriodRule, RestDays};
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

/// The object of `mild calendar --json`: the calendars that ship.
#[must_use]
pub fn shipped_calendars() -> String {
    let calendars = mild_ledger_calendars::SHIPPED
        .iter()
        .map(|shipped| ShippedCalendar {
            name: shipped.name(),
            title: shipped.title(),
            law: shipped.law(),
            covers: [shipped.covers().first(), shipped.covers().last()],
        })
        .collect();
    to_text(&ShippedCalendars { calendars })
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
    law: &'static str,
    covers: [i32; 2],
}
