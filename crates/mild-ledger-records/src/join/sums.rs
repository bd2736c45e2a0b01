//! The rows of a second file added up by key in memory, by several at once and in any order.

use super::part_sums::{PartSums, SumOfKey};
use crate::keys::hash_of;
use crate::sorting::Sorter;
use crate::table::{ByteRows, Table};
use std::borrow::Cow;
use std::io;
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard, PoisonError};

/// Sums by key, in parts by how the keys begin, so that the threads that add to them seldom wait for each other.
pub(super) struct SumsByKey {
    /// The columns that are added up.
    columns: Vec<usize>,
    parts: Vec<Mutex<PartSums>>,
    /// Bytes that a part holds at most.
    most_held: usize,
    folder: PathBuf,
    /// Where sums go that are more than memory should hold.
    beyond: Mutex<Option<Sorter>>,
}

/// Rows of a batch that are added up: the key of each, its hash first, and where it is.
#[derive(Default)]
pub(super) struct KeyedRows {
    pub(super) keys: ByteRows,
    pub(super) rows: Vec<KeyedRow>,
    /// For each part its rows, by their places in the list.
    of_parts: Vec<Vec<u32>>,
}

/// A row of a batch, and where it is in its file.
#[derive(Debug, Clone, Copy)]
pub(super) struct KeyedRow {
    pub(super) row: usize,
    pub(super) number: u64,
    pub(super) line: u64,
}

/// The sums of all keys, found by those.
pub(super) struct HeldSums {
    columns: usize,
    parts: Vec<PartSums>,
}

/// What became of the sums.
pub(super) enum Summed {
    /// All of them.
    InMemory(HeldSums),
    /// Some of each key, which are still to be added up.
    Beyond(Sorter),
}

/// By how many of the first bits of their hashes keys are divided into parts.
const PART_BITS: u32 = 6;
/// In how many parts sums are.
const PARTS: usize = 1 << PART_BITS;

/// The part of a key with this hash.
fn part_of(hash: u64) -> usize {
    usize::try_from(hash >> (u64::BITS - PART_BITS)).unwrap_or(0)
}

fn locked<T>(of: &Mutex<T>) -> MutexGuard<'_, T> {
    of.lock().unwrap_or_else(PoisonError::into_inner)
}

impl KeyedRows {
    /// Forgets them, and keeps the memory.
    pub(super) fn clear(&mut self) {
        self.keys.clear();
        self.rows.clear();
        self.of_parts.iter_mut().for_each(Vec::clear);
    }

    /// Takes a row, whose key was put after the other keys.
    pub(super) fn end_row(&mut self, row: KeyedRow) {
        let hash = hash_of(self.keys.of_open_row());
        self.keys.end_row();
        self.of_parts.resize_with(PARTS, Vec::new);
        let number = u32::try_from(self.rows.len());
        if let (Some(part), Ok(number)) = (self.of_parts.get_mut(part_of(hash)), number) {
            part.push(number);
        }
        self.rows.push(row);
    }
}

impl SumsByKey {
    /// For sums of these columns, of which a number of bytes are held in memory; beyond that they go to nameless files in a folder.
    pub(super) fn new(columns: &[usize], most_held: usize, folder: &Path) -> Self {
        Self {
            columns: columns.to_vec(),
            parts: std::iter::repeat_with(Mutex::default).take(PARTS).collect(),
            most_held: most_held / PARTS,
            folder: folder.to_owned(),
            beyond: Mutex::new(None),
        }
    }

