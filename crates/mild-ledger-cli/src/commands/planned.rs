//! A plan with what the arguments say of it.

use crate::arguments::PlanArguments;
use crate::clock::{self, Now};
use crate::dates::{meant, read_zone};
use crate::ending::Failure;
use crate::output::note;
use mild_ledger_records::{AsOf, Plan, RunRequest};
use std::path::Path;

/// A plan, the request, and the time now, where that is needed.
pub(super) struct Planned {
    pub(super) plan: Plan,
    pub(super) request: RunRequest,
    pub(super) now: Option<Now>,
}

/// An error for a file of records in place of a plan.
fn refuse_records(plan: &Path) -> Result<(), Failure> {
    let ending = plan.extension().map(|ending| ending.to_string_lossy().to_lowercase()).unwrap_or_default();
    let holds = match ending.as_str() {
        "csv" | "tsv" | "txt" => "a text file of records",
        "xlsx" | "ods" | "xls" => "a workbook",
        "parquet" | "jsonl" | "ndjson" | "sqlite" | "sqlite3" | "db" => "a file of records",
        _ => return Ok(()),
    };
    let name = plan.display().to_string();
    let name = name.escape_debug();
    Err(Failure::Request {
        what: format!("{name} is {holds}, not a plan"),
        help: format!("mild look {name} shows what it holds, mild look {name} --plan writes a plan for it"),
    })
}

/// Reads the plan of some arguments.
pub(super) fn read(arguments: &PlanArguments) -> Result<Planned, Failure> {
    let as_of = arguments.as_of.as_deref().map(read_as_of).transpose()?;
    refuse_records(&arguments.plan)?;
    let plan = Plan::read(&arguments.plan)?;
    let zone = read_zone(arguments.zone.as_deref())?;
    let mut request = RunRequest::new();
    if let Some(as_of) = as_of {
        request = request.with_as_of(as_of);
    }
    for records in &arguments.records {
        request = request.with_records(records);
    }
    let now: Option<Now> = plan.needs_clock(&request).then(|| clock::now(zone.as_ref())).transpose()?;
    if let Some(now) = &now {
        request = request.with_now(now.at);
    }
    Ok(Planned { plan, request, now })
}

/// The as-of date of the arguments.
pub(super) fn read_as_of(text: &str) -> Result<AsOf, Failure> {
    text.parse().map_err(|error| Failure::Argument { name: "--as-of", error, help: meant(text) })
}

/// The request of a run of a plan that was made of the arguments.
pub(super) fn request_as_of(
    plan: &Plan,
    as_of: Option<AsOf>,
    zone: Option<&str>,
) -> Result<RunRequest, Failure> {
    let mut request = RunRequest::new();
    if let Some(as_of) = as_of {
        request = request.with_as_of(as_of);
    } else if plan.uses_as_of() {
        return Err(Failure::Request {
            what: "the figures are seen from a date, and none is assumed".to_owned(),
            help: "--as-of 2026-09-30, --as-of today, --as-of \"end of last month\"".to_owned(),
        });
    }
    if plan.needs_clock(&request) {
        let zone = read_zone(zone)?;
        let now = clock::now(zone.as_ref())?;
        note(&format!("today is {} in {}", now.at.date(), now.zone));
        request = request.with_now(now.at);
    }
    Ok(request)
}

/// The file of records as a plan in another place calls it.
pub(super) fn seen_from(plan: &Path, file: &Path) -> Result<String, Failure> {
    let folder = |path: &Path| path.parent().map(Path::to_owned).unwrap_or_default();
    if folder(plan) == folder(file) {
        let name = file.file_name().unwrap_or_default();
        return Ok(name.to_string_lossy().into_owned());
    }
    if folder(plan).as_os_str().is_empty() {
        return Ok(file.display().to_string());
    }
    Ok(file.canonicalize()?.display().to_string())
}
