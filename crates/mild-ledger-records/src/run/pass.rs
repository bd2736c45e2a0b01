//! One pass over the records: read, worked on by several, and taken to the outputs in the order of the file.

use super::exceptions_file::ExceptionSink;
use super::job::Job;
use super::outcome::{
    AddedColumn, AmountProof, ColumnDates, ColumnFigures, ComparedColumns, ExceptionGroup, RowCounts, Sample,
};
use super::outputs::{Holds, OutputSink, exception_schema};
use super::read_back::ReadBehind;
use super::row_output::{MadeRows, RowMaker, RowSink};
use super::sums::Sums;
use super::total_rows;
use super::worker::{KeysWanted, Work, Worked, Worker};
use super::{ReadSoFar, Watch, Writing};
use crate::error::RecordsError;
use crate::join::{HowRead, JoinTally};
use crate::keys::{Decision, Decisions, FoundDuplicates, KeyScan, KeySetting, MadeKeys};
use crate::reports::Tally;
use crate::sink::Written;
use crate::source::{Chunk, ChunkSize, SourceEnd, Sources, by_several};
use crate::table::{Became, Exception, RowId};
use crate::typing::ColumnReadings;
use arrow_schema::SchemaRef;
use std::fs::File;
use std::num::NonZeroUsize;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::Builder;

/// Where a pass writes to.
pub(super) struct Sinks<'j> {
    rows: RowSink,
    exceptions: ExceptionSink<'j>,
    keys: Option<KeyScan>,
    scratch: PathBuf,
    /// The columns of the rows.
    schema: SchemaRef,
}

impl<'j> Sinks<'j> {
    /// The writers of the files of a pass, one for each output, and the readers after them.
    pub(super) fn new(
        job: &'j Job,
        writing: Writing<'_>,
        files: Vec<File>,
        (header, workers): (&[String], NonZeroUsize),
    ) -> Result<(Self, ReadBehind), RecordsError> {
        let behind = ReadBehind::begin(job, writing, workers)?;
        let schema = job.schema(header)?;
        let (mut rows, mut exceptions) = (None, None);
        for (nth, ((output, file), progress)) in
            writing.outputs.iter().zip(files).zip(behind.progress()).enumerate()
        {
            let target = (file, writing.staging.part(nth));
            match output.holds {
                Holds::Rows => {
                    let sink = OutputSink::begin(output, target, &schema, progress)?;
                    rows = Some(RowSink::new(job, sink, writing.scratch));
                }
                Holds::Exceptions => {
                    let sink = OutputSink::begin(output, target, &exception_schema(), progress)?;
                    exceptions = Some(ExceptionSink::new(&job.setting.layout, sink, job.merged_rows));
                }
                // It is written when it is finished.
                Holds::Report(_) | Holds::Document(..) => {}
            }
        }
        let lacks = || RecordsError::Proof { what: "an output is not written".to_owned() };
        let sinks = Self {
            rows: rows.ok_or_else(lacks)?,
            exceptions: exceptions.ok_or_else(lacks)?,
            keys: (!job.setting.layout.key.is_empty()).then(|| KeyScan::new(writing.scratch)),
            scratch: writing.scratch.to_owned(),
            schema,
        };
        Ok((sinks, behind))
    }

    /// For a pass over records whose repeated keys are known.
    pub(super) fn without_keys(self) -> Self {
        Self { keys: None, ..self }
    }
}

impl Pace {
    /// The same for second files.
    pub(super) fn of_second_files<'h>(
        self,
        scratch: &'h Path,
        check: &'h dyn Fn() -> Result<(), RecordsError>,
    ) -> HowRead<'h> {
        let Self { workers, chunks, most_held, .. } = self;
        HowRead { scratch, workers, chunks, most_held, check }
    }
}

