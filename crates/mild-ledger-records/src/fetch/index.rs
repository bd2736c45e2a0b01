//! Entries by key, in memory while they are few and on disk where they are many.

use super::shared_file::SharedFile;
use std::fs::File;
use std::io::{self, BufWriter, Write};
use std::path::Path;

/// Bytes of entries that are held in memory.
pub(super) const HELD: usize = 64 << 20;
/// The same of sums, which as a rule every row of ours asks for.
pub(super) const SUMS_HELD: usize = 512 << 20;
/// Bytes from one entry whose place is remembered to the next.
const STRIDE: usize = 1 << 10;

/// Takes entries in the order of their keys.
pub(super) struct IndexBuilder<'f> {
    folder: &'f Path,
    held: Vec<u8>,
    file: Option<BufWriter<File>>,
    bytes: u64,
    places: Vec<Placed>,
    most_held: usize,
}

/// An entry whose place is remembered: the first bytes of its key, and where it begins.
#[derive(Debug, Clone, Copy)]
struct Placed {
    prefix: u64,
    at: u64,
}

/// Entries that are found by their keys, by several at once.
pub(super) struct Index {
    entries: Entries,
    places: Vec<Placed>,
    bytes: u64,
}

enum Entries {
    Held(Vec<u8>),
    OnDisk(SharedFile),
}

/// The first bytes of a key, by which keys are told apart at once.
fn prefix_of(key: &[u8]) -> u64 {
    key.first_chunk().map_or(0, |first| u64::from_be_bytes(*first))
}

impl<'f> IndexBuilder<'f> {
    /// Where there are many entries they go to a file in this folder that nobody else sees.
    pub(super) fn new(folder: &'f Path, most_held: usize) -> Self {
        Self { folder, held: Vec::new(), file: None, bytes: 0, places: Vec::new(), most_held }
    }

    pub(super) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        let too_long =
            |_| io::Error::new(io::ErrorKind::InvalidInput, "a row is too long to be fetched from");
        let lengths = [key.len(), payload.len()].map(u32::try_from);
        let is_due = self.places.last().is_none_or(|last| self.bytes - last.at >= STRIDE as u64);
        if is_due {
            self.places.push(Placed { prefix: prefix_of(key), at: self.bytes });
        }
        for length in lengths {
            self.write(&length.map_err(too_long)?.to_le_bytes())?;
        }
        self.write(key)?;
        self.write(payload)
    }

    fn write(&mut self, bytes: &[u8]) -> io::Result<()> {
        self.bytes += bytes.len() as u64;
        if let Some(file) = &mut self.file {
            return file.write_all(bytes);
        }
        self.held.extend_from_slice(bytes);
        if self.held.len() > self.most_held {
            let mut file = BufWriter::new(tempfile::tempfile_in(self.folder)?);
            file.write_all(&std::mem::take(&mut self.held))?;
            self.file = Some(file);
        }
        Ok(())
    }

    pub(super) fn finish(self) -> io::Result<Index> {
        let entries = match self.file {
            None => Entries::Held(self.held),
            Some(file) => {
                Entries::OnDisk(SharedFile::new(file.into_inner().map_err(io::IntoInnerError::into_error)?))
            }
        };
        Ok(Index { entries, places: self.places, bytes: self.bytes })
    }
}

impl Index {
    /// What `then` makes of the entry of a key, if there is one; `room` is where entries from disk are read to.
    pub(super) fn find<T>(
        &self,
        key: &[u8],
        room: &mut Vec<u8>,
        then: impl FnOnce(&[u8]) -> T,
    ) -> io::Result<Option<T>> {
        let prefix = prefix_of(key);
        // Entries of one prefix may begin in the stretch before.
        let first = self.places.partition_point(|placed| placed.prefix < prefix).saturating_sub(1);
        for (nth, placed) in self.places.iter().enumerate().skip(first) {
            if placed.prefix > prefix {
                break;
            }
            let end = self.places.get(nth + 1).map_or(self.bytes, |next| next.at);
            let mut stretch = self.stretch(placed.at, end, room)?;
            while let Some((other, payload)) = next_entry(&mut stretch) {
                if other == key {
                    return Ok(Some(then(payload)));
                }
                if other > key {
                    return Ok(None);
                }
            }
        }
        Ok(None)
    }

