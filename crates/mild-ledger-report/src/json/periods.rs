//! The object of `mild periods --json`.

use super::{OneOrMany, Why, to_text, working};
use crate::Surroundings;
use crate::facts::DayByCalendar;
use serde::Serialize;
use std::collections::BTreeMap;

/// The object of `mild periods --json`, in one line: a key for each period, and the date's own fields.
#[must_use]
pub fn periods(found: &Surroundings) -> String {
    let date = found.date;
    let text = |date: Option<mild_ledger::Date>| date.map(|date| date.to_string());
    to_text(&Periods {
        date: date.to_string(),
        away: found.away,
        weekday: date.weekday().word(),
        iso_week: found.iso_week.to_string(),
        week: Numbered { number: found.week.to_string(), rule: found.week_numbers.to_string() },
        weekday_number: Numbered {
            number: found.weekday_number.to_string(),
            rule: found.weekday_numbers.to_string(),
        },
        day_of_year: found.day_of_year,
        periods: found
            .rows
            .iter()
            .map(|row| {
                let bounds = Bounds {
                    first: text(row.first),
                    last: text(row.last),
                    days: row.days,
                    label: row.label.clone(),
                    number: row.number,
                    position: row.position,
                    why: row.why.as_ref().map(working),
                };
                (row.rule.word().replace(['-', ' '], "_"), bounds)
            })
            .collect(),
        working_day: OneOrMany::of(found.by_calendar.iter().map(day_of_calendar)),
    })
}

fn day_of_calendar(day: &DayByCalendar) -> DayOfCalendar {
    DayOfCalendar {
        calendar: day.calendar.clone(),
        kind: day.kind.word(),
        holidays: day.holidays.clone(),
        number_in_month: day.number.map(|number| number.from_start()),
        number_from_month_end: day.number.map(|number| number.from_end()),
        by_rule: day.by_rule.map(|years| [years.first(), years.last()]),
    }
}

#[derive(Serialize)]
struct Periods {
    date: String,
    away: i64,
    weekday: &'static str,
    iso_week: String,
    week: Numbered,
    weekday_number: Numbered,
    day_of_year: i64,
    periods: BTreeMap<String, Bounds>,
    #[serde(skip_serializing_if = "Option::is_none")]
    working_day: Option<OneOrMany<DayOfCalendar>>,
}

/// A number and how it was numbered.
#[derive(Serialize)]
struct Numbered {
    number: String,
    rule: String,
}

#[derive(Serialize)]
struct Bounds {
    first: Option<String>,
    last: Option<String>,
    days: i64,
    label: String,
    number: i64,
    position: Option<i64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    why: Option<Why>,
}

#[derive(Serialize)]
struct DayOfCalendar {
    calendar: String,
    kind: &'static str,
    holidays: Vec<String>,
    number_in_month: Option<i64>,
    number_from_month_end: Option<i64>,
    #[serde(skip_serializing_if = "Option::is_none")]
    by_rule: Option<[i32; 2]>,
}
