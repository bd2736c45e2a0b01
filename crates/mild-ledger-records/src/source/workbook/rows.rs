//! The rows of chunks of a workbook.

use crate::error::RecordsError;
use crate::source::{Chunk, ChunkReader};
use crate::table::unpack;
use crate::table::{Batch, BatchBuilder, BrokenRow, CellType, Kept, RowFault};

/// Tells the cells of rows apart.
pub(super) struct WorkbookRows {
    columns: usize,
    batch: BatchBuilder,
}

impl WorkbookRows {
    pub(super) fn new(columns: &[String]) -> Self {
        Self { columns: columns.len(), batch: BatchBuilder::of_columns(columns, Kept::All) }
    }
}

impl ChunkReader for WorkbookRows {
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError> {
        let mut rest = chunk.bytes.as_slice();
        for number in chunk.numbers() {
            let Some(row) = unpack(rest) else { break };
            rest = row.rest;
            let (found, expected) = (row.cells.len() as u64, self.columns as u64);
            if found > expected {
                let cells: Vec<&str> = row.cells.iter().take(3).map(|(_, text)| *text).collect();
                let beginning = format!("{}, …", cells.join(", "));
                let fault = RowFault::TooManyCells { found, expected };
                self.batch.push_broken(BrokenRow { number, line: row.line, fault, beginning });
                continue;
            }
            // Cells behind the last one that holds something are blank.
            let cell = |nth: usize| row.cells.get(nth).copied().unwrap_or((CellType::Text, ""));
            self.batch.push_typed_row(number, row.line, cell);
        }
        self.batch.take()
    }
}
