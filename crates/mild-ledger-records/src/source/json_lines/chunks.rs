//! JSON Lines cut into chunks of whole lines.

use super::lines::{is_blank, without_end};
use super::object::cells_of;
use super::rows::JsonRows;
use crate::error::RecordsError;
use crate::source::file_bytes::FileBytes;
use crate::source::text_source::{Cut, Cutter, TextSource};
use crate::source::{Chunk, ChunkReader, ChunkSize, OwnFile, Piece, Reading, Source};
use crate::table::Kept;
use std::collections::HashSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The longest line that is read, where no longer cell is allowed.
const LONGEST_LINE: usize = 64 << 20;
/// The most names that the objects of a file may have together.
const MOST_COLUMNS: usize = 16_384;

/// Finds where lines end.
pub(super) struct LineCutter {
    path: PathBuf,
    line: u64,
    longest_cell: usize,
}

impl Cutter for LineCutter {
    fn line(&self) -> u64 {
        self.line
    }

    fn cut(&mut self, bytes: &FileBytes, most: ChunkSize) -> Result<Option<Cut>, RecordsError> {
        let (cut, lines) = cut(bytes.waiting(), bytes.is_at_end(), most);
        if cut.bytes == 0 {
            self.check_line(bytes)?;
            return Ok(None);
        }
        self.line += lines;
        Ok(Some(cut))
    }

    fn chunk_reader(&self, columns: &Arc<[String]>, kept: &Kept) -> Box<dyn ChunkReader> {
        Box::new(JsonRows::new(&self.path, columns, self.longest_cell, kept))
    }
}

/// Opens a file of records and reads it once for its names; there must be some. The columns are the names that are in any of the
/// objects, in the order in which they are met first; a name that an object lacks is a blank cell.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TextSource<LineCutter>, RecordsError> {
    let begin = |columns: Vec<String>| -> Result<TextSource<LineCutter>, RecordsError> {
        let bytes = FileBytes::begin(path, reading.raw_bytes(path)?, reading.form.encoding)?;
        let cutter = LineCutter::new(path, reading.longest_cell);
        Ok(TextSource::new(reading.source, bytes, cutter, columns, Kept::All))
    };
    let mut names = Names::default();
    let mut first = begin(Vec::new())?;
    while let Some(chunk) = first.next_chunk()? {
        names.take(&chunk).map_err(|(line, what, help)| first.bytes.broken(line, what, help))?;
    }
    if names.in_order.is_empty() {
        let is_empty = first.bytes_read() == 0;
        let what = if is_empty { "the file is empty" } else { "no line is a JSON object with names" };
        let line = first.cutter.line.saturating_sub(1).max(1);
        return Err(first.bytes.broken(line, what, "an object on each line was expected"));
    }
    begin(names.in_order)
}

/// Opens a piece of a file of records, whose names are known.
pub(super) fn open_piece(
    path: &Path,
    reading: &Reading,
    columns: Vec<String>,
    piece: &Piece,
) -> Result<TextSource<LineCutter>, RecordsError> {
    let (place, line) = piece.bytes(path)?;
    let cutter = LineCutter { line, ..LineCutter::new(path, reading.longest_cell) };
    TextSource::of_piece(path, reading, (place, piece.first_row), (cutter, columns))
}

/// Opens a file that this program wrote, which may have no rows.
pub(super) fn open_own(file: OwnFile) -> Result<TextSource<LineCutter>, RecordsError> {
    let bytes = FileBytes::begin_own(&file.path, file.input, file.hash)?;
    let cutter = LineCutter::new(&file.path, usize::MAX);
    Ok(TextSource::new(0, bytes, cutter, file.columns, file.kept))
}

impl LineCutter {
    fn new(path: &Path, longest_cell: usize) -> Self {
        Self { path: path.to_owned(), line: 1, longest_cell }
    }

    /// A line that runs on and on is none that people wrote.
    fn check_line(&self, bytes: &FileBytes) -> Result<(), RecordsError> {
        let longest = LONGEST_LINE.max(self.longest_cell.saturating_add(1 << 20));
        if bytes.waiting().len() <= longest {
            return Ok(());
        }
        let what = format!("this line is longer than {longest} bytes");
        Err(bytes.broken(self.line, what, "raise longest_cell under [records], if it is right"))
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

/// The last cut within some bytes that leaves no more than so much before it, and the lines before it; none where no line ends in
/// them. The end of the file ends a line.
fn cut(bytes: &[u8], is_whole: bool, most: ChunkSize) -> (Cut, u64) {
    let (mut cut, mut lines) = (Cut::default(), 0);
    while cut.rows < most.rows && cut.bytes < most.bytes {
        let rest = &bytes[cut.bytes..];
        let length = match memchr::memchr(b'\n', rest) {
            Some(at) => at + 1,
            None if is_whole && !rest.is_empty() => rest.len(),
            None => break,
        };
        cut.rows += u64::from(!is_blank(&rest[..length]));
        cut.bytes += length;
        lines += 1;
    }
    (cut, lines)
}

#[cfg(test)]
mod tests {
    use super::{Cut, cut};
    use crate::source::ChunkSize;

    #[test]
    fn lines_are_counted_and_blank_ones_are_no_rows() {
        let many = ChunkSize { bytes: 99, rows: 9 };
        let text = b"{}\n \r\n{}\n{}";
        assert_eq!(cut(text, false, many), (Cut { bytes: 9, rows: 2 }, 3));
        assert_eq!(cut(text, true, many), (Cut { bytes: 11, rows: 3 }, 4));
        assert_eq!(cut(text, true, ChunkSize { bytes: 99, rows: 1 }), (Cut { bytes: 3, rows: 1 }, 1));
        assert_eq!(cut(b"{}", false, many), (Cut::default(), 0));
    }
}
