//! Entries by key, in memory while they are few and on disk where they are many.

use super::shared_file::SharedFile;
use crate::keys::hash_of;
use std::cmp::Ordering;
use std::fs::File;
use std::io::{self, BufWriter, Write};
use std::path::Path;

/// Bytes of entries that are held in memory.
pub(super) const HELD: usize = 64 << 20;
/// The same of sums, which as a rule each of our rows asks for.
pub(super) const SUMS_HELD: usize = 512 << 20;
/// Bytes from one entry on disk whose place is remembered to the next.
const STRIDE: usize = 1 << 10;
/// Takes entries in the order of their keys, each of which begins with eight bytes of a hash.
pub(super) struct IndexBuilder<'f> {
    folder: &'f Path,
    held: Vec<u8>,
    file: Option<BufWriter<File>>,
    bytes: u64,
    places: Vec<Placed>,
    most_held: usize,
}

/// An entry whose place is remembered: the hash of its key, and where it begins.
#[derive(Debug, Clone, Copy)]
struct Placed {
    hash: u64,
    at: u64,
}

/// Entries that are found by their keys, by several at once.
pub(super) enum Index {
    Held(Held),
    OnDisk(OnDisk),
}

/// Entries in memory, in the order of their keys.
pub(super) struct Held {
    bytes: Vec<u8>,
    /// Where the first entry is for each of the first bits of a hash, about as many as there are entries; hashes are spread evenly.
    starts: Vec<u32>,
    bits: u32,
}

/// Entries in a file, in the order of their keys.
pub(super) struct OnDisk {
    file: SharedFile,
    places: Vec<Placed>,
    bytes: u64,
}

fn lengths_of(key: &[u8], payload: &[u8]) -> io::Result<[[u8; 4]; 2]> {
    let too_long = |_| io::Error::new(io::ErrorKind::InvalidInput, "a row is too long to be joined from");
    let length = |bytes: &[u8]| u32::try_from(bytes.len()).map(u32::to_le_bytes).map_err(too_long);
    Ok([length(key)?, length(payload)?])
}

impl<'f> IndexBuilder<'f> {
    /// Where there are many entries they go to a file in this folder that no one else sees.
    pub(super) fn new(folder: &'f Path, most_held: usize) -> Self {
        Self { folder, held: Vec::new(), file: None, bytes: 0, places: Vec::new(), most_held }
    }

    pub(super) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        let is_due = self.places.last().is_none_or(|last| self.bytes - last.at >= STRIDE as u64);
        if is_due {
            self.places.push(Placed { hash: hash_of(key), at: self.bytes });
        }
        let [of_key, of_payload] = lengths_of(key, payload)?;
        for bytes in [of_key.as_slice(), &of_payload, key, payload] {
            self.write(bytes)?;
        }
        Ok(())
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
        let Self { held, file, bytes, places, .. } = self;
        let Some(file) = file else { return Ok(Index::Held(Held::of(held))) };
        let file = SharedFile::new(file.into_inner().map_err(io::IntoInnerError::into_error)?);
        Ok(Index::OnDisk(OnDisk { file, places, bytes }))
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
        match self {
            Self::Held(held) => Ok(held.find(key).map(then)),
            Self::OnDisk(on_disk) => on_disk.find(key, room, then),
        }
    }

    /// Takes each entry in the order of the keys.
    pub(super) fn each(&self, mut take: impl FnMut(&[u8]) -> io::Result<()>) -> io::Result<()> {
        match self {
            Self::Held(held) => {
                let mut bytes = held.bytes.as_slice();
                while let Some((_, payload)) = next_entry(&mut bytes) {
                    take(payload)?;
                }
                Ok(())
            }
            Self::OnDisk(on_disk) => on_disk.each(take),
        }
    }
}

impl Held {
    /// Entries in the order of their keys.
    fn of(bytes: Vec<u8>) -> Self {
        let mut rest = bytes.as_slice();
        let entries = std::iter::from_fn(|| next_entry(&mut rest)).count();
        // As many places as there are entries or up to twice as many, so that about one entry is in each.
        let bits = usize::BITS - entries.leading_zeros();
        let places = (1_usize << bits) + 1;
        let mut starts = Vec::with_capacity(places);
        let mut rest = bytes.as_slice();
        let end = |rest: &[u8]| u32::try_from(bytes.len() - rest.len()).unwrap_or(u32::MAX);
        let mut at = end(rest);
        while let Some((key, _)) = next_entry(&mut rest) {
            let place = place_of(hash_of(key), bits);
            if starts.len() <= place {
                starts.resize(place + 1, at);
            }
            at = end(rest);
        }
        starts.resize(places, at);
        Self { bytes, starts, bits }
    }

    fn find(&self, key: &[u8]) -> Option<&[u8]> {
        let hash = hash_of(key);
        let start = *self.starts.get(place_of(hash, self.bits))?;
        let mut bytes = self.bytes.get(start as usize..)?;
        loop {
            let (other, payload) = next_entry(&mut bytes)?;
            match hash_of(other).cmp(&hash) {
                Ordering::Less => {}
                Ordering::Equal if other == key => return Some(payload),
                Ordering::Equal => {}
                Ordering::Greater => return None,
            }
        }
    }
}

/// The place of a hash by that many of its first bits.
fn place_of(hash: u64, bits: u32) -> usize {
    hash.checked_shr(u64::BITS - bits).map_or(0, |place| usize::try_from(place).unwrap_or(0))
}

impl OnDisk {
    fn find<T>(
        &self,
        key: &[u8],
        room: &mut Vec<u8>,
        then: impl FnOnce(&[u8]) -> T,
    ) -> io::Result<Option<T>> {
        let hash = hash_of(key);
        // Entries of one hash may begin in the stretch before.
        let first = self.places.partition_point(|placed| placed.hash < hash).saturating_sub(1);
        for (nth, placed) in self.places.iter().enumerate().skip(first) {
            if placed.hash > hash {
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

    fn each(&self, mut take: impl FnMut(&[u8]) -> io::Result<()>) -> io::Result<()> {
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

    fn stretch<'s>(&self, at: u64, end: u64, room: &'s mut Vec<u8>) -> io::Result<&'s [u8]> {
        let too_large = |_| io::Error::other("a stretch of entries is too large for this machine");
        room.resize(usize::try_from(end - at).map_err(too_large)?, 0);
        self.file.read_at(at, room)?;
        Ok(room)
    }
}

/// The next entry of some bytes, which are left after it.
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

    const FIRST: [u8; 6] = [0, 1, 2, 127, 128, 255];

    proptest! {
        #[test]
        fn entries_are_found_in_memory_and_on_disk(
            entries in proptest::collection::btree_map(
                // Few first bytes, so that many keys begin alike.
                (prop::sample::select(FIRST.to_vec()), proptest::collection::vec(any::<u8>(), 0..6)),
                proptest::collection::vec(any::<u8>(), 0..900),
                0..60,
            ),
            asked in proptest::collection::vec((prop::sample::select(FIRST.to_vec()), proptest::collection::vec(any::<u8>(), 0..6)), 0..20),
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
            index.each(|payload| { all.push(payload.to_vec()); Ok(()) }).unwrap();
            prop_assert_eq!(all, entries.into_values().collect::<Vec<_>>());
        }
    }
}
