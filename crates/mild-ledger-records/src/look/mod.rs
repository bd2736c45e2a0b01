//! Looking at a file of records: what its columns hold, and what is wrong with them.

mod column;
mod distinct;
mod findings;
mod holding;
mod lines_plan;
mod plan_text;
mod presentation;
mod total_line;

use crate::error::RecordsError;
use crate::files::{HashKind, Remote, changed, is_address, regular};
use crate::run::{ReadSoFar, Watch};
use crate::sorting::Sorter;
use crate::source::{
    self, Blocks, Chunk, ChunkReader, ChunkSize, Encoding, FileForm, Reading, SheetChoice, Signs, Source,
    SourceKind, Stop, TableChoice, read_chunk,
};
use crate::table::{Batch, Origin};
use crate::typing::broken_row;
use column::ColumnNotes;
pub use distinct::Distinct;
use distinct::{Beyond, TextsFound, ToSort};
pub use findings::{
    BrokenRows, Clarity, Holding, Look, LookedAmounts, LookedColumn, LookedDates, LookedPattern,
    OtherNotation, RowsSeen, TotalEvidence, TotalLine,
};
use holding::holding_of;
pub use lines_plan::{LineCalendar, LinesPlan, TextsKept};
use mild_ledger::DateEvidence;
pub use plan_text::{AmountFormat, PlanParts};
use std::collections::BTreeMap;
use std::num::NonZeroUsize;
use std::path::Path;
use std::sync::mpsc::{Receiver, sync_channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::Builder;
use total_line::total_line;

/// The longest cell that is read: 1 MiB.
const LONGEST_CELL: usize = 1 << 20;
/// Rows that are named of each thing.
const ROWS_NAMED: usize = 5;
/// Different texts that are held in memory, over all columns and all who work.
const TEXTS_HELD: usize = 1 << 20;
/// Bytes of a cell that are kept of the last row.
const KEPT_OF_CELL: usize = 120;

/// Looks at a file of records: reads all of it, in one pass and in bounded memory, and finds what each column holds. How the
/// file is written (separator, encoding, the line of its header) is found from how it begins, and reported.
///
/// # Errors
/// [`RecordsError`] where the file cannot be read, is broken as a whole, or of a kind that is not read.
///
/// ```
/// use mild_ledger_records::{Watch, look};
/// use std::sync::atomic::AtomicBool;
///
/// # let folder = std::env::temp_dir().join(format!("mild-look-{}", std::process::id()));
/// # std::fs::create_dir_all(&folder)?;
/// let file = folder.join("jobs.csv");
/// std::fs::write(&file, "Job;Done\nJ1;30/09/2026\nJ2;29/09/2026\nJ3;28/09/2026\n")?;
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
/// let found = look(&file, watch)?;
/// assert_eq!((found.rows, found.separator, found.keys()), (3, Some(';'), vec!["Job", "Done"]));
/// assert_eq!(found.columns[1].holds.word(), "date");
/// # std::fs::remove_dir_all(&folder)?;
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub fn look(path: &Path, watch: Watch<'_>) -> Result<Look, RecordsError> {
    look_at_part(path, LookPart::default(), watch)
}

/// The part of a file that is looked at, where it is not what looking would choose.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct LookPart<'p> {
    /// A sheet of a workbook, by its name or its number, or a table of a database.
    pub part: Option<&'p str>,
    /// A query of a database.
    pub query: Option<&'p str>,
    /// The line of the header, from 1.
    pub header_line: Option<u64>,
    /// The columns that are looked at, where that is not all of them. Of the others only the headers are known, and of these how many values differ is
    /// known only while there are few.
    pub columns: Option<&'p [String]>,
    /// Columns that are looked at in the first million rows alone.
    pub at_first: &'p [String],
}

/// Rows that are enough of a column that is looked at in its first rows alone.
const FIRST_ROWS: u64 = 1_000_000;

/// Looks at a part of a file: a sheet of a workbook, a table or a query of a database, or what is below a line.
///
/// # Errors
/// Those of [`look`], and where the file has no parts, or none of that name.
///
/// ```
/// use mild_ledger_records::{LookPart, Watch, look_at_part};
/// use std::sync::atomic::AtomicBool;
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
/// let part = LookPart { part: Some("Invoices"), ..LookPart::default() };
/// let error = look_at_part("Cargo.toml".as_ref(), part, watch).unwrap_err();
/// assert!(error.to_string().contains("has no sheets and no tables"));
/// ```
pub fn look_at_part(path: &Path, part: LookPart<'_>, watch: Watch<'_>) -> Result<Look, RecordsError> {
    watch.stopping(|stop| look_stoppable(path, part, watch, stop))
}