/// What a pass counted.
pub(super) struct PassResult {
    pub(super) rows: RowCounts,
    pub(super) amounts: Vec<AmountProof>,
    pub(super) tallies: Vec<Box<dyn Tally>>,
    pub(super) dates: Vec<ColumnDates>,
    pub(super) figures: Vec<ColumnFigures>,
    pub(super) added: Vec<AddedColumn>,
    pub(super) sample: Option<Sample>,
    pub(super) compared: Vec<ComparedColumns>,
    /// Sentences on what hangs on calendars.
    pub(super) calendar_notes: Vec<String>,
    /// How many rows found a match in each second file.
    pub(super) joined: Vec<JoinTally>,
    pub(super) exceptions: Vec<ExceptionGroup>,
    pub(super) exception_rows_set_aside: u64,
    pub(super) unreadable_cells: u64,
    /// What makes the figures doubtful.
    pub(super) doubts: Vec<String>,
    pub(super) behind_apostrophe: u64,
    pub(super) input: Vec<SourceEnd>,
    /// The rows written to each output, as its writer counted them.
    pub(super) written: Vec<(Holds, Written)>,
    /// What keys repeat, where that was looked for.
    pub(super) duplicates: Option<FoundDuplicates>,
    /// Rows that the plan leaves out as totals, which another pass does.
    pub(super) left_out: Vec<(RowId, Decision)>,
}

/// How a pass goes about it.
#[derive(Debug, Clone, Copy)]
pub(super) struct Pace {
    /// Bytes that there are to read.
    pub(super) bytes: u64,
    pub(super) workers: NonZeroUsize,
    /// How large the chunks of the file are, where that does not follow from its columns.
    pub(super) chunks: Option<ChunkSize>,
    /// How many bytes of what is joined are held in memory, where that is not as much as usual.
    pub(super) most_held: Option<usize>,
}

/// Reads all records once. One thread cuts the file at the ends of rows, others work on the pieces in turn, and this one takes what they leave in the order
/// of the file, so that nothing depends on how many they are.
pub(super) fn run<'j>(
    job: &'j Job,
    mut reader: Sources,
    sinks: Sinks<'j>,
    decisions: Decisions,
    pace: Pace,
    watch: Watch<'_>,
) -> Result<PassResult, RecordsError> {
    let cells = job.setting.layout.columns.len();
    reader.with_chunks_of(pace.chunks.unwrap_or_else(|| ChunkSize::of_rows_with(cells)));
    let keys = if sinks.keys.is_some() { KeysWanted::Yes } else { KeysWanted::No };
    let (form, schema) = (Arc::clone(sinks.rows.form()), Arc::clone(&sinks.schema));
    let hand = |chunks| Hand {
        worker: Worker::new(job, chunks, keys),
        rows: RowMaker::new(job, Arc::clone(&form), Arc::clone(&schema)),
    };
    let mut collector = Collector { job, sinks };
    collector.begin()?;
    let scratch = collector.sinks.scratch.clone();
    let hands = (0..pace.workers.get()).map(|_| hand(reader.chunk_reader())).collect();
    let (cut, mut decisions) = (&mut reader, decisions);
    let next = move || {
        let Some(chunk) = cut.next_chunk()? else { return Ok(None) };
        let read = ReadSoFar { rows: cut.rows_read(), bytes: cut.bytes_read(), of_bytes: 0 };
        decided(chunk, &mut decisions, &scratch, read).map(Some)
    };
    let work = |hand: &mut Hand<'j>, work| hand.work(job, work);
    let hands = by_several(hands, next, work, |done: Done| {
        watch.check()?;
        (watch.progress)(ReadSoFar { of_bytes: pace.bytes, ..done.read });
        collector.take(done)
    })?;
    let mut merged = hand(reader.chunk_reader());
    hands.into_iter().try_for_each(|hand| merged.merge(job, hand))?;
    collector.finish(reader, merged, watch)
}

/// A worker on batches, which puts their rows into the form in which they are written.
struct Hand<'j> {
    worker: Worker<'j>,
    rows: RowMaker,
}

/// A batch as one leaves it.
struct Done {
    keys: Option<MadeKeys>,
    rows: MadeRows,
    exceptions: Vec<Exception>,
    read: ReadSoFar,
}

