//! A calendar's years: by month, as a grid, and its holidays.

use super::{Block, Cell, Document, Narrowing, Table};
use crate::WorkYears;
use crate::facts::{Rate, RateOfMonths};
use crate::numbers::grouped;
use mild_ledger::{DayKind, Decimal, PeriodRule, Rounding};
use mild_ledger_records::ReportCell;

/// The fewest characters that names of holidays are cut to.
const SHORTEST_NAME: usize = 18;

/// Working days by month, with quarters and the year, and the excluded days.
pub(crate) fn work_years(found: &WorkYears) -> Document {
    let mut out = headed(found);
    out.paragraph(format!("working days: {}", found.total));
    if let Some(rate) = &found.rate {
        out.paragraph(said_of_rate(rate, found));
    }
    out.end_part();
    let rounded_up = found.rate.is_some_and(|rate| rate.rounding == Rounding::Up);
    let mut header = vec!["", "days", "rest days", "holidays", "on rest days", "working days"];
    let has_half_days = found.total.half_days() > 0;
    if has_half_days {
        header.push("half days");
    }
    if found.rate.is_some() {
        header.extend(["target", "a day"]);
    }
    if rounded_up {
        header.extend(["at the rate", "over"]);
    }
    let mut table = Table::new(header, [0]);
    for row in &found.rows {
        let label = Cell::from(row.label.clone());
        let counts = [row.days, row.rest_days, row.holidays, row.holidays_on_rest_days, row.working_days];
        let half_days = has_half_days.then_some(row.half_days);
        let counts = counts.into_iter().chain(half_days).map(|count| Cell::Value(ReportCell::Count(count)));
        let share = row.share.iter().flat_map(|share: &RateOfMonths| {
            let amounts = [share.target, share.a_day, share.at_the_rate, share.over];
            amounts.into_iter().take(if rounded_up { 4 } else { 2 }).map(amount_or_dash)
        });
        table.row(std::iter::once(label).chain(counts).chain(share));
        if row.of == PeriodRule::Quarter {
            table.line();
        }
    }
    out.push(Block::Table(table));
    out
}

fn amount_or_dash(amount: Option<Decimal>) -> Cell {
    amount.map_or_else(|| Cell::from("–".to_owned()), |amount| ReportCell::Decimal(amount).into())
}

fn said_of_rate(rate: &Rate, found: &WorkYears) -> String {
    let (total, a_day) = (grouped(&rate.total.to_string()), grouped(&rate.a_day.to_string()));
    let days = grouped(&found.total.count().to_string());
    match rate.rounding {
        Rounding::Up => format!(
            "target {total}: {a_day} a working day, rounded up; over all {days} days that is {} more than the target",
            grouped(&rate.over.to_string())
        ),
        _ => format!(
            "target {total}: {a_day} a working day, rounded to the nearest; the months' parts sum to the target"
        ),
    }
}

/// The months of the years with each day marked.
pub(crate) fn year_grid(found: &WorkYears) -> Document {
    let mut out = headed(found);
    out.push(Block::Months(found.months.clone()));
    out.paragraph(found.total.to_string());
    out
}

/// The holidays by date, with weekday and where each was moved from.
pub(crate) fn holidays(found: &WorkYears) -> Document {
    let mut out = headed(found);
    if found.holidays.is_empty() {
        out.paragraph("no holidays in these years");
        return out;
    }
    let mut table = Table::new(["date", "weekday", "holiday", ""], 0..4).narrowed_by([
        Narrowing::WithoutColumn(1),
        Narrowing::ShortTexts,
        Narrowing::CutTexts(2, SHORTEST_NAME),
    ]);
    for holiday in &found.holidays {
        let date = holiday.date();
        let note = match (holiday.moved_from(), found.kind_of(date)) {
            (Some(from), _) => Cell::LongOrShort(
                format!("moved from {from}, a {}", from.weekday()),
                format!("moved from {from}"),
            ),
            (None, Some(DayKind::HalfDay)) => Cell::from("half a day".to_owned()),
            (None, Some(DayKind::HolidayOnRestDay)) => Cell::from("on a rest day".to_owned()),
            (None, Some(DayKind::DeclaredWorking)) => Cell::from("worked nevertheless".to_owned()),
            _ => Cell::from(String::new()),
        };
        let texts = [date.to_string(), date.weekday().to_string(), holiday.name().to_owned()];
        table.row(texts.map(Cell::from).into_iter().chain([note]));
    }
    out.push(Block::Table(table));
    out
}

fn headed(found: &WorkYears) -> Document {
    let covers = match found.covers {
        Some(years) => format!("covers {years}"),
        None => "covers every year".to_owned(),
    };
    let mut out = Document::default();
    let hours = found.hours.as_ref().map_or_else(String::new, |hours| format!("; open {hours}"));
    let rest_days = &found.rest_days;
    out.push(Block::Heading(format!("{}: {covers}; rest days: {rest_days}{hours}", found.calendar)));
    if let Some(years) = found.by_rule {
        out.paragraph(format!("{years}: holidays by rule, not yet proclaimed; they may change"));
    }
    out.end_part();
    out
}
