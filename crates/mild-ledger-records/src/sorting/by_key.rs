//! Sorting entries by their keys, eight bytes of them at a time, so that keys that begin alike are not compared again and
//! again from their beginnings.

use super::{Entry, prefix_of};

/// Pieces of eight bytes after which the rest of keys that are alike up to there is compared as a whole.
const MOST_PIECES: usize = 32;

/// Sorts entries by their keys; those of one key keep their order. The prefix of each is that of its whole key afterwards too.
pub(super) fn sort(entries: &mut [Entry], bytes: &[u8]) {
    sort_from(entries, bytes, 0);
    for entry in entries {
        entry.prefix = prefix_of(entry.key(bytes));
    }
}

/// Sorts entries whose keys are alike in so many pieces, and whose prefixes are the pieces after those.
fn sort_from(entries: &mut [Entry], bytes: &[u8], pieces: usize) {
    if pieces == MOST_PIECES {
        entries.sort_by(|one, other| one.key(bytes).cmp(other.key(bytes)));
        return;
    }
    entries.sort_by_key(|entry| entry.prefix);
    let behind = 8 * (pieces + 1);
    for alike in entries.chunk_by_mut(|one, other| one.prefix == other.prefix) {
        if alike.len() == 1 {
            continue;
        }
        // A key that ends within the piece is filled up with zeros, and may be alike to one that has them.
        if alike.iter().any(|entry| entry.key.length as usize <= behind) {
            alike.sort_by(|one, other| one.key(bytes).cmp(other.key(bytes)));
            continue;
        }
        for entry in alike.iter_mut() {
            entry.prefix = prefix_of(&entry.key(bytes)[behind..]);
        }
        sort_from(alike, bytes, pieces + 1);
    }
}
