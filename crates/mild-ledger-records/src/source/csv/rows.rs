//! The rows of a chunk of CSV.

use super::line_counter::LineCounter;
use super::plain::plain_row;
use super::row_buffer::RowBuffer;
use super::scan::{RowScan, Scanned};
use super::too_long::long_cell;
use crate::error::RecordsError;
use crate::source::file_bytes::beginning_of;
use crate::source::file_form::Signs;
use crate::source::{Chunk, ChunkReader};
use crate::table::{Batch, BatchBuilder, BrokenRow, Kept, RowFault};
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Cells of a row beyond those of the header that are looked at.
const CELLS_TOO_MANY: usize = 64;

/// Tells the cells of rows apart.
pub(super) struct CsvRows {
    path: PathBuf,
    header: Arc<[String]>,
    signs: Signs,
    longest_cell: usize,
    batch: BatchBuilder,
    row: RowBuffer,
    /// Where the cells of a plain row are.
    cells: Vec<Range<usize>>,
}

/// A row of a chunk, by its bytes and where it is.
#[derive(Clone, Copy)]
struct Place {
    number: u64,
    line: u64,
}

impl ChunkReader for CsvRows {
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError> {
        let bytes = chunk.bytes.as_slice();
        // Nearly every chunk is UTF-8 as a whole, and its rows need not be looked at for that again.
        let text = std::str::from_utf8(bytes).ok();
        let mut lines = LineCounter::at(chunk.first_line);
        let (mut at, mut number) = (0, chunk.first_row);
        while at < bytes.len() {
            let rest = &bytes[at..];
            if let [b'\r' | b'\n', ..] = rest {
                let ends = rest.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count();
                lines.pass(&rest[..ends]);
                at += ends;
                continue;
            }
            let place = Place { number, line: lines.line() };
            let plain = text.and_then(|text| self.take_plain_row(text.get(at..)?, place));
            at += match plain {
                Some(with_end) => {
                    lines.pass_one();
                    with_end
                }
                None => {
                    let with_end = self.take_row(rest, place)?;
                    lines.pass(&rest[..with_end]);
                    with_end
                }
            };
            number += 1;
        }
        self.batch.take()
    }
}

impl CsvRows {
    pub(super) fn new(
        path: &Path,
        header: &Arc<[String]>,
        signs: Signs,
        longest_cell: usize,
        kept: &Kept,
    ) -> Self {
        Self {
            path: path.to_owned(),
            header: Arc::clone(header),
            signs,
            longest_cell,
            batch: BatchBuilder::of_columns(header, kept.clone()),
            row: RowBuffer::default(),
            cells: Vec::new(),
        }
    }

    /// Takes a row that has nothing special, as nearly all do, without a copy on the way, and gives its bytes with its end; `None`
    /// where it is left to [`take_row`](Self::take_row).
    fn take_plain_row(&mut self, text: &str, place: Place) -> Option<usize> {
        let row = plain_row(text.as_bytes(), self.signs, &mut self.cells)?;
        let cells = self.cells.as_slice();
        let first = cells.first().and_then(|cell| text.get(cell.clone())).unwrap_or_default();
        if cells.len() != self.header.len() || row.length > self.longest_cell || self.may_be_header(first) {
            return None;
        }
        let cell = |nth: usize| cells.get(nth).and_then(|cell| text.get(cell.clone())).unwrap_or_default();
        self.batch.push_row(place.number, place.line, cell);
        Some(row.with_end)
    }

    /// Whether the first cell of a row is that of the header.
    fn may_be_header(&self, first: &str) -> bool {
        let name = self.header.first().map_or("", String::as_str);
        // Few texts are as long as the name, and begin as it does or with a space.
        let begins = first.as_bytes().first();
        let may_begin = begins == name.as_bytes().first() || !begins.is_some_and(u8::is_ascii_graphic);
        may_begin && first.trim() == name
    }

    /// Takes the row that bytes begin with, whatever it is, and gives its bytes with its end.
    fn take_row(&mut self, bytes: &[u8], place: Place) -> Result<usize, RecordsError> {
        let (length, with_end) = match RowScan::of(self.signs).scan(bytes, true) {
            Scanned::Row { length, with_end, quotes } => {
                let most = self.header.len() + CELLS_TOO_MANY;
                if self.row.take(&bytes[..length], self.signs, quotes, most) > self.longest_cell {
                    return Err(long_cell(&self.path, place.line, self.longest_cell));
                }
                self.push_cells(place);
                return Ok(with_end);
            }
            Scanned::Broken { length, with_end } => (length, with_end),
            // What breaks the row comes after the chunk, which was cut at the end of its first line.
            Scanned::Unfinished => first_line(bytes),
        };
        let beginning = beginning_of(&bytes[..length]);
        self.push_broken(place, RowFault::StrayQuote, beginning);
        Ok(with_end)
    }

    /// Takes the cells of a row, if they are as many as there are columns, and texts.
    fn push_cells(&mut self, place: Place) {
        let (found, expected) = (self.row.count(), self.header.len() as u64);
        let fault = match self.row.as_text() {
            _ if found > expected => RowFault::TooManyCells { found, expected },
            _ if found < expected => RowFault::TooFewCells { found, expected },
            None => RowFault::NotUtf8,
            Some(_) if self.row.repeats(&self.header) => RowFault::HeaderAgain,
            Some(text) => {
                let row = &self.row;
                self.batch.push_row(place.number, place.line, |nth| row.cell(text, nth));
                return;
            }
        };
        self.push_broken(place, fault, self.row.beginning());
    }

    fn push_broken(&mut self, Place { number, line }: Place, fault: RowFault, beginning: String) {
        self.batch.push_broken(BrokenRow { number, line, fault, beginning });
    }
}

/// The bytes of the first line, and with its end.
fn first_line(bytes: &[u8]) -> (usize, usize) {
    match memchr::memchr2(b'\r', b'\n', bytes) {
        Some(at) if bytes[at..].starts_with(b"\r\n") => (at, at + 2),
        Some(at) => (at, at + 1),
        None => (bytes.len(), bytes.len()),
    }
}
