//! A CSV file cut into chunks of whole rows.

use super::cut::{Cut, Met, cut_by_rows, cut_plain};
use super::kind_of_file::{other_kind, other_separator};
use super::line_counter::LineCounter;
use super::row_buffer::RowBuffer;
use super::rows::CsvRows;
use super::scan::{RowScan, Scanned};
use crate::error::RecordsError;
use crate::source::file_bytes::FileBytes;
use crate::source::{Chunk, ChunkReader, ChunkSize, OwnFile, Reading, Source, SourceEnd};
use crate::table::Kept;
use std::fs::File;
use std::io::Read;
use std::path::{Path, PathBuf};

/// The longest row that is read, where no longer cell is allowed.
const LONGEST_ROW: usize = 64 << 20;
/// The most columns of a header.
const MOST_COLUMNS: usize = 16_384;

/// Finds where rows end, and looks no further into them than that.
pub(super) struct CsvChunks {
    path: PathBuf,
    source: usize,
    bytes: FileBytes,
    lines: LineCounter,
    /// How far the row that waits was looked at.
    scan: RowScan,
    header: Vec<String>,
    rows_read: u64,
    longest_cell: usize,
    size: ChunkSize,
    kept: Kept,
}

impl Source for CsvChunks {
    fn columns(&self) -> &[String] {
        &self.header
    }

    fn with_chunks_of(&mut self, size: ChunkSize) {
        self.size = size;
    }

    fn next_chunk(&mut self) -> Result<Option<Chunk>, RecordsError> {
        loop {
            self.bytes.fill_to(self.size.bytes)?;
            if self.bytes.waiting().is_empty() {
                return Ok(None);
            }
            let first_line = self.lines.line();
            let Some(cut) = self.cut()? else { continue };
            let bytes = self.bytes.waiting().get(..cut.bytes).unwrap_or_default().to_vec();
            self.bytes.take(cut.bytes);
            if cut.rows > 0 {
                let first_row = self.rows_read + 1;
                self.rows_read += cut.rows;
                return Ok(Some(Chunk { source: self.source, bytes, first_row, first_line, rows: cut.rows }));
            }
        }
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        Box::new(CsvRows::new(&self.path, &self.header, self.longest_cell, &self.kept))
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    fn bytes_read(&self) -> u64 {
        self.bytes.bytes_read()
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        self.bytes.finish(self.rows_read)
    }
}

impl CsvChunks {
    /// Opens a file of records, and reads its header; one of another kind is called what it is.
    pub(super) fn open(path: &Path, reading: Reading) -> Result<Self, RecordsError> {
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        let facts = file.metadata().map_err(RecordsError::file(path, "read it"))?;
        if facts.is_dir() {
            let folder = std::io::Error::from(std::io::ErrorKind::IsADirectory);
            return Err(RecordsError::file(path, "read it")(folder));
        }
        let mut chunks = Self::begin(path, Box::new(file), reading)?;
        if let Some((kind, help)) = other_kind(chunks.bytes.waiting()) {
            return Err(chunks.bytes.broken(1, format!("this is not CSV in UTF-8 but {kind}"), help));
        }
        chunks.read_header()?;
        if let Some((_, separators)) = other_separator(&chunks.header) {
            let what = format!("the cells of the header are separated by {separators}");
            return Err(chunks.bytes.broken(1, what, "save the file with commas between the cells"));
        }
        Ok(chunks)
    }

    /// Opens a file that this program wrote.
    pub(super) fn open_own(file: OwnFile) -> Result<Self, RecordsError> {
        let reading = Reading { source: 0, longest_cell: usize::MAX, hash: file.hash };
        let mut chunks = Self::begin(&file.path, file.input, reading)?;
        chunks.kept = file.kept;
        chunks.read_header()?;
        Ok(chunks)
    }

    fn begin(path: &Path, file: Box<dyn Read + Send>, reading: Reading) -> Result<Self, RecordsError> {
        Ok(Self {
            path: path.to_owned(),
            source: reading.source,
            bytes: FileBytes::begin(path, file, reading.hash)?,
            lines: LineCounter::at(1),
            scan: RowScan::new(),
            header: Vec::new(),
            rows_read: 0,
            longest_cell: reading.longest_cell,
            size: ChunkSize::of_rows_with(1),
            kept: Kept::All,
        })
    }

