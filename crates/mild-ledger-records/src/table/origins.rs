//! Where rows came from.

use serde::{Deserialize, Serialize};
/// Where each row of a batch came from.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(crate) struct Origins {
    /// The file of all of them, by its number among the files of records.
    pub(crate) source: usize,
    /// The number of each, and its line.
    rows: Vec<(u64, u64)>,
}

/// Where a row came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Origin {
    /// The file, by its number among the files of records.
    pub(crate) source: usize,
    /// Its number among the data rows of the file, from 1, broken ones counted.
    pub(crate) row: u64,
    /// The line of the file on which it begins.
    pub(crate) line: u64,
}

/// One row of all files, in one number, in the order of the files and of their rows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
pub(crate) struct RowId(u64);

impl RowId {
    /// Of which the lowest are the number of the row, and the others that of the file.
    const BITS_OF_ROW: u32 = 44;

    pub(crate) fn new(source: usize, row: u64) -> Self {
        let source = u64::try_from(source).unwrap_or(u64::MAX);
        Self(source << Self::BITS_OF_ROW | row)
    }

    /// The number of the file.
    pub(crate) fn source(self) -> usize {
        usize::try_from(self.0 >> Self::BITS_OF_ROW).unwrap_or(usize::MAX)
    }

    /// The number of the row in its file.
    pub(crate) fn row(self) -> u64 {
        self.0 & ((1 << Self::BITS_OF_ROW) - 1)
    }

    /// As it is stored.
    pub(crate) fn stored(self) -> u64 {
        self.0
    }

    pub(crate) fn of_stored(stored: u64) -> Self {
        Self(stored)
    }
}

impl Origin {
    pub(crate) fn id(self) -> RowId {
        RowId::new(self.source, self.row)
    }
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

    /// The place in the batch of a row of its file.
    pub(crate) fn find(&self, row: RowId) -> Option<usize> {
        let is_of_file = row.source() == self.source;
        is_of_file.then(|| self.rows.binary_search_by_key(&row.row(), |(row, _)| *row).ok())?
    }
}
