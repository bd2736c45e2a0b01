//! A file with the quick sum of the bytes written to it.

use crate::files::Checksum;
use std::fs::File;
use std::io::{self, BufWriter, Write};

/// Sums the bytes as they go by.
pub(super) struct Counted {
    file: BufWriter<File>,
    checksum: Checksum,
}

impl Counted {
    pub(super) fn new(file: File) -> Self {
        Self { file: BufWriter::new(file), checksum: Checksum::default() }
    }

    /// The sum of all bytes, once they are in the file.
    pub(super) fn finish(mut self) -> io::Result<u64> {
        self.file.flush()?;
        Ok(self.checksum.finish())
    }
}

impl Write for Counted {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        let written = self.file.write(bytes)?;
        self.checksum.update(bytes.get(..written).unwrap_or_default());
        Ok(written)
    }

    fn flush(&mut self) -> io::Result<()> {
        self.file.flush()
    }
}