fn look_stoppable(
    path: &Path,
    part: LookPart<'_>,
    watch: Watch<'_>,
    stop: Stop,
) -> Result<Look, RecordsError> {
    if path.to_str().is_some_and(is_address) {
        if !path.to_str().is_some_and(SourceKind::is_address) {
            let what = format!("{} is an address, and files are looked at", path.display());
            return Err(RecordsError::request(what, "copy the file, and look at that"));
        }
        let what = "a server is not looked at";
        return Err(RecordsError::request(
            what,
            "write the table to a file, or name it in a plan and check that",
        ));
    }
    let before = regular(path)?;
    let kind = SourceKind::of(path);
    let form = form_of(path, kind, part)?;
    let reading = Reading {
        source: 0,
        longest_cell: LONGEST_CELL,
        hash: HashKind::default(),
        blocks: Blocks::default(),
        form: form.clone(),
        remote: Remote::default(),
        stop,
    };
    let mut reader = source::open(path, &reading)?;
    let names = reader.columns().to_vec();
    reader.with_chunks_of(ChunkSize::of_rows_with(names.len()));
    let mut said = reader.said().to_vec();
    let numbers = if kind.has_sheets() { RowNumbers::OfSheet } else { RowNumbers::OfRecords };
    if numbers == RowNumbers::OfSheet {
        said.push("rows are numbered as in the sheet".to_owned());
    }
    let scratch = std::env::temp_dir();
    let failed = |error| RecordsError::file(&scratch, "distinguish texts there")(error);
    let workers = std::thread::available_parallelism().unwrap_or(NonZeroUsize::MIN).get().min(16);
    let number_of = |name: &String| names.iter().position(|known| known == name);
    let shared = Shared {
        wanted: part.columns.map(|columns| columns.iter().filter_map(number_of).collect()),
        at_first: part.at_first.iter().filter_map(number_of).collect(),
        most_texts: (TEXTS_HELD / names.len().max(1) / workers).clamp(64, 1 << 16),
        sorter: Mutex::new(Sorter::new(&scratch)),
        none: DateEvidence::new(),
        numbers,
    };
    let (notes, reader) = pass(reader, names.len(), (&shared, workers), (before.bytes, watch), &failed)?;
    if regular(path)? != before {
        return Err(changed(path));
    }
    let Notes { columns, broken, last, .. } = notes;
    let (texts, mut kept): (Vec<_>, Vec<_>) =
        columns.into_iter().map(|mut column| (std::mem::take(&mut column.texts), column)).unzip();
    let rows_seen: Vec<RowsSeen> =
        (0..names.len()).map(|column| shared.rows_seen(column, reader.rows_read())).collect();
    let sorter = shared.sorter.into_inner().unwrap_or_else(PoisonError::into_inner);
    let found = distinct::found(&texts, sorter).map_err(failed)?;
    let columns: Vec<LookedColumn> = names
        .iter()
        .zip(&mut kept)
        .zip(found)
        .zip(rows_seen)
        .map(|(((name, notes), found), rows_seen)| LookedColumn {
            rows_seen,
            ..looked_column(name, notes, found)
        })
        .collect();
    let Signs { separator, .. } = form.signs;
    Ok(Look {
        file: path.display().to_string(),
        format: kind.word,
        separator: (form.signs != Signs::default()).then(|| char::from(separator)),
        header_line: form.header_line,
        encoding: form.encoding.map(Encoding::word),
        table: match form.table {
            Some(TableChoice::Named(name)) => Some(name),
            _ => None,
        },
        query: part.query.map(str::to_owned),
        sheet: match form.sheet {
            Some(SheetChoice::Named(name)) => Some(name),
            _ => None,
        },
        said,
        rows: reader.rows_read(),
        broken: broken
            .into_iter()
            .map(|(reason, (count, rows))| BrokenRows { reason, count, rows })
            .collect(),
        total_line: last.and_then(|last| total_line(&columns, &kept, last)),
        columns,
    })
}

