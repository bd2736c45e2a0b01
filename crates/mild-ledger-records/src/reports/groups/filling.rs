//! Groups that there are though no row is in them.

use super::level::{Key, Level};
use std::collections::{BTreeMap, BTreeSet};

/// The most rows of a table that groups without rows are added to.
const MOST_FILLED: usize = 100_000;

/// All groups by their keys, with their labels: those that have rows, and those without that are between them. Where there would be too
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
        // Rows without a date are in no month, so there are no months to fill in below them; buckets there are everywhere.
        let are_buckets = levels.get(level).is_some_and(Level::is_of_buckets);
        let is_filled = |(keys, _): &(&Vec<Key>, &Vec<String>)| {
            are_buckets || !keys.iter().any(|key| matches!(key, Key::Missing(_)))
        };
        for (keys, labels) in paths.iter().filter(is_filled) {
            for (key, label) in named {
                let path = keys.iter().chain([key]).cloned().collect();
                next.insert(path, labels.iter().chain([label]).cloned().collect());
            }
        }
        // A bucket without rows has no groups inside it, and a row all the same.
        let has_known = |keys: &Vec<Key>| known.keys().any(|known| known.starts_with(keys));
        let outer = level.checked_sub(1).and_then(|outer| levels.get(outer));
        let is_below_buckets = outer.is_some_and(Level::is_of_buckets);
        let without_groups =
            |(keys, _): &(&Vec<Key>, &Vec<String>)| is_below_buckets && named.is_empty() && !has_known(keys);
        for (keys, labels) in paths.iter().filter(without_groups) {
            let path = keys.iter().cloned().chain([Key::Text(String::new(), String::new())]).collect();
            next.insert(path, labels.iter().cloned().chain(["–".to_owned()]).collect());
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
