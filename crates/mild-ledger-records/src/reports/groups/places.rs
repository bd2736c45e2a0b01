//! The groups of each level by small numbers, so that their names are made once and not for every row.

use super::level::{Key, Level, LevelValue, MOST_LEVELS};
use super::text_numbers::{Looked, TextNumbers};
use crate::table::{Gap, Table};
use serde::{Deserialize, Serialize};
use std::collections::{BTreeMap, HashMap};

/// Groups by what tells them from others, each with how it is called at every level.
pub(in crate::reports) type NamedGroups<T> = BTreeMap<Vec<Key>, (Vec<String>, T)>;

/// Rows whose groups are looked for together, few enough that their memory is still near when it is needed.
const AT_ONCE: usize = 256;

/// The groups that one level has had so far.
#[derive(Default, Serialize, Deserialize)]
pub(in crate::reports) struct Places {
    texts: TextNumbers,
    numbers: HashMap<i128, u32, ahash::RandomState>,
    gaps: HashMap<Gap, u32>,
    by_key: HashMap<Key, u32>,
    named: Vec<(Key, String)>,
}

impl Places {
    /// The numbers of the groups that rows are in, one a level.
    pub(in crate::reports) fn of_rows(
        known: &mut [Self; MOST_LEVELS],
        levels: &[Level],
        table: &Table,
        rows: &[usize],
    ) -> Vec<[u32; MOST_LEVELS]> {
        let mut numbers = vec![[0; MOST_LEVELS]; rows.len()];
        let (mut looked, mut found) = (Looked::default(), Vec::new());
        for (rows, numbers) in rows.chunks(AT_ONCE).zip(numbers.chunks_mut(AT_ONCE)) {
            for (nth, (level, known)) in levels.iter().zip(known.iter_mut()).enumerate() {
                let values: Vec<LevelValue<'_>> =
                    rows.iter().map(|row| level.value_of(table, *row)).collect();
                let texts: Vec<Option<&str>> = values.iter().map(LevelValue::text).collect();
                known.texts.get_all(&texts, &mut looked, &mut found);
                for (((row, value), found), numbers) in
                    rows.iter().zip(&values).zip(&found).zip(&mut *numbers)
                {
                    if let Some(number) = numbers.get_mut(nth) {
                        *number = found.unwrap_or_else(|| known.of_value(level, *value, table, *row));
                    }
                }
            }
        }
        numbers
    }

    /// The numbers of the group that a row is in, one a level.
    pub(in crate::reports) fn of_levels(
        known: &mut [Self; MOST_LEVELS],
        levels: &[Level],
        table: &Table,
        row: usize,
    ) -> [u32; MOST_LEVELS] {
        let mut numbers = [0; MOST_LEVELS];
        for ((number, level), known) in numbers.iter_mut().zip(levels).zip(known) {
            *number = known.of_value(level, level.value_of(table, row), table, row);
        }
        numbers
    }

    /// The number of the group that a row with this value is in.
    fn of_value(&mut self, level: &Level, value: LevelValue<'_>, table: &Table, row: usize) -> u32 {
        let known = match value {
            LevelValue::Text(text) => self.texts.get(text),
            LevelValue::Number(number) => self.numbers.get(&number).copied(),
            LevelValue::Missing(gap) => self.gaps.get(&gap).copied(),
        };
        if let Some(place) = known {
            return place;
        }
        let (key, label) = level.key_of(table, row);
        // Days of one period are one group.
        let place = self.of_key(&key, &label);
        match value {
            LevelValue::Text(text) => self.texts.insert(text, place),
            LevelValue::Number(number) => _ = self.numbers.insert(number, place),
            LevelValue::Missing(gap) => _ = self.gaps.insert(gap, place),
        }
        place
    }

    /// The number of a group that is known by its key.
    pub(in crate::reports) fn of_key(&mut self, key: &Key, label: &str) -> u32 {
        if let Some(place) = self.by_key.get(key) {
            return *place;
        }
        let place = u32::try_from(self.named.len()).unwrap_or(u32::MAX);
        self.by_key.insert(key.clone(), place);
        self.named.push((key.clone(), label.to_owned()));
        place
    }

    /// The numbers here of a group that has those numbers in another tally.
    pub(in crate::reports) fn own_of(
        own: &mut [Self; MOST_LEVELS],
        theirs: &[Self; MOST_LEVELS],
        places: [u32; MOST_LEVELS],
        levels: usize,
    ) -> [u32; MOST_LEVELS] {
        let mut numbers = [0; MOST_LEVELS];
        for (((number, place), own), theirs) in
            numbers.iter_mut().zip(places).zip(own).zip(theirs).take(levels)
        {
            if let Some((key, label)) = theirs.named(place) {
                *number = own.of_key(key, label);
            }
        }
        numbers
    }

    /// The data of each group, by what tells it from others and after how it is called, in the order of the groups.
    pub(in crate::reports) fn named_groups<T>(
        places: &[Self; MOST_LEVELS],
        levels: usize,
        groups: impl IntoIterator<Item = ([u32; MOST_LEVELS], T)>,
    ) -> NamedGroups<T> {
        let mut named = NamedGroups::new();
        for (numbers, group) in groups {
            let of_levels = numbers.iter().zip(places).take(levels);
            let (keys, labels) = of_levels.filter_map(|(place, known)| known.named(*place).cloned()).unzip();
            named.insert(keys, (labels, group));
        }
        named
    }

    /// What tells a group from others, and how it is called.
    pub(in crate::reports) fn named(&self, place: u32) -> Option<&(Key, String)> {
        self.named.get(usize::try_from(place).ok()?)
    }
}
