//! A CSV file cut into chunks of whole rows.

use super::cut::{Met, cut_by_rows, cut_plain};
use super::kind_of_file::{other_kind, other_separator};
use super::line_counter::LineCounter;
use super::row_buffer::RowBuffer;
use super::rows::CsvRows;
use super::scan::{RowScan, Scanned};
use super::too_long::{long_cell, long_row};
use crate::error::RecordsError;
use crate::source::file_bytes::FileBytes;
use crate::source::file_form::Signs;
use crate::source::text_source::{Cut, Cutter, TextSource};
use crate::source::{ChunkReader, ChunkSize, OwnFile, Piece, Reading};
use crate::table::Kept;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The longest row that is read, where no longer cell is allowed.
const LONGEST_ROW: usize = 64 << 20;
/// The most columns of a header.
const MOST_COLUMNS: usize = 16_384;

/// Finds where rows end.
pub(super) struct CsvCutter {
    path: PathBuf,
    lines: LineCounter,
    /// How far the row that waits was looked at.
    scan: RowScan,
    longest_cell: usize,
}

impl Cutter for CsvCutter {
    fn line(&self) -> u64 {
        self.lines.line()
    }

    fn cut(&mut self, bytes: &FileBytes, most: ChunkSize) -> Result<Option<Cut>, RecordsError> {
        let (waiting, is_whole) = (bytes.waiting(), bytes.is_at_end());
        let window = waiting.get(..most.bytes).unwrap_or(waiting);
        let ends_there = is_whole && window.len() == waiting.len();
        let plain = cut_plain(window, self.scan.signs(), ends_there, most.rows, &mut self.lines);
        if plain.is_some() {
            return Ok(plain);
        }
        match cut_by_rows(waiting, is_whole, most, &mut self.lines, &mut self.scan) {
            Met::Rows(cut) if cut.bytes > 0 => {
                self.scan = RowScan::of(self.scan.signs());
                Ok(Some(cut))
            }
            Met::Rows(_) => Ok(None),
            Met::Unfinished { begins } => {
                let mut lines = self.lines.clone();
                lines.pass(&waiting[..begins]);
                if is_whole {
                    return Err(open_quote(bytes, lines.line()));
                }
                self.check_row(lines.line(), waiting.len() - begins)?;
                Ok(None)
            }
        }
    }

    fn chunk_reader(&self, columns: &Arc<[String]>, kept: &Kept) -> Box<dyn ChunkReader> {
        Box::new(CsvRows::new(&self.path, columns, self.scan.signs(), self.longest_cell, kept))
    }
}

/// Opens a file of records, and reads its header; one of another kind is called what it is.
pub(super) fn open(path: &Path, reading: &Reading) -> Result<TextSource<CsvCutter>, RecordsError> {
    let mut bytes = FileBytes::begin(path, reading.raw_bytes(path)?, reading.form.encoding)?;
    if let Some((kind, help)) = other_kind(bytes.waiting()) {
        return Err(bytes.broken(1, format!("this is not CSV in UTF-8 but {kind}"), help));
    }
    let mut cutter = CsvCutter::new(path, reading.form.signs, reading.longest_cell);
    cutter.pass_lines_before(reading.form.header_line, &mut bytes)?;
    let header = cutter.read_header(&mut bytes)?;
    if let Some((sign, separators)) = other_separator(&header, reading.form.signs.separator) {
        let what = format!("the cells of the header are separated by {separators}");
        let help = format!("set it in the plan: separator = \"{sign}\" under [records]");
        return Err(bytes.broken(cutter.lines.line().saturating_sub(1).max(1), what, help));
    }
    Ok(TextSource::new(reading.source, bytes, cutter, header, Kept::All))
}

/// Opens a piece of a file of records.
pub(super) fn open_piece(
    path: &Path,
    reading: &Reading,
    columns: Vec<String>,
    piece: &Piece,
) -> Result<TextSource<CsvCutter>, RecordsError> {
    let (place, first_line) = piece.bytes(path)?;
    let mut cutter = CsvCutter::new(path, reading.form.signs, reading.longest_cell);
    cutter.lines = LineCounter::at(first_line);
    TextSource::of_piece(path, reading, (place, piece.first_row), (cutter, columns))
}

/// Rows that come from elsewhere than a file, as RFC 4180 has them, their header first.
#[cfg(feature = "postgres")]
pub(in crate::source) fn open_stream(
    path: &Path,
    input: Box<dyn std::io::Read + Send>,
    reading: &Reading,
) -> Result<Box<dyn crate::source::Source>, RecordsError> {
    let mut bytes = FileBytes::begin_own(path, input, reading.hash)?;
    let mut cutter = CsvCutter::new(path, Signs::default(), reading.longest_cell);
    let header = cutter.read_header(&mut bytes)?;
    Ok(Box::new(TextSource::new(reading.source, bytes, cutter, header, Kept::All)))
}