    /// Adds rows of a table; `text` is the key of a row as a person reads it, and `near` is room that is used again.
    pub(super) fn add<'t>(
        &self,
        table: &Table,
        keyed: &KeyedRows,
        text: impl Fn(usize) -> Cow<'t, str>,
        near: &mut Vec<usize>,
    ) -> io::Result<()> {
        for (part, rows) in self.parts.iter().zip(&keyed.of_parts).filter(|(_, rows)| !rows.is_empty()) {
            let mut part = locked(part);
            part.bring_near(rows.iter().filter_map(|number| keyed.keys.get(*number as usize)), near);
            for number in rows.iter().map(|number| *number as usize) {
                let (Some(key), Some(row)) = (keyed.keys.get(number), keyed.rows.get(number)) else {
                    continue;
                };
                let place = (row.number, row.line);
                let mut sum = part.of_key(key, place, || text(row.row), self.columns.len())?;
                sum.each(&self.columns, |sum, column| sum.add(table, *column, row.row));
            }
            if part.bytes() > self.most_held {
                let mut beyond = locked(&self.beyond);
                part.give_to(beyond.get_or_insert_with(|| Sorter::new(&self.folder)), self.columns.len())?;
            }
        }
        Ok(())
    }

    /// All sums, once every row was added.
    pub(super) fn finish(self) -> io::Result<Summed> {
        let whole = |part: Mutex<PartSums>| part.into_inner().unwrap_or_else(PoisonError::into_inner);
        let mut parts: Vec<PartSums> = self.parts.into_iter().map(whole).collect();
        let columns = self.columns.len();
        match self.beyond.into_inner().unwrap_or_else(PoisonError::into_inner) {
            None => Ok(Summed::InMemory(HeldSums { columns, parts })),
            Some(mut sorter) => {
                parts.iter_mut().try_for_each(|part| part.give_to(&mut sorter, columns))?;
                Ok(Summed::Beyond(sorter))
            }
        }
    }
}

impl HeldSums {
    /// How many keys there are.
    pub(super) fn keys(&self) -> u64 {
        self.parts.iter().map(|part| part.keys() as u64).sum()
    }

    /// The sum of a key, whose hash comes first.
    pub(super) fn find(&self, key: &[u8]) -> Option<SumOfKey<'_>> {
        self.parts.get(part_of(hash_of(key)))?.find(key, self.columns)
    }

    /// Brings near what is about to be found of keys: all is asked for at once, so that no one waits for memory key by key.
    pub(super) fn bring_near<'k>(
        &self,
        keys: impl Iterator<Item = &'k [u8]>,
        room: &mut Vec<(usize, usize)>,
    ) {
        room.clear();
        room.extend(keys.map(|key| {
            let part = part_of(hash_of(key));
            (part, self.parts.get(part).map_or(0, |of| of.slot_near(key)))
        }));
        for (part, slot) in room.iter_mut() {
            *slot = self.parts.get(*part).map_or(0, |part| part.record_near(*slot));
        }
        let seen = room
            .iter()
            .fold(0, |seen, (part, at)| seen ^ self.parts.get(*part).map_or(0, |part| part.words_near(*at)));
        // They are asked for though no one needs them yet.
        std::hint::black_box(seen);
    }

    /// Takes each, in no order that matters.
    pub(super) fn each(&self, mut take: impl FnMut(SumOfKey<'_>) -> io::Result<()>) -> io::Result<()> {
        self.parts.iter().try_for_each(|part| part.each(self.columns).try_for_each(&mut take))
    }
}

#[cfg(test)]
mod tests {
    use super::{HeldSums, KeyedRow, KeyedRows, Summed, SumsByKey};
    use crate::join::Counting;
    use crate::join::one_key::{Counts, candidate_of};
    use crate::keys::put_hashed;
    use crate::sorting::SortKey;
    use crate::table::{Data, Table};
    use proptest::prelude::*;
    use std::collections::BTreeMap;

    /// The rows of one batch: the number of each in its file, its key, and two numbers that are added up.
    type Rows = Vec<(u64, String, [Option<i128>; 2])>;

    fn table(rows: &Rows) -> Table {
        let column = |nth: usize| Data::numbers(rows.iter().map(|(_, _, numbers)| numbers[nth]), 0);
        Table { rows: rows.len(), columns: vec![column(0), column(1)], gaps: vec![Vec::new(), Vec::new()] }
    }

