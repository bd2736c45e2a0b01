//! One pass over the records, batch by batch: each row to its place, each amount to its sum.

use super::Watch;
use super::exceptions_file::{COLUMNS, ExceptionSink};
use super::figures::FigureSigns;
use super::job::Job;
use super::outcome::{AmountProof, ColumnDates, ColumnFigures, ExceptionGroup, RowCounts};
use super::rows::RowSink;
use crate::columns::{add_columns, all_hold};
use crate::error::RecordsError;
use crate::files::Staging;
use crate::keys::{Decision, Decisions, KeyScan, KeySetting, RepeatSummary, Repeats};
use crate::reports::AgingTotals;
use crate::sink::{SinkKind, Written};
use crate::source::{Source, SourceEnd};
use crate::table::{Batch, Became, Exception, ExceptionSubject, Reason, ReplacedAmount, Table};
use crate::typing::{Cleaner, ColumnReadings, Place, read_amount};
use std::fs::File;
use std::path::{Path, PathBuf};

/// Where a pass writes to.
pub(super) struct Sinks<'j> {
    rows: RowSink,
    exceptions: ExceptionSink<'j>,
    keys: Option<KeyScan>,
    places: [PathBuf; 2],
    scratch: PathBuf,
}

impl<'j> Sinks<'j> {
    pub(super) fn new(
        job: &'j Job,
        staging: &Staging,
        files: [File; 2],
        scratch: &Path,
    ) -> Result<Self, RecordsError> {
        let places = [staging.place(0).to_owned(), staging.place(1).to_owned()];
        let names: Vec<&str> = job.output.iter().map(|column| job.name(*column)).collect();
        let begin = |nth: usize, file: File, columns: &[&str]| {
            let created = SinkKind::of(&places[nth]).create(file, columns);
            created.map_err(RecordsError::file(&places[nth], WRITE))
        };
        let [rows, exceptions] = files;
        let (rows, exceptions) = (begin(0, rows, &names)?, begin(1, exceptions, &COLUMNS)?);
        Ok(Self {
            rows: RowSink::new(job, rows, scratch),
            exceptions: ExceptionSink::new(&job.setting.layout, exceptions),
            keys: (!job.setting.layout.key.is_empty()).then(|| KeyScan::new(scratch)),
            places,
            scratch: scratch.to_owned(),
        })
    }
}

const WRITE: &str = "write it";

/// What a pass counted.
pub(super) struct PassResult<'j> {
    pub(super) rows: RowCounts,
    pub(super) amounts: Vec<AmountProof>,
    pub(super) aging: Vec<AgingTotals<'j>>,
    pub(super) dates: Vec<ColumnDates>,
    pub(super) figures: Vec<ColumnFigures>,
    pub(super) exceptions: Vec<ExceptionGroup>,
    pub(super) exception_rows_set_aside: u64,
    pub(super) unreadable_cells: u64,
    /// What makes the figures doubtful.
    pub(super) doubts: Vec<String>,
    pub(super) notes: Vec<String>,
    pub(super) behind_apostrophe: u64,
    pub(super) input: SourceEnd,
    /// The file of rows and that of exceptions, as their writers counted them.
    pub(super) written: [Written; 2],
    pub(super) keys: Option<KeyScan>,
    pub(super) repeats: Option<RepeatSummary>,
}

/// Sums of amounts by place, kept apart from those of the reader and of the writer.
struct Places {
    counts: RowCounts,
    set_aside: Vec<i128>,
    merged: Vec<i128>,
    not_selected: Vec<i128>,
}

