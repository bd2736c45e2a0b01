//! A file of text, whatever its format, cut into chunks of whole rows.

use super::file_bytes::FileBytes;
use super::{Chunk, ChunkReader, ChunkSize, Piece, PiecePlace, Reading, Source, SourceEnd, Survey};
use crate::error::RecordsError;
use crate::table::Kept;
use std::io::{Seek, SeekFrom};
use std::path::Path;
use std::sync::Arc;

/// Where bytes are cut: after so many of them, which hold a number of rows, broken ones among them.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(super) struct Cut {
    pub(super) bytes: usize,
    pub(super) rows: u64,
}

/// Finds where the rows of a format end, and looks no further into them than that.
pub(super) trait Cutter: Send {
    /// The line that the bytes begin with which wait to be cut.
    fn line(&self) -> u64;

    /// The last cut within the bytes that wait, with no more before it than a chunk may hold; where there is none, more of them
    /// are needed.
    fn cut(&mut self, bytes: &FileBytes, most: ChunkSize) -> Result<Option<Cut>, RecordsError>;

    /// Who tells the cells of its rows apart.
    fn chunk_reader(&self, columns: &Arc<[String]>, kept: &Kept) -> Box<dyn ChunkReader>;
}

/// A file of text, cut by its format.
pub(super) struct TextSource<C> {
    /// The number of the file among the files of records.
    source: usize,
    pub(super) bytes: FileBytes,
    pub(super) cutter: C,
    columns: Arc<[String]>,
    kept: Kept,
    size: ChunkSize,
    rows_read: u64,
    /// Bytes of the text after which nothing is taken, though what is there may be looked at: whether a row is broken may be seen only after
    /// its end.
    until: Option<u64>,
}

impl<C: Cutter> TextSource<C> {
    /// The rows after the bytes that were taken already, such as a header.
    pub(super) fn new(source: usize, bytes: FileBytes, cutter: C, columns: Vec<String>, kept: Kept) -> Self {
        let size = ChunkSize::of_rows_with(1);
        Self { source, bytes, cutter, columns: columns.into(), kept, size, rows_read: 0, until: None }
    }

    /// The rows of a piece of a file, cut where the first line is known.
    pub(super) fn of_piece(
        path: &Path,
        reading: &Reading,
        ((from, length), first_row): ((u64, u64), u64),
        (cutter, columns): (C, Vec<String>),
    ) -> Result<Self, RecordsError> {
        let mut file = reading.opened(path)?;
        file.seek(SeekFrom::Start(from)).map_err(RecordsError::file(path, "read it"))?;
        let bytes = FileBytes::within(path, Box::new(file));
        let whole = Self::new(reading.source, bytes, cutter, columns, Kept::All);
        Ok(Self { rows_read: first_row.saturating_sub(1), until: Some(length), ..whole })
    }
}

impl<C: Cutter> Source for TextSource<C> {
    fn columns(&self) -> &[String] {
        &self.columns
    }

    fn with_chunks_of(&mut self, size: ChunkSize) {
        self.size = size;
    }

    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        loop {
            let left = self.until.map_or(u64::MAX, |until| until.saturating_sub(self.bytes.taken()));
            let most = usize::try_from(left).unwrap_or(usize::MAX).min(self.size.bytes);
            self.bytes.fill_to(most)?;
            if most == 0 || self.bytes.waiting().is_empty() {
                return Ok(None);
            }
            let first_line = self.cutter.line();
            let Some(cut) = self.cutter.cut(&self.bytes, ChunkSize { bytes: most, ..self.size })? else {
                self.bytes.fill()?;
                continue;
            };
            let bytes = self.bytes.waiting().get(..cut.bytes).unwrap_or_default().to_vec();
            self.bytes.take(cut.bytes);
            // Lines of nothing alone are not a chunk.
            if cut.rows > 0 {
                let first_row = self.rows_read + 1;
                self.rows_read += cut.rows;
                return Ok(Some(Chunk { source: self.source, bytes, first_row, first_line, rows: cut.rows }));
            }
        }
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        self.cutter.chunk_reader(&self.columns, &self.kept)
    }

    fn said(&self) -> &[String] {
        self.bytes.said()
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    fn bytes_read(&self) -> u64 {
        self.bytes.bytes_read()
    }

    fn park(&mut self) {
        self.bytes.park();
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        self.bytes.finish(self.rows_read).0
    }

    fn survey(mut self: Box<Self>, bytes: usize) -> Result<Option<Survey>, RecordsError> {
        self.size = ChunkSize { bytes, rows: u64::MAX };
        let source = self.source;
        let mut pieces = Vec::new();
        while let Some(chunk) = self.next_chunk()? {
            let length = chunk.bytes.len() as u64;
            let from = self.bytes.taken().saturating_sub(length);
            let place = PiecePlace::Bytes { from, length, first_line: chunk.first_line };
            pieces.push(Piece { source, first_row: chunk.first_row, rows: chunk.rows, place });
        }
        if !self.bytes.is_as_it_stands() {
            pieces = vec![Piece { source, first_row: 1, rows: self.rows_read, place: PiecePlace::WholeFile }];
        }
        let (end, blocks) = self.bytes.finish(self.rows_read);
        Ok(Some(Survey { pieces, end, blocks }))
    }
}
