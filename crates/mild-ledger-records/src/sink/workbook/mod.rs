//! Workbooks (.xlsx, ISO/IEC 29500): one sheet, its header frozen; dates and numbers as what they are, texts as texts, so that nothing
//! of them is run.

mod cells;
mod counted;

use super::columns::{Columns, Value};
use super::{RowBytes, RowForm, Sink, SinkKind, Written};
use crate::table::{CellType, TypedCell, pack, unpack};
use arrow_array::RecordBatch;
use cells::SheetWriter;
use counted::Counted;
use std::fs::File;
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "workbook",
    takes: &[],
    form: |_, _| Ok(Arc::new(WorkbookForm)),
    create: |file, columns, _| WorkbookSink::begin(file, columns),
};

/// Rows as packed cells, which are sorted as well as lines are.
struct WorkbookForm;

impl RowForm for WorkbookForm {
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        let columns = Columns::of(records)?;
        for row in rows {
            let cells: Vec<TypedCell> = columns.row(*row).map(cell_of).collect();
            pack(0, &cells, into.rows.open_row());
            into.rows.end_row();
        }
        Ok(())
    }
}

fn cell_of(value: Value<'_>) -> TypedCell {
    let (holds, text) = match value {
        Value::Empty => return TypedCell::blank(),
        Value::Text(text, _) => (CellType::Text, text.to_owned()),
        Value::Date(date) => (CellType::Date, date.to_string()),
        Value::DateTime(at) => (CellType::Date, at.to_string()),
        Value::Number(number) => (CellType::Number, number.to_string()),
        Value::Parts(parts) => (CellType::Text, parts.to_string()),
    };
    TypedCell { holds, text }
}

/// A workbook while its sheet is filled, row by row.
struct WorkbookSink {
    file: File,
    sheet: SheetWriter,
    rows: u64,
}

impl WorkbookSink {
    fn begin(file: File, columns: &[&str]) -> io::Result<Box<dyn Sink>> {
        Ok(Box::new(Self { file, sheet: SheetWriter::begin(columns)?, rows: 0 }))
    }
}

impl Sink for WorkbookSink {
    fn write(&mut self, rows: &RowBytes) -> io::Result<()> {
        let broken = || io::Error::new(io::ErrorKind::InvalidData, "a row of packed cells is broken");
        let bytes = rows.rows.as_bytes();
        for range in rows.rows.ranges() {
            let row = unpack(bytes.get(range).unwrap_or_default()).ok_or_else(broken)?;
            self.sheet.write_row(&row.cells)?;
            self.rows += 1;
        }
        Ok(())
    }

    /// The sheet stands nowhere until it is whole.
    fn bytes_written(&self) -> u64 {
        0
    }

    fn finish(self: Box<Self>) -> io::Result<Written> {
        let mut file = Counted::new(self.file);
        self.sheet.save(&mut file)?;
        Ok(Written { rows: self.rows, checksum: file.finish()?, behind_apostrophe: 0 })
    }
}
