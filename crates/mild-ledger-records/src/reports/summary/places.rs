//! The groups of each level by small numbers, so that their names are made once and not for every row.

use super::level::{Key, Level, LevelValue};
use crate::table::{Gap, Table};
use std::collections::HashMap;

/// The groups that one level has had so far.
#[derive(Default)]
pub(super) struct Places {
    texts: HashMap<String, u32>,
    numbers: HashMap<i128, u32>,
    gaps: HashMap<Gap, u32>,
    by_key: HashMap<Key, u32>,
    named: Vec<(Key, String)>,
}

impl Places {
    /// The number of the group that a row is in.
    pub(super) fn of_row(&mut self, level: &Level, table: &Table, row: usize) -> u32 {
        let value = level.value_of(table, row);
        let known = match value {
            LevelValue::Text(text) => self.texts.get(text),
            LevelValue::Number(number) => self.numbers.get(&number),
            LevelValue::Missing(gap) => self.gaps.get(&gap),
        };
        if let Some(place) = known {
            return *place;
        }
        let (key, label) = level.key_of(table, row);
        // Days of one period are one group.
        let place = match self.by_key.get(&key) {
            Some(place) => *place,
            None => {
                let place = u32::try_from(self.named.len()).unwrap_or(u32::MAX);
                self.by_key.insert(key.clone(), place);
                self.named.push((key, label));
                place
            }
        };
        match value {
            LevelValue::Text(text) => self.texts.insert(text.to_owned(), place),
            LevelValue::Number(number) => self.numbers.insert(number, place),
            LevelValue::Missing(gap) => self.gaps.insert(gap, place),
        };
        place
    }

    /// What tells a group from others, and how it is called.
    pub(super) fn named(&self, place: u32) -> Option<&(Key, String)> {
        self.named.get(usize::try_from(place).ok()?)
    }
}
