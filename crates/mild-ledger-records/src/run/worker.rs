//! What becomes of a chunk of rows: its cells distinguished and typed, its columns added, each row in its place. Workers know nothing of each other,
//! and what they counted is merged at the end.

use super::ReadSoFar;
use super::by_calendar::CalendarTallies;
use super::compare::Comparisons;
use super::job::Job;
use super::outcome::{AmountProof, RowCounts};
use super::overview::Overview;
use super::sample::SampleTally;
use super::signs::FigureSigns;
use super::sums::Sums;
use super::total_rows::TotalRows;
use crate::columns::{add_columns, all_hold};
use crate::error::RecordsError;
use crate::handover::{Counts, Saved, Saving};
use crate::join::JoinTally;
use crate::keys::{Decision, Duplicates, KeyMaker, MadeKeys};
use crate::reports::Tally;
use crate::source::{Chunk, ChunkReader, read_chunk};
use crate::table::{
    Batch, Became, Exception, ExceptionSubject, Missing, NumberRead, Origin, Origins, Reason, ReplacedAmount,
    RowId, Table, currency_of,
};
use crate::typing::{Cleaner, Place};
use serde::{Deserialize, Serialize};

/// Rows on their way to a worker.
pub(super) struct Work {
    pub(super) chunk: Chunk,
    /// What was decided of rows of repeated keys, by their numbers.
    pub(super) decisions: Vec<(RowId, Decision)>,
    /// The rows read up to its end.
    pub(super) read: ReadSoFar,
}

/// A batch as a worker leaves it.
pub(super) struct Worked {
    /// The keys of rows that can be used, where they are to be distinguished.
    pub(super) keys: Option<MadeKeys>,
    pub(super) table: Table,
    /// The rows of the table that are written.
    pub(super) written: Vec<usize>,
    /// Where all of its rows come from.
    pub(super) origins: Origins,
    pub(super) exceptions: Vec<Exception>,
    pub(super) read: ReadSoFar,
}

/// One of the workers on batches, with what it counted.
pub(super) struct Worker<'j> {
    job: &'j Job,
    chunks: Box<dyn ChunkReader>,
    pub(super) cleaner: Cleaner<'j>,
    pub(super) tallies: Vec<Box<dyn Tally>>,
    pub(super) signs: FigureSigns,
    pub(super) overview: Overview,
    pub(super) sample: SampleTally,
    pub(super) compared: Comparisons,
    /// What hangs on calendars.
    pub(super) by_calendar: CalendarTallies,
    /// How many rows found a match in each second file.
    pub(super) joined: Vec<JoinTally>,
    pub(super) total_rows: TotalRows,
    read: ReaderTally,
    pub(super) places: Places,
    keys: Option<KeyMaker>,
}

/// Whether the keys of all rows are wanted, to see which repeat; a second pass knows it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub(super) enum KeysWanted {
    Yes,
    No,
}

impl<'j> Worker<'j> {
    pub(super) fn new(job: &'j Job, chunks: Box<dyn ChunkReader>, keys: KeysWanted) -> Self {
        let layout = &job.setting.layout;
        Self {
            job,
            chunks,
            cleaner: Cleaner::new(layout),
            tallies: job.reports.iter().map(|report| report.tally()).collect(),
            signs: FigureSigns::new(layout),
            overview: Overview::new(job),
            sample: SampleTally::new(job),
            compared: Comparisons::new(job),
            by_calendar: CalendarTallies::new(job),
            joined: vec![JoinTally::default(); job.joins.len()],
            total_rows: TotalRows::default(),
            read: ReaderTally::new(job),
            places: Places::new(job),
            keys: (keys == KeysWanted::Yes).then(KeyMaker::default),
        }
    }

