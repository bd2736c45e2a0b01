//! Parquet files, whose columns have types of their own.

#[cfg(feature = "parquet")]
mod cells;
#[cfg(feature = "parquet")]
mod chunk_reader;
#[cfg(feature = "parquet")]
mod table;

use super::{FileForm, OpenPiece, Opened, OwnFile, Reading, SourceKind};
#[cfg(not(feature = "parquet"))]
use crate::error::RecordsError;
use std::path::Path;

pub(super) const KIND: SourceKind = SourceKind {
    word: "Parquet",
    endings: &["parquet"],
    schemes: &[],
    takes: &[],
    form_of: |_, _| Ok(FileForm::default()),
    open,
    open_own,
    open_piece: OPEN_PIECE,
};

#[cfg(feature = "parquet")]
const OPEN_PIECE: Option<OpenPiece> =
    Some(|path, reading, columns, piece| Ok(Box::new(table::open_piece(path, reading, columns, piece)?)));

#[cfg(not(feature = "parquet"))]
const OPEN_PIECE: Option<OpenPiece> = None;

#[cfg(feature = "parquet")]
fn open(path: &Path, reading: &Reading) -> Opened {
    Ok(Box::new(table::open(path, reading)?))
}

#[cfg(feature = "parquet")]
fn open_own(file: OwnFile) -> Opened {
    Ok(Box::new(table::open_own(file)?))
}

#[cfg(not(feature = "parquet"))]
fn open_own(OwnFile { path, .. }: OwnFile) -> Opened {
    Err(not_built(&path))
}

#[cfg(not(feature = "parquet"))]
fn open(path: &Path, _: &Reading) -> Opened {
    Err(not_built(path))
}

#[cfg(not(feature = "parquet"))]
fn not_built(path: &Path) -> RecordsError {
    RecordsError::request(
        format!("{} is a Parquet file, and this build reads none", path.display()),
        "install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
    )
}

#[cfg(feature = "parquet")]
#[cfg(test)]
mod tests;
