//! Record files in and out in columns, the plan file, and running a plan.
//!
//! A [`Plan`] says which records to read, which columns are dates and amounts, which columns to add, what to
//! report and where to write. [`run()`] does it: every row and every amount of the input is accounted for, and
//! the outputs appear all or not at all.
//!
//! ```no_run
//! use mild_ledger_records::{ExistingFiles, Plan, RunRequest, Watch, run};
//! use std::path::Path;
//! use std::sync::atomic::AtomicBool;
//!
//! let plan = Plan::read(Path::new("receivables.toml"))?;
//! let request = RunRequest {
//!     as_of: Some("2026-09-30".parse()?),
//!     today: "2026-10-02".parse()?,
//!     records: None,
//!     existing: ExistingFiles::Keep,
//! };
//! let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_, _| {} };
//! let outcome = run(&plan, &request, watch)?;
//! println!("{} of {} rows written", outcome.rows.written, outcome.rows.read);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod calendars;
mod csv;
mod error;
mod files;
mod plan;
mod run;
mod sorting;
mod zone;

pub use calendars::{CalendarRequest, CalendarYears, open_calendar, to_ics};
pub use error::RecordsError;
pub use files::{ExistingFiles, write_new_file};
pub use plan::{AsOf, Plan, PlanMistake, PlanMistakes};
pub use run::{
    AgingGroup, AgingReport, AmountProof, ColumnDates, ColumnFigures, ExceptionGroup, ReadBackState,
    ReportProof, RowCounts, RowsApart, RunOutcome, RunRequest, Watch, WrittenFile, run,
};
pub use zone::{Zone, ZoneError};
