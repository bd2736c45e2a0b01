//! Parquet files, whose columns have types of their own.

#[cfg(feature = "parquet")]
mod cells;
#[cfg(feature = "parquet")]
mod table;

use super::{FileForm, Opened, OwnFile, Reading, SourceKind};
use crate::error::RecordsError;
use std::path::Path;

pub(super) const KIND: SourceKind = SourceKind {
    word: "Parquet",
    endings: &["parquet"],
    schemes: &[],
    takes: &[],
    form_of: |_: &Path| Ok(FileForm::default()),
    open,
    open_own: |_: OwnFile| Err(RecordsError::Proof { what: "Parquet is not written".to_owned() }),
};

#[cfg(feature = "parquet")]
fn open(path: &Path, reading: &Reading) -> Opened {
    Ok(Box::new(table::open(path, reading)?))
}

#[cfg(not(feature = "parquet"))]
fn open(path: &Path, _: &Reading) -> Opened {
    Err(RecordsError::request(
        format!("{} is a Parquet file, and this build reads none", path.display()),
        "install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
    ))
}

#[cfg(feature = "parquet")]
#[cfg(test)]
mod tests;
