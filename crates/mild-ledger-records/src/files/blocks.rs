//! The bytes of a file block by block: hashed while one reads all of them, and compared where others read parts of them.

use super::fingerprint::to_hexadecimal;
use serde::{Deserialize, Serialize};
use std::io::{self, Read, Seek, SeekFrom};
use std::sync::{Arc, Mutex, PoisonError};

/// Bytes of a block. The last one of a file has the rest.
const BLOCK: usize = 256 << 10;
/// Blocks that are held for those that read a file: several columns of one file are read in turns.
const HELD: usize = 32;

/// The hash of each block of a file (BLAKE3), and how long the file is.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct BlockHashes {
    bytes: u64,
    blocks: Vec<[u8; 32]>,
}

/// Hashes blocks while the bytes of a file go by.
#[derive(Debug, Default)]
pub(crate) struct BlockHasher {
    hashes: BlockHashes,
    block: blake3::Hasher,
    /// Bytes of the block that is open.
    open: usize,
}

impl BlockHasher {
    pub(crate) fn update(&mut self, mut bytes: &[u8]) {
        while !bytes.is_empty() {
            let (of_block, rest) = bytes.split_at(bytes.len().min(BLOCK - self.open));
            self.block.update(of_block);
            self.open += of_block.len();
            self.hashes.bytes += of_block.len() as u64;
            bytes = rest;
            if self.open == BLOCK {
                self.close();
            }
        }
    }

    pub(crate) fn finish(mut self) -> BlockHashes {
        if self.open > 0 {
            self.close();
        }
        self.hashes
    }

    fn close(&mut self) {
        self.hashes.blocks.push(*self.block.finalize().as_bytes());
        self.block.reset();
        self.open = 0;
    }
}

/// A file that is read from any place.
pub(crate) trait ReadAnywhere: Read + Seek + Send {}

impl<F: Read + Seek + Send> ReadAnywhere for F {}

/// Reads a file whose blocks are compared with their hashes before any byte of them is given.
pub(crate) struct ComparedReader {
    position: u64,
    file: Arc<ComparedFile>,
}

/// A file, for all that read it in one place.
struct ComparedFile {
    hashes: Arc<BlockHashes>,
    read: Mutex<ReadBlocks>,
}

struct ReadBlocks {
    file: Box<dyn ReadAnywhere>,
    /// Blocks that agreed, by their number; those that were used last come last.
    held: Vec<(u64, Arc<Vec<u8>>)>,
}

impl ComparedReader {
    /// Reads a file that must have these hashes.
    ///
    /// # Errors
    /// Where the file has another length.
    pub(crate) fn new(mut file: Box<dyn ReadAnywhere>, hashes: Arc<BlockHashes>) -> io::Result<Self> {
        let bytes = file.seek(SeekFrom::End(0))?;
        if bytes != hashes.bytes {
            return Err(differs(&format!("it has {bytes} bytes here, and {} there", hashes.bytes)));
        }
        let read = Mutex::new(ReadBlocks { file, held: Vec::new() });
        Ok(Self { position: 0, file: Arc::new(ComparedFile { hashes, read }) })
    }

    /// How long the file is.
    #[cfg(feature = "parquet")]
    pub(crate) fn bytes(&self) -> u64 {
        self.file.hashes.bytes
    }

    /// Another reader of the same file, from a place of its own.
    #[cfg(feature = "parquet")]
    pub(crate) fn at(&self, position: u64) -> Self {
        Self { position, file: Arc::clone(&self.file) }
    }
}

