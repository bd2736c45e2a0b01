//! Running a plan: records in; columns, reports, exceptions and a receipt out.

mod again;
mod bound_calendars;
mod by_calendar;
mod cell_working;
mod check;
mod compare;
mod document_file;
mod exception_groups;
mod exceptions_file;
mod explain;
mod header_elsewhere;
mod held_rows;
mod job;
mod joined;
mod outcome;
mod outputs;
mod overview;
mod parts;
mod pass;
mod proof;
mod read_back;
mod receipt_entry;
mod records;
mod report_file;
mod row_output;
mod sample;
mod signs;
mod sums;
mod total_rows;
mod view;
mod worker;
mod working_out;

use crate::columns::AsOfDate;
use crate::error::RecordsError;
use crate::files::{
    ExistingFiles, Fingerprint, InputFile, Remote, RemoteFiles, STANDARD_OUTPUT, Staging, changed,
};
use crate::join::OtherFile;
use crate::keys::{Decisions, Duplicates};
use crate::plan::{AsOf, DocumentFormat, Plan};
use crate::reports::Report;
use crate::source::{ChunkSize, Sources, Stop};
use crate::table::called;
pub use again::{AgainState, FileAgain, RunAgain, run_again};
pub use cell_working::CellWorking;
pub use check::{CheckedColumn, PlanCheck, check};
pub use explain::{CellRead, RowWorking, RowsExplained, explain};
pub use held_rows::HeldRows;
use job::{Job, StatedTotal};
use joined::{join_doubts, joined, left_out_note, not_added_note};
use mild_ledger::{DateTime, Decimal};
pub use outcome::{
    AddedColumn, AmountProof, ColumnDates, ColumnFigures, ComparedColumns, ComparedRow, ControlTotal, EndRow,
    ExceptionGroup, JoinAccount, JoinedFile, ReadBackState, RowCounts, RunFile, RunOutcome, Sample,
    SampledRow, UsedCalendar,
};
use outputs::{Holds, Output, check_outputs, outputs_of, receipt_place};
pub use parts::{Heard, PartFile, PartJob, PartRows, PartWorker, PartedEnd, PartedRun};
use pass::{Pace, PassResult, Sinks};
use read_back::{ReadBack, ReadBehind};
use receipt_entry::{receipt_entry, used_calendars};
use records::Records;
use std::num::NonZeroUsize;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::Builder;
use std::time::Duration;

/// What a run is given besides its plan.
///
/// ```
/// use mild_ledger_records::{AsOf, ExistingFiles, RunRequest};
/// let request = RunRequest::new().with_as_of(AsOf::Date("2026-09-30".parse()?)).with_existing(ExistingFiles::Overwrite);
/// assert_ne!(request, RunRequest::new());
/// # Ok::<(), mild_ledger::Error>(())
/// ```
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct RunRequest {
    as_of: Option<AsOf>,
    now: Option<DateTime>,
    records: Vec<PathBuf>,
    existing: ExistingFiles,
    workers: Option<NonZeroUsize>,
    sample: usize,
    /// The place of the receipt, where it is not that of the plan.
    receipt: Option<PathBuf>,
    /// How long the process that begins a run in parts may give no sign of life to the others.
    patience: Option<Duration>,
    /// Who reads records that are at addresses.
    remote: Remote,
    /// Asked where the run is interrupted.
    stop: Stop,
    /// How large chunks of the records are, for tests that cut small.
    chunks: Option<ChunkSize>,
    /// How many bytes of what is joined from second files are held in memory, for tests that hold little.
    most_held: Option<usize>,
}

impl RunRequest {
    /// A run as the plan says it.
    #[must_use]
    pub fn new() -> Self {
        Self::default()
    }

    /// An as-of date that takes the place of the plan's.
    #[must_use]
    pub fn with_as_of(self, as_of: AsOf) -> Self {
        Self { as_of: Some(as_of), ..self }
    }

