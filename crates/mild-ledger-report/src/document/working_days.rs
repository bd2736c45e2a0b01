//! Working days by calendars, and the days that make the difference.

use super::{Block, Document};
use crate::facts::{CountByCalendar, CountsByCalendar, DayIs, Difference, MarkedMonths};
use crate::numbers::grouped;
use mild_ledger::CalendarYears;

/// Days listed on which two calendars differ.
const MOST_DIFFERENCES: usize = 40;
/// Holidays named below a grid, as far as they can be read at a glance.
const MOST_HOLIDAYS: usize = 20;

/// The working days by each calendar, each with its rule for ends; with two or more, also the days that make the difference.
pub(super) fn put_counts(out: &mut Document, found: &CountsByCalendar) {
    for count in &found.counts {
        put_count(out, count);
    }
    if let Some(difference) = &found.difference {
        out.end_part();
        put_difference(out, difference);
        out.end_part();
    }
}

fn put_count(out: &mut Document, found: &CountByCalendar) {
    let count = found.days.amount().to_string();
    let days = if matches!(count.as_str(), "1" | "-1") { "day" } else { "days" };
    out.paragraph(format!("{} working {days} by {}, {}", grouped(&count), found.calendar, found.ends.said()));
    if let Some(years) = found.by_rule {
        out.paragraph(said_of_rule(&found.calendar, years));
    }
    match &found.months {
        Some(months) => {
            out.end_part();
            put_months(out, months);
            out.paragraph(found.days.to_string());
        }
        None => out.push(Block::Item(found.days.to_string())),
    }
}

/// That a figure rests on years that may change.
pub(super) fn said_of_rule(calendar: &str, years: CalendarYears) -> String {
    format!(
        "The holidays of {years} in {calendar} follow by rule, not yet proclaimed: the figure may change."
    )
}

/// The months with each day marked, and the holidays among the days that were looked at, by name.
pub(super) fn put_months(out: &mut Document, months: &MarkedMonths) {
    out.push(Block::Months(months.clone()));
    for holiday in months.inside().flat_map(|day| &day.holidays).take(MOST_HOLIDAYS) {
        let date = holiday.date();
        let moved = holiday.moved_from().map_or_else(String::new, |from| format!(", moved from {from}"));
        out.paragraph(format!("{date} ({}): {}{moved}", date.weekday(), holiday.name()));
    }
}

fn put_difference(out: &mut Document, found: &Difference) {
    let [one, other] = &found.calendars;
    out.paragraph(match found.days.is_empty() {
        true => format!("{one} and {other} work on the same of these days."),
        false => format!("days that make the difference ({one}; {other}):"),
    });
    let said = |is: &DayIs| match &is.holiday {
        Some(holiday) => format!("{}, {holiday}", is.kind),
        None => is.kind.to_string(),
    };
    for day in found.days.iter().take(MOST_DIFFERENCES) {
        let [one, other] = &day.is;
        let weekday = day.date.weekday();
        out.push(Block::Item(format!("{} ({weekday}): {}; {}", day.date, said(one), said(other))));
    }
    let more = found.days.len().saturating_sub(MOST_DIFFERENCES);
    if more > 0 {
        out.push(Block::Item(format!("… and {more} more")));
    }
}
