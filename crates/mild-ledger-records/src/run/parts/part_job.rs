//! All that a part of a run needs to know, wherever it is worked on.

use crate::columns::AsOfDate;
use crate::error::RecordsError;
use crate::files::{BlockHashes, Fingerprint, Pulse, Remote, RemoteFiles};
use crate::handover::{Saved, Saving};
use crate::keys::Decision;
use crate::plan::Plan;
use crate::run::RunRequest;
use crate::run::job::{Job, RecordsShape};
use crate::run::outputs::{Holds, Output, outputs_of};
use crate::run::worker::KeysWanted;
use crate::source::{NamedFile, Piece, Sources, SourcesShape, Stop};
use crate::table::RowId;
use arrow_schema::SchemaRef;
use mild_ledger::{Date, DateTime};
use serde::{Deserialize, Serialize};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Duration;

/// A plan bound to its records, of which pieces are worked on; [`PartedRun`](super::PartedRun) shows how.
pub struct PartJob {
    pub(super) bound: Arc<BoundPlan>,
    /// Where the files of rows are written until they get their place.
    pub(super) folder: PathBuf,
    pub(super) keys: KeysWanted,
    /// What was decided of rows of repeated keys, in the order of the rows.
    pub(super) decisions: Vec<(RowId, Decision)>,
    /// How long the process that began the run may give no sign of life.
    pub(super) patience: Duration,
    /// In another process than that one.
    pub(super) pulse: Option<Pulse>,
}

/// A plan bound to its records.
pub(super) struct BoundPlan {
    pub(super) plan: (PathBuf, String),
    pub(super) job: Job,
    pub(super) files: Vec<(String, PathBuf)>,
    /// By which the bytes of each file are known again.
    pub(super) blocks: Vec<Arc<BlockHashes>>,
    pub(super) file_column: Option<String>,
    pub(super) shape: SourcesShape,
    /// The columns of the rows that are written.
    pub(super) schema: SchemaRef,
    /// How the rows are written, under the name that the plan gives them.
    pub(super) rows: Output,
}

/// The same as it is sent to who binds the plan again.
#[derive(Serialize, Deserialize)]
struct Setting {
    plan: (PathBuf, String),
    as_of: Option<(Date, Option<DateTime>)>,
    files: Vec<(String, PathBuf)>,
    blocks: Vec<BlockHashes>,
    /// What the bytes of second files and of calendar files come to, each with its name.
    read_before_rows: Vec<(String, Fingerprint)>,
    shape: SourcesShape,
    sample: usize,
    folder: PathBuf,
    keys: KeysWanted,
    decisions: Vec<(RowId, Decision)>,
    patience: Duration,
}

impl PartJob {
    /// The setting as bytes, by which the plan is bound once more in another process, that sees the same files under the same names.
    ///
    /// # Errors
    /// [`RecordsError::Proof`] where it cannot be put into bytes.
    pub fn setting(&self) -> Result<Vec<u8>, RecordsError> {
        let BoundPlan { plan, job, files, blocks, shape, .. } = self.bound.as_ref();
        let setting = Setting {
            plan: plan.clone(),
            as_of: job.setting.as_of.map(|as_of| (as_of.date, as_of.at)),
            files: files.clone(),
            blocks: blocks.iter().map(|blocks| blocks.as_ref().clone()).collect(),
            read_before_rows: job.read_before_rows(),
            shape: shape.clone(),
            sample: job.sample,
            folder: self.folder.clone(),
            keys: self.keys,
            decisions: self.decisions.clone(),
            patience: self.patience,
        };
        let mut saving = Saving::default();
        saving.put(&setting)?;
        Ok(saving.into_bytes())
    }

