//! Calendars of a plan, and columns of working days.

use super::{Value, Walk, read_date, read_reference};
use crate::calendars::{read_rest_days, read_years};
use crate::plan::model::{At, CalendarChoice, DateSource, PlannedCalendar, PlannedKind, WorkingDayGives};
use crate::plan::vocabulary as keys;
use mild_ledger::Ends;
use std::ops::Range;
use toml::de::{DeTable, DeValue};

/// `[calendar.yard]` and its like.
pub(super) fn read_calendars(walk: &mut Walk, top: &DeTable<'_>) -> Vec<PlannedCalendar> {
    let Some(value) = top.get("calendar") else { return Vec::new() };
    let Some(table) = walk.table(value, "calendars, each under [calendar.name]") else { return Vec::new() };
    let mut calendars = Vec::new();
    for (name, value) in table {
        let name = At { value: name.get_ref().to_string(), span: name.span() };
        calendars.extend(read_calendar(walk, name, value));
    }
    calendars
}

fn read_calendar(walk: &mut Walk, name: At<String>, value: &Value<'_>) -> Option<PlannedCalendar> {
    const EXPECTED: &str = "a list of files, of calendars that ship, and of dates";
    let table = walk.table(value, "a table with rest_days, covers and holidays")?;
    walk.check_keys(table, &keys::CALENDAR);
    let rest_days = match table.get("rest_days") {
        Some(value) => Some(read_rest_days(walk, value)?),
        None => None,
    };
    let covers = match table.get("covers") {
        Some(value) => Some(read_years(walk, value)?),
        None => None,
    };
    let (mut sources, mut dates) = (Vec::new(), Vec::new());
    if let Some(value) = table.get("holidays") {
        let items = match value.get_ref() {
            DeValue::Array(items) => items.iter().collect(),
            _ => vec![value],
        };
        for item in items {
            match item.get_ref() {
                DeValue::Datetime(_) => dates.push(read_date(walk, item, EXPECTED)?),
                _ => sources.push(walk.text(item, EXPECTED)?),
            }
        }
    }
    Some(PlannedCalendar { name, rest_days, covers, sources, dates })
}

/// `calendar = "yard"`, `{ column = "Site" }`, or nothing where the plan has one.
pub(super) fn read_calendar_choice(
    walk: &mut Walk,
    table: &DeTable<'_>,
    span: Range<usize>,
) -> Option<CalendarChoice> {
    let Some(value) = table.get("calendar") else { return Some(CalendarChoice::TheOnlyOne(span)) };
    match value.get_ref() {
        DeValue::Table(reference) => {
            let column = read_reference(walk, reference, value)?;
            Some(CalendarChoice::OfRow(At { value: column, span: value.span() }))
        }
        _ => walk.text(value, "the name of a calendar, or { column = \"…\" }").map(CalendarChoice::Named),
    }
}

/// `between` with `count = "working days"`; both ends count unless others are named.
pub(super) fn read_working_days(
    walk: &mut Walk,
    table: &DeTable<'_>,
    (start, end): (At<DateSource>, At<DateSource>),
    span: Range<usize>,
) -> Option<PlannedKind> {
    for key in table.keys() {
        let word: &str = key.get_ref();
        if matches!(word, "within" | "month_end" | "week_starts" | "decimals" | "rounding") {
            walk.mistake(key.span(), format!("{word} does not go with working days"), "ends, calendar");
            return None;
        }
    }
    let ends = match table.get("ends") {
        Some(value) => walk.choice(value, &Ends::ALL.map(|ends| (ends.word(), ends)))?,
        None => Ends::FirstAndLast,
    };
    let calendar = read_calendar_choice(walk, table, span)?;
    Some(PlannedKind::WorkingDays { start, end, ends, calendar })
}

/// `working_day = "Issued"` with `gives`.
pub(super) fn read_working_day(
    walk: &mut Walk,
    table: &DeTable<'_>,
    span: Range<usize>,
) -> Option<PlannedKind> {
    let of = walk.text(table.get("working_day")?, "the name of a date column")?;
    let gives = match table.get("gives") {
        Some(value) => walk.choice(value, &WorkingDayGives::ALL)?,
        None => WorkingDayGives::YesOrNo,
    };
    Some(PlannedKind::WorkingDay { of, gives, calendar: read_calendar_choice(walk, table, span)? })
}
