//! The ways to count between two dates, side by side.

use super::Width;
use super::grid::Grid;
use super::numbers::grouped;
use super::text::wrapped;
use mild_ledger::{Interval, Unit, Weekday};

/// A table of every unit, complete and by starts passed, the parts, and what each means.
#[must_use]
pub fn between(interval: Interval, width: Width) -> String {
    let (start, end) = (interval.start(), interval.end());
    let mut out = format!("from {start} ({}) to {end} ({})\n\n", start.weekday(), end.weekday());
    let mut grid = Grid::new(["", "complete", "starts passed"]).align_left([0]);
    for unit in Unit::ALL {
        let number = |count: mild_ledger::Count| grouped(&count.value().to_string());
        let starts = match unit {
            // A day has begun and is complete at the same moment.
            Unit::Day => String::new(),
            _ => number(interval.starts_passed(unit)),
        };
        grid.row([unit.plural().to_owned(), number(interval.complete(unit)), starts]);
    }
    out.push_str(&grid.to_text());
    out.push_str(&format!("\nparts: {}\n\n", interval.parts()));
    if end < start {
        out.push_str(&wrapped(
            "The end lies before the start: counted from the earlier date, and negated.",
            "",
            width,
        ));
    }
    for said in [
        "complete: whole units gone by; moved by so many, the earlier date does not pass the later one (a day that a month lacks becomes its last: clamp).".to_owned(),
        format!(
            "starts passed: first days of a unit after the earlier date, up to and with the later one; a week starts on {}.",
            Weekday::Monday
        ),
        "parts: complete years, months left over, days left over.".to_owned(),
        "ends: last, from the day after the start up to the end.".to_owned(),
    ] {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}
