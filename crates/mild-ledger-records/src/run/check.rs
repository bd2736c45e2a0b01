//! What a plan would do, and what is wrong with it, without doing it.

use super::exception_groups::ExceptionGroups;
use super::job::Job;
use super::outcome::{ExceptionGroup, UsedCalendar};
use super::outputs::{Holds, check_outputs, outputs_of, receipt_place};
use super::pass::{SORT_KEYS, find_repeats, rows_doubt};
use super::receipt_entry::used_calendars;
use super::records::Records;
use super::total_rows;
use super::worker::{KeysWanted, Work, Worker};
use super::{ReadSoFar, RunRequest, Watch, resolve_as_of};
use crate::error::RecordsError;
use crate::files::STANDARD_OUTPUT;
use crate::keys::KeyScan;
use crate::plan::Plan;
use crate::sink::SinkKind;
use crate::source::ChunkSize;
use crate::table::{Column, DateKind, Exception, Figure, Kind};
use mild_ledger::Date;
use std::path::PathBuf;

/// Rows that are looked at: the first so many.
const ROWS: u64 = 10_000;

/// What a plan would do with its records.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct PlanCheck {
    /// The plan's title.
    pub title: String,
    /// The as-of date; none where the plan asks for none.
    pub as_of: Option<Date>,
    /// The records file as it was named.
    pub records: String,
    /// The first rows, which were looked at.
    pub rows: u64,
    /// Whether there are more of them.
    pub more_rows: bool,
    /// The columns of the file, then those that the plan adds.
    pub columns: Vec<CheckedColumn>,
    /// The reports by their titles.
    pub reports: Vec<String>,
    /// The files that a run would write; standard output by its name.
    pub outputs: Vec<PathBuf>,
    /// The calendars that columns count by.
    pub calendars: Vec<UsedCalendar>,
    /// What was wrong with the rows that were looked at, or noticed of them, by reason.
    pub exceptions: Vec<ExceptionGroup>,
    /// A sentence on keys that repeat among the rows looked at, and what a run would do about them.
    pub duplicates: Option<String>,
    /// What would make the figures doubtful, as far as those rows tell.
    pub doubts: Vec<String>,
    /// What named stretches of days come to, and what was noticed.
    pub notes: Vec<String>,
}

/// A column as a run would have it.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct CheckedColumn {
    /// Its header.
    pub name: String,
    /// What it holds, in words.
    pub holds: String,
    /// Whether the plan adds it.
    pub is_added: bool,
    /// Whether the rows that are written have it.
    pub is_written: bool,
}

/// Checks a plan against the header and the first rows of its records. Nothing is written.
///
/// # Errors
/// Those of [`run`](super::run()) that come before the first row: a mistake in the plan, a file that cannot be read, an as-of date that
/// is missing, an output that is an input.
pub fn check(plan: &Plan, request: &RunRequest, watch: Watch<'_>) -> Result<PlanCheck, RecordsError> {
    watch.stopping(|stop| check_stoppable(plan, &RunRequest { stop, ..request.clone() }, watch))
}

