//! CSV (RFC 4180): cells quoted where they must be, formulas made harmless.

mod cells;
mod guard;

use super::line_file::LineSink;
use super::{RowBytes, RowForm, SinkKind};
use crate::table::{Data, Table};
use cells::CellWriter;
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "CSV",
    form: |_| Ok(Arc::new(CsvForm)),
    create: |file, columns| {
        let mut header = RowBytes::default();
        let mut cells = CellWriter::new(&mut header);
        columns.iter().for_each(|name| cells.text(name));
        cells.end_row();
        LineSink::begin(file, &header)
    },
};

struct CsvForm;

impl RowForm for CsvForm {
    fn put(&self, table: &Table, columns: &[usize], rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        let mut cells = CellWriter::new(into);
        for row in rows {
            columns.iter().for_each(|column| put_cell(&mut cells, table, *column, *row));
            cells.end_row();
        }
        Ok(())
    }
}

fn put_cell(cells: &mut CellWriter<'_>, table: &Table, column: usize, row: usize) {
    match table.columns.get(column) {
        Some(Data::Text(texts)) => cells.text(texts.value(row)),
        Some(Data::Made { texts, .. }) => cells.own_text(texts.value(row)),
        Some(Data::Band(bands)) => cells.own_text(bands.label(row)),
        Some(Data::Moment { .. }) => cells.value_or_empty(table.date_time(column, row)),
        Some(Data::Date(_)) => cells.date_or_empty(table.date(column, row)),
        Some(Data::Number(_) | Data::Count(_)) => cells.number_or_empty(table.decimal(column, row)),
        Some(Data::Parts(_)) => {
            let parts = table.parts(column, row);
            cells.own_text(&parts.map_or_else(String::new, |parts| parts.to_string()));
        }
        None => cells.own_text(""),
    }
}
