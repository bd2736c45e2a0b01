//! The rows of the output: put into the form of its format, in the order asked for, and counted on the way out.

use super::Watch;
use super::job::Job;
use super::outputs::OutputSink;
use super::sums::Sums;
use crate::columns::put_order_key;
use crate::error::RecordsError;
use crate::sink::{RowBytes, RowForm, Written};
use crate::sorting::{SortKey, Sorter};
use crate::table::{ByteRows, Origins, Table};
use arrow_schema::SchemaRef;
use std::path::Path;
use std::sync::Arc;

/// Puts rows into the form in which they are written, with what they are ordered by.
pub(super) struct RowMaker {
    form: Arc<dyn RowForm>,
    /// The columns of the output.
    schema: SchemaRef,
    key: SortKey,
    /// Bytes of the rows made last, for which room is made before the next ones.
    bytes: usize,
    /// The writer's own sums, one for each column of amounts of the job.
    pub(super) sums: Sums,
}

/// Rows on their way to the output.
#[derive(Default)]
pub(super) struct MadeRows {
    rows: RowBytes,
    /// What each is ordered by, where rows are ordered.
    order: ByteRows,
}

impl RowMaker {
    pub(super) fn new(job: &Job, form: Arc<dyn RowForm>, schema: SchemaRef) -> Self {
        Self { form, schema, key: SortKey::default(), bytes: 0, sums: Sums::new(job.amounts.len()) }
    }

    /// Takes the rows of a table that are written; the origins are those of all its rows.
    pub(super) fn make(
        &mut self,
        job: &Job,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> Result<MadeRows, RecordsError> {
        self.sums.add_rows(job, table, rows, origins)?;
        let mut made = MadeRows::default();
        made.rows.rows.make_room(self.bytes, rows.len());
        let records = table.records(&self.schema, &job.output).map_err(|error| not_written(&error))?;
        self.form.put(&records, rows, &mut made.rows).map_err(|error| not_written(&error))?;
        self.bytes = made.rows.rows.as_bytes().len();
        for row in rows.iter().filter(|_| !job.order_by.is_empty()) {
            put_order_key(&mut self.key, &job.order_by, table, *row);
            made.order.push(self.key.as_bytes());
        }
        Ok(made)
    }
}

/// What no table should come to: a column of another type than it had when the run began.
fn not_written(error: &dyn std::error::Error) -> RecordsError {
    RecordsError::Proof { what: error.to_string() }
}

/// Writes rows, straight away or once all are there and sorted.
pub(super) struct RowSink {
    sink: OutputSink,
    order: Option<Sorter>,
    /// The counts of rows that wait to be sorted, and later those that are about to be written.
    waiting: RowBytes,
}

/// Rows that are written together once they are sorted.
const ROWS: usize = 1024;

impl RowSink {
    pub(super) fn new(job: &Job, sink: OutputSink, scratch: &Path) -> Self {
        let order = (!job.order_by.is_empty()).then(|| Sorter::new(scratch));
        Self { sink, order, waiting: RowBytes::default() }
    }

    /// The form in which rows are written.
    pub(super) fn form(&self) -> &Arc<dyn RowForm> {
        self.sink.form()
    }

    /// Takes the rows of a batch.
    pub(super) fn write(&mut self, made: &MadeRows) -> Result<(), RecordsError> {
        let Some(sorter) = &mut self.order else { return self.sink.write(&made.rows) };
        self.waiting.behind_apostrophe += made.rows.behind_apostrophe;
        sorter.push_all(&made.order, &made.rows.rows).map_err(|error| self.sink.failed(error))
    }

    /// Writes what was waiting to be sorted.
    pub(super) fn finish(mut self, watch: Watch<'_>) -> Result<Written, RecordsError> {
        if let Some(sorter) = self.order.take() {
            let mut merge = sorter.finish().map_err(|error| self.sink.failed(error))?;
            while let Some((_, row)) = merge.next().map_err(|error| self.sink.failed(error))? {
                self.waiting.rows.push(row);
                if self.waiting.rows.len() == ROWS {
                    watch.check()?;
                    self.write_waiting()?;
                }
            }
            self.write_waiting()?;
        }
        self.sink.finish()
    }

    fn write_waiting(&mut self) -> Result<(), RecordsError> {
        self.sink.write(&self.waiting)?;
        self.waiting.rows.clear();
        self.waiting.behind_apostrophe = 0;
        Ok(())
    }
}
