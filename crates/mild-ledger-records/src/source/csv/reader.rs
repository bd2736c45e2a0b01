//! A CSV file read in batches bounded in bytes.

use super::kind_of_file::{other_kind, other_separator};
use super::line_counter::LineCounter;
use super::plain::plain_row;
use super::scan::{RowScan, Scanned, put_cells};
use crate::error::RecordsError;
use crate::files::{Checksum, Hasher};
use crate::source::{OwnFile, Reading, Source, SourceEnd};
use crate::table::{Batch, BatchBuilder, BrokenRow, Kept, RowFault, rows_of_batch};
use std::fs::File;
use std::io::Read;
use std::ops::Range;
use std::path::{Path, PathBuf};

/// Bytes read from the file at a time.
const INPUT: usize = 256 << 10;
/// The longest row that is read, where no longer cell is allowed.
const LONGEST_ROW: usize = 64 << 20;
/// The most columns of a header.
const MOST_COLUMNS: usize = 16_384;

/// Reads rows one after the other; a broken row does not keep the next one from being read.
pub(super) struct CsvReader {
    path: PathBuf,
    file: Box<dyn Read + Send>,
    hasher: Hasher,
    checksum: Checksum,
    input: Vec<u8>,
    position: usize,
    filled: usize,
    at_end: bool,
    lines: LineCounter,
    row: RowBuffer,
    /// Where the cells of a plain row stand.
    cells: Vec<Range<usize>>,
    header: Vec<String>,
    rows_read: u64,
    longest_cell: usize,
    most_cells: usize,
    batch_rows: usize,
    kept: Kept,
    batch: BatchBuilder,
}

/// The cells of one row.
#[derive(Debug, Default)]
struct RowBuffer {
    text: Vec<u8>,
    ends: Vec<usize>,
    /// Cells counted and thrown away because the row has far too many.
    dropped: u64,
}

/// What came of asking for a row.
enum Next {
    Row {
        line: u64,
    },
    /// The first bytes of a row with a stray quote.
    Broken {
        line: u64,
        beginning: String,
    },
    End,
}

impl Source for CsvReader {
    fn columns(&self) -> &[String] {
        &self.header
    }

    fn with_cells_of_a_row(&mut self, cells: usize) {
        self.batch_rows = rows_of_batch(cells);
    }

    fn next_batch(&mut self) -> Result<Option<Batch>, RecordsError> {
        while !self.batch.is_full(self.batch_rows) {
            if self.take_plain_row() {
                continue;
            }
            match self.next_row()? {
                Next::End => break,
                Next::Row { line } => {
                    self.rows_read += 1;
                    self.take_row(line);
                }
                Next::Broken { line, beginning } => {
                    self.rows_read += 1;
                    let (number, fault) = (self.rows_read, RowFault::StrayQuote);
                    self.batch.push_broken(BrokenRow { number, line, fault, beginning });
                }
            }
        }
        Ok(self.batch.take())
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    fn bytes_read(&self) -> u64 {
        self.hasher.bytes()
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        let checksum = self.checksum.finish();
        SourceEnd { rows: self.rows_read, checksum, fingerprint: self.hasher.finish() }
    }
}

impl CsvReader {
    /// Opens a file of records, and reads its header; one of another kind is called what it is.
    pub(super) fn open(path: &Path, reading: Reading) -> Result<Self, RecordsError> {
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        let facts = file.metadata().map_err(RecordsError::file(path, "read it"))?;
        if facts.is_dir() {
            let folder = std::io::Error::from(std::io::ErrorKind::IsADirectory);
            return Err(RecordsError::file(path, "read it")(folder));
        }
        let mut reader = Self::begin(path, Box::new(file), reading)?;
        if let Some((kind, help)) = other_kind(&reader.input[..reader.filled]) {
            return Err(reader.broken(1, format!("this is not CSV in UTF-8 but {kind}"), help));
        }
        reader.read_header()?;
        if let Some((_, separators)) = other_separator(&reader.header) {
            let what = format!("the cells of the header are separated by {separators}");
            return Err(reader.broken(1, what, "save the file with commas between the cells"));
        }
        Ok(reader)
    }

