//! The size and hash of a file's bytes.

use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::fs::File;
use std::io::{self, Read};
use std::path::Path;
use std::sync::mpsc::{SyncSender, sync_channel};
use std::thread::JoinHandle;
use xxhash_rust::xxh3::Xxh3;

/// Bytes from which hashing is worth a thread of its own.
const LARGE: u64 = 1 << 20;
/// Bytes handed to that thread at a time.
const CHUNK: usize = 256 << 10;
/// Chunks that may wait for it.
const WAITING: usize = 8;

/// A hash function for fingerprints, by the word that a plan names it with.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) enum HashKind {
    /// BLAKE3.
    #[default]
    Blake3,
    /// SHA-256 (FIPS 180-4).
    Sha256,
}

impl HashKind {
    /// Each with its word.
    pub(crate) const ALL: [(&'static str, Self); 2] = [("blake3", Self::Blake3), ("sha-256", Self::Sha256)];

    pub(crate) fn word(self) -> &'static str {
        Self::ALL.iter().find(|(_, kind)| *kind == self).map_or("", |(word, _)| word)
    }

    /// The function that a hash was worked out by.
    pub(crate) fn of_hash(hash: &str) -> Option<Self> {
        let (word, _) = hash.split_once(':')?;
        Self::ALL.iter().find(|(known, _)| *known == word).map(|(_, kind)| *kind)
    }
}

/// What the bytes of a file hash to, and how many they are.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct Fingerprint {
    pub(crate) bytes: u64,
    /// The word of the function, a colon, and the hash in lower-case hexadecimal.
    pub(crate) hash: String,
}

/// A quick sum of the bytes that go by, to tell whether the file that is there is the one that was written.
#[derive(Default)]
pub(crate) struct Checksum {
    hash: Xxh3,
}

impl Checksum {
    pub(crate) fn update(&mut self, bytes: &[u8]) {
        self.hash.update(bytes);
    }

    /// It depends on the bytes alone, not on the pieces in which they came.
    pub(crate) fn finish(&self) -> u64 {
        self.hash.digest()
    }
}

/// Counts and hashes the bytes that go by. SHA-256 of a large file is worked out next to the reading or writing of it, since on
/// processors without instructions for it it takes as long.
#[derive(Debug)]
pub(crate) struct Hasher {
    bytes: u64,
    state: State,
    chunk: Vec<u8>,
}

#[derive(Debug)]
enum State {
    /// The hash of the bytes is not needed.
    Unhashed,
    Blake3(Box<blake3::Hasher>),
    Sha256(Sha256),
    Sha256Beside {
        chunks: SyncSender<Vec<u8>>,
        thread: JoinHandle<Sha256>,
    },
}

impl Fingerprint {
    /// The fingerprint of a file as it is.
    pub(crate) fn of_file(path: &Path, kind: HashKind) -> io::Result<Self> {
        let mut file = File::open(path)?;
        let mut hasher = Hasher::new(kind);
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
    pub(crate) fn of_bytes(bytes: &[u8], kind: HashKind) -> Self {
        let mut hasher = Hasher::new(kind);
        hasher.update(bytes);
        hasher.finish()
    }
}

impl Hasher {
    pub(crate) fn new(kind: HashKind) -> Self {
        let state = match kind {
            HashKind::Blake3 => State::Blake3(Box::default()),
            HashKind::Sha256 => State::Sha256(Sha256::default()),
        };
        Self { bytes: 0, state, chunk: Vec::new() }
    }

    /// Only counts: of a part of a file, whose hash would say nothing.
    pub(crate) fn counting() -> Self {
        Self { bytes: 0, state: State::Unhashed, chunk: Vec::new() }
    }

