//! A table of typed cells.

use mild_ledger_records::ReportCell;

/// A table: its header, its rows, and where lines part them.
#[derive(Debug, Clone)]
pub(crate) struct Table {
    pub(crate) header: Vec<String>,
    pub(crate) rows: Vec<Vec<ReportCell>>,
    /// Columns of words; the others are of numbers.
    pub(crate) words: Vec<usize>,
    /// Rows before which a line is drawn, by their number.
    pub(crate) lines: Vec<usize>,
}

impl Table {
    /// A table with this header, the columns in these places words.
    pub(crate) fn new<H: Into<String>>(
        header: impl IntoIterator<Item = H>,
        words: impl IntoIterator<Item = usize>,
    ) -> Self {
        Self {
            header: header.into_iter().map(Into::into).collect(),
            rows: Vec::new(),
            words: words.into_iter().collect(),
            lines: Vec::new(),
        }
    }

    pub(crate) fn row(&mut self, cells: impl IntoIterator<Item = ReportCell>) {
        self.rows.push(cells.into_iter().collect());
    }

    /// Draws a line under the rows so far.
    pub(crate) fn line(&mut self) {
        self.lines.push(self.rows.len());
    }
}

/// A cell of a count, which none comes near the largest of.
pub(crate) fn count_cell(count: u64) -> ReportCell {
    ReportCell::Count(i64::try_from(count).unwrap_or(i64::MAX))
}