    /// Opens a file that this program wrote.
    pub(super) fn open_own(file: OwnFile) -> Result<Self, RecordsError> {
        let reading = Reading { longest_cell: usize::MAX, hash: file.hash };
        let mut reader = Self::begin(&file.path, file.input, reading)?;
        reader.kept = file.kept;
        reader.read_header()?;
        Ok(reader)
    }

    fn begin(path: &Path, file: Box<dyn Read + Send>, reading: Reading) -> Result<Self, RecordsError> {
        let mut reader = Self {
            path: path.to_owned(),
            file,
            hasher: Hasher::new(reading.hash),
            checksum: Checksum::default(),
            input: vec![0; INPUT],
            position: 0,
            filled: 0,
            at_end: false,
            lines: LineCounter::new(),
            row: RowBuffer::default(),
            cells: Vec::new(),
            header: Vec::new(),
            rows_read: 0,
            longest_cell: reading.longest_cell,
            most_cells: MOST_COLUMNS + 1,
            batch_rows: rows_of_batch(1),
            kept: Kept::All,
            batch: BatchBuilder::of_columns(0, Kept::All),
        };
        while reader.filled < 64 && !reader.at_end {
            reader.fill()?;
        }
        if reader.input[..reader.filled].starts_with(b"\xef\xbb\xbf") {
            reader.position = 3;
        }
        Ok(reader)
    }

    fn broken(&self, line: u64, what: impl Into<String>, help: impl Into<String>) -> RecordsError {
        RecordsError::BrokenFile { path: self.path.clone(), line, what: what.into(), help: help.into() }
    }

    /// Takes a row that stands whole among the bytes read and has nothing special, as nearly all do, without a copy on the way;
    /// false where it is left to [`next_row`](Self::next_row).
    fn take_plain_row(&mut self) -> bool {
        let waiting = &self.input[self.position..self.filled];
        let Some(row) = plain_row(waiting, &mut self.cells) else { return false };
        let Ok(text) = std::str::from_utf8(&waiting[..row.length]) else { return false };
        let cells = &self.cells;
        let first = cells.first().map_or("", |cell| &text[cell.clone()]);
        let may_be_header = self.header.first().is_some_and(|name| first.trim() == name);
        if cells.len() != self.header.len() || row.length > self.longest_cell || may_be_header {
            return false;
        }
        self.rows_read += 1;
        self.batch.push_row(self.rows_read, self.lines.line(), |place| &text[cells[place].clone()]);
        self.lines.pass_one();
        self.position += row.with_end;
        true
    }

    fn take_row(&mut self, line: u64) {
        let expected = self.header.len() as u64;
        let found = self.row.ends.len() as u64 + self.row.dropped;
        let fault = match self.row.as_text() {
            _ if found > expected => RowFault::TooManyCells { found, expected },
            _ if found < expected => RowFault::TooFewCells { found, expected },
            None => RowFault::NotUtf8,
            Some(_) if self.row.repeats(&self.header) => RowFault::HeaderAgain,
            Some(text) => {
                let ends = &self.row.ends;
                self.batch.push_row(self.rows_read, line, |place| {
                    let start = if place == 0 { 0 } else { ends[place - 1] };
                    &text[start..ends[place]]
                });
                return;
            }
        };
        let beginning = self.row.beginning();
        self.batch.push_broken(BrokenRow { number: self.rows_read, line, fault, beginning });
    }

