//! The ways to count between two dates, side by side.

use super::Width;
use super::grid::Grid;
use super::numbers::grouped;
use super::text::wrapped;
use crate::Detail;
use mild_ledger::{
    CountRule, Date, DayCount, Ends, Fraction, Interval, PeriodRule, Rounding, Step, Unit, Working,
};

/// Decimals shown behind an exact fraction.
const DECIMALS: u8 = 4;

/// A table of every unit (complete, by starts passed, fractional), the parts, the day counts, and what each
/// means; the days shared out over periods, and the working of every figure, where they are asked for.
#[must_use]
pub fn between(
    interval: Interval,
    ends: Ends,
    split: Option<PeriodRule>,
    detail: Detail,
    width: Width,
) -> String {
    let (start, end) = (interval.start(), interval.end());
    let mut out =
        wrapped(&format!("from {start} ({}) to {end} ({})", start.weekday(), end.weekday()), "", width);
    out.push('\n');
    if matches!(ends, Ends::First | Ends::Neither) {
        let days = interval.days_counting(ends);
        out.push_str(&wrapped(&format!("{}, ends: {}", days, said_of(ends)), "", width));
        out.push_str(&wrapped(
            "These ends are for days; other units count last, or first-and-last.",
            "",
            width,
        ));
        if let Some(rule) = split {
            out.push('\n');
            put_split(&mut out, interval, (rule, ends), width);
        }
        return out;
    }
    let mut grid = Grid::new(["", "complete", "starts passed", "fractional", "as a decimal"]).align_left([0]);
    for unit in Unit::ALL {
        let number = |count: mild_ledger::Count| grouped(&count.value().to_string());
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
    put(&mut out, &grid, width);
    out.push_str(&wrapped(&format!("parts: {}", interval.parts()), "", width));
    let months = interval.calendar_months();
    out.push_str(&wrapped(&format!("calendar months: {months} ({})", decimal(months)), "", width));
    out.push('\n');
    if let Some(rule) = split {
        put_split(&mut out, interval, (rule, ends), width);
    }
    let mut grid = Grid::new(["year fraction by day count", "exact", "as a decimal"]).align_left([0]);
    for convention in DayCount::ALL {
        let fraction = interval.year_fraction(convention);
        grid.row([convention.word().to_owned(), fraction.to_string(), decimal(fraction)]);
    }
    put(&mut out, &grid, width);
    if detail == Detail::WithWorking {
        put_workings(&mut out, &workings(interval), width);
    }
    if end < start {
        out.push_str(&wrapped(
            "The end lies before the start: counted from the earlier date, and negated.",
            "",
            width,
        ));
    }
    for said in meanings(interval) {
        out.push_str(&wrapped(&said, "", width));
    }
    out
}

/// The days of the interval in each of the periods that it touches, and their sum.
fn put_split(out: &mut String, interval: Interval, (rule, ends): (PeriodRule, Ends), width: Width) {
    let mut grid =
        Grid::new([rule.word(), "first day", "last day", "days of the interval", "of"]).align_left([0, 1, 2]);
    let shown =
        |date: Result<Date, mild_ledger::Error>| date.map_or_else(|_| String::new(), |date| date.to_string());
    for share in interval.split(rule, ends) {
        let period = share.period();
        grid.row([
            period.label(),
            shown(period.first_day()),
            shown(period.last_day()),
            grouped(&share.days().to_string()),
            period.days().to_string(),
        ]);
    }
    let sum = interval.days_counting(ends).value();
    grid.line();
    grid.row(["sum".to_owned(), String::new(), String::new(), grouped(&sum.to_string()), String::new()]);
    put(out, &grid, width);
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

/// The working of every figure shown.
pub(crate) fn workings(interval: Interval) -> Vec<Working> {
    let mut all: Vec<_> = CountRule::all().map(|rule| interval.why(rule)).collect();
    all.push(interval.why_parts());
    all.push(interval.why_calendar_months());
    all.extend(Unit::ALL.into_iter().skip(1).map(|unit| interval.why_fractional(unit)));
    all.extend(DayCount::ALL.map(|convention| interval.why_year_fraction(convention)));
    all
}

/// A fraction rounded to the decimals shown; a number of decimals that is always allowed.
pub(crate) fn decimal(fraction: Fraction) -> String {
    fraction
        .to_decimal(DECIMALS, Rounding::Nearest)
        .map_or_else(|_| String::new(), |decimal| decimal.to_string())
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
            interval.month_end_rule()
        ),
        format!(
            "starts passed: first days of a unit after the earlier date, up to and with the later one; a week starts on {}.",
            interval.week_start()
        ),
        "fractional: complete units, and the days left over as a part of the unit that is running; decimals are rounded to the nearest.".to_owned(),
        "calendar months: the days in each calendar month over its length, summed.".to_owned(),
        "parts: complete years, months left over, days left over.".to_owned(),
        format!("ends: {}.", said_of(interval.ends())),
    ]
}

pub(super) fn put(out: &mut String, grid: &Grid, width: Width) {
    out.push_str(&if width.fits(grid.width()) { grid.to_text() } else { grid.to_blocks() });
    out.push('\n');
}
