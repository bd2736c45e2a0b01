//! The runs of a receipt once more, aside: whether they write the same again.

use super::{DrawReport, RunRequest, Watch, run_and_draw};
use crate::error::RecordsError;
use crate::files::{
    ExistingFiles, FileLine, Fingerprint, HashKind, RunEntry, STANDARD_OUTPUT, receipt_and_plan,
};
use crate::plan::{AsOf, Plan};
use std::fs::File;
use std::io::{self, BufReader, Read};
use std::path::{Path, PathBuf};

/// One run of a receipt, once more.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct RunAgain {
    /// Its as-of date, or `none`.
    pub as_of: String,
    /// What it wrote, in the order of the receipt.
    pub files: Vec<FileAgain>,
}

/// An output, and what came of it now.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct FileAgain {
    /// Its name, as the receipt has it.
    pub file: String,
    /// Whether it comes out the same.
    pub state: AgainState,
}

/// Whether an output comes out the same.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum AgainState {
    /// Byte for byte what the receipt recorded.
    TheSame,
    /// Another. The line of the first byte that differs from the file that is there, where that still is what was recorded.
    Differs {
        /// Counted from 1.
        first_line: Option<u64>,
    },
    /// The plan writes no such file now.
    NotWritten,
    /// It went to standard output, and cannot be compared.
    NoFile,
}

impl RunAgain {
    /// The files that do not come out the same.
    #[must_use]
    pub fn differing(&self) -> Vec<&FileAgain> {
        let differs =
            |file: &&FileAgain| matches!(file.state, AgainState::Differs { .. } | AgainState::NotWritten);
        self.files.iter().filter(differs).collect()
    }
}

/// Runs each run of a receipt once more, by the plan as it is now and from the files that are there now, into a folder of its own that is
/// gone afterwards; what each output comes to is compared with what the receipt recorded. Records that were named on the command line are to be named
/// again.
///
/// # Errors
/// Those of [`super::run`], and where the receipt is none or names no plan.
pub fn run_again(
    receipt: &Path,
    records: &[PathBuf],
    watch: Watch<'_>,
    draw: DrawReport<'_>,
) -> Result<Vec<RunAgain>, RecordsError> {
    let (found, plan) = receipt_and_plan(receipt)?;
    if found.plan().is_none() {
        let what = format!("{} does not say which plan it is of", receipt.display());
        return Err(RecordsError::request(what, "a receipt that a run of this version wrote"));
    }
    found.runs().iter().map(|entry| one_again(entry, &plan, records, watch, draw)).collect()
}

fn one_again(
    entry: &RunEntry,
    path: &Path,
    records: &[PathBuf],
    watch: Watch<'_>,
    draw: DrawReport<'_>,
) -> Result<RunAgain, RecordsError> {
    let aside = tempfile::tempdir().map_err(RecordsError::file(path, "make a folder to run it in"))?;
    let plan = Plan::read(path)?.with_outputs_in(aside.path());
    let mut request = RunRequest::new().with_existing(ExistingFiles::Overwrite);
    if entry.as_of != "none" {
        let as_of: AsOf = entry
            .as_of
            .parse()
            .map_err(|error: mild_ledger::Error| RecordsError::request(error.what(), error.allowed()))?;
        request = request.with_as_of(as_of);
    }
    for file in records {
        request = request.with_records(file);
    }
    let lines = || entry.output.iter().filter(|line| line.file != STANDARD_OUTPUT);
    for line in lines() {
        // Outputs may be in folders below that of the plan.
        if let Some(folder) = plan.output_place(&line.file).parent() {
            std::fs::create_dir_all(folder).map_err(RecordsError::file(folder, "make it"))?;
        }
    }
    run_and_draw(&plan, &request, watch, draw)?;
    let standing = path.parent().unwrap_or(Path::new(""));
    let file = |line: &FileLine| {
        let state = match line.file.as_str() {
            STANDARD_OUTPUT => AgainState::NoFile,
            name => state_of(line, &plan.output_place(name), &standing.join(name))?,
        };
        Ok(FileAgain { file: line.file.clone(), state })
    };
    let files = entry.output.iter().map(file).collect::<Result<_, RecordsError>>()?;
    Ok(RunAgain { as_of: entry.as_of.clone(), files })
}

fn state_of(line: &FileLine, now: &Path, standing: &Path) -> Result<AgainState, RecordsError> {
    let Some(kind) = HashKind::of_hash(&line.hash) else { return Ok(AgainState::NoFile) };
    let same = |found: &Fingerprint| found.bytes == line.bytes && found.hash == line.hash;
    match Fingerprint::of_file(now, kind) {
        Ok(found) if same(&found) => return Ok(AgainState::TheSame),
        Ok(_) => {}
        Err(error) if error.kind() == io::ErrorKind::NotFound => return Ok(AgainState::NotWritten),
        Err(error) => return Err(RecordsError::file(now, "read it")(error)),
    }
    let is_as_recorded = Fingerprint::of_file(standing, kind).is_ok_and(|found| same(&found));
    let first_line = match is_as_recorded {
        true => first_difference(now, standing).map_err(RecordsError::file(standing, "compare it"))?,
        false => None,
    };
    Ok(AgainState::Differs { first_line })
}

/// The line in which two files differ first; nothing for files that are not text.
fn first_difference(one: &Path, other: &Path) -> io::Result<Option<u64>> {
    let (mut one, mut other) =
        (BufReader::new(File::open(one)?).bytes(), BufReader::new(File::open(other)?).bytes());
    let mut line = 1;
    loop {
        match (one.next().transpose()?, other.next().transpose()?) {
            (Some(0), _) | (_, Some(0)) | (None, None) => return Ok(None),
            (first, second) if first != second => return Ok(Some(line)),
            (Some(b'\n'), _) => line += 1,
            _ => {}
        }
    }
}