fn check_stoppable(plan: &Plan, request: &RunRequest, watch: Watch<'_>) -> Result<PlanCheck, RecordsError> {
    let as_of = resolve_as_of(plan, request)?;
    let records = Records::of(plan, request, as_of)?;
    let mut reader = records.open(&plan.reading())?;
    let (mut job, to_join) = records.bind(plan, as_of, &reader)?;
    let outputs = outputs_of(plan, as_of, &job, None);
    let receipt = receipt_place(plan, request, &outputs);
    check_outputs(&outputs, &receipt, plan, &records, &job)?;
    let scratch = std::env::temp_dir();
    let pace = request.pace(records.bytes());
    job.read_second_files(to_join, pace.of_second_files(&scratch, &|| watch.check()))?;
    let schema = job.schema(reader.columns())?;
    let place = outputs.first().map(|output| output.place.clone()).unwrap_or_default();
    // What cannot be in a file of its format is reported before a row is read.
    let form = SinkKind::of(&place).form(&schema, &plan.output_form);
    form.map_err(RecordsError::file(&place, "write it"))?;
    let mut keys = (!job.setting.layout.key.is_empty()).then(|| KeyScan::new(&scratch));
    let wanted = if keys.is_some() { KeysWanted::Yes } else { KeysWanted::No };
    reader.with_chunks_of(ChunkSize {
        rows: 1_000,
        ..ChunkSize::of_rows_with(job.setting.layout.columns.len())
    });
    let mut worker = Worker::new(&job, reader.chunk_reader(), wanted);
    let mut groups = ExceptionGroups::new(&job.setting.layout);
    let mut more_rows = false;
    let (mut rows, mut written) = (0, 0);
    while let Some(chunk) = reader.next_chunk()? {
        watch.check()?;
        if rows >= ROWS {
            more_rows = true;
            break;
        }
        rows += chunk.numbers().count() as u64;
        let done = worker.work(Work {
            chunk,
            decisions: Vec::new(),
            read: ReadSoFar { rows, bytes: reader.bytes_read(), of_bytes: 0 },
        })?;
        written += done.written.len() as u64;
        if let (Some(keys), Some(made)) = (&mut keys, &done.keys) {
            keys.add(made).map_err(RecordsError::file(&scratch, SORT_KEYS))?;
        }
        let mut exceptions: Vec<Exception> = done.exceptions;
        exceptions.sort_by_key(|exception| exception.origin.row);
        groups.take(&exceptions);
    }
    let found = keys.map(|keys| find_repeats(&job, keys, &scratch, watch.interrupted)).transpose()?;
    let duplicates = found.filter(|found| found.summary.rows > 0).map(|found| {
        let sentence = found.summary.as_sentence(job.key_setting());
        match job.duplicates {
            Some(_) => sentence,
            None if job.reports.is_empty() => {
                format!("{sentence}; duplicates = … under [records] says what becomes of them")
            }
            None => format!(
                "{sentence}; the run refuses them until duplicates = … under [records] says what becomes of them"
            ),
        }
    });
    let exceptions = groups.finish();
    let counts = super::RowCounts { read: rows, written, ..worker.places.counts };
    let readings = worker.cleaner.readings();
    // Whether a last row is the total of others shows only where all rows were looked at.
    let totals = if more_rows { Vec::new() } else { worker.total_rows.find(&job) };
    let doubts = reader
        .doubts()
        .iter()
        .cloned()
        .chain(total_rows::doubts(&job, &totals))
        .chain(rows_doubt(&counts, &exceptions))
        .chain(readings.iter().filter_map(|reading| reading.doubt.clone()))
        .collect();
    let layout = &job.setting.layout;
    let reports = worker.tallies.into_iter().map(|tally| Ok(tally.finish(layout)?.title));
    let reports = reports.collect::<Result<_, RecordsError>>()?;
    let mut notes = job.notes.clone();
    notes.extend_from_slice(reader.said());
    for known in job.setting.calendars.iter().filter(|known| known.is_used) {
        let told = known.opened.coincidences().iter();
        notes.extend(told.map(|told| format!("calendar \"{}\": {told}", known.name)));
    }
    Ok(PlanCheck {
        title: plan.title_on(as_of),
        as_of: as_of.map(|as_of| as_of.date),
        records: records.name,
        rows,
        more_rows,
        columns: columns(&job),
        reports,
        outputs: outputs
            .into_iter()
            .map(|output| match output.holds {
                Holds::Rows if plan.sends_rows_to_standard_output() => STANDARD_OUTPUT.into(),
                _ => output.place,
            })
            .collect(),
        calendars: used_calendars(plan, &job),
        exceptions,
        duplicates,
        doubts,
        notes,
    })
}

fn columns(job: &Job) -> Vec<CheckedColumn> {
    let layout = &job.setting.layout;
    let column = |(nth, column): (usize, &Column)| CheckedColumn {
        name: column.name.clone(),
        holds: match column.currency {
            Some(currency) => {
                format!("{}, each in the currency of \"{}\"", holds(&column.kind), layout.name(currency))
            }
            None => holds(&column.kind),
        },
        is_added: nth >= layout.columns_of_file,
        // A column of which the text is kept is written by its name.
        is_written: job.output.iter().any(|written| *written == nth || job.name(*written) == job.name(nth)),
    };
    layout.columns.iter().enumerate().map(column).collect()
}

/// What a column holds, in words.
fn holds(kind: &Kind) -> String {
    let decimals = |count: u8| match count {
        0 => "whole numbers".to_owned(),
        1 => "1 decimal".to_owned(),
        count => format!("{count} decimals"),
    };
    match kind {
        Kind::Date { source: DateKind::Read { written, zone, .. }, time } => {
            let zone =
                zone.as_ref().map_or_else(String::new, |zone| format!(", as the clock shows them in {zone}"));
            let what = if time.is_some() { "dates with times" } else { "dates" };
            format!("{what} written {written}{zone}")
        }
        Kind::Date { source: DateKind::Made, .. } => "dates".to_owned(),
        Kind::Amount { scale } => format!("amounts, {}", decimals(scale.decimals())),
        Kind::Number { decimals: count, figure } => match figure {
            Some(figure) => format!("{} ({}){}", figure.rule, decimals(*count), ends(figure)),
            None => format!("numbers, {}", decimals(*count)),
        },
        Kind::Parts(figure) => format!("{}{}", figure.rule, ends(figure)),
        Kind::Band(band) => format!("buckets: {}", band.buckets.labels().join(", ")),
        Kind::Text | Kind::Place => kind.word().to_owned(),
    }
}

/// Which ends a figure counts, in words.
fn ends(figure: &Figure) -> String {
    figure.ends.map_or_else(String::new, |ends| format!(", ends {ends}"))
}
