//! The object of `mild check --json`.

use super::exceptions::{Exceptions, exceptions};
use super::to_text;
use crate::document;
use mild_ledger_records::PlanCheck;
use serde::Serialize;

/// The object of `mild check PLAN --json`, in one line.
#[must_use]
pub fn check(found: &PlanCheck) -> String {
    to_text(&Checked {
        title: &found.title,
        as_of: found.as_of.map(|date| date.to_string()),
        records: &found.records,
        rows: found.rows,
        more_rows: found.more_rows,
        columns: found
            .columns
            .iter()
            .map(|column| Column {
                name: &column.name,
                holds: &column.holds,
                added: column.is_added,
                written: column.is_written,
            })
            .collect(),
        reports: &found.reports,
        outputs: found.outputs.iter().map(|path| path.display().to_string()).collect(),
        calendars: found
            .calendars
            .iter()
            .map(|calendar| Calendar {
                name: &calendar.name,
                covers: &calendar.covers,
                rest_days: &calendar.rest_days,
                hours: calendar.hours.as_deref(),
                holidays: calendar.holidays,
            })
            .collect(),
        exceptions: exceptions(&found.exceptions),
        duplicates: found.duplicates.as_deref(),
        doubts: &found.doubts,
        notes: &found.notes,
        answer: document::check_answer(found),
    })
}

#[derive(Serialize)]
struct Checked<'c> {
    title: &'c str,
    as_of: Option<String>,
    records: &'c str,
    rows: u64,
    more_rows: bool,
    columns: Vec<Column<'c>>,
    reports: &'c [String],
    outputs: Vec<String>,
    calendars: Vec<Calendar<'c>>,
    exceptions: Vec<Exceptions<'c>>,
    duplicates: Option<&'c str>,
    doubts: &'c [String],
    notes: &'c [String],
    answer: String,
}

#[derive(Serialize)]
struct Column<'c> {
    name: &'c str,
    holds: &'c str,
    added: bool,
    written: bool,
}

#[derive(Serialize)]
struct Calendar<'c> {
    name: &'c str,
    covers: &'c str,
    rest_days: &'c str,
    #[serde(skip_serializing_if = "Option::is_none")]
    hours: Option<&'c str>,
    holidays: u64,
}
