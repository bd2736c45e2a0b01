//! What a run shows and leaves, be its rows in one file or in a folder of them, so that two runs can be held against each other.
#![allow(dead_code, unreachable_pub, clippy::unwrap_used, clippy::panic)] // each test file uses a part of it

use mild_ledger_records::{
    DrawReport, ExistingFiles, Plan, RecordsError, RunOutcome, RunRequest, Watch, run_and_draw,
};
use std::fs;
use std::path::Path;
use std::sync::atomic::AtomicBool;

/// A request that looks at a few rows, and overwrites what is there.
pub fn request() -> RunRequest {
    RunRequest::new().with_sample(3).with_existing(ExistingFiles::Overwrite)
}

/// What is in the report that people get: all that they may open.
pub fn drawn(outcome: &RunOutcome) -> Vec<u8> {
    format!("{:#?}\n{:#?}", outcome.added, outcome.reports).into_bytes()
}

/// What a run shows and leaves that `run` does of a plan by its name in a folder, or how it ends.
pub fn left_by(
    folder: &Path,
    plan: &str,
    run: impl FnOnce(&Plan, &RunRequest, DrawReport<'_>) -> Result<RunOutcome, RecordsError>,
) -> Vec<String> {
    let plan = Plan::read(&folder.join(plan)).unwrap();
    let mut outcome = match run(&plan, &request(), &|outcome, _| Ok(drawn(outcome))) {
        Ok(outcome) => outcome,
        Err(error) => return vec![error.to_string()],
    };
    let receipt = fs::read_to_string(&outcome.receipt).unwrap();
    assert!(receipt.contains("[[run.output]]"), "{receipt}");
    let mut shown = Vec::new();
    let mut rows = String::new();
    // The files of rows come first, the exceptions after them.
    let rest = outcome.outputs.iter().position(|file| file.name.contains("exceptions")).unwrap();
    let rest = outcome.outputs.split_off(rest);
    let of_rows = std::mem::take(&mut outcome.outputs);
    for (nth, file) in of_rows.iter().enumerate() {
        let part = fs::read_to_string(&file.path).unwrap();
        let is_csv = file.path.extension().is_some_and(|ending| ending == "csv");
        let header = if nth > 0 && is_csv { part.find('\n').map_or(part.len(), |end| end + 1) } else { 0 };
        rows.push_str(&part[header..]);
    }
    shown.push(format!("{outcome:#?}"));
    shown.push(rows);
    for file in &rest {
        shown.push(fs::read_to_string(&file.path).unwrap());
    }
    for file in of_rows.iter().chain(&rest) {
        let _ = fs::remove_file(&file.path);
        if let Some(folder) = file.path.parent().filter(|parent| *parent != folder) {
            let _ = fs::remove_dir(folder);
        }
    }
    fs::remove_file(&outcome.receipt).unwrap();
    shown
}

/// The plan run on one machine, as a whole.
pub fn as_a_whole(
    plan: &Plan,
    request: &RunRequest,
    draw: DrawReport<'_>,
) -> Result<RunOutcome, RecordsError> {
    run_and_draw(plan, request, watch(&AtomicBool::new(false)), draw)
}

/// A watcher of a run that shows nothing.
pub fn watch(interrupted: &AtomicBool) -> Watch<'_> {
    Watch { interrupted, progress: &|_| {} }
}

/// Fails at the first line that differs, since all of them are too many to read.
pub fn same(found: &[String], expected: &[String], what: &str) {
    assert_eq!(found.len(), expected.len(), "{what}: {found:#?}\nexpected {expected:#?}");
    for (found, expected) in found.iter().zip(expected) {
        let lines = || found.lines().zip(expected.lines());
        if let Some(nth) = lines().position(|(one, other)| one != other) {
            let before: Vec<&str> = found.lines().take(nth).collect();
            let before = before[before.len().saturating_sub(20)..].join("\n");
            let (one, other) = lines().nth(nth).unwrap();
            panic!("{what}, after\n{before}\nfound    {one}\nexpected {other}");
        }
        assert_eq!(found.lines().count(), expected.lines().count(), "{what}");
    }
}
