//! Where bytes can be cut so that whole rows stand before the cut.

use super::line_counter::LineCounter;
use super::scan::{RowScan, Scanned};

/// What stands before a cut.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct Cut {
    pub(super) bytes: usize,
    /// Rows, broken ones among them.
    pub(super) rows: u64,
}

/// The last cut within some bytes that hold neither a quote nor a carriage return, where a line is a row if it is not empty; `None`
/// where they hold another byte, or more rows than are wanted, or no whole one. A file that ends with them ends its last row.
pub(super) fn cut_plain(bytes: &[u8], is_whole: bool, most: u64, lines: &mut LineCounter) -> Option<Cut> {
    if memchr::memchr2(b'"', b'\r', bytes).is_some() {
        return None;
    }
    let length = match memchr::memrchr(b'\n', bytes) {
        _ if is_whole => bytes.len(),
        Some(last) => last + 1,
        None => return None,
    };
    let cut = bytes.get(..length)?;
    let ends = memchr::memchr_iter(b'\n', cut).count() as u64;
    let last = u64::from(cut.last().is_some_and(|last| *last != b'\n'));
    let rows = ends + last - empty_lines(cut);
    if rows > most || rows == 0 {
        return None;
    }
    lines.pass_lines(ends);
    Some(Cut { bytes: length, rows })
}

/// Lines of nothing among lines that end with a line feed.
fn empty_lines(bytes: &[u8]) -> u64 {
    let at_start = u64::from(bytes.first() == Some(&b'\n'));
    if memchr::memmem::find(bytes, b"\n\n").is_none() {
        return at_start;
    }
    let behind = bytes.iter().zip(bytes.iter().skip(1)).filter(|pair| *pair == (&b'\n', &b'\n')).count();
    at_start + behind as u64
}

/// What was met where rows were looked at one by one.
#[derive(Debug, PartialEq, Eq)]
pub(super) enum Met {
    /// Whole rows, or nothing but line ends.
    Rows(Cut),
    /// The first row, which begins behind so many bytes of line ends, does not end within the bytes.
    Unfinished { begins: usize },
}

/// The last cut within some bytes with so many rows at most, row by row, whatever they hold; the scan is that of the first row, so
/// that none of its bytes is looked at twice when more of them come.
pub(super) fn cut_by_rows(
    bytes: &[u8],
    is_whole: bool,
    (most_bytes, most_rows): (usize, u64),
    lines: &mut LineCounter,
    first: &mut RowScan,
) -> Met {
    let mut cut = Cut { bytes: 0, rows: 0 };
    loop {
        let mut begins = cut.bytes + line_ends_before(&bytes[cut.bytes..]);
        // A line feed that has not come yet may belong to the same line end.
        let is_half = begins == bytes.len() && bytes.last() == Some(&b'\r') && !is_whole;
        begins -= usize::from(is_half && begins > cut.bytes);
        if cut.rows == most_rows || cut.bytes >= most_bytes || begins + usize::from(is_half) == bytes.len() {
            lines.pass(&bytes[cut.bytes..begins]);
            return Met::Rows(Cut { bytes: begins, rows: cut.rows });
        }
        let row = &bytes[begins..];
        let mut next = RowScan::new();
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
