//! `mild check PLAN`.

use super::planned::{self, Planned};
use super::progress::stop_on_signals;
use crate::arguments::CheckArguments;
use crate::ending::{Ending, Failure};
use crate::output::{note, to_standard_output};
use crate::terminal::width;
use mild_ledger_records::Watch;
use mild_ledger_report::{json, terminal};

pub(crate) fn check(arguments: &CheckArguments) -> Result<Ending, Failure> {
    let Planned { plan, request, now } = planned::read(&arguments.plan)?;
    let interrupted = stop_on_signals();
    let watch = Watch { interrupted: &interrupted, progress: &|_| {} };
    let found = mild_ledger_records::check(&plan, &request, watch)?;
    if let (Some(now), Some(as_of)) = (&now, found.as_of) {
        note(&format!("as of {as_of}, today being {} in {}", now.at.date(), now.zone));
    }
    let text =
        if arguments.json { format!("{}\n", json::check(&found)) } else { terminal::check(&found, width()) };
    to_standard_output(&text)?;
    Ok(Ending::Done)
}
