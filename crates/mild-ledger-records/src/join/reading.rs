//! The rows of the second file: whether each can be used, its key, and what it brings.

use super::Counting;
use super::account::{Account, Goes};
use super::bound::Paid;
use super::one_key::put_candidate;
use super::probe::NotAdded;
use super::sums::{KeyedRow, KeyedRows, SumsByKey};
use super::values::{put_cells, put_rows};
use crate::error::RecordsError;
use crate::keys::{put_hashed, put_key};
use crate::sorting::SortKey;
use crate::source::{Chunk, ChunkReader, read_chunk};
use crate::table::{ByteRows, Exception, Layout, Table};
use crate::typing::{Cleaner, Place};
use mild_ledger::Date;
use mild_ledger::column::Cell;
use std::path::Path;

/// What is looked for in the rows of a second file.
#[derive(Clone, Copy)]
pub(super) struct Wanted<'b> {
    pub(super) theirs: &'b Layout,
    /// The columns that are brought.
    pub(super) brought: &'b [usize],
    pub(super) counting: &'b Counting<usize>,
    /// The as-of date, where only rows up to it are added up.
    pub(super) up_to: Option<Date>,
    /// Where they settle our amounts, what is paid.
    pub(super) paid: Option<Paid>,
    /// Where rows are added up, the sums.
    pub(super) sums: Option<&'b SumsByKey>,
    /// Where sums are held that are more than memory should hold, for messages.
    pub(super) scratch: &'b Path,
}

/// One of the threads that read rows of a second file.
pub(super) struct Hand<'b> {
    wanted: Wanted<'b>,
    chunks: Box<dyn ChunkReader>,
    cleaner: Cleaner<'b>,
    key: SortKey,
    keyed: KeyedRows,
    near: Vec<usize>,
    pub(super) counted: Counted,
}

/// The counts of rows.
pub(super) struct Counted {
    pub(super) blank_keys: u64,
    pub(super) usable: u64,
    pub(super) not_added: NotAdded,
    pub(super) account: Option<Account>,
}

/// The rest of a chunk.
#[derive(Default)]
pub(super) struct OfChunk {
    pub(super) exceptions: Vec<Exception>,
    /// Where rows are not added up, their keys, the hash of each first, and what they bring.
    pub(super) keys: ByteRows,
    pub(super) candidates: ByteRows,
}

impl<'b> Hand<'b> {
    pub(super) fn new(wanted: Wanted<'b>, chunks: Box<dyn ChunkReader>, account: Option<Account>) -> Self {
        Self {
            wanted,
            chunks,
            cleaner: Cleaner::new(wanted.theirs),
            key: SortKey::default(),
            keyed: KeyedRows::default(),
            near: Vec::new(),
            counted: Counted { blank_keys: 0, usable: 0, not_added: NotAdded::default(), account },
        }
    }

    /// Reads the rows of a chunk.
    pub(super) fn read(&mut self, chunk: &Chunk) -> Result<OfChunk, RecordsError> {
        let Wanted { theirs, sums, scratch, .. } = self.wanted;
        let batch = read_chunk(self.chunks.as_mut(), chunk)?;
        let mut left = OfChunk::default();
        let (table, places) = self.cleaner.clean(&batch, &mut left.exceptions);
        self.keyed.clear();
        for (row, place) in places.iter().enumerate() {
            let goes = self.goes(&table, row, *place);
            self.counted.take(&table, row, goes);
            if goes != Goes::Added {
                continue;
            }
            let origin = batch.origins.of(row);
            if sums.is_some() {
                put_hashed(&self.key, self.keyed.keys.open_row());
                self.keyed.end_row(KeyedRow { row, number: origin.row, line: origin.line });
                continue;
            }
            put_hashed(&self.key, left.keys.open_row());
            left.keys.end_row();
            let text = theirs.key_text(&batch, row);
            let candidate = left.candidates.open_row();
            self.wanted.put_candidate(&table, row, (origin.row, origin.line, text.as_bytes()), candidate);
            left.candidates.end_row();
        }
        if let Some(sums) = sums {
            let text = |row: usize| theirs.key_text(&batch, row);
            let failed = RecordsError::file(scratch, "sort what is joined there");
            sums.add(&table, &self.keyed, text, &mut self.near).map_err(failed)?;
        }
        Ok(left)
    }

    /// Where a row goes; the key of one that is used is at hand.
    fn goes(&mut self, table: &Table, row: usize, place: Place) -> Goes {
        match place {
            Place::Written if put_key(&self.wanted.theirs.key, table, row, &mut self.key) => {
                self.counted.usable += 1;
                self.wanted.goes(table, row)
            }
            Place::Written => {
                self.counted.blank_keys += 1;
                Goes::WithoutKey
            }
            _ => Goes::SetAside,
        }
    }
}

impl Wanted<'_> {
    /// Where a row with a key goes: where only those up to the as-of date are added up, not all of them count.
    fn goes(&self, table: &Table, row: usize) -> Goes {
        let (Some(dates), Some(up_to)) = (self.counting.dates_up_to_as_of(), self.up_to) else {
            return Goes::Added;
        };
        match table.date(*dates, row) {
            Some(date) if date <= up_to => Goes::Added,
            Some(_) => Goes::Later,
            None => Goes::WithoutDate,
        }
    }

    fn put_candidate(&self, table: &Table, row: usize, place_and_key: (u64, u64, &[u8]), into: &mut Vec<u8>) {
        let order = match self.counting {
            Counting::Latest(column) | Counting::Earliest(column) => table.order_number(*column, row),
            Counting::Settling { .. } => self.paid.and_then(|paid| paid.units(table, row)),
            _ => None,
        };
        let days = match self.counting {
            // A day that could not be read leaves nothing to count on.
            Counting::Valid { from, to, .. }
                if [from, to].iter().any(|column| table.is_unreadable(**column, row)) =>
            {
                [Some(i32::MAX), Some(i32::MIN)]
            }
            Counting::Valid { from, to, .. } => [from, to].map(|column| day(table, *column, row)),
            Counting::Settling { dates, .. } => [day(table, *dates, row), None],
            _ => [None, None],
        };
        put_candidate(place_and_key, order, days, into);
        put_cells(table, self.brought, row, into);
        if self.counting.is_sum() {
            put_rows(1, into);
        }
    }
}

/// One of their days; a blank one bounds nothing.
fn day(table: &Table, column: usize, row: usize) -> Option<i32> {
    table.date(column, row).map(|date| date.stored())
}

impl Counted {
    fn take(&mut self, table: &Table, row: usize, goes: Goes) {
        self.not_added.later += u64::from(goes == Goes::Later);
        self.not_added.without_date += u64::from(goes == Goes::WithoutDate);
        self.account.iter_mut().for_each(|account| account.take(table, row, goes));
    }

    /// Takes over the counts of other rows.
    pub(super) fn merge(&mut self, other: &Self) {
        self.blank_keys += other.blank_keys;
        self.usable += other.usable;
        self.not_added.later += other.not_added.later;
        self.not_added.without_date += other.not_added.without_date;
        if let (Some(account), Some(other)) = (&mut self.account, &other.account) {
            account.merge(other);
        }
    }
}
