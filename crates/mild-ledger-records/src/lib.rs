//! Record files in and out in columns, the plan file, and running a plan.
//!
//! A [`Plan`] says which records to read, which columns are dates and amounts, which columns to add, what to
//! report and where to write. [`run()`] does it: every row and every amount of the input is accounted for, and
//! the outputs appear all or not at all.
//!
//! ```no_run
//! use mild_ledger_records::{Plan, RunRequest, Watch, run};
//! use std::path::Path;
//! use std::sync::atomic::AtomicBool;
//!
//! let plan = Plan::read(Path::new("receivables.toml"))?;
//! let request = RunRequest::new().with_as_of("2026-09-30".parse()?);
//! let watch = Watch { interrupted: &AtomicBool::new(false), progress: &|_| {} };
//! let outcome = run(&plan, &request, watch)?;
//! println!("{} of {} rows written", outcome.rows.written, outcome.rows.read);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod calendars;
mod columns;
mod error;
mod files;
mod handover;
mod join;
mod keys;
mod lines;
mod look;
mod mistakes;
mod plan;
mod reports;
mod run;
mod sink;
mod sorting;
mod source;
mod stored_bytes;
mod table;
mod toml_text;
mod typing;
mod widened;
mod written;
mod zones;

pub use calendars::{CalendarRequest, EventTime, OpenedCalendar, open_calendar, to_ics};
pub use columns::{ColumnLine, ConditionLine, CountedDays, GroupLine, LeadTo};
pub use error::RecordsError;
pub use files::{
    ExistingFiles, FileRole, FileState, RemoteFile, RemoteFiles, Verified, VerifiedFile, VerifiedRun, verify,
    write_whole_file,
};
pub use lines::{UsedAs, UsedColumn};
pub use look::{
    AmountFormat, BrokenRows, Clarity, Distinct, Holding, LineCalendar, LinesPlan, Look, LookPart,
    LookedAmounts, LookedColumn, LookedDates, LookedPattern, OtherNotation, PlanParts, RowsSeen, TextsKept,
    TotalEvidence, TotalLine, look, look_at_part,
};
pub use mistakes::{Expected, PlanMistake, PlanMistakes, nearest_word, nearest_words};
pub use plan::{AsOf, DocumentFormat, Plan};
pub use reports::{
    Leads, ProofAgainst, ProofLine, ProofPart, ProofValue, Report, ReportCell, ReportDetail, ReportRows,
    ReportTable, RowBehind, RowOrder, RowsBehind, SumRow, SumRowOf, TableRank,
};
pub use run::{
    AddedColumn, AgainState, AmountProof, CellRead, CellWorking, CheckedColumn, ColumnDates, ColumnFigures,
    ComparedColumns, ComparedRow, ControlTotal, DrawReport, EndRow, ExceptionGroup, FileAgain, Heard,
    HeldRows, JoinAccount, JoinedFile, PartFile, PartJob, PartRows, PartWorker, PartedEnd, PartedRun,
    PlanCheck, ReadBackState, ReadSoFar, RowCounts, RowWorking, RowsExplained, RunAgain, RunFile, RunOutcome,
    RunRequest, Sample, SampledRow, UsedCalendar, Watch, check, explain, run, run_again, run_and_draw,
};
pub use source::{Piece, is_decoding};
pub use table::Presentation;
pub use toml_text::{plan_key, quoted};
pub use widened::{NewColumns, OtherParts, WorkbookToWiden};
pub use zones::{Zone, ZoneError};

/// The page of the package, whose example runs as those of the documentation do.
#[cfg(doctest)]
#[doc = include_str!("../README.md")]
struct PackagePage;
