//! What is joined for the rows of a batch, and what found no match on either side.

use super::account::{Account, Accounted};
use super::bound::{OtherFile, Paid};
use super::index::Index;
use super::one_key::{Brings, Entry};
use super::sums::HeldSums;
use super::values::{BroughtColumn, push_settled, taken_units};
use super::{Counting, MissingMatch};
use crate::error::RecordsError;
use crate::keys::{put_hashed, put_key};
use crate::sorting::{Merge, SortKey, Sorter};
use crate::source::SourceEnd;
use crate::stored_bytes::{broken, take_bytes, take_number, text_of};
use crate::table::{
    Batch, Became, ByteRows, Exception, ExceptionSubject, Gap, Kind, Layout, Origin, Reason, Table,
};
use crate::typing::Place;
use mild_ledger::column::Cell;
use serde::{Deserialize, Serialize};
use std::io;
use std::path::Path;

/// A second file that was read, that our rows join.
pub(crate) struct Join {
    other: OtherFile,
    /// Our columns of the key.
    ours: Vec<usize>,
    /// What the columns hold that are brought.
    kinds: Vec<Kind>,
    missing: MissingMatch,
    counting: Counting<usize>,
    /// Where they settle our amounts, what is paid.
    paid: Option<Paid>,
    found: Found,
}

/// The findings in a second file.
pub(super) struct Found {
    pub(super) keys: Keys,
    /// Its number among all files that are read.
    pub(super) source: usize,
    pub(super) end: SourceEnd,
    /// Rows whose key is blank.
    pub(super) blank_keys: u64,
    /// Rows with a key.
    pub(super) usable: u64,
    pub(super) exceptions: Vec<Exception>,
    /// Exceptions that are not listed.
    pub(super) more_exceptions: u64,
    pub(super) not_added: NotAdded,
    /// Of rows that are added up.
    pub(super) account: Option<Account>,
}

/// What the rows of each key come to.
pub(super) enum Keys {
    /// Entries, and how many they are.
    Entries(Index, u64),
    /// Sums that are held in memory.
    Sums(HeldSums),
}

impl Keys {
    /// How many keys there are.
    fn count(&self) -> u64 {
        match self {
            Self::Entries(_, count) => *count,
            Self::Sums(sums) => sums.keys(),
        }
    }
}

/// Keys that are brought near at once, few enough that they are still near when they are looked up.
const AT_ONCE: usize = 256;

/// Rows of a second file that are not added up.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub(crate) struct NotAdded {
    /// They lie after the as-of date.
    pub(crate) later: u64,
    /// They have no date that could be read.
    pub(crate) without_date: u64,
}

/// How many of our rows found a match, and which keys of the other file they have.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) struct JoinTally {
    pub(crate) matched: u64,
    pub(crate) unmatched: u64,
    /// A bit for each key that our row has, by its number or by its first row, whichever all who read the file agree on.
    keys: Vec<u64>,
}

impl JoinTally {
    /// Takes over those of other rows.
    pub(crate) fn merge(&mut self, other: &Self) {
        self.matched += other.matched;
        self.unmatched += other.unmatched;
        if self.keys.len() < other.keys.len() {
            self.keys.resize(other.keys.len(), 0);
        }
        self.keys.iter_mut().zip(&other.keys).for_each(|(word, other)| *word |= other);
    }

    fn note(&mut self, key: u64) {
        let Ok(word) = usize::try_from(key / 64) else { return };
        if self.keys.len() <= word {
            // Numbers are at most the rows of a file that was read.
            self.keys.resize(word + 1, 0);
        }
        if let Some(word) = self.keys.get_mut(word) {
            *word |= 1 << (key % 64);
        }
    }

    fn has(&self, key: u64) -> bool {
        let word = usize::try_from(key / 64).ok().and_then(|word| self.keys.get(word));
        word.is_some_and(|word| word & 1 << (key % 64) != 0)
    }

    /// How many keys of the other file our rows have.
    fn count(&self) -> u64 {
        self.keys.iter().map(|word| u64::from(word.count_ones())).sum()
    }
}

/// What becomes of our row.
enum Joined {
    Brought,
    /// The other file does not have its key.
    NotThere,
    Not(NotBrought),
}

/// Why nothing is brought to a row.
struct NotBrought {
    gap: Gap,
    reason: Reason,
    detail: String,
}

impl Join {
    pub(super) fn new(
        found: Found,
        (other, ours, kinds, missing, counting, paid): (
            OtherFile,
            Vec<usize>,
            Vec<Kind>,
            MissingMatch,
            Counting<usize>,
            Option<Paid>,
        ),
    ) -> Self {
        Self { other, ours, kinds, missing, counting, paid, found }
    }

