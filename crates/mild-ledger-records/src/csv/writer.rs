//! Lines of CSV out: cells quoted where they must be, formulas made harmless.

use super::guard::is_formula;
use crate::files::Checksum;
use std::fs::File;
use std::io::{self, Write};

/// Writes the cells of one line after the other into a buffer.
#[derive(Debug, Default)]
pub(crate) struct CellWriter {
    line: Vec<u8>,
    cells: usize,
    behind_apostrophe: u64,
}

impl CellWriter {
    /// A text that came from records, or from the plan.
    pub(crate) fn text(&mut self, text: &str) {
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
    pub(crate) fn own_text(&mut self, text: &str) {
        self.begin_cell();
        self.quoted_if_needed(text);
    }

    /// A value of our own making, such as a date or a number, which holds no sign that needs quoting.
    pub(crate) fn value(&mut self, value: impl std::fmt::Display) {
        self.begin_cell();
        // Writing to memory does not fail.
        let _ = write!(self.line, "{value}");
    }

    pub(crate) fn empty(&mut self) {
        self.begin_cell();
    }

    /// The finished line with its end; the next cell begins a new one.
    pub(crate) fn take_line(&mut self, use_line: impl FnOnce(&[u8]) -> io::Result<()>) -> io::Result<()> {
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
    pub(crate) fn behind_apostrophe(&self) -> u64 {
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

/// Writes lines to a file and keeps count of what it wrote.
#[derive(Debug)]
pub(crate) struct LineWriter {
    file: File,
    buffer: Vec<u8>,
    checksum: Checksum,
    lines: u64,
}

impl LineWriter {
    pub(crate) fn new(file: File) -> Self {
        Self { file, buffer: Vec::with_capacity(BUFFER + 4096), checksum: Checksum::default(), lines: 0 }
    }

    pub(crate) fn write_line(&mut self, line: &[u8]) -> io::Result<()> {
        self.buffer.extend_from_slice(line);
        self.lines += 1;
        if self.buffer.len() >= BUFFER { self.empty_buffer() } else { Ok(()) }
    }

    /// Writes what is left, and says what was written.
    pub(crate) fn finish(mut self) -> io::Result<WrittenLines> {
        self.empty_buffer()?;
        self.file.flush()?;
        Ok(WrittenLines { lines: self.lines, checksum: self.checksum.finish() })
    }

    fn empty_buffer(&mut self) -> io::Result<()> {
        self.file.write_all(&self.buffer)?;
        self.checksum.update(&self.buffer);
        self.buffer.clear();
        Ok(())
    }
}

/// What a [`LineWriter`] wrote, by its own count.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct WrittenLines {
    /// The header's line included.
    pub(crate) lines: u64,
    pub(crate) checksum: u64,
}

const BUFFER: usize = 128 << 10;