/// Opens a file that this program wrote.
pub(super) fn open_own(file: OwnFile) -> Result<TextSource<CsvCutter>, RecordsError> {
    let mut bytes = FileBytes::begin_own(&file.path, file.input, file.hash)?;
    let mut cutter = CsvCutter::new(&file.path, file.signs, usize::MAX);
    let header = cutter.read_header(&mut bytes)?;
    Ok(TextSource::new(0, bytes, cutter, header, file.kept))
}

impl CsvCutter {
    fn new(path: &Path, signs: Signs, longest_cell: usize) -> Self {
        Self { path: path.to_owned(), lines: LineCounter::at(1), scan: RowScan::of(signs), longest_cell }
    }

    /// Passes what comes before the line of the header, as lines whatever they hold.
    fn pass_lines_before(&mut self, line: Option<u64>, bytes: &mut FileBytes) -> Result<(), RecordsError> {
        while let Some(line) = line
            && self.lines.line() < line
        {
            match memchr::memchr(b'\n', bytes.waiting()) {
                Some(at) => {
                    bytes.take(at + 1);
                    self.lines.pass_one();
                }
                None if bytes.is_at_end() => {
                    let what = format!("the file ends before line {line}, where the plan says its header is");
                    return Err(bytes.broken(self.lines.line(), what, "header_line under [records]"));
                }
                None => {
                    self.check_row(self.lines.line(), bytes.waiting().len())?;
                    bytes.fill()?;
                }
            }
        }
        Ok(())
    }

    /// The names of the columns, which the first row that is not empty has.
    fn read_header(&mut self, bytes: &mut FileBytes) -> Result<Vec<String>, RecordsError> {
        let mut row = RowBuffer::default();
        let line = loop {
            // Empty lines may be before it.
            let waiting = bytes.waiting();
            let empty = waiting.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count();
            self.lines.pass(&waiting[..empty]);
            bytes.take(empty);
            let (waiting, is_whole) = (bytes.waiting(), bytes.is_at_end());
            let line = self.lines.line();
            match self.scan.scan(waiting, is_whole) {
                _ if waiting.is_empty() && is_whole => {
                    let help = "a header with the names of the columns was expected";
                    return Err(bytes.broken(1, "the file is empty", help));
                }
                Scanned::Broken { .. } => {
                    let what = "the header has a quote where none may be";
                    return Err(bytes.broken(line, what, "quotes are around a whole cell"));
                }
                Scanned::Row { length, with_end, quotes } => {
                    let longest = row.take(&waiting[..length], self.scan.signs(), quotes, MOST_COLUMNS);
                    self.lines.pass(&waiting[..with_end]);
                    bytes.take(with_end);
                    if longest > self.longest_cell {
                        return Err(long_cell(&self.path, line, self.longest_cell));
                    }
                    break line;
                }
                Scanned::Unfinished if is_whole => return Err(open_quote(bytes, line)),
                Scanned::Unfinished => self.check_row(line, waiting.len())?,
            }
            bytes.fill()?;
        };
        self.scan = RowScan::of(self.scan.signs());
        if row.has_too_many() {
            let help = format!("at most {MOST_COLUMNS} columns are read");
            return Err(bytes.broken(line, "the header has too many columns", help));
        }
        let Some(names) = row.names() else {
            let what = "the header holds bytes that are not UTF-8";
            return Err(bytes.broken(
                line,
                what,
                "save the file as UTF-8, or name its encoding under [records]",
            ));
        };
        if names.iter().all(String::is_empty) {
            let help = "the names of the columns were expected";
            return Err(bytes.broken(line, "the header has no names", help));
        }
        Ok(names)
    }

    /// A row that runs on and on is most often one with a quote that was never closed.
    fn check_row(&self, line: u64, length: usize) -> Result<(), RecordsError> {
        let longest_row = LONGEST_ROW.max(self.longest_cell);
        if self.scan.open_cell() > self.longest_cell {
            return Err(long_cell(&self.path, line, self.longest_cell));
        }
        if length > longest_row {
            return Err(long_row(&self.path, line, longest_row));
        }
        Ok(())
    }
}

fn open_quote(bytes: &FileBytes, line: u64) -> RecordsError {
    bytes.broken(
        line,
        "a quoted cell that begins in this row is never closed",
        "a closing \" was expected before the end of the file",
    )
}