    /// The time that it is, from which named days are counted; the crate reads no clock. It may be left out where
    /// [`Plan::needs_clock`] says that nothing asks for it.
    #[must_use]
    pub fn with_now(self, now: DateTime) -> Self {
        Self { now: Some(now), ..self }
    }

    /// A file of records in place of the plan's, relative to the working folder, or one more of them; `*` and `?` in its name
    /// mean any characters and one, and `-` means standard input.
    #[must_use]
    pub fn with_records(mut self, records: impl Into<PathBuf>) -> Self {
        self.records.push(records.into());
        self
    }

    /// What to do with files that are where outputs go; they are kept unless this says otherwise.
    #[must_use]
    pub fn with_existing(self, existing: ExistingFiles) -> Self {
        Self { existing, ..self }
    }

    /// How many batches of rows are worked on at once; as many as the machine can unless this says otherwise. What a run
    /// finds and writes does not depend on it.
    #[must_use]
    pub fn with_workers(self, workers: NonZeroUsize) -> Self {
        Self { workers: Some(workers), ..self }
    }

    /// So many of the rows that are written to look at, inputs next to results, edge cases first; none unless this says otherwise.
    #[must_use]
    pub fn with_sample(self, rows: usize) -> Self {
        Self { sample: rows, ..self }
    }

    /// Who reads records that are at addresses; a run without reads those of this machine alone.
    #[must_use]
    pub fn with_remote_files(self, files: Arc<dyn RemoteFiles>) -> Self {
        Self { remote: Remote::by(files), ..self }
    }

    /// The file that the receipt is written to, in place of the plan's: relative to the working folder.
    ///
    /// ```
    /// use mild_ledger_records::RunRequest;
    /// let request = RunRequest::new().with_receipt("receipts/september.toml");
    /// assert_ne!(request, RunRequest::new());
    /// ```
    #[must_use]
    pub fn with_receipt(self, receipt: impl Into<PathBuf>) -> Self {
        Self { receipt: Some(receipt.into()), ..self }
    }

    /// How long the process that begins a run in parts may give no sign of life before the others give the run up and clear its folder
    /// away; two minutes unless this says otherwise.
    #[must_use]
    pub fn with_patience(self, patience: Duration) -> Self {
        Self { patience: Some(patience), ..self }
    }

    fn pace(&self, bytes: u64) -> Pace {
        let at_most = NonZeroUsize::MIN.saturating_add(15);
        let machine = || std::thread::available_parallelism().unwrap_or(NonZeroUsize::MIN).min(at_most);
        let workers = self.workers.unwrap_or_else(machine);
        Pace { bytes, workers, chunks: self.chunks, most_held: self.most_held }
    }
}

impl Plan {
    /// Whether a run under this request asks what time it is: its as-of date is now, or a day named from today.
    #[must_use]
    pub fn needs_clock(&self, request: &RunRequest) -> bool {
        request.as_of.or(self.as_of).is_some_and(AsOf::needs_clock)
    }
}

/// How the caller watches a run and stops it.
#[derive(Clone, Copy)]
pub struct Watch<'w> {
    /// Set when the run is to stop; nothing is kept then.
    pub interrupted: &'w AtomicBool,
    /// Called now and then with the rows and bytes read so far.
    pub progress: &'w dyn Fn(ReadSoFar),
}

/// How far the records are read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ReadSoFar {
    /// Rows, broken ones among them.
    pub rows: u64,
    /// Bytes of the files.
    pub bytes: u64,
    /// All the bytes that there are; nothing of a server, which does not say.
    pub of_bytes: u64,
}

