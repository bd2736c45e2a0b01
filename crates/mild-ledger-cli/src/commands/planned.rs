//! A plan with what the arguments say of it.

use crate::arguments::PlanArguments;
use crate::clock::{self, Now};
use crate::dates::{meant, read_zone};
use crate::ending::Failure;
use mild_ledger_records::{AsOf, Plan, RunRequest};

/// A plan, what is asked of it, and the time that it is, where that is asked for.
pub(super) struct Planned {
    pub(super) plan: Plan,
    pub(super) request: RunRequest,
    pub(super) now: Option<Now>,
}

/// Reads the plan of some arguments.
pub(super) fn read(arguments: &PlanArguments) -> Result<Planned, Failure> {
    let as_of = match &arguments.as_of {
        Some(text) => Some(text.parse::<AsOf>().map_err(|error| Failure::Argument {
            name: "--as-of",
            error,
            help: meant(text),
        })?),
        None => None,
    };
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
