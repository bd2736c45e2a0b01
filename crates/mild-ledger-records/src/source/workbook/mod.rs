//! Workbooks of the open formats: .xlsx (ISO/IEC 29500) and .ods (ISO/IEC 26300).

mod book;
mod limits;

mod ods;

mod parts;
mod sheets;
mod tags;
mod unseen;
mod xlsx;

use super::{FormPart, RecordsError, SourceKind};
use crate::table::TypedCell as Cell;
pub(crate) use parts::Parts;
pub(crate) use sheets::{SheetFound, each_own_row};
use std::io;
use std::ops::ControlFlow;
use std::path::Path;
pub(crate) use tags::{attribute, each_tag};

pub(super) const KIND: SourceKind = SourceKind {
    word: "workbook",
    endings: &["xlsx", "xlsm", "ods"],
    schemes: &[],
    takes: &[FormPart::Sheet, FormPart::HeaderLine],
    form_of: sheets::form_of,
    open: |path, reading| Ok(Box::new(sheets::open(path, reading)?)),
    open_own: |file| Ok(Box::new(sheets::open_own(file)?)),
    open_piece: None,
};

/// The most columns of a sheet.
const MOST_COLUMNS: usize = 16_384;

/// The text read for a formula whose value the workbook does not hold, as of programs that do not calculate: nothing that is a date or
/// an amount, so that it is never taken for a blank.
const NO_STORED_VALUE: &str = "(formula without a stored value)";

/// Gives a row on, unless it is blank, and leaves room for the next.
fn give(
    line: u64,
    cells: &mut Vec<Cell>,
    take: &mut impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
) -> ControlFlow<()> {
    let is_blank = cells.iter().all(|cell| cell.text.trim().is_empty());
    let given = if is_blank { ControlFlow::Continue(()) } else { take(line, cells) };
    cells.clear();
    given
}

/// Whether a workbook is one of ISO/IEC 26300, by the ending of its name.
fn is_ods(path: &Path) -> bool {
    path.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("ods"))
}

fn broken(path: &Path, what: &str) -> RecordsError {
    let what = format!("the workbook cannot be read: {}", what.trim());
    RecordsError::file(path, "read it")(io::Error::new(io::ErrorKind::InvalidData, what))
}
