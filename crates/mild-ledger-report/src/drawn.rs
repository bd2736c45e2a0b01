//! The report of a run in the form that its file promises.

use crate::{html, markdown, workbook};
use mild_ledger_records::{DocumentFormat, RunOutcome};
use std::io;

/// The report of a run that people get, for [`mild_ledger_records::run_and_draw`].
///
/// # Errors
/// Where a workbook cannot hold it.
pub fn drawn(outcome: &RunOutcome, format: DocumentFormat) -> io::Result<Vec<u8>> {
    match format {
        DocumentFormat::Markdown => Ok(markdown::run(outcome).into_bytes()),
        DocumentFormat::Workbook => workbook::run(outcome),
        _ => Ok(html::run(outcome).into_bytes()),
    }
}
