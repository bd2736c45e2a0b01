//! Parquet files: dates, times, whole numbers and decimals as what they are, and nothing of what an older reader does not know.

#[cfg(feature = "parquet")]
mod file;

use super::SinkKind;
use super::packed::PackedForm;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "Parquet",
    takes: &[],
    is_built: cfg!(feature = "parquet"),
    form: |_, _| Ok(Arc::new(PackedForm)),
    create,
};

#[cfg(feature = "parquet")]
fn create(
    target: super::Target<'_>,
    columns: &arrow_schema::Schema,
    _: &super::SinkForm,
) -> std::io::Result<Box<dyn super::Sink>> {
    file::ParquetSink::begin(target.file, columns)
}

#[cfg(not(feature = "parquet"))]
fn create(
    _: super::Target<'_>,
    _: &arrow_schema::Schema,
    _: &super::SinkForm,
) -> std::io::Result<Box<dyn super::Sink>> {
    Err(std::io::ErrorKind::Unsupported.into())
}
