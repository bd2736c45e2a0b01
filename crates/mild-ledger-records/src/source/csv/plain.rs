//! Rows as nearly all are: on one line, with no quote but those around a whole cell.

use crate::source::file_form::Signs;
use std::ops::Range;

/// So many bytes, and so many more with the line end.
#[derive(Debug, PartialEq, Eq)]
pub(super) struct PlainRow {
    pub(super) length: usize,
    pub(super) with_end: usize,
}

/// The row that bytes begin with, and where its cells are in it; `None` where it is not plain, is empty, or does not end
/// within the bytes.
pub(super) fn plain_row(bytes: &[u8], signs: Signs, cells: &mut Vec<Range<usize>>) -> Option<PlainRow> {
    cells.clear();
    let mut marks = Marks::of(bytes, signs);
    let mut start = 0;
    loop {
        let mark = marks.next()?;
        let (cell, end) = match bytes[mark] {
            byte if byte == signs.quote && mark == start => {
                let quote = closing_quote(bytes, signs, &mut marks)?;
                // What ends the cell is right after the quote.
                let end = marks.next().filter(|end| *end == quote + 1)?;
                (start + 1..quote, end)
            }
            byte if byte == signs.quote => return None,
            _ => (start..mark, mark),
        };
        cells.push(cell);
        match bytes[end] {
            byte if byte == signs.separator => start = end + 1,
            b'\n' => return ended(end, end + 1),
            // A return that ends no line ends a row all the same.
            b'\r' if bytes.get(end + 1) == Some(&b'\n') => return ended(end, end + 2),
            _ => return None,
        }
    }
}

/// The quote that ends a cell which began with one; `None` where a line ends before.
fn closing_quote(bytes: &[u8], signs: Signs, marks: &mut Marks<'_>) -> Option<usize> {
    loop {
        let mark = marks.next()?;
        match bytes[mark] {
            byte if byte == signs.quote => return Some(mark),
            byte if byte == signs.separator => {}
            _ => return None,
        }
    }
}

/// A row of nothing is none.
fn ended(length: usize, with_end: usize) -> Option<PlainRow> {
    (length > 0).then_some(PlainRow { length, with_end })
}

/// The places of commas, quotes and line ends, found eight bytes at a time: they are so close together that a search that is
/// called for each takes longer.
struct Marks<'b> {
    bytes: &'b [u8],
    signs: Signs,
    /// Where the eight bytes are that are looked at.
    from: usize,
    /// The highest bit of each of them that is a mark and was not given yet.
    found: u64,
}

impl<'b> Marks<'b> {
    fn of(bytes: &'b [u8], signs: Signs) -> Self {
        Self { bytes, signs, from: 0, found: marks_of(bytes, signs) }
    }

    #[inline]
    fn next(&mut self) -> Option<usize> {
        while self.found == 0 {
            self.from += 8;
            self.found = marks_of(self.bytes.get(self.from..).filter(|rest| !rest.is_empty())?, self.signs);
        }
        let place = self.from + self.found.trailing_zeros() as usize / 8;
        self.found &= self.found - 1;
        Some(place)
    }
}

/// A bit for each of the first eight bytes that is a mark, the highest of its byte.
#[inline]
fn marks_of(bytes: &[u8], signs: Signs) -> u64 {
    let eight = match bytes.first_chunk() {
        Some(eight) => u64::from_le_bytes(*eight),
        None => {
            let mut eight = [0; 8];
            eight[..bytes.len()].copy_from_slice(bytes);
            u64::from_le_bytes(eight)
        }
    };
    bytes_that_are(eight, signs.separator)
        | bytes_that_are(eight, signs.quote)
        | bytes_that_are(eight, b'\n')
        | bytes_that_are(eight, b'\r')
}

/// The highest bit of each byte of eight that is this one.
#[inline]
fn bytes_that_are(eight: u64, byte: u8) -> u64 {
    const ONES: u64 = u64::from_le_bytes([1; 8]);
    const LOW: u64 = u64::from_le_bytes([0x7f; 8]);
    let zero_there = eight ^ (ONES * u64::from(byte));
    // No sum of seven bits and these runs over into the next byte.
    !(((zero_there & LOW) + LOW) | zero_there | LOW)
}

#[cfg(test)]
mod tests {
    use super::{Marks, Signs, plain_row};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn marks_are_those_that_are_found_byte_by_byte(
            bytes in prop::collection::vec(prop::sample::select(b"a,\n\r\"+\x0b\x0d!#-\x00\x80\xac\xff\x8a\xa2".to_vec()), 0..40),
        ) {
            let is_mark = |byte: &u8| b",\n\r\"".contains(byte);
            let expected: Vec<usize> =
                bytes.iter().enumerate().filter(|(_, byte)| is_mark(byte)).map(|(at, _)| at).collect();
            let mut marks = Marks::of(&bytes, Signs::default());
            let found: Vec<usize> = std::iter::from_fn(|| marks.next()).collect();
            prop_assert_eq!(found, expected);
        }
    }

    fn cells_of(text: &str) -> Option<(Vec<&str>, usize)> {
        let mut cells = Vec::new();
        let row = plain_row(text.as_bytes(), Signs::default(), &mut cells)?;
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
