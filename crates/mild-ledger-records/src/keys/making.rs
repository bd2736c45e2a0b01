//! The keys of rows as bytes.

use super::Duplicates;
use crate::sorting::{Direction, SortKey};
use crate::table::{ByteRows, Layout, Origins, Table};
use xxhash_rust::xxh3::xxh3_64;

/// What is to be known of keys: their columns, what is done with duplicates, and the amounts that are added up.
#[derive(Clone, Copy)]
pub(crate) struct KeySetting<'j> {
    /// What the columns are, those of the key among them.
    pub(crate) layout: &'j Layout,
    pub(crate) duplicates: Option<Duplicates>,
    pub(crate) amounts: &'j [usize],
}

/// Makes keys of rows, of batch after batch.
#[derive(Default)]
pub(crate) struct KeyMaker {
    key: SortKey,
}

/// The keys of some rows, each with what is to be known of its row.
#[derive(Default)]
pub(crate) struct MadeKeys {
    pub(crate) keys: ByteRows,
    pub(crate) payloads: ByteRows,
}

impl KeyMaker {
    /// The keys of these rows of a table, whose origins are those of all its rows; a key with a blank part never matches, and
    /// is left out.
    pub(crate) fn make(
        &mut self,
        job: KeySetting<'_>,
        table: &Table,
        rows: &[usize],
        origins: &Origins,
    ) -> MadeKeys {
        let mut made = MadeKeys::default();
        for row in rows {
            if !put_key(&job.layout.key, table, *row, &mut self.key) {
                continue;
            }
            put_hashed(&self.key, made.keys.open_row());
            made.keys.end_row();
            let payload = made.payloads.open_row();
            payload.extend_from_slice(&origins.of(*row).id().stored().to_le_bytes());
            if job.duplicates == Some(Duplicates::Sum) {
                for column in job.amounts {
                    let units = table.units(*column, *row);
                    payload.push(u8::from(units.is_some()));
                    payload.extend_from_slice(&units.unwrap_or(0).to_le_bytes());
                }
            }
            made.payloads.end_row();
        }
        made
    }
}

/// Puts the key of a row in place of another; whether it has one, which is so where no part of it is blank.
pub(crate) fn put_key(columns: &[usize], table: &Table, row: usize, key: &mut SortKey) -> bool {
    key.clear();
    columns.iter().all(|column| {
        let text = table.text(*column, row);
        if !text.is_empty() {
            key.push_exact_text(text);
        } else if let Some(value) = table.order_number(*column, row) {
            key.push_number(value, Direction::SmallestFirst);
        } else {
            return false;
        }
        true
    })
}

/// The hash that comes before a key, as [`put_hashed`] put it there.
pub(crate) fn hash_of(hashed: &[u8]) -> u64 {
    hashed.first_chunk().map_or(0, |first| u64::from_be_bytes(*first))
}

/// Puts a key after other bytes, its hash first: keys are distinguished by it, and only those of one hash compared as they are.
pub(crate) fn put_hashed(key: &SortKey, into: &mut Vec<u8>) {
    into.extend_from_slice(&xxh3_64(key.as_bytes()).to_be_bytes());
    into.extend_from_slice(key.as_bytes());
}
