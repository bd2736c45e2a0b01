//! The bytes of a file as they are in it, hashed and summed as they go by.

use crate::files::{BlockHasher, BlockHashes, Checksum, Fingerprint, HashKind, Hasher, ParkedFile};
use std::io::{self, Read};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

/// A file that one reads, perhaps through others that unpack it, while another sees what it comes to.
#[derive(Clone)]
pub(super) struct RawBytes {
    file: Arc<Mutex<RawFile>>,
}

/// Where the bytes come from.
enum Input {
    Open(Box<dyn Read + Send>),
    Parked(ParkedFile),
}

struct RawFile {
    file: Input,
    hasher: Hasher,
    checksum: Checksum,
    /// Of a file of which others read parts.
    blocks: Option<BlockHasher>,
}

/// What the bytes of a file come to.
pub(super) struct BytesEnd {
    /// The quick sum.
    pub(super) checksum: u64,
    pub(super) fingerprint: Fingerprint,
    /// Of no block where they are not asked for.
    pub(super) blocks: BlockHashes,
}

impl RawBytes {
    pub(super) fn new(file: Box<dyn Read + Send>, hash: HashKind) -> Self {
        Self::of(Input::Open(file), Hasher::new(hash))
    }

    /// A file of records, which may wait for its turn.
    pub(super) fn of_records(file: ParkedFile, hash: HashKind) -> Self {
        Self::of(Input::Parked(file), Hasher::new(hash))
    }

    /// A part of a file, whose bytes are counted alone.
    pub(super) fn of_part(file: Box<dyn Read + Send>) -> Self {
        Self::of(Input::Open(file), Hasher::counting())
    }

    /// Closes the file until more of it is read.
    pub(super) fn park(&self) {
        if let Input::Parked(file) = &mut self.lock().file {
            file.park();
        }
    }

    fn of(file: Input, hasher: Hasher) -> Self {
        Self {
            file: Arc::new(Mutex::new(RawFile { file, hasher, checksum: Checksum::default(), blocks: None })),
        }
    }

    /// The same, hashed block by block too.
    pub(super) fn with_blocks(self) -> Self {
        self.lock().blocks = Some(BlockHasher::default());
        self
    }

    fn lock(&self) -> MutexGuard<'_, RawFile> {
        self.file.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Bytes read so far.
    pub(super) fn count(&self) -> u64 {
        self.lock().hasher.bytes()
    }

    /// What all that was read comes to.
    pub(super) fn finish(self) -> BytesEnd {
        let mut raw = self.lock();
        let hasher = std::mem::replace(&mut raw.hasher, Hasher::new(HashKind::default()));
        BytesEnd {
            checksum: std::mem::take(&mut raw.checksum).finish(),
            fingerprint: hasher.finish(),
            blocks: raw.blocks.take().map(BlockHasher::finish).unwrap_or_default(),
        }
    }
}

impl Read for RawBytes {
    fn read(&mut self, buffer: &mut [u8]) -> io::Result<usize> {
        let mut raw = self.lock();
        let read = match &mut raw.file {
            Input::Open(file) => file.read(buffer)?,
            Input::Parked(file) => file.read(buffer)?,
        };
        if let Some(new) = buffer.get(..read) {
            raw.hasher.update(new);
            raw.checksum.update(new);
            raw.blocks.iter_mut().for_each(|blocks| blocks.update(new));
        }
        Ok(read)
    }
}
