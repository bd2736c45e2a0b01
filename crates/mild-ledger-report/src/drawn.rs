//! The report of a run in the form that its file promises.

use crate::document::{self, Block, FileNames, RunDetail};
use crate::picture::png;
use crate::picture::sheet::sheet;
use crate::{html, markdown, workbook};
use mild_ledger_records::{DocumentFormat, RunOutcome};
use std::io;

/// The report of a run that people get, for [`mild_ledger_records::run_and_draw`].
///
/// # Errors
/// Where a workbook cannot hold it, and where a picture is too large, or its format was not built in.
pub fn drawn(outcome: &RunOutcome, format: DocumentFormat) -> io::Result<Vec<u8>> {
    match format {
        DocumentFormat::Markdown => Ok(markdown::run(outcome).into_bytes()),
        DocumentFormat::Workbook => workbook::run(outcome),
        DocumentFormat::Svg => Ok(charts(outcome).into_bytes()),
        DocumentFormat::Png => png::of_svg(&charts(outcome)).map_err(io::Error::other),
        _ => Ok(html::run(outcome).into_bytes()),
    }
}

/// All charts of a run as one picture.
fn charts(outcome: &RunOutcome) -> String {
    let document = document::run(outcome, FileNames::OfThePlan, RunDetail::Full);
    let charts: Vec<_> = document
        .blocks
        .iter()
        .filter_map(|block| if let Block::Chart(chart) = block { Some(chart) } else { None })
        .collect();
    let records = &outcome.records;
    let below = match outcome.as_of {
        Some(as_of) => format!("as of {}, from {records}", document.writer.date(as_of)),
        None => format!("from {records}"),
    };
    sheet(&outcome.title, &[below], &charts, &document.writer)
}
