//! The object of `mild verify --json`.

use super::to_text;
use mild_ledger_records::{
    AgainState, FileAgain, FileRole, FileState, RunAgain, Verified, VerifiedFile, VerifiedRun,
};
use serde::Serialize;

/// The object of `mild verify --json`, in one line: the runs of the receipt with their files, and whether all are as recorded.
#[must_use]
pub fn verified(found: &Verified, again: Option<&[RunAgain]>) -> String {
    let differs = again.unwrap_or_default().iter().any(|run| !run.differing().is_empty());
    to_text(&Object {
        receipt: found.receipt.display().to_string(),
        plan: found.plan.as_deref(),
        agrees: found.agrees() && !differs,
        runs: found.runs.iter().map(run).collect(),
        again: again.map(|runs| runs.iter().map(run_again).collect()),
    })
}

fn run(run: &VerifiedRun) -> Run<'_> {
    Run { as_of: &run.as_of, title: &run.title, files: run.files.iter().map(file).collect() }
}

fn run_again(run: &RunAgain) -> Again<'_> {
    let file = |file: &'_ FileAgain| {
        let (comes_out, first_line) = match file.state {
            AgainState::TheSame => ("the same", None),
            AgainState::Differs { first_line } => ("another", first_line),
            AgainState::NotWritten => ("not written", None),
            _ => ("no file", None),
        };
        ComesOut { file: file.file.clone(), comes_out, first_line }
    };
    Again { as_of: &run.as_of, files: run.files.iter().map(file).collect() }
}

fn file(file: &VerifiedFile) -> File<'_> {
    let (now, bytes_now) = match file.state {
        FileState::AsRecorded => ("as recorded", Some(file.bytes)),
        FileState::Changed(bytes) => ("changed", Some(bytes)),
        FileState::Missing => ("missing", None),
        FileState::UnknownHash => ("unknown hash", None),
        FileState::NotAFile => ("not a file", None),
        _ => ("no file", None),
    };
    let role = match file.role {
        FileRole::Input => "read",
        FileRole::Output => "written",
    };
    File { file: &file.file, role, bytes: file.bytes, now, bytes_now }
}

#[derive(Serialize)]
struct Object<'v> {
    receipt: String,
    plan: Option<&'v str>,
    agrees: bool,
    runs: Vec<Run<'v>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    again: Option<Vec<Again<'v>>>,
}

#[derive(Serialize)]
struct Again<'v> {
    as_of: &'v str,
    files: Vec<ComesOut>,
}

#[derive(Serialize)]
struct ComesOut {
    file: String,
    comes_out: &'static str,
    /// The line of the first byte that differs.
    first_line: Option<u64>,
}

#[derive(Serialize)]
struct Run<'v> {
    as_of: &'v str,
    title: &'v str,
    files: Vec<File<'v>>,
}

#[derive(Serialize)]
struct File<'v> {
    file: &'v str,
    role: &'static str,
    bytes: u64,
    now: &'static str,
    bytes_now: Option<u64>,
}