    pub(crate) fn other(&self) -> &OtherFile {
        &self.other
    }

    /// Our columns of the key.
    pub(crate) fn key(&self) -> &[usize] {
        &self.ours
    }

    /// How many columns are brought.
    pub(crate) fn columns(&self) -> usize {
        self.kinds.len()
    }

    /// What its bytes come to.
    pub(crate) fn end(&self) -> &SourceEnd {
        &self.found.end
    }

    /// Its different keys.
    pub(crate) fn keys(&self) -> u64 {
        self.found.keys.count()
    }

    /// Rows of it that a key was read of, and those without one.
    pub(crate) fn rows_with_and_without_key(&self) -> (u64, u64) {
        (self.found.usable, self.found.blank_keys)
    }

    /// Whether rows of one key are added up, so that a key without rows has a sum of nothing.
    pub(crate) fn is_sum(&self) -> bool {
        self.counting.is_sum()
    }

    /// Whether rows without a match are left out, as the plan means it.
    pub(crate) fn leaves_out(&self) -> bool {
        self.missing == MissingMatch::LeaveOut
    }

    /// Rows that are not added up.
    pub(crate) fn not_added(&self) -> NotAdded {
        self.found.not_added
    }

    /// How its rows and their amounts come apart, where they are added up; with the tally of all our rows.
    pub(crate) fn account(&self, tally: &JoinTally) -> Result<Vec<Accounted>, RecordsError> {
        let Some(account) = &self.found.account else { return Ok(Vec::new()) };
        let failed = |error| RecordsError::file(&self.other.path, "look through its keys")(error);
        let brought = self.kinds.len();
        let all = account.finish(self.found.end.rows, |take| match &self.found.keys {
            Keys::Sums(sums) => {
                let mut cells = Vec::with_capacity(brought);
                sums.each(|sum| {
                    cells.clear();
                    cells.extend(sum.sums().map(|sum| sum.units()));
                    take(tally.has(sum.row), sum.rows, &cells);
                    Ok(())
                })
            }
            Keys::Entries(index, _) => index.each(|bytes| {
                let entry = Entry::of(bytes)?;
                if let Brings::Cells(mut bytes) = entry.on(None)? {
                    let cells: Vec<_> =
                        (0..brought).map(|_| taken_units(&mut bytes)).collect::<io::Result<_>>()?;
                    // The number of rows follows the cells.
                    let rows = taken_units(&mut bytes)?.ok().flatten();
                    let rows = rows.and_then(|rows| u64::try_from(rows).ok()).ok_or_else(broken)?;
                    take(tally.has(entry.ordinal), rows, &cells);
                }
                Ok(())
            }),
        });
        let all = all.map_err(failed)?;
        match all.iter().find(|accounted| !accounted.agrees()) {
            None => Ok(all),
            Some(accounted) => {
                let of = accounted.column.as_ref().map_or("rows", |(name, _)| name.as_str());
                let what =
                    format!("\"{of}\" of {} does not come apart into what became of it", self.other.name);
                Err(RecordsError::Proof { what })
            }
        }
    }

    /// What was wrong with it, or noticed, and how much more is not listed.
    pub(crate) fn exceptions(&self) -> (&[Exception], u64) {
        (&self.found.exceptions, self.found.more_exceptions)
    }

