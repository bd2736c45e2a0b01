//! The ways to count between two date-times, side by side.

use super::Width;
use super::between::{put, put_units, put_workings};
use super::grid::Grid;
use super::numbers::grouped;
use super::text::wrapped;
use crate::Detail;
use crate::figures::{clock_workings, decimal, workings};
use mild_ledger::{ClockInterval, ClockMeasure, ClockUnit, HoursOf};

/// The date-times, and the time between them by the clock; a table of every unit of the clock and of the calendar, and what each
/// means; with the working of every figure where it is asked for.
#[must_use]
pub fn between_times(interval: ClockInterval, (detail, width): (Detail, Width)) -> String {
    let (start, end) = (interval.start(), interval.end());
    let (from, to) = (start.date().weekday(), end.date().weekday());
    let mut out = wrapped(&format!("from {start} ({from}) to {end} ({to})"), "", width);
    out.push_str(&wrapped(&format!("{}, {}", interval.sentence(), interval.hours_of()), "", width));
    out.push('\n');
    let mut grid = Grid::new(["", "complete", "starts passed", "fractional", "as a decimal"]).align_left([0]);
    let mut clock_row = |name: String, complete: ClockMeasure, exact: ClockMeasure| {
        let complete = grouped(&interval.figure(complete).whole().to_string());
        let fraction = interval.figure(exact);
        grid.row([name, complete, String::new(), fraction.to_string(), decimal(fraction)]);
    };
    for unit in ClockUnit::ALL.into_iter().rev() {
        clock_row(unit.plural().to_owned(), ClockMeasure::Complete(unit), ClockMeasure::Fractional(unit));
    }
    let days = ClockMeasure::DaysOf24Hours;
    clock_row(days.to_string(), days, ClockMeasure::FractionalDays);
    let dates = interval.dates();
    put_units(&mut grid, dates);
    put(&mut out, grid, width);
    out.push_str(&wrapped(&format!("parts of the dates: {}", dates.parts()), "", width));
    out.push('\n');
    if detail == Detail::WithWorking {
        // The midnights are the days, and are counted otherwise than the rest of the clock, which all begins alike.
        let all = clock_workings(interval);
        if let Some((_, by_clock)) = all.split_last() {
            put_workings(&mut out, by_clock, width);
        }
        put_workings(&mut out, &workings(dates), width);
    }
    if end < start {
        out.push_str(&wrapped("The end lies before the start: every figure is negated.", "", width));
    }
    for said in [
        match interval.hours_of() {
            HoursOf::Clock => {
                "hours: clock hours. The times have no zone, so a change of the clock is not seen.".to_owned()
            }
            HoursOf::Instants => "hours: elapsed hours, counted between the two instants.".to_owned(),
        },
        format!(
            "days: midnights passed. Days, weeks, months and longer look at the dates alone, whatever the times (month end: {}; a week starts on {}).",
            dates.month_end(),
            dates.week_start()
        ),
        "starts passed (boundaries crossed): first days of a unit after the earlier date, up to and with the later one.".to_owned(),
        "fractional: exact; decimals are rounded to the nearest. Months and the like divide by the unit that is running.".to_owned(),
    ] {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}
