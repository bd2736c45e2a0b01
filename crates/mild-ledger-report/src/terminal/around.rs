//! The periods around a date.

use super::Width;
use super::between::put_workings;
use super::grid::Grid;
use super::text::{visible, wrapped};
use crate::Surroundings;
use mild_ledger::{PeriodRule, WeekNumbers, Working};

/// A table of the periods with their first and last days, and what they were counted by.
#[must_use]
pub fn around(found: &Surroundings, width: Width) -> String {
    let date = found.date;
    let day_of_year = PeriodRule::Year.containing(date).position_of(date).unwrap_or_default();
    let mut out = wrapped(
        &format!(
            "{date} ({}), ISO week {}, day {day_of_year} of the year",
            date.weekday(),
            WeekNumbers::iso().of(date)
        ),
        "",
        width,
    );
    if found.away != 0 {
        let steps = if found.away.unsigned_abs() == 1 { "step" } else { "steps" };
        let side = if found.away < 0 { "back" } else { "on" };
        out.push_str(&wrapped(&format!("periods {} {steps} {side}", found.away.unsigned_abs()), "", width));
    }
    out.push('\n');
    let header = ["period", "label", "first day", "last day", "days", "day of it"];
    let mut grid = Grid::new(header).align_left([0, 1, 2, 3]);
    for row in &found.rows {
        let shown = |date: Option<mild_ledger::Date>| {
            date.map_or_else(
                || "outside 0001 to 9999".to_owned(),
                |date| format!("{date} {}", &date.weekday().to_string()[..3]),
            )
        };
        grid.row([
            row.kind.replace('_', " "),
            visible(&row.label).into_owned(),
            shown(row.first),
            shown(row.last),
            row.days.to_string(),
            row.position.map_or_else(|| "–".to_owned(), |position| position.to_string()),
        ]);
    }
    out.push_str(&if width.fits(grid.width()) { grid.to_text() } else { grid.to_blocks() });
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
        format!("week: starts on {}.", found.week_starts),
        format!(
            "fiscal year: begins on {:02}-{:02}, named by the calendar year it {}s in.",
            fiscal.first_month(),
            fiscal.first_day(),
            fiscal.naming()
        ),
        format!("week-year: ends on the {}; quarters of 13 weeks, the 53rd week in the last.", found.weeks),
    ] {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}
