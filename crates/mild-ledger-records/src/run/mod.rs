//! Running a plan: records in; columns, reports, exceptions and a receipt out.

mod aging;
mod binding;
mod cleaning;
mod conditions;
mod exceptions;
mod job;
mod outcome;
mod pass;
mod proof;
mod repeats;
mod rows;
mod steps;
mod table;

use crate::csv::CsvReader;
use crate::error::RecordsError;
use crate::files::{
    AmountLine, ExistingFiles, FileLine, Fingerprint, ReportLine, RowsLine, RunEntry, Staging, receipt_path,
};
use crate::plan::{AsOf, Plan, PlanMistake, Repeats};
use job::Job;
use mild_ledger::Date;
pub use outcome::{
    AgingGroup, AgingReport, AmountProof, ColumnDates, ColumnFigures, ExceptionGroup, ReadBackState,
    ReportProof, RowCounts, RowsApart, RunOutcome, WrittenFile,
};
use pass::{PassResult, Sinks};
use proof::ReadBack;
use repeats::Decisions;
use same_file::Handle;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};

/// What a run is told beside its plan.
#[derive(Debug, Clone)]
pub struct RunRequest {
    /// An as-of date that takes the place of the plan's.
    pub as_of: Option<AsOf>,
    /// Today, from which named days are counted; the crate reads no clock.
    pub today: Date,
    /// A records file that takes the place of the plan's, relative to the working folder.
    pub records: Option<PathBuf>,
    /// What to do with files that stand where outputs go.
    pub existing: ExistingFiles,
}

impl Plan {
    /// Whether a run under this request takes its as-of date from a day named relative to today.
    #[must_use]
    pub fn is_as_of_named(&self, request: &RunRequest) -> bool {
        matches!(request.as_of.or(self.as_of), Some(AsOf::Named(_)))
    }
}

/// How the caller watches a run and stops it.
#[derive(Clone, Copy)]
pub struct Watch<'w> {
    /// Set when the run is to stop; nothing is kept then.
    pub interrupted: &'w AtomicBool,
    /// Called now and then with the bytes read and the bytes there are.
    pub progress: &'w dyn Fn(u64, u64),
}

impl Watch<'_> {
    fn check(&self) -> Result<(), RecordsError> {
        if self.interrupted.load(Ordering::Relaxed) { Err(RecordsError::Interrupted) } else { Ok(()) }
    }
}

/// Runs a plan. Either all outputs stand in their places afterwards, the receipt among them, or none was
/// touched.
///
/// # Errors
/// Any [`RecordsError`]: a mistake in the plan, a file that cannot be read or written, files in the way, a
/// proof that does not hold, an interruption.
pub fn run(plan: &Plan, request: &RunRequest, watch: Watch<'_>) -> Result<RunOutcome, RecordsError> {
    run_with(plan, request, watch, |_| {})
}

/// A run with something done to the finished files before they are read back, for tests of the proof.
fn run_with(
    plan: &Plan,
    request: &RunRequest,
    watch: Watch<'_>,
    before_proof: impl FnOnce(&Staging),
) -> Result<RunOutcome, RecordsError> {
    let as_of = resolve_as_of(plan, request)?;
    let records = Records::of(plan, request, as_of)?;
    let reader = records.open(plan)?;
    let job = Job::bind(plan, as_of, reader.header())?;
    let outputs = Outputs::of(plan, as_of)?;
    outputs.check(plan, &records)?;

    let receipt_place = receipt_path(&plan.path, &outputs.rows.1);
    let mut staging = Staging::begin(&receipt_place, request.existing)?;
    let mut create =
        |(name, place): &(String, PathBuf)| staging.create(name, place, &as_of.to_string(), request.existing);
    let files = [create(&outputs.rows)?, create(&outputs.exceptions)?];
    let scratch =
        outputs.rows.1.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let result = run_passes(&job, &records, reader, &staging, files, scratch, watch)?;
    records.check_unchanged(plan)?;

    before_proof(&staging);
    let read_back = ReadBack::of(&job, &staging, &result)?;
    let written = result.written;
    let outcome = outcome(plan, &job, &records, &staging, result, &read_back)?;
    proof::check(&outcome, &written, &read_back)?;
    let entry = receipt_entry(plan, &outcome);
    let mut receipt = staging.earlier_receipt().clone();
    receipt.record(entry);
    watch.check()?;
    staging.commit(&receipt.to_text()?)?;
    Ok(outcome)
}

fn resolve_as_of(plan: &Plan, request: &RunRequest) -> Result<Date, RecordsError> {
    let Some(as_of) = request.as_of.or(plan.as_of) else {
        return Err(RecordsError::request(
            format!("{} states no as-of date, and none is assumed", plan.path.display()),
            "write as_of = 2026-09-30 (or \"today\", \"end of last month\") into it, or give --as-of",
        ));
    };
    as_of.on(request.today).map_err(|error| RecordsError::request(error.what(), error.allowed()))
}