    /// The job of a [`setting`](Self::setting), and who reads records that are at addresses, where there are some. Calendars and second files are read here.
    ///
    /// # Errors
    /// Those of [`run`](crate::run()) that come before the first row, such as a second file that is not there on this machine.
    pub fn open(setting: &[u8], remote: Option<Arc<dyn RemoteFiles>>) -> Result<Self, RecordsError> {
        let Setting {
            plan,
            as_of,
            files,
            blocks,
            read_before_rows,
            shape,
            sample,
            folder,
            keys,
            decisions,
            patience,
        } = Saved::new(setting).take()?;
        let (path, text) = &plan;
        let parsed = Plan::of_text(text, path)?;
        let as_of = as_of.map(|(date, at)| AsOfDate { date, at });
        let names = files.iter().map(|(name, _)| name.clone()).collect();
        let (mut job, to_read) = Job::bind(
            &parsed,
            as_of,
            RecordsShape {
                sources: names,
                header: &shape.columns,
                types: &shape.types,
                unread: Vec::new(),
                stop: Stop::default(),
            },
        )?;
        job.sample = sample;
        job.reading.remote = remote.map(Remote::by).unwrap_or_default();
        let pace = RunRequest::new().pace(0);
        job.read_second_files(to_read, pace.of_second_files(&std::env::temp_dir(), &|| Ok(())))?;
        check_the_same(&job.read_before_rows(), &read_before_rows)?;
        let blocks = blocks.into_iter().map(Arc::new).collect();
        let bound = BoundPlan::of(&parsed, job, (files, blocks), shape)?;
        let pulse = Pulse::watch(&folder, patience).map_err(|error| RecordsError::no_thread(&error))?;
        Ok(Self { bound: Arc::new(bound), folder, keys, decisions, patience, pulse: Some(pulse) })
    }

    /// The columns of the rows that are written, as [`PartRows`](super::PartRows) has them.
    #[must_use]
    pub fn schema(&self) -> SchemaRef {
        Arc::clone(&self.bound.schema)
    }

    /// Whether rows are written in an order of the plan, and not in that of the records.
    #[must_use]
    pub fn is_ordered(&self) -> bool {
        !self.bound.job.order_by.is_empty()
    }

    /// Whether the keys of rows are reported, so that repeated ones are found.
    #[must_use]
    pub fn tells_keys(&self) -> bool {
        self.keys == KeysWanted::Yes
    }

    /// That the process which began the run still is there.
    pub(super) fn check_begun(&self) -> Result<(), RecordsError> {
        if self.pulse.as_ref().is_some_and(Pulse::is_gone) {
            let what = format!(
                "the process that began the run gave no sign of life for {} seconds",
                self.patience.as_secs()
            );
            return Err(RecordsError::request(what, "its folder was cleared away; begin the run again"));
        }
        Ok(())
    }

    /// The rows of a piece.
    pub(super) fn open_piece(&self, piece: &Piece) -> Result<Sources, RecordsError> {
        let BoundPlan { job, files, blocks, file_column, shape, .. } = self.bound.as_ref();
        let named: Vec<NamedFile<'_>> = files.iter().map(|(name, path)| NamedFile { name, path }).collect();
        Sources::of_piece(&named, &job.reading, (shape, file_column.as_deref()), (piece, blocks))
    }

    /// Where a piece comes from.
    pub(super) fn path_of(&self, piece: &Piece) -> &Path {
        self.bound.files.get(piece.source).map_or(Path::new(""), |(_, path)| path)
    }
}

/// That second files and calendars are here what they are where the run was begun.
fn check_the_same(
    here: &[(String, Fingerprint)],
    there: &[(String, Fingerprint)],
) -> Result<(), RecordsError> {
    if here.len() != there.len() {
        let what =
            format!("{} second files and calendars were read here, and {} there", here.len(), there.len());
        return Err(RecordsError::Proof { what });
    }
    let Some(((name, here), (_, there))) = here.iter().zip(there).find(|(here, there)| here != there) else {
        return Ok(());
    };
    Err(RecordsError::request(
        format!(
            "{name} is not the file that the run hashed: {} bytes with {} here, {} bytes with {} there",
            here.bytes, here.hash, there.bytes, there.hash
        ),
        "every process of the run must see the same files",
    ))
}

impl BoundPlan {
    pub(super) fn of(
        plan: &Plan,
        job: Job,
        (files, blocks): (Vec<(String, PathBuf)>, Vec<Arc<BlockHashes>>),
        shape: SourcesShape,
    ) -> Result<Self, RecordsError> {
        let schema = job.schema(&shape.columns)?;
        let rows = outputs_of(plan, job.setting.as_of, &job, None);
        let rows = rows.into_iter().find(|output| output.holds == Holds::Rows);
        let lacks = || RecordsError::Proof { what: "the rows have no output".to_owned() };
        let path = std::path::absolute(&plan.path).unwrap_or_else(|_| plan.path.clone());
        Ok(Self {
            plan: (path, plan.source.clone()),
            job,
            files,
            blocks,
            file_column: plan.file_column.as_ref().map(|column| column.value.clone()),
            shape,
            schema,
            rows: rows.ok_or_else(lacks)?,
        })
    }
}
