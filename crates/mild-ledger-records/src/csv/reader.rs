//! A CSV file read in batches bounded in bytes.

use super::batch::{Batch, BrokenRow, RowFault};
use super::lines::LineCounter;
use crate::error::RecordsError;
use crate::files::{Checksum, Fingerprint, Hasher};
use csv_core::ReadRecordResult;
use std::fs::File;
use std::io::Read;
use std::path::{Path, PathBuf};

/// Bytes read from the file at a time.
const INPUT: usize = 256 << 10;
/// Text after which a batch is handed on.
const BATCH_BYTES: usize = 1 << 20;
/// Rows after which a batch is handed on, for files of very short rows.
const BATCH_ROWS: usize = 1 << 14;
/// The longest row that is read, where no longer cell is allowed.
const LONGEST_ROW: usize = 64 << 20;
/// The most columns of a header.
const MOST_COLUMNS: usize = 16_384;

/// Reads rows one after the other; a broken row does not keep the next one from being read.
#[derive(Debug)]
pub(crate) struct CsvReader {
    path: PathBuf,
    file: File,
    hasher: Hasher,
    checksum: Checksum,
    parser: csv_core::Reader,
    input: Vec<u8>,
    position: usize,
    filled: usize,
    at_end: bool,
    lines: LineCounter,
    row: RowBuffer,
    header: Vec<String>,
    rows_read: u64,
    longest_cell: usize,
}

/// The cells of one row as the parser writes them.
#[derive(Debug)]
struct RowBuffer {
    text: Vec<u8>,
    ends: Vec<usize>,
    used: usize,
    cells: usize,
    /// Cells counted and thrown away because the row has far too many.
    dropped: u64,
    /// What the row began with, kept when its cells are thrown away.
    dropped_beginning: Option<String>,
}

/// What came of asking for a row.
enum Next {
    Row { line: u64 },
    End,
}

impl CsvReader {
    /// Opens a file and reads its header.
    pub(crate) fn open(path: &Path, longest_cell: usize) -> Result<Self, RecordsError> {
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        let facts = file.metadata().map_err(RecordsError::file(path, "read it"))?;
        if facts.is_dir() {
            let folder = std::io::Error::from(std::io::ErrorKind::IsADirectory);
            return Err(RecordsError::file(path, "read it")(folder));
        }
        let mut reader = Self {
            path: path.to_owned(),
            file,
            hasher: Hasher::default(),
            checksum: Checksum::default(),
            parser: csv_core::Reader::new(),
            input: vec![0; INPUT],
            position: 0,
            filled: 0,
            at_end: false,
            lines: LineCounter::new(),
            row: RowBuffer::new(MOST_COLUMNS + 1),
            header: Vec::new(),
            rows_read: 0,
            longest_cell,
        };
        reader.skip_byte_order_mark()?;
        reader.read_header()?;
        Ok(reader)
    }

    /// The names of the columns, without spaces around them.
    pub(crate) fn header(&self) -> &[String] {
        &self.header
    }

    /// Data rows met so far, broken ones counted.
    pub(crate) fn rows_read(&self) -> u64 {
        self.rows_read
    }

    /// Bytes of the file read so far.
    pub(crate) fn bytes_read(&self) -> u64 {
        self.hasher.bytes()
    }

    /// The quick sum of all that was read.
    pub(crate) fn checksum(&self) -> u64 {
        self.checksum.finish()
    }

    /// What all that was read hashes to.
    pub(crate) fn into_fingerprint(self) -> Fingerprint {
        self.hasher.finish()
    }

    /// Fills a batch anew; an empty one means the end of the file.
    pub(crate) fn read_batch(&mut self, batch: &mut Batch) -> Result<(), RecordsError> {
        batch.clear();
        while batch.bytes < BATCH_BYTES && batch.rows_of_file() < BATCH_ROWS {
            let Next::Row { line } = self.next_row()? else { break };
            self.rows_read += 1;
            self.take_row(line, batch);
        }
        Ok(())
    }

    fn broken(&self, line: u64, what: impl Into<String>, help: impl Into<String>) -> RecordsError {
        RecordsError::BrokenFile { path: self.path.clone(), line, what: what.into(), help: help.into() }
    }