    /// Works on the rows of a chunk.
    pub(super) fn work(&mut self, work: Work) -> Result<Worked, RecordsError> {
        let Work { chunk, decisions, read } = work;
        let batch = read_chunk(self.chunks.as_mut(), &chunk)?;
        drop(chunk);
        let job = self.job;
        let layout = &job.setting.layout;
        self.read.count(job, &batch)?;
        let mut exceptions: Vec<Exception> = Vec::new();
        let (mut table, mut places) = self.cleaner.clean(&batch, &mut exceptions);
        job.join((&batch, &mut table), (&mut places, &mut exceptions), &mut self.joined)?;
        let keys = self.keys.as_mut().map(|keys| {
            let usable: Vec<usize> = (0..table.rows).filter(|row| places[*row] == Place::Written).collect();
            keys.make(job.key_setting(), &table, &usable, &batch.origins)
        });
        let mut replaced: Vec<ReplacedAmount> = Vec::new();
        for (number, decision) in decisions {
            let Some(row) = batch.origins.find(number) else { continue };
            if places[row] == Place::Written {
                places[row] = follow(&decision, job, &batch, row, (&mut exceptions, &mut replaced));
            }
        }
        table.replace_units(&replaced);
        // Only columns of different lengths, or a rule that the plan's reader refuses, could end here.
        add_columns(&job.steps, &job.setting, &batch, &mut table, &mut exceptions)
            .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
        for view in &job.views {
            view.add_columns(&job.setting, (&batch, &mut table), &places)?;
        }
        self.places.counts.set_aside += batch.broken.len() as u64;
        let mut written = Vec::with_capacity(table.rows);
        for (row, place) in places.iter_mut().enumerate() {
            if *place == Place::Written && !all_hold(&job.select, &table, row) {
                *place = Place::NotSelected;
            }
            match *place {
                Place::Written => written.push(row),
                place => self.places.add(job, &table, row, batch.origins.of(row), place)?,
            }
        }
        self.total_rows.count(job, (&batch, &table), &places);
        self.signs.count(&table, &written);
        self.overview.count(job, (&batch, &table), &written);
        self.sample.count(job, (&batch, &table), &written);
        self.compared.count(job, (&batch, &table), &written);
        self.by_calendar.count(job, &table, &written);
        for bound in &job.bounds {
            bound.flag(layout, (&batch, &table), &written, &mut exceptions);
        }
        flag_without_currency(job, (&batch, &table), &written, &mut exceptions);
        self.tallies.iter_mut().try_for_each(|tally| tally.add(layout, &table, &written, &batch.origins))?;
        Ok(Worked { keys, table, written, origins: batch.origins, exceptions, read })
    }

    /// Takes over what another worker counted.
    pub(super) fn merge(&mut self, other: Self) -> Result<(), RecordsError> {
        let layout = &self.job.setting.layout;
        self.cleaner.merge(&other.cleaner);
        for (tally, other) in self.tallies.iter_mut().zip(other.tallies) {
            tally.merge(other, layout)?;
        }
        self.signs.merge(&other.signs);
        self.overview.merge(other.overview);
        self.sample.merge(other.sample);
        self.compared.merge(other.compared);
        self.by_calendar.merge(&other.by_calendar);
        self.joined.iter_mut().zip(&other.joined).for_each(|(tally, other)| tally.merge(other));
        self.total_rows.merge(other.total_rows);
        self.read.merge(self.job, &other.read)?;
        self.places.merge(self.job, &other.places)
    }

    /// Where the amounts went, with the sums that the writer counted on its own.
    pub(super) fn amounts(&self, written: &Sums) -> Vec<AmountProof> {
        self.places.proofs(self.job, &self.read, written)
    }

    /// Reads chunks of other files from here on.
    pub(super) fn read_by(&mut self, chunks: Box<dyn ChunkReader>) {
        self.chunks = chunks;
    }
}

impl Counts for Worker<'_> {
    fn save(&self, into: &mut Saving) -> Result<(), RecordsError> {
        self.cleaner.save(into)?;
        into.put_all(self.tallies.iter().map(AsRef::as_ref))?;
        self.signs.save(into)?;
        self.overview.save(into)?;
        self.sample.save(into)?;
        self.compared.save(into)?;
        self.by_calendar.save(into)?;
        into.put(&(&self.joined, &self.total_rows, &self.read, &self.places))
    }

    fn restore(&mut self, from: &mut Saved<'_>) -> Result<(), RecordsError> {
        self.cleaner.restore(from)?;
        from.restore_all(self.tallies.iter_mut().map(AsMut::as_mut))?;
        self.signs.restore(from)?;
        self.overview.restore(from)?;
        self.sample.restore(from)?;
        self.compared.restore(from)?;
        self.by_calendar.restore(from)?;
        (self.joined, self.total_rows, self.read, self.places) = from.take()?;
        Ok(())
    }
}

