//! A file of which several read parts at once.

use std::fs::File;
use std::io;

/// Where the system reads from any place of a file at once, no one waits for another.
#[cfg(unix)]
pub(super) struct SharedFile(File);

#[cfg(unix)]
impl SharedFile {
    pub(super) fn new(file: File) -> Self {
        Self(file)
    }

    /// Fills the bytes with those that are from a place on.
    pub(super) fn read_at(&self, at: u64, into: &mut [u8]) -> io::Result<()> {
        std::os::unix::fs::FileExt::read_exact_at(&self.0, into, at)
    }
}

#[cfg(not(unix))]
pub(super) struct SharedFile(std::sync::Mutex<File>);

#[cfg(not(unix))]
impl SharedFile {
    pub(super) fn new(file: File) -> Self {
        Self(std::sync::Mutex::new(file))
    }

    /// Fills the bytes with those that are from a place on.
    pub(super) fn read_at(&self, at: u64, into: &mut [u8]) -> io::Result<()> {
        use std::io::{Read, Seek, SeekFrom};
        let mut file = self.0.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        file.seek(SeekFrom::Start(at))?;
        file.read_exact(into)
    }
}
