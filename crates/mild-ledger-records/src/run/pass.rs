//! One pass over the records, batch by batch: each row to its place, each amount to its sum.

use super::aging::{AgingTotals, counted};
use super::cleaning::{Cleaner, Place, key_text};
use super::conditions::all_hold;
use super::exceptions::{Became, Exception, ExceptionSink, Reason};
use super::job::Job;
use super::outcome::{AmountProof, ColumnDates, ColumnFigures, ExceptionGroup, RowCounts};
use super::repeats::{Decision, Decisions, KeyScan, RepeatSummary};
use super::rows::{RowSink, too_large};
use super::steps::{FigureSigns, add_columns};
use super::table::{Data, Table};
use super::{RecordsError, Watch};
use crate::csv::{Batch, CsvReader, LineWriter, WrittenLines};
use crate::files::{Fingerprint, Staging};
use crate::plan::Repeats;
use mild_ledger::column::Mask;
use std::fs::File;
use std::path::{Path, PathBuf};

/// Where a pass writes to.
pub(super) struct Sinks {
    rows: RowSink,
    exceptions: ExceptionSink,
    keys: Option<KeyScan>,
    places: [PathBuf; 2],
    scratch: PathBuf,
}

impl Sinks {
    pub(super) fn new(
        job: &Job,
        staging: &Staging,
        files: [File; 2],
        scratch: &Path,
    ) -> Result<Self, RecordsError> {
        let places = [staging.place(0).to_owned(), staging.place(1).to_owned()];
        let [rows, exceptions] = files;
        Ok(Self {
            rows: RowSink::new(job, LineWriter::new(rows), scratch)
                .map_err(RecordsError::file(&places[0], WRITE))?,
            exceptions: ExceptionSink::new(LineWriter::new(exceptions))
                .map_err(RecordsError::file(&places[1], WRITE))?,
            keys: (!job.key.is_empty()).then(|| KeyScan::new(scratch)),
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
    pub(super) notes: Vec<String>,
    pub(super) behind_apostrophe: u64,
    pub(super) input: Fingerprint,
    /// The file of rows and that of exceptions, as their writers counted them.
    pub(super) written: [WrittenLines; 2],
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
    mut reader: CsvReader,
    sinks: Sinks,
    mut decisions: Decisions,
    total: u64,
    watch: Watch<'_>,
) -> Result<PassResult<'j>, RecordsError> {
    let Sinks { mut rows, mut exceptions, mut keys, places: [rows_place, exceptions_place], scratch } = sinks;
    let mut cleaner = Cleaner::new(job);
    let mut batch = Batch::of_columns(job.columns_of_file);
    let mut aging: Vec<AgingTotals<'j>> =
        job.reports.iter().map(|report| AgingTotals::new(job, report)).collect();
    let mut signs = FigureSigns::new(job);
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
        reader.read_batch(&mut batch)?;
        if batch.rows_of_file() == 0 {
            break;
        }
        (watch.progress)(reader.bytes_read(), total);
        read.count(job, &batch)?;
        let (mut table, mut places) = cleaner.clean(&batch, &mut exceptions);
        for (row, place) in places.iter_mut().enumerate().filter(|(_, place)| **place == Place::Written) {
            let number = batch.numbers[row];
            if let Some(keys) = &mut keys {
                keys.add(job, &table, row, number)
                    .map_err(RecordsError::file(&scratch, "sort the keys there"))?;
            }
            let decision =
                decisions.on(number).map_err(RecordsError::file(&scratch, "sort the keys there"))?;
            if let Some(decision) = decision {
                *place = follow(&decision, job, &batch, &mut table, row, &mut exceptions);
            }
        }
        add_columns(job, &batch, &mut table, &mut exceptions)?;
        by_place.counts.set_aside += batch.broken.len() as u64;
        for (row, place) in places.into_iter().enumerate() {
            let place = match place {
                Place::Written if !all_hold(&job.select, &table, row) => Place::NotSelected,
                place => place,
            };
            match place {
                Place::Written => {
                    rows.write(job, &table, row)?.map_err(RecordsError::file(&rows_place, WRITE))?;
                    signs.count(&table, row);
                    aging.iter_mut().try_for_each(|totals| totals.add(job, &table, row))?;
                }
                place => by_place.add(job, &table, row, place)?,
            }
        }
        exceptions.write_batch().map_err(RecordsError::file(&exceptions_place, WRITE))?;
    }

    let failed = |error| RecordsError::file(&rows_place, WRITE)(error);
    let written = rows.finish(watch, failed)?;
    by_place.counts.read = reader.rows_read();
    by_place.counts.written = written.rows;
    let exception_rows_set_aside = exceptions.rows_set_aside();
    let behind_apostrophe = written.behind_apostrophe + exceptions.behind_apostrophe();
    let (groups, exceptions_file) = exceptions.finish();
    let amounts = by_place.proofs(job, &read, &written.sums);
    Ok(PassResult {
        rows: by_place.counts,
        amounts,
        notes: job
            .notes
            .iter()
            .cloned()
            .chain(aging.iter().flat_map(|totals| totals.notes(job)))
            .chain(cleaner_notes(&cleaner.dates()))
            .collect(),
        aging,
        dates: cleaner.dates(),
        figures: signs.finish(),
        exceptions: groups,
        exception_rows_set_aside,
        behind_apostrophe,
        input: reader.into_fingerprint(),
        written: [
            written.file.finish().map_err(RecordsError::file(&rows_place, WRITE))?,
            exceptions_file.finish().map_err(RecordsError::file(&exceptions_place, WRITE))?,
        ],
        keys,
        repeats: None,
    })
}

/// What a time of day behind dates lost.
fn cleaner_notes(dates: &[ColumnDates]) -> Vec<String> {
    dates
        .iter()
        .filter(|dates| dates.tally.time_dropped > 0)
        .map(|dates| {
            let values = counted(dates.tally.time_dropped, "value", "values");
            format!("{values} of \"{}\" lost a time of day other than midnight", dates.column)
        })
        .collect()
}

/// Does with a row of a repeated key what was decided, and says so.
fn follow(
    decision: &Decision,
    job: &Job,
    batch: &Batch,
    table: &mut Table<'_>,
    row: usize,
    exceptions: &mut ExceptionSink,
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
            for (column, sum) in job.amounts.iter().zip(sums) {
                put_amount(table, *column, row, *sum);
            }
            return Place::Written;
        }
    };
    let key = key_text(job, batch, row);
    exceptions.add(Exception {
        row: batch.numbers[row],
        line: batch.lines[row],
        text: key.clone(),
        key,
        column: job.key.iter().map(|column| job.name(*column)).collect::<Vec<_>>().join(" / "),
        reason: Reason::RepeatedKey,
        detail,
        became,
    });
    // What went into the sum of another row is counted there.
    if place == Place::Merged && job.repeats == Some(Repeats::Sum) {
        job.amounts.iter().for_each(|column| put_amount(table, *column, row, None));
    }
    place
}

