//! Sorting rows of arrays by keys: sorted runs on disk, merged.

use super::rows_on_disk::{Run, write_run};
use arrow_array::{Array, ArrayRef, BinaryArray};
use arrow_schema::ArrowError;
use arrow_select::interleave::interleave;
use std::cmp::Ordering;
use std::collections::BinaryHeap;
use std::collections::binary_heap::PeekMut;
use std::io;
use std::path::{Path, PathBuf};

/// Bytes of keys and arrays held before a sorted run goes to disk.
const RUN_BYTES: usize = 24 << 20;
/// Runs after which all are merged into one, so that few are open at once.
const MOST_RUNS: usize = 64;
/// Rows that are handed on together.
const ROWS: usize = 1024;

/// Takes rows in any order and gives them back in the order of their keys; rows of one key keep their order.
pub(crate) struct RowSorter {
    folder: PathBuf,
    run_bytes: usize,
    held: Held,
    runs: Vec<Run>,
}

/// Rows in memory: their keys one behind the other, and where each row stands.
#[derive(Default)]
struct Held {
    keys: Vec<u8>,
    entries: Vec<Entry>,
    batches: Vec<Vec<ArrayRef>>,
    bytes: usize,
}

#[derive(Clone, Copy)]
struct Entry {
    /// The first bytes of the key, which tell most keys apart.
    prefix: u64,
    start: usize,
    length: u32,
    batch: u32,
    row: u32,
}

impl RowSorter {
    /// A sorter whose runs vanish with it, in the folder.
    pub(crate) fn new(folder: &Path) -> Self {
        Self::with_run_bytes(folder, RUN_BYTES)
    }

    fn with_run_bytes(folder: &Path, run_bytes: usize) -> Self {
        Self { folder: folder.to_owned(), run_bytes, held: Held::default(), runs: Vec::new() }
    }

    /// Takes rows of arrays, each with its key.
    pub(crate) fn push<'k>(
        &mut self,
        arrays: Vec<ArrayRef>,
        rows: impl IntoIterator<Item = (usize, &'k [u8])>,
    ) -> io::Result<()> {
        let batch = narrow(self.held.batches.len())?;
        self.held.bytes += arrays.iter().map(|array| array.get_buffer_memory_size()).sum::<usize>();
        self.held.batches.push(arrays);
        for (row, key) in rows {
            let entry = Entry {
                prefix: prefix_of(key),
                start: self.held.keys.len(),
                length: narrow(key.len())?,
                batch,
                row: narrow(row)?,
            };
            self.held.keys.extend_from_slice(key);
            self.held.entries.push(entry);
            self.held.bytes += key.len() + size_of::<Entry>();
        }
        if self.held.bytes >= self.run_bytes {
            let held = std::mem::take(&mut self.held);
            self.runs.push(write_run(&self.folder, held.sorted())?);
            if self.runs.len() == MOST_RUNS {
                let all = Merge::new(std::mem::take(&mut self.runs), Held::default())?;
                self.runs.push(write_run(&self.folder, all)?);
            }
        }
        Ok(())
    }

    /// The rows in their order, so many at a time.
    pub(crate) fn finish(self) -> io::Result<Merge> {
        Merge::new(self.runs, self.held)
    }
}

fn narrow(number: usize) -> io::Result<u32> {
    u32::try_from(number)
        .map_err(|_| io::Error::new(io::ErrorKind::InvalidInput, "a row is too long to sort"))
}

fn prefix_of(key: &[u8]) -> u64 {
    let mut prefix = [0; 8];
    prefix.iter_mut().zip(key).for_each(|(to, from)| *to = *from);
    u64::from_be_bytes(prefix)
}

pub(super) fn failed(error: ArrowError) -> io::Error {
    io::Error::other(error)
}

/// Rows in their order, with their keys.
#[derive(Clone)]
pub(crate) struct Sorted {
    pub(super) arrays: Vec<ArrayRef>,
    pub(super) keys: BinaryArray,
}

impl Held {
    fn key(&self, entry: Entry) -> &[u8] {
        &self.keys[entry.start..entry.start + entry.length as usize]
    }