/// The records file, and how it stood when the run began.
struct Records {
    /// As the plan or the caller named it.
    name: String,
    path: PathBuf,
    facts: (u64, Option<std::time::SystemTime>),
}

impl Records {
    fn of(plan: &Plan, request: &RunRequest, as_of: Date) -> Result<Self, RecordsError> {
        let (name, path) = match &request.records {
            Some(path) => (path.display().to_string(), path.clone()),
            None => {
                let name = plan.records_file.value.replace("{as_of}", &as_of.to_string());
                let path = plan.folder().join(&name);
                (name, path)
            }
        };
        let facts = facts_of(&path)?;
        Ok(Self { name, path, facts })
    }

    fn open(&self, plan: &Plan) -> Result<CsvReader, RecordsError> {
        CsvReader::open(&self.path, plan.longest_cell)
    }

    /// The records and the plan still are what was read.
    fn check_unchanged(&self, plan: &Plan) -> Result<(), RecordsError> {
        let changed = |path: &Path| {
            RecordsError::request(
                format!("{} changed while it was read", path.display()),
                "run again when it is finished",
            )
        };
        if facts_of(&self.path)? != self.facts {
            return Err(changed(&self.path));
        }
        let now = Fingerprint::of_file(&plan.path).map_err(RecordsError::file(&plan.path, "read it"))?;
        if now != plan.fingerprint {
            return Err(changed(&plan.path));
        }
        Ok(())
    }
}

fn facts_of(path: &Path) -> Result<(u64, Option<std::time::SystemTime>), RecordsError> {
    let facts = std::fs::metadata(path).map_err(RecordsError::file(path, "read it"))?;
    if !facts.is_file() && !facts.is_dir() {
        return Err(RecordsError::request(
            format!("{} is a pipe or a device", path.display()),
            "give a file, since its records may be read twice",
        ));
    }
    Ok((facts.len(), facts.modified().ok()))
}

/// The names and places of what is written.
struct Outputs {
    rows: (String, PathBuf),
    exceptions: (String, PathBuf),
}

impl Outputs {
    fn of(plan: &Plan, as_of: Date) -> Result<Self, RecordsError> {
        let expand = |name: &str| {
            let name = name.replace("{as_of}", &as_of.to_string());
            let place = plan.folder().join(&name);
            (name, place)
        };
        Ok(Self { rows: expand(&plan.output_rows.value), exceptions: expand(&plan.output_exceptions.value) })
    }

    /// No output is an input or another output, under whatever name.
    fn check(&self, plan: &Plan, records: &Records) -> Result<(), RecordsError> {
        let receipt = receipt_path(&plan.path, &self.rows.1);
        let (rows, exceptions) = (&plan.output_rows.span, &plan.output_exceptions.span);
        let taken = [
            (&self.rows.1, rows, &plan.path, "the plan itself"),
            (&self.rows.1, rows, &records.path, "the records file"),
            (&self.rows.1, rows, &receipt, "the receipt"),
            (&self.exceptions.1, exceptions, &plan.path, "the plan itself"),
            (&self.exceptions.1, exceptions, &records.path, "the records file"),
            (&self.exceptions.1, exceptions, &receipt, "the receipt"),
            (&self.exceptions.1, exceptions, &self.rows.1, "the file of rows"),
        ];
        for output in [&self.rows.1, &self.exceptions.1] {
            let folder = output.parent().filter(|folder| !folder.as_os_str().is_empty());
            if folder.is_some_and(|folder| !folder.is_dir()) {
                return Err(RecordsError::file(output, "write it")(std::io::ErrorKind::NotFound.into()));
            }
        }
        for (output, span, other, what) in taken {
            if is_same_file(output, other) {
                let what = format!("this output is {what}, which it would overwrite");
                let mistake = PlanMistake::new(span.clone(), what, "a file of its own");
                return Err(plan.mistakes(vec![mistake]));
            }
        }
        Ok(())
    }
}

/// Whether two paths lead, or would lead, to one file.
fn is_same_file(a: &Path, b: &Path) -> bool {
    match (Handle::from_path(a), Handle::from_path(b)) {
        (Ok(a), Ok(b)) => a == b,
        _ => {
            let place = |path: &Path| {
                let folder =
                    path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
                (folder.canonicalize().ok(), path.file_name().map(ToOwned::to_owned))
            };
            a == b || (place(a) == place(b) && place(a).0.is_some())
        }
    }
}