/// Reads all records once.
pub(super) fn run<'j>(
    job: &'j Job,
    mut reader: Box<dyn Source>,
    sinks: Sinks<'j>,
    mut decisions: Decisions,
    total: u64,
    watch: Watch<'_>,
) -> Result<PassResult<'j>, RecordsError> {
    let Sinks { mut rows, mut exceptions, mut keys, places: [rows_place, exceptions_place], scratch } = sinks;
    let setting = &job.setting;
    let layout = &setting.layout;
    let name_of = |column: usize| job.name(column).to_owned();
    let key_setting = job.key_setting(&name_of);
    reader.with_cells_of_a_row(layout.columns.len());
    let mut cleaner = Cleaner::new(layout);
    let mut aging: Vec<AgingTotals<'j>> = job.reports.iter().map(AgingTotals::new).collect();
    let mut signs = FigureSigns::new(layout);
    let mut read = ReaderTally::new(job);
    let none = vec![0; job.amounts.len()];
    let mut by_place = Places {
        counts: RowCounts::default(),
        set_aside: none.clone(),
        merged: none.clone(),
        not_selected: none,
    };
    loop {
        watch.check()?;
        let Some(batch) = reader.next_batch()? else { break };
        (watch.progress)(reader.bytes_read(), total);
        read.count(job, &batch)?;
        let mut found: Vec<Exception> = Vec::new();
        let (mut table, mut places) = cleaner.clean(&batch, &mut found);
        let mut replaced: Vec<ReplacedAmount> = Vec::new();
        for (row, place) in places.iter_mut().enumerate().filter(|(_, place)| **place == Place::Written) {
            let number = batch.numbers[row];
            if let Some(keys) = &mut keys {
                keys.add(&key_setting, &table, row, number)
                    .map_err(RecordsError::file(&scratch, "sort the keys there"))?;
            }
            let decision =
                decisions.on(number).map_err(RecordsError::file(&scratch, "sort the keys there"))?;
            if let Some(decision) = decision {
                *place = follow(&decision, job, &batch, row, (&mut found, &mut replaced));
            }
        }
        table.replace_units(&replaced);
        // Only columns of different lengths, or a rule that the plan's reader refuses, could end here.
        add_columns(&job.steps, setting, &batch, &mut table, &mut found)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        by_place.counts.set_aside += batch.broken.len() as u64;
        let mut written = Vec::with_capacity(table.rows);
        for (row, place) in places.into_iter().enumerate() {
            let number = batch.numbers[row];
            let place = match place {
                Place::Written if !all_hold(&job.select, &table, row) => Place::NotSelected,
                place => place,
            };
            match place {
                Place::Written => {
                    written.push(row);
                    signs.count(&table, row);
                    aging.iter_mut().try_for_each(|totals| totals.add(layout, &table, row, number))?;
                }
                place => by_place.add(job, &table, row, number, place)?,
            }
        }
        rows.write(job, &table, &written, &batch.numbers)?.map_err(RecordsError::file(&rows_place, WRITE))?;
        exceptions.write_batch(found).map_err(RecordsError::file(&exceptions_place, WRITE))?;
    }

    let failed = |error| RecordsError::file(&rows_place, WRITE)(error);
    let written = rows.finish(watch, failed)?;
    by_place.counts.read = reader.rows_read();
    by_place.counts.written = written.rows;
    let exception_rows_set_aside = exceptions.rows_set_aside();
    let unreadable_cells = exceptions.unreadable_cells();
    let (groups, exceptions_file) =
        exceptions.finish().map_err(RecordsError::file(&exceptions_place, WRITE))?;
    let behind_apostrophe = written.file.behind_apostrophe + exceptions_file.behind_apostrophe;
    let amounts = by_place.proofs(job, &read, &written.sums);
    let readings = cleaner.readings();
    let doubts = rows_doubt(&by_place.counts, &groups)
        .into_iter()
        .chain(readings.iter().filter_map(|reading| reading.doubt.clone()))
        .collect();
    let dates: Vec<ColumnDates> = readings.into_iter().map(|reading| column_dates(job, reading)).collect();
    let notes = job
        .notes
        .iter()
        .cloned()
        .chain(aging.iter().flat_map(|totals| totals.notes(layout)))
        .chain(dates.iter().filter_map(time_note))
        .collect();
    Ok(PassResult {
        rows: by_place.counts,
        amounts,
        notes,
        doubts,
        aging,
        dates,
        figures: signs.finish(),
        exceptions: groups,
        exception_rows_set_aside,
        unreadable_cells,
        behind_apostrophe,
        input: reader.finish(),
        written: [written.file, exceptions_file],
        keys,
        repeats: None,
    })
}

impl Job {
    pub(super) fn key_setting<'s>(&'s self, name_of: &'s dyn Fn(usize) -> String) -> KeySetting<'s> {
        KeySetting {
            columns: &self.setting.layout.key,
            repeats: self.repeats,
            amounts: &self.amounts,
            name_of,
        }
    }
}

/// Where more than one row in a hundred, and at least three, is set aside: how many of how many, and why.
fn rows_doubt(rows: &RowCounts, groups: &[ExceptionGroup]) -> Option<String> {
    if rows.set_aside < 3 || rows.set_aside * 100 <= rows.read {
        return None;
    }
    let reasons: Vec<String> = groups
        .iter()
        .filter(|group| group.outcome == Became::RowSetAside.to_string())
        .map(|group| format!("{} {}", group.reason, group.count))
        .collect();
    Some(format!("{} of {} rows were set aside ({})", rows.set_aside, rows.read, reasons.join(", ")))
}

fn column_dates(job: &Job, reading: ColumnReadings) -> ColumnDates {
    let ColumnReadings { column, pattern, tally, .. } = reading;
    ColumnDates { column: job.name(column).to_owned(), pattern, tally }
}

