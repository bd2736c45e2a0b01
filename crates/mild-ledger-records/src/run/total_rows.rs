//! Rows that are the total of rows above them: noted chunk by chunk, and found once all rows are known.
//!
//! A row is a total only with evidence: its key or all its dates are blank, and its amounts are the sums of the rows above
//! it, or of those since the last total. Chunks are noted in any order; each keeps the sums between its candidates.

use super::job::Job;
use crate::keys::Decision;
use crate::plan::TotalRow;
use crate::table::{Batch, Origin, RowId, Table};
use crate::typing::{Place, says_total};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Candidates that are kept of a chunk; a file with more of them has rows without dates, not totals.
const MOST_CANDIDATES: usize = 64;
/// Rows that a doubt names.
const ROWS_NAMED: usize = 5;

/// What was noted of all chunks, by their first row.
#[derive(Default, Serialize, Deserialize)]
pub(super) struct TotalRows {
    chunks: BTreeMap<RowId, ChunkNotes>,
}

/// Some rows, added up: how many, and the sum of each column of amounts; none where a sum is too large to hold.
#[derive(Clone, Serialize, Deserialize)]
struct RowSums {
    rows: u64,
    sums: Vec<Option<i128>>,
}

#[derive(Serialize, Deserialize)]
struct ChunkNotes {
    /// Candidates, each with the rows between it and the one before.
    candidates: Vec<(RowSums, Candidate)>,
    /// The rows after the last candidate.
    rest: RowSums,
}

#[derive(Clone, Serialize, Deserialize)]
struct Candidate {
    origin: Origin,
    amounts: Vec<Option<i128>>,
    /// The cell that calls it a total.
    word: Option<String>,
    /// Whether its key is blank, or all its dates are.
    is_blank: bool,
    is_written: bool,
}

/// A row that is the total of others.
pub(super) struct FoundTotal {
    id: RowId,
    /// Its amounts and what they are the sum of, as the end of a sentence.
    why: String,
    reach: Reach,
    is_written: bool,
}

/// Which rows a total adds up.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Reach {
    /// All rows of its file, whose last row it is.
    WholeFile,
    /// Rows above it, with others after it.
    Group,
    /// It says that it is a total, and its amounts are not the sums of rows above it.
    NotTheSum,
    /// It says that it is a total, and its amounts are the sums of the rows above it, but neither key nor dates are blank.
    NotBlank,
}

impl RowSums {
    fn none(columns: usize) -> Self {
        Self { rows: 0, sums: vec![Some(0); columns] }
    }

    fn add(&mut self, amounts: &[Option<i128>]) {
        self.rows += 1;
        for (sum, amount) in self.sums.iter_mut().zip(amounts) {
            *sum = sum.and_then(|sum| sum.checked_add(amount.unwrap_or(0)));
        }
    }

    fn add_all(&mut self, other: &Self) {
        self.rows += other.rows;
        for (sum, more) in self.sums.iter_mut().zip(&other.sums) {
            *sum = sum.zip(*more).and_then(|(sum, more)| sum.checked_add(more));
        }
    }

    /// Whether a row's amounts, of which one is not zero, are these sums. Two rows are the least that a row without a word
    /// for it can be the total of: one row of the same amount proves nothing.
    fn are(&self, candidate: &Candidate) -> bool {
        let least = if candidate.word.is_some() { 1 } else { 2 };
        let has_amount = candidate.amounts.iter().flatten().any(|amount| *amount != 0);
        let mut both = candidate.amounts.iter().zip(&self.sums);
        self.rows >= least && has_amount && both.all(|(amount, sum)| amount.is_none() || amount == sum)
    }
}