/// Replaces an amount of a table.
fn put_amount(table: &mut Table<'_>, column: usize, row: usize, amount: Option<i128>) {
    let Some(Data::Amount { units, present, .. }) = table.columns.get_mut(column) else { return };
    units[row] = amount.unwrap_or(0);
    if present.is_present(row) != amount.is_some() {
        let mut changed = Mask::new();
        for other in 0..units.len() {
            let is_present = if other == row { amount.is_some() } else { present.is_present(other) };
            if is_present { changed.push_present() } else { changed.push_empty() }
        }
        *present = changed;
    }
}

impl Places {
    fn add(&mut self, job: &Job, table: &Table<'_>, row: usize, place: Place) -> Result<(), RecordsError> {
        let (count, sums) = match place {
            Place::SetAside => (&mut self.counts.set_aside, &mut self.set_aside),
            Place::Merged => (&mut self.counts.merged, &mut self.merged),
            Place::NotSelected | Place::Written => (&mut self.counts.not_selected, &mut self.not_selected),
        };
        *count += 1;
        for (sum, column) in sums.iter_mut().zip(&job.amounts) {
            let units = table.number(*column, row).unwrap_or(0);
            *sum = sum.checked_add(units).ok_or_else(|| too_large(job.name(*column)))?;
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
            for text in batch.columns[*column].iter() {
                match scale.read(text.trim()) {
                    Ok(amount) => {
                        sum = sum.checked_add(amount.units()).ok_or_else(|| too_large(job.name(*column)))?
                    }
                    Err(_) => unreadable += 1,
                }
            }
            self.sums[nth] = sum;
            self.unreadable[nth] += unreadable;
        }
        Ok(())
    }
}
