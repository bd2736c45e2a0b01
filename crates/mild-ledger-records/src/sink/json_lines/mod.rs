//! JSON Lines: an object (RFC 8259) on each line; numbers as numbers with all their digits, dates in ISO 8601 as texts,
//! and null for an empty cell.

use super::digits::put_number;
use super::line_file::LineSink;
use super::{RowBytes, RowForm, SinkKind};
use crate::table::{Data, Table};
use std::io;
use std::sync::Arc;

pub(super) const KIND: SinkKind = SinkKind {
    word: "JSON Lines",
    form: |columns| Ok(Arc::new(JsonLinesForm::of(columns)?)),
    create: |file, _| LineSink::begin(file, &RowBytes::default()),
};

struct JsonLinesForm {
    /// What stands before each value: a bracket or a comma, the name in quotes, and a colon.
    before: Vec<Vec<u8>>,
}

impl JsonLinesForm {
    fn of(columns: &[&str]) -> io::Result<Self> {
        let before = columns.iter().enumerate().map(|(nth, name)| {
            let mut before = vec![if nth == 0 { b'{' } else { b',' }];
            serde_json::to_writer(&mut before, name)?;
            before.push(b':');
            Ok(before)
        });
        Ok(Self { before: before.collect::<io::Result<_>>()? })
    }
}

impl RowForm for JsonLinesForm {
    fn put(&self, table: &Table, columns: &[usize], rows: &[usize], into: &mut RowBytes) -> io::Result<()> {
        for row in rows {
            let line = into.rows.open_row();
            for (column, before) in columns.iter().zip(&self.before) {
                line.extend_from_slice(before);
                put_value(line, table, *column, *row)?;
            }
            line.extend_from_slice(b"}\n");
            into.rows.end_row();
        }
        Ok(())
    }
}

fn put_value(line: &mut Vec<u8>, table: &Table, column: usize, row: usize) -> io::Result<()> {
    let null = |line: &mut Vec<u8>| line.extend_from_slice(b"null");
    match table.columns.get(column) {
        Some(Data::Number(_) | Data::Count(_)) => match table.decimal(column, row) {
            Some(number) => put_number(line, number),
            None => null(line),
        },
        _ => match table.shown(column, row).as_ref() {
            "" => null(line),
            text => serde_json::to_writer(line, text)?,
        },
    }
    Ok(())
}
