//! Sorting more rows than memory should hold: sorted runs on disk, merged.

mod by_key;
mod key;
mod log;
mod merge;

use crate::table::ByteRows;
pub(crate) use key::{Direction, SortKey};
pub(crate) use log::Log;
pub(crate) use merge::Merge;
use std::fs::File;
use std::io::{self, BufWriter, Seek, SeekFrom, Write};
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::thread::{Builder, JoinHandle};

/// Bytes held in memory before a run goes to disk, while the next one is gathered.
const RUN_BYTES: usize = 8 << 20;
/// Runs merged at a time, each with a buffer of its own.
const MOST_RUNS: usize = 256;

/// Takes entries of a key and a payload in any order and gives them back by key; entries of the same key come
/// in the order in which they were given.
#[derive(Debug)]
pub(crate) struct Sorter {
    folder: PathBuf,
    run_bytes: usize,
    held: Held,
    runs: Vec<File>,
    /// The run that is sorted and written, by a thread of its own, while the next one is gathered.
    under_way: Option<UnderWay>,
}

/// A thread that makes a run; it is waited for even where the run is not wanted any more, so that nothing is written afterwards.
#[derive(Debug)]
struct UnderWay(Option<JoinHandle<io::Result<File>>>);

impl UnderWay {
    fn run(mut self) -> io::Result<File> {
        let stopped = || io::Error::other("the thread that sorts stopped");
        self.0.take().ok_or_else(stopped)?.join().map_err(|_| stopped())?
    }
}

impl Drop for UnderWay {
    fn drop(&mut self) {
        if let Some(thread) = self.0.take() {
            let _ = thread.join();
        }
    }
}

/// Entries in memory.
#[derive(Debug, Default)]
struct Held {
    bytes: Vec<u8>,
    entries: Vec<Entry>,
}

#[derive(Debug, Clone, Copy)]
struct Entry {
    /// The first bytes of the key, which tell most keys apart.
    prefix: u64,
    /// Where the key and the payload are among the bytes.
    key: Place,
    payload: Place,
}

#[derive(Debug, Clone, Copy)]
struct Place {
    start: u32,
    length: u32,
}

impl Place {
    fn of(range: Range<usize>) -> io::Result<Self> {
        let too_long = |_| io::Error::new(io::ErrorKind::InvalidInput, "a row is too long to sort");
        let start = u32::try_from(range.start).map_err(too_long)?;
        Ok(Self { start, length: u32::try_from(range.len()).map_err(too_long)? })
    }

    fn range(self) -> Range<usize> {
        let start = self.start as usize;
        start..start + self.length as usize
    }
}

/// The first bytes of a key as a number that orders as they do.
fn prefix_of(key: &[u8]) -> u64 {
    if let Some(first) = key.first_chunk() {
        return u64::from_be_bytes(*first);
    }
    let mut first = [0; 8];
    first[..key.len()].copy_from_slice(key);
    u64::from_be_bytes(first)
}

impl Entry {
    fn key(self, bytes: &[u8]) -> &[u8] {
        &bytes[self.key.range()]
    }
}

impl Held {
    /// Takes one entry for each of the keys and payloads.
    fn take(&mut self, keys: &ByteRows, payloads: &ByteRows) -> io::Result<()> {
        let keys_from = self.bytes.len();
        self.bytes.extend_from_slice(keys.as_bytes());
        let payloads_from = self.bytes.len();
        self.bytes.extend_from_slice(payloads.as_bytes());
        let behind = |range: Range<usize>, from: usize| range.start + from..range.end + from;
        for (key, payload) in keys.ranges().zip(payloads.ranges()) {
            self.add_entry(behind(key, keys_from), behind(payload, payloads_from))?;
        }
        Ok(())
    }

    fn take_one(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        let start = self.bytes.len();
        self.bytes.extend_from_slice(key);
        let payload_start = self.bytes.len();
        self.bytes.extend_from_slice(payload);
        self.add_entry(start..payload_start, payload_start..self.bytes.len())
    }

    fn add_entry(&mut self, key: Range<usize>, payload: Range<usize>) -> io::Result<()> {
        let prefix = prefix_of(&self.bytes[key.clone()]);
        self.entries.push(Entry { prefix, key: Place::of(key)?, payload: Place::of(payload)? });
        Ok(())
    }

    /// Nothing, with as much room as this one needed.
    fn emptied_with_room(&self) -> Self {
        Self { bytes: Vec::with_capacity(self.bytes.len()), entries: Vec::with_capacity(self.entries.len()) }
    }

    fn size(&self) -> usize {
        self.bytes.len() + self.entries.len() * size_of::<Entry>()
    }

    fn sort(&mut self) {
        by_key::sort(&mut self.entries, &self.bytes);
    }

    /// Writes the entries by key to a nameless file in a folder.
    fn into_run(mut self, folder: &Path) -> io::Result<File> {
        self.sort();
        let mut run = new_run(folder)?;
        for entry in &self.entries {
            merge::write_entry(&mut run, entry.key(&self.bytes), &self.bytes[entry.payload.range()])?;
        }
        rewound(run)
    }
}

impl Sorter {
    /// A sorter whose runs, if any are needed, are nameless files in this folder.
    pub(crate) fn new(folder: &Path) -> Self {
        Self::with_run_bytes(folder, RUN_BYTES)
    }

