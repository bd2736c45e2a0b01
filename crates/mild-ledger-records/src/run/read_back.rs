//! The outputs read back from their files, after the writers.

use super::job::Job;
use super::outputs::{CurrencyIn, Holds, Output, Summed};
use super::{Watch, Writing};
use crate::error::RecordsError;
use crate::files::{FileFacts, Follower, Progress};
use crate::sink::SinkKind;
use crate::source::{Chunk, ChunkReader, OwnFile, Signs, SourceEnd, read_chunk};
use crate::table::{Kept, currency_of};
use mild_ledger::Decimal;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;
use std::fs::File;
use std::num::NonZeroUsize;
use std::path::{Path, PathBuf};
use std::sync::mpsc::sync_channel;
use std::thread::{Builder, JoinHandle};
use std::time::Duration;

/// What is in the output files.
pub(super) struct ReadBack {
    pub(super) files: Vec<FileReadBack>,
    pub(super) rows_set_aside: u64,
    /// The sums of each column of amounts of the job by currency; `None` where the output lacks the column.
    pub(super) sums: Vec<Option<SumsInOutput>>,
}

/// What the amounts of a column come to in an output.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(super) enum SumsInOutput {
    /// By currency; of a column without currencies by no name.
    ByCurrency(BTreeMap<String, Decimal>),
    /// Of all currencies, since the output does not name them: a check of the digits, and a sum of nothing.
    Together(Decimal),
}

/// What is in one of them.
pub(super) struct FileReadBack {
    pub(super) holds: Holds,
    pub(super) end: SourceEnd,
    /// Whether no one wrote to it between its writer and the end of the reading.
    pub(super) is_untouched: bool,
}

/// Readers of the outputs, each after its writer on a thread of its own.
pub(super) struct ReadBehind {
    files: Vec<Behind>,
}

struct Behind {
    holds: Holds,
    part: PathBuf,
    /// Where the file will be.
    place: PathBuf,
    progress: Progress,
    /// How the file was when its writer had closed it.
    closed: Option<FileFacts>,
    thread: Option<JoinHandle<Result<Found, RecordsError>>>,
}

/// What one reader found.
pub(super) struct Found {
    pub(super) end: SourceEnd,
    pub(super) sums: Vec<Option<SumsInOutput>>,
}

impl ReadBehind {
    /// Begins to read the files that are about to be written.
    pub(super) fn begin(
        job: &Job,
        writing: Writing<'_>,
        workers: NonZeroUsize,
    ) -> Result<Self, RecordsError> {
        let begin = |(nth, output): (usize, &Output)| -> Result<Behind, RecordsError> {
            let (part, place) = (writing.staging.part(nth).to_owned(), output.place.clone());
            let file = File::open(&part).map_err(RecordsError::file(&place, "read it back"))?;
            let progress = Progress::default();
            let summed = output.summed.clone();
            let own = OwnFile {
                path: part.clone(),
                kept: Kept::Only(summed.iter().flatten().flat_map(Summed::places).collect()),
                input: Box::new(Follower::new(file, progress.clone())),
                columns: output.columns.clone(),
                table: output.form.table().to_owned(),
                signs: Signs { separator: output.form.separator, ..Signs::default() },
                hash: job.reading.hash,
            };
            let read_from = place.clone();
            let thread = Builder::new().name("read back".to_owned());
            let readers = if output.holds == Holds::Rows { workers } else { NonZeroUsize::MIN };
            let thread = thread.spawn(move || read_all(&read_from, own, &summed, readers));
            let thread = thread.map_err(|error| RecordsError::no_thread(&error))?;
            Ok(Behind { holds: output.holds, part, place, progress, closed: None, thread: Some(thread) })
        };
        Ok(Self { files: writing.outputs.iter().enumerate().map(begin).collect::<Result<_, _>>()? })
    }

    /// What the writers tell their progress by.
    pub(super) fn progress(&self) -> Vec<Progress> {
        self.files.iter().map(|file| file.progress.clone()).collect()
    }

    /// That the writers have closed the files.
    pub(super) fn closed(&mut self) -> Result<(), RecordsError> {
        self.files.iter_mut().try_for_each(|file| {
            file.closed = Some(file.facts()?);
            Ok(())
        })
    }

    /// Waits until the finished files are read to their ends.
    pub(super) fn finish(self, rows_set_aside: u64, watch: Watch<'_>) -> Result<ReadBack, RecordsError> {
        self.progress().iter().for_each(Progress::finished);
        let (mut files, mut sums) = (Vec::new(), Vec::new());
        for mut file in self.files {
            let found = file.found(watch)?;
            let is_untouched = file.closed.as_ref() == Some(&file.facts()?);
            files.push(FileReadBack { holds: file.holds, end: found.end, is_untouched });
            if file.holds == Holds::Rows {
                sums = found.sums;
            }
        }
        Ok(ReadBack { files, rows_set_aside, sums })
    }
}

impl Behind {
    fn facts(&self) -> Result<FileFacts, RecordsError> {
        let facts = std::fs::metadata(&self.part).map_err(RecordsError::file(&self.place, "read it back"))?;
        Ok(FileFacts::of(&facts))
    }

