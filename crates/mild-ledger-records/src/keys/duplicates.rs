//! Keys that are in several rows, and what is to become of each.

use super::Duplicates;
use super::making::{KeySetting, MadeKeys};
use super::seen::SeenKeys;
use crate::error::RecordsError;
use crate::sorting::{Merge, Sorter};
use crate::stored_bytes::{broken, take_bytes, take_number, text_of};
use crate::table::RowId;
use serde::{Deserialize, Serialize};
use std::collections::VecDeque;
use std::io;
use std::path::Path;

/// The keys of all rows that can be used, as they go by.
pub(crate) struct KeyScan {
    seen: SeenKeys,
}

impl KeyScan {
    pub(crate) fn new(scratch: &Path) -> Self {
        Self { seen: SeenKeys::new(scratch) }
    }

    /// Takes note of keys.
    pub(crate) fn add(&mut self, made: &MadeKeys) -> io::Result<()> {
        made.keys.iter().zip(made.payloads.iter()).try_for_each(|(key, payload)| self.seen.push(key, payload))
    }

    /// Takes note of one, with what is to be known of its row.
    pub(crate) fn add_one(&mut self, key: &[u8], payload: &[u8]) -> io::Result<()> {
        self.seen.push(key, payload)
    }

    /// The rows whose keys repeat, and what is to become of each.
    pub(crate) fn find_repeats(
        self,
        job: KeySetting<'_>,
        scratch: &Path,
        check: &dyn Fn() -> Result<(), RecordsError>,
    ) -> Result<FoundDuplicates, RecordsError> {
        // The place is named only where there is an error to name it in.
        let failed = |error| RecordsError::file(scratch, "sort the keys there")(error);
        let mut merge = self.seen.finish().map_err(failed)?;
        let mut summary = DuplicateSummary::default();
        let mut decisions = Sorter::new(scratch);
        let mut current = OneKey::default();
        let mut seen = 0_u64;
        while let Some((key, payload)) = merge.next().map_err(failed)? {
            seen += 1;
            if seen.is_multiple_of(1 << 16) {
                check()?;
            }
            if key != current.key.as_slice() || current.rows == 0 {
                current.close(job, &mut decisions).map_err(failed)?;
                current.begin(key);
            }
            let (row, amounts) = read_payload(payload).map_err(failed)?;
            current.take(job, row, amounts, &mut summary, &mut decisions)?.map_err(failed)?;
        }
        current.close(job, &mut decisions).map_err(failed)?;
        let decisions = Decisions { merge: Some(decisions.finish().map_err(failed)?), ..Decisions::none() };
        Ok(FoundDuplicates { decisions, summary })
    }
}

/// The row that is named next to a key.
pub(crate) fn row_of(payload: &[u8]) -> io::Result<RowId> {
    Ok(read_payload(payload)?.0)
}

fn read_payload(mut payload: &[u8]) -> io::Result<(RowId, &[u8])> {
    let row = take_number(&mut payload)?;
    Ok((RowId::of_stored(row), payload))
}

/// An amount that may be absent, from the bytes that it was stored as.
fn units_of(mut bytes: &[u8]) -> io::Result<Option<i128>> {
    let [is_there] = take_bytes(&mut bytes)?;
    let units = i128::from_le_bytes(take_bytes(&mut bytes)?);
    Ok((is_there == 1).then_some(units))
}

pub(crate) struct FoundDuplicates {
    pub(crate) decisions: Decisions,
    pub(crate) summary: DuplicateSummary,
}

/// How many keys repeat, with a few of them.
#[derive(Debug, Default)]
pub(crate) struct DuplicateSummary {
    keys: u64,
    /// Rows beyond the first of each key.
    pub(crate) rows: u64,
    /// The first two rows of the few keys that come first in the file.
    examples: Vec<(RowId, RowId)>,
}

impl DuplicateSummary {
    fn show(&mut self, rows: (RowId, RowId)) {
        let place = self.examples.partition_point(|before| *before < rows);
        if place < EXAMPLES {
            self.examples.insert(place, rows);
            self.examples.truncate(EXAMPLES);
        }
    }