impl Watch<'_> {
    /// Does work whose readers may wait long for a row: they are asked to stop where the watch is interrupted.
    pub(crate) fn stopping<T>(self, work: impl FnOnce(Stop) -> T) -> T {
        const EACH: Duration = Duration::from_millis(20);
        let (stop, is_done) = (Stop::default(), AtomicBool::new(false));
        let interrupted = self.interrupted;
        let look = || {
            while !is_done.load(Ordering::Relaxed) {
                if interrupted.load(Ordering::Relaxed) {
                    return stop.ask();
                }
                std::thread::park_timeout(EACH);
            }
        };
        std::thread::scope(|scope| {
            // Without a thread for it, interruptions are noticed between rows alone.
            let watching = Builder::new().name("watch".to_owned()).spawn_scoped(scope, look);
            let given = work(stop.clone());
            is_done.store(true, Ordering::Relaxed);
            if let Ok(thread) = watching {
                thread.thread().unpark();
            }
            given
        })
    }

    pub(crate) fn check(&self) -> Result<(), RecordsError> {
        if self.interrupted.load(Ordering::Relaxed) { Err(RecordsError::Interrupted) } else { Ok(()) }
    }
}

/// Runs a plan. Either all outputs are in their places afterwards, the receipt among them, or none was
/// touched.
///
/// # Errors
/// Any [`RecordsError`]: a mistake in the plan, a file that cannot be read or written, files in the way, a
/// proof that does not hold, an interruption.
pub fn run(plan: &Plan, request: &RunRequest, watch: Watch<'_>) -> Result<RunOutcome, RecordsError> {
    run_with(plan, request, watch, None, |_| {})
}

/// Draws the report that people get of a run, in the form that its file promises.
pub type DrawReport<'d> = &'d dyn Fn(&RunOutcome, DocumentFormat) -> std::io::Result<Vec<u8>>;

/// Runs a plan that may name a report for people, which the caller draws. It is an output like the others: written with them or not at all, read
/// back, and in the receipt.
///
/// # Errors
/// Those of [`run`].
pub fn run_and_draw(
    plan: &Plan,
    request: &RunRequest,
    watch: Watch<'_>,
    draw: DrawReport<'_>,
) -> Result<RunOutcome, RecordsError> {
    run_with(plan, request, watch, Some(draw), |_| {})
}

/// A run with something done to the finished files before they are read back, for tests of the proof.
fn run_with(
    plan: &Plan,
    request: &RunRequest,
    watch: Watch<'_>,
    draw: Option<DrawReport<'_>>,
    before_proof: impl FnOnce(&Staging),
) -> Result<RunOutcome, RecordsError> {
    watch.stopping(|stop| {
        let request = RunRequest { stop, ..request.clone() };
        run_stoppable(plan, &request, watch, draw, before_proof)
    })
}

fn run_stoppable(
    plan: &Plan,
    request: &RunRequest,
    watch: Watch<'_>,
    draw: Option<DrawReport<'_>>,
    before_proof: impl FnOnce(&Staging),
) -> Result<RunOutcome, RecordsError> {
    check_drawn(plan, draw)?;
    let as_of = resolve_as_of(plan, request)?;
    let records = Records::of(plan, request, as_of)?;
    let reader = records.open(&plan.reading())?;
    let (mut job, to_join) = records.bind(plan, as_of, &reader)?;
    job.sample = request.sample;
    job.notes.extend_from_slice(reader.said());
    job.doubts.extend_from_slice(reader.doubts());
    let held = HeldRows::of(plan)?;
    let outputs = outputs_of(plan, as_of, &job, held.as_ref());
    let receipt_place = receipt_place(plan, request, &outputs);
    check_outputs(&outputs, &receipt_place, plan, &records, &job)?;
    let mut staging = Staging::begin(&plan.path, &receipt_place, request.existing)?;
    let as_of_said = said(as_of);
    let create = |output: &Output| staging.create(&output.name, &output.place, request.existing);
    let mut files = outputs.iter().map(create).collect::<Result<Vec<_>, _>>()?;
    let scratch = match &held {
        Some(held) => held.folder(),
        None => {
            receipt_place.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."))
        }
    };
    // Reports are written when they are finished, the others while the records are read.
    let is_of_rows = |output: &&Output| matches!(output.holds, Holds::Rows | Holds::Exceptions);
    let while_reading = outputs.iter().take_while(is_of_rows).count();
    let (outputs, of_reports) = outputs.split_at(while_reading);
    let report_files = files.split_off(while_reading.min(files.len()));
    let writing = Writing { outputs, staging: &staging, scratch };
    let pace = request.pace(records.bytes());
    job.read_second_files(to_join, pace.of_second_files(scratch, &|| watch.check()))?;
    let (result, behind) = run_passes(&job, &records, reader, (writing, files), pace, watch)?;
    records.check_unchanged(plan)?;
    job.other_files.iter().try_for_each(OtherFile::check_unchanged)?;
    for calendar in &job.setting.calendars {
        calendar.opened.files.iter().try_for_each(InputFile::check_unchanged)?;
    }

    before_proof(&staging);
    let read_back = behind.finish(result.exception_rows_set_aside, watch)?;
    let written = result.written.clone();
    let mut outcome = outcome(plan, &job, &records, outputs, result, &read_back)?;
    outcome.receipt.clone_from(&receipt_place);
    proof::check(&outcome, &written, &read_back)?;
    let of_reports = of_reports.iter().zip(report_files).zip(while_reading..);
    write_reports(&mut outcome, plan, &staging, of_reports, (draw, watch))?;
    let mut entry = receipt_entry(&outcome, as_of_said, plan.folder());
    if plan.output_folder.is_some() && request.receipt.is_some() {
        // The folder of the other outputs is gone when a user reads this receipt.
        entry.output.retain(|line| line.file == STANDARD_OUTPUT);
    }
    watch.check()?;
    staging.commit(entry, request.existing)?;
    outcome.held_rows = held;
    Ok(outcome)
}

