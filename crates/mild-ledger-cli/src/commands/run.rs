//! `mild run PLAN`.

use crate::arguments::RunArguments;
use crate::clock;
use crate::dates::read_zone;
use crate::ending::{Ending, Failure};
use crate::output::{to_standard_error, to_standard_output, width};
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use mild_ledger_records::{AsOf, ExistingFiles, Plan, RunRequest, Watch};
use mild_ledger_report::{json, terminal};
use std::sync::Arc;
use std::sync::atomic::AtomicBool;

pub(crate) fn run(arguments: &RunArguments) -> Result<Ending, Failure> {
    let as_of = match &arguments.as_of {
        Some(text) => Some(text.parse::<AsOf>().map_err(|error| Failure::Argument {
            name: "--as-of",
            error,
            help: None,
        })?),
        None => None,
    };
    let plan = Plan::read(&arguments.plan)?;
    let zone = read_zone(arguments.zone.as_deref())?;
    let today = clock::today(zone.as_ref());
    let request = RunRequest {
        as_of,
        today: today.date,
        records: arguments.records.clone(),
        existing: if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep },
    };
    let interrupted = stop_on_signals();
    let bar = progress_bar();
    let progress = |read: u64, total: u64| {
        bar.set_length(total);
        bar.set_position(read);
    };
    let outcome =
        mild_ledger_records::run(&plan, &request, Watch { interrupted: &interrupted, progress: &progress });
    bar.finish_and_clear();
    let outcome = outcome?;
    if plan.is_as_of_named(&request) {
        to_standard_error(&format!(
            "mild: as of {}, today being {} in {}\n",
            outcome.as_of, today.date, today.zone
        ));
    }
    let text =
        if arguments.json { format!("{}\n", json::run(&outcome)) } else { terminal::run(&outcome, width()) };
    to_standard_output(&text)?;
    if arguments.strict && outcome.rows.set_aside > 0 {
        let rows = if outcome.rows.set_aside == 1 { "row was" } else { "rows were" };
        to_standard_error(&format!(
            "mild: {} {rows} set aside, and --strict asks for none\n",
            outcome.rows.set_aside
        ));
        return Ok(Ending::RowsSetAside);
    }
    Ok(Ending::Done)
}

/// Set by the first interrupt or request to end; a second one ends the command at once.
fn stop_on_signals() -> Arc<AtomicBool> {
    let interrupted = Arc::new(AtomicBool::new(false));
    for signal in [signal_hook::consts::SIGINT, signal_hook::consts::SIGTERM] {
        // Registered first, so that it sees the flag as the first signal left it. Without handlers the signal
        // ends the command, and the next run clears up.
        let _ = signal_hook::flag::register_conditional_shutdown(signal, 130, Arc::clone(&interrupted));
        let _ = signal_hook::flag::register(signal, Arc::clone(&interrupted));
    }
    interrupted
}

/// A bar on standard error, if that is a terminal.
fn progress_bar() -> ProgressBar {
    let bar = ProgressBar::with_draw_target(None, ProgressDrawTarget::stderr_with_hz(5));
    match ProgressStyle::with_template("reading {bar:40} {percent} %") {
        Ok(style) => bar.with_style(style),
        Err(_) => bar,
    }
}