impl<'j> Hand<'j> {
    fn work(&mut self, job: &'j Job, work: Work) -> Result<Done, RecordsError> {
        let Worked { keys, table, written, origins, exceptions, read } = self.worker.work(work)?;
        Ok(Done { keys, rows: self.rows.make(job, &table, &written, &origins)?, exceptions, read })
    }

    /// Takes over what another one counted.
    fn merge(&mut self, job: &'j Job, other: Self) -> Result<(), RecordsError> {
        self.worker.merge(other.worker)?;
        self.rows.sums.merge(job, &other.rows.sums)
    }
}

fn stopped(does: &str) -> RecordsError {
    RecordsError::Proof { what: format!("the thread that {does} stopped") }
}

fn decided(
    chunk: Chunk,
    decisions: &mut Decisions,
    scratch: &Path,
    read: ReadSoFar,
) -> Result<Work, RecordsError> {
    let mut of_chunk = Vec::new();
    for number in chunk.ids() {
        // The place is named only where there is an error to name it in.
        let failed = |error| RecordsError::file(scratch, SORT_KEYS)(error);
        let decision = decisions.on(number).map_err(failed)?;
        of_chunk.extend(decision.map(|decision| (number, decision)));
    }
    Ok(Work { chunk, decisions: of_chunk, read })
}

pub(super) const SORT_KEYS: &str = "sort the keys there";

/// Takes batches in the order of the file to where they go.
struct Collector<'j> {
    job: &'j Job,
    sinks: Sinks<'j>,
}

impl<'j> Collector<'j> {
    /// Lists what was wrong with second files, which were read before.
    fn begin(&mut self) -> Result<(), RecordsError> {
        self.sinks.exceptions.write_of_second_files(self.job)
    }

    fn take(&mut self, done: Done) -> Result<(), RecordsError> {
        let Sinks { rows, exceptions, keys, scratch, .. } = &mut self.sinks;
        if let (Some(keys), Some(made)) = (keys, &done.keys) {
            keys.add(made).map_err(RecordsError::file(scratch, SORT_KEYS))?;
        }
        rows.write(&done.rows)?;
        exceptions.write_batch(done.exceptions)
    }

    fn finish(self, input: Sources, hand: Hand<'j>, watch: Watch<'_>) -> Result<PassResult, RecordsError> {
        let Sinks { rows, mut exceptions, keys, scratch, .. } = self.sinks;
        exceptions.write_unmatched(self.job, &hand.worker.joined, &scratch)?;
        let (job, interrupted) = (self.job, watch.interrupted);
        // Keys and rows are sorted apart, so they are merged at the same time.
        let (written, duplicates) = std::thread::scope(|scope| {
            let find = |keys: KeyScan| find_repeats(job, keys, &scratch, interrupted);
            let finding = keys
                .map(|keys| Builder::new().name("keys".to_owned()).spawn_scoped(scope, move || find(keys)));
            let written = rows.finish(watch);
            let found = finding.map(|thread| {
                let thread = thread.map_err(|error| RecordsError::no_thread(&error))?;
                thread.join().map_err(|_| stopped("looks for repeated keys"))?
            });
            (written, found.transpose())
        });
        let (written, duplicates) = (written?, duplicates?);
        let counted = Counted {
            rows_read: input.rows_read(),
            sums_written: hand.rows.sums,
            written: vec![(Holds::Rows, written)],
            input: input.finish(),
        };
        PassResult::of(job, hand.worker, exceptions, counted, duplicates)
    }
}

/// The counts of a pass besides its workers: by who reads, and by who writes.
pub(super) struct Counted {
    pub(super) rows_read: u64,
    pub(super) input: Vec<SourceEnd>,
    /// The rows written, to one file or several.
    pub(super) written: Vec<(Holds, Written)>,
    pub(super) sums_written: Sums,
}