/// Reads the records once; a second time where repeated keys were found that something is to be done about.
fn run_passes<'j>(
    job: &'j Job,
    records: &Records,
    reader: CsvReader,
    staging: &Staging,
    files: [std::fs::File; 2],
    scratch: &Path,
    watch: Watch<'_>,
) -> Result<PassResult<'j>, RecordsError> {
    let total = records.facts.0;
    let sinks = Sinks::new(job, staging, files, scratch)?;
    let mut first = pass::run(job, reader, sinks, Decisions::none(), total, watch)?;
    let Some(keys) = first.keys.take() else { return Ok(first) };
    let found = keys.find_repeats(job, scratch, watch)?;
    if found.summary.rows == 0 {
        return Ok(first);
    }
    match job.repeats {
        None if job.reports.is_empty() => {}
        None => return Err(found.summary.undecided(job)),
        Some(Repeats::Keep) => {}
        Some(_) => {
            let again = CsvReader::open(&records.path, job.longest_cell)?;
            let files = [staging.reopen(0)?, staging.reopen(1)?];
            let sinks = Sinks::new(job, staging, files, scratch)?;
            let mut second = pass::run(job, again, sinks, found.decisions, total, watch)?;
            if second.input != first.input {
                return Err(RecordsError::request(
                    format!("{} changed while it was read", records.path.display()),
                    "run again when it is finished",
                ));
            }
            second.keys = None;
            second.repeats = Some(found.summary);
            return Ok(second);
        }
    }
    first.repeats = Some(found.summary);
    Ok(first)
}

fn outcome(
    plan: &Plan,
    job: &Job,
    records: &Records,
    staging: &Staging,
    result: PassResult<'_>,
    read_back: &ReadBack,
) -> Result<RunOutcome, RecordsError> {
    let file = |nth: usize| WrittenFile {
        name: staging.name(nth).to_owned(),
        path: plan.folder().join(staging.name(nth)),
        rows: read_back.files[nth].rows,
        bytes: read_back.files[nth].fingerprint.bytes,
        sha256: read_back.files[nth].fingerprint.sha256.clone(),
    };
    let files = vec![file(0), file(1)];
    let receipt = receipt_path(&plan.path, &plan.folder().join(staging.name(0)));
    let reports =
        result.aging.into_iter().map(|totals| totals.into_report(job)).collect::<Result<Vec<_>, _>>()?;
    Ok(RunOutcome {
        title: plan.title.clone(),
        as_of: job.as_of,
        records: records.name.clone(),
        records_bytes: result.input.bytes,
        records_sha256: result.input.sha256,
        rows: result.rows,
        amounts: result.amounts,
        reports,
        dates: result.dates,
        figures: result.figures,
        exceptions: result.exceptions,
        notes: result.notes,
        repeats: result.repeats.map(|summary| summary.as_sentence(job)),
        cells_behind_apostrophe: result.behind_apostrophe,
        files,
        receipt,
    })
}

fn receipt_entry(plan: &Plan, outcome: &RunOutcome) -> RunEntry {
    let plan_name = plan.path.file_name().unwrap_or_default().to_string_lossy().into_owned();
    RunEntry {
        as_of: outcome.as_of.to_string(),
        title: outcome.title.clone(),
        written_by: concat!("mild-ledger ", env!("CARGO_PKG_VERSION")).to_owned(),
        calendars: "none used; no holidays counted".to_owned(),
        cells_behind_apostrophe: outcome.cells_behind_apostrophe,
        rows: RowsLine {
            read: outcome.rows.read,
            written: outcome.rows.written,
            set_aside: outcome.rows.set_aside,
            merged: outcome.rows.merged,
            not_selected: outcome.rows.not_selected,
        },
        amount: outcome
            .amounts
            .iter()
            .map(|amount| AmountLine {
                column: amount.column.clone(),
                read: amount.read.to_string(),
                written: amount.written.to_string(),
                set_aside: amount.set_aside.to_string(),
                merged: amount.merged.to_string(),
                not_selected: amount.not_selected.to_string(),
                unreadable_rows: amount.unreadable_rows,
            })
            .collect(),
        report: outcome
            .reports
            .iter()
            .map(|report| ReportLine {
                title: report.title.clone(),
                amount: report.amount_column.clone(),
                written: report.proof.written.to_string(),
                in_buckets: report.proof.in_buckets.to_string(),
                credits: report.proof.credits.to_string(),
                settled: report.proof.settled.to_string(),
                not_yet_issued: report.proof.not_yet_issued.to_string(),
            })
            .collect(),
        input: vec![
            FileLine {
                file: plan_name,
                bytes: plan.fingerprint.bytes,
                sha256: plan.fingerprint.sha256.clone(),
            },
            FileLine {
                file: outcome.records.clone(),
                bytes: outcome.records_bytes,
                sha256: outcome.records_sha256.clone(),
            },
        ],
        output: outcome
            .files
            .iter()
            .map(|file| FileLine { file: file.name.clone(), bytes: file.bytes, sha256: file.sha256.clone() })
            .collect(),
    }
}

#[cfg(test)]
mod tests;
