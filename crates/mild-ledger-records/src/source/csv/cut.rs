//! Where bytes can be cut so that whole rows come before the cut.

use super::line_counter::LineCounter;
use super::scan::{RowScan, Scanned};
use crate::source::ChunkSize;
use crate::source::file_form::Signs;
use crate::source::text_source::Cut;

/// The last cut within some bytes in which all is as nearly all files have it: quotes around whole cells only, line feeds, perhaps
/// after a return, and no empty line; no more rows than are wanted come before it. `None` where there is anything else, or no whole row. A file
/// that ends with the bytes ends its last row.
pub(super) fn cut_plain(
    bytes: &[u8],
    signs: Signs,
    is_whole: bool,
    most: u64,
    lines: &mut LineCounter,
) -> Option<Cut> {
    let mut found = Found { most, ..Found::default() };
    let mut from = 0;
    while let Some(at) = memchr::memchr2(signs.quote, b'\r', &bytes[from..]) {
        let special = from + at;
        found.take(bytes, from, special)?;
        if found.is_full() {
            return found.cut(lines);
        }
        from = match bytes[special] {
            quote if quote == signs.quote => match behind_quoted(bytes, signs, special)? {
                Some(behind) => {
                    found.lines_within += count_of(b'\n', &bytes[special..behind]);
                    behind
                }
                // The row that is open comes after the cut.
                None if is_whole => return None,
                None => return found.cut(lines),
            },
            _ => match bytes.get(special + 1) {
                Some(b'\n') if special > 0 && bytes[special - 1] != b'\n' => special + 1,
                None if !is_whole => return found.cut(lines),
                _ => return None,
            },
        };
    }
    found.take(bytes, from, bytes.len())?;
    if is_whole && !found.is_full() && found.behind < bytes.len() {
        found.behind = bytes.len();
        found.rows += 1;
        found.lines += found.lines_within;
    }
    found.cut(lines)
}

/// What comes before the end of the last row that was met.
#[derive(Debug, Default)]
struct Found {
    /// Rows that are wanted at most.
    most: u64,
    behind: usize,
    rows: u64,
    lines: u64,
    /// Line feeds within the quotes of the row that is open.
    lines_within: u64,
}

impl Found {
    /// Takes a stretch of bytes outside of quotes; `None` where a line of it is empty.
    fn take(&mut self, bytes: &[u8], from: usize, to: usize) -> Option<()> {
        let stretch = &bytes[from..to];
        let Some(last) = memchr::memrchr(b'\n', stretch) else { return Some(()) };
        let with_one_before = &bytes[from.saturating_sub(1)..to];
        let is_empty_first = from == 0 && stretch.first() == Some(&b'\n');
        if is_empty_first || memchr::memmem::find(with_one_before, b"\n\n").is_some() {
            return None;
        }
        let (ends, wanted) = (count_of(b'\n', stretch), self.most - self.rows);
        let (ends, last) = match usize::try_from(wanted.saturating_sub(1)) {
            Ok(nth) if ends > wanted => (wanted, memchr::memchr_iter(b'\n', stretch).nth(nth)?),
            _ => (ends, last),
        };
        self.rows += ends;
        self.lines += ends + std::mem::take(&mut self.lines_within);
        self.behind = from + last + 1;
        Some(())
    }

    /// Whether there are as many rows as are wanted.
    fn is_full(&self) -> bool {
        self.rows == self.most
    }

    fn cut(&self, lines: &mut LineCounter) -> Option<Cut> {
        if self.rows == 0 {
            return None;
        }
        lines.pass_lines(self.lines);
        Some(Cut { bytes: self.behind, rows: self.rows })
    }
}

fn count_of(byte: u8, bytes: &[u8]) -> u64 {
    memchr::memchr_iter(byte, bytes).count() as u64
}

/// The place after the quote that ends a cell which begins with one; nothing where it does not end, or what follows has not come
/// yet. `None` where the quotes are not those around a whole cell, or a return is between them.
fn behind_quoted(bytes: &[u8], signs: Signs, quote: usize) -> Option<Option<usize>> {
    let is_end = |byte: u8| byte == signs.separator || byte == b'\n';
    let begins = quote == 0 || is_end(bytes[quote - 1]);
    if !begins {
        return None;
    }
    let mut from = quote + 1;
    loop {
        let Some(at) = memchr::memchr2(signs.quote, b'\r', &bytes[from..]) else { return Some(None) };
        let place = from + at;
        if bytes[place] == b'\r' {
            return None;
        }
        match bytes.get(place + 1) {
            Some(byte) if *byte == signs.quote => from = place + 2,
            Some(byte) if is_end(*byte) || *byte == b'\r' => return Some(Some(place + 1)),
            Some(_) => return None,
            None => return Some(None),
        }
    }
}

/// The findings where rows were looked at one by one.
#[derive(Debug, PartialEq, Eq)]
pub(super) enum Met {
    /// Whole rows, or nothing but line ends.
    Rows(Cut),
    /// The first row, which begins after a number of bytes of line ends, does not end within the bytes.
    Unfinished { begins: usize },
}

/// The last cut within some bytes with no more before it than a chunk may hold, row by row, whatever they are; the scan is that of the first row, so
/// that none of its bytes is looked at twice when more of them come.
pub(super) fn cut_by_rows(
    bytes: &[u8],
    is_whole: bool,
    most: ChunkSize,
    lines: &mut LineCounter,
    first: &mut RowScan,
) -> Met {
    let mut cut = Cut { bytes: 0, rows: 0 };
    loop {
        let mut begins = cut.bytes + line_ends_before(&bytes[cut.bytes..]);
        // A line feed that has not come yet may belong to the same line end.
        let is_half = begins == bytes.len() && bytes.last() == Some(&b'\r') && !is_whole;
        begins -= usize::from(is_half && begins > cut.bytes);
        if cut.rows == most.rows || begins >= most.bytes || begins + usize::from(is_half) == bytes.len() {
            lines.pass(&bytes[cut.bytes..begins]);
            return Met::Rows(Cut { bytes: begins, rows: cut.rows });
        }
        let row = &bytes[begins..];
        let mut next = RowScan::of(first.signs());
        let scan = if cut.rows == 0 { &mut *first } else { &mut next };
        let (with_end, is_line) = match scan.scan(row, is_whole) {
            Scanned::Unfinished if cut.rows == 0 => return Met::Unfinished { begins },
            Scanned::Unfinished => return Met::Rows(cut),
            Scanned::Row { length, with_end, quotes } => {
                (with_end, quotes == super::scan::Quotes::None && with_end > length)
            }
            Scanned::Broken { with_end, .. } => (with_end, false),
        };
        lines.pass(&bytes[cut.bytes..begins]);
        if is_line {
            lines.pass_one()
        } else {
            lines.pass(&row[..with_end])
        }
        cut = Cut { bytes: begins + with_end, rows: cut.rows + 1 };
    }
}

fn line_ends_before(bytes: &[u8]) -> usize {
    bytes.iter().take_while(|byte| matches!(byte, b'\r' | b'\n')).count()
}