/// Sums of amounts by place, kept apart from those of the reader and of the writer.
#[derive(Serialize, Deserialize)]
pub(super) struct Places {
    pub(super) counts: RowCounts,
    set_aside: Sums,
    merged: Sums,
    not_selected: Sums,
}

/// Does with a row of a repeated key what was decided, and states that.
fn follow(
    decision: &Decision,
    job: &Job,
    batch: &Batch,
    row: usize,
    (exceptions, replaced): (&mut Vec<Exception>, &mut Vec<ReplacedAmount>),
) -> Place {
    let words = |row: &RowId| job.setting.layout.row_in_words(*row);
    let (place, became, detail) = match decision {
        Decision::SetAside { first } => {
            (Place::SetAside, Became::RowSetAside, format!("the same key as {}", words(first)))
        }
        Decision::MergedInto { first } => {
            let how = if job.duplicates == Some(Duplicates::Sum) {
                "its amounts were added to"
            } else {
                "the key counts by"
            };
            (Place::Merged, Became::RowMerged, format!("{how} {}", words(first)))
        }
        Decision::Superseded { next } => (
            Place::Merged,
            Became::RowMerged,
            format!("a later row of the same key counts, such as {}", words(next)),
        ),
        Decision::LeftOut { why } => (Place::NotSelected, Became::RowLeftOut, why.clone()),
        Decision::TakesSums(sums) => {
            let amounts = job.amounts.iter().zip(sums);
            replaced.extend(amounts.map(|(column, units)| ReplacedAmount {
                column: *column,
                row,
                units: *units,
            }));
            return Place::Written;
        }
    };
    let key = job.setting.layout.key_text(batch, row).into_owned();
    let (subject, reason) = match became {
        Became::RowLeftOut => (ExceptionSubject::Row, Reason::TotalRow),
        _ => (ExceptionSubject::Key, Reason::RepeatedKey),
    };
    exceptions.push(Exception {
        origin: batch.origins.of(row),
        text: key.clone(),
        key,
        subject,
        reason,
        detail,
        expected: String::new(),
        became,
    });
    // What went into the sum of another row is counted there.
    if place == Place::Merged && job.duplicates == Some(Duplicates::Sum) {
        let amounts = job.amounts.iter();
        replaced.extend(amounts.map(|column| ReplacedAmount { column: *column, row, units: None }));
    }
    place
}

/// Flags rows that are written whose amount is of no currency, though the plan names a column of them.
fn flag_without_currency(
    job: &Job,
    (batch, table): (&Batch, &Table),
    rows: &[usize],
    exceptions: &mut Vec<Exception>,
) {
    let layout = &job.setting.layout;
    for amount in &job.amounts {
        let Some(currency) = layout.currency(*amount) else { continue };
        let lacks =
            |row: &&usize| table.units(*amount, **row).is_some() && table.text(currency, **row).is_empty();
        exceptions.extend(rows.iter().filter(lacks).map(|row| Exception {
            origin: batch.origins.of(*row),
            key: layout.key_text(batch, *row).into_owned(),
            subject: ExceptionSubject::Column(currency),
            text: String::new(),
            reason: Reason::NoCurrency,
            detail: format!("of {} of \"{}\"", table.shown(*amount, *row), layout.name(*amount)),
            expected: String::new(),
            became: Became::Kept,
        }));
    }
}

impl Places {
    fn new(job: &Job) -> Self {
        let none = Sums::new(job.amounts.len());
        Self {
            counts: RowCounts::default(),
            set_aside: none.clone(),
            merged: none.clone(),
            not_selected: none,
        }
    }

