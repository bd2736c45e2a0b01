//! The ways to count between two dates, side by side.

use super::unit_table::{put_units, unit_table};
use super::working_days::put_counts;
use super::{Block, Document, Table};
use crate::facts::{BetweenFigures, decimal};
use crate::{Between, Split};
use mild_ledger::{Date, Ends, Error};
use mild_ledger_records::ReportCell;

/// The dates; the days with the ends that they count; the working days by each calendar asked for. Then the days shared out over periods; a table of every unit
/// (complete, by starts passed, fractional), the parts, the day counts; the working of every figure where it was asked for; and
/// what each means.
pub(crate) fn between(found: &Between) -> Document {
    let mut out = Document::default();
    let (start, end) = (found.start, found.end);
    let heading = format!("from {start} ({}) to {end} ({})", start.weekday(), end.weekday());
    out.push(Block::Heading(heading));
    out.paragraph(format!("{}, {}", found.days, found.ends.said()));
    put_counts(&mut out, &found.working_days);
    out.end_part();
    for split in &found.splits {
        out.push(Block::Table(split_table(split)));
        out.end_part();
    }
    let Some(figures) = &found.figures else {
        out.paragraph("These ends are for days; other units count last, or first-and-last.");
        return out;
    };
    put_figures(&mut out, figures);
    if let Some(workings) = &found.workings {
        out.push(Block::Workings(workings.clone()));
    }
    if end < start {
        out.paragraph("The end lies before the start: counted from the earlier date, and negated.");
    }
    for said in meanings(found) {
        out.paragraph(said);
    }
    out
}

fn put_figures(out: &mut Document, figures: &BetweenFigures) {
    let mut table = unit_table();
    put_units(&mut table, &figures.units);
    out.push(Block::Table(table));
    out.end_part();
    out.paragraph(format!("parts: {}", figures.parts));
    let months = figures.calendar_months;
    out.paragraph(format!("calendar months: {months} ({})", decimal(months)));
    out.end_part();
    let mut table = Table::new(["year fraction by day count", "exact", "as a decimal"], [0]);
    for (convention, fraction) in &figures.day_counts {
        let texts = [convention.word().to_owned(), fraction.to_string(), decimal(*fraction)];
        table.row(texts.map(ReportCell::Text));
    }
    out.push(Block::Table(table));
    out.end_part();
}

/// The days, or the working days, in each of the periods, and their sum.
fn split_table(split: &Split) -> Table {
    let header = [split.rule.word(), "first day", "last day", split.what.as_str(), "of"];
    let mut table = Table::new(header, [0, 1, 2]);
    let day = |date: Result<Date, Error>| date.map_or(ReportCell::Empty, ReportCell::Date);
    for share in &split.shares {
        let period = share.period();
        table.row([
            ReportCell::Text(period.label()),
            day(period.first_day()),
            day(period.last_day()),
            ReportCell::Count(share.days()),
            ReportCell::Count(period.days()),
        ]);
    }
    table.line();
    let sum = ReportCell::Text("sum".to_owned());
    table.row([sum, ReportCell::Empty, ReportCell::Empty, ReportCell::Count(split.sum), ReportCell::Empty]);
    table
}

fn said_of(ends: Ends) -> &'static str {
    match ends {
        Ends::Last => "last, from the day after the start up to the end",
        Ends::FirstAndLast => "first-and-last, both counted: every unit is counted to the day after the end",
        Ends::First => "first, from the start up to the day before the end",
        Ends::Neither => "neither, the days strictly between",
    }
}

fn meanings(found: &Between) -> [String; 6] {
    [
        format!(
            "complete: the most whole units by which the earlier date can move without passing the later one (month end: {}).",
            found.month_end
        ),
        format!(
            "starts passed: first days of a unit after the earlier date, up to and including the later one; a week starts on {}.",
            found.weeks_begin
        ),
        "fractional: complete units, and the days left over as a part of the unit that is running; decimals are rounded to the nearest.".to_owned(),
        "calendar months: the days in each calendar month over its length, summed.".to_owned(),
        "parts: complete years, months left over, days left over.".to_owned(),
        format!("ends: {}.", said_of(found.ends_of_units)),
    ]
}
