//! How many different texts a column holds, and whether one occurs twice: in memory while they are few, by sorting on disk where
//! there are many and none was met twice.

use crate::sorting::Sorter;
use crate::stored_bytes::{broken, take_bytes};
use crate::table::ByteRows;
use std::collections::HashMap;
use std::io;
use xxhash_rust::xxh3::xxh3_64;

/// The texts of one column, distinguished by their hashes.
#[derive(Debug, Default)]
pub(super) struct Texts {
    /// Each hash with the first row that has it.
    first_rows: HashMap<u64, u64>,
    state: State,
    /// The first two rows of a text that occurs twice.
    repeat: Option<(u64, u64)>,
    duplicates: u64,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
enum State {
    #[default]
    Held,
    /// More than are held, none of which was met twice: they go to be sorted.
    Sorted,
    /// More than are held, some of which occur twice.
    TooMany,
}

/// How many different texts there are.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Distinct {
    /// As many.
    Exactly(u64),
    /// As many and more; they were not all distinguished.
    MoreThan(u64),
}

/// What a column's texts came to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) struct TextsFound {
    pub(super) distinct: Distinct,
    pub(super) repeat: Option<(u64, u64)>,
}

/// What becomes of the texts of a column that are more than are held.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Beyond {
    /// They are sorted on disk, and how many differ is known.
    Sorted,
    /// That there are more is all that is known.
    Dropped,
}

/// Hashes that are to be sorted.
#[derive(Debug)]
pub(super) struct ToSort {
    beyond: Beyond,
    pub(super) keys: ByteRows,
    pub(super) rows: ByteRows,
}

impl ToSort {
    pub(super) fn of(beyond: Beyond) -> Self {
        Self { beyond, keys: ByteRows::default(), rows: ByteRows::default() }
    }

    fn push(&mut self, column: usize, hash: u64, row: u64) {
        let key = self.keys.open_row();
        key.extend_from_slice(&(column as u64).to_be_bytes());
        key.extend_from_slice(&hash.to_be_bytes());
        self.keys.end_row();
        self.rows.push(&row.to_be_bytes());
    }

    pub(super) fn clear(&mut self) {
        self.keys.clear();
        self.rows.clear();
    }
}

impl Texts {
    /// Takes note of a text of a column; so many are held.
    pub(super) fn note(&mut self, column: usize, text: &str, row: u64, most: usize, to_sort: &mut ToSort) {
        let hash = xxh3_64(text.as_bytes());
        match self.state {
            State::TooMany => {}
            State::Sorted => to_sort.push(column, hash, row),
            State::Held => {
                self.hold(hash, row);
                if self.first_rows.len() > most {
                    self.give_up(column, to_sort);
                }
            }
        }
    }

    fn hold(&mut self, hash: u64, row: u64) {
        let first = *self.first_rows.entry(hash).or_insert(row);
        if first != row {
            self.duplicates += 1;
            let pair = (first.min(row), first.max(row));
            self.repeat = Some(self.repeat.map_or(pair, |before| before.min(pair)));
            self.first_rows.insert(hash, pair.0);
        }
    }

    /// Holds no more: sorted from here on, or counted no further.
    fn give_up(&mut self, column: usize, to_sort: &mut ToSort) {
        if self.duplicates > 0 || to_sort.beyond == Beyond::Dropped {
            self.state = State::TooMany;
            return;
        }
        self.state = State::Sorted;
        for (hash, row) in std::mem::take(&mut self.first_rows) {
            to_sort.push(column, hash, row);
        }
    }

    /// Takes over what was noted of other rows of the same column.
    pub(super) fn merge(&mut self, mut other: Self, column: usize, most: usize, to_sort: &mut ToSort) {
        if let Some(pair) = other.repeat {
            self.repeat = Some(self.repeat.map_or(pair, |before| before.min(pair)));
        }
        self.duplicates += other.duplicates;
        match (self.state, other.state) {
            (State::Held, State::Held) => {
                std::mem::take(&mut other.first_rows)
                    .into_iter()
                    .for_each(|(hash, row)| self.hold(hash, row));
                if self.first_rows.len() > most {
                    self.give_up(column, to_sort);
                }
            }
            (State::TooMany, _) => {}
            (_, State::TooMany) => *self = Self { repeat: self.repeat, duplicates: self.duplicates, ..other },
            (State::Sorted, _) | (_, State::Sorted) => {
                let held = std::mem::take(&mut self.first_rows).into_iter().chain(other.first_rows);
                held.for_each(|(hash, row)| to_sort.push(column, hash, row));
                self.state = State::Sorted;
            }
        }
    }
}

/// What the texts of each column came to, with those that were sorted.
pub(super) fn found(columns: &[Texts], sorter: Sorter) -> io::Result<Vec<TextsFound>> {
    let mut found: Vec<TextsFound> = columns
        .iter()
        .map(|texts| TextsFound {
            distinct: match texts.state {
                State::Held => Distinct::Exactly(texts.first_rows.len() as u64),
                State::Sorted => Distinct::Exactly(0),
                State::TooMany => Distinct::MoreThan(texts.first_rows.len() as u64 - 1),
            },
            repeat: texts.repeat,
        })
        .collect();
    let mut merge = sorter.finish()?;
    let mut before: Option<(Vec<u8>, u64)> = None;
    while let Some((key, row)) = merge.next()? {
        let number = |mut bytes: &[u8]| take_bytes(&mut bytes).map(u64::from_be_bytes);
        let (column, row) = (number(key)?, number(row)?);
        let texts =
            usize::try_from(column).ok().and_then(|column| found.get_mut(column)).ok_or_else(broken)?;
        match &mut before {
            Some((same, first)) if same.as_slice() == key => {
                let pair = ((*first).min(row), (*first).max(row));
                *first = pair.0;
                texts.repeat = Some(texts.repeat.map_or(pair, |before| before.min(pair)));
            }
            _ => {
                before = Some((key.to_vec(), row));
                if let Distinct::Exactly(count) = &mut texts.distinct {
                    *count += 1;
                }
            }
        }
    }
    Ok(found)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The texts of a column in some parts, of which so many are held.
    fn of(parts: &[&[&str]], most: usize) -> TextsFound {
        let folder = tempfile::tempdir().unwrap();
        let mut sorter = Sorter::new(folder.path());
        let mut to_sort = ToSort::of(Beyond::Sorted);
        let (mut row, mut whole) = (0, Texts::default());
        for part in parts {
            let mut texts = Texts::default();
            for text in *part {
                row += 1;
                texts.note(0, text, row, most, &mut to_sort);
            }
            whole.merge(texts, 0, most, &mut to_sort);
        }
        sorter.push_all(&to_sort.keys, &to_sort.rows).unwrap();
        found(&[whole], sorter).unwrap()[0]
    }

    #[test]
    fn texts_are_counted_however_few_are_held() {
        for most in [1, 2, 3, 100] {
            let all = of(&[&["a", "b", "c"], &["d", "e"]], most);
            assert_eq!(all, TextsFound { distinct: Distinct::Exactly(5), repeat: None }, "{most}");
        }
        // A text that occurs twice far apart is found by sorting.
        for most in [1, 100] {
            let twice = of(&[&["a", "b", "c"], &["d", "a"]], most);
            assert_eq!(twice, TextsFound { distinct: Distinct::Exactly(4), repeat: Some((1, 5)) }, "{most}");
        }
        let many = of(&[&["a", "a", "b", "c", "d"]], 2);
        assert_eq!(many, TextsFound { distinct: Distinct::MoreThan(2), repeat: Some((1, 2)) });
    }
}
