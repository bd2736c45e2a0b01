//! Rows held as columns of text, as a source gives them.

use super::texts::TextColumn;

/// Rows of a file as columns, with where each stood, and the rows between them that are broken.
#[derive(Debug, Default)]
pub(crate) struct Batch {
    pub(crate) columns: Vec<TextColumn>,
    /// The number of each row among the data rows of the file, from 1, broken ones counted.
    pub(crate) numbers: Vec<u64>,
    /// The line of the file on which each row begins.
    pub(crate) lines: Vec<u64>,
    pub(crate) broken: Vec<BrokenRow>,
    /// Bytes of text held, which bound the batch.
    pub(crate) bytes: usize,
}

/// A row whose cells cannot be told apart, or read at all.
#[derive(Debug)]
pub(crate) struct BrokenRow {
    pub(crate) number: u64,
    pub(crate) line: u64,
    pub(crate) fault: RowFault,
    /// Its first cell or so, for the person who looks for it.
    pub(crate) beginning: String,
}

/// Why a row is broken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum RowFault {
    TooManyCells {
        found: u64,
        expected: u64,
    },
    TooFewCells {
        found: u64,
        expected: u64,
    },
    NotUtf8,
    HeaderAgain,
    /// A quote within a cell that does not begin with one, or something behind a closing quote.
    StrayQuote,
}

impl Batch {
    pub(crate) fn of_columns(count: usize) -> Self {
        Self { columns: (0..count).map(|_| TextColumn::default()).collect(), ..Self::default() }
    }

    pub(crate) fn rows(&self) -> usize {
        self.numbers.len()
    }

    /// Rows of the file that it stands for, broken ones counted.
    pub(crate) fn rows_of_file(&self) -> usize {
        self.numbers.len() + self.broken.len()
    }

    pub(crate) fn clear(&mut self) {
        self.columns.iter_mut().for_each(TextColumn::clear);
        self.numbers.clear();
        self.lines.clear();
        self.broken.clear();
        self.bytes = 0;
    }
}