/// Writes the files of reports, each with its number among all that are staged, once all is known that is in them.
fn write_reports<'o>(
    outcome: &mut RunOutcome,
    plan: &Plan,
    staging: &Staging,
    of_reports: impl Iterator<Item = ((&'o Output, std::fs::File), usize)>,
    (draw, watch): (Option<DrawReport<'_>>, Watch<'_>),
) -> Result<(), RecordsError> {
    for ((output, file), staged) in of_reports {
        watch.check()?;
        let part = staging.part(staged).to_owned();
        let number = match (output.holds, draw) {
            (Holds::Report(number), _) => number,
            (Holds::Document(_, format), Some(draw)) => {
                let bytes = draw(outcome, format).map_err(RecordsError::file(&output.place, "write it"))?;
                let written = document_file::write(output, (file, &part), &bytes, plan.hash)?;
                outcome.outputs.push(written);
                continue;
            }
            _ => continue,
        };
        let Some(report) = outcome.reports.get(number) else { continue };
        let written = report_file::write(output, (file, &part), report, plan.hash)?;
        outcome.outputs.push(written.file);
        outcome.cells_behind_apostrophe += written.behind_apostrophe;
    }
    Ok(())
}

/// A plan that names a report for people needs a caller that draws it.
fn check_drawn(plan: &Plan, draw: Option<DrawReport<'_>>) -> Result<(), RecordsError> {
    if plan.output_documents.is_empty() || draw.is_some() {
        return Ok(());
    }
    Err(RecordsError::request(
        "the plan names a report for people under [output], and nothing here draws it",
        "run it with what draws reports, as the command mild does",
    ))
}

/// The as-of date as the receipt has it.
fn said(as_of: Option<AsOfDate>) -> String {
    match as_of {
        None => "none".to_owned(),
        Some(AsOfDate { date, at: None }) => date.to_string(),
        Some(AsOfDate { at: Some(at), .. }) => at.to_string(),
    }
}

/// The as-of date of the request or the plan; none where neither states one and nothing asks for one.
fn resolve_as_of(plan: &Plan, request: &RunRequest) -> Result<Option<AsOfDate>, RecordsError> {
    let Some(as_of) = request.as_of.or(plan.as_of) else {
        if !plan.uses_as_of() {
            return Ok(None);
        }
        return Err(RecordsError::request(
            format!("{} states no as-of date, and none is assumed", plan.path.display()),
            "write as_of = 2026-09-30 (or \"today\", \"end of last month\" …) into it, or give --as-of",
        ));
    };
    let now = match (request.now, as_of.needs_clock()) {
        (Some(now), _) => now,
        (None, false) => DateTime::MIN,
        (None, true) => {
            return Err(RecordsError::request(
                "the as-of date is counted from today, and no day was given for that",
                "give an as-of date such as 2026-09-30",
            ));
        }
    };
    let resolved = as_of.resolved(now);
    resolved.map(Some).map_err(|error| RecordsError::request(error.what(), error.allowed()))
}

/// Where a run writes to: its outputs, their unfinished files, and a folder for what is sorted on disk.
#[derive(Clone, Copy)]
struct Writing<'w> {
    outputs: &'w [Output],
    staging: &'w Staging,
    scratch: &'w Path,
}