    fn hashed(text: &str) -> Vec<u8> {
        let (mut key, mut bytes) = (SortKey::default(), Vec::new());
        key.push_exact_text(text);
        put_hashed(&key, &mut bytes);
        bytes
    }

    fn add(sums: &SumsByKey, rows: &Rows) {
        let mut keyed = KeyedRows::default();
        for (row, (number, key, _)) in rows.iter().enumerate() {
            keyed.keys.open_row().extend_from_slice(&hashed(key));
            keyed.end_row(KeyedRow { row, number: *number, line: number + 1 });
        }
        // What a person reads of a key is not the same in every row of it.
        let text = |row: usize| format!("{} in {}", rows[row].1, rows[row].0).into();
        sums.add(&table(rows), &keyed, text, &mut Vec::new()).unwrap();
    }

    /// Of each key its first row with its line and text, how many rows it has, and its sums.
    type Found = BTreeMap<String, (u64, u64, String, u64, [i128; 2])>;

    fn plain(rows: &Rows) -> Found {
        let mut found = Found::new();
        for (number, key, numbers) in rows {
            let new = || (u64::MAX, 0, String::new(), 0, [0; 2]);
            let of_key = found.entry(key.clone()).or_insert_with(new);
            if *number < of_key.0 {
                (of_key.0, of_key.1, of_key.2) = (*number, number + 1, format!("{key} in {number}"));
            }
            of_key.3 += 1;
            (0..2).for_each(|nth| of_key.4[nth] += numbers[nth].unwrap_or(0));
        }
        found
    }

    fn held(sums: &HeldSums, keys: &[String]) -> Found {
        let asked: Vec<Vec<u8>> = keys.iter().map(|key| hashed(key)).collect();
        sums.bring_near(asked.iter().map(Vec::as_slice), &mut Vec::new());
        let found = keys.iter().zip(&asked).filter_map(|(key, asked)| {
            let sum = sums.find(asked)?;
            let units = [0, 1].map(|nth| sum.sums().nth(nth).unwrap().units().unwrap().unwrap_or(0));
            Some((key.clone(), (sum.row, sum.line, sum.text().into_owned(), sum.rows, units)))
        });
        found.collect()
    }

    proptest! {
        #[test]
        fn sums_are_those_of_a_plain_map_whoever_adds_and_wherever_they_stand(
            rows in prop::collection::vec(
                ("[a-e]{0,2}", [prop::option::of(-9_i128..9), prop::option::of(-9_i128..9)]), 0..120),
            at_once in 1_usize..40,
            most_held in prop_oneof![Just(usize::MAX), Just(0), 0_usize..40_000],
        ) {
            let rows: Rows = (1..).zip(rows).map(|(number, (key, numbers))| (number, key, numbers)).collect();
            let folder = tempfile::tempdir().unwrap();
            let sums = SumsByKey::new(&[0, 1], most_held, folder.path());
            // Two at once, one of them from the end of the file.
            let batches: Vec<Rows> = rows.chunks(at_once).map(<[_]>::to_vec).collect();
            let (some, others) = batches.split_at(batches.len() / 2);
            std::thread::scope(|scope| {
                scope.spawn(|| others.iter().rev().for_each(|batch| add(&sums, batch)));
                some.iter().for_each(|batch| add(&sums, batch));
            });
            let expected = plain(&rows);
            let mut keys: Vec<String> = expected.keys().cloned().collect();
            match sums.finish().unwrap() {
                Summed::InMemory(sums) => {
                    prop_assert!(most_held >= 64 || rows.is_empty());
                    prop_assert_eq!(sums.keys(), expected.len() as u64);
                    let mut of_all = 0;
                    sums.each(|sum| { of_all += sum.rows; Ok(()) }).unwrap();
                    prop_assert_eq!(of_all, rows.len() as u64);
                    keys.push("not there".to_owned());
                    prop_assert_eq!(held(&sums, &keys), expected);
                }
                Summed::Beyond(sorter) => {
                    prop_assert!(most_held < usize::MAX);
                    let mut merge = sorter.finish().unwrap();
                    let mut found: BTreeMap<Vec<u8>, Counts> = BTreeMap::new();
                    while let Some((key, payload)) = merge.next().unwrap() {
                        let next = candidate_of(payload).unwrap();
                        let counting = Counting::Summed(None);
                        let counts = match found.remove(key) {
                            Some(counts) => counts.take(&counting, next).unwrap(),
                            None => Counts::begin(&counting, next),
                        };
                        found.insert(key.to_vec(), counts);
                    }
                    prop_assert_eq!(found.len(), expected.len());
                    for (key, (row, line, text, rows, units)) in expected {
                        let Some(Counts::One(one)) = found.get(&hashed(&key)) else { panic!("{key} is lost") };
                        let mut cells = one.cells.as_slice();
                        let cells = [(); 3].map(|()| super::super::values::taken_units(&mut cells).unwrap().unwrap().unwrap_or(0));
                        prop_assert_eq!((one.row, one.line, one.key.as_str()), (row, line, text.as_str()));
                        prop_assert_eq!(cells, [units[0], units[1], i128::from(rows)]);
                    }
                }
            }
        }
    }