    fn take_row(&self, line: u64, batch: &mut Batch) {
        let expected = self.header.len() as u64;
        let found = self.row.cells as u64 + self.row.dropped;
        let fault = match self.row.as_text() {
            _ if found > expected => RowFault::TooManyCells { found, expected },
            _ if found < expected => RowFault::TooFewCells { found, expected },
            None => RowFault::NotUtf8,
            Some(_) if self.row.repeats(&self.header) => RowFault::HeaderAgain,
            Some(text) => {
                for (column, (start, end)) in batch.columns.iter_mut().zip(self.row.bounds()) {
                    column.push(&text[start..end]);
                }
                batch.bytes += text.len() + 4 * self.row.cells;
                batch.numbers.push(self.rows_read);
                batch.lines.push(line);
                return;
            }
        };
        batch.broken.push(BrokenRow { number: self.rows_read, line, fault, beginning: self.row.beginning() });
        batch.bytes += 64;
    }

    fn skip_byte_order_mark(&mut self) -> Result<(), RecordsError> {
        while self.filled < 3 && !self.at_end {
            let read = self.fill_at(self.filled)?;
            self.filled += read;
        }
        let start = &self.input[..self.filled];
        if start.starts_with(b"\xff\xfe") || start.starts_with(b"\xfe\xff") {
            return Err(self.broken(1, "the text is UTF-16", "save the file as UTF-8"));
        }
        if start.starts_with(b"\xef\xbb\xbf") {
            self.position = 3;
        }
        Ok(())
    }

    fn read_header(&mut self) -> Result<(), RecordsError> {
        let Next::Row { line } = self.next_row()? else {
            return Err(self.broken(
                1,
                "the file is empty",
                "a header with the names of the columns was expected",
            ));
        };
        if self.row.dropped > 0 {
            let help = format!("at most {MOST_COLUMNS} columns are read");
            return Err(self.broken(line, "the header has too many columns", help));
        }
        let Some(text) = self.row.as_text() else {
            return Err(self.broken(
                line,
                "the header holds bytes that are not UTF-8",
                "save the file as UTF-8",
            ));
        };
        self.header = self.row.bounds().map(|(start, end)| text[start..end].trim().to_owned()).collect();
        if self.header.iter().all(String::is_empty) {
            return Err(self.broken(
                line,
                "the header has no names",
                "the names of the columns were expected",
            ));
        }
        self.row = RowBuffer::new(self.header.len() + 64);
        Ok(())
    }

    /// Reads bytes into the input from a position on; none means the end of the file.
    fn fill_at(&mut self, position: usize) -> Result<usize, RecordsError> {
        loop {
            match self.file.read(&mut self.input[position..]) {
                Ok(read) => {
                    self.hasher.update(&self.input[position..position + read]);
                    self.checksum.update(&self.input[position..position + read]);
                    self.at_end = read == 0;
                    return Ok(read);
                }
                Err(error) if error.kind() == std::io::ErrorKind::Interrupted => {}
                Err(error) => return Err(RecordsError::file(&self.path, "read it")(error)),
            }
        }
    }

    /// Skips the line ends before a row, so that the row's own first line is known.
    fn skip_line_ends(&mut self) -> Result<(), RecordsError> {
        loop {
            let waiting = &self.input[self.position..self.filled];
            let skipped = waiting.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count();
            self.lines.pass(&waiting[..skipped]);
            self.position += skipped;
            if self.position < self.filled || self.at_end {
                return Ok(());
            }
            self.filled = self.fill_at(0)?;
            self.position = 0;
        }
    }

