//! The sums of some keys in memory. What belongs to a key is together, as words one after the other, since each lookup waits for memory as often
//! as it looks elsewhere.

use super::one_key::OneRow;
use super::sum_of_cells::SumOfCells;
use super::values::put_rows;
use crate::keys::hash_of;
use crate::sorting::Sorter;
use std::borrow::Cow;
use std::io;

/// The sums of some keys.
#[derive(Default)]
pub(super) struct PartSums {
    /// By the last bits of a hash where the record of a key begins, from 1; the next slot where that is another key's.
    slots: Vec<u32>,
    /// The records.
    words: Vec<u64>,
    keys: usize,
    /// The keys as a person reads them, which few ask for.
    texts: Vec<u8>,
}

/// The words of a record: these, the sums of its columns, and its key without the hash.
mod word {
    use super::SumOfCells;

    pub(super) const HASH: usize = 0;
    /// The first row of the key, and its line.
    pub(super) const ROW: usize = 1;
    pub(super) const LINE: usize = 2;
    /// How many rows it has.
    pub(super) const ROWS: usize = 3;
    /// Bytes of the key.
    pub(super) const KEY: usize = 4;
    /// Where what a person reads begins, and how long it is.
    pub(super) const TEXT: usize = 5;
    pub(super) const SUMS: usize = 6;
    /// Of a sum.
    pub(super) const OF_SUM: usize = SumOfCells::WORDS;
    /// That come from memory together.
    pub(super) const AT_ONCE: usize = 8;
}

/// How many bytes of a key are its hash.
const HASH: usize = 8;

/// The sum of a key, as it is found.
#[derive(Clone, Copy)]
pub(super) struct SumOfKey<'s> {
    /// The first row of the key, and its line.
    pub(super) row: u64,
    pub(super) line: u64,
    /// How many rows it is of.
    pub(super) rows: u64,
    sums: &'s [u64],
    text: &'s [u8],
}

impl SumOfKey<'_> {
    /// The sums of all columns.
    pub(super) fn sums(&self) -> impl Iterator<Item = SumOfCells> {
        self.sums.chunks(word::OF_SUM).map(SumOfCells::of_words)
    }

    /// The key as a person reads it.
    pub(super) fn text(&self) -> Cow<'_, str> {
        String::from_utf8_lossy(self.text)
    }
}

/// The sums of a key while a row is added to them.
pub(super) struct OpenSums<'s>(&'s mut [u64]);

impl OpenSums<'_> {
    /// Adds to each of them, next to its column.
    pub(super) fn each<C>(&mut self, columns: &[C], mut add: impl FnMut(&mut SumOfCells, &C)) {
        for (words, column) in self.0.chunks_mut(word::OF_SUM).zip(columns) {
            let mut sum = SumOfCells::of_words(words);
            add(&mut sum, column);
            words.iter_mut().zip(sum.words()).for_each(|(word, new)| *word = new);
        }
    }
}

impl PartSums {
    /// How many keys there are.
    pub(super) fn keys(&self) -> usize {
        self.keys
    }

    /// Bytes that are held, about.
    pub(super) fn bytes(&self) -> usize {
        size_of_val(self.slots.as_slice()) + size_of_val(self.words.as_slice()) + self.texts.len()
    }

