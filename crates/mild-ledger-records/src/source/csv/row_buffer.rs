//! The cells of one row.

use super::scan::{Quotes, put_cells};
use crate::source::file_form::Signs;

/// The cells of one row, without the quotes around them.
#[derive(Debug, Default)]
pub(super) struct RowBuffer {
    text: Vec<u8>,
    ends: Vec<usize>,
    /// Cells counted and thrown away because the row has far too many.
    dropped: u64,
}

impl RowBuffer {
    /// Takes the cells of a row that was found to be one, so many at most; gives the bytes of the longest as it is in the file.
    pub(super) fn take(&mut self, row: &[u8], signs: Signs, quotes: Quotes, most: usize) -> usize {
        self.text.clear();
        self.ends.clear();
        let cells = put_cells(row, signs, quotes, &mut self.text, &mut self.ends, most);
        self.dropped = cells.dropped;
        cells.longest
    }

    /// How many cells the row has, those among them that were thrown away.
    pub(super) fn count(&self) -> u64 {
        self.ends.len() as u64 + self.dropped
    }

    /// How many cells are not blank, of those that were taken.
    pub(super) fn filled(&self) -> u64 {
        let is_filled = |(start, end): &(usize, usize)| {
            self.text
                .get(*start..*end)
                .is_some_and(|cell| cell.iter().any(|byte| !byte.is_ascii_whitespace()))
        };
        self.bounds().filter(is_filled).count() as u64
    }

    /// Whether it has more cells than were taken.
    pub(super) fn has_too_many(&self) -> bool {
        self.dropped > 0
    }

    /// The text of a cell among that of all.
    pub(super) fn cell<'t>(&self, text: &'t str, place: usize) -> &'t str {
        let start = if place == 0 { 0 } else { self.ends[place - 1] };
        &text[start..self.ends[place]]
    }

    /// The names of a header.
    pub(super) fn names(&self) -> Option<Vec<String>> {
        let text = self.as_text()?;
        Some(self.bounds().map(|(start, end)| text[start..end].trim().to_owned()).collect())
    }

    /// The text of all cells, if every one of them is UTF-8.
    pub(super) fn as_text(&self) -> Option<&str> {
        let text = std::str::from_utf8(&self.text).ok()?;
        self.ends.iter().all(|end| text.is_char_boundary(*end)).then_some(text)
    }

    fn bounds(&self) -> impl Iterator<Item = (usize, usize)> + '_ {
        let starts = std::iter::once(0).chain(self.ends.iter().copied());
        starts.zip(self.ends.iter().copied())
    }

    /// Whether it says what the header says.
    pub(super) fn repeats(&self, header: &[String]) -> bool {
        self.as_text().is_some_and(|text| {
            self.bounds().zip(header).all(|((start, end), name)| text[start..end].trim() == name)
        })
    }

    /// The first cells of the row, made readable.
    pub(super) fn beginning(&self) -> String {
        let cells: Vec<_> = self
            .bounds()
            .take(3)
            .map(|(start, end)| String::from_utf8_lossy(&self.text[start..end.min(start + 40)]).into_owned())
            .collect();
        let more = if self.count() > cells.len() as u64 { ", …" } else { "" };
        format!("{}{more}", cells.join(", "))
    }
}
