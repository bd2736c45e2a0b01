//! How figures come about that people may open.

use super::part_job::PartJob;
use super::part_worker::decisions_on;
use crate::columns::Figures;
use crate::error::RecordsError;
use crate::run::ReadSoFar;
use crate::run::worker::{KeysWanted, Work, Worker};
use crate::source::{ChunkSize, Piece};

/// Finds out how the figures come about that people may open, of which the workers that counted tell the rows alone: the chunks that hold these are worked
/// on once more.
pub(super) fn open_figures(
    part: &PartJob,
    pieces: &[Piece],
    worker: &mut Worker<'_>,
) -> Result<(), RecordsError> {
    let job = &part.bound.job;
    if job.figures != Figures::Opened {
        return Ok(());
    }
    let rows = worker.overview.rows_shown();
    for piece in pieces {
        let is_in = |from: u64, rows_of: u64| {
            rows.iter().any(|row| row.source() == piece.source && (from..from + rows_of).contains(&row.row()))
        };
        if !is_in(piece.first_row, piece.rows) {
            continue;
        }
        let mut sources = part.open_piece(piece)?;
        sources.with_chunks_of(ChunkSize::of_rows_with(job.setting.layout.columns.len()));
        while let Some(chunk) = sources.next_chunk()? {
            let numbers = chunk.numbers();
            if is_in(numbers.start, numbers.end - numbers.start) {
                let mut again = Worker::new(job, sources.chunk_reader(), KeysWanted::No);
                let decisions = decisions_on(part, &chunk);
                again.work(Work { chunk, decisions, read: ReadSoFar { rows: 0, bytes: 0, of_bytes: 0 } })?;
                worker.overview.take_workings(again.overview);
            }
        }
    }
    Ok(())
}
