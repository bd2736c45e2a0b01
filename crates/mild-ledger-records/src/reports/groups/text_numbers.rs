//! Texts by small numbers.

use ahash::RandomState;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// Texts, each with a number. They are one after the other, so that memory which is looked at for every row is little.
#[derive(Debug, Default)]
pub(super) struct TextNumbers {
    hashing: RandomState,
    /// By the last bits of a hash its first bits and the place of an entry, from 1; the next slot where that is another text's.
    slots: Vec<(u32, u32)>,
    entries: Vec<Entry>,
    texts: String,
}

/// Room for a search of many texts, to be used again.
#[derive(Debug, Default)]
pub(super) struct Looked {
    /// Where the search for each begins, and what its slot has of its hash.
    slots: Vec<Option<(usize, u32)>>,
    places: Vec<usize>,
}

#[derive(Debug, Clone, Copy)]
struct Entry {
    start: u32,
    length: u32,
    number: u32,
}

impl Entry {
    fn range(self) -> std::ops::Range<usize> {
        self.start as usize..self.start as usize + self.length as usize
    }
}

impl TextNumbers {
    /// The number of a text that has one.
    pub(super) fn get(&self, text: &str) -> Option<u32> {
        self.slot_and_tag(text).and_then(|(slot, tag)| self.get_from(slot, tag, text))
    }

    /// The numbers of those texts that have one. They are looked for together, one step after the other, so that no one waits for memory text by
    /// text.
    pub(super) fn get_all(&self, texts: &[Option<&str>], looked: &mut Looked, found: &mut Vec<Option<u32>>) {
        let Looked { slots, places } = looked;
        slots.clear();
        slots.extend(texts.iter().map(|text| text.and_then(|text| self.slot_and_tag(text))));
        places.clear();
        places.extend(slots.iter().map(|at| {
            let slot = at.and_then(|(slot, _)| self.slots.get(slot));
            slot.map_or(0, |(_, place)| *place as usize)
        }));
        let starts = places.iter().filter_map(|place| self.entries.get(place.checked_sub(1)?));
        let bytes = self.texts.as_bytes();
        let first = |entry: &Entry| bytes.get(entry.start as usize).copied().unwrap_or(0);
        // They are asked for though no one needs them yet.
        std::hint::black_box(starts.fold(0, |seen, entry| seen ^ first(entry)));
        found.clear();
        found.extend(texts.iter().zip(slots).map(|(text, at)| {
            let ((slot, tag), text) = at.zip(*text)?;
            self.get_from(slot, tag, text)
        }));
    }

    /// The number of a text whose search begins at a slot.
    fn get_from(&self, mut slot: usize, tag: u32, text: &str) -> Option<u32> {
        loop {
            let (known, place) = *self.slots.get(slot)?;
            let entry = self.entries.get((place as usize).checked_sub(1)?)?;
            if known == tag && self.texts.get(entry.range()) == Some(text) {
                return Some(entry.number);
            }
            slot = (slot + 1) % self.slots.len();
        }
    }

    /// Gives a text a number that has none. Of more texts than four billion bytes hold the others go on having none.
    pub(super) fn insert(&mut self, text: &str, number: u32) {
        let whole = u32::try_from(self.texts.len() + text.len());
        let (Ok(start), Ok(length), Ok(_)) =
            (u32::try_from(self.texts.len()), u32::try_from(text.len()), whole)
        else {
            return;
        };
        self.texts.push_str(text);
        self.entries.push(Entry { start, length, number });
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
        let text = self.entries.get(place).and_then(|entry| self.texts.get(entry.range()));
        let Some((mut slot, tag)) = text.and_then(|text| self.slot_and_tag(text)) else { return };
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
            let text = self.texts.get(entry.range()).unwrap_or_default();
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
    use super::{Looked, TextNumbers};
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
            let asked: Vec<Option<&str>> = texts.iter().map(|text| Some(text.as_str())).chain([None, Some("other")]).collect();
            let (mut looked, mut found) = (Looked::default(), Vec::new());
            numbers.get_all(&asked, &mut looked, &mut found);
            let expected: Vec<Option<u32>> = asked.iter().map(|text| plain.get((*text)?).copied()).collect();
            prop_assert_eq!(found, expected);
            let bytes = postcard::to_stdvec(&numbers).unwrap();
            let back: TextNumbers = postcard::from_bytes(&bytes).unwrap();
            for (text, number) in plain {
                prop_assert_eq!((numbers.get(&text), back.get(&text)), (Some(number), Some(number)));
            }
        }
    }
}