    /// The refusal of an aging whose plan does not say what to do.
    pub(crate) fn undecided(&self, job: KeySetting<'_>) -> RecordsError {
        RecordsError::request(
            format!("{}, and an aging would count them twice", self.as_sentence(job)),
            "say in the plan under [records]: duplicates = \"set aside\" (or \"keep\", \"first\", \"last\", \"sum\")",
        )
    }

    pub(crate) fn as_sentence(&self, job: KeySetting<'_>) -> String {
        let layout = job.layout;
        let names: Vec<&str> = layout.key.iter().map(|column| layout.name(*column)).collect();
        let both = |(one, other): &(RowId, RowId)| layout.rows_in_words(*one, *other);
        let examples: Vec<String> = self.examples.iter().map(both).collect();
        let more = if self.keys > self.examples.len() as u64 { ", …" } else { "" };
        format!(
            "{} {} of \"{}\" {} in more than one row ({}{more})",
            self.keys,
            if self.keys == 1 { "value" } else { "values" },
            names.join(" / "),
            if self.keys == 1 { "appears" } else { "appear" },
            examples.join(", "),
        )
    }
}

/// The rows of one key, which come in the order of the file.
#[derive(Default)]
struct OneKey {
    key: Vec<u8>,
    rows: u64,
    first: RowId,
    last: RowId,
    sums: Vec<Option<i128>>,
}

impl OneKey {
    fn begin(&mut self, key: &[u8]) {
        *self = Self { key: key.to_vec(), ..Self::default() };
    }

    /// Takes the next row; what is to become of it, or of the one before it, is decided as soon as it is known.
    fn take(
        &mut self,
        job: KeySetting<'_>,
        row: RowId,
        amounts: &[u8],
        summary: &mut DuplicateSummary,
        decisions: &mut Sorter,
    ) -> Result<io::Result<()>, RecordsError> {
        self.rows += 1;
        if self.rows == 1 {
            self.first = row;
        } else {
            summary.rows += 1;
            if self.rows == 2 {
                summary.keys += 1;
                summary.show((self.first, row));
            }
        }
        if job.duplicates == Some(Duplicates::Sum) {
            self.add_amounts(job, amounts)?;
        }
        let decided = match job.duplicates {
            Some(Duplicates::SetAside) if self.rows > 1 => {
                Some((row, Decision::SetAside { first: self.first }))
            }
            Some(Duplicates::First | Duplicates::Sum) if self.rows > 1 => {
                Some((row, Decision::MergedInto { first: self.first }))
            }
            Some(Duplicates::Last) if self.rows > 1 => Some((self.last, Decision::Superseded { next: row })),
            _ => None,
        };
        self.last = row;
        Ok(decided.map_or(Ok(()), |(row, decision)| decision.push_to(row, decisions)))
    }

    fn add_amounts(&mut self, job: KeySetting<'_>, amounts: &[u8]) -> Result<(), RecordsError> {
        self.sums.resize(job.amounts.len(), None);
        for ((sum, column), bytes) in self.sums.iter_mut().zip(job.amounts).zip(amounts.chunks(17)) {
            let units = units_of(bytes).map_err(|error| RecordsError::Proof { what: error.to_string() })?;
            if let Some(units) = units {
                *sum = Some(sum.unwrap_or(0).checked_add(units).ok_or_else(|| RecordsError::TooLarge {
                    what: format!(
                        "the sum of \"{}\" over the rows of one key is too large to hold",
                        job.layout.name(*column)
                    ),
                    help: "at most 38 digits are held".to_owned(),
                })?);
            }
        }
        Ok(())
    }

    fn close(&mut self, job: KeySetting<'_>, decisions: &mut Sorter) -> io::Result<()> {
        if self.rows > 1 && job.duplicates == Some(Duplicates::Sum) {
            return Decision::TakesSums(std::mem::take(&mut self.sums)).push_to(self.first, decisions);
        }
        Ok(())
    }
}

/// Keys shown where duplicates are reported.
const EXAMPLES: usize = 3;

/// What is to become of a row whose key duplicates.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(crate) enum Decision {
    /// It is set aside; the first row of its key stays.
    SetAside { first: RowId },
    /// It is merged into the first row of its key.
    MergedInto { first: RowId },
    /// A later row of its key counts; this is the next one.
    Superseded { next: RowId },
    /// It is the total of the rows of its file, and is left out.
    LeftOut { why: String },
    /// It takes the sums of its key: one for each column of amounts, empty where no row has any.
    TakesSums(Vec<Option<i128>>),
}

