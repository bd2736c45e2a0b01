//! Lines of text to a file.

use super::Written;
use crate::files::Checksum;
use std::fs::File;
use std::io::{self, Write};

/// Writes lines to a file and keeps count of what it wrote.
#[derive(Debug)]
pub(super) struct LineWriter {
    file: File,
    buffer: Vec<u8>,
    checksum: Checksum,
    rows: u64,
    bytes: u64,
}

impl LineWriter {
    pub(super) fn new(file: File) -> Self {
        Self {
            file,
            buffer: Vec::with_capacity(BUFFER + 4096),
            checksum: Checksum::default(),
            rows: 0,
            bytes: 0,
        }
    }

    /// A line that is no row, such as a header.
    pub(super) fn write_header(&mut self, line: &[u8]) -> io::Result<()> {
        self.buffer.extend_from_slice(line);
        if self.buffer.len() >= BUFFER { self.empty_buffer() } else { Ok(()) }
    }

    /// The line of a row, with its end.
    pub(super) fn write_row(&mut self, line: &[u8]) -> io::Result<()> {
        self.rows += 1;
        self.write_header(line)
    }

    /// Bytes that stand in the file by now.
    pub(super) fn bytes(&self) -> u64 {
        self.bytes
    }

    /// Writes what is left, and says what was written.
    pub(super) fn finish(mut self, behind_apostrophe: u64) -> io::Result<Written> {
        self.empty_buffer()?;
        self.file.flush()?;
        Ok(Written { rows: self.rows, checksum: self.checksum.finish(), behind_apostrophe })
    }

    fn empty_buffer(&mut self) -> io::Result<()> {
        self.file.write_all(&self.buffer)?;
        self.checksum.update(&self.buffer);
        self.bytes += self.buffer.len() as u64;
        self.buffer.clear();
        Ok(())
    }
}

const BUFFER: usize = 128 << 10;