    fn merge(&mut self, job: &Job, other: &Self) -> Result<(), RecordsError> {
        self.counts.set_aside += other.counts.set_aside;
        self.counts.merged += other.counts.merged;
        self.counts.not_selected += other.counts.not_selected;
        self.set_aside.merge(job, &other.set_aside)?;
        self.merged.merge(job, &other.merged)?;
        self.not_selected.merge(job, &other.not_selected)
    }

    fn add(
        &mut self,
        job: &Job,
        table: &Table,
        row: usize,
        origin: Origin,
        place: Place,
    ) -> Result<(), RecordsError> {
        let (count, sums) = match place {
            Place::SetAside => (&mut self.counts.set_aside, &mut self.set_aside),
            Place::Merged => (&mut self.counts.merged, &mut self.merged),
            Place::NotSelected | Place::Written => (&mut self.counts.not_selected, &mut self.not_selected),
        };
        *count += 1;
        for (nth, column) in job.amounts.iter().enumerate() {
            if let Some(units) = table.units(*column, row) {
                sums.add(job, (nth, &job.currency_in(*column, table, row)), units, origin)?;
            }
        }
        Ok(())
    }

    fn proofs(&self, job: &Job, read: &ReaderTally, written: &Sums) -> Vec<AmountProof> {
        let mut proofs = Vec::new();
        for (nth, column) in job.amounts.iter().enumerate() {
            let Some(scale) = job.scale(*column) else { continue };
            let all = [&read.sums, written, &self.set_aside, &self.merged, &self.not_selected];
            let mut currencies: Vec<&str> = all.iter().flat_map(|sums| sums.currencies(nth)).collect();
            // What no row has is nothing all the same; a row that names no currency comes last.
            currencies.extend(currencies.is_empty().then_some(""));
            currencies.sort_unstable_by_key(|currency| (currency.is_empty(), *currency));
            currencies.dedup();
            let has_currencies = job.setting.layout.currency(*column).is_some();
            for (place, currency) in currencies.into_iter().enumerate() {
                let [read_in_all, written, set_aside, merged, not_selected] =
                    all.map(|sums| scale.amount(sums.of(nth, currency)));
                proofs.push(AmountProof {
                    column: job.name(*column).to_owned(),
                    currency: has_currencies.then(|| currency.to_owned()),
                    read: read_in_all,
                    written,
                    set_aside,
                    merged,
                    not_selected,
                    // They are of no currency, and told with the first.
                    unreadable_rows: if place == 0 { read.unreadable[nth] } else { 0 },
                    read_back: job.read_back_state(*column),
                });
            }
        }
        proofs
    }
}

/// The sums as the reader sees them, from the texts themselves.
#[derive(Serialize, Deserialize)]
struct ReaderTally {
    sums: Sums,
    unreadable: Vec<u64>,
}

impl ReaderTally {
    fn new(job: &Job) -> Self {
        Self { sums: Sums::new(job.amounts.len()), unreadable: vec![0; job.amounts.len()] }
    }

    fn merge(&mut self, job: &Job, other: &Self) -> Result<(), RecordsError> {
        self.unreadable.iter_mut().zip(&other.unreadable).for_each(|(rows, more)| *rows += more);
        self.sums.merge(job, &other.sums)
    }

    fn count(&mut self, job: &Job, batch: &Batch) -> Result<(), RecordsError> {
        for (nth, column) in job.amounts.iter().enumerate() {
            let Some(written) = job.setting.layout.written(*column) else { continue };
            let currency = job.setting.layout.currency(*column);
            let mut unreadable = batch.broken.len() as u64;
            for row in 0..batch.rows() {
                match written.read(batch.text(*column, row), batch.cell_type(*column, row)) {
                    NumberRead::Units(units) | NumberRead::Rounded(units) => {
                        let currency =
                            currency.map_or_else(Default::default, |text| currency_of(batch.text(text, row)));
                        self.sums.add(job, (nth, &currency), units, batch.origins.of(row))?;
                    }
                    // A missing amount that may be missing is none.
                    NumberRead::Blank if written.missing != Missing::SetsRowAside => {}
                    NumberRead::Blank | NumberRead::Fault(_) => unreadable += 1,
                }
            }
            self.unreadable[nth] += unreadable;
        }
        Ok(())
    }
}
