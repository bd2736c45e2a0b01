//! A worker on pieces of the records, one after the other.

use super::part_job::PartJob;
use super::told::{PartCounts, Told};
use crate::columns::put_order_key;
use crate::error::RecordsError;
use crate::files::changed;
use crate::handover::{Counts, Saving};
use crate::keys::MadeKeys;
use crate::run::ReadSoFar;
use crate::run::job::Job;
use crate::run::sums::Sums;
use crate::run::worker::{Work, Worked, Worker};
use crate::sorting::SortKey;
use crate::source::{Chunk, ChunkSize, Piece, Sources};
use crate::table::RowId;
use arrow_array::{LargeBinaryArray, RecordBatch};

/// Works on pieces, whose rows it gives on, and counts; [`PartedRun`](super::PartedRun) shows how.
pub struct PartWorker<'p> {
    part: &'p PartJob,
    worker: Option<Worker<'p>>,
    sums: Sums,
    /// The piece that is worked on, and rows of it that are still to come.
    piece: Option<(Sources, Piece, u64)>,
}

/// The rows of some that are after each other in the records.
#[derive(Debug)]
#[non_exhaustive]
pub struct PartRows {
    /// All of them with the columns of the output, those among them that are not written too.
    pub records: RecordBatch,
    /// The places of those that are written, in their order.
    pub written: Vec<usize>,
    /// For each of these what it is ordered by: bytes that order as the plan says, and rows that are alike by their place in the records.
    pub order: LargeBinaryArray,
    /// The keys of rows that can be used, where they are wanted; those of one key are alike.
    pub keys: LargeBinaryArray,
    /// For each key what is to be known of its row.
    pub payloads: LargeBinaryArray,
    /// Their report to [`PartedRun::finish`](super::PartedRun::finish).
    pub told: Vec<Vec<u8>>,
}

impl<'p> PartWorker<'p> {
    /// A worker that has counted nothing.
    #[must_use]
    pub fn new(part: &'p PartJob) -> Self {
        Self { part, worker: None, sums: Sums::new(part.bound.job.amounts.len()), piece: None }
    }

    /// Begins with a piece, once the one before is through.
    ///
    /// # Errors
    /// A file that cannot be read, or is not what it was when it was surveyed.
    pub fn begin(&mut self, piece: &Piece) -> Result<(), RecordsError> {
        let job = &self.part.bound.job;
        let mut sources = self.part.open_piece(piece)?;
        sources.with_chunks_of(ChunkSize::of_rows_with(job.setting.layout.columns.len()));
        let chunks = sources.chunk_reader();
        match &mut self.worker {
            Some(worker) => worker.read_by(chunks),
            none => *none = Some(Worker::new(job, chunks, self.part.keys)),
        }
        self.piece = Some((sources, piece.clone(), piece.rows));
        Ok(())
    }

    /// The next rows of the piece; none after its last one.
    ///
    /// # Errors
    /// A file that cannot be read or is not what it was when it was surveyed, a sum that is too large to hold, and what a plan refuses of rows.
    pub fn next_rows(&mut self) -> Result<Option<PartRows>, RecordsError> {
        let (Some((sources, piece, left)), Some(worker)) = (&mut self.piece, &mut self.worker) else {
            return Ok(None);
        };
        self.part.check_begun()?;
        let Some(chunk) = sources.next_chunk()? else {
            if *left > 0 {
                return Err(changed(self.part.path_of(piece)));
            }
            self.piece = None;
            return Ok(None);
        };
        let rows = chunk.numbers().count() as u64;
        *left = left.checked_sub(rows).ok_or_else(|| changed(self.part.path_of(piece)))?;
        let decisions = decisions_on(self.part, &chunk);
        let read = ReadSoFar { rows, bytes: 0, of_bytes: 0 };
        let job = &self.part.bound.job;
        let worked = worker.work(Work { chunk, decisions, read })?;
        self.sums.add_rows(job, &worked.table, &worked.written, &worked.origins)?;
        self.part.rows_of(job, worked).map(Some)
    }

    /// Its counts, for [`PartedRun::finish`](super::PartedRun::finish).
    ///
    /// # Errors
    /// [`RecordsError::Proof`] where it cannot be put into bytes.
    pub fn finish(self) -> Result<Vec<u8>, RecordsError> {
        let mut saving = Saving::default();
        if let Some(worker) = &self.worker {
            worker.save(&mut saving)?;
        }
        let counts = PartCounts { worker: saving.into_bytes(), sums: self.sums };
        Told::Counts(counts).to_bytes()
    }
}

/// What was decided of the rows of a chunk.
pub(super) fn decisions_on(part: &PartJob, chunk: &Chunk) -> Vec<(RowId, crate::keys::Decision)> {
    let mut ids = chunk.ids();
    let Some(first) = ids.next() else { return Vec::new() };
    let last = ids.last().unwrap_or(first);
    let from = part.decisions.partition_point(|(row, _)| *row < first);
    let of_chunk = part.decisions.iter().skip(from).take_while(|(row, _)| *row <= last);
    of_chunk.cloned().collect()
}

impl PartJob {
    fn rows_of(&self, job: &Job, worked: Worked) -> Result<PartRows, RecordsError> {
        let Worked { keys, table, written, origins, exceptions, .. } = worked;
        let failed = |error: arrow_schema::ArrowError| RecordsError::Proof { what: error.to_string() };
        let records = table.records(&self.bound.schema, &job.output).map_err(failed)?;
        let (mut key, mut order) = (SortKey::default(), Vec::with_capacity(written.len()));
        for row in &written {
            if self.is_ordered() {
                put_order_key(&mut key, &job.order_by, &table, *row);
            }
            let mut bytes = key.as_bytes().to_vec();
            bytes.extend_from_slice(&origins.of(*row).id().stored().to_be_bytes());
            order.push(bytes);
        }
        let MadeKeys { keys, payloads } = keys.unwrap_or_default();
        let told =
            if exceptions.is_empty() { Vec::new() } else { vec![Told::Exceptions(exceptions).to_bytes()?] };
        Ok(PartRows {
            records,
            written,
            order: LargeBinaryArray::from_iter_values(order),
            keys: LargeBinaryArray::from_iter_values(keys.iter()),
            payloads: LargeBinaryArray::from_iter_values(payloads.iter()),
            told,
        })
    }
}
