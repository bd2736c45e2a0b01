//! Many short runs of bytes, one after the other: rows as they are in a file, or keys.

use std::ops::Range;

/// Runs of bytes in the order in which they were put there.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct ByteRows {
    bytes: Vec<u8>,
    ends: Vec<usize>,
}

impl ByteRows {
    /// How many there are.
    pub(crate) fn len(&self) -> usize {
        self.ends.len()
    }

    /// Makes room for a number of bytes and rows more.
    pub(crate) fn make_room(&mut self, bytes: usize, rows: usize) {
        self.bytes.reserve(bytes);
        self.ends.reserve(rows);
    }

    /// Where the bytes of the next one are put, after those of all others; [`end_row`](Self::end_row) ends it.
    pub(crate) fn open_row(&mut self) -> &mut Vec<u8> {
        &mut self.bytes
    }

    /// Bytes of the one that is not ended yet.
    pub(crate) fn bytes_of_open_row(&self) -> usize {
        self.bytes.len() - self.ends.last().copied().unwrap_or(0)
    }

    /// What was put there of the one that is not ended yet.
    pub(crate) fn of_open_row(&self) -> &[u8] {
        self.bytes.get(self.ends.last().copied().unwrap_or(0)..).unwrap_or_default()
    }

    /// Ends the one whose bytes were put there.
    pub(crate) fn end_row(&mut self) {
        self.ends.push(self.bytes.len());
    }

    pub(crate) fn push(&mut self, row: &[u8]) {
        self.bytes.extend_from_slice(row);
        self.end_row();
    }

    /// The bytes of all.
    pub(crate) fn as_bytes(&self) -> &[u8] {
        &self.bytes
    }

    /// Where each is among the bytes of all.
    pub(crate) fn ranges(&self) -> impl Iterator<Item = Range<usize>> + '_ {
        let starts = std::iter::once(0).chain(self.ends.iter().copied());
        starts.zip(&self.ends).map(|(start, end)| start..*end)
    }

    /// The bytes of one, by its place.
    pub(crate) fn get(&self, nth: usize) -> Option<&[u8]> {
        let end = *self.ends.get(nth)?;
        let start = nth.checked_sub(1).map_or(Some(0), |before| self.ends.get(before).copied())?;
        self.bytes.get(start..end)
    }

    /// The bytes of each.
    pub(crate) fn iter(&self) -> impl Iterator<Item = &[u8]> {
        self.ranges().map(|range| self.bytes.get(range).unwrap_or_default())
    }

    /// Forgets them, and keeps the memory.
    pub(crate) fn clear(&mut self) {
        self.bytes.clear();
        self.ends.clear();
    }
}
