//! A calendar's years: by month, as a grid, and its holidays.

use super::grid::Grid;
use super::text::wrapped;
use super::working_days::{Marks, legend_of_kinds, month_lines};
use super::{Colour, Width};
use crate::WorkYears;
use crate::facts::{Rate, WorkMonth};
use crate::numbers::grouped;
use crate::shown::{shortened, visible};
use mild_ledger::{PeriodRule, Rounding};

/// The calendars that ship, with the years that each covers.
#[must_use]
pub fn shipped_calendars(width: Width) -> String {
    let mut grid = Grid::new(["calendar", "covers", "whose days"]).align_left([0, 1, 2]);
    for shipped in mild_ledger_calendars::SHIPPED {
        let years = shipped.covers();
        let (first, last) = (years.first(), years.last());
        grid.row([shipped.name().to_owned(), format!("{first} to {last}"), shipped.title().to_owned()]);
    }
    let mut out = grid.fitted(width);
    out.push('\n');
    for said in [
        "Rest days are Saturday and Sunday; --rest-days names others. Outside its years a calendar answers nothing.",
        "Holidays of your own: a calendar file (.toml), or a list of dates (.csv, .txt) with --covers.",
    ] {
        out.push_str(&wrapped(said, "", width));
    }
    out
}

/// Working days by month, with quarters and the year, and beside them what was left out.
#[must_use]
pub fn work_years(found: &WorkYears, width: Width) -> String {
    let mut out = heading(found, width);
    out.push_str(&wrapped(&format!("working days: {}", found.total), "", width));
    if let Some(rate) = &found.rate {
        out.push_str(&wrapped(&said_of_rate(rate, found), "", width));
    }
    out.push('\n');
    let mut header = vec!["", "days", "rest days", "holidays", "on rest days", "working days"];
    if let Some(rate) = &found.rate {
        header.push("target");
        header.push("a day");
        if rate.rounding == Rounding::Up {
            header.push("at the rate");
            header.push("over");
        }
    }
    let mut grid = Grid::new(header).align_left([0]);
    let mut row = |label: String, months: &[WorkMonth]| {
        let sum = |of: fn(&WorkMonth) -> i64| grouped(&months.iter().map(of).sum::<i64>().to_string());
        let mut cells = vec![
            label,
            sum(|month| month.days.days()),
            sum(|month| month.days.rest_days()),
            sum(|month| month.days.holidays()),
            sum(|month| month.days.holidays_on_rest_days()),
            sum(|month| month.days.count()),
        ];
        if let Some(rate) = &found.rate {
            let share = rate.of(months);
            cells.push(amount_or_dash(share.target));
            cells.push(amount_or_dash(share.a_day));
            if rate.rounding == Rounding::Up {
                cells.push(amount_or_dash(share.at_the_rate));
                cells.push(amount_or_dash(share.over));
            }
        }
        grid.row(cells);
        grid.lines_so_far()
    };
    let mut lines = Vec::new();
    for year in found.months.chunks(12) {
        for quarter in year.chunks(3) {
            for month in quarter {
                row(month.period.label(), std::slice::from_ref(month));
            }
            let label = quarter.first().map(|month| PeriodRule::Quarter.containing(month.first).label());
            lines.push(row(label.unwrap_or_default(), quarter));
        }
        let label = year.first().map(|month| PeriodRule::Year.containing(month.first).label());
        row(label.unwrap_or_default(), year);
    }
    lines.into_iter().for_each(|line| grid.line_at(line));
    out.push_str(&grid.fitted(width));
    out
}

fn amount_or_dash(amount: Option<mild_ledger::Decimal>) -> String {
    amount.map_or_else(|| "–".to_owned(), |amount| grouped(&amount.to_string()))
}

fn said_of_rate(rate: &Rate, found: &WorkYears) -> String {
    let (total, a_day) = (grouped(&rate.total.to_string()), grouped(&rate.a_day.to_string()));
    let days = grouped(&found.total.count().to_string());
    match rate.rounding {
        Rounding::Up => format!(
            "target {total}: {a_day} a working day, rounded up; over all {days} days that is {} more than the target",
            grouped(&rate.over.to_string())
        ),
        _ => format!(
            "target {total}: {a_day} a working day, rounded to the nearest; the months' parts sum to the target"
        ),
    }
}

