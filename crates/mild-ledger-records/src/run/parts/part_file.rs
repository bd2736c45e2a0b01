//! A file of some of the rows, written by whoever has them, and read back.

use super::part_job::PartJob;
use super::told::{Told, WrittenPart};
use crate::error::RecordsError;
use crate::files::{FileFacts, Progress};
use crate::run::outputs::{Output, OutputSink, Summed};
use crate::run::read_back::read_all;
use crate::sink::{RowBytes, SinkKind};
use crate::source::{OwnFile, Signs};
use crate::table::Kept;
use arrow_array::RecordBatch;
use std::fs::{File, OpenOptions};
use std::num::NonZeroUsize;
use std::path::PathBuf;
use std::sync::Arc;

/// A file of rows while it is written, in the folder that the run keeps for such files; [`PartedRun`](super::PartedRun) shows how.
pub struct PartFile {
    part: Arc<PartJob>,
    number: u64,
    output: Output,
    sink: OutputSink,
    made: RowBytes,
}

impl PartFile {
    /// Begins a file: the place of its rows among those of all files, and a name that no other attempt at the same rows has.
    ///
    /// # Errors
    /// [`RecordsError::File`] where it cannot be written there.
    pub fn create(part: &Arc<PartJob>, number: u64, attempt: &str) -> Result<Self, RecordsError> {
        let path = part.folder.join(format!("{number:05}-{attempt}.{}", ending(part)));
        let output = Output { place: path, ..part.bound.rows.clone() };
        let file = OpenOptions::new().create_new(true).write(true).open(&output.place);
        let file = file.map_err(RecordsError::file(&output.place, "write it"))?;
        let target = (file, output.place.as_path());
        let sink = OutputSink::begin(&output, target, &part.bound.schema, Progress::default())?;
        Ok(Self { part: Arc::clone(part), number, output, sink, made: RowBytes::default() })
    }

    /// Writes rows of a record batch with the columns of the output.
    ///
    /// # Errors
    /// [`RecordsError::File`] where they cannot be written.
    pub fn write(&mut self, records: &RecordBatch, rows: &[usize]) -> Result<(), RecordsError> {
        self.part.check_begun()?;
        self.made.rows.clear();
        self.made.behind_apostrophe = 0;
        let put = self.sink.form().put(records, rows, &mut self.made);
        put.map_err(|error| self.sink.failed(error))?;
        self.sink.write(&self.made)
    }

    /// Closes the file and reads it back; its report to [`PartedRun::finish`](super::PartedRun::finish).
    ///
    /// # Errors
    /// [`RecordsError::File`] where it cannot be written or read, [`RecordsError::Proof`] where another user wrote to it.
    pub fn finish(self) -> Result<Vec<u8>, RecordsError> {
        let Self { part, number, output, sink, .. } = self;
        let written = sink.finish()?;
        let path = &output.place;
        let failed = || RecordsError::file(path, "read it back");
        let facts = || std::fs::metadata(path).map(|facts| FileFacts::of(&facts)).map_err(failed());
        let before = facts()?;
        let own = OwnFile {
            path: path.clone(),
            input: Box::new(File::open(path).map_err(failed())?),
            columns: output.columns.clone(),
            signs: Signs { separator: output.form.separator, ..Signs::default() },
            table: output.form.table().to_owned(),
            kept: Kept::Only(output.summed.iter().flatten().flat_map(Summed::places).collect()),
            hash: part.bound.job.reading.hash,
        };
        let found = read_all(path, own, &output.summed, NonZeroUsize::MIN)?;
        if facts()? != before {
            let what = format!("{} changed after it was written", path.display());
            return Err(RecordsError::Proof { what });
        }
        let path = output.place;
        Told::File(WrittenPart { number, path, written, end: found.end, sums: found.sums }).to_bytes()
    }
}

/// How names of the files of rows end, without the dot: as the plan's own.
pub(super) fn ending(part: &PartJob) -> String {
    let place: &PathBuf = &part.bound.rows.place;
    let of_name = place.extension().map(|ending| ending.to_string_lossy().to_lowercase());
    of_name.unwrap_or_else(|| {
        SinkKind::of(place).read_back().endings.first().copied().unwrap_or("csv").to_owned()
    })
}
