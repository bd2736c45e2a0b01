//! Cells one after the other in a line of CSV.

use super::guard::is_formula;
use crate::sink::digits::{put_date, put_number};
use crate::sink::{RowBytes, SinkForm};
use mild_ledger::{Date, DateTime, Decimal, DecimalMark};
use std::io::Write;

/// Writes the cells of one line after the other.
#[derive(Debug)]
pub(super) struct CellWriter<'r> {
    lines: &'r mut RowBytes,
    form: &'r SinkForm,
    cells: usize,
}

/// The bytes that a cell is quoted for, next to the separator.
const WANTS_QUOTES: [bool; 256] = {
    let mut wants = [false; 256];
    wants[b'"' as usize] = true;
    wants[b'\n' as usize] = true;
    wants[b'\r' as usize] = true;
    wants[b'\t' as usize] = true;
    wants
};

impl<'r> CellWriter<'r> {
    pub(super) fn new(lines: &'r mut RowBytes, form: &'r SinkForm) -> Self {
        Self { lines, form, cells: 0 }
    }

    /// A text that came from records, or from the plan.
    pub(super) fn text(&mut self, text: &str) {
        if is_formula(text) {
            self.lines.behind_apostrophe += 1;
            self.own_text(&format!("'{text}"));
        } else {
            self.own_text(text);
        }
    }

    /// A text of our own making, such as a label or a figure in words, which is not a formula whatever it begins with.
    pub(super) fn own_text(&mut self, text: &str) {
        self.begin_cell();
        self.quoted_if_needed(text);
    }

    /// Nothing.
    pub(super) fn empty(&mut self) {
        self.begin_cell();
    }

    pub(super) fn date(&mut self, date: Date) {
        match &self.form.dates {
            None => put_date(self.begin_cell(), date),
            // A pattern may hold a character that wants quotes.
            Some(pattern) => self.own_text(&pattern.write(date)),
        }
    }

    /// A date with its time of day; after a date of another form the time comes after a space.
    pub(super) fn date_time(&mut self, at: DateTime) {
        match &self.form.dates {
            // Writing to memory does not fail.
            None => {
                let _ = write!(self.begin_cell(), "{at}");
            }
            Some(pattern) => self.own_text(&format!("{} {}", pattern.write(at.date()), at.time())),
        }
    }

    pub(super) fn number(&mut self, number: Decimal) {
        let mark = self.form.decimal_mark;
        let cell = self.begin_cell();
        let start = cell.len();
        put_number(cell, number);
        if mark != DecimalMark::Point
            && let Some(point) = cell.iter().skip(start).position(|byte| *byte == b'.')
            && let Some(byte) = cell.get_mut(start + point)
        {
            *byte = b',';
        }
    }

    /// Ends the line; the next cell begins a new one.
    pub(super) fn end_row(&mut self) {
        let rows = &mut self.lines.rows;
        // A line of one empty cell would be no line at all to a reader.
        if self.cells == 1 && rows.bytes_of_open_row() == 0 {
            rows.open_row().extend_from_slice(b"\"\"");
        }
        rows.open_row().push(b'\n');
        rows.end_row();
        self.cells = 0;
    }

    fn begin_cell(&mut self) -> &mut Vec<u8> {
        let separator = self.form.separator;
        let line = self.lines.rows.open_row();
        if self.cells > 0 {
            line.push(separator);
        }
        self.cells += 1;
        line
    }

    fn quoted_if_needed(&mut self, text: &str) {
        let separator = self.form.separator;
        let line = self.lines.rows.open_row();
        if !text.bytes().any(|byte| byte == separator || WANTS_QUOTES[usize::from(byte)]) {
            line.extend_from_slice(text.as_bytes());
            return;
        }
        line.push(b'"');
        let mut rest = text.as_bytes();
        while !rest.is_empty() {
            let used = line.len();
            line.resize(used + rest.len() * 2, 0);
            let (_, read, written) = csv_core::quote(rest, &mut line[used..], b'"', b'"', true);
            line.truncate(used + written);
            rest = &rest[read..];
        }
        line.push(b'"');
    }
}
