//! The data of each group, found by the numbers that the group has at each level.

use super::level::MOST_LEVELS;
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::HashMap;

/// The numbers of a group, one a level.
type Numbers = [u32; MOST_LEVELS];

/// The data of each group. Those of one level are found by their number alone, which spares the search that every row would make.
#[derive(Debug)]
pub(in crate::reports) struct ByGroup<T> {
    /// For each number at the first level the place, from 1, of the group that is of that level alone.
    of_one_level: Vec<u32>,
    of_several: HashMap<Numbers, u32, ahash::RandomState>,
    known: Vec<(Numbers, T)>,
}

/// The groups of one level that are found by their number; numbers go up one by one, so there are seldom as many.
const MOST_BY_NUMBER: u32 = 1 << 24;

impl<T> Default for ByGroup<T> {
    fn default() -> Self {
        Self { of_one_level: Vec::new(), of_several: HashMap::default(), known: Vec::new() }
    }
}

impl<T> ByGroup<T> {
    /// The data of a group; what `new` makes where nothing is so far.
    pub(in crate::reports) fn of(&mut self, group: Numbers, new: impl FnOnce() -> T) -> &mut T {
        let place = self.place_of(group, new);
        &mut self.known[place].1
    }

    /// Brings near the data of groups that are about to be asked for: all at once, so that no one waits for memory group by group; `some` is
    /// something of it.
    pub(in crate::reports) fn bring_near(&self, groups: &[Numbers], some: impl Fn(&T) -> u64) {
        let known = |group: &Numbers| {
            let place = self.of_one_level.get(*group.first()? as usize)?;
            self.known.get((*place as usize).checked_sub(1)?)
        };
        let seen = groups.iter().filter_map(known).fold(0, |seen, (_, known)| seen ^ some(known));
        // They are asked for though no one needs them yet.
        std::hint::black_box(seen);
    }

    fn place_of(&mut self, group: Numbers, new: impl FnOnce() -> T) -> usize {
        let next = self.known.len();
        let place = match group {
            [number, 0, 0] if number < MOST_BY_NUMBER => {
                let number = number as usize;
                if self.of_one_level.len() <= number {
                    self.of_one_level.resize(number + 1, 0);
                }
                &mut self.of_one_level[number]
            }
            several => self.of_several.entry(several).or_insert(0),
        };
        if *place == 0 {
            *place = u32::try_from(next + 1).unwrap_or(u32::MAX);
            self.known.push((group, new()));
        }
        *place as usize - 1
    }

    /// The data of a group, where something is.
    pub(in crate::reports) fn get_mut(&mut self, group: Numbers) -> Option<&mut T> {
        let place = match group {
            [number, 0, 0] if number < MOST_BY_NUMBER => self.of_one_level.get(number as usize),
            several => self.of_several.get(&several),
        };
        let place = (*place? as usize).checked_sub(1)?;
        self.known.get_mut(place).map(|(_, known)| known)
    }

    /// How many groups there are.
    pub(in crate::reports) fn len(&self) -> usize {
        self.known.len()
    }

    /// The groups with the data of each, in the order in which they were met.
    pub(in crate::reports) fn iter(&self) -> impl Iterator<Item = (Numbers, &T)> {
        self.known.iter().map(|(group, known)| (*group, known))
    }

    /// All that is known.
    pub(in crate::reports) fn values(&self) -> impl Iterator<Item = &T> {
        self.known.iter().map(|(_, known)| known)
    }
}

impl<T> IntoIterator for ByGroup<T> {
    type Item = (Numbers, T);
    type IntoIter = std::vec::IntoIter<(Numbers, T)>;

    /// The groups with the data of each, in the order in which they were met.
    fn into_iter(self) -> Self::IntoIter {
        self.known.into_iter()
    }
}

impl<T: Serialize> Serialize for ByGroup<T> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        self.known.serialize(serializer)
    }
}

impl<'de, T: Deserialize<'de>> Deserialize<'de> for ByGroup<T> {
    /// Of a group that is there twice the first counts.
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let mut all = Self::default();
        for (group, known) in Vec::<(Numbers, T)>::deserialize(deserializer)? {
            all.place_of(group, || known);
        }
        Ok(all)
    }
}

#[cfg(test)]
mod tests {
    use super::ByGroup;
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    proptest! {
        #[test]
        fn groups_are_those_of_a_plain_map(rows in prop::collection::vec(([0_u32..6, 0..3, 0..2], 1_u64..9), 0..80)) {
            let (mut plain, mut counted) = (BTreeMap::new(), ByGroup::default());
            for (group, count) in rows {
                *plain.entry(group).or_insert(0) += count;
                *counted.of(group, || 0) += count;
            }
            prop_assert_eq!(counted.values().sum::<u64>(), plain.values().sum::<u64>());
            prop_assert_eq!(counted.into_iter().collect::<BTreeMap<_, _>>(), plain);
        }
    }
}