    /// Adds the columns that are brought to a table; a row that nothing is brought to is listed. Rows that are not counted have no tally.
    pub(crate) fn add_columns(
        &self,
        layout: &Layout,
        (batch, table): (&Batch, &mut Table),
        (places, exceptions): (&mut [Place], &mut Vec<Exception>),
        mut tally: Option<&mut JoinTally>,
    ) -> Result<(), RecordsError> {
        let mut columns: Vec<BroughtColumn> =
            self.kinds.iter().map(|kind| BroughtColumn::of(kind, table.rows)).collect();
        let (mut room, mut near) = (Vec::new(), Vec::new());
        let keys = self.keys_of(table);
        for (row, key) in keys.iter().enumerate() {
            if let (Keys::Sums(sums), true) = (&self.found.keys, row.is_multiple_of(AT_ONCE)) {
                let next = (row..(row + AT_ONCE).min(table.rows)).filter_map(|row| keys.get(row));
                sums.bring_near(next, &mut near);
            }
            let asked = (key, &mut room, tally.as_deref_mut());
            let joined = self.join_row(table, row, asked, &mut columns)?;
            let is_counted = places.get(row) == Some(&Place::Written);
            let not = match joined {
                Joined::Brought => {
                    tally.iter_mut().for_each(|tally| tally.matched += u64::from(is_counted));
                    continue;
                }
                Joined::NotThere if self.is_sum() && self.missing == MissingMatch::Keep => {
                    columns.iter_mut().for_each(BroughtColumn::push_zero);
                    tally.iter_mut().for_each(|tally| tally.unmatched += u64::from(is_counted));
                    continue;
                }
                Joined::NotThere => self.not_there(),
                Joined::Not(not) => not,
            };
            columns.iter_mut().for_each(|column| column.push_gap(not.gap));
            if !is_counted {
                continue;
            }
            tally.iter_mut().for_each(|tally| tally.unmatched += 1);
            let key_text =
                self.ours.iter().map(|column| table.shown(*column, row)).collect::<Vec<_>>().join(" / ");
            let origin = batch.origins.of(row);
            // A key with several differing entries is not missing: its row stays, and a person decides which of them counts.
            let missing = if not.reason == Reason::NoMatch { self.missing } else { MissingMatch::Keep };
            let became = match missing {
                // Rows that a plan leaves out are counted, as those are that its conditions leave out.
                MissingMatch::LeaveOut => {
                    places[row] = Place::NotSelected;
                    continue;
                }
                MissingMatch::Keep => Became::CellEmpty,
                MissingMatch::SetAside => Became::RowSetAside,
                MissingMatch::Refuse => {
                    let what = format!("{}: \"{key_text}\": {}", layout.place(origin), not.detail);
                    let help = "add it there, or say without_match = \"keep\", \"set aside\" or \"leave out\" under [[join]]";
                    return Err(RecordsError::request(what, help));
                }
            };
            if became == Became::RowSetAside {
                places[row] = Place::SetAside;
            }
            exceptions.push(Exception {
                origin,
                key: layout.key_text(batch, row).into_owned(),
                subject: self
                    .ours
                    .first()
                    .map_or(ExceptionSubject::Row, |column| ExceptionSubject::Column(*column)),
                text: key_text,
                reason: not.reason,
                detail: not.detail,
                expected: String::new(),
                became,
            });
        }
        for column in columns {
            let (data, gaps) = column.finish();
            table.columns.push(data);
            table.gaps.push(gaps);
        }
        Ok(())
    }

    /// The keys of our rows, the hash of each first; nothing of a row without one.
    fn keys_of(&self, table: &Table) -> ByteRows {
        let (mut key, mut keys) = (SortKey::default(), ByteRows::default());
        for row in 0..table.rows {
            if put_key(&self.ours, table, row, &mut key) {
                put_hashed(&key, keys.open_row());
            }
            keys.end_row();
        }
        keys
    }

    /// Brings cells to a row, where there are some.
    fn join_row(
        &self,
        table: &Table,
        row: usize,
        (key, room, tally): (&[u8], &mut Vec<u8>, Option<&mut JoinTally>),
        columns: &mut [BroughtColumn],
    ) -> Result<Joined, RecordsError> {
        let name = &self.other.name;
        if key.is_empty() {
            let detail = "a blank key matches nothing".to_owned();
            let not = NotBrought { gap: Gap::NotMatched, reason: Reason::NoMatch, detail };
            return Ok(Joined::Not(not));
        }
        let index = match &self.found.keys {
            Keys::Entries(index, _) => index,
            Keys::Sums(sums) => {
                let Some(sum) = sums.find(key) else { return Ok(Joined::NotThere) };
                tally.into_iter().for_each(|tally| tally.note(sum.row));
                columns.iter_mut().zip(sum.sums()).for_each(|(column, sum)| column.push_part(sum.part()));
                return Ok(Joined::Brought);
            }
        };
        let day = match self.counting {
            Counting::Valid { on, .. } => Some(table.date(on, row).map(|date| date.stored())),
            _ => None,
        };
        let settles = match self.counting {
            Counting::Settling { amount, .. } => {
                let amount = table.units(amount, row);
                Some(amount.zip(self.paid).map(|(amount, paid)| paid.settling(amount)))
            }
            _ => None,
        };
        let bring = |bytes: &[u8]| -> io::Result<Joined> {
            let entry = Entry::of(bytes)?;
            tally.into_iter().for_each(|tally| tally.note(entry.ordinal));
            Ok(match entry.on(day.flatten())? {
                Brings::Cells(mut cells) if settles.is_some() => {
                    let settled = settles.flatten().map(|amount| entry.settles(amount)).transpose()?;
                    push_settled(columns, &mut cells, settled)?;
                    Joined::Brought
                }
                Brings::Cells(mut cells) => {
                    let push = if self.is_sum() { BroughtColumn::push_sum } else { BroughtColumn::push_cell };
                    columns.iter_mut().try_for_each(|column| push(column, &mut cells))?;
                    Joined::Brought
                }
                Brings::Neither(one, other) => Joined::Not(NotBrought {
                    gap: Gap::SeveralMatches,
                    reason: Reason::SeveralMatches,
                    detail: format!("rows {one} and {other} of {name} have it, and differ"),
                }),
                Brings::NoneOnThatDay => {
                    let date = match self.counting {
                        Counting::Valid { on, .. } => table.date(on, row),
                        _ => None,
                    };
                    let detail = match date {
                        Some(date) => format!("no row of {name} counts on {date}"),
                        None => format!("there is no date on which a row of {name} could count"),
                    };
                    Joined::Not(NotBrought { gap: Gap::NotMatched, reason: Reason::NoMatch, detail })
                }
            })
        };
        let found = index.find(key, room, bring).and_then(Option::transpose);
        let found = found.map_err(RecordsError::file(&self.other.path, "look up a key of it"))?;
        Ok(found.unwrap_or(Joined::NotThere))
    }

