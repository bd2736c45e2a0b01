//! The coordinator: it cuts the records into pieces and combines what the workers report.

use super::open_figures::open_figures;
use super::part_file::{PartFile, ending};
use super::part_job::{BoundPlan, PartJob};
use super::refusals;
use super::together::{RepeatedKeys, Together, sums_of, write_in_order};
use super::told::{Told, WrittenPart};
use crate::columns::AsOfDate;
use crate::error::RecordsError;
use crate::files::{BlockHashes, FileFacts, Heartbeat, InputFile, Staging, changed, is_address, name_in};
use crate::keys::{Decisions, Duplicates};
use crate::plan::Plan;
use crate::run::exceptions_file::ExceptionSink;
use crate::run::outputs::{
    Holds, Output, OutputSink, check_outputs, exception_schema, outputs_of, receipt_place,
};
use crate::run::pass::{Counted, PassResult, SORT_KEYS, find_repeats};
use crate::run::read_back::{FileReadBack, ReadBehind};
use crate::run::receipt_entry::receipt_entry;
use crate::run::records::Records;
use crate::run::total_rows;
use crate::run::worker::KeysWanted;
use crate::run::{
    DrawReport, RunOutcome, RunRequest, Watch, Writing, check_drawn, outcome, proof, resolve_as_of, said,
    write_reports,
};
use crate::source::{Blocks, Piece, Reading, SourceEnd, SourceKind, Sources, Survey};
use std::fs::File;
use std::num::NonZeroUsize;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;

/// A run of a plan whose rows are worked on in parts. Nothing is in the places of its outputs until [`finish`](Self::finish) puts all of them
/// there; where it is dropped before, all that was written is cleared away.
///
/// ```
/// use mild_ledger_records::{Heard, PartFile, PartJob, PartWorker, PartedEnd, PartedRun, Plan, RunRequest, Watch};
/// use std::sync::{Arc, atomic::AtomicBool};
///
/// let folder = tempfile::tempdir()?;
/// std::fs::write(folder.path().join("invoices.csv"), "Invoice,Amount\nQB-1,10.00\nQB-2,5.50\nQB-3,much\n")?;
/// let text = "plan = 1\n[records]\nfile = \"invoices.csv\"\n[records.amounts]\nAmount = { decimals = 2 }\n\
///     [output]\nrows = \"rows.csv\"\nexceptions = \"exceptions.csv\"\n";
/// std::fs::write(folder.path().join("month.toml"), text)?;
/// let plan = Plan::read(&folder.path().join("month.toml"))?;
/// let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
///
/// // A piece a row, here; each could be worked on by another process, which binds the plan anew.
/// let run = PartedRun::begin(&plan, &RunRequest::new(), 1, watch)?;
/// let mut heard = Vec::new();
/// for (number, piece) in run.pieces().iter().enumerate() {
///     let job = Arc::new(PartJob::open(&run.part().setting()?, None)?);
///     let (mut worker, mut file) = (PartWorker::new(&job), PartFile::create(&job, number as u64, "first")?);
///     worker.begin(piece)?;
///     while let Some(rows) = worker.next_rows()? {
///         file.write(&rows.records, &rows.written)?;
///         heard.extend(rows.told.into_iter().map(Heard::Told));
///     }
///     heard.extend([worker.finish()?, file.finish()?].map(Heard::Told));
/// }
/// assert_eq!(run.pieces().len(), 3);
/// let PartedEnd::Done(outcome) = run.finish(heard.into_iter().map(Ok), None, watch)? else { panic!("no keys") };
/// assert_eq!((outcome.rows.read, outcome.rows.written, outcome.rows.set_aside), (3, 2, 1));
/// assert_eq!(outcome.amounts[0].written.to_string(), "15.50");
/// assert!(folder.path().join("rows.csv/part-00002.csv").is_file());
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
pub struct PartedRun<'p> {
    plan: &'p Plan,
    request: RunRequest,
    as_of: Option<AsOfDate>,
    records: Records,
    /// The rows read from each file of records.
    ends: Vec<SourceEnd>,
    pieces: Vec<Piece>,
    part: Arc<PartJob>,
    /// What keys repeat, where that was looked for in a first run over the records.
    duplicates: Option<crate::keys::DuplicateSummary>,
    /// It ends before the folder is cleared away.
    heartbeat: Heartbeat,
    staging: Staging,
    receipt_place: PathBuf,
    /// The exceptions and the files of reports.
    outputs: Vec<Output>,
    files: Vec<File>,
}

/// How long the process that began a run may give no sign of life unless that is stated: a shared file system may show changes late.
const PATIENCE: Duration = Duration::from_secs(120);

