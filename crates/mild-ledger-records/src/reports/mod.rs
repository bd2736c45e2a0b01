//! The kinds of reports, one file a kind.

mod aging;

pub(crate) use aging::{AgingTotals, BoundReport, PlannedReport, read_report};
pub use aging::{AgingGroup, AgingReport, ReportProof, RowsApart};
