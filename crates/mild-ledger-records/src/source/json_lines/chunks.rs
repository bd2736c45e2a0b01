//! JSON Lines cut into chunks of whole lines.

use super::object::cells_of;
use super::rows::JsonRows;
use crate::error::RecordsError;
use crate::source::file_bytes::FileBytes;
use crate::source::{Chunk, ChunkReader, ChunkSize, OwnFile, Reading, Source, SourceEnd};
use crate::table::Kept;
use std::collections::HashSet;
use std::fs::File;
use std::io::Read;
use std::path::{Path, PathBuf};

/// The longest line that is read, where no longer cell is allowed.
const LONGEST_LINE: usize = 64 << 20;
/// The most names that the objects of a file may have together.
const MOST_COLUMNS: usize = 16_384;

/// Finds where lines end. The columns are the names that stand in any of the objects, in the order in which they are met first; a
/// name that an object lacks is a blank cell.
pub(super) struct JsonLinesChunks {
    path: PathBuf,
    source: usize,
    bytes: FileBytes,
    /// The line that the bytes that wait begin with.
    line: u64,
    columns: Vec<String>,
    rows_read: u64,
    longest_cell: usize,
    size: ChunkSize,
    kept: Kept,
}

impl Source for JsonLinesChunks {
    fn columns(&self) -> &[String] {
        &self.columns
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
            let cut = cut(self.bytes.waiting(), self.bytes.is_at_end(), self.size);
            if cut.bytes == 0 {
                self.check_line()?;
                self.bytes.fill()?;
                continue;
            }
            let bytes = self.bytes.waiting().get(..cut.bytes).unwrap_or_default().to_vec();
            self.bytes.take(cut.bytes);
            let first_line = self.line;
            self.line += cut.lines;
            if cut.rows > 0 {
                let first_row = self.rows_read + 1;
                self.rows_read += cut.rows;
                return Ok(Some(Chunk { source: self.source, bytes, first_row, first_line, rows: cut.rows }));
            }
        }
    }

    fn chunk_reader(&self) -> Box<dyn ChunkReader> {
        Box::new(JsonRows::new(&self.path, &self.columns, self.longest_cell, &self.kept))
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

impl JsonLinesChunks {
    /// Opens a file of records and reads it once for its names; there must be some.
    pub(super) fn open(path: &Path, reading: Reading) -> Result<Self, RecordsError> {
        let open = || -> Result<Box<dyn Read + Send>, RecordsError> {
            Ok(Box::new(File::open(path).map_err(RecordsError::file(path, "open it"))?))
        };
        let mut names = Names::default();
        let mut first = Self::begin(path, open()?, reading)?;
        while let Some(chunk) = first.next_chunk()? {
            names.take(&chunk).map_err(|(line, what, help)| first.bytes.broken(line, what, help))?;
        }
        if names.in_order.is_empty() {
            let is_empty = first.bytes.bytes_read() == 0;
            let what = if is_empty { "the file is empty" } else { "no line is a JSON object with names" };
            let line = first.line.saturating_sub(1).max(1);
            return Err(first.bytes.broken(line, what, "an object on each line was expected"));
        }
        let mut again = Self::begin(path, open()?, reading)?;
        again.columns = names.in_order;
        Ok(again)
    }

    /// Opens a file that this program wrote, which may have no rows.
    pub(super) fn open_own(file: OwnFile) -> Result<Self, RecordsError> {
        let reading = Reading { source: 0, longest_cell: usize::MAX, hash: file.hash };
        let mut own = Self::begin(&file.path, file.input, reading)?;
        (own.columns, own.kept) = (file.columns, file.kept);
        Ok(own)
    }

    fn begin(path: &Path, file: Box<dyn Read + Send>, reading: Reading) -> Result<Self, RecordsError> {
        Ok(Self {
            path: path.to_owned(),
            source: reading.source,
            bytes: FileBytes::begin(path, file, reading.hash)?,
            line: 1,
            columns: Vec::new(),
            rows_read: 0,
            longest_cell: reading.longest_cell,
            size: ChunkSize::of_rows_with(1),
            kept: Kept::All,
        })
    }

    /// A line that runs on and on is none that people wrote.
    fn check_line(&self) -> Result<(), RecordsError> {
        let longest = LONGEST_LINE.max(self.longest_cell.saturating_add(1 << 20));
        if self.bytes.waiting().len() <= longest {
            return Ok(());
        }
        let what = format!("this line is longer than {longest} bytes");
        Err(self.bytes.broken(self.line, what, "raise longest_cell under [records], if it is right"))
    }
}

/// The names of objects in the order in which they are met.
#[derive(Default)]
struct Names {
    in_order: Vec<String>,
    seen: HashSet<String>,
}

impl Names {
    /// Takes the names of the objects of a chunk, or says in which line there are too many.
    fn take(&mut self, chunk: &Chunk) -> Result<(), (u64, String, String)> {
        for (line, bytes) in (chunk.first_line..).zip(chunk.bytes.split_inclusive(|byte| *byte == b'\n')) {
            let Ok(text) = std::str::from_utf8(without_end(bytes)) else { continue };
            for (name, _) in cells_of(text).unwrap_or_default() {
                if self.seen.contains(&name) {
                    continue;
                }
                if self.in_order.len() == MOST_COLUMNS {
                    let what = "the objects have too many names".to_owned();
                    return Err((line, what, format!("at most {MOST_COLUMNS} columns are read")));
                }
                self.seen.insert(name.clone());
                self.in_order.push(name);
            }
        }
        Ok(())
    }
}

/// What stands before a cut.
#[derive(Debug, Default, PartialEq, Eq)]
struct Cut {
    bytes: usize,
    lines: u64,
    rows: u64,
}

/// The last cut within some bytes that leaves no more than so much before it; none where no line ends in them. The end of the file ends a line.
fn cut(bytes: &[u8], is_whole: bool, most: ChunkSize) -> Cut {
    let mut cut = Cut::default();
    while cut.rows < most.rows && cut.bytes < most.bytes {
        let rest = &bytes[cut.bytes..];
        let length = match memchr::memchr(b'\n', rest) {
            Some(at) => at + 1,
            None if is_whole && !rest.is_empty() => rest.len(),
            None => break,
        };
        cut.rows += u64::from(!is_blank(&rest[..length]));
        cut.lines += 1;
        cut.bytes += length;
    }
    cut
}

/// Whether a line has nothing to show, so that it is no row.
pub(super) fn is_blank(line: &[u8]) -> bool {
    line.iter().all(u8::is_ascii_whitespace)
}

/// A line without its end.
pub(super) fn without_end(line: &[u8]) -> &[u8] {
    let end = line.iter().rposition(|byte| !matches!(byte, b'\r' | b'\n')).map_or(0, |last| last + 1);
    &line[..end]
}

#[cfg(test)]
mod tests {
    use super::{Cut, cut};
    use crate::source::ChunkSize;

    #[test]
    fn lines_are_counted_and_blank_ones_are_no_rows() {
        let many = ChunkSize { bytes: 99, rows: 9 };
        let text = b"{}\n \r\n{}\n{}";
        assert_eq!(cut(text, false, many), Cut { bytes: 9, lines: 3, rows: 2 });
        assert_eq!(cut(text, true, many), Cut { bytes: 11, lines: 4, rows: 3 });
        assert_eq!(cut(text, true, ChunkSize { bytes: 99, rows: 1 }), Cut { bytes: 3, lines: 1, rows: 1 });
        assert_eq!(cut(b"{}", false, many), Cut::default());
    }
}
