//! CSV (RFC 4180) in batches of columns, and out line by line.

mod guard;
mod kind_of_file;
mod lines;
mod reader;
mod scan;
mod writer;

pub(crate) use reader::CsvReader;
pub(crate) use writer::{CellWriter, LineWriter, WrittenLines};
