//! The first rows in an order, while all go by.

use crate::reports::ReportCell;
use crate::reports::groups::MOST_LEVELS;
use crate::table::RowId;
use mild_ledger::Quotient;
use serde::{Deserialize, Serialize};

/// A row as it is listed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct ListedRow {
    /// What it is ordered by, then where it is among all records.
    pub(super) key: Vec<u8>,
    pub(super) origin: RowId,
    /// The group that it is in at each level.
    pub(super) places: [u32; MOST_LEVELS],
    pub(super) cells: Vec<ReportCell>,
    /// What it adds to each sum.
    pub(super) adds: Vec<Option<Quotient>>,
}

impl ListedRow {
    fn comes_by(&self) -> (&[u8], RowId) {
        (&self.key, self.origin)
    }
}

/// At most a number of rows, the first of all that were met.
#[derive(Debug, Default, Serialize, Deserialize)]
pub(super) struct FirstRows {
    rows: Vec<ListedRow>,
    /// After which none is kept any more.
    last: Option<(Vec<u8>, RowId)>,
}

impl FirstRows {
    /// Whether a row would be among the first as far as they are known.
    pub(super) fn wants(&self, key: &[u8], origin: RowId) -> bool {
        self.last.as_ref().is_none_or(|(last, of)| (key, origin) < (last.as_slice(), *of))
    }

    /// Takes a row in, and says how many more are held than before.
    pub(super) fn push(&mut self, row: ListedRow, most: usize) -> isize {
        let held = self.rows.len();
        self.rows.push(row);
        if self.rows.len() >= most.saturating_mul(2).max(64) {
            self.cut(most);
        }
        self.rows.len().cast_signed() - held.cast_signed()
    }

    pub(super) fn append(&mut self, mut other: Self, most: usize) {
        self.rows.append(&mut other.rows);
        self.cut(most);
    }

    /// Gives the groups of its rows other numbers.
    pub(super) fn move_to(&mut self, to: &mut impl FnMut([u32; MOST_LEVELS]) -> [u32; MOST_LEVELS]) {
        self.rows.iter_mut().for_each(|row| row.places = to(row.places));
    }

    pub(super) fn len(&self) -> usize {
        self.rows.len()
    }

    /// The first rows in their order.
    pub(super) fn finish(mut self, most: usize) -> Vec<ListedRow> {
        self.cut(most);
        self.rows.sort_unstable_by(|one, other| one.comes_by().cmp(&other.comes_by()));
        self.rows
    }

    fn cut(&mut self, most: usize) {
        if self.rows.len() <= most || most == 0 {
            return;
        }
        let (_, last, _) =
            self.rows.select_nth_unstable_by(most - 1, |one, other| one.comes_by().cmp(&other.comes_by()));
        self.last = Some((last.key.clone(), last.origin));
        self.rows.truncate(most);
    }
}