impl TotalRows {
    /// Takes note of the rows of a batch. Nothing is noted where the plan names no amounts.
    pub(super) fn count(&mut self, job: &Job, (batch, table): (&Batch, &Table), places: &[Place]) {
        if job.amounts.is_empty() || table.rows == 0 {
            return;
        }
        let columns = job.amounts.len();
        let mut notes = ChunkNotes { candidates: Vec::new(), rest: RowSums::none(columns) };
        let mut amounts = Vec::with_capacity(columns);
        for row in 0..table.rows {
            amounts.clear();
            amounts.extend(job.amounts.iter().map(|column| table.units(*column, row)));
            let is_blank = is_blank(job, batch, row);
            if !(is_blank || row + 1 == table.rows) {
                notes.rest.add(&amounts);
                continue;
            }
            let candidate = Candidate {
                origin: batch.origins.of(row),
                amounts: amounts.clone(),
                word: word_of(job, batch, row),
                is_blank,
                is_written: places.get(row) == Some(&Place::Written),
            };
            let before = std::mem::replace(&mut notes.rest, RowSums::none(columns));
            notes.candidates.push((before, candidate));
        }
        if notes.candidates.len() > MOST_CANDIDATES {
            notes = notes.with_words_alone(columns);
        }
        self.chunks.insert(batch.origins.of(0).id(), notes);
    }

    pub(super) fn merge(&mut self, other: Self) {
        self.chunks.extend(other.chunks);
    }

    /// The totals among the rows, in the order of the files.
    pub(super) fn find(&self, job: &Job) -> Vec<FoundTotal> {
        let columns = job.amounts.len();
        let mut found = Vec::new();
        let mut chunks = self.chunks.iter().peekable();
        let (mut source, mut all, mut group) = (None, RowSums::none(columns), RowSums::none(columns));
        while let Some((first, notes)) = chunks.next() {
            if source != Some(first.source()) {
                (source, all, group) = (Some(first.source()), RowSums::none(columns), RowSums::none(columns));
            }
            let is_last_chunk = chunks.peek().is_none_or(|(next, _)| next.source() != first.source());
            let last = notes.candidates.len().saturating_sub(1);
            for (nth, (before, candidate)) in notes.candidates.iter().enumerate() {
                all.add_all(before);
                group.add_all(before);
                let ends_file = is_last_chunk && nth == last && notes.rest.rows == 0;
                match total_of(job, candidate, (&all, &group), ends_file) {
                    Some(total) if total.reach != Reach::NotTheSum => {
                        group = RowSums::none(columns);
                        found.push(total);
                    }
                    total => {
                        all.add(&candidate.amounts);
                        group.add(&candidate.amounts);
                        found.extend(total);
                    }
                }
            }
            all.add_all(&notes.rest);
            group.add_all(&notes.rest);
        }
        found
    }
}

impl ChunkNotes {
    /// Without the candidates that nothing but a blank makes one; the last row stays.
    fn with_words_alone(self, columns: usize) -> Self {
        let mut kept = Self { candidates: Vec::new(), rest: RowSums::none(columns) };
        let last = self.candidates.len() - 1;
        for (nth, (before, candidate)) in self.candidates.into_iter().enumerate() {
            kept.rest.add_all(&before);
            let has_room = kept.candidates.len() < MOST_CANDIDATES;
            if (candidate.word.is_some() && has_room) || nth == last {
                let before = std::mem::replace(&mut kept.rest, RowSums::none(columns));
                kept.candidates.push((before, candidate));
            } else {
                kept.rest.add(&candidate.amounts);
            }
        }
        kept.rest.add_all(&self.rest);
        kept
    }
}

