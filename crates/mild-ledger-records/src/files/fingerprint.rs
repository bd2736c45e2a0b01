//! The size and hash of a file's bytes.

use sha2::{Digest, Sha256};
use std::fs::File;
use std::io::{self, Read};
use std::path::Path;

/// Counts and hashes (SHA-256, FIPS 180-4) the bytes that go by.
#[derive(Debug, Clone, Default)]
pub(crate) struct Fingerprint {
    bytes: u64,
    hash: Sha256,
}

impl Fingerprint {
    /// The fingerprint of a file as it stands.
    pub(crate) fn of_file(path: &Path) -> io::Result<Self> {
        let mut file = File::open(path)?;
        let mut fingerprint = Self::default();
        let mut buffer = vec![0; 128 << 10];
        loop {
            match file.read(&mut buffer) {
                Ok(0) => return Ok(fingerprint),
                Ok(read) => fingerprint.update(&buffer[..read]),
                Err(error) if error.kind() == io::ErrorKind::Interrupted => {}
                Err(error) => return Err(error),
            }
        }
    }

    pub(crate) fn update(&mut self, bytes: &[u8]) {
        self.bytes += bytes.len() as u64;
        self.hash.update(bytes);
    }

    pub(crate) fn bytes(&self) -> u64 {
        self.bytes
    }

    /// The hash in lower-case hexadecimal.
    pub(crate) fn hex(&self) -> String {
        self.hash.clone().finalize().iter().map(|byte| format!("{byte:02x}")).collect()
    }
}
