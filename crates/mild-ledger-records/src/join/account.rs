//! What became of the rows of a second file that are added up by key, and of their amounts: no payment gets lost between the files.

use crate::table::{Layout, Table};
use mild_ledger::Scale;

/// Where a row of the second file goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Goes {
    /// Into the sum of its key.
    Added,
    /// It lies after the as-of date.
    Later,
    /// It has no date that could be read.
    WithoutDate,
    WithoutKey,
    SetAside,
}

impl Goes {
    const NOT_ADDED: [(Self, &'static str); 4] = [
        (Self::Later, "after the as-of date"),
        (Self::WithoutDate, "without a date"),
        (Self::WithoutKey, "without a key"),
        (Self::SetAside, "set aside"),
    ];
}

/// A sum of amounts; nothing where it was too large.
type Units = Option<i128>;

/// The rows read, counted as they were read.
pub(super) struct Account {
    columns: Vec<AmountColumn>,
    rows: [u64; Goes::NOT_ADDED.len()],
    rows_in_tables: u64,
}

/// A column of amounts that are added up.
struct AmountColumn {
    name: String,
    column: usize,
    /// Its place among the columns that are brought.
    nth: usize,
    scale: Scale,
    read: Units,
    not_added: [Units; Goes::NOT_ADDED.len()],
}

/// The parts of the rows read: a name, and how much.
pub(crate) struct Accounted {
    /// The column, or the rows where there is none.
    pub(crate) column: Option<(String, Scale)>,
    pub(crate) read: i128,
    pub(crate) parts: Vec<(&'static str, i128)>,
}

fn add(sum: &mut Units, units: i128) {
    add_sum(sum, Some(units));
}

fn add_sum(sum: &mut Units, more: Units) {
    *sum = sum.zip(more).and_then(|(sum, more)| sum.checked_add(more));
}

impl Account {
    /// An account of the columns of amounts that are brought, but for those with currencies, of which no sum is made.
    pub(super) fn of(theirs: &Layout, brought: &[usize], scale: impl Fn(usize) -> Option<Scale>) -> Self {
        let column = |(nth, column): (usize, &usize)| {
            let scale = scale(nth).filter(|_| theirs.currency(*column).is_none())?;
            Some(AmountColumn {
                name: theirs.name(*column).to_owned(),
                column: *column,
                nth,
                scale,
                read: Some(0),
                not_added: [Some(0); Goes::NOT_ADDED.len()],
            })
        };
        let columns = brought.iter().enumerate().filter_map(column).collect();
        Self { columns, rows: [0; Goes::NOT_ADDED.len()], rows_in_tables: 0 }
    }

    /// Takes a row in.
    pub(super) fn take(&mut self, table: &Table, row: usize, goes: Goes) {
        self.rows_in_tables += 1;
        let place = Goes::NOT_ADDED.iter().position(|(known, _)| *known == goes);
        if let Some(count) = place.and_then(|place| self.rows.get_mut(place)) {
            *count += 1;
        }
        for column in &mut self.columns {
            let Some(units) = table.units(column.column, row) else { continue };
            add(&mut column.read, units);
            if let Some(sum) = place.and_then(|place| column.not_added.get_mut(place)) {
                add(sum, units);
            }
        }
    }

    /// Takes over the account of other rows of the same file.
    pub(super) fn merge(&mut self, other: &Self) {
        self.rows_in_tables += other.rows_in_tables;
        self.rows.iter_mut().zip(other.rows).for_each(|(count, more)| *count += more);
        for (column, other) in self.columns.iter_mut().zip(&other.columns) {
            add_sum(&mut column.read, other.read);
            column.not_added.iter_mut().zip(other.not_added).for_each(|(sum, more)| add_sum(sum, more));
        }
    }

    /// The parts of the rows read, with the data of each key: whether our row asked for it, how many rows it is of, and their sum in each of the
    /// columns that are brought, an error where there is none.
    pub(super) fn finish(
        &self,
        rows_read: u64,
        each: impl FnOnce(&mut dyn FnMut(bool, u64, &[Result<Option<i128>, ()>])) -> std::io::Result<()>,
    ) -> std::io::Result<Vec<Accounted>> {
        let mut rows = [0_i128; 2];
        let mut sums = vec![[Some(0); 2]; self.columns.len()];
        let mut has_no_sum = vec![false; self.columns.len()];
        each(&mut |is_matched, count, cells| {
            let side = usize::from(!is_matched);
            rows[side] += i128::from(count);
            for ((column, sums), has_no_sum) in self.columns.iter().zip(&mut sums).zip(&mut has_no_sum) {
                match cells.get(column.nth) {
                    Some(Ok(Some(units))) => add(&mut sums[side], *units),
                    Some(Ok(None)) => {}
                    _ => *has_no_sum = true,
                }
            }
        })?;
        const SIDES: [&str; 2] = ["added to rows", "of keys that no row has"];
        let mut of_rows: Vec<(&'static str, i128)> = SIDES.into_iter().zip(rows).collect();
        let not_added = Goes::NOT_ADDED.iter().zip(self.rows);
        of_rows.extend(not_added.map(|((goes, name), count)| {
            // What is broken comes into no table.
            let broken =
                if *goes == Goes::SetAside { rows_read - self.rows_in_tables.min(rows_read) } else { 0 };
            (*name, i128::from(count + broken))
        }));
        let mut all = vec![Accounted { column: None, read: rows_read.into(), parts: of_rows }];
        for ((column, sums), has_no_sum) in self.columns.iter().zip(sums).zip(has_no_sum) {
            let not_added = Goes::NOT_ADDED.iter().map(|(_, name)| *name).zip(column.not_added);
            let parts = SIDES.into_iter().zip(sums).chain(not_added);
            let parts = parts.map(|(name, units)| Some((name, units?))).collect::<Option<Vec<_>>>();
            let (Some(read), Some(mut parts)) = (column.read, parts) else { continue };
            if has_no_sum {
                let known = parts.iter().try_fold(0_i128, |sum, (_, units)| sum.checked_add(*units));
                let Some(rest) = known.and_then(|known| read.checked_sub(known)) else { continue };
                parts.push(("of keys without a sum", rest));
            }
            all.push(Accounted { column: Some((column.name.clone(), column.scale)), read, parts });
        }
        Ok(all)
    }
}

impl Accounted {
    /// Whether the parts sum to the rows read.
    pub(crate) fn agrees(&self) -> bool {
        let sum = self.parts.iter().try_fold(0_i128, |sum, (_, units)| sum.checked_add(*units));
        sum == Some(self.read)
    }
}
