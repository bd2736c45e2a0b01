//! The rows of the output: rendered cell by cell, in the order asked for, and counted on the way out.

use super::Watch;
use super::job::Job;
use crate::csv::{CellWriter, LineWriter};
use crate::error::RecordsError;
use crate::sorting::{SortKey, Sorter};
use crate::table::{Data, Table};
use std::io;
use std::path::Path;

/// Writes rows, straight away or once all are there and sorted.
pub(super) struct RowSink {
    cells: CellWriter,
    file: LineWriter,
    order: Option<(Sorter, SortKey)>,
    rows: u64,
    /// The writer's own sums, one for each column of amounts of the job.
    sums: Vec<i128>,
}

impl RowSink {
    pub(super) fn new(job: &Job, file: LineWriter, scratch: &Path) -> io::Result<Self> {
        let order = (!job.order_by.is_empty()).then(|| (Sorter::new(scratch), SortKey::default()));
        let mut sink =
            Self { cells: CellWriter::default(), file, order, rows: 0, sums: vec![0; job.amounts.len()] };
        for column in &job.output {
            sink.cells.text(job.name(*column));
        }
        sink.cells.take_line(|line| sink.file.write_line(line))?;
        Ok(sink)
    }

    /// Takes a row for the output.
    pub(super) fn write(
        &mut self,
        job: &Job,
        table: &Table,
        row: usize,
        number: u64,
    ) -> Result<io::Result<()>, RecordsError> {
        self.rows += 1;
        for (sum, column) in self.sums.iter_mut().zip(&job.amounts) {
            let units = table.units(*column, row).unwrap_or(0);
            *sum =
                sum.checked_add(units).ok_or_else(|| RecordsError::too_large(job.name(*column), number))?;
        }
        for column in &job.output {
            render(&mut self.cells, table, *column, row);
        }
        let result = match &mut self.order {
            None => self.cells.take_line(|line| self.file.write_line(line)),
            Some((sorter, key)) => {
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
                self.cells.take_line(|line| sorter.push(key.as_bytes(), line))
            }
        };
        Ok(result)
    }

    /// Writes what was waiting to be sorted.
    pub(super) fn finish(
        mut self,
        watch: Watch<'_>,
        failed: impl Fn(io::Error) -> RecordsError,
    ) -> Result<WrittenRows, RecordsError> {
        if let Some((sorter, _)) = self.order.take() {
            let mut merge = sorter.finish().map_err(&failed)?;
            let mut lines = 0_u64;
            while let Some((_, line)) = merge.next().map_err(&failed)? {
                self.file.write_line(line).map_err(&failed)?;
                lines += 1;
                if lines.is_multiple_of(1 << 14) {
                    watch.check()?;
                }
            }
        }
        let behind_apostrophe = self.cells.behind_apostrophe();
        Ok(WrittenRows { rows: self.rows, sums: self.sums, behind_apostrophe, file: self.file })
    }
}

/// What the writer counted.
pub(super) struct WrittenRows {
    pub(super) rows: u64,
    pub(super) sums: Vec<i128>,
    pub(super) behind_apostrophe: u64,
    pub(super) file: LineWriter,
}

fn render(cells: &mut CellWriter, table: &Table, column: usize, row: usize) {
    match table.columns.get(column) {
        Some(Data::Text(texts)) => cells.text(texts.value(row)),
        Some(Data::Made { texts, .. }) => cells.own_text(texts.value(row)),
        Some(Data::Band(bands)) => cells.own_text(bands.label(row)),
        Some(Data::Moment { .. }) => match table.date_time(column, row) {
            Some(at) => cells.value(at),
            None => cells.empty(),
        },
        Some(Data::Date(_)) => match table.date(column, row) {
            Some(date) => cells.value(date),
            None => cells.empty(),
        },
        Some(Data::Number(_) | Data::Count(_)) => match table.decimal(column, row) {
            Some(number) => cells.value(number),
            None => cells.empty(),
        },
        Some(Data::Parts(_)) => match table.parts(column, row) {
            Some(parts) => cells.own_text(&parts.to_string()),
            None => cells.empty(),
        },
        None => cells.empty(),
    }
}
