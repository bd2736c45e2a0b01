//! CSV (RFC 4180): cells quoted where they must be, formulas made harmless.

mod cells;
mod guard;

use super::line_file::LineSink;
use super::{ByteOrderMark, RowBytes, RowForm, SinkForm, SinkKind, SinkPart};
use crate::sink::columns::{Columns, Value, Words};
use arrow_array::RecordBatch;
use cells::CellWriter;
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "CSV",
    takes: &[SinkPart::Separator, SinkPart::DecimalMark, SinkPart::Dates, SinkPart::ByteOrderMark],
    is_built: true,
    form: |_, form| Ok(Arc::new(CsvForm { form: form.clone() })),
    create: |target, columns, form| {
        let mut header = RowBytes::default();
        if form.mark == ByteOrderMark::AtTheStart {
            header.rows.open_row().extend_from_slice("\u{feff}".as_bytes());
        }
        let mut cells = CellWriter::new(&mut header, form);
        columns.fields().iter().for_each(|field| cells.text(field.name()));
        cells.end_row();
        LineSink::begin(target.file, &header)
    },
};

struct CsvForm {
    form: SinkForm,
}

impl RowForm for CsvForm {
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        let columns = Columns::of(records)?;
        let mut cells = CellWriter::new(into, &self.form);
        for row in rows {
            columns.row(*row).for_each(|value| put_cell(&mut cells, value));
            cells.end_row();
        }
        Ok(())
    }
}

fn put_cell(cells: &mut CellWriter<'_>, value: Value<'_>) {
    match value {
        Value::Empty => cells.empty(),
        Value::Text(text, Words::TakenOver) => cells.text(text),
        Value::Text(text, Words::Own) => cells.own_text(text),
        Value::Date(date) => cells.date(date),
        Value::DateTime(at) => cells.date_time(at),
        Value::Number(number) => cells.number(number),
        Value::Parts(parts) => cells.own_text(&parts.to_string()),
    }
}
