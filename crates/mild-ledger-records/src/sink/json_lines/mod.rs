//! JSON Lines: an object (RFC 8259) on each line; numbers as numbers with all their digits, dates in ISO 8601 as texts,
//! and null for an empty cell.

use super::digits::put_number;
use super::line_file::LineSink;
use super::{RowBytes, RowForm, SinkForm, SinkKind, SinkPart};
use crate::sink::columns::{Columns, Value};
use arrow_array::RecordBatch;
use arrow_schema::Schema;
use mild_ledger::WritingPattern;
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "JSON Lines",
    takes: &[SinkPart::Dates],
    is_built: true,
    form: |columns, form| Ok(Arc::new(JsonLinesForm::of(columns, form)?)),
    create: |target, _, _| LineSink::begin(target.file, &RowBytes::default()),
};

struct JsonLinesForm {
    /// What comes before each value: a bracket or a comma, the name in quotes, and a colon.
    before: Vec<Vec<u8>>,
    dates: Option<WritingPattern>,
}

impl JsonLinesForm {
    fn of(columns: &Schema, form: &SinkForm) -> io::Result<Self> {
        let before = columns.fields().iter().enumerate().map(|(nth, field)| {
            let mut before = vec![if nth == 0 { b'{' } else { b',' }];
            serde_json::to_writer(&mut before, field.name())?;
            before.push(b':');
            Ok(before)
        });
        Ok(Self { before: before.collect::<io::Result<_>>()?, dates: form.dates.clone() })
    }
}

impl RowForm for JsonLinesForm {
    fn put(&self, records: &RecordBatch, rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        let columns = Columns::of(records)?;
        for row in rows {
            let line = into.rows.open_row();
            for (value, before) in columns.row(*row).zip(&self.before) {
                line.extend_from_slice(before);
                put_value(line, value, self.dates.as_ref())?;
            }
            line.extend_from_slice(b"}\n");
            into.rows.end_row();
        }
        Ok(())
    }
}

fn put_value(line: &mut Vec<u8>, value: Value<'_>, dates: Option<&WritingPattern>) -> io::Result<()> {
    match value {
        Value::Empty => line.extend_from_slice(b"null"),
        Value::Number(number) => put_number(line, number),
        Value::Text(text, _) => serde_json::to_writer(line, text)?,
        Value::Date(date) => {
            serde_json::to_writer(line, &dates.map_or_else(|| date.to_string(), |dates| dates.write(date)))?;
        }
        Value::DateTime(at) => {
            let text = dates
                .map_or_else(|| at.to_string(), |dates| format!("{} {}", dates.write(at.date()), at.time()));
            serde_json::to_writer(line, &text)?;
        }
        Value::Parts(parts) => serde_json::to_writer(line, &parts.to_string())?,
    }
    Ok(())
}
