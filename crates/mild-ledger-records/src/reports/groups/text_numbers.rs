//! Texts by small numbers.

use ahash::RandomState;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// Texts, each with a number. They stand one behind the other, so that memory which is looked at for every row is little.
#[derive(Debug, Default)]
pub(super) struct TextNumbers {
    hashing: RandomState,
    /// By the last bits of a hash its first bits and the place of an entry, from 1; the next slot where that is another text's.
    slots: Vec<(u32, u32)>,
    entries: Vec<Entry>,
    texts: String,
}

#[derive(Debug, Clone, Copy)]
struct Entry {
    start: usize,
    end: usize,
    number: u32,
}

impl TextNumbers {
    /// The number of a text that has one.
    pub(super) fn get(&self, text: &str) -> Option<u32> {
        let (mut slot, tag) = self.slot_and_tag(text)?;
        loop {
            let (known, place) = *self.slots.get(slot)?;
            let entry = self.entries.get((place as usize).checked_sub(1)?)?;
            if known == tag && self.texts.get(entry.start..entry.end) == Some(text) {
                return Some(entry.number);
            }
            slot = (slot + 1) % self.slots.len();
        }
    }

    /// Gives a text a number that has none.
    pub(super) fn insert(&mut self, text: &str, number: u32) {
        let start = self.texts.len();
        self.texts.push_str(text);
        self.entries.push(Entry { start, end: self.texts.len(), number });
        if self.slots.len() < self.entries.len() * 2 {
            let slots = (self.slots.len() * 2).max(16);
            self.slots.clear();
            self.slots.resize(slots, (0, 0));
            (0..self.entries.len()).for_each(|place| self.put_into_slot(place));
        } else {
            self.put_into_slot(self.entries.len() - 1);
        }
    }

    /// The slot where the search for a text begins, and the bits that its slot has of its hash; none while there are no slots.
    fn slot_and_tag(&self, text: &str) -> Option<(usize, u32)> {
        let last = self.slots.len().checked_sub(1)?;
        let hash = self.hashing.hash_one(text);
        Some((usize::try_from(hash & last as u64).ok()?, u32::try_from(hash >> 32).unwrap_or(0)))
    }

    fn put_into_slot(&mut self, place: usize) {
        let Some(Entry { start, end, .. }) = self.entries.get(place).copied() else { return };
        let Some((mut slot, tag)) = self.texts.get(start..end).and_then(|text| self.slot_and_tag(text))
        else {
            return;
        };
        while self.slots.get(slot).is_some_and(|(_, taken)| *taken != 0) {
            slot = (slot + 1) % self.slots.len();
        }
        if let (Some(free), Ok(place)) = (self.slots.get_mut(slot), u32::try_from(place + 1)) {
            *free = (tag, place);
        }
    }
}

impl Serialize for TextNumbers {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.entries.iter().map(|entry| {
            let text = self.texts.get(entry.start..entry.end).unwrap_or_default();
            (text, entry.number)
        }))
    }
}

impl<'de> Deserialize<'de> for TextNumbers {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let mut all = Self::default();
        for (text, number) in Vec::<(String, u32)>::deserialize(deserializer)? {
            if all.get(&text).is_none() {
                all.insert(&text, number);
            }
        }
        Ok(all)
    }
}

#[cfg(test)]
mod tests {
    use super::TextNumbers;
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    proptest! {
        #[test]
        fn texts_have_the_numbers_of_a_plain_map(texts in prop::collection::vec("[a-cé]{0,4}", 0..200)) {
            let (mut plain, mut numbers) = (BTreeMap::new(), TextNumbers::default());
            for (number, text) in (0_u32..).zip(&texts) {
                prop_assert_eq!(numbers.get(text), plain.get(text).copied());
                if !plain.contains_key(text) {
                    plain.insert(text.clone(), number);
                    numbers.insert(text, number);
                }
            }
            let bytes = postcard::to_stdvec(&numbers).unwrap();
            let back: TextNumbers = postcard::from_bytes(&bytes).unwrap();
            for (text, number) in plain {
                prop_assert_eq!((numbers.get(&text), back.get(&text)), (Some(number), Some(number)));
            }
        }
    }
}
