//! The errors of cells and rows that run on and on, most often since a quote is never closed.

use crate::error::RecordsError;
use std::path::Path;

/// The error of a cell that is longer than one may be, as it is in the file.
pub(super) fn long_cell(path: &Path, line: u64, longest: usize) -> RecordsError {
    too_long(path, line, format!("a cell that begins in this row is longer than {longest} bytes"))
}

/// The error of a row that is longer than one may be.
pub(super) fn long_row(path: &Path, line: u64, longest: usize) -> RecordsError {
    too_long(path, line, format!("this row is longer than {longest} bytes"))
}

fn too_long(path: &Path, line: u64, what: String) -> RecordsError {
    let help = "look for a quote that is never closed, or raise longest_cell under [records]".to_owned();
    RecordsError::BrokenFile { path: path.to_owned(), line, what, help }
}