    fn read_header(&mut self) -> Result<(), RecordsError> {
        let line = match self.next_row()? {
            Next::Row { line } => line,
            Next::Broken { line, .. } => {
                let what = "the header has a quote where none may stand";
                return Err(self.broken(line, what, "quotes stand around a whole cell"));
            }
            Next::End => {
                let help = "a header with the names of the columns was expected";
                return Err(self.broken(1, "the file is empty", help));
            }
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
        self.most_cells = self.header.len() + 64;
        self.batch = BatchBuilder::of_columns(self.header.len(), self.kept.clone());
        Ok(())
    }

    /// Reads more bytes behind those that wait, which are moved to the front, or given more room.
    fn fill(&mut self) -> Result<(), RecordsError> {
        if self.position > 0 {
            self.input.copy_within(self.position..self.filled, 0);
            (self.position, self.filled) = (0, self.filled - self.position);
        }
        if self.filled == self.input.len() {
            self.input.resize(self.input.len() * 2, 0);
        } else if self.input.len() > 4 * INPUT && self.filled < INPUT {
            // One long row does not keep its memory for the rest of the file.
            self.input.truncate(INPUT);
            self.input.shrink_to_fit();
        }
        loop {
            match self.file.read(&mut self.input[self.filled..]) {
                Ok(read) => {
                    let new = &self.input[self.filled..self.filled + read];
                    self.hasher.update(new);
                    self.checksum.update(new);
                    self.at_end = read == 0;
                    self.filled += read;
                    return Ok(());
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
            self.fill()?;
        }
    }

    fn next_row(&mut self) -> Result<Next, RecordsError> {
        self.skip_line_ends()?;
        let line = self.lines.line();
        if self.position == self.filled {
            return Ok(Next::End);
        }
        let mut scan = RowScan::new();
        loop {
            let waiting = &self.input[self.position..self.filled];
            match scan.scan(waiting, self.at_end) {
                Scanned::Unfinished if self.at_end => return Err(self.open_quote(line)),
                Scanned::Unfinished => {
                    self.check_length(line, waiting.len(), scan.open_cell())?;
                    self.fill()?;
                }
                Scanned::Broken { length, with_end } => {
                    let beginning = beginning_of(&waiting[..length]);
                    self.lines.pass(&waiting[..with_end]);
                    self.position += with_end;
                    return Ok(Next::Broken { line, beginning });
                }
                Scanned::Row { length, with_end, quotes } => {
                    let row = &mut self.row;
                    row.text.clear();
                    row.ends.clear();
                    let most = self.most_cells;
                    let cells = put_cells(&waiting[..length], quotes, &mut row.text, &mut row.ends, most);
                    row.dropped = cells.dropped;
                    self.lines.pass(&waiting[..with_end]);
                    self.position += with_end;
                    self.check_length(line, length, cells.longest)?;
                    return Ok(Next::Row { line });
                }
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

    /// A cell that runs on and on is most often a quote that was never closed. Cells are as long as they stand in the file.
    fn check_length(&self, line: u64, row: usize, cell: usize) -> Result<(), RecordsError> {
        let longest_row = LONGEST_ROW.max(self.longest_cell);
        let what = if cell > self.longest_cell {
            format!("a cell that begins in this row is longer than {} bytes", self.longest_cell)
        } else if row > longest_row {
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

/// The first bytes of a row, made readable.
fn beginning_of(row: &[u8]) -> String {
    const SHOWN: usize = 120;
    let more = if row.len() > SHOWN { "…" } else { "" };
    format!("{}{more}", String::from_utf8_lossy(&row[..row.len().min(SHOWN)]))
}

impl RowBuffer {
    /// The text of all cells, if every one of them is UTF-8.
    fn as_text(&self) -> Option<&str> {
        let text = std::str::from_utf8(&self.text).ok()?;
        self.ends.iter().all(|end| text.is_char_boundary(*end)).then_some(text)
    }

    fn bounds(&self) -> impl Iterator<Item = (usize, usize)> + '_ {
        let starts = std::iter::once(0).chain(self.ends.iter().copied());
        starts.zip(self.ends.iter().copied())
    }

    fn repeats(&self, header: &[String]) -> bool {
        self.as_text().is_some_and(|text| {
            self.bounds().zip(header).all(|((start, end), name)| text[start..end].trim() == name)
        })
    }

    /// The first cells of the row, made readable.
    fn beginning(&self) -> String {
        let cells: Vec<_> = self
            .bounds()
            .take(3)
            .map(|(start, end)| String::from_utf8_lossy(&self.text[start..end.min(start + 40)]).into_owned())
            .collect();
        let more = if self.ends.len() as u64 + self.dropped > cells.len() as u64 { ", …" } else { "" };
        format!("{}{more}", cells.join(", "))
    }
}
