//! Whether the files of a receipt still are what its runs recorded.

use super::receipt::{FileLine, Receipt, RunEntry, STANDARD_OUTPUT};
use super::staging::folder_of;
use super::{Fingerprint, HashKind, is_address};
use crate::error::RecordsError;
use std::io;
use std::path::{Path, PathBuf};

/// What became of the files of a receipt.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Verified {
    /// The receipt.
    pub receipt: PathBuf,
    /// The plan that it is of, as a path from its folder; nothing in receipts of the first version.
    pub plan: Option<String>,
    /// Its runs, by their as-of dates.
    pub runs: Vec<VerifiedRun>,
}

/// The files of one run.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct VerifiedRun {
    /// Its as-of date, or `none`.
    pub as_of: String,
    /// The title of the plan.
    pub title: String,
    /// What it read, and then what it wrote.
    pub files: Vec<VerifiedFile>,
}

/// One file.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct VerifiedFile {
    /// Its name, as the receipt has it.
    pub file: String,
    /// What it was to the run.
    pub role: FileRole,
    /// How many bytes it had then.
    pub bytes: u64,
    /// What it is now.
    pub state: FileState,
}

/// What a file was to a run.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FileRole {
    /// The plan, records, a second file or a calendar.
    Input,
    /// The rows, the exceptions or a report.
    Output,
}

/// What a file is now.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub enum FileState {
    /// Byte for byte what it was.
    AsRecorded,
    /// Another, of a number of bytes.
    Changed(u64),
    /// There is none of that name.
    Missing,
    /// Its hash was recorded by a function that this version does not know, so that nothing is known of it.
    UnknownHash,
    /// A folder, a pipe or a device has its name.
    NotAFile,
    /// It is not a file whose bytes could be compared: a server, or standard output.
    NoFile,
}

impl Verified {
    /// The files that are not what was recorded, or of which that is not known, in all runs.
    #[must_use]
    pub fn differing(&self) -> Vec<&VerifiedFile> {
        let is_fine = |state: &FileState| matches!(state, FileState::AsRecorded | FileState::NoFile);
        self.files().filter(|file| !is_fine(&file.state)).collect()
    }

    /// How many files were read again.
    #[must_use]
    pub fn read_again(&self) -> usize {
        self.files()
            .filter(|file| matches!(file.state, FileState::AsRecorded | FileState::Changed(_)))
            .count()
    }

    /// Whether files were read again, and all of them are what was recorded.
    #[must_use]
    pub fn agrees(&self) -> bool {
        self.read_again() > 0 && self.differing().is_empty()
    }

    /// The files of all runs.
    fn files(&self) -> impl Iterator<Item = &VerifiedFile> {
        self.runs.iter().flat_map(|run| &run.files)
    }
}

/// Reads every file of a receipt's runs again and compares its bytes with what was recorded, by their hash. Of each as-of date the receipt
/// has the latest run.
///
/// # Errors
/// [`RecordsError::Missing`] where the receipt does not exist, [`RecordsError::Request`] where the file is not one, [`RecordsError::File`] where it
/// or one of the files that are there cannot be read.
///
/// ```
/// use mild_ledger_records::{RecordsError, verify};
/// assert!(matches!(verify("none.receipt.toml".as_ref()), Err(RecordsError::Missing { .. })));
/// ```
pub fn verify(receipt: &Path) -> Result<Verified, RecordsError> {
    let (found, plan) = receipt_and_plan(receipt)?;
    let folder = folder_of(&plan);
    Ok(Verified {
        receipt: receipt.to_owned(),
        plan: found.plan().map(ToOwned::to_owned),
        runs: found.runs().iter().map(|run| verified_run(run, folder)).collect::<Result<_, _>>()?,
    })
}

/// The receipt, and where the plan is that it is of.
pub(crate) fn receipt_and_plan(receipt: &Path) -> Result<(Receipt, PathBuf), RecordsError> {
    if !receipt.exists() {
        let help = "name the receipt that a run wrote next to its outputs, PLAN.receipt.toml".to_owned();
        return Err(RecordsError::Missing { path: receipt.to_owned(), help });
    }
    let found = Receipt::read(receipt).map_err(|error| match error {
        RecordsError::InTheWay { path, why } => RecordsError::request(
            format!("{} {why}", path.display()),
            "name the receipt that a run wrote next to its outputs, PLAN.receipt.toml",
        ),
        other => other,
    })?;
    // Names are those of the plan, and start from its folder.
    let plan = folder_of(receipt).join(found.plan().unwrap_or_default());
    Ok((found, plan))
}

fn verified_run(run: &RunEntry, folder: &Path) -> Result<VerifiedRun, RecordsError> {
    let file = |line: &FileLine, role: FileRole| {
        Ok(VerifiedFile { file: line.file.clone(), role, bytes: line.bytes, state: state_of(line, folder)? })
    };
    let inputs = run.input.iter().map(|line| file(line, FileRole::Input));
    let outputs = run.output.iter().chain(&run.earlier_output).map(|line| file(line, FileRole::Output));
    Ok(VerifiedRun {
        as_of: run.as_of.clone(),
        title: run.title.clone(),
        files: inputs.chain(outputs).collect::<Result<_, RecordsError>>()?,
    })
}

fn state_of(line: &FileLine, folder: &Path) -> Result<FileState, RecordsError> {
    if line.file == STANDARD_OUTPUT || is_address(&line.file) {
        return Ok(FileState::NoFile);
    }
    let Some(kind) = HashKind::of_hash(&line.hash) else { return Ok(FileState::UnknownHash) };
    let path = folder.join(&line.file);
    // A pipe or a device would never end, so the file is looked at before it is opened.
    let facts = match std::fs::metadata(&path) {
        Ok(facts) => facts,
        Err(error) if error.kind() == io::ErrorKind::NotFound => return Ok(FileState::Missing),
        Err(error) => return Err(RecordsError::file(&path, "read it")(error)),
    };
    if !facts.is_file() {
        return Ok(FileState::NotAFile);
    }
    match Fingerprint::of_file(&path, kind) {
        Ok(now) if now.bytes == line.bytes && now.hash == line.hash => Ok(FileState::AsRecorded),
        Ok(now) => Ok(FileState::Changed(now.bytes)),
        Err(error) => Err(RecordsError::file(&path, "read it")(error)),
    }
}
