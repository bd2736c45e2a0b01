//! The periods around a date.

use super::{Block, Cell, Document, Narrowing, Table};
use crate::Surroundings;
use crate::facts::DayByCalendar;
use crate::shown::month_name;
use mild_ledger::{Date, FiscalYear, WeekNumbers, WeekdayNumbers, Working};
use mild_ledger_records::ReportCell;

/// What the date is to each calendar asked for; a table of the periods with their first and last days, and what they were counted
/// by.
pub(crate) fn periods(found: &Surroundings) -> Document {
    let mut out = Document::default();
    found.by_calendar.iter().for_each(|day| out.paragraph(said_of_day(day)));
    let (date, day_of_year) = (found.date, found.day_of_year);
    let week = said_of_week(found);
    out.push(Block::Heading(format!("{date} ({}), {week}, day {day_of_year} of the year", date.weekday())));
    if found.away != 0 {
        let steps = if found.away.unsigned_abs() == 1 { "step" } else { "steps" };
        let side = if found.away < 0 { "back" } else { "on" };
        out.paragraph(format!("periods {} {steps} {side}", found.away.unsigned_abs()));
    }
    out.end_part();
    out.push(Block::Table(table(found)));
    out.end_part();
    let workings: Vec<Working> = found.rows.iter().filter_map(|row| row.why.clone()).collect();
    if !workings.is_empty() {
        out.push(Block::Workings(workings));
        if found.away != 0 {
            out.paragraph("The table shows the periods so many steps away from these.");
        }
    }
    let fiscal = found.fiscal;
    out.paragraph(format!("day: the date's number in the period. Week: starts on {}.", found.weeks_begin));
    out.paragraph(format!(
        "fiscal year: begins on {}, named by the calendar year it {}s in.",
        day_of_year_of(fiscal),
        fiscal.naming()
    ));
    out.paragraph(format!(
        "week-year: ends on the {}; quarters of 13 weeks, the 53rd week in the last.",
        found.weeks
    ));
    out
}

/// What a date is to a calendar, and its number among the working days of its month.
fn said_of_day(day: &DayByCalendar) -> String {
    let holidays = day.holidays.iter().map(|name| format!(", {name}"));
    let number = day.number.map_or_else(String::new, |number| format!("; {number}"));
    let by_rule = if day.by_rule.is_some() { "; by rule, not yet proclaimed" } else { "" };
    format!("{}: {}{}{number}{by_rule}", day.calendar, day.kind, holidays.collect::<String>())
}

/// A row a period; where there is little room without weekdays, then without the date's number and the length.
fn table(found: &Surroundings) -> Table {
    let day = |date: Option<Date>| match date {
        None => Cell::from("outside 0001 to 9999".to_owned()),
        Some(date) => {
            let weekday = date.weekday().to_string();
            Cell::LongOrShort(format!("{date} {}", weekday.get(..3).unwrap_or_default()), date.to_string())
        }
    };
    let header = ["period", "label", "first day", "last day", "days", "day"];
    let mut table = Table::new(header, 0..4).narrowed_by([
        Narrowing::ShortTexts,
        Narrowing::WithoutColumn(5),
        Narrowing::WithoutColumn(4),
    ]);
    for row in &found.rows {
        table.row([
            Cell::from(row.rule.word().to_owned()),
            Cell::from(row.label.clone()),
            day(row.first),
            day(row.last),
            Cell::Value(ReportCell::Count(row.days)),
            row.position.map_or_else(|| Cell::from("–".to_owned()), |nth| ReportCell::Count(nth).into()),
        ]);
    }
    table
}

/// The week and the number of the weekday, each by its numbering where that is not the usual one.
fn said_of_week(found: &Surroundings) -> String {
    let week = match found.week_numbers == WeekNumbers::iso() {
        true => format!("ISO week {}", found.week),
        false => format!("week {} ({})", found.week, found.week_numbers),
    };
    match found.weekday_numbers == WeekdayNumbers::default() {
        true => week,
        false => format!("{week}, weekday {} ({})", found.weekday_number, found.weekday_numbers),
    }
}

/// `6 April`: the day on which a fiscal year begins.
fn day_of_year_of(fiscal: FiscalYear) -> String {
    let day = Date::new(2001, fiscal.first_month(), fiscal.first_day());
    day.map_or_else(|_| String::new(), |day| format!("{} {}", day.day(), month_name(day)))
}
