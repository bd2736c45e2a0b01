//! The kinds of reports, one file a kind.

mod aging;

#[cfg(test)]
pub(crate) use aging::REPORT;
pub use aging::{AgingGroup, AgingReport, ReportProof, RowsApart};
pub(crate) use aging::{AgingTotals, BoundReport, PlannedReport, read_report};
