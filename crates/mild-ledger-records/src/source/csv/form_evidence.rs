//! What the first rows of a file tell of its separator, its encoding and the line of its header.

use super::row_buffer::RowBuffer;
use super::scan::{RowScan, Scanned};
use crate::error::RecordsError;
use crate::files::HashKind;
use crate::source::file_bytes::FileBytes;
use crate::source::file_form::{Encoding, FileForm, Signs};
use crate::source::raw_bytes::RawBytes;
use std::collections::BTreeMap;
use std::fs::File;
use std::path::Path;

/// Bytes that are looked at.
const START: usize = 64 << 10;
/// Rows that are looked at.
const ROWS: usize = 60;
/// Separators that are tried, the one of RFC 4180 first.
const SEPARATORS: [u8; 4] = [b',', b';', b'\t', b'|'];

/// How a file of text seems to be written, from how it begins.
pub(super) fn form_of(path: &Path) -> Result<FileForm, RecordsError> {
    let begin = |encoding| -> Result<FileBytes, RecordsError> {
        let file = Box::new(File::open(path).map_err(RecordsError::file(path, "open it"))?);
        let raw = RawBytes::new(file, HashKind::default());
        let mut bytes = FileBytes::begin(path, raw, encoding)?;
        bytes.fill_to(START)?;
        Ok(bytes)
    };
    let mut bytes = begin(None)?;
    let mut encoding = None;
    if is_of_single_bytes(bytes.waiting()) {
        encoding = Some(Encoding::Windows1252);
        bytes = begin(encoding)?;
    }
    let (signs, header_line) = of_start(bytes.waiting(), bytes.is_at_end());
    Ok(FileForm { signs, header_line, encoding, ..FileForm::default() })
}

/// Whether more characters beyond ASCII are bytes by themselves, as in Windows-1252, than are characters of UTF-8; a row of UTF-8 that is
/// broken does not make the others something else.
fn is_of_single_bytes(start: &[u8]) -> bool {
    let (mut signs, mut bytes) = (0, 0);
    for chunk in start.utf8_chunks() {
        signs += chunk.valid().chars().filter(|sign| !sign.is_ascii()).count();
        bytes += chunk.invalid().len();
    }
    // A character that is cut off by the end is none that is wrong.
    let is_cut = std::str::from_utf8(start).is_err_and(|error| error.error_len().is_none());
    bytes > signs && !is_cut && !start.contains(&0)
}

/// A row as far as it tells how a file is written: its cells, those that are not blank, and the line that it begins on.
#[derive(Debug, Clone, Copy)]
struct RowSeen {
    cells: u64,
    filled: u64,
    line: u64,
}

/// The separator under which the most rows have the same number of cells, and the line of the first such row that is filled like
/// a header, where others come before it.
fn of_start(start: &[u8], is_whole: bool) -> (Signs, Option<u64>) {
    let mut best: Option<(u64, Signs, Vec<RowSeen>, u64)> = None;
    for separator in SEPARATORS {
        let signs = Signs { separator, ..Signs::default() };
        let rows = rows_of(start, signs, is_whole);
        let mut counts: BTreeMap<u64, u64> = BTreeMap::new();
        rows.iter().filter(|row| row.cells > 1).for_each(|row| *counts.entry(row.cells).or_default() += 1);
        let Some((cells, rows_alike)) = counts.into_iter().max_by_key(|(cells, rows)| (*rows, *cells)) else {
            continue;
        };
        if best.as_ref().is_none_or(|(most, ..)| rows_alike > *most) {
            best = Some((rows_alike, signs, rows, cells));
        }
    }
    let Some((_, signs, rows, cells)) = best else { return (Signs::default(), None) };
    // A title may have as many cells as the table, nearly all of them blank.
    let is_header = |row: &&RowSeen| row.cells == cells && row.filled * 2 > cells;
    let header = rows.iter().find(is_header);
    let first = rows.first().map_or(1, |row| row.line);
    (signs, header.map(|row| row.line).filter(|line| *line > first))
}

/// The first rows of some bytes; a broken one is passed over as a line.
fn rows_of(start: &[u8], signs: Signs, is_whole: bool) -> Vec<RowSeen> {
    let mut rows = Vec::new();
    let (mut at, mut line) = (0, 1);
    let mut cells = RowBuffer::default();
    let lines_of = |bytes: &[u8]| memchr::memchr_iter(b'\n', bytes).count() as u64;
    while at < start.len() && rows.len() < ROWS {
        let rest = &start[at..];
        let ends = rest.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count();
        if ends > 0 {
            line += lines_of(&rest[..ends]);
            at += ends;
            continue;
        }
        match RowScan::of(signs).scan(rest, is_whole) {
            Scanned::Row { length, with_end, quotes } => {
                cells.take(&rest[..length], signs, quotes, usize::from(u16::MAX));
                rows.push(RowSeen { cells: cells.count(), filled: cells.filled(), line });
                line += lines_of(&rest[..with_end]);
                at += with_end;
            }
            Scanned::Broken { with_end, .. } => {
                rows.push(RowSeen { cells: 1, filled: 1, line });
                line += lines_of(&rest[..with_end]);
                at += with_end;
            }
            Scanned::Unfinished => break,
        }
    }
    rows
}

#[cfg(test)]
mod tests {
    use super::{is_of_single_bytes, of_start};

    fn found(text: &str) -> (char, Option<u64>) {
        let (signs, header) = of_start(text.as_bytes(), true);
        (char::from(signs.separator), header)
    }

    #[test]
    fn one_broken_sign_does_not_make_a_file_another_encoding() {
        assert!(is_of_single_bytes(b"Caf\xe9, S\xf8n"));
        assert!(!is_of_single_bytes("Café, Søn".as_bytes()));
        assert!(!is_of_single_bytes(&["Café, Søn".as_bytes(), b" \xe9"].concat()));
        assert!(!is_of_single_bytes(&"Søn".as_bytes()[..2]));
        assert!(!is_of_single_bytes(b"plain"));
    }

    #[test]
    fn the_separator_and_the_header_are_those_of_most_rows() {
        assert_eq!(found("a,b\n1,2\n3,4\n"), (',', None));
        assert_eq!(found("a;b\n1,5;2,5\n3;4\n"), (';', None));
        assert_eq!(found("a\tb, c\td\n1\t2\t3\n"), ('\t', None));
        assert_eq!(found("a|b\n\"1|2\"|3\n"), ('|', None));
        assert_eq!(found("Receivables\nSeptember, in part\n\na,b,c\n1,2,3\n4,5,6\n"), (',', Some(4)));
        assert_eq!(found("Receivables,,\na,b,c\n1,2,3\n"), (',', Some(2)));
        assert_eq!(found("a\n1\n2\n"), (',', None));
        assert_eq!(found(""), (',', None));
    }
}
