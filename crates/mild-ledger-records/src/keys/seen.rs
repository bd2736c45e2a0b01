//! Keys as they go by, of which those are wanted that may be in several rows.

use super::making::hash_of;
use crate::sorting::{Log, Merge, Sorter};
use std::collections::HashSet;
use std::io;
use std::path::{Path, PathBuf};

/// The hashes of keys that are held in memory, eight bytes each: of more rows all keys are sorted.
const MOST_HASHES: usize = 16 << 20;

/// The keys of all rows, each with what is to be known of its row.
pub(super) struct SeenKeys {
    folder: PathBuf,
    most_hashes: usize,
    held: Held,
}

enum Held {
    /// Nothing so far.
    Nothing,
    /// Their hashes, and all of them on disk in the order of the rows.
    Hashes(Vec<u64>, Log),
    Sorter(Sorter),
}

impl SeenKeys {
    /// What is more than memory should hold is in nameless files in this folder.
    pub(super) fn new(folder: &Path) -> Self {
        Self::with_hashes(folder, MOST_HASHES)
    }

    fn with_hashes(folder: &Path, most_hashes: usize) -> Self {
        Self { folder: folder.to_owned(), most_hashes, held: Held::Nothing }
    }

    /// Takes the key of a row, its hash first.
    pub(super) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        loop {
            match &mut self.held {
                Held::Sorter(sorter) => return sorter.push(key, payload),
                Held::Nothing => self.held = Held::Hashes(Vec::new(), Log::new(&self.folder)?),
                Held::Hashes(hashes, log) if hashes.len() < self.most_hashes => {
                    hashes.push(hash_of(key));
                    return log.push(key, payload);
                }
                Held::Hashes(_, log) => {
                    let log = std::mem::replace(log, Log::new(&self.folder)?);
                    self.held = Held::Sorter(self.sorted(log, |_| true)?);
                }
            }
        }
    }

    /// The keys by themselves, each with the rows in which it is in the order of those; keys that are in one row only may be left out.
    pub(super) fn finish(mut self) -> io::Result<Merge> {
        match std::mem::replace(&mut self.held, Held::Nothing) {
            Held::Nothing => Sorter::new(&self.folder).finish(),
            Held::Sorter(sorter) => sorter.finish(),
            Held::Hashes(hashes, log) => {
                let repeated = repeated(hashes);
                if repeated.is_empty() {
                    return Sorter::new(&self.folder).finish();
                }
                self.sorted(log, |key| repeated.contains(&hash_of(key)))?.finish()
            }
        }
    }

    /// Those of a log that are wanted.
    fn sorted(&self, log: Log, is_wanted: impl Fn(&[u8]) -> bool) -> io::Result<Sorter> {
        let mut sorter = Sorter::new(&self.folder);
        let mut all = log.finish()?;
        while let Some((key, payload)) = all.next()? {
            if is_wanted(key) {
                sorter.push(key, payload)?;
            }
        }
        Ok(sorter)
    }
}

/// The hashes that are there more than once.
fn repeated(mut hashes: Vec<u64>) -> HashSet<u64, ahash::RandomState> {
    hashes.sort_unstable();
    let pairs = hashes.windows(2).filter(|pair| pair.first() == pair.last());
    pairs.filter_map(|pair| pair.first().copied()).collect()
}

#[cfg(test)]
mod tests {
    use super::SeenKeys;
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    proptest! {
        #[test]
        fn every_row_of_a_key_that_repeats_comes_back(
            // Few hashes, so that different keys share some.
            rows in prop::collection::vec((0_u64..4, 0_u8..4), 0..60),
            most_hashes in 0_usize..80,
        ) {
            let folder = tempfile::tempdir().unwrap();
            let mut seen = SeenKeys::with_hashes(folder.path(), most_hashes);
            let mut expected: BTreeMap<Vec<u8>, Vec<u64>> = BTreeMap::new();
            for (row, (hash, rest)) in (1_u64..).zip(&rows) {
                let key = [&hash.to_be_bytes()[..], &[*rest]].concat();
                seen.push(&key, &row.to_le_bytes()).unwrap();
                expected.entry(key).or_default().push(row);
            }
            let mut merge = seen.finish().unwrap();
            let mut found: BTreeMap<Vec<u8>, Vec<u64>> = BTreeMap::new();
            while let Some((key, row)) = merge.next().unwrap() {
                found.entry(key.to_vec()).or_default().push(u64::from_le_bytes(row.try_into().unwrap()));
            }
            // Those of one row may be among them or not.
            for (key, of_key) in &found {
                prop_assert_eq!(expected.get(key), Some(of_key));
            }
            expected.retain(|_, of_key| of_key.len() > 1);
            found.retain(|_, of_key| of_key.len() > 1);
            prop_assert_eq!(found, expected);
        }
    }
}
