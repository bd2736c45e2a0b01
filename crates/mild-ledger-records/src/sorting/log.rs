//! Entries kept on disk in the order in which they come.

use super::merge::{Merge, write_entry};
use super::{new_run, rewound};
use std::fs::File;
use std::io::{self, BufWriter};
use std::path::Path;

/// Takes entries of a key and a payload, and gives them back in the same order; memory does not grow with them.
#[derive(Debug)]
pub(crate) struct Log {
    file: BufWriter<File>,
}

impl Log {
    /// A log in a nameless file in this folder.
    pub(crate) fn new(folder: &Path) -> io::Result<Self> {
        Ok(Self { file: new_run(folder)? })
    }

    pub(crate) fn push(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        write_entry(&mut self.file, key, payload)
    }

    /// The entries from the first on.
    pub(crate) fn finish(self) -> io::Result<Merge> {
        // One run alone comes back as it was written, sorted or not.
        Merge::new(vec![rewound(self.file)?], Vec::new(), Vec::new())
    }
}

#[cfg(test)]
mod tests {
    use super::Log;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn entries_come_back_in_their_order(
            entries in prop::collection::vec((prop::collection::vec(0_u8..2, 0..40), prop::collection::vec(any::<u8>(), 0..9)), 0..80),
        ) {
            let folder = tempfile::tempdir().unwrap();
            let mut log = Log::new(folder.path()).unwrap();
            entries.iter().for_each(|(key, payload)| log.push(key, payload).unwrap());
            let mut back = log.finish().unwrap();
            let mut found = Vec::new();
            while let Some((key, payload)) = back.next().unwrap() {
                found.push((key.to_vec(), payload.to_vec()));
            }
            prop_assert_eq!(found, entries);
        }
    }
}
