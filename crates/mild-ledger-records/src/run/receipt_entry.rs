//! What the receipt says of a run.

use super::job::Job;
use super::outcome::{RunFile, RunOutcome, UsedCalendar};
use crate::calendars::OpenedCalendar;
use crate::files::{
    AmountLine, CalendarLine, FileLine, Fingerprint, ProofEntry, ReportLine, RowsLine, RunEntry, is_address,
};
use crate::plan::Plan;
use crate::reports::{ProofLine, ProofPart};
use std::collections::BTreeMap;
use std::path::Path;

/// What the receipt says of a run of the plan in this folder.
pub(super) fn receipt_entry(outcome: &RunOutcome, as_of: String, folder: &Path) -> RunEntry {
    let line = |file: &RunFile| {
        let fingerprint = Fingerprint { bytes: file.bytes, hash: file.hash.clone() };
        FileLine::new(name_from(folder, file), file.rows, fingerprint).with_redirect(file.led_to.clone())
    };
    RunEntry {
        as_of,
        title: outcome.title.clone(),
        written_by: concat!("mild-ledger ", env!("CARGO_PKG_VERSION")).to_owned(),
        cells_behind_apostrophe: outcome.cells_behind_apostrophe,
        rows: RowsLine {
            read: outcome.rows.read,
            written: outcome.rows.written,
            set_aside: outcome.rows.set_aside,
            merged: outcome.rows.merged,
            not_selected: outcome.rows.not_selected,
        },
        amount: outcome
            .amounts
            .iter()
            .map(|amount| AmountLine {
                column: amount.column.clone(),
                currency: amount.currency.clone(),
                read: amount.read.to_string(),
                written: amount.written.to_string(),
                set_aside: amount.set_aside.to_string(),
                merged: amount.merged.to_string(),
                not_selected: amount.not_selected.to_string(),
                unreadable_rows: amount.unreadable_rows,
            })
            .collect(),
        report: outcome
            .reports
            .iter()
            .map(|report| ReportLine {
                title: report.title.clone(),
                kind: report.kind.to_owned(),
                earlier: BTreeMap::new(),
                proof: report.proof.iter().map(proof_entry).collect(),
            })
            .collect(),
        calendar: outcome
            .calendars
            .iter()
            .map(|calendar| CalendarLine {
                name: calendar.name.clone(),
                covers: calendar.covers.clone(),
                rest_days: calendar.rest_days.clone(),
                holidays: calendar.holidays,
                sources: calendar.sources.clone(),
            })
            .collect(),
        input: outcome.inputs.iter().map(line).collect(),
        output: outcome.outputs.iter().map(line).collect(),
        earlier_output: Vec::new(),
    }
}

fn proof_entry(line: &ProofLine) -> ProofEntry {
    let named = |part: &ProofPart| (part.name.clone(), part.value.to_string());
    ProofEntry {
        of: line.what.clone(),
        whole: [named(&line.whole)].into_iter().collect(),
        parts: line.parts.iter().map(named).collect(),
    }
}

/// The years that a calendar covers, and from which of them on they are by rule.
fn covers_in_words(opened: &OpenedCalendar) -> String {
    let covers = opened.covers().map_or_else(|| "every year".to_owned(), |years| years.to_string());
    match opened.calendar().by_rule() {
        Some(years) => format!("{covers}, from {:04} by rule", years.first()),
        None => covers,
    }
}

/// The calendars that columns counted by.
pub(super) fn used_calendars(plan: &Plan, job: &Job) -> Vec<UsedCalendar> {
    let used = job.setting.calendars.iter().filter(|calendar| calendar.is_used);
    used.map(|known| {
        let calendar = known.opened.calendar();
        let mut days: Vec<_> = calendar.holidays().iter().map(|holiday| holiday.date()).collect();
        days.dedup();
        let source = |source: &String| {
            let path = Path::new(source);
            path.strip_prefix(plan.folder()).unwrap_or(path).display().to_string()
        };
        UsedCalendar {
            name: known.name.clone(),
            covers: covers_in_words(&known.opened),
            rest_days: calendar.rest_days_said(),
            hours: calendar.hours().map(|hours| hours.without(calendar.rest_days()).to_string()),
            holidays: days.len() as u64,
            sources: known.opened.sources.iter().map(source).collect(),
        }
    })
    .collect()
}

/// The name of a file as it is seen from the folder of the plan, where the receipt's names begin; records that the command line names are seen
/// from the folder that it was given in.
fn name_from(folder: &Path, file: &RunFile) -> String {
    let is_seen_from_there = folder.join(&file.name) == file.path;
    if is_seen_from_there || is_address(&file.name) || !file.path.exists() {
        return file.name.clone();
    }
    let whole = |path: &Path| path.canonicalize().ok();
    let (Some(path), Some(folder)) =
        (whole(&file.path), whole(if folder.as_os_str().is_empty() { Path::new(".") } else { folder }))
    else {
        return file.name.clone();
    };
    path.strip_prefix(folder).unwrap_or(&path).display().to_string()
}