    /// Its rows in their order, so many at a time.
    fn sorted(mut self) -> impl Iterator<Item = io::Result<Sorted>> {
        let mut entries = std::mem::take(&mut self.entries);
        entries.sort_by(|one, other| {
            one.prefix.cmp(&other.prefix).then_with(|| self.key(*one).cmp(self.key(*other)))
        });
        let chunks: Vec<Vec<Entry>> = entries.chunks(ROWS).map(<[Entry]>::to_vec).collect();
        chunks.into_iter().map(move |chunk| {
            let places: Vec<(usize, usize)> =
                chunk.iter().map(|entry| (entry.batch as usize, entry.row as usize)).collect();
            let batches: Vec<&[ArrayRef]> = self.batches.iter().map(Vec::as_slice).collect();
            let keys = BinaryArray::from_iter_values(chunk.iter().map(|entry| self.key(*entry)));
            Ok(Sorted { arrays: gathered(&batches, &places)?, keys })
        })
    }
}

/// Rows of several batches, by the number of the batch and the row in it.
fn gathered(batches: &[&[ArrayRef]], places: &[(usize, usize)]) -> io::Result<Vec<ArrayRef>> {
    let columns = batches.first().map_or(0, |arrays| arrays.len());
    (0..columns)
        .map(|column| {
            let arrays: Vec<_> = batches.iter().map(|arrays| arrays[column].as_ref()).collect();
            interleave(&arrays, places).map_err(failed)
        })
        .collect()
}

/// Sorted runs merged into one.
pub(crate) struct Merge {
    heads: BinaryHeap<Head>,
}

/// A run with the rows that stand at its front.
struct Head {
    rest: Box<dyn Iterator<Item = io::Result<Sorted>> + Send>,
    front: Sorted,
    at: usize,
    /// The first bytes of the key of the row that it stands at.
    prefix: u64,
    /// The place of the run among all, so that rows of one key keep their order.
    rank: usize,
}

/// Rows of several batches that come next.
struct Next {
    batches: Vec<Sorted>,
    /// The number of the batch and the row in it.
    places: Vec<(usize, usize)>,
}

impl Merge {
    fn new(runs: Vec<Run>, held: Held) -> io::Result<Self> {
        type Rows = Box<dyn Iterator<Item = io::Result<Sorted>> + Send>;
        let on_disk = runs.into_iter().map(|run| Box::new(run) as Rows);
        let in_memory = std::iter::once(Box::new(held.sorted()) as Rows);
        let mut heads = BinaryHeap::new();
        for (rank, mut rest) in on_disk.chain(in_memory).enumerate() {
            if let Some(front) = rest.next() {
                let mut head = Head { rest, front: front?, at: 0, prefix: 0, rank };
                head.stand_at(0);
                heads.push(head);
            }
        }
        Ok(Self { heads })
    }

    fn next_rows(&mut self) -> io::Result<Option<Next>> {
        let mut next = Next { batches: Vec::new(), places: Vec::new() };
        // Which batch stands for the front of a run, as long as that is the same one.
        let mut numbers: Vec<Option<usize>> = Vec::new();
        while next.places.len() < ROWS
            && let Some(mut head) = self.heads.peek_mut()
        {
            numbers.resize(numbers.len().max(head.rank + 1), None);
            let number = *numbers[head.rank].get_or_insert_with(|| {
                next.batches.push(head.front.clone());
                next.batches.len() - 1
            });
            next.places.push((number, head.at));
            if head.at + 1 < head.front.keys.len() {
                let at = head.at + 1;
                head.stand_at(at);
                continue;
            }
            numbers[head.rank] = None;
            match head.rest.next() {
                Some(front) => {
                    head.front = front?;
                    head.stand_at(0);
                }
                None => {
                    PeekMut::pop(head);
                }
            }
        }
        Ok((!next.places.is_empty()).then_some(next))
    }

    /// The next rows as arrays; `None` at the end.
    pub(crate) fn next_arrays(&mut self) -> io::Result<Option<Vec<ArrayRef>>> {
        self.next_rows()?.map(|next| next.arrays()).transpose()
    }
}