    pub(crate) fn update(&mut self, bytes: &[u8]) {
        self.bytes += bytes.len() as u64;
        if self.bytes >= LARGE
            && let State::Sha256(hash) = &mut self.state
        {
            self.state = move_beside(std::mem::take(hash));
        }
        match &mut self.state {
            State::Unhashed => {}
            State::Blake3(hash) => {
                hash.update(bytes);
            }
            State::Sha256(hash) => hash.update(bytes),
            State::Sha256Beside { chunks, .. } => {
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
        let sha_256 = |hash: Sha256| in_hexadecimal(HashKind::Sha256, &hash.finalize());
        let hash = match self.state {
            State::Unhashed => String::new(),
            State::Blake3(hash) => in_hexadecimal(HashKind::Blake3, hash.finalize().as_bytes()),
            State::Sha256(hash) => sha_256(hash),
            State::Sha256Beside { chunks, thread } => {
                let _ = chunks.send(self.chunk);
                drop(chunks);
                // A thread that failed leaves the hash of nothing, which agrees with no file.
                sha_256(thread.join().unwrap_or_default())
            }
        };
        Fingerprint { bytes: self.bytes, hash }
    }
}

fn in_hexadecimal(kind: HashKind, hash: &[u8]) -> String {
    format!("{}:{}", kind.word(), to_hexadecimal(hash))
}

/// Bytes in lower-case hexadecimal.
pub(super) fn to_hexadecimal(bytes: &[u8]) -> String {
    bytes.iter().map(|byte| format!("{byte:02x}")).collect()
}

/// Goes on with a hash on a thread of its own; where there can be none, here.
fn move_beside(hash: Sha256) -> State {
    let (chunks, received) = sync_channel::<Vec<u8>>(WAITING);
    let mut moved = hash.clone();
    let thread = std::thread::Builder::new().name("hash".to_owned()).spawn(move || {
        for chunk in received {
            moved.update(&chunk);
        }
        moved
    });
    match thread {
        Ok(thread) => State::Sha256Beside { chunks, thread },
        Err(_) => State::Sha256(hash),
    }
}

#[cfg(test)]
mod tests {
    use super::{Checksum, Fingerprint, HashKind, Hasher, LARGE};
    use sha2::{Digest, Sha256};

    #[test]
    fn hashes_are_those_that_are_published() {
        // FIPS 180-4's own example, and the first of BLAKE3's published test vectors: of nothing.
        let abc = "sha-256:ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";
        assert_eq!(Fingerprint::of_bytes(b"abc", HashKind::Sha256).hash, abc);
        let nothing = "blake3:af1349b9f5f9a1a6a0404dea36dcc9499bcb25c9adc112b7cc9a93cae41f3262";
        assert_eq!(Fingerprint::of_bytes(b"", HashKind::Blake3).hash, nothing);
        assert_eq!(HashKind::of_hash(nothing), Some(HashKind::Blake3));
        assert_eq!(HashKind::of_hash(abc), Some(HashKind::Sha256));
        assert_eq!(HashKind::of_hash("md5:00"), None);
    }

    #[test]
    fn large_files_hash_as_small_ones_do() {
        let bytes: Vec<u8> = (0..3 * LARGE + 17).map(|nth| (nth * 7 % 251) as u8).collect();
        let sha_256: String = Sha256::digest(&bytes).iter().map(|byte| format!("{byte:02x}")).collect();
        let expected = [format!("blake3:{}", blake3::hash(&bytes)), format!("sha-256:{sha_256}")];
        for step in [1000, 65_536, bytes.len()] {
            for ((_, kind), expected) in HashKind::ALL.into_iter().zip(&expected) {
                let mut hasher = Hasher::new(kind);
                bytes.chunks(step).for_each(|chunk| hasher.update(chunk));
                assert_eq!(
                    hasher.finish(),
                    Fingerprint { bytes: bytes.len() as u64, hash: expected.clone() }
                );
            }
            let mut checksum = Checksum::default();
            bytes.chunks(step).for_each(|chunk| checksum.update(chunk));
            let mut whole = Checksum::default();
            whole.update(&bytes);
            assert_eq!(checksum.finish(), whole.finish());
        }
    }
}
