//! The outputs read back from their files, behind the writers.

use super::Watch;
use super::job::Job;
use crate::error::RecordsError;
use crate::files::{FileFacts, Follower, Progress, Staging};
use crate::sink::SinkKind;
use crate::source::{OwnFile, SourceEnd};
use crate::table::Kept;
use mild_ledger::{Decimal, Scale};
use std::fs::File;
use std::path::{Path, PathBuf};
use std::thread::JoinHandle;
use std::time::Duration;

/// What stands in the output files.
pub(super) struct ReadBack {
    /// The file of rows and that of exceptions.
    pub(super) files: [SourceEnd; 2],
    /// Whether nobody wrote to them between their writer and the end of the reading.
    pub(super) is_untouched: [bool; 2],
    pub(super) rows_set_aside: u64,
    /// One sum for each column of amounts of the job; `None` where the output lacks the column.
    pub(super) sums: Vec<Option<Decimal>>,
}

/// Readers of the outputs, each behind its writer on a thread of its own.
pub(super) struct ReadBehind {
    rows: Behind,
    exceptions: Behind,
    /// How the files stood when their writers had closed them.
    closed: Option<[FileFacts; 2]>,
}

struct Behind {
    part: PathBuf,
    /// Where the file will stand.
    place: PathBuf,
    progress: Progress,
    thread: Option<JoinHandle<Result<Found, RecordsError>>>,
}

/// What one reader found.
struct Found {
    end: SourceEnd,
    sums: Vec<Option<Decimal>>,
}

/// A column of amounts in an output: its place among the columns, and its name.
struct Summed {
    place: usize,
    scale: Scale,
    name: String,
}

impl ReadBehind {
    /// Begins to read the files that are about to be written.
    pub(super) fn begin(job: &Job, staging: &Staging, columns: [&[&str]; 2]) -> Result<Self, RecordsError> {
        let summed = |column: &usize| {
            let place = job.output.iter().position(|written| written == column)?;
            Some(Summed { place, scale: job.scale(*column)?, name: job.name(*column).to_owned() })
        };
        let sums: Vec<Option<Summed>> = job.amounts.iter().map(summed).collect();
        let [rows, exceptions] = columns;
        let begin =
            |nth: usize, columns: &[&str], sums: Vec<Option<Summed>>| -> Result<Behind, RecordsError> {
                let (part, place) = (staging.part(nth).to_owned(), staging.place(nth).to_owned());
                let file = File::open(&part).map_err(RecordsError::file(&place, "read it back"))?;
                let (progress, placed) = (Progress::default(), place.clone());
                let kept = sums.iter().flatten().map(|summed| summed.place);
                let own = OwnFile {
                    path: part.clone(),
                    kept: Kept::Only(kept.collect()),
                    input: Box::new(Follower::new(file, progress.clone())),
                    columns: columns.iter().map(|name| (*name).to_owned()).collect(),
                    hash: job.reading.hash,
                };
                let thread = std::thread::Builder::new().name("read back".to_owned());
                let thread = thread.spawn(move || read_all(&place, own, &sums));
                let thread = thread.map_err(|error| RecordsError::no_thread(&error))?;
                Ok(Behind { part, place: placed, progress, thread: Some(thread) })
            };
        let (rows, exceptions) = (begin(0, rows, sums)?, begin(1, exceptions, Vec::new())?);
        Ok(Self { rows, exceptions, closed: None })
    }

    /// What the writers tell their progress by.
    pub(super) fn progress(&self) -> [Progress; 2] {
        [self.rows.progress.clone(), self.exceptions.progress.clone()]
    }

    /// That the writers have closed the files.
    pub(super) fn closed(&mut self) -> Result<(), RecordsError> {
        self.closed = Some([self.rows.facts()?, self.exceptions.facts()?]);
        Ok(())
    }

    /// Waits until the finished files are read to their ends.
    pub(super) fn finish(mut self, rows_set_aside: u64, watch: Watch<'_>) -> Result<ReadBack, RecordsError> {
        self.progress().iter().for_each(Progress::finished);
        let (rows, exceptions) = (self.rows.found(watch)?, self.exceptions.found(watch)?);
        let now = [self.rows.facts()?, self.exceptions.facts()?];
        let is_as_closed = |nth: usize| self.closed.as_ref().is_some_and(|closed| closed[nth] == now[nth]);
        Ok(ReadBack {
            files: [rows.end, exceptions.end],
            is_untouched: [is_as_closed(0), is_as_closed(1)],
            rows_set_aside,
            sums: rows.sums,
        })
    }
}

impl Behind {
    fn facts(&self) -> Result<FileFacts, RecordsError> {
        let facts = std::fs::metadata(&self.part).map_err(RecordsError::file(&self.place, "read it back"))?;
        Ok(FileFacts::of(&facts))
    }

    fn found(&mut self, watch: Watch<'_>) -> Result<Found, RecordsError> {
        let stopped = || RecordsError::Proof { what: "the thread that reads back stopped".to_owned() };
        let thread = self.thread.take().ok_or_else(stopped)?;
        while !thread.is_finished() {
            if let Err(error) = watch.check() {
                self.progress.given_up();
                let _ = thread.join();
                return Err(error);
            }
            std::thread::sleep(Duration::from_millis(2));
        }
        thread.join().map_err(|_| stopped())?
    }
}

impl Drop for Behind {
    /// A file that is not wanted is let go of before it is cleared away.
    fn drop(&mut self) {
        if let Some(thread) = self.thread.take() {
            self.progress.given_up();
            let _ = thread.join();
        }
    }
}

/// Reads an output back in the format in which it is written, and adds up its amounts from their texts.
fn read_all(place: &Path, own: OwnFile, summed: &[Option<Summed>]) -> Result<Found, RecordsError> {
    let mut reader = SinkKind::of(place).read_back().open_own(own)?;
    let mut sums: Vec<Option<Decimal>> =
        summed.iter().map(|column| Some(column.as_ref()?.scale.amount(0))).collect();
    while let Some(batch) = reader.next_batch()? {
        for (sum, column) in sums.iter_mut().zip(summed) {
            let (Some(total), Some(Summed { place, scale, name })) = (sum.as_mut(), column) else { continue };
            let texts = (0..batch.rows()).map(|row| batch.text(*place, row));
            for text in texts.filter(|text| !text.is_empty()) {
                let amount =
                    scale.read(text).map_err(|error| RecordsError::Proof { what: error.to_string() })?;
                let sum = total.checked_add(amount);
                *total = sum.ok_or_else(|| RecordsError::too_large_in_all(name))?;
            }
        }
    }
    Ok(Found { end: reader.finish(), sums })
}
