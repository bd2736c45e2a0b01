//! How each cell of one row comes about, without writing anything.

use super::cell_working::CellWorking;
use super::exception_groups::ExceptionGroups;
use super::job::Job;
use super::records::Records;
use super::total_rows::{TotalRows, left_out};
use super::working_out::cell_working;
use super::{ReadSoFar, RunRequest, Watch, resolve_as_of};
use crate::columns::{add_columns, all_hold};
use crate::error::RecordsError;
use crate::join::JoinTally;
use crate::keys::Duplicates;
use crate::plan::{Plan, TotalRow};
use crate::source::{ChunkSize, read_chunk};
use crate::table::{Batch, Exception, RowId, Table};
use crate::typing::{Cleaner, Place};
use mild_ledger::Date;

/// What a plan makes of the rows of one key, and how.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct RowsExplained {
    /// The plan's title.
    pub title: String,
    /// The as-of date; none where the plan asks for none.
    pub as_of: Option<Date>,
    /// The key that was asked for.
    pub key: String,
    /// The rows of it, in the order of the records; more than one where the key duplicates.
    pub rows: Vec<RowWorking>,
    /// Whether there are more of them.
    pub more_rows: bool,
}

/// How the cells of one row come about.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct RowWorking {
    /// Where it is, in words.
    pub place: String,
    /// What becomes of it, in words.
    pub becomes: String,
    /// What was wrong with it, or noticed of it, a line each.
    pub remarks: Vec<String>,
    /// The cells of the file, in the order of its columns.
    pub cells: Vec<CellRead>,
    /// The cells that the plan adds, those that are joined first.
    pub added: Vec<CellWorking>,
}

/// A cell of the file.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct CellRead {
    /// The column's header.
    pub column: String,
    /// What was there.
    pub text: String,
    /// What it was read as; empty where it could not be.
    pub read: String,
}

/// Rows that are shown of one key.
const MOST_ROWS: usize = 10;

/// How each cell of the rows of a key comes about; of a plan without a key, of the row with this number. Nothing is written.
///
/// # Errors
/// Those of [`run`](super::run()) that come before the first row, and [`RecordsError::Request`] where no row has the key.
pub fn explain(
    plan: &Plan,
    request: &RunRequest,
    key: &str,
    watch: Watch<'_>,
) -> Result<RowsExplained, RecordsError> {
    watch.stopping(|stop| explain_stoppable(plan, &RunRequest { stop, ..request.clone() }, key, watch))
}

fn explain_stoppable(
    plan: &Plan,
    request: &RunRequest,
    key: &str,
    watch: Watch<'_>,
) -> Result<RowsExplained, RecordsError> {
    let as_of = resolve_as_of(plan, request)?;
    let records = Records::of(plan, request, as_of)?;
    let mut reader = records.open(&plan.reading())?;
    let (mut job, to_join) = records.bind(plan, as_of, &reader)?;
    let (scratch, check) = (std::env::temp_dir(), || watch.check());
    job.read_second_files(to_join, request.pace(records.bytes()).of_second_files(&scratch, &check))?;
    reader.with_chunks_of(ChunkSize::of_rows_with(job.setting.layout.columns.len()));
    let wanted = Wanted::of(&job, key)?;
    let mut chunks = reader.chunk_reader();
    let mut rows = Vec::new();
    let mut more_rows = false;
    let mut total_rows = (job.total_row == TotalRow::LeaveOut).then(TotalRows::default);
    while let Some(chunk) = reader.next_chunk()? {
        watch.check()?;
        let read =
            ReadSoFar { rows: reader.rows_read(), bytes: reader.bytes_read(), of_bytes: records.bytes() };
        (watch.progress)(read);
        let batch = read_chunk(chunks.as_mut(), &chunk)?;
        let found: Vec<usize> = (0..batch.rows()).filter(|row| wanted.is(&job, &batch, *row)).collect();
        if let Some(total_rows) = &mut total_rows {
            let (table, places) = Cleaner::new(&job.setting.layout).clean(&batch, &mut Vec::new());
            total_rows.count(&job, (&batch, &table), &places);
        }
        if found.is_empty() || more_rows {
            continue;
        }
        let room = MOST_ROWS.saturating_sub(rows.len());
        more_rows |= found.len() > room;
        rows.extend(workings(&job, &batch, found.get(..room.min(found.len())).unwrap_or_default())?);
        if total_rows.is_none() && (matches!(wanted, Wanted::Number(_)) || more_rows) {
            break;
        }
    }
    if !job.setting.layout.key.is_empty() {
        follow_repeats(&mut rows, job.duplicates, more_rows);
    }
    for (id, _) in total_rows.map_or_else(Vec::new, |found| left_out(&job, &found.find(&job))) {
        rows.iter_mut().filter(|row| row.id == id).for_each(|row| row.place = Place::NotSelected);
    }
    let rows: Vec<RowWorking> = rows.into_iter().map(FoundRow::working).collect();
    if rows.is_empty() {
        let what = match &wanted {
            Wanted::Key(names, key) => {
                format!("no row of {} has the {names} \"{}\"", records.name, key.escape_debug())
            }
            Wanted::Number(number) => {
                format!("there is no row {number} in {}, or it is broken", records.name)
            }
        };
        return Err(RecordsError::request(what, "rows are numbered as in the file"));
    }
    Ok(RowsExplained {
        title: plan.title_on(as_of),
        as_of: as_of.map(|as_of| as_of.date),
        key: key.to_owned(),
        rows,
        more_rows,
    })
}

