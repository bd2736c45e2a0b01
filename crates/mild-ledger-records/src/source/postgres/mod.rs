//! A PostgreSQL server: a table, or what one query gives, as the server itself writes it as CSV.

#[cfg(feature = "postgres")]
mod channel;
#[cfg(feature = "postgres")]
mod connection;
#[cfg(feature = "postgres")]
mod environment;
#[cfg(feature = "postgres")]
mod login;
#[cfg(feature = "postgres")]
mod password;
#[cfg(feature = "postgres")]
mod stream;
#[cfg(feature = "postgres")]
mod table;

use super::{FileForm, FormPart, Opened, OwnFile, Reading, SourceKind};
use crate::error::RecordsError;
use std::path::Path;

pub(super) const KIND: SourceKind = SourceKind {
    word: "PostgreSQL",
    endings: &[],
    schemes: &["postgresql", "postgres"],
    takes: &[FormPart::Table],
    form_of: |_, _| Ok(FileForm::default()),
    open,
    open_own: |_: OwnFile| Err(RecordsError::Proof { what: "servers are not written to".to_owned() }),
    open_piece: None,
};

#[cfg(feature = "postgres")]
fn open(path: &Path, reading: &Reading) -> Opened {
    Ok(Box::new(table::open(path, reading)?))
}

#[cfg(not(feature = "postgres"))]
fn open(_: &Path, _: &Reading) -> Opened {
    Err(RecordsError::request(
        "the records are on a PostgreSQL server, and this build reads none",
        "install it with its features: cargo install --path crates/mild-ledger-cli --all-features",
    ))
}

#[cfg(feature = "postgres")]
#[cfg(test)]
pub(crate) mod server;
#[cfg(feature = "postgres")]
#[cfg(test)]
mod tests;
