//! A file that is read, from a disk or from an address.

use super::FileFacts;
use super::blocks::{BlockHashes, ComparedReader, place_of};
use super::remote::{Remote, RemoteFile, RemoteFiles};
use crate::error::RecordsError;
use std::fs::File;
use std::io::{self, Read, Seek, SeekFrom};
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};

/// A file that is open.
pub(crate) enum OpenedFile {
    Here(File),
    There(RemoteReader),
    /// Bytes that are those of an earlier reading.
    Compared(ComparedReader),
}

impl OpenedFile {
    /// Opens the file of a path, which may be an address.
    pub(crate) fn open(path: &Path, remote: &Remote) -> Result<Self, RecordsError> {
        if let Some(address) = path.to_str()
            && let Some(files) = remote.reader_of(address)
        {
            let file = files.file(address).map_err(RecordsError::file(path, "open it"))?;
            return Ok(Self::There(RemoteReader::new(Arc::clone(files), file)));
        }
        let file = File::open(path).map_err(RecordsError::file(path, "open it"))?;
        if file.metadata().map_err(RecordsError::file(path, "read it"))?.is_dir() {
            return Err(RecordsError::file(path, "read it")(io::ErrorKind::IsADirectory.into()));
        }
        Ok(Self::Here(file))
    }

    /// How it is, where it is on a disk and nothing else watches over it.
    pub(super) fn facts(&self) -> io::Result<Option<FileFacts>> {
        match self {
            Self::Here(file) => Ok(Some(FileFacts::of(&file.metadata()?))),
            Self::There(_) | Self::Compared(_) => Ok(None),
        }
    }

    /// The same, whose bytes are compared with those of an earlier reading before they are handed on.
    pub(crate) fn compared(self, path: &Path, hashes: &Arc<BlockHashes>) -> Result<Self, RecordsError> {
        let compared = ComparedReader::new(Box::new(self), Arc::clone(hashes));
        compared.map(Self::Compared).map_err(RecordsError::file(path, "read it"))
    }
}

impl Read for OpenedFile {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        match self {
            Self::Here(file) => file.read(into),
            Self::There(file) => file.read(into),
            Self::Compared(file) => file.read(into),
        }
    }
}

impl Seek for OpenedFile {
    fn seek(&mut self, to: SeekFrom) -> io::Result<u64> {
        match self {
            Self::Here(file) => file.seek(to),
            Self::There(file) => file.seek(to),
            Self::Compared(file) => file.seek(to),
        }
    }
}

/// Bytes that are asked for where nothing before them was.
const FIRST: u64 = 256 << 10;
/// The most that are asked for at once, where those before them were read.
const MOST: u64 = 4 << 20;
/// The most that are held of a file.
const HELD: usize = 32 << 20;

/// A file at an address, of which parts are held that were read.
pub(crate) struct RemoteReader {
    position: u64,
    parts: Arc<Parts>,
}

/// The data of a file, for all who read it in one place.
struct Parts {
    files: Arc<dyn RemoteFiles>,
    file: RemoteFile,
    /// Those that were used last come last.
    held: Mutex<Vec<Part>>,
}

#[derive(Clone)]
struct Part {
    from: u64,
    bytes: Arc<Vec<u8>>,
}

impl Part {
    fn end(&self) -> u64 {
        self.from + self.bytes.len() as u64
    }
}

impl RemoteReader {
    fn new(files: Arc<dyn RemoteFiles>, file: RemoteFile) -> Self {
        Self { position: 0, parts: Arc::new(Parts { files, file, held: Mutex::default() }) }
    }

    /// How long the file is.
    #[cfg(feature = "parquet")]
    pub(crate) fn bytes(&self) -> u64 {
        self.parts.file.bytes
    }

    /// Another reader of the same file, from a place of its own.
    #[cfg(feature = "parquet")]
    pub(crate) fn at(&self, position: u64) -> Self {
        Self { position, parts: Arc::clone(&self.parts) }
    }
}

impl Parts {
    /// A part that holds a place before the end of the file.
    fn holding(&self, place: u64) -> io::Result<Part> {
        // Whoever reads the same file next to this one waits, and finds the bytes.
        let mut held = self.held.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(nth) = held.iter().position(|part| (part.from..part.end()).contains(&place)) {
            let part = held.remove(nth);
            held.push(part.clone());
            return Ok(part);
        }
        // Bytes read from one place on are requested in ever larger parts.
        let before = held.iter().find(|part| part.end() == place);
        let most = before.map_or(FIRST, |part| (2 * part.bytes.len() as u64).clamp(FIRST, MOST));
        let until = self.file.bytes.min(place.saturating_add(most));
        let bytes = self.files.read(&self.file, place..until)?;
        if bytes.len() as u64 != until - place {
            let what = format!("{} of the {} bytes came that were asked for", bytes.len(), until - place);
            return Err(io::Error::new(io::ErrorKind::UnexpectedEof, what));
        }
        let part = Part { from: place, bytes: Arc::new(bytes) };
        held.push(part.clone());
        let mut sum: usize = held.iter().map(|part| part.bytes.len()).sum();
        while sum > HELD && held.len() > 1 {
            sum -= held.remove(0).bytes.len();
        }
        Ok(part)
    }
}

impl Read for RemoteReader {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        if into.is_empty() || self.position >= self.parts.file.bytes {
            return Ok(0);
        }
        let part = self.parts.holding(self.position)?;
        let within = usize::try_from(self.position - part.from).unwrap_or(usize::MAX);
        let there = part.bytes.get(within..).unwrap_or_default();
        let count = there.len().min(into.len());
        if let (Some(into), Some(there)) = (into.get_mut(..count), there.get(..count)) {
            into.copy_from_slice(there);
        }
        self.position += count as u64;
        Ok(count)
    }
}

impl Seek for RemoteReader {
    fn seek(&mut self, to: SeekFrom) -> io::Result<u64> {
        self.position = place_of(to, self.position, self.parts.file.bytes)?;
        Ok(self.position)
    }
}
