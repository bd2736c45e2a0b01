//! The bytes of a file as they stand in it, hashed and summed as they go by.

use crate::files::{Checksum, Fingerprint, HashKind, Hasher};
use std::io::{self, Read};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// A file that one reads, perhaps through others that unpack it, while another sees what it comes to.
#[derive(Clone)]
pub(super) struct RawBytes {
    file: Arc<Mutex<RawFile>>,
}

struct RawFile {
    file: Box<dyn Read + Send>,
    hasher: Hasher,
    checksum: Checksum,
}

impl RawBytes {
    pub(super) fn new(file: Box<dyn Read + Send>, hash: HashKind) -> Self {
        Self::of(file, Hasher::new(hash))
    }

    /// A part of a file, whose bytes are counted alone.
    pub(super) fn of_part(file: Box<dyn Read + Send>) -> Self {
        Self::of(file, Hasher::counting())
    }

    fn of(file: Box<dyn Read + Send>, hasher: Hasher) -> Self {
        Self { file: Arc::new(Mutex::new(RawFile { file, hasher, checksum: Checksum::default() })) }
    }

    fn lock(&self) -> MutexGuard<'_, RawFile> {
        self.file.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Bytes read so far.
    pub(super) fn count(&self) -> u64 {
        self.lock().hasher.bytes()
    }

    /// The quick sum and the fingerprint of all that was read.
    pub(super) fn finish(self) -> (u64, Fingerprint) {
        let mut raw = self.lock();
        let hasher = std::mem::replace(&mut raw.hasher, Hasher::new(HashKind::default()));
        (std::mem::take(&mut raw.checksum).finish(), hasher.finish())
    }
}

impl Read for RawBytes {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        let mut raw = self.lock();
        let read = raw.file.read(buffer)?;
        if let Some(new) = buffer.get(..read) {
            raw.hasher.update(new);
            raw.checksum.update(new);
        }
        Ok(read)
    }
}