/// The months of the years, three beside each other where they fit, with each day marked.
#[must_use]
pub fn year_grid(found: &WorkYears, width: Width, colour: Colour) -> String {
    let mut out = heading(found, width);
    let months: Vec<Vec<String>> = found
        .months
        .iter()
        .map(|month| month_lines(&found.calendar, month.first, &Marks::Year, colour))
        .collect();
    let one: usize = Marks::Year.cells(&found.calendar).iter().sum();
    let beside = [3, 2, 1].into_iter().find(|beside| width.fits(beside * (one + 2) - 2)).unwrap_or(1);
    for row in months.chunks(beside) {
        let lines = row.iter().map(Vec::len).max().unwrap_or(0);
        for nth in 0..lines {
            let blank = " ".repeat(one);
            let line: Vec<&str> =
                row.iter().map(|month| month.get(nth).map_or(blank.as_str(), String::as_str)).collect();
            out.push_str(line.join("  ").trim_end());
            out.push('\n');
        }
        out.push('\n');
    }
    let kinds: Vec<_> = found.days().filter_map(|date| found.calendar.kind_of(date).ok()).collect();
    out.push_str(&wrapped(&legend_of_kinds(&kinds), "", width));
    out.push_str(&wrapped(&format!("{}", found.total), "", width));
    out
}

/// The holidays by date, with weekday and where each was moved from.
#[must_use]
pub fn holidays(found: &WorkYears, width: Width) -> String {
    let mut out = heading(found, width);
    if found.holidays.is_empty() {
        out.push_str(&wrapped("no holidays in these years", "", width));
        return out;
    }
    let full = holiday_table(found, Notes::Full, None);
    let narrow = holiday_table(found, Notes::Short, None).without(1);
    let cut = match width {
        Width::Columns(columns) => Some(columns.saturating_sub(OTHER_COLUMNS).max(SHORTEST_NAME)),
        Width::Unlimited => None,
    };
    let narrowest = holiday_table(found, Notes::Short, cut).without(1);
    out.push_str(&Grid::first_that_fits([full.clone(), full.without(1), narrow, narrowest], width));
    out
}

/// The columns beside the holidays' names where the table is narrowest: a date, a note without its weekday, two gaps.
const OTHER_COLUMNS: usize = 10 + 21 + 2;
/// The shortest that names of holidays are cut to.
const SHORTEST_NAME: usize = 18;

/// Whether notes say weekdays.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Notes {
    Full,
    Short,
}

fn holiday_table(found: &WorkYears, notes: Notes, longest: Option<usize>) -> Grid {
    let mut grid = Grid::new(["date", "weekday", "holiday", ""]).align_left([0, 1, 2, 3]);
    for holiday in &found.holidays {
        let date = holiday.date();
        let kind = found.calendar.kind_of(date).map_or("", mild_ledger::DayKind::word);
        let note = match (holiday.moved_from(), kind, notes) {
            (Some(from), _, Notes::Full) => format!("moved from {from}, a {}", from.weekday()),
            (Some(from), ..) => format!("moved from {from}"),
            (None, "holiday on a rest day", _) => "on a rest day".to_owned(),
            (None, "declared a working day", _) => "worked nevertheless".to_owned(),
            _ => String::new(),
        };
        let name = visible(holiday.name());
        let name = longest.map_or_else(|| name.to_string(), |longest| shortened(&name, longest));
        grid.row([date.to_string(), date.weekday().to_string(), name, note]);
    }
    grid
}

fn heading(found: &WorkYears, width: Width) -> String {
    let calendar = &found.calendar;
    let covers = match found.covers {
        Some(years) => format!("covers {years}"),
        None => "covers every year".to_owned(),
    };
    let said = format!("{}: {covers}; rest days: {}", visible(calendar.name()), calendar.rest_days());
    wrapped(&said, "", width) + "\n"
}