    /// A key that the other file does not have.
    fn not_there(&self) -> NotBrought {
        let detail = format!("it is not in {}", self.other.name);
        NotBrought { gap: Gap::NotMatched, reason: Reason::NoMatch, detail }
    }

    /// Keys of the other file that none of our rows has.
    pub(crate) fn unmatched_keys(&self, tally: &JoinTally) -> u64 {
        self.keys().saturating_sub(tally.count())
    }

    /// Takes them, some at a time, each as an exception of its first row, in the order of the file; they are put in order in a folder where
    /// memory should not hold them.
    pub(crate) fn each_unmatched(
        &self,
        layout: &Layout,
        (tally, scratch): (&JoinTally, &Path),
        mut take: impl FnMut(Vec<Exception>) -> Result<(), RecordsError>,
    ) -> Result<(), RecordsError> {
        const AT_A_TIME: usize = 1_000;
        let failed = |error| RecordsError::file(&self.other.path, "look through its keys")(error);
        let names: Vec<&str> = self.ours.iter().map(|column| layout.name(*column)).collect();
        let mut merge = self.unmatched_by_row(tally, scratch).map_err(failed)?;
        let mut some = Vec::new();
        while let Some((row, payload)) = merge.next().map_err(failed)? {
            let (mut row, mut key) = (row, payload);
            let row = take_bytes(&mut row).map(u64::from_be_bytes).map_err(failed)?;
            let line = take_number(&mut key).map_err(failed)?;
            some.push(Exception {
                origin: Origin { source: self.found.source, row, line },
                key: text_of(key).map_err(failed)?.to_owned(),
                subject: ExceptionSubject::Row,
                text: String::new(),
                reason: Reason::MatchedByNone,
                detail: format!("no row has this {}", names.join(" / ")),
                expected: String::new(),
                became: Became::RowNotUsed,
            });
            if some.len() == AT_A_TIME {
                take(std::mem::take(&mut some))?;
            }
        }
        if some.is_empty() { Ok(()) } else { take(some) }
    }

    /// For each key that none of our rows has the number of its first row, and next to it the line of that and the key as a person reads it.
    fn unmatched_by_row(&self, tally: &JoinTally, scratch: &Path) -> io::Result<Merge> {
        let mut sorter = Sorter::new(scratch);
        let mut payload = Vec::new();
        let mut push = |row: u64, line: u64, key: &str| {
            payload.clear();
            payload.extend_from_slice(&line.to_le_bytes());
            payload.extend_from_slice(key.as_bytes());
            sorter.push(&row.to_be_bytes(), &payload)
        };
        match &self.found.keys {
            Keys::Entries(index, _) => index.each(|bytes| {
                let entry = Entry::of(bytes)?;
                if tally.has(entry.ordinal) {
                    return Ok(());
                }
                push(entry.row, entry.line, entry.key())
            })?,
            Keys::Sums(sums) => sums.each(|sum| {
                if tally.has(sum.row) {
                    return Ok(());
                }
                push(sum.row, sum.line, &sum.text())
            })?,
        }
        sorter.finish()
    }
}

#[cfg(test)]
mod tests {
    use super::JoinTally;

    #[test]
    fn keys_that_were_asked_for_are_those_of_all_tallies() {
        let (mut one, mut other) = (JoinTally::default(), JoinTally::default());
        [0, 63, 64].into_iter().for_each(|key| one.note(key));
        [64, 700].into_iter().for_each(|key| other.note(key));
        (one.matched, other.matched, other.unmatched) = (3, 2, 1);
        one.merge(&other);
        assert_eq!((one.count(), one.matched, one.unmatched), (4, 5, 1));
        let has: Vec<u64> = (0..1_000).filter(|key| one.has(*key)).collect();
        assert_eq!(has, [0, 63, 64, 700]);
    }
}
