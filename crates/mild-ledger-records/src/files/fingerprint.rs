//! The size and hash of a file's bytes.

use sha2::{Digest, Sha256};
use std::fs::File;
use std::hash::{DefaultHasher, Hasher as _};
use std::io::{self, Read};
use std::path::Path;
use std::sync::mpsc::{SyncSender, sync_channel};
use std::thread::JoinHandle;

/// Bytes from which hashing is worth a thread of its own.
const LARGE: u64 = 1 << 20;
/// Bytes handed to that thread at a time.
const CHUNK: usize = 256 << 10;
/// Chunks that may wait for it.
const WAITING: usize = 8;

/// What the bytes of a file hash to (SHA-256, FIPS 180-4), and how many they are.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Fingerprint {
    pub(crate) bytes: u64,
    /// The hash in lower-case hexadecimal.
    pub(crate) sha256: String,
}

/// A quick sum of the bytes that go by, to tell whether the file that stands there is the one that was written.
#[derive(Debug, Default)]
pub(crate) struct Checksum {
    bytes: u64,
    hash: DefaultHasher,
}

impl Checksum {
    pub(crate) fn update(&mut self, bytes: &[u8]) {
        self.bytes += bytes.len() as u64;
        self.hash.write(bytes);
    }

    /// It depends on the bytes alone, not on the pieces in which they came.
    pub(crate) fn finish(&self) -> u64 {
        self.hash.finish() ^ self.bytes
    }
}

/// Counts and hashes the bytes that go by. The hash of a large file is worked out beside the reading or
/// writing of it, since on processors without instructions for it it takes as long.
#[derive(Debug, Default)]
pub(crate) struct Hasher {
    bytes: u64,
    place: Place,
    chunk: Vec<u8>,
}

#[derive(Debug)]
enum Place {
    Here(Sha256),
    Beside { chunks: SyncSender<Vec<u8>>, thread: JoinHandle<Sha256> },
}

impl Default for Place {
    fn default() -> Self {
        Self::Here(Sha256::default())
    }
}

impl Fingerprint {
    /// The fingerprint of a file as it stands.
    pub(crate) fn of_file(path: &Path) -> io::Result<Self> {
        let mut file = File::open(path)?;
        let mut hasher = Hasher::default();
        let mut buffer = vec![0; CHUNK];
        loop {
            match file.read(&mut buffer) {
                Ok(0) => return Ok(hasher.finish()),
                Ok(read) => hasher.update(&buffer[..read]),
                Err(error) if error.kind() == io::ErrorKind::Interrupted => {}
                Err(error) => return Err(error),
            }
        }
    }

    /// The fingerprint of bytes that are all there.
    pub(crate) fn of_bytes(bytes: &[u8]) -> Self {
        let mut hasher = Hasher::default();
        hasher.update(bytes);
        hasher.finish()
    }
}

impl Hasher {
    pub(crate) fn update(&mut self, bytes: &[u8]) {
        self.bytes += bytes.len() as u64;
        if self.bytes >= LARGE
            && let Place::Here(hash) = &mut self.place
        {
            self.place = move_beside(std::mem::take(hash));
        }
        match &mut self.place {
            Place::Here(hash) => hash.update(bytes),
            Place::Beside { chunks, .. } => {
                self.chunk.extend_from_slice(bytes);
                if self.chunk.len() >= CHUNK {
                    let next = Vec::with_capacity(CHUNK + bytes.len());
                    // The thread ends only when this end is dropped, so the chunk arrives.
                    let _ = chunks.send(std::mem::replace(&mut self.chunk, next));
                }
            }
        }
    }

    /// Bytes so far.
    pub(crate) fn bytes(&self) -> u64 {
        self.bytes
    }

    pub(crate) fn finish(self) -> Fingerprint {
        let hash = match self.place {
            Place::Here(hash) => hash,
            Place::Beside { chunks, thread } => {
                let _ = chunks.send(self.chunk);
                drop(chunks);
                // A thread that failed leaves the hash of nothing, which agrees with no file.
                thread.join().unwrap_or_default()
            }
        };
        let sha256 = hash.finalize().iter().map(|byte| format!("{byte:02x}")).collect();
        Fingerprint { bytes: self.bytes, sha256 }
    }
}

/// Goes on with a hash on a thread of its own; where there can be none, here.
fn move_beside(hash: Sha256) -> Place {
    let (chunks, received) = sync_channel::<Vec<u8>>(WAITING);
    let mut moved = hash.clone();
    let thread = std::thread::Builder::new().name("hash".to_owned()).spawn(move || {
        for chunk in received {
            moved.update(&chunk);
        }
        moved
    });
    match thread {
        Ok(thread) => Place::Beside { chunks, thread },
        Err(_) => Place::Here(hash),
    }
}

#[cfg(test)]
mod tests {
    use super::{Checksum, Fingerprint, Hasher, LARGE};
    use sha2::{Digest, Sha256};

    #[test]
    fn large_files_hash_as_small_ones_do() {
        // FIPS 180-4's own example.
        let abc = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";
        assert_eq!(Fingerprint::of_bytes(b"abc").sha256, abc);
        let bytes: Vec<u8> = (0..3 * LARGE + 17).map(|nth| (nth * 7 % 251) as u8).collect();
        for step in [1000, 65_536, bytes.len()] {
            let mut hasher = Hasher::default();
            bytes.chunks(step).for_each(|chunk| hasher.update(chunk));
            let expected: String = Sha256::digest(&bytes).iter().map(|byte| format!("{byte:02x}")).collect();
            let mut checksum = Checksum::default();
            bytes.chunks(step).for_each(|chunk| checksum.update(chunk));
            let mut whole = Checksum::default();
            whole.update(&bytes);
            assert_eq!(checksum.finish(), whole.finish());
            assert_eq!(hasher.finish(), Fingerprint { bytes: bytes.len() as u64, sha256: expected });
        }
    }
}