/// Reads the records once; a second time where repeated keys were found that something is to be done about.
fn run_passes(
    job: &Job,
    records: &Records,
    reader: Sources,
    (writing, files): (Writing<'_>, Vec<std::fs::File>),
    pace: Pace,
    watch: Watch<'_>,
) -> Result<(PassResult, ReadBehind), RecordsError> {
    let header = reader.columns().to_vec();
    let (sinks, mut behind) = Sinks::new(job, writing, files, (&header, pace.workers))?;
    let mut first = pass::run(job, reader, sinks, Decisions::none(), pace, watch)?;
    behind.closed()?;
    let mut found = first.duplicates.take().filter(|found| found.summary.rows > 0);
    let decisions = match (found.as_mut(), job.duplicates) {
        (None, _) | (Some(_), Some(Duplicates::Keep)) => None,
        (Some(_), None) if job.reports.is_empty() => None,
        (Some(found), None) => return Err(found.summary.undecided(job.key_setting())),
        (Some(found), Some(_)) => Some(std::mem::replace(&mut found.decisions, Decisions::none())),
    };
    if decisions.is_none() && first.left_out.is_empty() {
        first.duplicates = found;
        return Ok((first, behind));
    }
    drop(behind);
    let again = records.open(&job.reading)?;
    let reopen = |nth| writing.staging.reopen(nth);
    let files = (0..writing.outputs.len()).map(reopen).collect::<Result<_, _>>()?;
    let (sinks, mut behind) = Sinks::new(job, writing, files, (&header, pace.workers))?;
    let decisions = decisions.unwrap_or_else(Decisions::none).and_left_out(first.left_out);
    let mut second = pass::run(job, again, sinks.without_keys(), decisions, pace, watch)?;
    behind.closed()?;
    let both = second.input.iter().zip(&first.input);
    if let Some(nth) = both.map(|(one, other)| one == other).position(|is_same| !is_same) {
        return Err(changed(&records.files[nth].path));
    }
    second.duplicates = found;
    Ok((second, behind))
}

/// The totals that the plan states, with those that were read.
fn control_totals(plan: &Plan, job: &Job, rows: RowCounts, amounts: &[AmountProof]) -> Vec<ControlTotal> {
    let of_rows = plan.control.rows.and_then(|stated| {
        let count = |rows: u64| Decimal::of_units(i128::from(rows), 0).ok();
        Some(ControlTotal { of: "rows".to_owned(), stated: count(stated)?, read: count(rows.read)? })
    });
    let of_amounts = job.control.iter().filter_map(|StatedTotal { column, currency, total }| {
        let name = job.name(*column);
        let is_it = |amount: &&AmountProof| amount.column == name && amount.currency == *currency;
        let of = match currency {
            Some(currency) => format!("{name} {}", called(currency)),
            None => name.to_owned(),
        };
        // Of a currency that no row has, nothing was read.
        let read = amounts
            .iter()
            .find(is_it)
            .map_or_else(|| job.scale(*column).map(|scale| scale.amount(0)), |amount| Some(amount.read))?;
        Some(ControlTotal { of, stated: *total, read })
    });
    of_rows.into_iter().chain(of_amounts).collect()
}

fn outcome(
    plan: &Plan,
    job: &Job,
    records: &Records,
    outputs: &[Output],
    result: PassResult,
    read_back: &ReadBack,
) -> Result<RunOutcome, RecordsError> {
    let file = |name: String, path: &Path, rows: Option<u64>, fingerprint: &Fingerprint| RunFile {
        name,
        path: path.to_owned(),
        rows,
        bytes: fingerprint.bytes,
        hash: fingerprint.hash.clone(),
        led_to: None,
    };
    let outputs = outputs.iter().zip(&read_back.files).map(|(output, back)| {
        let place = if output.is_held() { Path::new(&output.name) } else { &output.place };
        file(output.name.clone(), place, Some(back.end.rows), &back.end.fingerprint)
    });
    let whole = |input: &InputFile| {
        let name = input.path.strip_prefix(plan.folder()).unwrap_or(&input.path).display().to_string();
        file(name, &input.path, None, input.fingerprint(plan.hash))
    };
    let of_records = records.files.iter().zip(&result.input).map(|(named, source)| {
        let led_to = named.led_to().map(str::to_owned);
        let read = file(named.name.clone(), &named.path, Some(source.rows), &source.fingerprint);
        RunFile { led_to, ..read }
    });
    let of_second_files = job.joins.iter().map(|join| {
        let (OtherFile { name, path, .. }, end) = (join.other(), join.end());
        file(name.clone(), path, Some(end.rows), &end.fingerprint)
    });
    let calendars = job.setting.calendars.iter().flat_map(|calendar| &calendar.opened.files);
    let of_records = of_records.chain(of_second_files);
    let inputs = std::iter::once(whole(&plan.input)).chain(of_records).chain(calendars.map(whole)).collect();
    let outputs = outputs.collect();
    let layout = &job.setting.layout;
    let reports: Vec<Report> =
        result.tallies.into_iter().map(|tally| tally.finish(layout)).collect::<Result<_, _>>()?;
    let of_reports = reports.iter().flat_map(|report| report.notes.iter().cloned());
    let notes = job.notes.iter().cloned().chain(of_reports);
    let not_listed = job.joins.iter().filter_map(|join| {
        let (_, more) = join.exceptions();
        (more > 0).then(|| format!("{more} exceptions of {} are not listed", join.other().name))
    });
    let not_added = job.joins.iter().flat_map(not_added_note);
    let left_out: Vec<String> = job.joins.iter().zip(&result.joined).filter_map(left_out_note).collect();
    let notes = notes
        .chain(not_listed)
        .chain(not_added)
        .chain(left_out)
        .chain(result.calendar_notes)
        .chain(result.dates.iter().filter_map(pass::time_note))
        .collect();
    let control = control_totals(plan, job, result.rows, &result.amounts);
    Ok(RunOutcome {
        control,
        title: plan.title_on(job.setting.as_of),
        as_of: job.setting.as_of.map(|as_of| as_of.date),
        as_of_time: job.setting.as_of.and_then(|as_of| as_of.at),
        records: records.name.clone(),
        inputs,
        rows: result.rows,
        amounts: result.amounts,
        reports,
        dates: result.dates,
        figures: result.figures,
        added: result.added,
        sample: result.sample,
        compared: result.compared,
        joined: joined(job, &result.joined)?,
        exceptions: result.exceptions,
        doubts: result.doubts.into_iter().chain(join_doubts(job, &result.joined)).collect(),
        unreadable_cells: result.unreadable_cells,
        notes,
        calendars: used_calendars(plan, job),
        duplicates: result.duplicates.map(|found| found.summary.as_sentence(job.key_setting())),
        cells_behind_apostrophe: result.behind_apostrophe,
        outputs,
        held_rows: None,
        receipt: PathBuf::new(),
        presentation: plan.output_form.presentation(),
    })
}

#[cfg(test)]
mod chunk_tests;
#[cfg(all(feature = "parquet", feature = "sqlite", feature = "postgres"))]
#[cfg(test)]
mod format_tests;
#[cfg(test)]
mod schema_tests;
#[cfg(test)]
mod tests;
