//! CSV (RFC 4180): cells quoted where they must be, formulas made harmless.

mod cells;
mod guard;

use super::lines::LineWriter;
use super::{Sink, SinkKind, Written};
use crate::table::{Data, Table};
use cells::CellWriter;
use std::fs::File;
use std::io;

pub(super) const KIND: SinkKind = SinkKind { word: "CSV", create: begin };

struct CsvSink {
    cells: CellWriter,
    file: LineWriter,
}

fn begin(file: File, columns: &[&str]) -> io::Result<Box<dyn Sink>> {
    let mut sink = CsvSink { cells: CellWriter::default(), file: LineWriter::new(file) };
    columns.iter().for_each(|name| sink.cells.text(name));
    sink.cells.take_line(|line| sink.file.write_header(line))?;
    Ok(Box::new(sink))
}

impl Sink for CsvSink {
    fn write(&mut self, table: &Table, rows: &[usize]) -> io::Result<()> {
        for row in rows {
            for column in 0..table.columns.len() {
                put_cell(&mut self.cells, table, column, *row);
            }
            self.cells.take_line(|line| self.file.write_row(line))?;
        }
        Ok(())
    }

    fn bytes_written(&self) -> u64 {
        self.file.bytes()
    }

    fn finish(self: Box<Self>) -> io::Result<Written> {
        self.file.finish(self.cells.behind_apostrophe())
    }
}

fn put_cell(cells: &mut CellWriter, table: &Table, column: usize, row: usize) {
    match table.columns.get(column) {
        Some(Data::Text(texts)) => cells.text(texts.value(row)),
        Some(Data::Made { texts, .. }) => cells.own_text(texts.value(row)),
        Some(Data::Band(bands)) => cells.own_text(bands.label(row)),
        Some(Data::Moment { .. }) => cells.value_or_empty(table.date_time(column, row)),
        Some(Data::Date(_)) => cells.value_or_empty(table.date(column, row)),
        Some(Data::Number(_) | Data::Count(_)) => cells.value_or_empty(table.decimal(column, row)),
        Some(Data::Parts(_)) => {
            let parts = table.parts(column, row);
            cells.own_text(&parts.map_or_else(String::new, |parts| parts.to_string()));
        }
        None => cells.value_or_empty(None::<u8>),
    }
}
