//! The ways to count between two date-times, side by side.

use super::Width;
use super::between::{decimal, put, put_workings};
use super::grid::Grid;
use super::numbers::grouped;
use super::text::wrapped;
use crate::Detail;
use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit, HoursOf, Unit, Working};

/// A table of every unit of the clock and of the calendar, the parts, and what each means; with the working of the
/// figures by the clock where it is asked for.
#[must_use]
pub fn between_times(interval: ClockInterval, detail: Detail, width: Width) -> String {
    let (start, end) = (interval.start(), interval.end());
    let (from, to) = (start.date().weekday(), end.date().weekday());
    let mut out = wrapped(&format!("from {start} ({from}) to {end} ({to})"), "", width);
    out.push('\n');
    let mut grid = Grid::new(["", "complete", "starts passed", "fractional", "as a decimal"]).align_left([0]);
    let number = |number: i64| grouped(&number.to_string());
    let by_clock = |measure| number(interval.figure(measure).whole());
    for unit in ClockUnit::ALL.into_iter().rev() {
        let fraction = interval.figure(ClockMeasure::Fractional(unit));
        grid.row([
            unit.plural().to_owned(),
            by_clock(ClockMeasure::Complete(unit)),
            String::new(),
            fraction.to_string(),
            decimal(fraction),
        ]);
    }
    let days = interval.figure(ClockMeasure::FractionalDays);
    grid.row([
        ClockMeasure::DaysOf24Hours.to_string(),
        by_clock(ClockMeasure::DaysOf24Hours),
        by_clock(ClockMeasure::MidnightsPassed),
        days.to_string(),
        decimal(days),
    ]);
    for unit in Unit::ALL {
        let (starts, shown) = match unit {
            // A day of the calendar is as long as its clock makes it, so it has no fraction but that of 24 hours.
            Unit::Day => Default::default(),
            _ => (number(interval.starts_passed(unit).value()), decimal(interval.fractional(unit))),
        };
        let complete = number(interval.complete(unit).value());
        grid.row([unit.plural().to_owned(), complete, starts, String::new(), shown]);
    }
    put(&mut out, &grid, width);
    out.push_str(&wrapped(&format!("parts: {}", interval.parts()), "", width));
    out.push('\n');
    if detail == Detail::WithWorking {
        // The midnights are counted otherwise than the rest, which all begin alike.
        let all = workings(interval);
        if let Some((midnights, by_clock)) = all.split_last() {
            put_workings(&mut out, by_clock, width);
            put_workings(&mut out, std::slice::from_ref(midnights), width);
        }
    }
    if end < start {
        out.push_str(&wrapped("The end lies before the start: every figure is negated.", "", width));
    }
    let rule = interval.dates().month_end_rule();
    for said in [
        match interval.hours_of() {
            HoursOf::Clock => {
                "hours: clock hours. The times have no zone, so a change of the clock is not seen.".to_owned()
            }
            HoursOf::Instants => "hours: elapsed hours, counted between the two instants.".to_owned(),
        },
        format!("complete: whole units gone by; moved by so many, its time kept, the earlier does not pass the later (month end: {rule})."),
        format!(
            "starts passed: midnights, and the midnights that begin a unit, after the earlier, up to and with the later; a week starts on {}.",
            interval.dates().week_start()
        ),
        "fractional: exact; decimals are rounded to the nearest. Months and the like divide by the unit that is running.".to_owned(),
    ] {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}

/// The working of every figure by the clock.
pub(crate) fn workings(interval: ClockInterval) -> Vec<Working> {
    ClockMeasure::all().map(|measure| interval.why(measure)).collect()
}