/// How a file is written, as far as it is found, and stated.
fn form_of(path: &Path, kind: &SourceKind, part: LookPart<'_>) -> Result<FileForm, RecordsError> {
    let mut form = match part.query {
        Some(query) => FileForm { table: Some(TableChoice::Query(query.to_owned())), ..FileForm::default() },
        None => kind.form_of(path, part.part)?,
    };
    form.header_line = part.header_line.or(form.header_line);
    Ok(form)
}

/// What the workers share.
struct Shared {
    /// The columns that are looked at, where that is not all.
    wanted: Option<Vec<usize>>,
    /// Those of which the first rows are enough.
    at_first: Vec<usize>,
    /// Different texts of a column that one of them holds.
    most_texts: usize,
    sorter: Mutex<Sorter>,
    /// Evidence of nothing, whose patterns all columns share.
    none: DateEvidence,
    numbers: RowNumbers,
}

/// The numbers that rows are called by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum RowNumbers {
    /// From 1 in the order of the records.
    OfRecords,
    /// As the sheet of a workbook shows them.
    OfSheet,
}

impl Shared {
    /// Whether a column is looked at in the rows from one on.
    fn wants(&self, column: usize, row: u64) -> bool {
        let is_named = |columns: &Vec<usize>| columns.contains(&column);
        self.wanted.as_ref().is_none_or(is_named) || (is_named(&self.at_first) && row <= FIRST_ROWS)
    }

    /// The rows that a column is looked at in, of so many.
    fn rows_seen(&self, column: usize, rows: u64) -> RowsSeen {
        match self.wants(column, FIRST_ROWS + 1) {
            true => RowsSeen::All,
            false if self.at_first.contains(&column) && rows <= FIRST_ROWS => RowsSeen::All,
            false if self.at_first.contains(&column) => RowsSeen::First(FIRST_ROWS),
            false => RowsSeen::None,
        }
    }

    /// Whether no column is looked at from a row on.
    fn has_enough(&self, row: u64) -> bool {
        self.wanted.as_ref().is_some_and(Vec::is_empty) && row > FIRST_ROWS
    }

    fn number_of(&self, origin: Origin) -> u64 {
        match self.numbers {
            RowNumbers::OfRecords => origin.row,
            RowNumbers::OfSheet => origin.line,
        }
    }
}

/// A row with its number, its cells cut short.
type Row = (u64, Vec<String>);

/// What one of the workers noted.
struct Notes {
    columns: Vec<ColumnNotes>,
    broken: BTreeMap<String, (u64, Vec<u64>)>,
    last: Option<Row>,
    to_sort: ToSort,
}

impl Notes {
    fn new(columns: usize, shared: &Shared) -> Self {
        Self {
            columns: (0..columns).map(|_| ColumnNotes::new(&shared.none)).collect(),
            broken: BTreeMap::new(),
            last: None,
            to_sort: ToSort::of(if shared.wanted.is_some() { Beyond::Dropped } else { Beyond::Sorted }),
        }
    }

    fn take(&mut self, batch: &Batch, shared: &Shared) {
        let first = if batch.rows() == 0 { 0 } else { batch.origins.of(0).row };
        for (nth, notes) in self.columns.iter_mut().enumerate().filter(|(nth, _)| shared.wants(*nth, first)) {
            let rows = (0..batch.rows()).take_while(|row| shared.wants(nth, batch.origins.of(*row).row));
            for row in rows {
                let number = shared.number_of(batch.origins.of(row));
                let cell = (batch.text(nth, row), batch.cell_type(nth, row));
                notes.note((nth, shared.most_texts), cell, number, &mut self.to_sort);
            }
        }
        for row in &batch.broken {
            let exception = broken_row(batch.origins.source, row);
            let (count, rows) = self.broken.entry(exception.reason.to_string()).or_default();
            *count += 1;
            if rows.len() < ROWS_NAMED {
                rows.push(if shared.numbers == RowNumbers::OfSheet { row.line } else { row.number });
            }
        }
        if let Some(row) = batch.rows().checked_sub(1) {
            let number = shared.number_of(batch.origins.of(row));
            if self.last.as_ref().is_none_or(|(before, _)| *before < number) {
                let cells = (0..batch.columns()).map(|nth| {
                    let text = batch.text(nth, row);
                    let end = text.char_indices().nth(KEPT_OF_CELL).map_or(text.len(), |(end, _)| end);
                    text.get(..end).unwrap_or_default().trim().to_owned()
                });
                self.last = Some((number, cells.collect()));
            }
        }
    }

