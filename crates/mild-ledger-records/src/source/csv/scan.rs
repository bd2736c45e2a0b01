//! Where a row ends, and what its cells are: strictly by RFC 4180, with any separator and quote, so that a stray quote costs one
//! row and never the next.

use crate::source::file_form::Signs;

/// What is at the beginning of some bytes.
#[derive(Debug, PartialEq, Eq)]
pub(super) enum Scanned {
    /// A row of a number of bytes, and of so many more with its line end; with or without quotes in it.
    Row { length: usize, with_end: usize, quotes: Quotes },
    /// A row with a quote where none may be: a number of bytes to the end of its first line, and with the line end.
    Broken { length: usize, with_end: usize },
    /// The bytes end before the row does.
    Unfinished,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Quotes {
    None,
    Some,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum State {
    CellBegins,
    Plain,
    Quoted,
    /// After a quote within quotes: the end of the cell, or the first of two.
    QuoteWithin,
}

/// How far a row was looked at, so that no byte is looked at twice when more of them come.
#[derive(Debug, Clone, Copy)]
pub(super) struct RowScan {
    signs: Signs,
    state: State,
    looked_at: usize,
    /// The end of the first line, where a line end within quotes was met.
    first_line: Option<usize>,
    /// Where the quoted cell that is open begins.
    quoted_from: usize,
    has_quotes: bool,
    is_broken: bool,
}

impl RowScan {
    pub(super) fn of(signs: Signs) -> Self {
        Self {
            signs,
            state: State::CellBegins,
            looked_at: 0,
            first_line: None,
            quoted_from: 0,
            has_quotes: false,
            is_broken: false,
        }
    }

    pub(super) fn signs(&self) -> Signs {
        self.signs
    }

    /// Looks at a row, which the bytes begin with; the end of the file ends a row as a line end does, but not within quotes.
    pub(super) fn scan(&mut self, bytes: &[u8], is_whole: bool) -> Scanned {
        let Signs { separator, quote } = self.signs;
        while !self.is_broken {
            let rest = &bytes[self.looked_at..];
            let next = match self.state {
                State::QuoteWithin => (!rest.is_empty()).then_some(0),
                // Separators matter only for where a quote may be, so the quotes are what is looked for.
                _ => memchr::memchr3(quote, b'\r', b'\n', rest),
            };
            let Some(at) = next else {
                if self.state != State::Quoted && !rest.is_empty() {
                    self.state = plain_behind(rest, separator);
                }
                self.looked_at = bytes.len();
                return match (is_whole, self.state) {
                    (true, State::Quoted) | (false, _) => Scanned::Unfinished,
                    (true, _) => self.row(bytes.len(), bytes.len()),
                };
            };
            let place = self.looked_at + at;
            if self.state != State::Quoted && at > 0 {
                self.state = plain_behind(&rest[..at], separator);
            }
            match (self.state, bytes[place]) {
                (State::Quoted, byte) if byte == quote => self.state = State::QuoteWithin,
                (State::Quoted, _) => {
                    self.first_line.get_or_insert(place);
                }
                (State::CellBegins, byte) if byte == quote => {
                    (self.state, self.has_quotes, self.quoted_from) = (State::Quoted, true, place);
                }
                (State::QuoteWithin, byte) if byte == quote => self.state = State::Quoted,
                (State::QuoteWithin, byte) if byte == separator => self.state = State::CellBegins,
                (_, b'\r') => {
                    // Whether a line feed follows belongs to the same line end.
                    match bytes.get(place + 1) {
                        None if !is_whole => {
                            self.looked_at = place;
                            return Scanned::Unfinished;
                        }
                        Some(b'\n') => return self.row(place, place + 2),
                        _ => return self.row(place, place + 1),
                    }
                }
                (_, b'\n') => return self.row(place, place + 1),
                _ => self.is_broken = true,
            }
            self.looked_at = place + 1;
        }
        self.broken(bytes, is_whole)
    }

    /// Bytes of the quoted cell that is open, as they are in the file.
    pub(super) fn open_cell(&self) -> usize {
        if self.state == State::Quoted { self.looked_at.saturating_sub(self.quoted_from) } else { 0 }
    }

    fn row(&self, length: usize, with_end: usize) -> Scanned {
        let quotes = if self.has_quotes { Quotes::Some } else { Quotes::None };
        Scanned::Row { length, with_end, quotes }
    }

    /// The first line of a broken row, to its end.
    fn broken(&mut self, bytes: &[u8], is_whole: bool) -> Scanned {
        let from = self.first_line.unwrap_or(self.looked_at.saturating_sub(1));
        let end = match memchr::memchr2(b'\r', b'\n', &bytes[from..]) {
            Some(at) => from + at,
            None if is_whole => return Scanned::Broken { length: bytes.len(), with_end: bytes.len() },
            None => {
                self.looked_at = bytes.len() + 1;
                return Scanned::Unfinished;
            }
        };
        match (bytes[end], bytes.get(end + 1)) {
            (b'\r', None) if !is_whole => {
                self.first_line = Some(end);
                Scanned::Unfinished
            }
            (b'\r', Some(b'\n')) => Scanned::Broken { length: end, with_end: end + 2 },
            _ => Scanned::Broken { length: end, with_end: end + 1 },
        }
    }
}

/// Where a cell is after some bytes without quotes and line ends.
fn plain_behind(bytes: &[u8], separator: u8) -> State {
    if bytes.last() == Some(&separator) { State::CellBegins } else { State::Plain }
}

/// What the cells of a row came to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct CellsOf {
    /// Cells beyond the most that were asked for.
    pub(super) dropped: u64,
    /// Bytes of the longest cell as it is in the file.
    pub(super) longest: usize,
}

/// Puts the cells of a row, which was found to be one, into a text, with the end of each; at most so many cells, the
/// others are counted.
pub(super) fn put_cells(
    row: &[u8],
    signs: Signs,
    quotes: Quotes,
    text: &mut Vec<u8>,
    ends: &mut Vec<usize>,
    most: usize,
) -> CellsOf {
    let mut cells = CellsOf { dropped: 0, longest: 0 };
    let mut end_cell = |text: &mut Vec<u8>, length: usize| {
        cells.longest = cells.longest.max(length);
        if ends.len() < most {
            ends.push(text.len());
        } else {
            cells.dropped += 1;
            text.truncate(ends.last().copied().unwrap_or(0));
        }
    };
    let mut rest = row;
    loop {
        let after =
            match rest.split_first().filter(|(first, _)| quotes == Quotes::Some && **first == signs.quote) {
                Some((_, quoted)) => put_quoted(quoted, signs.quote, text),
                None => {
                    let at = memchr::memchr(signs.separator, rest).unwrap_or(rest.len());
                    text.extend_from_slice(&rest[..at]);
                    &rest[at..]
                }
            };
        end_cell(text, rest.len() - after.len());
        match after.split_first() {
            Some((_, more)) => rest = more,
            None => return cells,
        }
    }
}

/// Puts what is within quotes into a text; gives what comes after the closing one.
fn put_quoted<'r>(quoted: &'r [u8], quote: u8, text: &mut Vec<u8>) -> &'r [u8] {
    let mut quoted = quoted;
    loop {
        // The row was found whole, so each quote has its other one.
        let at = memchr::memchr(quote, quoted).unwrap_or(quoted.len());
        text.extend_from_slice(&quoted[..at]);
        quoted = quoted.get(at + 1..).unwrap_or_default();
        match quoted.split_first().filter(|(first, _)| **first == quote) {
            Some((_, more)) => {
                text.push(quote);
                quoted = more;
            }
            None => return quoted,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{Quotes, RowScan, Scanned, Signs, put_cells};
    use proptest::prelude::*;

    /// Rows, each its cells, or the first line of a broken one.
    type Rows = Vec<Result<Vec<Vec<u8>>, Vec<u8>>>;

    /// The rows of a text as a person would distinguish them, character by character: the cells, or the first line of a broken one.
    fn naive(text: &[u8]) -> Result<Rows, ()> {
        let mut rows = Vec::new();
        let mut at = 0;
        while at < text.len() {
            let (mut cells, mut cell, mut place) = (Vec::new(), Vec::new(), at);
            let is_end = |place: usize| place >= text.len() || matches!(text[place], b'\r' | b'\n');
            let mut broken = false;
            loop {
                if place < text.len() && text[place] == b'"' {
                    place += 1;
                    loop {
                        match (text.get(place), text.get(place + 1)) {
                            (None, _) => return Err(()),
                            (Some(b'"'), Some(b'"')) => {
                                cell.push(b'"');
                                place += 2;
                            }
                            (Some(b'"'), _) => {
                                place += 1;
                                break;
                            }
                            (Some(byte), _) => {
                                cell.push(*byte);
                                place += 1;
                            }
                        }
                    }
                } else {
                    while !is_end(place) && text[place] != b',' && text[place] != b'"' {
                        cell.push(text[place]);
                        place += 1;
                    }
                }
                cells.push(std::mem::take(&mut cell));
                if place < text.len() && text[place] == b',' {
                    place += 1;
                    continue;
                }
                broken |= !is_end(place);
                break;
            }
            let mut end = place;
            if broken {
                end = at;
                while !is_end(end) {
                    end += 1;
                }
                rows.push(Err(text[at..end].to_vec()));
            } else {
                rows.push(Ok(cells));
            }
            at = match (text.get(end), text.get(end + 1)) {
                (Some(b'\r'), Some(b'\n')) => end + 2,
                (Some(_), _) => end + 1,
                (None, _) => end,
            };
        }
        Ok(rows)
    }

    fn by_pieces(text: &[u8], signs: Signs, piece: usize) -> Result<Rows, ()> {
        let mut rows = Vec::new();
        let (mut from, mut to) = (0, 0);
        let mut scan = RowScan::of(signs);
        while from < text.len() {
            match scan.scan(&text[from..to], to == text.len()) {
                Scanned::Unfinished if to == text.len() => return Err(()),
                Scanned::Unfinished => {
                    to = (to + piece).min(text.len());
                    continue;
                }
                Scanned::Broken { length, with_end } => {
                    rows.push(Err(text[from..from + length].to_vec()));
                    from += with_end;
                }
                Scanned::Row { length, with_end, quotes } => {
                    let (mut cells, mut ends) = (Vec::new(), Vec::new());
                    assert_eq!(
                        put_cells(&text[from..from + length], signs, quotes, &mut cells, &mut ends, 99)
                            .dropped,
                        0
                    );
                    assert!(quotes == Quotes::Some || !text[from..from + length].contains(&b'"'));
                    let starts = std::iter::once(0).chain(ends.iter().copied());
                    rows.push(Ok(starts
                        .zip(&ends)
                        .map(|(start, end)| cells[start..*end].to_vec())
                        .collect()));
                    from += with_end;
                }
            }
            to = to.max(from);
            scan = RowScan::of(signs);
        }
        Ok(rows)
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(4_000))]
        #[test]
        fn rows_are_told_apart_whatever_the_pieces(text in "[a,\"\r\n]{0,24}", piece in 1_usize..30) {
            let expected = naive(text.as_bytes());
            prop_assert_eq!(&by_pieces(text.as_bytes(), Signs::default(), piece), &expected);
            // With other characters in their places, the same rows of those characters.
            let swapped = |bytes: &[u8]| -> Vec<u8> {
                let swap = |byte: &u8| match byte { b',' => b';', b'"' => b'\'', other => *other };
                bytes.iter().map(swap).collect()
            };
            let signs = Signs { separator: b';', quote: b'\'' };
            let of_row = |row: Result<Vec<Vec<u8>>, Vec<u8>>| {
                row.map(|cells| cells.iter().map(|cell| swapped(cell)).collect()).map_err(|line| swapped(&line))
            };
            let expected = expected.map(|rows| rows.into_iter().map(of_row).collect::<Rows>());
            prop_assert_eq!(by_pieces(&swapped(text.as_bytes()), signs, piece), expected);
        }
    }

    #[test]
    fn cells_beyond_the_most_are_counted() {
        let (mut text, mut ends) = (Vec::new(), Vec::new());
        let cells = put_cells(b"a,\"b\",c,d", Signs::default(), Quotes::Some, &mut text, &mut ends, 2);
        assert_eq!((cells.dropped, cells.longest), (2, 3));
        assert_eq!((text.as_slice(), ends.as_slice()), (b"ab".as_slice(), [1, 2].as_slice()));
    }
}
