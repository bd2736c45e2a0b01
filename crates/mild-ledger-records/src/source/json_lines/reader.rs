//! JSON Lines read object by object.

use super::object::cells_of;
use crate::error::RecordsError;
use crate::files::{Checksum, Hasher};
use crate::source::{OwnFile, Reading, Source, SourceEnd};
use crate::table::{Batch, BatchBuilder, BrokenRow, Kept, RowFault, rows_of_batch};
use std::borrow::Cow;
use std::collections::HashMap;
use std::fs::File;
use std::io::{self, BufRead, BufReader, Read};
use std::path::{Path, PathBuf};

/// The longest line that is read, where no longer cell is allowed.
const LONGEST_LINE: usize = 64 << 20;
/// The most names that the objects of a file may have together.
const MOST_COLUMNS: usize = 16_384;

/// Reads objects one after the other. The columns are the names that stand in any of them, in the order in which they are
/// met first; a name that an object lacks is a blank cell.
pub(super) struct JsonLinesReader {
    path: PathBuf,
    lines: Lines,
    columns: Vec<String>,
    places: HashMap<String, usize>,
    rows_read: u64,
    longest_cell: usize,
    batch_rows: usize,
    batch: BatchBuilder,
}

impl JsonLinesReader {
    /// Opens a file of records and reads it once for its names; there must be some.
    pub(super) fn open(path: &Path, reading: Reading) -> Result<Self, RecordsError> {
        let reader = Self::with_names(path, reading)?;
        if reader.columns.is_empty() {
            let is_empty = std::fs::metadata(path).is_ok_and(|facts| facts.len() == 0);
            let what = if is_empty { "the file is empty" } else { "no line is a JSON object with names" };
            return Err(reader.broken(what, "an object on each line was expected"));
        }
        Ok(reader)
    }

    /// Opens a file that this program wrote, which may have no rows.
    pub(super) fn open_own(file: OwnFile) -> Result<Self, RecordsError> {
        let reading = Reading { longest_cell: usize::MAX, hash: file.hash };
        let mut reader = Self::begin(&file.path, file.input, reading);
        reader.batch = BatchBuilder::of_columns(file.columns.len(), file.kept);
        reader.places = file.columns.iter().cloned().zip(0..).collect();
        reader.columns = file.columns;
        Ok(reader)
    }

    fn begin(path: &Path, file: Box<dyn Read + Send>, reading: Reading) -> Self {
        Self {
            path: path.to_owned(),
            lines: Lines::of(file, reading),
            columns: Vec::new(),
            places: HashMap::new(),
            rows_read: 0,
            longest_cell: reading.longest_cell,
            batch_rows: rows_of_batch(1),
            batch: BatchBuilder::of_columns(0, Kept::All),
        }
    }

    /// The names of all objects of the file, and the reader at its beginning again.
    fn with_names(path: &Path, reading: Reading) -> Result<Self, RecordsError> {
        let open = || -> Result<Box<dyn Read + Send>, RecordsError> {
            Ok(Box::new(File::open(path).map_err(RecordsError::file(path, "open it"))?))
        };
        let mut reader = Self::begin(path, open()?, reading);
        while reader.next_line()? {
            let Ok(text) = std::str::from_utf8(&reader.lines.line) else { continue };
            for (name, _) in cells_of(text).unwrap_or_default() {
                let place = reader.columns.len();
                if reader.places.contains_key(&name) {
                    continue;
                }
                if place == MOST_COLUMNS {
                    let help = format!("at most {MOST_COLUMNS} columns are read");
                    return Err(reader.broken("the objects have too many names", help));
                }
                reader.places.insert(name.clone(), place);
                reader.columns.push(name);
            }
        }
        reader.lines = Lines::of(open()?, reading);
        reader.batch = BatchBuilder::of_columns(reader.columns.len(), Kept::All);
        Ok(reader)
    }

    /// Reads the next line that is not blank; false at the end.
    fn next_line(&mut self) -> Result<bool, RecordsError> {
        loop {
            match self.lines.next().map_err(RecordsError::file(&self.path, "read it"))? {
                Found::End => return Ok(false),
                Found::TooLong => {
                    let what = format!("this line is longer than {} bytes", self.lines.longest);
                    return Err(self.broken(what, "raise longest_cell under [records], if it is right"));
                }
                Found::Line if self.lines.line.iter().all(u8::is_ascii_whitespace) => {}
                Found::Line => return Ok(true),
            }
        }
    }