    /// The sums of a key, which has one row more.
    pub(super) fn of_key<'t>(
        &mut self,
        key: &[u8],
        (row, line): (u64, u64),
        text: impl Fn() -> Cow<'t, str>,
        columns: usize,
    ) -> io::Result<OpenSums<'_>> {
        let at = match self.record_of(key, columns) {
            Some(at) => at,
            None => self.begin(key, (row, line), &text(), columns)?,
        };
        if self.word(at, word::ROW) > row {
            // What a person reads is that of the first row, and as a rule that of all.
            let text = text();
            if self.text(at) != text.as_bytes() {
                let place = self.put_text(&text)?;
                self.set(at, word::TEXT, place);
            }
            self.set(at, word::ROW, row);
            self.set(at, word::LINE, line);
        }
        self.set(at, word::ROWS, self.word(at, word::ROWS) + 1);
        let sums = at + word::SUMS..at + word::SUMS + columns * word::OF_SUM;
        Ok(OpenSums(self.words.get_mut(sums).unwrap_or_default()))
    }

    /// The sum of a key.
    pub(super) fn find(&self, key: &[u8], columns: usize) -> Option<SumOfKey<'_>> {
        self.record_of(key, columns).map(|at| self.of_record(at, columns))
    }

    /// Each sum, in the order in which the keys were met.
    pub(super) fn each(&self, columns: usize) -> impl Iterator<Item = SumOfKey<'_>> {
        self.records(columns).map(move |at| self.of_record(at, columns))
    }

    /// Brings near what is about to be asked for of keys: all at once, so that no one waits for memory key by key.
    pub(super) fn bring_near<'k>(&self, keys: impl Iterator<Item = &'k [u8]>, room: &mut Vec<usize>) {
        room.clear();
        room.extend(keys.map(|key| self.record_near(self.slot_near(key))));
        // It is asked for though no one needs it yet.
        std::hint::black_box(room.iter().fold(0, |seen, at| seen ^ self.words_near(*at)));
    }

    /// The slot where a key is most likely, to be looked at ahead.
    pub(super) fn slot_near(&self, key: &[u8]) -> usize {
        self.slot_of(hash_of(key)).unwrap_or(0)
    }

    /// What is in a slot: where a record begins, from 1.
    pub(super) fn record_near(&self, slot: usize) -> usize {
        self.slots.get(slot).map_or(0, |at| *at as usize)
    }

    /// Something of each stretch of a record that comes from memory together; of where it begins, from 1.
    pub(super) fn words_near(&self, at: usize) -> u64 {
        let Some(at) = at.checked_sub(1) else { return 0 };
        let word = |nth: usize| self.words.get(at + nth).copied().unwrap_or(0);
        word(0) ^ word(word::AT_ONCE) ^ word(word::SUMS + word::OF_SUM + 1)
    }

    /// Gives its rows to a sorter, and is empty again.
    pub(super) fn give_to(&mut self, sorter: &mut Sorter, columns: usize) -> io::Result<()> {
        let all = std::mem::take(self);
        let (mut key, mut cells, mut payload) = (Vec::new(), Vec::new(), Vec::new());
        for at in all.records(columns) {
            let sum = all.of_record(at, columns);
            key.clear();
            key.extend_from_slice(&all.word(at, word::HASH).to_be_bytes());
            key.extend(all.key(at, columns));
            cells.clear();
            sum.sums().for_each(|sum| sum.put(&mut cells));
            put_rows(sum.rows, &mut cells);
            payload.clear();
            let one = OneRow { row: sum.row, line: sum.line, key: sum.text, cells: &cells };
            one.put_as_candidate(&mut payload);
            sorter.push(&key, &payload)?;
        }
        Ok(())
    }

    fn word(&self, at: usize, nth: usize) -> u64 {
        self.words.get(at + nth).copied().unwrap_or(0)
    }

    fn set(&mut self, at: usize, nth: usize, to: u64) {
        if let Some(word) = self.words.get_mut(at + nth) {
            *word = to;
        }
    }

    /// Where each record begins.
    fn records(&self, columns: usize) -> impl Iterator<Item = usize> {
        let next = move |at: &usize| {
            let key = usize::try_from(self.word(*at, word::KEY)).unwrap_or(0);
            Some(at + word::SUMS + columns * word::OF_SUM + key.div_ceil(8))
        };
        std::iter::successors(Some(0), next).take(self.keys)
    }

    fn of_record(&self, at: usize, columns: usize) -> SumOfKey<'_> {
        let sums = self.words.get(at + word::SUMS..at + word::SUMS + columns * word::OF_SUM);
        SumOfKey {
            row: self.word(at, word::ROW),
            line: self.word(at, word::LINE),
            rows: self.word(at, word::ROWS),
            sums: sums.unwrap_or_default(),
            text: self.text(at),
        }
    }

    /// The key of a record without its hash.
    fn key(&self, at: usize, columns: usize) -> impl Iterator<Item = u8> {
        let length = usize::try_from(self.word(at, word::KEY)).unwrap_or(0);
        let words = self.words.get(at + word::SUMS + columns * word::OF_SUM..).unwrap_or_default();
        words.iter().flat_map(|word| word.to_le_bytes()).take(length)
    }

    fn text(&self, at: usize) -> &[u8] {
        let [start, length] = halves(self.word(at, word::TEXT));
        self.texts.get(start..start + length).unwrap_or_default()
    }

    /// Where the record of a key begins.
    fn record_of(&self, key: &[u8], columns: usize) -> Option<usize> {
        let hash = hash_of(key);
        let key = key.get(HASH..)?;
        let mut slot = self.slot_of(hash)?;
        loop {
            let at = (*self.slots.get(slot)? as usize).checked_sub(1)?;
            if self.word(at, word::HASH) == hash && self.word(at, word::KEY) == key.len() as u64 {
                let behind = at + word::SUMS + columns * word::OF_SUM;
                let words = self.words.get(behind..behind + key.len().div_ceil(8))?;
                if words_of(key).eq(words.iter().copied()) {
                    return Some(at);
                }
            }
            slot = (slot + 1) % self.slots.len();
        }
    }

    /// The slot where the search for a hash begins; none while there are none.
    fn slot_of(&self, hash: u64) -> Option<usize> {
        let last = self.slots.len().checked_sub(1)?;
        // The last bits, since the first ones tell the part.
        usize::try_from(hash & last as u64).ok()
    }

    /// Begins the record of a key that has none.
    fn begin(
        &mut self,
        key: &[u8],
        (row, line): (u64, u64),
        text: &str,
        columns: usize,
    ) -> io::Result<usize> {
        let too_many = |_| io::Error::new(io::ErrorKind::InvalidInput, "keys are too many to be added up by");
        if self.slots.len() < (self.keys + 1) * 2 {
            self.grow(columns);
        }
        let at = self.words.len();
        u32::try_from(at + 1).map_err(too_many)?;
        let (hash, key) = (hash_of(key), key.get(HASH..).unwrap_or_default());
        let text = self.put_text(text)?;
        self.words.extend([hash, row, line, 0, key.len() as u64, text]);
        self.words.extend((0..columns).flat_map(|_| SumOfCells::NONE.words()));
        self.words.extend(words_of(key));
        self.keys += 1;
        self.put_into_slot(at);
        Ok(at)
    }

    /// Puts what a person reads after others; where it is, in one word.
    fn put_text(&mut self, text: &str) -> io::Result<u64> {
        let too_long = |_| io::Error::new(io::ErrorKind::InvalidInput, "keys are too long to be added up by");
        u32::try_from(self.texts.len() + text.len()).map_err(too_long)?;
        let place = (self.texts.len() as u64) << 32 | text.len() as u64;
        self.texts.extend_from_slice(text.as_bytes());
        Ok(place)
    }

    fn grow(&mut self, columns: usize) {
        let slots = (self.slots.len() * 2).max(16);
        self.slots.clear();
        self.slots.resize(slots, 0);
        let records: Vec<usize> = self.records(columns).collect();
        records.into_iter().for_each(|at| self.put_into_slot(at));
    }

    fn put_into_slot(&mut self, at: usize) {
        let Some(mut slot) = self.slot_of(self.word(at, word::HASH)) else { return };
        while self.slots.get(slot).is_some_and(|taken| *taken != 0) {
            slot = (slot + 1) % self.slots.len();
        }
        if let (Some(free), Ok(at)) = (self.slots.get_mut(slot), u32::try_from(at + 1)) {
            *free = at;
        }
    }
}

/// Bytes as words, the last one filled up with zeros.
fn words_of(bytes: &[u8]) -> impl Iterator<Item = u64> {
    bytes.chunks(8).map(|some| {
        some.first_chunk().copied().map_or_else(
            || some.iter().rev().fold(0, |word, byte| word << 8 | u64::from(*byte)),
            u64::from_le_bytes,
        )
    })
}

/// The first and the second half of a word.
fn halves(word: u64) -> [usize; 2] {
    [word >> 32, word & u64::from(u32::MAX)].map(|half| usize::try_from(half).unwrap_or(0))
}