    /// Hands on what is to be sorted.
    fn sort(&mut self, shared: &Shared) -> std::io::Result<()> {
        if self.to_sort.keys.len() > 0 {
            let mut sorter = shared.sorter.lock().unwrap_or_else(PoisonError::into_inner);
            sorter.push_all(&self.to_sort.keys, &self.to_sort.rows)?;
            self.to_sort.clear();
        }
        Ok(())
    }

    fn merge(&mut self, other: Self, shared: &Shared) {
        for (nth, (notes, other)) in self.columns.iter_mut().zip(other.columns).enumerate() {
            notes.merge(other, nth, shared.most_texts, &mut self.to_sort);
        }
        for (reason, (more, rows)) in other.broken {
            let (count, own) = self.broken.entry(reason).or_default();
            *count += more;
            own.extend(rows);
            own.sort_unstable();
            own.truncate(ROWS_NAMED);
        }
        self.last = self.last.take().max(other.last);
    }
}

/// Reads all rows: one cuts the file at the ends of rows, others look at the pieces, whichever comes next.
fn pass(
    mut reader: Box<dyn Source>,
    columns: usize,
    (shared, workers): (&Shared, usize),
    (bytes, watch): (u64, Watch<'_>),
    failed: &(dyn Fn(std::io::Error) -> RecordsError + Sync),
) -> Result<(Notes, Box<dyn Source>), RecordsError> {
    let (inbox, waiting) = sync_channel::<Chunk>(workers * 2);
    let waiting = Arc::new(Mutex::new(waiting));
    let mut whole = Notes::new(columns, shared);
    std::thread::scope(|scope| {
        let mut at_work = Vec::new();
        for _ in 0..workers {
            let (chunks, waiting) = (reader.chunk_reader(), Arc::clone(&waiting));
            let work = move || note_all(chunks, Notes::new(columns, shared), &waiting, shared, failed);
            match Builder::new().name("look".to_owned()).spawn_scoped(scope, work) {
                Ok(thread) => at_work.push(thread),
                Err(_) if !at_work.is_empty() => break,
                Err(error) => return Err(RecordsError::no_thread(&error)),
            }
        }
        // Where all workers have failed, nothing waits for more.
        drop(waiting);
        let read = (|| {
            while let Some(chunk) = reader.next_chunk()? {
                watch.check()?;
                (watch.progress)(ReadSoFar {
                    rows: reader.rows_read(),
                    bytes: reader.bytes_read(),
                    of_bytes: bytes,
                });
                if inbox.send(chunk).is_err() || shared.has_enough(reader.rows_read()) {
                    break;
                }
            }
            Ok(())
        })();
        drop(inbox);
        for thread in at_work {
            let stopped = || RecordsError::Proof { what: "a thread that looks at rows stopped".to_owned() };
            let notes = thread.join().map_err(|_| stopped())??;
            whole.merge(notes, shared);
        }
        read
    })?;
    whole.sort(shared).map_err(failed)?;
    Ok((whole, reader))
}

fn note_all(
    mut chunks: Box<dyn ChunkReader>,
    mut notes: Notes,
    waiting: &Mutex<Receiver<Chunk>>,
    shared: &Shared,
    failed: &(dyn Fn(std::io::Error) -> RecordsError + Sync),
) -> Result<Notes, RecordsError> {
    loop {
        let next = waiting.lock().unwrap_or_else(PoisonError::into_inner).recv();
        let Ok(chunk) = next else { return Ok(notes) };
        let batch = read_chunk(chunks.as_mut(), &chunk)?;
        notes.take(&batch, shared);
        notes.sort(shared).map_err(failed)?;
    }
}

fn looked_column(name: &str, notes: &mut ColumnNotes, found: TextsFound) -> LookedColumn {
    LookedColumn {
        name: name.to_owned(),
        rows_seen: RowsSeen::All,
        holds: holding_of(name, notes, found.distinct),
        are_currency_codes: notes.currency_codes > 0 && notes.currency_codes == notes.numbers.values(),
        values: notes.numbers.values(),
        blanks: notes.blanks,
        distinct: found.distinct,
        repeat: found.repeat,
        examples: std::mem::take(&mut notes.examples).into_iter().map(|(_, text)| text).collect(),
    }
}
