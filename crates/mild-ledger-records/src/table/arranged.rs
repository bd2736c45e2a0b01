//! The columns of one file as those of all files.

use super::batch::Batch;
use super::cell_type::CellType;
use crate::error::RecordsError;
use arrow_array::{ArrayRef, RecordBatch, RecordBatchOptions, StringArray};
use arrow_schema::{DataType, Field, Schema, SchemaRef};
use std::sync::Arc;

/// Where each of some columns comes from in the batches of a file.
#[derive(Debug, Clone)]
pub(crate) struct Arranged {
    schema: SchemaRef,
    from: Arc<[ColumnFrom]>,
}

/// Where a column comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum ColumnFrom {
    /// A column of the file, by its place.
    Place(usize),
    /// One text for all rows.
    Text(Arc<str>),
}

impl Arranged {
    /// Columns of these names, and where each comes from.
    pub(crate) fn new(names: &[String], from: Vec<ColumnFrom>) -> Self {
        let fields = names.iter().map(|name| Field::new(name, DataType::Utf8, true));
        Self { schema: Arc::new(Schema::new(fields.collect::<Vec<_>>())), from: from.into() }
    }
}

impl Batch {
    /// The same rows under these columns.
    pub(crate) fn arranged(self, to: &Arranged) -> Result<Self, RecordsError> {
        let rows = self.rows();
        let one_text = |text: &str| -> ArrayRef {
            Arc::new(StringArray::from_iter_values(std::iter::repeat_n(text, rows)))
        };
        let column = |from: &ColumnFrom| match from {
            ColumnFrom::Place(place) => {
                self.records.columns().get(*place).cloned().unwrap_or_else(|| one_text(""))
            }
            ColumnFrom::Text(text) => one_text(text),
        };
        let columns = to.from.iter().map(column).collect();
        let types_of = |from: &ColumnFrom, types: &[Vec<CellType>]| match from {
            ColumnFrom::Place(place) => types.get(*place).cloned().unwrap_or_default(),
            ColumnFrom::Text(_) => Vec::new(),
        };
        let types = self.types.as_ref();
        let types = types.map(|types| to.from.iter().map(|from| types_of(from, types)).collect());
        let options = RecordBatchOptions::new().with_row_count(Some(rows));
        let records = RecordBatch::try_new_with_options(Arc::clone(&to.schema), columns, &options);
        let records = records.map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        Ok(Self { records, types, ..self })
    }
}
