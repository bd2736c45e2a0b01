//! The workbook read back: its own cells are as they were, and the new ones are those of the rows.

use super::{BLANK, new_cells};
use crate::error::RecordsError;
use crate::source::{SheetFound, each_own_row};
use crate::table::TypedCell;
use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::Path;

/// The cells of some columns, row by row, as one number.
#[derive(Default)]
struct CellsSeen {
    hash: DefaultHasher,
    rows: u64,
}

impl CellsSeen {
    fn take<'c>(&mut self, cells: impl Iterator<Item = &'c TypedCell>, columns: usize) {
        for cell in cells.chain(std::iter::repeat(&BLANK)).take(columns) {
            cell.text.hash(&mut self.hash);
        }
        self.rows += 1;
    }

    fn finish(self) -> (u64, u64) {
        (self.rows, self.hash.finish())
    }
}

pub(super) fn check(
    sheet: &SheetFound,
    (original, target): (&Path, &Path),
    rows: &Path,
    (first, new): (usize, usize),
) -> Result<(), RecordsError> {
    let (mut before, mut after) = (CellsSeen::default(), CellsSeen::default());
    let (mut stated, mut found) = (CellsSeen::default(), CellsSeen::default());
    sheet.each_row(original, |_, cells| before.take(cells.iter(), first))?;
    sheet.each_row(target, |_, cells| {
        after.take(cells.iter(), first);
        found.take(cells.iter().skip(first), new);
    })?;
    each_own_row(rows, |cells| stated.take(new_cells(cells, sheet.header.len()), new))?;
    for (one, other, what) in [(before, after, "its own cells"), (stated, found, "its new cells")] {
        if one.finish() != other.finish() {
            let what = format!("{what} are read back otherwise than they were written");
            return Err(RecordsError::Proof { what });
        }
    }
    Ok(())
}