/// What is heard from the workers on parts. See [`PartedRun`] for a run from its beginning to its end.
#[derive(Debug)]
pub enum Heard {
    /// What a [`PartWorker`](super::PartWorker) or a [`PartFile`] told.
    Told(Vec<u8>),
    /// A key that several rows have, with what is to be known of one of these: each of them is heard of.
    RepeatedKey {
        /// One of [`PartRows::keys`](super::PartRows::keys).
        key: Vec<u8>,
        /// What is next to it among the payloads.
        payload: Vec<u8>,
    },
}

/// How a run over all pieces ended.
#[allow(clippy::large_enum_variant)] // there is one of them in a run
pub enum PartedEnd<'p> {
    /// All outputs are in their places.
    Done(RunOutcome),
    /// Keys repeat, and it was decided what becomes of their rows: the pieces are to be worked on once more.
    Again(PartedRun<'p>),
}

impl<'p> PartedRun<'p> {
    /// Binds a plan to its records, reads these once from their first byte to their last, and cuts them into pieces of about a number of bytes each. Of a
    /// Parquet file as many groups of rows are in one as have so many, packed.
    ///
    /// # Errors
    /// Those of [`run`](crate::run()) that come before the first row; and [`RecordsError::Plan`] with the line for what is not done in parts: records
    /// that are neither CSV nor JSON Lines nor Parquet, and rows in other formats than these.
    pub fn begin(
        plan: &'p Plan,
        request: &RunRequest,
        bytes: usize,
        watch: Watch<'_>,
    ) -> Result<Self, RecordsError> {
        refusals::check(plan, request)?;
        let as_of = resolve_as_of(plan, request)?;
        let records = Records::of(plan, request, as_of)?;
        if let Some(file) = records.files.iter().find(|file| !SourceKind::of(&file.path).has_pieces()) {
            let what = format!("{} is not read in parts", file.name);
            return Err(RecordsError::request(what, "name files of CSV, JSON Lines or Parquet alone"));
        }
        let reader = records.open(&Reading { blocks: Blocks::Hashed, ..plan.reading() })?;
        let (mut job, to_join) = records.bind(plan, as_of, &reader)?;
        job.sample = request.sample;
        job.reading.remote = request.remote.clone();
        job.notes.extend_from_slice(reader.said());
        job.doubts.extend_from_slice(reader.doubts());
        let mut outputs = outputs_of(plan, as_of, &job, None);
        let receipt_place = receipt_place(plan, request, &outputs);
        check_outputs(&outputs, &receipt_place, plan, &records, &job)?;
        let mut staging = Staging::begin(&plan.path, &receipt_place, request.existing)?;
        // The exceptions are read back after their writer, as the first of the files.
        let rows = outputs.remove(0);
        let mut files = Vec::with_capacity(outputs.len());
        for output in &outputs {
            files.push(staging.create(&output.name, &output.place, request.existing)?);
        }
        let folder = staging.create_folder(&rows.name, &rows.place, request.existing)?;
        watch.check()?;
        let (scratch, check) = (scratch(&receipt_place), || watch.check());
        job.read_second_files(to_join, request.pace(records.bytes()).of_second_files(scratch, &check))?;
        let shape = reader.shape();
        let Surveyed { pieces, ends, blocks } = survey(&records, reader, bytes)?;
        let keys = if job.setting.layout.key.is_empty() { KeysWanted::No } else { KeysWanted::Yes };
        let of_records = records.files.iter().map(|file| {
            let is_path = !file.path.to_str().is_some_and(is_address);
            let path = std::path::absolute(&file.path).ok().filter(|_| is_path);
            (file.name.clone(), path.unwrap_or_else(|| file.path.clone()))
        });
        let bound = BoundPlan::of(plan, job, (of_records.collect(), blocks), shape)?;
        let folder = std::path::absolute(&folder).unwrap_or(folder);
        let heartbeat = Heartbeat::begin(&folder).map_err(RecordsError::file(&folder, "write there"))?;
        let patience = request.patience.unwrap_or(PATIENCE);
        let part =
            PartJob { bound: Arc::new(bound), folder, keys, decisions: Vec::new(), patience, pulse: None };
        Ok(Self {
            plan,
            request: request.clone(),
            as_of,
            records,
            ends,
            pieces,
            part: Arc::new(part),
            duplicates: None,
            heartbeat,
            staging,
            receipt_place,
            outputs,
            files,
        })
    }

    /// The pieces of all files, in the order of the files and of their rows; each is to be worked on once.
    #[must_use]
    pub fn pieces(&self) -> &[Piece] {
        &self.pieces
    }

    /// All that the workers on pieces need to know, for workers in this process.
    #[must_use]
    pub fn part(&self) -> &Arc<PartJob> {
        &self.part
    }

