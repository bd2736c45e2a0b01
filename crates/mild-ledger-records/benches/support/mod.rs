//! What the benchmarks of whole runs share: plans run from their text, rows of CSV read as the floor reads them, and medians.

use csv_core::ReadRecordResult;
use mild_ledger_records::{ExistingFiles, Plan, RunOutcome, RunRequest, Watch, run};
use std::fs::{self, File};
use std::io::Read;
use std::path::Path;
use std::sync::atomic::AtomicBool;

pub(crate) type Anything = Box<dyn std::error::Error>;

/// Times of which the middle one is reported.
pub(crate) const ROUNDS: usize = 5;

pub(crate) fn median(times: &mut [f64]) -> f64 {
    times.sort_by(f64::total_cmp);
    times[times.len() / 2]
}

/// Runs a plan that is in a folder.
pub(crate) fn run_plan(folder: &Path, plan: &str, request: RunRequest) -> Result<RunOutcome, Anything> {
    let path = folder.join("plan.toml");
    fs::write(&path, plan)?;
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    Ok(run(&Plan::read(&path)?, &request.with_existing(ExistingFiles::Overwrite), watch)?)
}

/// Reads all cells of a file of CSV by one thread, some rows at a time; each row by its text and where its cells end.
pub(crate) fn each_row(
    records: &Path,
    mut row: impl FnMut(&[u8], &[usize]),
    mut after_some: impl FnMut() -> Result<(), Anything>,
) -> Result<(), Anything> {
    let mut parser = csv_core::Reader::new();
    let mut input = File::open(records)?;
    let (mut chunk, mut text, mut ends) = (vec![0; 256 << 10], vec![0; 1 << 16], vec![0; 64]);
    let (mut used, mut cells) = (0, 0);
    loop {
        let filled = input.read(&mut chunk)?;
        let mut at = 0;
        loop {
            let (result, read, wrote, ended) =
                parser.read_record(&chunk[at..filled], &mut text[used..], &mut ends[cells..]);
            at += read;
            used += wrote;
            cells += ended;
            match result {
                ReadRecordResult::Record => {
                    row(&text[..used], &ends[..cells]);
                    (used, cells) = (0, 0);
                }
                ReadRecordResult::InputEmpty | ReadRecordResult::End => break,
                full => return Err(format!("a row is larger than the floor's buffers: {full:?}").into()),
            }
        }
        after_some()?;
        if filled == 0 {
            return Ok(());
        }
    }
}
