//! The objects of a chunk of JSON Lines.

use super::lines::{is_blank, without_end};
use super::object::cells_of;
use crate::error::RecordsError;
use crate::source::file_bytes::beginning_of;
use crate::source::{Chunk, ChunkReader};
use crate::table::{Batch, BatchBuilder, BrokenRow, Kept, RowFault};
use std::borrow::Cow;
use std::collections::HashMap;
use std::path::{Path, PathBuf};

/// Reads objects into the columns of their names.
pub(super) struct JsonRows {
    path: PathBuf,
    places: HashMap<String, usize>,
    width: usize,
    longest_cell: usize,
    batch: BatchBuilder,
}

impl ChunkReader for JsonRows {
    fn read(&mut self, chunk: &Chunk) -> Result<Batch, RecordsError> {
        let lines = (chunk.first_line..).zip(chunk.bytes.split_inclusive(|byte| *byte == b'\n'));
        let rows = lines.filter(|(_, bytes)| !is_blank(bytes));
        for (number, (line, bytes)) in (chunk.first_row..).zip(rows) {
            self.take_row(number, line, without_end(bytes))?;
        }
        self.batch.take()
    }
}

impl JsonRows {
    pub(super) fn new(path: &Path, columns: &[String], longest_cell: usize, kept: &Kept) -> Self {
        Self {
            path: path.to_owned(),
            places: columns.iter().cloned().zip(0..).collect(),
            width: columns.len(),
            longest_cell,
            batch: BatchBuilder::of_columns(columns, kept.clone()),
        }
    }

    fn take_row(&mut self, number: u64, line: u64, bytes: &[u8]) -> Result<(), RecordsError> {
        let found = match std::str::from_utf8(bytes) {
            Ok(text) => cells_of(text),
            Err(_) => Err(RowFault::NotUtf8),
        };
        match found {
            Ok(cells) => {
                if cells.iter().any(|(_, cell)| cell.len() > self.longest_cell) {
                    return Err(RecordsError::BrokenFile {
                        path: self.path.clone(),
                        line,
                        what: format!("a value is longer than {} bytes", self.longest_cell),
                        help: "raise longest_cell under [records], if it is right".to_owned(),
                    });
                }
                let mut row = vec![Cow::Borrowed(""); self.width];
                for (name, cell) in cells {
                    if let Some(place) = self.places.get(&name).and_then(|place| row.get_mut(*place)) {
                        *place = cell;
                    }
                }
                self.batch.push_row(number, line, |place| row.get(place).map_or("", AsRef::as_ref));
            }
            Err(fault) => {
                self.batch.push_broken(BrokenRow { number, line, fault, beginning: beginning_of(bytes) });
            }
        }
        Ok(())
    }
}