    /// Puts together what was heard, in whatever order, proves it, and puts the outputs in their places; the report that people get is drawn by the
    /// caller, where the plan names one.
    ///
    /// # Errors
    /// Those of [`run`](crate::run()); what was in the places of outputs is there still.
    pub fn finish(
        mut self,
        heard: impl IntoIterator<Item = Result<Heard, RecordsError>>,
        draw: Option<DrawReport<'_>>,
        watch: Watch<'_>,
    ) -> Result<PartedEnd<'p>, RecordsError> {
        check_drawn(self.plan, draw)?;
        let part = Arc::clone(&self.part);
        let job = &part.bound.job;
        let scratch = scratch(&self.receipt_place).to_owned();
        let mut all = Together::new(job, &part, &scratch)?;
        let mut keys = part.tells_keys().then(|| RepeatedKeys::new(&scratch));
        for one in heard {
            watch.check()?;
            match (one?, &mut keys) {
                (Heard::Told(told), _) => all.take(job, Told::of_bytes(&told)?)?,
                (Heard::RepeatedKey { key, payload }, Some(keys)) => {
                    keys.take(&key, &payload).map_err(RecordsError::file(&scratch, SORT_KEYS))?;
                }
                (Heard::RepeatedKey { .. }, None) => {
                    let what = "a key came back that no part had".to_owned();
                    return Err(RecordsError::Proof { what });
                }
            }
        }
        let totals = all.worker.total_rows.find(job);
        let left_out = total_rows::left_out(job, &totals);
        let mut decisions = None;
        if let Some(keys) = keys {
            let keys = keys.in_order().map_err(RecordsError::file(&scratch, SORT_KEYS))?;
            let found = find_repeats(job, keys, &scratch, watch.interrupted)?;
            if found.summary.rows > 0 {
                match job.duplicates {
                    None if job.reports.is_empty() => {}
                    None => return Err(found.summary.undecided(job.key_setting())),
                    Some(Duplicates::Keep) => {}
                    Some(_) => decisions = Some(found.decisions),
                }
                self.duplicates = Some(found.summary);
            }
        }
        // In the second pass they are left out already, so nothing is decided twice.
        if decisions.is_some() || !left_out.is_empty() {
            let decisions = decisions.unwrap_or_else(Decisions::none).and_left_out(left_out);
            let decisions = decisions.all().map_err(RecordsError::file(&scratch, SORT_KEYS))?;
            all.clear_files()?;
            let folder = part.folder.clone();
            let bound = Arc::clone(&part.bound);
            let patience = part.patience;
            self.part =
                Arc::new(PartJob { bound, folder, keys: KeysWanted::No, decisions, patience, pulse: None });
            return Ok(PartedEnd::Again(self));
        }
        self.write(&part, all, (draw, watch)).map(PartedEnd::Done)
    }

    /// Writes what is not written yet, proves all of it, and puts it in its place.
    fn write(
        mut self,
        part: &Arc<PartJob>,
        all: Together<'_>,
        (draw, watch): (Option<DrawReport<'_>>, Watch<'_>),
    ) -> Result<RunOutcome, RecordsError> {
        let job = &part.bound.job;
        let Together { mut worker, sums, exceptions, files, .. } = all;
        open_figures(part, &self.pieces, &mut worker)?;
        let rows = self.name_files(part, files)?;
        // While the records are read nothing but the exceptions is read back here.
        let (of_exceptions, of_reports) = self.outputs.split_at(1);
        let report_files = self.files.split_off(1);
        let writing =
            Writing { outputs: of_exceptions, staging: &self.staging, scratch: scratch(&self.receipt_place) };
        let mut behind = ReadBehind::begin(job, writing, NonZeroUsize::MIN)?;
        let lacks = || RecordsError::Proof { what: "the exceptions are not written".to_owned() };
        let (output, file) = of_exceptions.first().zip(self.files.pop()).ok_or_else(lacks)?;
        let progress = behind.progress().into_iter().next().ok_or_else(lacks)?;
        let sink = OutputSink::begin(output, (file, self.staging.part(0)), &exception_schema(), progress)?;
        let mut sink = ExceptionSink::new(&job.setting.layout, sink, job.merged_rows);
        sink.write_of_second_files(job)?;
        write_in_order(exceptions, scratch(&self.receipt_place), &mut sink)?;
        sink.write_unmatched(job, &worker.joined, scratch(&self.receipt_place))?;
        let counted = Counted {
            rows_read: self.ends.iter().map(|end| end.rows).sum(),
            input: self.ends.clone(),
            written: rows.iter().map(|(_, file)| (Holds::Rows, file.written)).collect(),
            sums_written: sums,
        };
        let mut result = PassResult::of(job, worker, sink, counted, None)?;
        behind.closed()?;
        self.records.check_unchanged(self.plan)?;
        job.other_files.iter().try_for_each(crate::join::OtherFile::check_unchanged)?;
        for calendar in &job.setting.calendars {
            calendar.opened.files.iter().try_for_each(InputFile::check_unchanged)?;
        }
        let mut read_back = behind.finish(result.exception_rows_set_aside, watch)?;
        read_back.sums = sums_of(&part.bound.rows, &rows)?;
        let of_rows = rows.iter().map(|(_, file)| FileReadBack {
            holds: Holds::Rows,
            end: file.end.clone(),
            is_untouched: true,
        });
        let of_exceptions_read = std::mem::take(&mut read_back.files);
        read_back.files = of_rows.chain(of_exceptions_read).collect();
        let written = result.written.clone();
        let outputs: Vec<Output> =
            rows.iter().map(|(output, _)| output.clone()).chain(of_exceptions.iter().cloned()).collect();
        result.duplicates = None;
        let mut outcome = outcome(self.plan, job, &self.records, &outputs, result, &read_back)?;
        outcome.duplicates = self.duplicates.map(|summary| summary.as_sentence(job.key_setting()));
        outcome.receipt.clone_from(&self.receipt_place);
        proof::check(&outcome, &written, &read_back)?;
        let of_reports = of_reports.iter().zip(report_files).zip(1..);
        write_reports(&mut outcome, self.plan, &self.staging, of_reports, (draw, watch))?;
        let entry = receipt_entry(&outcome, said(self.as_of), self.plan.folder());
        watch.check()?;
        // Its file is in the folder that goes now.
        drop(self.heartbeat);
        self.staging.commit(entry, self.request.existing)?;
        Ok(outcome)
    }

    /// Gives the files of rows the names that they keep, in their order; where there are none, one without rows is written.
    fn name_files(
        &self,
        part: &Arc<PartJob>,
        mut files: Vec<WrittenPart>,
    ) -> Result<Vec<(Output, WrittenPart)>, RecordsError> {
        if files.is_empty()
            && let Told::File(none) = Told::of_bytes(&PartFile::create(part, 0, "none")?.finish()?)?
        {
            files.push(none);
        }
        files.sort_by_key(|file| file.number);
        if let Some(pair) = files.windows(2).find(|pair| pair[0].number == pair[1].number) {
            let what = format!("the rows of part {} were written twice", pair[0].number);
            return Err(RecordsError::Proof { what });
        }
        let rows = &part.bound.rows;
        let mut named = Vec::with_capacity(files.len());
        for (nth, file) in files.into_iter().enumerate() {
            let name = format!("part-{nth:05}.{}", ending(part));
            let failed = || RecordsError::file(&file.path, "give it its name");
            let facts = FileFacts::of(&std::fs::metadata(&file.path).map_err(failed())?);
            if facts.bytes != file.end.fingerprint.bytes {
                return Err(changed(&file.path));
            }
            std::fs::rename(&file.path, part.folder.join(&name)).map_err(failed())?;
            let output =
                Output { name: name_in(&rows.name, &name), place: rows.place.join(&name), ..rows.clone() };
            named.push((output, file));
        }
        // What attempts left that were given up is next to them.
        for entry in
            std::fs::read_dir(&part.folder).map_err(RecordsError::file(&part.folder, "look into it"))?
        {
            let path = entry.map_err(RecordsError::file(&part.folder, "look into it"))?.path();
            let is_named = path.file_name().is_some_and(|name| name.to_string_lossy().starts_with("part-"));
            if !is_named {
                std::fs::remove_file(&path).map_err(RecordsError::file(&path, "clear it away"))?;
            }
        }
        Ok(named)
    }
}

/// All files of records, read from their first byte to their last.
#[derive(Default)]
struct Surveyed {
    pieces: Vec<Piece>,
    ends: Vec<SourceEnd>,
    /// For each file.
    blocks: Vec<Arc<BlockHashes>>,
}

/// Cuts the files of records into pieces.
fn survey(records: &Records, reader: Sources, bytes: usize) -> Result<Surveyed, RecordsError> {
    let mut surveyed = Surveyed::default();
    for (file, survey) in records.files.iter().zip(reader.survey(bytes.max(1))?) {
        let Some(Survey { pieces, end, blocks }) = survey else {
            let what = format!("{} is not read in parts", file.name);
            return Err(RecordsError::request(what, "name files of CSV, JSON Lines or Parquet alone"));
        };
        surveyed.pieces.extend(pieces);
        surveyed.ends.push(end);
        surveyed.blocks.push(Arc::new(blocks));
    }
    Ok(surveyed)
}

/// The folder that is sorted in.
fn scratch(receipt_place: &Path) -> &Path {
    receipt_place.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."))
}