impl Decision {
    fn push_to(&self, row: RowId, decisions: &mut Sorter) -> io::Result<()> {
        let mut payload = Vec::new();
        match self {
            Self::SetAside { first } => {
                payload.push(0);
                payload.extend_from_slice(&first.stored().to_le_bytes());
            }
            Self::MergedInto { first } => {
                payload.push(1);
                payload.extend_from_slice(&first.stored().to_le_bytes());
            }
            Self::Superseded { next } => {
                payload.push(2);
                payload.extend_from_slice(&next.stored().to_le_bytes());
            }
            Self::LeftOut { why } => {
                payload.push(4);
                payload.extend_from_slice(why.as_bytes());
            }
            Self::TakesSums(sums) => {
                payload.push(3);
                for sum in sums {
                    payload.push(u8::from(sum.is_some()));
                    payload.extend_from_slice(&sum.unwrap_or(0).to_le_bytes());
                }
            }
        }
        decisions.push(&row.stored().to_be_bytes(), &payload)
    }

    fn read(mut payload: &[u8]) -> io::Result<Self> {
        let [tag] = take_bytes(&mut payload)?;
        Ok(match tag {
            0 => Self::SetAside { first: row_of(payload)? },
            1 => Self::MergedInto { first: row_of(payload)? },
            2 => Self::Superseded { next: row_of(payload)? },
            3 => Self::TakesSums(payload.chunks(17).map(units_of).collect::<io::Result<_>>()?),
            4 => Self::LeftOut { why: text_of(payload)?.to_owned() },
            _ => return Err(broken()),
        })
    }
}

/// The decisions in the order of the rows, asked for while the rows go by once more.
pub(crate) struct Decisions {
    /// Rows that are left out, in their order.
    left_out: VecDeque<(RowId, Decision)>,
    merge: Option<Merge>,
    next: Option<(RowId, Decision)>,
    begun: bool,
}

impl Decisions {
    /// Nothing is decided: every row represents itself.
    pub(crate) fn none() -> Self {
        Self { left_out: VecDeque::new(), merge: None, next: None, begun: false }
    }

    /// With rows that are left out, in their order, whatever their keys are.
    pub(crate) fn and_left_out(self, rows: Vec<(RowId, Decision)>) -> Self {
        Self { left_out: rows.into(), ..self }
    }

    /// The decision on a row; rows must be asked for in their order.
    pub(crate) fn on(&mut self, row: RowId) -> io::Result<Option<Decision>> {
        if !self.begun {
            self.begun = true;
            self.advance()?;
        }
        while self.next.as_ref().is_some_and(|(decided, _)| *decided < row) {
            self.advance()?;
        }
        while self.left_out.front().is_some_and(|(decided, _)| *decided < row) {
            self.left_out.pop_front();
        }
        if self.left_out.front().is_some_and(|(decided, _)| *decided == row) {
            return Ok(self.left_out.pop_front().map(|(_, decision)| decision));
        }
        match self.next.take() {
            Some((decided, decision)) if decided == row => {
                self.advance()?;
                Ok(Some(decision))
            }
            later => {
                self.next = later;
                Ok(None)
            }
        }
    }

    /// All of them, in the order of the rows.
    pub(crate) fn all(mut self) -> io::Result<Vec<(RowId, Decision)>> {
        self.advance()?;
        let mut all = Vec::from(std::mem::take(&mut self.left_out));
        while let Some(decided) = self.next.take() {
            all.push(decided);
            self.advance()?;
        }
        all.sort_by_key(|(row, _)| *row);
        Ok(all)
    }

    fn advance(&mut self) -> io::Result<()> {
        self.next = None;
        if let Some(merge) = &mut self.merge
            && let Some((mut row, payload)) = merge.next()?
        {
            let row = RowId::of_stored(u64::from_be_bytes(take_bytes(&mut row)?));
            self.next = Some((row, Decision::read(payload)?));
        }
        Ok(())
    }
}