impl PassResult {
    /// What one worker counted, who has taken over what all others did, and the threads that read and wrote.
    pub(super) fn of(
        job: &Job,
        worker: Worker<'_>,
        exceptions: ExceptionSink<'_>,
        counted: Counted,
        duplicates: Option<FoundDuplicates>,
    ) -> Result<Self, RecordsError> {
        let Counted { rows_read, input, mut written, sums_written } = counted;
        let rows_written = written.iter().map(|(_, written)| written.rows).sum();
        let rows = RowCounts { read: rows_read, written: rows_written, ..worker.places.counts };
        let exception_rows_set_aside = exceptions.rows_set_aside();
        let unreadable_cells = exceptions.unreadable_cells();
        let (groups, exceptions_file) = exceptions.finish()?;
        written.push((Holds::Exceptions, exceptions_file));
        let readings = worker.cleaner.readings();
        let totals = worker.total_rows.find(job);
        let left_out = total_rows::left_out(job, &totals);
        let doubts = job
            .doubts
            .iter()
            .cloned()
            .chain(total_rows::doubts(job, &totals))
            .chain(rows_doubt(&rows, &groups))
            .chain(readings.iter().filter_map(|reading| reading.doubt.clone()))
            .collect();
        Ok(Self {
            rows,
            amounts: worker.amounts(&sums_written),
            doubts,
            tallies: worker.tallies,
            dates: readings.into_iter().map(|reading| column_dates(job, reading)).collect(),
            figures: worker.signs.finish(),
            added: worker.overview.finish(job),
            sample: worker.sample.finish(job),
            calendar_notes: worker.by_calendar.notes(job),
            compared: worker.compared.finish(job),
            joined: worker.joined,
            exceptions: groups,
            exception_rows_set_aside,
            unreadable_cells,
            behind_apostrophe: written.iter().map(|(_, written)| written.behind_apostrophe).sum(),
            input,
            written,
            duplicates,
            left_out,
        })
    }
}

pub(super) fn find_repeats(
    job: &Job,
    keys: KeyScan,
    scratch: &Path,
    interrupted: &AtomicBool,
) -> Result<FoundDuplicates, RecordsError> {
    let is_interrupted = || interrupted.load(Ordering::Relaxed);
    let check = || if is_interrupted() { Err(RecordsError::Interrupted) } else { Ok(()) };
    keys.find_repeats(job.key_setting(), scratch, &check)
}

impl Job {
    pub(super) fn key_setting(&self) -> KeySetting<'_> {
        KeySetting { layout: &self.setting.layout, duplicates: self.duplicates, amounts: &self.amounts }
    }
}

/// Where more than one row in a hundred, and at least three, is set aside: how many of how many, and why.
pub(super) fn rows_doubt(rows: &RowCounts, groups: &[ExceptionGroup]) -> Option<String> {
    // One row of many is not a doubt, and one of four is.
    let many = rows.set_aside >= 3 && rows.set_aside * 100 > rows.read;
    if !many && (rows.set_aside == 0 || rows.set_aside * 4 < rows.read) {
        return None;
    }
    let reasons: Vec<String> = groups
        .iter()
        .filter(|group| group.outcome == Became::RowSetAside.to_string())
        .map(|group| format!("{} {}", group.reason, group.count))
        .collect();
    Some(format!(
        "{} of {} {} set aside ({})",
        rows.set_aside,
        rows.read,
        if rows.read == 1 { "row was" } else { "rows were" },
        reasons.join(", ")
    ))
}

fn column_dates(job: &Job, reading: ColumnReadings) -> ColumnDates {
    let ColumnReadings { column, pattern, tally, .. } = reading;
    ColumnDates { column: job.name(column).to_owned(), pattern, tally }
}

/// The times of day after dates that were dropped.
pub(super) fn time_note(dates: &ColumnDates) -> Option<String> {
    let lost = dates.tally.time_dropped;
    let values = if lost == 1 { "value" } else { "values" };
    (lost > 0)
        .then(|| format!("{lost} {values} of \"{}\" lost a time of day other than midnight", dates.column))
}
