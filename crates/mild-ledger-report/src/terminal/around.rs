//! The periods around a date.

use super::Width;
use super::grid::Grid;
use super::text::wrapped;
use super::workings::put_workings;
use crate::Surroundings;
use crate::facts::DayByCalendar;
use crate::shown::{month_name, visible};
use mild_ledger::{Date, FiscalYear, WeekNumbers, WeekdayNumbers, Working};

/// What the date is to each calendar asked for; a table of the periods with their first and last days, and what they were counted
/// by.
#[must_use]
pub fn around(found: &Surroundings, width: Width) -> String {
    let date = found.date;
    let day_of_year = found.day_of_year;
    let weekday = date.weekday();
    let heading = format!("{date} ({weekday}), {}, day {day_of_year} of the year", said_of_week(found));
    let by_calendar = found.by_calendar.iter().map(|day| wrapped(&visible(&said_of_day(day)), "", width));
    let mut out: String = by_calendar.collect();
    out.push_str(&wrapped(&heading, "", width));
    if found.away != 0 {
        let steps = if found.away.unsigned_abs() == 1 { "step" } else { "steps" };
        let side = if found.away < 0 { "back" } else { "on" };
        out.push_str(&wrapped(&format!("periods {} {steps} {side}", found.away.unsigned_abs()), "", width));
    }
    out.push('\n');
    let (with, without) = (table(found, Weekdays::Shown), table(found, Weekdays::Dropped));
    let (less, least) = (without.without_last(), without.without_last().without_last());
    out.push_str(&Grid::first_that_fits([with, without, less, least], width));
    out.push('\n');
    let workings: Vec<Working> = found.rows.iter().filter_map(|row| row.why.clone()).collect();
    if !workings.is_empty() {
        put_workings(&mut out, &workings, width);
        if found.away != 0 {
            out.push_str(&wrapped("The table shows the periods so many steps away from these.", "", width));
        }
    }
    let fiscal = found.fiscal;
    for said in [
        format!("day: the date's number in the period. Week: starts on {}.", found.week_starts),
        format!(
            "fiscal year: begins on {}, named by the calendar year it {}s in.",
            day_of_year_of(fiscal),
            fiscal.naming()
        ),
        format!("week-year: ends on the {}; quarters of 13 weeks, the 53rd week in the last.", found.weeks),
    ] {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}

/// What a date is to a calendar, and its number among the working days of its month.
fn said_of_day(day: &DayByCalendar) -> String {
    let holidays = day.holidays.iter().map(|name| format!(", {name}"));
    let number = day.number.map_or_else(String::new, |number| format!("; {number}"));
    format!("{}: {}{}{number}", day.calendar, day.kind, holidays.collect::<String>())
}

/// Whether the bounds of periods say their weekdays.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Weekdays {
    Shown,
    Dropped,
}

fn table(found: &Surroundings, weekdays: Weekdays) -> Grid {
    let shown = |date: Option<Date>| match (date, weekdays) {
        (None, _) => "outside 0001 to 9999".to_owned(),
        (Some(date), Weekdays::Shown) => {
            format!("{date} {}", date.weekday().to_string().get(..3).unwrap_or_default())
        }
        (Some(date), Weekdays::Dropped) => date.to_string(),
    };
    let header = ["period", "label", "first day", "last day", "days", "day"];
    let mut grid = Grid::new(header).align_left([0, 1, 2, 3]);
    for row in &found.rows {
        grid.row([
            row.rule.word().to_owned(),
            visible(&row.label).into_owned(),
            shown(row.first),
            shown(row.last),
            row.days.to_string(),
            row.position.map_or_else(|| "–".to_owned(), |position| position.to_string()),
        ]);
    }
    grid
}

/// The week and the number of the weekday, each by its numbering where that is not the usual one.
fn said_of_week(found: &Surroundings) -> String {
    let week = match found.week_numbers == WeekNumbers::iso() {
        true => format!("ISO week {}", found.week),
        false => format!("week {} ({})", found.week, found.week_numbers),
    };
    match found.weekday_numbers == WeekdayNumbers::default() {
        true => week,
        false => format!("{week}, weekday {} ({})", found.weekday_number, found.weekday_numbers),
    }
}

/// `6 April`: the day on which a fiscal year begins.
fn day_of_year_of(fiscal: FiscalYear) -> String {
    let day = Date::new(2001, fiscal.first_month(), fiscal.first_day());
    day.map_or_else(|_| String::new(), |day| format!("{} {}", day.day(), month_name(day)))
}
