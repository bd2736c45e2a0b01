//! Workbooks (.xlsx, ISO/IEC 29500): one sheet whose header is frozen, filters, and is on each page of paper; dates and numbers as what they are, texts as texts, so that nothing
//! of them is run.

mod cells;

use super::columns::Value;
use super::counted::Counted;
use super::packed::{PackedForm, unpack};
use super::{RowBytes, Sink, SinkForm, SinkKind, SinkPart, Written};
use arrow_schema::Schema;
use cells::SheetWriter;
use std::fs::File;
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "workbook",
    takes: &[SinkPart::Dates],
    is_built: true,
    form: |_, _| Ok(Arc::new(PackedForm)),
    create: |target, columns, form| WorkbookSink::begin(target.file, columns, form),
};

/// A workbook while its sheet is filled, row by row.
struct WorkbookSink {
    file: File,
    sheet: SheetWriter,
    rows: u64,
}

impl WorkbookSink {
    fn begin(file: File, columns: &Schema, form: &SinkForm) -> io::Result<Box<dyn Sink>> {
        let sheet = SheetWriter::begin(columns, form.dates.as_ref())?;
        Ok(Box::new(Self { file, sheet, rows: 0 }))
    }
}

impl Sink for WorkbookSink {
    fn write(&mut self, rows: &RowBytes) -> io::Result<()> {
        let bytes = rows.rows.as_bytes();
        for range in rows.rows.ranges() {
            let values = unpack(bytes.get(range).unwrap_or_default());
            self.sheet.write_row(&values.collect::<io::Result<Vec<Value<'_>>>>()?)?;
            self.rows += 1;
        }
        Ok(())
    }

    /// The sheet comes nowhere until it is whole.
    fn bytes_written(&self) -> u64 {
        0
    }

    fn finish(self: Box<Self>) -> io::Result<Written> {
        let mut file = Counted::new(self.file);
        self.sheet.save(&mut file)?;
        Ok(Written { rows: self.rows, checksum: file.finish()?, behind_apostrophe: 0 })
    }
}