    fn with_run_bytes(folder: &Path, run_bytes: usize) -> Self {
        Self {
            folder: folder.to_owned(),
            run_bytes,
            held: Held::default(),
            runs: Vec::new(),
            under_way: None,
        }
    }

    /// Takes one entry for each of the keys and payloads, which are as many.
    pub(crate) fn push_all(&mut self, keys: &ByteRows, payloads: &ByteRows) -> io::Result<()> {
        self.held.take(keys, payloads)?;
        self.run_if_full()
    }

    pub(crate) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        self.held.take_one(key, payload)?;
        self.run_if_full()
    }

    fn run_if_full(&mut self) -> io::Result<()> {
        if self.held.size() >= self.run_bytes { self.begin_run() } else { Ok(()) }
    }

    /// All entries by key.
    pub(crate) fn finish(mut self) -> io::Result<Merge> {
        self.end_run()?;
        self.held.sort();
        Merge::new(self.runs, self.held.bytes, self.held.entries)
    }

    /// Hands the held rows to a thread that makes a run of them, once the run before is written; so memory stays bounded.
    fn begin_run(&mut self) -> io::Result<()> {
        self.end_run()?;
        let room = self.held.emptied_with_room();
        let (held, folder) = (std::mem::replace(&mut self.held, room), self.folder.clone());
        let (hand_over, handed_over) = std::sync::mpsc::sync_channel::<Held>(1);
        let work = move || handed_over.recv().map_err(io::Error::other)?.into_run(&folder);
        match Builder::new().name("sort".to_owned()).spawn(work) {
            Ok(thread) => {
                hand_over.send(held).map_err(|_| io::Error::other("the thread that sorts stopped"))?;
                self.under_way = Some(UnderWay(Some(thread)));
                Ok(())
            }
            // Where the system gives no thread, this one does it.
            Err(_) => self.keep_run(held.into_run(&self.folder)?),
        }
    }

    /// Waits for the run that is under way.
    fn end_run(&mut self) -> io::Result<()> {
        match self.under_way.take() {
            Some(under_way) => self.keep_run(under_way.run()?),
            None => Ok(()),
        }
    }

    fn keep_run(&mut self, run: File) -> io::Result<()> {
        self.runs.push(run);
        if self.runs.len() == MOST_RUNS { self.join_runs() } else { Ok(()) }
    }

    /// Makes one run of many, so that the merge at the end holds a bounded number of buffers.
    fn join_runs(&mut self) -> io::Result<()> {
        let mut merge = Merge::new(std::mem::take(&mut self.runs), Vec::new(), Vec::new())?;
        let mut joined = new_run(&self.folder)?;
        while let Some((key, payload)) = merge.next()? {
            merge::write_entry(&mut joined, key, payload)?;
        }
        self.runs.push(rewound(joined)?);
        Ok(())
    }
}

fn new_run(folder: &Path) -> io::Result<BufWriter<File>> {
    Ok(BufWriter::with_capacity(256 << 10, tempfile::tempfile_in(folder)?))
}

fn rewound(run: BufWriter<File>) -> io::Result<File> {
    let mut file = run.into_inner().map_err(io::IntoInnerError::into_error)?;
    file.flush()?;
    file.seek(SeekFrom::Start(0))?;
    Ok(file)
}

#[cfg(test)]
mod tests {
    use super::Sorter;
    use crate::table::ByteRows;
    use proptest::prelude::*;

    fn sorted(entries: &[(Vec<u8>, Vec<u8>)], run_bytes: usize) -> Vec<(Vec<u8>, Vec<u8>)> {
        let folder = tempfile::tempdir().unwrap();
        let mut sorter = Sorter::with_run_bytes(folder.path(), run_bytes);
        for some in entries.chunks(3) {
            let (mut keys, mut payloads) = (ByteRows::default(), ByteRows::default());
            some.iter().for_each(|(key, payload)| {
                keys.push(key);
                payloads.push(payload);
            });
            match some {
                [(key, payload)] => sorter.push(key, payload).unwrap(),
                _ => sorter.push_all(&keys, &payloads).unwrap(),
            }
        }
        let mut merge = sorter.finish().unwrap();
        let mut out = Vec::new();
        while let Some((key, payload)) = merge.next().unwrap() {
            out.push((key.to_vec(), payload.to_vec()));
        }
        out
    }

    #[test]
    fn a_run_that_cannot_be_written_is_an_error() {
        let folder = tempfile::tempdir().unwrap();
        let mut sorter = Sorter::with_run_bytes(&folder.path().join("gone"), 1);
        // The thread of the first run is asked how it went before the second begins, or at the end.
        let pushed = sorter.push(b"key", b"payload");
        let ended = pushed.and_then(|()| sorter.finish().map(|_| ()));
        assert_eq!(ended.unwrap_err().kind(), std::io::ErrorKind::NotFound);
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]
        #[test]
        fn runs_on_disk_sort_as_memory_does(
            entries in prop::collection::vec((prop::collection::vec(0_u8..2, 0..40), prop::collection::vec(any::<u8>(), 0..9)), 0..400),
            alike in 0_usize..300,
            run_bytes in 1_usize..4000,
        ) {
            // Keys begin alike, and some differ only in how many zeros they end with.
            let entries: Vec<_> = entries.into_iter().map(|(key, payload)| ([vec![7; alike], key].concat(), payload)).collect();
            let mut expected = entries.clone();
            expected.sort_by(|a, b| a.0.cmp(&b.0));
            prop_assert_eq!(sorted(&entries, run_bytes), expected);
        }
    }
}
