//! The second file read, its rows sorted by key, and one entry made of each key.

use super::Counting;
use super::account::{Account, Goes};
use super::bound::BoundFetch;
use super::fetching::{Fetch, Found, NotAdded};
use super::index::{HELD, IndexBuilder, SUMS_HELD};
use super::one_key::{Candidate, Counts};
use super::values::{put_cells, put_one_row, taken_number};
use crate::error::RecordsError;
use crate::keys::{put_hashed, put_key};
use crate::sorting::{SortKey, Sorter};
use crate::source::{ChunkSize, read_chunk};
use crate::table::{Became, Exception, ExceptionSubject, Layout, Origin, Table};
use crate::typing::{Cleaner, Place, expected_of};
use mild_ledger::Scale;
use mild_ledger::column::Cell;
use std::path::Path;

/// Exceptions of a second file that are listed one by one.
const MOST_LISTED: usize = 100_000;

impl BoundFetch {
    /// Reads the second file. What is looked for later is held in memory while it is small, and stands in a file of this folder where
    /// it is not.
    pub(crate) fn build(
        mut self,
        layout: &mut Layout,
        scratch: &Path,
        check: &dyn Fn() -> Result<(), RecordsError>,
    ) -> Result<Fetch, RecordsError> {
        let failed = |error| RecordsError::file(scratch, "sort what is fetched there")(error);
        self.reader.with_chunks_of(ChunkSize::of_rows_with(self.theirs.columns.len()));
        let source = layout.sources.len();
        layout.sources.push(self.other.name.clone());
        let mut chunks = self.reader.chunk_reader();
        let mut sorter = Sorter::new(scratch);
        let mut exceptions = Vec::new();
        let (mut more, mut blank_keys, mut usable) = (0, 0, 0);
        let mut not_added = NotAdded::default();
        let mut account = matches!(self.counting, Counting::Summed(_)).then(|| {
            let scale = |nth: usize| self.kinds.get(nth)?.decimals().and_then(|count| Scale::new(count).ok());
            Account::of(&self.theirs, &self.brought, scale)
        });
        {
            let mut cleaner = Cleaner::new(&self.theirs);
            let (mut key, mut entry_key, mut payload) = (SortKey::default(), Vec::new(), Vec::new());
            while let Some(chunk) = self.reader.next_chunk()? {
                check()?;
                let batch = read_chunk(chunks.as_mut(), &chunk)?;
                let mut found = Vec::new();
                let (table, places) = cleaner.clean(&batch, &mut found);
                for exception in found {
                    if exceptions.len() < MOST_LISTED {
                        exceptions.push(self.listed(exception, layout, source));
                    } else {
                        more += 1;
                    }
                }
                for (row, place) in places.iter().enumerate() {
                    let goes = match place {
                        Place::Written if put_key(&self.theirs.key, &table, row, &mut key) => {
                            usable += 1;
                            self.goes(&table, row)
                        }
                        Place::Written => {
                            blank_keys += 1;
                            Goes::WithoutKey
                        }
                        _ => Goes::SetAside,
                    };
                    not_added.later += u64::from(goes == Goes::Later);
                    not_added.without_date += u64::from(goes == Goes::WithoutDate);
                    account.iter_mut().for_each(|account| account.take(&table, row, goes));
                    if goes != Goes::Added {
                        continue;
                    }
                    entry_key.clear();
                    put_hashed(&key, &mut entry_key);
                    let origin = batch.origins.of(row);
                    let text = self.theirs.key_text(&batch, row);
                    self.put_candidate(&table, row, (origin.row, origin.line, &text), &mut payload);
                    sorter.push(&entry_key, &payload).map_err(failed)?;
                }
            }
        }
        let mut merge = sorter.finish().map_err(failed)?;
        let is_sum = matches!(self.counting, Counting::Summed(_));
        let mut index =
            IndexBuilder::new(scratch, if is_sum { SUMS_HELD / self.sharing.max(1) } else { HELD });
        let mut keys = 0;
        let mut current: Option<(Vec<u8>, Counts)> = None;
        let mut seen = 0_u64;
        while let Some((key, payload)) = merge.next().map_err(failed)? {
            seen += 1;
            if seen.is_multiple_of(1 << 16) {
                check()?;
            }
            let candidate = candidate_of(payload);
            current = Some(match current.take() {
                Some((same, counts)) if same == key => {
                    if self.counting == Counting::Refused {
                        return Err(self.stands_twice(&counts, &candidate));
                    }
                    (same, counts.take(&self.counting, candidate))
                }
                before => {
                    if let Some((key, counts)) = before {
                        index.push(&key, &counts.entry(keys)).map_err(failed)?;
                        keys += 1;
                    }
                    (key.to_vec(), Counts::begin(&self.counting, candidate))
                }
            });
        }
        if let Some((key, counts)) = current {
            index.push(&key, &counts.entry(keys)).map_err(failed)?;
            keys += 1;
        }
        let index = index.finish().map_err(failed)?;
        let Self { other, reader, ours, kinds, missing, counting, .. } = self;
        let end = reader.finish().pop();
        let end =
            end.ok_or_else(|| RecordsError::Proof { what: "the second file was not read".to_owned() })?;
        Ok(Fetch::new(
            Found {
                index,
                keys,
                source,
                end,
                blank_keys,
                usable,
                exceptions,
                more_exceptions: more,
                not_added,
                account,
            },
            (other, ours, kinds, missing, counting),
        ))
    }