/// What a candidate turns out to be, from the rows of its file above it and those since the last total.
fn total_of(
    job: &Job,
    candidate: &Candidate,
    (all, group): (&RowSums, &RowSums),
    ends_file: bool,
) -> Option<FoundTotal> {
    let is_all = all.are(candidate);
    let summed = if is_all { all } else { group };
    let is_sum = is_all || group.are(candidate);
    let reach = match (is_sum, candidate.is_blank, candidate.word.is_some()) {
        (true, true, _) if ends_file => Reach::WholeFile,
        (true, true, _) => Reach::Group,
        (true, false, true) if ends_file => Reach::NotBlank,
        (false, true, true) if candidate.amounts.iter().any(Option::is_some) => Reach::NotTheSum,
        _ => return None,
    };
    let amounts = job.amounts.iter().zip(&candidate.amounts).filter_map(|(column, units)| {
        let amount = job.scale(*column)?.amount((*units)?);
        Some(format!("{} {amount}", job.name(*column)))
    });
    let amounts = amounts.collect::<Vec<_>>().join(", ");
    let why = match reach {
        Reach::NotTheSum => amounts,
        _ if summed.rows == 1 => format!("{amounts} is that of the row above"),
        _ => format!("{amounts} is the sum of {} rows above", summed.rows),
    };
    Some(FoundTotal { id: candidate.origin.id(), why, reach, is_written: candidate.is_written })
}

/// The decisions to leave out each total that ends its file, where the plan leaves them out.
pub(super) fn left_out(job: &Job, found: &[FoundTotal]) -> Vec<(RowId, Decision)> {
    let is_left_out = |total: &&FoundTotal| total.reach == Reach::WholeFile && total.is_written;
    let leaves_out = job.total_row == TotalRow::LeaveOut;
    let totals = found.iter().filter(is_left_out).filter(|_| leaves_out);
    totals.map(|total| (total.id, Decision::LeftOut { why: total.why.clone() })).collect()
}

/// What a person should decide about the totals that count as records.
pub(super) fn doubts(job: &Job, found: &[FoundTotal]) -> Vec<String> {
    let words = |total: &FoundTotal| job.setting.layout.row_in_words(total.id);
    let of = |reach: Reach| found.iter().filter(move |total| total.is_written && total.reach == reach);
    let mut doubts = Vec::new();
    for total in of(Reach::WholeFile) {
        doubts.push(format!(
            "the last row, {}, seems to be a total and counts as a record: {}; total_row = \"leave out\" under [records] leaves it out",
            words(total),
            total.why
        ));
    }
    let groups: Vec<&FoundTotal> = of(Reach::Group).collect();
    if let Some(first) = groups.first() {
        let named: Vec<String> = groups.iter().take(ROWS_NAMED).map(|total| words(total)).collect();
        let more = if groups.len() > named.len() { ", …" } else { "" };
        doubts.push(format!(
            "{} to be a total and {} as a record: {}{more} (the first: {}); a row like this counts its amounts twice",
            if groups.len() == 1 { "one row seems".to_owned() } else { format!("{} rows seem", groups.len()) },
            if groups.len() == 1 { "counts" } else { "each count" },
            named.join(", "),
            first.why
        ));
    }
    for total in of(Reach::NotBlank).take(ROWS_NAMED) {
        doubts.push(format!(
            "{} is called a total and counts as a record: {}; neither its key nor its dates are blank",
            words(total),
            total.why
        ));
    }
    for total in of(Reach::NotTheSum).take(ROWS_NAMED) {
        doubts.push(format!(
            "{} is called a total and counts as a record, though its amount is not the sum of the rows above: {}",
            words(total),
            total.why
        ));
    }
    doubts
}

/// Whether the key of a row is blank, or all its dates are.
fn is_blank(job: &Job, batch: &Batch, row: usize) -> bool {
    let layout = &job.setting.layout;
    let all_blank = |columns: &[usize]| {
        !columns.is_empty() && columns.iter().all(|column| batch.text(*column, row).trim().is_empty())
    };
    all_blank(&layout.key) || all_blank(&job.dates_of_file)
}

/// The cell of a row that calls it a total.
fn word_of(job: &Job, batch: &Batch, row: usize) -> Option<String> {
    let texts = (0..job.setting.layout.columns_of_file).map(|column| batch.text(column, row));
    texts.filter(|text| says_total(text)).map(|text| text.trim().to_owned()).next()
}
