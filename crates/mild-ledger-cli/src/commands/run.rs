//! `mild run PLAN`.

use super::planned::{self, Planned};
use super::progress::{Progress, stop_on_signals};
use crate::arguments::RunArguments;
use crate::ending::{Ending, Failure};
use crate::output::{all_to_standard_output, note, to_standard_error, to_standard_output};
use crate::terminal::{width, width_of_errors};
use mild_ledger_records::{ExistingFiles, RunOutcome, Watch};
use mild_ledger_report::terminal::{RunDetail, lines};
use mild_ledger_report::{drawn, json, terminal};

pub(crate) fn run(arguments: &RunArguments) -> Result<Ending, Failure> {
    let Planned { plan, request, now } = planned::read(&arguments.plan)?;
    if let Some(key) = &arguments.row {
        return explain(key, arguments.json, &Planned { plan, request, now });
    }
    let existing = if arguments.overwrite { ExistingFiles::Overwrite } else { ExistingFiles::Keep };
    let request = request.with_existing(existing).with_sample(arguments.sample.into());
    let request = match &arguments.receipt {
        Some(receipt) => request.with_receipt(receipt),
        None => request,
    };
    // The option leaves no file: the other outputs of the plan go to a folder that is removed.
    let aside = if arguments.stdout { Some(tempfile::tempdir()?) } else { None };
    let plan = match &aside {
        Some(aside) => plan.with_rows_to_standard_output().with_outputs_in(aside.path()),
        None => plan,
    };
    let interrupted = stop_on_signals();
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let outcome = mild_ledger_records::run_and_draw(
        &plan,
        &request,
        Watch { interrupted: &interrupted, progress: &progress },
        &drawn,
    );
    bar.finish();
    let mut outcome = outcome?;
    if aside.is_some() {
        outcome.forget_files();
        outcome.receipt = arguments.receipt.clone().unwrap_or_default();
    }
    if let (Some(now), Some(as_of)) = (&now, outcome.as_of) {
        note(&format!("as of {as_of}, today being {} in {}", now.at.date(), now.zone));
    }
    // Where rows go to standard output, nothing else does.
    let wide = if outcome.held_rows.is_some() { width_of_errors() } else { width() };
    let detail = if arguments.details { RunDetail::Full } else { RunDetail::Short };
    let text = match arguments.json {
        true => format!("{}\n", json::run(&outcome)),
        false => terminal::run(&outcome, detail, wide),
    };
    match &outcome.held_rows {
        None => to_standard_output(&text)?,
        Some(rows) => {
            // No claim is printed before all rows are written.
            all_to_standard_output(|out| rows.copy_to(out).map(drop))?;
            to_standard_error(&text);
        }
    }
    let control: Vec<&str> = outcome
        .control
        .iter()
        .filter(|control| !control.agrees())
        .map(|control| control.of.as_str())
        .collect();
    if !control.is_empty() {
        let said = format!("error: the control total of {} was missed", control.join(" and "));
        to_standard_error(&lines(&said, width_of_errors()));
        return Ok(Ending::CheckMissed);
    }
    if let Some(said) = missed(&outcome).filter(|_| arguments.strict) {
        to_standard_error(&lines(&format!("error: {said}, and --strict asks for none"), width_of_errors()));
        return Ok(Ending::CheckMissed);
    }
    Ok(Ending::Done)
}

/// A run of which nothing is shown.
pub(super) fn quietly(arguments: &RunArguments) -> Result<RunOutcome, Failure> {
    let Planned { plan, request, .. } = planned::read(&arguments.plan)?;
    let interrupted = stop_on_signals();
    let watch = Watch { interrupted: &interrupted, progress: &|_| {} };
    Ok(mild_ledger_records::run_and_draw(&plan, &request, watch, &drawn)?)
}

/// How each cell of one row comes about.
fn explain(key: &str, json: bool, Planned { plan, request, now }: &Planned) -> Result<Ending, Failure> {
    let interrupted = stop_on_signals();
    let bar = Progress::new();
    let progress = |read| bar.show(read);
    let watch = Watch { interrupted: &interrupted, progress: &progress };
    let found = mild_ledger_records::explain(plan, request, key, watch);
    bar.finish();
    let found = found?;
    if let (Some(now), Some(as_of)) = (now, found.as_of) {
        note(&format!("as of {as_of}, today being {} in {}", now.at.date(), now.zone));
    }
    let text =
        if json { format!("{}\n", json::explained(&found)) } else { terminal::explained(&found, width()) };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}

/// What a strict run may not have.
fn missed(outcome: &RunOutcome) -> Option<String> {
    let one_or =
        |number: u64, one: &str, more: &str| format!("{number} {}", if number == 1 { one } else { more });
    let rows = outcome.rows.set_aside;
    let cells = outcome.unreadable_cells;
    let rows = (rows > 0).then(|| one_or(rows, "row was set aside", "rows were set aside"));
    let cells = (cells > 0)
        .then(|| one_or(cells, "cell was left empty as unreadable", "cells were left empty as unreadable"));
    let said: Vec<String> = rows.into_iter().chain(cells).collect();
    (!said.is_empty()).then(|| said.join(" and "))
}