    /// Where a row with a key goes: where only those up to the as-of date are added up, not all of them count.
    fn goes(&self, table: &Table, row: usize) -> Goes {
        let (Counting::Summed(Some(dates)), Some(up_to)) = (&self.counting, self.up_to) else {
            return Goes::Added;
        };
        match table.date(*dates, row) {
            Some(date) if date <= up_to => Goes::Added,
            Some(_) => Goes::Later,
            None => Goes::WithoutDate,
        }
    }

    /// An exception of a row of theirs, as it stands among ours: their columns have no numbers here, and no row of ours is set aside
    /// for it.
    fn listed(&self, exception: Exception, layout: &mut Layout, source: usize) -> Exception {
        let expected = expected_of(&exception, &self.theirs);
        let subject = match exception.subject {
            ExceptionSubject::Column(column) => layout.other_column(self.theirs.name(column)),
            other => other,
        };
        let became = match exception.became {
            Became::RowSetAside => Became::RowNotUsed,
            other => other,
        };
        let origin = Origin { source, ..exception.origin };
        Exception { origin, subject, expected, became, ..exception }
    }

    fn put_candidate(
        &self,
        table: &Table,
        row: usize,
        (number, line, key): (u64, u64, &str),
        into: &mut Vec<u8>,
    ) {
        into.clear();
        for number in [number, line, key.len() as u64] {
            into.extend_from_slice(&number.to_le_bytes());
        }
        into.extend_from_slice(key.as_bytes());
        let order = match self.counting {
            Counting::Latest(column) | Counting::Earliest(column) => table.order_number(column, row),
            _ => None,
        };
        into.push(u8::from(order.is_some()));
        into.extend_from_slice(&order.unwrap_or(0).to_le_bytes());
        let days = match self.counting {
            // A day that could not be read leaves nothing to count on.
            Counting::Valid { from, to, .. }
                if [from, to].iter().any(|column| table.is_unreadable(*column, row)) =>
            {
                [Some(i32::MAX), Some(i32::MIN)]
            }
            Counting::Valid { from, to, .. } => [from, to].map(|column| day(table, column, row)),
            _ => [None, None],
        };
        for day in days {
            into.push(u8::from(day.is_some()));
            into.extend_from_slice(&day.unwrap_or(0).to_le_bytes());
        }
        put_cells(table, &self.brought, row, into);
        if matches!(self.counting, Counting::Summed(_)) {
            put_one_row(into);
        }
    }

    fn stands_twice(&self, before: &Counts, next: &Candidate) -> RecordsError {
        let first = match before {
            Counts::One(first) | Counts::Neither(first, _) => first.row,
            Counts::OnDays(all) => all.first().map_or(0, |first| first.row),
        };
        RecordsError::request(
            format!("\"{}\" stands twice in {}, in rows {first} and {}", next.key, self.other.name, next.row),
            "say in the plan under [[fetch]] which counts, such as repeats = \"last\" or { latest = \"…\" }",
        )
    }
}

/// A day of theirs; a blank one bounds nothing.
fn day(table: &Table, column: usize, row: usize) -> Option<i32> {
    table.date(column, row).map(|date| date.stored())
}

fn candidate_of(mut payload: &[u8]) -> Candidate {
    let [row, line, length] = std::array::from_fn(|_| taken_number(&mut payload));
    let length = usize::try_from(length).unwrap_or(usize::MAX);
    let (key, mut rest) = payload.split_at_checked(length).unwrap_or((payload, &[]));
    let order = taken_flagged(&mut rest).map(i128::from_le_bytes);
    let days = [0, 1].map(|_| taken_flagged(&mut rest).map(i32::from_le_bytes));
    Candidate { row, line, order, days, key: String::from_utf8_lossy(key).into_owned(), cells: rest.to_vec() }
}

/// The next value of so many bytes, if a byte before them says that there is one.
fn taken_flagged<const N: usize>(bytes: &mut &[u8]) -> Option<[u8; N]> {
    let (flag, rest) = bytes.split_first()?;
    let (value, rest) = rest.split_first_chunk::<N>()?;
    *bytes = rest;
    (*flag == 1).then_some(*value)
}
