//! Months with each day told by what it is, in words as well as by its look.

use crate::facts::{MarkedDay, MarkedMonths};
use crate::shown::{month_name, visible};
use maud::{Markup, html};
use mild_ledger::{DayKind, Weekday, Working};

pub(super) fn months(found: &MarkedMonths) -> Markup {
    html! {
        @for month in &found.months {
            @let name = format!("{} {:04}", month_name(month.first), month.first.year());
            table class="month" {
                caption { (name) }
                thead { tr { @for day in Weekday::ALL { (head(day)) } } }
                tbody {
                    @for week in weeks(&month.days) {
                        tr { @for day in week { (of_day(day)) } }
                    }
                }
            }
        }
    }
}

/// A weekday short enough for a narrow screen, and in full for who asks.
fn head(day: Weekday) -> Markup {
    let name = day.to_string();
    let short: String = name.chars().take(3).collect();
    html! { th scope="col" { abbr title=(name) { (short) } } }
}

/// How figures came about, each after its rule.
pub(super) fn workings(all: &[Working]) -> Markup {
    html! {
        dl {
            @for working in all {
                dt { (visible(working.rule())) }
                @for step in working.steps() { dd { (visible(step.said())) } }
            }
        }
    }
}

/// The days by weeks from Monday on, with nothing where a week lies outside the month.
fn weeks(days: &[MarkedDay]) -> Vec<[Option<&MarkedDay>; 7]> {
    let mut weeks: Vec<[Option<&MarkedDay>; 7]> = Vec::new();
    for day in days {
        let weekday = day.date.weekday();
        let place = Weekday::ALL.iter().position(|known| *known == weekday).unwrap_or(0);
        if place == 0 || weeks.is_empty() {
            weeks.push([None; 7]);
        }
        if let Some(week) = weeks.last_mut() {
            week[place] = Some(day);
        }
    }
    weeks
}

fn of_day(day: Option<&MarkedDay>) -> Markup {
    let Some(day) = day else { return html! { td {} } };
    let is = match day.kind.filter(|_| day.inside) {
        Some(DayKind::Working) => {
            day.number.map_or_else(|| "working day".to_owned(), |number| format!("no. {number}"))
        }
        Some(DayKind::RestDay) => "rest day".to_owned(),
        Some(kind) => {
            let names: Vec<&str> = day.holidays.iter().map(|holiday| holiday.name()).collect();
            if names.is_empty() { kind.to_string() } else { names.join(", ") }
        }
        None => String::new(),
    };
    html! { td { (day.date.day()) br; small { (visible(&is)) } } }
}
