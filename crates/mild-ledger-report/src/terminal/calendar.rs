//! A calendar's years: by month, as a grid, and its holidays.

use super::grid::Grid;
use super::numbers::grouped;
use super::text::{visible, wrapped};
use super::working_days::{Marks, month_lines};
use super::{Colour, Width};
use crate::WorkYears;
use crate::work_years::WorkMonth;
use mild_ledger::{PeriodRule, Rounding, WorkCalendar};

/// The calendars that ship, with the years that each covers.
#[must_use]
pub fn shipped_calendars(width: Width) -> String {
    let mut grid = Grid::new(["calendar", "covers", "whose days"]).align_left([0, 1, 2]);
    for shipped in mild_ledger_calendars::SHIPPED {
        let (first, last) = shipped.covers();
        grid.row([shipped.name().to_owned(), format!("{first} to {last}"), shipped.title().to_owned()]);
    }
    let mut out = shown(&grid, width);
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
    let mut header = vec!["", "days", "rest days", "holidays", "on rest days", "working days"];
    if found.rate.is_some() {
        header.push("target");
    }
    let mut grid = Grid::new(header).align_left([0]);
    let row = |label: String, months: &[&WorkMonth]| {
        let sum = |of: fn(&WorkMonth) -> i64| {
            grouped(&months.iter().map(|month| of(month)).sum::<i64>().to_string())
        };
        let mut cells = vec![
            label,
            sum(|month| month.days.days()),
            sum(|month| month.days.rest_days()),
            sum(|month| month.days.holidays()),
            sum(|month| month.days.holidays_on_rest_days()),
            sum(|month| month.days.count()),
        ];
        if let Some(rate) = found.rate {
            let units = months.iter().filter_map(|month| month.target).map(mild_ledger::Decimal::units).sum();
            let target = mild_ledger::Decimal::of_units(units, rate.total.decimals());
            cells.push(target.map_or_else(|_| String::new(), |target| grouped(&target.to_string())));
        }
        cells
    };
    for year in found.months.chunks(12) {
        for quarter in year.chunks(3) {
            for month in quarter {
                grid.row(row(month.period.label(), &[month]));
            }
            let label = quarter.first().map(|month| PeriodRule::Quarter.containing(month.first).label());
            grid.row(row(label.unwrap_or_default(), &quarter.iter().collect::<Vec<_>>()));
            grid.line();
        }
        let label = year.first().map(|month| month.first.year().to_string());
        grid.row(row(label.unwrap_or_default(), &year.iter().collect::<Vec<_>>()));
    }
    let mut out = heading(&found.calendar, width);
    out.push_str(&shown(&grid, width));
    out.push('\n');
    out.push_str(&wrapped(&format!("{}", found.total), "", width));
    if let Some(rate) = found.rate {
        let said = match rate.rounding {
            Rounding::Up => format!(
                "target {}: {} a working day, rounded up; over all {} days that is {} more than the target.",
                grouped(&rate.total.to_string()),
                grouped(&rate.a_day.to_string()),
                found.total.count(),
                grouped(&rate.over.to_string())
            ),
            _ => format!(
                "target {}: {} a working day, rounded to the nearest; the months' parts sum to the target.",
                grouped(&rate.total.to_string()),
                grouped(&rate.a_day.to_string())
            ),
        };
        out.push_str(&wrapped(&said, "", width));
    }
    out
}

/// The months of the years, three beside each other where they fit, with each day marked.
#[must_use]
pub fn year_grid(found: &WorkYears, width: Width, colour: Colour) -> String {
    let mut out = heading(&found.calendar, width);
    let months: Vec<Vec<String>> = found
        .months
        .iter()
        .map(|month| month_lines(&found.calendar, month.first, &Marks::Year, colour))
        .collect();
    let beside = [3, 2, 1].into_iter().find(|beside| width.fits(beside * 30 - 2)).unwrap_or(1);
    for row in months.chunks(beside) {
        let lines = row.iter().map(Vec::len).max().unwrap_or(0);
        for nth in 0..lines {
            let blank = " ".repeat(28);
            let line: Vec<&str> =
                row.iter().map(|month| month.get(nth).map_or(blank.as_str(), String::as_str)).collect();
            out.push_str(line.join("  ").trim_end());
            out.push('\n');
        }
        out.push('\n');
    }
    out.push_str(&wrapped(
        "no sign: working day   . rest day   H holiday   h holiday on a rest day   + declared a working day",
        "",
        width,
    ));
    out.push_str(&wrapped(&format!("{}", found.total), "", width));
    out
}

/// The holidays by date, with weekday and where each was moved from.
#[must_use]
pub fn holidays(found: &WorkYears, width: Width) -> String {
    let mut out = heading(&found.calendar, width);
    if found.holidays.is_empty() {
        out.push_str(&wrapped("no holidays in these years", "", width));
        return out;
    }
    let mut grid = Grid::new(["date", "weekday", "holiday", ""]).align_left([0, 1, 2, 3]);
    for holiday in &found.holidays {
        let date = holiday.date();
        let kind = found.calendar.kind_of(date).map_or("", mild_ledger::DayKind::word);
        let note = match (holiday.moved_from(), kind) {
            (Some(from), _) => format!("moved from {from}, a {}", from.weekday()),
            (None, "holiday on a rest day") => "on a rest day".to_owned(),
            (None, "declared a working day") => "worked nevertheless".to_owned(),
            _ => String::new(),
        };
        grid.row([date.to_string(), date.weekday().to_string(), visible(holiday.name()).into_owned(), note]);
    }
    out.push_str(&shown(&grid, width));
    out
}

fn heading(calendar: &WorkCalendar, width: Width) -> String {
    let covers = match calendar.covers() {
        Some((first, last)) => format!("covers {first} to {last}"),
        None => "covers every year".to_owned(),
    };
    let said = format!("{}: {covers}; rest days: {}", visible(calendar.name()), calendar.rest_days());
    wrapped(&said, "", width) + "\n"
}

fn shown(grid: &Grid, width: Width) -> String {
    if width.fits(grid.width()) { grid.to_text() } else { grid.to_blocks() }
}
