//! Merging sorted runs.

use super::Entry;
use std::cmp::Ordering;
use std::collections::BinaryHeap;
use std::fs::File;
use std::io::{self, BufReader, Read, Write};

/// Gives the entries of all runs by key.
#[derive(Debug)]
pub(crate) struct Merge {
    /// The next entry of each run that has one, least key first.
    heads: BinaryHeap<RunReader>,
    /// The run whose entry was given last; it moves on at the next call.
    given: Option<RunReader>,
}

impl Merge {
    pub(super) fn new(
        runs: Vec<RunReader>,
        bytes: Vec<u8>,
        entries: std::vec::IntoIter<Entry>,
    ) -> io::Result<Self> {
        let in_memory = RunReader { source: Source::Memory { bytes, entries }, ..RunReader::default() };
        let mut heads = BinaryHeap::new();
        for (rank, mut run) in runs.into_iter().chain(std::iter::once(in_memory)).enumerate() {
            run.rank = rank;
            if run.advance()? {
                heads.push(run);
            }
        }
        Ok(Self { heads, given: None })
    }

    /// The next key and payload, or `None` after the last.
    pub(crate) fn next(&mut self) -> io::Result<Option<(&[u8], &[u8])>> {
        if let Some(mut run) = self.given.take()
            && run.advance()?
        {
            self.heads.push(run);
        }
        self.given = self.heads.pop();
        Ok(self.given.as_ref().map(|run| (run.key.as_slice(), run.payload.as_slice())))
    }
}

/// One run with the entry it stands at.
#[derive(Debug, Default)]
pub(super) struct RunReader {
    source: Source,
    key: Vec<u8>,
    payload: Vec<u8>,
    /// Earlier runs hold what was given earlier, so they win a tie.
    rank: usize,
}

#[derive(Debug, Default)]
enum Source {
    #[default]
    Nothing,
    Disk(BufReader<File>),
    Memory {
        bytes: Vec<u8>,
        entries: std::vec::IntoIter<Entry>,
    },
}

impl RunReader {
    pub(super) fn new(file: File) -> io::Result<Self> {
        Ok(Self { source: Source::Disk(BufReader::with_capacity(64 << 10, file)), ..Self::default() })
    }

    /// Reads the next entry; `false` after the last.
    fn advance(&mut self) -> io::Result<bool> {
        self.key.clear();
        self.payload.clear();
        match &mut self.source {
            Source::Nothing => Ok(false),
            Source::Memory { bytes, entries } => match entries.next() {
                Some(entry) => {
                    self.key.extend_from_slice(entry.key(bytes));
                    self.payload.extend_from_slice(entry.payload(bytes));
                    Ok(true)
                }
                None => Ok(false),
            },
            Source::Disk(file) => {
                let mut lengths = [0; 8];
                match file.read_exact(&mut lengths) {
                    Ok(()) => {}
                    Err(error) if error.kind() == io::ErrorKind::UnexpectedEof => return Ok(false),
                    Err(error) => return Err(error),
                }
                let [a, b, c, d, e, f, g, h] = lengths;
                self.key.resize(u32::from_le_bytes([a, b, c, d]) as usize, 0);
                self.payload.resize(u32::from_le_bytes([e, f, g, h]) as usize, 0);
                file.read_exact(&mut self.key)?;
                file.read_exact(&mut self.payload)?;
                Ok(true)
            }
        }
    }
}

/// Writes an entry as [`RunReader`] reads it: both lengths, then both texts.
pub(super) fn write_entry(run: &mut impl Write, key: &[u8], payload: &[u8]) -> io::Result<()> {
    run.write_all(&(key.len() as u32).to_le_bytes())?;
    run.write_all(&(payload.len() as u32).to_le_bytes())?;
    run.write_all(key)?;
    run.write_all(payload)
}

impl Ord for RunReader {
    /// Reversed: the heap gives its greatest, and the least key is wanted.
    fn cmp(&self, other: &Self) -> Ordering {
        other.key.cmp(&self.key).then(other.rank.cmp(&self.rank))
    }
}

impl PartialOrd for RunReader {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl PartialEq for RunReader {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}

impl Eq for RunReader {}