    /// Takes each entry in the order of the keys.
    pub(super) fn each<E: From<io::Error>>(
        &self,
        mut take: impl FnMut(&[u8]) -> Result<(), E>,
    ) -> Result<(), E> {
        let mut room = Vec::new();
        for (nth, placed) in self.places.iter().enumerate() {
            let end = self.places.get(nth + 1).map_or(self.bytes, |next| next.at);
            let mut stretch = self.stretch(placed.at, end, &mut room)?;
            while let Some((_, payload)) = next_entry(&mut stretch) {
                take(payload)?;
            }
        }
        Ok(())
    }

    fn stretch<'s>(&'s self, at: u64, end: u64, room: &'s mut Vec<u8>) -> io::Result<&'s [u8]> {
        let too_large = |_| io::Error::other("a stretch of entries is too large for this machine");
        match &self.entries {
            Entries::Held(bytes) => {
                let range =
                    usize::try_from(at).map_err(too_large)?..usize::try_from(end).map_err(too_large)?;
                Ok(bytes.get(range).unwrap_or_default())
            }
            Entries::OnDisk(file) => {
                room.resize(usize::try_from(end - at).map_err(too_large)?, 0);
                file.read_at(at, room)?;
                Ok(room)
            }
        }
    }
}

/// The next entry of some bytes, which are left behind it.
fn next_entry<'b>(bytes: &mut &'b [u8]) -> Option<(&'b [u8], &'b [u8])> {
    let (key, rest) = bytes.split_first_chunk::<4>()?;
    let (payload, rest) = rest.split_first_chunk::<4>()?;
    let (key, rest) = rest.split_at_checked(u32::from_le_bytes(*key) as usize)?;
    let (payload, rest) = rest.split_at_checked(u32::from_le_bytes(*payload) as usize)?;
    *bytes = rest;
    Some((key, payload))
}

#[cfg(test)]
mod tests {
    use super::IndexBuilder;
    use proptest::prelude::*;
    use std::collections::BTreeMap;
    use std::io;

    proptest! {
        #[test]
        fn entries_are_found_in_memory_and_on_disk(
            entries in proptest::collection::btree_map(
                // Few first bytes, so that many keys begin alike.
                (0_u8..3, proptest::collection::vec(any::<u8>(), 0..6)),
                proptest::collection::vec(any::<u8>(), 0..900),
                0..60,
            ),
            asked in proptest::collection::vec((0_u8..3, proptest::collection::vec(any::<u8>(), 0..6)), 0..20),
            most_held in prop_oneof![Just(usize::MAX), 0_usize..20_000],
        ) {
            let key_of = |(first, rest): &(u8, Vec<u8>)| [&[*first; 8], rest.as_slice()].concat();
            let entries: BTreeMap<Vec<u8>, Vec<u8>> =
                entries.iter().map(|(key, payload)| (key_of(key), payload.clone())).collect();
            let folder = std::env::temp_dir();
            let mut builder = IndexBuilder::new(&folder, most_held);
            for (key, payload) in &entries {
                builder.push(key, payload).unwrap();
            }
            let index = builder.finish().unwrap();
            let mut room = Vec::new();
            for key in entries.keys().cloned().chain(asked.iter().map(key_of)) {
                let found = index.find(&key, &mut room, <[u8]>::to_vec).unwrap();
                prop_assert_eq!(found.as_ref(), entries.get(&key));
            }
            let mut all = Vec::new();
            index.each(|payload| { all.push(payload.to_vec()); Ok::<_, io::Error>(()) }).unwrap();
            prop_assert_eq!(all, entries.into_values().collect::<Vec<_>>());
        }
    }
}