    fn found(&mut self, watch: Watch<'_>) -> Result<Found, RecordsError> {
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

/// Reads an output back in the format in which it is written, and adds up its amounts from their texts; by that many, each of whom
/// reads some of it.
pub(super) fn read_all(
    place: &Path,
    own: OwnFile,
    summed: &[Option<Summed>],
    readers: NonZeroUsize,
) -> Result<Found, RecordsError> {
    let mut source = SinkKind::of(place).read_back().open_own(own)?;
    let mut all = SumsReadBack::new(summed, source.chunk_reader());
    std::thread::scope(|scope| {
        let (mut inboxes, mut at_work) = (Vec::new(), Vec::new());
        for _ in 1..readers.get() {
            let (inbox, waiting) = sync_channel::<Chunk>(WAITING);
            let mut sums = SumsReadBack::new(summed, source.chunk_reader());
            let read = move || waiting.iter().try_for_each(|chunk| sums.add(&chunk)).map(|()| sums.sums);
            // Where the system gives no more threads, this one reads.
            let Ok(thread) = Builder::new().name("read back".to_owned()).spawn_scoped(scope, read) else {
                break;
            };
            at_work.push(thread);
            inboxes.push(inbox);
        }
        // Every other chunk, or so, goes to each of the others, and one to this one.
        let mut turns = (0..=inboxes.len()).cycle();
        while let (Some(chunk), Some(turn)) = (source.next_chunk()?, turns.next()) {
            match inboxes.get(turn) {
                // A worker with an error takes no more rows, and reports it below.
                Some(inbox) => inbox.send(chunk).unwrap_or_default(),
                None => all.add(&chunk)?,
            }
        }
        drop(inboxes);
        for thread in at_work {
            let sums = thread.join().map_err(|_| stopped())?;
            all.merge(&sums?)?;
        }
        Ok::<_, RecordsError>(())
    })?;
    Ok(Found { end: source.finish(), sums: all.sums })
}

/// Chunks that wait at most for their reader.
const WAITING: usize = 3;

fn stopped() -> RecordsError {
    RecordsError::Proof { what: "a thread that reads back stopped".to_owned() }
}

/// The sums of the amounts of an output, from their texts.
struct SumsReadBack<'s> {
    summed: &'s [Option<Summed>],
    chunks: Box<dyn ChunkReader>,
    sums: Vec<Option<SumsInOutput>>,
}

impl SumsInOutput {
    fn of(column: &Summed) -> Self {
        match column.currency {
            CurrencyIn::NotWritten => Self::Together(column.scale.amount(0)),
            CurrencyIn::None | CurrencyIn::Place(_) => Self::ByCurrency(BTreeMap::new()),
        }
    }

    fn add(&mut self, column: &Summed, currency: &str, amount: Decimal) -> Result<(), RecordsError> {
        let sum = match self {
            Self::Together(sum) => sum,
            Self::ByCurrency(sums) => match sums.get_mut(currency) {
                Some(sum) => sum,
                None => sums.entry(currency.to_owned()).or_insert(column.scale.amount(0)),
            },
        };
        *sum = sum.checked_add(amount).ok_or_else(|| RecordsError::too_large_in_all(&column.name))?;
        Ok(())
    }
}

impl SumsInOutput {
    /// Takes over the sums of another part of the same column.
    pub(super) fn add_all(&mut self, column: &Summed, others: &Self) -> Result<(), RecordsError> {
        match others {
            Self::Together(amount) => self.add(column, "", *amount),
            Self::ByCurrency(others) => {
                others.iter().try_for_each(|(currency, amount)| self.add(column, currency, *amount))
            }
        }
    }
}

impl<'s> SumsReadBack<'s> {
    fn new(summed: &'s [Option<Summed>], chunks: Box<dyn ChunkReader>) -> Self {
        let sums = summed.iter().map(|column| column.as_ref().map(SumsInOutput::of)).collect();
        Self { summed, chunks, sums }
    }

    fn add(&mut self, chunk: &Chunk) -> Result<(), RecordsError> {
        let batch = read_chunk(self.chunks.as_mut(), chunk)?;
        for (sum, column) in self.sums.iter_mut().zip(self.summed) {
            let (Some(sums), Some(column)) = (sum.as_mut(), column) else { continue };
            // Of a column without currencies one sum is made of the batch.
            let mut together: Option<Decimal> = None;
            for row in 0..batch.rows() {
                let text = batch.text(column.place, row);
                if text.is_empty() {
                    continue;
                }
                let amount = column.notation.read(text, column.scale);
                let amount = amount.map_err(|error| RecordsError::Proof { what: error.to_string() })?;
                match column.currency {
                    CurrencyIn::Place(place) => {
                        sums.add(column, &currency_of(batch.text(place, row)), amount)?;
                    }
                    CurrencyIn::None | CurrencyIn::NotWritten => {
                        let sum = together.unwrap_or(column.scale.amount(0)).checked_add(amount);
                        together = Some(sum.ok_or_else(|| RecordsError::too_large_in_all(&column.name))?);
                    }
                }
            }
            if let Some(sum) = together {
                sums.add(column, "", sum)?;
            }
        }
        Ok(())
    }

    /// Takes over the sums of another part of the output.
    fn merge(&mut self, others: &[Option<SumsInOutput>]) -> Result<(), RecordsError> {
        for ((sums, others), column) in self.sums.iter_mut().zip(others).zip(self.summed) {
            let (Some(sums), Some(others), Some(column)) = (sums.as_mut(), others, column) else { continue };
            sums.add_all(column, others)?;
        }
        Ok(())
    }
}
