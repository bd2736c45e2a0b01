//! The bytes of a file as they come, hashed and summed as they go by.

use super::SourceEnd;
use super::file_form::Encoding;
use super::raw_bytes::{BytesEnd, RawBytes};
use super::unpack::{Unpacked, unpack};
use crate::error::RecordsError;
use crate::files::{BlockHashes, HashKind};
use std::io::{ErrorKind, Read};
use std::path::{Path, PathBuf};

/// Bytes read from the file at a time.
const INPUT: usize = 256 << 10;
/// Room for those that are read before anything is asked for.
const INPUT_AT_FIRST: usize = 8 << 10;
/// Room that is given to every read.
const LEAST_ROOM: usize = 64;
/// The mark at the beginning of a file in UTF-8, which is not a part of its text.
const BYTE_ORDER_MARK: &[u8] = b"\xef\xbb\xbf";

/// A file from its first byte to its last, of which some wait to be taken.
pub(super) struct FileBytes {
    path: PathBuf,
    raw: RawBytes,
    /// The text of the file, in UTF-8 whatever it is in.
    text: Box<dyn Read + Send>,
    said: Vec<String>,
    input: Vec<u8>,
    position: usize,
    filled: usize,
    /// Bytes that were taken.
    taken: u64,
    at_end: bool,
}

impl FileBytes {
    /// The text of a file after its byte order mark, if it has one, unpacked and in UTF-8.
    pub(super) fn begin(
        path: &Path,
        raw: RawBytes,
        encoding: Option<Encoding>,
    ) -> Result<Self, RecordsError> {
        let unpacked = unpack(raw.clone(), encoding).map_err(RecordsError::file(path, "read it"))?;
        Self::of(path, raw, unpacked)
    }

    /// The bytes of a file that this program wrote, as they are.
    pub(super) fn begin_own(
        path: &Path,
        file: Box<dyn Read + Send>,
        hash: HashKind,
    ) -> Result<Self, RecordsError> {
        let raw = RawBytes::new(file, hash);
        let text = Unpacked { text: Box::new(raw.clone()), said: Vec::new() };
        Self::of(path, raw, text)
    }

    /// Bytes from the middle of a file of text in UTF-8, as they are.
    pub(super) fn within(path: &Path, part: Box<dyn Read + Send>) -> Self {
        let raw = RawBytes::of_part(part);
        Self::unread(path, raw.clone(), Unpacked { text: Box::new(raw), said: Vec::new() })
    }

    fn unread(path: &Path, raw: RawBytes, Unpacked { text, said }: Unpacked) -> Self {
        Self {
            path: path.to_owned(),
            raw,
            text,
            said,
            // A file that waits for others to be read takes little room.
            input: vec![0; INPUT_AT_FIRST],
            position: 0,
            filled: 0,
            taken: 0,
            at_end: false,
        }
    }

    fn of(path: &Path, raw: RawBytes, unpacked: Unpacked) -> Result<Self, RecordsError> {
        let mut bytes = Self::unread(path, raw, unpacked);
        bytes.fill_to(64)?;
        if bytes.waiting().starts_with(BYTE_ORDER_MARK) {
            bytes.take(BYTE_ORDER_MARK.len());
        }
        Ok(bytes)
    }

    /// The bytes that were read and not taken.
    pub(super) fn waiting(&self) -> &[u8] {
        self.input.get(self.position..self.filled).unwrap_or_default()
    }

    /// Whether nothing comes after those that wait.
    pub(super) fn is_at_end(&self) -> bool {
        self.at_end
    }

    /// Takes so many of the bytes that wait.
    pub(super) fn take(&mut self, count: usize) {
        let position = self.filled.min(self.position + count);
        self.taken += (position - self.position) as u64;
        self.position = position;
    }

    /// Bytes of the text that were taken so far; those of the file itself, where it is read as it is.
    pub(super) fn taken(&self) -> u64 {
        self.taken
    }

    /// Whether the text is that of the file, neither unpacked nor in another encoding.
    pub(super) fn is_as_it_stands(&self) -> bool {
        self.said.is_empty()
    }

    /// Reads until a number of bytes wait, or all that there are.
    pub(super) fn fill_to(&mut self, count: usize) -> Result<(), RecordsError> {
        while self.filled - self.position < count && !self.at_end {
            self.fill()?;
        }
        Ok(())
    }

    /// Reads more bytes after those that wait, which are moved to the front, or given more room.
    pub(super) fn fill(&mut self) -> Result<(), RecordsError> {
        if self.position > 0 {
            self.input.copy_within(self.position..self.filled, 0);
            (self.position, self.filled) = (0, self.filled - self.position);
        }
        // A character of another encoding may become several bytes, which must find room at once.
        if self.input.len() - self.filled < LEAST_ROOM {
            self.input.resize(self.input.len() * 2, 0);
        } else if self.input.len() > 4 * INPUT && self.filled < INPUT {
            // One long row does not keep its memory for the rest of the file.
            self.input.truncate(INPUT);
            self.input.shrink_to_fit();
        }
        loop {
            match self.text.read(&mut self.input[self.filled..]) {
                Ok(read) => {
                    self.at_end = read == 0;
                    self.filled += read;
                    return Ok(());
                }
                Err(error) if error.kind() == ErrorKind::Interrupted => {}
                Err(error) => return Err(RecordsError::file(&self.path, "read it")(error)),
            }
        }
    }

    /// Bytes of the file read so far.
    pub(super) fn bytes_read(&self) -> u64 {
        self.raw.count()
    }

    /// Closes the file until more of it is read.
    pub(super) fn park(&self) {
        self.raw.park();
    }

    /// What was done to the file so that it is text in UTF-8.
    pub(super) fn said(&self) -> &[String] {
        &self.said
    }

    /// What they come to, and the rows that were found in them.
    pub(super) fn finish(self, rows: u64) -> (SourceEnd, BlockHashes) {
        drop(self.text);
        let BytesEnd { checksum, fingerprint, blocks } = self.raw.finish();
        (SourceEnd { rows, checksum, fingerprint }, blocks)
    }

    /// An error in a line of the file.
    pub(super) fn broken(&self, line: u64, what: impl Into<String>, help: impl Into<String>) -> RecordsError {
        RecordsError::BrokenFile { path: self.path.clone(), line, what: what.into(), help: help.into() }
    }
}

/// The first bytes of a broken row, made readable.
pub(super) fn beginning_of(row: &[u8]) -> String {
    const SHOWN: usize = 120;
    let more = if row.len() > SHOWN { "…" } else { "" };
    format!("{}{more}", String::from_utf8_lossy(&row[..row.len().min(SHOWN)]))
}
