//! The report of a run in the form that its file promises.

use crate::{html, markdown};
use mild_ledger_records::{DocumentFormat, RunOutcome};

/// The report of a run that people get, for [`mild_ledger_records::run_and_draw`].
#[must_use]
pub fn drawn(outcome: &RunOutcome, format: DocumentFormat) -> String {
    match format {
        DocumentFormat::Markdown => markdown::run(outcome),
        _ => html::run(outcome),
    }
}