    /// Where the bytes that wait are cut; `None` where more of them are needed first, which wait then.
    fn cut(&mut self) -> Result<Option<Cut>, RecordsError> {
        let (waiting, is_whole) = (self.bytes.waiting(), self.bytes.is_at_end());
        let window = waiting.get(..self.size.bytes).unwrap_or(waiting);
        let ends_there = is_whole && window.len() == waiting.len();
        let plain = cut_plain(window, ends_there, self.size.rows, &mut self.lines);
        if plain.is_some() {
            return Ok(plain);
        }
        let most = (self.size.bytes, self.size.rows);
        match cut_by_rows(waiting, is_whole, most, &mut self.lines, &mut self.scan) {
            Met::Rows(cut) if cut.bytes > 0 => {
                self.scan = RowScan::new();
                return Ok(Some(cut));
            }
            Met::Rows(_) => {}
            Met::Unfinished { begins } => {
                let mut lines = self.lines.clone();
                lines.pass(&waiting[..begins]);
                let length = waiting.len() - begins;
                if is_whole {
                    return Err(self.open_quote(lines.line()));
                }
                self.check_row(lines.line(), length)?;
            }
        }
        self.bytes.fill()?;
        Ok(None)
    }

    fn read_header(&mut self) -> Result<(), RecordsError> {
        let mut row = RowBuffer::default();
        let line = loop {
            // Empty lines may stand before it.
            let waiting = self.bytes.waiting();
            let empty = waiting.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count();
            self.lines.pass(&waiting[..empty]);
            self.bytes.take(empty);
            let (waiting, is_whole) = (self.bytes.waiting(), self.bytes.is_at_end());
            let line = self.lines.line();
            match self.scan.scan(waiting, is_whole) {
                _ if waiting.is_empty() && is_whole => {
                    let help = "a header with the names of the columns was expected";
                    return Err(self.bytes.broken(1, "the file is empty", help));
                }
                Scanned::Broken { .. } => {
                    let what = "the header has a quote where none may stand";
                    return Err(self.bytes.broken(line, what, "quotes stand around a whole cell"));
                }
                Scanned::Row { length, with_end, quotes } => {
                    let longest = row.take(&waiting[..length], quotes, MOST_COLUMNS);
                    self.lines.pass(&waiting[..with_end]);
                    self.bytes.take(with_end);
                    if longest > self.longest_cell {
                        return Err(long_cell(&self.path, line, self.longest_cell));
                    }
                    break line;
                }
                Scanned::Unfinished if is_whole => return Err(self.open_quote(line)),
                Scanned::Unfinished => self.check_row(line, waiting.len())?,
            }
            self.bytes.fill()?;
        };
        self.scan = RowScan::new();
        if row.has_too_many() {
            let help = format!("at most {MOST_COLUMNS} columns are read");
            return Err(self.bytes.broken(line, "the header has too many columns", help));
        }
        let Some(names) = row.names() else {
            let what = "the header holds bytes that are not UTF-8";
            return Err(self.bytes.broken(line, what, "save the file as UTF-8"));
        };
        if names.iter().all(String::is_empty) {
            let help = "the names of the columns were expected";
            return Err(self.bytes.broken(line, "the header has no names", help));
        }
        self.header = names;
        Ok(())
    }

    fn open_quote(&self, line: u64) -> RecordsError {
        self.bytes.broken(
            line,
            "a quoted cell that begins in this row is never closed",
            "a closing \" was expected before the end of the file",
        )
    }

    /// A row that runs on and on is most often one with a quote that was never closed.
    fn check_row(&self, line: u64, length: usize) -> Result<(), RecordsError> {
        let longest_row = LONGEST_ROW.max(self.longest_cell);
        if self.scan.open_cell() > self.longest_cell {
            return Err(long_cell(&self.path, line, self.longest_cell));
        }
        if length > longest_row {
            return Err(too_long(&self.path, line, format!("this row is longer than {longest_row} bytes")));
        }
        Ok(())
    }
}

/// The error of a cell that is longer than one may be, as it stands in the file.
pub(super) fn long_cell(path: &Path, line: u64, longest: usize) -> RecordsError {
    too_long(path, line, format!("a cell that begins in this row is longer than {longest} bytes"))
}

fn too_long(path: &Path, line: u64, what: String) -> RecordsError {
    let help = "look for a quote that is never closed, or raise longest_cell under [records]".to_owned();
    RecordsError::BrokenFile { path: path.to_owned(), line, what, help }
}
