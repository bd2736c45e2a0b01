//! Cells one behind the other in a line of CSV.

use super::guard::is_formula;
use std::io::{self, Write};

/// Writes the cells of one line after the other into a buffer.
#[derive(Debug, Default)]
pub(super) struct CellWriter {
    line: Vec<u8>,
    cells: usize,
    behind_apostrophe: u64,
}

impl CellWriter {
    /// A text that came from records, or from the plan.
    pub(super) fn text(&mut self, text: &str) {
        if is_formula(text) {
            self.behind_apostrophe += 1;
            self.begin_cell();
            self.quoted_if_needed(&format!("'{text}"));
        } else {
            self.begin_cell();
            self.quoted_if_needed(text);
        }
    }

    /// A text of our own making, such as a label or a figure in words, which is no formula whatever it begins with.
    pub(super) fn own_text(&mut self, text: &str) {
        self.begin_cell();
        self.quoted_if_needed(text);
    }

    /// A value of our own making, such as a date or a number, which holds no sign that needs quoting; or nothing.
    pub(super) fn value_or_empty(&mut self, value: Option<impl std::fmt::Display>) {
        self.begin_cell();
        if let Some(value) = value {
            // Writing to memory does not fail.
            let _ = write!(self.line, "{value}");
        }
    }

    /// The finished line with its end; the next cell begins a new one.
    pub(super) fn take_line(&mut self, use_line: impl FnOnce(&[u8]) -> io::Result<()>) -> io::Result<()> {
        // A line of one empty cell would be no line at all to a reader.
        if self.cells == 1 && self.line.is_empty() {
            self.line.extend_from_slice(b"\"\"");
        }
        self.line.push(b'\n');
        let result = use_line(&self.line);
        self.line.clear();
        self.cells = 0;
        result
    }

    /// How many texts were written behind an apostrophe because a spreadsheet would have run them.
    pub(super) fn behind_apostrophe(&self) -> u64 {
        self.behind_apostrophe
    }

    fn begin_cell(&mut self) {
        if self.cells > 0 {
            self.line.push(b',');
        }
        self.cells += 1;
    }

    fn quoted_if_needed(&mut self, text: &str) {
        if !text.bytes().any(|byte| matches!(byte, b',' | b'"' | b'\n' | b'\r' | b'\t')) {
            self.line.extend_from_slice(text.as_bytes());
            return;
        }
        self.line.push(b'"');
        let mut rest = text.as_bytes();
        while !rest.is_empty() {
            let used = self.line.len();
            self.line.resize(used + rest.len() * 2, 0);
            let (_, read, written) = csv_core::quote(rest, &mut self.line[used..], b'"', b'"', true);
            self.line.truncate(used + written);
            rest = &rest[read..];
        }
        self.line.push(b'"');
    }
}
