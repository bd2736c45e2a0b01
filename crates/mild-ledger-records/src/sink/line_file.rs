//! A file of lines of text, one a row.

use super::{RowBytes, Sink, Written};
use crate::files::Checksum;
use std::fs::File;
use std::io::{self, Write};

/// Writes lines to a file and keeps count of what it wrote.
pub(super) struct LineSink {
    file: File,
    buffer: Vec<u8>,
    checksum: Checksum,
    bytes: u64,
    rows: u64,
    behind_apostrophe: u64,
}

impl LineSink {
    /// Begins a file with lines that are not rows, such as a header.
    pub(super) fn begin(file: File, header: &RowBytes) -> io::Result<Box<dyn Sink>> {
        let mut sink = Self {
            file,
            buffer: Vec::with_capacity(BUFFER + 4096),
            checksum: Checksum::default(),
            bytes: 0,
            rows: 0,
            behind_apostrophe: 0,
        };
        sink.put(header)?;
        Ok(Box::new(sink))
    }

    fn put(&mut self, lines: &RowBytes) -> io::Result<()> {
        self.behind_apostrophe += lines.behind_apostrophe;
        let bytes = lines.rows.as_bytes();
        if bytes.len() >= BUFFER {
            self.empty_buffer()?;
            return self.write_through(bytes);
        }
        self.buffer.extend_from_slice(bytes);
        if self.buffer.len() >= BUFFER { self.empty_buffer() } else { Ok(()) }
    }

    fn empty_buffer(&mut self) -> io::Result<()> {
        let mut buffer = std::mem::take(&mut self.buffer);
        let written = self.write_through(&buffer);
        buffer.clear();
        self.buffer = buffer;
        written
    }

    fn write_through(&mut self, bytes: &[u8]) -> io::Result<()> {
        self.file.write_all(bytes)?;
        self.checksum.update(bytes);
        self.bytes += bytes.len() as u64;
        Ok(())
    }
}

impl Sink for LineSink {
    fn write(&mut self, rows: &RowBytes) -> io::Result<()> {
        self.rows += rows.rows.len() as u64;
        self.put(rows)
    }

    fn bytes_written(&self) -> u64 {
        self.bytes
    }

    fn finish(mut self: Box<Self>) -> io::Result<Written> {
        self.empty_buffer()?;
        self.file.flush()?;
        let Self { rows, behind_apostrophe, .. } = *self;
        Ok(Written { rows, checksum: self.checksum.finish(), behind_apostrophe })
    }
}

const BUFFER: usize = 128 << 10;
