//! JSON Lines: an object (RFC 8259) on each line; numbers as numbers with all their digits, dates in ISO 8601 as texts,
//! and null for an empty cell.

use super::lines::LineWriter;
use super::{Sink, SinkKind, Written};
use crate::table::{Data, Table};
use std::fs::File;
use std::io::{self, Write};

pub(super) const KIND: SinkKind = SinkKind { word: "JSON Lines", create: begin };

struct JsonLinesSink {
    /// The names, in quotes.
    names: Vec<String>,
    file: LineWriter,
    line: Vec<u8>,
}

fn begin(file: File, columns: &[&str]) -> io::Result<Box<dyn Sink>> {
    let names = columns.iter().map(|name| serde_json::to_string(name).map_err(io::Error::other));
    let names = names.collect::<io::Result<_>>()?;
    Ok(Box::new(JsonLinesSink { names, file: LineWriter::new(file), line: Vec::new() }))
}

impl Sink for JsonLinesSink {
    fn write(&mut self, table: &Table, rows: &[usize]) -> io::Result<()> {
        for row in rows {
            self.line.clear();
            for (column, name) in self.names.iter().enumerate() {
                let before = if column == 0 { '{' } else { ',' };
                write!(self.line, "{before}{name}:")?;
                put_value(&mut self.line, table, column, *row)?;
            }
            self.line.extend_from_slice(b"}\n");
            self.file.write_row(&self.line)?;
        }
        Ok(())
    }

    fn bytes_written(&self) -> u64 {
        self.file.bytes()
    }

    fn finish(self: Box<Self>) -> io::Result<Written> {
        self.file.finish(0)
    }
}

fn put_value(line: &mut Vec<u8>, table: &Table, column: usize, row: usize) -> io::Result<()> {
    match table.columns.get(column) {
        Some(Data::Number(_) | Data::Count(_)) => match table.decimal(column, row) {
            Some(number) => write!(line, "{number}"),
            None => line.write_all(b"null"),
        },
        _ => match table.shown(column, row).as_ref() {
            "" => line.write_all(b"null"),
            text => serde_json::to_writer(line, text).map_err(io::Error::other),
        },
    }
}
