//! Sorting more rows than memory should hold: sorted runs on disk, merged.

mod by_key;
mod key;
mod merge;

pub(crate) use key::{Direction, SortKey};
pub(crate) use merge::Merge;
use std::fs::File;
use std::io::{self, BufWriter, Seek, SeekFrom, Write};
use std::ops::Range;
use std::path::{Path, PathBuf};

/// Bytes held in memory before a run goes to disk.
const RUN_BYTES: usize = 24 << 20;
/// Runs merged at a time, each with a buffer of its own.
const MOST_RUNS: usize = 128;

/// Takes entries of a key and a payload in any order and gives them back by key; entries of the same key come
/// in the order in which they were given.
#[derive(Debug)]
pub(crate) struct Sorter {
    folder: PathBuf,
    run_bytes: usize,
    bytes: Vec<u8>,
    entries: Vec<Entry>,
    runs: Vec<File>,
}

#[derive(Debug, Clone, Copy)]
struct Entry {
    /// The first bytes of the key, which tell most keys apart.
    prefix: u64,
    start: usize,
    key: u32,
    payload: u32,
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
        &bytes[self.key_range()]
    }

    fn key_range(self) -> Range<usize> {
        self.start..self.start + self.key as usize
    }

    fn payload_range(self) -> Range<usize> {
        let start = self.start + self.key as usize;
        start..start + self.payload as usize
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
            bytes: Vec::new(),
            entries: Vec::new(),
            runs: Vec::new(),
        }
    }

    pub(crate) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        let too_long = |_| io::Error::new(io::ErrorKind::InvalidInput, "a row is too long to sort");
        let entry = Entry {
            prefix: prefix_of(key),
            start: self.bytes.len(),
            key: u32::try_from(key.len()).map_err(too_long)?,
            payload: u32::try_from(payload.len()).map_err(too_long)?,
        };
        self.bytes.extend_from_slice(key);
        self.bytes.extend_from_slice(payload);
        self.entries.push(entry);
        if self.bytes.len() + self.entries.len() * size_of::<Entry>() >= self.run_bytes {
            self.write_run()?;
        }
        Ok(())
    }

    /// All entries by key.
    pub(crate) fn finish(mut self) -> io::Result<Merge> {
        self.sort_memory();
        Merge::new(self.runs, self.bytes, self.entries)
    }

    fn sort_memory(&mut self) {
        by_key::sort(&mut self.entries, &self.bytes);
    }

    fn write_run(&mut self) -> io::Result<()> {
        self.sort_memory();
        let mut run = self.new_run()?;
        for entry in self.entries.drain(..) {
            merge::write_entry(&mut run, entry.key(&self.bytes), &self.bytes[entry.payload_range()])?;
        }
        self.bytes.clear();
        self.runs.push(rewound(run)?);
        if self.runs.len() == MOST_RUNS { self.join_runs() } else { Ok(()) }
    }

    /// Makes one run of many, so that the merge at the end holds a bounded number of buffers.
    fn join_runs(&mut self) -> io::Result<()> {
        let mut merge = Merge::new(std::mem::take(&mut self.runs), Vec::new(), Vec::new())?;
        let mut joined = self.new_run()?;
        while let Some((key, payload)) = merge.next()? {
            merge::write_entry(&mut joined, key, payload)?;
        }
        self.runs.push(rewound(joined)?);
        Ok(())
    }

    fn new_run(&self) -> io::Result<BufWriter<File>> {
        Ok(BufWriter::with_capacity(256 << 10, tempfile::tempfile_in(&self.folder)?))
    }
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
    use proptest::prelude::*;

    fn sorted(entries: &[(Vec<u8>, Vec<u8>)], run_bytes: usize) -> Vec<(Vec<u8>, Vec<u8>)> {
        let folder = tempfile::tempdir().unwrap();
        let mut sorter = Sorter::with_run_bytes(folder.path(), run_bytes);
        for (key, payload) in entries {
            sorter.push(key, payload).unwrap();
        }
        let mut merge = sorter.finish().unwrap();
        let mut out = Vec::new();
        while let Some((key, payload)) = merge.next().unwrap() {
            out.push((key.to_vec(), payload.to_vec()));
        }
        out
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
