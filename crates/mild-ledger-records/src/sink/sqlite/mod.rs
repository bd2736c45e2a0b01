//! A table of an SQLite database, made new or replaced whole.

#[cfg(feature = "sqlite")]
mod database;

use super::packed::PackedForm;
use super::{SinkKind, SinkPart};
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "SQLite",
    takes: &[SinkPart::Table],
    is_built: cfg!(feature = "sqlite"),
    form: |_, _| Ok(Arc::new(PackedForm)),
    create,
};

#[cfg(feature = "sqlite")]
fn create(
    target: super::Target<'_>,
    columns: &arrow_schema::Schema,
    form: &super::SinkForm,
) -> std::io::Result<Box<dyn super::Sink>> {
    database::SqliteSink::begin(target, columns, form.table())
}

#[cfg(not(feature = "sqlite"))]
fn create(
    _: super::Target<'_>,
    _: &arrow_schema::Schema,
    _: &super::SinkForm,
) -> std::io::Result<Box<dyn super::Sink>> {
    Err(std::io::ErrorKind::Unsupported.into())
}