impl ComparedFile {
    /// A block whose bytes agree.
    fn block(&self, number: u64) -> io::Result<Arc<Vec<u8>>> {
        // A second reader of the same file waits, and finds the block that the first one read.
        let mut read = self.read.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(nth) = read.held.iter().position(|(held, _)| *held == number) {
            let block = read.held.remove(nth);
            read.held.push(block.clone());
            return Ok(block.1);
        }
        let expected = usize::try_from(number).ok().and_then(|nth| self.hashes.blocks.get(nth));
        let expected = expected.ok_or(io::ErrorKind::UnexpectedEof)?;
        let from = number * BLOCK as u64;
        let length = usize::try_from(self.hashes.bytes - from).unwrap_or(BLOCK).min(BLOCK);
        let mut bytes = vec![0; length];
        read.file.seek(SeekFrom::Start(from))?;
        read.file.read_exact(&mut bytes)?;
        let found = blake3::hash(&bytes);
        if found.as_bytes() != expected {
            let [found, expected] = [found.as_bytes(), expected].map(|hash| to_hexadecimal(&hash[..8]));
            let until = from + length as u64;
            return Err(differs(&format!(
                "its bytes {from} to {until} begin with the hash {found}, not {expected}"
            )));
        }
        let bytes = Arc::new(bytes);
        read.held.push((number, Arc::clone(&bytes)));
        if read.held.len() > HELD {
            read.held.remove(0);
        }
        Ok(bytes)
    }
}

/// The place in a file of this length that a reader at a position goes to.
pub(super) fn place_of(to: SeekFrom, position: u64, bytes: u64) -> io::Result<u64> {
    let place = match to {
        SeekFrom::Start(place) => Some(place),
        SeekFrom::End(by) => bytes.checked_add_signed(by),
        SeekFrom::Current(by) => position.checked_add_signed(by),
    };
    place.ok_or_else(|| io::ErrorKind::InvalidInput.into())
}

/// The error of a file that is another than the one that was hashed.
fn differs(what: &str) -> io::Error {
    let help = "every process of the run must see the same files";
    io::Error::new(
        io::ErrorKind::InvalidData,
        format!("it is not the file that the run hashed: {what}; {help}"),
    )
}

impl Read for ComparedReader {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        if into.is_empty() || self.position >= self.file.hashes.bytes {
            return Ok(0);
        }
        let block = self.file.block(self.position / BLOCK as u64)?;
        let within = usize::try_from(self.position % BLOCK as u64).unwrap_or(usize::MAX);
        let mut there = block.get(within..).unwrap_or_default();
        let count = there.read(into)?;
        self.position += count as u64;
        Ok(count)
    }
}

impl Seek for ComparedReader {
    fn seek(&mut self, to: SeekFrom) -> io::Result<u64> {
        self.position = place_of(to, self.position, self.file.hashes.bytes)?;
        Ok(self.position)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use std::io::Write;

    fn file_of(bytes: &[u8]) -> Box<dyn ReadAnywhere> {
        let mut file = tempfile::tempfile().unwrap();
        file.write_all(bytes).unwrap();
        Box::new(file)
    }

    fn hashes_of(bytes: &[u8], cuts: usize) -> Arc<BlockHashes> {
        let mut hasher = BlockHasher::default();
        bytes.chunks(cuts).for_each(|some| hasher.update(some));
        Arc::new(hasher.finish())
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(24))]
        #[test]
        fn what_agrees_is_read_and_a_byte_that_differs_is_an_error(
            length in prop_oneof![Just(0), 1..3_usize, BLOCK - 1..BLOCK + 2, 2 * BLOCK..2 * BLOCK + 9],
            cuts in 1..70_000_usize,
            from in 0..2 * BLOCK,
            turned in 0..3 * BLOCK,
        ) {
            let bytes: Vec<u8> = (0..length).map(|nth| (nth * 31 % 251) as u8).collect();
            let hashes = hashes_of(&bytes, cuts);
            let mut reader = ComparedReader::new(file_of(&bytes), Arc::clone(&hashes)).unwrap();
            let mut read = Vec::new();
            reader.seek(SeekFrom::Start(from as u64)).unwrap();
            reader.read_to_end(&mut read).unwrap();
            prop_assert_eq!(&read, bytes.get(from..).unwrap_or_default());
            if let Some(byte) = bytes.clone().get_mut(turned) {
                let mut other = bytes.clone();
                other[turned] = byte.wrapping_add(1);
                let mut reader = ComparedReader::new(file_of(&other), Arc::clone(&hashes)).unwrap();
                let said = reader.read_to_end(&mut Vec::new()).unwrap_err().to_string();
                prop_assert!(said.contains("not the file that the run hashed"), "{said}");
            }
            let longer = [bytes.as_slice(), b"x"].concat();
            prop_assert!(ComparedReader::new(file_of(&longer), hashes).is_err());
        }
    }
}
