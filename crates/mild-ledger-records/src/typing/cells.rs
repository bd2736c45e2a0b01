//! The cells of a column while they are typed, and what is listed of them.

use crate::table::{Batch, Became, CellType, Exception, ExceptionSubject, Layout, Reason};

/// Where a row of the input goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Place {
    Written,
    SetAside,
    Merged,
    NotSelected,
}

/// The cells of one column of a batch, with what an exception needs to name them.
pub(super) struct Cells<'c> {
    pub(super) layout: &'c Layout,
    pub(super) batch: &'c Batch,
    pub(super) column: usize,
    pub(super) exceptions: &'c mut Vec<Exception>,
    pub(super) places: &'c mut [Place],
}

impl Cells<'_> {
    pub(super) fn rows(&self) -> usize {
        self.batch.rows()
    }

    pub(super) fn text(&self, row: usize) -> &str {
        self.batch.text(self.column, row)
    }

    /// What the format says that the cell of a row is.
    pub(super) fn holds(&self, row: usize) -> CellType {
        self.batch.cell_type(self.column, row)
    }

    /// The number of a row in its file.
    pub(super) fn number(&self, row: usize) -> u64 {
        self.batch.origins.of(row).row
    }

    /// Lists something of the cell of a row.
    pub(super) fn list(&mut self, row: usize, reason: Reason, detail: String, became: Became) {
        if became == Became::RowSetAside {
            self.places[row] = Place::SetAside;
        }
        self.exceptions.push(Exception {
            origin: self.batch.origins.of(row),
            key: self.layout.key_text(self.batch, row).into_owned(),
            subject: ExceptionSubject::Column(self.column),
            text: self.text(row).to_owned(),
            reason,
            detail,
            expected: String::new(),
            became,
        });
    }
}
