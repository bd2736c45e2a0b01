//! Exceptions on their way to their file, counted by reason.

use super::exception_groups::{ExceptionGroups, name_of};

use super::job::Job;
use super::outcome::ExceptionGroup;
use super::outputs::{OutputSink, exception_schema};
use crate::error::RecordsError;
use crate::join::JoinTally;
use crate::plan::MergedRows;
use crate::sink::{RowBytes, Written};
use crate::table::{Became, Exception, Layout, Reason};
use crate::typing::expected_of;
use arrow_array::{ArrayRef, Int64Array, RecordBatch, StringArray};
use arrow_schema::SchemaRef;
use std::path::Path;
use std::sync::Arc;

/// Writes exceptions to their file in the order of the rows, and counts them.
pub(super) struct ExceptionSink<'j> {
    layout: &'j Layout,
    sink: OutputSink,
    schema: SchemaRef,
    made: RowBytes,
    merged_rows: MergedRows,
    /// Merged rows that are not listed one by one.
    merged: u64,
    groups: ExceptionGroups<'j>,
}

impl<'j> ExceptionSink<'j> {
    pub(super) fn new(layout: &'j Layout, sink: OutputSink, merged_rows: MergedRows) -> Self {
        Self {
            layout,
            sink,
            schema: exception_schema(),
            merged_rows,
            merged: 0,
            made: RowBytes::default(),
            groups: ExceptionGroups::new(layout),
        }
    }

    /// Writes what came of one batch, in the order of its rows.
    pub(super) fn write_batch(&mut self, mut exceptions: Vec<Exception>) -> Result<(), RecordsError> {
        exceptions.sort_by_key(|exception| exception.origin.row);
        self.groups.take(&exceptions);
        if self.merged_rows == MergedRows::Counted {
            let before = exceptions.len();
            exceptions.retain(|exception| exception.became != Became::RowMerged);
            self.merged += (before - exceptions.len()) as u64;
        }
        let exceptions = exceptions.iter().collect::<Vec<_>>();
        self.write(&exceptions)
    }

    /// Writes what was wrong with second files, which were read before the records.
    pub(super) fn write_of_second_files(&mut self, job: &Job) -> Result<(), RecordsError> {
        job.joins.iter().try_for_each(|join| self.write_of_second_file(join.exceptions().0))
    }

    /// Writes the rows of second files that no row of the records matched, once these are through.
    pub(super) fn write_unmatched(
        &mut self,
        job: &Job,
        tallies: &[JoinTally],
        scratch: &Path,
    ) -> Result<(), RecordsError> {
        let layout = &job.setting.layout;
        job.joins.iter().zip(tallies).try_for_each(|(join, tally)| {
            join.each_unmatched(layout, (tally, scratch), |some| self.write_batch(some))
        })
    }

    fn write_of_second_file(&mut self, exceptions: &[Exception]) -> Result<(), RecordsError> {
        for some in exceptions.chunks(1_000) {
            self.groups.take(some);
            self.write(&some.iter().collect::<Vec<_>>())?;
        }
        Ok(())
    }

    /// Writes exceptions as rows of a record batch.
    fn write(&mut self, exceptions: &[&Exception]) -> Result<(), RecordsError> {
        if exceptions.is_empty() {
            return Ok(());
        }
        let numbers = |number: fn(&Exception) -> u64| -> ArrayRef {
            let numbers = exceptions.iter().map(|exception| i64::try_from(number(exception)).ok());
            Arc::new(numbers.collect::<Int64Array>())
        };
        let texts = |text: &dyn Fn(&Exception) -> String| -> ArrayRef {
            Arc::new(StringArray::from_iter_values(exceptions.iter().map(|exception| text(exception))))
        };
        let name = |exception: &Exception| {
            name_of(exception.subject, self.groups.key_name(), self.layout).to_owned()
        };
        let reason = |exception: &Exception| match exception.detail.as_str() {
            "" => exception.reason.to_string(),
            detail => format!("{}: {detail}", exception.reason),
        };
        let columns = vec![
            texts(&|exception| self.layout.source(exception.origin).to_owned()),
            numbers(|exception| exception.origin.row),
            numbers(|exception| exception.origin.line),
            texts(&|exception| exception.key.clone()),
            texts(&name),
            texts(&|exception| exception.text.clone()),
            texts(&reason),
            texts(&|exception| expected_of(exception, self.layout)),
            texts(&|exception| exception.became.to_string()),
        ];
        self.write_columns(columns)
    }

    /// The line of the rows that were merged and are not listed one by one.
    fn write_merged(&mut self) -> Result<(), RecordsError> {
        if self.merged == 0 {
            return Ok(());
        }
        let number = || -> ArrayRef { Arc::new(Int64Array::from(vec![None::<i64>])) };
        let text = |text: &str| -> ArrayRef { Arc::new(StringArray::from(vec![text])) };
        let rows = if self.merged == 1 { "1 row".to_owned() } else { format!("{} rows", self.merged) };
        let columns = vec![
            text(""),
            number(),
            number(),
            text(""),
            text(self.groups.key_name()),
            text(&rows),
            text(&format!("{}, as the plan asks", Reason::RepeatedKey)),
            text(""),
            text(&Became::RowMerged.to_string()),
        ];
        self.write_columns(columns)
    }

    fn write_columns(&mut self, columns: Vec<ArrayRef>) -> Result<(), RecordsError> {
        let records = RecordBatch::try_new(Arc::clone(&self.schema), columns)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        let rows: Vec<usize> = (0..records.num_rows()).collect();
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
    pub(super) fn finish(mut self) -> Result<(Vec<ExceptionGroup>, Written), RecordsError> {
        self.write_merged()?;
        Ok((self.groups.finish(), self.sink.finish()?))
    }
}
