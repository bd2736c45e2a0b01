//! Pieces of a file that hold whole rows, and who reads them.

use crate::error::RecordsError;
use crate::table::{Batch, RowId};

/// How much a chunk holds at most, but for its last row.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct ChunkSize {
    pub(crate) bytes: usize,
    pub(crate) rows: u64,
}

impl ChunkSize {
    /// For rows each of which becomes so many cells, so that what is listed of them stays bounded too.
    pub(crate) fn of_rows_with(cells: usize) -> Self {
        const BYTES: usize = 1 << 18;
        const CELLS: u64 = 1 << 16;
        const ROWS: u64 = 1 << 12;
        let cells = u64::try_from(cells).unwrap_or(u64::MAX).max(1);
        Self { bytes: BYTES, rows: (CELLS / cells).clamp(64, ROWS) }
    }
}

/// Bytes of a file that hold whole rows, with where they are.
#[derive(Debug, PartialEq, Eq)]
pub(crate) struct Chunk {
    /// The file, by its number among the files of records.
    pub(super) source: usize,
    pub(super) bytes: Vec<u8>,
    /// The number of its first row among the data rows of the file, from 1.
    pub(super) first_row: u64,
    /// The line of the file on which its bytes begin, from 1.
    pub(super) first_line: u64,
    /// Rows that it holds, broken ones among them, as who cut it counted them.
    pub(super) rows: u64,
}

impl Chunk {
    /// The numbers of its rows.
    pub(crate) fn numbers(&self) -> std::ops::Range<u64> {
        self.first_row..self.first_row + self.rows
    }

    /// Its rows among those of all files.
    pub(crate) fn ids(&self) -> impl Iterator<Item = RowId> + use<> {
        let source = self.source;
        self.numbers().map(move |row| RowId::new(source, row))
    }
}

/// Reads the chunks of a source, in any order. Several may do so at once, each with a reader of its own.
pub(crate) trait ChunkReader: Send {
    /// The rows of a chunk as columns of text; a broken row does not keep the next one from being read.
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError>;
}

/// The rows of a chunk, as many as were counted when it was cut.
pub(crate) fn read_chunk(reader: &mut dyn ChunkReader, chunk: &Chunk) -> Result<Batch, RecordsError> {
    let mut batch = reader.read(chunk)?;
    batch.origins.source = chunk.source;
    let found = batch.rows() as u64 + batch.broken.len() as u64;
    if found == chunk.rows {
        return Ok(batch);
    }
    let what = format!(
        "{} rows were cut from the file from line {} on, and {found} were read",
        chunk.rows, chunk.first_line
    );
    Err(RecordsError::Proof { what })
}