    #[test]
    fn keys_of_one_hash_are_told_apart() {
        let of_one_hash = |rest: &[u8]| [&7_u64.to_be_bytes()[..], rest].concat();
        let keys = [b"one".as_slice(), b"two", b"one and more", b""].map(of_one_hash);
        let rows: Rows = (1..)
            .zip([1, 20, 300, 4000])
            .map(|(row, units)| (row, row.to_string(), [Some(units), None]))
            .collect();
        let folder = tempfile::tempdir().unwrap();
        let sums = SumsByKey::new(&[0, 1], usize::MAX, folder.path());
        for _ in 0..2 {
            let mut keyed = KeyedRows::default();
            for (row, key) in keys.iter().enumerate() {
                keyed.keys.open_row().extend_from_slice(key);
                keyed.end_row(KeyedRow { row, number: rows[row].0, line: 1 });
            }
            sums.add(&table(&rows), &keyed, |row| rows[row].1.as_str().into(), &mut Vec::new()).unwrap();
        }
        let Summed::InMemory(held) = sums.finish().unwrap() else { panic!("it is held in memory") };
        let found = keys.map(|key| held.find(&key).map(|sum| (sum.row, sum.sums().next().unwrap().units())));
        let expected =
            [(1, 2), (2, 40), (3, 600), (4, 8000)].map(|(row, units)| Some((row, Ok(Some(units)))));
        assert_eq!(found, expected);
        assert!(held.find(&of_one_hash(b"three")).is_none());
    }

    #[test]
    fn a_sum_is_exact_whatever_is_added_first() {
        let most = 10_i128.pow(38) - 1;
        for order in [
            [most, most, most, -most, -most],
            [-most, most, most, -most, most],
            [most, -most, -most, most, most],
        ] {
            let rows: Rows = (1..)
                .zip(order)
                .map(|(number, units)| (number, "a".to_owned(), [Some(units), None]))
                .collect();
            let folder = tempfile::tempdir().unwrap();
            let sums = SumsByKey::new(&[0, 1], usize::MAX, folder.path());
            add(&sums, &rows);
            let Summed::InMemory(held) = sums.finish().unwrap() else { panic!("it is held in memory") };
            let sum = held.find(&hashed("a")).unwrap();
            assert_eq!(sum.sums().map(|sum| sum.units()).collect::<Vec<_>>(), [Ok(Some(most)), Ok(None)]);
            // One more of them is more than a column holds.
            let sums = SumsByKey::new(&[0, 1], usize::MAX, folder.path());
            add(&sums, &[rows, vec![(9, "a".to_owned(), [Some(1), None])]].concat());
            let Summed::InMemory(held) = sums.finish().unwrap() else { panic!("it is held in memory") };
            assert_eq!(held.find(&hashed("a")).unwrap().sums().next().unwrap().units(), Err(()));
        }
    }
}
