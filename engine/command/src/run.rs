//! `mild-engine run PLAN`.

use crate::arguments::RunArguments;
use crate::cluster;
use crate::ending::{Ending, Failure, say_error, width};
use mild_ledger_engine::PlanEngine;
use mild_ledger_records::{ExistingFiles, Plan, RunRequest, Watch};
use mild_ledger_report::{drawn, json, terminal};
use std::io::{self, Write};
use std::num::NonZeroUsize;
use std::sync::Arc;
use std::sync::atomic::AtomicBool;
use std::time::Duration;

/// Partitions on a cluster, whose cores no one here knows: enough that several executors have some each.
const ON_A_CLUSTER: NonZeroUsize = NonZeroUsize::new(16).unwrap();

pub(crate) fn run(arguments: &RunArguments) -> Result<Ending, Failure> {
    let plan = Plan::read(&arguments.plan)?;
    let request = request_of(&plan, arguments)?;
    let interrupted = Arc::new(AtomicBool::new(false));
    for signal in [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM] {
        signal_hook::flag::register(signal, Arc::clone(&interrupted))?;
    }
    let runtime = tokio::runtime::Runtime::new()?;
    let engine = match &arguments.cluster {
        None => {
            let cores = || std::thread::available_parallelism().unwrap_or(NonZeroUsize::MIN);
            PlanEngine::in_this_process(runtime.handle().clone(), arguments.partitions.unwrap_or_else(cores))
        }
        Some(scheduler) => {
            let partitions = arguments.partitions.unwrap_or(ON_A_CLUSTER);
            let session = runtime.block_on(cluster::session(scheduler, partitions))?;
            PlanEngine::of_session(session, runtime.handle().clone(), partitions)
                .with_patience(Duration::from_secs(arguments.give_up_after))
        }
    };
    let engine = engine.with_pieces_of(arguments.pieces_of);
    let watch = Watch { interrupted: &interrupted, progress: &|_| {} };
    let outcome = engine.run(&plan, &request, Some(&drawn), watch)?;
    let text = if arguments.json {
        format!("{}\n", json::run(&outcome))
    } else {
        terminal::run(&outcome, terminal::RunDetail::Short, width())
    };
    let mut out = io::stdout().lock();
    match out.write_all(text.as_bytes()).and_then(|()| out.flush()) {
        Err(error) if error.kind() != io::ErrorKind::BrokenPipe => return Err(error.into()),
        _ => {}
    }
    let missed: Vec<&str> = outcome
        .control
        .iter()
        .filter(|control| !control.agrees())
        .map(|control| control.of.as_str())
        .collect();
    if missed.is_empty() {
        return Ok(Ending::Done);
    }
    say_error(&format!("the control total of {} was missed", missed.join(" and ")));
    Ok(Ending::CheckMissed)
}

fn request_of(plan: &Plan, arguments: &RunArguments) -> Result<RunRequest, Failure> {
    let existing = if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep };
    let mut request = RunRequest::new().with_existing(existing).with_sample(arguments.sample.into());
    request = request.with_patience(Duration::from_secs(arguments.gone_after));
    if let Some(text) = &arguments.as_of {
        let as_of = text.parse().map_err(|error: mild_ledger::Error| Failure::Request {
            what: format!("--as-of: {}", error.what()),
            help: format!("expected {}", error.allowed()),
        })?;
        request = request.with_as_of(as_of);
    }
    for records in &arguments.records {
        request = request.with_records(records);
    }
    if plan.needs_clock(&request) {
        return Err(Failure::Request {
            what: "the as-of date is counted from today, which machines of a cluster may not agree on"
                .to_owned(),
            help: "give a date: --as-of 2026-09-30".to_owned(),
        });
    }
    Ok(request)
}