/// What a time of day behind dates lost.
fn time_note(dates: &ColumnDates) -> Option<String> {
    let lost = dates.tally.time_dropped;
    let values = if lost == 1 { "value" } else { "values" };
    (lost > 0)
        .then(|| format!("{lost} {values} of \"{}\" lost a time of day other than midnight", dates.column))
}

/// Does with a row of a repeated key what was decided, and says so.
fn follow(
    decision: &Decision,
    job: &Job,
    batch: &Batch,
    row: usize,
    (exceptions, replaced): (&mut Vec<Exception>, &mut Vec<ReplacedAmount>),
) -> Place {
    let (place, became, detail) = match decision {
        Decision::SetAside { first } => {
            (Place::SetAside, Became::RowSetAside, format!("the same key as row {first}"))
        }
        Decision::MergedInto { first } => {
            let how = if job.repeats == Some(Repeats::Sum) {
                "its amounts were added to"
            } else {
                "the key counts by"
            };
            (Place::Merged, Became::RowMerged, format!("{how} row {first}"))
        }
        Decision::Superseded { next } => (
            Place::Merged,
            Became::RowMerged,
            format!("a later row of the same key counts, such as row {next}"),
        ),
        Decision::TakesSums(sums) => {
            let amounts = job.amounts.iter().zip(sums);
            replaced.extend(amounts.map(|(column, units)| ReplacedAmount {
                column: *column,
                row,
                units: *units,
            }));
            return Place::Written;
        }
    };
    let key = job.setting.layout.key_text(batch, row);
    exceptions.push(Exception {
        row: batch.numbers[row],
        line: batch.lines[row],
        text: key.clone(),
        key,
        subject: ExceptionSubject::Key,
        reason: Reason::RepeatedKey,
        detail,
        became,
    });
    // What went into the sum of another row is counted there.
    if place == Place::Merged && job.repeats == Some(Repeats::Sum) {
        let amounts = job.amounts.iter();
        replaced.extend(amounts.map(|column| ReplacedAmount { column: *column, row, units: None }));
    }
    place
}

impl Places {
    fn add(
        &mut self,
        job: &Job,
        table: &Table,
        row: usize,
        number: u64,
        place: Place,
    ) -> Result<(), RecordsError> {
        let (count, sums) = match place {
            Place::SetAside => (&mut self.counts.set_aside, &mut self.set_aside),
            Place::Merged => (&mut self.counts.merged, &mut self.merged),
            Place::NotSelected | Place::Written => (&mut self.counts.not_selected, &mut self.not_selected),
        };
        *count += 1;
        for (sum, column) in sums.iter_mut().zip(&job.amounts) {
            let units = table.units(*column, row).unwrap_or(0);
            *sum =
                sum.checked_add(units).ok_or_else(|| RecordsError::too_large(job.name(*column), number))?;
        }
        Ok(())
    }

    fn proofs(&self, job: &Job, read: &ReaderTally, written: &[i128]) -> Vec<AmountProof> {
        let proof = |(nth, column): (usize, &usize)| {
            let scale = job.scale(*column)?;
            Some(AmountProof {
                column: job.name(*column).to_owned(),
                read: scale.amount(read.sums[nth]),
                written: scale.amount(written[nth]),
                set_aside: scale.amount(self.set_aside[nth]),
                merged: scale.amount(self.merged[nth]),
                not_selected: scale.amount(self.not_selected[nth]),
                unreadable_rows: read.unreadable[nth],
                read_back: job.read_back_state(*column),
            })
        };
        job.amounts.iter().enumerate().filter_map(proof).collect()
    }
}

/// The sums as the reader sees them, from the texts themselves.
struct ReaderTally {
    sums: Vec<i128>,
    unreadable: Vec<u64>,
}

impl ReaderTally {
    fn new(job: &Job) -> Self {
        Self { sums: vec![0; job.amounts.len()], unreadable: vec![0; job.amounts.len()] }
    }

    fn count(&mut self, job: &Job, batch: &Batch) -> Result<(), RecordsError> {
        for (nth, column) in job.amounts.iter().enumerate() {
            let Some(scale) = job.scale(*column) else { continue };
            let mut sum = self.sums[nth];
            let mut unreadable = batch.broken.len() as u64;
            for row in 0..batch.rows() {
                let text = batch.text(*column, row);
                match read_amount(text, scale) {
                    Ok(units) => {
                        let too_large = || RecordsError::too_large(job.name(*column), batch.numbers[row]);
                        sum = sum.checked_add(units).ok_or_else(too_large)?;
                    }
                    // A missing amount that may be missing is none.
                    Err(_) if text.trim().is_empty() && job.may_be_missing(*column) => {}
                    Err(_) => unreadable += 1,
                }
            }
            self.sums[nth] = sum;
            self.unreadable[nth] += unreadable;
        }
        Ok(())
    }
}
