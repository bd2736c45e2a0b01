//! Parquet files: dates, times, whole numbers and decimals as what they are, and nothing of what an older reader does not know.

#[cfg(feature = "parquet")]
mod file;

use super::SinkKind;
#[cfg(not(feature = "parquet"))]
use super::not_built as create;
use super::packed::PackedForm;
#[cfg(feature = "parquet")]
use file::create;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "Parquet",
    takes: &[],
    is_built: cfg!(feature = "parquet"),
    form: |_, _| Ok(Arc::new(PackedForm)),
    create,
};
