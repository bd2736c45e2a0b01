//! Running the plan of a folder.
#![allow(dead_code, unreachable_pub)] // each test file uses a part of it

use mild_ledger_records::{
    DrawReport, ExistingFiles, Plan, RecordsError, RunOutcome, RunRequest, Watch, run_and_draw,
};
use std::num::NonZeroUsize;
use std::path::Path;
use std::sync::atomic::AtomicBool;

/// What `plan.toml` of a folder comes to.
pub fn run_with(folder: &Path, request: &RunRequest) -> Result<RunOutcome, RecordsError> {
    let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
    // Who draws the report of a plan that names one shows all that was found.
    let draw: DrawReport<'_> = &|outcome, _| Ok(left::drawn(outcome));
    run_and_draw(&Plan::read(&folder.join("plan.toml"))?, request, watch, draw)
}

/// A request that overwrites outputs and is worked on by that many.
pub fn by_workers(workers: usize) -> RunRequest {
    let workers = NonZeroUsize::new(workers).unwrap_or(NonZeroUsize::MIN);
    RunRequest::new().with_existing(ExistingFiles::Overwrite).with_workers(workers)
}

pub mod left;
pub mod parts;
pub mod random_plans;
