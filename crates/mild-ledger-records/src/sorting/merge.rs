//! Merging sorted runs.

use super::{Entry, prefix_of};
use std::cmp::Ordering;
use std::collections::BinaryHeap;
use std::collections::binary_heap::PeekMut;
use std::fs::File;
use std::io::{self, Read, Write};
use std::ops::Range;

/// Gives the entries of all runs by key.
#[derive(Debug)]
pub(crate) struct Merge {
    /// The runs by the entry that each is at, least key first.
    heads: BinaryHeap<Run>,
    /// Whether the first one's entry was given; it moves on at the next call.
    is_given: bool,
}

impl Merge {
    pub(super) fn new(runs: Vec<File>, held: Vec<u8>, entries: Vec<Entry>) -> io::Result<Self> {
        let on_disk = runs.into_iter().map(|file| Rest::Disk(Buffered { file, buffer: Vec::new(), at: 0 }));
        let in_memory = Rest::Memory { bytes: held, entries: entries.into_iter() };
        let mut heads = BinaryHeap::new();
        for (rank, rest) in on_disk.chain([in_memory]).enumerate() {
            let mut run = Run { rest, prefix: 0, key: 0..0, payload: 0..0, rank };
            if run.advance()? {
                heads.push(run);
            }
        }
        Ok(Self { heads, is_given: false })
    }

    /// The next key and payload, or `None` after the last.
    pub(crate) fn next(&mut self) -> io::Result<Option<(&[u8], &[u8])>> {
        if self.is_given
            && let Some(mut head) = self.heads.peek_mut()
            && !head.advance()?
        {
            PeekMut::pop(head);
        }
        self.is_given = true;
        Ok(self.heads.peek().map(|run| (run.key(), run.payload())))
    }
}

/// One run with the entry it is at.
#[derive(Debug)]
struct Run {
    rest: Rest,
    /// The first bytes of the key, which tell most keys apart.
    prefix: u64,
    /// Where the key and the payload are in the bytes.
    key: Range<usize>,
    payload: Range<usize>,
    /// Earlier runs hold what was given earlier, so they win a tie.
    rank: usize,
}

#[derive(Debug)]
enum Rest {
    Disk(Buffered),
    Memory { bytes: Vec<u8>, entries: std::vec::IntoIter<Entry> },
}

/// A run on disk with the part of it that was read.
#[derive(Debug)]
struct Buffered {
    file: File,
    buffer: Vec<u8>,
    /// Where the entry begins that comes next.
    at: usize,
}

/// Bytes read from a run at a time.
const BUFFER: usize = 32 << 10;

impl Run {
    /// Moves to the next entry; `false` after the last.
    fn advance(&mut self) -> io::Result<bool> {
        match &mut self.rest {
            Rest::Memory { bytes, entries } => {
                let Some(entry) = entries.next() else { return Ok(false) };
                (self.key, self.payload) = (entry.key.range(), entry.payload.range());
                self.prefix = prefix_of(&bytes[self.key.clone()]);
            }
            Rest::Disk(run) => {
                let Some((key, payload)) = run.next_lengths()? else { return Ok(false) };
                let start = run.at + LENGTHS;
                (self.key, self.payload) = (start..start + key, start + key..start + key + payload);
                run.at = self.payload.end;
                self.prefix = prefix_of(&run.buffer[self.key.clone()]);
            }
        }
        Ok(true)
    }

    fn bytes(&self) -> &[u8] {
        match &self.rest {
            Rest::Disk(run) => &run.buffer,
            Rest::Memory { bytes, .. } => bytes,
        }
    }

    fn key(&self) -> &[u8] {
        &self.bytes()[self.key.clone()]
    }

    fn payload(&self) -> &[u8] {
        &self.bytes()[self.payload.clone()]
    }
}

impl Buffered {
    /// The lengths of the next key and payload, all of which is in the buffer then; `None` at the end.
    fn next_lengths(&mut self) -> io::Result<Option<(usize, usize)>> {
        let waiting = self.buffer.len() - self.at;
        if waiting == 0 && self.fill_to(1)? == 0 {
            return Ok(None);
        }
        self.require(LENGTHS)?;
        let length = |nth: usize| {
            let from = self.at + 4 * nth;
            let bytes = self.buffer.get(from..from + 4).and_then(|bytes| bytes.try_into().ok());
            bytes.map_or(0, u32::from_le_bytes) as usize
        };
        let (key, payload) = (length(0), length(1));
        self.require(LENGTHS + key + payload)?;
        Ok(Some((key, payload)))
    }

    fn require(&mut self, bytes: usize) -> io::Result<()> {
        if self.fill_to(bytes)? < bytes { Err(io::ErrorKind::UnexpectedEof.into()) } else { Ok(()) }
    }

    /// Reads until a number of bytes wait, or the run ends; gives how many do.
    fn fill_to(&mut self, bytes: usize) -> io::Result<usize> {
        let waiting = self.buffer.len() - self.at;
        if waiting >= bytes {
            return Ok(waiting);
        }
        self.buffer.drain(..self.at);
        self.at = 0;
        let room = bytes.max(BUFFER) - waiting;
        self.buffer.reserve_exact(room);
        (&self.file).take(room as u64).read_to_end(&mut self.buffer)?;
        Ok(self.buffer.len())
    }
}

/// Bytes of the two lengths in front of an entry.
const LENGTHS: usize = 8;

/// Writes an entry as a run is read: both lengths, then both texts.
pub(super) fn write_entry(run: &mut impl Write, key: &[u8], payload: &[u8]) -> io::Result<()> {
    let [a, b, c, d] = (key.len() as u32).to_le_bytes();
    let [e, f, g, h] = (payload.len() as u32).to_le_bytes();
    run.write_all(&[a, b, c, d, e, f, g, h])?;
    run.write_all(key)?;
    run.write_all(payload)
}

impl Ord for Run {
    /// Reversed: the heap gives its greatest, and the least key is wanted.
    fn cmp(&self, other: &Self) -> Ordering {
        let by_key = || other.key().cmp(self.key());
        other.prefix.cmp(&self.prefix).then_with(by_key).then(other.rank.cmp(&self.rank))
    }
}

impl PartialOrd for Run {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl PartialEq for Run {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}

impl Eq for Run {}
