//! `mild verify RECEIPT`.

use super::progress::stop_on_signals;
use crate::arguments::VerifyArguments;
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use mild_ledger_records::{Watch, run_again};
use mild_ledger_report::{drawn, json, terminal};

pub(crate) fn verify(arguments: &VerifyArguments) -> Result<Ending, Failure> {
    let found = mild_ledger_records::verify(&arguments.receipt)?;
    let again = match arguments.again {
        true => {
            let interrupted = stop_on_signals();
            let watch = Watch { interrupted: &interrupted, progress: &|_| {} };
            Some(run_again(&arguments.receipt, &arguments.records, watch, &drawn)?)
        }
        false => None,
    };
    to_standard_output(&match arguments.json {
        true => format!("{}\n", json::verified(&found, again.as_deref())),
        false => terminal::verified(&found, again.as_deref(), width()),
    })?;
    let differs = again.iter().flatten().any(|run| !run.differing().is_empty());
    Ok(if found.agrees() && !differs { Ending::Done } else { Ending::CheckMissed })
}