impl Next {
    fn arrays(&self) -> io::Result<Vec<ArrayRef>> {
        let batches: Vec<&[ArrayRef]> = self.batches.iter().map(|batch| batch.arrays.as_slice()).collect();
        gathered(&batches, &self.places)
    }

    fn sorted(&self) -> io::Result<Sorted> {
        let keys = self.places.iter().map(|(number, row)| self.batches[*number].keys.value(*row));
        Ok(Sorted { arrays: self.arrays()?, keys: BinaryArray::from_iter_values(keys) })
    }
}

impl Iterator for Merge {
    type Item = io::Result<Sorted>;

    fn next(&mut self) -> Option<Self::Item> {
        self.next_rows().and_then(|next| next.map(|next| next.sorted()).transpose()).transpose()
    }
}

impl Head {
    fn stand_at(&mut self, row: usize) {
        self.at = row;
        self.prefix = prefix_of(self.key());
    }

    fn key(&self) -> &[u8] {
        if self.at < self.front.keys.len() { self.front.keys.value(self.at) } else { &[] }
    }
}

/// The head with the smallest key is the greatest, as the heap gives the greatest first.
impl Ord for Head {
    fn cmp(&self, other: &Self) -> Ordering {
        let by_key = || other.key().cmp(self.key());
        other.prefix.cmp(&self.prefix).then_with(by_key).then(other.rank.cmp(&self.rank))
    }
}

impl PartialOrd for Head {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl PartialEq for Head {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}

impl Eq for Head {}

#[cfg(test)]
mod tests {
    use super::{RowSorter, failed};
    use arrow_array::cast::AsArray;
    use arrow_array::types::Int64Type;
    use arrow_array::{ArrayRef, Int64Array, StringArray};
    use proptest::prelude::*;
    use std::sync::Arc;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(48))]
        #[test]
        fn runs_on_disk_sort_as_memory_does(
            batches in prop::collection::vec(prop::collection::vec((prop::collection::vec(0_u8..4, 0..12), any::<bool>()), 0..700), 0..8),
            run_bytes in 1_usize..90_000,
        ) {
            let folder = tempfile::tempdir().unwrap();
            let mut sorter = RowSorter::with_run_bytes(folder.path(), run_bytes);
            let mut expected: Vec<(Vec<u8>, i64)> = Vec::new();
            let mut number = 0;
            for rows in &batches {
                let numbers: Vec<i64> = (number..).take(rows.len()).collect();
                number += rows.len() as i64;
                let texts: Vec<String> = numbers.iter().map(|number| format!("row {number}")).collect();
                let arrays: Vec<ArrayRef> =
                    vec![Arc::new(Int64Array::from(numbers.clone())), Arc::new(StringArray::from(texts))];
                // Rows that are left out stay out.
                let kept = rows.iter().enumerate().filter(|(_, (_, kept))| *kept);
                let keyed: Vec<(usize, Vec<u8>)> = kept.map(|(row, (key, _))| (row, key.clone())).collect();
                expected.extend(keyed.iter().map(|(row, key)| (key.clone(), numbers[*row])));
                sorter.push(arrays, keyed.iter().map(|(row, key)| (*row, key.as_slice()))).unwrap();
            }
            expected.sort_by(|one, other| one.0.cmp(&other.0));
            let mut merge = sorter.finish().unwrap();
            let mut found: Vec<i64> = Vec::new();
            while let Some(arrays) = merge.next_arrays().unwrap() {
                let numbers = arrays[0].as_primitive::<Int64Type>();
                let texts = arrays[1].as_string::<i32>();
                for (number, text) in numbers.values().iter().zip(texts) {
                    prop_assert_eq!(text.unwrap(), format!("row {number}"));
                    found.push(*number);
                }
            }
            prop_assert_eq!(found, expected.into_iter().map(|(_, number)| number).collect::<Vec<_>>());
        }
    }

    #[test]
    fn errors_of_arrays_are_told() {
        let error = failed(arrow_schema::ArrowError::ComputeError("no room".to_owned()));
        assert!(error.to_string().contains("no room"));
    }
}
