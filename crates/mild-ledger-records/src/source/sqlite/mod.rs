//! SQLite databases: a table, or what one query gives.

#[cfg(feature = "sqlite")]
mod database;
#[cfg(feature = "sqlite")]
mod table;

use super::{FormPart, Opened, OwnFile, Reading, SourceKind};
use crate::error::RecordsError;
use std::path::Path;

pub(super) const KIND: SourceKind = SourceKind {
    word: "SQLite",
    endings: &["sqlite", "sqlite3", "db"],
    schemes: &[],
    takes: &[FormPart::Table],
    form_of,
    open,
    open_own,
    open_piece: None,
};

#[cfg(feature = "sqlite")]
fn form_of(path: &Path, part: Option<&str>) -> Result<super::FileForm, RecordsError> {
    table::form_of(path, part)
}

#[cfg(feature = "sqlite")]
fn open(path: &Path, reading: &Reading) -> Opened {
    Ok(Box::new(table::open(path, reading)?))
}

#[cfg(feature = "sqlite")]
fn open_own(file: OwnFile) -> Opened {
    Ok(Box::new(table::open_own(file)?))
}

#[cfg(not(feature = "sqlite"))]
fn open_own(OwnFile { path, .. }: OwnFile) -> Opened {
    Err(not_built(&path))
}

#[cfg(not(feature = "sqlite"))]
fn form_of(path: &Path, _: Option<&str>) -> Result<super::FileForm, RecordsError> {
    Err(not_built(path))
}

#[cfg(not(feature = "sqlite"))]
fn open(path: &Path, _: &Reading) -> Opened {
    Err(not_built(path))
}

#[cfg(not(feature = "sqlite"))]
fn not_built(path: &Path) -> RecordsError {
    RecordsError::request(
        format!("{} is an SQLite database, and this build reads none", path.display()),
        "install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
    )
}

#[cfg(feature = "sqlite")]
#[cfg(test)]
mod tests;
