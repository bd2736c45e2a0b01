//! `mild verify RECEIPT`.

use crate::arguments::VerifyArguments;
use crate::ending::{Ending, Failure};
use crate::output::to_standard_output;
use crate::terminal::width;
use mild_ledger_report::{json, terminal};

pub(crate) fn verify(arguments: &VerifyArguments) -> Result<Ending, Failure> {
    let found = mild_ledger_records::verify(&arguments.receipt)?;
    to_standard_output(&match arguments.json {
        true => format!("{}\n", json::verified(&found)),
        false => terminal::verified(&found, width()),
    })?;
    Ok(if found.differing().is_empty() { Ending::Done } else { Ending::CheckMissed })
}