    fn next_row(&mut self) -> Result<Next, RecordsError> {
        self.row.clear();
        self.skip_line_ends()?;
        let line = self.lines.line();
        loop {
            if self.position == self.filled && !self.at_end {
                self.filled = self.fill_at(0)?;
                self.position = 0;
            }
            // The end of the file ends its last row as a line end would; only within quotes it does not.
            let at_end = self.position == self.filled;
            let waiting = if at_end { b"\n".as_slice() } else { &self.input[self.position..self.filled] };
            let (result, read, written, ended) = self.parser.read_record(
                waiting,
                &mut self.row.text[self.row.used..],
                &mut self.row.ends[self.row.cells..],
            );
            if at_end && result == ReadRecordResult::InputEmpty {
                return if written == 0 { Ok(Next::End) } else { Err(self.open_quote(line)) };
            }
            if !at_end {
                self.lines.pass(&waiting[..read]);
                self.position += read;
            }
            self.row.used += written;
            self.row.cells += ended;
            match result {
                ReadRecordResult::InputEmpty => self.check_cell(line)?,
                ReadRecordResult::OutputFull => {
                    self.check_cell(line)?;
                    self.row.grow();
                }
                ReadRecordResult::OutputEndsFull => self.row.drop_cells(),
                ReadRecordResult::Record => return Ok(Next::Row { line }),
                ReadRecordResult::End => return Ok(Next::End),
            }
        }
    }

    fn open_quote(&self, line: u64) -> RecordsError {
        self.broken(
            line,
            "a quoted cell that begins in this row is never closed",
            "a closing \" was expected before the end of the file",
        )
    }

    /// A cell that runs on and on is most often a quote that was never closed.
    fn check_cell(&self, line: u64) -> Result<(), RecordsError> {
        let longest_row = LONGEST_ROW.max(self.longest_cell);
        let what = if self.row.open_cell() > self.longest_cell {
            format!("a cell that begins in this row is longer than {} bytes", self.longest_cell)
        } else if self.row.used > longest_row {
            format!("this row is longer than {longest_row} bytes")
        } else {
            return Ok(());
        };
        Err(self.broken(
            line,
            what,
            "look for a quote that is never closed, or raise longest_cell under [records]",
        ))
    }
}

impl RowBuffer {
    fn new(most_cells: usize) -> Self {
        Self {
            text: vec![0; 4096],
            ends: vec![0; most_cells],
            used: 0,
            cells: 0,
            dropped: 0,
            dropped_beginning: None,
        }
    }

    fn clear(&mut self) {
        (self.used, self.cells, self.dropped) = (0, 0, 0);
        self.dropped_beginning = None;
        // One long row does not keep its memory for the rest of the file.
        if self.text.len() > 1 << 20 {
            self.text = vec![0; 4096];
        }
    }

    fn grow(&mut self) {
        let length = self.text.len() * 2;
        self.text.resize(length, 0);
    }

    /// The row is broken already: its cells are only counted from here on.
    fn drop_cells(&mut self) {
        if self.dropped_beginning.is_none() {
            self.dropped_beginning = Some(self.beginning());
        }
        self.dropped += self.cells as u64;
        (self.used, self.cells) = (0, 0);
    }

    /// Bytes of the cell that is being read.
    fn open_cell(&self) -> usize {
        let start = if self.cells > 0 { self.ends[self.cells - 1] } else { 0 };
        self.used.saturating_sub(start)
    }

    /// The text of all cells, if every one of them is UTF-8.
    fn as_text(&self) -> Option<&str> {
        let text = std::str::from_utf8(self.text.get(..self.used)?).ok()?;
        self.ends[..self.cells].iter().all(|end| text.is_char_boundary(*end)).then_some(text)
    }

    fn bounds(&self) -> impl Iterator<Item = (usize, usize)> + '_ {
        let starts = std::iter::once(0).chain(self.ends[..self.cells].iter().copied());
        starts.zip(self.ends[..self.cells].iter().copied())
    }

    fn repeats(&self, header: &[String]) -> bool {
        self.as_text().is_some_and(|text| {
            self.bounds().zip(header).all(|((start, end), name)| text[start..end].trim() == name)
        })
    }

    /// The first cells of the row, made readable.
    fn beginning(&self) -> String {
        if let Some(beginning) = &self.dropped_beginning {
            return beginning.clone();
        }
        let cells: Vec<_> = self
            .bounds()
            .take(3)
            .map(|(start, end)| String::from_utf8_lossy(&self.text[start..end.min(start + 40)]).into_owned())
            .collect();
        let more = if self.cells > cells.len() { ", …" } else { "" };
        format!("{}{more}", cells.join(", "))
    }
}
