//! The rows of the output: in the order asked for, and counted on the way out.

use super::Watch;
use super::job::Job;
use super::worker::Done;
use crate::error::RecordsError;
use crate::files::Progress;
use crate::sink::{Sink, Written};
use crate::sorting::{RowSorter, SortKey};
use crate::table::{Data, Table};
use std::io;
use std::path::Path;

/// Writes rows, straight away or once all are there and sorted.
pub(super) struct RowSink {
    sink: Box<dyn Sink>,
    progress: Progress,
    order: Option<RowSorter>,
    /// What the columns of the output are like, once rows were taken.
    like: Vec<Data>,
    rows: u64,
    /// The writer's own sums, one for each column of amounts of the job.
    sums: Vec<i128>,
}

impl RowSink {
    pub(super) fn new(job: &Job, (sink, progress): (Box<dyn Sink>, Progress), scratch: &Path) -> Self {
        let order = (!job.order_by.is_empty()).then(|| RowSorter::new(scratch));
        Self { sink, progress, order, like: Vec::new(), rows: 0, sums: vec![0; job.amounts.len()] }
    }

    /// Takes the rows of a batch that are written.
    pub(super) fn write(&mut self, job: &Job, done: &Done) -> Result<io::Result<()>, RecordsError> {
        self.rows += done.written.len() as u64;
        for (sum, column) in self.sums.iter_mut().zip(&job.amounts) {
            for row in &done.written {
                let units = done.table.units(*column, *row).unwrap_or(0);
                let too_large = || RecordsError::too_large(job.name(*column), done.numbers[*row]);
                *sum = sum.checked_add(units).ok_or_else(too_large)?;
            }
        }
        let picked = done.table.picked(&job.output);
        let Some(sorter) = &mut self.order else {
            let written = self.sink.write(&picked, &done.written);
            self.progress.reached(self.sink.bytes_written());
            return Ok(written);
        };
        let arrays = picked.columns.iter().map(Data::shown_array).collect();
        let keyed = done.written.iter().zip(&done.order).map(|(row, key)| (*row, key.as_slice()));
        let taken = sorter.push(arrays, keyed);
        self.like = picked.columns;
        Ok(taken)
    }

    /// Writes what was waiting to be sorted.
    pub(super) fn finish(
        mut self,
        watch: Watch<'_>,
        failed: impl Fn(io::Error) -> RecordsError,
    ) -> Result<WrittenRows, RecordsError> {
        if let Some(sorter) = self.order.take() {
            let mut merge = sorter.finish().map_err(&failed)?;
            while let Some(arrays) = merge.next_arrays().map_err(&failed)? {
                watch.check()?;
                let rows = arrays.first().map_or(0, |array| array.len());
                let columns = self.like.iter().zip(&arrays).map(|(like, array)| like.with_shown_array(array));
                let other = || failed(io::Error::other("a sorted column changed its type"));
                let columns = columns.collect::<Option<Vec<_>>>().ok_or_else(other)?;
                let table = Table { rows, columns, gaps: Vec::new() };
                self.sink.write(&table, &(0..rows).collect::<Vec<_>>()).map_err(&failed)?;
                self.progress.reached(self.sink.bytes_written());
            }
        }
        let file = self.sink.finish().map_err(&failed)?;
        Ok(WrittenRows { rows: self.rows, sums: self.sums, file })
    }
}

/// What the writer counted.
pub(super) struct WrittenRows {
    pub(super) rows: u64,
    pub(super) sums: Vec<i128>,
    pub(super) file: Written,
}

/// What a row is ordered by.
pub(super) fn put_key(key: &mut SortKey, job: &Job, table: &Table, row: usize) {
    key.clear();
    for (column, direction) in &job.order_by {
        if table.is_empty(*column, row) {
            key.push_empty();
        } else if let Some(number) = table.order_number(*column, row) {
            key.push_number(number, *direction);
        } else {
            key.push_text(table.text(*column, row), *direction);
        }
    }
}
