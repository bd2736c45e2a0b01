//! Where rows came from.

/// Where each row of a batch came from.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct Origins {
    /// The file of all of them, by its number among the files of records.
    pub(crate) source: usize,
    /// The number of each, and its line.
    rows: Vec<(u64, u64)>,
}

/// Where a row came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Origin {
    /// The file, by its number among the files of records.
    pub(crate) source: usize,
    /// Its number among the data rows of the file, from 1, broken ones counted.
    pub(crate) row: u64,
    /// The line of the file on which it begins.
    pub(crate) line: u64,
}

impl Origins {
    pub(crate) fn len(&self) -> usize {
        self.rows.len()
    }

    pub(crate) fn push(&mut self, row: u64, line: u64) {
        self.rows.push((row, line));
    }

    /// Where a row of the batch came from, by its place in it.
    pub(crate) fn of(&self, place: usize) -> Origin {
        let (row, line) = self.rows.get(place).copied().unwrap_or_default();
        Origin { source: self.source, row, line }
    }

    /// The place in the batch of the row with a number of the file.
    pub(crate) fn find(&self, number: u64) -> Option<usize> {
        self.rows.binary_search_by_key(&number, |(row, _)| *row).ok()
    }
}
