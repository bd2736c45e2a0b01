//! Rows as nearly all are: on one line, with no quote but those around a whole cell.

use std::ops::Range;

/// So many bytes, and so many more with the line end.
#[derive(Debug, PartialEq, Eq)]
pub(super) struct PlainRow {
    pub(super) length: usize,
    pub(super) with_end: usize,
}

/// The row that bytes begin with, and where its cells stand in it; `None` where it is not plain, is empty, or does not end
/// within the bytes.
pub(super) fn plain_row(bytes: &[u8], cells: &mut Vec<Range<usize>>) -> Option<PlainRow> {
    cells.clear();
    let mut start = 0;
    loop {
        let (cell, behind) = match bytes.get(start)? {
            b'"' => {
                let end = start + 1 + memchr::memchr(b'"', &bytes[start + 1..])?;
                let cell = start + 1..end;
                if memchr::memchr2(b'\n', b'\r', &bytes[cell.clone()]).is_some() {
                    return None;
                }
                (cell, end + 1)
            }
            _ => {
                let end = end_of_plain(bytes, start)?;
                // The return of a line end is no part of the cell.
                let is_return = bytes[end] == b'\n' && end > start && bytes[end - 1] == b'\r';
                let end = end - usize::from(is_return);
                (start..end, end)
            }
        };
        cells.push(cell);
        match bytes.get(behind..)? {
            [b',', ..] => start = behind + 1,
            [b'\n', ..] => return ended(bytes, behind, behind + 1),
            [b'\r', b'\n', ..] => return ended(bytes, behind, behind + 2),
            _ => return None,
        }
    }
}

/// The first comma, line feed or quote from a place on. Cells are short, so that eight bytes at a time, looked at here, are
/// quicker than a search that is called for each.
fn end_of_plain(bytes: &[u8], from: usize) -> Option<usize> {
    let mut at = from;
    while let Some(eight) = bytes.get(at..).and_then(<[u8]>::first_chunk) {
        let eight = u64::from_le_bytes(*eight);
        let found = marks_of(eight, b',') | marks_of(eight, b'\n') | marks_of(eight, b'"');
        if found != 0 {
            return Some(at + found.trailing_zeros() as usize / 8);
        }
        at += 8;
    }
    let rest = bytes.get(at..)?;
    rest.iter().position(|byte| matches!(byte, b',' | b'\n' | b'"')).map(|behind| at + behind)
}

/// A mark in each byte of eight that is this one; above the first there may be marks too many.
fn marks_of(eight: u64, byte: u8) -> u64 {
    const ONES: u64 = u64::from_le_bytes([1; 8]);
    const HIGH: u64 = u64::from_le_bytes([0x80; 8]);
    let zero_there = eight ^ (ONES * u64::from(byte));
    zero_there.wrapping_sub(ONES) & !zero_there & HIGH
}

/// A return that ends no line ends a row all the same, and a row of nothing is none.
fn ended(bytes: &[u8], length: usize, with_end: usize) -> Option<PlainRow> {
    let has_return = memchr::memchr(b'\r', &bytes[..length]).is_some();
    (length > 0 && !has_return).then_some(PlainRow { length, with_end })
}

#[cfg(test)]
mod tests {
    use super::{end_of_plain, plain_row};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn ends_are_those_that_are_found_byte_by_byte(
            bytes in prop::collection::vec(prop::sample::select(b"a,\n\"+\x0b\x0d!#-\x00\x80\xac\xff".to_vec()), 0..40),
            from in 0_usize..40,
        ) {
            let is_end = |byte: &u8| [b',', b'\n', b'"'].contains(byte);
            let expected = bytes.iter().enumerate().skip(from).find(|(_, byte)| is_end(byte)).map(|(at, _)| at);
            prop_assert_eq!(end_of_plain(&bytes, from), expected);
        }
    }

    fn cells_of(text: &str) -> Option<(Vec<&str>, usize)> {
        let mut cells = Vec::new();
        let row = plain_row(text.as_bytes(), &mut cells)?;
        Some((cells.into_iter().map(|cell| &text[cell]).collect(), row.with_end))
    }

    #[test]
    fn plain_rows_are_told_from_others() {
        assert_eq!(cells_of("a,\"b, c\",\nd"), Some((vec!["a", "b, c", ""], 10)));
        assert_eq!(cells_of("a,\"b\"\r\n"), Some((vec!["a", "b"], 7)));
        assert_eq!(cells_of("\"\",a\r\n"), Some((vec!["", "a"], 6)));
        for other in [
            "",
            "\n",
            "\r\n",
            "a",
            "a,b\r",
            "a\rb\n",
            "a,\"b\"\"c\"\n",
            "a,\"b\nc\"\n",
            "a\"b,c\n",
            "\"a\"b\n",
            "\"a",
        ] {
            assert_eq!(cells_of(other), None, "{other:?}");
        }
    }
}
