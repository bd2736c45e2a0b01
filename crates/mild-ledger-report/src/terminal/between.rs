//! The ways to count between two dates, side by side.

use super::Width;
use super::grid::Grid;
use super::numbers::grouped;
use super::text::wrapped;
use crate::figures::{decimal, workings};
use crate::{Detail, Split};
use mild_ledger::{Date, DayCount, Ends, Interval, Step, Unit, Working};

/// The dates; the days, with the ends that they count; the working days by each calendar asked for. Then a table of every unit
/// (complete, by starts passed, fractional), the parts, the day counts, and what each means; the days shared out over periods,
/// and the working of every figure, where they are asked for.
#[must_use]
pub fn between(
    interval: Interval,
    ends: Ends,
    (splits, working_days): (&[Split], &str),
    (detail, width): (Detail, Width),
) -> String {
    let (start, end) = (interval.start(), interval.end());
    let heading = format!("from {start} ({}) to {end} ({})", start.weekday(), end.weekday());
    let mut out = wrapped(&heading, "", width);
    out.push_str(&wrapped(&format!("{}, {}", interval.days_counting(ends), ends.said()), "", width));
    out.push_str(working_days);
    out.push('\n');
    for split in splits {
        put_split(&mut out, split, width);
    }
    if matches!(ends, Ends::First | Ends::Neither) {
        let said = "These ends are for days; other units count last, or first-and-last.";
        out.push_str(&wrapped(said, "", width));
        return out;
    }
    let mut grid = Grid::new(["", "complete", "starts passed", "fractional", "as a decimal"]).align_left([0]);
    put_units(&mut grid, interval);
    put(&mut out, grid, width);
    out.push_str(&wrapped(&format!("parts: {}", interval.parts()), "", width));
    let months = interval.calendar_months();
    out.push_str(&wrapped(&format!("calendar months: {months} ({})", decimal(months)), "", width));
    out.push('\n');
    let mut grid = Grid::new(["year fraction by day count", "exact", "as a decimal"]).align_left([0]);
    for convention in DayCount::ALL.iter().copied() {
        let fraction = interval.year_fraction(convention);
        grid.row([convention.word().to_owned(), fraction.to_string(), decimal(fraction)]);
    }
    put(&mut out, grid, width);
    if detail == Detail::WithWorking {
        put_workings(&mut out, &workings(interval), width);
    }
    if end < start {
        let said = "The end lies before the start: counted from the earlier date, and negated.";
        out.push_str(&wrapped(said, "", width));
    }
    for said in meanings(interval) {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}

/// A row a unit of the calendar: complete, by starts passed, and exactly.
pub(super) fn put_units(grid: &mut Grid, interval: Interval) {
    let number = |count: mild_ledger::Count| grouped(&count.value().to_string());
    for unit in Unit::ALL {
        let (starts, fraction, shown) = match unit {
            // A day has begun and is complete at the same moment, and is never divided.
            Unit::Day => Default::default(),
            _ => {
                let fraction = interval.fractional(unit);
                (number(interval.starts_passed(unit)), fraction.to_string(), decimal(fraction))
            }
        };
        grid.row([unit.plural().to_owned(), number(interval.complete(unit)), starts, fraction, shown]);
    }
}

/// The days, or the working days, in each of the periods, and their sum.
fn put_split(out: &mut String, split: &Split, width: Width) {
    let header = [
        split.rule.word().to_owned(),
        "first day".into(),
        "last day".into(),
        split.what.clone(),
        "of".into(),
    ];
    let mut grid = Grid::new(header).align_left([0, 1, 2]);
    let shown =
        |date: Result<Date, mild_ledger::Error>| date.map_or_else(|_| String::new(), |date| date.to_string());
    for share in &split.shares {
        let period = share.period();
        grid.row([
            period.label(),
            shown(period.first_day()),
            shown(period.last_day()),
            grouped(&share.days().to_string()),
            period.days().to_string(),
        ]);
    }
    grid.line();
    let sum = grouped(&split.sum.to_string());
    grid.row(["sum".to_owned(), String::new(), String::new(), sum, String::new()]);
    put(out, grid, width);
}

/// Each working in a line of its own, behind the steps that all of them begin with.
pub(super) fn put_workings(out: &mut String, all: &[Working], width: Width) {
    let Some((first, rest)) = all.split_first() else { return };
    let shared = first
        .steps()
        .iter()
        .enumerate()
        .take_while(|(nth, step)| {
            !rest.is_empty() && rest.iter().all(|working| working.steps().get(*nth) == Some(*step))
        })
        .count();
    out.push_str("why\n");
    for step in &first.steps()[..shared] {
        out.push_str(&wrapped(step.said(), "  ", width));
    }
    for working in all {
        let said: Vec<&str> = working.steps()[shared..].iter().map(Step::said).collect();
        out.push_str(&wrapped(&format!("{}: {}", working.rule(), said.join(", ")), "  ", width));
    }
    out.push('\n');
}

fn said_of(ends: Ends) -> &'static str {
    match ends {
        Ends::Last => "last, from the day after the start up to the end",
        Ends::FirstAndLast => "first-and-last, both counted: every unit is counted to the day after the end",
        Ends::First => "first, from the start up to the day before the end",
        Ends::Neither => "neither, the days strictly between",
    }
}

fn meanings(interval: Interval) -> [String; 6] {
    [
        format!(
            "complete: whole units gone by; moved by so many, the earlier date does not pass the later one (month end: {}).",
            interval.month_end()
        ),
        format!(
            "starts passed (boundaries crossed): first days of a unit after the earlier date, up to and with the later one; a week starts on {}.",
            interval.week_start()
        ),
        "fractional: complete units, and the days left over as a part of the unit that is running; decimals are rounded to the nearest.".to_owned(),
        "calendar months: the days in each calendar month over its length, summed.".to_owned(),
        "parts: complete years, months left over, days left over.".to_owned(),
        format!("ends: {}.", said_of(interval.ends())),
    ]
}

pub(super) fn put(out: &mut String, grid: Grid, width: Width) {
    out.push_str(&grid.fitted(width));
    out.push('\n');
}
