//! What parts told, put together.

use super::part_job::PartJob;
use super::told::{PartCounts, Told, WrittenPart};
use crate::error::RecordsError;
use crate::handover::{Counts, Saved};
use crate::keys::{KeyScan, row_of};
use crate::run::exceptions_file::ExceptionSink;
use crate::run::job::Job;
use crate::run::outputs::Output;
use crate::run::read_back::SumsInOutput;
use crate::run::sums::Sums;
use crate::run::worker::{KeysWanted, Worker};
use crate::sorting::Sorter;
use crate::source::Sources;
use crate::stored_bytes::take_with_length;
use crate::table::Exception;
use std::io;
use std::path::{Path, PathBuf};

/// What parts told, as far as it was put together.
pub(super) struct Together<'j> {
    pub(super) worker: Worker<'j>,
    pub(super) sums: Sums,
    /// By the rows that they are of.
    pub(super) exceptions: Sorter,
    pub(super) files: Vec<WrittenPart>,
    keys: KeysWanted,
    folder: PathBuf,
}

impl<'j> Together<'j> {
    pub(super) fn new(job: &'j Job, part: &PartJob, scratch: &Path) -> Result<Self, RecordsError> {
        Ok(Self {
            worker: counting(job, part.keys)?,
            sums: Sums::new(job.amounts.len()),
            exceptions: Sorter::new(scratch),
            files: Vec::new(),
            keys: part.keys,
            folder: part.folder.clone(),
        })
    }

    pub(super) fn take(&mut self, job: &'j Job, told: Told) -> Result<(), RecordsError> {
        match told {
            Told::File(file) => self.files.push(file),
            Told::Exceptions(exceptions) => {
                let Some(first) = exceptions.iter().map(|exception| exception.origin.id()).min() else {
                    return Ok(());
                };
                let bytes = Told::Exceptions(exceptions).to_bytes()?;
                let pushed = self.exceptions.push(&first.stored().to_be_bytes(), &bytes);
                pushed.map_err(RecordsError::file(&self.folder, "sort the exceptions there"))?;
            }
            Told::Counts(PartCounts { worker, sums }) => {
                self.sums.merge(job, &sums)?;
                // One to whom no piece fell counted nothing.
                if !worker.is_empty() {
                    let mut other = counting(job, self.keys)?;
                    other.restore(&mut Saved::new(&worker))?;
                    self.worker.merge(other)?;
                }
            }
        }
        Ok(())
    }

    /// Removes the files of rows, which are written once more.
    pub(super) fn clear_files(&self) -> Result<(), RecordsError> {
        for file in &self.files {
            std::fs::remove_file(&file.path).map_err(RecordsError::file(&file.path, "clear it away"))?;
        }
        Ok(())
    }
}

/// The keys that several rows have, heard of in whatever order.
pub(super) struct RepeatedKeys {
    scratch: PathBuf,
    /// By their rows.
    sorter: Sorter,
}

impl RepeatedKeys {
    pub(super) fn new(scratch: &Path) -> Self {
        Self { scratch: scratch.to_owned(), sorter: Sorter::new(scratch) }
    }

    pub(super) fn take(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        let mut both = (key.len() as u64).to_le_bytes().to_vec();
        both.extend_from_slice(key);
        both.extend_from_slice(payload);
        self.sorter.push(&row_of(payload)?.stored().to_be_bytes(), &both)
    }

    /// The keys in the order of the rows, as who looks at what repeats wants them.
    pub(super) fn in_order(self) -> io::Result<KeyScan> {
        let mut keys = KeyScan::new(&self.scratch);
        let mut merge = self.sorter.finish()?;
        while let Some((_, both)) = merge.next()? {
            let mut payload = both;
            let key = take_with_length(&mut payload)?;
            keys.add_one(key, payload)?;
        }
        Ok(keys)
    }
}

/// A worker that counts and reads nothing.
fn counting(job: &Job, keys: KeysWanted) -> Result<Worker<'_>, RecordsError> {
    Ok(Worker::new(job, Sources::nothing().chunk_reader(), keys))
}

/// Writes the exceptions of chunks in the order of their rows.
pub(super) fn write_in_order(
    exceptions: Sorter,
    scratch: &Path,
    sink: &mut ExceptionSink<'_>,
) -> Result<(), RecordsError> {
    let failed = || RecordsError::file(scratch, "sort the exceptions there");
    let mut merge = exceptions.finish().map_err(failed())?;
    while let Some((_, bytes)) = merge.next().map_err(failed())? {
        if let Told::Exceptions(exceptions) = Told::of_bytes(bytes)? {
            let exceptions: Vec<Exception> = exceptions;
            sink.write_batch(exceptions)?;
        }
    }
    Ok(())
}

/// The sums of the columns of amounts in all files of rows together.
pub(super) fn sums_of(
    rows: &Output,
    files: &[(Output, WrittenPart)],
) -> Result<Vec<Option<SumsInOutput>>, RecordsError> {
    let mut all = Vec::new();
    for (_, WrittenPart { sums: of_file, .. }) in files {
        if all.is_empty() {
            all.clone_from(of_file);
            continue;
        }
        for ((sums, more), column) in all.iter_mut().zip(of_file).zip(&rows.summed) {
            let (Some(sums), Some(more), Some(column)) = (sums, more, column) else { continue };
            SumsInOutput::add_all(sums, column, more)?;
        }
    }
    Ok(all)
}
