//! Groups that there are though no row is in them.

use super::level::{Key, Level};
use std::collections::{BTreeMap, BTreeSet};

/// The most rows of a table that groups without rows are added to.
const MOST_FILLED: usize = 100_000;

/// All groups by their keys, with their labels: those that have rows, and those without that stand between them. Where there would be too
/// many, a note says so, and none is added.
pub(in crate::reports) fn filled(
    levels: &[Level],
    known: &BTreeMap<Vec<Key>, Vec<String>>,
) -> Result<BTreeMap<Vec<Key>, Vec<String>>, String> {
    let seen = |level: usize| -> BTreeSet<Key> {
        known.keys().filter_map(|keys| keys.get(level)).cloned().collect()
    };
    let all: Vec<BTreeMap<Key, String>> =
        levels.iter().enumerate().map(|(nth, level)| level.all(&seen(nth))).collect();
    // The groups at each level under each one above it.
    let mut paths: BTreeMap<Vec<Key>, Vec<String>> = BTreeMap::from([(Vec::new(), Vec::new())]);
    for (level, named) in all.iter().enumerate() {
        let mut next: BTreeMap<Vec<Key>, Vec<String>> = BTreeMap::new();
        // Rows without a date, say, are in no month, so there is nothing to fill in below them.
        let whole =
            |(keys, _): &(&Vec<Key>, &Vec<String>)| !keys.iter().any(|key| matches!(key, Key::Missing(_)));
        for (keys, labels) in paths.iter().filter(whole) {
            for (key, label) in named {
                let path = keys.iter().chain([key]).cloned().collect();
                next.insert(path, labels.iter().chain([label]).cloned().collect());
            }
        }
        for (keys, labels) in known {
            next.insert(
                keys.iter().take(level + 1).cloned().collect(),
                labels.iter().take(level + 1).cloned().collect(),
            );
        }
        if next.len() > MOST_FILLED.max(known.len()) {
            return Err(format!(
                "groups without rows are not shown: there would be more than {MOST_FILLED} rows"
            ));
        }
        paths = next;
    }
    Ok(paths)
}