/// A row that was asked for, and where it goes.
struct FoundRow {
    id: RowId,
    /// As far as the row says by itself, whatever other rows have its key.
    place: Place,
    /// Whether the plan's conditions hold for it.
    is_selected: bool,
    working: RowWorking,
}

impl FoundRow {
    fn working(self) -> RowWorking {
        let becomes = match (self.place, self.is_selected) {
            (Place::SetAside, _) => "set aside",
            (Place::Merged, _) => "merged",
            (Place::NotSelected, _) | (Place::Written, false) => "not selected",
            (Place::Written, true) => "written",
        };
        RowWorking { becomes: becomes.to_owned(), ..self.working }
    }
}

/// What becomes of rows of one key, as a run decides it; there may be more of them after those that are shown.
fn follow_repeats(rows: &mut [FoundRow], duplicates: Option<Duplicates>, more_rows: bool) {
    let mut usable: Vec<&mut FoundRow> = rows.iter_mut().filter(|row| row.place == Place::Written).collect();
    let last = if more_rows { usable.len() } else { usable.len().saturating_sub(1) };
    for (nth, row) in usable.iter_mut().enumerate() {
        row.place = match duplicates {
            Some(Duplicates::SetAside) if nth > 0 => Place::SetAside,
            Some(Duplicates::First | Duplicates::Sum) if nth > 0 => Place::Merged,
            Some(Duplicates::Last) if nth < last => Place::Merged,
            _ => Place::Written,
        };
    }
}

/// Which rows are asked for.
enum Wanted {
    /// Those of a key, and the names of its columns.
    Key(String, String),
    /// That with a number, in a plan without a key.
    Number(u64),
}

impl Wanted {
    fn of(job: &Job, key: &str) -> Result<Self, RecordsError> {
        let layout = &job.setting.layout;
        let names: Vec<&str> = layout.key.iter().map(|column| layout.name(*column)).collect();
        if !names.is_empty() {
            return Ok(Self::Key(names.join(" / "), key.trim().to_owned()));
        }
        key.trim().parse().map(Self::Number).map_err(|_| {
            let what =
                format!("\"{}\" is not the number of a row, and the plan has no key", key.escape_debug());
            RecordsError::request(what, "key = \"…\" under [records], or the number of a row")
        })
    }

    fn is(&self, job: &Job, batch: &Batch, row: usize) -> bool {
        match self {
            Self::Key(_, key) => job.setting.layout.key_text(batch, row) == *key,
            Self::Number(number) => batch.origins.of(row).row == *number,
        }
    }
}

/// The workings of rows of a batch.
fn workings(job: &Job, batch: &Batch, wanted: &[usize]) -> Result<Vec<FoundRow>, RecordsError> {
    let layout = &job.setting.layout;
    let mut exceptions = Vec::new();
    let (mut table, mut places) = Cleaner::new(layout).clean(batch, &mut exceptions);
    let mut tallies = vec![JoinTally::default(); job.joins.len()];
    job.join((batch, &mut table), (&mut places, &mut exceptions), &mut tallies)?;
    add_columns(&job.steps, &job.setting, batch, &mut table, &mut exceptions)
        .map_err(|error| RecordsError::Proof { what: error.to_string() })?;
    for bound in &job.bounds {
        bound.flag(layout, (batch, &table), wanted, &mut exceptions);
    }
    let groups = ExceptionGroups::new(layout);
    let row_working = |row: &usize| {
        let origin = batch.origins.of(*row);
        let of_row = |exception: &&Exception| exception.origin.id() == origin.id();
        let of_row: Vec<&Exception> = exceptions.iter().filter(of_row).collect();
        let working = RowWorking {
            place: layout.place(origin),
            becomes: String::new(),
            remarks: of_row.iter().map(|exception| groups.in_words(exception)).collect(),
            cells: (0..layout.columns_of_file)
                .map(|column| cell_read(job, batch, &table, (column, *row)))
                .collect(),
            added: (layout.columns_of_file..layout.columns.len())
                .map(|column| cell_working(job, (batch, &table), (column, *row)))
                .collect(),
        };
        FoundRow {
            id: origin.id(),
            place: places.get(*row).copied().unwrap_or(Place::Written),
            is_selected: all_hold(&job.select, &table, *row),
            working,
        }
    };
    Ok(wanted.iter().map(row_working).collect())
}

fn cell_read(job: &Job, batch: &Batch, table: &Table, (column, row): (usize, usize)) -> CellRead {
    CellRead {
        column: job.name(column).to_owned(),
        text: batch.text(column, row).to_owned(),
        read: table.shown(column, row).into_owned(),
    }
}
