//! The ways to count between two date-times, side by side.

use super::unit_table::{put_units, unit_table};
use super::working_days::said_of_rule;
use super::{Block, Document};
use crate::BetweenTimes;
use crate::facts::decimal;
use mild_ledger::{HoursOf, Rounding};
use mild_ledger_records::ReportCell;

/// The date-times, and the time between them by the clock; a table of every unit of the clock and of the calendar; the working of
/// every figure where it was asked for; and what each means.
pub(crate) fn between_times(found: &BetweenTimes) -> Document {
    let mut out = Document::default();
    let (start, end) = (found.start, found.end);
    let (from, to) = (start.date().weekday(), end.date().weekday());
    out.push(Block::Heading(format!("from {start} ({from}) to {end} ({to})")));
    out.paragraph(format!("{}, {}", found.sentence, found.hours_of));
    for hours in &found.working_hours {
        let in_hours = hours.time.hours().to_decimal(2, Rounding::Nearest);
        let in_hours = in_hours.map_or_else(|_| String::new(), |hours| format!(" ({hours} hours)"));
        out.paragraph(format!(
            "working time by {}: {}{in_hours}; open {}",
            hours.calendar, hours.time, hours.open
        ));
        if let Some(years) = hours.by_rule {
            out.paragraph(said_of_rule(&hours.calendar, years));
        }
    }
    out.end_part();
    let mut table = unit_table();
    let [hours, minutes, seconds, days] = &found.clock;
    for row in [seconds, minutes, hours, days] {
        table.row([
            ReportCell::Text(row.unit.clone()),
            ReportCell::Count(row.complete),
            ReportCell::Empty,
            ReportCell::Text(row.fractional.to_string()),
            ReportCell::Text(decimal(row.fractional)),
        ]);
    }
    put_units(&mut table, &found.units);
    out.push(Block::Table(table));
    out.end_part();
    out.paragraph(format!("parts of the dates: {}", found.parts));
    out.end_part();
    let of_hours: Vec<_> = found.working_hours.iter().filter_map(|hours| hours.working.clone()).collect();
    if !of_hours.is_empty() {
        out.push(Block::Workings(of_hours));
    } else if let Some([by_clock, of_dates]) = &found.workings {
        // The midnights are the days, and are counted otherwise than the rest of the clock, which all begins alike.
        let (_, by_clock) = by_clock.split_last().unzip();
        out.push(Block::Workings(by_clock.unwrap_or_default().to_vec()));
        out.push(Block::Workings(of_dates.clone()));
    }
    if end < start {
        out.paragraph("The end lies before the start: every figure is negated.");
    }
    for said in meanings(found) {
        out.paragraph(said);
    }
    out
}

fn meanings(found: &BetweenTimes) -> [String; 4] {
    [
        match found.hours_of {
            HoursOf::Clock => {
                "hours: clock hours. The times have no zone, so a change of the clock is not seen.".to_owned()
            }
            HoursOf::Instants => "hours: elapsed hours, counted between the two instants.".to_owned(),
        },
        format!(
            "days: midnights passed. Days, weeks, months and longer look at the dates alone, whatever the times (month end: {}; a week starts on {}).",
            found.month_end, found.weeks_begin
        ),
        "starts passed: first days of a unit after the earlier date, up to and including the later one.".to_owned(),
        "fractional: exact; decimals are rounded to the nearest. Months and the like divide by the unit that is running.".to_owned(),
    ]
}
