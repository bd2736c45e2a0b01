//! Exceptions on their way to their file, counted by reason.

use super::exception_groups::{ExceptionGroups, name_of};
use super::outcome::ExceptionGroup;
use super::outputs::{EXCEPTION_COLUMNS, OutputSink};
use crate::error::RecordsError;
use crate::sink::{RowBytes, Written};
use crate::table::{Exception, Layout, plain_schema};
use arrow_array::{ArrayRef, Int64Array, RecordBatch, StringArray};
use arrow_schema::{DataType, SchemaRef};
use std::sync::Arc;

/// Writes exceptions to their file in the order of the rows, and counts them.
pub(super) struct ExceptionSink<'j> {
    layout: &'j Layout,
    sink: OutputSink,
    schema: SchemaRef,
    made: RowBytes,
    groups: ExceptionGroups<'j>,
}

/// How many of them, from the first on, hold numbers.
const NUMBERS: usize = 2;

impl<'j> ExceptionSink<'j> {
    pub(super) fn new(layout: &'j Layout, sink: OutputSink) -> Self {
        Self {
            layout,
            sink,
            schema: plain_schema(&std::array::from_fn::<_, 7, _>(|nth| {
                let holds = if nth < NUMBERS { DataType::Int64 } else { DataType::Utf8 };
                (EXCEPTION_COLUMNS[nth], holds)
            })),
            made: RowBytes::default(),
            groups: ExceptionGroups::new(layout),
        }
    }

    /// Writes what came of one batch, in the order of its rows.
    pub(super) fn write_batch(&mut self, mut exceptions: Vec<Exception>) -> Result<(), RecordsError> {
        exceptions.sort_by_key(|exception| exception.origin.row);
        self.write(&exceptions)?;
        self.groups.take(&exceptions);
        Ok(())
    }

    /// Writes exceptions as rows of a record batch.
    fn write(&mut self, exceptions: &[Exception]) -> Result<(), RecordsError> {
        if exceptions.is_empty() {
            return Ok(());
        }
        let numbers = |number: fn(&Exception) -> u64| -> ArrayRef {
            let numbers = exceptions.iter().map(|exception| i64::try_from(number(exception)).ok());
            Arc::new(numbers.collect::<Int64Array>())
        };
        let texts = |text: &dyn Fn(&Exception) -> String| -> ArrayRef {
            Arc::new(StringArray::from_iter_values(exceptions.iter().map(text)))
        };
        let name = |exception: &Exception| {
            name_of(exception.subject, self.groups.key_name(), self.layout).to_owned()
        };
        let reason = |exception: &Exception| match exception.detail.as_str() {
            "" => exception.reason.to_string(),
            detail => format!("{}: {detail}", exception.reason),
        };
        let columns = vec![
            numbers(|exception| exception.origin.row),
            numbers(|exception| exception.origin.line),
            texts(&|exception| exception.key.clone()),
            texts(&name),
            texts(&|exception| exception.text.clone()),
            texts(&reason),
            texts(&|exception| exception.became.to_string()),
        ];
        let records = RecordBatch::try_new(Arc::clone(&self.schema), columns)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        let rows: Vec<usize> = (0..exceptions.len()).collect();
        self.made.rows.clear();
        self.made.behind_apostrophe = 0;
        let put = self.sink.form().put(&records, &rows, &mut self.made);
        put.map_err(|error| self.sink.failed(error))?;
        self.sink.write(&self.made)
    }

    /// Rows set aside, as the exceptions file lists them.
    pub(super) fn rows_set_aside(&self) -> u64 {
        self.groups.rows_set_aside
    }

    /// Cells left empty because their text could not be read.
    pub(super) fn unreadable_cells(&self) -> u64 {
        self.groups.unreadable_cells
    }

    /// The groups, rows set aside first, and the finished file.
    pub(super) fn finish(self) -> Result<(Vec<ExceptionGroup>, Written), RecordsError> {
        Ok((self.groups.finish(), self.sink.finish()?))
    }
}
