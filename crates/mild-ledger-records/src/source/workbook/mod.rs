//! Workbooks of the open formats: .xlsx (ISO/IEC 29500) and .ods (ISO/IEC 26300).

mod cells;
mod limits;
mod packed;
mod rows;
mod sheets;

use super::{RecordsError, SourceKind};

pub(super) const KIND: SourceKind = SourceKind {
    word: "workbook",
    endings: &["xlsx", "xlsm", "ods"],
    form_of: sheets::form_of,
    open: |path, reading| Ok(Box::new(sheets::open(path, &reading)?)),
    open_own: |_| Err(RecordsError::Proof { what: "workbooks are not written".to_owned() }),
};
