//! A workbook of either format.

use super::{broken, ods, xlsx};
use crate::error::RecordsError;
use crate::table::TypedCell as Cell;
use calamine::{Reader, XlsxError};
use mild_ledger::SerialSystem;
use std::fs::File;
use std::io::BufReader;
use std::ops::ControlFlow;
use std::path::Path;

/// An opened workbook, whose parts were counted.
pub(super) enum Book {
    Xlsx(Box<xlsx::Book>),
    /// It is read from its beginning for whatever is asked.
    Ods,
}

impl Book {
    pub(super) fn open(path: &Path) -> Result<Self, RecordsError> {
        if super::is_ods(path) {
            return Ok(Self::Ods);
        }
        let file = BufReader::new(File::open(path).map_err(RecordsError::file(path, "open it"))?);
        let book = xlsx::Book::new(file).map_err(|error| broken(path, &in_words(&error)))?;
        Ok(Self::Xlsx(Box::new(book)))
    }

    /// The sheets, each with whether it is shown.
    pub(super) fn sheets(&self, path: &Path) -> Result<Vec<(String, bool)>, RecordsError> {
        match self {
            Self::Xlsx(book) => Ok(xlsx::sheets(book)),
            Self::Ods => ods::sheets(path),
        }
    }

    /// How its days are numbered; `None` for a format that writes them.
    pub(super) fn serial_system(&self) -> Option<SerialSystem> {
        match self {
            Self::Xlsx(book) => Some(xlsx::serial_system(book)),
            Self::Ods => None,
        }
    }

    /// The rows of a sheet that are not blank, each with its number in the sheet, from 1, until the taker breaks off.
    pub(super) fn rows(
        &mut self,
        path: &Path,
        sheet: &str,
        take: impl FnMut(u64, &[Cell]) -> ControlFlow<()>,
    ) -> Result<(), RecordsError> {
        match self {
            Self::Xlsx(book) => {
                xlsx::rows(book, sheet, take).map_err(|error| broken(path, &in_words(&error)))
            }
            Self::Ods => ods::rows(path, sheet, take),
        }
    }
}

fn in_words(error: &XlsxError) -> String {
    match error {
        XlsxError::Password => "it is protected by a password".to_owned(),
        other => other.to_string(),
    }
}
