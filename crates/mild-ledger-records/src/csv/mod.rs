//! CSV (RFC 4180) in batches of columns, and out line by line.

mod batch;
mod guard;
mod lines;
mod reader;
mod writer;

pub(crate) use batch::{Batch, BrokenRow, RowFault, TextColumn};
pub(crate) use reader::CsvReader;
pub(crate) use writer::{CellWriter, LineWriter, WrittenLines};