    fn broken(&self, what: impl Into<String>, help: impl Into<String>) -> RecordsError {
        let line = self.lines.number.max(1);
        RecordsError::BrokenFile { path: self.path.clone(), line, what: what.into(), help: help.into() }
    }

    fn take_row(&mut self) -> Result<(), RecordsError> {
        self.rows_read += 1;
        let (number, line) = (self.rows_read, self.lines.number);
        let found = match std::str::from_utf8(&self.lines.line) {
            Ok(text) => cells_of(text),
            Err(_) => Err(RowFault::NotUtf8),
        };
        match found {
            Ok(cells) => {
                if cells.iter().any(|(_, cell)| cell.len() > self.longest_cell) {
                    let what = format!("a value is longer than {} bytes", self.longest_cell);
                    return Err(self.broken(what, "raise longest_cell under [records], if it is right"));
                }
                let mut row = vec![Cow::Borrowed(""); self.columns.len()];
                for (name, cell) in cells {
                    if let Some(place) = self.places.get(&name).and_then(|place| row.get_mut(*place)) {
                        *place = cell;
                    }
                }
                self.batch.push_row(number, line, |place| row.get(place).map_or("", AsRef::as_ref));
            }
            Err(fault) => {
                let beginning = beginning_of(&self.lines.line);
                self.batch.push_broken(BrokenRow { number, line, fault, beginning });
            }
        }
        Ok(())
    }
}

impl Source for JsonLinesReader {
    fn columns(&self) -> &[String] {
        &self.columns
    }

    fn with_cells_of_a_row(&mut self, cells: usize) {
        self.batch_rows = rows_of_batch(cells);
    }

    fn next_batch(&mut self) -> Result<Option<Batch>, RecordsError> {
        while !self.batch.is_full(self.batch_rows) && self.next_line()? {
            self.take_row()?;
        }
        Ok(self.batch.take())
    }

    fn rows_read(&self) -> u64 {
        self.rows_read
    }

    fn bytes_read(&self) -> u64 {
        self.lines.hasher.bytes()
    }

    fn finish(self: Box<Self>) -> SourceEnd {
        let checksum = self.lines.checksum.finish();
        SourceEnd { rows: self.rows_read, checksum, fingerprint: self.lines.hasher.finish() }
    }
}

/// The lines of a file, each without its end.
struct Lines {
    file: BufReader<Box<dyn Read + Send>>,
    hasher: Hasher,
    checksum: Checksum,
    line: Vec<u8>,
    /// The number of the line, from 1.
    number: u64,
    longest: usize,
}

enum Found {
    Line,
    TooLong,
    End,
}

impl Lines {
    fn of(file: Box<dyn Read + Send>, reading: Reading) -> Self {
        Self {
            file: BufReader::with_capacity(256 << 10, file),
            hasher: Hasher::new(reading.hash),
            checksum: Checksum::default(),
            line: Vec::new(),
            number: 0,
            longest: LONGEST_LINE.max(reading.longest_cell.saturating_add(1 << 20)),
        }
    }

    fn next(&mut self) -> io::Result<Found> {
        self.line.clear();
        let most = u64::try_from(self.longest).unwrap_or(u64::MAX).saturating_add(1);
        let read = (&mut self.file).take(most).read_until(b'\n', &mut self.line)?;
        self.hasher.update(&self.line);
        self.checksum.update(&self.line);
        if read == 0 {
            return Ok(Found::End);
        }
        self.number += 1;
        if self.line.last() != Some(&b'\n') && self.line.len() > self.longest {
            return Ok(Found::TooLong);
        }
        while matches!(self.line.last(), Some(b'\n' | b'\r')) {
            self.line.pop();
        }
        if self.number == 1 && self.line.starts_with(b"\xef\xbb\xbf") {
            self.line.drain(..3);
        }
        Ok(Found::Line)
    }
}

/// The first bytes of a line, made readable.
fn beginning_of(line: &[u8]) -> String {
    const SHOWN: usize = 120;
    let more = if line.len() > SHOWN { "…" } else { "" };
    format!("{}{more}", String::from_utf8_lossy(&line[..line.len().min(SHOWN)]))
}
