//! A table of an SQLite database, made new or replaced whole.

#[cfg(feature = "sqlite")]
mod database;

#[cfg(not(feature = "sqlite"))]
use super::not_built as create;
use super::packed::PackedForm;
use super::{SinkKind, SinkPart};
#[cfg(feature = "sqlite")]
use database::create;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "SQLite",
    takes: &[SinkPart::Table],
    is_built: cfg!(feature = "sqlite"),
    form: |_, _| Ok(Arc::new(PackedForm)),
    create,
};
